using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Cage;
using MudRoom.Data;

namespace MudRoom.Server.Book;

/// <summary>A line of a receipt as its lots know it.</summary>
public readonly record struct LineOfReceipt(int Receipt, int Item, int? Batch);

/// <summary>Lines of receipts that are not to be paid before they are accepted: asked of what is said of their lots, so that they are free
/// by themselves.</summary>
public static class InvoiceBlocks
{
    /// <summary>By line, the inspections and holds that it waits for; lines that wait for none are not in it.</summary>
    public static async Task<IReadOnlyDictionary<LineOfReceipt, IReadOnlyList<string>>> Of(MudRoomDb db, IReadOnlyCollection<int> receipts)
    {
        var ids = receipts.Select(r => (int?)r).ToList();
        var said = await db
            .Lots.Where(l => ids.Contains(l.ReceiptId))
            .Join(
                Said.Open(db),
                l => l.Id,
                s => s.LotId,
                (l, s) =>
                    new
                    {
                        Receipt = l.ReceiptId!.Value,
                        l.ItemId,
                        l.BatchId,
                        Inspection = db.Inspections.Where(i => i.Id == s.InspectionId).Select(i => i.Number).FirstOrDefault(),
                        Hold = db.Holds.Where(h => h.Id == s.HoldId).Select(h => new { h.Number, h.Reason }).FirstOrDefault(),
                    }
            )
            .ToListAsync();
        return said.GroupBy(
                s => new LineOfReceipt(s.Receipt, s.ItemId, s.BatchId),
                s => new SpeaksForLine(s.Hold?.Number ?? s.Inspection!, s.Hold?.Reason)
            )
            .Select(g => (g.Key, By: InvoiceBlock.By(g)))
            .Where(line => line.By.Count > 0)
            .ToDictionary(line => line.Key, line => line.By);
    }
}
