using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>Keeps beside each line part the day on which what carries it is expected, so that lists of what falls late use an
/// index.</summary>
public static class Coming
{
    /// <summary>Works it out anew for some parts; their arrivals must be saved.</summary>
    public static async Task Renew(Act act, IReadOnlyCollection<int> partIds)
    {
        var carrying = (
            await act
                .Db.ManifestLines.Where(m => partIds.Contains(m.PartId) && m.Counted < m.Expected)
                .Join(
                    act.Db.Arrivals.Open(),
                    m => m.ArrivalId,
                    a => a.Id,
                    (m, a) =>
                        new
                        {
                            m.PartId,
                            At = a.Eta > a.Planned ? a.Eta.Value : a.Planned,
                            a.SiteId,
                        }
                )
                .ToListAsync()
        ).ToLookup(c => c.PartId);
        var sites = act.SetUp.Sites.Values.ToDictionary(s => s.Id);
        foreach (var part in await act.Db.LineParts.Where(p => partIds.Contains(p.Id)).ToListAsync())
            part.ExpectOn(carrying[part.Id].Select(c => (DateOnly?)sites[c.SiteId].DateAt(c.At)).Min());
    }
}
