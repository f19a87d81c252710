namespace MudRoom.Core.Site;

/// <summary>What a unit measures.</summary>
public enum Dimension
{
    Pieces,
    Mass,
    Length,
    Area,
    Volume,
}

/// <summary>A unit of measure with its exact size.</summary>
/// <param name="Code">UN/ECE Recommendation 20 code.</param>
/// <param name="Word">As it stands on the screen.</param>
/// <param name="Dimension">What it measures.</param>
/// <param name="Numerator">Of its size in the dimension's first unit: kilogram, metre, square metre, litre.</param>
/// <param name="Denominator">Of the same.</param>
public sealed record MeasureUnit(string Code, string Word, Dimension Dimension, long Numerator, long Denominator = 1);

/// <summary>
/// Units of measure by their UN/ECE Recommendation 20 codes, with exact ratios. Sizes by definition: the international yard and pound of
/// 1959
/// (0.9144 m, 0.45359237 kg), the troy ounce of 480 grains, the US gallon of 231 cubic inches, the imperial gallon of 4.54609 L (NIST
/// Special Publication 811, appendix B).
/// </summary>
public static class Units
{
    /// <summary>All that are known; the first of a dimension is the one its sizes are told in.</summary>
    public static IReadOnlyList<MeasureUnit> All { get; } =
    [
        new("H87", "each", Dimension.Pieces, 1),
        new("KGM", "kg", Dimension.Mass, 1),
        new("GRM", "g", Dimension.Mass, 1, 1000),
        new("TNE", "t", Dimension.Mass, 1000),
        new("LBR", "lb", Dimension.Mass, 45359237, 100_000_000),
        new("ONZ", "oz", Dimension.Mass, 45359237, 1_600_000_000),
        new("APZ", "oz t", Dimension.Mass, 311034768, 10_000_000_000),
        new("STI", "st", Dimension.Mass, 14L * 45359237, 100_000_000),
        new("CWI", "cwt", Dimension.Mass, 112L * 45359237, 100_000_000),
        new("MTR", "m", Dimension.Length, 1),
        new("MMT", "mm", Dimension.Length, 1, 1000),
        new("CMT", "cm", Dimension.Length, 1, 100),
        new("KMT", "km", Dimension.Length, 1000),
        new("INH", "in", Dimension.Length, 254, 10_000),
        new("FOT", "ft", Dimension.Length, 3048, 10_000),
        new("YRD", "yd", Dimension.Length, 9144, 10_000),
        new("MTK", "m²", Dimension.Area, 1),
        new("CMK", "cm²", Dimension.Area, 1, 10_000),
        new("INK", "in²", Dimension.Area, 64516, 100_000_000),
        new("FTK", "ft²", Dimension.Area, 3048L * 3048, 100_000_000),
        new("YDK", "yd²", Dimension.Area, 9144L * 9144, 100_000_000),
        new("LTR", "L", Dimension.Volume, 1),
        new("MLT", "mL", Dimension.Volume, 1, 1000),
        new("CLT", "cL", Dimension.Volume, 1, 100),
        new("HLT", "hL", Dimension.Volume, 100),
        new("MTQ", "m³", Dimension.Volume, 1000),
        new("GLL", "US gal", Dimension.Volume, 3785411784, 1_000_000_000),
        new("GLI", "gal", Dimension.Volume, 454609, 100_000),
        new("QTL", "US qt", Dimension.Volume, 946352946, 1_000_000_000),
        new("INQ", "in³", Dimension.Volume, 16387064, 1_000_000_000),
        new("FTQ", "ft³", Dimension.Volume, 28316846592, 1_000_000_000),
        new("YDQ", "yd³", Dimension.Volume, 764554857984, 1_000_000_000),
        new("PTI", "pt", Dimension.Volume, 454609, 800_000),
        new("OZI", "fl oz", Dimension.Volume, 454609, 16_000_000),
    ];

    /// <summary>The unit with this code; null for one that is not known.</summary>
    public static MeasureUnit? Find(string code) => All.FirstOrDefault(u => u.Code == code);

    /// <summary>The word for a unit code; the code itself when it has none.</summary>
    public static string Word(string code) => Find(code)?.Word ?? code;

    /// <summary>The code for a word or code as people write it, or null.</summary>
    public static string? Code(string text)
    {
        var word = text.Trim();
        return word.ToUpperInvariant() switch
        {
            "EA" or "PIECE" or "PCS" => "H87",
            var upper => (
                All.FirstOrDefault(u => u.Code == upper)
                ?? All.FirstOrDefault(u => u.Word == word)
                ?? All.FirstOrDefault(u => u.Word.Equals(word, StringComparison.OrdinalIgnoreCase))
            )?.Code,
        };
    }

    /// <summary>Other units of the same dimension, in which an item of this base unit may be measured too.</summary>
    public static IReadOnlyList<MeasureUnit> Others(string baseUnit) =>
        Find(baseUnit) is { Dimension: not Dimension.Pieces } own
            ? [.. All.Where(u => u.Dimension == own.Dimension && u.Code != baseUnit)]
            : [];

    /// <summary>How many base units one of the other unit is, as an exact ratio in lowest terms; null when they do not measure the
    /// same.</summary>
    public static (long Numerator, long Denominator)? Ratio(string from, string to)
    {
        if (Find(from) is not { } a || Find(to) is not { } b || a.Dimension != b.Dimension)
            return null;
        var (up, down) = ((Int128)a.Numerator * b.Denominator, (Int128)a.Denominator * b.Numerator);
        var common = Common(up, down);
        return ((long)(up / common), (long)(down / common));
    }

    static Int128 Common(Int128 a, Int128 b) => b == 0 ? a : Common(b, a % b);
}
