namespace MudRoom.Core.Book;

/// <summary>Stock as people see it: goods that read alike in one place, whatever lots they are of.</summary>
/// <param name="Id">The id of the balance of its oldest lot.</param>
/// <param name="Goods">What, of any lot.</param>
/// <param name="Place">Where, and with which standing.</param>
/// <param name="Quantity">In base units.</param>
/// <param name="Since">When the first of what stands there came.</param>
/// <param name="Lots">The lots, the oldest first.</param>
public sealed record StockLine(long Id, Goods Goods, Place Place, decimal Quantity, DateTimeOffset Since, IReadOnlyList<int> Lots)
{
    public int ItemId => Goods.ItemId;
    public int? BatchId => Goods.BatchId;
    public int? UnitId => Goods.UnitId;
    public string? Serial => Goods.Serial;
    public int BinId => Place.BinId!.Value;
    public Standing Standing => Place.Standing!.Value;

    /// <summary>The lines of balances, in the order in which the first of each comes.</summary>
    public static IReadOnlyList<StockLine> Of(IEnumerable<Balance> balances) =>
        [
            .. balances
                .GroupBy(b => (b.Goods.OfAnyLot, b.Place))
                .Select(g => new StockLine(
                    g.MinBy(b => b.LotId)!.Id,
                    g.Key.OfAnyLot,
                    g.Key.Place,
                    g.Sum(b => b.Quantity),
                    g.Min(b => b.Since),
                    [.. g.Select(b => b.LotId).OfType<int>().Order()]
                )),
        ];
}
