using MathNet.Numerics.Distributions;

namespace MudRoom.Core.Bench;

/// <summary>The chance to find at most so many nonconforming; distributions are MathNet.Numerics'.</summary>
public static class ChanceToAccept
{
    /// <summary>In a sample out of a lot of known size: hypergeometric.</summary>
    /// <param name="lot">Lot size.</param>
    /// <param name="nonconforming">How many in the lot are nonconforming, 0 to the lot.</param>
    /// <param name="sample">Sample size, 0 to the lot.</param>
    /// <param name="ac">Acceptance number.</param>
    /// <returns>0 to 1.</returns>
    public static double FromLot(int lot, int nonconforming, int sample, int ac) =>
        ac >= Math.Min(sample, nonconforming) ? 1
        : ac < Math.Max(0, sample - (lot - nonconforming)) ? 0
        : Math.Min(1, Enumerable.Range(0, ac + 1).Sum(found => InLot(lot, nonconforming, sample, found)));

    /// <summary>The chance to find exactly so many in a sample out of a lot.</summary>
    public static double InLot(int lot, int nonconforming, int sample, int found) =>
        found < 0 || found > sample || found > nonconforming || sample - found > lot - nonconforming
            ? 0
            : Math.Exp(Hypergeometric.PMFLn(lot, nonconforming, sample, found));

    /// <summary>In pieces of a process with a fraction nonconforming: binomial.</summary>
    /// <param name="fraction">0 to 1.</param>
    /// <param name="sample">Sample size.</param>
    /// <param name="ac">Acceptance number.</param>
    public static double FromProcess(double fraction, int sample, int ac) =>
        fraction <= 0 || ac >= sample ? 1
        : fraction >= 1 || ac < 0 ? 0
        : Binomial.CDF(fraction, sample, ac);

    /// <summary>Of nonconformities, of which a piece may have several: Poisson.</summary>
    /// <param name="perUnit">Nonconformities per unit, from 0.</param>
    /// <param name="sample">Sample size.</param>
    /// <param name="ac">Acceptance number.</param>
    public static double PerUnits(double perUnit, int sample, int ac) =>
        perUnit <= 0 ? 1
        : ac < 0 ? 0
        : Poisson.CDF(perUnit * sample, ac);
}
