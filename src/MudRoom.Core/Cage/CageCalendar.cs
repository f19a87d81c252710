using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>What of a hold falls on a day.</summary>
public enum CageDayKind
{
    /// <summary>A condition should have been met.</summary>
    Overdue,

    /// <summary>It can be lifted: it falls on today.</summary>
    Ready,

    /// <summary>A condition should be met by then.</summary>
    Due,

    /// <summary>The last of its times is over.</summary>
    TimeOver,

    /// <summary>The last day of a concession.</summary>
    ConcessionEnds,
}

/// <summary>Something that falls on a day of the cage.</summary>
/// <param name="At">When; what is overdue or can be lifted falls on today, whenever that was.</param>
/// <param name="Words">What it is about, where its kind does not say it; else empty.</param>
public sealed record CageEvent(CageDayKind Kind, Hold Hold, DateOnly On, DateTimeOffset At, string Words);

/// <summary>What falls on which day in the cage: it follows from the open holds.</summary>
public static class CageCalendar
{
    /// <summary>Weeks that are shown at a time.</summary>
    public const int Weeks = 5;

    /// <summary>What of an open hold falls on some day. Nothing of one that waits for a decision, a
    /// condition without a day, or what was decided.</summary>
    /// <param name="now">An instant of today.</param>
    /// <param name="day">The day of an instant at the site.</param>
    /// <param name="accepted">As for <see cref="Hold.Lift"/>.</param>
    public static IEnumerable<CageEvent> Of(Hold hold, DateTimeOffset now, Func<DateTimeOffset, DateOnly> day, AcceptedBy? accepted = null)
    {
        if (!hold.IsOpen)
            yield break;
        if (hold.UsableUntil is { } ends)
        {
            // It ends with a day: the midnight behind it is not the day.
            yield return new CageEvent(CageDayKind.ConcessionEnds, hold, day(ends.AddTicks(-1)), ends, hold.Decision!.Concession!.Words);
            yield break;
        }

        if (hold.Decision is not null)
            yield break;
        if (CageQueue.WaitsFor(hold, now, accepted) == HoldWaits.Lifting)
            yield return new CageEvent(CageDayKind.Ready, hold, day(now), hold.Until ?? now, "");
        if (hold.TimeRuns(now))
            yield return new CageEvent(CageDayKind.TimeOver, hold, day(hold.Until!.Value), hold.Until.Value, "");
        foreach (var condition in hold.Unmet(accepted).Where(c => c.Due is not null))
        {
            var isLate = condition.IsOverdue(now);
            yield return new CageEvent(
                isLate ? CageDayKind.Overdue : CageDayKind.Due,
                hold,
                day(isLate ? now : condition.Due!.Value),
                condition.Due!.Value,
                condition.Wants.Words
            );
        }
    }

    /// <summary>The Monday of the week of a day.</summary>
    public static DateOnly Monday(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + 6) % 7));

    /// <summary>The next day on which the site works, itself where it is one; null where it works on none within a year.</summary>
    public static DateOnly? WorkedOn(DateOnly day, WorkCalendar works)
    {
        for (var on = day; on < day.AddDays(366); on = on.AddDays(1))
            if (works.On(on) != WorkDay.Off)
                return on;
        return null;
    }
}
