using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>A lot with what a recall may ask of it.</summary>
public sealed record LotInQuestion(Lot Lot, Batch? Batch)
{
    /// <summary>What is known of its goods; of one piece of it where a serial is named.</summary>
    public GoodsInQuestion Goods(string? serial = null) =>
        RecalledLots.Known(Lot.ItemId, Batch?.SourceBatch?.VendorId ?? Lot.VendorId, Lot.ArrivalId, Batch, serial);
}

/// <summary>The goods that recalls are about, and the holds that recalls lay on them.</summary>
public static class RecalledLots
{
    /// <summary>What is known of goods by their batch.</summary>
    public static GoodsInQuestion Known(int itemId, int? vendorId, int? arrivalId, Batch? batch, string? serial) =>
        new(
            itemId,
            vendorId,
            arrivalId,
            batch?.Number,
            batch?.SourceBatch?.Number,
            batch?.SourceBatch?.ProductionAsKnown is { } made ? (made.Date, made.LastDay) : null,
            serial,
            batch?.CameAsItemId
        );

    /// <summary>The open recalls that catch goods as they come.</summary>
    public static IReadOnlyList<Recall> Catching(SetUp setUp, GoodsInQuestion goods) =>
        setUp.Recalls.Count == 0 ? [] : [.. setUp.Recalls.Where(r => r.Scope.Catches(goods))];

    /// <summary>The batches that some recalls catch, whether or not any of them is left; none by what a batch does not know.</summary>
    public static async Task<IReadOnlyList<Batch>> BatchesOf(MudRoomDb db, IReadOnlyList<RecallScope> scopes)
    {
        var (sources, own) = (KeysOf(scopes, RecallBy.SourceBatch), KeysOf(scopes, RecallBy.Batch));
        var makers = scopes.Where(s => s.By == RecallBy.Produced).Select(s => s.VendorId).ToList();
        if (sources.Count + own.Count + makers.Count == 0)
            return [];
        // Each by an index of its own: a question for all of them at once would look at every batch there is.
        var named =
            own.Count == 0 ? [] : await db.Batches.Where(b => own.Contains(b.Number.ToUpper())).Select(b => (int?)b.Id).ToListAsync();
        var from =
            sources.Count == 0
                ? []
                : await db.SourceBatches.Where(b => sources.Contains(b.Number.ToUpper())).Select(b => (int?)b.Id).ToListAsync();
        if (makers.Count > 0)
            from.AddRange(
                await db.SourceBatches.Where(b => makers.Contains(b.VendorId) && b.Production != null).Select(b => (int?)b.Id).ToListAsync()
            );
        var may = await db
            .Batches.AsNoTracking()
            .Include(b => b.SourceBatch)
            .Where(b => named.Contains(b.Id) || from.Contains(b.SourceBatchId))
            .ToListAsync();
        return [.. may.Where(b => scopes.Any(s => IsOf(s, b)))];
    }

    /// <summary>True where a batch alone tells that a recall is about it.</summary>
    public static bool IsOf(RecallScope scope, Batch batch) =>
        scope.By is RecallBy.SourceBatch or RecallBy.Batch or RecallBy.Produced
        && scope.Catches(Known(batch.ItemId, batch.SourceBatch?.VendorId, null, batch, null));

    static IReadOnlyList<string> KeysOf(IReadOnlyList<RecallScope> scopes, RecallBy by) =>
        [.. scopes.Where(s => s.By == by).SelectMany(s => s.Keys).Distinct()];

    /// <summary>The lots of some recalls, to be looked at, at whatever site; by serial numbers all lots that some of the pieces stand
    /// in.</summary>
    public static async Task<IReadOnlyList<LotInQuestion>> Of(MudRoomDb db, IReadOnlyList<RecallScope> scopes) =>
        await Of(db, scopes, await BatchesOf(db, scopes));

    /// <inheritdoc cref="Of(MudRoomDb, IReadOnlyList{RecallScope})"/>
    /// <param name="caught">The batches that they catch.</param>
    public static async Task<IReadOnlyList<LotInQuestion>> Of(MudRoomDb db, IReadOnlyList<RecallScope> scopes, IReadOnlyList<Batch> caught)
    {
        var batches = caught.Select(b => (int?)b.Id).ToList();
        var (serials, advised) = (
            KeysOf(scopes, RecallBy.Serial),
            scopes.Where(s => s.By == RecallBy.Advice).Select(s => s.ArrivalId).ToList()
        );
        var items = scopes.Where(s => s.By == RecallBy.Serial).Select(s => s.ItemId).ToList();
        var pieces =
            serials.Count == 0
                ? []
                : await db
                    .Balances.Where(b => items.Contains(b.ItemId) && b.Serial != null && serials.Contains(b.Serial.ToUpper()))
                    .Select(b => b.LotId)
                    .Distinct()
                    .ToListAsync();
        var lots = await db
            .Lots.AsNoTracking()
            .Where(l => batches.Contains(l.BatchId) || advised.Contains(l.ArrivalId) || pieces.Contains(l.Id))
            .OrderBy(l => l.Id)
            .ToListAsync();
        var known = await WithBatches(db, lots);
        return [.. known.Where(l => pieces.Contains(l.Lot.Id) || scopes.Any(s => s.Catches(l.Goods())))];
    }

    /// <summary>Lots with their batches.</summary>
    public static async Task<IReadOnlyList<LotInQuestion>> WithBatches(MudRoomDb db, IReadOnlyList<Lot> lots)
    {
        var ids = lots.Select(l => l.BatchId).Distinct().ToList();
        var batches = await db
            .Batches.AsNoTracking()
            .Include(b => b.SourceBatch)
            .Where(b => ids.Contains(b.Id))
            .ToDictionaryAsync(b => b.Id);
        return [.. lots.Select(l => new LotInQuestion(l, l.BatchId is { } batch ? batches[batch] : null))];
    }

    /// <summary>Holds what a recall catches of some lots of this site, where it never did: what it has let go stays free of it. Whole lots,
    /// and of serial numbers the pieces alone.</summary>
    /// <returns>The lots that it holds now and did not before.</returns>
    public static async Task<IReadOnlyList<Lot>> Catch(Act act, Recall recall, IReadOnlyList<LotInQuestion> lots)
    {
        var said = (await SaidBy(act.Db, [recall], [.. lots.Select(l => l.Lot.Id)])).Select(s => s.LotId).ToHashSet();
        var may = new List<int>();
        foreach (var each in lots.Where(l => !said.Contains(l.Lot.Id)))
            if (recall.Scope.By == RecallBy.Serial)
                may.AddRange((await Pieces(act, recall, each)).Select(l => l.Id));
            else if (recall.Scope.Catches(each.Goods()))
                may.Add(each.Lot.Id);
        var there = (await LotReads.Balances(act.Db, may))
            .GroupBy(b => b.LotId!.Value)
            .ToDictionary(g => g.Key, g => g.Sum(b => b.Quantity));
        var caught = await LotReads.ByIds(act.Db, [.. there.Keys]);
        if (caught.Count == 0)
            return caught;
        var open = await act.Db.Holds.Where(h => h.SiteId == act.Site.Id && h.IsOpen && h.RecallId == recall.Id).ToListAsync();
        // Every step for all of them at once: other acts wait meanwhile.
        var held = new List<(IReadOnlyList<Lot> Lots, Hold Hold, decimal Quantity)>();
        foreach (var group in caught.GroupBy(l => (l.ItemId, l.BatchId)))
            held.Add(
                (
                    [.. group],
                    await Join(act, recall, act.SetUp.Catalogue[group.Key.ItemId], group.Key.BatchId, open),
                    group.Sum(l => there[l.Id])
                )
            );
        await act.Db.SaveChangesAsync();
        var laid = new Dictionary<int, Fact>();
        foreach (var (lotsOf, hold, quantity) in held)
        {
            // Open: it was just looked for as such, or made.
            _ = hold.Grow(quantity, act.Site.LocalTime);
            Lots.Say(act, lotsOf, hold);
            var item = act.SetUp.Catalogue[hold.ItemId];
            var fact = new HoldLaid(hold.Number, item.Name, Amount.Of(quantity, item), null, hold.Sentence)
            {
                About = [.. Lots.About(lotsOf), Reference.Recall(recall.Number)],
            };
            act.Write(fact);
            foreach (var lot in lotsOf)
                laid[lot.Id] = fact;
        }

        await Lots.Restand(act, caught, lot => laid[lot]);
        return caught;
    }

    /// <summary>What the holds of some recalls say of lots, or have said.</summary>
    public static async Task<IReadOnlyList<(int RecallId, int LotId, string Hold, bool IsOpen)>> SaidBy(
        MudRoomDb db,
        IReadOnlyList<Recall> recalls,
        IReadOnlyList<int> lots
    )
    {
        // A drill says nothing.
        var ids = recalls.Where(r => !r.IsDrill).Select(r => (int?)r.Id).ToList();
        if (ids.Count == 0 || lots.Count == 0)
            return [];
        var said = await db
            .Statements.Where(s => lots.Contains(s.LotId))
            .Join(
                db.Holds.Where(h => ids.Contains(h.RecallId)),
                s => s.HoldId,
                h => h.Id,
                (s, h) =>
                    new
                    {
                        RecallId = h.RecallId!.Value,
                        s.LotId,
                        h.Number,
                        // Under a concession it keeps nothing back.
                        IsOpen = s.SettledAt == null && s.Asks != Standing.Usable,
                    }
            )
            .ToListAsync();
        return said.ConvertAll(s => (s.RecallId, s.LotId, s.Number, s.IsOpen));
    }

    /// <summary>Of a lot the pieces that a recall names, parted from the rest as one lot.</summary>
    static async Task<IReadOnlyList<Lot>> Pieces(Act act, Recall recall, LotInQuestion of)
    {
        var rows = (await LotReads.Balances(act.Db, [of.Lot.Id])).Where(b => recall.Scope.Catches(of.Goods(b.Serial))).ToList();
        return rows.Count == 0 ? [] : [await Lots.PartRows(act, of.Lot, rows, recall.Number)];
    }

    /// <summary>The open hold of a recall that goods of a batch join at this site, or a new one.</summary>
    public static async Task<Hold> HoldFor(Act act, Recall recall, Item item, int? batchId)
    {
        var open = await act
            .Db.Holds.Where(h => h.SiteId == act.Site.Id && h.IsOpen && h.RecallId == recall.Id && h.ItemId == item.Id)
            .ToListAsync();
        var hold = await Join(act, recall, item, batchId, open);
        await act.Db.SaveChangesAsync();
        return hold;
    }

    /// <summary>The one of some open holds of a recall that goods of a batch join, or a new one, which the caller writes.</summary>
    static async Task<Hold> Join(Act act, Recall recall, Item item, int? batchId, IReadOnlyList<Hold> open)
    {
        var wants = HoldCondition.From(recall.Wants.Select(w => ("", w)), act.Now);
        if (open.FirstOrDefault(h => h.ItemId == item.Id && h.BatchId == batchId && h.CameFromId is null && h.MayJoin(wants)) is { } there)
            return there;
        var hold = new Hold
        {
            Number = await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = batchId,
            Reason = HoldReason.Recall,
            RecallId = recall.Id,
            Sentence = $"{recall.Number}: {recall.Why}",
            Since = act.Now,
            LaidBy = recall.By,
        }.Wanting(wants);
        act.Db.Holds.Add(hold);
        return hold;
    }

    /// <summary>Goods have come into the house by another way than a count: what an open recall is about is held.</summary>
    public static async Task CatchAll(Act act, IReadOnlyList<int> lots)
    {
        await act.Db.SaveChangesAsync();
        var known = await WithBatches(act.Db, await LotReads.ByIds(act.Db, lots));
        foreach (var recall in act.SetUp.Recalls)
            await Catch(act, recall, known);
    }
}

/// <summary>After every act: what has come into the house and is recalled is held. Counts see to it themselves.</summary>
public sealed class RecallsFollow : IAfterAct
{
    public async Task After(Act act)
    {
        if (act.SetUp.Recalls.Count == 0 || act.InHand.Stays)
            return;
        var came = act
            .Book.Written.Where(e => e.Kind != EntryKind.Counted && e.Movement is { From.IsInside: false, To.IsInside: true })
            .Select(e => e.ToLotId ?? e.LotId)
            .OfType<int>()
            .Distinct()
            .ToList();
        if (came.Count > 0)
            await RecalledLots.CatchAll(act, came);
    }
}
