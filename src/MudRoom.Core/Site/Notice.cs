namespace MudRoom.Core.Site;

/// <summary>What somebody is told that they are needed for, the most pressing first.</summary>
public enum NoticeKind
{
    /// <summary>Goods of a recall are not found.</summary>
    Missing,

    /// <summary>A condition of a hold should have been met.</summary>
    Overdue,

    /// <summary>A count waits for an answer.</summary>
    Question,

    /// <summary>A question of one's own was answered.</summary>
    Answer,

    /// <summary>A lot at the bench that somebody waits for.</summary>
    WaitedFor,

    /// <summary>The chart of a vendor's lots shows that one will fail, and nobody has told the buyer.</summary>
    Warning,

    /// <summary>Goods that a customer sent back want their finding.</summary>
    ToFind,

    /// <summary>It is to be decided what becomes of goods.</summary>
    ToDecide,

    /// <summary>What was decided has still to happen.</summary>
    ToCarryOut,

    /// <summary>A hold wants a paper looked at or a signature.</summary>
    ToSign,

    /// <summary>A hold can be lifted.</summary>
    ToLift,
}

/// <summary>Something that needs a person now. It is worked out when it is asked for and nowhere kept: it goes when it is done.</summary>
/// <param name="Subject">The number of what it is about.</param>
/// <param name="Sentence">What is asked.</param>
/// <param name="Since">Since when.</param>
public sealed record Notice(NoticeKind Kind, string Subject, string Sentence, DateTimeOffset Since)
{
    /// <summary>The right of those whom a notice is for; null for those that are for one person.</summary>
    public static Right? For(NoticeKind kind) =>
        kind switch
        {
            NoticeKind.Missing => Right.LiftHold,
            // Whom a condition asks says the condition.
            NoticeKind.Overdue or NoticeKind.ToSign => null,
            NoticeKind.Question => Right.SettleTally,
            NoticeKind.Answer => null,
            NoticeKind.WaitedFor or NoticeKind.Warning => Right.Inspect,
            NoticeKind.ToFind => Right.SignVerdict,
            NoticeKind.ToDecide or NoticeKind.ToCarryOut => Right.Decide,
            NoticeKind.ToLift => Right.LiftHold,
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };

    /// <summary>The most pressing first; of one kind what has waited longest.</summary>
    public static IEnumerable<T> InOrder<T>(IEnumerable<T> told, Func<T, Notice> notice) =>
        told.OrderBy(n => notice(n).Kind).ThenBy(n => notice(n).Since).ThenBy(n => notice(n).Subject, StringComparer.Ordinal);
}
