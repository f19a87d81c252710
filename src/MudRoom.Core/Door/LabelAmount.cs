using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>How many packs a label stands for.</summary>
public static class LabelAmount
{
    /// <summary>Places behind the point that quantities have.</summary>
    const int Places = 6;

    /// <summary>
    /// A measure of the goods themselves (net weight, length, area, net volume) is the quantity of an item that is kept in such a unit,
    /// worked out by the
    /// exact ratio of the two units and rounded to the millionth; of several the one in the item's own unit. Else the count of the label,
    /// (30) or (37); else one.
    /// </summary>
    /// <param name="read">The label.</param>
    /// <param name="item">The item it names.</param>
    /// <param name="pack">The pack it names; a measure counts only for one of a single base unit.</param>
    public static decimal Packs(ElementString read, Item item, PackLevel pack)
    {
        var measures = read.Measures.Where(m => m.IsAmount && m.Value > 0).OrderByDescending(m => m.Unit == item.BaseUnit);
        if (pack.Content(1) == 1 && measures.Select(m => InBaseUnits(m, item)).FirstOrDefault(v => v is not null) is { } amount)
            return amount;
        return read.Count is { } count and > 0 ? count : 1;
    }

    static decimal? InBaseUnits(Measure measure, Item item) =>
        Units.Ratio(measure.Unit, item.BaseUnit) is var (up, down)
            ? Math.Round(measure.Value * up / down, Places, MidpointRounding.ToEven)
            : null;
}
