using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Shelf;

/// <summary>The store as proposals see it: every bin with what stands there and what is on its way.</summary>
public static class Store
{
    /// <summary>Loads it in two queries, whatever the number of bins.</summary>
    /// <param name="without">A job whose own promise does not count.</param>
    public static async Task<List<BinView>> Load(MudRoomDb db, SetUp setUp, int siteId, int? without = null)
    {
        var bins = setUp.BinsOfSite[siteId];
        var loads = new Dictionary<int, BinLoad>(bins.Count);
        await foreach (
            var b in db
                .Balances.AsNoTracking()
                .Where(b => b.SiteId == siteId)
                .Select(b => new
                {
                    b.BinId,
                    b.ItemId,
                    b.BatchId,
                    b.Quantity,
                })
                .AsAsyncEnumerable()
        )
            Add(b.BinId, b.ItemId, b.BatchId, b.Quantity);
        foreach (
            var job in await db
                .Jobs.AsNoTracking()
                .Where(j => j.SiteId == siteId && j.State == JobState.Taken && j.TargetBinId != null && j.Id != without)
                .Select(j => new
                {
                    BinId = j.TargetBinId!.Value,
                    j.ItemId,
                    j.BatchId,
                    j.Quantity,
                })
                .ToListAsync()
        )
            Add(job.BinId, job.ItemId, job.BatchId, job.Quantity);
        return
        [
            .. bins.Select(bin =>
                loads.TryGetValue(bin.Id, out var l)
                    ? new BinView(bin, l.Mass, l.Volume, l.OnlyItem, l.OnlyBatch)
                    : new BinView(bin, 0, 0, 0, 0)
            ),
        ];

        void Add(int binId, int itemId, int? batchId, decimal quantity)
        {
            var item = setUp.Catalogue[itemId];
            var before = loads.GetValueOrDefault(binId);
            loads[binId] = new BinLoad(
                before.Mass + quantity * item.Mass,
                before.Volume + quantity * item.Volume,
                before.OnlyItem == 0 || before.OnlyItem == itemId ? itemId : -1,
                before.OnlyItem == 0 || before.OnlyBatch == (batchId ?? 0) ? batchId ?? 0 : -1
            );
        }
    }

    /// <summary>Goods that stand somewhere and want another place.</summary>
    public static GoodsToPlace GoodsFrom(
        SetUp setUp,
        int fromBinId,
        int itemId,
        int? batchId,
        int? unitId,
        StandingDefinition standing,
        decimal quantity
    )
    {
        var item = setUp.Catalogue[itemId];
        var from = setUp.Bins[fromBinId];
        var pack = item.PackLevels.Where(p => !p.IsUnit && quantity % p.Content(1) == 0).Max(p => p.Content(1));
        return new GoodsToPlace(item, batchId, standing, quantity, Math.Min(pack, quantity), unitId is not null, from.X, from.Y);
    }

    readonly record struct BinLoad(decimal Mass, decimal Volume, int OnlyItem, int OnlyBatch);
}
