using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Road;

/// <summary>What is asked of the list of what was received.</summary>
public sealed record ReceivedQuestion(DateOnly? From, DateOnly? To, string? Vendor, string? Text);

/// <summary>One item on one order on one receipt.</summary>
/// <param name="AcceptFirst">Not to be paid before these, by their numbers, have accepted it or are decided over.</param>
public sealed record ReceivedLine(
    string? Order,
    int? Line,
    string ItemCode,
    string ItemName,
    decimal Quantity,
    string Unit,
    decimal Aside,
    IReadOnlyList<string> CountedBy,
    IReadOnlyList<string> AcceptFirst
);

/// <summary>A receipt with its lines.</summary>
public sealed record ReceivedCard(
    string Receipt,
    DateTime PostedAt,
    string PostedBy,
    string Arrival,
    string Vendor,
    string DeliveryNote,
    IReadOnlyList<ReceivedLine> Lines
);

/// <summary>A page of receipts, newest first.</summary>
public sealed record ReceivedAnswer(IReadOnlyList<ReceivedCard> Receipts, int Total, int Page, int PageSize, DateOnly From, DateOnly To);

/// <summary>Everything received in a chosen time; the last seven days unless it is said otherwise.</summary>
public static class ReceivedList
{
    const int PageSize = 20;
    const int MostInFile = 20_000;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/road/received", Right.See, Run);
        routes.Ask("/road/received.csv", Right.See, File);
    }

    static async Task<Ok<ReceivedAnswer>> Run(Inquiry inquiry, [AsParameters] ReceivedQuestion question, int page = 1)
    {
        var (receipts, from, to) = Receipts(inquiry, question);
        var total = await receipts.CountAsync();
        var at = Math.Clamp(page, 1, Math.Max(1, (total + PageSize - 1) / PageSize));
        return TypedResults.Ok(
            new ReceivedAnswer(
                await Cards(
                    inquiry,
                    receipts.OrderByDescending(r => r.PostedAt).ThenByDescending(r => r.Id).Skip((at - 1) * PageSize).Take(PageSize)
                ),
                total,
                at,
                PageSize,
                from,
                to
            )
        );
    }

    static async Task<FileContentHttpResult> File(Inquiry inquiry, [AsParameters] ReceivedQuestion question)
    {
        var (receipts, from, to) = Receipts(inquiry, question);
        var cards = await Cards(inquiry, receipts.OrderBy(r => r.PostedAt).ThenBy(r => r.Id).Take(MostInFile));
        var csv = CsvOut.Write(
            [
                "receipt",
                "posted",
                "posted by",
                "arrival",
                "vendor",
                "delivery note",
                "order",
                "line",
                "item",
                "item name",
                "quantity",
                "unit",
                "aside",
                "not to be paid before accepted by",
            ],
            cards.SelectMany(c =>
                c.Lines.Select(l =>
                    new object?[]
                    {
                        c.Receipt,
                        c.PostedAt,
                        c.PostedBy,
                        c.Arrival,
                        c.Vendor,
                        c.DeliveryNote,
                        l.Order,
                        l.Line,
                        l.ItemCode,
                        l.ItemName,
                        l.Quantity,
                        l.Unit,
                        l.Aside,
                        string.Join(" ", l.AcceptFirst),
                    }
                )
            )
        );
        return TypedResults.File(csv, "text/csv; charset=utf-8", $"received-{from:yyyy-MM-dd}-{to:yyyy-MM-dd}.csv");
    }

    static (IQueryable<Receipt> Receipts, DateOnly From, DateOnly To) Receipts(Inquiry inquiry, ReceivedQuestion question)
    {
        var (from, to) = (question.From ?? inquiry.Today.AddDays(-7), question.To ?? inquiry.Today);
        var (begin, end) = inquiry.Site.Days(from, to);
        var receipts = inquiry.Db.Receipts.Where(r => r.SiteId == inquiry.Site.Id && r.PostedAt >= begin && r.PostedAt < end);
        if (question.Vendor is { Length: > 0 } code)
        {
            var vendor = inquiry.SetUp.Vendors.Values.FirstOrDefault(v => v.Code.Equals(code, StringComparison.OrdinalIgnoreCase))?.Id
                ?? -1;
            receipts = receipts.Where(r => r.VendorId == vendor);
        }

        var words = (question.Text ?? "").Trim();
        if (words.Length == 0)
            return (receipts, from, to);
        var items = inquiry
            .SetUp.Catalogue.Items.Where(i =>
                i.Code.Contains(words, StringComparison.OrdinalIgnoreCase) || i.Name.Contains(words, StringComparison.OrdinalIgnoreCase)
            )
            .Select(i => i.Id)
            .ToList();
        var vendors = inquiry
            .SetUp.Vendors.Values.Where(v => v.Name.Contains(words, StringComparison.OrdinalIgnoreCase))
            .Select(v => v.Id)
            .ToList();
        var parts = inquiry.Db.LineParts.Where(p => p.Line!.Order!.Number == words).Select(p => (int?)p.Id);
        return (
            receipts.Where(r =>
                r.DeliveryNote == words
                || r.Number == words
                || vendors.Contains(r.VendorId)
                || inquiry.Db.TallyEntries.Any(e => e.ReceiptId == r.Id && (items.Contains(e.ItemId) || parts.Contains(e.PartId)))
            ),
            from,
            to
        );
    }

    /// <summary>Receipts with their lines, in two queries.</summary>
    static async Task<List<ReceivedCard>> Cards(Inquiry inquiry, IQueryable<Receipt> receipts)
    {
        var shown = await receipts
            .Join(inquiry.Db.Arrivals, r => r.ArrivalId, a => a.Id, (r, a) => new { Receipt = r, Arrival = a.Number })
            .ToListAsync();
        var ids = shown.Select(s => (int?)s.Receipt.Id).ToList();
        var entries = (
            await inquiry
                .Db.TallyEntries.Where(e => ids.Contains(e.ReceiptId) && e.TakenBackAt == null)
                .Select(e => new
                {
                    e.ReceiptId,
                    e.PartId,
                    e.ItemId,
                    e.BatchId,
                    e.Quantity,
                    e.Aside,
                    e.PersonName,
                })
                .ToListAsync()
        ).ToLookup(e => e.ReceiptId);
        var partIds = entries.SelectMany(g => g.Select(e => e.PartId)).Distinct().ToList();
        var lines = await inquiry
            .Db.LineParts.Where(p => partIds.Contains(p.Id))
            .Select(p => new
            {
                p.Id,
                Order = p.Line!.Order!.Number,
                p.Line.Number,
            })
            .ToDictionaryAsync(p => p.Id);
        var waits = await InvoiceBlocks.Of(inquiry.Db, [.. shown.Select(s => s.Receipt.Id)]);
        return
        [
            .. shown.Select(s => new ReceivedCard(
                s.Receipt.Number,
                inquiry.Local(s.Receipt.PostedAt),
                s.Receipt.PostedBy,
                s.Arrival,
                inquiry.SetUp.Vendors[s.Receipt.VendorId].Name,
                s.Receipt.DeliveryNote,
                [
                    .. entries[s.Receipt.Id]
                        .GroupBy(e => (e.PartId, e.ItemId))
                        .Select(g =>
                        {
                            var item = inquiry.SetUp.Catalogue[g.Key.ItemId];
                            var line = g.Key.PartId is { } id ? lines.GetValueOrDefault(id) : null;
                            return new ReceivedLine(
                                line?.Order,
                                line?.Number,
                                item.Code,
                                item.Name,
                                g.Sum(e => e.Quantity),
                                item.UnitWord,
                                g.Where(e => e.Aside is not null).Sum(e => e.Quantity),
                                [.. g.Select(e => e.PersonName).Distinct()],
                                [
                                    .. g.Select(e => e.BatchId)
                                        .Distinct()
                                        .SelectMany(b => waits.GetValueOrDefault(new(s.Receipt.Id, item.Id, b)) ?? [])
                                        .Distinct(),
                                ]
                            );
                        }),
                ]
            )),
        ];
    }
}
