using CsCheck;
using MudRoom.Core.Road;

namespace MudRoom.Core.Tests.Road;

public sealed class OrderTests
{
    static readonly DateOnly today = new(2026, 3, 10);

    static (Order Order, LinePart First, LinePart Second) New()
    {
        var first = new LinePart
        {
            Id = 1,
            ItemId = 1,
            SiteId = 1,
            Due = today,
            Ordered = 100,
        };
        var second = new LinePart
        {
            Id = 2,
            ItemId = 2,
            SiteId = 1,
            Due = today,
            Ordered = 50,
        };
        return (
            new Order
            {
                Number = "PO-1",
                VendorId = 1,
                Lines =
                [
                    new OrderLine
                    {
                        Number = 1,
                        ItemId = 1,
                        Parts = [first],
                    },
                    new OrderLine
                    {
                        Number = 2,
                        ItemId = 2,
                        Parts = [second],
                    },
                ],
            },
            first,
            second
        );
    }

    [Fact]
    public void An_order_is_open_then_partly_received_then_complete()
    {
        var (order, first, second) = New();
        order.Follow();
        Assert.Equal(OrderState.Open, order.State);
        first.Receive(40);
        order.Follow();
        Assert.Equal((OrderState.PartlyReceived, true), (order.State, order.IsOpen));
        first.Receive(60);
        second.Receive(50);
        order.Follow();
        Assert.Equal(OrderState.Complete, order.State);
    }

    [Fact]
    public void A_draft_is_seen_and_not_received()
    {
        var (order, first, _) = New();
        order.MakeDraft();
        Assert.Equal((false, false), (order.IsOpen, first.IsOpen));
        Assert.Null(order.OpenForReceiving());
        Assert.Equal((OrderState.Open, true), (order.State, first.IsOpen));
        Assert.Equal("not-draft", order.OpenForReceiving()!.Code);
    }

    [Fact]
    public void An_order_of_which_nothing_came_is_cancelled_and_one_of_which_something_came_is_closed_short()
    {
        var (untouched, _, _) = New();
        Assert.Equal("note-missing", untouched.Cancel(" ", "Dilys", default)!.Code);
        Assert.Null(untouched.Cancel("Ordered twice.", "Dilys", default));
        Assert.Equal(OrderState.Cancelled, untouched.State);
        var (begun, first, second) = New();
        first.Receive(30);
        Assert.Null(begun.Cancel("Not needed.", "Dilys", default));
        Assert.Equal((OrderState.ClosedShort, 30m, 0m), (begun.State, first.Received, second.Open));
        Assert.Equal("order-done", begun.Cancel("Again.", "Dilys", default)!.Code);
    }

    [Fact]
    public void A_cancellation_is_taken_back_while_nothing_else_has_happened()
    {
        var (order, first, second) = New();
        first.Receive(30);
        order.Follow();
        Assert.Equal("not-cancelled", order.TakeBackCancellation()!.Code);
        order.Cancel("Not needed.", "Dilys", default);
        Assert.Null(order.TakeBackCancellation());
        Assert.Equal((OrderState.PartlyReceived, true, true), (order.State, first.IsOpen, second.IsOpen));
        order.Cancel("Not needed.", "Dilys", default);
        second.Receive(1);
        Assert.Equal("meanwhile", order.TakeBackCancellation()!.Code);
    }

    [Fact]
    public void A_change_never_falls_below_what_was_received()
    {
        var (_, first, _) = New();
        first.Receive(40);
        Assert.Equal("below-received", first.Reorder(39)!.Code);
        Assert.Equal(100, first.Ordered);
        Assert.Null(first.Reorder(40));
        Assert.False(first.IsOpen);
    }

    [Fact]
    public void A_part_that_was_closed_short_opens_again_when_more_is_ordered()
    {
        var (_, first, _) = New();
        first.Receive(40);
        first.CloseShort();
        Assert.Null(first.Reorder(120));
        Assert.Equal((true, 80m), (first.IsOpen, first.Open));
    }

    [Theory]
    [InlineData(1900)]
    [InlineData(9999)]
    public void A_date_of_another_age_is_taken_for_a_mistake(int year)
    {
        var (_, first, _) = New();
        Assert.Equal("date-absurd", first.Reschedule(new DateOnly(year, 1, 1), today)!.Code);
        Assert.Equal(today, first.Due);
    }

    [Fact]
    public void Whatever_happens_a_part_is_open_exactly_when_something_is_still_to_come() =>
        Gen.Select(Gen.Int[0, 4], Gen.Int[1, 60])
            .Array[1, 25]
            .Sample(steps =>
            {
                var part = new LinePart
                {
                    Id = 1,
                    ItemId = 1,
                    SiteId = 1,
                    Ordered = 100,
                };
                foreach (var (kind, quantity) in steps)
                {
                    if (kind == 0)
                        part.Receive(quantity);
                    else if (kind == 1 && part.Received >= quantity)
                        part.TakeBack(quantity);
                    else if (kind == 2)
                        part.Reorder(quantity * 2);
                    else if (kind == 3)
                        part.CloseShort();
                    else
                        part.SetDraft(quantity % 2 == 0);
                    Assert.Equal(part.Open > 0 && !part.InDraft, part.IsOpen);
                    Assert.True(part.Ordered >= part.Received || part.Open == 0);
                }
            });

    [Theory]
    [InlineData(-1, null, DueState.Late)]
    [InlineData(0, null, DueState.DueToday)]
    [InlineData(0, 1, DueState.FallsLate)]
    [InlineData(3, 3, DueState.OnTime)]
    [InlineData(3, 4, DueState.FallsLate)]
    public void A_part_is_late_due_on_time_or_falls_late(int due, int? expected, DueState state) =>
        Assert.Equal(state, DueRules.State(today.AddDays(due), today, expected is { } days ? today.AddDays(days) : null));

    static AdvisedLine Line(int? item, decimal quantity, string? order = "PO-1", int? line = null) =>
        new("395212340000000010", null, "201", order, line, item, item is null ? "MYSTERY-7" : "", quantity, "B1", null, null, null);

    [Fact]
    public void What_a_vendor_says_is_aboard_goes_to_the_part_it_names()
    {
        AdvisablePart[] parts = [new(1, "PO-1", 1, 7, today, 50), new(2, "PO-1", 2, 7, today.AddDays(9), 50)];
        Assert.Equal([2], AdviceRules.Match([Line(7, 10, line: 2)], parts, _ => "Beans").PartOf);
        Assert.Equal([1], AdviceRules.Match([Line(7, 10)], parts, _ => "Beans").PartOf);
    }

    [Fact]
    public void What_does_not_fit_the_order_is_listed_and_not_lost()
    {
        AdvisablePart[] parts = [new(1, "PO-1", 1, 7, today, 50)];
        var match = AdviceRules.Match([Line(7, 60), Line(8, 5), Line(null, 24)], parts, id => $"Item {id}");
        Assert.Equal(60, match.Expected[1]);
        Assert.Equal(3, match.Differences.Count);
        Assert.Contains(match.Differences, d => d.StartsWith("Item 8 is not open on PO-1", StringComparison.Ordinal));
        Assert.Contains(match.Differences, d => d.StartsWith("MYSTERY-7", StringComparison.Ordinal));
        Assert.Contains("Item 7: 60 are aboard, 50 are open on PO-1 line 1.", match.Differences);
    }

    [Fact]
    public void A_line_with_serial_numbers_is_known_piece_by_piece_and_sums_to_what_is_said()
    {
        var named = Line(7, 3) with { Serials = ["S-1", "S-2", "S-3"] };
        Assert.Equal([(1m, "S-1"), (1m, "S-2"), (1m, "S-3")], named.Pieces());
        Assert.Equal([(1m, "S-1"), (2m, null)], (named with { Serials = ["S-1", "s-1"] }).Pieces());
        Assert.Equal([(3m, (string?)null)], (named with { Serials = [] }).Pieces());
        Assert.Equal(3, (named with { Serials = ["S-1", "S-2", "S-3", "S-4"] }).Pieces().Sum(p => p.Quantity));
        AdvisablePart[] parts = [new(1, "PO-1", 1, 7, today, 50)];
        Assert.Empty(AdviceRules.Match([named], parts, _ => "Probe").Differences);
        Assert.Equal(
            "Probe: 1 serial number for 3 pieces.",
            Assert.Single(AdviceRules.Match([named with { Serials = ["S-1"] }], parts, _ => "Probe").Differences)
        );
    }

    [Fact]
    public void A_difference_is_decided_once()
    {
        var difference = new AdviceDifference
        {
            ArrivalId = 1,
            AdviceId = 1,
            Sentence = "More than open.",
        };
        Assert.Equal("note-missing", difference.Decide(" ", "Wanjiru", default)!.Code);
        Assert.Null(difference.Decide("Take it", "Wanjiru", default));
        Assert.Equal("decided", difference.Decide("Leave it", "Dilys", default)!.Code);
    }

    static AdvisedUnit On(string? sscc, string? parent, decimal quantity, int? item = 7, int? part = 1) =>
        new()
        {
            ArrivalId = 1,
            AdviceId = 1,
            Sscc = sscc,
            ParentSscc = parent,
            Quantity = quantity,
            ItemId = item,
            PartId = part,
        };

    [Fact]
    public void A_pallet_holds_what_stands_in_the_cartons_on_it_however_deep()
    {
        AdvisedUnit[] all =
        [
            On("P1", null, 0),
            On("C1", "P1", 10),
            On("C2", "P1", 5),
            On("I1", "C2", 3),
            On("P2", null, 99),
            On(null, null, 40),
        ];
        Assert.Equal([10, 5, 3], AdvisedLoad.Inside(all, "P1").Select(u => u.Quantity));
        Assert.Equal([5, 3], AdvisedLoad.Inside(all, "C2").Select(u => u.Quantity));
        Assert.Empty(AdvisedLoad.Inside(all, "P3"));
        Assert.Equal(["P1", "P2"], AdvisedLoad.Outermost(all));
    }

    [Fact]
    public void Units_that_a_file_puts_on_each_other_end_and_count_once()
    {
        AdvisedUnit[] all = [On("A", null, 1), On("B", "A", 2), On("A", "B", 4), On("C", "C", 8)];
        Assert.Equal([1, 2, 4], AdvisedLoad.Inside(all, "A").Select(u => u.Quantity));
        Assert.Equal([8], AdvisedLoad.Inside(all, "C").Select(u => u.Quantity));
    }

    [Fact]
    public void What_is_taken_in_by_one_scan_of_each_outermost_unit_is_all_that_is_on_units() =>
        Gen.Int[0, 12]
            .List[1, 40]
            .Sample(parents =>
            {
                // Unit i stands on an earlier one, or on none.
                var all = parents.Select((p, i) => On($"U{i}", p < i ? $"U{p}" : null, i + 1)).ToList();
                var scanned = AdvisedLoad.Outermost(all).SelectMany(s => AdvisedLoad.Inside(all, s)).ToList();
                Assert.Equal(all.Sum(u => u.Quantity), scanned.Sum(u => u.Quantity));
                Assert.Equal(scanned.Count, scanned.Distinct().Count());
            });

    [Fact]
    public void A_unit_with_something_nobody_knows_or_no_order_takes_is_not_taken_in_unseen()
    {
        Assert.Null(AdvisedLoad.Odd([On("A", null, 1)]));
        Assert.NotNull(AdvisedLoad.Odd([On("A", null, 1), On("A", null, 1, item: null)]));
        Assert.NotNull(AdvisedLoad.Odd([On("A", null, 1, part: null)]));
    }

    [Fact]
    public void Who_waits_is_told_with_the_hour_where_one_was_named()
    {
        Assert.Equal("three orders, by 10 Mar 15:00", LinePart.WordsOf("three orders", new DateTime(2026, 3, 10, 15, 0, 0)));
        Assert.Equal("three orders", LinePart.WordsOf("three orders", null));
        Assert.Null(LinePart.WordsOf(null, new DateTime(2026, 3, 10, 15, 0, 0)));
    }
}
