using System.Collections.Frozen;

namespace MudRoom.Core.Identification;

/// <summary>A country by ISO 3166-1.</summary>
/// <param name="Code">Two letters.</param>
/// <param name="Number">Three digits, as GS1 (422) carries it.</param>
/// <param name="Name">English short name.</param>
public sealed record Country(string Code, string Number, string Name);

/// <summary>The countries of ISO 3166-1; table in countries.csv beside this file.</summary>
public static class Countries
{
    static readonly Country[] all =
    [
        .. Tables.Lines("Identification.countries.csv").Select(l => l.Split(';')).Select(c => new Country(c[0], c[1], c[2])),
    ];

    static readonly FrozenDictionary<string, Country> byCode = all.ToFrozenDictionary(c => c.Code, StringComparer.OrdinalIgnoreCase);
    static readonly FrozenDictionary<string, Country> byNumber = all.ToFrozenDictionary(c => c.Number);
    static readonly FrozenDictionary<string, Country> byName = all.ToFrozenDictionary(c => c.Name, StringComparer.OrdinalIgnoreCase);

    /// <summary>All, by code.</summary>
    public static IReadOnlyList<Country> All => all;

    /// <summary>By two letters, any case.</summary>
    public static Country? ByCode(string code) => byCode.GetValueOrDefault(code);

    /// <summary>By three digits.</summary>
    public static Country? ByNumber(string number) => byNumber.GetValueOrDefault(number);

    /// <summary>By code, number or English name, as people type it.</summary>
    public static Country? Find(string text) => ByCode(text) ?? ByNumber(text) ?? byName.GetValueOrDefault(text);
}
