using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>What a load is likely to look like, from what is aboard, when nobody has said it.</summary>
public static class LoadRules
{
    /// <summary>Parcels come as parcels; containers are floor-loaded unless all aboard comes on labelled pallets; all else is palletised.</summary>
    public static Handling Handling(string vehicle, IEnumerable<Item> items) => vehicle switch
    {
        "parcel" or "van" => Road.Handling.Parcels,
        "container" when items.Any(i => !i.PackLevels.Any(p => p.IsUnit)) => Road.Handling.FloorLoaded,
        _ => Road.Handling.Palletised,
    };

    /// <summary>How many pallets, cartons or parcels a quantity comes on: the largest pack for pallets, the largest that is no pallet for the others; at least one.</summary>
    public static int Units(Handling handling, IEnumerable<(Item Item, decimal Quantity)> aboard) => Math.Max(1, aboard.Sum(a =>
    {
        var packs = handling == Road.Handling.Palletised ? a.Item.PackLevels : [.. a.Item.PackLevels.Where(p => !p.IsUnit)];
        var content = packs.Max(p => p.Content(1));
        // A pallet holds what is not packed on pallets by about a cubic metre.
        if (handling == Road.Handling.Palletised && !a.Item.PackLevels.Any(p => p.IsUnit) && a.Item.Volume > 0) content = Math.Max(content, Math.Floor(1000 / a.Item.Volume));
        return (int)Math.Ceiling(a.Quantity / Math.Max(1, content));
    }));
}
