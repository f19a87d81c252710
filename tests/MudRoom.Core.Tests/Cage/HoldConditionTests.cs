using CsCheck;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>What a hold wants besides time: papers, signatures, an inspection.</summary>
public sealed class HoldConditionTests
{
    static readonly SiteTime local = at => at.UtcDateTime;
    static readonly DateTimeOffset start = new(2026, 3, 5, 10, 15, 0, TimeSpan.Zero);
    static readonly Hand wanjiru = new(1, "Wanjiru"),
        sunita = new(6, "Sunita"),
        bram = new(7, "Bram");
    static readonly PaperShown report = new(4, "un38.pdf", PaperKind.TestReport);
    static readonly Wanted paper = new(ConditionKind.Paper, "lithium cells", Right.LiftHold, PaperKind.TestReport, 4);
    static readonly Wanted signature = new(ConditionKind.Signature, "", Right.LiftHold);
    static readonly Wanted acceptance = new(ConditionKind.Acceptance, "", Right.See);

    static Hold Wanting(HoldReason reason, params Wanted[] wants)
    {
        var hold = new Hold
        {
            Number = "H-318",
            SiteId = 1,
            ItemId = 1,
            Reason = reason,
            Sentence = "s",
            Since = start,
            LaidBy = "rule",
        }.Wanting(HoldCondition.From(wants.Select(w => ("", w)), start));
        Assert.Null(hold.Grow(6, local));
        return hold;
    }

    static Outcome<HoldCondition> Meet(Hold hold, int id, Hand by, PaperShown? shown = null, Right has = Right.LiftHold) =>
        hold.Meet(id, by, right => right == has, shown, null, start.AddDays(1), local);

    [Fact]
    public void A_paper_of_its_kind_is_looked_at_by_somebody_with_the_right()
    {
        var hold = Wanting(HoldReason.Rule, paper);
        Assert.Equal("conditions-open", hold.Lift(start.AddDays(1), wanjiru, null, local).Refusal!.Code);
        var refused = Meet(hold, 1, wanjiru, new PaperShown(5, "plants.pdf", PaperKind.PhytosanitaryCertificate)).Refusal!;
        Assert.Equal("plants.pdf is a phytosanitary certificate; H-318 wants a test report.", refused.Sentence);
        Assert.Equal("paper-wrong", Meet(hold, 1, wanjiru, new PaperShown(5, "plants.pdf", null)).Refusal!.Code);
        Assert.Equal("paper-wrong", Meet(hold, 1, wanjiru).Refusal!.Code);
        Assert.Equal("right-missing", Meet(hold, 1, bram, report, Right.SignVerdict).Refusal!.Code);
        Assert.Equal("condition-unknown", Meet(hold, 2, wanjiru, report).Refusal!.Code);
        Assert.Null(Meet(hold, 1, wanjiru, report).Refusal);
        Assert.Equal("condition-met", Meet(hold, 1, sunita, report).Refusal!.Code);
        var link = hold.Links(start.AddDays(9), local)[0];
        Assert.Equal(
            ("paper", true, "a test report (lithium cells), looked at by a supervisor: Wanjiru, 2026-03-06 10:15, un38.pdf", false),
            (link.Word, link.Closed, link.Sentence, link.Overdue)
        );
        Assert.Equal(6, hold.Lift(start.AddDays(1), wanjiru, null, local).Value);
        Assert.Equal("hold-lifted", Meet(hold, 1, wanjiru, report).Refusal!.Code);
    }

    [Fact]
    public void Nobody_signs_twice_for_one_hold_and_who_lifts_it_signs()
    {
        var hold = Wanting(HoldReason.ByHand, signature, signature);
        Assert.Null(Meet(hold, 1, wanjiru).Refusal);
        Assert.Equal("signs-twice", Meet(hold, 2, wanjiru).Refusal!.Code);
        Assert.Null(Meet(hold, 2, sunita).Refusal);
        Assert.Equal("signs-twice", hold.Lift(start, sunita, null, local).Refusal!.Code);
        Assert.True(hold.IsOpen);
        Assert.Equal(6, hold.Lift(start, bram, null, local).Value);
    }

    [Fact]
    public void What_met_a_condition_is_taken_back_by_who_met_it_or_who_lifts_holds()
    {
        var hold = Wanting(HoldReason.ByHand, signature);
        Assert.Equal("condition-unknown", hold.OpenAgain(1, wanjiru, _ => true, local).Refusal!.Code);
        Assert.Null(Meet(hold, 1, wanjiru).Refusal);
        Assert.Equal("right-missing", hold.OpenAgain(1, bram, _ => false, local).Refusal!.Code);
        Assert.Equal("Wanjiru", hold.OpenAgain(1, wanjiru, _ => false, local).Value.By);
        Assert.Equal("conditions-open", hold.Lift(start, bram, null, local).Refusal!.Code);
        Assert.Null(Meet(hold, 1, wanjiru).Refusal);
        Assert.Equal("Wanjiru", hold.OpenAgain(1, bram, right => right == Right.LiftHold, local).Value.By);
    }

    [Fact]
    public void An_inspection_accepts_all_that_is_held_since_it_was_laid()
    {
        AcceptedBy at(int days) => new($"I-{days}", "Sunita", start.AddDays(days));
        Assert.Null(AcceptedBy.OfAll(start, []));
        Assert.Null(
            AcceptedBy.OfAll(
                start,
                [
                    [at(1)],
                    [],
                ]
            )
        );
        Assert.Null(
            AcceptedBy.OfAll(
                start,
                [
                    [at(1)],
                    [at(-1)],
                ]
            )
        );
        Assert.Equal(
            "I-3",
            AcceptedBy
                .OfAll(
                    start,
                    [
                        [at(-9), at(1)],
                        [at(3), at(2)],
                    ]
                )!
                .Inspection
        );

        var hold = Wanting(HoldReason.ByHand, acceptance);
        Assert.Equal("condition-by-itself", Meet(hold, 1, wanjiru).Refusal!.Code);
        Assert.Equal("conditions-open", hold.Lift(start, wanjiru, null, local).Refusal!.Code);
        Assert.Equal(HoldWaits.Inspection, CageQueue.WaitsFor(hold, start));
        Assert.Equal(HoldWaits.Lifting, CageQueue.WaitsFor(hold, start, at(1)));
        // An acceptance that came late is not overdue any more.
        var late = Wanting(HoldReason.ByHand, acceptance with { WithinDays = 1 });
        Assert.NotNull(late.Overdue(start.AddDays(3), null));
        Assert.Null(late.Overdue(start.AddDays(3), at(2)));
        Assert.Equal(0, CageQueue.Place(late, start.AddDays(3), at(2)).Rank);
        Assert.Empty(late.Unmet(at(2)));
        Assert.Contains("I-1, Sunita", hold.Links(start, local, at(1))[0].Sentence);
        Assert.Equal(6, hold.Lift(start, wanjiru, null, local, at(1)).Value);
    }

    /// <summary>In whatever order times pass, papers come, people sign and inspections end: against a count of what is missing.</summary>
    [Fact]
    public void A_hold_is_lifted_when_all_its_conditions_are_met_and_not_before() =>
        Gen.Select(Gen.Int[0, 3].Array[0, 5], Gen.Int[0, 5].Array[0, 12], Gen.Int[1, 3])
            .Sample(
                (kinds, acts, lifter) =>
                {
                    var wants = kinds
                        .Where(k => k > 0)
                        .Select(k =>
                            k == 1 ? paper
                            : k == 2 ? signature
                            : acceptance
                        )
                        .ToArray();
                    var times = kinds.Count(k => k == 0);
                    var hold = new Hold
                    {
                        Number = "H-1",
                        SiteId = 1,
                        ItemId = 1,
                        Reason = HoldReason.ByHand,
                        Sentence = "s",
                        Since = start,
                        Until = times > 0 ? start.AddDays(times) : null,
                        Times = [.. Enumerable.Range(1, times).Select(d => new TimeCondition("t", start.AddDays(d)))],
                        LaidBy = "x",
                    }.Wanting(HoldCondition.From(wants.Select(w => ("", w)), start));
                    Assert.Null(hold.Grow(1, local));
                    var (now, accepted, open, signers) = (start, (AcceptedBy?)null, wants.Length, new HashSet<int>());
                    foreach (var (act, i) in acts.Select((a, i) => (a, i)))
                    {
                        if (act == 0)
                            now = now.AddDays(1);
                        else if (act == 1)
                            accepted = new AcceptedBy("I-1", "Sunita", now);
                        else if (wants.Length > 0)
                        {
                            var id = i % wants.Length + 1;
                            var was = hold.Besides[id - 1];
                            var by = new Hand(act, "P" + act);
                            var met = hold.Meet(id, by, _ => true, report, null, now, local).Refusal is null;
                            var signs = was.Wants.Kind == ConditionKind.Signature;
                            Assert.Equal(
                                was.Met is null && was.Wants.Kind != ConditionKind.Acceptance && !(signs && signers.Contains(act)),
                                met
                            );
                            if (met && signs)
                                Assert.True(signers.Add(act));
                            open -= met ? 1 : 0;
                        }
                    }

                    open -= accepted is null ? 0 : wants.Count(w => w.Kind == ConditionKind.Acceptance);
                    var ready = open == 0 && now >= start.AddDays(times);
                    Assert.Equal(ready, hold.IsReady(now, accepted));
                    Assert.Equal(hold.Links(now, local, accepted).SkipLast(1).All(l => l.Closed), ready);
                    Assert.Equal(
                        ready && !signers.Contains(lifter),
                        !hold.Lift(now, new Hand(lifter, "L"), null, local, accepted).Refused(out _)
                    );
                }
            );

    [Fact]
    public void Goods_join_a_hold_that_wants_the_same_and_of_which_nobody_has_met_a_condition()
    {
        var hold = Wanting(HoldReason.Rule, paper, signature);
        // Each count would be overdue by its own day; that keeps no goods apart.
        Assert.True(hold.MayJoin(HoldCondition.From([("", paper), ("", signature)], start.AddDays(2))));
        Assert.False(hold.MayJoin(HoldCondition.From([("", paper)], start)));
        Assert.False(hold.MayJoin(HoldCondition.From([("", paper with { What = "other cells" }), ("", signature)], start)));
        Assert.Null(Meet(hold, 1, wanjiru, report).Refusal);
        Assert.False(hold.MayJoin(HoldCondition.From([("", paper), ("", signature)], start)));
    }

    [Fact]
    public void A_decision_frees_of_why_they_were_set_aside_and_not_of_a_paper_that_is_missing()
    {
        var aside = Wanting(HoldReason.CountedAside, paper);
        Assert.IsType<AfterDecision.HeldOn>(aside.Decide(DecisionKind.ReleaseUnderConcession.By(wanjiru, start), 2, local).Value);
        var rest = aside.ByItsConditions("H-9", 2);
        Assert.Equal((HoldReason.Rule, true), (rest.Reason, rest.IsWanting));
        Assert.IsType<AfterDecision.Waits>(aside.Decide(DecisionKind.Scrap.By(wanjiru, start), 2, local).Value);
        Assert.Null(Meet(aside, 1, wanjiru, report).Refusal);
        Assert.IsType<AfterDecision.Free>(aside.Decide(DecisionKind.ReleaseUnderConcession.By(wanjiru, start), 2, local).Value);
    }

    [Fact]
    public void A_paper_is_overdue_from_its_day_on_and_stands_before_what_is_not()
    {
        var hold = Wanting(HoldReason.Rule, paper);
        var due = start.AddDays(4);
        Assert.Equal((3, "Waits for a test report (lithium cells), looked at by a supervisor."), CageQueue.Place(hold, due.AddTicks(-1)));
        Assert.Equal(
            (1, "A day overdue: a test report (lithium cells), looked at by a supervisor."),
            CageQueue.Place(hold, due.AddHours(24))
        );
        Assert.StartsWith("Overdue: ", CageQueue.Place(hold, due.AddHours(23)).Why);
        Assert.StartsWith("A day overdue", CageQueue.Place(hold, due.AddHours(47)).Why);
        Assert.StartsWith("2 days overdue", CageQueue.Place(hold, due.AddHours(48)).Why);
        Assert.True(hold.Links(due, local)[0].Overdue);
        Assert.False(hold.Links(due.AddTicks(-1), local)[0].Overdue);
        Assert.Null(Meet(hold, 1, wanjiru, report).Refusal);
        Assert.Equal((0, "All its conditions are met; only a supervisor's signature is missing."), CageQueue.Place(hold, due.AddDays(9)));
    }

    [Theory]
    [InlineData(ConditionKind.Paper, null, Right.LiftHold, null)]
    [InlineData(ConditionKind.Signature, PaperKind.TestReport, Right.LiftHold, null)]
    [InlineData(ConditionKind.Paper, (PaperKind)7, Right.LiftHold, null)]
    [InlineData((ConditionKind)9, null, Right.LiftHold, null)]
    [InlineData(ConditionKind.Signature, null, Right.See, null)]
    [InlineData(ConditionKind.Signature, null, Right.LiftHold, 0)]
    [InlineData(ConditionKind.Signature, null, Right.LiftHold, 3651)]
    public void What_cannot_be_wanted_is_a_fault(ConditionKind kind, PaperKind? paper, Right of, int? days) =>
        Assert.Equal("condition-absurd", Wanted.FaultOf([new Wanted(kind, "", of, paper, days)])!.Code);

    [Fact]
    public void A_few_conditions_are_enough()
    {
        Assert.Null(Wanted.FaultOf([.. Enumerable.Repeat(signature, 6)]));
        Assert.NotNull(Wanted.FaultOf([.. Enumerable.Repeat(signature, 7)]));
        Assert.NotNull(Wanted.FaultOf([signature with { What = new string('x', 101) }]));
        Assert.Null(Wanted.FaultOf([acceptance]));
    }

    [Fact]
    public void A_rule_lays_what_it_wants_besides_time_or_instead_of_it()
    {
        HoldRule rule(string name, int days, params Wanted[] wants) =>
            new()
            {
                Name = name,
                Category = "irrigation",
                Days = days,
                Besides = wants,
            };
        var (cells, long_) = (rule("Cells", 0, paper, signature), rule("Long", 3, acceptance));
        Assert.Equal(
            "all of irrigation: a test report (lithium cells), looked at by a supervisor, overdue after 4 days; "
                + "the signature of a supervisor",
            cells.Words(_ => "", _ => "")
        );
        Assert.Equal((null, "hold-rule-absurd"), (cells.Fault, rule("Nothing", 0).Fault!.Code));
        Assert.Equal("condition-absurd", rule("Odd", 3, signature with { Of = Right.See }).Fault!.Code);
        var laid = HoldRule.ConditionsFor(
            [cells, long_],
            new GoodsToHold(
                new Item
                {
                    Id = 1,
                    Code = "P",
                    Name = "Probe",
                    Category = "irrigation",
                },
                [],
                null,
                null,
                new DateOnly(2026, 3, 5),
                []
            ),
            new HoldStarts(start, null, null),
            new WarehouseSite
            {
                Id = 1,
                Code = "LM",
                Name = "Low Meadow",
                TimeZone = "Europe/London",
            },
            () => WorkCalendar.Usual
        );
        Assert.Equal(["Cells", "Long"], laid.Rules);
        Assert.Equal(new TimeCondition("Long", start.AddDays(3)), Assert.Single(laid.Times));
        Assert.Equal(
            [(1, "Cells", paper, start.AddDays(4)), (2, "Cells", signature, (DateTimeOffset?)null), (3, "Long", acceptance, null)],
            laid.Besides.Select(c => (c.Id, c.Rule, c.Wants, c.Due))
        );
    }

    [Fact]
    public void A_rule_says_the_same_as_another_whatever_it_is_called()
    {
        HoldRule rule(string name, string batch = "N-*", params Wanted[] wants) =>
            new()
            {
                Name = name,
                Category = "citrus",
                BatchPattern = batch,
                Days = 3,
                Besides = wants,
            };
        Assert.True(rule("a", "n-*", paper).SaysTheSame(rule("b", "N-*", paper)));
        Assert.False(rule("a", "N-*", paper).SaysTheSame(rule("a")));
        Assert.False(rule("a").SaysTheSame(rule("a", "M-*")));
    }

    [Fact]
    public void The_cage_blocks_what_is_held_in_it_for_as_long_as_it_is()
    {
        var now = start.AddDays(10);
        HoldBlocks hold(HoldWaits waits, int days, decimal litres, decimal? value, bool late = false) =>
            new(waits, late, now.AddDays(-days), litres, value, late ? "Damaged" : "by rule");
        HoldBlocks[] holds = [hold(HoldWaits.Time, 1, 9, 5), hold(HoldWaits.Lifting, 4, 1, null), hold(HoldWaits.Time, 10, 2.5m, 7, true)];
        var seen = CageFigures.Of(holds, true, now);
        Assert.Equal(
            (3, 1, 1, 12.5m, 12m, 1, 5, 10),
            (seen.Open, seen.ToLift, seen.Overdue, seen.Litres, seen.Value, seen.Unpriced, seen.MeanDays, seen.OldestDays)
        );
        Assert.Equal([new HoldsWaiting(HoldWaits.Lifting, 1), new HoldsWaiting(HoldWaits.Time, 2)], seen.Waiting);
        Assert.Equal([new HoldsFor("by rule", 2), new HoldsFor("Damaged", 1)], seen.Reasons);
        var unseen = CageFigures.Of(holds, false, now);
        Assert.Equal((null, 0), (unseen.Value, unseen.Unpriced));
        Assert.Equal((0, 0), (CageFigures.Of([], true, now).MeanDays, CageFigures.Of([], true, now).OldestDays));
    }

    /// <summary>Where doors shut at one, a hold that completes on a half day does not end while people still work.</summary>
    [Fact]
    public void A_half_day_ends_when_the_last_door_shuts_and_not_before_noon()
    {
        PlanSettings open(TimeOnly saturday) =>
            new()
            {
                Hours =
                [
                    new DoorHours(1, DayOfWeek.Friday, new TimeOnly(6, 0), new TimeOnly(17, 0)),
                    new DoorHours(1, DayOfWeek.Saturday, new TimeOnly(6, 0), saturday),
                ],
            };
        DateTime over(PlanSettings settings) => settings.Works().EndOf(new DateOnly(2026, 3, 12), 3);
        Assert.Equal(new DateTime(2026, 3, 14, 13, 0, 0), over(open(new TimeOnly(13, 0))));
        Assert.Equal(new DateTime(2026, 3, 14, 12, 0, 0), over(open(new TimeOnly(11, 30))));
        Assert.Equal(
            new DateTime(2026, 3, 13, 12, 30, 0),
            (open(new TimeOnly(11, 30)) with { Holidays = [new Holiday(new DateOnly(2026, 3, 13), "fair", new TimeOnly(12, 30))] })
                .Works()
                .EndOf(new DateOnly(2026, 3, 12), 1)
        );
        var noHours = new PlanSettings { Holidays = [new Holiday(new DateOnly(2026, 3, 13), "fair", new TimeOnly(13, 0))] };
        Assert.Equal(new DateTime(2026, 3, 13, 13, 0, 0), noHours.Works().EndOf(new DateOnly(2026, 3, 12), 1));
    }
}
