using System.Globalization;
using MudRoom.Core.Site;

namespace MudRoom.Exchange;

/// <summary>A time in a message: on the clock of the site it is meant for, or on one that is so far from UTC.</summary>
/// <param name="Clock">What the clock shows.</param>
/// <param name="FromUtc">Set where the message names a zone.</param>
public sealed record TradeTime(DateTime Clock, TimeSpan? FromUtc)
{
    /// <summary>The hour that is meant where only a day is named.</summary>
    public const int HourOfDay = 9;

    /// <summary>The instant.</summary>
    public DateTimeOffset At(WarehouseSite site) =>
        FromUtc is { } offset ? new DateTimeOffset(Clock, offset).ToUniversalTime() : site.Instant(Clock);

    /// <summary>A zone as "Z", "UTC", "GMT", "+01", "+0100" or "+01:00"; null when it is none.</summary>
    public static TimeSpan? Zone(string text)
    {
        var plain = text.Trim();
        if (plain.ToUpperInvariant() is "Z" or "UTC" or "GMT")
            return TimeSpan.Zero;
        if (plain is not ['+' or '-', ..])
            return null;
        string[] forms = ["hh\\:mm", "hhmm", "hh"];
        return TimeSpan.TryParseExact(plain[1..], forms, CultureInfo.InvariantCulture, out var offset) && offset <= TimeSpan.FromHours(14)
            ? plain[0] == '-'
                ? -offset
                : offset
            : null;
    }

    /// <summary>A date of XML Schema (part 2, date): 2026-03-10, with or without a zone; null when it is none.</summary>
    public static (DateOnly Date, TimeSpan? FromUtc)? XmlDate(string text)
    {
        var plain = text.Trim();
        if (
            plain.Length < 10
            || !DateOnly.TryParseExact(plain[..10], "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date)
        )
            return null;
        if (plain.Length == 10)
            return (date, null);
        return Zone(plain[10..]) is { } zone ? (date, zone) : null;
    }

    /// <summary>A time of XML Schema (part 2, time): 08:00:00, with or without parts of a second and a zone; null when it is
    /// none.</summary>
    public static (TimeOnly Time, TimeSpan? FromUtc)? XmlTime(string text)
    {
        var plain = text.Trim();
        var zoneAt = plain.IndexOfAny(['Z', 'z', '+', '-']);
        var (clock, zone) = zoneAt < 0 ? (plain, "") : (plain[..zoneAt], plain[zoneAt..]);
        if (
            !TimeOnly.TryParseExact(
                clock,
                ["HH:mm:ss", "HH:mm:ss.FFFFFFF", "HH:mm"],
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var time
            )
        )
            return null;
        if (zone.Length == 0)
            return (time, null);
        return Zone(zone) is { } offset ? (time, offset) : null;
    }

    /// <summary>
    /// A date or time of UN/EDIFACT by its format (code list 2379): 101 YYMMDD, 102 CCYYMMDD, 201, 203 and 204 with hours, minutes and
    /// seconds, 303 with a zone. Null when it is none; the flag tells a day from a time.
    /// </summary>
    public static (DateTime Clock, TimeSpan? FromUtc, bool IsDay)? Edifact(string text, string format)
    {
        TimeSpan? zone = null;
        var plain = text.Trim();
        if (format == "303")
        {
            if (plain.Length < 13 || Zone(plain[12..]) is not { } named)
                return null;
            (plain, zone, format) = (plain[..12], named, "203");
        }

        var (form, isDay) = format switch
        {
            "101" => ("yyMMdd", true),
            "" or "102" => ("yyyyMMdd", true),
            "201" => ("yyMMddHHmm", false),
            "203" => ("yyyyMMddHHmm", false),
            "204" => ("yyyyMMddHHmmss", false),
            _ => ("", false),
        };
        return form.Length > 0 && DateTime.TryParseExact(plain, form, CultureInfo.InvariantCulture, DateTimeStyles.None, out var at)
            ? (at, zone, isDay)
            : null;
    }
}
