using MudRoom.Core.Cage;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

public sealed class HoldTests
{
    static readonly DateTimeOffset start = new(2026, 2, 24, 9, 25, 0, TimeSpan.Zero);

    static Hold New(HoldReason reason, DateTimeOffset? until = null)
    {
        var hold = new Hold { Number = "H-0311", SiteId = 1, ItemId = 1, Reason = reason, Sentence = "Quarantine", Since = start, Until = until, LaidBy = "rule" };
        hold.Grow(360);
        return hold;
    }

    [Fact]
    public void A_rule_holds_for_so_many_times_24_hours_never_short()
    {
        var rule = new HoldRule { Category = "bare-root tree", Days = 14, Name = "Quarantine" };
        Assert.Equal(start.AddHours(14 * 24), rule.Until(start));
        Assert.True(rule.Catches(new Item { Code = "A", Name = "A", Category = "bare-root tree" }, "FR"));
        Assert.False(rule.Catches(new Item { Code = "A", Name = "A", Category = "pot" }, "FR"));
    }

    [Fact]
    public void A_rule_for_an_origin_catches_only_that_origin()
    {
        var rule = new HoldRule { Category = "citrus", Origin = "IT", Days = 21, Name = "Citrus" };
        var lemon = new Item { Code = "L", Name = "Lemon", Category = "citrus" };
        Assert.True(rule.Catches(lemon, "IT"));
        Assert.False(rule.Catches(lemon, "ES"));
    }

    [Fact]
    public void It_is_not_lifted_before_its_time_and_is_at_its_time()
    {
        var hold = New(HoldReason.Rule, start.AddDays(14));
        Assert.Equal("time-not-over", hold.Lift(start.AddDays(14).AddSeconds(-1), "Wanjiru", null).Refusal!.Code);
        Assert.Equal(360, hold.Lift(start.AddDays(14), "Wanjiru", null).Value);
        Assert.Equal("hold-lifted", hold.Lift(start.AddDays(15), "Wanjiru", null).Refusal!.Code);
    }

    [Fact]
    public void Rejected_goods_are_decided_over_and_not_lifted() =>
        Assert.Equal("wants-decision", New(HoldReason.Nonconforming).Lift(start, "Wanjiru", null).Refusal!.Code);

    [Fact]
    public void Decisions_over_parts_end_the_hold_when_nothing_is_left()
    {
        var hold = New(HoldReason.Nonconforming);
        Assert.Null(hold.Shrink(300, start, "Wanjiru"));
        Assert.True(hold.IsOpen);
        Assert.Equal("more-than-held", hold.Shrink(61, start, "Wanjiru").Code());
        Assert.Null(hold.Shrink(60, start, "Wanjiru"));
        Assert.False(hold.IsOpen);
    }

    [Fact]
    public void Its_chain_shows_which_links_are_closed()
    {
        var links = New(HoldReason.Rule, start.AddDays(14)).Links(start.AddDays(20));
        Assert.Equal([("time", true), ("signature", false)], links.Select(l => (l.Word, l.Closed)));
    }
}
