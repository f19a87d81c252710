using MathNet.Numerics;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Integration;
using MathNet.Numerics.RootFinding;

namespace MudRoom.Core.Bench;

/// <summary>
/// The noncentral t distribution: of (Z + ncp) ÷ √(χ²/df). Its chance is the integral of Φ(t·s − ncp) over the density of
/// s = √(χ²/df) (Johnson, Kotz, Balakrishnan, Continuous Univariate Distributions 2, chapter 31), summed by Gauss and Legendre.
/// </summary>
public static class NoncentralT
{
    const int Points = 20;
    const int Pieces = 24;

    static readonly (double At, double Weight)[] rule = Rule();

    /// <summary>The chance that T is at most t; good to 1e-10.</summary>
    /// <param name="t">Any number.</param>
    /// <param name="df">Degrees of freedom, from 1.</param>
    /// <param name="ncp">Noncentrality.</param>
    public static double Cdf(double t, double df, double ncp)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(df, 1);
        var spread = 14 / Math.Sqrt(2 * df);
        var (low, high) = (Math.Max(0, 1 - spread), 1 + spread);
        var log = Math.Log(2) + df / 2 * Math.Log(df / 2) - SpecialFunctions.GammaLn(df / 2);
        var sum = 0.0;
        foreach (var (from, to) in Parts(low, high, t, ncp))
        {
            var (middle, half) = ((from + to) / 2, (to - from) / 2);
            foreach (var (at, weight) in rule)
            {
                var s = middle + half * at;
                sum += half * weight * Normal.CDF(0, 1, t * s - ncp) * Math.Exp(log + (df - 1) * Math.Log(s) - df * s * s / 2);
            }
        }

        return Math.Clamp(sum, 0, 1);
    }

    /// <summary>The t that T is at most with a given chance.</summary>
    /// <param name="p">Above 0, below 1.</param>
    /// <param name="df">Degrees of freedom, from 1.</param>
    /// <param name="ncp">Noncentrality.</param>
    public static double Quantile(double p, double df, double ncp)
    {
        if (p is not (> 0 and < 1))
            throw new ArgumentOutOfRangeException(nameof(p), p, "A chance lies between 0 and 1.");
        var (low, high) = (ncp - 1, ncp + 1);
        for (var step = 1.0; Cdf(low, df, ncp) > p; step *= 2)
            low -= step;
        for (var step = 1.0; Cdf(high, df, ncp) < p; step *= 2)
            high += step;
        return Brent.FindRoot(t => Cdf(t, df, ncp) - p, low, high, 1e-12, 500);
    }

    /// <summary>Even pieces, and finer ones about the step of Φ, whose width is 1/|t|.</summary>
    static IEnumerable<(double From, double To)> Parts(double low, double high, double t, double ncp)
    {
        var cuts = Enumerable.Range(0, Pieces + 1).Select(i => low + (high - low) * i / Pieces).ToList();
        if (t != 0)
            cuts.AddRange(Enumerable.Range(-8, 17).Select(i => (ncp + i) / t).Where(s => s > low && s < high));
        cuts.Sort();
        return cuts.Zip(cuts.Skip(1)).Where(c => c.Second > c.First);
    }

    static (double, double)[] Rule()
    {
        var legendre = new GaussLegendreRule(-1, 1, Points);
        return [.. legendre.Abscissas.Zip(legendre.Weights)];
    }
}
