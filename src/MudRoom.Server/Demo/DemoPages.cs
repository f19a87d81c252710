using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Demo;
using MudRoom.Server.Acts;
using MudRoom.Server.Hosting;
using MudRoom.Server.Road;

namespace MudRoom.Server.Demo;

/// <summary>A label that can be pressed to scan it.</summary>
/// <param name="Symbol">datamatrix, code128 or qr; how it is drawn.</param>
/// <param name="Text">What the scanner types.</param>
/// <param name="Draw">What the symbol is drawn from: bracketed for GS1.</param>
public sealed record Label(string Group, string Title, string Detail, string Symbol, string Text, string Draw);

/// <summary>The sheet of labels.</summary>
public sealed record LabelsAnswer(IReadOnlyList<Label> Labels, IReadOnlyList<string> Arrivals);

/// <summary>Sets the demo's clock.</summary>
public sealed record ClockRequest(DateTime At);

/// <summary>Where the demo's clock stands.</summary>
public sealed record ClockAnswer(DateTime At, bool Stopped);

/// <summary>The demo's own pages: labels to press, and the clock.</summary>
public static class DemoPages
{
    public static void Map(SiteRoutes routes, DemoClock? clock)
    {
        routes.Ask("/demo/labels", Right.See, Labels, BlindView.Open);
        routes.Check<ClockRequest, Results<Ok<ClockAnswer>, ProblemHttpResult>>("/demo/clock", Right.See, (inquiry, request) =>
            SetClock(inquiry, request, clock)
        );
    }

    static async Task<Results<Ok<LabelsAnswer>, ProblemHttpResult>> Labels(Inquiry inquiry, Mode mode, string? arrival)
    {
        if (!mode.IsDemo)
            return Problems.Of(Problems.NotFound("page", "demo"));
        var open = await inquiry
            .Db.Arrivals.Open()
            .Where(a => a.SiteId == inquiry.Site.Id)
            .OrderBy(a => a.Planned)
            .Select(a => a.Number)
            .ToListAsync();
        var number = arrival ?? open.FirstOrDefault();
        var labels = new List<Label>();
        var lines = await inquiry
            .Db.ManifestLines.Where(m =>
                inquiry.Db.Arrivals.Any(a => a.Id == m.ArrivalId && a.Number == number && a.SiteId == inquiry.Site.Id)
            )
            .Select(m => new
            {
                m.Part!.ItemId,
                m.Part.Line!.Order!.Number,
                m.Part.Line.Order.VendorId,
            })
            .ToListAsync();
        foreach (var itemId in lines.Select(l => l.ItemId).Distinct())
            labels.AddRange(OfItem(inquiry, inquiry.SetUp.Catalogue[itemId]));
        labels.AddRange(
            lines.Select(l => l.Number).Distinct().Select(n => new Label("Papers", $"Order {n}", "order number", "code128", n, n))
        );
        labels.AddRange(
            lines
                .Select(l => l.VendorId)
                .Distinct()
                .Select(v => new Label(
                    "Papers",
                    $"Delivery note of {inquiry.SetUp.Vendors[v].Name}",
                    "delivery note number",
                    "code128",
                    $"DN-{88200 + v}",
                    $"DN-{88200 + v}"
                ))
        );
        var announced = number is null
            ? []
            : await inquiry
                .Db.AdvisedUnits.Where(u =>
                    u.Sscc != null
                    && u.ParentSscc == null
                    && inquiry.Db.Arrivals.Any(a => a.Id == u.ArrivalId && a.Number == number && a.SiteId == inquiry.Site.Id)
                )
                .Select(u => u.Sscc!)
                .Distinct()
                .Take(24)
                .ToListAsync();
        labels.AddRange(
            announced.Select(s => new Label(
                "Announced units",
                Sscc.Spaced(s),
                "the vendor's own label",
                "gs1-128",
                "]C100" + s,
                "(00)" + s
            ))
        );
        labels.AddRange(Strange(inquiry, lines.Count == 0 ? null : inquiry.SetUp.Catalogue[lines[0].ItemId]));
        if (number is not null)
            labels.Add(new Label("Papers", $"Arrival {number}", "gate slip", "qr", number, number));
        var staging = inquiry.SetUp.BinsOfSite[inquiry.Site.Id].Where(b => b.Function == BinFunction.Staging).Select(b => b.Id).ToList();
        var units = await inquiry
            .Db.Balances.Where(b => b.SiteId == inquiry.Site.Id && staging.Contains(b.BinId) && b.UnitId != null)
            .OrderBy(b => b.Since)
            .Take(12)
            .Join(
                inquiry.Db.Units,
                b => b.UnitId,
                u => u.Id,
                (b, u) =>
                    new
                    {
                        u.Sscc,
                        b.ItemId,
                        b.Quantity,
                    }
            )
            .ToListAsync();
        labels.AddRange(
            units.Select(u => new Label(
                "Units on the floor",
                inquiry.SetUp.Catalogue[u.ItemId].Name,
                $"{Quantities.Show(u.Quantity)} {inquiry.SetUp.Catalogue[u.ItemId].UnitWord}",
                "gs1-128",
                "]C100" + u.Sscc,
                "(00)" + u.Sscc
            ))
        );
        labels.AddRange(
            inquiry
                .SetUp.BinsOfSite[inquiry.Site.Id]
                .Where(b => b.Function is not (BinFunction.Staging or BinFunction.Truck))
                .OrderBy(b => b.Address, StringComparer.Ordinal)
                .Select(b => new Label("Bins", b.Address, b.Zone, "code128", b.Address, b.Address))
        );
        labels.AddRange(
            inquiry
                .SetUp.People.Values.Where(p => p.Sites.Contains(inquiry.Site.Code))
                .OrderBy(p => p.Id)
                .Select(p => new Label(
                    "Badges",
                    p.Name,
                    $"badge, PIN {DemoPerson.Pin(p)}",
                    "code128",
                    DemoPerson.Badge(p),
                    DemoPerson.Badge(p)
                ))
        );
        return TypedResults.Ok(new LabelsAnswer(labels, open));
    }

    /// <summary>Codes that are not simply those of an item's pack.</summary>
    static IEnumerable<Label> Strange(Inquiry inquiry, Item? aboard)
    {
        yield return new Label(
            "Strange",
            "A carton nobody has seen before",
            "a code that is bound to no item",
            "code128",
            "FREMD-20441",
            "FREMD-20441"
        );
        var made = inquiry.Today.AddDays(-20);
        List<(string Ai, string Value)> elements = [("01", "09521239999909"), ("11", made.ToString("yyMMdd")), ("10", "FREMD-7")];
        yield return new Label(
            "Strange",
            "A GTIN nobody has seen before",
            "with its batch and date",
            "gs1-datamatrix",
            "]d2" + Raw(elements),
            string.Concat(elements.Select(e => $"({e.Ai}){e.Value}"))
        );
        yield return new Label(
            "Strange",
            $"Vendor's code {ItemList.SharedCode}",
            "two vendors call a pot of theirs so",
            "code128",
            ItemList.SharedCode,
            ItemList.SharedCode
        );
        if (aboard?.BasePack.Gtin is not { } gtin)
            yield break;
        var link = $"https://example.org/01/{gtin}{(aboard.NeedsSourceBatch ? "/10/WEB-1" : "")}";
        yield return new Label("Strange", $"Web address on a {aboard.Name}", "GS1 Digital Link", "qr", link, link);
    }

    static IEnumerable<Label> OfItem(Inquiry inquiry, Item item)
    {
        var source = $"{item.BatchPrefix}-{inquiry.Today:yy}{item.Id:00}";
        var made = inquiry.Today.AddDays(-20);
        var end = inquiry.Today.AddDays((item.ShelfLifeDays ?? 0) - 20);
        foreach (var pack in item.PackLevels.OrderByDescending(p => p.Content(1)))
        {
            var elements = new List<(string Ai, string Value)> { ("01", pack.Gtin!) };
            if (item.NeedsDates)
                elements.Add(("11", made.ToString("yyMMdd")));
            if (item.NeedsDates)
                elements.Add((item.RulingDate == RulingDate.Expiry ? "17" : "15", end.ToString("yyMMdd")));
            if (item.NeedsSourceBatch)
                elements.Add(("10", source));
            if (item.NeedsOrigin)
                elements.Add(("422", Countries.ByCode(inquiry.SetUp.Vendors[item.VendorCodes[0].VendorId].Country)!.Number));
            var detail =
                (pack.Content(1) == 1 ? pack.Name : $"{pack.Name} of {Quantities.Show(pack.Content(1))} {item.UnitWord}")
                + (item.NeedsSourceBatch ? $", batch {source}" : "");
            if (elements.Count == 1)
                yield return new Label("Goods", item.Name, detail, "code128", pack.Gtin!, pack.Gtin!);
            else
                yield return new Label(
                    "Goods",
                    item.Name,
                    detail,
                    "gs1-datamatrix",
                    "]d2" + Raw(elements),
                    string.Concat(elements.Select(e => $"({e.Ai}){e.Value}"))
                );
        }

        if (item.NeedsSerial)
            for (var n = 1; n <= 3; n++)
                yield return new Label(
                    "Goods",
                    item.Name,
                    $"serial {item.Code}-{n:0000}",
                    "gs1-datamatrix",
                    $"]d201{item.BasePack.Gtin}21{item.Code}-{n:0000}",
                    $"(01){item.BasePack.Gtin}(21){item.Code}-{n:0000}"
                );
    }

    /// <summary>As a scanner sends it: FNC1 only behind values of open length.</summary>
    static string Raw(List<(string Ai, string Value)> elements) =>
        string.Concat(
            elements.Select(
                (e, i) =>
                    e.Ai
                    + e.Value
                    + (i < elements.Count - 1 && !ApplicationIdentifier.Of(e.Ai)!.Predefined ? ElementStringReader.Separator : "")
            )
        );

    static async Task<Results<Ok<ClockAnswer>, ProblemHttpResult>> SetClock(Inquiry inquiry, ClockRequest request, DemoClock? clock)
    {
        if (clock is null)
            return Problems.Of(Problems.NotFound("page", "demo"));
        var at = inquiry.Site.Instant(request.At);
        var last = await inquiry.Db.Ledger.OrderByDescending(e => e.Seq).Select(e => (DateTimeOffset?)e.At).FirstOrDefaultAsync();
        if (at < last)
            return Problems.Of(
                new Refusal(
                    HouseRefusals.ClockBack,
                    $"The book has entries up to {inquiry.Local(last.Value):yyyy-MM-dd HH:mm}; the clock cannot go behind them.",
                    "Choose a later time, or start the demo with --fresh."
                )
            );
        if (at > inquiry.Now.AddYears(1))
            return Problems.Of(new Refusal(HouseRefusals.DateAbsurd, "That is more than a year ahead.", "Choose an earlier time."));
        clock.Set(at, clock.Stopped);
        return TypedResults.Ok(new ClockAnswer(request.At, clock.Stopped));
    }
}
