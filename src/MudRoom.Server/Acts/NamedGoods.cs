using MudRoom.Core;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Server.Acts;

/// <summary>The goods that a rule speaks of, as somebody named them.</summary>
/// <param name="Category">Empty for any.</param>
/// <param name="Origin">Two letters of ISO 3166; null for any.</param>
public sealed record NamedGoods(Item? Item, string Category, Vendor? Vendor, string? Origin)
{
    /// <summary>Reads what was typed; what was left empty means any.</summary>
    /// <param name="item">By code or name.</param>
    /// <param name="vendor">By code or name.</param>
    /// <param name="origin">A country by name or letters.</param>
    public static Outcome<NamedGoods> Read(SetUp setUp, string? item, string? category, string? vendor, string? origin)
    {
        Item? of = null;
        if (item.OrNull() is { } what)
        {
            of = setUp.Catalogue.Items.FirstOrDefault(i => IsNamed(what, i.Code, i.Name));
            if (of is null)
                return Problems.NotFound("item", what);
        }

        var group = category.OrNull() ?? "";
        if (group.Length > 0 && setUp.Catalogue.Items.All(i => !i.Category.Equals(group, StringComparison.OrdinalIgnoreCase)))
            return Problems.NotFound("item group", group);

        Vendor? from = null;
        if (vendor.OrNull() is { } who)
        {
            from = setUp.Vendors.Values.FirstOrDefault(v => IsNamed(who, v.Code, v.Name));
            if (from is null)
                return Problems.NotFound("vendor", who);
        }

        string? country = null;
        if (origin.OrNull() is { } where)
        {
            country = Countries.Find(where)?.Code;
            if (country is null)
                return Problems.NotFound("country", where);
        }

        return new NamedGoods(of, group, from, country);
    }

    /// <summary>The item groups there are.</summary>
    public static IReadOnlyList<string> Categories(SetUp setUp) =>
        [.. setUp.Catalogue.Items.Select(i => i.Category).Where(c => c.Length > 0).Distinct().Order(StringComparer.Ordinal)];

    /// <summary>The vendors there are, by name.</summary>
    public static IReadOnlyList<string> Vendors(SetUp setUp) => [.. setUp.Vendors.Values.Select(v => v.Name).Order(StringComparer.Ordinal)];

    static bool IsNamed(string typed, string code, string name) =>
        typed.Equals(code, StringComparison.OrdinalIgnoreCase) || typed.Equals(name, StringComparison.OrdinalIgnoreCase);
}
