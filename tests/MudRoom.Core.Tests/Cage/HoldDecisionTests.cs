using CsCheck;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>Decisions over nonconforming goods: what is decided has still to happen, and until then the goods are held.</summary>
public sealed class HoldDecisionTests
{
    static readonly SiteTime local = at => at.UtcDateTime;
    static readonly DateTimeOffset start = new(2026, 3, 5, 10, 15, 0, TimeSpan.Zero);
    static readonly Hand wanjiru = new(1, "Wanjiru"),
        leila = new(3, "Leila");

    static Hold Rejected(decimal quantity = 96)
    {
        var hold = new Hold
        {
            Id = 7,
            Number = "H-298",
            SiteId = 1,
            ItemId = 1,
            Reason = HoldReason.Nonconforming,
            Sentence = "chipped",
            Since = start,
            LaidBy = "Sunita",
        };
        Assert.Null(hold.Grow(quantity, local));
        return hold;
    }

    static Outcome<AfterDecision> Decide(Hold hold, DecisionKind kind, decimal quantity) =>
        hold.Decide(kind.By(wanjiru, start), quantity, local);

    static Outcome<AfterDecision> CarryOut(Hold hold, Hand? witness = null, bool isLookedAt = true) =>
        hold.CarryOut(start.AddHours(1), wanjiru, witness, isLookedAt, local);

    [Theory]
    [InlineData(DecisionKind.Scrap, "to be scrapped", "to be scrapped")]
    [InlineData(DecisionKind.ReturnToVendor, "to be returned to vendor", "to go back")]
    [InlineData(DecisionKind.Rework, "to be reworked", "rejected")]
    [InlineData(DecisionKind.Repair, "to be repaired", "rejected")]
    [InlineData(DecisionKind.Regrade, "to be regraded", "rejected")]
    public void What_is_decided_has_still_to_happen_and_is_not_decided_or_lifted_meanwhile(DecisionKind kind, string toBe, string asks)
    {
        var hold = Rejected();
        var waits = Assert.IsType<AfterDecision.Waits>(Decide(hold, kind, 96).Value);
        Assert.Equal((96m, true, toBe), (hold.Quantity, hold.IsOpen, hold.Decision!.ToBe));
        Assert.Same(hold.Decision, waits.For);
        Assert.Equal("decided-already", Decide(hold, DecisionKind.Scrap, 1).Refusal!.Code);
        Assert.Equal(HoldWaits.CarryingOut, CageQueue.WaitsFor(hold, start));
        Assert.Equal((1, $"Decided by Wanjiru: {toBe}. It has still to happen."), CageQueue.Place(hold, start));
        Assert.Equal(
            [("decision", true, $"{toBe}: Wanjiru, 2026-03-05 10:15"), ("done", false, "that it has happened")],
            hold.Links(start, local).Select(l => (l.Word, l.Closed, l.Sentence))
        );
        var part = Rejected();
        waits = Assert.IsType<AfterDecision.Waits>(Decide(part, kind, 36).Value);
        Assert.Equal((60m, null), (part.Quantity, part.Decision));
        var own = part.PartDecided("H-299", 36, waits.For);
        Assert.Equal((36m, 7, toBe, true), (own.Quantity, own.CameFromId, own.Decision!.ToBe, own.IsOpen));
        Assert.Equal(asks, SiteStandings.BuiltIn.Word(own.Asks));
        Assert.Equal("not-decided", CarryOut(part, leila).Refusal!.Code);
    }

    [Fact]
    public void What_is_scrapped_is_seen_by_somebody_else()
    {
        var hold = Rejected();
        Assert.Null(Decide(hold, DecisionKind.Scrap, 96).Refusal);
        Assert.Equal("witness-missing", CarryOut(hold).Refusal!.Code);
        Assert.Equal("witness-missing", CarryOut(hold, wanjiru).Refusal!.Code);
        Assert.Equal(96, hold.Quantity);
        Assert.Equal(new AfterDecision.Leave(Account.Scrap), CarryOut(hold, leila).Value);
        Assert.Equal((0m, false), (hold.Quantity, hold.IsOpen));
        Assert.Equal("hold-lifted", CarryOut(hold, leila).Refusal!.Code);
    }

    [Fact]
    public void What_goes_back_leaves_when_it_leaves_and_what_was_worked_on_is_looked_at_again()
    {
        var back = Rejected();
        Assert.Null(Decide(back, DecisionKind.ReturnToVendor, 96).Refusal);
        Assert.Equal(new AfterDecision.Leave(Account.Vendor), CarryOut(back).Value);
        var worked = Rejected();
        Assert.Null(Decide(worked, DecisionKind.Rework, 96).Refusal);
        Assert.IsType<AfterDecision.LookedAtAgain>(CarryOut(worked).Value);
        Assert.False(worked.IsOpen);
    }

    /// <summary>Nobody's word alone makes rejected goods good.</summary>
    [Fact]
    public void What_was_worked_on_and_no_plan_looks_at_is_decided_over_again()
    {
        var hold = Rejected();
        Assert.Null(Decide(hold, DecisionKind.Repair, 96).Refusal);
        Assert.IsType<AfterDecision.DecidedAgain>(CarryOut(hold, isLookedAt: false).Value);
        Assert.Equal((96m, true, null), (hold.Quantity, hold.IsOpen, hold.Decision));
        Assert.IsType<AfterDecision.Free>(Decide(hold, DecisionKind.ReleaseUnderConcession, 96).Value);
    }

    [Fact]
    public void What_is_decided_is_taken_back_while_it_has_not_happened()
    {
        var hold = Rejected();
        Assert.Equal("not-decided", hold.Undecide(local).Refusal!.Code);
        Assert.Null(Decide(hold, DecisionKind.Scrap, 96).Refusal);
        Assert.Equal(DecisionKind.Scrap, hold.Undecide(local).Value.Kind);
        Assert.Null(hold.Decision);
        Assert.Null(Decide(hold, DecisionKind.ReturnToVendor, 96).Refusal);
        Assert.Null(CarryOut(hold).Refusal);
        Assert.Equal("hold-lifted", hold.Undecide(local).Refusal!.Code);
    }

    [Fact]
    public void Goods_counted_aside_of_which_something_is_decided_are_not_lifted()
    {
        var aside = new Hold
        {
            Number = "H-1",
            SiteId = 1,
            ItemId = 1,
            Reason = HoldReason.CountedAside,
            Sentence = "torn",
            Since = start,
            LaidBy = "x",
        };
        Assert.Null(aside.Grow(5, local));
        Assert.True(aside.IsReady(start));
        Assert.True(aside.MayJoin([]));
        Assert.Null(Decide(aside, DecisionKind.Scrap, 5).Refusal);
        Assert.False(aside.IsReady(start));
        Assert.Equal("decided-already", aside.Lift(start, wanjiru, null, local).Refusal!.Code);
        Assert.False(aside.MayJoin([]));
    }

    /// <summary>In whatever parts and order it is decided, carried out and taken back, what is held and what went is what was.</summary>
    [Fact]
    public void Nothing_appears_or_vanishes_by_deciding() =>
        Gen.Select(Gen.Int[1, 50], Gen.Select(Gen.Int[0, 6], Gen.Int[0, 20], Gen.Int[0, 4]).Array[0, 20])
            .Sample(
                (quantity, acts) =>
                {
                    var holds = new List<Hold> { Rejected(quantity) };
                    var gone = 0m;
                    foreach (var (act, part, kind) in acts)
                    {
                        var hold = holds[part % holds.Count];
                        var had = hold.Quantity;
                        if (act == 0)
                            hold.Undecide(local);
                        else if (act == 1 && !CarryOut(hold, leila, part % 2 == 0).Refused(out _))
                            gone += had - hold.Quantity;
                        else if (act > 1 && !Decide(hold, (DecisionKind)kind, part).Refused(out _))
                        {
                            if (kind == 0)
                                gone += part;
                            else if (hold.Decision is null)
                                holds.Add(
                                    hold.PartDecided($"H-{holds.Count}", part, new HoldDecision((DecisionKind)kind, wanjiru, start, "x"))
                                );
                        }

                        Assert.Equal(quantity, gone + holds.Sum(h => h.Quantity));
                        Assert.All(holds, h => Assert.Equal(h.IsOpen, h.Quantity > 0));
                    }
                }
            );
}
