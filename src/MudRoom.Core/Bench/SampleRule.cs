using System.Globalization;
using System.Text.Json.Serialization;

namespace MudRoom.Core.Bench;

/// <summary>What a rule asks of a lot, and how it came to that.</summary>
/// <param name="Plan">How many pieces, and when the lot is accepted.</param>
/// <param name="Letter">Code letter of table 1, where there is one.</param>
/// <param name="Note">What a person should know: that the single plan serves, that the lot is looked at whole.</param>
public sealed record Asked(SamplePlan Plan, char? Letter, string? Note);

/// <summary>What a class or a characteristic asks of every lot.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "rule")]
[JsonDerivedType(typeof(Standard), "iso-2859-1")]
[JsonDerivedType(typeof(Fixed), "fixed")]
[JsonDerivedType(typeof(Share), "share")]
[JsonDerivedType(typeof(All), "all")]
[JsonDerivedType(typeof(ZeroAcceptance), "zero")]
[JsonDerivedType(typeof(Portions), "portions")]
[JsonDerivedType(typeof(ByVariables), "variables")]
[JsonDerivedType(typeof(OneByOne), "one-by-one")]
public abstract record SampleRule
{
    SampleRule() { }

    /// <summary>ISO 2859-1 by lot size, level and AQL; its severity follows from the lots before.</summary>
    /// <param name="Level">Inspection level.</param>
    /// <param name="Aql">One of the standard's; above 10 only nonconformities per 100.</param>
    /// <param name="IsDouble">Two samples where the standard has them.</param>
    /// <param name="PerHundred">Nonconformities are counted, of which a piece may have several, and not pieces.</param>
    public sealed record Standard(InspectionLevel Level, decimal Aql, bool IsDouble = false, bool PerHundred = false) : SampleRule;

    /// <summary>Always so many.</summary>
    /// <param name="Size">Pieces, from 1.</param>
    /// <param name="Ac">Accept at most this many.</param>
    public sealed record Fixed(int Size, int Ac) : SampleRule;

    /// <summary>A percentage of the lot, rounded up.</summary>
    /// <param name="Percent">Above 0, to 100.</param>
    /// <param name="Least">At least so many.</param>
    /// <param name="Most">At most so many; null without such a limit.</param>
    /// <param name="Ac">Accept at most this many.</param>
    public sealed record Share(decimal Percent, int Least, int? Most, int Ac) : SampleRule;

    /// <summary>Every piece of the lot.</summary>
    /// <param name="Ac">Accept at most this many.</param>
    public sealed record All(int Ac) : SampleRule;

    /// <summary>None accepted; as many as it takes to miss a lot as bad as the limiting quality with no more than a risk.</summary>
    /// <param name="LimitingQuality">Percent nonconforming, above 0, below 100.</param>
    /// <param name="Risk">Percent chance to accept such a lot, at most; above 0, below 100.</param>
    public sealed record ZeroAcceptance(decimal LimitingQuality, decimal Risk) : SampleRule;

    /// <summary>A mass drawn from several packages and parted into test portions, each a piece of the sample.</summary>
    /// <param name="Grams">Drawn in all.</param>
    /// <param name="From">Packages that it is drawn from, at most as many as the lot has.</param>
    /// <param name="Count">Test portions.</param>
    /// <param name="Ac">Accept at most this many portions.</param>
    public sealed record Portions(decimal Grams, int From, int Count, int Ac) : SampleRule;

    /// <summary>Measured values by the k-method, from two points of the curve.</summary>
    /// <param name="Good">Percent nonconforming that should be accepted.</param>
    /// <param name="Alpha">Percent chance to reject it, at most.</param>
    /// <param name="Bad">Percent that should be rejected.</param>
    /// <param name="Beta">Percent chance to accept it, at most.</param>
    /// <param name="Sigma">The known standard deviation; null where that of the sample serves.</param>
    public sealed record ByVariables(decimal Good, decimal Alpha, decimal Bad, decimal Beta, decimal? Sigma) : SampleRule;

    /// <summary>Piece by piece until it is sure enough, from two points of the curve.</summary>
    /// <param name="Good">Percent nonconforming that should be accepted.</param>
    /// <param name="Alpha">Percent chance to reject it.</param>
    /// <param name="Bad">Percent that should be rejected.</param>
    /// <param name="Beta">Percent chance to accept it.</param>
    public sealed record OneByOne(decimal Good, decimal Alpha, decimal Bad, decimal Beta) : SampleRule;

    /// <summary>What the rule asks of a lot.</summary>
    /// <param name="lot">In sampling units, from 1.</param>
    /// <param name="severity">Normal, tightened or reduced; only ISO 2859-1 has it.</param>
    public Asked For(long lot, Severity severity) =>
        this switch
        {
            _ when lot < 1 => throw new ArgumentOutOfRangeException(nameof(lot), lot, "A lot has at least one piece."),
            Standard rule => ByStandard(rule, lot, severity),
            Fixed(var size, var ac) => Whole(size, ac, lot),
            Share(var percent, var least, var most, var ac) => Whole(
                (long)Math.Max(least, Math.Min(most ?? decimal.MaxValue, Math.Ceiling(percent * lot / 100))),
                ac,
                lot
            ),
            All(var ac) => Whole(lot, ac, lot),
            ZeroAcceptance(var quality, var risk) => Whole(ZeroSize(lot, (double)quality / 100, (double)risk / 100), 0, lot),
            Portions(var grams, var from, var count, var ac) => new Asked(
                new SamplePlan.Single(count, ac),
                null,
                $"{Show(grams)} g drawn from {Math.Min(from, lot)}, in {count} test portions."
            ),
            ByVariables rule => Measured(rule, lot),
            OneByOne rule => Lines(rule, lot),
            _ => throw new InvalidOperationException($"{GetType().Name} is no sample rule."),
        };

    /// <summary>
    /// The smallest sample that finds nothing in a lot as bad as the limiting quality with at most the risk: hypergeometric, the bad of the
    /// lot rounded up.
    /// </summary>
    /// <param name="lot">From 1.</param>
    /// <param name="quality">Fraction nonconforming.</param>
    /// <param name="risk">Chance.</param>
    public static long ZeroSize(long lot, double quality, double risk)
    {
        // A lot is at least so bad as one piece; without this the sum below would ask for none.
        var bad = Math.Clamp((long)Math.Ceiling(quality * lot - 1e-9), 1, lot);
        // The chance to miss them all falls with every piece, so that the first small enough is found by halving.
        var (low, high) = (0L, lot - bad + 1);
        while (high - low > 1)
        {
            var middle = (low + high) / 2;
            if (LogMiss(middle) <= Math.Log(risk))
                high = middle;
            else
                low = middle;
        }

        return high;

        double LogMiss(long n) =>
            MathNet.Numerics.SpecialFunctions.GammaLn(lot - bad + 1)
            - MathNet.Numerics.SpecialFunctions.GammaLn(lot - bad - n + 1)
            - MathNet.Numerics.SpecialFunctions.GammaLn(lot + 1)
            + MathNet.Numerics.SpecialFunctions.GammaLn(lot - n + 1);
    }

    /// <summary>The rule in words: "level II, AQL 2.5".</summary>
    public string Words =>
        this switch
        {
            Standard(var level, var aql, var isDouble, var perHundred) => $"level {LevelWord(level)}, AQL {Show(aql)}"
                + $"{(perHundred ? " per 100" : "")}{(isDouble ? ", double" : "")}",
            Fixed(var size, var ac) => $"{size}, {AtMost(ac)}",
            Share(var percent, var least, var most, var ac) => $"{Show(percent)} %, at least {least}"
                + $"{(most is { } m ? $", at most {m}" : "")}, {AtMost(ac)}",
            All(var ac) => $"all, {AtMost(ac)}",
            ZeroAcceptance(var quality, var risk) => $"none may fail, {Show(quality)} % missed {Show(risk)} times of 100 at most",
            Portions(var grams, var from, var count, var ac) => $"{Show(grams)} g from {from} in {count} portions, {AtMost(ac)}",
            ByVariables(var good, var alpha, var bad, var beta, var sigma) => $"by values, {Show(good)} % passes {Show(100 - alpha)} "
                + $"times of 100, {Show(bad)} % {Show(beta)}{(sigma is { } s ? $", spread {Show(s)} known" : "")}",
            OneByOne(var good, var alpha, var bad, var beta) => $"one by one, {Show(good)} % passes {Show(100 - alpha)} times of 100, "
                + $"{Show(bad)} % {Show(beta)}",
            _ => throw new InvalidOperationException($"{GetType().Name} is no sample rule."),
        };

    /// <summary>The level as the standard writes it: "II", "S-3".</summary>
    public static string LevelWord(InspectionLevel level) => level < InspectionLevel.I ? $"S-{(int)level + 1}" : level.ToString();

    /// <summary>What is wrong with the rule, in a sentence; null where nothing is.</summary>
    public string? Fault =>
        this switch
        {
            Standard(_, var aql, _, _) when !SamplingTables.Aqls.Contains(aql) => $"{Show(aql)} is no AQL of ISO 2859-1.",
            Standard(_, > 10m, _, false) => "An AQL above 10 is for nonconformities per 100, not for pieces in percent.",
            Fixed { Size: < 1 or > MostPieces } => $"A sample has 1 to {MostPieces} pieces.",
            Portions { Count: < 1 or > MostPieces } => $"A sample has 1 to {MostPieces} portions.",
            Portions { Grams: <= 0 } => "More than 0 g are drawn.",
            Portions { From: < 1 } => "It is drawn from at least one package.",
            Share { Percent: <= 0 or > 100 } => "A share is above 0 and at most 100 percent.",
            Share { Least: < 1 or > MostPieces } => $"At least 1 and at most {MostPieces} pieces are looked at.",
            Share { Most: { } most, Least: var least } when most < least => $"At least {least} and at most {most} cannot both be.",
            ZeroAcceptance { LimitingQuality: <= 0 or >= 100 } => "A limiting quality lies between 0 and 100 percent.",
            ZeroAcceptance { Risk: <= 0 or >= 100 } => "A risk lies between 0 and 100 percent.",
            ByVariables rule when TwoPointsFault(rule.Good, rule.Alpha, rule.Bad, rule.Beta) is { } fault => fault,
            OneByOne rule when TwoPointsFault(rule.Good, rule.Alpha, rule.Bad, rule.Beta) is { } fault => fault,
            OneByOne rule when rule.Lines() is null => $"It would take more than {SequentialPlans.MostPieces} pieces to tell "
                + $"{Show(rule.Good)} % from {Show(rule.Bad)} %.",
            ByVariables { Sigma: <= 0 } => "A standard deviation is above 0.",
            ByVariables rule when rule.Points() is null => $"It would take more than {VariablesPlans.MostPieces} values to tell "
                + $"{Show(rule.Good)} % from {Show(rule.Bad)} %.",
            Fixed { Size: var size, Ac: var ac } when ac < 0 || ac >= size => $"Of {size}, 0 to {size - 1} may be nonconforming.",
            Portions { Count: var count, Ac: var ac } when ac < 0 || ac >= count => $"Of {count}, 0 to {count - 1} may be nonconforming.",
            Share { Ac: < 0 } or All { Ac: < 0 } => "At least 0 may be nonconforming.",
            Share { Ac: var ac, Least: var least } when ac >= least => $"Of {least}, 0 to {least - 1} may be nonconforming.",
            _ => null,
        };

    /// <summary>Most pieces of a sample that somebody asks for.</summary>
    public const int MostPieces = 10_000;

    static Asked ByStandard(Standard rule, long lot, Severity severity)
    {
        if (lot == 1)
            return new Asked(new SamplePlan.Single(1, 0), null, "A lot of one is looked at whole.");
        var letter = SamplingTables.Letter(lot, rule.Level);
        var single = SamplingTables.Plan(letter, rule.Aql, severity);
        if (rule.IsDouble && SamplingTables.Double(single, severity) is { } twice && twice.Largest < lot)
            return new Asked(twice, letter, null);
        var note =
            !rule.IsDouble ? null
            : severity == Severity.Reduced ? "Reduced double plans are not known: the single plan serves."
            : "There is no double plan here: the single plan serves.";
        var asked = Whole(single.SampleSize, single.Ac, lot) with { Letter = letter };
        return note is null ? asked : asked with { Note = note };
    }

    static Asked Whole(long size, int ac, long lot) =>
        new(
            new SamplePlan.Single((int)Math.Min(size, lot), ac),
            null,
            size > lot ? $"The rule wants {size}; the lot has {lot} and is looked at whole." : null
        );

    static string? TwoPointsFault(decimal good, decimal alpha, decimal bad, decimal beta) =>
        good <= 0 || bad >= 100 ? "A quality lies between 0 and 100 percent."
        : good >= bad ? $"What should be accepted ({Show(good)} %) is better than what should be rejected ({Show(bad)} %)."
        : alpha is <= 0 or >= 50 || beta is <= 0 or >= 50 ? "A risk lies between 0 and 50 percent."
        : null;

    /// <summary>A lot that ends before the lines decide is decided at its last piece.</summary>
    static Asked Lines(OneByOne rule, long lot)
    {
        var plan = rule.Lines() ?? throw new InvalidOperationException($"{rule.Words} has no plan.");
        return plan.Most > lot
            ? new Asked(plan with { Most = (int)lot }, null, $"The lot has {lot}: where nothing is sure before, all are looked at.")
            : new Asked(plan, null, $"{plan.First} are enough where none fails, {plan.Most} at most.");
    }

    static Asked Measured(ByVariables rule, long lot)
    {
        var (size, k) = rule.Points() ?? throw new InvalidOperationException($"{rule.Words} has no plan.");
        var sigma = (double?)rule.Sigma;
        // Fewer pieces than the plan wants: all are measured, and each must be within, since a spread of so few says little.
        return size > lot
            ? new Asked(new SamplePlan.Single((int)lot, 0), null, $"The rule wants {size} values; all {lot} are measured, none may fail.")
            : new Asked(new SamplePlan.Variables(size, k, sigma), null, null);
    }

    static string AtMost(int ac) => ac == 0 ? "none may fail" : $"at most {ac} may fail";

    static string Show(decimal value) => value.ToString("0.######", CultureInfo.InvariantCulture);
}

file static class Rules
{
    public static SamplePlan.Sequential? Lines(this SampleRule.OneByOne rule) =>
        SequentialPlans.ByTwoPoints((double)rule.Good / 100, (double)rule.Alpha / 100, (double)rule.Bad / 100, (double)rule.Beta / 100);

    public static (int Size, double K)? Points(this SampleRule.ByVariables rule) =>
        VariablesPlans.ByTwoPoints(
            (double)rule.Good / 100,
            (double)rule.Alpha / 100,
            (double)rule.Bad / 100,
            (double)rule.Beta / 100,
            rule.Sigma is not null
        );
}
