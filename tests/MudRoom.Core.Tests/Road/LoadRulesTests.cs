using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Road;

public sealed class LoadRulesTests
{
    static readonly DateTimeOffset ten = new(2026, 3, 10, 10, 0, 0, TimeSpan.Zero);
    static readonly DateTime day = new(2026, 3, 10, 0, 0, 0, DateTimeKind.Unspecified);

    [Fact]
    public void What_is_waited_for_or_cold_counts_for_more() =>
        Assert.Equal(
            [1, 4, 3, 6],
            new[]
            {
                LoadRules.Weight(false, false),
                LoadRules.Weight(true, false),
                LoadRules.Weight(false, true),
                LoadRules.Weight(true, true),
            }
        );

    [Fact]
    public void Who_was_let_in_is_there() =>
        Assert.Equal(ten, LoadRules.AtGate(ten, ten.AddHours(2), ten.AddHours(3), 10, ten.AddHours(1), true));

    [Fact]
    public void A_time_said_ahead_is_believed() =>
        Assert.Equal(ten.AddHours(2), LoadRules.AtGate(null, ten.AddHours(2), ten, 10, ten, true));

    [Fact]
    public void Who_is_late_and_has_not_said_when_comes_now_as_far_as_anybody_knows()
    {
        Assert.Equal(ten.AddHours(1), LoadRules.AtGate(null, null, ten, 10, ten.AddHours(1), true));
        Assert.Equal(ten.AddHours(1), LoadRules.AtGate(null, ten, ten, 10, ten.AddHours(1), true));
        // Another day is looked at as it was booked.
        Assert.Equal(ten.AddMinutes(-10), LoadRules.AtGate(null, null, ten, 10, ten.AddHours(1), false));
    }

    [Theory]
    [InlineData(9, 0, 8, 40, 9, 0)]
    [InlineData(9, 0, 9, 30, 9, 40)]
    [InlineData(9, 0, 9, 33, 9, 45)]
    [InlineData(9, 0, 8, 55, 9, 0)]
    public void A_late_one_is_pushed_to_when_it_can_be_at_a_door(
        int plannedHour,
        int plannedMinute,
        int gateHour,
        int gateMinute,
        int hour,
        int minute
    ) =>
        Assert.Equal(
            day.AddHours(hour).AddMinutes(minute),
            LoadRules.Start(day.AddHours(plannedHour).AddMinutes(plannedMinute), day.AddHours(gateHour).AddMinutes(gateMinute), 10)
        );

    [Fact]
    public void One_that_comes_another_day_stays_where_it_was_planned() =>
        Assert.Equal(day.AddHours(9), LoadRules.Start(day.AddHours(9), day.AddDays(1).AddHours(9), 10));

    static readonly LoadToPlan load = new(
        "A-1",
        "truck",
        Handling.Palletised,
        5,
        1,
        [StorageClass.Ambient],
        day.AddHours(9),
        day.AddHours(8),
        1,
        1,
        false
    );

    [Theory]
    [InlineData(1, 8, "60 min less waiting")]
    [InlineData(1, 10, "later, to let more needed goods go first")]
    [InlineData(2, 9, "another door, to free this one")]
    [InlineData(1, 9, "another crew, to free somebody for other goods")]
    public void A_move_says_why(int door, int hour, string why) =>
        Assert.Equal(
            why,
            PlanReasons.Why(
                load,
                new Placement("A-1", 1, day.AddHours(9), [1], day.AddHours(10)),
                new Placement("A-1", door, day.AddHours(hour), [2], day.AddHours(hour + 1)),
                []
            )
        );

    [Fact]
    public void What_was_wrong_is_the_reason_when_something_was() =>
        Assert.Equal(
            "No ticket.",
            PlanReasons.Why(
                load,
                new Placement("A-1", 1, day.AddHours(9), [1], day.AddHours(10)),
                new Placement("A-1", 1, day.AddHours(8), [2], day.AddHours(9)),
                [new BrokenRule("A-1", PlanRule.Skill, RuleForce.Hard, "No ticket.")]
            )
        );
}
