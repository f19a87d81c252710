using System.Globalization;
using CsCheck;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// When holds are over, in Europe/London over changes of the clock. The tables name their sources: working days by numpy 1.24.2
/// (busdaycalendar), checked in R by timeDate 4022.108; hours by the IANA time zones. Where two readings are usual, this one is chosen:
/// N days are N times 24 hours of elapsed time, and a half working day that completes ends at noon.
/// </summary>
public sealed class TimesOfHolds
{
    static readonly WarehouseSite london = new()
    {
        Id = 1,
        Code = "LM",
        Name = "Low Meadow",
        TimeZone = "Europe/London",
    };

    static DateTimeOffset Utc(string text) =>
        DateTimeOffset.Parse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal).ToUniversalTime();

    static WorkCalendar Calendar(string holidays, string saturday)
    {
        var week = new Dictionary<DayOfWeek, WorkDay>(WorkCalendar.Usual.Week)
        {
            [DayOfWeek.Saturday] = saturday == "half" ? WorkDay.Half : WorkDay.Off,
        };
        return new WorkCalendar(
            week,
            Table
                .Read("holiday_lists.csv")
                .Where(r => r["list"] == holidays)
                .ToDictionary(
                    r => DateOnly.Parse(r["date"], CultureInfo.InvariantCulture),
                    r => r["kind"] == "half" ? WorkDay.Half : WorkDay.Off
                )
        );
    }

    static HoldRule Rule(int days, HoldDays counted, HoldFrom from = HoldFrom.Tally) =>
        new()
        {
            Name = "Quarantine",
            Category = "bare-root tree",
            Days = days,
            Counted = counted,
            From = from,
        };

    [Fact]
    public void So_many_working_days_end_when_the_last_of_them_does()
    {
        var rows = Table.Read("working_days.csv");
        Assert.True(rows.Count >= 30);
        foreach (var row in rows)
        {
            var works = Calendar(row["holidays"], row["saturday"]);
            var start = Utc(row["start_utc"]);
            var end = london.Instant(works.EndOf(london.DateAt(start), (int)(2 * row.Number("N"))));
            Assert.True(Utc(row["end_utc"]) == end, $"Case {row["case"]}: {row["end_utc"]}, not {end:u}.");
            // Rules name whole days.
            if (row.Number("N") % 1 == 0)
                Assert.Equal(end, Rule(row.Whole("N"), HoldDays.Working).Until(new HoldStarts(start, null, null), london, () => works));
        }
    }

    [Fact]
    public void So_many_calendar_days_are_so_many_times_24_hours_and_where_only_a_day_is_known_from_its_end()
    {
        var rows = Table.Read("days_of_24_hours.csv");
        Assert.Contains(rows, r => r["start_kind"] == "date");
        foreach (var row in rows)
        {
            var isDay = row["start_kind"] == "date";
            var starts = isDay
                ? new HoldStarts(DateTimeOffset.MinValue, null, DateOnly.Parse(row["start_as_given"], CultureInfo.InvariantCulture))
                : new HoldStarts(Utc(row["start_utc"]), null, null);
            var rule = Rule(row.Whole("N"), HoldDays.Calendar, isDay ? HoldFrom.Production : HoldFrom.Tally);
            Assert.Equal(Utc(row["elapsed_utc"]), rule.Until(starts, london, () => WorkCalendar.Usual));
        }
    }

    /// <summary>On random days, against NodaTime (its own copy of the IANA time zones): also where a midnight does not exist.</summary>
    [Theory]
    [InlineData("Europe/London")]
    [InlineData("America/Santiago")]
    [InlineData("Asia/Kathmandu")]
    public void An_independent_calendar_says_the_same_of_any_start(string zone)
    {
        var place = NodaTime.DateTimeZoneProviders.Tzdb[zone];
        var site = new WarehouseSite
        {
            Id = 1,
            Code = "S",
            Name = "Site",
            TimeZone = zone,
        };
        Gen.Select(Gen.Int[0, 4 * 365 * 24 * 60], Gen.Int[1, 60])
            .Sample(
                (minute, days) =>
                {
                    var start = new DateTimeOffset(2023, 1, 1, 0, 0, 0, TimeSpan.Zero).AddMinutes(minute);
                    var instant = NodaTime.Instant.FromDateTimeOffset(start);
                    var day = instant.InZone(place).Date;
                    DateTimeOffset until(HoldDays counted, HoldFrom from) =>
                        Rule(days, counted, from).Until(new HoldStarts(start, null, day.ToDateOnly()), site, () => everyDay);
                    var behind = place.AtStartOfDay(day.PlusDays(1)).ToInstant();
                    var lastMidnight = place.AtStartOfDay(day.PlusDays(days + 1)).ToInstant();
                    return until(HoldDays.Calendar, HoldFrom.Tally) == (instant + NodaTime.Duration.FromDays(days)).ToDateTimeOffset()
                        && until(HoldDays.Calendar, HoldFrom.Production) == (behind + NodaTime.Duration.FromDays(days)).ToDateTimeOffset()
                        && until(HoldDays.Working, HoldFrom.Tally) == lastMidnight.ToDateTimeOffset();
                }
            );
    }

    static readonly WorkCalendar everyDay = new(
        Enum.GetValues<DayOfWeek>().ToDictionary(d => d, _ => WorkDay.Full),
        new Dictionary<DateOnly, WorkDay>()
    );
}
