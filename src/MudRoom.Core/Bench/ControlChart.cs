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
    /// <param name="groups">At least two, all of one size from 2 on.</param>
    public static (ControlChart Means, ControlChart Ranges) ByRange(IReadOnlyList<IReadOnlyList<double>> groups)
    {
        var (n, known) = (SizeOf(groups), ChartConstants.For(groups[0].Count));
        var ranges = groups.Select(g => g.Max() - g.Min()).ToList();
        var (mean, range) = (groups.Average(g => g.Average()), ranges.Average());
        var sigma = range / known.D2;
        return (Level([.. groups.Select(g => g.Average())], mean, sigma / Math.Sqrt(n)), NotBelowZero(ranges, range, known.D3 * sigma));
    }

    /// <summary>Means of subgroups, spread by their mean standard deviation.</summary>
    /// <param name="groups">At least two, all of one size from 2 on.</param>
    public static (ControlChart Means, ControlChart Spreads) BySpread(IReadOnlyList<IReadOnlyList<double>> groups)
    {
        var (n, c4) = (SizeOf(groups), ChartConstants.C4Of(groups[0].Count));
        var spreads = groups.Select(g => g.StandardDeviation()).ToList();
        var (mean, spread) = (groups.Average(g => g.Average()), spreads.Average());
        var sigma = spread / c4;
        return (
            Level([.. groups.Select(g => g.Average())], mean, sigma / Math.Sqrt(n)),
            NotBelowZero(spreads, spread, sigma * Math.Sqrt(1 - c4 * c4))
        );
    }

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

    static int SizeOf(IReadOnlyList<IReadOnlyList<double>> groups) =>
        groups.Count >= 2 && groups[0].Count >= 2 && groups.All(g => g.Count == groups[0].Count)
            ? groups[0].Count
            : throw new ArgumentException("At least two subgroups of one size, each of two or more.", nameof(groups));
}
