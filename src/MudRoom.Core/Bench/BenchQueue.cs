namespace MudRoom.Core.Bench;

/// <summary>What the queue of Bench knows of an inspection.</summary>
/// <param name="State">How far it is.</param>
/// <param name="Since">Wall clock of its first goods.</param>
/// <param name="GoodUntil">The ruling date of the batch, if any.</param>
/// <param name="WaitedFor">Who waits for the item, and by when, in words; null for nobody.</param>
/// <param name="SignedBy">Who signed it.</param>
/// <param name="TakesUp">The place of a door that its goods take up, or null.</param>
/// <param name="WaitedBy">Wall clock by which they wait; null where nobody said.</param>
/// <param name="Invoiced">The receipt of its goods that the vendor has invoiced, or null.</param>
public sealed record InspectionFacts(
    InspectionState State,
    DateTime Since,
    DateOnly? GoodUntil,
    string? WaitedFor,
    string? SignedBy,
    string? TakesUp = null,
    string? Invoiced = null,
    DateTime? WaitedBy = null
);

/// <summary>The place of an inspection in the queue.</summary>
/// <param name="By">Wall clock by which somebody waits; the last instant where nobody said.</param>
/// <param name="Since">Wall clock of its first goods.</param>
/// <param name="IsWaitedFor">True where somebody waits for its goods.</param>
public sealed record BenchPlace(int Rank, DateTime By, DateTime Since, string Why, bool IsWaitedFor = false);

/// <summary>Orders the queue of Bench: open sheets (those that somebody waits for first), then what somebody waits for (the earliest hour
/// first), then what lives shortest, then what takes up a place of a door, then what the vendor has invoiced, then age.</summary>
public static class BenchQueue
{
    const int ShortLifeDays = 30;

    /// <summary>The place of one inspection.</summary>
    public static BenchPlace Place(InspectionFacts facts, DateTime now)
    {
        var (rank, why) = Ranked(facts, now);
        return new BenchPlace(
            rank,
            facts.WaitedFor is null ? DateTime.MaxValue : facts.WaitedBy ?? DateTime.MaxValue,
            facts.Since,
            why,
            facts.WaitedFor is not null
        );
    }

    /// <summary>What the bench takes first comes first: by rank, within it by the hour by which somebody waits, then by age.</summary>
    public static IEnumerable<T> InOrder<T>(IEnumerable<T> waiting, Func<T, BenchPlace> place) =>
        waiting.OrderBy(w => place(w).Rank).ThenBy(w => place(w).By).ThenBy(w => place(w).Since);

    static (int Rank, string Why) Ranked(InspectionFacts facts, DateTime now)
    {
        if (facts.State == InspectionState.Signed)
            return (9, $"Signed by {facts.SignedBy}.");
        if (facts.State == InspectionState.Drawn)
            return (facts.WaitedFor is null ? 1 : 0, "Its sheet is open." + Waits(facts));
        if (facts.WaitedFor is not null)
            return (2, Waits(facts).TrimStart());
        var left = facts.GoodUntil is { } end ? end.DayNumber - DateOnly.FromDateTime(now).DayNumber : int.MaxValue;
        if (left <= ShortLifeDays)
            return (3, $"Good until {facts.GoodUntil:yyyy-MM-dd}, {left} days.");
        var since = facts.Since.Date == now.Date ? facts.Since.ToString("HH:mm") : facts.Since.ToString("d MMM");
        return facts switch
        {
            { TakesUp: { } place } => (4, $"Takes up {place} at the door since {since}."),
            { Invoiced: { } receipt } => (5, $"The vendor's invoice for {receipt} waits since {since}."),
            _ => (6, $"Waits since {since}; nobody is held up."),
        };
    }

    static string Waits(InspectionFacts facts) => facts.WaitedFor is { } who ? $" Waited for: {who}." : "";
}
