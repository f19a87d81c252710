using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Road;

public sealed class RoadTests
{
    static readonly DateOnly today = new(2026, 3, 10);
    static readonly DateTime now = new(2026, 3, 10, 11, 20, 0);
    static readonly DateTimeOffset instant = new(now, TimeSpan.Zero);

    [Theory]
    [InlineData(-4, null, DueState.Late)]
    [InlineData(0, null, DueState.DueToday)]
    [InlineData(3, 4, DueState.FallsLate)]
    [InlineData(3, 3, DueState.OnTime)]
    [InlineData(0, 1, DueState.FallsLate)]
    public void A_part_is_late_due_today_falling_late_or_on_time(int due, int? expected, DueState state) =>
        Assert.Equal(state, DueRules.State(today.AddDays(due), today, expected is { } e ? today.AddDays(e) : null));

    [Fact]
    public void A_late_arrival_comes_first_and_says_how_late_and_when_it_is_thought_to_come()
    {
        var late = RoadQueue.Place(new ArrivalFacts(ArrivalState.Expected, now.AddMinutes(-110), now.AddMinutes(110), null, null, 0), now);
        Assert.Equal((0, 110), (late.Rank, late.MinutesLate));
        Assert.Equal("Planned 09:30, 1 h 50 late. Now thought to come 13:10.", late.Why);
    }

    [Fact]
    public void A_few_minutes_are_not_late() =>
        Assert.Equal(4, RoadQueue.Place(new ArrivalFacts(ArrivalState.Expected, now.AddMinutes(-10), null, null, null, 0), now).Rank);

    [Theory]
    [InlineData(25, "25 min")]
    [InlineData(110, "1 h 50")]
    [InlineData(2000, "1 d 9 h")]
    public void Spans_are_said_as_people_say_them(int minutes, string words) => Assert.Equal(words, RoadQueue.Span(minutes));

    static Arrival New() =>
        new()
        {
            Id = 1,
            Number = "A-1",
            SiteId = 1,
            Planned = instant,
        };

    static DockDoor Door(int site = 1) =>
        new()
        {
            Id = 9,
            SiteId = site,
            Number = 3,
        };

    [Fact]
    public void Nothing_is_tallied_before_the_door_and_after_the_closing()
    {
        var arrival = New();
        Assert.Equal("not-at-door", arrival.MayBeTallied().Code());
        Assert.Null(arrival.ToDoor(Door(), instant, null));
        Assert.Null(arrival.MayBeTallied());
        arrival.CountIn(instant);
        Assert.Equal("tally-closed", arrival.MayBeTallied().Code());
        Assert.Equal("tally-closed", arrival.ToDoor(Door(), instant, null).Code());
    }

    [Fact]
    public void A_door_takes_one_arrival_and_only_of_its_site()
    {
        Assert.Equal(
            "door-taken",
            New()
                .ToDoor(
                    Door(),
                    instant,
                    new Arrival
                    {
                        Id = 2,
                        Number = "A-2",
                        SiteId = 1,
                    }
                )
                .Code()
        );
        Assert.Equal("other-site", New().ToDoor(Door(site: 2), instant, null).Code());
    }

    [Fact]
    public void An_order_is_complete_when_every_part_is_and_closed_short_when_a_rest_never_comes()
    {
        var part = new LinePart
        {
            ItemId = 1,
            SiteId = 1,
            Ordered = 10,
        };
        var rest = new LinePart
        {
            ItemId = 1,
            SiteId = 1,
            Ordered = 5,
        };
        var order = new Order
        {
            Number = "PO-1",
            VendorId = 1,
            Lines =
            [
                new OrderLine
                {
                    Number = 1,
                    ItemId = 1,
                    Parts = [part, rest],
                },
            ],
        };
        part.Receive(12);
        order.Follow();
        Assert.Equal((OrderState.PartlyReceived, 0m), (order.State, part.Open));
        rest.Receive(2);
        rest.CloseShort();
        order.Follow();
        Assert.Equal(OrderState.ClosedShort, order.State);
        part.TakeBack(12);
        order.Follow();
        Assert.Equal(OrderState.PartlyReceived, order.State);
    }
}
