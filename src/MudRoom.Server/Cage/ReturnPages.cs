using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Out;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>A customer's return in the list.</summary>
/// <param name="Waits">What it waits for, in words.</param>
/// <param name="WaitsForFinding">True where an inspector is asked.</param>
public sealed record CustomerReturnRow(
    string Number,
    string Customer,
    DateOnly OrderDate,
    string Goods,
    string Waits,
    bool WaitsForFinding,
    bool IsDone
);

/// <summary>Customers' returns, those that wait for somebody here first.</summary>
public sealed record ReturnsAnswer(IReadOnlyList<CustomerReturnRow> Rows, int Total, int Page, int PageSize);

/// <summary>Goods that are bound to a return.</summary>
/// <param name="Reason">Of the hold; always that of a return.</param>
/// <param name="Places">Where they stand, with how much.</param>
/// <param name="Found">What was found of them, by whom and when; null where nothing was.</param>
/// <param name="WaitsFor">An inspection of them that must be signed first; null for none.</param>
/// <param name="CanFind">True where who asks may say what they are.</param>
/// <param name="CanTakeBack">True where who asks may take the finding back.</param>
/// <param name="TwoDecide">True where two people may have to decide over them.</param>
public sealed record ReturnHold(
    string Number,
    string Item,
    decimal Quantity,
    string Unit,
    HoldReason Reason,
    IReadOnlyList<string> Places,
    IReadOnlyList<string> Serials,
    string? Found,
    string? WaitsFor,
    bool CanFind,
    bool CanTakeBack,
    bool CanDecide,
    DecisionView? Decision,
    IReadOnlyList<DecisionKind> Choices,
    bool TwoDecide
);

/// <summary>A line of a return with its whole way.</summary>
/// <param name="Way">Its stations in order.</param>
public sealed record ReturnLineView(
    int Number,
    string ItemCode,
    string ItemName,
    string Unit,
    string Reason,
    ReturnPromise Promised,
    IReadOnlyList<ChainLink> Way,
    IReadOnlyList<ReturnHold> Holds
);

/// <summary>A customer's return.</summary>
public sealed record ReturnAnswer(
    string Number,
    string Customer,
    string? Contact,
    string? Telephone,
    DateOnly OrderDate,
    OrderState State,
    string Headline,
    IReadOnlyList<string> Arrivals,
    IReadOnlyList<string> Inspections,
    IReadOnlyList<ReturnLineView> Lines
);

/// <summary>Customers' returns: the list, and the whole way of one.</summary>
public static class ReturnPages
{
    const int PageSize = 40;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/cage/returns", Right.See, List);
        routes.Ask("/cage/returns/{number}", Right.See, One);
    }

    static IQueryable<Order> Here(Inquiry inquiry) =>
        inquiry.Db.Orders.Where(o =>
            o.Kind == OrderKind.CustomerReturn
            && o.State != OrderState.Draft
            && o.Lines.Any(l => l.Parts.Any(p => p.SiteId == inquiry.Site.Id))
        );

    static async Task<Ok<ReturnsAnswer>> List(Inquiry inquiry, int page = 1)
    {
        var here = Here(inquiry);
        var total = await here.CountAsync();
        var at = Math.Clamp(page, 1, Math.Max(1, (total + PageSize - 1) / PageSize));
        var binding = inquiry.Db.Holds.Where(h => h.IsOpen && h.SiteId == inquiry.Site.Id && h.OrderLineId != null);
        var orders = await here.OrderByDescending(o => binding.Any(h => h.Found == null && o.Lines.Any(l => l.Id == h.OrderLineId)))
            .ThenByDescending(o => binding.Any(h => o.Lines.Any(l => l.Id == h.OrderLineId)))
            .ThenByDescending(o => o.State == OrderState.Open || o.State == OrderState.PartlyReceived)
            .ThenByDescending(o => o.OrderDate)
            .ThenByDescending(o => o.Number)
            .Skip((at - 1) * PageSize)
            .Take(PageSize)
            .Include(o => o.Lines)
                .ThenInclude(l => l.Parts)
            .AsNoTracking()
            .ToListAsync();
        var holds = (await HoldsOf(inquiry, [.. orders.SelectMany(o => o.Lines).Select(l => l.Id)])).ToLookup(h => h.OrderLineId!.Value);
        return TypedResults.Ok(new ReturnsAnswer([.. orders.Select(o => RowOf(inquiry, o, holds))], total, at, PageSize));
    }

    /// <summary>True while more of it is waited for; the order itself says so only when its tally is closed.</summary>
    static bool Comes(Order order) => order.Lines.Exists(l => l.Parts.Exists(p => p.IsOpen));

    static CustomerReturnRow RowOf(Inquiry inquiry, Order order, ILookup<int, Hold> holds)
    {
        var open = order.Lines.SelectMany(l => holds[l.Id]).Where(h => h.IsOpen).ToList();
        var stage = ReturnStage.Of(open, Comes(order));
        return new CustomerReturnRow(
            order.Number,
            inquiry.SetUp.Vendors[order.VendorId].Name,
            order.OrderDate,
            string.Join(
                ", ",
                order
                    .Lines.OrderBy(l => l.Number)
                    .Select(l => (Item: inquiry.SetUp.Catalogue[l.ItemId], Sum: l.Parts.Sum(p => Math.Max(p.Ordered, p.Received))))
                    .Select(l => $"{Quantities.Show(l.Sum)} {l.Item.UnitWord} of {l.Item.Name}")
            ),
            stage.Words,
            stage == ReturnStage.Finding,
            stage == ReturnStage.Done
        );
    }

    static Task<List<Hold>> HoldsOf(Inquiry inquiry, List<int> lines) =>
        inquiry
            .Db.Holds.Where(h => h.SiteId == inquiry.Site.Id && lines.Contains(h.OrderLineId!.Value))
            .OrderBy(h => h.Id)
            .AsNoTracking()
            .ToListAsync();

    static async Task<Results<Ok<ReturnAnswer>, ProblemHttpResult>> One(Inquiry inquiry, string number)
    {
        var order = await Here(inquiry)
            .Include(o => o.Lines)
                .ThenInclude(l => l.Parts)
            .AsNoTracking()
            .FirstOrDefaultAsync(o => o.Number == number);
        if (order is null)
            return Problems.Of(Problems.NotFound("customer return", number));
        var holds = await HoldsOf(inquiry, [.. order.Lines.Select(l => l.Id)]);
        var goods = await ReturnGoods.Of(inquiry, order, holds);
        var told = await inquiry
            .Db.OutMessages.Where(m => m.SiteId == inquiry.Site.Id && m.Kind == OutKind.ReturnFinding && m.Subject == order.Number)
            .Select(m => (DateTimeOffset?)m.At)
            .MaxAsync();
        var vendor = inquiry.SetUp.Vendors[order.VendorId];
        var lines = order.Lines.OrderBy(l => l.Number).Select(l => LineOf(inquiry, order, l, holds, goods, told)).ToList();
        var stage = ReturnStage.Of([.. holds.Where(h => h.IsOpen)], Comes(order));
        return TypedResults.Ok(
            new ReturnAnswer(
                order.Number,
                vendor.Name,
                vendor.ContactName,
                vendor.Telephone,
                order.OrderDate,
                order.State,
                stage.Words,
                [.. goods.Arrivals.Select(a => a.Arrival.Number).Distinct()],
                [.. goods.Looked.Select(l => l.Looked.Number).Distinct()],
                lines
            )
        );
    }

    static ReturnLineView LineOf(
        Inquiry inquiry,
        Order order,
        OrderLine line,
        IReadOnlyList<Hold> holds,
        ReturnGoods goods,
        DateTimeOffset? told
    )
    {
        var item = inquiry.SetUp.Catalogue[line.ItemId];
        var terms = line.Return ?? ReturnTerms.NotSaid;
        var own = holds.Where(h => h.OrderLineId == line.Id).ToList();
        var parts = line.Parts.Select(p => p.Id).ToHashSet();
        var isFound = own.Exists(h => h.Found is not null);
        var way = ReturnWay.Of(
            new ReturnLine(
                line.Parts.Sum(p => p.Ordered),
                order.OrderDate,
                line.Parts.Sum(p => p.Received),
                line.Parts.TrueForAll(p => !p.IsOpen),
                item.UnitWord,
                terms.PromisedWords,
                [.. goods.Arrivals.Where(a => parts.Contains(a.Part)).Select(a => a.Arrival).DistinctBy(a => a.Number)],
                [.. goods.Looked.Where(l => own.Exists(h => h.Id == l.Hold)).Select(l => l.Looked).DistinctBy(l => l.Number)],
                [.. own.Select(h => new ReturnPart(h.Quantity, h.Found?.Words, h.IsOpen ? h.Decision?.ToBe : null))],
                isFound && told is { } at ? inquiry.Local(at) : null,
                goods.Freed(inquiry, [.. own.Select(h => h.Id)]),
                line.Note
            )
        );
        return new ReturnLineView(
            line.Number,
            item.Code,
            item.Name,
            item.UnitWord,
            terms.Reason,
            terms.Promised,
            way,
            [.. own.Where(h => h.IsOpen).Select(h => HoldOf(inquiry, h, item, goods))]
        );
    }

    static ReturnHold HoldOf(Inquiry inquiry, Hold hold, Item item, ReturnGoods goods)
    {
        var waits = goods.WaitFor.GetValueOrDefault(hold.Id);
        var isFree = hold.Decision is null;
        return new ReturnHold(
            hold.Number,
            item.Name,
            hold.Quantity,
            item.UnitWord,
            hold.Reason,
            goods.PlacesOf(inquiry, hold.Id),
            goods.SerialsOf(hold.Id),
            hold.Found is { } f ? $"{f.Words} ({f.By.Name}, {inquiry.Local(f.At):yyyy-MM-dd HH:mm})" : null,
            waits,
            hold.Found is null && waits is null && isFree && inquiry.May(Right.SignVerdict),
            hold.Found is not null && isFree && inquiry.May(Right.SignVerdict),
            hold.MayBeDecided && isFree && inquiry.May(Right.Decide),
            DecisionView.Of(inquiry, hold),
            HoldDecision.Choices(hold.Reason),
            inquiry.CageSettings.SecondAbove is not null
        );
    }
}
