using MathNet.Numerics.Distributions;

namespace MudRoom.Core.Bench;

/// <summary>
/// What a plan does to lots of a given quality: chance to accept, pieces looked at, quality that goes out. Rejected lots are looked at
/// whole and every nonconforming piece found is replaced by a good one; a sample once begun is finished.
/// </summary>
/// <param name="Plan">What is asked of a lot.</param>
/// <param name="Lot">Pieces in the lot, at least the plan's.</param>
/// <param name="PerHundred">True where nonconformities are counted, of which a piece may have several (Poisson), and not pieces
/// (binomial).</param>
public sealed record OperatingCharacteristic(SamplePlan Plan, long Lot, bool PerHundred = false)
{
    /// <summary>The chance to accept on the first sample, and on the second.</summary>
    /// <param name="quality">Fraction nonconforming, or nonconformities per piece; from 0.</param>
    public (double First, double Second) Parts(double quality)
    {
        switch (Plan)
        {
            case SamplePlan.Single(var size, var ac):
                return (AtMost(quality, size, ac), 0);
            case SamplePlan.Variables plan:
                return (VariablesPlans.Chance(quality, plan), 0);
            case SamplePlan.Sequential plan:
                return (Walk(plan, quality).Accepted.Sum(a => a.Chance), 0);
            case SamplePlan.Double(var first, var ac1, var re1, var second, var ac2):
                var later = 0.0;
                for (var found = ac1 + 1; found < re1; found++)
                    later += Exactly(quality, first, found) * AtMost(quality, second, ac2 - found);
                return (AtMost(quality, first, ac1), later);
            default:
                throw new InvalidOperationException($"{Plan.GetType().Name} is no plan.");
        }
    }

    /// <summary>The chance to accept, 0 to 1.</summary>
    public double Chance(double quality) => Parts(quality) is var (first, second) ? Math.Min(1, first + second) : 0;

    /// <summary>The chance to accept a lot with exactly so many nonconforming pieces (hypergeometric).</summary>
    /// <exception cref="InvalidOperationException">The plan measures.</exception>
    public double ChanceOfLot(int nonconforming)
    {
        var lot = checked((int)Lot);
        switch (Plan)
        {
            case SamplePlan.Single(var size, var ac):
                return ChanceToAccept.FromLot(lot, nonconforming, size, ac);
            case SamplePlan.Double(var first, var ac1, var re1, var second, var ac2):
                var chance = ChanceToAccept.FromLot(lot, nonconforming, first, ac1);
                for (var found = ac1 + 1; found < re1 && found <= nonconforming; found++)
                    chance +=
                        ChanceToAccept.InLot(lot, nonconforming, first, found)
                        * ChanceToAccept.FromLot(lot - first, nonconforming - found, second, ac2 - found);
                return Math.Min(1, chance);
            case SamplePlan.Sequential plan:
                return SequentialPlans
                    .Walk(plan, (looked, found) => Math.Clamp((nonconforming - found) / (double)(lot - looked), 0, 1))
                    .Accepted.Sum(a => a.Chance);
            default:
                throw new InvalidOperationException("A plan by variables is asked for its chance by a fraction.");
        }
    }

    /// <summary>Pieces looked at in the sample, on average.</summary>
    public double AverageSample(double quality) =>
        Plan switch
        {
            SamplePlan.Double(var first, var ac1, var re1, var second, _) => first
                + second * Enumerable.Range(ac1 + 1, re1 - ac1 - 1).Sum(found => Exactly(quality, first, found)),
            SamplePlan.Sequential plan => Walk(plan, quality).Average,
            _ => Plan.Largest,
        };

    /// <summary>Pieces looked at on average, rejected lots whole.</summary>
    public double AverageInspected(double quality)
    {
        var accepted = Accepted(quality);
        return accepted.Sum(a => a.Chance * a.Looked) + Math.Max(0, 1 - accepted.Sum(a => a.Chance)) * Lot;
    }

    /// <summary>The fraction nonconforming that goes out on average.</summary>
    public double OutgoingQuality(double quality) => quality * Accepted(quality).Sum(a => a.Chance * (Lot - a.Looked)) / Lot;

    /// <summary>After how many pieces lots are accepted, and with what chance.</summary>
    IReadOnlyList<(int Looked, double Chance)> Accepted(double quality)
    {
        if (Plan is SamplePlan.Sequential plan)
            return Walk(plan, quality).Accepted;
        var (first, second) = Parts(quality);
        return [(Plan is SamplePlan.Double d ? d.First : Plan.Largest, first), (Plan.Largest, second)];
    }

    static (IReadOnlyList<(int Looked, double Chance)> Accepted, double Average) Walk(SamplePlan.Sequential plan, double quality) =>
        SequentialPlans.Walk(plan, (_, _) => quality);

    /// <summary>The worst that goes out on average, and the quality that comes in then.</summary>
    public (double Limit, double At) OutgoingLimit()
    {
        // A grid finds the hill, thirds its top; to 1e-9 of the quality.
        const int steps = 400;
        var most = PerHundred ? Math.Max(1, (AcOf() + 5.0) * 2 / Plan.Largest) : 1.0;
        var best = Enumerable.Range(0, steps + 1).MaxBy(i => OutgoingQuality(most * i / steps));
        var (low, high) = (most * Math.Max(0, best - 1) / steps, most * Math.Min(steps, best + 1) / steps);
        while (high - low > 1e-9)
        {
            var (a, b) = (low + (high - low) / 3, high - (high - low) / 3);
            if (OutgoingQuality(a) < OutgoingQuality(b))
                low = a;
            else
                high = b;
        }

        return (OutgoingQuality((low + high) / 2), (low + high) / 2);
    }

    /// <summary>The quality that is accepted with a given chance.</summary>
    /// <param name="chance">Above 0, below 1.</param>
    public double QualityAt(double chance) =>
        Plan is SamplePlan.Single(var size, var ac)
            ? PerHundred
                ? Gamma.InvCDF(ac + 1, 1, 1 - chance) / size
                : ac >= size
                    ? 1
                    : Beta.InvCDF(ac + 1, size - ac, 1 - chance)
            : ByHalving(chance);

    double ByHalving(double chance)
    {
        var (low, high) = (0.0, PerHundred ? 100.0 : 1.0);
        while (high - low > 1e-12)
            if (Chance((low + high) / 2) > chance)
                low = (low + high) / 2;
            else
                high = (low + high) / 2;
        return (low + high) / 2;
    }

    int AcOf() =>
        Plan switch
        {
            SamplePlan.Single s => s.Ac,
            SamplePlan.Double d => d.Ac2,
            SamplePlan.Sequential s => s.Ac(s.Most),
            _ => 0,
        };

    double AtMost(double quality, int size, int ac) =>
        PerHundred ? ChanceToAccept.PerUnits(quality, size, ac)
        : ac < 0 ? 0
        : ChanceToAccept.FromProcess(quality, size, ac);

    double Exactly(double quality, int size, int found) =>
        quality <= 0 ? (found == 0 ? 1 : 0)
        : PerHundred ? Poisson.PMF(quality * size, found)
        : quality >= 1 ? (found == size ? 1 : 0)
        : Binomial.PMF(quality, size, found);
}
