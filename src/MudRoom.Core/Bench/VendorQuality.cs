using MathNet.Numerics.Distributions;
using MathNet.Numerics.Integration;

namespace MudRoom.Core.Bench;

/// <summary>
/// How good a vendor's lots are, estimated from past samples: a Beta distribution that begins with Jeffreys' prior, Beta(½, ½), and adds
/// what was found.
/// </summary>
/// <param name="Nonconforming">Found in all.</param>
/// <param name="Inspected">Pieces looked at, at least as many.</param>
/// <param name="Lots">Lots that they came from.</param>
public sealed record VendorQuality(int Nonconforming, int Inspected, int Lots)
{
    const int Points = 64;

    static readonly GaussLegendreRule rule = new(0, 1, Points);

    double A => 0.5 + Nonconforming;
    double B => 0.5 + Inspected - Nonconforming;

    /// <summary>True where nothing is known but the prior.</summary>
    public bool IsPriorAlone => Inspected == 0;

    /// <summary>The mean fraction nonconforming.</summary>
    public double Mean => A / (A + B);

    /// <summary>The fraction that it is below with a given chance.</summary>
    /// <param name="chance">0 to 1.</param>
    public double Quantile(double chance) => Beta.InvCDF(A, B, chance);

    /// <summary>The range that holds the middle of the distribution.</summary>
    /// <param name="level">How much of it, above 0, below 1: 0.9 is from 5 to 95 percent.</param>
    public (double Low, double High) Range(double level = 0.9) => (Quantile((1 - level) / 2), Quantile((1 + level) / 2));

    /// <summary>The density at a fraction.</summary>
    public double Density(double fraction) => fraction is <= 0 or >= 1 ? 0 : Beta.PDF(A, B, fraction);

    /// <summary>What something comes to on average over all that the fraction may be: with p = sin²θ the density is smooth to both
    /// ends.</summary>
    /// <param name="of">Of a fraction, bounded.</param>
    public double Average(Func<double, double> of)
    {
        // In θ the spread is about 1/(2√n), whatever the fraction: twelve of them to each side.
        var middle = Math.Asin(Math.Sqrt(Mean));
        var reach = 6 / Math.Sqrt(Inspected + 1);
        var (low, high) = (Math.Max(0, middle - reach), Math.Min(Math.PI / 2, middle + reach));
        var top = LogWeight(middle);
        var (sum, weights) = (0.0, 0.0);
        for (var i = 0; i < Points; i++)
        {
            var angle = low + (high - low) * rule.Abscissas[i];
            var weight = rule.Weights[i] * Math.Exp(LogWeight(angle) - top);
            sum += weight * of(Math.Pow(Math.Sin(angle), 2));
            weights += weight;
        }

        return sum / weights;

        double LogWeight(double angle) => Power(Nonconforming, Math.Sin(angle)) + Power(Inspected - Nonconforming, Math.Cos(angle));
        static double Power(int half, double of) => half == 0 ? 0 : 2 * half * Math.Log(of);
    }
}
