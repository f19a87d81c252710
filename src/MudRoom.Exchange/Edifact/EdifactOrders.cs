using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange.Edifact;

/// <summary>ORDERS and ORDCHG.</summary>
static class EdifactOrders
{
    /// <summary>Qualifiers of dates due, by their rank: asked for, delivery until, delivery from.</summary>
    static readonly string[] due = ["2", "63", "64"];

    /// <summary>What holds for every line that does not say otherwise.</summary>
    /// <param name="NamesSite">True where it names one, known or not.</param>
    /// <param name="NamesDue">True where it names a date, right or not.</param>
    sealed record Head(OrderAction Action, WarehouseSite? Site, bool NamesSite, DateOnly? Due, bool NamesDue);

    public static OrderMessage? Read(List<Segment> message, bool isChange, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var place = message[0].Place;
        var bgm = message.Find(s => s.Tag == "BGM");
        var top = message.Before("LIN");
        var number = resolver.NumberOf(bgm?.Place ?? place, "BGM", bgm?.At(1) ?? "", "an order");
        if (isChange && top.Find(s => s.Tag == "RFF" && s.At(0) == "ON")?.At(0, 1) is { Length: > 0 } changed)
            number = changed;
        var action = ActionOf(bgm, isChange, resolver);
        var parties = Message.Party(top, "SU");
        var vendor =
            parties is { } su ? resolver.Vendor(su.Place, "NAD", su.Codes)
            : action == OrderAction.New ? resolver.Vendor(place, "NAD+SU")
            : null;
        var delivery = Message.Party(top, "DP");
        var site = delivery is { } dp ? resolver.Site(dp.Place, "NAD", dp.Codes) : null;
        var date = Message.DateOf(top, resolver, "137", "4");
        if (date is null && action == OrderAction.New && resolver.Faults.Count == before)
            resolver.Fault(place, "DTM+137", "", "no date of the order is named");
        var head = new Head(action, site, delivery is not null, Message.DateOf(top, resolver, due), top.Exists(IsDue));
        var approvals = top.Where(s => s.Tag == "FTX" && s.At(0) == "APR")
            .Select(s => new Approval(s.At(3), date ?? default, s.At(3, 1).Length > 0 ? s.At(3, 1) : null))
            .ToList();
        var lines = action == OrderAction.Cancel ? [] : Message.Groups(message, "LIN").SelectMany(g => Line(g, head, resolver)).ToList();
        if (action != OrderAction.Cancel && lines.Count == 0 && resolver.Faults.Count == before)
            resolver.Fault(place, "LIN", "", "the order has no line");
        return resolver.Faults.Count > before
            ? null
            : new OrderMessage(place, action, number, KindOf(bgm!.At(0)), vendor, date ?? default, lines, approvals);
    }

    /// <summary>Message functions of code list 1225: 1 cancellation, 4 change, 5 replacement, 7 duplicate, 9 original.</summary>
    static OrderAction ActionOf(Segment? bgm, bool isChange, Resolver resolver)
    {
        switch (bgm?.At(2))
        {
            case "1":
                return OrderAction.Cancel;
            case "4":
                return OrderAction.Change;
            case "5" or "7":
                resolver.Fault(
                    bgm.Place,
                    "BGM",
                    bgm.At(2),
                    bgm.At(2) == "5"
                        ? "an order is not replaced as a whole; send what changes"
                        : "this is a copy of an order, not the order"
                );
                return OrderAction.Change;
            default:
                return isChange ? OrderAction.Change : OrderAction.New;
        }
    }

    /// <summary>Codes of data element 1001: 220 order, 227 consignment order; 230 purchase order change; others are purchases
    /// too.</summary>
    static OrderKind KindOf(string code) =>
        code switch
        {
            "640" or "227" => OrderKind.Transfer,
            _ => OrderKind.Purchase,
        };

    /// <summary>One line, or each of its deliveries.</summary>
    static List<TradeLine> Line(List<Segment> group, Head head, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var lin = group[0];
        var own = group.Before("SCC");
        var number = resolver.LineNumber(lin.Place, "LIN", lin.At(0));
        var action =
            head.Action == OrderAction.New
                ? LineAction.Add
                : lin.At(1) switch
                {
                    "1" => LineAction.Add,
                    "2" => LineAction.Cancel,
                    _ => LineAction.Change,
                };
        var item = resolver.Item(lin.Place, "LIN", Message.Codes(group));
        var qty = own.Find(IsOrdered);
        var quantity = qty is null ? null : resolver.Quantity(qty.Place, "QTY", qty.At(0, 1), qty.At(0, 2), item);
        var places = own.Where(s => s.Tag == "LOC" && s.At(0) == "7").ToList();
        if (places.Count > 1)
            resolver.Fault(places[1].Place, "LOC", places[1].At(1), "a line for several places is not taken; send a line for each");
        var site = places.Count > 0 ? resolver.Site(places[0].Place, "LOC", places[0].At(1)) : head.Site;
        if (action == LineAction.Add && site is null && !head.NamesSite && resolver.Faults.Count == before)
            resolver.Fault(lin.Place, "NAD+DP", "", "no delivery site is named");
        var day = Message.DateOf(own, resolver, due) ?? (action == LineAction.Add ? head.Due : null);
        var pri = own.Find(s => s.Tag == "PRI");
        var price = pri is null ? null : resolver.Price(pri.Place, "PRI", pri.At(0, 1), pri.At(0, 4), pri.At(0, 5), qty?.At(0, 2), item);
        var deliveries = Deliveries(group, qty?.At(0, 2), item, day, resolver);
        if (
            deliveries.Count > 0
            && quantity is { } whole
            && deliveries.Sum(d => d.Quantity ?? 0) is var sum
            && sum != whole
            && resolver.Faults.Count == before
        )
            resolver.Fault(
                qty!.Place,
                "QTY",
                qty.At(0, 1),
                $"its deliveries sum to {Quantities.Show(sum)}, not to {Quantities.Show(whole)}"
            );
        if (deliveries.Count == 0)
            deliveries = [(lin.Place, quantity, day)];
        foreach (var (spot, many, on) in deliveries)
        {
            if (action == LineAction.Add && many is null && resolver.Faults.Count == before)
                resolver.Fault(spot, "QTY", "", "the line has no ordered quantity");
            if (action == LineAction.Add && on is null && !head.NamesDue && resolver.Faults.Count == before)
                resolver.Fault(spot, "DTM+2", "", "neither the line nor the order says when it is due");
        }

        return resolver.Faults.Count > before
            ? []
            : [.. deliveries.Select(d => new TradeLine(d.Spot, action, number, item?.Item, d.Quantity, d.Due, site, price, null))];
    }

    static bool IsDue(Segment segment) => segment.Tag == "DTM" && due.Contains(segment.At(0));

    /// <summary>Quantities of code list 6063: 1 discrete, 21 ordered, 11 a part of it, 113 to be delivered.</summary>
    static bool IsOrdered(Segment segment) => segment.Tag == "QTY" && segment.At(0) is "21" or "1";

    /// <summary>The deliveries of a line: behind SCC, each QTY with the DTM that follow it.</summary>
    static List<(int Spot, decimal? Quantity, DateOnly? Due)> Deliveries(
        List<Segment> group,
        string? unit,
        Found? item,
        DateOnly? lineDue,
        Resolver resolver
    )
    {
        var deliveries = new List<(int, decimal?, DateOnly?)>();
        foreach (var schedule in Message.Groups(group, "SCC"))
        {
            foreach (var part in Message.Groups(schedule, "QTY"))
            {
                var qty = part[0];
                if (qty.At(0) is not ("21" or "1" or "11" or "113"))
                    continue;
                var quantity = resolver.Quantity(qty.Place, "QTY", qty.At(0, 1), qty.At(0, 2) is { Length: > 0 } own ? own : unit, item);
                deliveries.Add((qty.Place, quantity, Message.DateOf(part, resolver, due) ?? lineDue));
            }
        }

        return deliveries;
    }
}
