using System.Globalization;

namespace MudRoom.Core.Site;

/// <summary>How dates are written at a site, beside ISO 8601, which is read everywhere.</summary>
public enum DateForm
{
    /// <summary>31.03.2026, 31/03/2026, 31-3-26.</summary>
    DayMonthYear,

    /// <summary>03/31/2026, 3/31/26.</summary>
    MonthDayYear,
}

/// <summary>Dates of trade as files and people write them.</summary>
public static class TradeDates
{
    /// <summary>First year of a date of trade.</summary>
    public const int FirstYear = 2000;

    /// <summary>Last year of a date of trade.</summary>
    public const int LastYear = 2100;

    static readonly string[] iso = ["yyyy-MM-dd", "yyyy/MM/dd", "yyyyMMdd"];
    static readonly string[] dayFirst = ["d.M.yyyy", "d.M.yy", "d/M/yyyy", "d/M/yy", "d-M-yyyy", "d-M-yy"];
    static readonly string[] monthFirst = ["M/d/yyyy", "M/d/yy", "M-d-yyyy", "M-d-yy", "M.d.yyyy", "M.d.yy"];

    /// <summary>A date in ISO 8601 or in the form of the site, from 2000 to 2100; years of two figures lie in 2000 to 2099.</summary>
    /// <param name="text">As it was written.</param>
    /// <param name="form">The site's own form.</param>
    public static Outcome<DateOnly> Read(string text, DateForm form)
    {
        var own = form switch
        {
            DateForm.DayMonthYear => dayFirst,
            DateForm.MonthDayYear => monthFirst,
            _ => throw new ArgumentOutOfRangeException(nameof(form), form, null),
        };
        if (!DateOnly.TryParseExact(text.Trim(), [.. iso, .. own], century, DateTimeStyles.None, out var date))
            return new Refusal(SiteRefusals.NotADate, "is no date; write it as 2026-03-10", "Look at the date.");
        return IsOfTrade(date.Year)
            ? date
            : new Refusal(HouseRefusals.DateAbsurd, $"lies outside the years {FirstYear} to {LastYear}", "Look at the year.");
    }

    /// <summary>True for a year in which goods are traded.</summary>
    public static bool IsOfTrade(int year) => year is >= FirstYear and <= LastYear;

    static readonly CultureInfo century = Century();

    static CultureInfo Century()
    {
        var culture = (CultureInfo)CultureInfo.InvariantCulture.Clone();
        culture.Calendar.TwoDigitYearMax = 2099;
        return culture;
    }
}
