using MudRoom.Core.Book;

namespace MudRoom.Core.Shelf;

/// <summary>So much of some goods at a place.</summary>
/// <param name="Goods">Of whatever lot.</param>
public sealed record GoodsAt(Goods Goods, Place At, decimal Quantity, DateTimeOffset Since);

/// <summary>Of some goods at a place so much waits, and the task that says so has to follow.</summary>
/// <param name="Task">The task that waits there now; null where there is none.</param>
/// <param name="Waits">How much waits, in base units; 0 where nothing does.</param>
public sealed record TaskDue(GoodsAt Goods, StoreTask? Task, decimal Waits);

/// <summary>So much is left for a task that a driver has taken.</summary>
public sealed record TaskShrunk(StoreTask Task, decimal To);

/// <summary>
/// What waits follows from what stands where it may not stay: there is one task for the goods of each such place, for what nobody has taken
/// of them; and nobody has taken more than is there.
/// </summary>
public static class TasksDue
{
    /// <summary>What has to change for that to hold; empty where it holds.</summary>
    /// <param name="stands">All that stands at the places looked at, a row for each lot.</param>
    /// <param name="tasks">All tasks at those places that wait or are taken.</param>
    /// <param name="waits">True where goods may not stay, and may be brought away.</param>
    public static (IReadOnlyList<TaskDue> Due, IReadOnlyList<TaskShrunk> Shrunk) Changes(
        IEnumerable<GoodsAt> stands,
        IEnumerable<StoreTask> tasks,
        Func<Place, bool> waits
    )
    {
        var (due, shrunk) = (new List<TaskDue>(), new List<TaskShrunk>());
        var ofKey = tasks.ToLookup(t => t.Key);
        var lines = stands
            .GroupBy(s => StoreTask.KeyOf(s.Goods, s.At))
            .ToDictionary(
                g => g.Key,
                g => new GoodsAt(g.First().Goods.OfAnyLot, g.First().At, g.Sum(s => s.Quantity), g.Min(s => s.Since))
            );
        foreach (var key in lines.Keys.Union(ofKey.Select(g => g.Key)))
        {
            var line = lines.GetValueOrDefault(key);
            var there = line?.Quantity ?? 0;
            var left = there;
            foreach (var taken in ofKey[key].Where(t => t.State == TaskState.Taken).OrderBy(t => t.Id))
            {
                // Who took first keeps what there is.
                if (taken.Quantity > left)
                    shrunk.Add(new TaskShrunk(taken, left));
                left -= Math.Min(left, taken.Quantity);
            }

            var free = line is not null && waits(line.At) ? left : 0;
            var rows = ofKey[key].Where(t => t.State == TaskState.Waiting).OrderBy(t => t.Id).ToList();
            foreach (var twice in rows.Skip(1))
                due.Add(new TaskDue(new GoodsAt(twice.Goods, twice.At, there, twice.Since), twice, 0));
            var row = rows.FirstOrDefault();
            if (row is null ? free > 0 : row.Quantity != free || free == 0)
                due.Add(new TaskDue(line ?? new GoodsAt(row!.Goods, row.At, 0, row.Since), row, free));
        }

        return (due, shrunk);
    }
}
