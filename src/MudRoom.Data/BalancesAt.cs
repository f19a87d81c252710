using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>What stands where.</summary>
public static class BalancesAt
{
    /// <summary>The balances of goods at a place, of whatever lots.</summary>
    public static IQueryable<Balance> Of(this IQueryable<Balance> balances, Goods goods, Place at) =>
        balances.Where(b =>
            b.BinId == at.BinId
            && b.ItemId == goods.ItemId
            && b.BatchId == goods.BatchId
            && b.UnitId == goods.UnitId
            && b.Serial == goods.Serial
            && b.Standing == at.Standing
        );
}
