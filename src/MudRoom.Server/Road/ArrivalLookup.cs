using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Server.Road;

/// <summary>Finds arrivals.</summary>
static class ArrivalLookup
{
    /// <summary>The arrival of a number at a site; arrivals of other sites are never found by it.</summary>
    public static Task<Arrival?> Numbered(this IQueryable<Arrival> arrivals, WarehouseSite site, string? number) =>
        arrivals.FirstOrDefaultAsync(a => a.SiteId == site.Id && a.Number == number);

    /// <summary>Those that are still to be counted in: expected, in the yard, or at a door.</summary>
    public static IQueryable<Arrival> Open(this IQueryable<Arrival> arrivals) => arrivals.Where(a => a.State <= ArrivalState.AtDoor);
}
