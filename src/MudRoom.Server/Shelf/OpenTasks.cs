using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Data;

namespace MudRoom.Server.Shelf;

/// <summary>What is to be put away: said once, for the queue, the house strip, the forecast and the scan.</summary>
static class OpenTasks
{
    const int Most = 500;

    /// <summary>The tasks that wait or are taken, the oldest first.</summary>
    public static Task<List<StoreTask>> Read(MudRoomDb db, int siteId) =>
        db.Tasks.AsNoTracking().Open(siteId).OrderBy(t => t.Since).ThenBy(t => t.Id).Take(Most).ToListAsync();

    /// <summary>How many there are.</summary>
    public static Task<int> Count(MudRoomDb db, int siteId) => db.Tasks.Open(siteId).CountAsync();

    /// <summary>Since when the oldest of them stands there; null where there is none.</summary>
    public static Task<DateTimeOffset?> Oldest(MudRoomDb db, int siteId) => db.Tasks.Open(siteId).MinAsync(t => (DateTimeOffset?)t.Since);

    /// <summary>Tasks of drivers that take from these goods at this place.</summary>
    public static Task<List<StoreTask>> TakenFrom(MudRoomDb db, Goods goods, Place place)
    {
        var key = StoreTask.KeyOf(goods, place);
        return db.Tasks.Where(t => t.Key == key && t.State == TaskState.Taken).ToListAsync();
    }
}
