using MudRoom.Core.Site;

namespace MudRoom.Exchange;

/// <summary>How numbers and dates are written in a table, beside the forms that are read everywhere.</summary>
/// <param name="DecimalComma">True where a comma stands before decimals.</param>
/// <param name="Dates">The form of dates beside ISO 8601.</param>
public sealed record FileHabits(bool DecimalComma, DateForm Dates)
{
    /// <summary>Decimal points, the day before the month.</summary>
    public static FileHabits Plain { get; } = new(false, DateForm.DayMonthYear);

    /// <summary>Those of a site.</summary>
    public static FileHabits Of(WarehouseSite site) => new(site.DecimalComma, site.DateForm);
}

/// <summary>What a file may refer to: items by all their codes, vendors and sites by code or by GLN.</summary>
public sealed record Known(
    Catalogue Catalogue,
    IReadOnlyDictionary<string, Vendor> Vendors,
    IReadOnlyDictionary<string, WarehouseSite> Sites,
    FileHabits Habits
)
{
    /// <summary>All that this house knows.</summary>
    public static Known Of(
        Catalogue catalogue,
        IReadOnlyCollection<Vendor> vendors,
        IReadOnlyCollection<WarehouseSite> sites,
        FileHabits habits
    ) => new(catalogue, ByCode(vendors, v => v.Code, v => v.Gln), ByCode(sites, s => s.Code, s => s.Gln), habits);

    /// <summary>By our code, and by GLN where no code is the same.</summary>
    static Dictionary<string, T> ByCode<T>(IReadOnlyCollection<T> parties, Func<T, string> code, Func<T, string?> gln)
    {
        var known = parties.ToDictionary(code, StringComparer.OrdinalIgnoreCase);
        foreach (var party in parties)
            if (gln(party) is { } number)
                known.TryAdd(number, party);
        return known;
    }
}
