using Google.OrTools.Sat;
using MudRoom.Core.Road;
using MudRoom.Core.Yard;

namespace MudRoom.Planning;

/// <summary>A plan for a day, and how good it is.</summary>
/// <param name="Placements">Of every load that could be placed, those that stand at their doors included.</param>
/// <param name="Unplaced">Loads that found no place.</param>
/// <param name="Lateness">Sum of weight × minutes after the booked time.</param>
/// <param name="Waiting">Minutes that vehicles on site wait for a door.</param>
/// <param name="Moves">Loads whose door or time differs from the plan before.</param>
/// <param name="Proven">True when nothing better exists on the grid of times.</param>
/// <param name="Gap">How far the plan may be from the best, 0 to 1: (objective − bound) ÷ objective; 0 when proven.</param>
public sealed record ProposedDay(
    IReadOnlyList<Placement> Placements,
    IReadOnlyList<string> Unplaced,
    long Lateness,
    long Waiting,
    int Moves,
    bool Proven,
    double Gap,
    double Seconds
);

/// <summary>
/// Proposes a whole day by constraint optimisation (CP-SAT of Google OR-Tools): doors, times on a grid of five minutes, and people. All
/// rules are
/// hard here, the advisory ones too, since a proposal should not begin with something to be excused. Least first: what is not placed, then
/// weighted lateness, then waiting, then moves.
/// </summary>
public static class DayProposal
{
    /// <summary>Minutes between two possible starts.</summary>
    public const int Grid = 5;
    const int Slots = 24 * 60 / Grid;

    /// <summary>Steps of the objective: one load without a place outweighs all lateness there can be, one slot of lateness all waiting, one
    /// slot of waiting all moves.</summary>
    readonly record struct Weights(long Waiting, long Lateness, long Unplaced)
    {
        public const long Move = 1;

        public static Weights For(List<LoadToPlan> loads)
        {
            var waiting = Move * loads.Count + 1;
            var lateness = waiting * loads.Count * Slots + waiting;
            return new Weights(waiting, lateness, lateness * (loads.Sum(l => (long)l.Weight) * Slots + 1));
        }
    }

    /// <summary>Proposes.</summary>
    /// <param name="day">Loads, doors, people, settings.</param>
    /// <param name="now">Nothing that has not begun starts before.</param>
    /// <param name="before">The plan as it stands; loads that are fixed stay as they are in it.</param>
    /// <param name="seconds">Time to search; the best found is given when it is over.</param>
    /// <param name="workers">Threads of the search.</param>
    public static ProposedDay Propose(DayToPlan day, DateTime now, IReadOnlyList<Placement> before, double seconds = 8, int workers = 2)
    {
        var fixedPlaces = before.Where(p => day.Loads.Any(l => l.Number == p.Number && l.Fixed)).ToList();
        var free = day.Loads.Where(l => !l.Fixed).ToList();
        var model = new CpModel();
        var midnight = day.Day.ToDateTime(TimeOnly.MinValue);
        var spacing = SlotsOf(day.Settings.SpacingMinutes);
        var doorIntervals = day.Doors.ToDictionary(d => d.Number, _ => new List<IntervalVar>());
        var personIntervals = day.Workers.ToDictionary(w => w.Id, _ => new List<IntervalVar>());
        foreach (var place in fixedPlaces)
        {
            // From the slot in which it begins to the end of that in which it ends, at whatever minute that is.
            var from = Math.Max(0, Down(place.Start, midnight));
            var length = Math.Max(1, Up(Later(place.End, now), midnight) - from);
            if (doorIntervals.TryGetValue(place.Door, out var there))
                there.Add(model.NewFixedSizeIntervalVar(from, length + spacing, $"{place.Number} door"));
            foreach (var person in place.Crew.Where(personIntervals.ContainsKey))
                personIntervals[person].Add(model.NewFixedSizeIntervalVar(from, length, $"{place.Number} {person}"));
        }

        var vars = free.Select(load => Add(model, day, load, now, midnight, spacing, doorIntervals, personIntervals)).ToList();
        foreach (var intervals in doorIntervals.Values)
            model.AddNoOverlap(intervals);
        foreach (var intervals in personIntervals.Values)
            model.AddNoOverlap(intervals);
        KeepYardRoom(model, day, vars, midnight);
        var objective = new List<LinearExpr>();
        var weights = Weights.For(free);
        foreach (var v in vars)
            objective.AddRange(Cost(model, day, v, weights, midnight, before.FirstOrDefault(p => p.Number == v.Load.Number)));
        model.Minimize(LinearExpr.Sum(objective));
        Hint(model, day, vars, fixedPlaces, now, midnight);

        var solver = new CpSolver
        {
            StringParameters = FormattableString.Invariant($"max_time_in_seconds:{seconds},num_workers:{workers},random_seed:7"),
        };
        var status = solver.Solve(model);
        if (status is not (CpSolverStatus.Optimal or CpSolverStatus.Feasible))
            return new ProposedDay(fixedPlaces, [.. free.Select(l => l.Number)], 0, 0, 0, false, 1, solver.WallTime());
        var placed = vars.Where(v => solver.BooleanValue(v.Placed)).Select(v => Read(solver, day, v, midnight)).ToList();
        var all = fixedPlaces.Concat(placed).ToList();
        return new ProposedDay(
            all,
            [.. vars.Where(v => !solver.BooleanValue(v.Placed)).Select(v => v.Load.Number)],
            Lateness(day, placed),
            Waiting(day, placed),
            Moves(placed, before),
            status == CpSolverStatus.Optimal,
            status == CpSolverStatus.Optimal
                ? 0
                : Math.Max(0, (solver.ObjectiveValue - solver.BestObjectiveBound) / Math.Max(1, solver.ObjectiveValue)),
            solver.WallTime()
        );
    }

    /// <summary>Sum of weight × minutes after the booked time.</summary>
    public static long Lateness(DayToPlan day, IEnumerable<Placement> placed) =>
        placed.Sum(p =>
            day.Loads.First(l => l.Number == p.Number) is var load
                ? load.Weight * (long)Math.Max(0, (p.Start - load.Booked).TotalMinutes)
                : 0
        );

    /// <summary>Minutes between when a vehicle could be at a door and when it is.</summary>
    public static long Waiting(DayToPlan day, IEnumerable<Placement> placed) =>
        placed.Sum(p =>
            (long)
                Math.Max(0, (p.Start - day.Loads.First(l => l.Number == p.Number).AtGate.AddMinutes(day.Settings.GateMinutes)).TotalMinutes)
        );

    static int Moves(IEnumerable<Placement> placed, IReadOnlyList<Placement> before) =>
        placed.Count(p =>
            before.FirstOrDefault(b => b.Number == p.Number) is { } was
            && (was.Door != p.Door || Math.Abs((was.Start - p.Start).TotalMinutes) >= Grid)
        );

    sealed record LoadVars(
        LoadToPlan Load,
        BoolVar Placed,
        IntVar Start,
        IntVar Minutes,
        IReadOnlyList<(int Door, BoolVar Here)> Doors,
        IReadOnlyList<(int Person, BoolVar With)> People,
        IReadOnlyList<(int Size, BoolVar Is)> Sizes
    );

    static LoadVars Add(
        CpModel model,
        DayToPlan day,
        LoadToPlan load,
        DateTime now,
        DateTime midnight,
        int spacing,
        Dictionary<int, List<IntervalVar>> doorIntervals,
        Dictionary<int, List<IntervalVar>> personIntervals
    )
    {
        var earliest = Up(Later(load.AtGate.AddMinutes(day.Settings.GateMinutes), now), midnight);
        var placed = model.NewBoolVar($"{load.Number} placed");
        var sizes = Enumerable
            .Range(1, day.Settings.MostCrew)
            .Select(n => (Size: n, Is: model.NewBoolVar($"{load.Number} by {n}")))
            .ToList();
        var lengths = sizes.ToDictionary(s => s.Size, s => Math.Max(1, SlotsOf(load.Minutes(s.Size, day.Settings))));
        model.Add(LinearExpr.Sum(sizes.Select(s => s.Is)) == placed);
        var start = model.NewIntVar(Math.Min(earliest, Slots), Slots, $"{load.Number} start");
        var length = model.NewIntVar(lengths.Values.Min(), lengths.Values.Max(), $"{load.Number} length");
        var end = model.NewIntVar(0, 2 * Slots, $"{load.Number} end");
        model.Add(end == start + length);
        foreach (var (size, isSize) in sizes)
            model.Add(length == lengths[size]).OnlyEnforceIf(isSize);

        var doors = new List<(int, BoolVar)>();
        foreach (var door in day.Doors.Where(d => d.Vehicles.Contains(load.Vehicle) && load.Special.All(d.Special.Contains)))
        {
            if (day.Settings.OpenOn(door.Number, day.Day) is not { } open)
                continue;
            var here = model.NewBoolVar($"{load.Number} at {door.Number}");
            model.Add(start >= Up(open.From, midnight)).OnlyEnforceIf(here);
            model.Add(end <= Down(open.To, midnight)).OnlyEnforceIf(here);
            var (held, heldUntil) = (model.NewIntVar(1, 2 * Slots, ""), model.NewIntVar(0, 3 * Slots, ""));
            model.Add(held == length + spacing);
            model.Add(heldUntil == end + spacing);
            doorIntervals[door.Number]
                .Add(model.NewOptionalIntervalVar(start, held, heldUntil, here, $"{load.Number} holds {door.Number}"));
            doors.Add((door.Number, here));
        }

        model.Add(LinearExpr.Sum(doors.Select(d => d.Item2)) == placed);
        var people = new List<(int, BoolVar)>();
        foreach (var worker in day.Workers)
        {
            var with = model.NewBoolVar($"{load.Number} with {worker.Id}");
            model.Add(start >= Up(worker.From, midnight)).OnlyEnforceIf(with);
            model.Add(end <= Down(worker.To, midnight)).OnlyEnforceIf(with);
            personIntervals[worker.Id].Add(model.NewOptionalIntervalVar(start, length, end, with, $"{load.Number} takes {worker.Id}"));
            people.Add((worker.Id, with));
        }

        model.Add(
            LinearExpr.Sum(people.Select(p => p.Item2)) == LinearExpr.WeightedSum(sizes.Select(s => s.Is), sizes.Select(s => (long)s.Size))
        );
        if (load.Skill is { } skill)
            model.Add(
                LinearExpr.Sum(people.Where(p => day.Workers.First(w => w.Id == p.Item1).Has(skill, day.Day)).Select(p => p.Item2))
                    >= placed
            );
        return new LoadVars(load, placed, start, length, doors, people, sizes);
    }

    /// <summary>At no moment do more vehicles wait in the yard than spots take them; loads without a place wait elsewhere.</summary>
    static void KeepYardRoom(CpModel model, DayToPlan day, List<LoadVars> vars, DateTime midnight)
    {
        if (day.Spots.Count == 0)
            return;
        var stays = vars.Where(v => day.Spots.Any(s => s.Contains(v.Load.Vehicle)))
            .Select(v =>
            {
                var from = Math.Clamp(Down(v.Load.AtGate, midnight), 0, Slots);
                var length = model.NewIntVar(0, Slots, $"{v.Load.Number} stays in the yard for");
                model.Add(length == v.Start - from).OnlyEnforceIf(v.Placed);
                return (
                    v.Load.Vehicle,
                    Stay: model.NewOptionalIntervalVar(
                        model.NewConstant(from),
                        length,
                        model.NewIntVar(from, 2 * Slots, ""),
                        v.Placed,
                        $"{v.Load.Number} in the yard"
                    )
                );
            })
            .ToList();
        foreach (var (kinds, spots) in YardRoom.Limits(day.Spots, stays.Select(s => s.Vehicle)))
        {
            var those = stays.Where(s => kinds.Contains(s.Vehicle)).ToList();
            if (those.Count <= spots)
                continue;
            var room = model.AddCumulative(spots);
            foreach (var (_, stay) in those)
                room.AddDemand(stay, 1L);
        }
    }

    static IEnumerable<LinearExpr> Cost(CpModel model, DayToPlan day, LoadVars v, Weights weights, DateTime midnight, Placement? before)
    {
        yield return (1 - v.Placed) * (weights.Unplaced * v.Load.Weight);
        // What is overdue since days before is late all the same: only the minutes of this day can be saved.
        var booked = Math.Max(0, Down(v.Load.Booked, midnight));
        var late = model.NewIntVar(0, Slots, $"{v.Load.Number} late");
        model.Add(late >= v.Start - booked).OnlyEnforceIf(v.Placed);
        yield return late * (weights.Lateness * v.Load.Weight);
        var waits = model.NewIntVar(0, Slots, $"{v.Load.Number} waits");
        model.Add(waits >= v.Start - Up(v.Load.AtGate.AddMinutes(day.Settings.GateMinutes), midnight)).OnlyEnforceIf(v.Placed);
        yield return waits * weights.Waiting;
        if (before is null)
            yield break;
        var stays = model.NewBoolVar($"{v.Load.Number} stays");
        model.Add(v.Start == Down(before.Start, midnight)).OnlyEnforceIf(stays);
        var door = v.Doors.FirstOrDefault(d => d.Door == before.Door);
        if (door.Here is null)
            model.Add(stays == 0);
        else
            model.AddImplication(stays, door.Here);
        yield return (1 - stays) * Weights.Move;
    }

    /// <summary>A plan made one after another, earliest booked first, for the search to begin with.</summary>
    static void Hint(CpModel model, DayToPlan day, List<LoadVars> vars, List<Placement> fixedPlaces, DateTime now, DateTime midnight)
    {
        var placed = fixedPlaces.ToList();
        foreach (var v in vars.OrderBy(v => v.Load.Booked).ThenByDescending(v => v.Load.Weight))
        {
            var earliest = Later(v.Load.AtGate.AddMinutes(day.Settings.GateMinutes), now);
            var found = FirstFit(day, v.Load, earliest, placed, midnight);
            model.AddHint(v.Placed, found is not null);
            if (found is null)
                continue;
            placed.Add(found);
            model.AddHint(v.Start, (long)((found.Start - midnight).TotalMinutes / Grid));
            foreach (var (door, here) in v.Doors)
                model.AddHint(here, door == found.Door);
            foreach (var (person, with) in v.People)
                model.AddHint(with, found.Crew.Contains(person));
            foreach (var (size, isSize) in v.Sizes)
                model.AddHint(isSize, size == found.Crew.Count);
        }
    }

    static Placement? FirstFit(DayToPlan day, LoadToPlan load, DateTime earliest, List<Placement> placed, DateTime midnight)
    {
        for (var slot = Up(earliest, midnight); slot < Slots; slot++)
        {
            var start = midnight.AddMinutes(slot * Grid);
            foreach (var door in day.Doors)
            foreach (var worker in day.Workers)
            {
                var rough = day.Place(load, door.Number, start, [worker.Id]);
                var place = rough with { End = start.AddMinutes(SlotsOf((rough.End - start).TotalMinutes) * Grid) };
                if (PlanCheck.Check(day, load, place, placed).Count == 0)
                    return place;
            }
        }

        return null;
    }

    static Placement Read(CpSolver solver, DayToPlan day, LoadVars v, DateTime midnight)
    {
        var start = midnight.AddMinutes(solver.Value(v.Start) * Grid);
        var crew = v.People.Where(p => solver.BooleanValue(p.With)).Select(p => p.Person).ToList();
        return day.Place(v.Load, v.Doors.First(d => solver.BooleanValue(d.Here)).Door, start, crew);
    }

    static int SlotsOf(double minutes) => (int)Math.Ceiling(minutes / Grid);

    static int Up(DateTime at, DateTime midnight) => Math.Max(0, (int)Math.Ceiling((at - midnight).TotalMinutes / Grid));

    static int Down(DateTime at, DateTime midnight) => (int)Math.Floor((at - midnight).TotalMinutes / Grid);

    static DateTime Later(DateTime a, DateTime b) => a > b ? a : b;
}
