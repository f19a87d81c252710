using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Bench;

/// <summary>By which plans goods are inspected: the nearest rule that speaks of them decides.</summary>
public sealed class InspectionRuleTests
{
    const int Own = 1;
    const int Careful = 2;
    const int Coating = 3;

    static Item Item(int? plan = null, string category = "Tools") =>
        new()
        {
            Id = 7,
            Code = "SEC-21",
            Name = "Secateurs",
            BaseUnit = "EA",
            Step = 1,
            Category = category,
            InspectionPlanId = plan,
        };

    static int made;

    static InspectionRule Rule(
        int? plan,
        InspectionTrigger? trigger = null,
        int? item = null,
        string category = "",
        int? vendor = null,
        string origin = ""
    ) =>
        new()
        {
            Id = ++made,
            PlanId = plan,
            Trigger = trigger,
            ItemId = item,
            Category = category,
            VendorId = vendor,
            Origin = origin,
            Reason = "",
            By = "Leila",
            Since = DateTimeOffset.UnixEpoch,
        };

    static IEnumerable<int> For(Item item, InspectionTrigger trigger, params InspectionRule[] rules) =>
        WhichPlans.For(new GoodsToInspect(trigger, item, 4, "PT"), rules).Select(p => p.PlanId);

    [Fact]
    public void An_item_without_a_plan_and_without_a_rule_is_not_inspected() => Assert.Empty(For(Item(), InspectionTrigger.Receipt));

    [Fact]
    public void The_plan_of_the_item_holds_however_its_goods_come_and_by_hand_only_where_nothing_else_is_meant()
    {
        foreach (
            var comes in new[]
            {
                InspectionTrigger.Receipt,
                InspectionTrigger.Return,
                InspectionTrigger.Transfer,
                InspectionTrigger.Outwork,
            }
        )
            Assert.Equal([Own], For(Item(Own), comes));
        var goods = new GoodsToInspect(InspectionTrigger.ByHand, Item(Own), null, null);
        Assert.Equal([Own], WhichPlans.ByHand(goods, []).Select(p => p.PlanId));
        Assert.Equal([Careful], WhichPlans.ByHand(goods, [Rule(Careful, InspectionTrigger.ByHand)]).Select(p => p.PlanId));
    }

    [Fact]
    public void The_nearer_rule_wins_item_before_group_before_vendor_before_origin_before_how_they_come()
    {
        var (item, group, vendor, origin, way) = (
            Rule(11, item: 7),
            Rule(12, category: "tools"),
            Rule(13, vendor: 4),
            Rule(14, origin: "pt"),
            Rule(15, InspectionTrigger.Receipt)
        );
        InspectionRule[] rules = [way, vendor, item, origin, group];
        foreach (var expected in new[] { item, group, vendor, origin, way })
        {
            Assert.Equal([expected.PlanId!.Value], For(Item(), InspectionTrigger.Receipt, rules));
            rules = [.. rules.Where(r => r != expected)];
        }

        // One that says more is nearer, but no number of far ones outdoes a near one.
        Assert.Equal(
            [21],
            For(
                Item(),
                InspectionTrigger.Receipt,
                Rule(21, item: 7),
                Rule(22, InspectionTrigger.Receipt, category: "Tools", vendor: 4, origin: "PT")
            )
        );
        Assert.Equal([23], For(Item(Own), InspectionTrigger.Receipt, Rule(23, item: 7, vendor: 4)));
    }

    [Fact]
    public void Rules_equally_near_each_have_their_sheet_and_the_same_plan_has_one() =>
        Assert.Equal(
            [Own, Careful],
            For(Item(Own), InspectionTrigger.Receipt, Rule(Careful, item: 7), Rule(Own, item: 7), Rule(Coating, category: "Tools"))
        );

    [Fact]
    public void Where_a_nearest_rule_wants_none_there_is_none()
    {
        Assert.Empty(For(Item(Own), InspectionTrigger.Receipt, Rule(null, InspectionTrigger.Receipt, item: 7)));
        Assert.Equal([Own], For(Item(Own), InspectionTrigger.Outwork, Rule(null, InspectionTrigger.Receipt, item: 7)));
        Assert.Equal([Own], For(Item(Own), InspectionTrigger.Receipt, Rule(null, vendor: 4)));
    }

    [Fact]
    public void A_rule_for_outwork_does_not_speak_of_receipts_nor_one_that_ended_of_anything()
    {
        var coated = Rule(Coating, InspectionTrigger.Outwork, item: 7);
        Assert.Equal([Coating], For(Item(), InspectionTrigger.Outwork, coated));
        Assert.Empty(For(Item(), InspectionTrigger.Receipt, coated));
        coated.End("Leila", DateTimeOffset.UnixEpoch);
        Assert.Empty(For(Item(), InspectionTrigger.Outwork, coated));
    }

    [Fact]
    public void What_is_asked_for_by_hand_is_not_caught_by_a_rule_for_however_it_comes() =>
        Assert.Empty(For(Item(), InspectionTrigger.ByHand, Rule(Careful, category: "Tools")));

    [Fact]
    public void A_rule_reads_as_a_person_would_say_it() =>
        Assert.Equal(
            "all of Tools from Kitagiri Blades of origin PT, back from outwork",
            Rule(1, InspectionTrigger.Outwork, category: "Tools", vendor: 4, origin: "pt").Words(_ => "", _ => "Kitagiri Blades")
        );

    [Fact]
    public void What_the_order_line_asks_for_is_received_as_any_other_and_no_exemption_holds_against_it()
    {
        var line = InspectionTrigger.OrderLine;
        Assert.Equal([Own], For(Item(Own), line));
        Assert.Equal([Careful], For(Item(Own), line, Rule(Careful, item: 7, trigger: InspectionTrigger.Receipt)));
        Assert.Equal([Careful], For(Item(), line, Rule(Careful, line)));
        Assert.Empty(For(Item(), InspectionTrigger.Receipt, Rule(Careful, line)));
        var exempt = Rule(null, item: 7, vendor: 4);
        Assert.Empty(For(Item(Own), InspectionTrigger.Receipt, exempt));
        Assert.Equal([Own], For(Item(Own), line, exempt));
    }

    [Fact]
    public void Days_in_store_bring_goods_to_the_bench_only_by_a_rule_that_says_so()
    {
        Assert.Empty(For(Item(Own), InspectionTrigger.Age, Rule(Careful, item: 7), Rule(Careful, InspectionTrigger.Receipt)));
        var old = new InspectionRule
        {
            Id = 900,
            PlanId = Careful,
            Trigger = InspectionTrigger.Age,
            AfterDays = 90,
            ItemId = 7,
            Reason = "germination goes",
            By = "Leila",
            Since = DateTimeOffset.UnixEpoch,
        };
        Assert.Equal([Careful], For(Item(Own), InspectionTrigger.Age, old));
        Assert.Empty(For(Item(), InspectionTrigger.Receipt, old));
        Assert.Equal("Secateurs, 90 days in store", old.Words(_ => "Secateurs", _ => ""));
    }

    [Fact]
    public void Days_in_store_begin_anew_with_a_verdict_and_nothing_is_due_while_it_waits_for_one()
    {
        var came = new DateTimeOffset(2026, 1, 1, 8, 0, 0, TimeSpan.Zero);
        var rule = new InspectionRule
        {
            Id = 901,
            PlanId = Careful,
            Trigger = InspectionTrigger.Age,
            AfterDays = 30,
            ItemId = 7,
            Reason = "",
            By = "Leila",
            Since = came,
        };
        var goods = new GoodsToInspect(InspectionTrigger.Receipt, Item(), 4, "PT");
        Assert.Empty(Due(30 * 24 - 1));
        Assert.Equal([Careful], Due(30 * 24));
        Assert.Empty(Due(90 * 24, Sheet()));

        IEnumerable<int> Due(int hours, params Inspection[] sheets) =>
            WhichPlans.Due(goods, [rule], came, sheets, came.AddHours(hours)).Select(p => p.PlanId);

        Inspection Sheet() =>
            new()
            {
                Number = "I-1",
                SiteId = 1,
                ArrivalId = null,
                ItemId = 7,
                VendorId = 4,
                PlanId = Careful,
                Since = came,
            };
    }

    [Fact]
    public void A_rule_of_days_names_days_and_a_plan_and_no_other_rule_names_days()
    {
        static Refusal? Fault(InspectionTrigger? trigger, int? days, int? plan = Careful) =>
            new InspectionRule
            {
                PlanId = plan,
                Trigger = trigger,
                AfterDays = days,
                ItemId = 7,
                Reason = "",
                By = "Leila",
                Since = DateTimeOffset.UnixEpoch,
            }.DaysFault;
        Assert.Null(Fault(InspectionTrigger.Age, 1));
        Assert.Null(Fault(InspectionTrigger.Age, 3650));
        Assert.Null(Fault(InspectionTrigger.Receipt, null));
        Assert.Null(Fault(null, null, null));
        Assert.NotNull(Fault(InspectionTrigger.Age, null));
        Assert.NotNull(Fault(InspectionTrigger.Age, 0));
        Assert.NotNull(Fault(InspectionTrigger.Age, 3651));
        Assert.NotNull(Fault(InspectionTrigger.Receipt, 30));
        Assert.NotNull(Fault(InspectionTrigger.Age, 30, null));
    }
}
