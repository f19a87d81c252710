using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Out;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>A closed tally that is to be opened again.</summary>
public sealed record ReopenRequest(string Arrival, string Reason);

/// <summary>Opens a closed tally again by counter-entries, as long as nothing of it has gone further; if it has, says what must be undone
/// first.</summary>
public static class ReopenTally
{
    public static void Map(SiteRoutes routes) => routes.Act<ReopenRequest, DoneAnswer>("/door/reopen", Right.SettleTally, Run);

    public static async Task<Outcome<DoneAnswer>> Run(Act act, ReopenRequest request)
    {
        var reason = request.Reason.OrNull();
        if (reason is null or { Length: > 200 })
            return new Refusal(HouseRefusals.NoteMissing, "Say in at most 200 characters why it is opened again.", "Type the reason.");
        var arrival = await act
            .Db.Arrivals.Include(a => a.Manifest)
                .ThenInclude(m => m.Part!)
                    .ThenInclude(p => p.Line)
            .Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.State != ArrivalState.CountedIn)
            return new Refusal(DoorRefusals.TallyOpen, $"The tally of {arrival.Number} is open.", "Count on.");
        if (
            arrival.DoorId is { } door
            && await act.Db.Arrivals.FirstOrDefaultAsync(a => a.DoorId == door && a.State == ArrivalState.AtDoor && a.Id != arrival.Id)
                is { } there
        )
            return new Refusal(HouseRefusals.DoorTaken, $"{there.Number} stands at its door now.", "Close that one first.");
        var entries = await act.Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null).ToListAsync();
        if (await Undoing.First(act, entries, papersOnly: true) is { } gone)
            return gone;
        var receipts = await act.Db.Receipts.Where(r => r.ArrivalId == arrival.Id && r.ReversedAt == null).ToListAsync();
        await Receipts.Reversed(act, receipts, reason);
        foreach (var receipt in receipts)
        {
            receipt.Reverse(act.Now);
            act.Write(new ReceiptReversed(receipt.Number, reason) { About = [Reference.Arrival(arrival.Number)] });
        }

        foreach (var entry in entries)
            entry.ReceiptId = null;
        foreach (var lot in await act.Db.Lots.Where(l => l.ArrivalId == arrival.Id).ToListAsync())
            lot.ReceiptId = null;
        foreach (
            var discrepancy in await act
                .Db.Discrepancies.Where(d => d.ArrivalId == arrival.Id && d.Kind == DiscrepancyKind.Short && !d.TakenBack)
                .ToListAsync()
        )
            discrepancy.TakenBack = true;
        foreach (var line in arrival.Manifest.Where(m => m.Part!.ClosedShort))
            line.Part!.OpenAgain();
        arrival.OpenAgain();
        act.Write(new TallyOpenedAgain(arrival.Number, reason));
        var ids = arrival.Manifest.Select(m => m.Part!.Line!.OrderId).Distinct().ToList();
        foreach (
            var order in await act.Db.Orders.Include(o => o.Lines).ThenInclude(l => l.Parts).Where(o => ids.Contains(o.Id)).ToListAsync()
        )
            order.Follow();
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, [.. arrival.Manifest.Select(m => m.PartId)]);
        act.Touch("arrival:" + arrival.Number, "road", "door", "house");
        return new DoneAnswer($"The tally of {arrival.Number} is open again. Its receipts are reversed.");
    }
}
