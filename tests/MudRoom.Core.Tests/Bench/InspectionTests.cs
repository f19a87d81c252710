using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Bench;

public sealed class InspectionTests
{
    static readonly SiteTime local = at => at.UtcDateTime.AddHours(1);
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);
    static readonly Item secateurs = new()
    {
        Id = 1,
        Code = "SC-21",
        Name = "Secateurs",
        PackLevels = [new PackLevel { Name = "each", Numerator = 1 }, new PackLevel { Name = "box", Numerator = 10 }],
    };

    static readonly PlanContent content = new()
    {
        SamplingUnit = "each",
        Rules = new Dictionary<CharacteristicClass, SampleRule>
        {
            [CharacteristicClass.Major] = new SampleRule.Standard(InspectionLevel.II, 2.5m),
            [CharacteristicClass.Minor] = new SampleRule.Standard(InspectionLevel.II, 4.0m),
        },
        Characteristics =
        [
            new Characteristic
            {
                Id = 1,
                Name = "Gap",
                Class = CharacteristicClass.Major,
                Unit = "mm",
                Lower = 0,
                Upper = 0.15m,
            },
            new Characteristic
            {
                Id = 2,
                Name = "Coating",
                Class = CharacteristicClass.Minor,
            },
            new Characteristic
            {
                Id = 3,
                Name = "Lock",
                Class = CharacteristicClass.Critical,
            },
        ],
    };

    static readonly InspectionPlan plan = InForce(1, "Cutting tools", content);

    static InspectionPlan InForce(int id, string name, PlanContent says)
    {
        var made = new InspectionPlan { Id = id, Name = name };
        Assert.Null(made.Write(says, "Priya", now).Sign("Priya", now, now, null));
        return made;
    }

    static Signature By(string name, string? comment = null) => new(name, now, SignatureMeaning.Checked, comment);

    static PlanContent Looked(string unit) =>
        new()
        {
            SamplingUnit = unit,
            Rules = new Dictionary<CharacteristicClass, SampleRule>
            {
                [CharacteristicClass.Major] = new SampleRule.Standard(InspectionLevel.II, 2.5m),
            },
            Characteristics =
            [
                new Characteristic
                {
                    Id = 1,
                    Name = "Look",
                    Class = CharacteristicClass.Major,
                },
            ],
        };

    static Refusal? Draw(Inspection inspection, InspectionPlan by, long? lotSize = null) =>
        inspection.Draw(by, by.InForce(now), secateurs, _ => Severity.Normal, lotSize);

    static Inspection Drawn(decimal quantity = 240)
    {
        var inspection = new Inspection
        {
            Number = "I-0001",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 1,
            Since = now,
        };
        Assert.Null(inspection.Grow(quantity));
        Assert.Null(Draw(inspection, plan));
        return inspection;
    }

    static void Find(Inspection inspection, int piece, int characteristic, decimal? value, bool? pass) =>
        Assert.Null(inspection.Find(content, new Observation(piece, characteristic, value, pass), "Sunita", now, local).Refusal);

    static void FillGood(Inspection inspection)
    {
        foreach (var c in content.Characteristics)
            for (var piece = 1; piece <= inspection.Sample!.Classes.First(x => x.Class == c.Class).SampleSize; piece++)
                Find(inspection, piece, c.Id, c.IsMeasured ? 0.08m : null, c.IsMeasured ? null : true);
    }

    [Fact]
    public void A_lot_of_240_at_level_II_and_AQL_2_5_is_looked_at_in_32_pieces_accepting_2()
    {
        var sample = Drawn().Sample!;
        Assert.Equal('G', sample.Letter);
        Assert.Equal(new SamplePlan.Single(32, 2), sample.Classes.First(c => c.Class == CharacteristicClass.Major).Asks);
        Assert.Equal(0, sample.Classes.First(c => c.Class == CharacteristicClass.Critical).Ac);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(9)]
    public void A_sample_is_never_larger_than_its_lot(long lot) => Assert.True(Sample.For(content, lot, _ => Severity.Normal).Size <= lot);

    [Fact]
    public void Rejection_is_certain_at_the_rejection_number_and_the_rest_need_not_be_looked_at()
    {
        var inspection = Drawn();
        foreach (var piece in new[] { 6, 14, 27 })
            Find(inspection, piece, 1, 0.17m, null);
        Assert.Equal(Verdict.Rejected, LotStand.Of(content, inspection.Sample!, inspection.Findings).Verdict);
        Assert.Equal(Verdict.Rejected, inspection.Sign(plan, By("Sunita", null), local).Value);
    }

    [Fact]
    public void One_critical_nonconformity_rejects()
    {
        var inspection = Drawn();
        Find(inspection, 1, 3, null, false);
        Assert.Equal(Verdict.Rejected, LotStand.Of(content, inspection.Sample!, inspection.Findings).Verdict);
    }

    [Fact]
    public void Acceptance_wants_every_finding()
    {
        var inspection = Drawn();
        Find(inspection, 1, 1, 0.1m, null);
        Assert.Equal("findings-missing", inspection.Sign(plan, By("Sunita", null), local).Refusal!.Code);
        FillGood(inspection);
        Assert.Equal(Verdict.Accepted, inspection.Sign(plan, By("Sunita", null), local).Value);
    }

    [Fact]
    public void A_piece_with_two_faults_of_a_class_counts_once_and_a_corrected_value_replaces_the_wrong_one()
    {
        var inspection = Drawn();
        Find(inspection, 5, 1, 0.2m, null);
        Assert.Null(inspection.Find(content, new Observation(5, 1, 0.1m, null, "gauge had slipped"), "Sunita", now, local).Refusal);
        Assert.All(LotStand.Of(content, inspection.Sample!, inspection.Findings).Parts, c => Assert.Equal(0, c.Nonconforming));
        Assert.Single(inspection.Findings);
    }

    [Fact]
    public void Limits_are_inclusive()
    {
        Assert.True(content.Characteristics[0].Conforms(0.15m));
        Assert.True(content.Characteristics[0].Conforms(0.150m));
        Assert.False(content.Characteristics[0].Conforms(0.151m));
    }

    [Fact]
    public void A_signed_sheet_cannot_be_changed_and_its_hash_tells_of_any_change()
    {
        var inspection = Drawn();
        FillGood(inspection);
        inspection.Sign(plan, By("Sunita", "fine"), local);
        Assert.Equal("signed", inspection.Find(content, new Observation(1, 1, 0.5m, null), "Bram", now, local).Refusal!.Code);
        Assert.Equal("signed", inspection.Sign(plan, By("Bram", null), local).Refusal!.Code);
        Assert.Equal(inspection.SheetHash, Sheets.Hash(inspection, plan.Name, plan[1]));
        inspection.Findings[0].Value = 0.14m;
        Assert.NotEqual(inspection.SheetHash, Sheets.Hash(inspection, plan.Name, plan[1]));
    }

    [Fact]
    public void What_comes_after_the_sample_is_drawn_is_no_part_of_the_lot() => Assert.Equal("sample-drawn", Drawn().Shrink(10).Code());

    [Theory]
    [InlineData(33, 1, "piece-outside")]
    [InlineData(0, 1, "piece-outside")]
    [InlineData(1, 99, "characteristic-unknown")]
    public void A_finding_outside_the_sample_is_refused(int piece, int characteristic, string code) =>
        Assert.Equal(code, Drawn().Find(content, new Observation(piece, characteristic, 0.1m, null), "Sunita", now, local).Refusal!.Code);

    // Common practice, no source: lots are counted in the sampling unit, part boxes count whole.
    [Fact]
    public void Lots_are_counted_in_the_sampling_unit()
    {
        var byBox = InForce(2, "By box", Looked("box"));
        var inspection = new Inspection
        {
            Number = "I-2",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 2,
            Since = now,
        };
        Assert.Null(inspection.Grow(95));
        Draw(inspection, byBox);
        Assert.Equal(10, inspection.LotSize);
    }

    [Fact]
    public void A_finding_turns_good_or_another_inspectors_is_changed_only_with_a_reason_and_the_old_one_stays_on_the_sheet()
    {
        var inspection = Drawn();
        Find(inspection, 4, 1, 0.2m, null);
        Outcome<Finding> Change(decimal value, string by, string? reason = null) =>
            inspection.Find(content, new Observation(4, 1, value, null, reason), by, now.AddMinutes(5), local);
        Assert.Equal("reason-missing", Change(0.1m, "Sunita").Refusal!.Code);
        Assert.Equal("reason-missing", Change(0.21m, "Bram").Refusal!.Code);
        Assert.Equal(0.2m, inspection.Findings.Single().Value);
        // One's own slip towards a worse value wants none, and the same value again changes nothing.
        Assert.Null(Change(0.22m, "Sunita").Refusal);
        Assert.Null(Change(0.22m, "Bram").Refusal);
        Assert.Equal("Sunita", inspection.Findings.Single().By);
        Assert.Null(Change(0.1m, "Bram", "the feeler was bent").Refusal);
        Assert.Equal(
            [("0.2 mm", "Sunita", null), ("0.22 mm", "Sunita", "the feeler was bent")],
            inspection.Findings.Single().Before.Select(b => (b.Was, b.By, b.Reason))
        );
    }

    [Theory]
    [InlineData("9", "0.09 would be within")]
    [InlineData("1.5", "0.15 would be within")]
    [InlineData("7", "outside what the feeler can read")]
    public void A_value_that_cannot_be_is_asked_about_before_it_counts_towards_rejection(string typed, string why)
    {
        var value = decimal.Parse(typed, System.Globalization.CultureInfo.InvariantCulture);
        var byFeeler = content with
        {
            Characteristics =
            [
                content.Characteristics[0] with
                {
                    Gauge = "feeler",
                    GaugeHigh = typed == "7" ? 5 : null,
                },
                .. content.Characteristics.Skip(1),
            ],
        };
        var inspection = Drawn();
        var asked = inspection.Find(byFeeler, new Observation(1, 1, value, null), "Sunita", now, local).Refusal!;
        Assert.Equal("value-doubtful", asked.Code);
        Assert.Contains(why, asked.Sentence);
        Assert.Empty(inspection.Findings);
        Assert.False(inspection.Find(byFeeler, new Observation(1, 1, value, null, IsSure: true), "Sunita", now, local).Value.Conforms);
        // A plain nonconforming value is no slip of the point.
        Assert.Null(inspection.Find(byFeeler, new Observation(2, 1, 0.17m, null), "Sunita", now, local).Refusal);
    }

    [Fact]
    public void A_lot_counted_by_a_unit_the_item_lacks_asks_for_its_size_and_never_takes_another_unit()
    {
        var bySack = InForce(3, "Seed lot", Looked("sack"));
        var inspection = new Inspection
        {
            Number = "I-3",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 3,
            Since = now,
        };
        Assert.Null(inspection.Grow(500));
        var asked = Draw(inspection, bySack)!;
        Assert.Equal("lot-size-wanted", asked.Code);
        Assert.Equal(InspectionState.Waiting, inspection.State);
        Assert.Equal("lot-size-absurd", Draw(inspection, bySack, 0).Code());
        Assert.Null(Draw(inspection, bySack, 20));
        Assert.Equal(20, inspection.LotSize);
    }

    [Fact]
    public void Where_the_plan_wants_two_signatures_the_second_is_another_persons_and_the_first_closes_the_sheet()
    {
        var twice = InForce(1, "Cutting tools", content with { WantsSecond = true });
        var inspection = new Inspection
        {
            Number = "I-0002",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 1,
            Since = now,
        };
        Assert.Null(inspection.Grow(240));
        Assert.Null(Draw(inspection, twice));
        FillGood(inspection);
        Assert.Equal(Verdict.Accepted, inspection.Sign(twice, By("Sunita"), local).Value);
        Assert.Equal((InspectionState.Drawn, null, true), (inspection.State, inspection.SheetHash, inspection.WaitsForSecond));
        Assert.Equal("signed-already", inspection.Sign(twice, By("Sunita"), local).Refusal!.Code);
        Assert.Equal("signed-first", inspection.Find(content, new Observation(1, 1, 0.5m, null), "Bram", now, local).Refusal!.Code);
        Assert.Equal("no-signature", inspection.TakeSignatureBack("Bram", local).Code());
        Assert.Null(inspection.TakeSignatureBack("Sunita", local));
        Assert.Null(inspection.Find(content, new Observation(1, 1, 0.09m, null), "Sunita", now, local).Refusal);

        Assert.Null(inspection.Sign(twice, By("Sunita"), local).Refusal);
        var second = new Signature("Bram", now, SignatureMeaning.Approved, "seen");
        Assert.Equal(Verdict.Accepted, inspection.Sign(twice, second, local).Value);
        Assert.Equal((InspectionState.Signed, "Sunita and Bram"), (inspection.State, inspection.SignedBy));
        Assert.True(Sheets.IsWhole(inspection, twice.Name, twice[1]));
        Assert.Equal("signed", inspection.TakeSignatureBack("Sunita", local).Code());
    }

    [Fact]
    public void What_a_sheet_will_still_take_is_told_by_its_plan()
    {
        var timed = content with { SetUpMinutes = 10, SecondsPerPiece = 60 };
        var waiting = new Inspection
        {
            Number = "I-2",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 1,
            Since = now,
        };
        Assert.Null(waiting.MinutesLeft(timed, secateurs, 0));
        Assert.Null(waiting.Grow(240));
        // 32 pieces of a minute, and ten to set up.
        Assert.Equal(42, waiting.MinutesLeft(timed, secateurs, 0));
        Assert.Null(waiting.MinutesLeft(timed with { SamplingUnit = "sack" }, secateurs, 0));
        Assert.Equal(22, Drawn().MinutesLeft(timed, secateurs, 30));
        var signed = Drawn();
        FillGood(signed);
        signed.Sign(plan, By("Sunita", null), local);
        Assert.Equal(0, signed.MinutesLeft(timed, secateurs, 96));
    }

    [Fact]
    public void A_sample_is_put_back_while_nothing_was_found_and_the_lot_is_open_again()
    {
        var inspection = Drawn();
        Assert.Null(inspection.PutBack(local));
        Assert.Null(inspection.Grow(10));
        Assert.Equal((InspectionState.Waiting, null, 0), (inspection.State, inspection.Sample, inspection.PlanVersion));
        Assert.Equal("sample-not-drawn", inspection.PutBack(local).Code());
        Assert.Null(Draw(inspection, plan));
        Find(inspection, 1, 1, 0.1m, null);
        Assert.Equal("findings-made", inspection.PutBack(local).Code());
        Assert.Equal(InspectionState.Drawn, inspection.State);
    }

    [Fact]
    public void A_lot_that_is_drawn_grows_no_more()
    {
        var drawn = Drawn();
        var before = (drawn.Quantity, drawn.Sample!.Size, drawn.Sample.Letter);
        Assert.Equal("sample-drawn", drawn.Grow(1).Code());
        Assert.Equal(before, (drawn.Quantity, drawn.Sample!.Size, drawn.Sample.Letter));
    }

    [Fact]
    public void The_hash_covers_what_was_asked_too_and_an_old_sheet_is_checked_by_its_own_version()
    {
        var inspection = Drawn();
        FillGood(inspection);
        inspection.Sign(plan, By("Sunita", "fine"), local);
        Assert.True(Sheets.IsWhole(inspection, plan.Name, plan[1]));
        // Another version under the same number is another sheet: a limit or an AQL that was moved behind its back is found.
        var moved = content with { Characteristics = [content.Characteristics[0] with { Upper = 9 }, .. content.Characteristics.Skip(1)] };
        Assert.False(Sheets.IsWhole(inspection, plan.Name, InForce(1, plan.Name, moved)[1]));
        var laxer = content with
        {
            Rules = new Dictionary<CharacteristicClass, SampleRule>(content.Rules)
            {
                [CharacteristicClass.Major] = new SampleRule.Standard(InspectionLevel.II, 6.5m),
            },
        };
        Assert.False(Sheets.IsWhole(inspection, plan.Name, InForce(1, plan.Name, laxer)[1]));
        Assert.False(Sheets.IsWhole(inspection, "Another plan", plan[1]));
        inspection.Findings[3].Before = [new FindingBefore("0.9 mm", false, "Bram", now, null)];
        Assert.False(Sheets.IsWhole(inspection, plan.Name, plan[1]));
    }

    [Theory]
    [InlineData("0.09", null, "gauge-which")]
    [InlineData("0.09 mm", null, "1")]
    [InlineData("56 HRC", null, "4")]
    [InlineData("hardness 56", null, "4")]
    [InlineData("caliper=0.09", null, "gauge-none")]
    [InlineData("0.09", 1, "1")]
    [InlineData("56 HRC", 1, "gauge-other")]
    public void A_value_of_a_gauge_goes_to_what_it_measures(string sent, int? cursor, string to)
    {
        Characteristic[] open =
        [
            new()
            {
                Id = 1,
                Name = "Gap",
                Unit = "mm",
                Gauge = "feeler",
            },
            new()
            {
                Id = 4,
                Name = "Hardness",
                Unit = "HRC",
                Gauge = "hardness",
            },
        ];
        var read = Gauges.For(Gauges.Read(sent)!, open, open.FirstOrDefault(c => c.Id == cursor));
        Assert.Equal(to, read.Refused(out var no) ? no.Code : read.Value.Id.ToString());
    }
}
