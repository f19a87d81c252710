using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>A characteristic of a vendor's item in the list of what is seen coming.</summary>
/// <param name="PassesIn">Lots until the mean passes a limit, at its pace; null where it does not.</param>
public sealed record ComingCard(
    int ItemId,
    int VendorId,
    int PlanId,
    int Characteristic,
    string Name,
    string Item,
    string Vendor,
    Coming State,
    int? PassesIn,
    int Lots,
    string Why
);

/// <summary>A lot on the chart.</summary>
/// <param name="Value">Mean, or percent nonconforming.</param>
/// <param name="Moving">Change from the lot before; null for the first and for what is looked at.</param>
/// <param name="InRun">True where it belongs to the run or the window of the broken rule.</param>
public sealed record ComingLot(
    string Number,
    DateOnly On,
    double Value,
    double Low,
    double High,
    double? Moving,
    int Looked,
    int Nonconforming,
    double? Spread,
    bool InRun
);

/// <summary>A broken rule.</summary>
/// <param name="At">Number of the lot at which it is.</param>
public sealed record RuleBrokenView(string Name, string Means, string At);

/// <summary>An index with its range of 95 percent.</summary>
public sealed record IndexView(double Value, double Low, double High);

/// <summary>A characteristic over a vendor's past lots.</summary>
/// <param name="Limits">The limits in words.</param>
/// <param name="Next">Means to come, if the drift goes on, up to the one that passes the limit.</param>
/// <param name="History">How many of the first lots the usual range comes from.</param>
/// <param name="BetweenShare">The part of all spread that lies between lots, 0 to 1; null where it is looked at, or lots are few.</param>
/// <param name="WhyNoIndex">Why there are no indexes; null where there are.</param>
public sealed record ComingAnswer(
    string Name,
    string Item,
    string Vendor,
    string? Unit,
    double? Lower,
    double? Upper,
    string Limits,
    Coming State,
    string Headline,
    double? Center,
    double? MovingCenter,
    double? MovingHigh,
    int History,
    IReadOnlyList<ComingLot> Lots,
    IReadOnlyList<double> Next,
    IReadOnlyList<RuleBrokenView> Broken,
    IndexView? Cp,
    IndexView? Cpk,
    IndexView? Pp,
    IndexView? Ppk,
    double? BetweenShare,
    string? WhyNoIndex
);

/// <summary>What past lots say of those to come: charts over lots, run rules, capability.</summary>
public static class ComingPages
{
    /// <summary>Most lots of a site that are looked back on.</summary>
    const int MostLots = 2000;

    /// <summary>Most cards of the list.</summary>
    const int MostCards = 200;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/bench/coming", Right.See, List);
        routes.Ask("/bench/coming/{plan}/{item}/{vendor}/{characteristic}", Right.See, One);
    }

    sealed record Lot(string Number, int ItemId, int VendorId, int PlanId, DateTimeOffset At, IReadOnlyList<CharacteristicOutcome> Values);

    static async Task<Ok<IReadOnlyList<ComingCard>>> List(Inquiry inquiry, int? item = null, int? vendor = null)
    {
        var lots = await Lots(inquiry, item, vendor, null);
        return TypedResults.Ok<IReadOnlyList<ComingCard>>([
            .. lots.GroupBy(l => (l.ItemId, l.VendorId, l.PlanId))
                .SelectMany(g =>
                    CharacteristicsOf(inquiry, g.Last())
                        .Select(c =>
                        {
                            var seen = SeenComing.Of(c, Chart(inquiry, g, c));
                            return new ComingCard(
                                g.Key.ItemId,
                                g.Key.VendorId,
                                g.Key.PlanId,
                                c.Id,
                                c.Name,
                                inquiry.SetUp.Catalogue[g.Key.ItemId].Name,
                                inquiry.SetUp.Vendors[g.Key.VendorId].Name,
                                seen.State,
                                seen.Drift?.PassesIn,
                                g.Count(),
                                seen.Why
                            );
                        })
                )
                .OrderBy(c => c.State)
                .ThenBy(c => c.PassesIn)
                .ThenByDescending(c => c.Lots)
                .Take(MostCards),
        ]);
    }

    static async Task<Results<Ok<ComingAnswer>, ProblemHttpResult>> One(Inquiry inquiry, int plan, int item, int vendor, int characteristic)
    {
        var lots = await Lots(inquiry, item, vendor, plan);
        if (lots.Count == 0 || CharacteristicsOf(inquiry, lots[^1]).FirstOrDefault(x => x.Id == characteristic) is not { } c)
            return Problems.Of(
                Problems.NotFound("characteristic", characteristic.ToString(System.Globalization.CultureInfo.InvariantCulture))
            );
        var chart = Chart(inquiry, lots, c);
        var seen = SeenComing.Of(c, chart);
        var run =
            seen.Drift is { } drift ? drift.Lots
            : seen.Broken.Count > 0 ? seen.Broken[0].Window
            : 0;
        var runEnds =
            seen.Drift is not null ? chart.Count - 1
            : seen.Broken.Count > 0 ? seen.Broken[0].At
            : -1;
        var scale = c.IsMeasured ? 1 : 100;
        var (fits, why) = c.IsMeasured
            ? Capability.Of(
                [.. chart.Where(l => l.Is.Mean is not null).Select(l => (l.Is.Looked, l.Is.Mean!.Value, l.Is.Spread ?? 0))],
                (double?)c.Lower,
                (double?)c.Upper
            )
            : (null, "It is looked at: there is no value to fit between limits.");
        return TypedResults.Ok(
            new ComingAnswer(
                c.Name,
                inquiry.SetUp.Catalogue[item].Name,
                inquiry.SetUp.Vendors[vendor].Name,
                c.Unit,
                (double?)c.Lower,
                (double?)c.Upper,
                c.LimitWords,
                seen.State,
                seen.Headline,
                seen.Chart?.Center * scale,
                seen.Moving?.Center,
                seen.Moving?.Points[0].High,
                seen.History,
                [
                    .. chart.Select(
                        (l, i) =>
                            new ComingLot(
                                l.Number,
                                l.On,
                                (seen.Chart?.Points[i].Value ?? l.Is.Mean ?? 0) * scale,
                                (seen.Chart?.Points[i].Low ?? 0) * scale,
                                (seen.Chart?.Points[i].High ?? 0) * scale,
                                i > 0 ? seen.Moving?.Points[i - 1].Value : null,
                                l.Is.Looked,
                                l.Is.Nonconforming,
                                l.Is.Spread,
                                i <= runEnds && i > runEnds - run
                            )
                    ),
                ],
                seen.Drift is { PassesIn: { } passes } ? [.. seen.Drift.Next.Take(passes)] : [],
                [
                    .. seen.Broken.Select(b => new RuleBrokenView(
                        RunRules.Words(b.Rule).Name,
                        RunRules.Words(b.Rule).Means,
                        chart[b.At].Number
                    )),
                ],
                ViewOf(fits?.Cp),
                ViewOf(fits?.Cpk),
                ViewOf(fits?.Pp),
                ViewOf(fits?.Ppk),
                c.IsMeasured
                    ? VarianceComponents
                        .Of([.. chart.Where(l => l.Is.Mean is not null).Select(l => (l.Is.Looked, l.Is.Mean!.Value, l.Is.Spread ?? 0))])
                        ?.Share
                    : null,
                why
            )
        );
    }

    static IndexView? ViewOf(IndexWithin? index) => index is null ? null : new IndexView(index.Value, index.Low, index.High);

    /// <summary>The characteristics of the plan that the last lot went by, with the limits of today.</summary>
    static IEnumerable<Characteristic> CharacteristicsOf(Inquiry inquiry, Lot last) =>
        inquiry.SetUp.Plans[last.PlanId].InForce(inquiry.Now)?.Content.Characteristics.Where(c => last.Values.Any(v => v.Id == c.Id)) ?? [];

    static List<ChartLot> Chart(Inquiry inquiry, IEnumerable<Lot> lots, Characteristic c) =>
        [
            .. lots.Select(l => (Lot: l, Is: l.Values.FirstOrDefault(v => v.Id == c.Id)))
                .Where(l => l.Is is not null && (!c.IsMeasured || l.Is.Mean is not null))
                .Select(l => new ChartLot(l.Lot.Number, DateOnly.FromDateTime(inquiry.Local(l.Lot.At)), l.Is!)),
        ];

    static async Task<List<Lot>> Lots(Inquiry inquiry, int? item, int? vendor, int? plan)
    {
        var site = inquiry.Site.Id;
        var signed = inquiry
            .Db.Inspections.AsNoTracking()
            .Where(i => i.SiteId == site && i.SignedAt != null && i.VendorId != null)
            .Where(i => !inquiry.Db.Inspections.Any(n => n.SupersedesId == i.Id));
        if (item is not null && vendor is not null)
            signed = signed.Where(i => i.ItemId == item && i.VendorId == vendor);
        if (plan is not null)
            signed = signed.Where(i => i.PlanId == plan);
        var rows = await signed
            .OrderByDescending(i => i.SignedAt)
            .ThenByDescending(i => i.Id)
            .Take(MostLots)
            .Select(i => new
            {
                i.Number,
                i.ItemId,
                i.VendorId,
                i.PlanId,
                SignedAt = i.CountsAs ?? i.SignedAt,
                i.Values,
            })
            .ToListAsync();
        return
        [
            .. rows.Where(r => r.Values is not null)
                .Select(r => new Lot(r.Number, r.ItemId, r.VendorId!.Value, r.PlanId, r.SignedAt!.Value, r.Values!))
                .Reverse()
                .OrderBy(l => l.At),
        ];
    }
}
