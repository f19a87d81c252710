namespace MudRoom.Core.Road;

/// <summary>What a customer who sends goods back was promised. Stored.</summary>
public enum ReturnPromise
{
    Nothing = 0,
    Credit = 1,
    Replacement = 2,
    Repair = 3,
}

/// <summary>Why a customer sends the goods of a line back, and what they were promised for it.</summary>
/// <param name="Reason">As the customer says it; 1 to 200 characters.</param>
public sealed record ReturnTerms(string Reason, ReturnPromise Promised)
{
    /// <summary>Longest reason.</summary>
    public const int LongestReason = 200;

    /// <summary>Of a line that came without any.</summary>
    public static ReturnTerms NotSaid { get; } = new("no reason given", ReturnPromise.Nothing);

    /// <summary>As somebody typed them.</summary>
    /// <returns>The terms, or why they are none.</returns>
    public static Outcome<ReturnTerms> Read(string? reason, ReturnPromise promised) =>
        reason.OrNull() is not { Length: <= LongestReason } said
            ? new Refusal(
                RoadRefusals.ReturnReasonMissing,
                $"A customer return wants the customer's reason, in at most {LongestReason} characters.",
                "Type why they send it back."
            )
        : !Enum.IsDefined(promised)
            ? new Refusal(RoadRefusals.ReturnPromiseUnknown, "That is nothing that can be promised.", "Choose one from the list.")
        : new ReturnTerms(said, promised);

    /// <summary>What was promised, in words: "credit promised".</summary>
    public string PromisedWords => $"{Word(Promised)} promised";

    /// <summary>A promise in a word.</summary>
    public static string Word(ReturnPromise promised) =>
        promised switch
        {
            ReturnPromise.Nothing => "nothing",
            ReturnPromise.Credit => "credit",
            ReturnPromise.Replacement => "replacement",
            ReturnPromise.Repair => "repair",
            _ => throw new ArgumentOutOfRangeException(nameof(promised), promised, null),
        };

    public override string ToString() => $"{Reason}; {PromisedWords}";
}
