using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Road;

public sealed class PlanTests
{
    static readonly DateOnly tuesday = new(2026, 3, 10);

    static DateTime At(int hour, int minute = 0) => tuesday.ToDateTime(new TimeOnly(hour, minute));

    static PlanSettings Settings(params Holiday[] holidays) =>
        new()
        {
            Hours =
            [
                new DoorHours(1, DayOfWeek.Tuesday, new TimeOnly(6, 0), new TimeOnly(17, 0)),
                new DoorHours(2, DayOfWeek.Tuesday, new TimeOnly(6, 0), new TimeOnly(12, 0)),
            ],
            Holidays = holidays,
        };

    static LoadToPlan Load(
        string number = "A-1",
        int pallets = 20,
        string vehicle = "truck",
        DateTime? gate = null,
        params StorageClass[] classes
    ) =>
        new(
            number,
            vehicle,
            Handling.Palletised,
            pallets,
            1,
            classes.Length == 0 ? [StorageClass.Ambient] : classes,
            At(9),
            gate ?? At(8),
            1,
            1,
            false
        );

    static DayToPlan Day(PlanSettings? settings = null, params LoadToPlan[] loads) =>
        new(
            tuesday,
            loads,
            [new DoorToPlan(1, ["truck", "container"], [StorageClass.Oxidiser]), new DoorToPlan(2, ["van"], [])],
            [
                new Worker(1, "Maren", [new Skill("dangerous goods", new DateOnly(2026, 2, 28))], At(6), At(15)),
                new Worker(2, "Ikenna", [new Skill("dangerous goods", new DateOnly(2026, 11, 30))], At(7), At(17)),
                new Worker(3, "Leila", [], At(6), At(17)),
            ],
            settings ?? Settings()
        );

    static List<PlanRule> Broken(LoadToPlan load, int door, DateTime start, int[] crew, params Placement[] others)
    {
        var day = Day(null, load);
        return [.. PlanCheck.Check(day, load, day.Place(load, door, start, crew), others).Select(b => b.Rule)];
    }

    [Fact]
    public void A_plan_that_keeps_all_rules_breaks_none() => Assert.Empty(Broken(Load(), 1, At(9), [3]));

    [Fact]
    public void A_door_takes_the_vehicles_it_is_built_for() => Assert.Equal([PlanRule.Vehicle], Broken(Load(pallets: 5), 2, At(9), [3]));

    [Fact]
    public void Dangerous_goods_go_through_a_door_made_for_them()
    {
        var gas = Load(classes: StorageClass.Gas);
        Assert.Contains(PlanRule.GoodsClass, Broken(gas, 1, At(9), [2]));
        Assert.Empty(Broken(Load(classes: StorageClass.Oxidiser), 1, At(9), [2]));
    }

    [Fact]
    public void A_ticket_that_has_lapsed_is_no_ticket()
    {
        var day = Day(null, Load(classes: StorageClass.Oxidiser));
        var broken = PlanCheck.Check(day, day.Loads[0], day.Place(day.Loads[0], 1, At(9), [1]), []);
        Assert.Equal("Maren's dangerous goods ticket ended on 2026-02-28.", Assert.Single(broken).Sentence);
    }

    [Fact]
    public void The_sentence_names_who_has_the_ticket_and_where_they_are()
    {
        var day = Day(null, Load(classes: StorageClass.Oxidiser));
        var other = new Placement("A-9", 2, At(9), [2], At(10));
        var broken = PlanCheck.Check(day, day.Loads[0], day.Place(day.Loads[0], 1, At(9), [3]), [other]);
        Assert.EndsWith("Ikenna has it, but is at A-9 then.", broken.Single(b => b.Rule == PlanRule.Skill).Sentence);
    }

    [Fact]
    public void One_person_is_at_one_door() =>
        Assert.Equal([PlanRule.CrewTaken], Broken(Load(), 1, At(9), [3], new Placement("A-9", 2, At(9, 30), [3], At(10))));

    [Fact]
    public void Nobody_named_is_a_broken_rule() => Assert.Equal([PlanRule.HeadCount], Broken(Load(), 1, At(9), []));

    [Fact]
    public void Who_has_gone_home_unloads_nothing() => Assert.Equal([PlanRule.HeadCount], Broken(Load(), 1, At(14, 30), [1]));

    [Fact]
    public void Two_at_one_door_and_too_close_together_are_told_apart()
    {
        Assert.Equal([PlanRule.DoorTaken], Broken(Load(), 1, At(9), [3], new Placement("A-9", 1, At(8, 30), [2], At(9, 30))));
        Assert.Equal([PlanRule.Spacing], Broken(Load(), 1, At(9), [3], new Placement("A-9", 1, At(8), [2], At(8, 55))));
        Assert.Empty(Broken(Load(), 1, At(9), [3], new Placement("A-9", 1, At(8), [2], At(8, 50))));
    }

    [Fact]
    public void Nothing_is_at_a_door_before_it_can_be() =>
        Assert.Equal([PlanRule.BeforeGate], Broken(Load(gate: At(8, 55)), 1, At(9), [3]));

    [Fact]
    public void Work_ends_when_the_door_shuts() => Assert.Contains(PlanRule.ShiftHours, Broken(Load(), 1, At(16, 30), [3]));

    [Fact]
    public void A_load_longer_than_the_shift_is_said_to_be_so() =>
        Assert.Contains(PlanRule.LongerThanShift, Broken(Load(pallets: 400), 1, At(6), [3]));

    [Fact]
    public void A_half_day_shuts_the_doors_early_and_a_holiday_all_day()
    {
        var half = Settings(new Holiday(tuesday, "stocktaking", new TimeOnly(13, 0)));
        Assert.Equal((At(6), At(13)), half.OpenOn(1, tuesday));
        Assert.Equal((At(6), At(12)), half.OpenOn(2, tuesday));
        Assert.Null(Settings(new Holiday(tuesday, "Midsummer", null)).OpenOn(1, tuesday));
        Assert.Null(Settings().OpenOn(1, tuesday.AddDays(1)));
    }

    [Fact]
    public void Which_rules_only_warn_is_for_the_site_to_say()
    {
        Assert.Equal(RuleForce.Advisory, Settings().Force(PlanRule.Spacing));
        Assert.Equal(RuleForce.Hard, Settings().Force(PlanRule.Skill));
        Assert.Equal(RuleForce.Hard, (Settings() with { Advisory = [] }).Force(PlanRule.Spacing));
    }

    [Fact]
    public void A_plan_that_leaves_no_yard_spot_is_warned_of()
    {
        var (early, late) = (Load("A-1"), Load("A-9"));
        var day = Day(null, early, late) with
        {
            Spots =
            [
                ["truck"],
            ],
        };
        var broken = Assert.Single(
            PlanCheck.Check(day, early, day.Place(early, 1, At(9), [3]), [new Placement("A-9", 2, At(11), [2], At(12))])
        );
        Assert.Equal(
            (PlanRule.YardSpot, RuleForce.Advisory, "All 1 spot for a truck are taken at 08:00."),
            (broken.Rule, broken.Force, broken.Sentence)
        );
    }

    [Fact]
    public void The_nearest_plan_keeps_every_rule_and_is_the_nearest_that_does()
    {
        var load = Load();
        var day = Day(null, load);
        Placement[] others = [new("A-9", 1, At(9), [2], At(10))];
        var nearest = PlanCheck.Nearest(day, load, 1, At(9, 10), [3], others)!;
        Assert.Empty(PlanCheck.Check(day, load, nearest, others));
        Assert.Equal((1, At(10, 10)), (nearest.Door, nearest.Start));
        // Every nearer start at that door with that crew breaks something.
        for (var minute = -55; minute < 60; minute += 5)
            Assert.NotEmpty(PlanCheck.Check(day, load, day.Place(load, 1, At(9, 10).AddMinutes(minute), [3]), others));
    }

    [Fact]
    public void What_stands_in_the_way_of_a_load_is_named()
    {
        var load = Load(vehicle: "container", classes: StorageClass.Gas);
        Assert.Equal(PlanRule.GoodsClass, PlanCheck.StandsInTheWay(Day(null, load), load, []));
    }
}
