using System.Globalization;

namespace MudRoom.Core.Bench;

/// <summary>How a characteristic of a vendor's lots goes on.</summary>
public enum Coming
{
    /// <summary>At its pace the mean passes a limit within a few lots.</summary>
    PassesLimit = 0,

    /// <summary>The last lot breaks a rule.</summary>
    RuleBroken = 1,

    /// <summary>An earlier one of the last lots broke a rule.</summary>
    Unsteady = 2,
    Steady = 3,

    /// <summary>Fewer than <see cref="SeenComing.Least"/> lots.</summary>
    TooFew = 4,
}

/// <summary>A lot on the chart of a characteristic.</summary>
/// <param name="Number">Of its inspection.</param>
/// <param name="On">The day of its signature.</param>
/// <param name="Is">What the characteristic came to.</param>
public sealed record ChartLot(string Number, DateOnly On, CharacteristicOutcome Is);

/// <summary>What past lots say of those to come.</summary>
/// <param name="State">How it goes on.</param>
/// <param name="Headline">The finding, in a sentence.</param>
/// <param name="Why">Why it stands where it stands in the list.</param>
/// <param name="Chart">Of the means, or of the fractions nonconforming; null for fewer than two lots.</param>
/// <param name="Moving">The change from lot to lot; null for what is looked at.</param>
/// <param name="History">How many of the first lots the limits come from.</param>
/// <param name="Broken">The rules that the last lots break.</param>
/// <param name="Drift">Where a run of means is going; null where there is none.</param>
public sealed record Outlook(
    Coming State,
    string Headline,
    string Why,
    ControlChart? Chart,
    ControlChart? Moving,
    int History,
    IReadOnlyList<Broken> Broken,
    Drift? Drift
)
{
    /// <summary>True where the buyer should hear of it: it does not go on as it usually does.</summary>
    public bool IsWorthTelling => State is not (Coming.Steady or Coming.TooFew);

    /// <summary>True where somebody should look now: a lot will fail, or the last one broke a rule.</summary>
    public bool IsWarning => State is Coming.PassesLimit or Coming.RuleBroken;
}

/// <summary>
/// Sees it coming: the means of past lots as single values (between lots more differs than within one), fractions nonconforming where it is
/// looked at. The limits come from the lots before a run that drifts, where these are enough.
/// </summary>
public static class SeenComing
{
    /// <summary>Lots from which anything is told.</summary>
    public const int Least = 4;

    /// <summary>All characteristics together: of a piece several may be nonconforming.</summary>
    public static Characteristic Everything { get; } = new() { Name = "Nonconformities per piece" };

    /// <summary>What the characteristics of a lot came to together: those that were looked at on all pieces of its largest sample, since
    /// what is counted per piece must have been looked for on each.</summary>
    public static CharacteristicOutcome Together(IReadOnlyList<CharacteristicOutcome> of)
    {
        var pieces = of.Max(o => o.Looked);
        return new CharacteristicOutcome(Everything.Id, pieces, of.Where(o => o.Looked == pieces).Sum(o => o.Nonconforming), null, null);
    }

    const int Recent = 5;
    const int Enough = 6;

    /// <summary>What the lots of a characteristic say.</summary>
    /// <param name="c">The characteristic, with the limits of today.</param>
    /// <param name="lots">The first first.</param>
    public static Outlook Of(Characteristic c, IReadOnlyList<ChartLot> lots)
    {
        if (lots.Count < Least)
            return new Outlook(
                Coming.TooFew,
                $"{c.Name}: {lots.Count} {(lots.Count == 1 ? "lot" : "lots")} so far, {Least} are wanted.",
                $"Only {lots.Count} {(lots.Count == 1 ? "lot" : "lots")} yet.",
                null,
                null,
                lots.Count,
                [],
                null
            );
        if (!c.IsMeasured)
        {
            var counts = lots.Select(l => ((double)l.Is.Nonconforming, (double)l.Is.Looked)).ToList();
            var fractions = c == Everything ? ControlCharts.PerUnit(counts) : ControlCharts.Fractions(counts);
            // Each point has limits of its own: in units of them, the rules for single values serve.
            var z = fractions.Points.Select(p =>
                p.High > fractions.Center ? 3 * (p.Value - fractions.Center) / (p.High - fractions.Center) : 0
            );
            return Told(
                c,
                lots,
                fractions,
                null,
                lots.Count,
                RunRules.Of([.. z], 0, 1, [RunRule.BeyondThree, RunRule.NineOnOneSide]),
                null
            );
        }

        var means = lots.Select(l => l.Is.Mean ?? 0).ToList();
        var drift = Drift.Of(means, (double?)c.Lower, (double?)c.Upper);
        var before = drift is null ? lots.Count : lots.Count - drift.Lots + 1;
        var history = before >= Enough ? before : lots.Count;
        var (chart, moving) = ControlCharts.Individuals(means, history);
        return Told(c, lots, chart, moving, history, RunRules.Of(means, chart.Center, chart.Sigma, RunRules.Nelson), drift);
    }

    static Outlook Told(
        Characteristic c,
        IReadOnlyList<ChartLot> lots,
        ControlChart chart,
        ControlChart? moving,
        int history,
        IReadOnlyList<Broken> broken,
        Drift? drift
    )
    {
        var recent = broken.Where(b => b.At >= lots.Count - Recent).OrderByDescending(b => b.At).ThenBy(b => b.Rule).ToList();
        Outlook Is(Coming state, string headline, string why) => new(state, headline, why, chart, moving, history, recent, drift);
        if (drift is { PassesIn: { } lotsLeft })
        {
            var way = drift.Pace > 0 ? "risen" : "fallen";
            return Is(
                Coming.PassesLimit,
                $"{c.Name} has {way} for {Word(drift.Lots)} lots. At this pace its mean passes the limit in {Word(lotsLeft)}.",
                $"{Upper(Word(drift.Lots))} lots {(drift.Pace > 0 ? "rising" : "falling")}. At this pace lot {lotsLeft} from now fails."
            );
        }

        if (recent.Count == 0)
            return Is(Coming.Steady, $"{c.Name} is steady.", "No rule broken.");
        var (name, means) = RunRules.Words(recent[0].Rule);
        return recent[0].At == lots.Count - 1
            ? Is(Coming.RuleBroken, $"{c.Name}: {name}.", $"{Upper(name)}. {means}")
            : Is(Coming.Unsteady, $"{c.Name} was unsteady: {name}.", $"Lot {lots[recent[0].At].Number} broke a rule: {name}.");
    }

    static string Word(int number) =>
        number is >= 1 and <= 12
            ? new[] { "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve" }[number - 1]
            : number.ToString(CultureInfo.InvariantCulture);

    static string Upper(string text) => char.ToUpperInvariant(text[0]) + text[1..];
}
