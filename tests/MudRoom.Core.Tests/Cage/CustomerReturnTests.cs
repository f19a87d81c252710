using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>Customers' returns: bound until somebody says what the goods are and somebody else what becomes of them. Common practice, no
/// source, where nothing is named.</summary>
public sealed class CustomerReturnTests
{
    static readonly SiteTime local = at => at.UtcDateTime.AddHours(1);
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 20, 0, TimeSpan.Zero);
    static readonly Hand sunita = new(6, "Sunita");
    static readonly Hand wanjiru = new(1, "Wanjiru");

    static ReturnFinding Finding(ReturnFound found = ReturnFound.AsSaid, string note = "cells are flat") => new(found, note, sunita, now);

    static Hold Bound(decimal quantity = 24, HoldReason reason = HoldReason.CustomerReturn)
    {
        var hold = new Hold
        {
            Number = "H-0400",
            SiteId = 1,
            ItemId = 1,
            Reason = reason,
            OrderLineId = reason == HoldReason.CustomerReturn ? 7 : null,
            Sentence = "RT-0042 line 1",
            Since = now,
            LaidBy = "Maren",
        };
        Assert.Null(hold.Grow(quantity, local));
        return hold;
    }

    static Hold Found(decimal quantity = 24)
    {
        var hold = Bound(quantity);
        Assert.True(hold.Find(Finding(), quantity, local).Value);
        return hold;
    }

    static Outcome<AfterDecision> Decide(Hold hold, DecisionKind kind, decimal quantity, string? rejectedBy = null) =>
        hold.Decide(kind.By(wanjiru, now), quantity, local, rejectedBy);

    [Fact]
    public void They_wait_at_the_bench_and_nobody_lifts_them()
    {
        var hold = Bound();
        Assert.Equal(Standing.ToInspect, hold.Asks);
        Assert.False(hold.IsReady(now));
        Assert.Equal("wants-decision", hold.Lift(now, wanjiru, null, local).Refusal!.Code);
        Assert.Equal(HoldWaits.Inspection, CageQueue.WaitsFor(hold, now));
        Assert.Equal([("finding", false), ("decision", false)], hold.Links(now, local).Select(l => (l.Word, l.Closed)));
    }

    [Fact]
    public void Nothing_is_decided_over_them_before_it_is_found_what_they_are()
    {
        foreach (var kind in Enum.GetValues<DecisionKind>())
        {
            var hold = Bound();
            Assert.Equal("finding-missing", Decide(hold, kind, 1).Refusal!.Code);
            Assert.Equal(24, hold.Quantity);
        }

        Assert.Equal(HoldWaits.Decision, CageQueue.WaitsFor(Found(), now));
    }

    [Fact]
    public void A_finding_comes_behind_the_inspections_of_the_goods_and_once()
    {
        var hold = Bound();
        Assert.Equal("finding-waits", hold.Find(Finding(), 24, local, "I-0051").Refusal!.Code);
        Assert.Null(hold.Found);
        Assert.True(hold.Find(Finding(), 24, local).Value);
        Assert.Equal("found-already", hold.Find(Finding(), 24, local).Refusal!.Code);
        Assert.Equal("no-return", Bound(reason: HoldReason.Nonconforming).Find(Finding(), 24, local).Refusal!.Code);
    }

    /// <summary>Also where another hold on the same goods would let them go.</summary>
    [Fact]
    public void They_do_not_leave_before_it_is_found_what_they_are()
    {
        Assert.Equal("finding-missing", Bound().MayLeave(now, local).Code());
        Assert.Null(Found().MayLeave(now, local));
        Assert.Null(Bound(reason: HoldReason.CountedAside).MayLeave(now, local));
    }

    [Fact]
    public void A_part_found_otherwise_has_a_hold_of_its_own_and_the_quantities_meet()
    {
        var hold = Bound();
        Assert.Equal("more-than-held", hold.Find(Finding(), 25, local).Refusal!.Code);
        Assert.False(hold.Find(Finding(ReturnFound.NoFault), 10, local).Value);
        var part = hold.PartFound("H-0401", 10, Finding(ReturnFound.NoFault));
        Assert.Equal((14m, 10m), (hold.Quantity, part.Quantity));
        Assert.Null(hold.Found);
        Assert.Equal((ReturnFound.NoFault, hold.OrderLineId, Standing.ToInspect), (part.Found!.Found, part.OrderLineId, part.Asks));
        // A part of that part that is decided over keeps what was found of it.
        Assert.IsType<AfterDecision.Waits>(Decide(part, DecisionKind.Scrap, 4).Value);
        var scrapped = part.PartDecided("H-0402", 4, new HoldDecision(DecisionKind.Scrap, wanjiru, now, "why"));
        Assert.Equal((part.Found, part.OrderLineId), (scrapped.Found, scrapped.OrderLineId));
    }

    [Fact]
    public void What_is_counted_later_never_joins_goods_that_somebody_has_looked_at()
    {
        Assert.True(Bound().MayJoin([]));
        Assert.False(Found().MayJoin([]));
    }

    [Fact]
    public void A_finding_is_taken_back_while_nothing_is_decided()
    {
        var hold = Found();
        Assert.Equal(ReturnFound.AsSaid, hold.TakeFindingBack(local).Value.Found);
        Assert.Equal("finding-missing", hold.TakeFindingBack(local).Refusal!.Code);
        Assert.True(hold.Find(Finding(ReturnFound.HarmedThere), 24, local).Value);
        Assert.IsType<AfterDecision.Waits>(Decide(hold, DecisionKind.Scrap, 24).Value);
        Assert.Equal("decided-already", hold.TakeFindingBack(local).Refusal!.Code);
        Assert.NotNull(hold.Found);
    }

    [Theory]
    [InlineData(DecisionKind.ReleaseUnderConcession, HoldReason.CustomerReturn)]
    [InlineData(DecisionKind.Rework, HoldReason.CustomerReturn)]
    [InlineData(DecisionKind.UsableAgain, HoldReason.Nonconforming)]
    [InlineData(DecisionKind.BackToCustomer, HoldReason.Nonconforming)]
    [InlineData(DecisionKind.BackToCustomer, HoldReason.Recall)]
    public void Each_kind_of_goods_has_its_own_decisions(DecisionKind kind, HoldReason reason)
    {
        var hold = reason == HoldReason.CustomerReturn ? Found() : Bound(reason: reason);
        Assert.Equal("choice-unknown", Decide(hold, kind, 24).Refusal!.Code);
        Assert.Equal(24, hold.Quantity);
    }

    [Fact]
    public void What_an_inspection_rejected_is_not_usable_again()
    {
        Assert.Equal("rejected-goods", Decide(Found(), DecisionKind.UsableAgain, 24, "I-0051").Refusal!.Code);
        Assert.IsType<AfterDecision.Waits>(Decide(Found(), DecisionKind.Repair, 24, "I-0051").Value);
        Assert.IsType<AfterDecision.Free>(Decide(Found(), DecisionKind.UsableAgain, 24).Value);
    }

    [Theory]
    [InlineData(DecisionKind.Scrap, Account.Scrap)]
    [InlineData(DecisionKind.ReturnToVendor, Account.Vendor)]
    [InlineData(DecisionKind.BackToCustomer, Account.Customer)]
    public void What_leaves_is_held_until_it_has_left(DecisionKind kind, Account to)
    {
        var hold = Found();
        Assert.IsType<AfterDecision.Waits>(Decide(hold, kind, 24).Value);
        Assert.Equal(kind == DecisionKind.Scrap ? Standing.ToScrap : Standing.ToGoBack, hold.Asks);
        var left = hold.CarryOut(now, wanjiru, sunita, isLookedAt: true, local);
        Assert.Equal(to, Assert.IsType<AfterDecision.Leave>(left.Value).To);
        Assert.False(hold.IsOpen);
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void What_was_repaired_stays_bound_and_is_looked_at_again(bool isLookedAt)
    {
        var hold = Found();
        Assert.IsType<AfterDecision.Waits>(Decide(hold, DecisionKind.Repair, 24).Value);
        var after = hold.CarryOut(now, wanjiru, null, isLookedAt, local).Value;
        Assert.Equal(isLookedAt, after is AfterDecision.LookedAtAgain);
        Assert.Equal((true, 24m, Standing.ToInspect), (hold.IsOpen, hold.Quantity, hold.Asks));
        Assert.Equal("finding-missing", Decide(hold, DecisionKind.UsableAgain, 24).Refusal!.Code);
    }

    static ReturnLine Line(
        decimal counted = 24,
        bool isShut = false,
        IReadOnlyList<ReturnPart>? parts = null,
        IReadOnlyList<ReturnLooked>? looked = null,
        DateTime? told = null,
        IReadOnlyList<ReturnFreed>? freed = null
    ) =>
        new(
            24,
            new DateOnly(2026, 3, 6),
            counted,
            isShut,
            "each",
            "credit promised",
            [new ReturnArrival("A-2625", counted > 0, new DateTime(2026, 3, 10, 16, 0, 0))],
            looked ?? [],
            parts ?? [],
            told,
            freed ?? []
        );

    static string Done(ReturnLine line) => string.Join(" ", ReturnWay.Of(line).Where(w => w.Closed).Select(w => w.Word));

    static readonly DateTime told = new(2026, 3, 10, 16, 40, 0);

    [Fact]
    public void Its_way_is_done_as_far_as_it_is_done()
    {
        Assert.Equal("announced", Done(Line(0)));
        Assert.Equal("announced arrival inspection", Done(Line(10, parts: [new(10, null, null)])));
        Assert.Equal("announced arrival counted inspection", Done(Line(parts: [new(24, null, null)])));
        Assert.Equal("announced arrival counted", Done(Line(parts: [new(24, null, null)], looked: [new("I-1", true), new("I-2", null)])));
        // Some found, some not: neither the finding nor what is told is done.
        Assert.Equal(
            "announced arrival counted inspection",
            Done(Line(parts: [new(14, null, null), new(10, "no fault found: new", null)], told: told))
        );
        Assert.Equal(
            "announced arrival counted inspection finding accounts told",
            Done(Line(parts: [new(24, "no fault found: new", null)], told: told))
        );
        Assert.Equal(
            "announced arrival counted inspection finding accounts told decision",
            Done(Line(parts: [new(24, "no fault found: new", "to be scrapped")], told: told))
        );
        Assert.Equal(
            "announced arrival counted inspection finding accounts told decision done",
            Done(Line(parts: [new(0, "no fault found: new", null)], told: told, freed: [new(24, "usable in P-01-1")]))
        );
    }

    [Fact]
    public void A_return_of_which_no_more_comes_is_done_with_what_came()
    {
        Assert.DoesNotContain("counted", Done(Line(20)).Split(' '));
        Assert.Contains("done", Done(Line(20, isShut: true, parts: [new(0, "as the customer says: x", null)], told: told)).Split(' '));
        Assert.Contains("no more is waited for", ReturnWay.Of(Line(20, isShut: true))[2].Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void What_a_return_waits_for_is_the_first_that_somebody_has_to_do()
    {
        var decided = Found();
        _ = Decide(decided, DecisionKind.Scrap, 24);
        Assert.Equal(ReturnStage.Finding, ReturnStage.Of([decided, Found(), Bound()], comes: true));
        Assert.Equal(ReturnStage.Decision, ReturnStage.Of([decided, Found()], comes: true));
        Assert.Equal(ReturnStage.CarryingOut, ReturnStage.Of([decided], comes: true));
        Assert.Equal(ReturnStage.Coming, ReturnStage.Of([], comes: true));
        Assert.Equal(ReturnStage.Done, ReturnStage.Of([], comes: false));
    }

    [Theory]
    [InlineData(null)]
    [InlineData("  ")]
    public void A_return_wants_the_customers_reason(string? reason)
    {
        Assert.Equal("return-reason-missing", ReturnTerms.Read(reason, ReturnPromise.Credit).Refusal!.Code);
        Assert.Equal("return-reason-missing", ReturnTerms.Read(new string('x', 201), ReturnPromise.Credit).Refusal!.Code);
        Assert.Equal("return-promise-unknown", ReturnTerms.Read("broken", (ReturnPromise)9).Refusal!.Code);
        Assert.Equal("broken; repair promised", ReturnTerms.Read(" broken ", ReturnPromise.Repair).Value.ToString());
    }
}
