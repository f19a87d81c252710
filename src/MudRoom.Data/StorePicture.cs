using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Data;

/// <summary>
/// What stands in every bin, kept in memory beside the one writer: read once from the balances, then changed by the movements of each piece
/// that is kept, in the order in which they are written. It equals the tables at all times; where it cannot (a group of pieces was taken
/// back, rows of an import are hidden), it is let go, and who asks reads the tables until it is there again.
/// </summary>
public sealed class StorePicture
{
    readonly Lock gate = new();
    readonly Dictionary<int, SiteViews> sites = [];
    readonly Func<bool> isHiding;
    Dictionary<int, List<Stored>>? stock;
    bool isWanted;

    /// <param name="isHiding">True while rows of an import are hidden.</param>
    internal StorePicture(Func<bool> isHiding) => this.isHiding = isHiding;

    /// <summary>So much of an item and batch in a bin, in base units.</summary>
    readonly record struct Stored(int ItemId, int? BatchId, decimal Quantity);

    /// <summary>The bins of a site as proposals see them, as long as bins and items are what they are.</summary>
    sealed record SiteViews(Catalogue Catalogue, IReadOnlyList<Bin> Bins, BinView[] Views, Dictionary<int, int> IndexOf);

    /// <summary>A picture of what a whole ledger comes to, for the check that the way it is kept is right.</summary>
    public static StorePicture Empty() => new(() => false) { stock = [] };

    /// <summary>Every bin of a site with what stands in it.</summary>
    /// <param name="more">Movements of the act that asks, which are not kept yet.</param>
    /// <returns>A list of its own, which the caller may change; null where the picture is not there: then the tables say it.</returns>
    public BinView[]? Views(int siteId, Catalogue catalogue, IReadOnlyList<Bin> bins, IReadOnlyCollection<Movement> more)
    {
        lock (gate)
        {
            isWanted = true;
            if (stock is null || isHiding())
                return null;
            var site = sites.GetValueOrDefault(siteId);
            if (site is null || site.Catalogue != catalogue || site.Bins != bins)
                sites[siteId] = site = new SiteViews(
                    catalogue,
                    bins,
                    [.. bins.Select(b => ViewOf(b, stock.GetValueOrDefault(b.Id), catalogue))],
                    bins.Select((b, i) => (b.Id, i)).ToDictionary(x => x.Id, x => x.i)
                );
            var views = (BinView[])site.Views.Clone();
            if (more.Count > 0)
            {
                var changed = new Dictionary<int, List<Stored>>();
                foreach (var movement in more)
                    Apply(movement, bin =>
                        changed.TryGetValue(bin, out var own) ? own : changed[bin] = [.. stock.GetValueOrDefault(bin) ?? []]
                    );
                foreach (var (bin, there) in changed)
                    if (site.IndexOf.TryGetValue(bin, out var index))
                        views[index] = ViewOf(bins[index], there, catalogue);
            }

            return views;
        }
    }

    /// <summary>A movement that is kept.</summary>
    public void Apply(Movement movement)
    {
        lock (gate)
        {
            if (stock is null)
                return;
            Apply(movement, bin => stock.TryGetValue(bin, out var there) ? there : stock[bin] = []);
            foreach (var bin in new[] { movement.From.BinId, movement.To.BinId }.OfType<int>().Distinct())
            foreach (var site in sites.Values)
                if (site.IndexOf.TryGetValue(bin, out var index))
                    site.Views[index] = ViewOf(site.Bins[index], stock.GetValueOrDefault(bin), site.Catalogue);
        }
    }

    /// <summary>A piece of writing begins: all that is stored now is kept, and nothing else is.</summary>
    internal void Begin(MudRoomDb db)
    {
        lock (gate)
        {
            if (!isWanted || stock is not null || isHiding())
                return;
            sites.Clear();
            stock = [];
            foreach (
                var group in db
                    .Balances.AsNoTracking()
                    .Select(b => new
                    {
                        b.BinId,
                        b.ItemId,
                        b.BatchId,
                        b.Quantity,
                    })
                    .AsEnumerable()
                    .GroupBy(b => b.BinId)
            )
                stock[group.Key] =
                [
                    .. group
                        .GroupBy(b => (b.ItemId, b.BatchId))
                        .Select(g => new Stored(g.Key.ItemId, g.Key.BatchId, g.Sum(b => b.Quantity))),
                ];
        }
    }

    /// <summary>What was kept is not certain any more.</summary>
    internal void LetGo()
    {
        lock (gate)
            stock = null;
    }

    static void Apply(Movement movement, Func<int, List<Stored>> of)
    {
        if (movement.From.BinId is { } from)
            Change(of(from), movement.Goods, -movement.Quantity);
        if (movement.To.BinId is { } to)
            Change(of(to), movement.Goods, movement.Quantity);
    }

    static void Change(List<Stored> there, Goods goods, decimal by)
    {
        var at = there.FindIndex(s => s.ItemId == goods.ItemId && s.BatchId == goods.BatchId);
        var now = new Stored(goods.ItemId, goods.BatchId, by + (at < 0 ? 0 : there[at].Quantity));
        if (at < 0)
            there.Add(now);
        else if (now.Quantity == 0)
            there.RemoveAt(at);
        else
            there[at] = now;
    }

    static BinView ViewOf(Bin bin, List<Stored>? there, Catalogue catalogue)
    {
        var view = BinView.Empty(bin);
        foreach (var stored in there ?? [])
            view = view.With(catalogue[stored.ItemId], stored.BatchId, stored.Quantity);
        return view;
    }
}
