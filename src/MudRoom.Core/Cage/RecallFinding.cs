using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>Where goods of a recall are.</summary>
public enum RecallRoom
{
    /// <summary>At a door, counted and not yet brought away.</summary>
    Door,
    Bench,
    Cage,
    Shelf,

    /// <summary>On a truck in the aisle.</summary>
    Truck,
}

/// <summary>Goods of a recall at one place, as far as its sums ask.</summary>
/// <param name="Quantity">By the book, in base units.</param>
/// <param name="Missing">Of them, what was looked for and is not there.</param>
/// <param name="IsSeen">True where somebody has seen them there.</param>
/// <param name="IsReleased">True where the recall held them and does no more.</param>
public sealed record RecallPart(RecallRoom Room, decimal Quantity, decimal Missing, bool IsSeen, bool IsReleased = false);

/// <summary>Goods of a recall left the house, or came back into it.</summary>
/// <param name="Seq">Of its entry: their order.</param>
/// <param name="With">Where they went to, or came back from.</param>
/// <param name="Out">In base units; below 0 for what came back.</param>
/// <param name="Undoes">The entry that it undoes; null for none.</param>
public readonly record struct RecallCrossing(long Seq, int ItemId, Account With, decimal Out, long? Undoes);

/// <summary>What was found of a recall, as sums in base units that meet: all that came is held, released, missing, or gone.</summary>
/// <param name="Cage">In the cage.</param>
/// <param name="Elsewhere">Held where it is: at doors, at the bench, in bins, on trucks.</param>
/// <param name="Missing">Not where the book has it.</param>
/// <param name="Gone">It has left the house.</param>
/// <param name="Coming">Announced, and not here yet: beside the sum of what came.</param>
/// <param name="Released">It was held by it, and is here and free of it.</param>
/// <param name="Seen">Of what is held, what somebody has seen with their own eyes: all that is in the cage was brought there.</param>
public sealed record RecallFinding(
    decimal Cage,
    decimal Elsewhere,
    decimal Missing,
    decimal Gone,
    decimal Coming,
    decimal Seen,
    decimal Released
)
{
    /// <summary>What is in the house, was not missed and not released.</summary>
    public decimal Here => Cage + Elsewhere;

    /// <summary>All that ever came of it.</summary>
    public decimal Came => Here + Released + Missing + Gone;

    /// <summary>The sums of some places.</summary>
    /// <param name="gone">What has left, in base units.</param>
    /// <param name="coming">What is announced.</param>
    public static RecallFinding Of(IReadOnlyCollection<RecallPart> parts, decimal gone, decimal coming) =>
        new(
            parts.Where(p => !p.IsReleased && p.Room == RecallRoom.Cage).Sum(There),
            parts.Where(p => !p.IsReleased && p.Room != RecallRoom.Cage).Sum(There),
            parts.Sum(p => p.Missing),
            gone,
            coming,
            parts.Where(p => !p.IsReleased && (p.IsSeen || p.Room == RecallRoom.Cage)).Sum(There),
            parts.Where(p => p.IsReleased).Sum(There)
        );

    /// <summary>What of goods has left the house and is still out. Who sends back more than the book knows to be with them had it from
    /// elsewhere: that much came, and is not taken off what others got, before or since.</summary>
    /// <returns>In base units, 0 or more.</returns>
    public static decimal GoneOf(IReadOnlyCollection<RecallCrossing> crossings)
    {
        var bySeq = crossings.ToDictionary(c => c.Seq);
        var undone = crossings
            .Where(c => c.Undoes is { } seq && bySeq.TryGetValue(seq, out var first) && first.Out == -c.Out)
            .SelectMany(c => new[] { c.Seq, c.Undoes!.Value })
            .ToHashSet();
        return crossings
            .Where(c => !undone.Contains(c.Seq))
            .GroupBy(c => (c.ItemId, c.With))
            .Sum(g => g.OrderBy(c => c.Seq).Aggregate(0m, (isOut, c) => Math.Max(0, isOut + c.Out)));
    }

    static decimal There(RecallPart part) => part.Quantity - part.Missing;

    /// <summary>Entries by which goods are counted in and taken back: no way out of the house.</summary>
    public static IReadOnlyList<EntryKind> CountedIn { get; } =
    [EntryKind.Counted, EntryKind.TakenBack, EntryKind.OpeningStock, EntryKind.NotCounted];

    /// <summary>The room of a bin.</summary>
    public static RecallRoom RoomOf(BinFunction function) =>
        function switch
        {
            BinFunction.Staging => RecallRoom.Door,
            BinFunction.Bench => RecallRoom.Bench,
            BinFunction.Cage or BinFunction.Scrap => RecallRoom.Cage,
            BinFunction.Truck => RecallRoom.Truck,
            BinFunction.Pick or BinFunction.Reserve or BinFunction.Floor or BinFunction.Dispatch => RecallRoom.Shelf,
            _ => throw new ArgumentOutOfRangeException(nameof(function), function, null),
        };

    /// <summary>The finding, in a sentence.</summary>
    /// <param name="bare">A quantity as a number: "19".</param>
    /// <param name="words">The same with its unit: "19 boxes".</param>
    public string Sentence(Func<decimal, string> bare, Func<decimal, string> words)
    {
        if (Came == 0)
            return Coming > 0 ? $"Nothing of it is here yet; {words(Coming)} are announced" : "Nothing of it ever came";
        if (Missing > 0)
            return $"{words(Missing)} of {bare(Came)} {Is(Missing)} not found";
        return Here == 0 && Released > 0 ? $"Nothing of it is held any more: {words(Released)} are released"
            : Here == 0 ? $"All {words(Came)} have left the house"
            : Elsewhere == 0 ? $"All that is left, {words(Cage)}, is in the cage"
            : $"{words(Elsewhere)} of {bare(Came)} {Is(Elsewhere)} not in the cage yet";

        string Is(decimal quantity) => bare(quantity) == "1" ? "is" : "are";
    }
}

/// <summary>A place where missing goods may be.</summary>
/// <param name="Why">"beside it, the bay before", as the first thing that somebody who looks wants to know.</param>
/// <param name="Looked">Who looked there, and when; null where nobody has.</param>
public sealed record SearchPlace(int BinId, string Why, LookedIn? Looked);

/// <summary>Where to look for missing goods, the likeliest first: common practice, no source.</summary>
public static class SearchList
{
    const int Most = 12;

    /// <summary>Places in the order in which they are looked at: where it should be, its neighbours, where it was before (the latest
    /// first), and where else the item lies.</summary>
    /// <param name="before">Bins that these goods stood in or came through, the latest first.</param>
    /// <param name="sameItem">Bins where the item lies now.</param>
    public static IReadOnlyList<SearchPlace> For(
        MissingGoods missing,
        IReadOnlyDictionary<int, Bin> bins,
        IEnumerable<Bin> site,
        IEnumerable<int> before,
        IEnumerable<int> sameItem
    )
    {
        var home = bins[missing.Spot.BinId];
        var places = new (int Bin, string Why)[] { (home.Id, "it should be here") }
            .Concat(
                site.Where(b => b.Id != home.Id && IsBeside(b, home))
                    .OrderBy(b => Far(b, home))
                    .ThenBy(b => b.Id)
                    .Select(b => (b.Id, Beside(b, home)))
            )
            .Concat(before.Select(b => (b, "it was here before")))
            .Concat(sameItem.Select(b => (b, "the same item lies here")))
            .DistinctBy(p => p.Item1)
            .Where(p => bins.ContainsKey(p.Item1))
            .Take(Most);
        return [.. places.Select(p => new SearchPlace(p.Item1, p.Item2, missing.Looked.FirstOrDefault(l => l.BinId == p.Item1)))];
    }

    static bool IsBeside(Bin bin, Bin home) =>
        bin.Function == home.Function
        && bin.Aisle == home.Aisle
        && bin.Zone == home.Zone
        && home.Aisle.Length > 0
        && Far(bin, home) is > 0 and <= 1;

    static int Far(Bin bin, Bin home) => Math.Abs(bin.Bay - home.Bay) + Math.Abs(bin.Level - home.Level);

    static string Beside(Bin bin, Bin home) =>
        bin.Level > home.Level ? "just above it"
        : bin.Level < home.Level ? "just below it"
        : "beside it";
}
