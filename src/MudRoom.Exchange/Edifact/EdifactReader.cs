using System.Globalization;

namespace MudRoom.Exchange.Edifact;

/// <summary>
/// ORDERS, ORDCHG and DESADV of UN/EDIFACT directories D.96A and D.01B, in the subset of docs/formats/edifact.md.
/// An interchange with any fault is refused whole; the line of a fault is the number of its segment.
/// </summary>
public static class EdifactReader
{
    /// <summary>What is read, and what frames it; every other segment is passed over with a note.</summary>
    static readonly HashSet<string> read =
    [
        "UNH",
        "UNT",
        "UNS",
        "CNT",
        "BGM",
        "DTM",
        "RFF",
        "NAD",
        "FTX",
        "LIN",
        "PIA",
        "QTY",
        "PRI",
        "LOC",
        "SCC",
        "CPS",
        "PAC",
        "PCI",
        "GIN",
        "TDT",
        "EQD",
        "SEL",
    ];

    /// <summary>Reads and checks the whole interchange.</summary>
    public static TradeFile Read(string text, Known known)
    {
        var (segments, decimalComma, cut) = Segments.Cut(text);
        if (cut is not null)
            return TradeFile.Unread("EDIFACT", cut);
        var resolver = new Resolver(known) { DecimalComma = decimalComma };
        var orders = new List<OrderMessage>();
        var advices = new List<AdviceMessage>();
        var kinds = new List<string>();
        var messages = Messages(segments, resolver);
        foreach (var message in messages)
        {
            var type = message[0].At(1);
            kinds.Add(type);
            foreach (var other in message.Where(s => !read.Contains(s.Tag)))
                resolver.PassOver("Segment " + other.Tag);
            switch (type)
            {
                case "ORDERS" or "ORDCHG":
                    if (EdifactOrders.Read(message, type == "ORDCHG", resolver) is { } order)
                        orders.Add(order);
                    break;
                case "DESADV":
                    if (EdifactAdvices.Read(message, resolver) is { } advice)
                        advices.Add(advice);
                    break;
                default:
                    resolver.Fault(message[0].Place, "UNH", type, "only ORDERS, ORDCHG and DESADV are taken");
                    break;
            }
        }

        if (messages.Count == 0 && resolver.Faults.Count == 0)
            resolver.Fault(1, "UNH", "", "there is no message in it");
        return resolver.Finish($"EDIFACT {string.Join(", ", kinds.Distinct())}", orders, advices);
    }

    /// <summary>The messages from UNH to UNT. Counts and references at their ends must agree.</summary>
    static List<List<Segment>> Messages(List<Segment> segments, Resolver resolver)
    {
        var messages = new List<List<Segment>>();
        List<Segment>? open = null;
        if (segments.Count == 0 || segments[0].Tag != "UNB")
            resolver.Fault(1, "UNB", segments.Count == 0 ? "" : segments[0].Tag, "an interchange begins with UNB");
        if (segments.Count > 0 && segments[^1].Tag != "UNZ")
            resolver.Fault(segments[^1].Place, "UNZ", segments[^1].Tag, "an interchange ends with UNZ");
        foreach (var segment in segments)
        {
            if (segment.Tag == "UNH")
            {
                if (open is not null)
                    resolver.Fault(segment.Place, "UNH", segment.At(0), "the message before is not ended");
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
                if (segment.At(0) != open.Count.ToString(CultureInfo.InvariantCulture))
                    resolver.Fault(segment.Place, "UNT", segment.At(0), $"the message has {open.Count} segments");
                if (segment.At(1) != open[0].At(0))
                    resolver.Fault(segment.Place, "UNT", segment.At(1), $"the message began with reference {open[0].At(0)}");
                messages.Add(open);
                open = null;
            }
            else if (segment.Tag == "UNZ")
            {
                if (segment.At(0) != messages.Count.ToString(CultureInfo.InvariantCulture))
                    resolver.Fault(segment.Place, "UNZ", segment.At(0), $"the interchange has {messages.Count} messages");
            }
            else if (segment.Tag != "UNB")
            {
                open?.Add(segment);
            }
        }

        if (open is not null)
            resolver.Fault(open[0].Place, "UNT", "", "the message is not ended");
        return messages;
    }
}

/// <summary>What the messages have in common.</summary>
static class Message
{
    /// <summary>A segment and what follows it, up to the next of its kind or the summary.</summary>
    public static IEnumerable<List<Segment>> Groups(IEnumerable<Segment> segments, string tag)
    {
        List<Segment>? group = null;
        foreach (var segment in segments)
        {
            if (segment.Tag == tag)
            {
                if (group is not null)
                    yield return group;
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

        if (group is not null)
            yield return group;
    }

    /// <summary>What stands before the first segment of a kind.</summary>
    public static List<Segment> Before(this IEnumerable<Segment> segments, params string[] tags) =>
        [.. segments.TakeWhile(s => !tags.Contains(s.Tag))];

    /// <summary>The parties of a role: one, with all its identifications.</summary>
    public static (int Place, IReadOnlyList<string> Codes)? Party(List<Segment> segments, string role)
    {
        var named = segments.Where(s => s.Tag == "NAD" && s.At(0) == role).ToList();
        return named.Count == 0 ? null : (named[0].Place, [.. named.Select(s => s.At(1))]);
    }

    /// <summary>The first date that has one of the qualifiers, those named first before the others.</summary>
    public static DateOnly? DateOf(IReadOnlyList<Segment> segments, Resolver resolver, params string[] qualifiers)
    {
        var dtm = qualifiers.Select(q => segments.FirstOrDefault(s => s.Tag == "DTM" && s.At(0) == q)).FirstOrDefault(s => s is not null);
        return dtm is null || dtm.At(0, 1).Length == 0 ? null : resolver.EdifactDate(dtm.Place, "DTM", dtm.At(0, 1), dtm.At(0, 2));
    }

    /// <summary>Codes of the item: of LIN, and of every PIA.</summary>
    public static IReadOnlyList<string> Codes(IReadOnlyList<Segment> group) =>
        [group[0].At(2), .. group.Where(s => s.Tag == "PIA").SelectMany(s => s.Elements.Skip(1).Select(e => e.Count > 0 ? e[0] : ""))];
}
