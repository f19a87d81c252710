using System.Text.Json.Serialization;

namespace MudRoom.Core.Bench;

/// <summary>How far a sample has come.</summary>
/// <param name="Wanted">Pieces to look at before there is more to say.</param>
/// <param name="Verdict">Null while it is open.</param>
/// <param name="Sentence">Why: "3 nonconforming of 32, at most 2 accepted".</param>
public sealed record Judgement(int Wanted, Verdict? Verdict, string Sentence);

/// <summary>What a sample rule asks of one lot: how many pieces are looked at, and when the lot is accepted.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Single), "single")]
[JsonDerivedType(typeof(Double), "double")]
[JsonDerivedType(typeof(Variables), "variables")]
public abstract record SamplePlan
{
    SamplePlan() { }

    /// <summary>Most pieces that may have to be looked at.</summary>
    [JsonIgnore]
    public abstract int Largest { get; }

    /// <summary>One sample.</summary>
    /// <param name="Size">Pieces.</param>
    /// <param name="Ac">Accept at most this many; rejected from one more.</param>
    public sealed record Single(int Size, int Ac) : SamplePlan
    {
        public override int Largest => Size;
    }

    /// <summary>Two samples: the second is taken only when the first leaves it open.</summary>
    /// <param name="First">Pieces of the first.</param>
    /// <param name="Ac1">Accepted on the first at most this many.</param>
    /// <param name="Re1">Rejected on the first from this many.</param>
    /// <param name="Second">Pieces of the second.</param>
    /// <param name="Ac2">Accepted at most this many in both together; rejected from one more.</param>
    public sealed record Double(int First, int Ac1, int Re1, int Second, int Ac2) : SamplePlan
    {
        public override int Largest => First + Second;
    }

    /// <summary>Measured values: accepted when they lie far enough from the limits.</summary>
    /// <param name="Size">Pieces.</param>
    /// <param name="K">By how many standard deviations the mean must keep from a limit.</param>
    /// <param name="Sigma">The known standard deviation; null where that of the sample serves.</param>
    public sealed record Variables(int Size, double K, double? Sigma) : SamplePlan
    {
        public override int Largest => Size;

        /// <summary>The estimated fraction nonconforming that is accepted at most; the same as k where there is one limit.</summary>
        [JsonIgnore]
        public double MostFraction => VariablesPlans.Fraction(K, Size, Sigma is not null);
    }

    /// <summary>Judges a sample by what was found; a sample that would be accepted is always finished (ISO 2859-1, 11.1).</summary>
    /// <param name="looked">Pieces that are finished, counted from the first without a gap.</param>
    /// <param name="foundInFirst">Nonconforming among the pieces of the first sample.</param>
    /// <param name="found">Nonconforming in all.</param>
    /// <param name="what">What they are, for the sentence: "major".</param>
    /// <exception cref="InvalidOperationException">The plan is by variables, which judges values.</exception>
    public Judgement Judge(int looked, int foundInFirst, int found, string what = "")
    {
        return this switch
        {
            Single(var size, var ac) => found > ac ? Is(Bench.Verdict.Rejected, size, found, size, ac)
            : looked >= size ? Is(Bench.Verdict.Accepted, size, found, size, ac)
            : Is(null, size, found, size, ac),
            Double(var first, var ac1, var re1, var second, var ac2) d => foundInFirst >= re1
                ? Is(Bench.Verdict.Rejected, first, foundInFirst, first, re1 - 1)
            : looked < first ? Is(null, first, foundInFirst, first, ac1)
            : foundInFirst <= ac1 ? Is(Bench.Verdict.Accepted, first, foundInFirst, first, ac1)
            : found > ac2 ? Is(Bench.Verdict.Rejected, d.Largest, found, d.Largest, ac2)
            : looked >= d.Largest ? Is(Bench.Verdict.Accepted, d.Largest, found, d.Largest, ac2)
            : new Judgement(d.Largest, null, $"{Found(foundInFirst)} of {first}: a second sample of {second} decides"),
            _ => throw new InvalidOperationException("A plan by variables judges values."),
        };

        Judgement Is(Verdict? verdict, int wanted, int count, int size, int ac) =>
            new(wanted, verdict, $"{Found(count)} of {size}, at most {ac} accepted");
        string Found(int count) => $"{count} {(what.Length == 0 ? "" : what + " ")}nonconforming";
    }
}
