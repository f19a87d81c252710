using System.Globalization;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Out;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Out;

/// <summary>Tells others of receipts: when they are posted, or when the last of their goods is in its place; and when they are
/// reversed.</summary>
public static class Receipts
{
    /// <summary>Receipts were posted.</summary>
    public static async Task Posted(Act act, IReadOnlyList<Receipt> receipts)
    {
        await act.Db.SaveChangesAsync();
        if (act.SetUp.OutSettings[act.Site.Id].Value.Receipts == ReceiptOut.WhenPosted)
            foreach (var receipt in receipts)
                Outbox.Emit(act, OutKind.ReceiptPosted, receipt.Number, await Body(act, receipt, withPlaces: false));
        foreach (var receipt in receipts)
            await SettleWhere(act, receipt);
    }

    /// <summary>Goods of this act were moved or judged: receipts of which the last goods are in their places now are settled.</summary>
    public static async Task Moved(Act act)
    {
        await act.Db.SaveChangesAsync();
        var lots = act.Book.Written.Select(e => e.ToLotId ?? e.LotId).OfType<int>().Distinct().ToList();
        if (lots.Count == 0)
            return;
        var ids = await act
            .Db.Lots.Where(l => lots.Contains(l.Id) && l.ReceiptId != null)
            .Select(l => l.ReceiptId!.Value)
            .Distinct()
            .ToListAsync();
        var receipts = await act.Db.Receipts.Where(r => ids.Contains(r.Id) && r.SettledAt == null && r.ReversedAt == null).ToListAsync();
        foreach (var receipt in receipts)
            await SettleWhere(act, receipt);
    }

    /// <summary>Receipts were reversed: who was told of them is told that they count no longer.</summary>
    public static async Task Reversed(Act act, IReadOnlyList<Receipt> receipts, string reason)
    {
        var numbers = receipts.Select(r => r.Number).ToList();
        var told = await act
            .Db.OutMessages.Where(m => m.SiteId == act.Site.Id && numbers.Contains(m.Subject))
            .Select(m => m.Subject)
            .ToListAsync();
        foreach (var receipt in receipts.Where(r => told.Contains(r.Number)))
            Outbox.Emit(act, OutKind.ReceiptReversed, receipt.Number, new JsonObject { ["receipt"] = receipt.Number, ["reason"] = reason });
    }

    static async Task SettleWhere(Act act, Receipt receipt)
    {
        var stands = await LotReads.OfReceipt(act.Db, receipt.Id);
        if (!stands.All(s => ShelfQueue.IsSettled(act.SetUp.Bins[s.BinId].Function, act.Standings[s.Standing])))
            return;
        receipt.Settle(act.Now);
        if (act.SetUp.OutSettings[act.Site.Id].Value.Receipts == ReceiptOut.WhenSettled)
            Outbox.Emit(act, OutKind.ReceiptSettled, receipt.Number, await Body(act, receipt, withPlaces: true));
    }

    static async Task<JsonObject> Body(Act act, Receipt receipt, bool withPlaces)
    {
        var arrival = await act
            .Db.Arrivals.Where(a => a.Id == receipt.ArrivalId)
            .Select(a => new { a.Number, a.ContainerNumber })
            .FirstAsync();
        var vendor = act.SetUp.Vendors[receipt.VendorId];
        var body = new JsonObject
        {
            ["receipt"] = receipt.Number,
            ["deliveryNote"] = receipt.DeliveryNote,
            ["postedAt"] = Instant(receipt.PostedAt),
            ["postedBy"] = receipt.PostedBy,
            ["vendor"] = new JsonObject
            {
                ["code"] = vendor.Code,
                ["name"] = vendor.Name,
                ["gln"] = vendor.Gln,
            },
            ["arrival"] = arrival.Number,
            ["container"] = arrival.ContainerNumber,
            ["lines"] = await Lines(act, receipt),
        };
        if (withPlaces)
            body["places"] = await Places(act, receipt);
        return body;
    }

    static async Task<JsonArray> Lines(Act act, Receipt receipt)
    {
        var entries = await act.Db.TallyEntries.Where(e => e.ReceiptId == receipt.Id && e.TakenBackAt == null).ToListAsync();
        var partIds = entries.Select(e => e.PartId).OfType<int>().Distinct().ToList();
        var parts = await act
            .Db.LineParts.Where(p => partIds.Contains(p.Id))
            .Select(p => new
            {
                p.Id,
                Order = p.Line!.Order!.Number,
                Line = p.Line.Number,
            })
            .ToDictionaryAsync(p => p.Id);
        var batches = await Batches(act, entries.Select(e => e.BatchId));
        return
        [
            .. entries
                .GroupBy(e => (e.PartId, e.ItemId, e.BatchId, e.Aside))
                .Select(g =>
                {
                    var item = act.SetUp.Catalogue[g.Key.ItemId];
                    var part = g.Key.PartId is { } p ? parts[p] : null;
                    var batch = g.Key.BatchId is { } b ? batches[b] : null;
                    return (JsonNode?)
                        new JsonObject
                        {
                            ["order"] = part?.Order,
                            ["line"] = part?.Line,
                            ["item"] = item.Code,
                            ["name"] = item.Name,
                            ["quantity"] = Exact(g.Sum(e => e.Quantity)),
                            ["unit"] = item.BaseUnit,
                            ["batch"] = batch?.Number,
                            ["sourceBatch"] = batch?.SourceBatch?.Number,
                            ["goodUntil"] = batch?.Expiry?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                            ["serials"] = new JsonArray([.. g.Select(e => e.Serial).OfType<string>().Select(s => (JsonNode?)s)]),
                            ["aside"] = g.Key.Aside is { } aside ? Asides.Word(aside) : null,
                        };
                }),
        ];
    }

    static async Task<JsonArray> Places(Act act, Receipt receipt)
    {
        var rows = await LotReads.OfReceipt(act.Db, receipt.Id);
        var batches = await Batches(act, rows.Select(b => b.BatchId));
        return
        [
            .. StockLine
                .Of(rows)
                .Select(l =>
                    (JsonNode?)
                        new JsonObject
                        {
                            ["item"] = act.SetUp.Catalogue[l.ItemId].Code,
                            ["batch"] = l.BatchId is { } b ? batches[b].Number : null,
                            ["serial"] = l.Serial,
                            ["bin"] = act.SetUp.Address(l.BinId),
                            ["standing"] = act.Standings.Word(l.Standing),
                            ["available"] = act.Standings[l.Standing].Available,
                            ["quantity"] = Exact(l.Quantity),
                        }
                ),
        ];
    }

    static async Task<Dictionary<int, Batch>> Batches(Act act, IEnumerable<int?> ids)
    {
        var wanted = ids.OfType<int>().Distinct().ToList();
        return await act.Db.Batches.Include(b => b.SourceBatch).Where(b => wanted.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
    }

    static string Instant(DateTimeOffset at) => at.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture);

    static string Exact(decimal quantity) => quantity.ToString(LedgerEntry.QuantityForm, CultureInfo.InvariantCulture);
}
