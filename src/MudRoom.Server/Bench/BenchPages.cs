using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Bench;

/// <summary>A characteristic as the sheet shows it.</summary>
/// <param name="Pieces">Those that it is looked at on; null until the sample is drawn.</param>
/// <param name="IsWeighed">True where a scale can tell its value.</param>
/// <param name="Had">How a measured value is had.</param>
public sealed record CharacteristicView(
    int Id,
    string Name,
    CharacteristicClass Class,
    string? Unit,
    decimal? Nominal,
    decimal? Lower,
    decimal? Upper,
    string PassWord,
    string FailWord,
    string Instruction,
    PieceRun? Pieces,
    bool UsesUp,
    ReferencePicture? Picture,
    bool IsWeighed,
    HowHad Had
);

/// <summary>A finding on the sheet.</summary>
/// <param name="Before">What stood there before, in words, with who and why.</param>
public sealed record FindingView(int Piece, int Characteristic, decimal? Value, bool Conforms, string By, IReadOnlyList<string> Before);

/// <summary>One class, or one characteristic judged by itself, against what its rule asks.</summary>
/// <param name="Name">Of the class, or of the characteristic.</param>
/// <param name="Rule">In words.</param>
/// <param name="SampleSize">Pieces of the first sample.</param>
/// <param name="Second">Pieces of a second sample, where there is one.</param>
/// <param name="Ac">Accept at most this many now; null where values are judged.</param>
/// <param name="Sentence">How far it has come.</param>
/// <param name="Note">How it came about, where that is not plain.</param>
public sealed record SamplePartView(
    CharacteristicClass Class,
    string Name,
    string Rule,
    Severity Severity,
    int SampleSize,
    int? Second,
    int? Ac,
    int? Re,
    int Nonconforming,
    bool MustReject,
    string Sentence,
    string? Note
);

/// <summary>How sharply the lots of this vendor and item are looked at in one class.</summary>
/// <param name="Why">How it came there.</param>
/// <param name="Lots">The last lots, the first first.</param>
/// <param name="Signing">What signing the verdict as it stands changes; null where nothing.</param>
/// <param name="MayBeReduced">True when only a person's word is missing.</param>
public sealed record SeverityView(
    CharacteristicClass Class,
    Severity Severity,
    bool IsStopped,
    int Score,
    bool MayBeReduced,
    string Why,
    IReadOnlyList<SeverityLotView> Lots,
    string? Signing
);

/// <summary>A lot on the line of severities.</summary>
public sealed record SeverityLotView(string Number, DateOnly On, bool IsAccepted, Severity Under, int Score, string Then);

/// <summary>The way of the sample.</summary>
/// <param name="Quantity">Drawn, in base units.</param>
/// <param name="Left">Of it, of which nobody has said what became of it.</param>
/// <param name="Here">Of the goods that the sheet spoke for, still on the site.</param>
/// <param name="Bench">The bin of the bench it was brought to; null where it stayed with its lot.</param>
/// <param name="Benches">Where it may be brought.</param>
/// <param name="Next">What the plan wants to be done next; null once all is settled.</param>
public sealed record SampleWayView(
    decimal Quantity,
    decimal Left,
    decimal Here,
    string Unit,
    string? Bench,
    IReadOnlyList<string> Benches,
    IReadOnlyList<SampleWentView> Went,
    SampleProposal? Next
);

/// <summary>A part of the sample that was settled.</summary>
public sealed record SampleWentView(SampleFate Fate, decimal Quantity, string Where, DateOnly? Until, string By, DateTime At);

/// <summary>A picture on the sheet.</summary>
public sealed record SheetPictureView(int Id, int? Piece, int? Characteristic, string By, DateTime At);

/// <summary>The name of a piece.</summary>
public sealed record PieceNameView(int Piece, string Name);

/// <summary>A note on the sheet.</summary>
public sealed record SheetNoteView(int? Piece, int? Characteristic, string Text, string By, DateTime At);

/// <summary>What was found and cleared, where nothing was found since.</summary>
public sealed record ClearedView(int Piece, int Characteristic, IReadOnlyList<string> Was);

/// <summary>A signature on the sheet.</summary>
public sealed record SignatureView(string By, DateTime At, SignatureMeaning Meaning, string? Comment);

/// <summary>The sheet.</summary>
/// <param name="Signatures">The first first.</param>
/// <param name="WantsSecond">True where another person signs too.</param>
/// <param name="PlanVersion">The version that it was drawn by; 0 until then.</param>
/// <param name="Severities">By class.</param>
/// <param name="Wanted">The pieces of the sample, by their numbers.</param>
/// <param name="WhyHere">Why the goods are at the bench, and go by this plan.</param>
/// <param name="Grows">True while the tally adds to its lot.</param>
/// <param name="LetsUse">True where only the sample waits.</param>
/// <param name="SkipWhy">Why it is looked at or passes unseen, where its plan skips lots.</param>
/// <param name="Supersedes">The signed sheet that it stands in the place of.</param>
/// <param name="SupersededBy">The inspection in its place.</param>
/// <param name="Withdrawn">Why it is not wanted any more, with who said so; null where it is.</param>
/// <param name="MayBeWithdrawn">True where somebody asked for it by hand and nothing is drawn.</param>
/// <param name="Sample">Null until one is drawn, and on sheets of before.</param>
/// <param name="ChanceAtAql">Chance that the plan accepts a lot exactly as bad as the AQL of its majors, 0 to 1.</param>
public sealed record SheetAnswer(
    InspectionCard Card,
    string Plan,
    int PlanId,
    int PlanVersion,
    char? Letter,
    long LotSize,
    string SamplingUnit,
    int SampleSize,
    IReadOnlyList<PieceRun> Wanted,
    IReadOnlyList<CharacteristicView> Characteristics,
    IReadOnlyList<SamplePartView> Parts,
    IReadOnlyList<FindingView> Findings,
    int Missing,
    Verdict? Verdict,
    string? SignedBy,
    DateTime? SignedAt,
    string? Comment,
    string? SheetHash,
    IReadOnlyList<SignatureView> Signatures,
    bool WantsSecond,
    IReadOnlyList<SeverityView> Severities,
    string WhyHere,
    bool Grows,
    bool LetsUse,
    string? SkipWhy,
    string? Supersedes,
    string? SupersededBy,
    IReadOnlyList<SheetNoteView> Notes,
    IReadOnlyList<ClearedView> Cleared,
    IReadOnlyList<PieceNameView> Pieces,
    IReadOnlyList<SheetPictureView> Pictures,
    SampleWayView? Sample,
    string? Withdrawn,
    bool MayBeWithdrawn,
    double? ChanceAtAql
);

/// <summary>The sheets of Bench.</summary>
public static class BenchPages
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/bench/sheet/{number}", Right.See, Sheet);
    }

    static async Task<Results<Ok<SheetAnswer>, ProblemHttpResult>> Sheet(Inquiry inquiry, string number)
    {
        var inspection = await inquiry
            .Db.Inspections.Include(i => i.Findings)
            .FirstOrDefaultAsync(i => i.SiteId == inquiry.Site.Id && i.Number == number);
        if (inspection is null)
            return Problems.Of(Problems.NotFound("inspection", number));
        var of = inquiry.SetUp.Plans[inspection.PlanId];
        var version = inspection.PlanVersion > 0 ? of[inspection.PlanVersion] : of.InForce(inquiry.Now);
        var plan = version?.Content ?? new PlanContent { SamplingUnit = "" };
        var card = (await QueuePages.Cards(inquiry, [inspection]))[0].Card;
        var stand = inspection.Sample is null ? null : LotStand.Of(plan, inspection.Sample, inspection.Findings);
        var severities = await Severities.Of(inquiry.Db, inspection, inquiry.Site.LocalTime);
        var supersedes = await NumberOf(inquiry, i => i.Id == inspection.SupersedesId);
        return TypedResults.Ok(
            new SheetAnswer(
                card,
                of.Name,
                of.Id,
                inspection.PlanVersion,
                inspection.Sample?.Letter,
                inspection.LotSize,
                plan.SamplingUnit,
                stand?.Size ?? 0,
                stand?.Wanted ?? [],
                [
                    .. plan.Characteristics.Select(c => new CharacteristicView(
                        c.Id,
                        c.Name,
                        c.Class,
                        c.Unit,
                        c.Nominal,
                        c.Lower,
                        c.Upper,
                        c.PassWord,
                        c.FailWord,
                        c.Instruction,
                        stand?.PartOf(c) is { } part ? new PieceRun(part.First, part.Last) : null,
                        c.UsesUp,
                        c.Picture,
                        c.IsWeighed,
                        c.Had
                    )),
                ],
                [.. stand?.Parts.Select(p => ViewOf(p, plan)) ?? []],
                [.. inspection.Findings.OrderBy(f => f.Piece).Select(f => ViewOf(f, inquiry.Site.LocalTime))],
                stand?.Missing ?? 0,
                inspection.Verdict ?? stand?.Verdict,
                inspection.SignedBy,
                inspection.SignedAt is { } at ? inquiry.Local(at) : null,
                inspection.Comment,
                inspection.SheetHash,
                [.. inspection.Signatures.Select(s => new SignatureView(s.By, inquiry.Local(s.At), s.Meaning, s.Comment))],
                plan.WantsSecond,
                SeveritiesOf(inspection, plan, severities, inquiry),
                WhyHere(inquiry.SetUp, inspection, await RuleOf(inquiry, inspection)),
                inspection is { State: InspectionState.Waiting, AskedBy: null },
                inspection.LetsUse,
                inspection.SkipWhy,
                supersedes,
                await NumberOf(inquiry, i => i.SupersedesId == inspection.Id),
                [.. inspection.Notes.Select(n => new SheetNoteView(n.Piece, n.CharacteristicId, n.Text, n.By, inquiry.Local(n.At)))],
                [.. inspection.Cleared.Select(c => new ClearedView(c.Piece, c.CharacteristicId, Words(c.Before, inquiry.Site.LocalTime)))],
                [.. inspection.Pieces.Select(p => new PieceNameView(p.Piece, p.Name))],
                [.. inspection.Pictures.Select(p => new SheetPictureView(p.Id, p.Piece, p.CharacteristicId, p.By, inquiry.Local(p.At)))],
                await SampleOf(inquiry, inspection, plan),
                Withdrawn(inspection, supersedes),
                inspection is { State: InspectionState.Waiting, AskedBy: not null, SupersedesId: null },
                AtAql(plan, stand)
            )
        );
    }

    /// <summary>Why a sheet is not wanted, in words; null where it is.</summary>
    static string? Withdrawn(Inspection sheet, string? supersedes) =>
        sheet switch
        {
            { WithdrawnBecause: null } => null,
            { WaitsForGoods: true } =>
                $"{sheet.WithdrawnBy} took {supersedes} back: {sheet.WithdrawnBecause}. Nothing of its goods is here; "
                    + "what comes back of them waits for this sheet.",
            _ => $"Withdrawn by {sheet.WithdrawnBy}: {sheet.WithdrawnBecause}. Its goods are as if it had not been asked for.",
        };

    static async Task<SampleWayView?> SampleOf(Inquiry inquiry, Inspection sheet, PlanContent plan)
    {
        if (sheet.Sampled == 0)
            return null;
        var item = inquiry.SetUp.Catalogue[sheet.ItemId];
        var lots = await LotReads.EverUnder(inquiry.Db, sheet);
        var here = (await LotReads.Balances(inquiry.Db, lots.ConvertAll(l => l.Id))).Sum(b => b.Quantity);
        return new SampleWayView(
            sheet.Sampled,
            SampleWay.Left(sheet),
            here,
            item.UnitWord,
            sheet.SampleBinId is { } bin ? inquiry.SetUp.Address(bin) : null,
            SampleActs.Benches(inquiry.SetUp, inquiry.Site.Id),
            [.. sheet.SampleWent.Select(w => new SampleWentView(w.Fate, w.Quantity, w.Where, w.Until, w.By, inquiry.Local(w.At)))],
            SampleWay.Next(sheet, plan, item, inquiry.Today)
        );
    }

    /// <summary>A finding as the sheet shows it.</summary>
    internal static FindingView ViewOf(Finding f, SiteTime local) =>
        new(f.Piece, f.CharacteristicId, f.Value, f.Conforms, f.By, Words(f.Before, local));

    static IReadOnlyList<string> Words(IEnumerable<FindingBefore> before, SiteTime local) =>
        [.. before.Select(b => $"{b.Was}, {b.By} {local(b.At):HH:mm}{(b.Reason is null ? "" : ": " + b.Reason)}")];

    static Task<string?> NumberOf(Inquiry inquiry, System.Linq.Expressions.Expression<Func<Inspection, bool>> which) =>
        inquiry.Db.Inspections.Where(which).Select(i => i.Number).FirstOrDefaultAsync();

    static async Task<InspectionRule?> RuleOf(Inquiry inquiry, Inspection inspection) =>
        inspection.RuleId is { } id ? await inquiry.Db.InspectionRules.AsNoTracking().FirstOrDefaultAsync(r => r.Id == id) : null;

    /// <summary>Why goods are at the bench, and why they go by their plan.</summary>
    static string WhyHere(SetUp setUp, Inspection inspection, InspectionRule? rule)
    {
        if (inspection.AskedBy is { } by)
            return $"{by} asked for it: {inspection.AskedBecause}.";
        return rule is null
            ? $"{setUp.Catalogue[inspection.ItemId].Name} goes by this plan, {InspectionRule.WordOf(inspection.Trigger)}."
            : $"By rule: {InspectionRulePages.Words(setUp, rule)}.";
    }

    internal static SamplePartView ViewOf(PartStand stand, PlanContent plan)
    {
        var part = stand.Part;
        var only = part.Characteristic is { } id ? plan[id] : null;
        var rule = only?.Rule ?? plan.Rules.GetValueOrDefault(part.Class);
        var isSecond = part.Asks is SamplePlan.Double && stand.Judgement.Wanted > part.SampleSize;
        var (ac, re) = part.Asks switch
        {
            SamplePlan.Double(_, _, _, _, var ac2) when isSecond => (ac2, ac2 + 1),
            SamplePlan.Double(_, var ac1, var re1, _, _) => (ac1, re1),
            SamplePlan.Single => (part.Ac, part.Re),
            _ => ((int?)null, (int?)null),
        };
        return new SamplePartView(
            part.Class,
            only?.Name ?? part.Class.ToString(),
            rule?.Words ?? "none allowed",
            part.Severity,
            part.SampleSize,
            (part.Asks as SamplePlan.Double)?.Second,
            ac,
            re,
            stand.Nonconforming,
            stand.MustReject,
            stand.Judgement.Sentence,
            part.Note
        );
    }

    /// <summary>Where the lots stand by class, with what signing this one would do.</summary>
    static IReadOnlyList<SeverityView> SeveritiesOf(Inspection inspection, PlanContent plan, Severities now, Inquiry inquiry)
    {
        var open =
            inspection is { State: InspectionState.Drawn, Sample: { } sample }
            && LotStand.Of(plan, sample, inspection.Findings).Verdict is not null
                ? Severities.Of(
                    [.. now.Outcomes, (inspection.Number, inquiry.Now, ClassOutcome.Of(plan, inspection.Sample, inspection.Findings))],
                    now.Words,
                    inquiry.Site.LocalTime
                )
                : now;
        var none = Switching.After([]);
        return
        [
            .. plan
                .Rules.Where(r => r.Value is SampleRule.Standard && plan.Characteristics.Any(c => c.Class == r.Key && c.Rule is null))
                .OrderBy(r => r.Key)
                .Select(r => r.Key)
                .Select(c => ViewOf(c, now.Stands.GetValueOrDefault(c, none), open.Stands.GetValueOrDefault(c, none))),
        ];
    }

    static SeverityView ViewOf(CharacteristicClass c, SeverityStand now, SeverityStand signed) =>
        new(
            c,
            now.Severity,
            now.IsStopped,
            now.Score,
            now.MayBeReduced,
            now.Why,
            [.. now.Lots.TakeLast(20).Select(l => new SeverityLotView(l.Lot.Number, l.Lot.On, l.Lot.IsAccepted, l.Under, l.Score, l.Then))],
            SeverityStand.Change(now, signed)
        );

    /// <summary>The chance to accept a lot of majors exactly at their AQL.</summary>
    static double? AtAql(PlanContent plan, LotStand? stand) =>
        plan.Rules.GetValueOrDefault(CharacteristicClass.Major) is SampleRule.Standard rule
        && stand?.Parts.FirstOrDefault(p => p.Part is { Class: CharacteristicClass.Major, Characteristic: null }) is { } major
            ? new OperatingCharacteristic(major.Part.Asks, int.MaxValue, rule.PerHundred).Chance((double)rule.Aql / 100)
            : null;
}
