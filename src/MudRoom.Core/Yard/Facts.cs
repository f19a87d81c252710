using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Yard;

/// <summary>What a vehicle on site is told or has done.</summary>
public enum YardStep
{
    Call = 0,
    Unloaded = 1,
    Empty = 2,
    GateOut = 3,

    /// <summary>Called, and now at the door it was called to.</summary>
    AtDoor = 4,
}

/// <summary>A vehicle was let in at the gate.</summary>
/// <param name="Differs">What was not as the papers say, in words.</param>
/// <param name="Why">The guard's word on that.</param>
/// <param name="Seal">The seal that was found, where nothing differs.</param>
public sealed record LetIn(string Arrival, string Spot, IReadOnlyList<string> Differs, string? Why, string? Seal)
    : Fact(EntryKind.AtGate, Arrival)
{
    public override string Words(Wording wording)
    {
        var found =
            Differs.Count > 0 ? $" {string.Join(" ", Differs)} {Why}."
            : Seal is null ? ""
            : $" Seal {Seal}.";
        return $"{Arrival} let in, spot {Spot}.{found}";
    }
}

public sealed record SentAway(string Arrival, string Reason) : Fact(EntryKind.AtGate, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival} was sent away at the gate: {Reason}";
}

public sealed record UnplannedCame(string Arrival, string Vehicle) : Fact(EntryKind.ArrivalMade, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival}: a {Vehicle} that nobody had planned. Its orders are to be named.";
}

/// <param name="Door">The door it is called to.</param>
public sealed record StepDone(string Arrival, YardStep Step, int? Door) : Fact(EntryKind.AtGate, Arrival)
{
    public override string Words(Wording wording) =>
        Step switch
        {
            YardStep.Call => $"{Arrival} called to door {Door}.",
            YardStep.Unloaded => $"{Arrival} is unloaded.",
            YardStep.Empty => $"{Arrival} is empty and has left the door.",
            YardStep.GateOut => $"{Arrival} is out of the gate.",
            YardStep.AtDoor => $"{Arrival} is at door {Door}.",
            _ => throw new ArgumentOutOfRangeException(nameof(wording), Step, null),
        };
}

public sealed record StoodElsewhere(string Arrival, string Spot, string? Was) : Fact(EntryKind.AtGate, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival} stands at spot {Spot}, not at {Was}.";
}

/// <param name="Step">The step's name: "gate-out", "called".</param>
public sealed record StepTakenBack(string Arrival, string Step, string? Reason) : Fact(EntryKind.StepTakenBack, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival}: {Step} taken back{Behind(": ", Reason)}.";
}
