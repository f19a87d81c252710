using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>An arrival as the forecast sees it. Times are wall clock.</summary>
/// <param name="Door">Null while it has none: it brings its work to bench and shelf when it comes, and holds no door.</param>
/// <param name="Start">When it is planned at its door, or has been there since.</param>
/// <param name="End">When it is planned to be done.</param>
/// <param name="AtGate">Expected at the gate.</param>
/// <param name="GateSpread">Standard deviation of gate-in against what was expected, in minutes; 0 for who is here.</param>
/// <param name="Minutes">Expected minutes at the door with its crew, the vendor's factor in it.</param>
/// <param name="LogSpread">Spread of the log of real to expected minutes.</param>
/// <param name="Begun">True when it stands at its door.</param>
/// <param name="Share">How much of it is counted, 0 to 1.</param>
/// <param name="Inspections">Inspections it will bring to the bench.</param>
/// <param name="Tasks">Put-away tasks it will bring.</param>
public sealed record LoadToForecast(
    string Number,
    int? Door,
    IReadOnlyList<int> Crew,
    DateTime Start,
    DateTime End,
    DateTime AtGate,
    double GateSpread,
    double Minutes,
    double LogSpread,
    bool Begun,
    double Share,
    int Inspections,
    int Tasks
);

/// <summary>What is in hand at the moment of the forecast.</summary>
/// <param name="Inspectors">People at the bench, at least 1 where there is work.</param>
/// <param name="Bench">Inspections that wait, each as many as it is longer than the usual one of the settings.</param>
/// <param name="Shelf">Put-away tasks that wait.</param>
/// <param name="ShiftEnds">When the last door shuts.</param>
/// <param name="LeftOut">Arrivals of the day that are not thought to come on it.</param>
public sealed record DayToForecast(
    DateTime Now,
    IReadOnlyList<LoadToForecast> Loads,
    double Bench,
    int Inspectors,
    int Shelf,
    int Drivers,
    DateTime ShiftEnds,
    PlanSettings Settings,
    IReadOnlyList<string>? LeftOut = null
);

/// <summary>When something will be clear: the likely time, and the range in which 90 of 100 outcomes lie.</summary>
/// <param name="Likely">Median.</param>
/// <param name="Early">5th percentile.</param>
/// <param name="Late">95th percentile.</param>
/// <param name="PastShift">Chance to pass the end of the shift, 0 to 1.</param>
public sealed record ClearTime(string What, DateTime Likely, DateTime Early, DateTime Late, double PastShift);

/// <summary>The forecast of a day.</summary>
/// <param name="Day">Everything: doors, bench and shelf.</param>
/// <param name="Doors">Each door with something still to come.</param>
/// <param name="FirstLate">The arrival that is most often the first to be done more than a quarter of an hour late; null when hardly any
/// is.</param>
/// <param name="FirstLateChance">How often it is the first, 0 to 1.</param>
/// <param name="Last">The arrival that most often is the last to be done.</param>
/// <param name="Spread">For drawing: how many of the runs end the doors in each quarter of an hour, from <see cref="ClearTime.Early"/> less
/// an hour.</param>
/// <param name="WithoutDoor">Arrivals that have no door yet: their work for bench and shelf is in it, their time at a door is not.</param>
/// <param name="LeftOut">Arrivals of the day that are not in it, since they are not thought to come on it.</param>
public sealed record DayForecast(
    ClearTime Day,
    IReadOnlyList<ClearTime> Doors,
    ClearTime Bench,
    ClearTime Shelf,
    ClearTime AllDoors,
    string? FirstLate,
    double FirstLateChance,
    string? Last,
    IReadOnlyList<SpreadBar> Spread,
    IReadOnlyList<string> WithoutDoor,
    IReadOnlyList<string> LeftOut
);

/// <summary>A quarter of an hour and the share of runs that end in it.</summary>
public sealed record SpreadBar(DateTime From, double Share);

/// <summary>
/// When the day will be clear, by simulation: each run draws gate-in times and durations, lets doors and crews work in their planned order,
/// and lets bench and shelf run on from the doors. Plain values and a seed in, the same forecast out.
/// </summary>
public static class Forecast
{
    /// <summary>Minutes behind its planned end from which an arrival counts as running late.</summary>
    public const int LateMinutes = 15;

    /// <summary>Simulates.</summary>
    /// <param name="runs">2 000 give the 5th and 95th percentile to about a minute.</param>
    public static DayForecast Run(DayToForecast day, int seed, int runs = 2000)
    {
        var random = new Random(seed);
        var loads = day.Loads.OrderBy(l => l.Start).ThenBy(l => l.Number, StringComparer.Ordinal).ToList();
        var doors = loads.Select(l => l.Door).OfType<int>().Distinct().Order().ToList();
        var ends = doors.ToDictionary(d => d, _ => new double[runs]);
        double[] allDoors = new double[runs],
            bench = new double[runs],
            shelf = new double[runs],
            all = new double[runs];
        var firstLate = new Dictionary<string, int>();
        var last = new Dictionary<string, int>();
        for (var run = 0; run < runs; run++)
        {
            var done = OneRun(day, loads, random);
            var atDoors = done.Where(d => d.Load.Door is not null).ToList();
            foreach (var door in doors)
                ends[door][run] = atDoors.Where(d => d.Load.Door == door).Max(d => d.End);
            allDoors[run] = atDoors.Count == 0 ? 0 : atDoors.Max(d => d.End);
            bench[run] = RunOn(
                day.Bench,
                done.Select(d => (d.End, d.Load.Inspections)),
                day.Settings.InspectionsPerHour * Math.Max(1, day.Inspectors)
            );
            shelf[run] = RunOn(day.Shelf, done.Select(d => (d.End, d.Load.Tasks)), day.Settings.TasksPerHour * Math.Max(1, day.Drivers));
            all[run] = Math.Max(allDoors[run], Math.Max(bench[run], shelf[run]));
            var late = atDoors
                .Where(d => d.End > (d.Load.End - day.Now).TotalMinutes + LateMinutes)
                .OrderBy(d => (d.Load.End - day.Now).TotalMinutes)
                .FirstOrDefault();
            if (late.Load is not null)
                firstLate[late.Load.Number] = firstLate.GetValueOrDefault(late.Load.Number) + 1;
            if (atDoors.Count > 0)
            {
                var final = atDoors.MaxBy(d => d.End).Load.Number;
                last[final] = last.GetValueOrDefault(final) + 1;
            }
        }

        var first = firstLate.Count == 0 ? default : firstLate.MaxBy(f => f.Value);
        return new DayForecast(
            Clear("day", all),
            [.. doors.Select(d => Clear($"door {d}", ends[d]))],
            Clear("bench", bench),
            Clear("shelf", shelf),
            Clear("doors", allDoors),
            first.Value > runs / 20 ? first.Key : null,
            first.Value / (double)runs,
            last.Count == 0 ? null : last.MaxBy(l => l.Value).Key,
            Bars(day.Now, allDoors),
            [.. loads.Where(l => l.Door is null).Select(l => l.Number)],
            day.LeftOut ?? []
        );

        ClearTime Clear(string what, double[] minutes) =>
            new(
                what,
                At(minutes, 0.5),
                At(minutes, 0.05),
                At(minutes, 0.95),
                minutes.Count(m => day.Now.AddMinutes(m) > day.ShiftEnds) / (double)runs
            );

        DateTime At(double[] minutes, double p) => day.Now.AddMinutes(Math.Round(Percentile(minutes, p)));
    }

    /// <summary>The value below which a share of the values lies, between neighbours in proportion.</summary>
    public static double Percentile(IEnumerable<double> values, double share)
    {
        var sorted = values.Order().ToArray();
        if (sorted.Length == 0)
            return 0;
        var at = share * (sorted.Length - 1);
        var below = (int)Math.Floor(at);
        var above = Math.Min(sorted.Length - 1, below + 1);
        return sorted[below] + (at - below) * (sorted[above] - sorted[below]);
    }

    static List<(LoadToForecast Load, double End)> OneRun(DayToForecast day, List<LoadToForecast> loads, Random random)
    {
        var doorFree = new Dictionary<int, double>();
        var personFree = new Dictionary<int, double>();
        var done = new List<(LoadToForecast, double)>(loads.Count);
        foreach (var load in loads)
        {
            double end;
            if (load.Begun)
            {
                end = Left(day, load, random);
            }
            else
            {
                // Who is still on the road does not come before now; who is here has no spread left.
                var gate = (load.AtGate - day.Now).TotalMinutes;
                if (load.GateSpread > 0)
                    gate = Math.Max(0, gate + Normal(random) * load.GateSpread);
                var start = gate + day.Settings.GateMinutes;
                if (load.Door is not null)
                    start = Math.Max((load.Start - day.Now).TotalMinutes, start);
                if (load.Door is { } its && doorFree.TryGetValue(its, out var free))
                    start = Math.Max(start, free + day.Settings.SpacingMinutes);
                start = load.Crew.Select(p => personFree.GetValueOrDefault(p)).Prepend(Math.Max(0, start)).Max();
                end = start + load.Minutes * Math.Exp(Normal(random) * load.LogSpread);
            }

            if (load.Door is { } door)
                doorFree[door] = end;
            foreach (var person in load.Crew)
                personFree[person] = end;
            done.Add((load, end));
        }

        return done;
    }

    /// <summary>What is left of a load being counted, at a rate between the standard and today's so far, spread as any other.</summary>
    static double Left(DayToForecast day, LoadToForecast load, Random random)
    {
        var elapsed = Math.Max(1, (day.Now - load.Start).TotalMinutes);
        var standard = 1 / load.Minutes;
        var soFar = load.Share > 0 ? load.Share / elapsed : standard;
        var rate = standard + random.NextDouble() * (soFar - standard);
        return Math.Max(0, 1 - load.Share) / rate * Math.Exp(Normal(random) * load.LogSpread);
    }

    /// <summary>When a backlog is worked off that grows as doors finish: minutes from now.</summary>
    static double RunOn(double waiting, IEnumerable<(double At, int Work)> coming, double perHour)
    {
        var clear = waiting * 60 / perHour;
        foreach (var (at, work) in coming.Where(c => c.Work > 0).OrderBy(c => c.At))
            clear = Math.Max(clear, at) + work * 60 / perHour;
        return clear;
    }

    static List<SpreadBar> Bars(DateTime now, double[] minutes) =>
        [
            .. minutes
                .GroupBy(m => (int)Math.Floor(m / 10))
                .OrderBy(g => g.Key)
                .Select(g => new SpreadBar(now.AddMinutes(g.Key * 10), g.Count() / (double)minutes.Length)),
        ];

    /// <summary>A standard normal value (Box and Muller 1958).</summary>
    static double Normal(Random random) => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}
