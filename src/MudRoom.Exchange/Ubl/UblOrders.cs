using System.Xml.Linq;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using static MudRoom.Exchange.Ubl.UblNames;

namespace MudRoom.Exchange.Ubl;

/// <summary>Order, OrderChange and OrderCancellation.</summary>
static class UblOrders
{
    public static OrderMessage? Read(XElement root, OrderAction action, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var number =
            action == OrderAction.New
                ? resolver.NumberOf(root.Line(), "cbc:ID", root.At(Cbc + "ID"), "an order")
                : resolver.NumberOf(root.Line(), "cac:OrderReference/cbc:ID", root.At(Cac + "OrderReference", Cbc + "ID"), "an order");
        var seller = root.Element(Cac + "SellerSupplierParty");
        var vendor =
            action == OrderAction.New || seller is not null
                ? resolver.Vendor((seller ?? root).Line(), "cac:SellerSupplierParty", Parties(seller))
                : null;
        var issued = root.At(Cbc + "IssueDate");
        if (issued.Length == 0 && action == OrderAction.New)
            resolver.Fault(root.Line(), "cbc:IssueDate", "", "no date of the order is named");
        var date = resolver.XmlDate(root.Line(), "cbc:IssueDate", issued);
        var delivery = root.Element(Cac + "Delivery");
        var head = new Head(action, delivery, DueOf(delivery, resolver), delivery?.Element(Cac + "RequestedDeliveryPeriod") is not null);
        var orderLines = root.Elements(Cac + "OrderLine").ToList();
        var lines = action == OrderAction.Cancel ? [] : orderLines.SelectMany(l => Line(l, head, resolver)).ToList();
        if (action != OrderAction.Cancel && orderLines.Count == 0)
            resolver.Fault(root.Line(), "cac:OrderLine", "", "the order has no line");
        var approvals = root.Elements(Cac + "Signature")
            .Select(s => new Approval(
                s.AtOrNull(Cac + "SignatoryParty", Cac + "PartyName", Cbc + "Name") ?? s.At(Cbc + "ID"),
                resolver.XmlDate(s.Line(), "cbc:ValidationDate", s.At(Cbc + "ValidationDate")) ?? date ?? default,
                s.AtOrNull(Cbc + "Note")
            ))
            .ToList();
        return resolver.Faults.Count > before
            ? null
            : new OrderMessage(
                root.Line(),
                action,
                number,
                KindOf(root.At(Cbc + "OrderTypeCode")),
                vendor,
                date ?? default,
                lines,
                approvals
            );
    }

    /// <summary>What holds for every line that does not say otherwise.</summary>
    /// <param name="NamesDue">True where it names a date, right or not.</param>
    sealed record Head(OrderAction Action, XElement? Delivery, DateOnly? Due, bool NamesDue);

    static OrderKind KindOf(string code) =>
        code switch
        {
            "transfer" or "640" or "227" => OrderKind.Transfer,
            "return" => OrderKind.CustomerReturn,
            _ => OrderKind.Purchase,
        };

    /// <summary>One line, or each of its deliveries.</summary>
    static IEnumerable<TradeLine> Line(XElement line, Head head, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        if (line.Element(Cac + "LineItem") is not { } part)
        {
            resolver.Fault(line.Line(), "cac:LineItem", "", "is missing");
            return [];
        }

        var number = resolver.LineNumber(part.Line(), "cbc:ID", part.At(Cbc + "ID"));
        var action =
            head.Action == OrderAction.New
                ? LineAction.Add
                : part.At(Cbc + "LineStatusCode") switch
                {
                    "Added" or "1" => LineAction.Add,
                    "Cancelled" or "2" => LineAction.Cancel,
                    _ => LineAction.Change,
                };
        var goods = part.Element(Cac + "Item");
        var item = resolver.Item((goods ?? part).Line(), "cac:Item", Codes(goods));
        var whole = part.Element(Cbc + "Quantity");
        var unit = whole?.Attribute("unitCode")?.Value;
        var price = part.Element(Cac + "Price");
        var basis = price?.Element(Cbc + "BaseQuantity");
        var each = resolver.Price(
            part.Line(),
            "cac:Price/cbc:PriceAmount",
            price.At(Cbc + "PriceAmount"),
            basis?.Value,
            basis?.Attribute("unitCode")?.Value,
            unit,
            item
        );
        var quantity = whole is null ? null : resolver.Quantity(whole.Line(), "cbc:Quantity", whole.Value, unit, item);
        var deliveries = part.Elements(Cac + "Delivery").Select(d => Delivery(d, head, unit, item, action, resolver)).ToList();
        if (deliveries.Count == 0)
            deliveries = [Delivery(null, head, unit, item, action, resolver) with { Spot = part.Line() }];
        if (deliveries.Count == 1 && deliveries[0].Quantity is null)
            deliveries[0] = deliveries[0] with { Quantity = quantity };
        if (deliveries.Count > 1 && deliveries.Find(d => d.Quantity is null) is { } open && resolver.Faults.Count == before)
            resolver.Fault(
                open.Spot,
                "cac:Delivery/cbc:Quantity",
                "",
                "the line has several deliveries, and this one does not say how much"
            );
        if (quantity is { } all && deliveries.Sum(d => d.Quantity ?? 0) is var sum && sum != all && resolver.Faults.Count == before)
            resolver.Fault(
                whole!.Line(),
                "cbc:Quantity",
                whole!.Value,
                $"its deliveries sum to {Quantities.Show(sum)}, not to {Quantities.Show(all)}"
            );
        if (action == LineAction.Add && deliveries.Exists(d => d.Quantity is null) && resolver.Faults.Count == before)
            resolver.Fault(part.Line(), "cbc:Quantity", "", "the line has no quantity");
        if (
            action == LineAction.Add
            && !head.NamesDue
            && deliveries.Find(d => d.Due is null) is { } dateless
            && resolver.Faults.Count == before
        )
            resolver.Fault(dateless.Spot, "cac:RequestedDeliveryPeriod", "", "neither the line nor the order says when it is due");
        return resolver.Faults.Count > before
            ? []
            : deliveries.Select(d => new TradeLine(
                d.Spot,
                action,
                number,
                item?.Item,
                d.Quantity,
                d.Due,
                d.Site,
                each,
                line.AtOrNull(Cbc + "Note")
            ));
    }

    sealed record OneDelivery(int Spot, decimal? Quantity, DateOnly? Due, WarehouseSite? Site);

    /// <summary>A delivery of a line. What it does not say, the head of the order says.</summary>
    static OneDelivery Delivery(XElement? delivery, Head head, string? unit, Found? item, LineAction action, Resolver resolver)
    {
        var spot = (delivery ?? head.Delivery)?.Line() ?? 1;
        var given = delivery?.Element(Cbc + "Quantity");
        var quantity = given is null
            ? null
            : resolver.Quantity(given.Line(), "cbc:Quantity", given.Value, given.Attribute("unitCode")?.Value ?? unit, item);
        // A change leaves the date as it is unless the line itself names one.
        var due = DueOf(delivery, resolver) ?? (action == LineAction.Add ? head.Due : null);
        var place = delivery.AtOrNull(Cac + "DeliveryLocation", Cbc + "ID") ?? head.Delivery.At(Cac + "DeliveryLocation", Cbc + "ID");
        var site = place.Length > 0 || action == LineAction.Add ? resolver.Site(spot, "cac:DeliveryLocation", place) : null;
        return new OneDelivery(spot, quantity, due, site);
    }

    static DateOnly? DueOf(XElement? delivery, Resolver resolver)
    {
        var period = delivery?.Element(Cac + "RequestedDeliveryPeriod");
        return period is null
            ? null
            : resolver.XmlDate(period.Line(), "cbc:EndDate", period.AtOrNull(Cbc + "EndDate") ?? period.At(Cbc + "StartDate"));
    }
}
