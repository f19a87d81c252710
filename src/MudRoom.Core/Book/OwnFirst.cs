namespace MudRoom.Core.Book;

/// <summary>How much is taken from one balance.</summary>
public sealed record Taking(Balance From, decimal Quantity);

/// <summary>
/// Chooses, among goods that read alike, those which a hold or an inspection speaks for: first the units it counted itself, then loose
/// goods in the places where it counted them, then other loose goods. Units that another hold or inspection counted are never taken.
/// </summary>
public static class OwnFirst
{
    /// <summary>Chooses up to a quantity; fewer when no more of its own is there.</summary>
    /// <param name="there">Balances of the item, batch and standing.</param>
    /// <param name="counted">Where, and on which unit, the goods it speaks for were counted.</param>
    /// <param name="unitsOfOthers">Units that others counted.</param>
    /// <param name="quantity">In base units.</param>
    public static IReadOnlyList<Taking> Choose(
        IEnumerable<Balance> there,
        IReadOnlyCollection<(int BinId, int? UnitId)> counted,
        IReadOnlySet<int> unitsOfOthers,
        decimal quantity
    )
    {
        var ownUnits = counted.Where(c => c.UnitId is not null).Select(c => c.UnitId!.Value).ToHashSet();
        var ownBins = counted.Select(c => c.BinId).ToHashSet();
        var ordered = there
            .Where(b => b.UnitId is not { } unit || ownUnits.Contains(unit) || !unitsOfOthers.Contains(unit))
            .OrderByDescending(b => b.UnitId is { } unit && ownUnits.Contains(unit))
            .ThenByDescending(b => ownBins.Contains(b.BinId))
            .ThenBy(b => b.Id);
        var takings = new List<Taking>();
        var left = quantity;
        foreach (var row in ordered)
        {
            if (left == 0)
                break;
            var takes = Math.Min(left, row.Quantity);
            takings.Add(new Taking(row, takes));
            left -= takes;
        }

        return takings;
    }
}
