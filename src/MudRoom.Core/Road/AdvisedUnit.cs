namespace MudRoom.Core.Road;

/// <summary>A logistic unit that a vendor's despatch advice names aboard an arrival, with what it holds; a pallet may hold
/// cartons.</summary>
public sealed class AdvisedUnit
{
    public int Id { get; init; }
    public required int ArrivalId { get; init; }

    /// <summary>The advice that names it.</summary>
    public required int AdviceId { get; init; }

    /// <summary>18 digits; null for loose goods.</summary>
    public string? Sscc { get; init; }

    /// <summary>The unit this one stands on or in.</summary>
    public string? ParentSscc { get; init; }
    public string? PackageType { get; init; }
    public int? ItemId { get; init; }
    public int? PartId { get; init; }

    /// <summary>In base units.</summary>
    public decimal Quantity { get; init; }
    public string? SourceBatch { get; init; }
    public DateOnly? Production { get; init; }
    public DateOnly? BestBefore { get; init; }
    public DateOnly? Expiry { get; init; }

    /// <summary>Of the one piece this row names; null where the advice names none.</summary>
    public string? Serial { get; init; }
}

/// <summary>How the units of a despatch advice stand on one another.</summary>
public static class AdvisedLoad
{
    /// <summary>What a unit holds, with what stands in the units on it, however deep; each row once, even where a file says that two units
    /// stand on each other.</summary>
    /// <param name="all">All rows of the arrival.</param>
    /// <param name="sscc">The unit.</param>
    /// <returns>Rows with a quantity, in the order of the file.</returns>
    public static IReadOnlyList<AdvisedUnit> Inside(IReadOnlyCollection<AdvisedUnit> all, string sscc)
    {
        var onto = all.Where(u => u.Sscc is not null).ToLookup(u => u.ParentSscc, u => u.Sscc!);
        var inside = new HashSet<string> { sscc };
        var open = new Queue<string>([sscc]);
        while (open.TryDequeue(out var unit))
            foreach (var next in onto[unit].Where(inside.Add))
                open.Enqueue(next);
        return [.. all.Where(u => u is { Quantity: > 0, Sscc: { } own } && inside.Contains(own))];
    }

    /// <summary>The units that stand on no other, in the order of the file: what a receiver scans.</summary>
    public static IReadOnlyList<string> Outermost(IReadOnlyCollection<AdvisedUnit> all) =>
        [.. all.Where(u => u is { ParentSscc: null, Sscc: not null }).Select(u => u.Sscc!).Distinct()];

    /// <summary>What stands on a unit and cannot be taken in unseen: an item nobody knows, or one that no order takes; null where all of it
    /// can.</summary>
    public static AdvisedUnit? Odd(IEnumerable<AdvisedUnit> contents) => contents.FirstOrDefault(c => c.ItemId is null || c.PartId is null);
}
