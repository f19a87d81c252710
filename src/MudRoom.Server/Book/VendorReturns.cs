using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>So much of some goods of a receipt goes back to the vendor.</summary>
/// <param name="Quantity">In base units.</param>
public sealed record GoesBack(Receipt Receipt, int ItemId, int? BatchId, decimal Quantity);

/// <summary>Returns to vendors as the receipt and the order have them, whoever decided that goods go back.</summary>
public static class VendorReturns
{
    /// <summary>How much of some goods can still go back, by line part: received less returned, the most first.</summary>
    /// <param name="entries">The counts of these goods on the receipt.</param>
    public static async Task<IReadOnlyList<(int? PartId, decimal Left)>> Left(
        Act act,
        Receipt receipt,
        int itemId,
        int? batchId,
        IReadOnlyList<TallyEntry> entries
    )
    {
        var returned = await act
            .Db.VendorReturns.Where(r => r.ReceiptId == receipt.Id && r.ItemId == itemId && r.BatchId == batchId)
            .ToListAsync();
        return
        [
            .. entries
                .GroupBy(e => e.PartId)
                .Select(g =>
                    (
                        PartId: g.Key,
                        Left: VendorReturn.Left(g.Sum(e => e.Quantity), returned.Where(r => r.PartId == g.Key).Select(r => r.Quantity))
                    )
                )
                .Where(p => p.Left > 0)
                .OrderByDescending(p => p.Left),
        ];
    }

    /// <summary>The counts of some goods on a receipt.</summary>
    public static Task<List<TallyEntry>> Counts(Act act, Receipt receipt, int itemId, int? batchId) =>
        act
            .Db.TallyEntries.Where(e => e.ReceiptId == receipt.Id && e.TakenBackAt == null && e.ItemId == itemId && e.BatchId == batchId)
            .ToListAsync();

    /// <summary>Makes one out: before the invoice the order line counts less and is open again for what went back; after it a credit is
    /// wanted.</summary>
    /// <param name="parts">As <see cref="Left"/> has them.</param>
    /// <param name="number">Its number.</param>
    /// <param name="entry">The entry by which they left.</param>
    public static async Task Make(
        Act act,
        GoesBack back,
        IReadOnlyList<(int? PartId, decimal Left)> parts,
        string number,
        string reason,
        LedgerEntry entry
    )
    {
        var invoiced = back.Receipt.InvoicedAt is not null;
        foreach (var ((partId, _), takes) in Portions.Of(parts, p => p.Left, back.Quantity))
        {
            act.Db.VendorReturns.Add(
                new VendorReturn
                {
                    Number = takes == back.Quantity ? number : $"{number}/{(partId is null ? "0" : partId)}",
                    SiteId = act.Site.Id,
                    ReceiptId = back.Receipt.Id,
                    ItemId = back.ItemId,
                    BatchId = back.BatchId,
                    PartId = partId,
                    Quantity = takes,
                    Invoiced = invoiced,
                    Reason = reason,
                    By = act.Person.Name,
                    At = act.Now,
                    LedgerSeq = entry.Seq,
                }
            );
            if (!invoiced && partId is { } id)
                await Change(act, id, p => p.TakeBack(takes));
        }
    }

    /// <summary>What entries had sent back is here again: their returns are as if they had not been made out.</summary>
    public static async Task Undo(Act act, IReadOnlyList<long> entries)
    {
        foreach (var back in await act.Db.VendorReturns.Where(r => entries.Contains(r.LedgerSeq)).ToListAsync())
        {
            act.Db.VendorReturns.Remove(back);
            if (!back.Invoiced && back.PartId is { } id)
                await Change(act, id, p => p.Receive(back.Quantity));
        }
    }

    /// <summary>The order line counts otherwise, and its order follows.</summary>
    static async Task Change(Act act, int partId, Action<LinePart> change)
    {
        var part = await act
            .Db.LineParts.Include(p => p.Line!)
                .ThenInclude(l => l.Order!)
                    .ThenInclude(o => o.Lines)
                        .ThenInclude(l => l.Parts)
            .FirstAsync(p => p.Id == partId);
        change(part);
        part.Line!.Order!.Follow();
    }
}
