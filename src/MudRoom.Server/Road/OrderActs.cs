using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A line part gets another quantity or date.</summary>
/// <param name="Quantity">In base units, as typed; null keeps it.</param>
public sealed record ChangePartRequest(int Part, string? Quantity, DateOnly? Due, string? Reason);

/// <summary>An order by its number.</summary>
public sealed record OrderRequest(string Order, string? Reason);

/// <summary>What has not come of an order is cancelled.</summary>
/// <param name="Confirmed">True once somebody was told what of it is on site or ours on the way.</param>
public sealed record CancelOrderRequest(string Order, string Reason, bool Confirmed);

/// <summary>What was promised when somebody called.</summary>
public sealed record PromiseRequest(IReadOnlyList<int> Parts, string With, string Text, DateOnly? For);

/// <summary>An order typed by hand.</summary>
public sealed record NewOrderRequest(string Number, OrderKind Kind, string Vendor, bool Draft, IReadOnlyList<NewOrderLine> Lines);

/// <summary>One line of it; the same item twice makes two dated parts of one line.</summary>
/// <param name="AsksInspection">True where what comes on it is to be inspected, whatever rules say.</param>
/// <param name="Reason">Why a customer sends it back; of customer returns only.</param>
/// <param name="Promised">What they were promised for it.</param>
public sealed record NewOrderLine(
    string Item,
    string Quantity,
    DateOnly Due,
    string? Note,
    bool AsksInspection = false,
    string? Reason = null,
    ReturnPromise Promised = ReturnPromise.Nothing
);

/// <summary>A line asks that what comes on it is inspected, or asks it no more.</summary>
public sealed record AskInspectionOfLineRequest(string Order, int Line, bool Asks);

/// <summary>Changes orders by hand. What was received is never contradicted; each change is kept with who and when.</summary>
public static class OrderActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<ChangePartRequest, DoneAnswer>("/road/orders/change", Right.KeepOrders, Change);
        routes.Act<CancelOrderRequest, DoneAnswer>("/road/orders/cancel", Right.KeepOrders, Cancel);
        routes.Act<OrderRequest, DoneAnswer>("/road/orders/cancel/back", Right.KeepOrders, TakeBackCancellation);
        routes.Act<OrderRequest, DoneAnswer>("/road/orders/open", Right.KeepOrders, Open);
        routes.Act<NewOrderRequest, DoneAnswer>("/road/orders/new", Right.KeepOrders, New);
        routes.Act<AskInspectionOfLineRequest, DoneAnswer>("/road/orders/ask-inspection", Right.KeepOrders, AskInspection);
        routes.Act<PromiseRequest, DoneAnswer>("/road/promise", Right.KeepPromises, Promise);
    }

    public static async Task<Outcome<DoneAnswer>> Change(Act act, ChangePartRequest request)
    {
        var part = await act
            .Db.LineParts.Include(p => p.Line!)
                .ThenInclude(l => l.Order!)
                    .ThenInclude(o => o.Lines)
                        .ThenInclude(l => l.Parts)
            .FirstOrDefaultAsync(p => p.Id == request.Part && p.SiteId == act.Site.Id);
        if (part is null)
            return Problems.NotFound("order line", request.Part.ToString());
        var order = part.Line!.Order!;
        if (order.State == OrderState.Cancelled)
            return new Refusal(RoadRefusals.OrderDone, $"{order.Number} is cancelled.", "Make a new order.");
        var item = act.SetUp.Catalogue[part.ItemId];
        var said = new List<string>();
        if (!string.IsNullOrWhiteSpace(request.Quantity))
        {
            var read = Quantities.Read(request.Quantity, act.Site.DecimalComma);
            if (read.Refused(out var bad))
                return bad;
            if (Quantities.Check(read.Value, item) is { } badQuantity)
                return badQuantity;
            var was = part.Ordered;
            if (part.Reorder(read.Value) is { } below)
                return below;
            if (was != read.Value)
                said.Add($"{Quantities.Show(was)} → {Quantities.Show(read.Value)} {item.UnitWord}");
        }

        if (request.Due is { } due && due != part.Due)
        {
            var was = part.Due;
            if (part.Reschedule(due, act.Today) is { } absurd)
                return absurd;
            said.Add($"due {was:yyyy-MM-dd} → {due:yyyy-MM-dd}");
        }

        if (said.Count == 0)
            return new Refusal(HouseRefusals.NothingChanged, "Nothing is different.", "Type another quantity or date.");
        order.Follow();
        var sentence = $"Line {part.Line.Number}, {item.Name}: {string.Join(", ", said)}{Because(request.Reason)}";
        await Keep(act, order, part.Id, sentence);
        return new DoneAnswer($"{order.Number}: {sentence}");
    }

    public static async Task<Outcome<DoneAnswer>> Cancel(Act act, CancelOrderRequest request)
    {
        var order = await Find(act, request.Order);
        if (order is null)
            return Problems.NotFound("order", request.Order);
        if (order.Cancel(request.Reason, act.Person.Name, act.Now) is { } refusal)
            return refusal;
        if (!request.Confirmed && await OnSite(act, order) is { } here)
            return new Refusal(
                RoadRefusals.CancelConfirm,
                here,
                "Cancel it all the same: what still comes is then asked about at the door. Or leave it open."
            );
        var sentence = $"{(order.State == OrderState.Cancelled ? "Cancelled" : "The rest is cancelled")}{Because(request.Reason)}";
        await Keep(act, order, null, sentence);
        return new DoneAnswer($"{order.Number}: {sentence}");
    }

    public static async Task<Outcome<DoneAnswer>> TakeBackCancellation(Act act, OrderRequest request)
    {
        var order = await Find(act, request.Order);
        if (order is null)
            return Problems.NotFound("order", request.Order);
        if (order.TakeBackCancellation() is { } refusal)
            return refusal;
        await Keep(act, order, null, $"The cancellation is taken back{Because(request.Reason)}");
        return new DoneAnswer($"{order.Number} is {Order.Word(order.State)} again.");
    }

    /// <summary>Open arrivals that carry anything of an order.</summary>
    static Task<List<Arrival>> Carrying(Act act, Order order)
    {
        var parts = order.Lines.SelectMany(l => l.Parts).Select(p => p.Id).ToList();
        return act
            .Db.Arrivals.Open()
            .Include(a => a.Manifest.Where(m => parts.Contains(m.PartId)))
            .Where(a => a.Manifest.Any(m => parts.Contains(m.PartId)))
            .OrderBy(a => a.Number)
            .ToListAsync();
    }

    /// <summary>What of an order is in the yard, at a door, or ours on the way; null when nothing is.</summary>
    static async Task<string?> OnSite(Act act, Order order)
    {
        var said = new List<string>();
        foreach (var arrival in await Carrying(act, order))
        {
            if (arrival.State == ArrivalState.InYard)
                said.Add($"{arrival.Number} with goods of it stands in the yard, at spot {arrival.YardSpot}.");
            if (arrival.State == ArrivalState.AtDoor)
                said.Add($"{arrival.Number} with goods of it is at door {act.SetUp.Doors[arrival.DoorId!.Value].Number}.");
            if (arrival.Manifest.Exists(m => m.InTransit > 0))
                said.Add($"Goods of it on {arrival.Number} are ours on the way.");
        }

        return said.Count == 0 ? null : string.Join(" ", said);
    }

    /// <summary>Tells the devices at the doors where goods of an order are counted that it has changed.</summary>
    public static async Task TellDoors(Act act, Order order)
    {
        act.Touch("door", "yard");
        foreach (var arrival in await Carrying(act, order))
            act.Touch("arrival:" + arrival.Number);
    }

    public static async Task<Outcome<DoneAnswer>> Open(Act act, OrderRequest request)
    {
        var order = await Find(act, request.Order);
        if (order is null)
            return Problems.NotFound("order", request.Order);
        if (order.OpenForReceiving() is { } refusal)
            return refusal;
        await Keep(act, order, null, "Opened for receiving");
        return new DoneAnswer($"{order.Number} is open for receiving.");
    }

    public static async Task<Outcome<DoneAnswer>> New(Act act, NewOrderRequest request)
    {
        var number = (request.Number ?? "").Trim();
        if (number.Length is 0 or > 30)
            return new Refusal(RoadRefusals.OrderNumber, "An order number has 1 to 30 characters.", "Type it.");
        // Orders of an import that is not whole yet have their numbers already.
        if (await act.Db.Orders.IgnoreQueryFilters().AnyAsync(o => o.Number == number))
            return new Refusal(HouseRefusals.NumberTaken, $"There is an order {number} already.", "Look at it, or type another number.");
        var vendor = act.SetUp.Vendors.Values.FirstOrDefault(v =>
            v.Code.Equals((request.Vendor ?? "").Trim(), StringComparison.OrdinalIgnoreCase)
        );
        if (vendor is null)
            return new Refusal(RoadRefusals.VendorUnknown, $"No vendor has the code {request.Vendor}.", "Look in Site.");
        var typed = request.Lines ?? [];
        if (typed.Count is 0 or > 500)
            return new Refusal(RoadRefusals.LinesMissing, "An order has 1 to 500 lines.", "Add a line.");
        var lines = new List<(Item Item, decimal Quantity, DateOnly Due, string? Note, bool Asks, ReturnTerms? Return)>();
        foreach (var line in typed)
        {
            var item = act.SetUp.Catalogue.Items.FirstOrDefault(i =>
                i.Code.Equals((line.Item ?? "").Trim(), StringComparison.OrdinalIgnoreCase)
            );
            if (item is null)
                return new Refusal(HouseRefusals.ItemUnknown, $"No item has the code {line.Item}.", "Look in Site.");
            var read = Quantities.Read(line.Quantity, act.Site.DecimalComma);
            if (read.Refused(out var bad))
                return bad;
            if (Quantities.Check(read.Value, item) is { } badQuantity)
                return badQuantity;
            if (Math.Abs(line.Due.DayNumber - act.Today.DayNumber) > LinePart.MostDays)
                return new Refusal(
                    HouseRefusals.DateAbsurd,
                    $"{line.Due:yyyy-MM-dd} is more than ten years from today.",
                    "Look at the date."
                );
            if (line.AsksInspection && NoPlan(act, item, vendor.Id) is { } noPlan)
                return noPlan;
            var back = (ReturnTerms?)null;
            if (request.Kind == OrderKind.CustomerReturn)
            {
                var terms = ReturnTerms.Read(line.Reason, line.Promised);
                if (terms.Refused(out var noTerms))
                    return noTerms;
                back = terms.Value;
            }

            lines.Add((item, read.Value, line.Due, line.Note, line.AsksInspection, back));
        }

        var order = new Order
        {
            Number = number,
            Kind = request.Kind,
            VendorId = vendor.Id,
            OrderDate = act.Today,
            Lines =
            [
                .. lines
                    .GroupBy(l => (l.Item.Id, l.Return))
                    .Select(
                        (g, i) =>
                            new OrderLine
                            {
                                Number = i + 1,
                                ItemId = g.Key.Id,
                                Return = g.Key.Return,
                                Note = g.First().Note,
                                AsksInspection = g.Any(l => l.Asks),
                                Parts =
                                [
                                    .. g.Select(l => new LinePart
                                    {
                                        ItemId = g.Key.Id,
                                        VendorId = vendor.Id,
                                        SiteId = act.Site.Id,
                                        Due = l.Due,
                                        Ordered = l.Quantity,
                                    }),
                                ],
                            }
                    ),
            ],
        };
        if (request.Draft)
            order.MakeDraft();
        act.Db.Orders.Add(order);
        await act.Db.SaveChangesAsync();
        await Keep(act, order, null, $"Typed by hand with {order.Lines.Count} lines");
        return new DoneAnswer($"{number} is {Order.Word(order.State)}.");
    }

    /// <summary>The order itself asks for an inspection of what comes on a line; what is counted already stays as it is.</summary>
    public static async Task<Outcome<DoneAnswer>> AskInspection(Act act, AskInspectionOfLineRequest request)
    {
        var order = await Find(act, request.Order);
        if (order is null)
            return Problems.NotFound("order", request.Order);
        if (order.Lines.Find(l => l.Number == request.Line) is not { } line)
            return Problems.NotFound("order line", request.Line.ToString());
        if (line.AsksInspection == request.Asks)
            return new Refusal(
                HouseRefusals.NothingChanged,
                $"Line {line.Number} {(request.Asks ? "asks for an inspection already" : "asks for no inspection")}.",
                "There is nothing to do."
            );
        var item = act.SetUp.Catalogue[line.ItemId];
        if (request.Asks && NoPlan(act, item, order.VendorId) is { } noPlan)
            return noPlan;
        line.AsksInspection = request.Asks;
        var now = request.Asks ? "what comes on it is to be inspected" : "it asks for no inspection any more";
        var sentence = $"Line {line.Number}, {item.Name}: {now}";
        await Keep(act, order, null, sentence);
        return new DoneAnswer($"{order.Number}: {sentence}.");
    }

    static Refusal? NoPlan(Act act, Item item, int vendor) =>
        act.SetUp.PlansFor(new GoodsToInspect(InspectionTrigger.OrderLine, item, vendor, null)).Count > 0
            ? null
            : new Refusal(
                BenchRefusals.PlanNoneFits,
                $"No plan is meant for {item.Name}.",
                "Have a rule made that names one, under Bench › Plans › Rules."
            );

    public static async Task<Outcome<DoneAnswer>> Promise(Act act, PromiseRequest request)
    {
        var ids = (request.Parts ?? []).Distinct().ToList();
        var (with, text) = ((request.With ?? "").Trim(), (request.Text ?? "").Trim());
        if (with.Length is 0 or > 80)
            return new Refusal(RoadRefusals.WithMissing, "Say whom you spoke to, in at most 80 characters.", "Type a name.");
        if (text.Length is 0 or > 500)
            return new Refusal(HouseRefusals.NoteMissing, "Say what was promised, in at most 500 characters.", "Type a sentence.");
        if (request.For is { } day && (day < act.Today || day.DayNumber > act.Today.DayNumber + 730))
            return new Refusal(HouseRefusals.DateAbsurd, $"{day:yyyy-MM-dd} cannot be promised now.", "Look at the date.");
        var parts = await act
            .Db.LineParts.Include(p => p.Line!)
                .ThenInclude(l => l.Order)
            .Where(p => ids.Contains(p.Id) && p.SiteId == act.Site.Id)
            .ToListAsync();
        if (parts.Count == 0 || parts.Count != ids.Count)
            return new Refusal(RoadRefusals.LinesMissing, "No open line was named.", "Choose the lines you called about.");
        foreach (var part in parts)
            act.Db.Promises.Add(
                new Promise
                {
                    PartId = part.Id,
                    With = with,
                    Text = text,
                    For = request.For,
                    By = act.Person.Name,
                    At = act.Now,
                }
            );
        var lines = parts.ConvertAll(p => new LineNamed(p.Line!.Order!.Number, p.Line.Number));
        act.Write(
            new Promised(lines[0].Order, with, lines, text, request.For) { About = [.. lines.Select(l => Reference.Order(l.Order))] }
        );
        act.Touch("road", "house");
        return new DoneAnswer($"Kept: {with}, {text}");
    }

    static Task<Order?> Find(Act act, string number) =>
        act
            .Db.Orders.Include(o => o.Lines)
                .ThenInclude(l => l.Parts)
            .FirstOrDefaultAsync(o => o.Number == number && o.Lines.Any(l => l.Parts.Any(p => p.SiteId == act.Site.Id)));

    static async Task Keep(Act act, Order order, int? partId, string sentence)
    {
        act.Db.OrderChanges.Add(
            new OrderChange
            {
                OrderId = order.Id,
                PartId = partId,
                Sentence = sentence,
                Source = "by hand",
                By = act.Person.Name,
                At = act.Now,
            }
        );
        act.Write(new OrderChanged(order.Number, sentence));
        await act.Db.SaveChangesAsync();
        await TellDoors(act, order);
        act.Touch("road", "house");
    }

    static string Because(string? reason) => string.IsNullOrWhiteSpace(reason) ? "" : $", since {reason.Trim()}";
}
