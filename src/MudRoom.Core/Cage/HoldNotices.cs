using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>Whom an open hold needs now.</summary>
public static class HoldNotices
{
    /// <summary>What of a hold needs a person who has some rights: one thing at most, the most pressing.</summary>
    /// <param name="item">The name of its item.</param>
    /// <param name="may">Whether they have a right.</param>
    /// <param name="by">Who they are: nobody signs twice for one hold.</param>
    /// <param name="accepted">As for <see cref="Hold.Lift"/>.</param>
    /// <param name="waitsForInspection">An inspection that goods of a return wait for; null for none.</param>
    public static Notice? Of(
        Hold hold,
        string item,
        Func<Right, bool> may,
        Hand by,
        DateTimeOffset now,
        AcceptedBy? accepted = null,
        string? waitsForInspection = null
    )
    {
        if (!hold.IsOpen || hold.IsUnderConcession)
            return null;
        Notice Of(NoticeKind kind, string sentence, DateTimeOffset? since = null) =>
            new(kind, hold.Number, $"{item}: {sentence}", since ?? hold.Since);
        bool Are(NoticeKind kind) => Notice.For(kind) is { } right && may(right);

        if (hold.Decision is { } decision)
            return Are(NoticeKind.ToCarryOut) ? Of(NoticeKind.ToCarryOut, decision.ToBe, decision.At) : null;
        var mayMeet = hold.Unmet(accepted)
            .Where(c => c.Wants.Kind != ConditionKind.Acceptance && may(c.Wants.Of))
            .Where(c => c.Wants.Kind != ConditionKind.Signature || hold.Besides.All(b => b.Met?.PersonId != by.Id))
            .ToList();
        if (mayMeet.Where(c => c.IsOverdue(now)).MinBy(c => c.Due) is { } late)
            return Of(NoticeKind.Overdue, late.Wants.Words, late.Due);
        if (hold is { Reason: HoldReason.CustomerReturn, Found: null })
            return waitsForInspection is null && Are(NoticeKind.ToFind) ? Of(NoticeKind.ToFind, "a customer sent it back") : null;
        if (hold.MayBeDecided && !hold.TimeRuns(now) && Are(NoticeKind.ToDecide))
            return Of(NoticeKind.ToDecide, "what becomes of it", hold.Found?.At);
        if (mayMeet.Count > 0)
            return Of(NoticeKind.ToSign, mayMeet[0].Wants.Words);
        return hold.IsReady(now, accepted) && !hold.MayBeDecided && hold.Reason != HoldReason.Retained && Are(NoticeKind.ToLift)
            ? Of(NoticeKind.ToLift, "all its conditions are met", hold.Until)
            : null;
    }
}
