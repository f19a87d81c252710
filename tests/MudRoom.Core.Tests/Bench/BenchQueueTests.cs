using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Bench;

/// <summary>What the bench takes first, and why.</summary>
public sealed class BenchQueueTests
{
    static readonly DateTime now = new(2026, 3, 10, 11, 20, 0);

    static InspectionFacts Facts(
        InspectionState state = InspectionState.Waiting,
        int? days = null,
        string? waitedFor = null,
        string? takesUp = null,
        string? invoiced = null,
        int? byHour = null
    ) =>
        new(
            state,
            now.AddHours(-2),
            days is { } d ? DateOnly.FromDateTime(now).AddDays(d) : null,
            waitedFor,
            state == InspectionState.Signed ? "Sunita" : null,
            takesUp,
            invoiced,
            byHour is { } hour ? now.Date.AddHours(hour) : null
        );

    [Fact]
    public void Open_sheets_come_first_then_what_is_waited_for_what_lives_shortest_what_takes_up_a_door_what_is_invoiced_and_the_rest()
    {
        InspectionFacts[] inOrder =
        [
            Facts(InspectionState.Drawn, waitedFor: "three orders"),
            Facts(InspectionState.Drawn, waitedFor: null),
            Facts(waitedFor: "three orders", days: 3, takesUp: "D5-R4"),
            Facts(days: 30, takesUp: "D5-R4"),
            Facts(days: 31, takesUp: "D5-R4", invoiced: "R-9"),
            Facts(days: 31, invoiced: "R-9"),
            Facts(days: 31),
            Facts(InspectionState.Signed, days: 3, waitedFor: "three orders"),
        ];
        var ranks = inOrder.Select(f => BenchQueue.Place(f, now).Rank).ToList();
        Assert.Equal(ranks.Order(), ranks);
        Assert.Equal(ranks.Count, ranks.Distinct().Count());
    }

    /// <summary>Whoever waits until an earlier hour comes first, open or not; who named none comes last; without anybody an hour says
    /// nothing.</summary>
    [Fact]
    public void Of_what_is_waited_for_the_earliest_hour_comes_first()
    {
        InspectionFacts[] inOrder =
        [
            Facts(InspectionState.Drawn, waitedFor: "a job", byHour: 16),
            Facts(InspectionState.Drawn, waitedFor: "a job"),
            Facts(waitedFor: "three orders", byHour: 9),
            Facts(waitedFor: "three orders", byHour: 15),
            Facts(waitedFor: "three orders"),
        ];
        var places = inOrder.Select(f => BenchQueue.Place(f, now)).ToList();
        Assert.Equal(places, BenchQueue.InOrder(places.AsEnumerable().Reverse(), p => p));
        Assert.Equal(DateTime.MaxValue, BenchQueue.Place(Facts(byHour: 9), now).By);
    }

    [Fact]
    public void The_reason_stands_in_words()
    {
        Assert.Equal("Waited for: three orders.", BenchQueue.Place(Facts(waitedFor: "three orders"), now).Why);
        Assert.Equal(
            "Its sheet is open. Waited for: three orders.",
            BenchQueue.Place(Facts(InspectionState.Drawn, waitedFor: "three orders"), now).Why
        );
        Assert.Equal("Good until 2026-03-13, 3 days.", BenchQueue.Place(Facts(days: 3), now).Why);
        Assert.Equal("Takes up D5-R4 at the door since 09:20.", BenchQueue.Place(Facts(takesUp: "D5-R4"), now).Why);
        Assert.Equal("The vendor's invoice for R-9 waits since 09:20.", BenchQueue.Place(Facts(invoiced: "R-9"), now).Why);
        Assert.Equal("Waits since 09:20; nobody is held up.", BenchQueue.Place(Facts(), now).Why);
        Assert.Equal("Signed by Sunita.", BenchQueue.Place(Facts(InspectionState.Signed), now).Why);
    }
}
