using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Shelf;

/// <summary>A bin is not changed under the goods that stand in it, or are on their way to it.</summary>
public sealed class BinLimitsTests
{
    static readonly Item spade = new()
    {
        Id = 1,
        Code = "SP",
        Name = "Spade",
        Mass = 2,
        Volume = 10,
        LongestSide = 1.1m,
    };
    static readonly Item fork = new()
    {
        Id = 2,
        Code = "FK",
        Name = "Fork",
        Mass = 1,
        Volume = 5,
        LongestSide = 0.9m,
    };

    static Bin Reserve() =>
        new()
        {
            SiteId = 1,
            Address = "A-01-1",
            Zone = "Dry reserve",
            Function = BinFunction.Reserve,
            MaxMass = 100,
            MaxVolume = 500,
            MaxLength = 1.3m,
            MixItems = true,
            MixBatches = true,
        };

    static readonly IReadOnlyList<GoodsThere> goods =
    [
        new(spade, 7, SiteStandings.BuiltIn[Standing.Usable], 10),
        new(spade, 8, SiteStandings.BuiltIn[Standing.Usable], 5),
        new(fork, null, SiteStandings.BuiltIn[Standing.Usable], 4),
    ];

    public static TheoryData<HardLimit, Action<Bin>> Changes =>
        new()
        {
            { HardLimit.Function, b => b.Function = BinFunction.Cage },
            { HardLimit.StorageClass, b => b.StorageClass = StorageClass.Oxidiser },
            { HardLimit.Size, b => b.MaxLength = 1 },
            { HardLimit.Mass, b => b.MaxMass = 33 },
            { HardLimit.Volume, b => b.MaxVolume = 169 },
            { HardLimit.Mixing, b => b.MixItems = false },
            { HardLimit.Mixing, b => b.MixBatches = false },
        };

    [Theory]
    [MemberData(nameof(Changes))]
    public void A_change_that_its_goods_would_not_stand_is_named_and_an_empty_bin_takes_it(HardLimit limit, Action<Bin> change)
    {
        var bin = Reserve();
        var before = BinLimits.Of(bin);
        change(bin);
        Assert.Equal(limit, BinLimits.WouldBreak(before, bin, goods)?.Limit);
        Assert.Null(BinLimits.WouldBreak(before, bin, []));
    }

    /// <summary>34 kg and 170 litres stand there: just so much is enough.</summary>
    [Fact]
    public void What_still_takes_all_of_it_may_be_changed()
    {
        var bin = Reserve();
        var before = BinLimits.Of(bin);
        (bin.MaxMass, bin.MaxVolume, bin.MaxLength, bin.Function, bin.StorageClass) = (34, 170, 1.1m, BinFunction.Pick, StorageClass.Dry);
        Assert.Null(BinLimits.WouldBreak(before, bin, goods));
    }

    /// <summary>What stood wrongly before is not the fault of another change.</summary>
    [Fact]
    public void A_limit_that_is_not_changed_is_not_looked_at()
    {
        var bin = Reserve();
        bin.MaxMass = 10;
        var before = BinLimits.Of(bin);
        bin.MaxVolume = 400;
        Assert.Null(BinLimits.WouldBreak(before, bin, goods));
    }
}
