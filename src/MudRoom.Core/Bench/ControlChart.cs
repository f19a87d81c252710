using System.Collections.Concurrent;
using MathNet.Numerics;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Integration;
using MathNet.Numerics.Statistics;

namespace MudRoom.Core.Bench;

/// <summary>One point of a chart, with the limits at it.</summary>
/// <param name="Value">What is drawn.</param>
/// <param name="Low">Lower control limit.</param>
/// <param name="High">Upper control limit.</param>
public sealed record ChartPoint(double Value, double Low, double High)
{
    /// <summary>True beyond a limit.</summary>
    public bool IsOutside => Value < Low || Value > High;
}

/// <summary>A control chart: its centre, the standard deviation of what is drawn, and its points.</summary>
/// <param name="Center">The middle line.</param>
/// <param name="Sigma">A third of the way from the middle to a limit; of the first point where it differs from point to point.</param>
/// <param name="Points">In their order.</param>
public sealed record ControlChart(double Center, double Sigma, IReadOnlyList<ChartPoint> Points);

/// <summary>Values that belong together, as the pieces of one lot: all that charts of means ask of them.</summary>
/// <param name="Size">How many.</param>
/// <param name="Range">The largest less the smallest.</param>
/// <param name="Spread">Their standard deviation; 0 for one value.</param>
public sealed record Subgroup(int Size, double Mean, double Range, double Spread)
{
    /// <summary>Of its values.</summary>
    /// <param name="values">At least one.</param>
    public static Subgroup Of(IReadOnlyList<double> values) =>
        new(values.Count, values.Average(), values.Max() - values.Min(), values.Count > 1 ? values.StandardDeviation() : 0);
}

/// <summary>The constants of control charts for normal values, from n = 2 on.</summary>
/// <param name="D2">Mean of the range in standard deviations.</param>
/// <param name="D3">Standard deviation of the range.</param>
/// <param name="C4">Mean of the sample's standard deviation.</param>
public sealed record ChartConstants(double D2, double D3, double C4)
{
    const double Far = 8.5;

    static readonly ConcurrentDictionary<int, ChartConstants> known = new();
    static readonly GaussLegendreRule rule = new(-Far, Far, 120);

    /// <summary>For samples of n.</summary>
    /// <param name="n">2 or more.</param>
    public static ChartConstants For(int n) => known.GetOrAdd(n, Work);

    /// <summary>Mean of s in standard deviations: √(2/(n−1)) Γ(n/2) ÷ Γ((n−1)/2).</summary>
    public static double C4Of(double n) =>
        Math.Sqrt(2 / (n - 1)) * Math.Exp(SpecialFunctions.GammaLn(n / 2) - SpecialFunctions.GammaLn((n - 1) / 2));

    // E(R) and E(R²) as integrals over the normal distribution (Tippett 1925).
    static ChartConstants Work(int n)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(n, 2);
        var below = rule.Abscissas.Select(x => Normal.CDF(0, 1, x)).ToArray();
        var (mean, square) = (0.0, 0.0);
        for (var i = 0; i < below.Length; i++)
        {
            mean += rule.Weights[i] * (1 - Math.Pow(below[i], n) - Math.Pow(1 - below[i], n));
            // The inner integral from x on, on points of its own: the integrand has a kink at y = x.
            var (x, f) = (rule.Abscissas[i], below[i]);
            var half = (Far - x) / 2;
            for (var j = 0; j < below.Length; j++)
            {
                var y = x + half * (1 + rule.Abscissas[j] / Far);
                var g = Normal.CDF(0, 1, y);
                square +=
                    2 * rule.Weights[i] * (half / Far) * rule.Weights[j] * (1 - Math.Pow(g, n) - Math.Pow(1 - f, n) + Math.Pow(g - f, n));
            }
        }

        return new ChartConstants(mean, Math.Sqrt(square - mean * mean), C4Of(n));
    }
}

/// <summary>Charts of Shewhart's kind: limits three standard deviations from the centre, from the series itself.</summary>
public static class ControlCharts
{
    /// <summary>Means of subgroups, spread by their mean range.</summary>
    /// <param name="groups">At least two, each of two values or more; where they are not of one size each has limits of its own.</param>
    public static (ControlChart Means, ControlChart Ranges) ByRange(IReadOnlyList<Subgroup> groups)
    {
        var known = Sized(groups).ConvertAll(ChartConstants.For);
        var sigma = groups.Zip(known, (g, k) => g.Range / k.D2).Average();
        return (Means(groups, sigma), Spreads([.. groups.Zip(known, (g, k) => (g.Range, k.D2 * sigma, k.D3 * sigma))]));
    }

    /// <summary>Means of subgroups, spread by their mean standard deviation.</summary>
    /// <param name="groups">At least two, each of two values or more; where they are not of one size each has limits of its own.</param>
    public static (ControlChart Means, ControlChart Spreads) BySpread(IReadOnlyList<Subgroup> groups)
    {
        var c4 = Sized(groups).ConvertAll(n => ChartConstants.C4Of(n));
        var sigma = groups.Zip(c4, (g, k) => g.Spread / k).Average();
        return (Means(groups, sigma), Spreads([.. groups.Zip(c4, (g, k) => (g.Spread, k * sigma, sigma * Math.Sqrt(1 - k * k)))]));
    }

    static ControlChart Means(IReadOnlyList<Subgroup> groups, double sigma)
    {
        var center = groups.Sum(g => g.Size * g.Mean) / groups.Sum(g => g.Size);
        return new ControlChart(
            center,
            sigma / Math.Sqrt(groups[0].Size),
            [.. groups.Select(g => new ChartPoint(g.Mean, center - 3 * sigma / Math.Sqrt(g.Size), center + 3 * sigma / Math.Sqrt(g.Size)))]
        );
    }

    static ControlChart Spreads(IReadOnlyList<(double Value, double Center, double Sigma)> points) =>
        new(
            points.Average(p => p.Center),
            points[0].Sigma,
            [.. points.Select(p => new ChartPoint(p.Value, Math.Max(0, p.Center - 3 * p.Sigma), p.Center + 3 * p.Sigma))]
        );

    /// <summary>Single values, spread by the mean moving range of two.</summary>
    /// <param name="values">At least two.</param>
    /// <param name="history">How many of the first the limits come from; all where it is not said.</param>
    public static (ControlChart Values, ControlChart MovingRanges) Individuals(IReadOnlyList<double> values, int? history = null)
    {
        var of = values.Take(history ?? values.Count).ToList();
        if (of.Count < 2)
            throw new ArgumentException("A moving range wants two values.", nameof(values));
        var moving = values.Zip(values.Skip(1), (a, b) => Math.Abs(b - a)).ToList();
        var (mean, range) = (of.Average(), moving.Take(of.Count - 1).Average());
        var known = ChartConstants.For(2);
        var sigma = range / known.D2;
        return (Level(values, mean, sigma), NotBelowZero(moving, range, known.D3 * sigma));
    }

    /// <summary>Fractions nonconforming, each of its own number of pieces.</summary>
    /// <param name="lots">Nonconforming and inspected, at least one.</param>
    public static ControlChart Fractions(IReadOnlyList<(double Count, double Size)> lots)
    {
        var center = lots.Sum(l => l.Count) / lots.Sum(l => l.Size);
        return Attributes(lots, center, size => Math.Sqrt(center * (1 - center) / size), 1);
    }

    /// <summary>Nonconformities per unit, each of its own number of units.</summary>
    public static ControlChart PerUnit(IReadOnlyList<(double Count, double Size)> lots)
    {
        var center = lots.Sum(l => l.Count) / lots.Sum(l => l.Size);
        return Attributes(lots, center, size => Math.Sqrt(center / size), double.PositiveInfinity);
    }

    static ControlChart Attributes(
        IReadOnlyList<(double Count, double Size)> lots,
        double center,
        Func<double, double> sigmaOf,
        double most
    ) =>
        new(
            center,
            sigmaOf(lots[0].Size),
            [
                .. lots.Select(l => new ChartPoint(
                    l.Count / l.Size,
                    Math.Max(0, center - 3 * sigmaOf(l.Size)),
                    Math.Min(most, center + 3 * sigmaOf(l.Size))
                )),
            ]
        );

    static ControlChart Level(IReadOnlyList<double> values, double center, double sigma) =>
        new(center, sigma, [.. values.Select(v => new ChartPoint(v, center - 3 * sigma, center + 3 * sigma))]);

    static ControlChart NotBelowZero(IReadOnlyList<double> values, double center, double sigma) =>
        new(center, sigma, [.. values.Select(v => new ChartPoint(v, Math.Max(0, center - 3 * sigma), center + 3 * sigma))]);

    static List<int> Sized(IReadOnlyList<Subgroup> groups) =>
        groups.Count >= 2 && groups.All(g => g.Size >= 2)
            ? [.. groups.Select(g => g.Size)]
            : throw new ArgumentException("At least two subgroups, each of two values or more.", nameof(groups));
}
