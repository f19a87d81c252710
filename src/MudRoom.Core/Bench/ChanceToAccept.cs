namespace MudRoom.Core.Bench;

/// <summary>The chance that a plan accepts a lot.</summary>
public static class ChanceToAccept
{
    /// <summary>
    /// For a lot of known size: hypergeometric. The chance to find at most <paramref name="ac"/> nonconforming.
    /// </summary>
    /// <param name="lot">Lot size.</param>
    /// <param name="nonconforming">How many in the lot are nonconforming.</param>
    /// <param name="sample">Sample size, at most the lot.</param>
    /// <param name="ac">Acceptance number.</param>
    /// <returns>0 to 1.</returns>
    public static double FromLot(int lot, int nonconforming, int sample, int ac)
    {
        var sum = 0.0;
        for (var found = Math.Max(0, sample - (lot - nonconforming)); found <= Math.Min(ac, Math.Min(sample, nonconforming)); found++)
            sum += Math.Exp(LogChoose(nonconforming, found) + LogChoose(lot - nonconforming, sample - found) - LogChoose(lot, sample));
        return Math.Min(1, sum);
    }

    /// <summary>For a process with a fraction nonconforming: binomial.</summary>
    /// <param name="fraction">0 to 1.</param>
    /// <param name="sample">Sample size.</param>
    /// <param name="ac">Acceptance number.</param>
    public static double FromProcess(double fraction, int sample, int ac)
    {
        if (fraction <= 0 || ac >= sample)
            return 1;
        if (fraction >= 1)
            return 0;
        var sum = 0.0;
        for (var found = 0; found <= ac; found++)
            sum += Math.Exp(LogChoose(sample, found) + found * Math.Log(fraction) + (sample - found) * Math.Log(1 - fraction));
        return Math.Min(1, sum);
    }

    static double LogChoose(int n, int k)
    {
        var sum = 0.0;
        for (var i = 1; i <= Math.Min(k, n - k); i++)
            sum += Math.Log(n - i + 1) - Math.Log(i);
        return sum;
    }
}
