using MudRoom.Core.Site;
using MudRoom.Core.Yard;

namespace MudRoom.Core.Road;

/// <summary>A door as the plan sees it.</summary>
/// <param name="Vehicles">Kinds it is built for.</param>
/// <param name="Special">Special storage classes whose goods may go through it; ordinary goods go through any.</param>
public sealed record DoorToPlan(int Number, IReadOnlyList<string> Vehicles, IReadOnlyList<StorageClass> Special);

/// <summary>Somebody of the day's roster who can unload.</summary>
public sealed record Worker(int Id, string Name, IReadOnlyList<Skill> Skills, DateTime From, DateTime To)
{
    /// <summary>True when they have the ticket on that day.</summary>
    public bool Has(string skill, DateOnly day) => Skills.Any(s => s.Name == skill && s.Until >= day);
}

/// <summary>An arrival as the plan sees it. Times are wall clock at the site.</summary>
/// <param name="Number">A-2617.</param>
/// <param name="Vehicle">truck, container, van, parcel.</param>
/// <param name="Units">Pallets, cartons or parcels, by the handling.</param>
/// <param name="Classes">Storage classes of the goods aboard.</param>
/// <param name="Booked">When it was booked to be at a door.</param>
/// <param name="AtGate">When it is, or is expected to be, at the gate.</param>
/// <param name="Weight">How much lateness counts: 1, more where somebody waits or the goods are cold.</param>
/// <param name="VendorFactor">See <see cref="UnloadingTime.VendorFactor"/>.</param>
/// <param name="Fixed">True when it stands at its door already and is not moved.</param>
public sealed record LoadToPlan(
    string Number,
    string Vehicle,
    Handling Handling,
    int Units,
    int Lines,
    IReadOnlyList<StorageClass> Classes,
    DateTime Booked,
    DateTime AtGate,
    int Weight,
    double VendorFactor,
    bool Fixed
)
{
    /// <summary>Expected minutes at a door with so many people.</summary>
    public double Minutes(int people, PlanSettings settings) =>
        UnloadingTime.Standard(Handling, packs: Units, Lines, people, settings) * VendorFactor;

    /// <summary>The ticket its goods ask for, or null.</summary>
    public string? Skill => Classes.Select(PlanSettings.SkillFor).FirstOrDefault(s => s is not null);

    /// <summary>Goods of these classes go through doors that are made for them only.</summary>
    public IEnumerable<StorageClass> Special => SpecialOf(Classes);

    /// <inheritdoc cref="Special"/>
    public static IEnumerable<StorageClass> SpecialOf(IEnumerable<StorageClass> classes) =>
        classes.Where(c => c is StorageClass.Cold or StorageClass.Oxidiser or StorageClass.Gas).Distinct();
}

/// <summary>Where and when an arrival is planned, and who unloads it.</summary>
public sealed record Placement(string Number, int Door, DateTime Start, IReadOnlyList<int> Crew, DateTime End)
{
    /// <summary>True when the two overlap in time.</summary>
    public bool Overlaps(Placement other) => Start < other.End && other.Start < End;
}

/// <summary>A rule that a plan breaks, in a sentence.</summary>
public sealed record BrokenRule(string Number, PlanRule Rule, RuleForce Force, string Sentence);

/// <summary>All that a plan of one day is made from.</summary>
public sealed record DayToPlan(
    DateOnly Day,
    IReadOnlyList<LoadToPlan> Loads,
    IReadOnlyList<DoorToPlan> Doors,
    IReadOnlyList<Worker> Workers,
    PlanSettings Settings
)
{
    /// <summary>Of each yard spot, the kinds of vehicle it takes; empty for a yard that lists none.</summary>
    public IReadOnlyList<IReadOnlyList<string>> Spots { get; init; } = [];

    /// <summary>How long a load stands in the yard under a placement.</summary>
    public static YardStay Stay(LoadToPlan load, Placement at) => new(load.Vehicle, load.AtGate, at.Start);

    /// <summary>A placement with its end worked out from the crew.</summary>
    public Placement Place(LoadToPlan load, int door, DateTime start, IReadOnlyList<int> crew) =>
        new(load.Number, door, start, crew, start.AddMinutes(Math.Ceiling(load.Minutes(Math.Max(1, crew.Count), Settings))));
}

/// <summary>Checks a plan, and finds the nearest one that keeps all rules.</summary>
public static class PlanCheck
{
    /// <summary>The rules one placement breaks, given all others.</summary>
    public static IReadOnlyList<BrokenRule> Check(DayToPlan day, LoadToPlan load, Placement at, IReadOnlyCollection<Placement> others)
    {
        var broken = new List<BrokenRule>();
        var settings = day.Settings;
        var door = day.Doors.FirstOrDefault(d => d.Number == at.Door);
        if (door is null)
        {
            Add(PlanRule.Vehicle, $"Door {at.Door} does not exist.");
            return broken;
        }

        broken.AddRange(OfDoor(door, load.Number, load.Vehicle, load.Classes, settings));
        CheckHours();
        foreach (var other in others.Where(o => o.Number != at.Number && o.Door == at.Door))
        {
            if (at.Overlaps(other))
                Add(PlanRule.DoorTaken, $"{other.Number} is at door {at.Door} from {other.Start:HH:mm} to {other.End:HH:mm}.");
            else if (Gap(at, other) is var gap && gap < settings.SpacingMinutes)
                Add(
                    PlanRule.Spacing,
                    $"Only {gap:0} min lie between {load.Number} and {other.Number} at door {at.Door}; {settings.SpacingMinutes} "
                        + $"are wanted."
                );
        }

        CheckCrew();
        if (!load.Fixed && at.Start < load.AtGate.AddMinutes(settings.GateMinutes))
            Add(
                PlanRule.BeforeGate,
                $"{load.Number} is expected at the gate "
                    + $"{(load.AtGate.Date == at.Start.Date ? "" : $"on {load.AtGate:ddd d MMM} ")}at {load.AtGate:HH:mm} and "
                    + $"cannot be at a door {(load.AtGate.Date == at.Start.Date ? "" : $"on {at.Start:ddd d MMM} ")}at {at.Start:HH:mm}."
            );
        if (!load.Fixed && YardRoom.Lacks(day.Spots, DayToPlan.Stay(load, at), Waiting()) is { } noRoom)
            Add(PlanRule.YardSpot, noRoom);
        return broken;

        IEnumerable<YardStay> Waiting() =>
            others
                .Where(o => o.Number != at.Number)
                .Join(day.Loads.Where(l => !l.Fixed), o => o.Number, l => l.Number, (o, l) => DayToPlan.Stay(l, o));

        void CheckHours()
        {
            var open = settings.OpenOn(door.Number, DateOnly.FromDateTime(at.Start));
            var minutes = (at.End - at.Start).TotalMinutes;
            if (open is not { } hours)
                Add(PlanRule.ShiftHours, $"Door {door.Number} is shut on {at.Start:dddd d MMMM}{Holiday()}.");
            else if (minutes > (hours.To - hours.From).TotalMinutes)
                Add(
                    PlanRule.LongerThanShift,
                    $"{load.Number} takes about {RoadQueue.Span((int)minutes)}; door {door.Number} is open only "
                        + $"{RoadQueue.Span((int)(hours.To - hours.From).TotalMinutes)}."
                );
            else if (at.Start < hours.From)
                Add(PlanRule.ShiftHours, $"Door {door.Number} opens at {hours.From:HH:mm}.");
            else if (at.End > hours.To)
                Add(
                    PlanRule.ShiftHours,
                    $"{load.Number} would be done at {at.End:HH:mm}; door {door.Number} shuts at {hours.To:HH:mm}{Holiday()}."
                );
        }

        string Holiday() =>
            settings.Holidays.FirstOrDefault(h => h.Day == DateOnly.FromDateTime(at.Start)) is { } holiday ? $": {holiday.Name}" : "";

        void CheckCrew()
        {
            if (at.Crew.Count == 0)
            {
                Add(PlanRule.HeadCount, $"Nobody is named to unload {load.Number}.");
                return;
            }

            foreach (var id in at.Crew)
            {
                var worker = day.Workers.FirstOrDefault(w => w.Id == id);
                if (worker is null)
                    Add(PlanRule.HeadCount, "Somebody of the crew is not on the roster of that day.");
                else if (at.Start < worker.From || at.End > worker.To)
                    Add(PlanRule.HeadCount, $"{worker.Name} is here from {worker.From:HH:mm} to {worker.To:HH:mm}.");
                if (others.FirstOrDefault(o => o.Number != at.Number && o.Crew.Contains(id) && o.Overlaps(at)) is { } busy)
                    Add(
                        PlanRule.CrewTaken,
                        $"{worker?.Name ?? "Somebody of the crew"} is at {busy.Number} from {busy.Start:HH:mm} to {busy.End:HH:mm}."
                    );
            }

            if (load.Skill is { } skill && !day.Workers.Any(w => at.Crew.Contains(w.Id) && w.Has(skill, DateOnly.FromDateTime(at.Start))))
                Add(PlanRule.Skill, SkillSentence(skill));
        }

        string SkillSentence(string skill)
        {
            var date = DateOnly.FromDateTime(at.Start);
            var lapsed = day.Workers.FirstOrDefault(w => at.Crew.Contains(w.Id) && w.Skills.Any(s => s.Name == skill && s.Until < date));
            if (lapsed is not null)
                return $"{lapsed.Name}'s {skill} ticket ended on {lapsed.Skills.First(s => s.Name == skill).Until:yyyy-MM-dd}.";
            var have = day.Workers.Where(w => w.Has(skill, date)).ToList();
            if (have.Count == 0)
                return $"{load.Number} asks for a {skill} ticket; nobody on the roster has one.";
            var first = have[0];
            var busy = others.FirstOrDefault(o => o.Number != at.Number && o.Crew.Contains(first.Id) && o.Overlaps(at));
            return $"Nobody of the crew of {load.Number} has the {skill} ticket its goods ask for. {first.Name} has "
                + $"it{(busy is null ? " and is free then" : $", but is at {busy.Number} then")}.";
        }

        void Add(PlanRule rule, string sentence) => broken.Add(new BrokenRule(load.Number, rule, settings.Force(rule), sentence));
    }

    /// <summary>The rules of a door itself, whatever the time: the vehicle it is built for, and the goods that may go through it.</summary>
    /// <param name="classes">Storage classes of the goods aboard.</param>
    public static IReadOnlyList<BrokenRule> OfDoor(
        DoorToPlan door,
        string number,
        string vehicle,
        IEnumerable<StorageClass> classes,
        PlanSettings settings
    )
    {
        var broken = new List<BrokenRule>();
        if (!door.Vehicles.Contains(vehicle))
            Add(PlanRule.Vehicle, $"Door {door.Number} takes {Words(door.Vehicles)}, {number} is a {vehicle}.");
        foreach (var special in LoadToPlan.SpecialOf(classes).Where(c => !door.Special.Contains(c)))
            Add(PlanRule.GoodsClass, $"{number} carries goods of class {Word(special)}; door {door.Number} is not made for them.");
        return broken;

        void Add(PlanRule rule, string sentence) => broken.Add(new BrokenRule(number, rule, settings.Force(rule), sentence));
    }

    /// <summary>The placement nearest to what is wanted that keeps every rule on that day; null when there is none.</summary>
    /// <param name="wantedDoor">Kept where it can be.</param>
    /// <param name="wantedStart">The nearer the start, the better; a change of door counts as half an hour, a change of crew as ten
    /// minutes.</param>
    /// <param name="ignoring">A rule left out of sight, to find which one stands in the way.</param>
    public static Placement? Nearest(
        DayToPlan day,
        LoadToPlan load,
        int? wantedDoor,
        DateTime wantedStart,
        IReadOnlyList<int> wantedCrew,
        IReadOnlyCollection<Placement> others,
        PlanRule? ignoring = null
    )
    {
        Placement? best = null;
        var bestCost = double.MaxValue;
        var crews = Crews(day, load, wantedCrew).ToList();
        foreach (var door in day.Doors)
        {
            var away = wantedDoor is null || door.Number == wantedDoor ? 0 : 30;
            for (var minute = 0; minute < 24 * 60; minute += 5)
            {
                var start = day.Day.ToDateTime(TimeOnly.MinValue).AddMinutes(minute);
                var apart = Math.Abs((start - wantedStart).TotalMinutes) + away;
                if (apart >= bestCost)
                    continue;
                foreach (var crew in crews)
                {
                    var cost = apart + (crew.SequenceEqual(wantedCrew) ? 0 : 10);
                    if (cost >= bestCost)
                        continue;
                    var place = day.Place(load, door.Number, start, crew);
                    if (Check(day, load, place, others).Any(b => b.Rule != ignoring))
                        continue;
                    (best, bestCost) = (place, cost);
                }
            }
        }

        return best;
    }

    /// <summary>The one rule without which the load could be placed, for the sentence that says why it could not.</summary>
    public static PlanRule? StandsInTheWay(DayToPlan day, LoadToPlan load, IReadOnlyCollection<Placement> others)
    {
        foreach (var rule in Enum.GetValues<PlanRule>())
            if (Nearest(day, load, null, load.Booked, [], others, rule) is not null)
                return rule;
        return null;
    }

    /// <summary>The same place with as many people as asked who are here and free then, those with the ticket first; as asked when nobody
    /// is.</summary>
    public static Placement WithCrew(DayToPlan day, LoadToPlan load, Placement asked, IReadOnlyCollection<Placement> others)
    {
        var able = day
            .Workers.Where(w =>
                Check(day, load, day.Place(load, asked.Door, asked.Start, [w.Id]), others)
                    .All(b => b.Rule is not (PlanRule.CrewTaken or PlanRule.HeadCount))
            )
            .OrderByDescending(w => load.Skill is { } skill && w.Has(skill, day.Day))
            .ThenByDescending(w => asked.Crew.Contains(w.Id))
            .Select(w => w.Id)
            .Take(Math.Max(1, asked.Crew.Count))
            .ToList();
        return able.Count == 0 ? asked : day.Place(load, asked.Door, asked.Start, able);
    }

    /// <summary>The wanted crew first, then each person, then pairs with those who have the ticket in front.</summary>
    static IEnumerable<IReadOnlyList<int>> Crews(DayToPlan day, LoadToPlan load, IReadOnlyList<int> wanted)
    {
        if (wanted.Count > 0)
            yield return wanted;
        var people = day
            .Workers.OrderByDescending(w => load.Skill is { } skill && w.Has(skill, day.Day))
            .ThenBy(w => w.Id)
            .Select(w => w.Id)
            .ToList();
        foreach (var one in people)
            yield return [one];
        if (day.Settings.MostCrew < 2)
            yield break;
        for (var i = 0; i < people.Count; i++)
        for (var j = i + 1; j < people.Count; j++)
            yield return [people[i], people[j]];
    }

    static double Gap(Placement a, Placement b) => Math.Max((a.Start - b.End).TotalMinutes, (b.Start - a.End).TotalMinutes);

    static string Words(IReadOnlyList<string> vehicles) =>
        vehicles.Count == 0 ? "no vehicles" : string.Join(" and ", vehicles.Select(v => v + "s"));

    static string Word(StorageClass special) =>
        special switch
        {
            StorageClass.Oxidiser => "5.1 (oxidising)",
            StorageClass.Gas => "2.1 (flammable gas)",
            StorageClass.Cold => "cold",
            _ => special.ToString().ToLowerInvariant(),
        };
}
