using System.Collections.Frozen;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>Reads what standings mean.</summary>
public static class StandingRows
{
    /// <summary>The standings of every site, by its id.</summary>
    public static async Task<FrozenDictionary<int, SiteStandings>> Load(MudRoomDb db)
    {
        var rows = (await db.Standings.AsNoTracking().ToListAsync()).ToLookup(s => s.SiteId);
        var sites = await db.Sites.AsNoTracking().Select(s => s.Id).ToListAsync();
        return sites.ToFrozenDictionary(id => id, id => new SiteStandings(id, rows[id]));
    }
}
