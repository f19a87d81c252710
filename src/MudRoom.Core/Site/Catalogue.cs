using System.Collections.Frozen;
using MudRoom.Core.Identification;

namespace MudRoom.Core.Site;

/// <summary>An item found by a code, at the pack level the code names.</summary>
public sealed record Found(Item Item, PackLevel Pack, string By)
{
    /// <summary>True when the code stands on the goods as a barcode; false for a code that people type.</summary>
    public bool IsBarcode => By is "GTIN" or "a barcode bound here";
}

/// <summary>All items by all their codes: an immutable picture, made anew when an item changes.</summary>
public sealed class Catalogue
{
    readonly FrozenDictionary<string, Found[]> byCode;
    readonly FrozenDictionary<int, Item> byId;

    /// <summary>Makes the picture.</summary>
    public Catalogue(IEnumerable<Item> items)
    {
        byId = items.ToFrozenDictionary(i => i.Id);
        byCode = byId
            .Values.SelectMany(Codes)
            .GroupBy(c => c.Code, StringComparer.OrdinalIgnoreCase)
            .ToFrozenDictionary(
                g => g.Key,
                g => g.Select(c => c.Found).DistinctBy(f => (f.Item.Id, f.Pack.Id)).ToArray(),
                StringComparer.OrdinalIgnoreCase
            );
    }

    /// <summary>Every item.</summary>
    public IReadOnlyCollection<Item> Items => byId.Values;

    /// <summary>The item with this id.</summary>
    public Item this[int id] => byId[id];

    /// <summary>The item with this id, if there is one.</summary>
    public Item? Find(int id) => byId.GetValueOrDefault(id);

    /// <summary>What a GTIN, an item code or a vendor's item code may mean; several when it is not unique.</summary>
    public IReadOnlyList<Found> ByCode(string code) => byCode.GetValueOrDefault(code) ?? [];

    /// <summary>Every code that means an item, with the pack it names.</summary>
    public static IEnumerable<(string Code, Found Found)> Codes(Item item)
    {
        yield return (item.Code, new Found(item, item.BasePack, "item code"));
        foreach (var vendorCode in item.VendorCodes)
            yield return (vendorCode.Code, new Found(item, item.BasePack, "vendor's item code"));
        foreach (var pack in item.PackLevels.Where(p => p.Gtin is not null))
            yield return (pack.Gtin!, new Found(item, pack, "GTIN"));
        foreach (var pack in item.PackLevels)
        foreach (var code in pack.OtherCodes)
            yield return (code, new Found(item, pack, "a barcode bound here"));
    }
}
