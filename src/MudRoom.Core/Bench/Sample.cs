using System.Text.Json.Serialization;

namespace MudRoom.Core.Bench;

/// <summary>How one class of characteristics, or one characteristic by itself, is judged in a lot.</summary>
/// <param name="Class">The class.</param>
/// <param name="SampleSize">Pieces of its first sample.</param>
/// <param name="Ac">Accept at most this many nonconforming.</param>
/// <param name="Re">Reject from this many.</param>
public sealed record SamplePart(CharacteristicClass Class, int SampleSize, int Ac, int Re)
{
    /// <summary>What is asked; null in a sample of before, which knew one sample by class only.</summary>
    public SamplePlan? Plan { get; init; }

    /// <summary>The characteristic that is judged by itself; null for the others of the class.</summary>
    public int? Characteristic { get; init; }

    /// <summary>The severity that it was drawn with.</summary>
    public Severity Severity { get; init; }

    /// <summary>Code letter, where there is one.</summary>
    public char? Letter { get; init; }

    /// <summary>Every nonconformity counts, not every piece.</summary>
    public bool PerHundred { get; init; }

    /// <summary>What a person should know of how it came about.</summary>
    public string? Note { get; init; }

    /// <summary>What is asked.</summary>
    [JsonIgnore]
    public SamplePlan Asks => Plan ?? new SamplePlan.Single(SampleSize, Ac);

    /// <summary>The characteristics that it judges.</summary>
    public IEnumerable<Characteristic> Of(PlanContent plan) =>
        plan.Characteristics.Where(c => Characteristic is { } id ? c.Id == id : c.Class == Class && c.Rule is null);
}

/// <summary>The sample for a lot.</summary>
/// <param name="Letter">Code letter of the majors' rule, else of the first that has one; null when the lot is one and is looked at
/// whole.</param>
/// <param name="Classes">Its parts.</param>
public sealed record Sample(char? Letter, IReadOnlyList<SamplePart> Classes)
{
    /// <summary>Pieces of the first samples in all: the largest of the parts.</summary>
    [JsonIgnore]
    public int Size => Classes.Max(c => c.SampleSize);

    /// <summary>Pieces that are looked at on average: the largest of the first samples, or what a part comes to by its curve.</summary>
    /// <param name="part">One of its parts.</param>
    /// <param name="curve">Of that part.</param>
    /// <param name="quality">That comes in.</param>
    public double PiecesOnAverage(SamplePart part, OperatingCharacteristic curve, double quality) =>
        Math.Max(Classes.Where(c => c != part).Select(c => c.SampleSize).DefaultIfEmpty().Max(), curve.AverageSample(quality));

    /// <summary>
    /// Works out the sample. A sample as large as the lot means the whole lot; critical nonconformities are never accepted, and are looked
    /// for on every piece of the sample where they have no rule of their own.
    /// </summary>
    /// <param name="plan">What a version of a plan says, without faults.</param>
    /// <param name="lotSize">In sampling units, at least 1.</param>
    /// <param name="severityOf">Normal, tightened or reduced, by class.</param>
    public static Sample For(PlanContent plan, long lotSize, Func<CharacteristicClass, Severity> severityOf)
    {
        var parts = new List<SamplePart>();
        foreach (var c in plan.Characteristics.Where(c => c.Rule is null).Select(c => c.Class).Distinct().Order())
            if (plan.Rules.TryGetValue(c, out var rule))
                parts.Add(Part(c, null, rule));
        parts.AddRange(plan.Characteristics.Where(c => c.Rule is not null).Select(c => Part(c.Class, c.Id, c.Rule!)));
        if (
            plan.Characteristics.Any(c => c.Class == CharacteristicClass.Critical && c.Rule is null)
            && !plan.Rules.ContainsKey(CharacteristicClass.Critical)
        )
        {
            var size = parts.Select(p => p.SampleSize).Append(Others()).Max();
            parts.Insert(0, new SamplePart(CharacteristicClass.Critical, size, 0, 1));
        }

        return new Sample((parts.Find(p => p.Class == CharacteristicClass.Major) ?? parts[0]).Letter, parts);

        // Critical characteristics alone beside the rule of a class that has none of its own here.
        int Others() => plan.Rules.Where(r => parts.Count == 0).Select(r => Part(r.Key, null, r.Value).SampleSize).DefaultIfEmpty(1).Max();

        SamplePart Part(CharacteristicClass c, int? only, SampleRule rule)
        {
            var severity = severityOf(c);
            // One sample, none accepted: a second would let the first one's critical pieces pass.
            var one = c == CharacteristicClass.Critical && rule is SampleRule.Standard twice ? twice with { IsDouble = false } : rule;
            var asked = one.For(lotSize, severity);
            var plan = c == CharacteristicClass.Critical && asked.Plan is SamplePlan.Single single ? single with { Ac = 0 } : asked.Plan;
            var (size, ac) = plan switch
            {
                SamplePlan.Single s => (s.Size, s.Ac),
                SamplePlan.Double d => (d.First, d.Ac1),
                SamplePlan.Sequential s => (s.First, s.Ac(s.First)),
                _ => (plan.Largest, 0),
            };
            return new SamplePart(c, size, ac, ac + 1)
            {
                Plan = plan,
                Characteristic = only,
                Severity = rule is SampleRule.Standard ? severity : Severity.Normal,
                Letter = asked.Letter,
                PerHundred = rule is SampleRule.Standard { PerHundred: true },
                Note = asked.Note,
            };
        }
    }
}

/// <summary>How one part stands.</summary>
/// <param name="Part">What is asked.</param>
/// <param name="Nonconforming">Found so far.</param>
/// <param name="Judgement">How far it has come, and why.</param>
/// <param name="Missing">Findings still to be made before there is more to say.</param>
public sealed record PartStand(SamplePart Part, int Nonconforming, Judgement Judgement, int Missing)
{
    /// <summary>True when it can only be rejected.</summary>
    public bool MustReject => Judgement.Verdict == Verdict.Rejected;
}

/// <summary>How a lot stands, worked out from its findings.</summary>
/// <param name="Parts">By part.</param>
/// <param name="Missing">Findings still to be made.</param>
/// <param name="Verdict">The verdict; null while it is open.</param>
public sealed record LotStand(IReadOnlyList<PartStand> Parts, int Missing, Verdict? Verdict)
{
    /// <summary>
    /// Works it out. Rejection is certain as soon as one part can only be rejected; acceptance only when every finding is made (ISO
    /// 2859-1, 11.1: an accepted sample is always finished).
    /// </summary>
    public static LotStand Of(PlanContent plan, Sample sample, IReadOnlyCollection<Finding> findings)
    {
        var of = findings.ToLookup(f => f.CharacteristicId);
        var parts = sample.Classes.Select(p => Stand(p, [.. p.Of(plan)], of)).ToList();
        Verdict? verdict =
            parts.Any(p => p.MustReject) ? Bench.Verdict.Rejected
            : parts.All(p => p.Judgement.Verdict == Bench.Verdict.Accepted) ? Bench.Verdict.Accepted
            : null;
        return new LotStand(parts, parts.Sum(p => p.Missing), verdict);
    }

    /// <summary>Why it is rejected: what cannot be accepted any more.</summary>
    public string WhyRejected => string.Join(", ", Parts.Where(p => p.MustReject).Select(p => p.Judgement.Sentence));

    /// <summary>The part that judges a characteristic.</summary>
    public PartStand PartOf(Characteristic characteristic) =>
        Parts.First(p =>
            p.Part.Characteristic is { } only
                ? only == characteristic.Id
                : characteristic.Rule is null && p.Part.Class == characteristic.Class
        );

    static PartStand Stand(SamplePart part, IReadOnlyList<Characteristic> judged, ILookup<int, Finding> of)
    {
        var findings = judged.SelectMany(c => of[c.Id]).ToList();
        var bad = findings.Where(f => !f.Conforms).Select(f => f.Piece);
        var nonconforming = (part.PerHundred ? bad : bad.Distinct()).ToList();
        var what = (part.Characteristic is null ? part.Class.ToString() : judged[0].Name).ToLowerInvariant();
        var judgement =
            part.Asks is SamplePlan.Variables plan && judged is [var measured]
                ? ByValues(plan, measured, findings)
                : part.Asks.Judge(Finished(findings, judged.Count), nonconforming, what);
        var made = findings.Count(f => f.Piece <= judgement.Wanted);
        return new PartStand(part, nonconforming.Count, judgement, judgement.Wanted * judged.Count - made);
    }

    static Judgement ByValues(SamplePlan.Variables plan, Characteristic measured, IEnumerable<Finding> findings)
    {
        var values = findings.Where(f => f.Piece <= plan.Size).OrderBy(f => f.Piece).Select(f => f.Value).OfType<decimal>();
        var judgement = VariablesPlans.Judge(plan, [.. values], measured.Lower, measured.Upper);
        return judgement with { Sentence = $"{measured.Name}: {judgement.Sentence}" };
    }

    /// <summary>Pieces from the first on that have every finding.</summary>
    static int Finished(IEnumerable<Finding> findings, int characteristics)
    {
        var full = findings.CountBy(f => f.Piece).Where(p => p.Value == characteristics).Select(p => p.Key).ToHashSet();
        var piece = 0;
        while (full.Contains(piece + 1))
            piece++;
        return piece;
    }
}
