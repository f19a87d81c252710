namespace MudRoom.Core.Bench;

/// <summary>How the spread of a characteristic parts into what lies between lots and what lies within them.</summary>
/// <param name="Between">Variance between lots, at least 0, in the square of the unit.</param>
/// <param name="Within">Variance within a lot.</param>
public sealed record VarianceComponents(double Between, double Within)
{
    /// <summary>The part of all spread that lies between lots, 0 to 1: how much would be won by making lots alike.</summary>
    public double Share => Between + Within is > 0 and var all ? Between / all : 0;

    /// <summary>
    /// Works it out from the lots' numbers, means and standard deviations by the analysis of variance of one random factor with unequal
    /// groups (Searle, Casella and McCulloch 1992, chapter 3). Null for fewer than two lots, or where no lot has two pieces.
    /// </summary>
    public static VarianceComponents? Of(IReadOnlyList<(int Count, double Mean, double Spread)> lots)
    {
        var seen = lots.Where(l => l.Count > 0).ToList();
        var total = seen.Sum(l => l.Count);
        if (seen.Count < 2 || total == seen.Count)
            return null;
        var mean = seen.Sum(l => l.Count * l.Mean) / total;
        var within = seen.Sum(l => (l.Count - 1) * l.Spread * l.Spread) / (total - seen.Count);
        var between = seen.Sum(l => l.Count * (l.Mean - mean) * (l.Mean - mean)) / (seen.Count - 1);
        // As many pieces as a lot would have if all had the same.
        var alike = (total - seen.Sum(l => (double)l.Count * l.Count) / total) / (seen.Count - 1);
        return new VarianceComponents(Math.Max(0, (between - within) / alike), within);
    }
}
