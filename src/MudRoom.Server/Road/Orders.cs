using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;

namespace MudRoom.Server.Road;

/// <summary>An order in the list.</summary>
public sealed record OrderRowView(
    string Number,
    OrderKind Kind,
    OrderState State,
    string Vendor,
    DateOnly OrderDate,
    int Lines,
    DateOnly? NextDue
);

/// <summary>The order in which orders are listed.</summary>
public enum OrderSort
{
    /// <summary>The last that was ordered first.</summary>
    Newest,

    /// <summary>The first that was ordered first.</summary>
    Oldest,

    /// <summary>By number.</summary>
    Number,

    /// <summary>What is due next first; what has nothing open last.</summary>
    NextDue,
}

/// <summary>What is asked of the list of orders; all may be left out.</summary>
/// <param name="Text">A part of an order's number or of its vendor's name.</param>
/// <param name="State">As it is shown: an order of which some has come at a door is partly received.</param>
public sealed record OrdersQuestion(string? Text, OrderKind? Kind, OrderState? State, OrderSort? Sort)
{
    /// <summary>The orders it asks for, in their order.</summary>
    public IQueryable<Order> Orders(Inquiry inquiry)
    {
        var orders = inquiry.Db.Orders.Where(o => o.Lines.Any(l => l.Parts.Any(p => p.SiteId == inquiry.Site.Id)));
        if (Text.OrNull()?.Trim() is { } words)
        {
            var vendors = inquiry
                .SetUp.Vendors.Values.Where(v => v.Name.Contains(words, StringComparison.OrdinalIgnoreCase))
                .Select(v => v.Id)
                .ToList();
            orders = orders.Where(o => o.Number.Contains(words) || vendors.Contains(o.VendorId));
        }

        if (Kind is { } kind)
            orders = orders.Where(o => o.Kind == kind);
        orders = State switch
        {
            null => orders,
            OrderState.Open => orders.Where(o => o.State == OrderState.Open && !o.Lines.Any(l => l.Parts.Any(p => p.Received > 0))),
            OrderState.PartlyReceived => orders.Where(o =>
                o.State == OrderState.PartlyReceived || o.State == OrderState.Open && o.Lines.Any(l => l.Parts.Any(p => p.Received > 0))
            ),
            { } state => orders.Where(o => o.State == state),
        };
        return (Sort ?? OrderSort.Newest) switch
        {
            OrderSort.Newest => orders.OrderByDescending(o => o.OrderDate).ThenByDescending(o => o.Number),
            OrderSort.Oldest => orders.OrderBy(o => o.OrderDate).ThenBy(o => o.Number),
            OrderSort.Number => orders.OrderBy(o => o.Number),
            OrderSort.NextDue => orders
                .OrderBy(o => o.Lines.SelectMany(l => l.Parts).Where(p => p.IsOpen).Min(p => (DateOnly?)p.Due) == null)
                .ThenBy(o => o.Lines.SelectMany(l => l.Parts).Where(p => p.IsOpen).Min(p => (DateOnly?)p.Due))
                .ThenBy(o => o.Number),
            _ => throw new ArgumentOutOfRangeException(nameof(inquiry), Sort, null),
        };
    }
}

/// <summary>A page of orders.</summary>
public sealed record OrdersAnswer(IReadOnlyList<OrderRowView> Rows, int Total, int Page, int PageSize);

/// <summary>A part of a line on an order's page.</summary>
public sealed record PartRow(
    int Id,
    bool Here,
    DateOnly Due,
    decimal Ordered,
    decimal Received,
    decimal Open,
    bool ClosedShort,
    string Site,
    DueState State,
    int DaysLate,
    IReadOnlyList<string> Arrivals,
    decimal Waiting,
    string? WaitingFor,
    PromiseView? Promise
);

/// <summary>A line on an order's page; the price only for those with the right.</summary>
/// <param name="AsksInspection">True where what comes on it is inspected, whatever rules say.</param>
/// <param name="ReturnReason">Why a customer sends it back, and what they were promised; null for other orders.</param>
public sealed record LineRow(
    int Number,
    string ItemCode,
    string ItemName,
    string Unit,
    decimal? Price,
    string? Note,
    bool AsksInspection,
    IReadOnlyList<PartRow> Parts,
    string? ReturnReason
);

/// <summary>A receipt against an order.</summary>
/// <param name="Quantities">What of this order it took in, with units and names: "400 each of Carrot seed pouch".</param>
public sealed record ReceiptRow(
    string Number,
    string Arrival,
    string DeliveryNote,
    DateTime PostedAt,
    string PostedBy,
    IReadOnlyList<string> Quantities
);

/// <summary>An order's page.</summary>
/// <param name="CancelledWhy">Why what had not come was cancelled; null where it was not.</param>
public sealed record OrderAnswer(
    string Number,
    OrderKind Kind,
    OrderState State,
    string Vendor,
    string? Contact,
    string? Telephone,
    DateOnly OrderDate,
    IReadOnlyList<LineRow> Lines,
    IReadOnlyList<ReceiptRow> Receipts,
    IReadOnlyList<Approval> Approvals,
    IReadOnlyList<OrderChangeView> Changes,
    string? CancelledWhy
);

/// <summary>A change of an order.</summary>
public sealed record OrderChangeView(string Sentence, string Source, string By, DateTime At);

/// <summary>Orders: the list, and one of them.</summary>
public static class Orders
{
    const int PageSize = 50;
    const int MostInFile = 20_000;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/road/orders", Right.See, List);
        routes.Ask("/road/orders.csv", Right.See, File);
        routes.Ask("/road/orders/{number}", Right.See, One);
        routes.Ask("/road/orders/{number}/print", Right.See, Print);
    }

    static async Task<Ok<OrdersAnswer>> List(Inquiry inquiry, [AsParameters] OrdersQuestion question, int page = 1)
    {
        var orders = question.Orders(inquiry);
        var total = await orders.CountAsync();
        var at = Math.Clamp(page, 1, Math.Max(1, (total + PageSize - 1) / PageSize));
        return TypedResults.Ok(new OrdersAnswer(await Rows(inquiry, orders.Skip((at - 1) * PageSize).Take(PageSize)), total, at, PageSize));
    }

    static async Task<FileContentHttpResult> File(Inquiry inquiry, [AsParameters] OrdersQuestion question)
    {
        var rows = await Rows(inquiry, question.Orders(inquiry).Take(MostInFile));
        var csv = CsvOut.Write(
            ["order", "kind", "state", "vendor", "ordered", "lines", "next due"],
            rows.Select(o => new object?[] { o.Number, o.Kind, Order.Word(o.State), o.Vendor, o.OrderDate, o.Lines, o.NextDue })
        );
        return TypedResults.File(csv, "text/csv; charset=utf-8", $"orders-{inquiry.Today:yyyy-MM-dd}.csv");
    }

    static async Task<List<OrderRowView>> Rows(Inquiry inquiry, IQueryable<Order> orders)
    {
        var rows = await orders
            .Select(o => new
            {
                o.Number,
                o.Kind,
                o.State,
                o.VendorId,
                o.OrderDate,
                Lines = o.Lines.Count,
                Begun = o.Lines.Any(l => l.Parts.Any(p => p.Received > 0)),
                Next = o.Lines.SelectMany(l => l.Parts).Where(p => p.IsOpen).Min(p => (DateOnly?)p.Due),
            })
            .ToListAsync();
        return
        [
            .. rows.Select(o => new OrderRowView(
                o.Number,
                o.Kind,
                Core.Road.Order.Shown(o.State, o.Begun),
                inquiry.SetUp.Vendors[o.VendorId].Name,
                o.OrderDate,
                o.Lines,
                o.Next
            )),
        ];
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Print(Inquiry inquiry, string number)
    {
        var order = await inquiry
            .Db.Orders.Include(o => o.Lines)
                .ThenInclude(l => l.Parts)
            .FirstOrDefaultAsync(o => o.Number == number && o.Lines.Any(l => l.Parts.Any(p => p.SiteId == inquiry.Site.Id)));
        if (order is null)
            return Problems.Of(Problems.NotFound("order", number));
        var lines = order
            .Lines.OrderBy(l => l.Number)
            .SelectMany(l =>
                l.Parts.Where(p => p.SiteId == inquiry.Site.Id)
                    .OrderBy(p => p.Due)
                    .Select(p =>
                    {
                        var item = inquiry.SetUp.Catalogue[l.ItemId];
                        return new[]
                        {
                            l.Number.ToString(),
                            $"{item.Name} ({item.Code})",
                            $"{Quantities.Show(p.Ordered)} {item.UnitWord}",
                            Quantities.Show(p.Received),
                            p.Due.ToString("yyyy-MM-dd"),
                        };
                    })
            )
            .ToList();
        var kind = order.Kind switch
        {
            OrderKind.Purchase => "Purchase order",
            OrderKind.Transfer => "Transfer",
            _ => "Customer return",
        };
        return TypedResults.File(
            Sheet.Draw(
                new SheetContent(
                    order.Number,
                    [
                        $"{kind}, {inquiry.SetUp.Vendors[order.VendorId].Name}, ordered {order.OrderDate:yyyy-MM-dd}, "
                            + $"{Order.Word(order.State)}",
                        $"To be received at {inquiry.Site.Name}",
                    ],
                    [
                        new("Line", Sheet.Left),
                        new("Item", Sheet.Left + 36, false),
                        new("Ordered", 330),
                        new("Received", 410),
                        new("Due", 490),
                    ],
                    lines,
                    [.. order.Approvals.Select(a => $"Approved by {a.By}, {a.On:yyyy-MM-dd}{(a.Note is null ? "" : ": " + a.Note)}")],
                    []
                )
            ),
            "application/pdf"
        );
    }

    static async Task<Results<Ok<OrderAnswer>, ProblemHttpResult>> One(Inquiry inquiry, string number)
    {
        var order = await inquiry
            .Db.Orders.Include(o => o.Lines)
                .ThenInclude(l => l.Parts)
            .FirstOrDefaultAsync(o => o.Number == number && o.Lines.Any(l => l.Parts.Any(p => p.SiteId == inquiry.Site.Id)));
        if (order is null)
            return Problems.Of(Problems.NotFound("order", number));
        var partIds = order.Lines.SelectMany(l => l.Parts).Select(p => p.Id).ToList();
        var receiptIds = inquiry
            .Db.TallyEntries.Where(e => e.PartId != null && partIds.Contains(e.PartId.Value) && e.ReceiptId != null)
            .Select(e => e.ReceiptId);
        var receipts = await inquiry
            .Db.Receipts.Where(r => r.SiteId == inquiry.Site.Id && receiptIds.Contains(r.Id))
            .Join(inquiry.Db.Arrivals, r => r.ArrivalId, a => a.Id, (r, a) => new { r, a.Number })
            .ToListAsync();
        var received = (
            await inquiry
                .Db.TallyEntries.Where(e =>
                    e.PartId != null && partIds.Contains(e.PartId.Value) && e.ReceiptId != null && e.TakenBackAt == null
                )
                .Select(e => new
                {
                    e.ReceiptId,
                    e.ItemId,
                    e.Quantity,
                })
                .ToListAsync()
        ).ToLookup(e => e.ReceiptId!.Value);
        var coming = (
            await inquiry
                .Db.ManifestLines.Where(m => partIds.Contains(m.PartId) && m.Counted < m.Expected)
                .Join(inquiry.Db.Arrivals.Open(), m => m.ArrivalId, a => a.Id, (m, a) => new { m.PartId, a.Number })
                .ToListAsync()
        ).ToLookup(c => c.PartId, c => c.Number);
        var promises = (await inquiry.Db.Promises.Where(p => partIds.Contains(p.PartId)).ToListAsync())
            .GroupBy(p => p.PartId)
            .ToDictionary(g => g.Key, g => g.MaxBy(p => p.Id)!);
        var changes = await inquiry.Db.OrderChanges.Where(c => c.OrderId == order.Id).OrderByDescending(c => c.Id).Take(200).ToListAsync();
        var vendor = inquiry.SetUp.Vendors[order.VendorId];
        var sites = inquiry.SetUp.Sites.Values.ToDictionary(s => s.Id, s => s.Name);
        return TypedResults.Ok(
            new OrderAnswer(
                order.Number,
                order.Kind,
                Core.Road.Order.Shown(order.State, order.Lines.Any(l => l.Parts.Any(p => p.Received > 0))),
                vendor.Name,
                vendor.ContactName,
                vendor.Telephone,
                order.OrderDate,
                [
                    .. order
                        .Lines.OrderBy(l => l.Number)
                        .Select(l =>
                        {
                            var item = inquiry.SetUp.Catalogue[l.ItemId];
                            return new LineRow(
                                l.Number,
                                item.Code,
                                item.Name,
                                item.UnitWord,
                                inquiry.May(Right.SeePrices) ? l.Price : null,
                                l.Note,
                                l.AsksInspection,
                                [
                                    .. l
                                        .Parts.OrderBy(p => p.Due)
                                        .Select(p => new PartRow(
                                            p.Id,
                                            p.SiteId == inquiry.Site.Id,
                                            p.Due,
                                            p.Ordered,
                                            p.Received,
                                            p.Open,
                                            p.ClosedShort,
                                            sites[p.SiteId],
                                            DueRules.State(p.Due, inquiry.Today, p.Coming),
                                            p.IsOpen ? DueRules.DaysLate(p.Due, inquiry.Today, p.Coming) : 0,
                                            [.. coming[p.Id]],
                                            p.WaitingQuantity,
                                            p.WaitingWords,
                                            DueList.View(inquiry, promises.GetValueOrDefault(p.Id))
                                        )),
                                ],
                                l.Return?.ToString()
                            );
                        }),
                ],
                [
                    .. receipts.Select(r => new ReceiptRow(
                        r.r.Number,
                        r.Number,
                        r.r.DeliveryNote,
                        inquiry.Local(r.r.PostedAt),
                        r.r.PostedBy,
                        [
                            .. received[r.r.Id]
                                .GroupBy(e => e.ItemId)
                                .Select(g =>
                                    $"{Quantities.Show(g.Sum(e => e.Quantity))} {inquiry.SetUp.Catalogue[g.Key].UnitWord} of "
                                    + $"{inquiry.SetUp.Catalogue[g.Key].Name}"
                                ),
                        ]
                    )),
                ],
                order.Approvals,
                [.. changes.Select(c => new OrderChangeView(c.Sentence, c.Source, c.By, inquiry.Local(c.At)))],
                order.Cancellation?.Reason
            )
        );
    }
}
