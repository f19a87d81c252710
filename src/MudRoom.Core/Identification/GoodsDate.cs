namespace MudRoom.Core.Identification;

/// <summary>A date on goods; a production date may be known to the month only.</summary>
/// <param name="Date">The day; the first of the month when <paramref name="MonthOnly"/>.</param>
/// <param name="MonthOnly">True when the label names no day.</param>
public readonly record struct GoodsDate(DateOnly Date, bool MonthOnly = false)
{
    /// <inheritdoc />
    public override string ToString() => MonthOnly ? Date.ToString("yyyy-MM") : Date.ToString("yyyy-MM-dd");

    /// <summary>Reads a date as people type it: 2026-03-10, or 2026-03 where only the month is known.</summary>
    /// <returns>The date; null for an empty text.</returns>
    public static Outcome<GoodsDate?> Typed(string field, string? text)
    {
        var plain = (text ?? "").Trim();
        if (plain.Length == 0)
            return (GoodsDate?)null;
        GoodsDate? read =
            DateOnly.TryParseExact(plain, "yyyy-MM-dd", out var day) ? new GoodsDate(day)
            : DateOnly.TryParseExact(plain + "-01", "yyyy-MM-dd", out var month) ? new GoodsDate(month, MonthOnly: true)
            : null;
        if (read is not { } date)
            return new Refusal(
                IdentificationRefusals.DateImpossible,
                $"{field} {plain} is no date.",
                "Write it as year, month, day: 2026-03-10."
            );
        return date.Date.Year is >= FirstYear and <= LastYear
            ? read
            : new Refusal(
                IdentificationRefusals.DateImpossible,
                $"{field} {plain} is no date of goods: it lies outside the years {FirstYear} to {LastYear}.",
                "Look at the year."
            );
    }

    /// <summary>First year of a date on goods.</summary>
    public const int FirstYear = 1990;

    /// <summary>Last year of a date on goods.</summary>
    public const int LastYear = 2200;

    /// <summary>True when both can be the same date: of one that is known to the month only, its month counts.</summary>
    public bool Agrees(GoodsDate other) =>
        MonthOnly || other.MonthOnly ? (Date.Year, Date.Month) == (other.Date.Year, other.Date.Month) : Date == other.Date;

    /// <summary>The last day it can stand for: of a month its last.</summary>
    public DateOnly LastDay => MonthOnly ? new DateOnly(Date.Year, Date.Month, DateTime.DaysInMonth(Date.Year, Date.Month)) : Date;

    /// <summary>
    /// Reads six digits YYMMDD. The century follows from how far the two-digit year is from today's: 51 to 99 ahead is the
    /// century before, 50 to 99 behind is the next, else this one. Source: GS1 General Specifications, section 7.12.
    /// </summary>
    /// <param name="digits">Six digits, already known to be digits.</param>
    /// <param name="today">The date at the site.</param>
    /// <param name="dayZero">What day 00 stands for.</param>
    /// <returns>The date, or null when month or day is impossible.</returns>
    public static GoodsDate? Read(ReadOnlySpan<char> digits, DateOnly today, DayZero dayZero)
    {
        var year = FullYear(int.Parse(digits[..2]), today.Year);
        var month = int.Parse(digits[2..4]);
        var day = int.Parse(digits[4..6]);
        if (month is < 1 or > 12)
            return null;
        var last = DateTime.DaysInMonth(year, month);
        if (day > last)
            return null;
        if (day > 0)
            return new GoodsDate(new DateOnly(year, month, day));
        return dayZero switch
        {
            DayZero.LastOfMonth => new GoodsDate(new DateOnly(year, month, last)),
            DayZero.MonthOnly => new GoodsDate(new DateOnly(year, month, 1), MonthOnly: true),
            _ => null,
        };
    }

    static int FullYear(int twoDigits, int thisYear)
    {
        var century = thisYear / 100 * 100;
        return (twoDigits - thisYear % 100) switch
        {
            >= 51 => century - 100 + twoDigits,
            <= -50 => century + 100 + twoDigits,
            _ => century + twoDigits,
        };
    }
}

/// <summary>What day 00 of a six-digit date means.</summary>
public enum DayZero
{
    /// <summary>Best before, expiry: the last day of the month.</summary>
    LastOfMonth,

    /// <summary>Production: known to the month only.</summary>
    MonthOnly,

    /// <summary>The standard wants a day.</summary>
    Refused,
}
