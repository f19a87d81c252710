using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Bench;

/// <summary>Where each rule takes pieces of its own: what one uses up is not there for the other.</summary>
public sealed class EachItsOwnTests
{
    static readonly SiteTime local = at => at.UtcDateTime;
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);
    static readonly Item rope = new()
    {
        Id = 1,
        Code = "RP-08",
        Name = "Rope",
        PackLevels = [new PackLevel { Name = "coil", Numerator = 1 }],
    };

    static PlanContent Plan(SampleRule major, SampleRule minor, bool eachItsOwn = true) =>
        new()
        {
            SamplingUnit = "coil",
            SecondsPerPiece = 60,
            EachItsOwn = eachItsOwn,
            Rules = new Dictionary<CharacteristicClass, SampleRule>
            {
                [CharacteristicClass.Major] = major,
                [CharacteristicClass.Minor] = minor,
            },
            Characteristics =
            [
                new Characteristic
                {
                    Id = 1,
                    Name = "Breaking load",
                    Class = CharacteristicClass.Major,
                    UsesUp = true,
                },
                new Characteristic
                {
                    Id = 2,
                    Name = "Dye",
                    Class = CharacteristicClass.Minor,
                    UsesUp = true,
                },
            ],
        };

    static readonly SampleRule five = new SampleRule.Fixed(5, 0);
    static readonly SampleRule twice = new SampleRule.Standard(InspectionLevel.II, 4.0m, IsDouble: true);

    static Sample For(PlanContent plan, long lot = 1000) => Sample.For(plan, lot, _ => Severity.Normal);

    static Inspection Drawn(PlanContent says, decimal quantity = 1000)
    {
        var plan = new InspectionPlan { Id = 1, Name = "Rope" };
        Assert.Null(plan.Write(says, "Priya", now).Sign("Priya", now, now, null));
        var sheet = new Inspection
        {
            Number = "I-0001",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 1,
            Since = now,
        };
        Assert.Null(sheet.Grow(quantity));
        Assert.Null(sheet.Draw(plan, plan.InForce(now), rope, _ => Severity.Normal));
        return sheet;
    }

    static void Look(Inspection sheet, PlanContent says, int characteristic, IEnumerable<int> pieces, bool pass = true)
    {
        foreach (var piece in pieces)
            Assert.Null(sheet.Find(says, new Observation(piece, characteristic, null, pass), "Sunita", now, local).Refusal);
    }

    static string? Code(Inspection sheet, PlanContent says, int characteristic, int piece) =>
        sheet.Find(says, new Observation(piece, characteristic, null, true), "Sunita", now, local).Refusal?.Code;

    [Fact]
    public void Each_rule_has_pieces_that_no_other_has_and_the_sample_is_all_of_them_together()
    {
        var says = Plan(five, new SampleRule.Fixed(3, 0));
        var sheet = Drawn(says);
        Assert.Equal((8, 8m, true), (sheet.Sample!.Size, sheet.Sampled, sheet.Sample.IsApart));
        Assert.Equal([1, 6], LotStand.Of(says, sheet.Sample, []).Parts.Select(p => p.First));
        Assert.Equal(("piece-outside", "piece-outside"), (Code(sheet, says, 1, 6), Code(sheet, says, 2, 5)));
        Look(sheet, says, 1, Enumerable.Range(1, 5));
        Look(sheet, says, 2, [6, 7]);
        Assert.Null(LotStand.Of(says, sheet.Sample, sheet.Findings).Verdict);
        Look(sheet, says, 2, [8]);
        Assert.Equal(Verdict.Accepted, LotStand.Of(says, sheet.Sample, sheet.Findings).Verdict);

        // Where the largest serves all, the same rules look at the first pieces twice.
        var shared = Plan(five, new SampleRule.Fixed(3, 0), eachItsOwn: false);
        Assert.Equal((5, false), (For(shared).Size, For(shared).IsApart));
        Assert.Equal(("[1 to 5]", "[1 to 8]"), (Wanted(shared), Wanted(says)));

        static string Wanted(PlanContent plan) => $"[{string.Join(", ", LotStand.Of(plan, For(plan), []).Wanted)}]";
    }

    [Fact]
    public void A_lot_too_small_for_pieces_of_their_own_is_looked_at_as_if_the_largest_served_all_and_says_so()
    {
        var says = Plan(five, new SampleRule.Fixed(3, 0));
        Assert.True(For(says, 8).IsApart);
        var small = For(says, 7);
        Assert.Equal((5, false), (small.Size, small.IsApart));
        Assert.All(small.Classes, p => Assert.Equal("The lot is too small for pieces of its own.", p.Note));
    }

    /// <summary>The one that may want more stands behind, however the classes follow one another: no number is left open between.</summary>
    [Fact]
    public void What_a_second_sample_takes_is_drawn_behind_the_pieces_of_the_others()
    {
        var says = Plan(twice, five);
        var sheet = Drawn(says);
        var (first, ac, re) = sheet.Sample!.Classes[0].Asks is SamplePlan.Double d ? (d.First, d.Ac1, d.Re1) : default;
        Assert.True(re > ac + 1, "This double plan leaves something open after its first sample.");
        Assert.Equal([6, 1], LotStand.Of(says, sheet.Sample, []).Parts.Select(p => p.First));
        Look(sheet, says, 2, Enumerable.Range(1, 5));
        Look(sheet, says, 1, Enumerable.Range(6, ac + 1), pass: false);
        Look(sheet, says, 1, Enumerable.Range(6 + ac + 1, first - ac - 1));
        Assert.Equal(0, sheet.StillToDraw(5 + first, rope, says));
        Assert.Equal(first, sheet.StillToDraw(5 + first + 1, rope, says));
        sheet.DrawMore(first);
        Assert.Equal((0m, 5m + first + first), (sheet.StillToDraw(5 + first + 1, rope, says), sheet.Sampled));
        Look(sheet, says, 1, [5 + first + 1]);
        Assert.Equal(6 + first, sheet.Sample.Drawn(sheet.Findings));
    }

    /// <summary>Whatever is found, each part is judged as if the other were not there.</summary>
    [Theory]
    [MemberData(nameof(Pairs))]
    public void A_part_is_judged_by_its_own_pieces_as_if_it_were_alone(SampleRule major, SampleRule minor)
    {
        var random = new Random(20261129);
        var says = Plan(major, minor);
        var alone = new[]
        {
            says with
            {
                Characteristics = [says.Characteristics[0]],
            },
            says with
            {
                Characteristics = [says.Characteristics[1]],
            },
        };
        for (var lot = 0; lot < 40; lot++)
        {
            var sheet = Drawn(says, 2000);
            var single = alone.Select(a => Drawn(a, 2000)).ToList();
            var most = sheet.Sample!.Classes.Sum(p => p.Asks.Largest);
            Assert.All(Enumerable.Range(1, most), piece => Assert.Single(sheet.Sample.Classes, p => p.Has(piece)));
            for (var step = 0; step < 400; step++)
            {
                var stand = LotStand.Of(says, sheet.Sample, sheet.Findings);
                var c = random.Next(2);
                var (part, by) = (
                    stand.PartOf(says.Characteristics[c]),
                    LotStand.Of(alone[c], single[c].Sample!, single[c].Findings).Parts[0]
                );
                Assert.Equal((by.Judgement, by.Missing, by.Nonconforming), (part.Judgement, part.Missing, part.Nonconforming));
                var piece = random.Next(part.Judgement.Wanted);
                var pass = random.NextDouble() > 0.04;
                if (sheet.Findings.Exists(f => f.Piece == part.First + piece && f.CharacteristicId == c + 1))
                    continue;
                Look(sheet, says, c + 1, [part.First + piece], pass);
                Look(single[c], alone[c], c + 1, [1 + piece], pass);
            }
        }
    }

    public static TheoryData<SampleRule, SampleRule> Pairs =>
        new()
        {
            { new SampleRule.Fixed(20, 1), new SampleRule.Fixed(13, 2) },
            { new SampleRule.Standard(InspectionLevel.I, 2.5m), twice },
            { twice, new SampleRule.Standard(InspectionLevel.II, 6.5m, IsDouble: true) },
            { new SampleRule.OneByOne(1, 5, 10, 10), new SampleRule.Fixed(8, 0) },
        };

    [Fact]
    public void Criticals_that_go_with_the_others_want_a_rule_before_each_takes_its_own()
    {
        var says = Plan(five, new SampleRule.Fixed(3, 0));
        says = says with
        {
            Characteristics =
            [
                .. says.Characteristics,
                new Characteristic
                {
                    Id = 3,
                    Name = "Core",
                    Class = CharacteristicClass.Critical,
                },
            ],
        };
        Assert.Contains("Critical: where each has pieces of its own", Assert.Single(says.Faults()));
        Assert.Empty((says with { EachItsOwn = false }).Faults());
        Assert.Empty(
            (
                says with
                {
                    Rules = new Dictionary<CharacteristicClass, SampleRule>(says.Rules)
                    {
                        [CharacteristicClass.Critical] = new SampleRule.Fixed(5, 0),
                    },
                }
            ).Faults()
        );
    }

    /// <summary>A piece that is looked at for one of two things takes half the time.</summary>
    [Fact]
    public void A_piece_that_is_looked_at_for_one_thing_takes_its_part_of_the_time()
    {
        var says = Plan(new SampleRule.Fixed(6, 0), new SampleRule.Fixed(6, 0));
        Assert.Equal(6, Drawn(says).MinutesLeft(says, rope, found: 0));
        Assert.Equal(3, Drawn(says).MinutesLeft(says, rope, found: 6));
        Assert.Equal(6, For(says with { EachItsOwn = false }).WholePieces(says));
    }

    [Fact]
    public void A_change_of_it_is_told_between_versions()
    {
        var before = Plan(five, five, eachItsOwn: false);
        var change = Assert.Single(PlanChanges.Between(before, before with { EachItsOwn = true }));
        Assert.Equal(("pieces", "the largest sample serves all", "each its own"), (change.Field, change.Was, change.Now));
    }

    /// <summary>Which pieces are whose is of the signed sheet: it cannot be turned afterwards.</summary>
    [Fact]
    public void The_hash_of_a_sheet_covers_which_pieces_are_whose()
    {
        var says = Plan(five, new SampleRule.Fixed(3, 0));
        var plan = new InspectionPlan { Id = 1, Name = "Rope" };
        Assert.Null(plan.Write(says, "Priya", now).Sign("Priya", now, now, null));
        var sheet = Drawn(says);
        Look(sheet, says, 1, Enumerable.Range(1, 5));
        Look(sheet, says, 2, Enumerable.Range(6, 3));
        Assert.Null(sheet.Sign(plan, new Signature("Sunita", now, SignatureMeaning.Checked, null), local).Refusal);
        Assert.True(Sheets.IsWhole(sheet, "Rope", plan[1]));
        var turned = sheet.Sample! with { Classes = [sheet.Sample.Classes[0], sheet.Sample.Classes[1] with { After = 4 }] };
        typeof(Inspection).GetProperty(nameof(Inspection.Sample))!.SetValue(sheet, turned);
        Assert.False(Sheets.IsWhole(sheet, "Rope", plan[1]));
    }

    static Characteristic Measured(HowHad had, string unit, decimal lower, decimal upper) =>
        new()
        {
            Id = 1,
            Name = "Knots",
            Class = CharacteristicClass.Major,
            Unit = unit,
            Lower = lower,
            Upper = upper,
            Had = had,
        };

    [Theory]
    [InlineData(HowHad.Counted, "each", "2.5", "Knots is counted: its limits are whole numbers.")]
    [InlineData(HowHad.Scale, "mm", "2", "Knots is read from a scale, and mm is no unit of mass.")]
    [InlineData((HowHad)9, "mm", "2", "Knots: nobody knows how its value is had.")]
    public void A_way_of_having_a_value_that_cannot_be_is_a_fault(HowHad had, string unit, string lower, string fault) =>
        Assert.Equal(
            fault,
            Assert.Single(Measured(had, unit, decimal.Parse(lower, System.Globalization.CultureInfo.InvariantCulture), 7).Faults())
        );

    [Fact]
    public void What_is_counted_is_a_whole_number_and_what_is_measured_need_not_be()
    {
        foreach (var (had, code) in new[] { (HowHad.Counted, "count-not-whole"), (HowHad.Typed, null), (HowHad.Gauge, null) })
        {
            var says = Plan(five, five) with { Characteristics = [Measured(had, "each", 0, 7)] };
            var sheet = Drawn(says);
            Outcome<Finding> Found(decimal value, int piece = 1) =>
                sheet.Find(says, new Observation(piece, 1, value, null), "Sunita", now, local);
            Assert.Equal(code, Found(2.5m).Refusal?.Code);
            Assert.Equal(had == HowHad.Counted ? "count-not-whole" : null, Found(-1, 2).Refusal?.Code);
            Assert.Null(Found(3, 3).Refusal);
        }
    }

    [Fact]
    public void A_scale_tells_only_what_is_meant_to_be_weighed()
    {
        Assert.True(Measured(HowHad.Scale, "g", 0, 7).IsWeighed);
        Assert.True(Measured(HowHad.Typed, "g", 0, 7).IsWeighed);
        Assert.False(Measured(HowHad.Gauge, "g", 0, 7).IsWeighed);
        Assert.False(Measured(HowHad.Counted, "g", 0, 7).IsWeighed);
        Assert.Equal([false, true, true, false], Enum.GetValues<HowHad>().Select(h => Measured(h, "g", 0, 7).IsRead));
    }
}
