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
}

/// <summary>What was decided over the goods of a hold and has still to happen: until then they are held, and stand in the books.</summary>
/// <param name="Note">Why.</param>
public sealed record HoldDecision(DecisionKind Kind, Hand By, DateTimeOffset At, string Note)
{
    /// <summary>What is to be done: "to be scrapped".</summary>
    public string ToBe => "to be " + Decided.Word(Kind);
}
