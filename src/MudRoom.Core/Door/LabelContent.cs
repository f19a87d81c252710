using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>What stands on a label: words, and the codes below them.</summary>
/// <param name="Item">Name of the item.</param>
/// <param name="Quantity">With its unit.</param>
/// <param name="Batch">Own batch, or null.</param>
/// <param name="GoodUntil">Ruling date, or null.</param>
public sealed record LabelLine(string Item, string Quantity, string? Batch, string? GoodUntil);

/// <summary>One element of an element string.</summary>
public sealed record LabelElement(string Ai, string Value);

/// <summary>All of a label.</summary>
/// <param name="From">Name of the site.</param>
/// <param name="Sscc">Of a unit; null for a pack's label.</param>
/// <param name="Code">Element string of what is in it; empty where it has none.</param>
/// <param name="Lines">What stands on it.</param>
/// <param name="Banner">What has to be seen first: where the goods go, that they are held; null for nothing.</param>
/// <param name="PackageType">UN/ECE Recommendation 21 code; empty when nobody has said.</param>
public sealed record LabelContent(
    string From,
    string? Sscc,
    IReadOnlyList<LabelElement> Code,
    IReadOnlyList<LabelLine> Lines,
    string? Banner = null,
    string PackageType = ""
);

/// <summary>Codes on labels.</summary>
public static class LabelCodes
{
    /// <summary>
    /// What a unit of one item holds, as GS1 tells it beside the SSCC: (02) the trade item contained and (37) how many, by the largest pack
    /// with a GTIN
    /// that divides the quantity; empty when none does (GS1 General Specifications, section 3: (02) stands only with (37)).
    /// </summary>
    public static IReadOnlyList<LabelElement> Contained(Item item, decimal quantity)
    {
        var pack = item
            .PackLevels.Where(p =>
                p is { IsUnit: false, Gtin: not null } && quantity % p.Content(1) == 0 && quantity / p.Content(1) < 100_000_000
            )
            .OrderByDescending(p => p.Content(1))
            .FirstOrDefault();
        return pack is null ? [] : [new("02", pack.Gtin!), new("37", $"{(long)(quantity / pack.Content(1))}")];
    }

    /// <summary>What stands on a pack: its GTIN, and the own batch where it has one.</summary>
    public static IReadOnlyList<LabelElement> OfPack(PackLevel pack, string? batch) =>
        pack.Gtin is null ? []
        : batch is null ? [new("01", pack.Gtin)]
        : [new("01", pack.Gtin), new("10", batch)];

    /// <summary>Whom each pack of a count is for: as many packs as fill what is still waited for, the last perhaps in part; the others are
    /// for nobody.</summary>
    /// <param name="waited">Who waits, and for how much in base units, in the order in which they are served.</param>
    /// <param name="content">Base units in a pack.</param>
    /// <param name="packs">How many packs there are.</param>
    public static IReadOnlyList<string?> ForWhom(IReadOnlyList<(string Who, decimal Quantity)> waited, decimal content, int packs)
    {
        var whom = waited
            .SelectMany(w => Enumerable.Repeat(w.Who, (int)Math.Min(packs, Math.Ceiling(w.Quantity / content))))
            .Take(packs)
            .ToList<string?>();
        return [.. whom, .. Enumerable.Repeat<string?>(null, packs - whom.Count)];
    }

    /// <summary>What has to be seen first on a label.</summary>
    /// <param name="standing">Of the goods.</param>
    /// <param name="why">Why they are held, or null.</param>
    /// <param name="waitingFor">Who waits for them, or null.</param>
    public static string? Banner(StandingDefinition standing, string? why, string? waitingFor) =>
        standing switch
        {
            { Kind: StandingKind.Usable, IsBuiltIn: true } => waitingFor is null ? null : $"FOR {waitingFor}",
            { Kind: StandingKind.Held } when why is not null => $"{standing.Word.ToUpperInvariant()}: {why}",
            _ => standing.Word.ToUpperInvariant(),
        };
}
