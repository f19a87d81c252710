using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>Goods that have one standing now.</summary>
/// <param name="Quantity">How much, in base units.</param>
/// <param name="Holds">The holds that say something of some of them, by id.</param>
public sealed record StandsNow(decimal Quantity, IReadOnlyCollection<int> Holds)
{
    public static StandsNow Nothing { get; } = new(0, []);

    public StandsNow And(decimal quantity, IEnumerable<int> holds) => new(Quantity + quantity, [.. Holds.Union(holds)]);
}

/// <summary>What a count says of the lot that it adds to.</summary>
/// <param name="KeptBy">The reservation that keeps it for somebody; null for nobody.</param>
public sealed record SaidAtCount(IReadOnlyList<Hold> Holds, IReadOnlyList<Inspection> Inspections, int? KeptBy = null);

/// <summary>Lots, and what is said of them. Whatever changes a statement ends in <see cref="Restand"/>, which asks the one rule.</summary>
public static class Lots
{
    static readonly Func<MudRoomDb, string, Lot?> byCountKey = EF.CompileQuery(
        (MudRoomDb db, string key) => db.Lots.AsNoTracking().FirstOrDefault(l => l.CountKey == key && l.ReceiptId == null)
    );

    /// <summary>The lot that a count adds to; a new one where there is none, with what is said of it.</summary>
    public static async Task<int> ForCount(Act act, int arrivalId, int vendorId, Item item, int? batchId, SaidAtCount said)
    {
        var key = Lot.CountKeyOf(
            arrivalId,
            vendorId,
            item.Id,
            batchId,
            said.Holds.Select(h => h.Id),
            said.Inspections.Select(i => i.Id),
            said.KeptBy
        );
        if (act.InHand.Get("lot " + key, () => byCountKey(act.Db, key)) is { } there)
            return there.Id;
        var lot = new Lot
        {
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = batchId,
            Origin = LotOrigin.Counted,
            OpenedAt = act.Now,
            ArrivalId = arrivalId,
            VendorId = vendorId,
            CountKey = key,
        };
        act.Db.Lots.Add(lot);
        await act.Db.SaveChangesAsync();
        foreach (var hold in said.Holds)
            act.Db.Statements.Add(StatementOf(act, lot.Id, hold.Asks, hold.Id, null));
        foreach (var inspection in said.Inspections)
            act.Db.Statements.Add(StatementOf(act, lot.Id, inspection.Asks, null, inspection.Id));
        // It keeps nothing back from who waits; who else may have it is asked where goods leave.
        if (said.KeptBy is { } reservation)
            act.Db.Statements.Add(StatementOf(act, lot.Id, Standing.Usable, null, null, reservation));
        return lot.Id;
    }

    /// <summary>A lot of its own, which no count adds to.</summary>
    public static async Task<Lot> Open(Act act, Item item, int? batchId, LotOrigin origin)
    {
        var lot = new Lot
        {
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = batchId,
            Origin = origin,
            OpenedAt = act.Now,
        };
        act.Db.Lots.Add(lot);
        await act.Db.SaveChangesAsync();
        return lot;
    }

    /// <summary>A hold says that lots may not be used. What is counted from now on is not of them.</summary>
    public static void Say(Act act, IEnumerable<Lot> lots, Hold hold)
    {
        foreach (var lot in lots)
            Say(act, lot, hold.Asks, hold.Id, null);
    }

    /// <summary>An inspection says that a lot waits for its verdict. What is counted from now on is not of it.</summary>
    public static void Say(Act act, Lot lot, Inspection inspection) => Say(act, lot, inspection.Asks, null, inspection.Id);

    /// <summary>An inspection asks another standing of some of its lots than before.</summary>
    public static async Task AskOf(Act act, Inspection inspection, IReadOnlyList<Lot> lots, Standing asks)
    {
        await act.Db.SaveChangesAsync();
        foreach (var lot in lots)
            lot.TakesNoMore();
        foreach (var statement in (await LotReads.Said(act.Db, Ids(lots))).Where(s => s.InspectionId == inspection.Id))
            statement.Asks = asks;
    }

    /// <summary>A hold asks another standing of its lots than before, since something was decided over them or taken back.</summary>
    public static async Task AskOf(Act act, Hold hold, IReadOnlyList<Lot> lots)
    {
        await act.Db.SaveChangesAsync();
        foreach (var statement in (await LotReads.Said(act.Db, Ids(lots))).Where(s => s.HoldId == hold.Id && s.Asks != hold.Asks))
            statement.Asks = hold.Asks;
    }

    static void Say(Act act, Lot lot, Standing asks, int? hold, int? inspection)
    {
        lot.TakesNoMore();
        act.Db.Statements.Add(StatementOf(act, lot.Id, asks, hold, inspection));
    }

    static Statement StatementOf(Act act, int lotId, Standing asks, int? hold, int? inspection, int? reservation = null) =>
        new()
        {
            SiteId = act.Site.Id,
            LotId = lotId,
            HoldId = hold,
            InspectionId = inspection,
            ReservationId = reservation,
            Asks = asks,
            Since = act.Now,
            SaidBy = act.Doer.ActId,
        };

    /// <summary>The line of stock that a balance belongs to.</summary>
    public static Task<StockLine> LineOf(MudRoomDb db, Balance row) => LineAt(db, row.Goods, row.Place);

    /// <summary>The line of goods at a place, of whatever lots; there must be one.</summary>
    public static async Task<StockLine> LineAt(MudRoomDb db, Goods goods, Place at) =>
        StockLine.Of(await db.Balances.Of(goods, at).ToListAsync()).Single();

    /// <summary>The lots of a line of stock, the oldest first.</summary>
    public static Task<List<Lot>> Of(Act act, StockLine line) => LotReads.ByIds(act.Db, line.Lots);

    /// <summary>What a hold says of these lots is settled.</summary>
    public static Task Settle(Act act, Hold hold, IReadOnlyList<Lot> lots) => Settle(act, lots, s => s.HoldId == hold.Id);

    /// <summary>What an inspection says of these lots is settled.</summary>
    public static Task SettleInspection(Act act, int inspectionId, IReadOnlyList<Lot> lots) =>
        Settle(act, lots, s => s.InspectionId == inspectionId);

    /// <summary>These lots are kept for nobody any more.</summary>
    public static Task SettleKeeping(Act act, IReadOnlyList<Lot> lots) => Settle(act, lots, s => s.ReservationId is not null);

    /// <summary>What is counted from now on is of other lots: of these something else is said than when they were counted.</summary>
    static async Task Settle(Act act, IReadOnlyList<Lot> lots, Func<Statement, bool> which)
    {
        foreach (var lot in lots)
            lot.TakesNoMore();
        foreach (var statement in (await LotReads.Said(act.Db, Ids(lots))).Where(which))
            statement.Settle(act.Now, act.Doer.ActId);
    }

    /// <summary>Moves every part of some lots to the standing that follows from what is said of them, wherever it stands: a movement per
    /// place.</summary>
    /// <param name="since">What happened that something else is said of them.</param>
    /// <param name="standings">What standings mean, where that is changed just now; null for as it is.</param>
    /// <returns>The standings they have now, with how much has each and what holds it.</returns>
    public static Task<IReadOnlyDictionary<Standing, StandsNow>> Restand(
        Act act,
        IReadOnlyList<Lot> lots,
        Fact since,
        SiteStandings? standings = null
    ) => Restand(act, lots, _ => since, standings);

    /// <inheritdoc cref="Restand(Act, IReadOnlyList{Lot}, Fact, SiteStandings?)"/>
    /// <param name="since">What happened, by lot.</param>
    public static async Task<IReadOnlyDictionary<Standing, StandsNow>> Restand(
        Act act,
        IReadOnlyList<Lot> lots,
        Func<int, Fact> since,
        SiteStandings? standings = null
    )
    {
        standings ??= act.Standings;
        await act.Db.SaveChangesAsync();
        var ids = Ids(lots);
        var said = (await LotReads.Said(act.Db, ids)).ToLookup(s => s.LotId);
        var now = new Dictionary<Standing, StandsNow>();
        foreach (var row in await LotReads.Balances(act.Db, ids))
        {
            var to = Statements.StandingOf(said[row.LotId!.Value], standings);
            var holds = said[row.LotId!.Value].Where(s => s.IsOpen).Select(s => s.HoldId).OfType<int>();
            now[to] = now.GetValueOrDefault(to, StandsNow.Nothing).And(row.Quantity, holds);
            if (row.Standing != to)
                act.Write(
                    new Restood(since(row.LotId.Value), row.Quantity, act.SetUp.Address(row.BinId), act.Standings.Word(to)),
                    new Movement(row.Goods, row.Quantity, row.Place, Place.In(row.BinId, to))
                );
        }

        await Join(act, ids, since);
        return now;
    }

    /// <summary>Parts of which the same is said again as of what they were split off join it, where both stand on the same receipt: what
    /// was undone is as if it had not been.</summary>
    static async Task Join(Act act, IReadOnlyList<int> ids, Func<int, Fact> since)
    {
        var children = await LotReads.Children(act.Db, ids);
        if (children.Count == 0)
            return;
        await act.Db.SaveChangesAsync();
        var parentIds = children.Select(l => l.ParentId!.Value).Distinct().ToList();
        var parents = (await LotReads.ByIds(act.Db, parentIds)).ToDictionary(l => l.Id);
        var family = children.Select(l => l.Id).Concat(parentIds).ToList();
        var said = (await act.Db.Statements.Where(s => family.Contains(s.LotId)).ToListAsync()).ToLookup(s => s.LotId);
        foreach (var child in children)
        {
            var parent = parents[child.ParentId!.Value];
            if (child.ReceiptId != parent.ReceiptId || !Statements.SayTheSame(said[child.Id], said[parent.Id]))
                continue;
            foreach (var statement in said[child.Id])
                statement.Settle(act.Now, act.Doer.ActId);
            var subject = since(ids.Contains(child.Id) ? child.Id : parent.Id).Subject;
            foreach (var row in await LotReads.Balances(act.Db, [child.Id]))
                act.Write(
                    new LotJoined(subject, row.Quantity, act.SetUp.Address(row.BinId), parent.Id),
                    new Movement(row.Goods, row.Quantity, row.Place, row.Place, parent.Id)
                );
            await act.Db.SaveChangesAsync();
        }
    }

    /// <summary>Brings all of some lots to an account outside: a movement per place. What is said of them goes with them; while a time of
    /// a hold runs, they stay, and what a customer sent back stays until it is found what it is.</summary>
    public static async Task<Outcome<IReadOnlyList<LedgerEntry>>> SendOut(Act act, IReadOnlyList<Lot> lots, Account to, Fact fact)
    {
        await act.Db.SaveChangesAsync();
        var ids = Ids(lots);
        var rows = await LotReads.Balances(act.Db, ids);
        foreach (var (hold, _) in await Speaking(act, ids))
            if (hold?.MayLeave(act.Now, act.Site.LocalTime) is { } stays)
                return stays;
        foreach (var lot in lots)
            if (await Shrink(act, lot.Id, rows.Where(b => b.LotId == lot.Id).Sum(b => b.Quantity)) is { } refusal)
                return refusal;
        foreach (var statement in await LotReads.Said(act.Db, ids))
            statement.Settle(act.Now, act.Doer.ActId);
        return (LedgerEntry[])[.. rows.Select(row => act.Write(fact, new Movement(row.Goods, row.Quantity, row.Place, new Place(to))))];
    }

    /// <summary>So much of a lot is gone: all that speak for it speak for less. A hold that holds nothing any more is settled.</summary>
    /// <param name="usedUp">True where it was used up at the bench: an inspection whose sample is drawn lets go of that only.</param>
    public static async Task<Refusal?> Shrink(Act act, int lotId, decimal quantity, bool usedUp = false)
    {
        foreach (var (hold, inspection) in await Speaking(act, [lotId]))
        {
            if (hold?.Shrink(quantity, act.Now, act.Person.Name, act.Site.LocalTime) is { } lifted)
                return lifted;
            if (usedUp)
                inspection?.UseUp(quantity);
            else if (inspection?.Shrink(quantity) is { } drawn)
                return drawn;
            if (hold is { IsOpen: false })
                foreach (var statement in await act.Db.Statements.Where(s => s.HoldId == hold.Id && s.SettledAt == null).ToListAsync())
                    statement.Settle(act.Now, act.Doer.ActId);
        }

        return null;
    }

    /// <summary>The holds and inspections that speak for some lots, each once.</summary>
    static async Task<IReadOnlyList<(Hold? Hold, Inspection? Inspection)>> Speaking(Act act, IReadOnlyList<int> ids)
    {
        var said = await LotReads.Said(act.Db, ids);
        var (holds, inspections) = (
            said.Select(s => s.HoldId).OfType<int>().ToList(),
            said.Select(s => s.InspectionId).OfType<int>().ToList()
        );
        return
        [
            .. (await act.Db.Holds.Where(h => holds.Contains(h.Id)).ToListAsync()).Select(h => ((Hold?)h, (Inspection?)null)),
            .. (await act.Db.Inspections.Where(i => inspections.Contains(i.Id)).ToListAsync()).Select(i => ((Hold?)null, (Inspection?)i)),
        ];
    }

    /// <summary>Of some lots so much, whole lots first: of the last, what is wanted is split off, with what is said of it.</summary>
    /// <param name="quantity">In base units, at most what the lots have.</param>
    /// <param name="at">Only what stands here; null for anywhere.</param>
    public static async Task<IReadOnlyList<Lot>> Part(
        Act act,
        IReadOnlyList<Lot> lots,
        decimal quantity,
        string subject,
        StockLine? at = null
    )
    {
        await act.Db.SaveChangesAsync();
        var rows = (await LotReads.Balances(act.Db, Ids(lots))).Where(b => IsAt(b, at)).ToLookup(b => b.LotId!.Value);
        var there = (await LotReads.Balances(act.Db, Ids(lots)))
            .GroupBy(b => b.LotId!.Value)
            .ToDictionary(g => g.Key, g => g.Sum(b => b.Quantity));
        var portions = Portions.Of(lots, lot => rows[lot.Id].Sum(b => b.Quantity), quantity);
        if (portions.Sum(p => p.Takes) is var taken && taken != quantity)
            throw new InvalidOperationException($"{subject}: {quantity} were to be parted from lots that have {taken}.");
        var parts = new List<Lot>();
        foreach (var (lot, takes) in portions)
            parts.Add(takes == there[lot.Id] ? lot : await SplitOff(act, lot, rows[lot.Id], takes, subject));
        return parts;
    }

    /// <summary>Of a lot what stands in some of its rows, as a lot: itself where that is all of it, else split off with what is said of
    /// it.</summary>
    /// <param name="rows">Some of its balances.</param>
    public static async Task<Lot> PartRows(Act act, Lot lot, IReadOnlyList<Balance> rows, string subject)
    {
        await act.Db.SaveChangesAsync();
        return (await LotReads.Balances(act.Db, [lot.Id])).Count == rows.Count
            ? lot
            : await SplitOff(act, lot, rows, rows.Sum(b => b.Quantity), subject);
    }

    static async Task<Lot> SplitOff(Act act, Lot lot, IEnumerable<Balance> rows, decimal quantity, string subject)
    {
        var child = lot.SplitOff(act.Now);
        act.Db.Lots.Add(child);
        await act.Db.SaveChangesAsync();
        foreach (var statement in await act.Db.Statements.Where(s => s.LotId == lot.Id).ToListAsync())
            act.Db.Statements.Add(statement.Of(child.Id));
        foreach (var (row, takes) in Portions.Of(rows, r => r.Quantity, quantity))
            act.Write(
                new LotSplit(subject, takes, act.SetUp.Address(row.BinId), child.Id, lot.Id),
                new Movement(row.Goods, takes, row.Place, row.Place, child.Id)
            );

        await act.Db.SaveChangesAsync();
        return child;
    }

    /// <summary>The goods of some lots, as what an entry is about.</summary>
    public static IEnumerable<Reference> About(IReadOnlyList<Lot> lots) =>
        lots.SelectMany(l =>
            new[]
            {
                new Reference(ReferenceKind.Lot, l.Id),
                Reference.Item(l.ItemId),
                l.BatchId is { } batch ? Reference.Batch(batch) : Reference.Item(l.ItemId),
            }
        );

    /// <summary>Why something may not be done with some lots, by who says so; null where it may.</summary>
    /// <param name="verb">As in "may not be sampled".</param>
    /// <param name="but">A hold that is not asked: what is done is its own decision.</param>
    public static async Task<Refusal?> MayNot(Act act, IReadOnlyList<Lot> lots, Lets lets, string verb, Hold? but = null)
    {
        var said = await LotReads.Said(act.Db, Ids(lots));
        if (said.Find(s => s.IsOpen && (but is null || s.HoldId != but.Id) && !act.Standings[s.Asks].Lets.HasFlag(lets)) is not { } kept)
            return null;
        var by = (await Said.OfLots(act.Db, [kept.LotId]))[kept.LotId].First(s => s.HoldId == kept.HoldId);
        return new Refusal(
            HouseRefusals.NotLet,
            $"{by.Number} says that they are {act.Standings.Word(kept.Asks)}: they may not {verb}.",
            "Have it lifted first."
        );
    }

    /// <summary>True where nobody has inspected it yet and nothing else keeps it; see <see cref="Statements.WantsInspection"/>.</summary>
    public static async Task<bool> WantsInspection(Act act, Lot lot) =>
        Statements.WantsInspection(await act.Db.Statements.Where(s => s.LotId == lot.Id).ToListAsync());

    /// <summary>How much there is of some lots, in base units.</summary>
    /// <param name="at">Only what stands here; null for anywhere.</param>
    public static async Task<decimal> Quantity(Act act, IReadOnlyList<Lot> lots, StockLine? at = null) =>
        (await LotReads.Balances(act.Db, Ids(lots))).Where(b => IsAt(b, at)).Sum(b => b.Quantity);

    static bool IsAt(Balance balance, StockLine? at) => at is null || balance.Place == at.Place && balance.Goods.OfAnyLot == at.Goods;

    static List<int> Ids(IReadOnlyList<Lot> lots) => [.. lots.Select(l => l.Id)];
}
