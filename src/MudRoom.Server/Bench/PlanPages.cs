using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>A plan in the list.</summary>
/// <param name="InForce">Number of the version in force; null where none is.</param>
/// <param name="Draft">Number of the draft; null where there is none.</param>
/// <param name="Why">Why it stands where it stands.</param>
public sealed record PlanCard(int Id, string Name, int? InForce, int? Draft, int Items, string Why);

/// <summary>One version.</summary>
/// <param name="Hash">SHA-256 of all that it says.</param>
public sealed record PlanVersionView(
    int Number,
    string Hash,
    string DraftedBy,
    DateTime DraftedAt,
    string? SignedBy,
    DateTime? From,
    string? Comment,
    PlanText Says,
    IReadOnlyList<string> Limits,
    IReadOnlyList<string> Rules
);

/// <summary>A change of the draft against what is in force.</summary>
public sealed record PlanChangeView(int? Characteristic, string Field, string? Was, string? Now);

/// <summary>A vendor's lots of an item that go by the plan.</summary>
/// <param name="LotSize">Of the last lot.</param>
public sealed record PlanLots(int ItemId, string Item, int VendorId, string Vendor, int Lots, long LotSize);

/// <summary>A plan with what is in force and what is drafted.</summary>
public sealed record InspectionPlanAnswer(
    int Id,
    string Name,
    PlanVersionView? InForce,
    PlanVersionView? Draft,
    PlanVersionView? Next,
    IReadOnlyList<PlanVersionView> Before,
    IReadOnlyList<PlanChangeView> Changes,
    IReadOnlyList<string> Faults,
    IReadOnlyList<PlanLots> Lots,
    IReadOnlyList<string> Units,
    IReadOnlyList<decimal> Aqls
);

/// <summary>What one version does to lots of one size in one class.</summary>
/// <param name="Passes">Lots passed of 100, at each of the answer's qualities.</param>
/// <param name="AtAql">Lots passed of 100 at the AQL, where there is one.</param>
/// <param name="ForVendor">Lots passed of 100, averaged over all that the vendor's quality may be.</param>
/// <param name="Looked">Pieces looked at on average, rejected lots whole.</param>
/// <param name="Outgoing">The worst percentage that goes out on average.</param>
/// <param name="Minutes">At the bench, for the whole sample of the plan.</param>
public sealed record PlanDoes(
    int Version,
    string Rule,
    char? Letter,
    int Size,
    int? Second,
    int? Ac,
    double? K,
    string? Note,
    IReadOnlyList<double> Passes,
    double? AtAql,
    double ForVendor,
    double Looked,
    double Outgoing,
    double Minutes
);

/// <summary>How good the vendor's lots are.</summary>
/// <param name="Mean">Percent nonconforming.</param>
/// <param name="Low">9 in 10 sure that it is above.</param>
/// <param name="High">And below.</param>
/// <param name="Density">At each of the answer's qualities, the highest 1.</param>
public sealed record VendorDoes(
    string Vendor,
    int Lots,
    int Nonconforming,
    int Inspected,
    double Mean,
    double Low,
    double High,
    IReadOnlyList<double> Density
);

/// <summary>What a plan really does, the version in force beside the draft.</summary>
/// <param name="Qualities">Percent nonconforming, or nonconformities per 100, from 0 on.</param>
public sealed record PlanDoesAnswer(
    long Lot,
    CharacteristicClass Class,
    Severity Severity,
    bool PerHundred,
    IReadOnlyList<double> Qualities,
    PlanDoes? InForce,
    PlanDoes? Draft,
    VendorDoes? Vendor
);

/// <summary>The plans of inspection, what they say and what they do.</summary>
public static class PlanPages
{
    const int Points = 120;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/bench/plans", Right.See, List);
        routes.Ask("/bench/plan/{id}", Right.See, One);
        routes.Ask("/bench/plan/{id}/does", Right.See, Does);
    }

    static async Task<Ok<IReadOnlyList<PlanCard>>> List(Inquiry inquiry)
    {
        var since = inquiry.Now.AddDays(-90);
        var lots = await inquiry
            .Db.Inspections.Where(i => i.SiteId == inquiry.Site.Id && i.SignedAt > since)
            .GroupBy(i => i.PlanId)
            .Select(g => new
            {
                g.Key,
                All = g.Count(),
                Rejected = g.Count(i => i.Verdict == Verdict.Rejected),
            })
            .ToDictionaryAsync(g => g.Key);
        var uses = inquiry.SetUp.Plans.Keys.ToDictionary(id => id, id => Inspections.GoBy(inquiry.SetUp, id));
        return TypedResults.Ok<IReadOnlyList<PlanCard>>([
            .. inquiry
                .SetUp.Plans.Values.Select(p =>
                {
                    var past = lots.GetValueOrDefault(p.Id);
                    var (rank, why) = Place(p, inquiry.Now, past?.All ?? 0, past?.Rejected ?? 0, uses.GetValueOrDefault(p.Id));
                    return (
                        rank,
                        Card: new PlanCard(p.Id, p.Name, p.InForce(inquiry.Now)?.Number, p.Draft?.Number, uses.GetValueOrDefault(p.Id), why)
                    );
                })
                .OrderBy(p => p.rank)
                .ThenBy(p => p.Card.Name, StringComparer.Ordinal)
                .Select(p => p.Card),
        ]);
    }

    /// <summary>The place of a plan in the list, lower first, and why.</summary>
    static (int Rank, string Why) Place(InspectionPlan plan, DateTimeOffset now, int lots, int rejected, int items) =>
        plan switch
        {
            { Draft: { } draft } => (0, $"A draft by {draft.DraftedBy} is open."),
            _ when plan.InForce(now) is null => (1, "No version is in force yet."),
            _ when rejected > 0 => (2, $"{rejected} of {lots} lots rejected in ninety days."),
            _ when items == 0 => (4, "No goods go by it."),
            _ when lots == 0 => (3, "No lot in ninety days."),
            _ => (3, $"None of {lots} lots rejected in ninety days."),
        };

    static async Task<Results<Ok<InspectionPlanAnswer>, ProblemHttpResult>> One(Inquiry inquiry, int id)
    {
        if (!inquiry.SetUp.Plans.TryGetValue(id, out var plan))
            return Problems.Of(Problems.NotFound("plan", id.ToString(System.Globalization.CultureInfo.InvariantCulture)));
        var inForce = plan.InForce(inquiry.Now);
        var lots = await inquiry
            .Db.Inspections.Where(i => i.SiteId == inquiry.Site.Id && i.PlanId == id && i.LotSize > 0 && i.VendorId != null)
            .GroupBy(i => new { i.ItemId, VendorId = i.VendorId!.Value })
            .Select(g => new
            {
                g.Key.ItemId,
                g.Key.VendorId,
                Lots = g.Count(),
                Last = g.Max(i => i.Id),
            })
            .OrderByDescending(g => g.Lots)
            .Take(50)
            .ToListAsync();
        var lastIds = lots.ConvertAll(l => l.Last);
        var sizes = await inquiry.Db.Inspections.Where(i => lastIds.Contains(i.Id)).ToDictionaryAsync(i => i.Id, i => i.LotSize);
        return TypedResults.Ok(
            new InspectionPlanAnswer(
                plan.Id,
                plan.Name,
                ViewOf(inForce, inquiry),
                ViewOf(plan.Draft, inquiry),
                ViewOf(plan.ToCome(inquiry.Now), inquiry),
                [
                    .. plan
                        .Versions.Where(v => v.From <= inquiry.Now && v != inForce)
                        .OrderByDescending(v => v.Number)
                        .Select(v => ViewOf(v, inquiry)!),
                ],
                [
                    .. inForce is not null && plan.Draft is { } draft
                        ? PlanChanges
                            .Between(inForce.Content, draft.Content)
                            .Select(c => new PlanChangeView(c.Characteristic, c.Field, c.Was, c.Now))
                        : [],
                ],
                plan.Draft?.Content.Faults() ?? [],
                [
                    .. lots.Select(l => new PlanLots(
                        l.ItemId,
                        inquiry.SetUp.Catalogue[l.ItemId].Name,
                        l.VendorId,
                        inquiry.SetUp.Vendors[l.VendorId].Name,
                        l.Lots,
                        sizes[l.Last]
                    )),
                ],
                [
                    .. inquiry
                        .SetUp.Catalogue.Items.SelectMany(i => i.PackLevels.Select(p => p.Name))
                        .Distinct(StringComparer.Ordinal)
                        .Order(StringComparer.Ordinal),
                ],
                SamplingTables.Aqls
            )
        );
    }

    static PlanVersionView? ViewOf(PlanVersion? version, Inquiry inquiry) =>
        version is null
            ? null
            : new PlanVersionView(
                version.Number,
                version.Hash,
                version.DraftedBy,
                inquiry.Local(version.DraftedAt),
                version.SignedBy,
                version.From is { } from && from.UtcTicks > 0 ? inquiry.Local(from) : null,
                version.Comment,
                PlanText.Of(version.Content),
                [.. version.Content.Characteristics.Select(c => c.LimitWords)],
                [.. version.Content.Characteristics.Select(version.Content.RuleWords)]
            );

    static async Task<Results<Ok<PlanDoesAnswer>, ProblemHttpResult>> Does(
        Inquiry inquiry,
        int id,
        CharacteristicClass? of = null,
        long lot = 0,
        int? item = null,
        int? vendor = null,
        Severity? severity = null
    )
    {
        if (!inquiry.SetUp.Plans.TryGetValue(id, out var plan))
            return Problems.Of(Problems.NotFound("plan", id.ToString(System.Globalization.CultureInfo.InvariantCulture)));
        if (lot is < 0 or > Inspection.MostLot)
            return Problems.Of(new Refusal(BenchRefusals.LotSizeAbsurd, $"{lot} cannot be the size of a lot.", "Type another."));
        lot = lot == 0 ? 100 : lot;
        var c = of ?? CharacteristicClass.Major;
        VendorQuality? quality = null;
        var sharp = severity ?? Severity.Normal;
        if (item is { } itemId && vendor is { } vendorId)
        {
            var past = await Severities.Of(inquiry.Db, inquiry.Site.Id, itemId, vendorId, id, inquiry.Site.LocalTime);
            quality = past.Quality(c);
            sharp = severity ?? past.For(c);
        }

        var (inForce, draft) = (Part(plan.InForce(inquiry.Now), lot, c, sharp), Part(plan.Draft, lot, c, sharp));
        var curves = new[] { inForce, draft }.OfType<Curve>().ToList();
        var perHundred = curves.Exists(x => x.Of.PerHundred);
        // As far as the laxer of them still passes one lot in twenty, and the vendor's hill is seen.
        var most = Math.Max(
            curves.Select(x => x.Of.QualityAt(0.05)).DefaultIfEmpty(0.1).Max(),
            quality is { IsPriorAlone: false } q ? q.Quantile(0.99) : 0
        );
        var qualities = Enumerable.Range(0, Points + 1).Select(i => most * i / Points).ToList();
        return TypedResults.Ok(
            new PlanDoesAnswer(
                lot,
                c,
                sharp,
                perHundred,
                [.. qualities.Select(p => 100 * p)],
                inForce?.Seen(qualities, quality),
                draft?.Seen(qualities, quality),
                quality is null ? null : Hill(quality, inquiry.SetUp.Vendors[vendor!.Value].Name, qualities)
            )
        );
    }

    static VendorDoes Hill(VendorQuality quality, string vendor, List<double> qualities)
    {
        var (low, high) = quality.Range();
        var density = qualities.ConvertAll(quality.Density);
        var top = Math.Max(density.Max(), 1e-12);
        return new VendorDoes(
            vendor,
            quality.Lots,
            quality.Nonconforming,
            quality.Inspected,
            100 * quality.Mean,
            100 * low,
            100 * high,
            [.. density.Select(d => quality.IsPriorAlone ? 0 : d / top)]
        );
    }

    /// <summary>The part of a version that judges a class, and its curve.</summary>
    sealed record Curve(PlanVersion Version, SamplePart Part, OperatingCharacteristic Of, string Rule, decimal? Aql, Sample Sample)
    {
        public PlanDoes Seen(List<double> qualities, VendorQuality? quality)
        {
            var at = quality is { IsPriorAlone: false } ? quality.Mean : (double)(Aql ?? 1m) / 100;
            var single = Part.Asks as SamplePlan.Single;
            var twice = Part.Asks as SamplePlan.Double;
            return new PlanDoes(
                Version.Number,
                Rule,
                Part.Letter,
                Part.SampleSize,
                twice?.Second,
                single?.Ac ?? twice?.Ac2,
                (Part.Asks as SamplePlan.Variables)?.K,
                Part.Note,
                [.. qualities.Select(p => 100 * Of.Chance(p))],
                Aql is { } aql ? 100 * Of.Chance((double)aql / 100) : null,
                100 * (quality is { IsPriorAlone: false } ? quality.Average(Of.Chance) : Of.Chance(at)),
                Of.AverageInspected(at),
                100 * Of.OutgoingLimit().Limit,
                Version.Content.Minutes(Sample.WholePieces(Version.Content, Part, Of, at))
            );
        }
    }

    static Curve? Part(PlanVersion? version, long lot, CharacteristicClass c, Severity severity)
    {
        if (version is null || version.Content.Faults().Count > 0)
            return null;
        var sample = Sample.For(version.Content, lot, _ => severity);
        if (sample.Classes.FirstOrDefault(p => p.Class == c && p.Characteristic is null) is not { } part)
            return null;
        var rule = version.Content.Rules.GetValueOrDefault(c);
        return new Curve(
            version,
            part,
            new OperatingCharacteristic(part.Asks, lot, part.PerHundred),
            rule?.Words ?? "none may fail",
            (rule as SampleRule.Standard)?.Aql,
            sample
        );
    }
}
