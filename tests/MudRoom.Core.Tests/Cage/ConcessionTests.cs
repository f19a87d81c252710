using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>Concession, regrade (ISO 9000:2015, 3.12.5 and 3.12.4), who decides besides, and where decided goods are brought.</summary>
public sealed class ConcessionTests
{
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 20, 0, TimeSpan.Zero);
    static readonly Hand wanjiru = new(1, "Wanjiru");
    static readonly Hand dilys = new(12, "Dilys");
    static readonly SiteTime local = at => at.UtcDateTime;

    static Hold Rejected(DateTimeOffset? until = null, params Wanted[] wants)
    {
        var hold = new Hold
        {
            Id = 4,
            Number = "H-0500",
            SiteId = 1,
            ItemId = 1,
            Reason = HoldReason.Nonconforming,
            Sentence = "chipped rims",
            Since = now.AddDays(-4),
            Until = until,
            LaidBy = "Sunita",
        }.Wanting(HoldCondition.From(wants.Select(w => ("", w)), now));
        Assert.Null(hold.Grow(40, local));
        return hold;
    }

    static HoldDecision Until(DateTimeOffset? until, string askedBy = "Hollin Nurseries", string forWhom = "C-20417") =>
        new(DecisionKind.ReleaseUnderConcession, wanjiru, now, "only the look of it")
        {
            Concession = new Concession(askedBy, forWhom, until),
        };

    [Fact]
    public void Goods_under_a_concession_are_usable_until_its_end_and_are_held_again_then()
    {
        var hold = Rejected();
        var waits = Assert.IsType<AfterDecision.Waits>(hold.Decide(Until(now.AddDays(3)), 40, local).Value);
        Assert.Equal("released under concession", waits.For.ToBe);
        Assert.Equal((Standing.Usable, now.AddDays(3), 40m, true), (hold.Asks, hold.UsableUntil, hold.Quantity, hold.IsOpen));
        Assert.Equal(HoldWaits.Concession, CageQueue.WaitsFor(hold, now));
        Assert.Equal(
            (6, "Under concession, asked by Hollin Nurseries for C-20417; what is left is held again at its end."),
            CageQueue.Place(hold, now)
        );
        Assert.Equal(
            [
                ("concession", true, "asked by Hollin Nurseries for C-20417: Wanjiru, 2026-03-10 11:20"),
                ("held again", false, "2026-03-13 11:20, what is left"),
            ],
            hold.Links(now, local).Select(l => (l.Word, l.Closed, l.Sentence))
        );
        Assert.Null(HoldNotices.Of(hold, "pots", _ => true, wanjiru, now));
        Assert.Equal("decided-already", hold.Decide(Until(null), 1, local).Refusal!.Code);
        Assert.Equal("decided-already", hold.CarryOut(now, wanjiru, dilys, true, local).Refusal!.Code);

        // Twelve are used under it.
        Assert.Null(hold.Shrink(12, now, "Wanjiru", local));
        Assert.Equal(DecisionKind.ReleaseUnderConcession, hold.Undecide(local).Value.Kind);
        Assert.Equal((Standing.Rejected, null, 28m), (hold.Asks, hold.UsableUntil, hold.Quantity));
        Assert.Equal(HoldWaits.Decision, CageQueue.WaitsFor(hold, now));
    }

    [Fact]
    public void A_part_under_a_concession_has_a_hold_of_its_own()
    {
        var hold = Rejected();
        var waits = Assert.IsType<AfterDecision.Waits>(hold.Decide(Until(now.AddDays(3)), 10, local).Value);
        var part = hold.PartDecided("H-0501", 10, waits.For);
        Assert.Equal((30m, Standing.Rejected, null), (hold.Quantity, hold.Asks, hold.UsableUntil));
        Assert.Equal((10m, Standing.Usable, now.AddDays(3)), (part.Quantity, part.Asks, part.UsableUntil));
    }

    [Fact]
    public void One_without_an_end_frees_for_good()
    {
        var hold = Rejected();
        Assert.IsType<AfterDecision.Free>(hold.Decide(Until(null), 40, local).Value);
        Assert.Equal((false, null), (hold.IsOpen, hold.UsableUntil));
    }

    [Theory]
    [InlineData("", "C-1")]
    [InlineData("Hollin", "")]
    public void Who_asked_and_for_what_is_said(string askedBy, string forWhom)
    {
        var hold = Rejected();
        Assert.Equal("concession-absurd", hold.Decide(Until(null, askedBy, forWhom), 40, local).Refusal!.Code);
        Assert.Equal(
            "concession-absurd",
            hold.Decide(new HoldDecision(DecisionKind.ReleaseUnderConcession, wanjiru, now, "x"), 40, local).Refusal!.Code
        );
        Assert.Equal("concession-absurd", hold.Decide(Until(now), 40, local).Refusal!.Code);
        Assert.Equal("more-than-held", hold.Decide(Until(now.AddDays(1)), 41, local).Refusal!.Code);
        Assert.Equal((40m, null), (hold.Quantity, hold.Decision));
    }

    [Fact]
    public void While_something_else_is_wanted_nothing_is_usable_until_a_day_and_nothing_is_regraded()
    {
        var runs = Rejected(now.AddDays(1));
        Assert.Equal("time-not-over", runs.Decide(Until(now.AddDays(3)), 40, local).Refusal!.Code);
        var wanting = Rejected(null, new Wanted(ConditionKind.Signature, "a signature", Right.LiftHold));
        Assert.Equal("conditions-open", wanting.Decide(Until(now.AddDays(3)), 40, local).Refusal!.Code);
        Assert.IsType<AfterDecision.HeldOn>(wanting.Decide(Until(null), 10, local).Value);
        Assert.Null(wanting.Decide(DecisionKind.Regrade.By(wanjiru, now), 30, local).Refusal);
        Assert.Equal("conditions-open", wanting.CarryOut(now, wanjiru, null, false, local).Refusal!.Code);
        Assert.Equal(30, wanting.Quantity);
    }

    [Fact]
    public void What_is_regraded_is_of_the_other_item_when_it_is_relabelled_and_not_before()
    {
        var hold = Rejected();
        Assert.Equal("regrade-wrong", hold.Decide(new HoldDecision(DecisionKind.Regrade, wanjiru, now, "x"), 40, local).Refusal!.Code);
        Assert.IsType<AfterDecision.Waits>(hold.Decide(DecisionKind.Regrade.By(wanjiru, now), 40, local).Value);
        Assert.Equal(Standing.Rejected, hold.Asks);
        Assert.Equal(new AfterDecision.Become(2), hold.CarryOut(now, wanjiru, null, false, local).Value);
        Assert.False(hold.IsOpen);
    }

    static Item Pot(int id, string unit = "H87", bool batch = false, bool serial = false, decimal step = 1) =>
        new()
        {
            Id = id,
            Code = $"TP-{id}",
            Name = $"Terracotta {id}",
            BaseUnit = unit,
            NeedsBatch = batch,
            NeedsSerial = serial,
            Step = step,
            PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
        };

    [Fact]
    public void Goods_become_only_an_item_that_they_can_be()
    {
        Assert.Null(Regrade.Fault(Pot(1), Pot(2), 24, false));
        Assert.Null(Regrade.Fault(Pot(1), Pot(2, batch: true), 24, true));
        foreach (
            var (into, haveBatch) in new[]
            {
                ((Item?)null, true),
                (Pot(1), true),
                (Pot(2, "KGM"), true),
                (Pot(2, serial: true), true),
                (Pot(2, batch: true), false),
            }
        )
            Assert.Equal("regrade-wrong", Regrade.Fault(Pot(1), into, 24, haveBatch)?.Code);
        Assert.Equal("regrade-wrong", Regrade.Fault(Pot(1, serial: true), Pot(2), 24, true)?.Code);
        Assert.NotNull(Regrade.Fault(Pot(1), Pot(2, step: 10), 24, true));
    }

    [Fact]
    public void Above_a_value_and_without_a_price_two_people_decide()
    {
        var one = new CageSettings();
        Assert.Null(one.Second(1_000_000, wanjiru, null));
        Assert.Null(one.Second(null, wanjiru, null));
        var two = new CageSettings { SecondAbove = 250 };
        Assert.Null(two.Second(250, wanjiru, null));
        Assert.Equal("second-missing", two.Second(250.01m, wanjiru, null)!.Code);
        Assert.Equal("second-missing", two.Second(null, wanjiru, null)!.Code);
        Assert.Equal("second-missing", two.Second(300, wanjiru, (wanjiru, _ => true))!.Code);
        Assert.Equal("second-missing", two.Second(300, wanjiru, (dilys, _ => false))!.Code);
        Assert.Null(two.Second(300, wanjiru, (dilys, right => right == Right.SeePrices)));
        Assert.Null(two.Second(null, wanjiru, (dilys, right => right == Right.Decide)));
        Assert.NotNull(new CageSettings { SecondAbove = -1 }.Fault);
        Assert.DoesNotContain("300", two.Second(300, wanjiru, null)!.Sentence, StringComparison.Ordinal);
    }

    /// <summary>Common practice, no source: what leaves is brought to the scrap place or to where it is despatched from, also out of the
    /// cage.</summary>
    [Theory]
    [InlineData(BinFunction.Staging, true, true)]
    [InlineData(BinFunction.Bench, true, true)]
    [InlineData(BinFunction.Cage, true, true)]
    [InlineData(BinFunction.Reserve, true, true)]
    [InlineData(BinFunction.Scrap, false, true)]
    [InlineData(BinFunction.Dispatch, true, false)]
    public void What_is_decided_to_leave_is_brought_to_where_it_leaves_from(BinFunction at, bool scrapped, bool sentBack)
    {
        Assert.Equal(scrapped, ShelfQueue.Waits(at, SiteStandings.BuiltIn[Standing.ToScrap]));
        Assert.Equal(sentBack, ShelfQueue.Waits(at, SiteStandings.BuiltIn[Standing.ToGoBack]));
    }

    [Fact]
    public void A_recall_of_an_item_finds_what_was_regraded_out_of_it()
    {
        var scope = new RecallScope(RecallBy.SourceBatch, 1, null, ["SB-1"]);
        var regraded = new GoodsInQuestion(2, 7, null, "B-1", "SB-1", null, null, CameAsItemId: 1);
        Assert.True(scope.Catches(regraded));
        Assert.False(scope.Catches(regraded with { CameAsItemId = null }));
        Assert.False(scope.Catches(regraded with { CameAsItemId = 3 }));
    }
}
