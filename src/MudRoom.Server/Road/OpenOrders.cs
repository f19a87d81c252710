using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>An order of which something is open for this site and on no arrival.</summary>
public sealed record OpenOrder(string Number, OrderKind Kind, int Lines, DateOnly Due);

/// <summary>A vendor with the orders that could be aboard what just came.</summary>
public sealed record VendorOrders(string Code, string Vendor, IReadOnlyList<OpenOrder> Orders);

/// <summary>What could be aboard a vehicle that nobody planned: open orders by vendor, for a door.</summary>
public static class OpenOrders
{
    const int MostVendors = 30;
    const int MostOrders = 60;

    public static void Map(SiteRoutes routes) => routes.Ask("/door/open-orders", Right.Tally, Run);

    static async Task<Ok<List<VendorOrders>>> Run(Inquiry inquiry, string? vendor)
    {
        var words = (vendor ?? "").Trim();
        var vendors = inquiry
            .SetUp.Vendors.Values.Where(v =>
                words.Length == 0
                || v.Name.Contains(words, StringComparison.OrdinalIgnoreCase)
                || v.Code.Equals(words, StringComparison.OrdinalIgnoreCase)
            )
            .OrderBy(v => v.Name, StringComparer.Ordinal)
            .Take(MostVendors)
            .ToDictionary(v => v.Id);
        var ids = vendors.Keys.ToList();
        var rows = await inquiry
            .Db.LineParts.Where(p => p.SiteId == inquiry.Site.Id && p.IsOpen && p.Coming == null && ids.Contains(p.VendorId))
            .GroupBy(p => new
            {
                p.VendorId,
                p.Line!.Order!.Number,
                p.Line.Order.Kind,
            })
            .Select(g => new
            {
                g.Key.VendorId,
                g.Key.Number,
                g.Key.Kind,
                Lines = g.Count(),
                Due = g.Min(p => p.Due),
            })
            .OrderBy(o => o.Due)
            .ThenBy(o => o.Number)
            .Take(MostVendors * MostOrders)
            .ToListAsync();
        return TypedResults.Ok(
            rows.GroupBy(r => r.VendorId)
                .Select(g => new VendorOrders(
                    vendors[g.Key].Code,
                    vendors[g.Key].Name,
                    [.. g.Take(MostOrders).Select(o => new OpenOrder(o.Number, o.Kind, o.Lines, o.Due))]
                ))
                .OrderBy(v => v.Vendor, StringComparer.Ordinal)
                .ToList()
        );
    }
}
