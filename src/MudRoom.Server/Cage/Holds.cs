using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Cage;

/// <summary>Finds or lays the hold of counted goods.</summary>
public static class Holds
{
    /// <summary>The open hold that goods of one arrival and batch join, or a new one.</summary>
    public static async Task<Hold> For(
        Act act,
        Core.Road.Arrival arrival,
        Item item,
        Batch? batch,
        HoldReason reason,
        string sentence,
        HoldConditions laid,
        int? orderLine = null
    )
    {
        var batchId = batch?.Id;
        var until = Hold.LastOf(laid.Times);
        // Goods join a hold only where their times end together, none is free sooner than its own; and where nobody has met a condition or
        // decided looking at less.
        var alike = await act
            .Db.Holds.Where(h =>
                h.SiteId == act.Site.Id
                && h.IsOpen
                && h.ItemId == item.Id
                && h.BatchId == batchId
                && h.ArrivalId == arrival.Id
                && h.Reason == reason
                && h.Sentence == sentence
                && h.Until == until
                && h.OrderLineId == orderLine
                && h.CameFromId == null
            )
            .ToListAsync();
        if (alike.Find(h => h.MayJoin(laid.Besides)) is { } there)
            return there;
        var hold = new Hold
        {
            Number = await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = batchId,
            Reason = reason,
            Sentence = sentence,
            Since = act.Now,
            Until = until,
            Times = laid.Times,
            ArrivalId = arrival.Id,
            OrderLineId = orderLine,
            LaidBy = reason == HoldReason.Rule ? "rule" : act.Person.Name,
        }.Wanting(laid.Besides);
        act.Db.Holds.Add(hold);
        act.Write(new HoldLaid(hold.Number, item.Name, null, arrival.Number, sentence) { About = About(arrival, item, batchId) });
        return hold;
    }

    static List<Reference> About(Core.Road.Arrival arrival, Item item, int? batch) =>
        [Reference.Arrival(arrival.Number), Reference.Item(item.Id), .. batch is { } id ? [Reference.Batch(id)] : (Reference[])[]];
}
