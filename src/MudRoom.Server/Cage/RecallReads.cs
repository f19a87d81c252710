using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>Goods of a recall that stand somewhere.</summary>
/// <param name="Missing">Of them, what is not there, in base units.</param>
/// <param name="Hold">The open hold of the recall on them; null where it does not hold them.</param>
/// <param name="IsReleased">True where it held them and does no more.</param>
public sealed record RecallStock(
    LotInQuestion Lot,
    Balance Row,
    RecallRoom Room,
    decimal Missing,
    bool IsSeen,
    string? Hold,
    bool IsReleased
);

/// <summary>Goods of a recall that have left, netted of what came back.</summary>
/// <param name="To">Customer, job, vendor, scrap or bench.</param>
/// <param name="Reference">The order or job, return or sheet they went out by.</param>
/// <param name="Quantity">In base units.</param>
/// <param name="Last">The newest of the entries.</param>
public sealed record RecallGone(int SiteId, int ItemId, Account To, string Reference, decimal Quantity, LedgerEntry Last);

/// <summary>Goods of a recall that a despatch advice announces and nobody has counted.</summary>
/// <param name="Quantity">In base units.</param>
public sealed record RecallComing(Arrival Arrival, int ItemId, decimal Quantity);

/// <summary>All that is found of a recall.</summary>
public sealed record RecalledGoods(
    IReadOnlyList<RecallStock> Stock,
    IReadOnlyList<RecallGone> Gone,
    IReadOnlyList<RecallComing> Coming,
    RecallFinding Finding
);

/// <summary>Finds the goods of a recall, over all sites of the house: by the keys of its batches, lots and serials, never by looking
/// through the ledger.</summary>
public static class RecallReads
{
    /// <summary>What comes in and is taken back at a door is no way out of the house.</summary>
    static readonly EntryKind[] counting = [EntryKind.Counted, EntryKind.TakenBack, EntryKind.OpeningStock, EntryKind.NotCounted];

    /// <summary>All of it.</summary>
    public static async Task<RecalledGoods> Of(MudRoomDb db, History history, SetUp setUp, Recall recall)
    {
        var stock = await Stock(db, setUp, recall);
        var gone = await Gone(db, history, recall.Scope, setUp);
        var coming = await Coming(db, setUp, recall.Scope);
        return new RecalledGoods(
            stock,
            gone,
            coming,
            RecallFinding.Of(
                [.. stock.Select(s => new RecallPart(s.Room, s.Row.Quantity, s.Missing, s.IsSeen, s.IsReleased))],
                gone.Sum(g => g.Quantity),
                coming.Sum(c => c.Quantity)
            )
        );
    }

    static async Task<IReadOnlyList<RecallStock>> Stock(MudRoomDb db, SetUp setUp, Recall recall)
    {
        var lots = (await RecalledLots.Of(db, recall.Scope)).ToDictionary(l => l.Lot.Id);
        var rows = (await LotReads.Balances(db, [.. lots.Keys]))
            .Where(b => recall.Scope.Catches(lots[b.LotId!.Value].Goods(b.Serial)))
            .ToList();
        var said = await RecalledLots.SaidBy(db, recall, [.. rows.Select(b => b.LotId!.Value).Distinct()]);
        return [.. rows.Select(Of)];

        RecallStock Of(Balance row)
        {
            var spot = new RecallSpot(row.LotId!.Value, row.BinId, row.UnitId, row.Serial);
            var holds = said[spot.LotId].ToList();
            var open = holds.FirstOrDefault(h => h.IsOpen).Number;
            return new RecallStock(
                lots[spot.LotId],
                row,
                RecallFinding.RoomOf(setUp.Bins[row.BinId].Function),
                // What has left a place since was found there, whoever moved it.
                Math.Min(row.Quantity, recall.StillMissing.Where(m => m.Spot == spot).Sum(m => m.Quantity)),
                recall.Seen.Any(s => s.Spot == spot),
                open,
                holds.Count > 0 && open is null
            );
        }
    }

    /// <summary>What has left the house, by whom it went to and by what papers.</summary>
    public static async Task<IReadOnlyList<RecallGone>> Gone(MudRoomDb db, History history, RecallScope scope, SetUp setUp)
    {
        List<string> ids;
        ReferenceKind kind;
        switch (scope.By)
        {
            case RecallBy.SourceBatch or RecallBy.Batch or RecallBy.Produced:
                (kind, ids) = (ReferenceKind.Batch, [.. (await RecalledLots.BatchesOf(db, scope)).Select(b => Reference.Batch(b.Id).Id)]);
                break;
            case RecallBy.Serial:
                var keys = scope.Keys;
                kind = ReferenceKind.Serial;
                ids = await db
                    .EntryReferences.Where(r => r.Kind == ReferenceKind.Serial && keys.Contains(r.Id.ToUpper()))
                    .Select(r => r.Id)
                    .Distinct()
                    .ToListAsync();
                break;
            case RecallBy.Advice:
                kind = ReferenceKind.Lot;
                ids = [.. (await RecalledLots.Of(db, scope)).Select(l => new Reference(ReferenceKind.Lot, l.Lot.Id).Id)];
                break;
            default:
                throw new ArgumentOutOfRangeException(nameof(scope), scope.By, null);
        }

        var crossing = await history
            .AboutAny(kind, ids)
            .Where(e =>
                e.Quantity != null
                && (e.FromAccount == Account.Bin) != (e.ToAccount == Account.Bin)
                && e.FromAccount != Account.Transit
                && e.ToAccount != Account.Transit
                && !counting.Contains(e.Kind)
            )
            .AsNoTracking()
            .ToListAsync();
        return
        [
            .. crossing
                .Where(e => scope.ItemId is null || e.ItemId == scope.ItemId)
                .DistinctBy(e => e.Seq)
                .GroupBy(e =>
                    (
                        e.SiteId,
                        Item: e.ItemId!.Value,
                        To: e.Movement!.From.IsInside ? e.Movement.To.Account : e.Movement.From.Account,
                        e.Subject
                    )
                )
                .Select(g => new RecallGone(
                    g.Key.SiteId,
                    g.Key.Item,
                    g.Key.To,
                    g.Key.Subject,
                    g.Sum(e => e.Movement!.From.IsInside ? e.Quantity!.Value : -e.Quantity!.Value),
                    g.MaxBy(e => e.Seq)!
                ))
                .Where(g => g.Quantity != 0)
                .OrderByDescending(g => g.Last.Seq),
        ];
    }

    /// <summary>What is announced and not counted yet, by arrival.</summary>
    public static async Task<IReadOnlyList<RecallComing>> Coming(MudRoomDb db, SetUp setUp, RecallScope scope)
    {
        var open = new[] { ArrivalState.Expected, ArrivalState.InYard, ArrivalState.AtDoor };
        var units = await db
            .AdvisedUnits.Where(u => u.Quantity > 0 && u.ItemId != null)
            .Join(db.Arrivals.Where(a => open.Contains(a.State)), u => u.ArrivalId, a => a.Id, (u, a) => new { Unit = u, Arrival = a })
            .Join(
                db.DespatchAdvices.Where(d => d.EndedAt == null),
                x => x.Unit.AdviceId,
                d => d.Id,
                (x, d) =>
                    new
                    {
                        x.Unit,
                        x.Arrival,
                        d.VendorId,
                    }
            )
            .AsNoTracking()
            .ToListAsync();
        var caught = units
            .Where(u =>
                scope.Catches(
                    new GoodsInQuestion(
                        u.Unit.ItemId!.Value,
                        u.VendorId,
                        u.Arrival.Id,
                        null,
                        u.Unit.SourceBatch,
                        u.Unit.Production is { } day ? (day, day) : null,
                        u.Unit.Serial
                    )
                )
            )
            .GroupBy(u => (u.Arrival.Id, Item: u.Unit.ItemId!.Value))
            .ToList();
        if (caught.Count == 0)
            return [];
        var arrivals = caught.Select(g => g.Key.Id).Distinct().ToList();
        var lots = (await RecalledLots.Of(db, scope)).Where(l => l.Lot.ArrivalId is { } a && arrivals.Contains(a)).ToList();
        var lotIds = lots.ConvertAll(l => (int?)l.Lot.Id);
        var counted = (
            await db
                .TallyEntries.Where(e => arrivals.Contains(e.ArrivalId) && e.TakenBackAt == null && lotIds.Contains(e.LotId))
                .Select(e => new
                {
                    e.ArrivalId,
                    e.ItemId,
                    e.Quantity,
                })
                .ToListAsync()
        ).ToLookup(e => (e.ArrivalId, e.ItemId), e => e.Quantity);
        return
        [
            .. caught
                .Select(g => new RecallComing(g.First().Arrival, g.Key.Item, g.Sum(u => u.Unit.Quantity) - counted[g.Key].Sum()))
                .Where(c => c.Quantity > 0)
                .OrderBy(c => c.Arrival.Number, StringComparer.Ordinal),
        ];
    }

    /// <summary>Goods here that a recall may be about, because what would tell was never recorded: of the items it is about, and of its
    /// vendors or of nobody known; the oldest first.</summary>
    public static async Task<IReadOnlyList<(LotInQuestion Lot, decimal Quantity)>> Suspects(
        MudRoomDb db,
        RecallScope scope,
        IReadOnlyCollection<int> items,
        IReadOnlyCollection<int> vendors,
        int most
    )
    {
        if (items.Count == 0)
            return [];
        var rows = (
            await db
                .Balances.Where(b => items.Contains(b.ItemId) && b.Quantity > 0 && b.LotId != null)
                .Select(b => new { Lot = b.LotId!.Value, b.Quantity })
                .ToListAsync()
        )
            .GroupBy(b => b.Lot)
            .ToDictionary(g => g.Key, g => g.Sum(b => b.Quantity));
        var lots = await RecalledLots.WithBatches(db, await LotReads.ByIds(db, [.. rows.Keys]));
        return
        [
            .. lots.Where(l => scope.Suspects(l.Goods()) && (l.Goods().VendorId is not { } v || vendors.Count == 0 || vendors.Contains(v)))
                .OrderBy(l => l.Lot.OpenedAt)
                .Take(most)
                .Select(l => (l, rows[l.Lot.Id])),
        ];
    }
}
