using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Shelf;

/// <summary>What waits follows from what stands where it may not stay, and nobody has taken more than is there.</summary>
public sealed class TasksDueTests
{
    const int Door = 1,
        Rack = 2;
    static readonly DateTimeOffset seven = new(2026, 3, 10, 7, 0, 0, TimeSpan.Zero);

    static GoodsAt Sacks(decimal quantity, int bin = Door, int lot = 1) =>
        new(new Goods(1, 2, LotId: lot), Place.In(bin, Standing.Usable), quantity, seven.AddMinutes(lot));

    static StoreTask Waiting(decimal quantity) =>
        new(1, new Goods(1, 2), Place.In(Door, Standing.Usable), SiteStandings.BuiltIn[Standing.Usable], quantity, seven);

    static bool AtTheDoor(Place place) => place.BinId == Door;

    static (IReadOnlyList<TaskDue> Due, IReadOnlyList<TaskShrunk> Shrunk) Changes(IEnumerable<GoodsAt> stands, params StoreTask[] tasks) =>
        TasksDue.Changes(stands, tasks, AtTheDoor);

    [Fact]
    public void Lots_that_read_alike_are_one_task_since_the_first_came()
    {
        var due = Assert.Single(Changes([Sacks(30, lot: 2), Sacks(10, lot: 1), Sacks(99, Rack)]).Due);
        Assert.Equal((40, null, seven.AddMinutes(1)), (due.Waits, due.Task, due.Goods.Since));
    }

    [Fact]
    public void What_a_driver_has_taken_does_not_wait()
    {
        var all = Waiting(40);
        var taken = all.Take(30, Drivers.Named("Petra"), seven);
        Assert.NotSame(all, taken);
        Assert.Equal((10, 30), (all.Quantity, taken.Quantity));
        var (due, shrunk) = Changes([Sacks(40)], all, taken);
        Assert.Empty(due);
        Assert.Empty(shrunk);
    }

    [Fact]
    public void Who_takes_all_of_it_has_the_task_that_waited()
    {
        var all = Waiting(40);
        Assert.Same(all, all.Take(40, Drivers.Named("Petra"), seven));
        Assert.Equal((TaskState.Taken, 40, 1), (all.State, all.Quantity, all.PersonId));
        Assert.Empty(Changes([Sacks(40)], all).Due);
    }

    [Fact]
    public void Goods_that_went_away_under_a_driver_stop_the_task_and_who_took_first_keeps_what_is_left()
    {
        var all = Waiting(40);
        var (first, second) = (all.Take(25, Drivers.Named("Petra"), seven), all.Take(15, Drivers.Named("Yusuf"), seven));
        var (due, shrunk) = Changes([Sacks(25)], first, second);
        Assert.Empty(due);
        Assert.Equal((second, 0), (Assert.Single(shrunk).Task, shrunk[0].To));
        second.Shrink(0, seven);
        Assert.Equal("task-stopped", second.MayBeWorkedBy(1, at => at.DateTime).Code());
    }

    [Fact]
    public void Nothing_waits_where_goods_may_stay_and_a_task_of_goods_that_are_gone_is_none()
    {
        Assert.Empty(Changes([Sacks(40, Rack)]).Due);
        var left = Assert.Single(Changes([], Waiting(40)).Due);
        Assert.Equal(0, left.Waits);
        Assert.Equal(0, Assert.Single(Changes([], Waiting(40)).Due).Waits);
    }

    [Fact]
    public void Of_two_tasks_for_the_same_goods_one_goes()
    {
        var (one, two) = (Waiting(40), Waiting(40));
        var due = Assert.Single(Changes([Sacks(40)], one, two).Due);
        Assert.Equal((two, 0), (due.Task, due.Waits));
    }

    [Fact]
    public void A_label_means_what_waits_before_what_is_taken_usable_goods_before_others_and_loose_ones_before_units()
    {
        StoreTask Of(Standing standing, int? unit = null, int minutes = 0) =>
            new(1, new Goods(1, 2, unit), Place.In(Door, standing), SiteStandings.BuiltIn[standing], 10, seven.AddMinutes(minutes));
        var taken = Of(Standing.Usable);
        taken.Take(10, Drivers.Named("Petra"), seven);
        var (held, unit, late, loose) = (Of(Standing.Held), Of(Standing.Usable, 7), Of(Standing.Usable, minutes: 9), Of(Standing.Usable));
        var tasks = new List<StoreTask> { taken, held, unit, late, loose };
        foreach (var next in new[] { loose, late, unit, held, taken })
        {
            Assert.Same(next, ShelfQueue.Meant(tasks, SiteStandings.BuiltIn));
            tasks.Remove(next);
        }

        Assert.Null(ShelfQueue.Meant(tasks, SiteStandings.BuiltIn));
        Assert.Equal((0, 8), (ShelfQueue.Taken(taken, 1, default).Rank, ShelfQueue.Taken(taken, 2, default).Rank));
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Whatever_comes_goes_and_is_taken_all_that_stands_there_waits_or_is_taken_once(int seed)
    {
        var random = new Random(seed);
        var stands = new Dictionary<int, decimal>();
        var tasks = new List<StoreTask>();
        for (var step = 0; step < 300; step++)
        {
            switch (random.Next(4))
            {
                case 0:
                    var lot = random.Next(1, 5);
                    stands[lot] = stands.GetValueOrDefault(lot) + random.Next(1, 40);
                    break;
                case 1 when stands.Count > 0:
                    var gone = stands.Keys.ElementAt(random.Next(stands.Count));
                    stands[gone] = Math.Max(0, stands[gone] - random.Next(1, 60));
                    break;
                case 2 when tasks.Find(t => t.State == TaskState.Waiting) is { Quantity: > 0 } waiting:
                    var mine = waiting.Take(random.Next(1, (int)waiting.Quantity + 1), Drivers.Named("Petra"), seven);
                    if (mine != waiting)
                        tasks.Add(mine);
                    break;
                case 3 when tasks.Find(t => t.State == TaskState.Taken) is { } done:
                    done.GiveBack(seven);
                    break;
            }

            var there = stands.Where(s => s.Value > 0).Select(s => Sacks(s.Value, lot: s.Key)).ToList();
            var (due, shrunk) = Changes(there, [.. tasks.Where(t => t.State is TaskState.Waiting or TaskState.Taken)]);
            foreach (var (task, to) in shrunk)
                task.Shrink(to, seven);
            foreach (var (goods, task, waits) in due)
                if (waits == 0)
                    tasks.Remove(task!);
                else if (task is null)
                    tasks.Add(Waiting(waits));
                else
                    task.Wait(waits, goods.Since);
            var open = tasks.Where(t => t.State is TaskState.Waiting or TaskState.Taken).ToList();
            Assert.Equal(there.Sum(g => g.Quantity), open.Sum(t => t.Quantity));
            Assert.True(open.Count(t => t.State == TaskState.Waiting) <= 1);
            Assert.All(open, t => Assert.True(t.Quantity > 0));
        }
    }
}
