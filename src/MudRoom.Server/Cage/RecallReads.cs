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
    /// <summary>All of one.</summary>
    public static async Task<RecalledGoods> Of(MudRoomDb db, History history, SetUp setUp, Recall recall) =>
        (await Of(db, history, setUp, [recall]))[0];

    /// <summary>All of some, in their order: asked together, however many they are.</summary>
    public static async Task<IReadOnlyList<RecalledGoods>> Of(MudRoomDb db, History history, SetUp setUp, IReadOnlyList<Recall> recalls)
    {
        var scopes = recalls.Select(r => r.Scope).ToList();
        var batches = await RecalledLots.BatchesOf(db, scopes);
        var lots = (await RecalledLots.Of(db, scopes, batches)).ToDictionary(l => l.Lot.Id);
        var rows = await LotReads.Balances(db, [.. lots.Keys]);
        var said = (await RecalledLots.SaidBy(db, recalls, [.. rows.Select(b => b.LotId!.Value).Distinct()])).ToLookup(s =>
            (s.RecallId, s.LotId)
        );
        var crossing = await Crossing(db, history, scopes, batches, lots.Values);
        var coming = await Coming(db, scopes);
        return
        [
            .. recalls.Select(
                (recall, i) =>
                {
                    var stock = rows.Where(b => recall.Scope.Catches(lots[b.LotId!.Value].Goods(b.Serial)))
                        .Select(b =>
                            StockOf(
                                setUp,
                                recall,
                                lots[b.LotId!.Value],
                                b,
                                [.. said[(recall.Id, b.LotId!.Value)].Select(s => (s.Hold, s.IsOpen))]
                            )
                        )
                        .ToList();
                    var crossed = OfScope(recall.Scope, batches, lots.Values, crossing);
                    var gone = Netted(crossed);
                    return new RecalledGoods(
                        stock,
                        gone,
                        coming[i],
                        RecallFinding.Of(
                            [.. stock.Select(s => new RecallPart(s.Room, s.Row.Quantity, s.Missing, s.IsSeen, s.IsReleased))],
                            RecallFinding.GoneOf([
                                .. crossed.Select(e => new RecallCrossing(
                                    e.Seq,
                                    e.ItemId!.Value,
                                    Beyond(e),
                                    Crossings.Left([e]),
                                    e.Undoes
                                )),
                            ]),
                            coming[i].Sum(c => c.Quantity)
                        )
                    );
                }
            ),
        ];
    }

    static RecallStock StockOf(SetUp setUp, Recall recall, LotInQuestion lot, Balance row, IReadOnlyList<(string Hold, bool IsOpen)> said)
    {
        var spot = new RecallSpot(row.LotId!.Value, row.BinId, row.UnitId, row.Serial);
        var open = said.FirstOrDefault(h => h.IsOpen).Hold;
        return new RecallStock(
            lot,
            row,
            RecallFinding.RoomOf(setUp.Bins[row.BinId].Function),
            // What has left a place since was found there, whoever moved it.
            Math.Min(row.Quantity, recall.StillMissing.Where(m => m.Spot == spot).Sum(m => m.Quantity)),
            recall.Seen.Any(s => s.Spot == spot),
            open,
            said.Count > 0 && open is null
        );
    }

    /// <summary>What of a recall has left the house, by whom it went to and by what papers.</summary>
    public static async Task<IReadOnlyList<RecallGone>> Gone(MudRoomDb db, History history, RecallScope scope)
    {
        var batches = await RecalledLots.BatchesOf(db, [scope]);
        var lots = await RecalledLots.Of(db, [scope], batches);
        return Netted(OfScope(scope, batches, lots, await Crossing(db, history, [scope], batches, lots)));
    }

    /// <summary>Entries by which goods of some recalls left the house or came back, and were not counted in unless a customer sent them
    /// back: by the keys of their batches, by an advice of their lots, by serial numbers of the pieces.</summary>
    static async Task<IReadOnlyList<LedgerEntry>> Crossing(
        MudRoomDb db,
        History history,
        IReadOnlyList<RecallScope> scopes,
        IReadOnlyList<Batch> batches,
        IEnumerable<LotInQuestion> lots
    )
    {
        var advised = scopes.Where(s => s.By == RecallBy.Advice).ToList();
        var keys = scopes.Where(s => s.By == RecallBy.Serial).SelectMany(s => s.Keys).ToList();
        var serials = keys.Count == 0 ? [] : await history.Spellings(ReferenceKind.Serial, keys).ToListAsync();
        return
        [
            .. await Of(ReferenceKind.Batch, [.. batches.Select(b => Reference.Batch(b.Id).Id)]),
            .. await Of(
                ReferenceKind.Lot,
                [.. lots.Where(l => advised.Exists(s => s.Catches(l.Goods()))).Select(l => new Reference(ReferenceKind.Lot, l.Lot.Id).Id)]
            ),
            .. await Of(ReferenceKind.Serial, serials),
        ];

        async Task<IReadOnlyList<LedgerEntry>> Of(ReferenceKind kind, IReadOnlyList<string> ids) =>
            ids.Count == 0
                ? []
                : await history
                    .AboutAny(kind, ids)
                    .Where(e =>
                        e.Quantity != null
                        && (e.FromAccount == Account.Bin) != (e.ToAccount == Account.Bin)
                        && e.FromAccount != Account.Transit
                        && e.ToAccount != Account.Transit
                        && e.FromAccount != Account.Regraded
                        && e.ToAccount != Account.Regraded
                        && (
                            !RecallFinding.CountedIn.Contains(e.Kind)
                            || e.FromAccount == Account.Customer
                            || e.ToAccount == Account.Customer
                        )
                    )
                    .AsNoTracking()
                    .ToListAsync();
    }

    /// <summary>Of such entries those of one recall.</summary>
    static List<LedgerEntry> OfScope(
        RecallScope scope,
        IReadOnlyList<Batch> batches,
        IEnumerable<LotInQuestion> lots,
        IReadOnlyList<LedgerEntry> crossing
    )
    {
        var ofBatch = batches.Where(b => RecalledLots.IsOf(scope, b)).Select(b => (int?)b.Id).ToHashSet();
        var ofLot = scope.By == RecallBy.Advice ? lots.Where(l => scope.Catches(l.Goods())).Select(l => (int?)l.Lot.Id).ToHashSet() : [];
        bool IsOf(LedgerEntry entry) =>
            scope.By switch
            {
                RecallBy.SourceBatch or RecallBy.Batch or RecallBy.Produced => ofBatch.Contains(entry.BatchId),
                RecallBy.Serial => entry.ItemId == scope.ItemId
                    && entry.Serial is { } serial
                    && scope.Keys.Contains(RecallScope.Key(serial)),
                RecallBy.Advice => ofLot.Contains(entry.LotId) || ofLot.Contains(entry.ToLotId),
                _ => throw new ArgumentOutOfRangeException(nameof(scope), scope.By, null),
            };
        return [.. crossing.Where(IsOf).DistinctBy(e => e.Seq)];
    }

    /// <summary>Where goods went to, or came back from.</summary>
    static Account Beyond(LedgerEntry entry) => entry.Movement!.From.IsInside ? entry.Movement.To.Account : entry.Movement.From.Account;

    /// <summary>Such entries added up by where the goods went and by what papers.</summary>
    static IReadOnlyList<RecallGone> Netted(IReadOnlyList<LedgerEntry> crossed) =>
        [
            .. crossed
                .GroupBy(e => (e.SiteId, Item: e.ItemId!.Value, To: Beyond(e), e.Subject))
                .Select(g => new RecallGone(g.Key.SiteId, g.Key.Item, g.Key.To, g.Key.Subject, Crossings.Left(g), g.MaxBy(e => e.Seq)!))
                .Where(g => g.Quantity != 0)
                .OrderByDescending(g => g.Last.Seq),
        ];

    /// <summary>What is announced of some recalls and not counted yet, in their order, by arrival.</summary>
    public static async Task<IReadOnlyList<IReadOnlyList<RecallComing>>> Coming(MudRoomDb db, IReadOnlyList<RecallScope> scopes)
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
        var known = units.ConvertAll(u =>
            (
                u.Unit,
                u.Arrival,
                Goods: new GoodsInQuestion(
                    u.Unit.ItemId!.Value,
                    u.VendorId,
                    u.Arrival.Id,
                    null,
                    u.Unit.SourceBatch,
                    u.Unit.Production is { } day ? (day, day) : null,
                    u.Unit.Serial
                )
            )
        );
        var caught = scopes.Select(scope => known.Where(u => scope.Catches(u.Goods)).ToList()).ToList();
        var arrivals = caught.SelectMany(c => c).Select(u => u.Arrival.Id).Distinct().ToList();
        if (arrivals.Count == 0)
            return [.. scopes.Select(_ => (IReadOnlyList<RecallComing>)[])];
        var lots = await RecalledLots.WithBatches(db, await db.Lots.Where(l => arrivals.Contains(l.ArrivalId!.Value)).ToListAsync());
        var counted = await db
            .TallyEntries.Where(e => arrivals.Contains(e.ArrivalId) && e.TakenBackAt == null)
            .Select(e => new
            {
                e.ArrivalId,
                e.ItemId,
                e.LotId,
                e.Serial,
                e.Quantity,
            })
            .ToListAsync();
        var byLot = lots.ToDictionary(l => l.Lot.Id);
        return
        [
            .. scopes.Select(
                (scope, i) =>
                {
                    var here = counted
                        .Where(e => e.LotId is { } id && byLot.GetValueOrDefault(id) is { } lot && scope.Catches(lot.Goods(e.Serial)))
                        .ToLookup(e => (e.ArrivalId, e.ItemId), e => e.Quantity);
                    return (IReadOnlyList<RecallComing>)
                        [
                            .. caught[i]
                                .GroupBy(u => (u.Arrival.Id, Item: u.Unit.ItemId!.Value))
                                .Select(g => new RecallComing(
                                    g.First().Arrival,
                                    g.Key.Item,
                                    g.Sum(u => u.Unit.Quantity) - here[g.Key].Sum()
                                ))
                                .Where(c => c.Quantity > 0)
                                .OrderBy(c => c.Arrival.Number, StringComparer.Ordinal),
                        ];
                }
            ),
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
        var stand = db.Balances.Where(b => items.Contains(b.ItemId) && b.Quantity > 0 && b.LotId != null);
        // By batches most goods are known: only the others are read.
        if (scope.By == RecallBy.Batch)
            stand = stand.Where(b => b.BatchId == null);
        else if (scope.By == RecallBy.SourceBatch)
            stand = stand.Where(b => !db.Batches.Any(x => x.Id == b.BatchId && x.SourceBatchId != null));
        var rows = (await stand.Select(b => new { Lot = b.LotId!.Value, b.Quantity }).ToListAsync())
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
