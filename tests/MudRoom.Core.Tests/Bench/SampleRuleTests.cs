using CsCheck;
using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Bench;

public sealed class SampleRuleTests
{
    static SamplePlan Asks(SampleRule rule, long lot, Severity severity = Severity.Normal) => rule.For(lot, severity).Plan;

    [Fact]
    public void Each_rule_asks_of_a_lot_what_it_says()
    {
        Assert.Equal(new SamplePlan.Single(32, 2), Asks(new SampleRule.Standard(InspectionLevel.II, 2.5m), 240));
        Assert.Equal(new SamplePlan.Single(32, 1), Asks(new SampleRule.Standard(InspectionLevel.II, 2.5m), 240, Severity.Tightened));
        Assert.Equal(new SamplePlan.Double(20, 0, 3, 20, 3), Asks(new SampleRule.Standard(InspectionLevel.II, 2.5m, IsDouble: true), 240));
        Assert.Equal(new SamplePlan.Single(5, 0), Asks(new SampleRule.Fixed(5, 0), 240));
        Assert.Equal(new SamplePlan.Single(24, 1), Asks(new SampleRule.Share(10, 5, 50, 1), 240));
        Assert.Equal(new SamplePlan.Single(5, 1), Asks(new SampleRule.Share(10, 5, 50, 1), 30));
        Assert.Equal(new SamplePlan.Single(50, 1), Asks(new SampleRule.Share(10, 5, 50, 1), 2400));
        Assert.Equal(new SamplePlan.Single(240, 0), Asks(new SampleRule.All(0), 240));
        Assert.Equal(new SamplePlan.Single(4, 0), Asks(new SampleRule.Portions(200, 5, 4, 0), 3));
        Assert.Contains("200 g drawn from 3, in 4 test portions", new SampleRule.Portions(200, 5, 4, 0).For(3, Severity.Normal).Note);
    }

    [Fact]
    public void A_sample_is_never_larger_than_the_lot_and_says_when_it_would_be()
    {
        Assert.Equal(new SamplePlan.Single(3, 0), Asks(new SampleRule.Fixed(5, 0), 3));
        Assert.Contains("looked at whole", new SampleRule.Fixed(5, 0).For(3, Severity.Normal).Note);
        Assert.Equal(new SamplePlan.Single(1, 0), Asks(new SampleRule.Standard(InspectionLevel.II, 2.5m), 1));
    }

    [Fact]
    public void Where_there_is_no_double_plan_the_single_one_serves_and_says_so()
    {
        var rule = new SampleRule.Standard(InspectionLevel.II, 0.40m, IsDouble: true);
        Assert.IsType<SamplePlan.Single>(Asks(rule, 240));
        Assert.Contains("single plan serves", rule.For(240, Severity.Normal).Note);
        var lax = new SampleRule.Standard(InspectionLevel.II, 2.5m, IsDouble: true);
        Assert.IsType<SamplePlan.Single>(Asks(lax, 240, Severity.Reduced));
        Assert.Contains("not known", lax.For(240, Severity.Reduced).Note);
    }

    /// <summary>Against plain counting: with one piece fewer the risk is larger, with so many it is not.</summary>
    [Fact]
    public void Zero_acceptance_takes_the_fewest_pieces_that_keep_the_risk() =>
        Gen.Select(Gen.Int[1, 3000], Gen.Int[1, 30], Gen.Int[1, 40])
            .Sample(
                (lot, quality, risk) =>
                {
                    var bad = Math.Max(1, (int)Math.Ceiling(lot * quality / 100.0 - 1e-9));
                    var size = (int)SampleRule.ZeroSize(lot, quality / 100.0, risk / 100.0);
                    Assert.True(Missed(size) <= risk / 100.0 + 1e-9);
                    Assert.True(size == 1 || Missed(size - 1) > risk / 100.0 - 1e-9);

                    double Missed(int n)
                    {
                        var chance = 1.0;
                        for (var i = 0; i < n; i++)
                            chance *= Math.Max(0, lot - bad - i) / (double)(lot - i);
                        return chance;
                    }
                }
            );

    [Theory]
    [InlineData(0, 0, "1 to 10000 pieces")]
    [InlineData(5, 5, "0 to 4 may be nonconforming")]
    [InlineData(5, -1, "0 to 4 may be nonconforming")]
    public void A_rule_that_cannot_be_says_why(int size, int ac, string why) => Assert.Contains(why, new SampleRule.Fixed(size, ac).Fault);

    [Fact]
    public void Faults_of_the_other_rules_are_told_too()
    {
        Assert.Contains("no AQL", new SampleRule.Standard(InspectionLevel.II, 2m).Fault);
        Assert.Contains("per 100", new SampleRule.Standard(InspectionLevel.II, 15m).Fault);
        Assert.Null(new SampleRule.Standard(InspectionLevel.II, 15m, PerHundred: true).Fault);
        Assert.Contains("cannot both be", new SampleRule.Share(10, 50, 5, 0).Fault);
        Assert.Contains("is better than", new SampleRule.ByVariables(5, 5, 1, 10, null).Fault);
        Assert.Contains("more than 2000 values", new SampleRule.ByVariables(1, 1, 1.01m, 1, null).Fault);
        Assert.Contains("limiting quality", new SampleRule.ZeroAcceptance(0, 10).Fault);
        Assert.Contains("is better than", new SampleRule.OneByOne(5, 5, 1, 10).Fault);
        Assert.Contains("between 0 and 50 percent", new SampleRule.OneByOne(1, 50, 5, 10).Fault);
        Assert.Contains("more than 2000 pieces", new SampleRule.OneByOne(1, 1, 1.1m, 1).Fault);
    }

    [Fact]
    public void By_values_a_lot_smaller_than_the_sample_is_measured_whole_and_none_may_fail() =>
        Assert.Equal(new SamplePlan.Single(10, 0), Asks(new SampleRule.ByVariables(1, 5, 5, 10, null), 10));

    /// <summary>Every plan judges as often as its curve says: 40 000 lots drawn by chance.</summary>
    [Fact]
    public void The_chance_to_accept_is_that_of_lots_drawn_by_chance()
    {
        var random = new Random(14);
        foreach (var quality in new[] { 0.02, 0.06, 0.12 })
        foreach (
            var plan in new SamplePlan[]
            {
                new SamplePlan.Single(32, 2),
                new SamplePlan.Single(13, 0),
                new SamplePlan.Double(20, 0, 3, 20, 3),
                new SamplePlan.Double(20, 1, 3, 20, 4),
                new SampleRule.OneByOne(2, 5, 12, 10).For(100_000, Severity.Normal).Plan,
                new SampleRule.OneByOne(2, 5, 12, 10).For(40, Severity.Normal).Plan,
            }
        )
        {
            var accepted = 0;
            const int lots = 40_000;
            for (var i = 0; i < lots; i++)
            {
                var bad = Enumerable.Range(1, plan.Largest).Where(_ => random.NextDouble() < quality).ToList();
                var judged = plan.Judge(0, []);
                while (judged.Verdict is null)
                    judged = plan.Judge(judged.Wanted, bad.FindAll(p => p <= judged.Wanted));
                accepted += judged.Verdict == Verdict.Accepted ? 1 : 0;
            }

            // Four standard deviations of such a count.
            Assert.Equal(new OperatingCharacteristic(plan, 100_000).Chance(quality), accepted / (double)lots, 0.01);
        }
    }

    /// <summary>Values drawn from a process: one limit and two, with the sample's spread and with a known one.</summary>
    [Fact]
    public void So_is_that_of_values()
    {
        var random = new Random(15);
        foreach (var sigma in new double?[] { null, 1.0 })
        {
            var plan = new SamplePlan.Variables(15, 1.5, sigma);
            // Two spreads from the limit: 2.275 percent outside.
            var fraction = MathNet.Numerics.Distributions.Normal.CDF(0, 1, -2);
            var accepted = 0;
            const int lots = 20_000;
            for (var i = 0; i < lots; i++)
            {
                var values = Enumerable
                    .Range(0, 15)
                    .Select(_ => (decimal)Math.Round(MathNet.Numerics.Distributions.Normal.Sample(random, 0, 1), 6))
                    .ToList();
                accepted += VariablesPlans.Judge(plan, values, null, 2m).Verdict == Verdict.Accepted ? 1 : 0;
            }

            Assert.Equal(VariablesPlans.Chance(fraction, plan), accepted / (double)lots, 0.015);
        }
    }

    [Fact]
    public void With_two_limits_what_lies_beyond_both_counts_together()
    {
        // Each tail alone keeps k, both together do not.
        decimal[] values = [-1.2m, -0.9m, -0.4m, 0m, 0.1m, 0.4m, 0.9m, 1.2m, -1m, 1m];
        var stand = VariablesPlans.Stand(values, -1.6m, 1.6m, null)!;
        var k = stand.ToUpper!.Value - 0.01;
        var plan = new SamplePlan.Variables(10, k, null);
        Assert.Equal(Verdict.Accepted, VariablesPlans.Judge(plan, values, null, 1.6m).Verdict);
        Assert.Equal(Verdict.Accepted, VariablesPlans.Judge(plan, values, -1.6m, null).Verdict);
        Assert.Equal(Verdict.Rejected, VariablesPlans.Judge(plan, values, -1.6m, 1.6m).Verdict);
    }

    [Fact]
    public void Values_without_any_spread_are_judged_by_their_limits()
    {
        var plan = new SamplePlan.Variables(3, 1.5, null);
        Assert.Equal(Verdict.Accepted, VariablesPlans.Judge(plan, [2m, 2m, 2m], 1m, 3m).Verdict);
        Assert.Equal(Verdict.Rejected, VariablesPlans.Judge(plan, [4m, 4m, 4m], 1m, 3m).Verdict);
        Assert.Null(VariablesPlans.Judge(plan, [2m, 2m], 1m, 3m).Verdict);
    }

    [Fact]
    public void Skip_lot_looks_at_all_until_enough_are_accepted_then_at_the_fraction_and_anew_after_a_rejection()
    {
        var skip = new SkipLot(4, 0.25);
        Assert.True(skip.Next([true, true, true], Severity.Normal, 1).IsInspected);
        Assert.True(skip.Next([true, true, true, true, false, true], Severity.Normal, 1).IsInspected);
        Assert.True(skip.Next([true, true, true, true], Severity.Tightened, 1).IsInspected);
        var looked = Enumerable.Range(0, 20_000).Count(i => skip.Next([true, true, true, true], Severity.Normal, (ulong)i).IsInspected);
        Assert.Equal(0.25, looked / 20_000.0, 0.02);
        // The same seed always draws the same.
        Assert.Equal(SkipLot.Draw(77), SkipLot.Draw(77));
    }

    /// <summary>A vendor's lots under skip-lot, drawn by chance, are accepted as often as the closed form says.</summary>
    [Fact]
    public void Skip_lot_accepts_in_the_long_run_as_its_closed_form_says()
    {
        var (skip, random) = (new SkipLot(3, 1 / 3.0), new Random(16));
        const double chance = 0.8;
        var history = new List<bool>();
        var (accepted, looked) = (0, 0);
        const int lots = 60_000;
        for (var i = 0; i < lots; i++)
        {
            // Only the last few matter; the whole list would make this slow.
            var last = history.Count > 8 ? history[^8..] : history;
            if (skip.Next(last, Severity.Normal, (ulong)i).IsInspected)
            {
                looked++;
                history.Add(random.NextDouble() < chance);
                accepted += history[^1] ? 1 : 0;
            }
            else
            {
                accepted++;
            }
        }

        Assert.Equal(skip.Chance(chance), accepted / (double)lots, 0.01);
        Assert.Equal(skip.Inspected(chance), looked / (double)lots, 0.01);
    }
}
