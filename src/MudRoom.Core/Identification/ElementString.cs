using System.Globalization;

namespace MudRoom.Core.Identification;

/// <summary>One identifier with its value.</summary>
/// <param name="Ai">The application identifier's number.</param>
/// <param name="Value">Its value as written.</param>
/// <param name="At">Where the identifier stands in the string, from 1.</param>
public sealed record Element(string Ai, string Value, int At);

/// <summary>What a GS1 element string says, in the order it says it.</summary>
public sealed record ElementString(IReadOnlyList<Element> Elements, DateOnly ReadOn)
{
    /// <summary>The value of an identifier, or null.</summary>
    public string? this[string ai] => Elements.FirstOrDefault(e => e.Ai == ai)?.Value;

    /// <summary>(00) the unit's SSCC.</summary>
    public string? Sscc => this["00"];

    /// <summary>(01) the trade item, or (02) the trade items contained.</summary>
    public string? Gtin => this["01"] ?? this["02"];

    /// <summary>(10) batch.</summary>
    public string? Batch => this["10"];

    /// <summary>(21) serial.</summary>
    public string? Serial => this["21"];

    /// <summary>(422) origin as ISO 3166 number.</summary>
    public string? Origin => this["422"];

    /// <summary>(11) production date; with day 00 known to the month only.</summary>
    public GoodsDate? Production => Date("11", DayZero.MonthOnly);

    /// <summary>(15) best before.</summary>
    public GoodsDate? BestBefore => Date("15", DayZero.LastOfMonth);

    /// <summary>(17) expiry, or the day of (7003), expiry with its time.</summary>
    public GoodsDate? Expiry => Date("17", DayZero.LastOfMonth) ?? (ExpiresAt is { } at ? new GoodsDate(DateOnly.FromDateTime(at)) : null);

    /// <summary>(7003) expiry to the minute, by the clock of the place where it was packed.</summary>
    public DateTime? ExpiresAt =>
        this["7003"] is { } digits && GoodsDate.Read(digits.AsSpan(0, 6), ReadOn, DayZero.Refused) is { } day
            ? day.Date.ToDateTime(
                new TimeOnly(
                    int.Parse(digits.AsSpan(6, 2), CultureInfo.InvariantCulture),
                    int.Parse(digits.AsSpan(8, 2), CultureInfo.InvariantCulture)
                )
            )
            : null;

    /// <summary>(37) contained trade items with (02), or (30) variable count.</summary>
    public decimal? Count => (this["37"] ?? this["30"]) is { } digits ? decimal.Parse(digits, CultureInfo.InvariantCulture) : null;

    /// <summary>Measures (31nn to 36nn), each with its unit, in the order the label says them.</summary>
    public IReadOnlyList<Measure> Measures => [.. Elements.Select(Measure.Read).OfType<Measure>()];

    /// <summary>The same in brackets, as people write it.</summary>
    public override string ToString() => string.Concat(Elements.Select(e => $"({e.Ai}){e.Value}"));

    GoodsDate? Date(string ai, DayZero zero) => this[ai] is { } digits ? GoodsDate.Read(digits, ReadOn, zero) : null;
}
