using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>Goods of a recall at one place, as the book has them.</summary>
/// <param name="LotId">Of this lot.</param>
/// <param name="UnitId">On this unit; null for loose ones.</param>
public sealed record RecallSpot(int LotId, int BinId, int? UnitId, string? Serial);

/// <summary>Somebody looked in a bin for what is missing, and it was not there.</summary>
public sealed record LookedIn(int BinId, string By, DateTimeOffset At);

/// <summary>What was missing is there after all.</summary>
public sealed record FoundIn(int BinId, string By, DateTimeOffset At);

/// <summary>Goods of a recall that were not where the book has them.</summary>
/// <param name="Id">Within the recall, from 1.</param>
/// <param name="Spot">Where they should be.</param>
/// <param name="Quantity">In base units.</param>
/// <param name="Looked">Where they were looked for since.</param>
/// <param name="Found">Where they were found; null while they are missing.</param>
public sealed record MissingGoods(
    int Id,
    RecallSpot Spot,
    decimal Quantity,
    string By,
    DateTimeOffset At,
    IReadOnlyList<LookedIn> Looked,
    FoundIn? Found = null
);

/// <summary>Goods of a recall that somebody has seen where the book has them.</summary>
public sealed record SeenGoods(RecallSpot Spot, string By, DateTimeOffset At);

/// <summary>Somebody who got goods of a recall was told.</summary>
/// <param name="Reference">The order or job that they went out for.</param>
/// <param name="How">How they were told, and what they said.</param>
public sealed record ToldOf(string Reference, string By, DateTimeOffset At, string How);

/// <summary>
/// Everything of some goods is held wherever it is, and so is what still comes of it, until the recall is ended. A drill holds nothing, and
/// says how much was seen in what time.
/// </summary>
public sealed class Recall
{
    /// <summary>All should be named within this: common practice, no source.</summary>
    public static TimeSpan Within { get; } = TimeSpan.FromHours(4);

    public int Id { get; init; }

    /// <summary>Unique in the house: it is about all of it.</summary>
    public required string Number { get; init; }

    /// <summary>The site where it was begun.</summary>
    public required int SiteId { get; init; }
    public required RecallScope Scope { get; init; }

    /// <summary>The same in words, as they were when it was begun.</summary>
    public required string Says { get; init; }
    public required string Why { get; init; }

    /// <summary>True for one that is done for practice.</summary>
    public required bool IsDrill { get; init; }

    /// <summary>What its holds want before they are lifted.</summary>
    public IReadOnlyList<Wanted> Wants { get; init; } = [];
    public required DateTimeOffset Since { get; init; }
    public required string By { get; init; }
    public IReadOnlyList<MissingGoods> Missing { get; private set; } = [];
    public IReadOnlyList<SeenGoods> Seen { get; private set; } = [];
    public IReadOnlyList<ToldOf> Told { get; private set; } = [];
    public DateTimeOffset? EndedAt { get; private set; }
    public string? EndedBy { get; private set; }

    /// <summary>What came of it, in a sentence.</summary>
    public string? Ending { get; private set; }

    /// <summary>True until it is ended.</summary>
    public bool IsOpen => EndedAt is null;

    /// <summary>True where what comes of its goods is held.</summary>
    public bool Holds => IsOpen && !IsDrill;

    /// <summary>What is missing now.</summary>
    public IEnumerable<MissingGoods> StillMissing => Missing.Where(m => m.Found is null);

    /// <summary>Goods were not where the book has them.</summary>
    /// <param name="some">How many of them, in base units; null for all that nobody misses yet.</param>
    /// <param name="there">What the book has there.</param>
    public Outcome<MissingGoods> NotThere(RecallSpot spot, decimal? some, decimal there, Hand by, DateTimeOffset now, SiteTime local)
    {
        if (Over(local) is { } over)
            return over;
        var left = there - StillMissing.Where(m => m.Spot == spot).Sum(m => m.Quantity);
        var quantity = some ?? left;
        if (quantity <= 0 || quantity > left)
            return new Refusal(
                HouseRefusals.MoreThanThere,
                $"By the book {Quantities.Show(left)} are there that nobody misses; {Quantities.Show(quantity)} cannot be missing.",
                "Look at the number again."
            );
        var missing = new MissingGoods(Missing.Count + 1, spot, quantity, by.Name, now, [new LookedIn(spot.BinId, by.Name, now)]);
        (Missing, Seen) = ([.. Missing, missing], [.. Seen.Where(s => s.Spot != spot)]);
        return missing;
    }

    /// <summary>Somebody looked for it in a bin, in vain. Looked twice, the last time counts.</summary>
    public Outcome<MissingGoods> NotIn(int id, int binId, Hand by, DateTimeOffset now, SiteTime local) =>
        Change(id, local, m => m with { Looked = [.. m.Looked.Where(l => l.BinId != binId), new LookedIn(binId, by.Name, now)] });

    /// <summary>What was missing is found.</summary>
    public Outcome<MissingGoods> Find(int id, int binId, Hand by, DateTimeOffset now, SiteTime local) =>
        Change(id, local, m => m with { Found = new FoundIn(binId, by.Name, now) });

    Outcome<MissingGoods> Change(int id, SiteTime local, Func<MissingGoods, MissingGoods> to)
    {
        if (Over(local) is { } over)
            return over;
        if (Missing.FirstOrDefault(m => m.Id == id) is not { } there)
            return new Refusal(CageRefusals.NotMissing, $"{Number} misses nothing of that number.", "Look at its list again.");
        if (there.Found is { } found)
            return new Refusal(
                CageRefusals.NotMissing,
                $"{found.By} found that at {local(found.At):yyyy-MM-dd HH:mm}.",
                "There is nothing to do."
            );
        var changed = to(there);
        Missing = [.. Missing.Select(m => m == there ? changed : m)];
        return changed;
    }

    /// <summary>Somebody has seen goods where the book has them. Seen twice, the first time counts.</summary>
    public Refusal? See(RecallSpot spot, Hand by, DateTimeOffset now, SiteTime local)
    {
        if (Over(local) is { } over)
            return over;
        if (Seen.All(s => s.Spot != spot))
            Seen = [.. Seen, new SeenGoods(spot, by.Name, now)];
        return null;
    }

    /// <summary>True for who got goods and is to be told: a customer or a job that still has some.</summary>
    /// <param name="quantity">What they have, in base units: less than nothing where more came back than went out.</param>
    public static bool MayBeTold(Account to, decimal quantity) => to is Account.Customer or Account.Job && quantity > 0;

    /// <summary>Who got goods of it was told. Told again, the last time counts.</summary>
    public void Tell(string reference, Hand by, DateTimeOffset now, string how) =>
        Told = [.. Told.Where(t => t.Reference != reference), new ToldOf(reference, by.Name, now, how)];

    /// <summary>Ends it: what comes from now on is not held by it. Refused while it holds or misses anything.</summary>
    /// <param name="finding">What was found by now; of a drill it is what came of it.</param>
    public Outcome<string> End(RecallFinding finding, string note, Hand by, DateTimeOffset now, SiteTime local)
    {
        if (Over(local) is { } over)
            return over;
        if (!IsDrill && finding.Missing > 0)
            return new Refusal(
                CageRefusals.RecallOpen,
                $"{Number} still misses {Quantities.Show(finding.Missing)}.",
                "Find it, or say what became of it."
            );
        if (!IsDrill && finding.Here > 0)
            return new Refusal(
                CageRefusals.RecallOpen,
                $"{Number} still holds {Quantities.Show(finding.Here)}.",
                "Lift its holds, or decide over them."
            );
        var took = now - Since;
        Ending = IsDrill
            ? $"Drill: {Quantities.Show(finding.Seen)} of {Quantities.Show(finding.Here + finding.Missing)} seen in {Span(took)}"
                + $"{(took <= Within ? "" : $", {Span(took - Within)} over the four hours")}. {note}"
            : note;
        (EndedAt, EndedBy) = (now, by.Name);
        return Ending;
    }

    /// <summary>"2 h 08", "41 min".</summary>
    public static string Span(TimeSpan time) =>
        time.TotalMinutes < 60 ? $"{(int)time.TotalMinutes} min" : $"{(int)time.TotalHours} h {time.Minutes:00}";

    Refusal? Over(SiteTime local) =>
        EndedAt is { } at
            ? new Refusal(CageRefusals.RecallEnded, $"{Number} was ended by {EndedBy} on {local(at):yyyy-MM-dd HH:mm}.", "Begin a new one.")
            : null;
}
