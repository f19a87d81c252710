namespace MudRoom.Core.Cage;

/// <summary>What an open hold waits for, the first of it.</summary>
public enum HoldWaits
{
    /// <summary>Only for somebody who lifts it.</summary>
    Lifting,

    /// <summary>For a decision over its goods.</summary>
    Decision,

    /// <summary>For what was decided to happen.</summary>
    CarryingOut,

    /// <summary>For a paper or a signature.</summary>
    PaperOrSignature,

    /// <summary>For an inspection.</summary>
    Inspection,

    /// <summary>For its time.</summary>
    Time,

    /// <summary>For the end of a concession: until then it blocks nothing.</summary>
    Concession,
}

/// <summary>What an open hold blocks.</summary>
/// <param name="Since">When it was laid.</param>
/// <param name="Litres">What its goods take up.</param>
/// <param name="Value">Of its goods, at the last price of an order; null where none is known.</param>
/// <param name="Reason">As <see cref="Hold.ReasonWord"/>.</param>
public sealed record HoldBlocks(HoldWaits Waits, bool IsOverdue, DateTimeOffset Since, decimal Litres, decimal? Value, string Reason);

/// <summary>So many holds that wait for the same.</summary>
public sealed record HoldsWaiting(HoldWaits For, int Count);

/// <summary>So many holds of one reason.</summary>
public sealed record HoldsFor(string Reason, int Count);

/// <summary>What a cage blocks, for how long, and by whom it waits.</summary>
/// <param name="Open">Holds.</param>
/// <param name="ToLift">Holds that can be lifted now.</param>
/// <param name="Overdue">Holds with a condition that should have been met.</param>
/// <param name="Value">At the last prices of orders; null for who may not see prices.</param>
/// <param name="Unpriced">Holds of whose goods no price is known, which are not in the value.</param>
/// <param name="Reasons">Why they were laid, the most first.</param>
/// <param name="MeanDays">Since they were laid; 0 where there are none.</param>
public sealed record CageFigures(
    int Open,
    int ToLift,
    int Overdue,
    decimal Litres,
    decimal? Value,
    int Unpriced,
    double MeanDays,
    double OldestDays,
    IReadOnlyList<HoldsWaiting> Waiting,
    IReadOnlyList<HoldsFor> Reasons
)
{
    /// <summary>The figures of some holds.</summary>
    /// <param name="holds">Those that are open.</param>
    /// <param name="seesPrices">Whether who asks may see prices.</param>
    public static CageFigures Of(IReadOnlyCollection<HoldBlocks> holds, bool seesPrices, DateTimeOffset now)
    {
        double Days(HoldBlocks hold) => (now - hold.Since).TotalDays;
        return new CageFigures(
            holds.Count,
            holds.Count(h => h.Waits == HoldWaits.Lifting),
            holds.Count(h => h.IsOverdue),
            holds.Sum(h => h.Litres),
            seesPrices ? holds.Sum(h => h.Value ?? 0) : null,
            seesPrices ? holds.Count(h => h.Value is null) : 0,
            holds.Count == 0 ? 0 : holds.Average(Days),
            holds.Count == 0 ? 0 : holds.Max(Days),
            [.. holds.GroupBy(h => h.Waits).OrderBy(g => g.Key).Select(g => new HoldsWaiting(g.Key, g.Count()))],
            [
                .. holds
                    .GroupBy(h => h.Reason)
                    .OrderByDescending(g => g.Count())
                    .ThenBy(g => g.Key, StringComparer.Ordinal)
                    .Select(g => new HoldsFor(g.Key, g.Count())),
            ]
        );
    }
}
