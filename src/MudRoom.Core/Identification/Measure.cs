using System.Collections.Frozen;
using System.Globalization;

namespace MudRoom.Core.Identification;

/// <summary>What a measure on a label tells of the goods.</summary>
public enum MeasureOf
{
    NetWeight,
    Length,
    Width,
    Height,
    Area,
    NetVolume,
    GrossWeight,
    PackedLength,
    PackedWidth,
    PackedHeight,
    PackedArea,
    GrossVolume,
    WeightPerArea,
}

/// <summary>One measure of a label, with its unit.</summary>
/// <param name="Of">What it tells.</param>
/// <param name="Value">In the unit; exact.</param>
/// <param name="Unit">UN/ECE Recommendation 20 code.</param>
public sealed record Measure(MeasureOf Of, decimal Value, string Unit)
{
    // Source: titles in application-identifiers.csv; units as GS1's toolkit digital-link.js 1.4.3 maps them, its QT being the liquid quart,
    // QTL.
    static readonly FrozenDictionary<string, (MeasureOf Of, string Unit)> table = Rows()
        .ToFrozenDictionary(r => r.Prefix, r => (r.Of, r.Unit));

    /// <summary>True for how much there is of the goods themselves: what a quantity can be worked out from.</summary>
    public bool IsAmount => Of is MeasureOf.NetWeight or MeasureOf.Length or MeasureOf.Area or MeasureOf.NetVolume;

    /// <summary>The word for what it tells, before the value: "net", "gross", "wide".</summary>
    public string Word =>
        Of switch
        {
            MeasureOf.NetWeight => "net",
            MeasureOf.Length => "length",
            MeasureOf.Width => "width",
            MeasureOf.Height => "height",
            MeasureOf.Area => "area",
            MeasureOf.NetVolume => "net volume",
            MeasureOf.GrossWeight => "gross",
            MeasureOf.PackedLength => "length packed",
            MeasureOf.PackedWidth => "width packed",
            MeasureOf.PackedHeight => "height packed",
            MeasureOf.PackedArea => "area packed",
            MeasureOf.GrossVolume => "volume packed",
            _ => "weight for each square metre",
        };

    /// <summary>The measure of an element (31nn to 36nn): six digits, as many of them decimals as its fourth digit says; null for another
    /// element.</summary>
    public static Measure? Read(Element element)
    {
        if (element.Ai.Length != 4 || !table.TryGetValue(element.Ai[..3], out var row))
            return null;
        var value = decimal.Parse(element.Value, CultureInfo.InvariantCulture);
        for (var i = '0'; i < element.Ai[3]; i++)
            value /= 10m;
        return new Measure(row.Of, value, row.Unit);
    }

    static IEnumerable<(string Prefix, MeasureOf Of, string Unit)> Rows()
    {
        (int First, MeasureOf Of, string Units)[] runs =
        [
            (310, MeasureOf.NetWeight, "KGM"),
            (311, MeasureOf.Length, "MTR"),
            (312, MeasureOf.Width, "MTR"),
            (313, MeasureOf.Height, "MTR"),
            (314, MeasureOf.Area, "MTK"),
            (315, MeasureOf.NetVolume, "LTR MTQ"),
            (320, MeasureOf.NetWeight, "LBR"),
            (321, MeasureOf.Length, "INH FOT YRD"),
            (324, MeasureOf.Width, "INH FOT YRD"),
            (327, MeasureOf.Height, "INH FOT YRD"),
            (330, MeasureOf.GrossWeight, "KGM"),
            (331, MeasureOf.PackedLength, "MTR"),
            (332, MeasureOf.PackedWidth, "MTR"),
            (333, MeasureOf.PackedHeight, "MTR"),
            (334, MeasureOf.PackedArea, "MTK"),
            (335, MeasureOf.GrossVolume, "LTR MTQ"),
            (337, MeasureOf.WeightPerArea, "28"),
            (340, MeasureOf.GrossWeight, "LBR"),
            (341, MeasureOf.PackedLength, "INH FOT YRD"),
            (344, MeasureOf.PackedWidth, "INH FOT YRD"),
            (347, MeasureOf.PackedHeight, "INH FOT YRD"),
            (350, MeasureOf.Area, "INK FTK YDK"),
            (353, MeasureOf.PackedArea, "INK FTK YDK"),
            (356, MeasureOf.NetWeight, "APZ ONZ"),
            (360, MeasureOf.NetVolume, "QTL GLL"),
            (362, MeasureOf.GrossVolume, "QTL GLL"),
            (364, MeasureOf.NetVolume, "INQ FTQ YDQ"),
            (367, MeasureOf.GrossVolume, "INQ FTQ YDQ"),
        ];
        return runs.SelectMany(run => run.Units.Split(' ').Select((unit, i) => ($"{run.First + i}", run.Of, unit)));
    }
}
