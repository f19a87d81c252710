using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;
using MudRoom.Server.Road;
using MudRoom.Server.Shelf;

namespace MudRoom.Server.Door;

/// <summary>Where goods of a receipt stand now.</summary>
/// <param name="Serial">Of the one piece, if it has one.</param>
public sealed record GoodsAt(long Balance, string Place, StandingSeen Standing, decimal Quantity, string? Serial);

/// <summary>One item and batch on one order of a receipt.</summary>
/// <param name="Left">What of it can still go back to the vendor: received less returned.</param>
/// <param name="IsToldApart">False where neither batch nor serial tells its goods from others of the item: then all of the item is
/// shown.</param>
/// <param name="AcceptFirst">Not to be paid before these, by their numbers, have accepted it or are decided over.</param>
public sealed record ReceiptLine(
    string? Order,
    int? Line,
    string ItemCode,
    string Item,
    string Unit,
    string? Batch,
    string? SourceBatch,
    decimal Received,
    decimal Aside,
    decimal Returned,
    decimal Left,
    bool IsToldApart,
    IReadOnlyList<GoodsAt> Stands,
    IReadOnlyList<string> AcceptFirst
);

/// <summary>Goods that went back.</summary>
public sealed record ReturnRow(
    string Number,
    string Item,
    decimal Quantity,
    string Unit,
    string Reason,
    string Consequence,
    string By,
    DateTime At
);

/// <summary>A posted receipt.</summary>
public sealed record ReceiptAnswer(
    string Number,
    string Vendor,
    string DeliveryNote,
    string Arrival,
    DateTime PostedAt,
    string PostedBy,
    DateTime? InvoicedAt,
    DateTime? ReversedAt,
    IReadOnlyList<ReceiptLine> Lines,
    IReadOnlyList<ReturnRow> Returns,
    IReadOnlyList<PictureView> Pictures
);

/// <summary>Marks a receipt as invoiced.</summary>
public sealed record InvoicedRequest(string Receipt);

/// <summary>Goods of a receipt that go back to their vendor.</summary>
/// <param name="Balance">The stock they are taken from.</param>
public sealed record ReturnRequest(string Receipt, long Balance, string Quantity, string Reason);

/// <summary>A posted receipt: what of it stands where, what went back to its vendor, before the invoice or after it.</summary>
public static class ReceiptPage
{
    const int MostInFile = 20_000;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/receipts/{number}", Right.See, One);
        routes.Ask("/door/returns.csv", Right.See, File);
        routes.Act<InvoicedRequest, DoneAnswer>("/door/receipts/invoiced", Right.KeepOrders, Invoiced);
        routes.Act<ReturnRequest, DoneAnswer>("/door/receipts/return", Right.Decide, Return);
    }

    static async Task<Results<Ok<ReceiptAnswer>, ProblemHttpResult>> One(Inquiry inquiry, string number)
    {
        var receipt = await inquiry.Db.Receipts.FirstOrDefaultAsync(r => r.SiteId == inquiry.Site.Id && r.Number == number);
        if (receipt is null)
            return Problems.Of(Problems.NotFound("receipt", number));
        var arrival = await inquiry.Db.Arrivals.FirstAsync(a => a.Id == receipt.ArrivalId);
        var entries = await inquiry.Db.TallyEntries.Where(e => e.ReceiptId == receipt.Id && e.TakenBackAt == null).ToListAsync();
        var parts = entries.Select(e => e.PartId).ToList();
        var orders = await inquiry
            .Db.LineParts.Where(p => parts.Contains(p.Id))
            .Select(p => new
            {
                p.Id,
                Order = p.Line!.Order!.Number,
                Line = p.Line.Number,
            })
            .ToDictionaryAsync(p => p.Id);
        var batchIds = entries.Select(e => e.BatchId).Distinct().ToList();
        var batches = await inquiry.Db.Batches.Include(b => b.SourceBatch).Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        var itemIds = entries.Select(e => e.ItemId).Distinct().ToList();
        var stands = StockLine
            .Of(
                await inquiry
                    .Db.Balances.Where(b => b.SiteId == inquiry.Site.Id && itemIds.Contains(b.ItemId) && b.Quantity > 0)
                    .ToListAsync()
            )
            .ToLookup(b => (b.ItemId, b.BatchId));
        var serials = SerialsOf(entries);
        var waits = await InvoiceBlocks.Of(inquiry.Db, [receipt.Id]);
        var returns = await inquiry.Db.VendorReturns.Where(r => r.ReceiptId == receipt.Id).OrderBy(r => r.Id).ToListAsync();
        return TypedResults.Ok(
            new ReceiptAnswer(
                receipt.Number,
                inquiry.SetUp.Vendors[receipt.VendorId].Name,
                receipt.DeliveryNote,
                arrival.Number,
                inquiry.Local(receipt.PostedAt),
                receipt.PostedBy,
                receipt.InvoicedAt is { } i ? inquiry.Local(i) : null,
                receipt.ReversedAt is { } v ? inquiry.Local(v) : null,
                [
                    .. entries
                        .GroupBy(e => (e.PartId, e.ItemId, e.BatchId))
                        .Select(g =>
                        {
                            var item = inquiry.SetUp.Catalogue[g.Key.ItemId];
                            var order = g.Key.PartId is { } p ? orders[p] : null;
                            var batch = g.Key.BatchId is { } b ? batches[b] : null;
                            var gone = returns
                                .Where(r => r.ItemId == g.Key.ItemId && r.BatchId == g.Key.BatchId && r.PartId == g.Key.PartId)
                                .Select(r => r.Quantity)
                                .ToList();
                            return new ReceiptLine(
                                order?.Order,
                                order?.Line,
                                item.Code,
                                item.Name,
                                item.UnitWord,
                                batch?.Number,
                                batch?.SourceBatch?.Number,
                                g.Sum(e => e.Quantity),
                                g.Where(e => e.Aside is not null).Sum(e => e.Quantity),
                                gone.Sum(),
                                VendorReturn.Left(g.Sum(e => e.Quantity), gone),
                                item.NeedsBatch || item.NeedsSerial,
                                [
                                    .. stands[(g.Key.ItemId, g.Key.BatchId)]
                                        .Where(b => b.Serial is null || serials.Contains(b.Serial))
                                        .OrderBy(b => b.Id)
                                        .Select(b => new GoodsAt(
                                            b.Id,
                                            inquiry.SetUp.Address(b.BinId),
                                            inquiry.Standings[b.Standing].Seen,
                                            b.Quantity,
                                            b.Serial
                                        )),
                                ],
                                waits.GetValueOrDefault(new(receipt.Id, item.Id, g.Key.BatchId)) ?? []
                            );
                        }),
                ],
                [
                    .. returns.Select(r => new ReturnRow(
                        r.Number,
                        inquiry.SetUp.Catalogue[r.ItemId].Name,
                        r.Quantity,
                        inquiry.SetUp.Catalogue[r.ItemId].UnitWord,
                        r.Reason,
                        r.Consequence,
                        r.By,
                        inquiry.Local(r.At)
                    )),
                ],
                await Attachments.Pictures(inquiry, arrival.Id)
            )
        );
    }

    /// <summary>The serial numbers of counts: a piece with a serial is one of them, or it is none of theirs.</summary>
    static HashSet<string> SerialsOf(IEnumerable<TallyEntry> entries) =>
        entries.Select(e => e.Serial).OfType<string>().ToHashSet(StringComparer.OrdinalIgnoreCase);

    /// <summary>What went back in a chosen time, with what accounts have to do about it.</summary>
    static async Task<FileContentHttpResult> File(Inquiry inquiry, DateOnly? from, DateOnly? to)
    {
        var (first, last) = (from ?? inquiry.Today.AddDays(-30), to ?? inquiry.Today);
        var (begin, end) = inquiry.Site.Days(first, last);
        var rows = await inquiry
            .Db.VendorReturns.Where(r => r.SiteId == inquiry.Site.Id && r.At >= begin && r.At < end)
            .OrderBy(r => r.Id)
            .Take(MostInFile)
            .Join(
                inquiry.Db.Receipts,
                r => r.ReceiptId,
                x => x.Id,
                (r, x) =>
                    new
                    {
                        Return = r,
                        x.Number,
                        x.DeliveryNote,
                        x.VendorId,
                        x.InvoicedAt,
                    }
            )
            .ToListAsync();
        return TypedResults.File(
            CsvOut.Write(
                [
                    "return",
                    "receipt",
                    "delivery note",
                    "vendor",
                    "item",
                    "item name",
                    "quantity",
                    "unit",
                    "reason",
                    "invoiced",
                    "consequence",
                    "by",
                    "at",
                ],
                rows.Select(r =>
                    new object?[]
                    {
                        r.Return.Number,
                        r.Number,
                        r.DeliveryNote,
                        inquiry.SetUp.Vendors[r.VendorId].Name,
                        inquiry.SetUp.Catalogue[r.Return.ItemId].Code,
                        inquiry.SetUp.Catalogue[r.Return.ItemId].Name,
                        r.Return.Quantity,
                        inquiry.SetUp.Catalogue[r.Return.ItemId].UnitWord,
                        r.Return.Reason,
                        r.Return.Invoiced ? "yes" : "no",
                        r.Return.Consequence,
                        r.Return.By,
                        inquiry.Local(r.Return.At),
                    }
                )
            ),
            "text/csv; charset=utf-8",
            $"returns-{first:yyyy-MM-dd}-{last:yyyy-MM-dd}.csv"
        );
    }

    public static async Task<Outcome<DoneAnswer>> Invoiced(Act act, InvoicedRequest request)
    {
        var receipt = await act.Db.Receipts.FirstOrDefaultAsync(r => r.SiteId == act.Site.Id && r.Number == request.Receipt);
        if (receipt is null)
            return Problems.NotFound("receipt", request.Receipt ?? "");
        if (receipt.Invoice(act.Now) is { } refusal)
            return refusal;
        act.Write(new Invoiced(receipt.Number));
        act.Touch("door", "road");
        return new DoneAnswer($"{receipt.Number} is marked as invoiced: what goes back from now on wants a credit.");
    }

    static Refusal? WaitsForBench(Act act, StockLine stock, Item item) =>
        act.Standings[stock.Standing].Kind == StandingKind.ToInspect
            ? new Refusal(
                DoorRefusals.ToInspect,
                $"{item.Name} in {act.SetUp.Address(stock.BinId)} waits for its inspection.",
                "Sign its verdict first; what is rejected can go back."
            )
            : null;

    /// <summary>Takes goods of a receipt out of a bin to the vendor's account. Before the invoice the receipt and its order count less;
    /// after it a credit is wanted.</summary>
    public static async Task<Outcome<DoneAnswer>> Return(Act act, ReturnRequest request)
    {
        var receipt = await act.Db.Receipts.FirstOrDefaultAsync(r => r.SiteId == act.Site.Id && r.Number == request.Receipt);
        if (receipt is null)
            return Problems.NotFound("receipt", request.Receipt ?? "");
        if (receipt.ReversedAt is not null)
            return new Refusal(DoorRefusals.Reversed, $"{receipt.Number} is reversed.", "Return the goods from the receipt that stands.");
        var reason = request.Reason.OrNull();
        if (reason is null or { Length: > 200 })
            return new Refusal(HouseRefusals.NoteMissing, "Say in at most 200 characters why it goes back.", "Type the reason.");
        var read = await Leaving.Read(act, request.Balance, request.Quantity, null, "Return");
        if (read.Refused(out var stays))
            return stays;
        var (row, item, quantity, from) = read.Value;
        if (WaitsForBench(act, row, item) is { } waits)
            return waits;
        var entries = await VendorReturns.Counts(act, receipt, row.ItemId, row.BatchId);
        if (row.Serial is { } piece && !SerialsOf(entries).Contains(piece))
            return new Refusal(
                DoorRefusals.OtherReceipt,
                $"Serial {piece} of {item.Name} did not come with {receipt.Number}.",
                "Return it from the receipt it came with; Book finds it by the serial."
            );
        var parts = await VendorReturns.Left(act, receipt, row.ItemId, row.BatchId, entries);
        if (quantity > parts.Sum(p => p.Left))
            return new Refusal(
                DoorRefusals.MoreThanReceived,
                $"Of {item.Name} {receipt.Number} received {Quantities.Show(entries.Sum(e => e.Quantity))} {item.UnitWord}, and "
                    + $"{Quantities.Show(parts.Sum(p => p.Left))} of it can still go back.",
                "Return at most that."
            );
        // Of what reads alike there, the lots of this receipt; stock from before there were lots may be of any.
        var came = (await Lots.Of(act, row))
            .Where(l => l.ReceiptId == receipt.Id || l.Origin == LotOrigin.FromBefore)
            .OrderByDescending(l => l.ReceiptId == receipt.Id)
            .ToList();
        var lots = came.Where(l => from.All.Contains(l.Id)).ToList();
        var own = await Lots.Quantity(act, lots, at: row);
        if (quantity > own && from.Others.Where(k => came.Exists(l => l.Id == k.LotId)).ToList() is { Count: > 0 } kept)
            return await Leaving.KeptForOthers(act, row, item, own, kept, "Return");
        if (quantity > own)
            return new Refusal(
                DoorRefusals.OtherReceipt,
                $"Of what is in {act.SetUp.Address(row.BinId)}, {Quantities.Show(own)} {item.UnitWord} came with {receipt.Number}.",
                "Return the rest from the receipt it came with."
            );

        var number = await act.Number("V");
        var sent = await Lots.SendOut(
            act,
            await Lots.Part(act, lots, quantity, number, at: row),
            Account.Vendor,
            new ReturnedToVendor(
                number,
                Amount.Of(quantity, item),
                act.SetUp.Vendors[receipt.VendorId].Name,
                act.SetUp.Address(row.BinId),
                receipt.Number,
                reason
            )
            {
                About = [Reference.Receipt(receipt.Number), new Reference(ReferenceKind.Vendor, receipt.VendorId)],
            }
        );
        if (sent.Refused(out var held))
            return held;
        await VendorReturns.Make(act, new GoesBack(receipt, row.ItemId, row.BatchId, quantity), parts, number, reason, sent.Value[0]);
        await Receipts.Moved(act);
        act.Touch("door", "road", "shelf", "cage", "book", "house");
        return new DoneAnswer(
            $"{number}: {Quantities.Show(quantity)} {item.UnitWord} of {item.Name} go back, "
                + $"{(receipt.InvoicedAt is null ? "not to be invoiced; the order is open for them again" : "a credit is wanted")}."
        );
    }
}
