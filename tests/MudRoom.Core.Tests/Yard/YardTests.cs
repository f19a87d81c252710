using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;

namespace MudRoom.Core.Tests.Yard;

public sealed class YardTests
{
    static readonly DateTimeOffset now = new(2026, 3, 10, 8, 0, 0, TimeSpan.Zero);
    static readonly SiteTime local = at => at.UtcDateTime.AddHours(1);
    static readonly DockDoor door = new()
    {
        Id = 3,
        SiteId = 1,
        Number = 3,
    };

    static readonly YardSpot[] spots =
    [
        new()
        {
            SiteId = 1,
            Number = "1",
            Vehicles = ["container"],
            X = 5,
        },
        new()
        {
            SiteId = 1,
            Number = "2",
            Vehicles = ["truck"],
            X = 40,
        },
        new()
        {
            SiteId = 1,
            Number = "3",
            Vehicles = ["truck"],
            X = 10,
        },
        new()
        {
            SiteId = 1,
            Number = "4",
            Vehicles = ["truck"],
            X = 12,
            ColdPlug = true,
        },
    ];

    static Arrival New(string? seal = null) =>
        new()
        {
            Number = "A-1",
            SiteId = 1,
            Planned = now,
            Booked = now,
            Seal = seal,
        };

    [Fact]
    public void The_spot_fits_the_vehicle_and_is_the_nearest_to_its_door() =>
        Assert.Equal("3", YardRules.Propose(spots, new HashSet<string>(), "truck", cold: false, doorX: 11).Spot);

    [Fact]
    public void Cold_goods_get_the_plug_and_others_leave_it_free()
    {
        Assert.Equal("4", YardRules.Propose(spots, new HashSet<string>(), "truck", cold: true, doorX: 40).Spot);
        Assert.Equal("2", YardRules.Propose(spots, new HashSet<string> { "3" }, "truck", cold: false, doorX: 11).Spot);
    }

    [Fact]
    public void A_full_yard_says_so()
    {
        var full = YardRules.Propose(spots, new HashSet<string> { "1" }, "container", false, null);
        Assert.Equal((null, "All 1 spots for a container are taken."), (full.Spot, full.Reason));
        Assert.Equal("No spot of this yard takes a van.", YardRules.Propose(spots, new HashSet<string>(), "van", false, null).Reason);
    }

    [Theory]
    [InlineData(10, 4, "Day 1 of 5 free days.")]
    [InlineData(14, 0, "The last of 5 free days.")]
    [InlineData(15, -1, "1 day beyond the 5 free days: it costs money.")]
    [InlineData(17, -3, "3 days beyond the 5 free days: it costs money.")]
    public void Free_days_count_the_day_of_gate_in(int today, int left, string sentence)
    {
        var detention = Detention.Of(new DateOnly(2026, 3, 10), new DateOnly(2026, 3, today), 5);
        Assert.Equal((left, sentence), (detention.DaysLeft, detention.Sentence));
    }

    static Arrival Planned(string? container = "QKHU2055386", string? plate = "AB12 CDE", string? seal = "FX 220471") =>
        new()
        {
            Number = "A-1",
            SiteId = 1,
            ContainerNumber = container,
            Plate = plate,
            Seal = seal,
        };

    [Theory]
    [InlineData("QKHU 205538 6", "ab12cde", "fx220471", "")]
    [InlineData("QKHU2055386", "AB12 CDE", "FX 220472", "Planned is seal FX 220471, found is FX 220472.")]
    [InlineData("QKHU2055386", "ZZ99 ZZZ", "FX 220471", "Planned is plate AB12 CDE, found is ZZ99 ZZZ.")]
    [InlineData("QKHU2055386", "AB12 CDE", "", "Planned is seal FX 220471, and none was read.")]
    [InlineData(
        "",
        "",
        "",
        "Planned is container QKHU2055386, and none was read. Planned is plate AB12 CDE, and none was read. Planned is seal FX "
            + "220471, and none was read."
    )]
    public void What_differs_at_the_gate_or_is_blank_though_it_was_expected_wants_a_word(
        string container,
        string plate,
        string seal,
        string differs
    )
    {
        var arrival = Planned();
        var plain = arrival.LetIn(now, new GateFinding("1", container, plate, seal), local);
        Assert.Equal(differs, plain.Refused(out var refusal) ? refusal.Sentence : "");
        if (differs.Length == 0)
            return;
        Assert.Equal(("gate-differs", ArrivalState.Expected), (refusal!.Code, arrival.State));
        Assert.Equal(
            differs,
            string.Join(" ", arrival.LetIn(now, new GateFinding("1", container, plate, seal, "the driver says so"), local).Value)
        );
        Assert.Equal(ArrivalState.InYard, arrival.State);
    }

    [Fact]
    public void What_was_read_at_the_gate_holds_until_the_step_is_taken_back()
    {
        var arrival = Planned();
        arrival.LetIn(now, new GateFinding("1", "WZLU4826153", "ZZ99 ZZZ", "FX 1", "another box"), local);
        Assert.Equal(("WZLU4826153", "ZZ99 ZZZ", "another box"), (arrival.ContainerNumber, arrival.Plate, arrival.SealReason));
        arrival.TakeStepBack(counted: false);
        Assert.Equal(("QKHU2055386", "AB12 CDE", null), (arrival.ContainerNumber, arrival.Plate, arrival.SealReason));
    }

    [Fact]
    public void A_vehicle_that_was_not_at_a_door_does_not_leave_silently()
    {
        var arrival = Planned(null, null, null);
        arrival.LetIn(now, new GateFinding("1"), local);
        Assert.Equal("not-unloaded", arrival.GateOut(now, local)!.Code);
        arrival.Withdraw("Wrong goods.", false, now);
        Assert.Null(arrival.GateOut(now, local));
    }

    [Fact]
    public void Every_step_is_taken_back_in_turn_and_leaves_nothing()
    {
        var arrival = New();
        Assert.Empty(arrival.LetIn(now, new GateFinding("2"), local).Value);
        Assert.Null(arrival.Call(now));
        Assert.Null(arrival.ToDoor(door, now, null));
        Assert.Null(arrival.Unload(now, local));
        Assert.Null(arrival.LeaveEmpty(now, local));
        Assert.Null(arrival.GateOut(now, local));
        string[] words = ["gate-out", "empty", "unloaded", "at door", "called", "let in"];
        foreach (var word in words)
            Assert.Equal(word, arrival.TakeStepBack(counted: false).Value);
        Assert.Equal((ArrivalState.Expected, null, null), (arrival.State, arrival.GateInAt, arrival.YardSpot));
        Assert.Equal("nothing-to-take-back", arrival.TakeStepBack(false).Refusal!.Code);
    }

    [Fact]
    public void Who_is_counted_does_not_leave_the_door_by_a_step_back()
    {
        var arrival = New();
        arrival.ToDoor(door, now, null);
        Assert.Equal("counted", arrival.TakeStepBack(counted: true).Refusal!.Code);
        Assert.Equal("Expected", arrival.TakeStepBack(counted: false) is { Refusal: null } ? arrival.State.ToString() : "");
    }

    [Fact]
    public void Nobody_leaves_the_gate_full_or_twice()
    {
        var arrival = New();
        Assert.Equal("not-on-site", arrival.GateOut(now, local)!.Code);
        arrival.ToDoor(door, now, null);
        Assert.Equal("not-empty", arrival.GateOut(now, local)!.Code);
        arrival.LeaveEmpty(now, local);
        Assert.Null(arrival.GateOut(now, local));
        Assert.Equal("step-done", arrival.GateOut(now, local)!.Code);
    }

    /// <summary>Every instant in a sentence is said by the clock of the site, here an hour before UTC.</summary>
    [Fact]
    public void Refusals_say_by_the_clock_of_the_site_since_when_it_is_so()
    {
        var arrival = New();
        arrival.LetIn(now, new GateFinding("1"), local);
        Assert.Equal("A-1 has been on site since 09:00.", arrival.LetIn(now.AddHours(1), new GateFinding("2"), local).Refusal!.Sentence);
        arrival.ToDoor(door, now, null);
        Assert.Equal("A-1 has been at a door since 09:00. Its plan is no longer moved.", arrival.MayBePlanned(0, local)!.Sentence);
        arrival.Unload(now, local);
        Assert.Equal("A-1 has been unloaded since 09:00.", arrival.Unload(now.AddHours(1), local)!.Sentence);
    }

    [Fact]
    public void Unloaded_and_counted_in_are_states_of_their_own()
    {
        var arrival = New();
        arrival.ToDoor(door, now, null);
        arrival.Unload(now, local);
        Assert.Equal((ArrivalState.AtDoor, true), (arrival.State, arrival.CountedInAt is null));
        arrival.CountIn(now.AddHours(1));
        Assert.Equal(now, arrival.UnloadedAt);
    }

    [Fact]
    public void Two_who_plan_at_once_do_not_overwrite_each_other()
    {
        var arrival = New();
        Assert.Null(arrival.Plan(door, now, [1], [], seen: 0, "Wanjiru", now, local));
        var second = arrival.Plan(door, now.AddHours(1), [2], [], seen: 0, "Dilys", now, local)!;
        Assert.Equal("plan-moved", second.Code);
        Assert.Equal("Wanjiru has planned A-1 meanwhile, at 09:00.", second.Sentence);
        Assert.Equal(now, arrival.Planned);
    }

    [Fact]
    public void A_change_of_time_is_kept_with_its_source()
    {
        var arrival = New();
        arrival.Expect(now.AddDays(1), "shipping line", "Wanjiru", now);
        var second = arrival.Expect(now.AddDays(3), "shipping line", "Wanjiru", now);
        Assert.Equal((now.AddDays(1), now.AddDays(3), now.AddDays(3)), (second.From!.Value, second.To, arrival.Eta!.Value));
    }

    // Codes of ISO 6346 annexes D and E, from memory.
    [Theory]
    [InlineData("45G1", "40 ft", "9 ft 6 high", "general purpose")]
    [InlineData("22R1", "20 ft", "8 ft 6 high", "refrigerated")]
    [InlineData("L5G1", "45 ft", "9 ft 6 high", "general purpose")]
    public void A_size_and_type_code_is_read_in_its_parts(string code, string length, string height, string type)
    {
        var read = SizeType.Read(code)!;
        Assert.Equal((length, height, type), (read.Length, read.Height, read.Type));
    }

    [Theory]
    [InlineData("")]
    [InlineData("9999")]
    [InlineData("45G")]
    [InlineData("45G11")]
    public void What_is_no_size_and_type_code_is_none(string code) => Assert.Null(SizeType.Read(code));
}
