using System.Globalization;
using System.Text.Json.Serialization;

namespace MudRoom.Core.Bench;

/// <summary>Whether a lot is looked at, and why.</summary>
/// <param name="IsInspected">False where it is accepted unseen.</param>
/// <param name="Why">A sentence.</param>
public sealed record SkipDecision(bool IsInspected, string Why);

/// <summary>
/// Skip-lot sampling SkSP-2 (Perry 1973): every lot is looked at until so many in a row are accepted, then a fraction of them drawn by
/// chance; a rejected one begins anew. A lot that is not looked at counts as accepted.
/// </summary>
/// <param name="InARow">Lots accepted in a row before any is skipped, from 1.</param>
/// <param name="Fraction">Looked at from then on, above 0, at most 1.</param>
public sealed record SkipLot(int InARow, double Fraction)
{
    /// <summary>In words: "after 5 accepted in a row, 20 % looked at".</summary>
    [JsonIgnore]
    public string Words =>
        string.Create(CultureInfo.InvariantCulture, $"after {InARow} accepted in a row, {Fraction * 100:0.##} % looked at");

    /// <summary>The chance that a lot is accepted, where the plan behind accepts one that is looked at with a given chance.</summary>
    public double Chance(double chance)
    {
        var skipped = (1 - Fraction) * Math.Pow(chance, InARow);
        return (Fraction * chance + skipped) / (Fraction + skipped);
    }

    /// <summary>The fraction of lots that is looked at in the long run.</summary>
    public double Inspected(double chance) => Fraction / (Fraction + (1 - Fraction) * Math.Pow(chance, InARow));

    /// <summary>Whether the next lot is looked at.</summary>
    /// <param name="accepted">What became of the lots that were looked at, the first first.</param>
    /// <param name="severity">Tightened inspection skips nothing.</param>
    /// <param name="seed">Kept with the decision, so that anybody can draw again.</param>
    public SkipDecision Next(IReadOnlyList<bool> accepted, Severity severity, ulong seed)
    {
        if (severity == Severity.Tightened)
            return new SkipDecision(true, "Tightened inspection skips no lot.");
        var inARow = accepted.Reverse().TakeWhile(a => a).Count();
        if (inARow < InARow)
            return new SkipDecision(true, $"{inARow} of {InARow} lots accepted in a row: every lot is looked at.");
        var drawn = Draw(seed);
        return drawn < Fraction
            ? new SkipDecision(true, $"{inARow} lots accepted in a row; this one was drawn to be looked at.")
            : new SkipDecision(false, $"{inARow} lots accepted in a row; this one was not drawn and passes unseen.");
    }

    /// <summary>A number from 0 to 1 that a seed always gives (SplitMix64: Steele, Lea, Flood 2014).</summary>
    public static double Draw(ulong seed)
    {
        var z = seed + 0x9E3779B97F4A7C15UL;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9UL;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBUL;
        z ^= z >> 31;
        return (z >> 11) / (double)(1UL << 53);
    }
}
