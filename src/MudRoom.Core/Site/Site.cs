using MudRoom.Core.Identification;

namespace MudRoom.Core.Site;

/// <summary>One warehouse. What a room of it goes by is kept in that room.</summary>
public sealed class WarehouseSite
{
    public int Id { get; init; }

    /// <summary>Short code, in every address.</summary>
    public required string Code { get; init; }

    public required string Name { get; set; }

    /// <summary>Global Location Number of 13 digits by which messages name it; null for none.</summary>
    public string? Gln { get; set; }

    /// <summary>How dates are written at this site, beside ISO 8601.</summary>
    public DateForm DateForm { get; set; }

    /// <summary>IANA name of the time zone in which the site lives.</summary>
    public required string TimeZone { get; set; }

    /// <summary>How many days before its due date goods may come without counting as early.</summary>
    public int HorizonDays { get; set; } = 14;

    /// <summary>False for one undivided store: goods are in when they are counted.</summary>
    public bool HasAddresses { get; set; } = true;

    /// <summary>
    /// The prefix of numbers that never leave the house. Source: GS1 General Specifications, list of GS1 Prefixes: 040 to 049 are for
    /// restricted circulation within a company, so no other house has them.
    /// </summary>
    public const string OwnPrefix = "0400000";

    /// <summary>Own GS1 company prefix, for unit labels; null until somebody has said it.</summary>
    public string? CompanyPrefix { get; set; }

    /// <summary>True where units get numbers of the house's own instead, which mean nothing outside.</summary>
    public bool OwnNumbers { get; set; }

    /// <summary>What unit numbers begin with behind their first digit; null until it was set.</summary>
    public string? NumberPrefix => OwnNumbers ? OwnPrefix : CompanyPrefix;

    /// <summary>First digit of own SSCCs.</summary>
    public int SsccExtension { get; set; } = 3;

    /// <summary>Serial of the next own SSCC. Only ever grows: a number is never given again.</summary>
    public long NextSscc { get; private set; } = 1;

    /// <summary>True where people type 2,5 for two and a half.</summary>
    public bool DecimalComma { get; set; }

    /// <summary>How its scanners type.</summary>
    public ScannerSettings Scanner { get; set; } = new();

    /// <summary>How many receipts, holds, inspections and arrivals this site has numbered so far, by first letter.</summary>
    public Dictionary<string, int> LastNumbers { get; private set; } = [];

    /// <summary>No unit gets a number before somebody has said whose numbers they are: those of a foreign prefix would be somebody
    /// else's.</summary>
    public Refusal? MayNumber() =>
        NumberPrefix is null
            ? new Refusal(
                SiteRefusals.NumbersNotSet,
                $"{Name} has no GS1 company prefix yet, so no unit can get a number.",
                "An administrator sets it under Site, House; or chooses own numbers."
            )
            : null;

    /// <summary>Sets what units are numbered by.</summary>
    /// <param name="prefix">GS1 company prefix of 4 to 12 digits; null or blank for none.</param>
    /// <param name="own">True for own numbers instead.</param>
    /// <param name="extension">First digit, 0 to 9.</param>
    /// <param name="next">The next serial number; never lower than it is, unless the prefix or first digit is another.</param>
    public Refusal? NumberBy(string? prefix, bool own, int extension, long next)
    {
        var plain = prefix.OrNull();
        if (plain is not null && (plain.Length is < 4 or > 12 || !CheckDigit.IsDigits(plain)))
            return new Refusal(
                SiteRefusals.PrefixWrong,
                $"{plain} is no GS1 company prefix: it has 4 to 12 digits.",
                "It stands in the paper your GS1 organisation sent. Nothing was kept."
            );
        if (extension is < 0 or > 9)
            return new Refusal(SiteRefusals.PrefixWrong, "The first digit of a unit number is 0 to 9.", "Choose one. Nothing was kept.");
        var most = (long)Math.Pow(10, 16 - (own ? OwnPrefix : plain ?? OwnPrefix).Length) - 1;
        if (next < 0 || next > most)
            return new Refusal(
                SiteRefusals.RangeWrong,
                $"The next number lies between 0 and {most}.",
                "Look at it again. Nothing was kept."
            );
        var sameRange = (own ? OwnPrefix : plain) == NumberPrefix && extension == SsccExtension;
        if (sameRange && next < NextSscc)
            return new Refusal(
                SiteRefusals.RangeWrong,
                $"Numbers up to {NextSscc - 1} are given already.",
                $"Begin at {NextSscc} or later. Nothing was kept."
            );
        (CompanyPrefix, OwnNumbers, SsccExtension, NextSscc) = (plain, own, extension, next);
        return null;
    }

    /// <summary>The next unit number of the site's own range.</summary>
    /// <exception cref="InvalidOperationException">The range was never set: ask <see cref="MayNumber"/> first.</exception>
    public string TakeSscc() =>
        Sscc.Make(SsccExtension, NumberPrefix ?? throw new InvalidOperationException("No prefix is set."), NextSscc++);

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

    /// <summary>The next number of a kind that no site of the house has given yet; kept at the site that takes it.</summary>
    /// <param name="site">One of them.</param>
    public static string TakeHouseNumber(string letter, WarehouseSite site, IReadOnlyCollection<WarehouseSite> house)
    {
        site.BeginNumbersAfter(letter, house.Max(s => s.LastNumbers.GetValueOrDefault(letter)));
        return site.TakeNumber(letter);
    }

    /// <summary>Lets the numbers of a kind begin behind one that is in use already.</summary>
    public void BeginNumbersAfter(string letter, int last) =>
        LastNumbers = new Dictionary<string, int>(LastNumbers) { [letter] = Math.Max(last, LastNumbers.GetValueOrDefault(letter)) };

    /// <summary>
    /// What was scanned or typed, read as every room of the site reads it: without what its scanners type before and behind a code, sorted
    /// by its form.
    /// </summary>
    public ScannedCode Scan(string typed, DateTimeOffset now) => ScannedCode.Of(Scanner.Code(typed), DateAt(now));

    /// <summary>The date at the site at an instant.</summary>
    public DateOnly DateAt(DateTimeOffset instant) => DateOnly.FromDateTime(LocalTime(instant));

    /// <summary>A wall clock time of the site as an instant.</summary>
    public DateTimeOffset Instant(DateTime wall)
    {
        var plain = DateTime.SpecifyKind(wall, DateTimeKind.Unspecified);
        // At the edge of the calendar there is no room for a zone.
        if (plain.Year is < 2 or > 9998)
            return new DateTimeOffset(plain, TimeSpan.Zero);
        return new DateTimeOffset(plain, Zone.GetUtcOffset(plain)).ToUniversalTime();
    }

    /// <summary>The instants between which a range of days lies at the site: from the first moment of the first to that behind the
    /// last.</summary>
    public (DateTimeOffset Begin, DateTimeOffset End) Days(DateOnly first, DateOnly last) =>
        (
            Instant(first.ToDateTime(TimeOnly.MinValue)),
            last == DateOnly.MaxValue ? DateTimeOffset.MaxValue : Instant(last.AddDays(1).ToDateTime(TimeOnly.MinValue))
        );

    /// <summary>The wall clock at the site at an instant.</summary>
    public DateTime LocalTime(DateTimeOffset instant) => TimeZoneInfo.ConvertTime(instant, Zone).DateTime;

    /// <summary>Looked up once: every count asks for the day three times.</summary>
    TimeZoneInfo Zone => zone is { } known && known.Id == TimeZone ? known : zone = TimeZoneInfo.FindSystemTimeZoneById(TimeZone);

    TimeZoneInfo? zone;

    /// <summary>How facts become words at the site.</summary>
    public Wording Wording => new(Language.English, LocalTime);
}
