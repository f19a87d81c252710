using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

public sealed class HoldTests
{
    /// <summary>London in summer: an hour ahead of UTC.</summary>
    static readonly SiteTime local = at => at.UtcDateTime.AddHours(1);

    static readonly DateTimeOffset start = new(2026, 2, 24, 9, 25, 0, TimeSpan.Zero);

    static readonly Hand wanjiru = new(1, "Wanjiru");

    static Hold New(HoldReason reason, DateTimeOffset? until = null)
    {
        var hold = new Hold
        {
            Number = "H-0311",
            SiteId = 1,
            ItemId = 1,
            Reason = reason,
            Sentence = "Quarantine",
            Since = start,
            Until = until,
            LaidBy = "rule",
        };
        Assert.Null(hold.Grow(360, local));
        return hold;
    }

    [Fact]
    public void It_is_not_lifted_before_its_time_and_is_at_its_time()
    {
        var hold = New(HoldReason.Rule, start.AddDays(14));
        Assert.Equal("time-not-over", hold.Lift(start.AddDays(14).AddSeconds(-1), wanjiru, null, local).Refusal!.Code);
        Assert.Equal(360, hold.Lift(start.AddDays(14), wanjiru, null, local).Value);
        Assert.Equal("hold-lifted", hold.Lift(start.AddDays(15), wanjiru, null, local).Refusal!.Code);
    }

    [Fact]
    public void Rejected_goods_are_decided_over_and_not_lifted() =>
        Assert.Equal("wants-decision", New(HoldReason.Nonconforming).Lift(start, wanjiru, null, local).Refusal!.Code);

    [Fact]
    public void Decisions_over_parts_end_the_hold_when_nothing_is_left()
    {
        var hold = New(HoldReason.Nonconforming);
        Assert.Null(hold.Shrink(300, start, "Wanjiru", local));
        Assert.True(hold.IsOpen);
        Assert.Equal("more-than-held", hold.Shrink(61, start, "Wanjiru", local).Code());
        Assert.Null(hold.Shrink(60, start, "Wanjiru", local));
        Assert.False(hold.IsOpen);
    }

    [Fact]
    public void Its_chain_shows_which_links_are_closed()
    {
        var links = New(HoldReason.Rule, start.AddDays(14)).Links(start.AddDays(20), local);
        Assert.Equal([("time", true), ("signature", false)], links.Select(l => (l.Word, l.Closed)));
    }

    static readonly TimeCondition[] italian = [new("Plant health", start.AddDays(14)), new("Citrus from Italy", start.AddDays(21))];

    [Fact]
    public void The_last_of_several_times_is_the_end()
    {
        var hold = Timed(HoldReason.CountedAside, italian);
        Assert.Equal("time-not-over", hold.Lift(start.AddDays(20), wanjiru, null, local).Refusal!.Code);
        Assert.Equal([true, false, false], hold.Links(start.AddDays(20), local).Select(l => l.Closed));
        Assert.Equal(360, hold.Lift(start.AddDays(21), wanjiru, null, local).Value);
    }

    [Fact]
    public void A_decision_never_decides_a_time_away()
    {
        var rule = Timed(HoldReason.Rule, italian[..1]);
        foreach (var kind in Enum.GetValues<DecisionKind>())
            Assert.Equal("nothing-to-decide", rule.Decide(kind.By(wanjiru, start.AddDays(20)), 1, local).Refusal!.Code);
        Assert.Equal(
            "nothing-to-decide",
            New(HoldReason.ByHand).Decide(DecisionKind.ReleaseUnderConcession.By(wanjiru, start), 1, local).Refusal!.Code
        );
        Assert.Equal(360, rule.Quantity);

        var aside = Timed(HoldReason.CountedAside, rule.Times);
        Assert.Equal("time-not-over", aside.Decide(DecisionKind.Scrap.By(wanjiru, start.AddDays(1)), 10, local).Refusal!.Code);
        Assert.Equal("time-not-over", aside.Decide(DecisionKind.ReturnToVendor.By(wanjiru, start.AddDays(1)), 10, local).Refusal!.Code);
        Assert.IsType<AfterDecision.HeldOn>(
            aside.Decide(DecisionKind.ReleaseUnderConcession.By(wanjiru, start.AddDays(1)), 10, local).Value
        );
        Assert.Equal(350, aside.Quantity);
        // What is held on is held by its times alone, and names where it came from.
        var rest = aside.ByItsConditions("H-9", 10);
        Assert.Equal((HoldReason.Rule, aside.Until, 10m, true), (rest.Reason, rest.Until, rest.Quantity, rest.IsOpen));
        Assert.Equal(Standing.Held, rest.Asks);
        var scrapped = aside.Decide(DecisionKind.Scrap.By(wanjiru, start.AddDays(14)), 350, local).Value;
        Assert.IsType<AfterDecision.Waits>(scrapped);
        var timeless = New(HoldReason.CountedAside);
        Assert.Equal(
            new AfterDecision.Free(),
            timeless.Decide(DecisionKind.ReleaseUnderConcession.By(wanjiru, start), timeless.Quantity, local).Value
        );
    }

    [Fact]
    public void A_hold_that_was_lifted_takes_no_more_goods()
    {
        var hold = New(HoldReason.CountedAside);
        Assert.False(hold.Lift(start, wanjiru, null, local).Refused(out _));
        Assert.Equal("hold-lifted", hold.Grow(1, local).Code());
        Assert.Equal(0, hold.Quantity);
    }

    [Fact]
    public void Its_end_is_said_by_the_clock_of_the_site()
    {
        var refused = New(HoldReason.Rule, start.AddDays(14)).Lift(start, wanjiru, null, local).Refusal!;
        Assert.Contains("until 2026-03-10 10:25.", refused.Sentence);
        Assert.DoesNotContain("UTC", refused.Sentence);
    }

    static Hold Timed(HoldReason reason, IReadOnlyList<TimeCondition> times)
    {
        var hold = new Hold
        {
            Number = "H-1",
            SiteId = 1,
            ItemId = 1,
            Reason = reason,
            Sentence = "s",
            Since = start,
            Until = Hold.LastOf(times),
            Times = times,
            LaidBy = "rule",
        };
        Assert.Null(hold.Grow(360, local));
        return hold;
    }
}
