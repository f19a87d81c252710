using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>What a condition besides time wants. Stored.</summary>
public enum ConditionKind
{
    /// <summary>A paper of a kind, attached and looked at.</summary>
    Paper = 1,

    /// <summary>The signature of somebody with a right.</summary>
    Signature = 2,

    /// <summary>An inspection that accepts the goods; met by itself.</summary>
    Acceptance = 3,
}

/// <summary>A person who does something to a hold.</summary>
public readonly record struct Hand(int Id, string Name);

/// <summary>A paper that was shown for a condition.</summary>
/// <param name="Id">Of what was attached.</param>
/// <param name="Kind">What it is; null where nobody has said.</param>
public sealed record PaperShown(int Id, string Name, PaperKind? Kind);

/// <summary>A condition was met.</summary>
/// <param name="Paper">The paper that was looked at, by its id; null for a signature.</param>
/// <param name="PaperName">What it is called.</param>
/// <param name="Note">A remark, or null.</param>
public sealed record ConditionMetBy(int PersonId, string By, DateTimeOffset At, int? Paper, string? PaperName, string? Note);

/// <summary>An inspection has accepted all that a hold holds, since it was laid.</summary>
/// <param name="Inspection">The last of them, by its number.</param>
public sealed record AcceptedBy(string Inspection, string By, DateTimeOffset At)
{
    /// <summary>The acceptance that meets a hold: each of its lots was accepted since it was laid. Null where one was not.</summary>
    /// <param name="byLot">By lot under the hold, the inspections that accepted it and stand.</param>
    public static AcceptedBy? OfAll(DateTimeOffset since, IReadOnlyCollection<IEnumerable<AcceptedBy>> byLot)
    {
        var last = byLot.Select(accepted => accepted.Where(a => a.At >= since).MaxBy(a => a.At)).ToList();
        return last.Count == 0 || last.Contains(null) ? null : last.MaxBy(a => a!.At);
    }
}

/// <summary>What a hold, or a rule of holds, wants besides time.</summary>
/// <param name="What">What it is about, in words: "lithium cells by UN 38.3"; empty where its kind says it.</param>
/// <param name="Of">Who may meet it; nobody is asked for an acceptance.</param>
/// <param name="Paper">The kind of paper; null for the others.</param>
/// <param name="WithinDays">Overdue after so many calendar days, 1 to <see cref="HoldRule.MostDays"/>; null for never.</param>
public sealed record Wanted(ConditionKind Kind, string What, Right Of, PaperKind? Paper = null, int? WithinDays = null)
{
    /// <summary>Most conditions of one hold or rule.</summary>
    public const int Most = 6;

    /// <summary>The rights whose signature a condition may ask for.</summary>
    public static IReadOnlyList<Right> MayAsk { get; } =
    [Right.LiftHold, Right.SignVerdict, Right.KeepPlans, Right.KeepOrders, Right.KeepPromises, Right.SetUp];

    /// <summary>In words: "a test report (lithium cells by UN 38.3), looked at by a supervisor".</summary>
    public string Words =>
        Kind switch
        {
            ConditionKind.Paper => $"a {Paper!.Value.Word()}{About}, looked at by {Rights.WhoMay(Of)}",
            ConditionKind.Signature => $"the signature of {Rights.WhoMay(Of)}{About}",
            ConditionKind.Acceptance => $"accepted by an inspection{About}",
            _ => throw new ArgumentOutOfRangeException(nameof(Kind), Kind, null),
        };

    string About => What.Length == 0 ? "" : $" ({What})";

    /// <summary>What cannot be right in some of them, or null.</summary>
    public static Refusal? FaultOf(IReadOnlyList<Wanted> wanted)
    {
        if (wanted.Count > Most)
            return new Refusal(CageRefusals.ConditionAbsurd, $"So many conditions are not kept: {Most} at most.", "Leave some out.");
        foreach (var each in wanted)
        {
            // Another program may leave a row, or its words, empty.
            if (
                each is not (var kind, { } what, var of, var paper, var days)
                || !Enum.IsDefined(kind)
                || (kind == ConditionKind.Paper) != (paper is { } named && Enum.IsDefined(named))
            )
                return new Refusal(
                    CageRefusals.ConditionAbsurd,
                    "A condition wants a paper of a kind, a signature or an inspection.",
                    "Choose one."
                );
            if (kind != ConditionKind.Acceptance && !MayAsk.Contains(of))
                return new Refusal(CageRefusals.ConditionAbsurd, "A condition names who meets it.", "Choose one of the list.");
            if (what.Length > 100)
                return new Refusal(
                    CageRefusals.ConditionAbsurd,
                    "What a condition is about has at most 100 characters.",
                    "Say it shorter."
                );
            if (days is < 1 or > HoldRule.MostDays)
                return new Refusal(
                    CageRefusals.ConditionAbsurd,
                    $"A condition is overdue after 1 to {HoldRule.MostDays} days.",
                    "Type how many."
                );
        }

        return null;
    }
}

/// <summary>One condition of a hold besides time: a link of its chain.</summary>
/// <param name="Id">Within the hold, from 1.</param>
/// <param name="Rule">The rule that asks for it; empty where somebody did by hand.</param>
/// <param name="Due">Overdue from then; null for never.</param>
/// <param name="Met">Who met it and when; null while it is open.</param>
public sealed record HoldCondition(int Id, string Rule, Wanted Wants, DateTimeOffset? Due, ConditionMetBy? Met = null)
{
    /// <summary>True from the instant on at which it should have been met.</summary>
    public bool IsOverdue(DateTimeOffset now) => Met is null && Due is { } due && due <= now;

    /// <summary>It as a link of the chain of its hold.</summary>
    /// <param name="accepted">As for <see cref="Hold.Lift"/>.</param>
    public ChainLink LinkAt(DateTimeOffset now, SiteTime local, AcceptedBy? accepted)
    {
        var what = (Rule.Length == 0 ? "" : $"{Rule}: ") + Wants.Words;
        string Minute(DateTimeOffset at) => $"{local(at):yyyy-MM-dd HH:mm}";
        var due = Due is { } at ? $", by {Minute(at)}" : "";
        var byHand = Wants.Kind == ConditionKind.Acceptance ? (int?)null : Id;
        return (Wants.Kind, Met, accepted) switch
        {
            (ConditionKind.Acceptance, _, { } yes) => new ChainLink(
                "inspection",
                true,
                $"{what}: {yes.Inspection}, {yes.By}, {Minute(yes.At)}"
            ),
            (ConditionKind.Acceptance, _, null) => new ChainLink("inspection", false, what + due, byHand, IsOverdue(now)),
            (var kind, { } met, _) => new ChainLink(
                WordOf(kind),
                true,
                string.Join(", ", new[] { $"{what}: {met.By}", Minute(met.At), met.PaperName, met.Note }.OfType<string>()),
                byHand
            ),
            (var kind, null, _) => new ChainLink(WordOf(kind), false, what + due, byHand, IsOverdue(now)),
        };
    }

    static string WordOf(ConditionKind kind) =>
        kind switch
        {
            ConditionKind.Paper => "paper",
            ConditionKind.Signature => "signature",
            ConditionKind.Acceptance => "inspection",
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };

    /// <summary>What is wanted of goods from an instant on, numbered.</summary>
    public static IReadOnlyList<HoldCondition> From(IEnumerable<(string Rule, Wanted Wants)> wanted, DateTimeOffset at) =>
        [.. wanted.Select((w, i) => new HoldCondition(i + 1, w.Rule, w.Wants, w.Wants.WithinDays is { } days ? at.AddDays(days) : null))];
}

/// <summary>All that rules lay on goods: times, and what is wanted besides.</summary>
/// <param name="Rules">The names of the rules that catch them.</param>
public sealed record HoldConditions(IReadOnlyList<string> Rules, IReadOnlyList<TimeCondition> Times, IReadOnlyList<HoldCondition> Besides)
{
    /// <summary>No rule catches.</summary>
    public static HoldConditions None { get; } = new([], [], []);
}
