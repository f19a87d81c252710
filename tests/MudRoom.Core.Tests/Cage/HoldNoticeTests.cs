using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>Whom a hold needs: who may do the next thing, and nobody else.</summary>
public sealed class HoldNoticeTests
{
    static readonly SiteTime local = at => at.UtcDateTime;
    static readonly DateTimeOffset start = new(2026, 3, 1, 9, 0, 0, TimeSpan.Zero);
    static readonly Hand wanjiru = new(1, "Wanjiru");
    static readonly Hand sunita = new(6, "Sunita");

    static Hold New(HoldReason reason, DateTimeOffset? until = null, params Wanted[] wants)
    {
        var hold = new Hold
        {
            Number = "H-1",
            SiteId = 1,
            ItemId = 1,
            Reason = reason,
            Sentence = "x",
            Since = start,
            Until = until,
            LaidBy = "rule",
        }.Wanting(HoldCondition.From(wants.Select(w => ("", w)), start));
        Assert.Null(hold.Grow(10, local));
        return hold;
    }

    /// <summary>What it asks of a role, a month after it was laid unless said otherwise.</summary>
    static NoticeKind? Asks(Hold hold, Role role, int days = 30, Hand? by = null, string? waitsFor = null) =>
        HoldNotices.Of(hold, "Leek", r => Rights.Allow([role], r), by ?? wanjiru, start.AddDays(days), null, waitsFor)?.Kind;

    static readonly Wanted report = new(ConditionKind.Paper, "", Right.LiftHold, PaperKind.TestReport, 7);
    static readonly Wanted signature = new(ConditionKind.Signature, "", Right.SignVerdict);

    [Fact]
    public void A_hold_whose_time_is_over_needs_a_supervisor_and_before_that_nobody()
    {
        var hold = New(HoldReason.Rule, start.AddDays(14));
        Assert.Null(Asks(hold, Role.Supervisor, 13));
        Assert.Equal(NoticeKind.ToLift, Asks(hold, Role.Supervisor));
        foreach (var role in Enum.GetValues<Role>().Except([Role.Supervisor]))
            Assert.Null(Asks(hold, role));
        Assert.Equal(10, hold.Lift(start.AddDays(30), wanjiru, null, local).Value);
        Assert.Null(Asks(hold, Role.Supervisor));
    }

    [Fact]
    public void A_condition_asks_those_who_may_meet_it_and_is_overdue_by_its_day()
    {
        var hold = New(HoldReason.Rule, null, report, signature);
        Assert.Equal(NoticeKind.ToSign, Asks(hold, Role.Supervisor, 6));
        Assert.Equal(NoticeKind.Overdue, Asks(hold, Role.Supervisor, 8));
        Assert.Equal(NoticeKind.ToSign, Asks(hold, Role.Inspector, 8));
        Assert.Null(Asks(hold, Role.Driver, 8));
        Assert.True(hold.Meet(hold.Besides[1].Id, sunita, _ => true, null, null, start, local) is { Value: not null });
        Assert.Null(Asks(hold, Role.Inspector, 8));
    }

    [Fact]
    public void Nobody_is_asked_to_sign_twice_for_one_hold()
    {
        var hold = New(HoldReason.Rule, null, signature, signature with { What = "a second pair of eyes" });
        Assert.True(hold.Meet(hold.Besides[0].Id, sunita, _ => true, null, null, start, local) is { Value: not null });
        Assert.Null(Asks(hold, Role.Inspector, by: sunita));
        Assert.Equal(NoticeKind.ToSign, Asks(hold, Role.Inspector, by: new Hand(7, "Bram")));
    }

    [Fact]
    public void Rejected_goods_ask_for_a_decision_and_what_is_decided_asks_that_it_happens()
    {
        var hold = New(HoldReason.Nonconforming);
        Assert.Equal(NoticeKind.ToDecide, Asks(hold, Role.Supervisor));
        Assert.Null(Asks(hold, Role.Inspector));
        _ = hold.Decide(DecisionKind.Scrap.By(wanjiru, start), 10, local);
        Assert.Equal(NoticeKind.ToCarryOut, Asks(hold, Role.Supervisor));
        Assert.Null(Asks(hold, Role.Buyer));
    }

    [Fact]
    public void A_return_asks_an_inspector_first_and_then_a_supervisor()
    {
        var hold = New(HoldReason.CustomerReturn);
        Assert.Equal(NoticeKind.ToFind, Asks(hold, Role.Inspector));
        Assert.Null(Asks(hold, Role.Inspector, waitsFor: "I-1"));
        Assert.Null(Asks(hold, Role.Supervisor));
        Assert.True(hold.Find(new ReturnFinding(ReturnFound.NoFault, "new", sunita, start), 10, local).Value);
        Assert.Equal(NoticeKind.ToDecide, Asks(hold, Role.Supervisor));
        Assert.Null(Asks(hold, Role.Inspector));
    }

    [Fact]
    public void The_most_pressing_comes_first_and_of_one_kind_what_waited_longest()
    {
        Notice Of(NoticeKind kind, int day) => new(kind, $"{kind}-{day}", "x", start.AddDays(day));
        Assert.Equal(
            ["Missing-9", "Overdue-3", "ToLift-1", "ToLift-2"],
            Notice
                .InOrder([Of(NoticeKind.ToLift, 2), Of(NoticeKind.Overdue, 3), Of(NoticeKind.ToLift, 1), Of(NoticeKind.Missing, 9)], n => n)
                .Select(n => n.Subject)
        );
    }
}
