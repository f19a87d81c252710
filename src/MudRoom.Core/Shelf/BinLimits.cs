using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Shelf;

/// <summary>Goods that stand in a bin, or are promised to it.</summary>
/// <param name="Item">The item.</param>
/// <param name="BatchId">Own batch, or null.</param>
/// <param name="Standing">What they may be used for.</param>
/// <param name="Quantity">In base units.</param>
public sealed record GoodsThere(Item Item, int? BatchId, StandingDefinition Standing, decimal Quantity);

/// <summary>What a bin lets stand in it. A bin with goods is not changed so that they would stand there wrongly.</summary>
public sealed record BinLimits(
    BinFunction Function,
    StorageClass StorageClass,
    decimal MaxLength,
    decimal MaxMass,
    decimal MaxVolume,
    bool MixItems,
    bool MixBatches
)
{
    /// <summary>As a bin has them now.</summary>
    public static BinLimits Of(Bin bin) =>
        new(bin.Function, bin.StorageClass, bin.MaxLength, bin.MaxMass, bin.MaxVolume, bin.MixItems, bin.MixBatches);

    /// <summary>The first limit that a change of the bin breaks for the goods there, with why; null when all of them stand right. A limit
    /// that is not changed is not looked at.</summary>
    /// <param name="before">Before the change.</param>
    /// <param name="bin">After it.</param>
    /// <param name="goods">What stands there and is promised to it.</param>
    public static (HardLimit Limit, string Sentence)? WouldBreak(BinLimits before, Bin bin, IReadOnlyList<GoodsThere> goods)
    {
        var after = Of(bin);
        if (goods.Count == 0 || after == before)
            return null;
        if (after.Function != before.Function && goods.FirstOrDefault(g => !g.Standing.MayStand(after.Function)) is { } wrong)
            return (
                HardLimit.Function,
                $"{Words(wrong)} are {wrong.Standing.Word}: they may not stand in a "
                    + $"{after.Function.ToString().ToLowerInvariant()} bin"
            );
        if (
            (after.StorageClass, after.Function) != (before.StorageClass, before.Function)
            && goods.FirstOrDefault(g => !PutAway.ClassFits(g.Item, bin)) is { } other
        )
            return (HardLimit.StorageClass, $"{Words(other)} are there, and want {PutAway.Word(other.Item.StorageClass)}");
        if (after.MaxLength < before.MaxLength && goods.FirstOrDefault(g => g.Item.LongestSide > after.MaxLength) is { } longer)
            return (HardLimit.Size, $"{Words(longer)} are there, {Quantities.Show(longer.Item.LongestSide)} m long");
        if (after.MaxMass < before.MaxMass && goods.Sum(g => g.Quantity * g.Item.Mass) is var mass && mass > after.MaxMass)
            return (HardLimit.Mass, $"{Quantities.Show(mass)} kg stand there or are on their way");
        if (after.MaxVolume < before.MaxVolume && goods.Sum(g => g.Quantity * g.Item.Volume) is var volume && volume > after.MaxVolume)
            return (HardLimit.Volume, $"{Quantities.Show(volume)} litres stand there or are on their way");
        if (before.MixItems && !after.MixItems && goods.DistinctBy(g => g.Item.Id).Count() > 1)
            return (HardLimit.Mixing, "several items stand there or are on their way");
        if (before.MixBatches && !after.MixBatches && goods.DistinctBy(g => (g.Item.Id, g.BatchId)).Count() > 1)
            return (HardLimit.Mixing, "several batches stand there or are on their way");
        return null;
    }

    static string Words(GoodsThere goods) => $"{Quantities.Show(goods.Quantity)} {goods.Item.UnitWord} of {goods.Item.Name}";
}
