using System.Globalization;
using MathNet.Numerics;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;

namespace MudRoom.Core.Bench;

/// <summary>What measured values come to against their limits.</summary>
/// <param name="Mean">Of the values.</param>
/// <param name="Spread">Standard deviation: known, or that of the sample.</param>
/// <param name="ToLower">How many spreads the mean keeps from the lower limit; null without one.</param>
/// <param name="ToUpper">The same for the upper.</param>
/// <param name="Fraction">Estimated fraction nonconforming, beyond both limits together.</param>
public sealed record ValuesStand(double Mean, double Spread, double? ToLower, double? ToUpper, double Fraction);

/// <summary>
/// Sampling by variables: the k-method with the sample's standard deviation (s) or a known one (σ). The fraction nonconforming is
/// estimated without bias (Lieberman and Resnikoff 1955), as in ISO 3951 and its forerunners.
/// </summary>
public static class VariablesPlans
{
    /// <summary>Most pieces of a plan that is looked for.</summary>
    public const int MostPieces = 2000;

    /// <summary>
    /// The smallest sample that accepts a process at the better quality with at least 1 − alpha, and one at the worse with at most beta.
    /// Of all k that do, the middle one.
    /// </summary>
    /// <param name="good">Fraction nonconforming that should be accepted, above 0.</param>
    /// <param name="alpha">Chance to reject it, at most; above 0, below 1.</param>
    /// <param name="bad">Fraction that should be rejected, above <paramref name="good"/>, below 1.</param>
    /// <param name="beta">Chance to accept it, at most; above 0, below 1 − alpha.</param>
    /// <param name="isSigmaKnown">True where the standard deviation is known.</param>
    /// <returns>Size and k; null where more than <see cref="MostPieces"/> would be wanted.</returns>
    public static (int Size, double K)? ByTwoPoints(double good, double alpha, double bad, double beta, bool isSigmaKnown)
    {
        var (zGood, zBad) = (-Normal.InvCDF(0, 1, good), -Normal.InvCDF(0, 1, bad));
        // With a known spread: both points give a limit to k, and they meet where n is large enough.
        var least = Math.Pow((Normal.InvCDF(0, 1, 1 - alpha) + Normal.InvCDF(0, 1, 1 - beta)) / (zGood - zBad), 2);
        if (isSigmaKnown)
        {
            var n = Math.Max(2, (int)Math.Ceiling(least - 1e-9));
            return n > MostPieces ? null : (n, Middle(n));
        }

        if (least > MostPieces)
            return null;
        // With that of the sample never fewer, and about 1 + k²/2 times as many; the room for k grows with n, so that the first with any
        // is found by halving.
        var low = Math.Max(2, (int)least) - 1;
        var high = Math.Min(MostPieces, (int)(least * (1 + Math.Pow((zGood + zBad) / 2, 2) / 2)) + 3);
        while (Room(high) < 0)
        {
            if (high == MostPieces)
                return null;
            (low, high) = (high, Math.Min(MostPieces, high + Math.Max(4, high / 4)));
        }

        while (high - low > 1)
        {
            var middle = (low + high) / 2;
            if (middle >= 2 && Room(middle) >= 0)
                high = middle;
            else
                low = middle;
        }

        return (high, Middle(high));

        double Room(int n) => Most(n) - Least(n);
        double Middle(int n) => (Most(n) + Least(n)) / 2;
        // The largest k that still accepts the good, the smallest that rejects the bad.
        double Most(int n) => isSigmaKnown ? zGood + Normal.InvCDF(0, 1, alpha) / Math.Sqrt(n) : T(n, alpha, zGood);
        double Least(int n) => isSigmaKnown ? zBad + Normal.InvCDF(0, 1, 1 - beta) / Math.Sqrt(n) : T(n, 1 - beta, zBad);
        static double T(int n, double p, double z) => NoncentralT.Quantile(p, n - 1, z * Math.Sqrt(n)) / Math.Sqrt(n);
    }

    /// <summary>The chance that a process with a fraction nonconforming beyond one limit is accepted.</summary>
    /// <param name="fraction">0 to 1.</param>
    /// <param name="plan">Size, k, and whether the spread is known.</param>
    public static double Chance(double fraction, SamplePlan.Variables plan)
    {
        if (fraction is <= 0 or >= 1)
            return fraction <= 0 ? 1 : 0;
        var (z, root) = (-Normal.InvCDF(0, 1, fraction), Math.Sqrt(plan.Size));
        return plan.Sigma is null ? 1 - NoncentralT.Cdf(plan.K * root, plan.Size - 1, z * root) : Normal.CDF(0, 1, (z - plan.K) * root);
    }

    /// <summary>The estimated fraction beyond a limit from which the mean keeps so many spreads.</summary>
    /// <param name="q">Distance of the mean from the limit in spreads, towards the good side.</param>
    /// <param name="n">Values, from 3 (from 2 where the spread is known).</param>
    /// <param name="isSigmaKnown">True where the spread is known.</param>
    public static double Fraction(double q, int n, bool isSigmaKnown)
    {
        if (isSigmaKnown)
            return Normal.CDF(0, 1, -q * Math.Sqrt(n / (n - 1.0)));
        var x = 0.5 - q * Math.Sqrt(n) / (2 * (n - 1));
        return n < 3 ? (q >= 0 ? 0 : 1)
            : x <= 0 ? 0
            : x >= 1 ? 1
            : SpecialFunctions.BetaRegularized(n / 2.0 - 1, n / 2.0 - 1, x);
    }

    /// <summary>What values come to; null for fewer than two, or where none differs and no spread is known.</summary>
    public static ValuesStand? Stand(IReadOnlyList<decimal> values, decimal? lower, decimal? upper, double? sigma)
    {
        if (values.Count < 2)
            return null;
        var (mean, own) = values.Select(v => (double)v).MeanStandardDeviation();
        var spread = sigma ?? own;
        if (spread <= 0)
            return null;
        double? toLower = lower is { } l ? (mean - (double)l) / spread : null;
        double? toUpper = upper is { } u ? ((double)u - mean) / spread : null;
        var fraction = new[] { toLower, toUpper }.OfType<double>().Sum(q => Fraction(q, values.Count, sigma is not null));
        return new ValuesStand(mean, spread, toLower, toUpper, Math.Min(1, fraction));
    }

    /// <summary>Judges the values of a sample; open until each piece has one.</summary>
    /// <param name="plan">Size and k.</param>
    /// <param name="values">In the characteristic's unit.</param>
    /// <param name="lower">Lower limit, or null.</param>
    /// <param name="upper">Upper limit, or null.</param>
    public static Judgement Judge(SamplePlan.Variables plan, IReadOnlyList<decimal> values, decimal? lower, decimal? upper)
    {
        if (values.Count < plan.Size)
            return new Judgement(plan.Size, null, $"{values.Count} of {plan.Size} values");
        if (Stand(values, lower, upper, plan.Sigma) is not { } stand)
        {
            // All values alike: they lie within, or they do not.
            var within = (lower is null || values[0] >= lower) && (upper is null || values[0] <= upper);
            return new Judgement(
                plan.Size,
                within ? Verdict.Accepted : Verdict.Rejected,
                $"all {values.Count} values alike, {(within ? "within" : "outside")} the limits"
            );
        }

        var accepted = (stand.ToLower, stand.ToUpper) switch
        {
            ({ } q, null) => q >= plan.K,
            (null, { } q) => q >= plan.K,
            _ => stand.Fraction <= plan.MostFraction,
        };
        var said = (stand.ToLower, stand.ToUpper) switch
        {
            ({ } q, null) => $"the mean keeps {Show(q)} spreads from the lower limit, at least {Show(plan.K)} wanted",
            (null, { } q) => $"the mean keeps {Show(q)} spreads from the upper limit, at least {Show(plan.K)} wanted",
            _ => $"about {Percent(stand.Fraction)} % of the lot lie outside, at most {Percent(plan.MostFraction)} % accepted",
        };
        return new Judgement(plan.Size, accepted ? Verdict.Accepted : Verdict.Rejected, said);
    }

    static string Show(double value) => value.ToString("0.00", CultureInfo.InvariantCulture);

    static string Percent(double value) => (100 * value).ToString("0.##", CultureInfo.InvariantCulture);
}
