using CsCheck;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Road;

/// <summary>Rates to start with are common practice, without a source; the arithmetic is checked by hand.</summary>
public sealed class UnloadingTimeTests
{
    static readonly PlanSettings settings = new();

    [Theory]
    [InlineData(Handling.Palletised, 25, 1, 12 + 60)]
    [InlineData(Handling.Palletised, 33, 2, 12 + 33 * 60 / (25 * 1.9))]
    [InlineData(Handling.FloorLoaded, 1000, 2, 12 + 1000 * 60 / (250 * 1.9))]
    [InlineData(Handling.Parcels, 60, 1, 12 + 30)]
    public void Set_up_and_units_over_rate_and_crew(Handling handling, int packs, int people, double minutes) =>
        Assert.Equal(minutes, UnloadingTime.Standard(handling, packs, 1, people, settings), 9);

    [Theory]
    [InlineData(1, 1)]
    [InlineData(2, 1.9)]
    [InlineData(3, 2.7)]
    [InlineData(4, 3.4)]
    [InlineData(6, 4.8)]
    public void A_crew_does_less_than_its_number(int people, double effect) => Assert.Equal(effect, UnloadingTime.CrewEffect(people), 9);

    [Fact]
    public void A_crew_of_none_unloads_nothing() => Assert.Throws<ArgumentOutOfRangeException>(() => UnloadingTime.CrewEffect(0));

    [Fact]
    public void A_vendor_nobody_knows_is_standard() => Assert.Equal(1, UnloadingTime.VendorFactor([]));

    [Fact]
    public void Five_loads_at_twice_the_standard_weigh_as_much_as_the_standard() =>
        Assert.Equal(Math.Sqrt(2), UnloadingTime.VendorFactor([2, 2, 2, 2, 2]), 9);

    [Fact]
    public void A_vendors_factor_lies_between_one_and_what_was_seen_and_nears_it_with_more_loads() =>
        Gen.Select(Gen.Double[0.3, 3], Gen.Int[1, 40])
            .Sample(
                (ratio, loads) =>
                {
                    var few = UnloadingTime.VendorFactor(Enumerable.Repeat(ratio, loads));
                    var more = UnloadingTime.VendorFactor(Enumerable.Repeat(ratio, loads + 5));
                    Assert.InRange(few, Math.Min(1, ratio) - 1e-9, Math.Max(1, ratio) + 1e-9);
                    Assert.True(Math.Abs(Math.Log(ratio / more)) <= Math.Abs(Math.Log(ratio / few)) + 1e-9);
                }
            );

    [Fact]
    public void A_vendor_whose_loads_all_take_alike_has_a_small_spread() =>
        Assert.True(UnloadingTime.LogSpread(Enumerable.Repeat(1.2, 50)) < UnloadingTime.LogSpread([0.6, 1.8, 0.7, 2.1, 1.2]));

    [Theory]
    [InlineData("van", Handling.Parcels)]
    [InlineData("truck", Handling.Palletised)]
    [InlineData("container", Handling.FloorLoaded)]
    public void Loose_goods_in_a_container_are_floor_loaded(string vehicle, Handling handling) =>
        Assert.Equal(
            handling,
            LoadRules.Handling(
                vehicle,
                [
                    new Item
                    {
                        Code = "P",
                        Name = "Pot",
                        PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
                    },
                ]
            )
        );

    [Fact]
    public void Goods_are_counted_in_the_packs_they_come_on()
    {
        var brick = new Item
        {
            Code = "CB",
            Name = "Brick",
            Volume = 8,
            PackLevels =
            [
                new PackLevel { Name = "each", Numerator = 1 },
                new PackLevel { Name = "carton", Numerator = 4 },
                new PackLevel
                {
                    Name = "pallet",
                    Numerator = 96,
                    IsUnit = true,
                },
            ],
        };
        Assert.Equal(3, LoadRules.Units(Handling.Palletised, [(brick, 200)]));
        Assert.Equal(50, LoadRules.Units(Handling.FloorLoaded, [(brick, 200)]));
        Assert.Equal(1, LoadRules.Units(Handling.Parcels, []));
    }
}
