using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;

namespace MudRoom.Server.Road;

/// <summary>An order in the list.</summary>
public sealed record OrderRowView(string Number, OrderKind Kind, OrderState State, string Vendor, DateOnly OrderDate, int Lines, DateOnly? NextDue);

/// <summary>A page of orders.</summary>
public sealed record OrdersAnswer(IReadOnlyList<OrderRowView> Rows, int Total, int Page, int PageSize);

/// <summary>A part of a line on an order's page.</summary>
public sealed record PartRow(int Id, bool Here, DateOnly Due, decimal Ordered, decimal Received, decimal Open, bool ClosedShort, string Site, DueState State, int DaysLate, IReadOnlyList<string> Arrivals, decimal Waiting, string? WaitingFor, PromiseView? Promise);

/// <summary>A line on an order's page; the price only for those with the right.</summary>
public sealed record LineRow(int Number, string ItemCode, string ItemName, string Unit, decimal? Price, string? Note, IReadOnlyList<PartRow> Parts);

/// <summary>A receipt against an order.</summary>
public sealed record ReceiptRow(string Number, string Arrival, string DeliveryNote, DateTime PostedAt, string PostedBy);

/// <summary>An order's page.</summary>
/// <param name="CancelledWhy">Why what had not come was cancelled; null where it was not.</param>
public sealed record OrderAnswer(
    string Number, OrderKind Kind, OrderState State, string Vendor, string? Contact, string? Telephone, DateOnly OrderDate, IReadOnlyList<LineRow> Lines,
    IReadOnlyList<ReceiptRow> Receipts, IReadOnlyList<Approval> Approvals, IReadOnlyList<OrderChangeView> Changes, string? CancelledWhy);

/// <summary>A change of an order.</summary>
public sealed record OrderChangeView(string Sentence, string Source, string By, DateTime At);

/// <summary>Orders: the list, and one of them.</summary>
public static class Orders
{
    const int PageSize = 50;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/road/orders", Right.See, List);
        routes.Ask("/road/orders/{number}", Right.See, One);
        routes.Ask("/road/orders/{number}/print", Right.See, Print);
    }

    static async Task<Ok<OrdersAnswer>> List(Inquiry inquiry, string? text, int page = 1)
    {
        var orders = inquiry.Db.Orders.Where(o => o.Lines.Any(l => l.Parts.Any(p => p.SiteId == inquiry.Site.Id)));
        var words = (text ?? "").Trim();
        if (words.Length > 0)
        {
            var vendors = inquiry.SetUp.Vendors.Values.Where(v => v.Name.Contains(words, StringComparison.OrdinalIgnoreCase)).Select(v => v.Id).ToList();
            orders = orders.Where(o => o.Number.Contains(words) || vendors.Contains(o.VendorId));
        }

        var total = await orders.CountAsync();
        var at = Math.Max(1, page);
        var rows = await orders.OrderByDescending(o => o.OrderDate).ThenByDescending(o => o.Number).Skip((at - 1) * PageSize).Take(PageSize)
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
            }).ToListAsync();
        return TypedResults.Ok(new OrdersAnswer(
            [.. rows.Select(o => new OrderRowView(o.Number, o.Kind, StateNow(o.State, o.Begun), inquiry.SetUp.Vendors[o.VendorId].Name, o.OrderDate, o.Lines, o.Next))], total, at, PageSize));
    }

    /// <summary>While a tally goes on its orders are not touched: that some of it has come shows here at once, and in the order when the tally is closed.</summary>
    static OrderState StateNow(OrderState state, bool begun) => state == OrderState.Open && begun ? OrderState.PartlyReceived : state;

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Print(Inquiry inquiry, string number)
    {
        var order = await inquiry.Db.Orders.Include(o => o.Lines).ThenInclude(l => l.Parts)
            .FirstOrDefaultAsync(o => o.Number == number && o.Lines.Any(l => l.Parts.Any(p => p.SiteId == inquiry.Site.Id)));
        if (order is null) return Problems.Of(Problems.NotFound("order", number));
        var lines = order.Lines.OrderBy(l => l.Number).SelectMany(l => l.Parts.Where(p => p.SiteId == inquiry.Site.Id).OrderBy(p => p.Due).Select(p =>
        {
            var item = inquiry.SetUp.Catalogue[l.ItemId];
            return new[] { l.Number.ToString(), $"{item.Name} ({item.Code})", $"{Quantities.Show(p.Ordered)} {item.UnitWord}", Quantities.Show(p.Received), p.Due.ToString("yyyy-MM-dd") };
        })).ToList();
        var kind = order.Kind switch
        {
            OrderKind.Purchase => "Purchase order",
            OrderKind.Transfer => "Transfer",
            _ => "Customer return",
        };
        return TypedResults.File(
            Sheet.Draw(new SheetContent(
                order.Number,
                [$"{kind}, {inquiry.SetUp.Vendors[order.VendorId].Name}, ordered {order.OrderDate:yyyy-MM-dd}, {Order.Word(order.State)}", $"To be received at {inquiry.Site.Name}"],
                [new("Line", Sheet.Left), new("Item", Sheet.Left + 36, false), new("Ordered", 330), new("Received", 410), new("Due", 490)],
                lines, [.. order.Approvals.Select(a => $"Approved by {a.By}, {a.On:yyyy-MM-dd}{(a.Note is null ? "" : ": " + a.Note)}")], [])), "application/pdf");
    }

    static async Task<Results<Ok<OrderAnswer>, ProblemHttpResult>> One(Inquiry inquiry, string number)
    {
        var order = await inquiry.Db.Orders.Include(o => o.Lines).ThenInclude(l => l.Parts)
            .FirstOrDefaultAsync(o => o.Number == number && o.Lines.Any(l => l.Parts.Any(p => p.SiteId == inquiry.Site.Id)));
        if (order is null) return Problems.Of(Problems.NotFound("order", number));
        var partIds = order.Lines.SelectMany(l => l.Parts).Select(p => p.Id).ToList();
        var receiptIds = inquiry.Db.TallyEntries.Where(e => e.PartId != null && partIds.Contains(e.PartId.Value) && e.ReceiptId != null).Select(e => e.ReceiptId);
        var receipts = await inquiry.Db.Receipts.Where(r => r.SiteId == inquiry.Site.Id && receiptIds.Contains(r.Id))
            .Join(inquiry.Db.Arrivals, r => r.ArrivalId, a => a.Id, (r, a) => new { r, a.Number }).ToListAsync();
        var coming = (await inquiry.Db.ManifestLines.Where(m => partIds.Contains(m.PartId) && m.Counted < m.Expected)
            .Join(inquiry.Db.Arrivals.Open(), m => m.ArrivalId, a => a.Id, (m, a) => new { m.PartId, a.Number }).ToListAsync()).ToLookup(c => c.PartId, c => c.Number);
        var promises = (await inquiry.Db.Promises.Where(p => partIds.Contains(p.PartId)).ToListAsync()).GroupBy(p => p.PartId).ToDictionary(g => g.Key, g => g.MaxBy(p => p.Id)!);
        var changes = await inquiry.Db.OrderChanges.Where(c => c.OrderId == order.Id).OrderByDescending(c => c.Id).Take(200).ToListAsync();
        var vendor = inquiry.SetUp.Vendors[order.VendorId];
        var sites = inquiry.SetUp.Sites.Values.ToDictionary(s => s.Id, s => s.Name);
        return TypedResults.Ok(new OrderAnswer(
            order.Number, order.Kind, StateNow(order.State, order.Lines.Any(l => l.Parts.Any(p => p.Received > 0))), vendor.Name, vendor.ContactName, vendor.Telephone, order.OrderDate,
            [.. order.Lines.OrderBy(l => l.Number).Select(l =>
            {
                var item = inquiry.SetUp.Catalogue[l.ItemId];
                return new LineRow(l.Number, item.Code, item.Name, item.UnitWord, inquiry.May(Right.SeePrices) ? l.Price : null, l.Note, [.. l.Parts.OrderBy(p => p.Due).Select(p =>
                    new PartRow(p.Id, p.SiteId == inquiry.Site.Id, p.Due, p.Ordered, p.Received, p.Open, p.ClosedShort, sites[p.SiteId], DueRules.State(p.Due, inquiry.Today, p.Coming), p.IsOpen ? DueRules.DaysLate(p.Due, inquiry.Today, p.Coming) : 0,
                        [.. coming[p.Id]], p.WaitingQuantity, p.WaitingFor, DueList.View(inquiry, promises.GetValueOrDefault(p.Id))))]);
            })],
            [.. receipts.Select(r => new ReceiptRow(r.r.Number, r.Number, r.r.DeliveryNote, inquiry.Local(r.r.PostedAt), r.r.PostedBy))],
            order.Approvals, [.. changes.Select(c => new OrderChangeView(c.Sentence, c.Source, c.By, inquiry.Local(c.At)))], order.Cancellation?.Reason));
    }
}
