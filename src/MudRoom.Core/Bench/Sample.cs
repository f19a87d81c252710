using System.Globalization;
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

    /// <summary>Pieces that stand before its own: its first is the next. 0 where the largest sample serves all.</summary>
    public int After { get; init; }

    /// <summary>True for a piece that may become one of its own.</summary>
    public bool Has(int piece) => piece > After && piece <= After + Asks.Largest;

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
    /// <summary>True where each part has pieces of its own.</summary>
    [JsonIgnore]
    public bool IsApart => Classes.Any(c => c.After > 0);

    /// <summary>Pieces of the first samples in all.</summary>
    [JsonIgnore]
    public int Size => Together(c => c.SampleSize);

    /// <summary>Pieces in all where each part has so many: the largest serves all, or each has its own.</summary>
    public int Together(Func<SamplePart, int> pieces) => IsApart ? Classes.Sum(pieces) : Classes.Max(pieces);

    /// <summary>True for a piece of the first samples.</summary>
    public bool IsFirst(int piece) => Classes.Any(c => piece > c.After && piece <= c.After + c.SampleSize);

    /// <summary>Pieces that were drawn, by what was found on them.</summary>
    public int Drawn(IReadOnlyCollection<Finding> findings) =>
        Together(part =>
            findings.Where(f => !IsApart || part.Has(f.Piece)).Select(f => f.Piece - part.After).Append(part.SampleSize).Max()
        );

    /// <summary>Whole pieces that are looked at on average, as the time of a piece is told: the largest of the first samples, or what a
    /// part comes to by its curve. Where each part has its own, a piece takes its part of the time only.</summary>
    /// <param name="plan">By which it was worked out.</param>
    /// <param name="part">One of its parts; null for the first samples as they are.</param>
    /// <param name="curve">Of that part.</param>
    /// <param name="quality">That comes in.</param>
    public double WholePieces(PlanContent plan, SamplePart? part = null, OperatingCharacteristic? curve = null, double quality = 0)
    {
        var pieces = Classes.Select(c => (Part: c, Size: c == part ? curve!.AverageSample(quality) : c.SampleSize));
        return IsApart ? pieces.Sum(c => c.Size * c.Part.Of(plan).Count() / plan.Characteristics.Count) : pieces.Max(c => c.Size);
    }

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

        return new Sample(
            (parts.Find(p => p.Class == CharacteristicClass.Major) ?? parts[0]).Letter,
            plan.EachItsOwn ? Apart(parts, lotSize) : parts
        );

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

    /// <summary>Numbers the pieces of the parts one after another. Those that may want more come last, so that no number stands open
    /// between the others; where the lot has not so many pieces as all may want together, the largest sample serves all.</summary>
    static List<SamplePart> Apart(List<SamplePart> parts, long lotSize)
    {
        if (parts.Sum(p => (long)p.Asks.Largest) > lotSize)
            return
            [
                .. parts.Select(p =>
                    parts.Count == 1
                        ? p
                        : p with
                        {
                            Note = string.Join(" ", new[] { p.Note, "The lot is too small for pieces of its own." }.OfType<string>()),
                        }
                ),
            ];
        var after = new Dictionary<SamplePart, int>();
        foreach (var part in parts.OrderBy(p => p.Asks.Largest - p.SampleSize))
            after[part] = after.Count == 0 ? 0 : after.Keys.Sum(p => p.Asks.Largest);
        return [.. parts.Select(p => p with { After = after[p] })];
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

    /// <summary>The first of its pieces.</summary>
    public int First => Part.After + 1;

    /// <summary>The last of its pieces that is wanted.</summary>
    public int Last => Part.After + Judgement.Wanted;

    /// <summary>True for a piece that it is looked at on.</summary>
    public bool Wants(int piece) => piece >= First && piece <= Last;
}

/// <summary>Pieces of a sample that are numbered one after another, both ends included.</summary>
public sealed record PieceRun(int First, int Last)
{
    /// <summary>"1 to 20"; "3" for one.</summary>
    public override string ToString() => First == Last ? Show(First) : $"{Show(First)} to {Show(Last)}";

    static string Show(int piece) => piece.ToString(CultureInfo.InvariantCulture);
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

    /// <summary>The pieces that are wanted, without gaps between the numbers of each run.</summary>
    public IReadOnlyList<PieceRun> Wanted
    {
        get
        {
            var runs = new List<PieceRun>();
            foreach (var part in Parts.OrderBy(p => p.First))
                if (runs is [.., var before] && part.First <= before.Last + 1)
                    runs[^1] = before with { Last = Math.Max(before.Last, part.Last) };
                else
                    runs.Add(new PieceRun(part.First, part.Last));
            return runs;
        }
    }

    /// <summary>How many pieces are wanted.</summary>
    public int Size => Wanted.Sum(run => run.Last - run.First + 1);

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
        var findings = judged.SelectMany(c => of[c.Id]).Where(f => f.Piece > part.After).ToList();
        var bad = findings.Where(f => !f.Conforms).Select(f => f.Piece - part.After);
        var nonconforming = (part.PerHundred ? bad : bad.Distinct()).ToList();
        var what = (part.Characteristic is null ? part.Class.ToString() : judged[0].Name).ToLowerInvariant();
        var judgement =
            part.Asks is SamplePlan.Variables plan && judged is [var measured]
                ? ByValues(plan, measured, findings.Where(f => f.Piece <= part.After + plan.Size))
                : part.Asks.Judge(Finished(findings, part.After, judged.Count), nonconforming, what);
        var made = findings.Count(f => f.Piece <= part.After + judgement.Wanted);
        return new PartStand(part, nonconforming.Count, judgement, judgement.Wanted * judged.Count - made);
    }

    static Judgement ByValues(SamplePlan.Variables plan, Characteristic measured, IEnumerable<Finding> findings)
    {
        var values = findings.OrderBy(f => f.Piece).Select(f => f.Value).OfType<decimal>();
        var judgement = VariablesPlans.Judge(plan, [.. values], measured.Lower, measured.Upper);
        return judgement with { Sentence = $"{measured.Name}: {judgement.Sentence}" };
    }

    /// <summary>Pieces from the first on that have every finding.</summary>
    static int Finished(IEnumerable<Finding> findings, int after, int characteristics)
    {
        var full = findings.CountBy(f => f.Piece - after).Where(p => p.Value == characteristics).Select(p => p.Key).ToHashSet();
        var piece = 0;
        while (full.Contains(piece + 1))
            piece++;
        return piece;
    }
}
