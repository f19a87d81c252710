using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Road;

/// <summary>Which arrival an advice belongs to, how much a vehicle carries, and what is withdrawn.</summary>
public sealed class AdviceTargetTests
{
    static CarryingArrival On(string number, string? container = null, bool begun = false, bool advised = false) =>
        new(number, container, begun, advised);

    [Fact]
    public void An_advice_joins_the_one_arrival_that_is_planned_for_its_goods()
    {
        Assert.Equal("A-1", AdviceRules.Target(null, [On("A-1")], null).Joins);
        Assert.Null(AdviceRules.Target(null, [], null).Joins);
        Assert.Null(AdviceRules.Target(null, [On("A-1", begun: true), On("A-2", advised: true)], null).Joins);
    }

    [Fact]
    public void A_container_is_the_vehicle_whatever_else_carries_the_goods()
    {
        Assert.Equal("A-2", AdviceRules.Target("CSQU3054383", [On("A-1"), On("A-2", "CSQU3054383")], null).Joins);
        Assert.Null(AdviceRules.Target("CSQU3054383", [On("A-1", "MSKU0000001")], null).Joins);
        Assert.Equal("A-1", AdviceRules.Target("CSQU3054383", [On("A-1")], null).Joins);
    }

    [Fact]
    public void Where_it_could_be_several_somebody_says_which()
    {
        CarryingArrival[] two = [On("A-2"), On("A-1")];
        Assert.Equal(["A-1", "A-2"], AdviceRules.Target(null, two, null).Choices);
        Assert.Equal("A-2", AdviceRules.Target(null, two, "a-2").Joins);
        Assert.Equal(
            (null, 0),
            (AdviceRules.Target(null, two, AdviceTarget.New).Joins, AdviceRules.Target(null, two, AdviceTarget.New).Choices.Count)
        );
        Assert.Equal(2, AdviceRules.Target(null, two, "A-9").Choices.Count);
    }

    [Fact]
    public void A_line_goes_to_the_part_that_is_planned_before_one_due_earlier()
    {
        AdvisablePart[] parts =
        [
            new(1, "PO-1", 1, 7, new DateOnly(2026, 3, 1), 40),
            new(2, "PO-2", 1, 7, new DateOnly(2026, 3, 9), 40, IsPlanned: true),
        ];
        AdvisedLine[] lines =
        [
            new(null, null, null, null, null, 7, "X", 40, null, null, null, null),
            new(null, null, null, null, null, 7, "X", 10, null, null, null, null),
        ];
        Assert.Equal([2, 1], AdviceRules.Match(lines, parts, _ => "X").PartOf);
    }

    [Fact]
    public void A_vehicle_carries_at_least_what_is_counted_of_it_or_ours_on_the_way()
    {
        var item = new Item
        {
            Code = "X",
            Name = "X",
            PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
        };
        var line = new ManifestLine { PartId = 1, Expected = 40 };
        line.Count(10);
        Assert.Equal("below-received", line.Carry(9, item)!.Code);
        Assert.Null(line.Carry(24, item));
        Assert.Equal((24m, 14m), (line.Expected, line.StillAboard));
        line.TakeOver();
        Assert.Equal("below-received", line.Carry(23, item)!.Code);
        Assert.Equal("quantity-not-whole", line.Carry(24.5m, item)!.Code);
    }

    static Arrival Planned(params ManifestLine[] manifest) =>
        new()
        {
            Number = "A-1",
            SiteId = 1,
            Manifest = [.. manifest],
        };

    [Fact]
    public void Only_what_nobody_counted_and_is_not_ours_is_withdrawn()
    {
        var ours = new ManifestLine { PartId = 1, Expected = 40 };
        ours.TakeOver();
        Assert.Equal("in-transit", Planned(ours).Withdraw("x", false, default)!.Code);
        Assert.Equal("counted", Planned().Withdraw("x", true, default)!.Code);
        Assert.Equal("note-missing", Planned().Withdraw(" ", false, default)!.Code);
        var gone = Planned();
        Assert.Null(gone.Withdraw("It was sent elsewhere.", false, default));
        Assert.Equal("withdrawn", gone.MayBeTallied()!.Code);
        Assert.Equal("withdrawn", gone.MayBePlanned(0, at => at.UtcDateTime)!.Code);
        Assert.Equal("withdrawn", gone.LetIn(default, new GateFinding("Y1"), at => at.UtcDateTime).Refusal!.Code);
    }

    [Fact]
    public void A_withdrawal_is_taken_back_to_where_the_vehicle_was()
    {
        var arrival = Planned();
        arrival.LetIn(DateTimeOffset.UnixEpoch, new GateFinding("Y1"), at => at.UtcDateTime);
        arrival.Withdraw("The seal is broken.", false, DateTimeOffset.UnixEpoch);
        Assert.Equal("withdrawal", arrival.TakeStepBack(false).Value);
        Assert.Equal((ArrivalState.InYard, null), (arrival.State, arrival.WithdrawnWhy));
        arrival.Withdraw("No papers.", false, DateTimeOffset.UnixEpoch);
        arrival.GateOut(DateTimeOffset.UnixEpoch, at => at.UtcDateTime);
        // Sent away, it is back at the gate before it is back in the yard.
        Assert.Equal(["gate-out", "withdrawal"], new[] { arrival.TakeStepBack(false).Value, arrival.TakeStepBack(false).Value });
    }
}
