using System.Globalization;
using System.Xml;
using System.Xml.Linq;
using MudRoom.Core;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;

namespace MudRoom.Exchange.Ubl;

/// <summary>
/// Order, OrderChange, OrderCancellation and DespatchAdvice of OASIS UBL 2.x, in the subset of docs/formats/ubl.md. The structure stands
/// here from the standard; the schemas are not at hand. Document types and outside entities are refused.
/// </summary>
public static class UblReader
{
    const string Root = "urn:oasis:names:specification:ubl:schema:xsd:";
    static readonly XNamespace cbc = Root + "CommonBasicComponents-2";
    static readonly XNamespace cac = Root + "CommonAggregateComponents-2";

    // The standard's names for a logistic unit on its way, put together from their parts.
    const string Ending = "Unit";
    static readonly XName loaded = cac + ("TransportHandling" + Ending);
    static readonly XName loadedLine = cac + ("Handling" + Ending + "DespatchLine");
    static readonly XName loadedType = cbc + ("TransportHandling" + Ending + "TypeCode");

    /// <summary>Reads and checks the whole document.</summary>
    public static TradeFile Read(string text, Known known, DateOnly today)
    {
        XElement root;
        if (TooMuch(text) is { } much) return new TradeFile("UBL", [], [], [much]);
        try
        {
            using var reader = XmlReader.Create(new StringReader(text.TrimStart('\ufeff')), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
            root = XElement.Load(reader, LoadOptions.SetLineInfo);
        }
        catch (XmlException failure)
        {
            return new TradeFile("UBL", [], [], [new FileFault(Math.Max(1, failure.LineNumber), "", "", failure.Message.Contains("DTD", StringComparison.Ordinal) ? "A document type is not taken." : "This is no well-formed XML.")]);
        }

        var name = root.Name.LocalName;
        if (root.Name.NamespaceName != $"{Root}{name}-2")
            return new TradeFile("UBL", [], [], [new FileFault(LineOf(root), name, root.Name.NamespaceName, "This is no document of UBL 2.")]);
        var resolver = new Resolver(known, today);
        List<OrderMessage> orders = [];
        List<AdviceMessage> advices = [];
        switch (name)
        {
            case "Order":
                if (Order(root, OrderAction.New, "OrderLine", resolver) is { } order) orders.Add(order);
                break;
            case "OrderChange":
                if (Order(root, OrderAction.Change, "OrderLine", resolver) is { } change) orders.Add(change);
                break;
            case "OrderCancellation":
                if (Order(root, OrderAction.Cancel, "OrderLine", resolver) is { } cancellation) orders.Add(cancellation);
                break;
            case "DespatchAdvice":
                if (Advice(root, resolver) is { } advice) advices.Add(advice);
                break;
            default:
                resolver.Fault(LineOf(root), name, "", "only Order, OrderChange, OrderCancellation and DespatchAdvice are taken");
                break;
        }

        return resolver.Finish($"UBL {name}", orders, advices);
    }

    /// <summary>Deepest nesting; the deepest that UBL uses lies below 20.</summary>
    const int MostDeep = 40;

    /// <summary>Most elements of a document.</summary>
    const int MostElements = 4_000_000;

    /// <summary>Looks over the document once, without building it: what is nested or repeated beyond all use is refused before it costs anything.</summary>
    static FileFault? TooMuch(string text)
    {
        try
        {
            using var reader = XmlReader.Create(new StringReader(text.TrimStart('\ufeff')), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
            var elements = 0;
            while (reader.Read())
            {
                if (reader.NodeType != XmlNodeType.Element) continue;
                if (reader.Depth > MostDeep) return new FileFault(((IXmlLineInfo)reader).LineNumber, reader.LocalName, "", $"The document is nested more than {MostDeep} deep.");
                if (++elements > MostElements) return new FileFault(((IXmlLineInfo)reader).LineNumber, reader.LocalName, "", $"The document has more than {MostElements} elements.");
            }
        }
        catch (XmlException)
        {
            // The reading itself says where it is not well formed.
        }

        return null;
    }

    static OrderMessage? Order(XElement root, OrderAction action, string lineName, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var number = action == OrderAction.New ? Text(root, cbc + "ID") : Text(root, cac + "OrderReference", cbc + "ID");
        if (number.Length is 0 or > 40) resolver.Fault(LineOf(root), action == OrderAction.New ? "cbc:ID" : "cac:OrderReference/cbc:ID", number, "the order number has 1 to 40 characters");
        var seller = root.Element(cac + "SellerSupplierParty");
        var vendor = action == OrderAction.New || seller is not null ? resolver.Vendor(LineOf(seller ?? root), "cac:SellerSupplierParty", PartyCode(seller)) : null;
        var date = resolver.Date(LineOf(root), "cbc:IssueDate", Text(root, cbc + "IssueDate"), "yyyy-MM-dd") ?? resolver.Today;
        var head = root.Element(cac + "Delivery");
        var lines = action == OrderAction.Cancel ? [] : root.Elements(cac + lineName).Select(l => Line(l, action, head, resolver)).OfType<TradeLine>().ToList();
        if (action != OrderAction.Cancel && !root.Elements(cac + lineName).Any()) resolver.Fault(LineOf(root), "cac:OrderLine", "", "the order has no line");
        var approvals = root.Elements(cac + "Signature").Select(s => new Approval(
            Text(s, cac + "SignatoryParty", cac + "PartyName", cbc + "Name") is { Length: > 0 } by ? by : Text(s, cbc + "ID"), resolver.Date(LineOf(s), "cbc:ValidationDate", Text(s, cbc + "ValidationDate"), "yyyy-MM-dd") ?? date,
            Text(s, cbc + "Note") is { Length: > 0 } note ? note : null)).ToList();
        return resolver.Faults.Count > before ? null : new OrderMessage(LineOf(root), action, number, KindOf(Text(root, cbc + "OrderTypeCode")), vendor, date, lines, approvals);
    }

    static OrderKind KindOf(string code) => code switch
    {
        "transfer" or "640" or "227" => OrderKind.Transfer,
        "return" => OrderKind.CustomerReturn,
        _ => OrderKind.Purchase,
    };

    static TradeLine? Line(XElement line, OrderAction order, XElement? head, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var part = line.Element(cac + "LineItem");
        if (part is null)
        {
            resolver.Fault(LineOf(line), "cac:LineItem", "", "is missing");
            return null;
        }

        if (!int.TryParse(Text(part, cbc + "ID"), NumberStyles.None, CultureInfo.InvariantCulture, out var number) || number is < 1 or > 99_999) resolver.Fault(LineOf(part), "cbc:ID", Text(part, cbc + "ID"), "a line has a number from 1 to 99999");
        var action = order == OrderAction.New ? LineAction.Add : Text(part, cbc + "LineStatusCode") switch
        {
            "Added" or "1" => LineAction.Add,
            "Cancelled" or "2" => LineAction.Cancel,
            _ => LineAction.Change,
        };
        var goods = part.Element(cac + "Item");
        var item = action == LineAction.Add || goods is not null ? resolver.Item(LineOf(goods ?? part), "cac:Item", Codes(goods)) : null;
        var given = part.Element(cbc + "Quantity");
        var quantity = given is null ? null : resolver.Quantity(LineOf(given), "cbc:Quantity", given.Value, given.Attribute("unitCode")?.Value, item);
        if (action == LineAction.Add && given is null) resolver.Fault(LineOf(part), "cbc:Quantity", "", "the line has no quantity");
        var delivery = part.Element(cac + "Delivery");
        var period = (delivery ?? head)?.Element(cac + "RequestedDeliveryPeriod");
        var due = period is null ? null : resolver.Date(LineOf(period), "cbc:EndDate", Text(period, cbc + "EndDate") is { Length: > 0 } end ? end : Text(period, cbc + "StartDate"), "yyyy-MM-dd");
        var place = Text(delivery, cac + "DeliveryLocation", cbc + "ID") is { Length: > 0 } own ? own : Text(head, cac + "DeliveryLocation", cbc + "ID");
        var site = place.Length > 0 || action == LineAction.Add ? resolver.Site(LineOf(delivery ?? part), "cac:DeliveryLocation", place) : null;
        var price = resolver.Price(LineOf(part), "cac:Price/cbc:PriceAmount", Text(part, cac + "Price", cbc + "PriceAmount"));
        return resolver.Faults.Count > before ? null : new TradeLine(
            LineOf(part), action, number, item?.Item, quantity, due ?? (action == LineAction.Add ? resolver.Today : null), site, price, Text(line, cbc + "Note") is { Length: > 0 } note ? note : null);
    }

    static AdviceMessage? Advice(XElement root, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var number = Text(root, cbc + "ID");
        if (number.Length is 0 or > 40) resolver.Fault(LineOf(root), "cbc:ID", number, "the despatch advice has a number of 1 to 40 characters");
        var supplier = root.Element(cac + "DespatchSupplierParty");
        var vendor = resolver.Vendor(LineOf(supplier ?? root), "cac:DespatchSupplierParty", PartyCode(supplier));
        var shipment = root.Element(cac + "Shipment");
        var delivery = shipment?.Element(cac + "Delivery");
        var place = Text(delivery, cac + "DeliveryLocation", cbc + "ID");
        var site = place.Length == 0 ? null : resolver.Site(LineOf(delivery!), "cac:DeliveryLocation", place);
        var period = delivery?.Element(cac + "EstimatedDeliveryPeriod");
        DateTime? arrives = null;
        if (period is not null && resolver.Date(LineOf(period), "cbc:StartDate", Text(period, cbc + "StartDate"), "yyyy-MM-dd") is { } day)
            arrives = day.ToDateTime(TimeOnly.TryParse(Text(period, cbc + "StartTime"), CultureInfo.InvariantCulture, out var clock) ? clock : new TimeOnly(9, 0));
        var order = Text(root, cac + "OrderReference", cbc + "ID");
        var equipment = shipment?.Elements(loaded).SelectMany(u => u.Elements(cac + "TransportEquipment")).FirstOrDefault();
        var stage = shipment?.Element(cac + "ShipmentStage");
        var units = Units(shipment, resolver);
        var lines = new List<AdvisedLine>();
        foreach (var line in root.Elements(cac + "DespatchLine"))
        {
            var goods = line.Element(cac + "Item");
            var faults = resolver.Faults.Count;
            var item = resolver.Item(LineOf(goods ?? line), "cac:Item", Codes(goods));
            var text = item is null ? string.Join(" ", Codes(goods).Where(c => c.Length > 0)) : item.Item.Code;
            if (item is null && text.Length > 0) resolver.Faults.RemoveRange(faults, resolver.Faults.Count - faults);
            var given = line.Element(cbc + "DeliveredQuantity");
            if (given is null) resolver.Fault(LineOf(line), "cbc:DeliveredQuantity", "", "the line has no quantity");
            var (quantity, wrongUnit) = given is null ? (null, null) : resolver.Advised(LineOf(given), "cbc:DeliveredQuantity", given.Value, given.Attribute("unitCode")?.Value, item);
            var reference = line.Element(cac + "OrderLineReference");
            int? orderLine = int.TryParse(Text(reference, cbc + "LineID"), NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;
            var own = Text(reference, cac + "OrderReference", cbc + "ID") is { Length: > 0 } o ? o : order.Length > 0 ? order : null;
            var instance = goods?.Element(cac + "ItemInstance");
            var lot = instance?.Element(cac + "LotIdentification");
            var unit = units.GetValueOrDefault(Text(line, cbc + "ID"));
            lines.Add(new AdvisedLine(
                unit.Sscc, unit.Parent, unit.Package, own, orderLine, item?.Item.Id, text, quantity ?? 0, Text(lot, cbc + "LotNumberID") is { Length: > 0 } batch ? batch : null,
                resolver.Date(LineOf(instance ?? line), "cbc:ManufactureDate", Text(instance, cbc + "ManufactureDate"), "yyyy-MM-dd"),
                resolver.Date(LineOf(instance ?? line), "cbc:BestBeforeDate", Text(instance, cbc + "BestBeforeDate"), "yyyy-MM-dd"),
                resolver.Date(LineOf(lot ?? line), "cbc:ExpiryDate", Text(lot, cbc + "ExpiryDate"), "yyyy-MM-dd"), wrongUnit)
            {
                Serials = [.. (goods?.Elements(cac + "ItemInstance") ?? []).SelectMany(i => resolver.Serials(LineOf(i), "cbc:SerialID", [Text(i, cbc + "SerialID")]))],
            });
        }

        if (lines.Count == 0 && resolver.Faults.Count == before) resolver.Fault(LineOf(root), "cac:DespatchLine", "", "nothing is said to be aboard");
        return resolver.Faults.Count > before ? null : new AdviceMessage(
            LineOf(root), number, vendor!, site, arrives, (Text(equipment, cbc + "ID")).OrNull(), (Text(equipment, cbc + "TransportEquipmentTypeCode")).OrNull(), (Text(equipment, cac + "TransportEquipmentSeal", cbc + "ID")).OrNull(),
            (Text(stage, cac + "CarrierParty", cac + "PartyName", cbc + "Name")).OrNull(), (Text(stage, cac + "TransportMeans", cac + "MaritimeTransport", cbc + "VesselName")).OrNull(), (Text(stage, cbc + "ID")).OrNull(),
            (Text(stage, cac + "LoadingPortLocation", cbc + "ID")).OrNull(), (Text(stage, cac + "UnloadingPortLocation", cbc + "ID")).OrNull(), lines);
    }

    /// <summary>Which unit each despatch line stands on: units with their packages, cartons in pallets.</summary>
    static Dictionary<string, (string? Sscc, string? Parent, string? Package)> Units(XElement? shipment, Resolver resolver)
    {
        var units = new Dictionary<string, (string?, string?, string?)>();
        foreach (var unit in shipment?.Elements(loaded) ?? [])
        {
            var sscc = resolver.Sscc(LineOf(unit), "cac:" + loaded.LocalName, Text(unit, cbc + "ID"));
            foreach (var line in unit.Elements(loadedLine)) units[Text(line, cbc + "ID")] = (sscc, null, Text(unit, loadedType).OrNull());
            foreach (var package in unit.Elements(cac + "ActualPackage")) Package(package, sscc);
        }

        return units;

        void Package(XElement package, string? parent)
        {
            var sscc = resolver.Sscc(LineOf(package), "cac:ActualPackage", Text(package, cbc + "ID"));
            foreach (var line in package.Elements(cac + "DespatchLine")) units[Text(line, cbc + "ID")] = (sscc ?? parent, sscc is null ? null : parent, (Text(package, cbc + "PackagingTypeCode")).OrNull());
            foreach (var inner in package.Elements(cac + "ContainedPackage")) Package(inner, sscc ?? parent);
        }
    }

    static string[] Codes(XElement? goods) =>
        [Text(goods, cac + "StandardItemIdentification", cbc + "ID"), Text(goods, cac + "BuyersItemIdentification", cbc + "ID"), Text(goods, cac + "SellersItemIdentification", cbc + "ID")];

    static string PartyCode(XElement? party) => Text(party, cbc + "CustomerAssignedAccountID") is { Length: > 0 } code ? code : Text(party, cac + "Party", cac + "PartyIdentification", cbc + "ID");

    static string Text(XElement? from, params XName[] path)
    {
        foreach (var name in path) from = from?.Element(name);
        return from?.Value.Trim() ?? "";
    }

    static int LineOf(XElement element) => element is IXmlLineInfo info && info.HasLineInfo() ? info.LineNumber : 1;
}
