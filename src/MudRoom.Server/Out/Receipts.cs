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
        var settled = await act.Db.Statements.Where(s => s.SettledBy == act.Doer.ActId).Select(s => s.LotId).Distinct().ToListAsync();
        var lots = act.Book.Written.Select(e => e.ToLotId ?? e.LotId).OfType<int>().Union(settled).ToList();
        if (lots.Count == 0)
            return;
        var ids = await act
            .Db.Lots.Where(l => lots.Contains(l.Id) && l.ReceiptId != null)
            .Select(l => l.ReceiptId!.Value)
            .Distinct()
            .ToListAsync();
        var receipts = await act.Db.Receipts.Where(r => ids.Contains(r.Id) && r.ReversedAt == null).ToListAsync();
        await TellAcceptance(act, receipts);
        foreach (var receipt in receipts.Where(r => r.SettledAt is null))
            await SettleWhere(act, receipt);
    }

    /// <summary>Who was told of a receipt is told when it waits for another acceptance than before, or for none any more.</summary>
    static async Task TellAcceptance(Act act, List<Receipt> receipts)
    {
        if (receipts.Count == 0)
            return;
        var numbers = receipts.Select(r => r.Number).ToList();
        var told = await act
            .Db.OutMessages.Where(m => m.SiteId == act.Site.Id && numbers.Contains(m.Subject))
            .Select(m => m.Subject)
            .Distinct()
            .ToListAsync();
        var waits = await InvoiceBlocks.Of(act.Db, [.. receipts.Where(r => told.Contains(r.Number)).Select(r => r.Id)]);
        foreach (var receipt in receipts.Where(r => told.Contains(r.Number)))
        {
            var now = By(waits, receipt);
            if (!SaidToWaitFor(await LastTold(act, receipt)).SequenceEqual(now))
                Outbox.Emit(
                    act,
                    OutKind.ReceiptAcceptance,
                    receipt.Number,
                    new JsonObject
                    {
                        ["receipt"] = receipt.Number,
                        ["acceptFirst"] = Texts(now),
                        ["lines"] = await Waiting(act, receipt, waits),
                    }
                );
        }
    }

    /// <summary>The lines of a receipt that wait, and for what.</summary>
    static async Task<JsonArray> Waiting(Act act, Receipt receipt, IReadOnlyDictionary<LineOfReceipt, IReadOnlyList<string>> waits)
    {
        var own = waits.Where(w => w.Key.Receipt == receipt.Id).OrderBy(w => (w.Key.Item, w.Key.Batch)).ToList();
        var batches = await Batches(act, own.Select(w => w.Key.Batch));
        return
        [
            .. own.Select(w =>
                (JsonNode?)
                    new JsonObject
                    {
                        ["item"] = act.SetUp.Catalogue[w.Key.Item].Code,
                        ["batch"] = w.Key.Batch is { } batch ? batches[batch].Number : null,
                        ["acceptFirst"] = Texts(w.Value),
                    }
            ),
        ];
    }

    /// <summary>The last that was told of a receipt, in the order of writing: acts of one instant have theirs too.</summary>
    static async Task<string> LastTold(Act act, Receipt receipt) =>
        (
            await act
                .Db.OutMessages.FromSql(
                    $"SELECT * FROM OutMessages WHERE SiteId = {act.Site.Id} AND Subject = {receipt.Number} ORDER BY rowid DESC LIMIT 1"
                )
                .AsNoTracking()
                .ToListAsync()
        )
            .Single()
            .Body;

    static IEnumerable<string> SaidToWaitFor(string body) =>
        JsonNode.Parse(body)?["acceptFirst"] is JsonArray told ? told.Select(n => n!.GetValue<string>()) : [];

    static List<string> By(IReadOnlyDictionary<LineOfReceipt, IReadOnlyList<string>> waits, Receipt receipt) =>
        [.. waits.Where(w => w.Key.Receipt == receipt.Id).SelectMany(w => w.Value).Distinct().Order(StringComparer.Ordinal)];

    static JsonArray Texts(IEnumerable<string> texts) => new([.. texts.Select(t => (JsonNode?)t)]);

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
        var waits = await InvoiceBlocks.Of(act.Db, [receipt.Id]);
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
            ["acceptFirst"] = Texts(By(waits, receipt)),
            ["lines"] = await Lines(act, receipt, waits),
        };
        if (withPlaces)
            body["places"] = await Places(act, receipt);
        return body;
    }

    static async Task<JsonArray> Lines(Act act, Receipt receipt, IReadOnlyDictionary<LineOfReceipt, IReadOnlyList<string>> waits)
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
                            ["acceptFirst"] = Texts(waits.GetValueOrDefault(new(receipt.Id, item.Id, g.Key.BatchId)) ?? []),
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
