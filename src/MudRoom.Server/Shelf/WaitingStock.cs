using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Shelf;

/// <summary>What waits to be put away: stock in places where it may not stay, less what drivers have taken of it. Said once, for the queue,
/// the house strip, the forecast and the scan.</summary>
/// <param name="Waiting">Stock with how much of it nobody has taken, the oldest first.</param>
/// <param name="Taken">Jobs that drivers are on.</param>
sealed record WaitingStock(IReadOnlyList<(StockLine Row, decimal Free)> Waiting, IReadOnlyList<PutAwayJob> Taken)
{
    const int Most = 500;

    /// <summary>How many jobs wait or are under way.</summary>
    public int Count => Waiting.Count + Taken.Count;

    /// <summary>Since when each of them stands there.</summary>
    public IEnumerable<DateTimeOffset> Since => Waiting.Select(w => w.Row.Since).Concat(Taken.Select(j => j.TakenAt));

    /// <summary>Reads it.</summary>
    public static async Task<WaitingStock> Read(MudRoomDb db, SetUp setUp, int siteId)
    {
        var bins = setUp.BinsOfSite[siteId];
        var rows = await Passing(db.Balances.AsNoTracking().Where(b => b.SiteId == siteId), setUp.Standings[siteId], bins)
            .OrderBy(b => b.Since)
            .Take(Most)
            .ToListAsync();
        var lines = StockLine.Of(rows);
        var taken = await db.Jobs.AsNoTracking().Where(j => j.SiteId == siteId && j.State == JobState.Taken).ToListAsync();
        var promised = taken.ToLookup(j => (j.Goods, Place.In(j.FromBinId, j.Standing)));
        return new WaitingStock(
            [.. lines.Select(l => (Row: l, Free: Promises.Free(l.Quantity, promised[(l.Goods, l.Place)]))).Where(w => w.Free > 0)],
            taken
        );
    }

    /// <summary>Of some stock what may not stay where it stands, and may be moved.</summary>
    static IQueryable<Balance> Passing(IQueryable<Balance> stock, SiteStandings standings, IReadOnlyList<Bin> bins)
    {
        IQueryable<Balance> Of(List<Standing> alike, BinFunction[] functions)
        {
            var from = bins.Where(b => functions.Contains(b.Function)).Select(b => b.Id).ToList();
            return stock.Where(b => alike.Contains(b.Standing) && from.Contains(b.BinId));
        }

        // Standings that wait in the same places are asked for together.
        return standings
            .All.Select(s => (s.Standing, Places: ShelfQueue.Passing.Where(f => ShelfQueue.Waits(f, s)).ToArray()))
            .GroupBy(s => string.Join(",", s.Places))
            .Select(g => Of([.. g.Select(s => s.Standing)], g.First().Places))
            .Aggregate((all, more) => all.Concat(more));
    }
}
