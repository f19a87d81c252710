using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;
using MudRoom.Server.Shelf;

namespace MudRoom.Server.Door;

/// <summary>Takes a count back.</summary>
/// <param name="Arrival">The arrival.</param>
/// <param name="Count">The act id of the count; null for the person's own last one.</param>
/// <param name="Reason">Why.</param>
public sealed record TakeBackRequest(string Arrival, Guid? Count, string? Reason);

/// <summary>What was taken back.</summary>
public sealed record TakeBackAnswer(string Sentence);

/// <summary>Takes a count back by counter-entries, as long as the goods have not gone further.</summary>
public static class TakeBack
{
    public static void Map(SiteRoutes routes) => routes.Act<TakeBackRequest, TakeBackAnswer>("/door/take-back", Right.Tally, Run, blind: BlindView.Open);

    public static async Task<Outcome<TakeBackAnswer>> Run(Act act, TakeBackRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null) return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow) return notNow;
        var entries = await Entries(act, arrival, request.Count);
        if (entries.Count == 0) return new Refusal("nothing-to-take-back", "There is no count to take back.", "Look at the trail.");

        var item = act.SetUp.Catalogue[entries[0].ItemId];
        foreach (var entry in entries)
            if (await GoneFurther(act, entry, item) is { } gone) return gone;
        foreach (var entry in entries)
            if (await Undo(act, arrival, entry, item, request.Reason) is { } no) return no;
        var actId = entries[0].ActId;
        foreach (var discrepancy in await act.Db.Discrepancies.Where(d => d.ActId == actId).ToListAsync()) discrepancy.TakenBack = true;
        act.Touch("arrival:" + arrival.Number, "door", "shelf", "bench", "cage", "house");
        return new TakeBackAnswer($"{Quantities.Show(entries.Sum(e => e.Quantity))} {item.UnitWord} of {item.Name} taken back.");
    }

    static async Task<List<TallyEntry>> Entries(Act act, Arrival arrival, Guid? count)
    {
        var open = act.Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null);
        var actId = count ?? await open.Where(e => e.PersonId == act.Person.Id).OrderByDescending(e => e.Id).Select(e => (Guid?)e.ActId).FirstOrDefaultAsync();
        return actId is { } id ? await open.Where(e => e.ActId == id).ToListAsync() : [];
    }

    static async Task<Refusal?> GoneFurther(Act act, TallyEntry entry, Item item)
    {
        var goods = new Goods(entry.ItemId, entry.BatchId, entry.UnitId, entry.Serial);
        var place = Place.In(entry.BinId, entry.Standing);
        var free = Promises.Free(act.Book.On(goods, place), await TakenJobs.From(act.Db, goods, place));
        if (free >= entry.Quantity) return null;
        return new Refusal(
            "gone-further", $"Of the {Quantities.Show(entry.Quantity)} {item.UnitWord} of {item.Name} only {Quantities.Show(free)} still stand free in {act.SetUp.Address(entry.BinId)}.",
            "Bring back what was put away first, or have its job given back.");
    }

    static async Task<Refusal?> Undo(Act act, Arrival arrival, TallyEntry entry, Item item, string? reason)
    {
        if (entry.ReceiptId is not null) return new Refusal("posted", "The count stands on a posted receipt.", "Open the tally again first.");
        var line = entry.PartId is null ? null : await act.Db.ManifestLines.Include(m => m.Part).FirstAsync(m => m.ArrivalId == arrival.Id && m.PartId == entry.PartId);
        if (entry.InspectionId is { } inspectionId && (await act.Db.Inspections.FirstAsync(i => i.Id == inspectionId)).Shrink(entry.Quantity) is { } drawn) return drawn;
        if (entry.HoldId is { } holdId && (await act.Db.Holds.FirstAsync(h => h.Id == holdId)).Shrink(entry.Quantity, act.Now, act.Person.Name) is { } lifted) return lifted;
        line?.TakeBack(entry.Quantity);
        line?.Part!.TakeBack(entry.Quantity);
        entry.TakeBack(act.Now);
        var movement = (await act.Db.Ledger.FirstAsync(e => e.Seq == entry.LedgerSeq)).Movement!.Reversed();
        if (movement.To.Account == Account.Transit) line?.BackInTransit(entry.Quantity);
        var why = string.IsNullOrWhiteSpace(reason) ? "" : ": " + reason.Trim();
        act.Write(EntryKind.TakenBack, arrival.Number, $"{Quantities.Show(entry.Quantity)} {item.UnitWord} {item.Name} taken back{why}", movement, entry.LedgerSeq);
        return null;
    }
}
