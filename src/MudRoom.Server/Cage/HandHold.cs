using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Cage;

/// <summary>A hold that no rule laid: somebody says that goods are held, and somebody lifts it.</summary>
static class HandHold
{
    /// <summary>Lays it on goods that stand held.</summary>
    /// <param name="quantity">In base units.</param>
    /// <param name="sentence">Why.</param>
    public static async Task Lay(Act act, Item item, int? batchId, decimal quantity, string sentence)
    {
        var hold = new Hold
        {
            Number = await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = batchId,
            Reason = HoldReason.ByHand,
            Sentence = sentence,
            Since = act.Now,
            LaidBy = act.Person.Name,
        };
        // New, and so open.
        _ = hold.Grow(quantity, act.Site.LocalTime);
        act.Db.Holds.Add(hold);
        act.Write(EntryKind.HoldLaid, hold.Number, $"{hold.Number} laid on {item.Name}: {hold.Sentence}");
    }
}
