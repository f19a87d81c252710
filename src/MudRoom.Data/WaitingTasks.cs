using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Data;

/// <summary>Keeps the tasks that wait equal to what stands where it may not stay: <see cref="TasksDue"/> says how.</summary>
public static class WaitingTasks
{
    /// <summary>The open tasks of a site, which wait or are taken.</summary>
    public static IQueryable<StoreTask> Open(this IQueryable<StoreTask> tasks, int siteId) =>
        tasks.Where(t => t.SiteId == siteId && (t.State == TaskState.Taken || t.State == TaskState.Waiting) && t.Quantity > 0);

    /// <summary>Lets the tasks follow what an act has moved; everything is saved before, and not after.</summary>
    /// <param name="lines">Goods of any lot, and the places that they came to or left.</param>
    public static async Task Follow(
        MudRoomDb db,
        int siteId,
        SiteStandings standings,
        Func<int, BinFunction> functionOf,
        IReadOnlyCollection<(Goods Goods, Place At)> lines,
        DateTimeOffset now
    )
    {
        await db.SaveChangesAsync();
        var keys = lines.Select(l => StoreTask.KeyOf(l.Goods, l.At)).ToHashSet();
        var (bins, items) = (
            lines.Select(l => l.At.BinId!.Value).Distinct().ToList(),
            lines.Select(l => l.Goods.ItemId).Distinct().ToList()
        );
        var stands = (await db.Balances.AsNoTracking().Where(b => bins.Contains(b.BinId) && items.Contains(b.ItemId)).ToListAsync())
            .Where(b => keys.Contains(StoreTask.KeyOf(b.Goods, b.Place)))
            .Select(At);
        var tasks = await db
            .Tasks.Where(t => keys.Contains(t.Key) && (t.State == TaskState.Taken || t.State == TaskState.Waiting))
            .ToListAsync();
        Apply(db, siteId, standings, TasksDue.Changes(stands, tasks, Waits(standings, functionOf)), now);
    }

    /// <summary>Makes all tasks anew of what stands where: after a change of bins or standings, and in a database from before there were
    /// any.</summary>
    /// <param name="withHidden">True when stock of an import that is hidden will be seen once this is kept.</param>
    public static async Task Restate(MudRoomDb db, DateTimeOffset now, bool withHidden = false)
    {
        await db.SaveChangesAsync();
        foreach (var (siteId, standings, functionOf, stands, tasks) in await Read(db, withHidden))
            Apply(db, siteId, standings, TasksDue.Changes(stands, tasks, Waits(standings, functionOf)), now);
        await db.SaveChangesAsync();
    }

    /// <summary>Where tasks and stock differ, in sentences.</summary>
    public static async Task<IReadOnlyList<string>> Faults(MudRoomDb db)
    {
        var faults = new List<string>();
        foreach (var (_, standings, functionOf, stands, tasks) in await Read(db, withHidden: false))
        {
            var (due, shrunk) = TasksDue.Changes(stands, tasks, Waits(standings, functionOf));
            faults.AddRange(
                due.Where(d => d.Waits != (d.Task?.Quantity ?? 0))
                    .Select(d =>
                        $"Of item {d.Goods.Goods.ItemId} in bin {d.Goods.At.BinId}, {standings.Word(d.Goods.At.Standing!.Value)}, "
                        + $"{d.Waits} wait for a driver; the tasks say {d.Task?.Quantity ?? 0}."
                    )
            );
            faults.AddRange(
                shrunk.Select(s =>
                    $"{s.Task.PersonName} has taken {s.Task.Quantity} of item {s.Task.ItemId} in bin {s.Task.AtBinId}; {s.To} are there."
                )
            );
        }

        return faults;
    }

    static async Task<
        IReadOnlyList<(
            int SiteId,
            SiteStandings Standings,
            Func<int, BinFunction> FunctionOf,
            IEnumerable<GoodsAt> Stands,
            IEnumerable<StoreTask> Tasks
        )>
    > Read(MudRoomDb db, bool withHidden)
    {
        var balances = withHidden ? db.Balances.IgnoreQueryFilters() : db.Balances;
        var all = await StandingRows.Load(db);
        var functions = await db
            .Bins.AsNoTracking()
            .Where(b => ShelfQueue.Passing.Contains(b.Function))
            .ToDictionaryAsync(b => b.Id, b => b.Function);
        var ids = functions.Keys.ToList();
        var fetched = Standing.Fetched;
        var stands = (
            await balances.AsNoTracking().Where(b => ids.Contains(b.BinId) || fetched.Contains(b.Standing)).ToListAsync()
        ).ToLookup(b => b.SiteId);
        // What is fetched is in its place in bins of other functions too.
        var places = stands.SelectMany(g => g).Select(b => b.BinId).Where(b => !functions.ContainsKey(b)).Distinct().ToList();
        foreach (
            var bin in await db.Bins.AsNoTracking().Where(b => places.Contains(b.Id)).Select(b => new { b.Id, b.Function }).ToListAsync()
        )
            functions[bin.Id] = bin.Function;
        var tasks = (await db.Tasks.Where(t => t.State == TaskState.Taken || t.State == TaskState.Waiting).ToListAsync()).ToLookup(t =>
            t.SiteId
        );
        // A taken task out of a place that is none to pass through any more is looked at by its goods too.
        var elsewhere = tasks.SelectMany(g => g).Select(t => t.AtBinId).Where(b => !functions.ContainsKey(b)).Distinct().ToList();
        var more = (
            await balances.AsNoTracking().Where(b => elsewhere.Contains(b.BinId) && !fetched.Contains(b.Standing)).ToListAsync()
        ).ToLookup(b => b.SiteId);
        return
        [
            .. all.Select(s =>
                (
                    s.Key,
                    s.Value,
                    (Func<int, BinFunction>)(bin => functions.GetValueOrDefault(bin, BinFunction.Floor)),
                    stands[s.Key].Concat(more[s.Key]).Select(At),
                    tasks[s.Key]
                )
            ),
        ];
    }

    static void Apply(
        MudRoomDb db,
        int siteId,
        SiteStandings standings,
        (IReadOnlyList<TaskDue> Due, IReadOnlyList<TaskShrunk> Shrunk) changes,
        DateTimeOffset now
    )
    {
        foreach (var (task, to) in changes.Shrunk)
            task.Shrink(to, now);
        foreach (var (goods, task, waits) in changes.Due)
            if (waits == 0)
                db.Tasks.Remove(task!);
            else if (task is null)
                db.Tasks.Add(New(siteId, standings, goods with { Quantity = waits }));
            else
                task.Wait(waits, goods.Since);
    }

    /// <summary>A new task for goods that wait.</summary>
    public static StoreTask New(int siteId, SiteStandings standings, GoodsAt goods) =>
        new(siteId, goods.Goods, goods.At, standings[goods.At.Standing!.Value], goods.Quantity, goods.Since);

    static Func<Place, bool> Waits(SiteStandings standings, Func<int, BinFunction> functionOf) =>
        at => ShelfQueue.Waits(functionOf(at.BinId!.Value), standings[at.Standing!.Value]);

    static GoodsAt At(Balance balance) => new(balance.Goods, balance.Place, balance.Quantity, balance.Since);
}
