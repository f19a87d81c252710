using System.Collections.Frozen;
using Microsoft.EntityFrameworkCore;

namespace MudRoom.Data;

/// <summary>Whose settings they are. Stored.</summary>
public enum SettingsOf
{
    Door = 1,
    Road = 2,
    Out = 3,
    Cage = 4,
}

/// <summary>What a room goes by at a site, from an instant on. Never changed: what is set anew is the next version.</summary>
public sealed class RoomSettings
{
    public required int SiteId { get; init; }
    public required SettingsOf Room { get; init; }

    /// <summary>1, 2, 3 … without a gap, for each room of each site.</summary>
    public required int Version { get; init; }

    /// <summary>As JSON.</summary>
    public required string Value { get; init; }
    public required DateTimeOffset Since { get; init; }
    public required string By { get; init; }
}

/// <summary>Settings as they are in force.</summary>
/// <param name="Version">0 where nobody has set anything yet.</param>
/// <param name="Since">Null where nobody has.</param>
public sealed record InForce<T>(int Version, T Value, DateTimeOffset? Since, string By);

/// <summary>Reads and keeps the settings of rooms.</summary>
public static class SettingsRows
{
    /// <summary>The newest of a room, by site; what nobody has set is as the room has it.</summary>
    public static async Task<FrozenDictionary<int, InForce<T>>> Load<T>(MudRoomDb db, SettingsOf room)
        where T : new()
    {
        var sites = await db.Sites.AsNoTracking().Select(s => s.Id).ToListAsync();
        var newest = await db
            .RoomSettings.AsNoTracking()
            .Where(r =>
                r.Room == room && r.Version == db.RoomSettings.Where(o => o.SiteId == r.SiteId && o.Room == room).Max(o => o.Version)
            )
            .ToDictionaryAsync(r => r.SiteId);
        return sites.ToFrozenDictionary(
            site => site,
            site =>
                newest.TryGetValue(site, out var row)
                    ? new InForce<T>(row.Version, Storage.FromJson<T>(row.Value), row.Since, row.By)
                    : new InForce<T>(0, new T(), null, "")
        );
    }

    /// <summary>Lays the next version into the context.</summary>
    /// <returns>Its number.</returns>
    public static async Task<int> Keep<T>(MudRoomDb db, int siteId, SettingsOf room, T value, DateTimeOffset now, string by)
    {
        var last = await db.RoomSettings.Where(r => r.SiteId == siteId && r.Room == room).MaxAsync(r => (int?)r.Version) ?? 0;
        db.RoomSettings.Add(Row(siteId, room, last + 1, value, now, by));
        return last + 1;
    }

    /// <summary>A version as a row.</summary>
    public static RoomSettings Row<T>(int siteId, SettingsOf room, int version, T value, DateTimeOffset since, string by) =>
        new()
        {
            SiteId = siteId,
            Room = room,
            Version = version,
            Value = Storage.ToJson(value),
            Since = since,
            By = by,
        };
}
