using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>Takes back one count, or all that was counted on one line.</summary>
/// <param name="Arrival">The arrival.</param>
/// <param name="Count">The act id of the count; null for the person's own last one.</param>
/// <param name="Reason">Why. Needed for a whole line and for what somebody else has counted.</param>
/// <param name="Part">The order line part whose counts are all taken back, each whole, also where it went to other lines too; null for one
/// count.</param>
/// <param name="Serial">Of pieces that were counted together, the one that is taken back; null for all of the count.</param>
public sealed record TakeBackRequest(string Arrival, Guid? Count, string? Reason, int? Part = null, string? Serial = null);

/// <summary>What was taken back.</summary>
public sealed record TakeBackAnswer(string Sentence);

/// <summary>Takes counts back by counter-entries, all of them or none, as long as the goods have not gone further.</summary>
public static class TakeBack
{
    public static void Map(SiteRoutes routes) =>
        routes.Act<TakeBackRequest, TakeBackAnswer>("/door/take-back", Right.Tally, Run, blind: BlindView.Open);

    public static async Task<Outcome<TakeBackAnswer>> Run(Act act, TakeBackRequest request)
    {
        if (request.Part is not null && (!act.May(Right.CloseTally) || BlindCount.Applies(act.DoorSettings, act.Person.Roles)))
            return new Refusal(
                HouseRefusals.RightMissing,
                "A whole line is taken back by a supervisor.",
                "Take back your own counts one by one, or call one."
            );
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var entries = await Entries(act, arrival, request);
        if (entries.Count == 0)
            return new Refusal(HouseRefusals.NothingToTakeBack, "There is no count to take back.", "Look at the trail.");
        if (entries.Any(e => e.ReceiptId is not null))
            return new Refusal(DoorRefusals.Posted, "The count stands on a posted receipt.", "Open the tally again first.");
        var reason = request.Reason.OrNull();
        if (reason is { Length: > 200 } || reason is null && (request.Part is not null || entries.Any(e => e.PersonId != act.Person.Id)))
            return new Refusal(
                HouseRefusals.NoteMissing,
                $"Say in at most 200 characters why {(request.Part is null ? $"what {entries[0].PersonName} counted" : "the line")} "
                    + $"is taken back.",
                "Type the reason."
            );
        if (await Undoing.First(act, entries, papersOnly: false) is { } gone)
            return gone;
        if (await Undo(act, arrival, entries, reason) is { } no)
            return no;

        act.Touch("arrival:" + arrival.Number, "door", "shelf", "bench", "cage", "house");
        var goods = entries
            .GroupBy(e => act.SetUp.Catalogue[e.ItemId])
            .Select(g => $"{Quantities.Show(g.Sum(e => e.Quantity))} {g.Key.UnitWord} of {g.Key.Name}");
        return new TakeBackAnswer($"Taken back: {string.Join(", ", goods)}.");
    }

    static async Task<List<TallyEntry>> Entries(Act act, Arrival arrival, TakeBackRequest request)
    {
        var open = act.Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null);
        if (request.Part is { } part)
        {
            var ofLine = open.Where(e => e.PartId == part).Select(e => e.ActId);
            return await open.Where(e => ofLine.Contains(e.ActId)).OrderBy(e => e.Id).ToListAsync();
        }

        var actId = request.Count
            ?? await open.Where(e => e.PersonId == act.Person.Id)
                .OrderByDescending(e => e.Id)
                .Select(e => (Guid?)e.ActId)
                .FirstOrDefaultAsync();
        // Each piece with a serial number is a count of its own, however many were counted in one go.
        return actId is { } id
            ? await open.Where(e => e.ActId == id && (request.Serial == null || e.Serial == request.Serial)).ToListAsync()
            : [];
    }

    static async Task<Refusal?> Undo(Act act, Arrival arrival, List<TallyEntry> entries, string? reason)
    {
        var (parts, written) = (Ids(entries, e => e.PartId), entries.Select(e => e.LedgerSeq).ToList());
        var lineOf = await act
            .Db.ManifestLines.Include(m => m.Part)
            .Where(m => m.ArrivalId == arrival.Id && parts.Contains(m.PartId))
            .ToDictionaryAsync(m => m.PartId);
        var ledger = await act.Db.Ledger.Where(e => written.Contains(e.Seq)).ToDictionaryAsync(e => e.Seq);
        foreach (var lot in entries.Where(e => e.LotId is not null).GroupBy(e => e.LotId!.Value))
            if (await Lots.Shrink(act, lot.Key, lot.Sum(e => e.Quantity)) is { } judged)
                return judged;
        foreach (var entry in entries)
        {
            var line = entry.PartId is { } p ? lineOf[p] : null;
            line?.TakeBack(entry.Quantity);
            line?.Part!.TakeBack(entry.Quantity);
            entry.TakeBack(act.Now);
            var movement = ledger[entry.LedgerSeq].Movement!.Reversed();
            // An entry from before there were lots names none.
            movement = movement with { Goods = movement.Goods with { LotId = entry.LotId } };
            if (movement.To.Account == Account.Transit)
                line?.BackInTransit(entry.Quantity);
            var item = act.SetUp.Catalogue[entry.ItemId];
            act.Write(
                new CountTakenBack(arrival.Number, Amount.Of(entry.Quantity, item), reason) { About = ledger[entry.LedgerSeq].Named },
                movement,
                entry.LedgerSeq
            );
        }

        var acts = entries.Select(e => (Guid?)e.ActId).Distinct().ToList();
        foreach (var difference in await act.Db.Discrepancies.Where(d => d.ArrivalId == arrival.Id && acts.Contains(d.ActId)).ToListAsync())
            difference.TakenBack = true;
        return null;
    }

    static List<int> Ids(List<TallyEntry> entries, Func<TallyEntry, int?> id) => [.. entries.Select(id).OfType<int>().Distinct()];
}
