using System.Globalization;
using System.Xml.Linq;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using static MudRoom.Exchange.Ubl.UblNames;

namespace MudRoom.Exchange.Ubl;

/// <summary>DespatchAdvice.</summary>
static class UblAdvices
{
    /// <summary>A piece of a despatch line that stands on one unit.</summary>
    /// <param name="Line">The line as the unit tells it: its own quantity and lots where it names them.</param>
    sealed record Standing(string? Sscc, string? Parent, string? Package, XElement Line);

    /// <summary>What is known of one lot of a line.</summary>
    sealed record Lot(string? Number, DateOnly? Production, DateOnly? BestBefore, DateOnly? Expiry);

    public static AdviceMessage? Read(XElement root, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var number = resolver.NumberOf(root.Line(), "cbc:ID", root.At(Cbc + "ID"), "a despatch advice");
        var action = ActionOf(root);
        var supplier = root.Element(Cac + "DespatchSupplierParty");
        var vendor = resolver.Vendor((supplier ?? root).Line(), "cac:DespatchSupplierParty", Parties(supplier));
        var shipment = root.Element(Cac + "Shipment");
        var delivery = shipment?.Element(Cac + "Delivery");
        var place = delivery.At(Cac + "DeliveryLocation", Cbc + "ID");
        var site = place.Length == 0 ? null : resolver.Site(delivery!.Line(), "cac:DeliveryLocation", place);
        var arrives = delivery?.Element(Cac + "EstimatedDeliveryPeriod") is { } period ? Arrives(period, resolver) : null;
        var equipment = shipment?.Elements(LoadedUnit).SelectMany(u => u.Elements(Cac + "TransportEquipment")).FirstOrDefault();
        var stage = shipment?.Element(Cac + "ShipmentStage");
        var lines = action == AdviceAction.Cancel ? [] : Lines(root, shipment, resolver);
        if (action != AdviceAction.Cancel && lines.Count == 0 && resolver.Faults.Count == before)
            resolver.Fault(root.Line(), "cac:DespatchLine", "", "nothing is said to be aboard");
        return resolver.Faults.Count > before
            ? null
            : new AdviceMessage(
                root.Line(),
                action,
                number,
                vendor!,
                site,
                arrives,
                equipment.AtOrNull(Cbc + "ID"),
                equipment.AtOrNull(Cbc + "TransportEquipmentTypeCode"),
                equipment.AtOrNull(Cac + "TransportEquipmentSeal", Cbc + "ID"),
                stage.AtOrNull(Cac + "CarrierParty", Cac + "PartyName", Cbc + "Name"),
                stage.AtOrNull(Cac + "TransportMeans", Cac + "MaritimeTransport", Cbc + "VesselName"),
                stage.AtOrNull(Cbc + "ID"),
                stage.AtOrNull(Cac + "LoadingPortLocation", Cbc + "ID"),
                stage.AtOrNull(Cac + "UnloadingPortLocation", Cbc + "ID"),
                lines
            );
    }

    /// <summary>Codes of UBL's list of document status: Cancelled, Revised; all else is a new advice.</summary>
    static AdviceAction ActionOf(XElement root) =>
        root.At(Cbc + "DocumentStatusCode") switch
        {
            "Cancelled" => AdviceAction.Cancel,
            "Revised" => AdviceAction.Replace,
            _ => AdviceAction.New,
        };

    static TradeTime? Arrives(XElement period, Resolver resolver)
    {
        var (day, clock) = (period.At(Cbc + "StartDate"), period.At(Cbc + "StartTime"));
        if (resolver.XmlDate(period.Line(), "cbc:StartDate", day) is not { } date)
            return null;
        var zoneOfDay = TradeTime.XmlDate(day)!.Value.FromUtc;
        if (clock.Length == 0)
            return new TradeTime(date.ToDateTime(new TimeOnly(TradeTime.HourOfDay, 0)), zoneOfDay);
        if (TradeTime.XmlTime(clock) is { } time)
            return new TradeTime(date.ToDateTime(time.Time), time.FromUtc ?? zoneOfDay);
        resolver.Fault(period.Line(), "cbc:StartTime", clock, "is no time");
        return null;
    }

    static List<AdvisedLine> Lines(XElement root, XElement? shipment, Resolver resolver)
    {
        var order = root.AtOrNull(Cac + "OrderReference", Cbc + "ID");
        var bare = new List<AdvisedLine>();
        var standings = Standings(shipment, bare, resolver);
        var known = root.Elements(Cac + "DespatchLine").Select(l => l.At(Cbc + "ID")).ToHashSet();
        foreach (var lost in standings.Where(s => !known.Contains(s.Key)).SelectMany(s => s))
            resolver.Fault(
                lost.Line.Line(),
                "cbc:ID",
                lost.Line.At(Cbc + "ID"),
                $"stands on unit {lost.Sscc ?? lost.Parent}, and is no line of the advice"
            );
        return
        [
            .. bare,
            .. root.Elements(Cac + "DespatchLine").SelectMany(l => Line(l, order, [.. standings[l.At(Cbc + "ID")]], resolver)),
        ];
    }

    /// <summary>Which units each despatch line stands on: units with their packages, cartons in pallets. Units that hold only units are
    /// rows of their own.</summary>
    static ILookup<string, Standing> Standings(XElement? shipment, List<AdvisedLine> bare, Resolver resolver)
    {
        var standings = new List<Standing>();
        foreach (var unit in shipment?.Elements(LoadedUnit) ?? [])
        {
            var sscc = resolver.Sscc(unit.Line(), "cac:" + LoadedUnit.LocalName, unit.At(Cbc + "ID"));
            var type = unit.AtOrNull(LoadedType);
            var own = unit.Elements(LoadedLine).ToList();
            standings.AddRange(own.Select(line => new Standing(sscc, null, type, line)));
            if (own.Count == 0 && sscc is not null)
                bare.Add(Bare(sscc, null, type));
            foreach (var package in unit.Elements(Cac + "ActualPackage"))
                Package(package, sscc);
        }

        return standings.ToLookup(s => s.Line.At(Cbc + "ID"));

        void Package(XElement package, string? parent)
        {
            var sscc = resolver.Sscc(package.Line(), "cac:ActualPackage", package.At(Cbc + "ID"));
            var type = package.AtOrNull(Cbc + "PackagingTypeCode");
            var own = package.Elements(Cac + "DespatchLine").ToList();
            // Goods in a package without a number of its own stand on the unit around it.
            standings.AddRange(own.Select(line => new Standing(sscc ?? parent, sscc is null ? null : parent, type, line)));
            if (own.Count == 0 && sscc is not null)
                bare.Add(Bare(sscc, parent, type));
            foreach (var inner in package.Elements(Cac + "ContainedPackage"))
                Package(inner, sscc ?? parent);
        }

        static AdvisedLine Bare(string sscc, string? parent, string? type) =>
            new(sscc, parent, type, null, null, null, "", 0, null, null, null, null);
    }

    static IEnumerable<AdvisedLine> Line(XElement line, string? order, List<Standing> on, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var goods = line.Element(Cac + "Item");
        var (item, text) = resolver.ItemOrText((goods ?? line).Line(), "cac:Item", Codes(goods));
        var given = line.Element(Cbc + "DeliveredQuantity");
        if (given is null)
            resolver.Fault(line.Line(), "cbc:DeliveredQuantity", "", "the line has no quantity");
        var (quantity, wrongUnit) = Advised(given, given, item, resolver);
        var reference = line.Element(Cac + "OrderLineReference");
        int? orderLine = int.TryParse(reference.At(Cbc + "LineID"), NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;
        var plain = new AdvisedLine(
            null,
            null,
            null,
            reference.AtOrNull(Cac + "OrderReference", Cbc + "ID") ?? order,
            orderLine,
            item?.Item.Id,
            text,
            quantity ?? 0,
            null,
            null,
            null,
            null,
            wrongUnit
        );
        if (resolver.Faults.Count > before)
            return [];
        if (on.Count == 0)
            return OfLots(plain, line, goods, resolver);
        var rows = on.Select(s =>
                plain with
                {
                    Sscc = s.Sscc,
                    ParentSscc = s.Parent,
                    PackageType = s.Package,
                    Quantity = Advised(s.Line.Element(Cbc + "DeliveredQuantity"), given, item, resolver).Quantity
                        ?? (on.Count == 1 ? plain.Quantity : 0),
                }
            )
            .ToList();
        if (rows.Exists(r => r.Quantity == 0) && resolver.Faults.Count == before)
            resolver.Fault(
                line.Line(),
                "cac:DespatchLine",
                line.At(Cbc + "ID"),
                $"stands on {on.Count} units, without saying how much on each"
            );
        else if (rows.Sum(r => r.Quantity) is var sum && sum != plain.Quantity && resolver.Faults.Count == before)
            resolver.Fault(
                given!.Line(),
                "cbc:DeliveredQuantity",
                given!.Value,
                $"its units hold {Quantities.Show(sum)}, not {Quantities.Show(plain.Quantity)}"
            );
        return resolver.Faults.Count > before
            ? []
            : [.. rows.Zip(on).SelectMany(r => OfLots(r.First, r.Second.Line, LotsNamedOn(r.Second.Line) ?? goods, resolver))];
    }

    /// <summary>The goods as the line on a unit tells them, where it names their lots.</summary>
    static XElement? LotsNamedOn(XElement line) =>
        line.Element(Cac + "Item") is { } own && own.Elements(Cac + "ItemInstance").Any() ? own : null;

    static (decimal? Quantity, string? WrongUnit) Advised(XElement? given, XElement? ofLine, Found? item, Resolver resolver) =>
        given is null
            ? (null, null)
            : resolver.Advised(
                given.Line(),
                "cbc:DeliveredQuantity",
                given.Value,
                (given.Attribute("unitCode") ?? ofLine?.Attribute("unitCode"))?.Value,
                item
            );

    /// <summary>
    /// A row for each lot. UBL counts no lots: several of them are told apart by the serial numbers of their pieces, or by the units they
    /// stand on; otherwise nobody could say how much is of which.
    /// </summary>
    static IEnumerable<AdvisedLine> OfLots(AdvisedLine line, XElement at, XElement? goods, Resolver resolver)
    {
        var instances = (goods?.Elements(Cac + "ItemInstance") ?? [])
            .Select(i => (Lot: LotOf(i, resolver), Serials: resolver.Serials(i.Line(), "cbc:SerialID", [i.At(Cbc + "SerialID")])))
            .ToList();
        var lots = instances.GroupBy(i => i.Lot).ToList();
        if (lots.Count <= 1)
            return
            [
                With(
                    line,
                    instances.Count == 0 ? new Lot(null, null, null, null) : instances[0].Lot,
                    [.. instances.SelectMany(i => i.Serials)]
                ),
            ];
        if (instances.TrueForAll(i => i.Serials.Count == 1) && instances.Count == line.Quantity)
            return lots.Select(l => With(line with { Quantity = l.Count() }, l.Key, [.. l.SelectMany(i => i.Serials)]));
        resolver.Fault(
            at.Line(),
            "cac:ItemInstance",
            string.Join(", ", lots.Select(l => l.Key.Number ?? "no lot")),
            "several lots on one line, without saying how much of each; send a line for each lot"
        );
        return [];
    }

    static AdvisedLine With(AdvisedLine line, Lot lot, IReadOnlyList<string> serials) =>
        line with
        {
            SourceBatch = lot.Number,
            Production = lot.Production,
            BestBefore = lot.BestBefore,
            Expiry = lot.Expiry,
            Serials = serials,
        };

    static Lot LotOf(XElement instance, Resolver resolver)
    {
        var lot = instance.Element(Cac + "LotIdentification");
        return new Lot(
            lot.AtOrNull(Cbc + "LotNumberID"),
            resolver.XmlDate(instance.Line(), "cbc:ManufactureDate", instance.At(Cbc + "ManufactureDate")),
            resolver.XmlDate(instance.Line(), "cbc:BestBeforeDate", instance.At(Cbc + "BestBeforeDate")),
            resolver.XmlDate((lot ?? instance).Line(), "cbc:ExpiryDate", lot.At(Cbc + "ExpiryDate"))
        );
    }
}
