using MudRoom.Core.Identification;

namespace MudRoom.Core.Site;

/// <summary>One warehouse with its settings.</summary>
public sealed class WarehouseSite
{
    public int Id { get; init; }

    /// <summary>Short code, in every address.</summary>
    public required string Code { get; init; }

    public required string Name { get; set; }

    /// <summary>IANA name of the time zone in which the site lives.</summary>
    public required string TimeZone { get; set; }

    /// <summary>How many days before its due date goods may come without counting as early.</summary>
    public int HorizonDays { get; set; } = 14;

    /// <summary>False for one undivided store: goods are in when they are counted.</summary>
    public bool HasAddresses { get; set; } = true;

    /// <summary>Own GS1 company prefix, for unit labels.</summary>
    public required string CompanyPrefix { get; set; }

    /// <summary>First digit of own SSCCs.</summary>
    public int SsccExtension { get; set; } = 3;

    /// <summary>Serial of the next own SSCC. Only ever grows: a number is never given again.</summary>
    public long NextSscc { get; private set; } = 1;

    /// <summary>How the site plans its days.</summary>
    public PlanSettings Planning { get; set; } = new();

    /// <summary>How the site counts goods in.</summary>
    public DoorSettings Door { get; set; } = new();

    /// <summary>How many receipts, holds, inspections and arrivals this site has numbered so far, by first letter.</summary>
    public Dictionary<string, int> LastNumbers { get; private set; } = [];

    /// <summary>The next unit number of the site's own range.</summary>
    public string TakeSscc() => Sscc.Make(SsccExtension, CompanyPrefix, NextSscc++);

    /// <summary>Reserves unit numbers for a device: first and last serial reference. They are never given here.</summary>
    public (long From, long To) ReserveSsccs(int howMany)
    {
        var from = NextSscc;
        NextSscc += howMany;
        return (from, NextSscc - 1);
    }

    /// <summary>The next number of a kind: R-0001, H-0001 …</summary>
    public string TakeNumber(string letter)
    {
        var next = LastNumbers.GetValueOrDefault(letter) + 1;
        LastNumbers = new Dictionary<string, int>(LastNumbers) { [letter] = next };
        return $"{letter}-{next:0000}";
    }

    /// <summary>Lets the numbers of a kind begin behind one that is in use already.</summary>
    public void BeginNumbersAfter(string letter, int last) =>
        LastNumbers = new Dictionary<string, int>(LastNumbers) { [letter] = Math.Max(last, LastNumbers.GetValueOrDefault(letter)) };

    /// <summary>The date at the site at an instant.</summary>
    public DateOnly DateAt(DateTimeOffset instant) => DateOnly.FromDateTime(LocalTime(instant));

    /// <summary>A wall clock time of the site as an instant.</summary>
    public DateTimeOffset Instant(DateTime wall)
    {
        var plain = DateTime.SpecifyKind(wall, DateTimeKind.Unspecified);
        return new DateTimeOffset(plain, TimeZoneInfo.FindSystemTimeZoneById(TimeZone).GetUtcOffset(plain)).ToUniversalTime();
    }

    /// <summary>The wall clock at the site at an instant.</summary>
    public DateTime LocalTime(DateTimeOffset instant) =>
        TimeZoneInfo.ConvertTime(instant, TimeZoneInfo.FindSystemTimeZoneById(TimeZone)).DateTime;
}
