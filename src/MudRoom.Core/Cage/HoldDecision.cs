using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>What becomes of nonconforming goods. Stored.</summary>
public enum DecisionKind
{
    ReleaseUnderConcession = 0,
    ReturnToVendor = 1,
    Scrap = 2,

    /// <summary>Made to conform, and looked at again.</summary>
    Rework = 3,

    /// <summary>Made fit for use, and looked at again.</summary>
    Repair = 4,

    /// <summary>What a customer sent back is good, and goes among the other goods.</summary>
    UsableAgain = 5,

    /// <summary>What a customer sent back goes to them again.</summary>
    BackToCustomer = 6,

    /// <summary>From now on of another item, whose requirements they meet (ISO 9000:2015, 3.12.4 regrade).</summary>
    Regrade = 7,
}

/// <summary>On whose word nonconforming goods are used (ISO 9000:2015, 3.12.5 concession: for a quantity or a time, and a use).</summary>
/// <param name="AskedBy">Who asked for it.</param>
/// <param name="ForWhom">The order, job or use that it is given for.</param>
/// <param name="Until">What is left then is held again; null for a concession over a quantity alone.</param>
public sealed record Concession(string AskedBy, string ForWhom, DateTimeOffset? Until = null)
{
    /// <summary>Most characters of each name.</summary>
    public const int MostCharacters = 80;

    /// <summary>"asked by Perrow Gardens for order C-20417".</summary>
    public string Words => $"asked by {AskedBy} for {ForWhom}";

    /// <summary>What is wrong with it at an instant, or null.</summary>
    public Refusal? Fault(DateTimeOffset now, SiteTime local) =>
        AskedBy is not { Length: > 0 and <= MostCharacters } || ForWhom is not { Length: > 0 and <= MostCharacters }
            ? new Refusal(
                CageRefusals.ConcessionAbsurd,
                "A concession says who asked for it and for whom or what it is given.",
                $"Type both, of at most {MostCharacters} characters."
            )
        : Until <= now
            ? new Refusal(
                CageRefusals.ConcessionAbsurd,
                $"{local(Until!.Value):yyyy-MM-dd HH:mm} is over already.",
                "Choose a later day, or none."
            )
        : null;
}

/// <summary>What was decided over the goods of a hold and has still to happen: until then they are held, and stand in the books.</summary>
/// <param name="Note">Why.</param>
public sealed record HoldDecision(DecisionKind Kind, Hand By, DateTimeOffset At, string Note)
{
    /// <summary>On whose word they are released; null for other decisions.</summary>
    public Concession? Concession { get; init; }

    /// <summary>The item that they are to be of; null for other decisions than a regrade.</summary>
    public int? IntoItemId { get; init; }

    /// <summary>Who signed for it besides; null where one person was enough.</summary>
    public Hand? Second { get; init; }

    /// <summary>The last price of an order, per base unit, when it was decided; null where none was known.</summary>
    public decimal? Price { get; init; }

    /// <summary>What goods are worth at its price; null where none was known.</summary>
    /// <param name="quantity">In base units.</param>
    public decimal? ValueOf(decimal quantity) => Price * quantity;

    /// <summary>What is to be done: "to be scrapped"; of a concession, what is.</summary>
    public string ToBe => (Kind == DecisionKind.ReleaseUnderConcession ? "" : "to be ") + Decided.Word(Kind);

    /// <summary>The reason with all that belongs to it, as the book has it.</summary>
    public string Reasons =>
        string.Join("; ", new[] { Note, Concession?.Words, Second is { } second ? $"signed by {second.Name} too" : null }.OfType<string>());

    static readonly DecisionKind[] ofReturns =
    [
        DecisionKind.UsableAgain,
        DecisionKind.Scrap,
        DecisionKind.Repair,
        DecisionKind.Regrade,
        DecisionKind.ReturnToVendor,
        DecisionKind.BackToCustomer,
    ];

    static readonly DecisionKind[] ofOthers =
    [
        DecisionKind.ReturnToVendor,
        DecisionKind.Scrap,
        DecisionKind.Rework,
        DecisionKind.Repair,
        DecisionKind.Regrade,
        DecisionKind.ReleaseUnderConcession,
    ];

    /// <summary>What may be decided over goods held for a reason, in the order in which it is offered.</summary>
    public static IReadOnlyList<DecisionKind> Choices(HoldReason reason) => reason == HoldReason.CustomerReturn ? ofReturns : ofOthers;

    /// <summary>True where goods leave the site by it.</summary>
    public static bool Leaves(DecisionKind kind) =>
        kind is DecisionKind.Scrap or DecisionKind.ReturnToVendor or DecisionKind.BackToCustomer;
}
