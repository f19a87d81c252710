namespace MudRoom.Core.Bench;

/// <summary>The run rules: eight of Nelson (1984), and those of the Western Electric handbook (1956), by name.</summary>
public enum RunRule
{
    BeyondThree = 1,
    NineOnOneSide = 2,
    SixRisingOrFalling = 3,
    FourteenUpAndDown = 4,
    TwoOfThreeBeyondTwo = 5,
    FourOfFiveBeyondOne = 6,
    FifteenWithinOne = 7,
    EightBeyondOne = 8,
    EightOnOneSide = 9,
}

/// <summary>A rule that is broken.</summary>
/// <param name="Rule">Which.</param>
/// <param name="At">The point at which it is, from 0: the last of its window.</param>
/// <param name="Window">How many points up to there show it.</param>
public sealed record Broken(RunRule Rule, int At, int Window);

/// <summary>
/// Which points break which rule. Of "k of m" the last point is itself beyond, and at the beginning of a series the window may be cut
/// short. All comparisons are strict: a point on the centre is on neither side, an equal neighbour ends a run.
/// </summary>
public static class RunRules
{
    /// <summary>Nelson's eight.</summary>
    public static IReadOnlyList<RunRule> Nelson { get; } = [.. Enumerable.Range(1, 8).Select(i => (RunRule)i)];

    /// <summary>Western Electric's four.</summary>
    public static IReadOnlyList<RunRule> WesternElectric { get; } =
    [RunRule.BeyondThree, RunRule.TwoOfThreeBeyondTwo, RunRule.FourOfFiveBeyondOne, RunRule.EightOnOneSide];

    /// <summary>What a rule is called, and what it means at the bench.</summary>
    public static (string Name, string Means) Words(RunRule rule) =>
        rule switch
        {
            RunRule.BeyondThree => ("one beyond three sigma", "Something happened to this lot alone."),
            RunRule.NineOnOneSide => ("nine in a row on one side", "The level has shifted and stays there."),
            RunRule.SixRisingOrFalling => ("six in a row, each further than the one before", "Something wears or drifts."),
            RunRule.FourteenUpAndDown => ("fourteen in a row up and down in turn", "Two sources take turns."),
            RunRule.TwoOfThreeBeyondTwo => ("two of three beyond two sigma on one side", "The level is about to leave."),
            RunRule.FourOfFiveBeyondOne => ("four of five beyond one sigma on one side", "The level has moved a little."),
            RunRule.FifteenWithinOne => (
                "fifteen in a row within one sigma",
                "Too even: several sources are mixed in each, or limits too wide."
            ),
            RunRule.EightBeyondOne => ("eight in a row beyond one sigma, either side", "Two levels, seldom the middle: sources are mixed."),
            RunRule.EightOnOneSide => ("eight in a row on one side", "The level has shifted and stays there."),
            _ => throw new ArgumentOutOfRangeException(nameof(rule), rule, null),
        };

    /// <summary>Every point at which a rule is broken.</summary>
    /// <param name="values">In their order.</param>
    /// <param name="center">Of the chart.</param>
    /// <param name="sigma">Of the chart, above 0; with none nothing is broken.</param>
    /// <param name="rules">Those that are looked for.</param>
    public static IReadOnlyList<Broken> Of(IReadOnlyList<double> values, double center, double sigma, IEnumerable<RunRule> rules) =>
        sigma <= 0
            ? []
            :
            [
                .. rules.SelectMany(rule =>
                {
                    var (least, window, shows) = WindowOf(rule);
                    return Enumerable
                        .Range(least - 1, Math.Max(0, values.Count - least + 1))
                        .Where(at => shows([.. values.Take(at + 1).TakeLast(window).Select(v => (v - center) / sigma)]))
                        .Select(at => new Broken(rule, at, Math.Min(window, at + 1)));
                }),
            ];

    /// <summary>How many points a rule looks at, at least and at most, and whether they show it.</summary>
    static (int Least, int Window, Func<double[], bool> Shows) WindowOf(RunRule rule)
    {
        return rule switch
        {
            RunRule.BeyondThree => Whole(1, z => Math.Abs(z[0]) > 3),
            RunRule.NineOnOneSide => Whole(9, OneSide),
            RunRule.EightOnOneSide => Whole(8, OneSide),
            RunRule.SixRisingOrFalling => Whole(6, z => Steps(z).All(s => s > 0) || Steps(z).All(s => s < 0)),
            RunRule.FourteenUpAndDown => Whole(14, z => Steps(z).All(s => s != 0) && Turns(z)),
            RunRule.TwoOfThreeBeyondTwo => (2, 3, z => Beyond(z, 2, 2)),
            RunRule.FourOfFiveBeyondOne => (4, 5, z => Beyond(z, 4, 1)),
            RunRule.FifteenWithinOne => Whole(15, z => z.All(v => Math.Abs(v) < 1)),
            RunRule.EightBeyondOne => Whole(8, z => z.All(v => Math.Abs(v) > 1)),
            _ => throw new ArgumentOutOfRangeException(nameof(rule), rule, null),
        };

        static (int, int, Func<double[], bool>) Whole(int window, Func<double[], bool> shows) => (window, window, shows);
    }

    static bool OneSide(double[] z) => z.All(v => v > 0) || z.All(v => v < 0);

    static bool Beyond(double[] z, int atLeast, double limit) =>
        (z.Count(v => v > limit) >= atLeast && z[^1] > limit) || (z.Count(v => v < -limit) >= atLeast && z[^1] < -limit);

    static IEnumerable<double> Steps(double[] z) => z.Zip(z.Skip(1), (a, b) => b - a);

    static bool Turns(double[] z) => Steps(z).Zip(Steps(z).Skip(1), (a, b) => a * b < 0).All(turns => turns);
}
