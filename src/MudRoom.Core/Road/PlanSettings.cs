using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>What a plan of the day is checked for.</summary>
public enum PlanRule
{
    /// <summary>Two arrivals at one door at once.</summary>
    DoorTaken = 0,

    /// <summary>Less than the site's spacing between two arrivals at one door.</summary>
    Spacing = 1,

    /// <summary>Outside the door's hours on that weekday, or on a holiday.</summary>
    ShiftHours = 2,

    /// <summary>Unloading takes longer than the door is open on that day.</summary>
    LongerThanShift = 3,

    /// <summary>The door is not built for this vehicle.</summary>
    Vehicle = 4,

    /// <summary>Goods of a class that may not go through this door.</summary>
    GoodsClass = 5,

    /// <summary>Nobody of the crew has the ticket the goods ask for, valid on that day.</summary>
    Skill = 6,

    /// <summary>Somebody of the crew is not here then, or nobody is named.</summary>
    HeadCount = 7,

    /// <summary>Somebody of the crew is at another door then.</summary>
    CrewTaken = 8,

    /// <summary>At the door before it can be: expected at the gate, and ten minutes from there.</summary>
    BeforeGate = 9,

    /// <summary>No yard spot that takes the vehicle is free while it waits for its door.</summary>
    YardSpot = 10,
}

/// <summary>Whether a broken rule forbids a plan or only warns of it.</summary>
public enum RuleForce
{
    Hard,
    Advisory,
}

/// <summary>Hours of a door on one weekday.</summary>
public sealed record DoorHours(int Door, DayOfWeek Day, TimeOnly From, TimeOnly To);

/// <summary>A day off, or a half day that ends early.</summary>
/// <param name="Until">When work ends on it; null when there is none.</param>
public sealed record Holiday(DateOnly Day, string Name, TimeOnly? Until);

/// <summary>Free days of a shipping line before a container on site costs money.</summary>
public sealed record FreeDays(string ShippingLine, int Days);

/// <summary>
/// What a site sets for its plan. The rates to start with are common practice, without a source; each site sets its own.
/// </summary>
public sealed record PlanSettings
{
    /// <summary>Minutes before the first unit is out: papers, seal, bridge.</summary>
    public double SetUpMinutes { get; init; } = 12;

    /// <summary>Minutes for each line beyond the first, for sorting mixed loads.</summary>
    public double MinutesPerLine { get; init; }

    /// <summary>Pallets per hour and person with a truck.</summary>
    public double PalletsPerHour { get; init; } = 25;

    /// <summary>Floor-loaded cartons per hour and person.</summary>
    public double CartonsPerHour { get; init; } = 250;

    /// <summary>Parcels per hour and person.</summary>
    public double ParcelsPerHour { get; init; } = 120;

    /// <summary>Minutes between two arrivals at one door.</summary>
    public int SpacingMinutes { get; init; } = 10;

    /// <summary>Minutes from the gate to a door.</summary>
    public int GateMinutes { get; init; } = 10;

    /// <summary>Most people at one door.</summary>
    public int MostCrew { get; init; } = 3;

    /// <summary>Inspections one inspector signs in an hour; put-away tasks one driver does in an hour.</summary>
    public double InspectionsPerHour { get; init; } = 1.5;
    public double TasksPerHour { get; init; } = 18;

    public IReadOnlyList<DoorHours> Hours { get; init; } = [];
    public IReadOnlyList<Holiday> Holidays { get; init; } = [];

    /// <summary>Rules that only warn; all others are hard.</summary>
    public IReadOnlyList<PlanRule> Advisory { get; init; } = [PlanRule.Spacing, PlanRule.BeforeGate, PlanRule.YardSpot];

    /// <summary>Free days by shipping line; others have <see cref="OtherFreeDays"/>.</summary>
    public IReadOnlyList<FreeDays> FreeDays { get; init; } = [];
    public int OtherFreeDays { get; init; } = 5;

    /// <summary>What cannot be right in the settings, or null.</summary>
    /// <param name="doors">Doors of the site.</param>
    public Refusal? Fault(IReadOnlyCollection<int> doors)
    {
        if (Hours is null || Holidays is null || Advisory is null || FreeDays is null)
            return Absurd("A list of the settings is missing.");
        if (SetUpMinutes is < 0 or > 240 || MinutesPerLine is < 0 or > 60 || SpacingMinutes is < 0 or > 240 || GateMinutes is < 0 or > 240)
            return Absurd("Minutes before, between and for each line are 0 to 240.");
        if (
            PalletsPerHour is < 1 or > 1000
            || CartonsPerHour is < 1 or > 10_000
            || ParcelsPerHour is < 1 or > 10_000
            || InspectionsPerHour is < 0.1 or > 100
            || TasksPerHour is < 1 or > 1000
        )
            return Absurd("A rate is at least one an hour, and no more than people can do.");
        if (MostCrew is < 1 or > 20)
            return Absurd("At most 20 people unload at one door.");
        if (OtherFreeDays is < 0 or > 365 || FreeDays.Any(f => f.Days is < 0 or > 365 || string.IsNullOrWhiteSpace(f.ShippingLine)))
            return Absurd("Free days are 0 to 365, each of a shipping line that has a name.");
        if (FreeDays.Select(f => f.ShippingLine).Distinct().Count() != FreeDays.Count)
            return Absurd("A shipping line stands twice.");
        if (Hours.FirstOrDefault(h => h.To <= h.From) is { } backward)
            return Absurd($"Door {backward.Door} shuts before it opens on {backward.Day}.");
        if (Hours.FirstOrDefault(h => !doors.Contains(h.Door)) is { } foreign)
            return Absurd($"There is no door {foreign.Door}.");
        if (Hours.Select(h => (h.Door, h.Day)).Distinct().Count() != Hours.Count)
            return Absurd("A door has two hours on one weekday.");
        if (Holidays.Any(h => string.IsNullOrWhiteSpace(h.Name) || h.Name.Length > 60 || h.Day.Year is < 2000 or > 2100))
            return Absurd("A holiday has a name and a day in the years 2000 to 2100.");
        return Holidays.Select(h => h.Day).Distinct().Count() == Holidays.Count ? null : Absurd("A day is a holiday twice.");

        static Refusal Absurd(string sentence) =>
            new(HouseRefusals.SettingAbsurd, sentence, "Look at the numbers again. Nothing was kept.");
    }

    /// <summary>How a broken rule counts here.</summary>
    public RuleForce Force(PlanRule rule) => Advisory.Contains(rule) ? RuleForce.Advisory : RuleForce.Hard;

    /// <summary>When a door is open on a day; null when it is shut. A half day ends all doors early.</summary>
    public (DateTime From, DateTime To)? OpenOn(int door, DateOnly day)
    {
        var hours = Hours.FirstOrDefault(h => h.Door == door && h.Day == day.DayOfWeek);
        if (hours is null)
            return null;
        var to = hours.To;
        if (Holidays.FirstOrDefault(h => h.Day == day) is { } holiday)
        {
            if (holiday.Until is not { } until || until <= hours.From)
                return null;
            if (until < to)
                to = until;
        }

        return (day.ToDateTime(hours.From), day.ToDateTime(to));
    }

    /// <summary>Until then a day is a half one.</summary>
    static readonly TimeOnly halfDay = new(13, 0);

    /// <summary>The days on which the site works: those on which a door is open, half ones where the last of them shuts by one o'clock;
    /// Monday to Friday where no door has hours. A half day ends when the last door shuts, and not before noon.</summary>
    public WorkCalendar Works()
    {
        TimeOnly? Shuts(DateOnly day) => Hours.Count == 0 ? Holidays.FirstOrDefault(h => h.Day == day)?.Until : LastShuts(day);
        return new WorkCalendar(
            Hours.Count == 0 ? WorkCalendar.Usual.Week : Hours.GroupBy(h => h.Day).ToDictionary(g => g.Key, g => Worked(g.Max(h => h.To))),
            Holidays.ToDictionary(h => h.Day, h => Worked(Shuts(h.Day)))
        )
        {
            HalfDayEnds = day => Shuts(day) is { } shuts && shuts > WorkCalendar.Noon ? shuts : WorkCalendar.Noon,
        };
    }

    static WorkDay Worked(TimeOnly? shuts) =>
        shuts is not { } at ? WorkDay.Off
        : at <= halfDay ? WorkDay.Half
        : WorkDay.Full;

    /// <summary>When the last door shuts on a day; null where none opens.</summary>
    TimeOnly? LastShuts(DateOnly day) => Hours.Select(h => OpenOn(h.Door, day)?.To).Max() is { } last ? TimeOnly.FromDateTime(last) : null;

    /// <summary>Free days a shipping line gives.</summary>
    public int DaysFree(string? shippingLine) => FreeDays.FirstOrDefault(f => f.ShippingLine == shippingLine)?.Days ?? OtherFreeDays;

    /// <summary>The ticket somebody of the crew must have for goods of a class; null when none.</summary>
    public static string? SkillFor(StorageClass goods) => goods is StorageClass.Oxidiser or StorageClass.Gas ? "dangerous goods" : null;
}
