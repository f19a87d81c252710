using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>A count as the receiver gives it.</summary>
/// <param name="Item">The item.</param>
/// <param name="Pack">The pack level counted.</param>
/// <param name="Packs">How many of them.</param>
/// <param name="BatchNumber">Own batch, or null to have one proposed.</param>
/// <param name="SourceBatchNumber">The vendor's batch.</param>
/// <param name="Production">Production date.</param>
/// <param name="BestBefore">Best before.</param>
/// <param name="Expiry">Expiry.</param>
/// <param name="Origin">ISO 3166 code.</param>
/// <param name="Serial">Of the one piece.</param>
/// <param name="Aside">Set when counted aside.</param>
/// <param name="Note">A sentence, forced by some reasons.</param>
/// <param name="ChosenPart">The order line part chosen by hand.</param>
/// <param name="OverAllowed">True when a supervisor lets all that is over pass.</param>
/// <param name="EarlyAllowed">True when the receiver has said that early goods are to be taken.</param>
public sealed record Count(
    Item Item,
    PackLevel Pack,
    decimal Packs,
    string? BatchNumber,
    string? SourceBatchNumber,
    GoodsDate? Production,
    DateOnly? BestBefore,
    DateOnly? Expiry,
    string? Origin,
    string? Serial,
    Aside? Aside,
    string? Note,
    int? ChosenPart,
    bool OverAllowed,
    bool EarlyAllowed
)
{
    /// <summary>Attributes of the source batch, read and checked, by name.</summary>
    public IReadOnlyDictionary<string, string> Attributes { get; init; } = new Dictionary<string, string>();

    /// <summary>True when the batch number is the one that was proposed with the scan: where other goods have it by now, the next one is
    /// meant.</summary>
    public bool BatchProposed { get; init; }

    /// <summary>Why it is counted aside, by the administrator's list; null where it is not.</summary>
    public AsideReason? Reason { get; init; }

    /// <summary>Pictures that come with it.</summary>
    public int Pictures { get; init; }

    /// <summary>Kilograms that were weighed, for goods with catch weight.</summary>
    public decimal? Weight { get; init; }

    /// <summary>True where nobody who counts may know what is expected: what is over or early passes, and is looked at when the tally is
    /// closed.</summary>
    public bool Blind { get; init; }

    /// <summary>True when the receiver was asked once for what is recommended, and left it blank.</summary>
    public bool BlankAllowed { get; init; }

    /// <summary>So many packs, of which nothing more is known.</summary>
    public static Count Of(Item item, PackLevel pack, decimal packs) =>
        new(item, pack, packs, null, null, null, null, null, null, null, null, null, null, false, false);

    /// <summary>In base units.</summary>
    public decimal Quantity => Pack.Content(Packs);
}

/// <summary>What a count comes to once every rule has agreed.</summary>
/// <param name="Choice">The order parts that take it.</param>
/// <param name="Dates">The dates, completed.</param>
/// <param name="Origin">The country, if known.</param>
/// <param name="Standing">The standing the goods get.</param>
/// <param name="Over">What is over and passed, in base units.</param>
public sealed record CountDecision(Choice Choice, DatesOfGoods Dates, Country? Origin, Standing Standing, decimal Over);
