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
}

/// <summary>What was decided over the goods of a hold and has still to happen: until then they are held, and stand in the books.</summary>
/// <param name="Note">Why.</param>
public sealed record HoldDecision(DecisionKind Kind, Hand By, DateTimeOffset At, string Note)
{
    /// <summary>What is to be done: "to be scrapped".</summary>
    public string ToBe => "to be " + Decided.Word(Kind);

    static readonly DecisionKind[] ofReturns =
    [
        DecisionKind.UsableAgain,
        DecisionKind.Scrap,
        DecisionKind.Repair,
        DecisionKind.ReturnToVendor,
        DecisionKind.BackToCustomer,
    ];

    static readonly DecisionKind[] ofOthers =
    [
        DecisionKind.ReturnToVendor,
        DecisionKind.Scrap,
        DecisionKind.Rework,
        DecisionKind.Repair,
        DecisionKind.ReleaseUnderConcession,
    ];

    /// <summary>What may be decided over goods held for a reason, in the order in which it is offered.</summary>
    public static IReadOnlyList<DecisionKind> Choices(HoldReason reason) => reason == HoldReason.CustomerReturn ? ofReturns : ofOthers;

    /// <summary>True where goods leave the site by it.</summary>
    public static bool Leaves(DecisionKind kind) =>
        kind is DecisionKind.Scrap or DecisionKind.ReturnToVendor or DecisionKind.BackToCustomer;
}
