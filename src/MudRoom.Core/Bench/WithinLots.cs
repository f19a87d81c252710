namespace MudRoom.Core.Bench;

/// <summary>What a chart over lots draws its limits from.</summary>
public enum LotsChart
{
    /// <summary>How the means go from lot to lot.</summary>
    Lots = 0,

    /// <summary>The standard deviations within the lots.</summary>
    Spread = 1,

    /// <summary>The ranges within the lots.</summary>
    Range = 2,
}

/// <summary>The means of lots against what the spread within them lets expect.</summary>
/// <param name="Means">Each with limits for its own number of pieces.</param>
/// <param name="Spreads">Standard deviations or ranges, in the order of the means.</param>
/// <param name="Broken">The rules of Nelson that the means break, each at the last lot that breaks it, the last first.</param>
/// <param name="Headline">In a sentence.</param>
public sealed record WithinLots(ControlChart Means, ControlChart Spreads, IReadOnlyList<Broken> Broken, string Headline)
{
    /// <summary>Of the lots of a characteristic.</summary>
    /// <param name="lots">The first first.</param>
    /// <returns>A sentence in place of a chart where there is none to draw.</returns>
    public static (WithinLots? Chart, string? Why) Of(Characteristic c, IReadOnlyList<ChartLot> lots, LotsChart by)
    {
        if (!c.IsMeasured)
            return (null, "It is looked at: nothing spreads within a lot.");
        if (by == LotsChart.Range && lots.Any(l => l.Is.Range is null))
            return (null, "Sheets of before kept no range of their values. The chart by standard deviations has them all.");
        var groups = lots.Where(l => l.Is is { Looked: >= 2, Mean: not null, Spread: not null })
            .Select(l => new Subgroup(l.Is.Looked, l.Is.Mean!.Value, l.Is.Range ?? 0, l.Is.Spread!.Value))
            .ToList();
        if (groups.Count < 2 || groups.Count < lots.Count)
            return (null, "Two lots are wanted, and two measured pieces of each.");
        var (means, spreads) = by == LotsChart.Range ? ControlCharts.ByRange(groups) : ControlCharts.BySpread(groups);
        if (means.Sigma <= 0)
            return (null, "The values of each lot are alike: there is no spread to draw limits from.");
        // Each mean has limits of its own: in units of them, the rules for single values serve.
        var z = means.Points.Select(p => 3 * (p.Value - means.Center) / (p.High - means.Center)).ToList();
        var broken = RunRules
            .Of(z, 0, 1, RunRules.Nelson)
            .OrderByDescending(b => b.At)
            .ThenBy(b => b.Rule)
            .DistinctBy(b => b.Rule)
            .ToList();
        var outside = means.Points.Count(p => p.IsOutside);
        var wide = spreads.Points.Count(p => p.IsOutside);
        return (
            new WithinLots(
                means,
                spreads,
                broken,
                $"{c.Name}: {Lots(outside, groups.Count)} outside what the spread within lots lets expect"
                    + (wide == 0 ? "." : $", {wide} {(wide == 1 ? "is" : "are")} of another spread.")
            ),
            null
        );

        static string Lots(int some, int all) => some == 0 ? "no mean lies" : $"{some} of {all} means {(some == 1 ? "lies" : "lie")}";
    }
}
