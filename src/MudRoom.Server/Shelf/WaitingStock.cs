using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
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
        var passing = Enum.GetValues<Standing>()
            .ToDictionary(s => s, s => bins.Where(b => ShelfQueue.OnlyPassesThrough(b.Function, s)).Select(b => b.Id).ToList());
        var (usable, toInspect, held, rejected) = (
            passing[Standing.Usable],
            passing[Standing.ToInspect],
            passing[Standing.Held],
            passing[Standing.Rejected]
        );
        var rows = await db
            .Balances.AsNoTracking()
            .Where(b =>
                b.SiteId == siteId
                && (
                    b.Standing == Standing.Usable && usable.Contains(b.BinId)
                    || b.Standing == Standing.ToInspect && toInspect.Contains(b.BinId)
                    || b.Standing == Standing.Held && held.Contains(b.BinId)
                    || b.Standing == Standing.Rejected && rejected.Contains(b.BinId)
                )
            )
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
}
