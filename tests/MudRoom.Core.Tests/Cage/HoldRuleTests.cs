using CsCheck;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>Which goods a rule of quarantine catches, and until when it holds them.</summary>
public sealed class HoldRuleTests
{
    static readonly WarehouseSite site = new()
    {
        Id = 1,
        Code = "LM",
        Name = "Low Meadow",
        TimeZone = "Europe/London",
    };

    static readonly DateTimeOffset start = new(2026, 2, 24, 9, 25, 0, TimeSpan.Zero);

    static Item Of(string category, int id = 7) =>
        new()
        {
            Id = id,
            Code = "L",
            Name = "Lemon",
            Category = category,
        };

    static GoodsToHold Goods(string category = "citrus", string? origin = "IT", string? batch = null, int vendor = 3, int month = 2) =>
        new(Of(category), [vendor], origin, batch, new DateOnly(2026, month, 24), [41, 42]);

    static HoldRule Rule(string category = "", int days = 14, string? origin = null) =>
        new()
        {
            Name = "Quarantine",
            Category = category,
            Origin = origin,
            Days = days,
        };

    static readonly HoldStarts tallied = new(start, null, null);

    /// <summary>Whatever the clock at the site does in between: counted in ticks, from any start and offset.</summary>
    [Fact]
    public void Calendar_days_are_never_short_and_never_long() =>
        Gen.Select(Gen.Int[1, 60], Gen.Int[0, 366 * 24], Gen.Int[-11, 13])
            .Sample(
                (days, hour, offset) =>
                {
                    var from = new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero).AddHours(hour).ToOffset(TimeSpan.FromHours(offset));
                    var until = Rule("any", days).Until(new HoldStarts(from, null, null), site, () => WorkCalendar.Usual);
                    return until.UtcTicks - from.UtcTicks == days * 864_000_000_000L;
                }
            );

    /// <summary>Against a count of half days one by one, on calendars with days off and half days anywhere.</summary>
    [Fact]
    public void As_many_half_days_are_worked_until_working_days_are_over_as_were_asked_for()
    {
        var first = new DateOnly(2026, 1, 1);
        Gen.Select(Gen.Int[1, 40], Gen.Int[0, 300], Gen.Int[0, 2], Gen.Int[0, 370].Array[0, 30], Gen.Int[0, 1].Array[31])
            .Sample(
                (days, from, saturday, odd, kinds) =>
                {
                    var week = new Dictionary<DayOfWeek, WorkDay>(WorkCalendar.Usual.Week) { [DayOfWeek.Saturday] = (WorkDay)saturday };
                    var special = odd.Distinct().Select((d, i) => (first.AddDays(d), (WorkDay)kinds[i])).ToDictionary();
                    var works = new WorkCalendar(week, special);
                    var day = first.AddDays(from);
                    var end = works.EndOf(day, 2 * days);
                    var halfDays = 0;
                    var before = 0;
                    for (var d = day.AddDays(1); d.ToDateTime(TimeOnly.MinValue) < end; d = d.AddDays(1))
                        (before, halfDays) = (halfDays, halfDays + (int)works.On(d));
                    return halfDays >= 2 * days && before < 2 * days;
                }
            );
    }

    [Fact]
    public void The_last_day_is_waited_for_whole_a_half_one_until_noon()
    {
        var works = WorkCalendar.Usual with
        {
            Week = new Dictionary<DayOfWeek, WorkDay>(WorkCalendar.Usual.Week) { [DayOfWeek.Saturday] = WorkDay.Half },
        };
        // Of Thursday: Friday, the half Saturday, and Monday, of which half was wanted.
        var ends = new[] { 2, 3, 4 }.Select(halfDays => works.EndOf(new DateOnly(2026, 3, 5), halfDays));
        Assert.Equal([new DateTime(2026, 3, 7), new DateTime(2026, 3, 7, 12, 0, 0), new DateTime(2026, 3, 10)], ends);
    }

    [Fact]
    public void A_rule_catches_what_it_names_and_nothing_else()
    {
        Assert.True(Rule("citrus").Catches(Goods()));
        Assert.True(Rule("Citrus", origin: "it").Catches(Goods()));
        Assert.False(Rule("pot").Catches(Goods()));
        Assert.False(Rule("citrus", origin: "ES").Catches(Goods()));
        Assert.False(Rule("citrus", origin: "IT").Catches(Goods(origin: null)));
        HoldRule named(int? item = null, int? vendor = null, string batch = "") =>
            new()
            {
                Name = "Quarantine",
                Days = 1,
                ItemId = item,
                VendorId = vendor,
                BatchPattern = batch,
            };
        Assert.True(named(item: 7).Catches(Goods()));
        Assert.False(named(item: 8).Catches(Goods()));
        Assert.True(named(vendor: 3).Catches(Goods()));
        Assert.False(named(vendor: 4).Catches(Goods()));
        // While it is open whose they are, a rule of any of them holds.
        Assert.True(named(vendor: 4).Catches(Goods() with { Vendors = [3, 4] }));
    }

    [Theory]
    [InlineData("AB-*", "ab-17", true)]
    [InlineData("AB-*", "AB-", true)]
    [InlineData("AB-*", "CAB-17", false)]
    [InlineData("*-26", "AB-26", true)]
    [InlineData("*-26", "AB-261", false)]
    [InlineData("A*B*C", "AxxBC", true)]
    [InlineData("A*B*C", "AC", false)]
    [InlineData("AB*BA", "ABA", false)]
    [InlineData("A*BB*B", "ABB", false)]
    [InlineData("AB-17", "ab-17", true)]
    [InlineData("AB-17", "AB-171", false)]
    [InlineData("AB.*", "ABx", false)]
    [InlineData("*", null, false)]
    public void A_star_stands_for_any_signs_of_the_suppliers_batch(string pattern, string? batch, bool isCaught) =>
        Assert.Equal(
            isCaught,
            new HoldRule
            {
                Name = "Batch",
                Days = 1,
                BatchPattern = pattern,
            }.Catches(Goods(batch: batch))
        );

    [Theory]
    [InlineData(1101, 228, 2, true)]
    [InlineData(1101, 223, 2, false)]
    [InlineData(224, 224, 2, true)]
    [InlineData(401, 930, 2, false)]
    [InlineData(401, 930, 9, true)]
    public void A_season_may_reach_over_the_new_year(int first, int last, int month, bool isCaught) =>
        Assert.Equal(
            isCaught,
            new HoldRule
            {
                Name = "Season",
                Category = "citrus",
                Days = 1,
                SeasonFirst = first,
                SeasonLast = last,
            }.Catches(Goods(month: month))
        );

    [Fact]
    public void Days_count_from_the_tally_the_gate_or_production_and_from_the_tally_where_the_other_is_not_known()
    {
        HoldRule from(HoldFrom which) =>
            new()
            {
                Name = "Q",
                Category = "citrus",
                Days = 3,
                From = which,
            };
        var gate = start.AddHours(-5);
        var starts = new HoldStarts(start, gate, new DateOnly(2026, 2, 20));
        DateTimeOffset until(HoldFrom which, HoldStarts of) => from(which).Until(of, site, () => WorkCalendar.Usual);
        Assert.Equal(start.AddDays(3), until(HoldFrom.Tally, starts));
        Assert.Equal(gate.AddDays(3), until(HoldFrom.Arrival, starts));
        Assert.Equal(new DateTimeOffset(2026, 2, 24, 0, 0, 0, TimeSpan.Zero), until(HoldFrom.Production, starts));
        Assert.Equal(start.AddDays(3), until(HoldFrom.Arrival, tallied));
        Assert.Equal(start.AddDays(3), until(HoldFrom.Production, tallied));
        string told(HoldFrom which) =>
            Assert.Single(HoldRule.ConditionsFor([from(which)], Goods(), tallied, site, () => WorkCalendar.Usual).Times).Rule;
        Assert.Equal("Q", told(HoldFrom.Tally));
        Assert.Equal("Q (from the tally: nobody kept when they came)", told(HoldFrom.Arrival));
        Assert.Equal("Q (from the tally: the count names no day of production)", told(HoldFrom.Production));
    }

    [Fact]
    public void Every_rule_in_force_that_catches_goods_lays_its_time()
    {
        var ended = Rule("citrus", 99);
        ended.End("Sunita", start);
        var laid = HoldRule.ConditionsFor(
            [Rule("citrus"), Rule("citrus", 21, "IT"), Rule("bare-root tree"), ended],
            Goods(),
            tallied,
            site,
            () => throw new InvalidOperationException("No rule counts working days.")
        );
        Assert.Equal([start.AddDays(14), start.AddDays(21)], laid.Times.Select(t => t.Until));
    }

    [Fact]
    public void A_rule_says_in_words_what_it_catches()
    {
        var rule = new HoldRule
        {
            Name = "Citrus",
            Category = "citrus",
            VendorId = 3,
            Origin = "IT",
            BatchPattern = "V-*",
            SeasonFirst = 1101,
            SeasonLast = 228,
            Days = 10,
            Counted = HoldDays.Working,
            From = HoldFrom.Arrival,
        };
        Assert.Equal(
            "all of citrus from Agrumi of origin IT whose batch is written V-* that came from 1 Nov to 28 Feb: "
                + "10 working days from the gate",
            rule.Words(_ => "item", _ => "Agrumi")
        );
        Assert.Equal(
            "everything from Agrumi: 1 calendar day from the tally",
            new HoldRule
            {
                Name = "V",
                Days = 1,
                VendorId = 3,
            }.Words(_ => "", _ => "Agrumi")
        );
    }

    [Fact]
    public void A_rule_names_goods_a_time_and_a_season_that_can_be()
    {
        Assert.Null(Rule("citrus").Fault);
        Assert.Equal("hold-rule-empty", Rule().Fault!.Code);
        Assert.Equal("hold-rule-absurd", Rule("citrus", 0).Fault!.Code);
        Assert.Equal("hold-rule-absurd", Rule("citrus", 3651).Fault!.Code);
        HoldRule season(int? first, int? last) =>
            new()
            {
                Name = "S",
                Category = "citrus",
                Days = 1,
                SeasonFirst = first,
                SeasonLast = last,
            };
        Assert.Null(season(229, 229).Fault);
        foreach (var (first, last) in new (int?, int?)[] { (101, null), (null, 101), (230, 301), (1301, 101), (100, 101), (101, 431) })
            Assert.Equal("hold-rule-absurd", season(first, last).Fault!.Code);
    }

    [Fact]
    public void A_site_works_on_the_days_on_which_a_door_is_open_and_half_where_all_shut_by_one()
    {
        var works = new PlanSettings
        {
            Hours =
            [
                new DoorHours(1, DayOfWeek.Friday, new TimeOnly(6, 0), new TimeOnly(12, 0)),
                new DoorHours(2, DayOfWeek.Friday, new TimeOnly(6, 0), new TimeOnly(17, 0)),
                new DoorHours(1, DayOfWeek.Saturday, new TimeOnly(6, 0), new TimeOnly(12, 0)),
            ],
            Holidays =
            [
                new Holiday(new DateOnly(2026, 3, 13), "stocktaking", new TimeOnly(13, 0)),
                new Holiday(new DateOnly(2026, 3, 20), "closed", null),
                new Holiday(new DateOnly(2026, 3, 21), "closed", new TimeOnly(15, 0)),
                // Ends before the doors open: nobody works, as on the day board.
                new Holiday(new DateOnly(2026, 3, 27), "closed", new TimeOnly(5, 0)),
            ],
        }.Works();
        Assert.Equal(
            [WorkDay.Off, WorkDay.Full, WorkDay.Half, WorkDay.Off, WorkDay.Half, WorkDay.Off, WorkDay.Half, WorkDay.Off],
            new[] { 5, 6, 7, 8, 13, 20, 21, 27 }.Select(d => works.On(new DateOnly(2026, 3, d)))
        );
        Assert.Equal(WorkDay.Full, new PlanSettings().Works().On(new DateOnly(2026, 3, 9)));
        Assert.Throws<InvalidOperationException>(() =>
            new WorkCalendar(new Dictionary<DayOfWeek, WorkDay>(), new Dictionary<DateOnly, WorkDay>()).EndOf(new DateOnly(2026, 3, 9), 1)
        );
    }

    /// <summary>Goods may be on either of two lines of the truck: a hold on one of them catches them until it is clear.</summary>
    [Fact]
    public void A_hold_on_what_comes_of_an_order_line_catches_what_may_be_on_it()
    {
        static HoldRule Ahead(int line) =>
            HoldRule.OnWhatComes("late papers", null, null, (line, $"line 1 of PO-{line}, Lemon"), [], "Wanjiru", start).Value;
        Assert.True(Ahead(41).Catches(Goods()));
        Assert.True(Ahead(42).Catches(Goods()));
        Assert.False(Ahead(43).Catches(Goods()));
        Assert.False(Ahead(41).IsEmpty);
        Assert.Null(Ahead(41).Fault);
        Assert.False(Ahead(41).SaysTheSame(Ahead(42)));
        Assert.Equal("line 1 of PO-41, Lemon: the signature of a supervisor", Ahead(41).Words(_ => "", _ => ""));
        // A signed rule that says the same is another thing: it is ended by who keeps plans.
        var signed = new HoldRule
        {
            Name = "late papers",
            Days = 0,
            OrderLineId = 41,
            Besides = [new Wanted(ConditionKind.Signature, "", Right.LiftHold)],
        };
        Assert.False(Ahead(41).SaysTheSame(signed));
    }

    [Fact]
    public void A_hold_on_what_comes_names_goods_and_wants_something()
    {
        var (lemon, vendor) = (
            Of("citrus"),
            new Vendor
            {
                Id = 3,
                Code = "V",
                Name = "Valmontone",
                Country = "IT",
            }
        );
        static string? Code(Outcome<HoldRule> made) => made.Refusal?.Code;
        Assert.Equal("hold-rule-empty", Code(HoldRule.OnWhatComes("why", null, null, null, [], "Wanjiru", start)));
        Assert.Equal("note-long", Code(HoldRule.OnWhatComes(new string('a', 201), lemon, null, null, [], "Wanjiru", start)));
        Assert.Equal("order-line-unclear", Code(HoldRule.OnWhatComes("why", null, vendor, (41, "line 1"), [], "Wanjiru", start)));
        var rule = HoldRule.OnWhatComes("why", lemon, vendor, null, [], "Wanjiru", start).Value;
        Assert.True(rule.IsByHand);
        Assert.Equal(new Wanted(ConditionKind.Signature, "", Right.LiftHold), Assert.Single(rule.Besides));

        Hold Held(string by, Wanted wants) =>
            new Hold
            {
                Number = "H-1",
                SiteId = 1,
                ItemId = 7,
                Reason = HoldReason.ByHand,
                Sentence = "why",
                Since = start,
                LaidBy = "Wanjiru",
            }.Wanting(HoldCondition.From([(by, wants)], start));
        Assert.True(rule.HasLaid(Held("why", rule.Besides[0])));
        // Of other words, by nobody's rule, or wanting something else, it is another's.
        Assert.False(rule.HasLaid(Held("", rule.Besides[0])));
        Assert.False(rule.HasLaid(Held("why", rule.Besides[0] with { Of = Right.SetUp })));
    }
}
