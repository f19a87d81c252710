namespace MudRoom.Core.Bench;

/// <summary>What bears on the severity of a vendor's lots of an item, in the order in which it happened.</summary>
public abstract record SwitchingEvent
{
    SwitchingEvent() { }

    /// <summary>A lot was judged, on its original inspection.</summary>
    /// <param name="Number">Of its inspection.</param>
    /// <param name="On">The day, by which deliveries are steady or not.</param>
    /// <param name="IsAccepted">In this class.</param>
    /// <param name="Ac">Acceptance number of its plan; that of the last sample where there are two.</param>
    /// <param name="AtTighter">True when it would have been accepted at the next tighter AQL too.</param>
    /// <param name="OnFirst">Of a double plan: accepted on the first sample. Null where the plan was single.</param>
    public sealed record Lot(string Number, DateOnly On, bool IsAccepted, int Ac, bool AtTighter, bool? OnFirst) : SwitchingEvent;

    /// <summary>Somebody allowed reduced inspection.</summary>
    public sealed record ReducedAllowed(string By) : SwitchingEvent;

    /// <summary>Somebody ended it.</summary>
    public sealed record ReducedEnded(string By) : SwitchingEvent;

    /// <summary>Somebody let inspection begin again after it was stopped, on tightened.</summary>
    public sealed record Restarted(string By) : SwitchingEvent;
}

/// <summary>One lot on its way through the severities.</summary>
/// <param name="Lot">The lot.</param>
/// <param name="Under">The severity that it was judged by.</param>
/// <param name="Score">The switching score after it.</param>
/// <param name="Then">What followed from it, in words; empty where nothing did.</param>
public sealed record SwitchingStep(SwitchingEvent.Lot Lot, Severity Under, int Score, string Then);

/// <summary>How sharply the next lot is looked at, and how it came there.</summary>
/// <param name="Severity">Of the next lot.</param>
/// <param name="IsStopped">True when too many failed on tightened: nothing is accepted until a person restarts it.</param>
/// <param name="Score">Switching score, on normal inspection.</param>
/// <param name="MayBeReduced">True when only a person's word is missing for reduced inspection.</param>
/// <param name="Why">A sentence.</param>
/// <param name="Lots">Every lot that counted.</param>
public sealed record SeverityStand(
    Severity Severity,
    bool IsStopped,
    int Score,
    bool MayBeReduced,
    string Why,
    IReadOnlyList<SwitchingStep> Lots
)
{
    /// <summary>What signing does to the next lots, where it does anything; null where nothing changes.</summary>
    public static string? Change(SeverityStand before, SeverityStand after) =>
        after.IsStopped && !before.IsStopped ? $"Inspection stops: {after.Why}"
        : after.Severity != before.Severity ? $"The next lot is inspected {after.Severity.ToString().ToLowerInvariant()}: {after.Why}"
        : null;
}

/// <summary>The switching rules of ISO 2859-1:1999, clause 9 (from memory), as stated in its figure of the switching rules.</summary>
public static class Switching
{
    /// <summary>The score from which reduced inspection may be allowed.</summary>
    public const int ReducedScore = 30;

    const int Window = 5;
    const int FailuresToTighten = 2;
    const int AcceptedToNormal = 5;
    const int FailuresToStop = 5;

    /// <summary>Days between two lots from which deliveries are not steady any more (common practice, no source).</summary>
    public const int SteadyDays = 90;

    /// <summary>Where a vendor's lots stand after all that happened; normal inspection to begin with.</summary>
    /// <param name="events">The first first; original inspections only.</param>
    /// <param name="steadyDays">Days between two lots from which deliveries are not steady any more.</param>
    public static SeverityStand After(IEnumerable<SwitchingEvent> events, int steadyDays = SteadyDays)
    {
        var now = new Now();
        var steps = new List<SwitchingStep>();
        foreach (var happened in events)
            switch (happened)
            {
                case SwitchingEvent.Lot lot:
                    var under = now.Severity;
                    var then = Judged(now, lot, steadyDays);
                    steps.Add(new SwitchingStep(lot, under, now.Score, then));
                    break;
                case SwitchingEvent.ReducedAllowed(var by):
                    now.AllowedBy = by;
                    if (now is { Severity: Severity.Normal, Score: >= ReducedScore })
                        now.Go(Severity.Reduced, $"{by} allowed reduced inspection.");
                    break;
                case SwitchingEvent.ReducedEnded(var by):
                    now.AllowedBy = null;
                    if (now.Severity == Severity.Reduced)
                        now.Go(Severity.Normal, $"{by} ended reduced inspection.");
                    break;
                case SwitchingEvent.Restarted(var by):
                    if (now.IsStopped)
                    {
                        now.IsStopped = false;
                        now.Go(Severity.Tightened, $"{by} restarted it, on tightened.");
                    }

                    break;
            }
        return new SeverityStand(
            now.Severity,
            now.IsStopped,
            now.Score,
            now is { Severity: Severity.Normal, Score: >= ReducedScore, AllowedBy: null },
            now.Why,
            steps
        );
    }

    static string Judged(Now now, SwitchingEvent.Lot lot, int steadyDays)
    {
        var isLate = now.Last is { } last && lot.On.DayNumber - last.DayNumber > steadyDays;
        now.Last = lot.On;
        return now.Severity switch
        {
            Severity.Normal => OnNormal(now, lot, isLate),
            Severity.Tightened => OnTightened(now, lot),
            _ when !lot.IsAccepted => now.Go(Severity.Normal, $"{lot.Number} was not accepted on reduced."),
            _ when isLate => now.Go(Severity.Normal, $"More than {steadyDays} days lay before {lot.Number}: deliveries are not steady."),
            _ => "",
        };
    }

    static string OnNormal(Now now, SwitchingEvent.Lot lot, bool isLate)
    {
        now.Recent.Enqueue(lot.IsAccepted);
        if (now.Recent.Count > Window)
            now.Recent.Dequeue();
        now.Score = Points(lot) is var points and > 0 ? now.Score + points : 0;
        if (now.Recent.Count(a => !a) >= FailuresToTighten)
            return now.Go(Severity.Tightened, $"{FailuresToTighten} of the last {now.Recent.Count} lots were not accepted.");
        return now is { Score: >= ReducedScore, AllowedBy: { } by } && !isLate
            ? now.Go(Severity.Reduced, $"The score is {now.Score}, and {by} allowed reduced inspection.")
            : "";
    }

    static string OnTightened(Now now, SwitchingEvent.Lot lot)
    {
        now.InARow = lot.IsAccepted ? now.InARow + 1 : 0;
        now.Failed += lot.IsAccepted ? 0 : 1;
        if (now.Failed >= FailuresToStop && !now.IsStopped)
        {
            now.IsStopped = true;
            return now.Why = $"{FailuresToStop} lots were not accepted since tightened inspection began; a person restarts it.";
        }

        return now.InARow >= AcceptedToNormal && !now.IsStopped
            ? now.Go(Severity.Normal, $"{AcceptedToNormal} lots in a row were accepted on tightened.")
            : "";
    }

    /// <summary>What a lot adds to the score; 0 sets it back.</summary>
    static int Points(SwitchingEvent.Lot lot) =>
        lot switch
        {
            { IsAccepted: false } => 0,
            // From memory of clause 9.3.3.2.
            { OnFirst: { } onFirst } => onFirst ? 3 : 0,
            { Ac: <= 1 } => 2,
            _ => lot.AtTighter ? 3 : 0,
        };

    sealed class Now
    {
        public Severity Severity { get; private set; } = Severity.Normal;
        public int Score { get; set; }
        public bool IsStopped { get; set; }
        public string? AllowedBy { get; set; }
        public string Why { get; set; } = "Nothing has changed it from normal.";
        public DateOnly? Last { get; set; }
        public Queue<bool> Recent { get; } = new();
        public int InARow { get; set; }
        public int Failed { get; set; }

        public string Go(Severity to, string why)
        {
            (Severity, Score, InARow, Failed, Why) = (to, 0, 0, 0, why);
            Recent.Clear();
            // Back to normal from reduced: a person allows it anew.
            if (to != Severity.Reduced)
                AllowedBy = null;
            return why;
        }
    }
}
