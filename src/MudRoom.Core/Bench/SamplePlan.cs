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
[JsonDerivedType(typeof(Sequential), "sequential")]
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

    /// <summary>Piece by piece between two lines.</summary>
    /// <param name="Slope">By how much both rise with each piece.</param>
    /// <param name="Accept">How far the line of acceptance begins below none.</param>
    /// <param name="Reject">How far the line of rejection begins above none.</param>
    /// <param name="Most">Pieces at which the middle line decides.</param>
    public sealed record Sequential(double Slope, double Accept, double Reject, int Most) : SamplePlan
    {
        public override int Largest => Most;

        /// <summary>Pieces after which it is accepted where none is nonconforming.</summary>
        [JsonIgnore]
        public int First => Until(0);

        /// <summary>Accepted with at most so many nonconforming of so many; negative where none is few enough yet.</summary>
        public int Ac(int looked) =>
            looked >= Most ? (int)Math.Floor(Slope * Most + Fuzz) : (int)Math.Floor(Slope * looked - Accept + Fuzz);

        /// <summary>Rejected from so many nonconforming of so many.</summary>
        public int Re(int looked) =>
            looked >= Most ? Ac(Most) + 1 : Math.Min(Ac(Most) + 1, (int)Math.Ceiling(Slope * looked + Reject - Fuzz));

        /// <summary>Pieces after which it is accepted where no more than so many are nonconforming.</summary>
        public int Until(int found) => (int)Math.Min(Most, Math.Ceiling((found + Accept) / Slope - Fuzz));

        // What lies on a line counts as on it.
        const double Fuzz = 1e-9;
    }

    /// <summary>Judges a sample by what was found; a sample that would be accepted is always finished (ISO 2859-1, 11.1).</summary>
    /// <param name="looked">Pieces that are finished, counted from the first without a gap.</param>
    /// <param name="bad">The pieces that are nonconforming; one as often as it counts.</param>
    /// <param name="what">What they are, for the sentence: "major".</param>
    /// <exception cref="InvalidOperationException">The plan is by variables, which judges values.</exception>
    public Judgement Judge(int looked, IReadOnlyCollection<int> bad, string what = "")
    {
        var found = bad.Count;
        return this switch
        {
            Single(var size, var ac) => found > ac ? Is(Bench.Verdict.Rejected, size, found, size, ac)
            : looked >= size ? Is(Bench.Verdict.Accepted, size, found, size, ac)
            : Is(null, size, found, size, ac),
            Double twice => Twice(twice, bad.Count(p => p <= twice.First)),
            Sequential lines => OneByOne(lines),
            _ => throw new InvalidOperationException("A plan by variables judges values."),
        };

        Judgement Twice(Double d, int inFirst) =>
            inFirst >= d.Re1 ? Is(Bench.Verdict.Rejected, d.First, inFirst, d.First, d.Re1 - 1)
            : looked < d.First ? Is(null, d.First, inFirst, d.First, d.Ac1)
            : inFirst <= d.Ac1 ? Is(Bench.Verdict.Accepted, d.First, inFirst, d.First, d.Ac1)
            : found > d.Ac2 ? Is(Bench.Verdict.Rejected, d.Largest, found, d.Largest, d.Ac2)
            : looked >= d.Largest ? Is(Bench.Verdict.Accepted, d.Largest, found, d.Largest, d.Ac2)
            : new Judgement(d.Largest, null, $"{Found(inFirst)} of {d.First}: a second sample of {d.Second} decides");

        // The line that is crossed first decides, whatever is found on pieces after that.
        Judgement OneByOne(Sequential lines)
        {
            var count = bad.CountBy(p => p).ToDictionary();
            var so = 0;
            for (var piece = 1; piece <= looked; piece++)
            {
                so += count.GetValueOrDefault(piece);
                if (so >= lines.Re(piece))
                    return Is(Bench.Verdict.Rejected, piece, so, piece, lines.Re(piece) - 1);
                if (so <= lines.Ac(piece))
                    return Is(Bench.Verdict.Accepted, piece, so, piece, lines.Ac(piece));
            }

            var wanted = Math.Max(lines.Until(found), Math.Min(lines.Most, looked + 1));
            return new Judgement(
                wanted,
                null,
                $"{Found(found)}: accepted after {wanted} if no other is, rejected from {lines.Re(Math.Max(1, looked))}"
            );
        }

        Judgement Is(Verdict? verdict, int wanted, int count, int size, int ac) =>
            new(wanted, verdict, $"{Found(count)} of {size}, at most {ac} accepted");
        string Found(int count) => $"{count} {(what.Length == 0 ? "" : what + " ")}nonconforming";
    }
}
