using CsCheck;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Planning;

namespace MudRoom.Server.Tests.Planning;

/// <summary>The proposed day against brute force on small days, and against the solver's own bound on large ones.</summary>
public sealed class DayProposalTests
{
    static readonly DateOnly tuesday = new(2026, 3, 10);
    static readonly DateTime six = tuesday.ToDateTime(new TimeOnly(6, 0));

    static PlanSettings Settings(int doors) =>
        new()
        {
            MostCrew = 2,
            SpacingMinutes = 10,
            Hours =
            [
                .. Enumerable.Range(1, doors).Select(d => new DoorHours(d, DayOfWeek.Tuesday, new TimeOnly(6, 0), new TimeOnly(18, 0))),
            ],
        };

    static LoadToPlan Load(
        int n,
        int pallets,
        int bookedIn,
        int gateIn,
        int weight,
        string vehicle = "truck",
        params StorageClass[] classes
    ) =>
        new(
            $"A-{n}",
            vehicle,
            Handling.Palletised,
            pallets,
            1,
            classes.Length == 0 ? [StorageClass.Ambient] : classes,
            six.AddMinutes(bookedIn),
            six.AddMinutes(gateIn - 10),
            weight,
            1,
            false
        );

    static DayToPlan Day(IReadOnlyList<LoadToPlan> loads, int doors, int people, bool tickets = false) =>
        new(
            tuesday,
            loads,
            [
                .. Enumerable
                    .Range(1, doors)
                    .Select(d => new DoorToPlan(d, ["truck", "container"], [StorageClass.Oxidiser, StorageClass.Cold])),
            ],
            [
                .. Enumerable
                    .Range(1, people)
                    .Select(p => new Worker(
                        p,
                        $"P{p}",
                        tickets && p == 1 ? [new Skill("dangerous goods", tuesday)] : [],
                        six,
                        six.AddHours(12)
                    )),
            ],
            Settings(doors)
        );

    /// <summary>Least weighted lateness, then waiting, over every order, every door and every crew, each load as early as it can
    /// be.</summary>
    static (long Lateness, long Waiting) BruteForce(DayToPlan day)
    {
        var best = (Lateness: long.MaxValue, Waiting: long.MaxValue);
        List<int[]> crews =
        [
            .. day.Workers.Select(w => new[] { w.Id }),
            .. day.Workers.SelectMany(a => day.Workers.Where(b => b.Id > a.Id).Select(b => new[] { a.Id, b.Id })),
        ];
        Place([], [.. day.Loads]);
        return best;

        void Place(List<Placement> placed, List<LoadToPlan> left)
        {
            if (left.Count == 0)
            {
                var cost = (DayProposal.Lateness(day, placed), DayProposal.Waiting(day, placed));
                if (cost.CompareTo(best) < 0)
                    best = cost;
                return;
            }

            foreach (var load in left)
            foreach (var door in day.Doors)
            foreach (var crew in crews)
                if (Earliest(load, door.Number, crew, placed) is { } place)
                    Place([.. placed, place], [.. left.Where(l => l != load)]);
        }

        Placement? Earliest(LoadToPlan load, int door, int[] crew, List<Placement> placed)
        {
            for (var start = six; start < six.AddHours(12); start = start.AddMinutes(DayProposal.Grid))
            {
                var exact = day.Place(load, door, start, crew);
                var slots = Math.Ceiling((exact.End - start).TotalMinutes / DayProposal.Grid);
                var place = exact with { End = start.AddMinutes(slots * DayProposal.Grid) };
                if (PlanCheck.Check(day, load, place, placed).Count == 0)
                    return place;
            }

            return null;
        }
    }

    [Fact]
    public void On_small_days_nothing_better_exists() =>
        Gen.Select(Gen.Int[2, 22], Gen.Int[0, 24], Gen.Int[0, 24], Gen.Int[1, 5])
            .Array[3]
            .Sample(
                specs =>
                {
                    var day = Day(
                        [.. specs.Select((s, i) => Load(i + 1, s.Item1, s.Item2 * 5, s.Item3 * 5, s.Item4))],
                        doors: 2,
                        people: 2
                    );
                    var proposed = DayProposal.Propose(day, six, [], seconds: 20);
                    Assert.True(proposed.Proven);
                    Assert.Equal(BruteForce(day), (proposed.Lateness, proposed.Waiting));
                },
                iter: 8,
                threads: 1
            );

    /// <summary>However many others it makes late: each has a place while there is one.</summary>
    [Fact]
    public void A_load_is_left_out_only_when_no_plan_can_place_it()
    {
        // The oxidiser needs the one with the ticket, who leaves as soon as two people can be done with it: it must come first. Three much
        // heavier loads, booked at six too, wait for it.
        var settings = Settings(1);
        LoadToPlan[] loads =
        [
            Load(1, 60, 0, 0, 1, "truck", StorageClass.Oxidiser),
            .. Enumerable.Range(2, 3).Select(n => Load(n, 2, 0, 0, 2000)),
        ];
        var day = Day(loads, doors: 1, people: 2, tickets: true);
        day = day with
        {
            Workers = [day.Workers[0] with { To = six.AddMinutes(loads[0].Minutes(2, settings) + DayProposal.Grid) }, day.Workers[1]],
        };
        var proposed = DayProposal.Propose(day, six, [], seconds: 20);
        Assert.True(proposed.Proven);
        Assert.Empty(proposed.Unplaced);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(9)]
    public void What_is_overdue_since_days_before_is_placed_too(int days)
    {
        var late = Load(1, 4, -days * 24 * 60, 0, 1);
        var proposed = DayProposal.Propose(Day([late, Load(2, 4, 0, 0, 1)], doors: 1, people: 1), six, [], seconds: 10);
        Assert.Empty(proposed.Unplaced);
    }

    [Fact]
    public void Hard_rules_hold_around_what_stands_at_a_door_since_an_odd_minute() =>
        Gen.Select(Gen.Int[0, 59], Gen.Int[3, 22], Gen.Int[2, 12])
            .Sample(
                (since, pallets, next) =>
                {
                    var standing = Load(1, pallets, since, since, 1) with { Fixed = true };
                    var loads = new[] { standing, Load(2, next, 0, 0, 5), Load(3, 4, 0, 0, 1) };
                    var day = Day(loads, doors: 1, people: 1);
                    var there = day.Place(standing, 1, six.AddMinutes(since), [1]);
                    var proposed = DayProposal.Propose(day, six, [there], seconds: 5);
                    foreach (var place in proposed.Placements.Where(p => p.Number != "A-1"))
                        Assert.Empty(PlanCheck.Check(day, loads.First(l => l.Number == place.Number), place, proposed.Placements));
                },
                iter: 40,
                threads: 1
            );

    [Fact]
    public void A_proposal_keeps_every_rule()
    {
        var loads = Enumerable
            .Range(1, 12)
            .Select(n =>
                Load(n, 4 + n * 7 % 20, n * 25, n * 20, 1 + n % 3, "truck", n % 5 == 0 ? StorageClass.Oxidiser : StorageClass.Ambient)
            )
            .ToList();
        var day = Day(loads, doors: 3, people: 4, tickets: true);
        var proposed = DayProposal.Propose(day, six, [], seconds: 5);
        Assert.Empty(proposed.Unplaced);
        foreach (var place in proposed.Placements)
            Assert.Empty(PlanCheck.Check(day, loads.First(l => l.Number == place.Number), place, proposed.Placements));
    }

    [Fact]
    public void What_stands_at_its_door_stays_there()
    {
        var begun = Load(1, 20, 0, 0, 1) with { Fixed = true };
        var day = Day([begun, Load(2, 20, 0, 0, 1)], doors: 1, people: 2);
        var there = day.Place(begun, 1, six, [1]);
        var proposed = DayProposal.Propose(day, six.AddMinutes(20), [there], seconds: 5);
        Assert.Contains(there, proposed.Placements);
        Assert.True(proposed.Placements.Single(p => p.Number == "A-2").Start >= there.End.AddMinutes(10));
    }

    [Fact]
    public void A_load_nobody_may_unload_finds_no_place_and_the_others_do()
    {
        var gas = Load(1, 5, 0, 0, 1, "truck", StorageClass.Oxidiser);
        var day = Day([gas, Load(2, 5, 0, 0, 1)], doors: 2, people: 2);
        var proposed = DayProposal.Propose(day, six, [], seconds: 5);
        Assert.Equal(["A-1"], proposed.Unplaced);
        Assert.Equal(PlanRule.Skill, PlanCheck.StandsInTheWay(day, gas, proposed.Placements));
    }

    [Fact]
    public void No_more_wait_in_the_yard_than_it_has_spots_for()
    {
        // Three stand at the gate at six; one door, one person, two spots: the third has no place until one of them is done.
        var day = Day([Load(1, 20, 0, 0, 1), Load(2, 20, 0, 0, 1), Load(3, 20, 0, 0, 1)], doors: 1, people: 1);
        Assert.Empty(DayProposal.Propose(day, six, [], seconds: 5).Unplaced);
        var tight = DayProposal.Propose(
            day with
            {
                Spots =
                [
                    ["truck"],
                    ["truck"],
                ],
            },
            six,
            [],
            seconds: 5
        );
        Assert.Single(tight.Unplaced);
    }

    [Fact]
    public void What_somebody_waits_for_goes_first()
    {
        var day = Day([Load(1, 20, 0, 0, 1), Load(2, 20, 0, 0, 5)], doors: 1, people: 1);
        Assert.Equal("A-2", DayProposal.Propose(day, six, [], seconds: 5).Placements.MinBy(p => p.Start)!.Number);
    }

    [Fact]
    public void A_plan_that_is_as_good_as_any_is_not_moved()
    {
        var day = Day([Load(1, 20, 0, 0, 1), Load(2, 20, 60, 60, 1)], doors: 2, people: 3);
        var first = DayProposal.Propose(day, six, [], seconds: 5);
        var again = DayProposal.Propose(day, six, first.Placements, seconds: 5);
        Assert.Equal(0, again.Moves);
    }

    [Fact]
    public void Forty_arrivals_on_eight_doors_are_all_planned_and_the_distance_to_the_bound_is_told()
    {
        var random = new Random(40);
        var loads = Enumerable
            .Range(1, 40)
            .Select(n => Load(n, random.Next(4, 26), random.Next(0, 120) * 5, random.Next(0, 120) * 5, random.Next(1, 5)))
            .ToList();
        var day = Day(loads, doors: 8, people: 10);
        var proposed = DayProposal.Propose(day, six, [], seconds: 6);
        Assert.Empty(proposed.Unplaced);
        Assert.InRange(proposed.Gap, 0, 1);
        Assert.True(proposed.Proven == (proposed.Gap == 0));
        foreach (var place in proposed.Placements)
            Assert.Empty(PlanCheck.Check(day, loads.First(l => l.Number == place.Number), place, proposed.Placements));
    }
}
