using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

/// <summary>What is decided over a count, before anything is written.</summary>
public sealed class CountRulesTests
{
    const int Nilgama = 1;
    const int Quernstone = 2;
    static readonly DateOnly today = new(2026, 3, 10);
    static readonly PackLevel each = new() { Name = "each", Numerator = 1 };
    static readonly PackLevel pallet = new()
    {
        Name = "pallet",
        Numerator = 40,
        IsUnit = true,
    };

    static readonly Item bricks = new()
    {
        Id = 1,
        Code = "CB-05",
        Name = "Coir bricks",
        BaseUnit = "H87",
        Step = 1,
        PackLevels = [each, pallet],
    };

    static PartView Part(int id, int vendor, decimal ordered) =>
        new(id, $"PO-{id}", 1, today.AddDays(-30), today, ordered, 0, 0, VendorId: vendor);

    static Bin Staging(int id) =>
        new()
        {
            Id = id,
            SiteId = 1,
            Address = $"D-0{id}",
            Zone = "D",
            Function = BinFunction.Staging,
        };

    static CountSituation Now(params PartView[] parts) =>
        new(
            new WarehouseSite
            {
                Code = "LM",
                Name = "Low Meadow",
                TimeZone = "Europe/London",
            },
            new DoorSettings(),
            today,
            parts,
            HeldBy: [],
            MaySettle: false,
            IsBlind: false,
            IsSettled: false,
            Staging: [Staging(1), Staging(2), Staging(3)],
            Bins: [],
            Aboard: parts.Select(p => p.VendorId),
            Standings: SiteStandings.BuiltIn,
            By: "Wanjiru",
            IsInspected: (_, _, _) => false
        );

    static CountCommand Counted(decimal packs, PackLevel? pack = null) => new("A-1", Count.Of(bricks, pack ?? each, packs));

    static CountOutcome Decide(CountCommand command, CountSituation now) => CountRules.Decide(command, now).Value;

    [Fact]
    public void Whether_goods_are_inspected_is_asked_of_whose_they_are_and_only_where_nothing_else_keeps_them()
    {
        var now = Now(Part(7, Nilgama, 900)) with { IsInspected = (vendor, part, _) => vendor == Nilgama && part == 7 };
        Assert.Equal(Standing.ToInspect, Decide(Counted(1), now).Decision.Standing);
        Assert.Equal(
            Standing.Usable,
            Decide(Counted(1), Now(Part(8, Nilgama, 900)) with { IsInspected = now.IsInspected }).Decision.Standing
        );
        Assert.Equal(Standing.Held, Decide(Counted(1), now with { HeldBy = ["quarantine"] }).Decision.Standing);
    }

    [Fact]
    public void Good_goods_are_the_vendors_whose_line_takes_them_and_stand_at_the_first_place_of_the_door()
    {
        var outcome = Decide(Counted(8), Now(Part(7, Nilgama, 8)));
        Assert.Equal((Nilgama, "D-01"), (outcome.Vendor, outcome.Place.Address));
        Assert.Equal((null, null, 0), (outcome.HeldFor, outcome.Difference, outcome.Parted.Count));
    }

    [Fact]
    public void A_count_over_two_vendors_lines_is_parted_and_each_part_taken_by_its_own()
    {
        var now = Now(Part(7, Nilgama, 8), Part(8, Quernstone, 4));
        var command = Counted(12) with { Count = Counted(12).Count with { Weight = 30 } };
        var whole = Decide(command, now);
        Assert.Equal([(Nilgama, 8m), (Quernstone, 4m)], whole.Parted);
        var parts = whole
            .Parted.Select(p => Decide(command with { Count = CountRules.PartOf(command.Count, p.Quantity), OnlyVendor = p.Vendor }, now))
            .ToList();
        Assert.Equal([(Nilgama, 8m, 20m), (Quernstone, 4m, 10m)], parts.Select(p => (p.Vendor, p.Count.Quantity, p.Count.Weight!.Value)));
        Assert.All(parts, p => Assert.Empty(p.Parted));
    }

    [Fact]
    public void A_labelled_unit_is_not_parted_though_it_stands_on_lines_of_two_vendors() =>
        Assert.Empty(Decide(Counted(1, pallet), Now(Part(7, Nilgama, 20), Part(8, Quernstone, 20))).Parted);

    [Fact]
    public void Goods_that_a_rule_catches_stand_apart_and_all_rules_are_named()
    {
        var outcome = Decide(Counted(8), Now(Part(7, Nilgama, 8)) with { HeldBy = ["Seed, 10 days", "From abroad"] });
        Assert.Equal(
            (Standing.Held, "D-03", "Seed, 10 days; From abroad"),
            (outcome.Decision.Standing, outcome.Place.Address, outcome.HeldFor)
        );
    }

    [Fact]
    public void What_is_counted_aside_is_noted_against_the_papers_with_its_reason_and_held_for_it()
    {
        var goods = Counted(3).Count with { Aside = Aside.Damaged, Note = "torn" };
        var outcome = Decide(Counted(3) with { Count = goods }, Now(Part(7, Nilgama, 8)) with { HeldBy = ["Seed, 10 days"] });
        var words = $"{Asides.Word(Aside.Damaged)}: torn";
        Assert.Equal(words, outcome.HeldFor, ignoreCase: true);
        Assert.Equal((DiscrepancyKind.Damaged, 3m, 7), (outcome.Difference!.Kind, outcome.Difference.Quantity, outcome.Difference.PartId));
    }

    [Fact]
    public void What_is_over_is_noted_on_the_line_that_took_it_with_who_took_it()
    {
        var goods = Counted(14).Count with { OverAllowed = true };
        var outcome = Decide(
            Counted(14) with
            {
                Count = goods,
                OnlyVendor = Quernstone,
            },
            Now(Part(7, Nilgama, 8), Part(8, Quernstone, 4)) with
            {
                MaySettle = true,
            }
        );
        Assert.Equal(new CountDifference(DiscrepancyKind.Over, 10, "Over, taken by Wanjiru.", 8), outcome.Difference);
    }

    [Theory]
    [InlineData(false, false, false, "scan-forced")]
    [InlineData(true, false, false, null)]
    [InlineData(false, true, false, null)]
    [InlineData(false, false, true, null)]
    public void Where_a_site_counts_by_scan_a_barcode_a_supervisor_or_a_settled_count_is_needed(
        bool scanned,
        bool maySettle,
        bool settled,
        string? refused
    )
    {
        var now = Now(Part(7, Nilgama, 8));
        var decided = CountRules.Decide(
            Counted(8) with
            {
                WasScanned = scanned,
            },
            now with
            {
                Settings = new DoorSettings { ScanForced = true },
                MaySettle = maySettle,
                IsSettled = settled,
            }
        );
        Assert.Equal(refused, decided.Refusal?.Code);
    }

    [Fact]
    public void Who_counts_blind_chooses_no_line_and_is_not_stopped_by_what_is_over()
    {
        var goods = Counted(30).Count with { ChosenPart = 8 };
        var outcome = Decide(
            Counted(30) with
            {
                Count = goods,
                OnlyVendor = Nilgama,
            },
            Now(Part(7, Nilgama, 8), Part(8, Nilgama, 4)) with
            {
                IsBlind = true,
            }
        );
        Assert.Null(outcome.Count.ChosenPart);
        Assert.Equal(7, outcome.Decision.Choice.Shares[0].PartId);
        Assert.Equal(18, outcome.Difference!.Quantity);
    }

    [Fact]
    public void No_count_makes_more_units_than_can_be_labelled_in_one_go() =>
        Assert.Equal(
            "too-many-units",
            CountRules.Decide(Counted(CountRules.MostUnits + 1, pallet), Now(Part(7, Nilgama, 9000))).Refusal?.Code
        );

    [Fact]
    public void A_piece_is_in_one_place_on_hand_or_on_its_way()
    {
        Assert.Equal("serial-here", CountRules.SerialElsewhere(bricks, "S-1", true, "A-2")?.Code);
        Assert.Contains("announced on A-2", CountRules.SerialElsewhere(bricks, "S-1", false, "A-2")?.Sentence, StringComparison.Ordinal);
        Assert.Null(CountRules.SerialElsewhere(bricks, "S-1", false, null));
    }

    [Theory]
    [InlineData(Nilgama, "L-1", true)]
    [InlineData(Quernstone, "L-1", false)]
    [InlineData(Nilgama, "L-2", false)]
    [InlineData(Nilgama, null, false)]
    public void An_own_batch_takes_goods_of_its_source_batch_and_vendor_only(int vendor, string? number, bool joins)
    {
        var source = new SourceBatch
        {
            ItemId = 1,
            VendorId = Nilgama,
            Number = "L-1",
        };
        var batch = new Batch
        {
            ItemId = 1,
            Number = "OWN-1",
            SourceBatch = source,
        };
        Assert.Equal(joins, BatchRules.MayJoin(batch, vendor, number));
    }

    [Fact]
    public void An_own_batch_of_no_source_batch_takes_goods_of_none()
    {
        var batch = new Batch { ItemId = 1, Number = "OWN-2" };
        Assert.True(BatchRules.MayJoin(batch, Quernstone, null));
        Assert.False(BatchRules.MayJoin(batch, Quernstone, "L-1"));
    }
}
