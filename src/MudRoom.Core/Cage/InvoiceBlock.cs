namespace MudRoom.Core.Cage;

/// <summary>Who speaks for goods of a receipt line.</summary>
/// <param name="Number">Of the inspection or hold.</param>
/// <param name="Held">Why the hold holds them; null for an inspection.</param>
public sealed record SpeaksForLine(string Number, HoldReason? Held);

/// <summary>Which receipt lines are not to be paid before they are accepted.</summary>
public static class InvoiceBlock
{
    /// <summary>Who must accept goods, or decide over them, before they are paid: inspections that wait, and holds of what was rejected.
    /// What is held for another reason (quarantine, a missing paper) was delivered all the same. Each once, in order.</summary>
    public static IReadOnlyList<string> By(IEnumerable<SpeaksForLine> said) =>
        [.. said.Where(s => s.Held is null or HoldReason.Nonconforming).Select(s => s.Number).Distinct().Order(StringComparer.Ordinal)];
}
