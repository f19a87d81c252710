namespace MudRoom.Core.Site;

/// <summary>
/// What a quantity in a message of trade counts: base units, another unit of measure, so many pieces (a dozen), or a pack of the item.
/// Codes by UN/ECE Recommendation 20 (units of measure) and 21 (packages), and the names of the item's own packs. The counts of pieces
/// (PR, DZN, CEN, GRO, MIL) stand here from memory of Recommendation 20.
/// </summary>
public static class TradeUnits
{
    static readonly string[] pieces = ["H87", "EA", "PCE", "C62", "NAR", "NMB", "PCS", "PIECE"];

    static readonly Dictionary<string, int> manyPieces = new()
    {
        ["PR"] = 2,
        ["DZN"] = 12,
        ["CEN"] = 100,
        ["GRO"] = 144,
        ["MIL"] = 1000,
    };

    /// <summary>The pack that one of a unit is, so that <see cref="PackLevel.Content"/> turns a quantity into base units; null when the
    /// item does not come in this unit.</summary>
    /// <param name="unit">A code or a name, in any case; blank counts what the item's code names.</param>
    /// <param name="item">What is counted.</param>
    /// <param name="named">The pack that the code of the item names: that of the GTIN, else the base unit.</param>
    public static PackLevel? PackOf(string? unit, Item item, PackLevel named)
    {
        var plain = (unit ?? "").Trim();
        if (plain.Length == 0)
            return named;
        var upper = plain.ToUpperInvariant();
        if (item.PackLevels.Find(p => IsName(p.Name, plain)) is { } own)
            return own;
        var code = pieces.Contains(upper) ? "H87" : Units.Code(plain);
        if (code == item.BaseUnit)
            return item.BasePack;
        if (code is not null && Units.Ratio(code, item.BaseUnit) is { } ratio)
            return new PackLevel
            {
                Name = Units.Word(code),
                Numerator = ratio.Numerator,
                Denominator = ratio.Denominator,
                IsMeasure = true,
            };
        if (item.BaseUnit == "H87" && manyPieces.TryGetValue(upper, out var many))
            return new PackLevel { Name = plain, Numerator = many };
        return Packed(upper, item, named);
    }

    /// <summary>What the item does come in, in words: "each, carton of 4".</summary>
    public static string In(Item item) =>
        string.Join(
            ", ",
            item.PackLevels.Where(p => !p.IsMeasure)
                .Select(p => p == item.BasePack ? p.Name : $"{p.Name} of {Quantities.Show(p.Content(1))}")
        );

    /// <summary>Codes of packages: with X before them in Recommendation 20; PF was its pallet before Recommendation 21 was taken
    /// over.</summary>
    static PackLevel? Packed(string upper, Item item, PackLevel named)
    {
        var package =
            upper is "PF" ? "PX"
            : upper is ['X', _, _] ? upper[1..]
            : upper;
        if (PackageTypes.Word(package) == package)
            return null;
        bool Fits(PackLevel pack) => pack.PackageType == package || PackageTypes.For(pack.Name) == package;
        if (Fits(named))
            return named;
        var fitting = item.PackLevels.Where(Fits).ToList();
        if (fitting.Count == 1)
            return fitting[0];
        // The GTIN of a pack says which pack it is, whatever kind of package the vendor calls it.
        return fitting.Count == 0 && named != item.BasePack ? named : null;
    }

    static bool IsName(string name, string text) =>
        name.Equals(text, StringComparison.OrdinalIgnoreCase)
        || Quantities.Plural(name, 2).Equals(text, StringComparison.OrdinalIgnoreCase);
}
