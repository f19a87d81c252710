using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Bench;

public sealed class InspectionTests
{
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);
    static readonly Item secateurs = new() { Id = 1, Code = "SC-21", Name = "Secateurs", PackLevels = [new PackLevel { Name = "each", Numerator = 1 }, new PackLevel { Name = "box", Numerator = 10 }] };

    static readonly InspectionPlan plan = new()
    {
        Id = 1,
        Name = "Cutting tools",
        SamplingUnit = "each",
        AqlMajor = 2.5m,
        AqlMinor = 4.0m,
        Characteristics =
        [
            new Characteristic { Id = 1, Name = "Gap", Class = CharacteristicClass.Major, Unit = "mm", Lower = 0, Upper = 0.15m },
            new Characteristic { Id = 2, Name = "Coating", Class = CharacteristicClass.Minor },
            new Characteristic { Id = 3, Name = "Lock", Class = CharacteristicClass.Critical },
        ],
    };

    static Inspection Drawn(decimal quantity = 240)
    {
        var inspection = new Inspection { Number = "I-0001", SiteId = 1, ArrivalId = 1, ItemId = 1, VendorId = 1, PlanId = 1, Since = now };
        inspection.Grow(quantity);
        Assert.Null(inspection.Draw(plan, secateurs));
        return inspection;
    }

    static void Find(Inspection inspection, int piece, int characteristic, decimal? value, bool? pass) =>
        Assert.Null(inspection.Find(plan, piece, characteristic, value, pass, "Sunita", now).Refusal);

    static void FillGood(Inspection inspection)
    {
        foreach (var c in plan.Characteristics)
            for (var piece = 1; piece <= inspection.Sample!.Classes.First(x => x.Class == c.Class).SampleSize; piece++)
                Find(inspection, piece, c.Id, c.IsMeasured ? 0.08m : null, c.IsMeasured ? null : true);
    }

    [Fact]
    public void A_lot_of_240_at_level_II_and_AQL_2_5_is_looked_at_in_32_pieces_accepting_2()
    {
        var sample = Drawn().Sample!;
        Assert.Equal('G', sample.Letter);
        Assert.Equal(new ClassPlan(CharacteristicClass.Major, 32, 2, 3), sample.Classes.First(c => c.Class == CharacteristicClass.Major));
        Assert.Equal(0, sample.Classes.First(c => c.Class == CharacteristicClass.Critical).Ac);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(9)]
    public void A_sample_is_never_larger_than_its_lot(long lot) => Assert.True(Sample.For(plan, lot, Severity.Normal).Size <= lot);

    [Fact]
    public void Rejection_is_certain_at_the_rejection_number_and_the_rest_need_not_be_looked_at()
    {
        var inspection = Drawn();
        foreach (var piece in new[] { 6, 14, 27 }) Find(inspection, piece, 1, 0.17m, null);
        Assert.Equal(Verdict.Rejected, LotStand.Of(plan, inspection.Sample!, inspection.Findings).Verdict);
        Assert.Equal(Verdict.Rejected, inspection.Sign(plan, "Sunita", null, now).Value);
    }

    [Fact]
    public void One_critical_nonconformity_rejects()
    {
        var inspection = Drawn();
        Find(inspection, 1, 3, null, false);
        Assert.Equal(Verdict.Rejected, LotStand.Of(plan, inspection.Sample!, inspection.Findings).Verdict);
    }

    [Fact]
    public void Acceptance_wants_every_finding()
    {
        var inspection = Drawn();
        Find(inspection, 1, 1, 0.1m, null);
        Assert.Equal("findings-missing", inspection.Sign(plan, "Sunita", null, now).Refusal!.Code);
        FillGood(inspection);
        Assert.Equal(Verdict.Accepted, inspection.Sign(plan, "Sunita", null, now).Value);
    }

    [Fact]
    public void A_piece_with_two_faults_of_a_class_counts_once_and_a_corrected_value_replaces_the_wrong_one()
    {
        var inspection = Drawn();
        Find(inspection, 5, 1, 0.2m, null);
        Find(inspection, 5, 1, 0.1m, null);
        Assert.All(LotStand.Of(plan, inspection.Sample!, inspection.Findings).Classes, c => Assert.Equal(0, c.Nonconforming));
        Assert.Single(inspection.Findings);
    }

    [Fact]
    public void Limits_are_inclusive()
    {
        Assert.True(plan.Characteristics[0].Conforms(0.15m));
        Assert.True(plan.Characteristics[0].Conforms(0.150m));
        Assert.False(plan.Characteristics[0].Conforms(0.151m));
    }

    [Fact]
    public void A_signed_sheet_cannot_be_changed_and_its_hash_tells_of_any_change()
    {
        var inspection = Drawn();
        FillGood(inspection);
        inspection.Sign(plan, "Sunita", "fine", now);
        Assert.Equal("signed", inspection.Find(plan, 1, 1, 0.5m, null, "Bram", now).Refusal!.Code);
        Assert.Equal("signed", inspection.Sign(plan, "Bram", null, now).Refusal!.Code);
        Assert.Equal(inspection.SheetHash, inspection.HashOfSheet());
        inspection.Findings[0].Value = 0.14m;
        Assert.NotEqual(inspection.SheetHash, inspection.HashOfSheet());
    }

    [Fact]
    public void What_comes_after_the_sample_is_drawn_is_no_part_of_the_lot() =>
        Assert.Equal("sample-drawn", Drawn().Shrink(10).Code());

    [Theory]
    [InlineData(33, 1, "piece-outside")]
    [InlineData(0, 1, "piece-outside")]
    [InlineData(1, 99, "characteristic-unknown")]
    public void A_finding_outside_the_sample_is_refused(int piece, int characteristic, string code) =>
        Assert.Equal(code, Drawn().Find(plan, piece, characteristic, 0.1m, null, "Sunita", now).Refusal!.Code);

    // Common practice, no source: lots are counted in the sampling unit, part boxes count whole.
    [Fact]
    public void Lots_are_counted_in_the_sampling_unit()
    {
        var byBox = new InspectionPlan { Id = 2, Name = "By box", SamplingUnit = "box", Characteristics = [new Characteristic { Id = 1, Name = "Look", Class = CharacteristicClass.Major }] };
        var inspection = new Inspection { Number = "I-2", SiteId = 1, ArrivalId = 1, ItemId = 1, VendorId = 1, PlanId = 2, Since = now };
        inspection.Grow(95);
        inspection.Draw(byBox, secateurs);
        Assert.Equal(10, inspection.LotSize);
    }
}
