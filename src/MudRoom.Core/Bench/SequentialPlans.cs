using MathNet.Numerics.Distributions;

namespace MudRoom.Core.Bench;

/// <summary>
/// Piece by piece: after each the lot is accepted, rejected, or one more is looked at, between two lines that rise with the number of
/// pieces (Wald 1947; NIST/SEMATECH e-Handbook of Statistical Methods, 6.2.3, item-by-item sequential plans). So that it ends, it is cut
/// off at one and a half times the single plan of the same two points, and there the middle line decides (as ISO 28591, once ISO 8422,
/// does; from memory).
/// </summary>
public static class SequentialPlans
{
    /// <summary>Most pieces of the single plan beside it: its curve is walked piece by piece while somebody looks.</summary>
    public const int MostPieces = 2000;

    /// <summary>The plan from two points of the curve.</summary>
    /// <param name="good">Fraction nonconforming that should be accepted, above 0.</param>
    /// <param name="alpha">Chance to reject it; above 0, below 0.5.</param>
    /// <param name="bad">Fraction that should be rejected, above <paramref name="good"/>, below 1.</param>
    /// <param name="beta">Chance to accept it; above 0, below 0.5.</param>
    /// <returns>Null where the single plan beside it would want more than <see cref="MostPieces"/>.</returns>
    public static SamplePlan.Sequential? ByTwoPoints(double good, double alpha, double bad, double beta)
    {
        if (SingleByTwoPoints(good, alpha, bad, beta) is not { } single)
            return null;
        var k = Math.Log(bad * (1 - good) / (good * (1 - bad)));
        return new SamplePlan.Sequential(
            Math.Log((1 - good) / (1 - bad)) / k,
            Math.Log((1 - alpha) / beta) / k,
            Math.Log((1 - beta) / alpha) / k,
            (int)Math.Ceiling(1.5 * single.Size)
        );
    }

    /// <summary>The smallest single plan that accepts the good with at least 1 − alpha and the bad with at most beta (binomial).</summary>
    public static SamplePlan.Single? SingleByTwoPoints(double good, double alpha, double bad, double beta)
    {
        for (var ac = 0; ; ac++)
        {
            // The more pieces the fewer bad lots pass: the first size that is enough is found by halving.
            var (low, high) = (ac, MostPieces);
            if (Binomial.CDF(bad, high, ac) > beta)
                return null;
            while (high - low > 1)
            {
                var middle = (low + high) / 2;
                if (Binomial.CDF(bad, middle, ac) <= beta)
                    high = middle;
                else
                    low = middle;
            }

            if (Binomial.CDF(good, high, ac) >= 1 - alpha)
                return new SamplePlan.Single(high, ac);
        }
    }

    /// <summary>Where lots are accepted, and with what chance: for every number of pieces at which that can be.</summary>
    /// <param name="nextIsBad">The chance that the piece after so many with so many nonconforming is nonconforming too.</param>
    /// <returns>The chance by pieces looked at, and the pieces looked at on average, rejected lots as far as they were looked at.</returns>
    public static (IReadOnlyList<(int Looked, double Chance)> Accepted, double Average) Walk(
        SamplePlan.Sequential plan,
        Func<int, int, double> nextIsBad
    )
    {
        var accepted = new List<(int, double)>();
        var average = 0.0;
        // The chance to be still between the lines with so many nonconforming: from the fewest to the most that can be.
        var open = new double[plan.Re(plan.Most) + 1];
        open[0] = 1;
        var (fewest, most) = (0, 0);
        for (var looked = 1; looked <= plan.Most && fewest <= most; looked++)
        {
            most++;
            for (var found = most; found >= fewest; found--)
            {
                var stays = found < most ? open[found] * (1 - nextIsBad(looked - 1, found)) : 0;
                var comes = found > fewest ? open[found - 1] * nextIsBad(looked - 1, found - 1) : 0;
                open[found] = stays + comes;
            }

            var (ac, re) = (plan.Ac(looked), plan.Re(looked));
            var passes = 0.0;
            for (; fewest <= most && fewest <= ac; fewest++)
                passes += open[fewest];
            var fails = 0.0;
            for (; most >= fewest && most >= re; most--)
                fails += open[most];
            average += looked * (passes + fails);
            if (passes > 0)
                accepted.Add((looked, passes));
        }

        return (accepted, average);
    }
}
