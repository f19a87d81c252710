using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;

namespace MudRoom.Core.Bench;

/// <summary>An index with the range that holds it with a given confidence.</summary>
public sealed record IndexWithin(double Value, double Low, double High);

/// <summary>
/// How values fit their limits. Cp and Cpk by the spread within lots (pooled), Pp and Ppk by that of all together. The two that look at
/// both limits are null where one is missing.
/// </summary>
/// <param name="Mean">Of all values.</param>
/// <param name="Within">Pooled standard deviation within the lots.</param>
/// <param name="Overall">Standard deviation of all.</param>
public sealed record Capability(
    double Mean,
    double Within,
    double Overall,
    IndexWithin? Cp,
    IndexWithin? Cpk,
    IndexWithin? Pp,
    IndexWithin? Ppk
)
{
    /// <summary>Works it out; null with a sentence why where it cannot be told.</summary>
    /// <param name="lots">Number, mean and standard deviation of each lot's values.</param>
    /// <param name="lower">Lower limit, or null.</param>
    /// <param name="upper">Upper limit, or null.</param>
    /// <param name="confidence">Of the ranges, above 0, below 1.</param>
    public static (Capability? Is, string? Why) Of(
        IReadOnlyList<(int Count, double Mean, double Spread)> lots,
        double? lower,
        double? upper,
        double confidence = 0.95
    )
    {
        if (lots.Count(l => l.Count >= 2) < 2)
            return (null, "Fewer than two lots with values: nothing can be told yet.");
        if (lower is null && upper is null)
            return (null, "There is no limit to fit.");
        var all = lots.Sum(l => l.Count);
        var mean = lots.Sum(l => l.Count * l.Mean) / all;
        var inside = lots.Sum(l => (l.Count - 1) * l.Spread * l.Spread);
        var between = lots.Sum(l => l.Count * Math.Pow(l.Mean - mean, 2));
        var free = all - lots.Count;
        var (within, overall) = (Math.Sqrt(inside / free), Math.Sqrt((inside + between) / (all - 1)));
        if (within <= 0)
            return (null, "All values of each lot are alike: there is no spread to measure by.");
        return (
            new Capability(
                mean,
                within,
                overall,
                Both(within, free),
                Nearer(within, free),
                Both(overall, all - 1),
                Nearer(overall, all - 1)
            ),
            null
        );

        // Chi-square, f degrees of freedom.
        IndexWithin? Both(double sigma, int f)
        {
            if (lower is not { } l || upper is not { } u)
                return null;
            var value = (u - l) / (6 * sigma);
            return new IndexWithin(
                value,
                value * Math.Sqrt(ChiSquared.InvCDF(f, (1 - confidence) / 2) / f),
                value * Math.Sqrt(ChiSquared.InvCDF(f, (1 + confidence) / 2) / f)
            );
        }

        // Bissell's approximation (1990), from memory.
        IndexWithin Nearer(double sigma, int f)
        {
            var value = new[]
            {
                lower is { } l ? (mean - l) / (3 * sigma) : (double?)null,
                upper is { } u ? (u - mean) / (3 * sigma) : null,
            }
                .OfType<double>()
                .Min();
            var reach = Normal.InvCDF(0, 1, (1 + confidence) / 2) * Math.Sqrt(1 / (9.0 * all) + value * value / (2.0 * f));
            return new IndexWithin(value, value - reach, value + reach);
        }
    }

    /// <summary>Of raw values, lot by lot.</summary>
    public static (Capability? Is, string? Why) Of(
        IReadOnlyList<IReadOnlyList<double>> lots,
        double? lower,
        double? upper,
        double confidence = 0.95
    ) => Of([.. lots.Select(l => (l.Count, l.Average(), l.Count < 2 ? 0 : l.StandardDeviation()))], lower, upper, confidence);
}

/// <summary>Where a run of lots is going.</summary>
/// <param name="Lots">How many lots, each further than the one before, up to the last.</param>
/// <param name="Pace">How far from lot to lot, by least squares over the run.</param>
/// <param name="Next">The means to come, if it goes on so.</param>
/// <param name="PassesIn">In how many lots the mean passes a limit; null where it does not within <see cref="Most"/>.</param>
public sealed record Drift(int Lots, double Pace, IReadOnlyList<double> Next, int? PassesIn)
{
    /// <summary>Lots that are looked ahead.</summary>
    public const int Most = 10;

    const int Least = 4;

    /// <summary>The run that the last lot ends; null where the last lots do not all go one way.</summary>
    /// <param name="means">Of the lots, in their order.</param>
    /// <param name="lower">Lower limit, or null.</param>
    /// <param name="upper">Upper limit, or null.</param>
    public static Drift? Of(IReadOnlyList<double> means, double? lower, double? upper)
    {
        var lots = 1;
        while (lots < means.Count && Way(means.Count - lots) == Way(means.Count - 1) && Way(means.Count - 1) != 0)
            lots++;
        if (lots < Least)
            return null;
        var run = means.Skip(means.Count - lots).ToArray();
        var (start, pace) = MathNet.Numerics.Fit.Line([.. Enumerable.Range(0, lots).Select(i => (double)i)], run);
        var next = Enumerable.Range(0, Most).Select(i => start + pace * (lots + i)).ToList();
        var passes = next.FindIndex(m => m > upper || m < lower);
        return new Drift(lots, pace, next, passes < 0 ? null : passes + 1);

        int Way(int at) => at < 1 ? 0 : Math.Sign(means[at] - means[at - 1]);
    }
}
