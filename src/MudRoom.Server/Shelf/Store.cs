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
    /// <summary>As it is while an act runs, with what it has moved itself.</summary>
    /// <param name="without">A task whose own promise does not count.</param>
    public static Task<IReadOnlyList<BinView>> For(Act act, int? without = null) =>
        Now(act.Db, act.Store, act.SetUp, act.Site.Id, [.. act.Book.Written.Select(e => e.Movement).OfType<Movement>()], without);

    /// <summary>As it is now.</summary>
    public static Task<IReadOnlyList<BinView>> For(Inquiry inquiry) =>
        Now(inquiry.Db, inquiry.Http.RequestServices.GetRequiredService<WriteDesk>().Store, inquiry.SetUp, inquiry.Site.Id, [], null);

    static async Task<IReadOnlyList<BinView>> Now(
        MudRoomDb db,
        StorePicture picture,
        SetUp setUp,
        int siteId,
        IReadOnlyCollection<Movement> more,
        int? without
    )
    {
        var bins = setUp.BinsOfSite[siteId];
        var views = picture.Views(siteId, setUp.Catalogue, bins, more) ?? await FromTables(db, setUp, siteId);
        var promised = await db
            .Tasks.AsNoTracking()
            .Where(j => j.SiteId == siteId && j.State == TaskState.Taken && j.TargetBinId != null && j.Id != without)
            .Select(j => new
            {
                BinId = j.TargetBinId!.Value,
                j.ItemId,
                j.BatchId,
                j.Quantity,
            })
            .ToListAsync();
        if (promised.Count == 0)
            return views;
        var of = promised.ToLookup(p => p.BinId);
        for (var i = 0; i < views.Length; i++)
            foreach (var task in of[views[i].Bin.Id])
                views[i] = views[i].With(setUp.Catalogue[task.ItemId], task.BatchId, task.Quantity);
        return views;
    }

    /// <summary>What stands in every bin, read from the balances in one query.</summary>
    public static async Task<BinView[]> FromTables(MudRoomDb db, SetUp setUp, int siteId)
    {
        var bins = setUp.BinsOfSite[siteId];
        var stands = (
            await db
                .Balances.AsNoTracking()
                .Where(b => b.SiteId == siteId)
                .Select(b => new
                {
                    b.BinId,
                    b.ItemId,
                    b.BatchId,
                    b.Quantity,
                })
                .ToListAsync()
        ).ToLookup(b => b.BinId);
        return
        [
            .. bins.Select(bin =>
                stands[bin.Id].Aggregate(BinView.Empty(bin), (view, b) => view.With(setUp.Catalogue[b.ItemId], b.BatchId, b.Quantity))
            ),
        ];
    }

    /// <summary>Where a picture kept by the movements of the whole ledger, in their order, differs from what the tables say.</summary>
    public static async Task<IReadOnlyList<string>> Faults(MudRoomDb db, SetUp setUp)
    {
        var picture = StorePicture.Empty();
        await foreach (var entry in db.Ledger.AsNoTracking().OrderBy(e => e.Seq).AsAsyncEnumerable())
            if (entry.Movement is { } movement)
                picture.Apply(movement);
        var faults = new List<string>();
        foreach (var site in setUp.Sites.Values)
        {
            var kept = picture.Views(site.Id, setUp.Catalogue, setUp.BinsOfSite[site.Id], [])!;
            var stored = await FromTables(db, setUp, site.Id);
            faults.AddRange(
                stored
                    .Zip(kept)
                    .Where(b => b.First != b.Second)
                    .Select(b =>
                        $"{b.First.Bin.Address} of {site.Code} has {b.First.Mass} kg and {b.First.Volume} litres in the tables, "
                        + $"{b.Second.Mass} kg and {b.Second.Volume} litres in the picture."
                    )
            );
        }

        return faults;
    }

    /// <summary>Goods of a task, so much of them, that want a place.</summary>
    public static GoodsToPlace GoodsFrom(SetUp setUp, StoreTask task, SiteStandings standings, decimal quantity)
    {
        var item = setUp.Catalogue[task.ItemId];
        var from = setUp.Bins[task.FromBinId];
        var pack = item.PackLevels.Where(p => !p.IsUnit && quantity % p.Content(1) == 0).Max(p => p.Content(1));
        return new GoodsToPlace(
            item,
            task.BatchId,
            standings[task.Standing],
            quantity,
            Math.Min(pack, quantity),
            task.UnitId is not null,
            from.X,
            from.Y
        );
    }
}
