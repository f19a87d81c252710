namespace MudRoom.Core.Road;

/// <summary>How a line part stands against its date.</summary>
public enum DueState
{
    Late,
    DueToday,
    FallsLate,
    OnTime,
}

/// <summary>Judges dates of what is expected.</summary>
public static class DueRules
{
    /// <summary>Late, due today, will fall late because what carries it comes after the date, or on time.</summary>
    public static DueState State(DateOnly due, DateOnly today, DateOnly? expected)
    {
        if (due < today)
            return DueState.Late;
        if (expected > due)
            return DueState.FallsLate;
        return due == today ? DueState.DueToday : DueState.OnTime;
    }

    /// <summary>The word on the screen.</summary>
    public static string Word(DueState state) =>
        state switch
        {
            DueState.Late => "late",
            DueState.DueToday => "due today",
            DueState.FallsLate => "falls late",
            DueState.OnTime => "on time",
            _ => throw new ArgumentOutOfRangeException(nameof(state), state, null),
        };

    /// <summary>Days between the date due and today, or the day it is expected.</summary>
    public static int DaysLate(DateOnly due, DateOnly today, DateOnly? expected) =>
        Math.Max(0, Math.Max(today.DayNumber, expected?.DayNumber ?? 0) - due.DayNumber);
}
