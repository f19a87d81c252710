using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Demo;

/// <summary>Stock that was there when the book began.</summary>
public sealed record OpeningStock(string Item, string Bin, decimal Quantity, string? SourceBatch, DateOnly? GoodUntil);

/// <summary>Something a person of the demo did, at a wall clock time of the site.</summary>
public abstract record Step(DateTimeOffset At, string Person)
{
    /// <summary>An arrival was made from orders; <paramref name="Key"/> names it in later steps.</summary>
    public sealed record Arrive(
        DateTimeOffset At,
        string Person,
        string Key,
        string Number,
        IReadOnlyList<string> Orders,
        DateTimeOffset Planned,
        string Vehicle,
        string? Container,
        string? Plate,
        string? Haulier,
        int? Door,
        DateTimeOffset? Eta,
        string? Crew = null,
        int? Units = null,
        string? Seal = null,
        ContainerPapers? Papers = null,
        bool Unplanned = false
    ) : Step(At, Person);

    /// <summary>Somebody said when it is thought to come.</summary>
    public sealed record Expect(DateTimeOffset At, string Person, string Key, DateTimeOffset Eta, string Source) : Step(At, Person);

    /// <summary>All usable goods of an arrival left for customers straight from the receiving place.</summary>
    public sealed record ShipOut(DateTimeOffset At, string Person, string Key) : Step(At, Person);

    /// <summary>The vehicle, counted in, is empty and out of the gate.</summary>
    public sealed record DriveOff(DateTimeOffset At, string Person, string Key) : Step(At, Person);

    /// <summary>Somebody called about an order and was promised something.</summary>
    public sealed record Promise(DateTimeOffset At, string Person, string Order, string With, string Text, DateOnly? For)
        : Step(At, Person);

    public sealed record LetIn(DateTimeOffset At, string Person, string Key, string Spot) : Step(At, Person);

    public sealed record AtDoor(DateTimeOffset At, string Person, string Key, int Door) : Step(At, Person);

    public sealed record Count(
        DateTimeOffset At,
        string Person,
        string Key,
        string Item,
        string Pack,
        decimal Packs,
        string? SourceBatch = null,
        string? Production = null,
        string? BestBefore = null,
        string? Origin = null,
        string? Serial = null,
        Aside? Aside = null,
        string? Note = null
    ) : Step(At, Person);

    /// <summary>The tally was closed; what is short is still to come, or never comes.</summary>
    public sealed record Close(DateTimeOffset At, string Person, string Key, bool NeverComing = false) : Step(At, Person);

    /// <summary>What an arrival brought broken was thrown away.</summary>
    public sealed record Scrap(DateTimeOffset At, string Person, string Key) : Step(At, Person);

    /// <summary>Somebody asks that what stands most of an item is inspected.</summary>
    public sealed record Ask(DateTimeOffset At, string Person, string Item, string Why) : Step(At, Person);

    /// <summary>Usable goods went out to a vendor for a treatment.</summary>
    public sealed record Treat(DateTimeOffset At, string Person, string Item, decimal Quantity, string Vendor, string Order, string What)
        : Step(At, Person);

    /// <summary>A sheet was filled up to a piece, with these pieces bad in a characteristic; signed when <paramref name="Sign"/>.</summary>
    public sealed record Inspect(
        DateTimeOffset At,
        string Person,
        string Key,
        string Item,
        int UpToPiece,
        IReadOnlyDictionary<int, string> Bad,
        bool Sign
    ) : Step(At, Person);

    /// <summary>A whole sheet was filled and signed.</summary>
    /// <param name="Values">What was measured, by characteristic, piece by piece; what is looked at is good but for <paramref
    /// name="Bad"/>.</param>
    /// <param name="Bad">By piece, the characteristic that looked bad.</param>
    public sealed record Sheet(
        DateTimeOffset At,
        string Person,
        string Item,
        IReadOnlyDictionary<string, IReadOnlyList<decimal>> Values,
        IReadOnlyDictionary<int, string> Bad
    ) : Step(At, Person);

    /// <summary>A driver took so many tasks one after another and put them where they were proposed.</summary>
    public sealed record PutAway(DateTimeOffset At, string Person, int Tasks) : Step(At, Person);

    /// <summary>A driver took a task and is on the way.</summary>
    public sealed record Take(DateTimeOffset At, string Person, string Item) : Step(At, Person);

    /// <summary>Goods of a source batch are called back.</summary>
    public sealed record Recall(DateTimeOffset At, string Person, string Item, string SourceBatch, string Why) : Step(At, Person);

    /// <summary>Goods that a customer sends back and nobody announced were aboard.</summary>
    public sealed record ReturnAtDoor(
        DateTimeOffset At,
        string Person,
        string Key,
        string Customer,
        string Item,
        decimal Quantity,
        ReturnTerms Terms
    ) : Step(At, Person);

    /// <summary>A driver brought goods of an item to the cage or the bench, from so many places.</summary>
    public sealed record Fetch(DateTimeOffset At, string Person, string Item, int Tasks) : Step(At, Person);

    /// <summary>Recalled goods were not where the book has them.</summary>
    public sealed record NotThere(DateTimeOffset At, string Person, string Item, string Bin) : Step(At, Person);

    public sealed record Issue(DateTimeOffset At, string Person, string Item, decimal Quantity, string Reference) : Step(At, Person);
}
