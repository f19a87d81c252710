using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Shelf;

/// <summary>After every act: the tasks follow what it has moved.</summary>
public sealed class StoreTasks : IAfterAct
{
    static readonly Func<MudRoomDb, string, StoreTask?> waitingByKey = EF.CompileQuery(
        (MudRoomDb db, string key) => db.Tasks.AsNoTracking().FirstOrDefault(t => t.Key == key && t.State == TaskState.Waiting)
    );

    public async Task After(Act act)
    {
        // What a count has in hand is not in the tables yet; and no count changes where goods may stay.
        if (act.InHand.Stays)
        {
            Counted(act);
            return;
        }

        // Bins and standings say where goods may stay.
        if ((act.SetUpChanged & (SetUpParts.Bins | SetUpParts.Standings)) != 0 || act.ShowsStock)
        {
            await WaitingTasks.Restate(act.Db, act.Now, withHidden: act.ShowsStock);
            return;
        }

        var lines = Lines(act).Select(l => (l.Goods, l.At)).ToHashSet();
        if (lines.Count > 0)
            await Follow(act, lines);
    }

    /// <summary>The tasks follow what stands in some lines now, though nothing was moved.</summary>
    public static Task Follow(Act act, IReadOnlyCollection<(Goods Goods, Place At)> lines) =>
        WaitingTasks.Follow(act.Db, act.Site.Id, act.Standings, bin => act.SetUp.Bins[bin].Function, lines, act.Now);

    /// <summary>A run of counts: each adds to the task that is in hand, and asks nothing.</summary>
    static void Counted(Act act)
    {
        Dictionary<string, StoreTask>? made = null;
        foreach (var (goods, at, by) in Lines(act))
        {
            var standing = act.Standings[at.Standing!.Value];
            if (!ShelfQueue.Waits(act.SetUp.Bins[at.BinId!.Value].Function, standing))
                continue;
            var key = StoreTask.KeyOf(goods, at);
            if (made?.GetValueOrDefault(key) is { } own)
            {
                own.Wait(own.Quantity + by, own.Since);
            }
            else if (act.InHand.Get("task " + key, () => waitingByKey(act.Db, key)) is { } task)
            {
                task.Wait(task.Quantity + by, task.Quantity == 0 ? act.Now : task.Since);
                act.InHand.Change(task);
            }
            else
            {
                (made ??= [])[key] = WaitingTasks.New(act.Site.Id, act.Standings, new GoodsAt(goods, at, by, act.Now));
                act.Db.Tasks.Add(made[key]);
            }
        }
    }

    /// <summary>Goods that came to or left a place where they may not stay, and by how much.</summary>
    static IEnumerable<(Goods Goods, Place At, decimal By)> Lines(Act act)
    {
        foreach (var entry in act.Book.Written)
        {
            if (entry.Movement is not { IsInPlace: false } movement)
                continue;
            if (Passing(movement.From))
                yield return (movement.Goods.OfAnyLot, movement.From, -movement.Quantity);
            if (Passing(movement.To))
                yield return (movement.Arriving.OfAnyLot, movement.To, movement.Quantity);
        }

        bool Passing(Place place) =>
            place.BinId is { } bin && ShelfQueue.MayPass(act.SetUp.Bins[bin].Function, act.Standings[place.Standing!.Value]);
    }
}
