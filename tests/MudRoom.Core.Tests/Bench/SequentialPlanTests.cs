using MathNet.Numerics.Distributions;
using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Bench;

/// <summary>Piece by piece between two lines.</summary>
public sealed class SequentialPlanTests
{
    static readonly SamplePlan.Sequential lines = SequentialPlans.ByTwoPoints(0.01, 0.05, 0.10, 0.10)!;

    /// <summary>
    /// The item-by-item plan for 1 % and 10 % with risks of 5 and 10 % (NIST/SEMATECH e-Handbook of Statistical Methods, 6.2.3, from
    /// memory): lines −0.9389 + 0.0397 n and 1.2054 + 0.0397 n; two of two reject, none of 24 accepts, and three of 24 reject.
    /// </summary>
    [Fact]
    public void The_lines_are_those_of_the_handbook()
    {
        Assert.Equal((0.9389, 1.2054, 0.0397), (Math.Round(lines.Accept, 4), Math.Round(lines.Reject, 4), Math.Round(lines.Slope, 4)));
        Assert.Equal((-1, 2), (lines.Ac(2), lines.Re(2)));
        Assert.Equal((-1, 0, 3), (lines.Ac(23), lines.Ac(24), lines.Re(24)));
        Assert.Equal((24, 49), (lines.First, lines.Until(1)));
    }

    /// <summary>The risks that were asked for, nearly (Wald's lines keep their sum), and fewer pieces than the single plan on
    /// average.</summary>
    [Theory]
    [InlineData(0.01, 0.05, 0.10, 0.10)]
    [InlineData(0.02, 0.05, 0.08, 0.10)]
    [InlineData(0.005, 0.01, 0.05, 0.05)]
    public void It_keeps_both_risks_and_looks_at_fewer_than_the_single_plan(double good, double alpha, double bad, double beta)
    {
        var plan = SequentialPlans.ByTwoPoints(good, alpha, bad, beta)!;
        var single = SequentialPlans.SingleByTwoPoints(good, alpha, bad, beta)!;
        var curve = new OperatingCharacteristic(plan, 1_000_000);
        Assert.InRange(1 - curve.Chance(good) + curve.Chance(bad), 0.2 * (alpha + beta), alpha + beta + 0.005);
        Assert.InRange(curve.AverageSample(good), 1, 0.8 * single.Size);
        Assert.InRange(curve.AverageSample(bad), 1, 0.8 * single.Size);
        Assert.Equal(1, curve.Chance(0), 1e-12);
        Assert.Equal(0, curve.Chance(1), 1e-12);
        Assert.Equal(plan.First, curve.AverageInspected(0), 1e-9);
    }

    [Fact]
    public void The_single_plan_beside_it_is_the_smallest_that_keeps_both_points()
    {
        var single = SequentialPlans.SingleByTwoPoints(0.02, 0.05, 0.08, 0.10)!;
        Assert.True(Keeps(single.Size, single.Ac));
        for (var size = 1; size < single.Size; size++)
        for (var ac = 0; ac < size; ac++)
            Assert.False(Keeps(size, ac), $"{size}, {ac}");

        static bool Keeps(int size, int ac) => Binomial.CDF(0.02, size, ac) >= 0.95 && Binomial.CDF(0.08, size, ac) <= 0.10;
    }

    /// <summary>Of a lot of ten every order of its pieces is walked, and counted.</summary>
    [Theory]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    public void The_chance_in_a_small_lot_is_that_of_all_orders_of_its_pieces(int nonconforming)
    {
        var plan = (SamplePlan.Sequential)new SampleRule.OneByOne(10, 10, 50, 10).For(10, Severity.Normal).Plan;
        Assert.Equal(10, plan.Most);
        var (accepted, all) = (0, 0);
        for (var order = 0; order < 1 << 10; order++)
        {
            var bad = Enumerable.Range(1, 10).Where(p => (order >> (p - 1) & 1) == 1).ToList();
            if (bad.Count != nonconforming)
                continue;
            all++;
            accepted += plan.Judge(10, bad).Verdict == Verdict.Accepted ? 1 : 0;
        }

        Assert.Equal((double)accepted / all, new OperatingCharacteristic(plan, 10).ChanceOfLot(nonconforming), 1e-12);
        Assert.InRange(accepted, 1, all - 1);
    }

    [Fact]
    public void The_line_that_is_crossed_first_decides()
    {
        Assert.Equal(Verdict.Rejected, lines.Judge(2, [1, 2]).Verdict);
        Assert.Equal(Verdict.Accepted, lines.Judge(24, []).Verdict);
        Assert.Equal(Verdict.Accepted, lines.Judge(30, [25, 26, 27, 28]).Verdict);
        var open = lines.Judge(10, [4]);
        Assert.Equal(
            (49, null, "1 nonconforming: accepted after 49 if no other is, rejected from 2"),
            (open.Wanted, open.Verdict, open.Sentence)
        );
    }

    [Fact]
    public void What_is_found_ahead_of_a_piece_that_was_not_looked_at_decides_nothing_yet() =>
        Assert.Null(lines.Judge(0, [5, 6, 7]).Verdict);

    [Fact]
    public void At_its_last_piece_the_middle_line_decides()
    {
        var last = lines.Most;
        Assert.Equal((int)Math.Floor(lines.Slope * last), lines.Ac(last));
        Assert.Equal(lines.Ac(last) + 1, lines.Re(last));
        for (var looked = 1; looked <= last; looked++)
            Assert.True(lines.Ac(looked) < lines.Re(looked));
    }

    [Fact]
    public void What_cannot_be_accepted_any_more_is_rejected_though_its_line_is_not_reached()
    {
        Assert.Equal((3, 4), (lines.Ac(lines.Most), lines.Re(77)));
        Assert.Null(lines.Judge(77, [20, 45, 70]).Verdict);
        Assert.Equal(Verdict.Rejected, lines.Judge(77, [20, 45, 70, 77]).Verdict);
    }

    [Fact]
    public void No_critical_may_fail_and_one_by_one_lets_some() =>
        Assert.Contains(
            "Critical: none may fail.",
            new PlanContent
            {
                SamplingUnit = "each",
                Rules = new Dictionary<CharacteristicClass, SampleRule>
                {
                    [CharacteristicClass.Critical] = new SampleRule.OneByOne(1, 5, 10, 10),
                },
                Characteristics =
                [
                    new Characteristic
                    {
                        Id = 1,
                        Name = "Guard",
                        Class = CharacteristicClass.Critical,
                    },
                ],
            }.Faults()
        );

    /// <summary>A part that is looked at one by one takes on average what its curve says, and never less than the others of the
    /// sheet.</summary>
    [Fact]
    public void On_average_as_many_pieces_are_looked_at_as_the_curve_says_and_the_other_parts_want()
    {
        var part = new SamplePart(CharacteristicClass.Major, lines.First, 0, 1) { Plan = lines };
        var curve = new OperatingCharacteristic(lines, 1000);
        var (alone, none) = (new Sample(null, [part]), new PlanContent { SamplingUnit = "each" });
        Assert.Equal(lines.First, alone.WholePieces(none, part, curve, 0), 1e-9);
        Assert.Equal(curve.AverageSample(0.04), alone.WholePieces(none, part, curve, 0.04), 1e-9);
        Assert.InRange(curve.AverageSample(0.04), lines.First + 1, lines.Most);
        Assert.Equal(
            60,
            new Sample(null, [part, new SamplePart(CharacteristicClass.Minor, 60, 1, 2)]).WholePieces(none, part, curve, 0.04)
        );
    }
}
