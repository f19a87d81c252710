using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

public sealed class TallyRulesTests
{
    static readonly DateOnly today = new(2026, 3, 10);
    static readonly PackLevel kg = new() { Name = "kg", Numerator = 1 };
    static readonly PackLevel sack = new() { Name = "sack", Numerator = 25 };

    static readonly Item fenugreek = new()
    {
        Id = 1,
        Code = "SD-FEN",
        Name = "Fenugreek seed",
        BaseUnit = "KGM",
        Step = 0.5m,
        NeedsBatch = true,
        NeedsSourceBatch = true,
        NeedsDates = true,
        NeedsOrigin = true,
        ShelfLifeDays = 600,
        MinimumRemainingDays = 180,
        PackLevels = [kg, sack],
    };

    static readonly Count good = new(
        fenugreek,
        sack,
        12,
        null,
        "MK-F-2291",
        new GoodsDate(new DateOnly(2025, 10, 31)),
        new DateOnly(2027, 10, 30),
        null,
        "India",
        null,
        null,
        null,
        null,
        false,
        false
    );

    static readonly PartView open = new(7, "PO-4482", 2, today.AddDays(-60), today, 1000, 300, 0);

    static Outcome<CountDecision> Judge(Count count, bool maySettle = false, bool held = false, params PartView[] parts) =>
        TallyRules.Judge(count, parts.Length == 0 ? [open] : parts, today, 14, maySettle, held);

    [Fact]
    public void A_case_counts_its_content() => Assert.Equal(300, Judge(good).Value.Choice.Shares.Single().Quantity);

    [Fact]
    public void Good_goods_are_usable() => Assert.Equal(Standing.Usable, Judge(good).Value.Standing);

    [Fact]
    public void A_hold_rule_or_counting_aside_holds_them()
    {
        Assert.Equal(Standing.Held, Judge(good, held: true).Value.Standing);
        Assert.Equal(Standing.Held, Judge(good with { Aside = Aside.Damaged, Note = "torn" }).Value.Standing);
    }

    [Fact]
    public void Swapped_dates_are_refused_with_both_and_the_hint()
    {
        var refusal = Judge(
            good with
            {
                Production = new GoodsDate(new DateOnly(2026, 5, 1)),
                BestBefore = new DateOnly(2026, 3, 2),
            }
        ).Refusal!;
        Assert.Equal("dates-swapped", refusal.Code);
        Assert.Equal("Best before 2026-03-02 is before production 2026-05-01.", refusal.Sentence);
        Assert.Contains("swapped", refusal.Next);
    }

    [Fact]
    public void A_production_date_in_the_future_is_refused() =>
        Assert.Equal("production-in-future", Judge(good with { Production = new GoodsDate(today.AddDays(1)) }).Refusal!.Code);

    [Fact]
    public void A_production_month_of_this_month_is_no_future() =>
        Assert.Null(Judge(good with { Production = new GoodsDate(new DateOnly(2026, 3, 1), MonthOnly: true) }).Refusal);

    [Fact]
    public void Too_short_a_remaining_life_is_a_doubt_with_both_numbers_that_counting_aside_settles()
    {
        var count = good with { BestBefore = today.AddDays(100) };
        Assert.Contains("leaves 100 days; Fenugreek seed wants 180", Judge(count).Refusal!.Sentence);
        Assert.Equal(Standing.Held, Judge(count with { Aside = Aside.ShortLife }).Value.Standing);
    }

    // Common practice, no source: expiry left blank is worked out from production where known, else from receipt.
    [Fact]
    public void A_blank_best_before_is_worked_out_from_shelf_life_and_marked()
    {
        var dates = Judge(good with { BestBefore = null }).Value.Dates;
        Assert.Equal((new DateOnly(2025, 10, 31).AddDays(600), true), (dates.BestBefore!.Value, dates.WorkedOut));
        Assert.Equal(today.AddDays(600), Judge(good with { BestBefore = null, Production = null }).Value.Dates.BestBefore);
    }

    [Fact]
    public void Goods_whose_label_is_wrong_are_counted_aside_without_its_dates()
    {
        var count = good with { Production = new GoodsDate(today.AddDays(90)), BestBefore = today.AddDays(-90), Aside = Aside.LabelWrong };
        Assert.Null(Judge(count).Value.Dates.BestBefore);
    }

    [Fact]
    public void What_the_item_asks_for_is_wanted_by_name() =>
        Assert.Contains("source batch, origin", Judge(good with { SourceBatchNumber = null, Origin = " " }).Refusal!.Sentence);

    [Fact]
    public void An_item_asks_in_the_order_of_its_label_and_for_the_date_that_rules()
    {
        Assert.Equal(["sourceBatch", "production", "bestBefore", "origin"], TallyRules.Asks(fenugreek));
        var yoghurt = new Item
        {
            Id = 2,
            Code = "Y",
            Name = "Y",
            BaseUnit = "KGM",
            NeedsDates = true,
            RulingDate = RulingDate.Expiry,
            NeedsSerial = true,
            CatchWeight = true,
            PackLevels = [kg],
        };
        Assert.Equal(["production", "expiry", "serial", "weight"], TallyRules.Asks(yoghurt));
        Assert.Equal(
            ["expiry", "serial", "weight"],
            TallyRules.Wanted(good with { Item = yoghurt, Production = null, BestBefore = null, Serial = null })
        );
        Assert.Empty(
            TallyRules.Asks(
                new Item
                {
                    Id = 3,
                    Code = "X",
                    Name = "X",
                    BaseUnit = "KGM",
                    PackLevels = [kg],
                }
            )
        );
    }

    [Fact]
    public void An_unknown_country_is_refused() => Assert.Equal("country-unknown", Judge(good with { Origin = "Atlantis" }).Refusal!.Code);

    [Theory]
    [InlineData(0, "quantity-not-positive")]
    [InlineData(-1, "quantity-not-positive")]
    [InlineData(99_999_999, "quantity-too-large")]
    [InlineData(1.5, "packs-not-whole")]
    public void A_count_that_cannot_be_is_refused(decimal packs, string code) =>
        Assert.Equal(code, Judge(good with { Packs = packs }).Refusal!.Code);

    [Fact]
    public void A_quantity_between_steps_is_refused_with_the_two_nearest() =>
        Assert.Contains("10 and 10.5", Judge(good with { Pack = kg, Packs = 10.3m }).Refusal!.Sentence);

    [Fact]
    public void Over_beyond_tolerance_wants_a_supervisor_who_may_take_it()
    {
        var count = good with { Packs = 40 };
        Assert.Equal("over", Judge(count, maySettle: true).Refusal!.Code);
        Assert.Equal("right-missing", Judge(count with { OverAllowed = true }).Refusal!.Code);
        Assert.Equal(300, Judge(count with { OverAllowed = true }, maySettle: true).Value.Over);
    }

    [Fact]
    public void Damaged_goods_want_a_sentence() =>
        Assert.Equal(
            "note-missing",
            Judge(good with { Aside = Aside.Damaged, Reason = new DoorSettings().ReasonOf(Aside.Damaged, null).Value }).Refusal!.Code
        );

    [Fact]
    public void A_reason_of_the_administrators_list_may_force_a_picture()
    {
        var crushed = new AsideReason("crushed", Aside.Damaged, WantsPicture: true);
        var settings = new DoorSettings { Reasons = [crushed, new AsideReason("wet", Aside.Damaged)] };
        Assert.Equal(crushed, settings.ReasonOf(null, "crushed").Value);
        Assert.Equal("reason-unknown", settings.ReasonOf(Aside.Damaged, "bent").Refusal?.Code);
        Assert.Equal("reason-unknown", settings.ReasonOf(Aside.ShortLife, "wet").Refusal?.Code);
        var count = good with { Aside = Aside.Damaged, Reason = crushed };
        Assert.Equal("picture-missing", Judge(count).Refusal!.Code);
        Assert.Equal(Standing.Held, Judge(count with { Pictures = 1 }).Value.Standing);
    }

    [Fact]
    public void Weighed_goods_lie_within_their_tolerance()
    {
        var pot = new Item
        {
            Id = 3,
            Code = "POT",
            Name = "Potted lemon",
            Mass = 4,
            CatchWeight = true,
            WeightTolerance = 10,
            PackLevels = [new PackLevel { Name = "each", Numerator = 1 }, new PackLevel { Name = "tray", Numerator = 4 }],
        };
        var count = new Count(pot, pot.PackLevels[1], 2, null, null, null, null, null, null, null, null, null, null, false, false);
        Assert.Equal("wanted", Judge(count).Refusal!.Code);
        Assert.Null(Judge(count with { Weight = 35.2m }).Refusal);
        Assert.Equal("weight-off", Judge(count with { Weight = 35.3m }).Refusal!.Code);
        Assert.Equal("weight-off", Judge(count with { Weight = 28.7m }).Refusal!.Code);
        Assert.Null(Judge(count with { Weight = 20m, Aside = Aside.Damaged, Note = "half of it broke off" }).Refusal);
    }

    [Fact]
    public void In_a_blind_count_nothing_is_refused_for_what_was_expected()
    {
        Assert.Null(Judge(good with { Packs = 4000, Blind = true }).Refusal);
        Assert.Null(TallyRules.Judge(good with { Blind = true }, [open with { Due = today.AddDays(90) }], today, 14, false, false).Refusal);
    }

    [Theory]
    [InlineData(QuantityEntry.Scanned, 300, false, 1, false)]
    [InlineData(QuantityEntry.Proposed, 310, false, 12, true)]
    [InlineData(QuantityEntry.Proposed, 310, true, 1, false)]
    [InlineData(QuantityEntry.Proposed, 20, false, 1, false)]
    [InlineData(QuantityEntry.Typed, 310, false, null, false)]
    public void What_is_open_is_proposed_only_where_the_site_says_so_and_in_whole_packs(
        QuantityEntry setting,
        int open,
        bool isGiven,
        int? packs,
        bool proposed
    ) => Assert.Equal(((decimal?)packs, proposed), QuantityRules.Entry(setting, open, sack, 1, isGiven));

    [Fact]
    public void Goods_on_no_order_of_the_arrival_are_refused() =>
        Assert.Equal("not-on-arrival", TallyRules.Judge(good, [], today, 14, false, false).Refusal!.Code);

    [Fact]
    public void Early_goods_are_asked_about()
    {
        var early = open with { Due = today.AddDays(40) };
        Assert.Equal("early", Judge(good, parts: early).Refusal!.Code);
        Assert.Null(Judge(good with { EarlyAllowed = true }, parts: early).Refusal);
    }

    [Theory]
    [InlineData("12", true)]
    [InlineData("1 200.5", true)]
    [InlineData("abc", false)]
    [InlineData("1e30", false)]
    [InlineData("", false)]
    [InlineData("0.0000001", false)]
    [InlineData("99999999999999999999999999999999999", false)]
    public void A_number_is_read_as_people_type_it_or_refused(string text, bool read) =>
        Assert.Equal(read, Quantities.Read(text).Refusal is null);

    [Theory]
    [InlineData("2026-03-10", true)]
    [InlineData("2026-03", true)]
    [InlineData("", true)]
    [InlineData("10.03.2026", false)]
    [InlineData("2026-02-30", false)]
    public void A_date_is_read_as_people_type_it_or_refused(string text, bool read) =>
        Assert.Equal(read, GoodsDate.Typed("Production", text).Refusal is null);

    [Fact]
    public void Closing_wants_a_decision_for_every_short_line_and_a_note_for_every_vendor()
    {
        var lines = new[]
        {
            new ClosingLine(1, 10, 10, 0, null),
            new ClosingLine(2, 10, 4, 6, null),
            new ClosingLine(3, 10, 0, 10, ShortDecision.MoreToCome),
        };
        (int, string)[] vendors = [(5, "Nilgama Coir")];
        Assert.Equal("lines-undecided", ClosingRules.Check(lines, vendors, new Dictionary<int, string>()).Code());
        lines[1] = lines[1] with { Decision = ShortDecision.NeverComing };
        Assert.Equal("delivery-note-missing", ClosingRules.Check(lines, vendors, new Dictionary<int, string>()).Code());
        Assert.Null(ClosingRules.Check(lines, vendors, new Dictionary<int, string> { [5] = "DN-1" }));
    }
}
