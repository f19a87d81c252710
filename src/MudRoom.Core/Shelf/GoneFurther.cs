using MudRoom.Core.Book;

namespace MudRoom.Core.Shelf;

/// <summary>Counted goods that must still stand where they were counted in before an undoing may go on.</summary>
/// <param name="Goods">What.</param>
/// <param name="BinId">The receiving place.</param>
/// <param name="Standing">The standing they must have there; null where any will do, because only papers are undone.</param>
/// <param name="Quantity">How much, in base units.</param>
public sealed record CountedGoods(Goods Goods, int BinId, Standing? Standing, decimal Quantity);

/// <summary>Counted goods of which not all stand free where they were counted in.</summary>
/// <param name="Counted">What was counted.</param>
/// <param name="Missing">How much does not stand free there, in base units; the rest does.</param>
/// <param name="Taken">Of what is missing, how much drivers have taken but not moved.</param>
/// <param name="Judged">Of what is missing, how much is there with another standing: it was judged, held or released since.</param>
public sealed record GoneGoods(CountedGoods Counted, decimal Missing, decimal Taken, decimal Judged)
{
    /// <summary>Of what is missing, how much has left the place.</summary>
    public decimal Left => Missing - Taken - Judged;
}

/// <summary>Which counted goods have gone further, so that their count cannot simply be undone.</summary>
public static class GoneFurther
{
    /// <summary>Compares what was counted with what stands there now. Nothing is returned for goods that all stand free.</summary>
    /// <param name="counted">What was counted; the same goods may come several times.</param>
    /// <param name="stock">What stands now, at least at the places of the counts.</param>
    /// <param name="taken">Tasks that drivers have taken, at least from those places.</param>
    public static IReadOnlyList<GoneGoods> Of(IEnumerable<CountedGoods> counted, IEnumerable<Balance> stock, IEnumerable<StoreTask> taken)
    {
        var stands = stock.ToLookup(b => (b.Goods.OfAnyLot, b.BinId));
        var promised = taken.ToLookup(j => (j.Goods, j.AtBinId));
        return
        [
            .. counted
                .GroupBy(c => (c.Goods, c.BinId, c.Standing))
                .Select(g =>
                    Gone(
                        g.First() with
                        {
                            Quantity = g.Sum(c => c.Quantity),
                        },
                        [.. stands[(g.Key.Goods.OfAnyLot, g.Key.BinId)]],
                        [.. promised[(g.Key.Goods.OfAnyLot, g.Key.BinId)]]
                    )
                )
                .Where(g => g.Missing > 0),
        ];
    }

    static GoneGoods Gone(CountedGoods counted, List<Balance> stands, List<StoreTask> taken)
    {
        bool Counts(Standing standing) => counted.Standing is null || standing == counted.Standing;
        // Drivers take goods of any lot: what they have promised may be of this one.
        var alike = stands.Where(b => Counts(b.Standing)).Sum(b => b.Quantity);
        // Where only papers are undone, what was split off since is still there.
        var there = stands
            .Where(b => Counts(b.Standing) && (counted.Standing is null || b.LotId == counted.Goods.LotId))
            .Sum(b => b.Quantity);
        var promised = taken.Where(j => Counts(j.Standing)).ToList();
        var missing = Math.Max(0, counted.Quantity - Math.Min(there, Promises.Free(alike, promised)));
        var onTasks = Math.Min(missing, Math.Min(there, promised.Sum(j => j.Quantity)));
        var judged = Math.Min(missing - onTasks, stands.Where(b => !Counts(b.Standing)).Sum(b => b.Quantity));
        return new GoneGoods(counted, missing, onTasks, judged);
    }
}
