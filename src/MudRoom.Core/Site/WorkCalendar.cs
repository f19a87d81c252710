namespace MudRoom.Core.Site;

/// <summary>How much of a day is worked, in half days.</summary>
public enum WorkDay
{
    Off = 0,
    Half = 1,
    Full = 2,
}

/// <summary>The days on which a site works: a week, and days that differ from it.</summary>
/// <param name="Week">A weekday that is not named is off.</param>
/// <param name="Special">Holidays and half days. A day is worked no more than its weekday is.</param>
public sealed record WorkCalendar(IReadOnlyDictionary<DayOfWeek, WorkDay> Week, IReadOnlyDictionary<DateOnly, WorkDay> Special)
{
    /// <summary>When the half day of a date ends: at noon, where nobody says otherwise.</summary>
    public Func<DateOnly, TimeOnly> HalfDayEnds { get; init; } = _ => Noon;

    /// <summary>A half day ends no sooner.</summary>
    public static readonly TimeOnly Noon = new(12, 0);

    /// <summary>Monday to Friday, for a site that has not said when it works.</summary>
    public static WorkCalendar Usual { get; } =
        new(
            new[] { DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday }.ToDictionary(
                d => d,
                _ => WorkDay.Full
            ),
            new Dictionary<DateOnly, WorkDay>()
        );

    /// <summary>How much of a day is worked.</summary>
    public WorkDay On(DateOnly day)
    {
        var usual = Week.GetValueOrDefault(day.DayOfWeek);
        return Special.TryGetValue(day, out var special) && special < usual ? special : usual;
    }

    /// <summary>
    /// When so much work after a day is over, by the wall clock. The day itself does not count, whatever its hour; a half day
    /// counts half. The day on which the sum is reached is waited for whole: a full one until the midnight behind it, also where only half
    /// of it was wanted, a half one until <see cref="HalfDayEnds"/>.
    /// </summary>
    /// <param name="day">The day of the start.</param>
    /// <param name="halfDays">1 and up; two are a day.</param>
    /// <exception cref="InvalidOperationException">For a week in which nobody works.</exception>
    public DateTime EndOf(DateOnly day, int halfDays)
    {
        if (Week.Values.All(d => d == WorkDay.Off))
            throw new InvalidOperationException("No day of the week is worked.");
        var left = halfDays;
        while (true)
        {
            day = day.AddDays(1);
            var worked = On(day);
            left -= (int)worked;
            if (worked != WorkDay.Off && left <= 0)
                return worked == WorkDay.Half ? day.ToDateTime(HalfDayEnds(day)) : day.AddDays(1).ToDateTime(TimeOnly.MinValue);
        }
    }
}
