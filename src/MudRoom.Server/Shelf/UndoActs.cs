using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Shelf;

/// <summary>Undoes the act of an entry.</summary>
/// <param name="Entry">One of its entries, by its number.</param>
public sealed record UndoRequest(long Entry, string Reason);

/// <summary>
/// Undoes what was done with goods, from its entries: each movement is turned round, the last first, to the lot; what the act settled of
/// what is said holds again, and what it said is settled. Refused where the goods have gone further.
/// </summary>
public static class UndoActs
{
    /// <summary>Entries of one act stand one after another; so far to either side they are looked for.</summary>
    const int Widest = 5_000;

    public static void Map(SiteRoutes routes) => routes.Act<UndoRequest, DoneAnswer>("/book/undo", Right.See, Run);

    public static async Task<Outcome<DoneAnswer>> Run(Act act, UndoRequest request)
    {
        var entry = await act.Db.Ledger.FirstOrDefaultAsync(e => e.SiteId == act.Site.Id && e.Seq == request.Entry);
        if (entry is null)
            return Problems.NotFound("entry", request.Entry.ToString(System.Globalization.CultureInfo.InvariantCulture));
        if (Undo.RightFor(entry.Kind) is not { } right)
            return new Refusal(BookRefusals.NotUndone, "This is not undone from the book.", "Take it back where it was done.");
        if (!act.May(right))
            return new Refusal(HouseRefusals.RightMissing, "You have not the right to do this.", $"Ask {Rights.WhoMay(right)}.");
        if (request.Reason.OrNull() is not { Length: <= 200 } reason)
            return new Refusal(HouseRefusals.ReasonMissing, "Undoing wants a reason of at most 200 characters.", "Say why.");
        var entries = await act
            .Db.Ledger.Where(e => e.Seq > entry.Seq - Widest && e.Seq < entry.Seq + Widest && e.ActId == entry.ActId)
            .OrderByDescending(e => e.Seq)
            .ToListAsync();
        var seqs = entries.ConvertAll(e => (long?)e.Seq);
        if (await act.Db.Ledger.AnyAsync(e => seqs.Contains(e.Undoes)))
            return new Refusal(DoorRefusals.TakenBack, "That was taken back already.", "There is nothing to do.");
        if (entries.Find(e => e.Kind == EntryKind.HoldLaid) is { } laid)
            return new Refusal(BookRefusals.NotUndone, $"{laid.Subject} was laid with it.", $"Lift {laid.Subject} instead.");
        if (entry.Kind == EntryKind.Decided && !await act.Db.Statements.AnyAsync(s => s.SettledBy == entry.ActId))
            return new Refusal(
                BookRefusals.NotUndone,
                $"The goods of {entry.Subject} were worked on. That freed nothing and brought nothing away.",
                "Decide over them again."
            );
        foreach (var each in entries)
            if (await TurnRound(act, each, reason) is { } refusal)
                return refusal;
        var lots = await LotReads.ByIds(
            act.Db,
            [.. entries.SelectMany(e => new[] { e.LotId, e.ToLotId }).OfType<int>().Union(await SettledLots(act, entry.ActId))]
        );
        if (await SayAgain(act, lots, entry.ActId) is { } fixedNow)
            return fixedNow;
        await VendorReturns.Undo(act, entries.ConvertAll(e => e.Seq));
        var undone = Undone(entry, reason);
        await Lots.Restand(act, lots, undone);
        await Receipts.Moved(act);
        act.Touch("book", "shelf", "cage", "bench", "door", "house");
        return new DoneAnswer(act.Words(undone) + WithIt(act, entry, entries));
    }

    /// <summary>What one act did with goods of several lots stands in as many entries: all of it is taken back, and said.</summary>
    static string WithIt(Act act, LedgerEntry entry, IReadOnlyList<LedgerEntry> entries)
    {
        const int told = 3;
        var others = entries.Where(e => e.Seq != entry.Seq && e.Kind == entry.Kind && e.Movement is not null).OrderBy(e => e.Seq).ToList();
        if (others.Count == 0)
            return "";
        var words = others.Take(told).Select(e => e.Words(act.Site.Wording).TrimEnd('.'));
        return $" With it: {string.Join("; ", words)}{(others.Count > told ? $"; and {others.Count - told} more" : "")}.";
    }

    static Undone Undone(LedgerEntry entry, string reason) =>
        new(entry.Subject, entry.What, entry.What is null ? entry.Sentence : null, reason)
        {
            About =
                entry.HashVersion >= 3 ? entry.Named
                : References.OfSubject(entry.Kind, entry.Subject) is { } thing ? [thing]
                : [],
        };

    /// <summary>The counter-entry of one entry. Goods must stand where it brought them, of their lot, and on nobody's task.</summary>
    static async Task<Refusal?> TurnRound(Act act, LedgerEntry entry, string reason)
    {
        var back = entry.Movement?.Reversed();
        if (back is not null)
        {
            if (back.Goods.LotId is null)
                return new Refusal(BookRefusals.NotUndone, "That was before there were lots.", "Move the goods instead.");
            if (back.From.IsInside)
            {
                await act.Db.SaveChangesAsync();
                var there = (await act.Book.Oldest(back.Goods, back.From, back.Quantity)).Sum(p => p.Quantity);
                var all = (await act.Book.Oldest(back.Goods.OfAnyLot, back.From, decimal.MaxValue)).Sum(p => p.Quantity);
                var free = Promises.Free(all, await OpenTasks.TakenFrom(act.Db, back.Goods.OfAnyLot, back.From));
                if (Math.Min(there, free) < back.Quantity)
                    return Gone(act, back, Math.Min(there, free));
            }
        }

        if (back is { From.IsInside: false, To.IsInside: true } && await HereAlready(act, back) is { } twice)
            return twice;
        act.Write(Undone(entry, reason), back, entry.Seq);
        return null;
    }

    /// <summary>Goods that come back into the house, where they are there: the piece of that serial, or the unit somewhere else.</summary>
    static async Task<Refusal?> HereAlready(Act act, Movement back)
    {
        var (item, goods) = (act.SetUp.Catalogue[back.Goods.ItemId], back.Goods);
        await act.Db.SaveChangesAsync();
        if (
            goods.Serial is { } serial
            && CountRules.SerialElsewhere(
                item,
                serial,
                await act.Db.Balances.AnyAsync(b => b.ItemId == item.Id && b.Serial == serial),
                null
            )
                is { } here
        )
            return here;
        return
            goods.UnitId is { } unit
            && await act.Db.Balances.FirstOrDefaultAsync(b => b.UnitId == unit && b.BinId != back.To.BinId) is { } elsewhere
            ? new Refusal(
                DoorRefusals.GoneFurther,
                $"The unit they stood on is in {act.SetUp.Address(elsewhere.BinId)} now, not in {act.SetUp.Address(back.To.BinId)}.",
                "Take back first what was done with it since."
            )
            : null;
    }

    static Refusal Gone(Act act, Movement back, decimal left)
    {
        var item = act.SetUp.Catalogue[back.Goods.ItemId];
        return new Refusal(
            DoorRefusals.GoneFurther,
            $"Of {Quantities.Show(back.Quantity)} {item.UnitWord} of {item.Name}, {Quantities.Show(left)} are still free in "
                + $"{act.SetUp.Address(back.From.BinId)} as {act.Standings.Word(back.From.Standing!.Value)}: the rest has gone further.",
            "Take back first what was done with them since."
        );
    }

    /// <summary>Lots of which the act settled something: a lifted hold may have moved none of them.</summary>
    static Task<List<int>> SettledLots(Act act, Guid actId) =>
        act.Db.Statements.Where(s => s.SettledBy == actId).Select(s => s.LotId).Distinct().ToListAsync();

    /// <summary>What the act settled of lots that are there is said again; what it said is settled; and all who speak for them speak for
    /// what there is.</summary>
    static async Task<Refusal?> SayAgain(Act act, IReadOnlyList<Lot> lots, Guid actId)
    {
        await act.Db.SaveChangesAsync();
        var ids = lots.Select(l => l.Id).ToList();
        var there = (await LotReads.Balances(act.Db, ids))
            .GroupBy(b => b.LotId!.Value)
            .ToDictionary(g => g.Key, g => g.Sum(b => b.Quantity));
        var said = await act.Db.Statements.Where(s => ids.Contains(s.LotId)).ToListAsync();
        foreach (var statement in said.Where(s => there.ContainsKey(s.LotId)))
            if (statement.SettledBy == actId)
                statement.HoldsAgain();
            else if (statement.SaidBy == actId)
                statement.Settle(act.Now, act.Doer.ActId);
        await act.Db.SaveChangesAsync();

        var holdIds = said.Select(s => s.HoldId).OfType<int>().ToList();
        foreach (var hold in await act.Db.Holds.Where(h => holdIds.Contains(h.Id)).ToListAsync())
        {
            var now = await Lots.Quantity(act, await LotReads.Under(act.Db, hold));
            if (now != hold.Quantity)
                hold.HoldAgain(now);
        }

        var inspectionIds = said.Select(s => s.InspectionId).OfType<int>().ToList();
        foreach (var inspection in await act.Db.Inspections.MaySpeak().Where(i => inspectionIds.Contains(i.Id)).ToListAsync())
        {
            var more = await Lots.Quantity(act, await LotReads.Under(act.Db, inspection)) - inspection.Quantity;
            if (more != 0 && inspection.Grow(more) is { } drawn)
                return drawn;
        }

        return null;
    }
}
