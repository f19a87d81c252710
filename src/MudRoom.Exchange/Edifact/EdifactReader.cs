using System.Globalization;
using MudRoom.Core;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;

namespace MudRoom.Exchange.Edifact;

/// <summary>
/// ORDERS, ORDCHG and DESADV of UN/EDIFACT directories D.96A and D.01B, in the subset of docs/formats/edifact.md.
/// An interchange with any fault is refused whole; the line of a fault is the number of its segment.
/// </summary>
public static class EdifactReader
{
    /// <summary>Reads and checks the whole interchange.</summary>
    public static TradeFile Read(string text, Known known, DateOnly today)
    {
        var (segments, cut) = Segments.Cut(text);
        if (cut is not null) return new TradeFile("EDIFACT", [], [], [cut]);
        var resolver = new Resolver(known, today);
        var orders = new List<OrderMessage>();
        var advices = new List<AdviceMessage>();
        var kinds = new List<string>();
        var messages = Messages(segments, resolver);
        foreach (var message in messages)
        {
            var type = message[0].At(1);
            kinds.Add(type);
            switch (type)
            {
                case "ORDERS" or "ORDCHG":
                    if (Order(message, type == "ORDCHG", resolver) is { } order) orders.Add(order);
                    break;
                case "DESADV":
                    if (Advice(message, resolver) is { } advice) advices.Add(advice);
                    break;
                default:
                    resolver.Fault(message[0].Place, "UNH", type, "only ORDERS, ORDCHG and DESADV are taken");
                    break;
            }
        }

        if (messages.Count == 0 && resolver.Faults.Count == 0) resolver.Fault(1, "UNH", "", "there is no message in it");
        return resolver.Finish($"EDIFACT {string.Join(", ", kinds.Distinct())}", orders, advices);
    }

    /// <summary>The messages from UNH to UNT. Counts and references at their ends must agree.</summary>
    static List<List<Segment>> Messages(List<Segment> segments, Resolver resolver)
    {
        var messages = new List<List<Segment>>();
        List<Segment>? open = null;
        if (segments.Count == 0 || segments[0].Tag != "UNB") resolver.Fault(1, "UNB", segments.Count == 0 ? "" : segments[0].Tag, "an interchange begins with UNB");
        if (segments.Count > 0 && segments[^1].Tag != "UNZ") resolver.Fault(segments[^1].Place, "UNZ", segments[^1].Tag, "an interchange ends with UNZ");
        foreach (var segment in segments)
        {
            if (segment.Tag == "UNH")
            {
                if (open is not null) resolver.Fault(segment.Place, "UNH", segment.At(0), "the message before is not ended");
                open = [segment];
            }
            else if (segment.Tag == "UNT")
            {
                if (open is null)
                {
                    resolver.Fault(segment.Place, "UNT", segment.At(1), "no message is open");
                    continue;
                }

                open.Add(segment);
                if (segment.At(0) != open.Count.ToString(CultureInfo.InvariantCulture)) resolver.Fault(segment.Place, "UNT", segment.At(0), $"the message has {open.Count} segments");
                if (segment.At(1) != open[0].At(0)) resolver.Fault(segment.Place, "UNT", segment.At(1), $"the message began with reference {open[0].At(0)}");
                messages.Add(open);
                open = null;
            }
            else if (segment.Tag == "UNZ")
            {
                if (segment.At(0) != messages.Count.ToString(CultureInfo.InvariantCulture)) resolver.Fault(segment.Place, "UNZ", segment.At(0), $"the interchange has {messages.Count} messages");
            }
            else if (segment.Tag != "UNB")
            {
                open?.Add(segment);
            }
        }

        if (open is not null) resolver.Fault(open[0].Place, "UNT", "", "the message is not ended");
        return messages;
    }

    static OrderMessage? Order(List<Segment> message, bool isChange, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var bgm = message.Find(s => s.Tag == "BGM");
        var number = bgm?.At(1) ?? "";
        if (number.Length is 0 or > 40) resolver.Fault(bgm?.Place ?? message[0].Place, "BGM", number, "the order number has 1 to 40 characters");
        var action = bgm?.At(2) == "1" ? OrderAction.Cancel : isChange || bgm?.At(2) == "4" ? OrderAction.Change : OrderAction.New;
        var head = message.TakeWhile(s => s.Tag != "LIN").ToList();
        var reference = head.Find(s => s.Tag == "RFF" && s.At(0) == "ON")?.At(0, 1);
        if (isChange && !string.IsNullOrEmpty(reference)) number = reference;
        var vendor = Party(head, "SU", out var supplier) is { } code ? resolver.Vendor(supplier, "NAD", code) : action == OrderAction.New ? resolver.Vendor(message[0].Place, "NAD+SU", null) : null;
        var site = Party(head, "DP", out var delivery) is { } place ? resolver.Site(delivery, "NAD", place) : null;
        var date = DateOf(head, resolver, "137", "4") ?? resolver.Today;
        var due = DateOf(head, resolver, "2", "63", "64");
        var approvals = head.Where(s => s.Tag == "FTX" && s.At(0) == "APR").Select(s => new Approval(s.At(3), date, s.At(3, 1).Length > 0 ? s.At(3, 1) : null)).ToList();
        var lines = Groups(message, "LIN").Select(g => Line(g, action, site, delivery > 0, due, resolver)).OfType<TradeLine>().ToList();
        if (action != OrderAction.Cancel && lines.Count == 0 && resolver.Faults.Count == before) resolver.Fault(message[0].Place, "LIN", "", "the order has no line");
        return resolver.Faults.Count > before ? null : new OrderMessage(message[0].Place, action, number, KindOf(bgm!.At(0)), vendor, date, lines, approvals);
    }

    /// <summary>Codes of data element 1001: 220 order, 227 consignment order; 230 purchase order change; others are purchases too.</summary>
    static OrderKind KindOf(string code) => code switch
    {
        "640" or "227" => OrderKind.Transfer,
        _ => OrderKind.Purchase,
    };

    static TradeLine? Line(List<Segment> group, OrderAction order, WarehouseSite? headSite, bool siteNamed, DateOnly? headDue, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var lin = group[0];
        if (!int.TryParse(lin.At(0), NumberStyles.None, CultureInfo.InvariantCulture, out var number) || number is < 1 or > 99_999) resolver.Fault(lin.Place, "LIN", lin.At(0), "a line has a number from 1 to 99999");
        var action = order == OrderAction.New ? LineAction.Add : lin.At(1) switch
        {
            "1" => LineAction.Add,
            "2" => LineAction.Cancel,
            _ => LineAction.Change,
        };
        var item = action == LineAction.Add || lin.At(2).Length > 0 || group.Exists(s => s.Tag == "PIA") ? ItemOf(group, resolver) : null;
        var qty = group.Find(s => s.Tag == "QTY" && s.At(0) is "21" or "1");
        var quantity = qty is null ? null : resolver.Quantity(qty.Place, "QTY", qty.At(0, 1), qty.At(0, 2), item);
        if (action == LineAction.Add && qty is null) resolver.Fault(lin.Place, "QTY", "", "the line has no ordered quantity");
        var site = group.Find(s => s.Tag == "LOC" && s.At(0) == "7") is { } loc ? resolver.Site(loc.Place, "LOC", loc.At(1)) : headSite;
        if (action == LineAction.Add && site is null && !siteNamed && resolver.Faults.Count == before) resolver.Fault(lin.Place, "NAD+DP", "", "no delivery site is named");
        var due = DateOf(group, resolver, "2", "63", "64") ?? (action == LineAction.Add ? headDue ?? resolver.Today : null);
        var price = group.Find(s => s.Tag == "PRI") is { } pri && pri.At(0, 1) is var amount ? resolver.Price(pri.Place, "PRI", amount) : null;
        return resolver.Faults.Count > before ? null : new TradeLine(lin.Place, action, number, item?.Item, quantity, due, site, price, null);
    }

    static AdviceMessage? Advice(List<Segment> message, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var bgm = message.Find(s => s.Tag == "BGM");
        var number = bgm?.At(1) ?? "";
        if (number.Length is 0 or > 40) resolver.Fault(bgm?.Place ?? message[0].Place, "BGM", number, "the despatch advice has a number of 1 to 40 characters");
        var head = message.TakeWhile(s => s.Tag != "CPS").ToList();
        var vendor = resolver.Vendor(message[0].Place, "NAD+SU", Party(head, "SU", out _));
        var site = Party(head, "DP", out var delivery) is { } place ? resolver.Site(delivery, "NAD", place) : null;
        var arrives = head.Find(s => s.Tag == "DTM" && s.At(0) is "17" or "132" or "2") is { } dtm ? WallClock(dtm, resolver) : null;
        var order = head.Find(s => s.Tag == "RFF" && s.At(0) == "ON")?.At(0, 1);
        var equipment = head.Find(s => s.Tag == "EQD" && s.At(0) == "CN");
        var transport = head.Find(s => s.Tag == "TDT" && s.At(0) == "20");
        var lines = new List<AdvisedLine>();
        var units = new Dictionary<string, string?>();
        foreach (var group in Groups(message, "CPS"))
        {
            var goods = group.FindIndex(s => s.Tag == "LIN");
            var packing = goods < 0 ? group : group[..goods];
            var gin = packing.Find(s => s.Tag == "GIN" && s.At(0) == "BJ");
            var sscc = gin is null ? null : resolver.Sscc(gin.Place, "GIN", gin.At(1));
            var parent = units.GetValueOrDefault(group[0].At(1));
            units[group[0].At(0)] = sscc ?? parent;
            var pac = packing.Find(s => s.Tag == "PAC");
            if (goods < 0)
            {
                if (sscc is not null) lines.Add(new AdvisedLine(sscc, parent, pac?.At(2), null, null, null, "", 0, null, null, null, null));
                continue;
            }

            foreach (var line in Groups(group, "LIN"))
            {
                var item = ItemOrText(line, resolver, out var text);
                var qty = line.Find(s => s.Tag == "QTY" && s.At(0) is "12");
                if (qty is null) resolver.Fault(line[0].Place, "QTY", "", "the line has no despatched quantity");
                var (quantity, wrongUnit) = qty is null ? (null, null) : resolver.Advised(qty.Place, "QTY", qty.At(0, 1), qty.At(0, 2), item);
                var rff = line.Find(s => s.Tag == "RFF" && s.At(0) == "ON");
                int? orderLine = int.TryParse(rff?.At(0, 2), NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;
                var batch = line.Find(s => s.Tag == "GIN" && s.At(0) == "BX")?.At(1);
                lines.Add(new AdvisedLine(
                    sscc, parent, pac?.At(2), rff?.At(0, 1) ?? order, orderLine, item?.Item.Id, text, quantity ?? 0, string.IsNullOrEmpty(batch) ? null : batch, DateOf(line, resolver, "94"), DateOf(line, resolver, "361"),
                    DateOf(line, resolver, "36"), wrongUnit)
                {
                    Serials = [.. line.Where(s => s.Tag == "GIN" && s.At(0) == "BN").SelectMany(s => s.Elements.Skip(1).SelectMany(range => resolver.Serials(s.Place, "GIN", range)))],
                });
            }
        }

        if (lines.Count == 0 && resolver.Faults.Count == before) resolver.Fault(message[0].Place, "CPS", "", "nothing is said to be aboard");
        return resolver.Faults.Count > before ? null : new AdviceMessage(
            message[0].Place, number, vendor!, site, arrives, equipment?.At(1).OrNull(), equipment?.At(2).OrNull(), (head.Find(s => s.Tag == "SEL")?.At(0)).OrNull(), transport?.At(4).OrNull(), null, transport?.At(1).OrNull(),
            (head.Find(s => s.Tag == "LOC" && s.At(0) == "9")?.At(1)).OrNull(), (head.Find(s => s.Tag == "LOC" && s.At(0) == "11")?.At(1)).OrNull(), lines);
    }

    static Found? ItemOf(List<Segment> group, Resolver resolver) => resolver.Item(group[0].Place, "LIN", Codes(group));

    /// <summary>An item that is not known is not a fault of an advice: it is listed for a decision.</summary>
    static Found? ItemOrText(List<Segment> line, Resolver resolver, out string text)
    {
        var before = resolver.Faults.Count;
        var found = ItemOf(line, resolver);
        text = found is null ? string.Join(" ", Codes(line).Where(c => c.Length > 0)) : found.Item.Code;
        if (found is null && text.Length > 0) resolver.Faults.RemoveRange(before, resolver.Faults.Count - before);
        return found;
    }

    static string[] Codes(List<Segment> group) =>
        [group[0].At(2), .. group.Where(s => s.Tag == "PIA").SelectMany(s => s.Elements.Skip(1).Select(e => e.Count > 0 ? e[0] : ""))];

    /// <summary>A segment and what follows it, up to the next of its kind or the summary.</summary>
    static IEnumerable<List<Segment>> Groups(List<Segment> segments, string tag)
    {
        List<Segment>? group = null;
        foreach (var segment in segments)
        {
            if (segment.Tag == tag)
            {
                if (group is not null) yield return group;
                group = [segment];
            }
            else if (segment.Tag is "UNS" or "CNT" or "UNT")
            {
                break;
            }
            else
            {
                group?.Add(segment);
            }
        }

        if (group is not null) yield return group;
    }

    static string? Party(List<Segment> segments, string role, out int place)
    {
        var nad = segments.Find(s => s.Tag == "NAD" && s.At(0) == role);
        place = nad?.Place ?? 0;
        return nad?.At(1);
    }

    static DateOnly? DateOf(List<Segment> segments, Resolver resolver, params string[] qualifiers)
    {
        var dtm = qualifiers.Select(q => segments.Find(s => s.Tag == "DTM" && s.At(0) == q)).FirstOrDefault(s => s is not null);
        if (dtm is null) return null;
        var text = dtm.At(0, 1);
        return resolver.Date(dtm.Place, "DTM", text.Length > 8 ? text[..8] : text, dtm.At(0, 2) == "101" ? "yyMMdd" : "yyyyMMdd");
    }

    static DateTime? WallClock(Segment dtm, Resolver resolver)
    {
        var text = dtm.At(0, 1);
        var format = dtm.At(0, 2) == "203" ? "yyyyMMddHHmm" : "yyyyMMdd";
        if (!DateTime.TryParseExact(text, format, CultureInfo.InvariantCulture, DateTimeStyles.None, out var at) || at.Year is < 2000 or > 2100)
        {
            resolver.Fault(dtm.Place, "DTM", text, "is no time of the years 2000 to 2100");
            return null;
        }

        return at.TimeOfDay == TimeSpan.Zero ? at.AddHours(9) : at;
    }
}
