using CsCheck;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

public sealed class ReceivingTests
{
    static readonly Item beans = new()
    {
        Code = "SD-BEAN",
        Name = "Bean seed",
        BatchPrefix = "BE",
    };
    static readonly DateOnly today = new(2026, 3, 10);

    static List<Bin> Staging(int places) =>
        [
            .. Enumerable
                .Range(1, places)
                .Select(n => new Bin
                {
                    Id = n,
                    SiteId = 1,
                    Address = $"D1-R{n}",
                    Zone = "Receiving",
                    Function = BinFunction.Staging,
                }),
        ];

    [Fact]
    public void Good_goods_goods_to_inspect_and_held_goods_stand_apart()
    {
        var places = Enum.GetValues<StandingKind>().ToDictionary(s => s, s => ReceivingPlace.For(s, Staging(5)).Address);
        Assert.Equal(
            ("D1-R1", "D1-R4", "D1-R5", "D1-R5"),
            (places[StandingKind.Usable], places[StandingKind.ToInspect], places[StandingKind.Held], places[StandingKind.Rejected])
        );
    }

    [Fact]
    public void A_door_with_one_place_has_one_place_for_all() =>
        Assert.All(Enum.GetValues<StandingKind>(), s => Assert.Equal("D1-R1", ReceivingPlace.For(s, Staging(1)).Address));

    static readonly Bin store = new()
    {
        Id = 90,
        SiteId = 1,
        Address = "STORE",
        Zone = "Store",
        Function = BinFunction.Floor,
    };
    static readonly Bin bench = new()
    {
        Id = 91,
        SiteId = 1,
        Address = "BENCH-1",
        Zone = "Bench",
        Function = BinFunction.Bench,
    };

    static Outcome<Bin> By(
        Standing standing,
        string? chosen,
        bool addresses = true,
        Stops stops = Stops.ReceivingPlace,
        bool free = true,
        int places = 5
    ) =>
        ReceivingPlace.By(
            new WarehouseSite
            {
                Code = "LM",
                Name = "Low Meadow",
                TimeZone = "Europe/London",
                CompanyPrefix = "9521234",
                HasAddresses = addresses,
            },
            new DoorSettings { Stops = stops, PlaceChosen = free },
            SiteStandings.BuiltIn[standing],
            Staging(places),
            [.. Staging(places), store, bench],
            chosen
        );

    [Fact]
    public void An_undivided_store_takes_good_goods_at_once_and_keeps_held_ones_at_the_door()
    {
        Assert.Equal("STORE", By(Standing.Usable, null, addresses: false).Value.Address);
        Assert.Equal("D1-R5", By(Standing.Held, null, addresses: false).Value.Address);
    }

    [Fact]
    public void Where_the_bench_is_a_stop_goods_to_inspect_go_there_and_no_others()
    {
        Assert.Equal("BENCH-1", By(Standing.ToInspect, null, stops: Stops.ReceivingPlaceAndBench).Value.Address);
        Assert.Equal("D1-R1", By(Standing.Usable, null, stops: Stops.ReceivingPlaceAndBench).Value.Address);
        Assert.Equal("D1-R4", By(Standing.ToInspect, null).Value.Address);
    }

    [Theory]
    [InlineData("D1-R2", "D1-R2")]
    [InlineData("d1-r3", "D1-R3")]
    [InlineData(null, "D1-R1")]
    public void A_receiver_may_choose_among_the_places_for_good_goods(string? chosen, string place) =>
        Assert.Equal(place, By(Standing.Usable, chosen).Value.Address);

    [Theory]
    [InlineData(StandingKind.Usable, "D1-R5", true, "Choose D1-R1 or D1-R2 or D1-R3.")]
    [InlineData(StandingKind.Usable, "NOWHERE", true, "Choose D1-R1 or D1-R2 or D1-R3.")]
    [InlineData(StandingKind.Held, "D1-R1", true, "They stand in D1-R5.")]
    [InlineData(StandingKind.Usable, "D1-R2", false, "They stand in D1-R1.")]
    public void A_place_that_does_not_apply_is_refused_and_never_passed_over_in_silence(
        StandingKind kind,
        string chosen,
        bool free,
        string next
    )
    {
        Assert.True(By(new Standing((int)kind), chosen, free: free).Refused(out var refusal));
        Assert.Equal(("place-wrong", next), (refusal.Code, refusal.Next));
    }

    [Fact]
    public void The_place_the_site_gives_may_be_named_too()
    {
        Assert.Equal("STORE", By(Standing.Usable, "store", addresses: false).Value.Address);
        Assert.True(By(Standing.Usable, "D1-R1", addresses: false).Refused(out _));
        Assert.Equal("D1-R1", By(Standing.Usable, "D1-R1", free: false).Value.Address);
    }

    [Fact]
    public void A_pallet_that_two_order_parts_share_is_cut_where_the_part_changes() =>
        Assert.Equal(
            [new Piece(1, 0, 40, 0), new Piece(1, 1, 10, 0), new Piece(2, 1, 30, 0)],
            Pieces.Cut([new Share(1, 50, 0), new Share(2, 30, 0)], units: 2, perUnit: 40)
        );

    [Fact]
    public void What_is_over_lies_on_the_last_pieces() =>
        Assert.Equal([0m, 5m], Pieces.Cut([new Share(1, 80, 5)], units: 2, perUnit: 40).Select(p => p.Over));

    [Fact]
    public void Cutting_loses_nothing_and_fills_every_unit() =>
        Gen.Select(Gen.Int[1, 6], Gen.Int[1, 50], Gen.Int[1, 99].Array[1, 5])
            .Sample(
                (units, perUnit, weights) =>
                {
                    var total = units * perUnit;
                    var shares = new List<Share>();
                    var left = total;
                    for (var i = 0; i < weights.Length && left > 0; i++)
                    {
                        var takes = i == weights.Length - 1 ? left : Math.Min(left, weights[i]);
                        shares.Add(new Share(i, takes, i == weights.Length - 1 ? takes / 2 : 0));
                        left -= takes;
                    }

                    if (left > 0)
                        shares.Add(new Share(99, left, 0));
                    var pieces = Pieces.Cut(shares, units, perUnit).ToList();
                    Assert.All(pieces.GroupBy(p => p.Unit), g => Assert.Equal(perUnit, g.Sum(p => p.Quantity)));
                    foreach (var share in shares)
                    {
                        Assert.Equal(share.Quantity, pieces.Where(p => p.PartId == share.PartId).Sum(p => p.Quantity));
                        Assert.Equal(share.Over, pieces.Where(p => p.PartId == share.PartId).Sum(p => p.Over));
                    }
                }
            );

    [Fact]
    public void Who_waits_gets_what_comes_first_of_their_part() =>
        Assert.Equal(
            [
                new PieceFor(new Piece(1, 0, 30, 0), true),
                new PieceFor(new Piece(1, 0, 10, 0), false),
                new PieceFor(new Piece(2, 1, 40, 5), false),
            ],
            Pieces.AtWaited([new Piece(1, 0, 40, 0), new Piece(2, 1, 40, 5)], new Dictionary<int, decimal> { [1] = 30 })
        );

    [Fact]
    public void Cutting_at_what_is_waited_for_loses_nothing_and_gives_nobody_more_than_they_want() =>
        Gen.Select(Gen.Select(Gen.Int[0, 3], Gen.Int[0, 4], Gen.Int[1, 30]).Array[1, 8], Gen.Int[0, 60].Array[4])
            .Sample(
                (cut, wants) =>
                {
                    var pieces = cut.Select(c => new Piece(c.Item1 == 3 ? null : c.Item1, c.Item2, c.Item3, c.Item3 / 3)).ToList();
                    var waited = Enumerable.Range(0, 3).ToDictionary(p => p, p => (decimal)wants[p]);
                    var parted = Pieces.AtWaited(pieces, waited).ToList();
                    Assert.All(parted, p => Assert.True(p.Piece.Quantity > 0));
                    foreach (var of in pieces.GroupBy(p => (p.PartId, p.Unit)))
                    {
                        var same = parted.Where(p => (p.Piece.PartId, p.Piece.Unit) == of.Key).ToList();
                        Assert.Equal(of.Sum(p => p.Quantity), same.Sum(p => p.Piece.Quantity));
                        Assert.Equal(of.Sum(p => p.Over), same.Sum(p => p.Piece.Over));
                    }

                    foreach (var part in pieces.GroupBy(p => p.PartId))
                        Assert.Equal(
                            part.Key is { } id ? Math.Min(waited[id], part.Sum(p => p.Quantity)) : 0,
                            parted.Where(p => p.IsWaited && p.Piece.PartId == part.Key).Sum(p => p.Piece.Quantity)
                        );
                }
            );

    [Fact]
    public void Own_batches_are_numbered_by_prefix_day_and_sequence() =>
        Assert.Equal("BE-0310-3", BatchRules.Next(BatchRules.Around(beans, today, "MALA"), taken: 1, number => number == "BE-0310-2"));

    [Theory]
    [InlineData("{vendor}{yy}{ww}-{n}", "MALA2611-4")]
    [InlineData("{yyyy}{MM}{dd}/{n}/B", "20260310/4/B")]
    [InlineData("", "BE-0310-4")]
    public void A_pattern_numbers_by_date_week_vendor_and_sequence(string pattern, string number)
    {
        var item = new Item
        {
            Code = "BEAN",
            Name = "Bean",
            BatchPrefix = "BE",
            BatchPattern = pattern,
        };
        var around = BatchRules.Around(item, today, "MALA");
        Assert.Null(BatchRules.Fault(item));
        Assert.Equal(number, BatchRules.Next(around, 3, _ => false));
        Assert.True(BatchRules.IsOf(number, around));
        Assert.False(BatchRules.IsOf("X" + number, around));
    }

    [Theory]
    [InlineData("{prefix}-{day}-{n}")]
    [InlineData("{prefix}-{MM}{dd}")]
    [InlineData("{n}-{n}")]
    [InlineData("LONG-LONG-LONG-{yyyy}-{n}")]
    public void A_pattern_that_cannot_number_is_refused(string pattern) =>
        Assert.Equal(
            "batch-pattern",
            BatchRules
                .Fault(
                    new Item
                    {
                        Code = "BEAN",
                        Name = "Bean",
                        BatchPattern = pattern,
                    }
                )
                ?.Code
        );

    [Fact]
    public void Numbers_of_a_pattern_are_never_given_twice() =>
        Gen.Int[0, 40]
            .List[0, 30]
            .Sample(taken =>
            {
                var around = BatchRules.Around(beans, today, "V");
                var used = taken.Select(n => $"{around.Start}{n}{around.End}").ToHashSet();
                for (var i = 0; i < 20; i++)
                    Assert.True(used.Add(BatchRules.Next(around, used.Count, used.Contains)));
            });

    [Fact]
    public void One_source_batch_has_one_best_before_date()
    {
        var source = new SourceBatch
        {
            ItemId = 1,
            VendorId = 1,
            Number = "L7",
            BestBefore = new DateOnly(2027, 1, 31),
        };
        var other = new DatesOfGoods(null, new DateOnly(2027, 3, 31), null, false, null);
        var none = new Dictionary<string, string>();
        Assert.Equal("batch-dates-differ", BatchRules.Contradiction(source, other, null, none)!.Code);
        Assert.Null(BatchRules.Contradiction(source, other with { WorkedOut = true }, null, none));
        Assert.Null(BatchRules.Contradiction(source, other with { BestBefore = source.BestBefore }, null, none));
    }

    /// <summary>Also where the end of life was worked out from it; a month agrees with its days.</summary>
    [Theory]
    [InlineData("2026-02-14", "2026-02-14", true)]
    [InlineData("2026-02-14", "2026-02-15", false)]
    [InlineData("2026-02", "2026-02-15", true)]
    [InlineData("2026-02-15", "2026-02", true)]
    [InlineData("2026-02", "2026-02", true)]
    [InlineData("2026-02", "2026-03-01", false)]
    [InlineData("2026-02", "2025-02", false)]
    public void One_source_batch_has_one_production_date(string before, string now, bool agree)
    {
        var (known, said) = (GoodsDate.Typed("", before).Value!.Value, GoodsDate.Typed("", now).Value!.Value);
        var source = new SourceBatch
        {
            ItemId = 1,
            VendorId = 1,
            Number = "L7",
            Production = known.Date,
            ProductionMonthOnly = known.MonthOnly,
            BestBefore = new DateOnly(2027, 1, 31),
            DateWorkedOut = true,
        };
        var dates = new DatesOfGoods(said, new DateOnly(2027, 2, 28), null, WorkedOut: true, null);
        Assert.Equal(
            agree ? null : "batch-dates-differ",
            BatchRules.Contradiction(source, dates, null, new Dictionary<string, string>())?.Code
        );
    }

    [Fact]
    public void One_source_batch_has_one_value_of_each_attribute()
    {
        var source = new SourceBatch
        {
            ItemId = 1,
            VendorId = 1,
            Number = "L7",
            Attributes = new() { ["Field"] = "north" },
        };
        var none = new DatesOfGoods(null, null, null, false, null);
        Assert.Equal(
            "batch-attribute-differs",
            BatchRules.Contradiction(source, none, null, new Dictionary<string, string> { ["Field"] = "south" })!.Code
        );
        Assert.Null(
            BatchRules.Contradiction(source, none, null, new Dictionary<string, string> { ["Field"] = "north", ["Harvest"] = "2025" })
        );
    }

    [Fact]
    public void One_source_batch_has_one_origin()
    {
        var source = new SourceBatch
        {
            ItemId = 1,
            VendorId = 1,
            Number = "L7",
            Origin = "IN",
        };
        var none = new DatesOfGoods(null, null, null, false, null);
        var plain = new Dictionary<string, string>();
        Assert.Equal("batch-origin-differs", BatchRules.Contradiction(source, none, Countries.ByCode("NL"), plain)!.Code);
        Assert.Null(BatchRules.Contradiction(source, none, Countries.ByCode("IN"), plain));
    }

    [Theory]
    [InlineData(BinFunction.Staging, StandingKind.Held, true)]
    [InlineData(BinFunction.Bench, StandingKind.ToInspect, false)]
    [InlineData(BinFunction.Bench, StandingKind.Usable, true)]
    [InlineData(BinFunction.Cage, StandingKind.Usable, true)]
    [InlineData(BinFunction.Cage, StandingKind.Rejected, false)]
    [InlineData(BinFunction.Pick, StandingKind.Usable, false)]
    public void Goods_only_pass_through_where_their_standing_does_not_let_them_stay(BinFunction function, StandingKind kind, bool passes) =>
        Assert.Equal(passes, ShelfQueue.OnlyPassesThrough(function, SiteStandings.BuiltIn[new Standing((int)kind)]));

    /// <summary>What is recalled is fetched from wherever it stands; what is held by hand stays where it is.</summary>
    [Theory]
    [InlineData(BinFunction.Pick, true)]
    [InlineData(BinFunction.Reserve, true)]
    [InlineData(BinFunction.Dispatch, true)]
    [InlineData(BinFunction.Bench, true)]
    [InlineData(BinFunction.Cage, false)]
    public void Recalled_goods_only_pass_through_everywhere_but_the_cage(BinFunction function, bool passes)
    {
        var recalled = SiteStandings.BuiltIn[Standing.Recalled];
        Assert.Equal(passes, ShelfQueue.OnlyPassesThrough(function, recalled));
        Assert.Equal(passes, ShelfQueue.Waits(function, recalled));
        Assert.Equal(TaskKind.ToCage, StoreTask.KindFor(recalled));
    }

    [Fact]
    public void What_drivers_have_taken_is_not_free()
    {
        var at = Place.In(1, Standing.Usable);
        var task = new StoreTask(1, new Goods(1), at, SiteStandings.BuiltIn[Standing.Usable], 30, default).Take(
            30,
            Drivers.Named("Petra"),
            default
        );
        Assert.Equal((10, 0), (Promises.Free(40, [task]), Promises.Free(20, [task])));
    }
}
