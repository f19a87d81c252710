using System.Globalization;
using MudRoom.Core;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange.Edifact;

/// <summary>DESADV.</summary>
static class EdifactAdvices
{
    public static AdviceMessage? Read(List<Segment> message, Resolver resolver)
    {
        var before = resolver.Faults.Count;
        var bgm = message.Find(s => s.Tag == "BGM");
        var number = resolver.NumberOf(bgm?.Place ?? message[0].Place, "BGM", bgm?.At(1) ?? "", "a despatch advice");
        var head = message.Before("CPS");
        var supplier = Message.Party(head, "SU");
        var vendor = resolver.Vendor(supplier?.Place ?? message[0].Place, "NAD+SU", supplier?.Codes ?? []);
        var site = Message.Party(head, "DP") is { } dp ? resolver.Site(dp.Place, "NAD", dp.Codes) : null;
        // Of the times, the one thought best: estimated (132, 17), else the one asked for (2).
        var dtm = new[] { "132", "17", "2" }.Select(q => head.Find(s => s.Tag == "DTM" && s.At(0) == q)).FirstOrDefault(s => s is not null);
        var arrives = dtm is null ? null : Arrives(dtm, resolver);
        var equipment = head.Find(s => s.Tag == "EQD" && s.At(0) == "CN");
        var transport = head.Find(s => s.Tag == "TDT" && s.At(0) == "20");
        var action = ActionOf(bgm);
        var lines = action == AdviceAction.Cancel ? [] : Lines(message, head, resolver);
        if (action != AdviceAction.Cancel && lines.Count == 0 && resolver.Faults.Count == before)
            resolver.Fault(message[0].Place, "CPS", "", "nothing is said to be aboard");
        return resolver.Faults.Count > before
            ? null
            : new AdviceMessage(
                message[0].Place,
                action,
                number,
                vendor!,
                site,
                arrives,
                equipment?.At(1).OrNull(),
                equipment?.At(2).OrNull(),
                (head.Find(s => s.Tag == "SEL")?.At(0)).OrNull(),
                transport?.At(4).OrNull(),
                null,
                transport?.At(1).OrNull(),
                (head.Find(s => s.Tag == "LOC" && s.At(0) == "9")?.At(1)).OrNull(),
                (head.Find(s => s.Tag == "LOC" && s.At(0) == "11")?.At(1)).OrNull(),
                lines
            );
    }

    /// <summary>Message functions of code list 1225: 1 cancellation, 4 change and 5 replacement, 9 original.</summary>
    static AdviceAction ActionOf(Segment? bgm) =>
        bgm?.At(2) switch
        {
            "1" => AdviceAction.Cancel,
            "4" or "5" => AdviceAction.Replace,
            _ => AdviceAction.New,
        };

    static TradeTime? Arrives(Segment dtm, Resolver resolver)
    {
        var text = dtm.At(0, 1);
        if (TradeTime.Edifact(text, dtm.At(0, 2)) is { } at && TradeDates.IsOfTrade(at.Clock.Year))
            return new TradeTime(at.IsDay ? at.Clock.AddHours(TradeTime.HourOfDay) : at.Clock, at.FromUtc);
        resolver.Fault(
            dtm.Place,
            "DTM",
            text,
            $"is no time of the years {TradeDates.FirstYear} to {TradeDates.LastYear} in format {dtm.At(0, 2)}"
        );
        return null;
    }

    /// <summary>The rows of every packing group; a group may number several units alike, which then share what it holds.</summary>
    static List<AdvisedLine> Lines(List<Segment> message, List<Segment> head, Resolver resolver)
    {
        var order = head.Find(s => s.Tag == "RFF" && s.At(0) == "ON")?.At(0, 1);
        var lines = new List<AdvisedLine>();
        var unitsOf = new Dictionary<string, IReadOnlyList<string>>();
        foreach (var group in Message.Groups(message, "CPS"))
        {
            var packing = group.Before("LIN");
            var above = unitsOf.GetValueOrDefault(group[0].At(1)) ?? [];
            if (above.Count > 1)
                resolver.Fault(
                    group[0].Place,
                    "CPS",
                    group[0].At(1),
                    $"it stands on a group of {above.Count} units, and does not say on which of them"
                );
            var parent = above.Count == 1 ? above[0] : null;
            var units = Units(packing, resolver);
            unitsOf[group[0].At(0)] = units.Count > 0 ? units : above;
            var package = packing.Find(s => s.Tag == "PAC")?.At(2).OrNull();
            var goods = Message.Groups(group, "LIN").ToList();
            if (goods.Count == 0)
                lines.AddRange(units.Select(u => new AdvisedLine(u, parent, package, null, null, null, "", 0, null, null, null, null)));
            // Goods of a group without a number of its own stand on the unit above it.
            var on = units.Count > 0 ? units : above.Take(1);
            foreach (var line in goods)
                lines.AddRange(
                    OnUnits(Line(line, order, package, resolver), [.. on], units.Count > 0 ? parent : null, line[0].Place, resolver)
                );
        }

        return lines;
    }

    /// <summary>Every SSCC of a group: each element of each GIN+BJ, one or the first and the last of a run.</summary>
    static List<string> Units(List<Segment> packing, Resolver resolver)
    {
        var units = new List<string>();
        foreach (var gin in packing.Where(s => s.Tag == "GIN" && s.At(0) == "BJ"))
        {
            foreach (var element in gin.Elements.Skip(1))
            {
                var ends = element.Where(e => e.Length > 0).ToList();
                if (ends.Count > 1 && ends[0] != ends[1])
                    resolver.Fault(gin.Place, "GIN", string.Join(" to ", ends), "a run of SSCCs is not taken; name each");
                else if (ends.Count > 0 && resolver.Sscc(gin.Place, "GIN", ends[0]) is { } sscc)
                    units.Add(sscc);
            }
        }

        if (units.GroupBy(u => u).FirstOrDefault(g => g.Count() > 1) is { } twice)
            resolver.Fault(packing[0].Place, "GIN", twice.Key, "the unit stands in the group twice");
        return units;
    }

    /// <summary>A line on each unit of its group: an even share, since units that are told as one group are alike.</summary>
    static IEnumerable<AdvisedLine> OnUnits(AdvisedLine line, List<string> units, string? parent, int place, Resolver resolver)
    {
        if (units.Count <= 1)
            return [line with { Sscc = units.Count == 1 ? units[0] : null, ParentSscc = parent }];
        var share = decimal.Round(line.Quantity / units.Count, 6);
        if (share * units.Count != line.Quantity || line.Serials.Count > 0)
        {
            resolver.Fault(
                place,
                "LIN",
                line.ItemText,
                $"{Quantities.Show(line.Quantity)} on {units.Count} units, without saying how much on each; send a CPS for each unit"
            );
            return [];
        }

        return units.Select(u => line with { Sscc = u, ParentSscc = parent, Quantity = share });
    }

    static AdvisedLine Line(List<Segment> line, string? order, string? package, Resolver resolver)
    {
        var (item, text) = resolver.ItemOrText(line[0].Place, "LIN", Message.Codes(line));
        var qty = line.Find(s => s.Tag == "QTY" && s.At(0) is "12");
        if (qty is null)
            resolver.Fault(line[0].Place, "QTY", "", "the line has no despatched quantity");
        var (quantity, wrongUnit) = qty is null ? (null, null) : resolver.Advised(qty.Place, "QTY", qty.At(0, 1), qty.At(0, 2), item);
        var rff = line.Find(s => s.Tag == "RFF" && s.At(0) == "ON");
        int? orderLine = int.TryParse(rff?.At(0, 2), NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;
        var batches = line.Where(s => s.Tag == "GIN" && s.At(0) == "BX")
            .SelectMany(s => s.Elements.Skip(1).Select(e => e.Count > 0 ? e[0].Trim() : ""))
            .Where(b => b.Length > 0)
            .Distinct()
            .ToList();
        if (batches.Count > 1)
            resolver.Fault(
                line[0].Place,
                "GIN",
                string.Join(", ", batches),
                "several batches on one line, without saying how much of each; send a LIN for each batch"
            );
        return new AdvisedLine(
            null,
            null,
            package,
            rff?.At(0, 1) ?? order,
            orderLine,
            item?.Item.Id,
            text,
            quantity ?? 0,
            batches.FirstOrDefault(),
            Message.DateOf(line, resolver, "94"),
            Message.DateOf(line, resolver, "361"),
            Message.DateOf(line, resolver, "36"),
            wrongUnit
        )
        {
            Serials =
            [
                .. line.Where(s => s.Tag == "GIN" && s.At(0) == "BN")
                    .SelectMany(s => s.Elements.Skip(1).SelectMany(range => resolver.Serials(s.Place, "GIN", range))),
            ],
        };
    }
}
