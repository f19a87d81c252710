using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Bench;

/// <summary>A plan in force is never changed; what a draft lacks is told before it is signed.</summary>
public sealed class PlanTests
{
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);

    static readonly PlanContent good = new()
    {
        SamplingUnit = "each",
        Rules = new Dictionary<CharacteristicClass, SampleRule>
        {
            [CharacteristicClass.Major] = new SampleRule.Standard(InspectionLevel.II, 2.5m),
        },
        Characteristics =
        [
            new Characteristic
            {
                Id = 1,
                Name = "Length",
                Class = CharacteristicClass.Major,
                Unit = "mm",
                Lower = 209,
                Upper = 215,
            },
            new Characteristic
            {
                Id = 2,
                Name = "Hardness",
                Class = CharacteristicClass.Major,
                Unit = "HRC",
                Lower = 54,
                Upper = 58,
                Rule = new SampleRule.ByVariables(1, 5, 15, 10, null),
            },
        ],
    };

    static PlanContent With(Func<Characteristic, Characteristic> change) =>
        good with
        {
            Characteristics = [change(good.Characteristics[0]), good.Characteristics[1]],
        };

    static InspectionPlan Signed(DateTimeOffset from)
    {
        var plan = new InspectionPlan { Id = 1, Name = "Cutting tools" };
        Assert.Null(plan.Write(good, "Priya", now).Sign("Priya", now, from, null));
        return plan;
    }

    [Fact]
    public void A_version_is_in_force_from_its_day_and_until_the_next()
    {
        var plan = Signed(now);
        Assert.Null(plan.Write(With(c => c with { Upper = 214 }), "Priya", now).Sign("Priya", now, now.AddDays(3), null));
        Assert.Null(plan.InForce(now.AddSeconds(-1)));
        Assert.Equal(1, plan.InForce(now.AddDays(2))!.Number);
        Assert.Equal(2, plan.InForce(now.AddDays(3))!.Number);
        Assert.Equal(2, plan.ToCome(now)!.Number);
        // One that is signed for now overtakes what was to come.
        var overtaken = Signed(now);
        Assert.Null(overtaken.Write(With(c => c with { Upper = 214 }), "Priya", now).Sign("Priya", now, now.AddDays(3), null));
        Assert.Null(overtaken.Write(With(c => c with { Upper = 213 }), "Priya", now).Sign("Priya", now, now, null));
        Assert.Equal((3, null), (overtaken.InForce(now.AddDays(4))!.Number, overtaken.ToCome(now)));
        Assert.Null(plan.Draft);
    }

    [Fact]
    public void What_is_signed_is_not_changed_and_the_next_draft_is_another_version()
    {
        var plan = Signed(now);
        var hash = plan[1].Hash;
        var draft = plan.Write(With(c => c with { Upper = 214 }), "Bram", now);
        Assert.Equal(2, draft.Number);
        Assert.Equal(draft, plan.Write(With(c => c with { Upper = 213 }), "Bram", now));
        Assert.Equal(hash, plan[1].Hash);
        Assert.Equal("plan-signed", plan[1].Sign("Bram", now, now, null).Code());
        Assert.Equal("plan-backdated", draft.Sign("Bram", now, now.AddDays(-1), null).Code());
    }

    [Fact]
    public void What_is_kept_reads_as_what_was_written()
    {
        var kept = Signed(now)[1].Content;
        Assert.Equal(PlanVersion.TextOf(good), PlanVersion.TextOf(kept));
        Assert.Empty(PlanChanges.Between(good, kept));
    }

    public static TheoryData<PlanContent, string> Faulty() =>
        new()
        {
            { good with { Characteristics = [] }, "nothing to look at" },
            { With(c => c with { Lower = 216 }), "lower limit 216 lies above the upper 215" },
            { With(c => c with { Lower = null, Upper = null }), "has no limit" },
            { With(c => c with { Nominal = 220 }), "nominal value 220 lies outside" },
            { With(c => c with { GaugeLow = 0, GaugeHigh = 200 }), "outside what the gauge can read" },
            { With(c => c with { Name = "Hardness" }), "2 characteristics are called Hardness" },
            { With(c => c with { Unit = null, PassWord = "good", FailWord = "Good" }), "the same word" },
            { With(c => c with { Unit = null, Rule = new SampleRule.ByVariables(1, 5, 15, 10, null) }), "is looked at" },
            { With(c => c with { Class = CharacteristicClass.Minor }), "Minor: no sample rule" },
            { With(c => c with { Rule = new SampleRule.Fixed(0, 0) }), "1 to 10000 pieces" },
            { good with { SamplingUnit = " " }, "in which unit" },
            {
                good with
                {
                    Rules = new Dictionary<CharacteristicClass, SampleRule>(good.Rules)
                    {
                        [CharacteristicClass.Critical] = new SampleRule.Fixed(5, 1),
                    },
                },
                "Critical: none may fail"
            },
        };

    [Theory]
    [MemberData(nameof(Faulty))]
    public void A_draft_with_a_fault_is_not_signed_and_says_why(PlanContent content, string why)
    {
        Assert.Contains(why, string.Join(" ", content.Faults()));
        Assert.Equal(
            "plan-faulty",
            new InspectionPlan { Name = "x" }
                .Write(content, "Priya", now)
                .Sign("Priya", now, now, null)
                .Code()
        );
    }

    [Fact]
    public void What_differs_is_told_by_characteristic_with_what_stood_there()
    {
        var change = Assert.Single(PlanChanges.Between(good, With(c => c with { Upper = 214 })));
        Assert.Equal(new PlanChange(1, "upper limit", "215", "214"), change);
        var rule = Assert.Single(PlanChanges.Between(good, With(c => c with { Rule = new SampleRule.Fixed(5, 0) })));
        Assert.Equal(("with the majors", "5, none may fail"), (rule.Was, rule.Now));
        var gone = Assert.Single(PlanChanges.Between(good, good with { Characteristics = [good.Characteristics[0]] }));
        Assert.Equal((2, null), (gone.Characteristic, gone.Now));
    }

    [Fact]
    public void No_rule_lets_a_critical_nonconformity_pass()
    {
        var critical = good with
        {
            Rules = new Dictionary<CharacteristicClass, SampleRule>
            {
                [CharacteristicClass.Critical] = new SampleRule.Standard(InspectionLevel.II, 2.5m, IsDouble: true),
            },
            Characteristics = [good.Characteristics[0] with { Class = CharacteristicClass.Critical }],
        };
        Assert.Equal(new SamplePlan.Single(32, 0), Sample.For(critical, 240, _ => Severity.Normal).Classes.Single().Asks);
        var byValues = With(c => c with { Class = CharacteristicClass.Critical, Rule = new SampleRule.ByVariables(1, 5, 15, 10, null) });
        Assert.Contains("piece by piece", string.Join(" ", byValues.Faults()));
    }

    [Fact]
    public void A_double_sample_asks_for_the_second_only_where_the_first_leaves_it_open()
    {
        var twice = good with
        {
            Rules = new Dictionary<CharacteristicClass, SampleRule>
            {
                [CharacteristicClass.Major] = new SampleRule.Standard(InspectionLevel.II, 2.5m, IsDouble: true),
            },
            Characteristics = [good.Characteristics[0]],
        };
        var sample = Sample.For(twice, 240, _ => Severity.Normal);
        List<Finding> findings = [];
        Look(1, 20, bad: 0);
        Assert.Equal(Verdict.Accepted, Stand().Verdict);

        findings = [];
        Look(1, 20, bad: 1);
        Assert.Null(Stand().Verdict);
        Assert.Equal(
            (20, "1 major nonconforming of 20: a second sample of 20 decides"),
            (Stand().Missing, Stand().Parts[0].Judgement.Sentence)
        );
        Look(21, 40, bad: 2);
        Assert.Equal(Verdict.Accepted, Stand().Verdict);

        findings = [];
        Look(1, 20, bad: 3);
        Assert.Equal(Verdict.Rejected, Stand().Verdict);

        LotStand Stand() => LotStand.Of(twice, sample, findings);
        void Look(int from, int to, int bad)
        {
            for (var piece = from; piece <= to; piece++)
                findings.Add(
                    new Finding
                    {
                        Piece = piece,
                        CharacteristicId = 1,
                        Conforms = piece - from >= bad,
                        By = "Priya",
                        At = now,
                    }
                );
        }
    }

    [Fact]
    public void A_characteristic_with_a_rule_of_its_own_is_judged_by_itself()
    {
        var sample = Sample.For(good, 240, _ => Severity.Normal);
        var values = sample.Classes.Single(p => p.Characteristic == 2);
        Assert.Equal(CharacteristicClass.Major, values.Class);
        var plan = Assert.IsType<SamplePlan.Variables>(values.Asks);
        List<Finding> findings = [];
        for (var piece = 1; piece <= plan.Size; piece++)
            findings.Add(
                new Finding
                {
                    Piece = piece,
                    CharacteristicId = 2,
                    // All within the limits, and yet too wide a spread for so near a limit.
                    Value = piece % 2 == 0 ? 57.9m : 54.1m,
                    Conforms = true,
                    By = "Priya",
                    At = now,
                }
            );
        var stand = LotStand.Of(good, sample, findings);
        Assert.Equal(Verdict.Rejected, stand.Verdict);
        Assert.Contains("Hardness: about", stand.WhyRejected);
        // It says nothing of the lots of its class.
        Assert.DoesNotContain(ClassOutcome.Of(good, sample, findings), o => o.Looked > 0);
    }

    [Theory]
    [InlineData("g", true)]
    [InlineData("kg", true)]
    [InlineData("mm", false)]
    [InlineData("%", false)]
    [InlineData("HRC", false)]
    [InlineData(null, false)]
    public void A_scale_tells_what_has_a_unit_of_mass(string? unit, bool isWeighed) =>
        Assert.Equal(isWeighed, new Characteristic { Name = "Fill", Unit = unit }.IsWeighed);
}
