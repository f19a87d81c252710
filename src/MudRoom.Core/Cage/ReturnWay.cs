using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>The arrival that goods of a return come with.</summary>
/// <param name="IsHere">True once it has come to a door.</param>
/// <param name="At">When it came to the door, or is planned for, on the site's clock; null where nobody has said.</param>
public sealed record ReturnArrival(string Number, bool IsHere, DateTime? At);

/// <summary>A hold that binds goods of a return, or has bound them.</summary>
/// <param name="Quantity">What it holds still, in base units.</param>
/// <param name="Found">The finding of its goods, in words; null where there is none.</param>
/// <param name="ToBe">What is decided over them and has not happened yet: "to be scrapped"; null where nothing is.</param>
public sealed record ReturnPart(decimal Quantity, string? Found, string? ToBe);

/// <summary>An inspection of goods of a return.</summary>
/// <param name="Accepted">Its verdict; null where it is not signed yet.</param>
public sealed record ReturnLooked(string Number, bool? Accepted);

/// <summary>Goods of a return that are bound to it no more.</summary>
/// <param name="Where">"usable in P-01-1", "scrapped".</param>
public sealed record ReturnFreed(decimal Quantity, string Where);

/// <summary>All that is known of a line of a customer's return.</summary>
/// <param name="Announced">In base units, as all quantities here.</param>
/// <param name="Of">When it was announced.</param>
/// <param name="IsShut">True where no more of it is waited for.</param>
/// <param name="Promised">"credit promised".</param>
/// <param name="Note">What the office wants to be known of it.</param>
/// <param name="Told">When accounts were told of a finding, the last time; null where they were not.</param>
public sealed record ReturnLine(
    decimal Announced,
    DateOnly Of,
    decimal Counted,
    bool IsShut,
    string Unit,
    string Promised,
    IReadOnlyList<ReturnArrival> Arrivals,
    IReadOnlyList<ReturnLooked> Looked,
    IReadOnlyList<ReturnPart> Parts,
    DateTime? Told,
    IReadOnlyList<ReturnFreed> Freed,
    string? Note = null
);

/// <summary>The whole way of a customer's return: what is done of it, and what is still to come.</summary>
public static class ReturnWay
{
    /// <summary>Its stations in order, each with what is known there.</summary>
    public static IReadOnlyList<ChainLink> Of(ReturnLine line)
    {
        var open = line.Parts.Where(p => p.Quantity > 0).ToList();
        var notFound = open.Where(p => p.Found is null).Sum(p => p.Quantity);
        var found = line.Parts.Select(p => p.Found).OfType<string>().Distinct().ToList();
        var undecided = open.Where(p => p.ToBe is null).Sum(p => p.Quantity);
        var isHere = line.Counted > 0;
        var isAllHere = isHere && (line.IsShut || line.Counted >= line.Announced);
        string Many(decimal quantity) => $"{Quantities.Show(quantity)} {line.Unit}";
        return
        [
            new("announced", true, $"{Many(line.Announced)}, {line.Of:yyyy-MM-dd}{(line.Note is { } note ? $"; {note}" : "")}"),
            new("arrival", isHere || line.Arrivals.Any(a => a.IsHere), Arrived(line.Arrivals)),
            new(
                "counted",
                isAllHere,
                $"{Quantities.Show(line.Counted)} of {Many(line.Announced)}"
                    + (line.IsShut && line.Counted < line.Announced ? "; no more is waited for" : "")
            ),
            line.Looked.Count > 0
                ? new(
                    "inspection",
                    line.Looked.All(l => l.Accepted is not null),
                    string.Join(", ", line.Looked.Select(l => $"{l.Number} {Word(l.Accepted)}"))
                )
                : new("inspection", isHere, isHere ? "no plan speaks of it" : "where a plan speaks of it"),
            new(
                "finding",
                isHere && notFound == 0,
                string.Join("; ", notFound > 0 ? [.. found, $"{Many(notFound)} to be looked at"] : found) is { Length: > 0 } words
                    ? words
                    : "against the customer's reason"
            ),
            new(
                "accounts told",
                line.Told is not null && notFound == 0,
                line.Told is { } at ? $"{at:yyyy-MM-dd HH:mm}, {line.Promised}" : $"{line.Promised}: with the finding"
            ),
            new(
                "decision",
                isHere && undecided == 0,
                string.Join("; ", open.Where(p => p.ToBe is not null).Select(p => $"{Many(p.Quantity)} {p.ToBe}")) is { Length: > 0 } toBe
                        ? toBe
                    : undecided > 0 ? $"over {Many(undecided)}"
                    : isHere ? "over all that is here"
                    : "of a supervisor"
            ),
            new(
                "done",
                isAllHere && open.Count == 0,
                line.Freed.Count > 0
                    ? string.Join("; ", line.Freed.Select(f => $"{Many(f.Quantity)} {f.Where}"))
                    : "usable again, scrapped, repaired, or sent on"
            ),
        ];
    }

    static string Arrived(IReadOnlyList<ReturnArrival> arrivals) =>
        arrivals.Count == 0
            ? "on no arrival yet"
            : string.Join(
                ", ",
                arrivals.Select(a => $"{a.Number}{(a.IsHere ? "" : ", planned")}{(a.At is { } at ? $" {at:yyyy-MM-dd HH:mm}" : "")}")
            );

    static string Word(bool? accepted) =>
        accepted switch
        {
            null => "is not signed yet",
            true => "accepted",
            false => "rejected",
        };

    /// <summary>Goods that left, by where they went.</summary>
    /// <param name="to">An account outside the site.</param>
    public static string GoneWord(Account to) =>
        to switch
        {
            Account.Scrap => "scrapped",
            Account.Vendor => "returned to vendor",
            Account.Customer => "gone to a customer",
            Account.Job => "gone to a job",
            Account.Transit => "gone to another site",
            Account.Adjustment => "written off",
            Account.Bench => "used up at the bench",
            Account.Regraded => "regraded",
            _ => throw new ArgumentOutOfRangeException(nameof(to), to, null),
        };
}

/// <summary>What a customer's return waits for, the first of it.</summary>
public sealed record ReturnStage
{
    ReturnStage(string words) => Words = words;

    /// <summary>In words.</summary>
    public string Words { get; }

    public static ReturnStage Finding { get; } = new("An inspector says what the goods are");
    public static ReturnStage Decision { get; } = new("A supervisor decides what becomes of the goods");
    public static ReturnStage CarryingOut { get; } = new("What was decided has still to happen");
    public static ReturnStage Coming { get; } = new("The goods are not all here yet");
    public static ReturnStage Done { get; } = new("All of it is done");

    /// <summary>By what binds its goods.</summary>
    /// <param name="open">The holds that bind them now.</param>
    /// <param name="comes">True while more of it is waited for.</param>
    public static ReturnStage Of(IReadOnlyCollection<Hold> open, bool comes) =>
        open.Any(h => h.Found is null) ? Finding
        : open.Any(h => h.Decision is null) ? Decision
        : open.Count > 0 ? CarryingOut
        : comes ? Coming
        : Done;
}
