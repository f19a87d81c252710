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
/// <param name="Second">Change from the lot before, standard deviation or range, as the chart has it; null where it has none.</param>
/// <param name="SecondLow">The least that is usual.</param>
/// <param name="SecondHigh">The most that is usual.</param>
/// <param name="InRun">True where it belongs to the run or the window of the broken rule.</param>
public sealed record ComingLot(
    string Number,
    DateOnly On,
    double Value,
    double Low,
    double High,
    double? Second,
    double? SecondLow,
    double? SecondHigh,
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
/// <param name="By">What the limits come from.</param>
/// <param name="SecondCenter">The middle of the second chart: of changes, standard deviations or ranges; null where there is none.</param>
/// <param name="WhyNoChart">Why there is no chart; null where there is, or lots are few.</param>
/// <param name="WhyNoIndex">Why there are no indexes; null where there are.</param>
/// <param name="Told">When the buyer was told of it last, in a sentence.</param>
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
    LotsChart By,
    double? SecondCenter,
    string? WhyNoChart,
    int History,
    IReadOnlyList<ComingLot> Lots,
    IReadOnlyList<double> Next,
    IReadOnlyList<RuleBrokenView> Broken,
    IndexView? Cp,
    IndexView? Cpk,
    IndexView? Pp,
    IndexView? Ppk,
    double? BetweenShare,
    string? WhyNoIndex,
    string? Told
);

/// <summary>What past lots say of those to come: charts over lots, run rules, capability.</summary>
public static class ComingPages
{
    /// <summary>Most cards of the list.</summary>
    const int MostCards = 200;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/bench/coming", Right.See, List);
        routes.Ask("/bench/coming/{plan}/{item}/{vendor}/{characteristic}", Right.See, One);
    }

    static async Task<Ok<IReadOnlyList<ComingCard>>> List(Inquiry inquiry, int? item = null, int? vendor = null)
    {
        var past = PastLots.Of(inquiry);
        var lots = await past.Lots(item, vendor, null);
        return TypedResults.Ok<IReadOnlyList<ComingCard>>([
            .. lots.GroupBy(l => (l.ItemId, l.VendorId, l.PlanId))
                .SelectMany(g =>
                    past.CharacteristicsOf(g.Last())
                        .Select(c =>
                        {
                            var seen = past.Outlook(g, c);
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

    static async Task<Results<Ok<ComingAnswer>, ProblemHttpResult>> One(
        Inquiry inquiry,
        int plan,
        int item,
        int vendor,
        int characteristic,
        LotsChart by = LotsChart.Lots
    )
    {
        var past = PastLots.Of(inquiry);
        var lots = await past.Lots(item, vendor, plan);
        if (lots.Count == 0 || past.CharacteristicsOf(lots[^1]).FirstOrDefault(x => x.Id == characteristic) is not { } c)
            return Problems.Of(
                Problems.NotFound("characteristic", characteristic.ToString(System.Globalization.CultureInfo.InvariantCulture))
            );
        var chart = past.Chart(lots, c);
        var seen = SeenComing.Of(c, chart);
        var (within, whyNoChart) = by == LotsChart.Lots ? (null, null) : WithinLots.Of(c, chart, by);
        if (within is not null)
            seen = seen with
            {
                Headline = within.Headline,
                Chart = within.Means,
                Moving = within.Spreads,
                Broken = within.Broken,
                History = chart.Count,
                Drift = null,
            };
        else if (whyNoChart is not null)
            seen = seen with { Chart = null, Moving = null, Broken = [], Drift = null };
        // The first lot has none before it to differ from.
        var behind = within is null ? 1 : 0;
        var run =
            seen.Drift is { } drift ? drift.Lots
            : seen.Broken.Count > 0 ? seen.Broken[0].Window
            : 0;
        var runEnds =
            seen.Drift is not null ? chart.Count - 1
            : seen.Broken.Count > 0 ? seen.Broken[0].At
            : -1;
        var scale = c.IsMeasured || c == SeenComing.Everything ? 1 : 100;
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
                PastLots.UnitOf(c),
                (double?)c.Lower,
                (double?)c.Upper,
                PastLots.LimitsOf(c),
                seen.State,
                seen.Headline,
                seen.Chart?.Center * scale,
                by,
                seen.Moving?.Center,
                whyNoChart,
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
                                i >= behind ? seen.Moving?.Points[i - behind].Value : null,
                                i >= behind ? seen.Moving?.Points[i - behind].Low : null,
                                i >= behind ? seen.Moving?.Points[i - behind].High : null,
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
                why,
                await LastTold(inquiry, lots, c)
            )
        );
    }

    /// <summary>When the buyer was told of it last, in a sentence; null where nobody did.</summary>
    static async Task<string?> LastTold(Inquiry inquiry, IReadOnlyList<PastLot> lots, Characteristic c)
    {
        if (await TellBuyer.Last(await inquiry.History(), inquiry.Site.Id, lots, c) is not { } told)
            return null;
        return $"The buyer was told of it by {told.PersonName} on {inquiry.Local(told.At):yyyy-MM-dd HH:mm}, after lot {told.Subject}.";
    }

    static IndexView? ViewOf(IndexWithin? index) => index is null ? null : new IndexView(index.Value, index.Low, index.High);
}
