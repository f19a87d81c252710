using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Shelf;

/// <summary>What a driver is to do. Stored.</summary>
public enum TaskKind
{
    PutAway = 0,
    ToBench = 1,
    ToCage = 2,
}

/// <summary>How far a task is. Stored.</summary>
public enum TaskState
{
    Taken = 0,
    Done = 1,
    GivenBack = 2,

    /// <summary>Nobody has taken it: the goods stand where they may not stay.</summary>
    Waiting = 3,

    /// <summary>Its goods became something else under way, or were taken elsewhere: what is left of them waits anew.</summary>
    Stopped = 4,
}

/// <summary>
/// Goods that stand where they may not stay, as one thing to do. It waits from the moment they may be moved; who takes it promises room
/// in a bin; once their label was scanned they are on the driver's truck, which is a place like any other. A part that is taken is a
/// task of its own.
/// </summary>
public sealed class StoreTask
{
    StoreTask() { }

    /// <summary>A task that waits.</summary>
    /// <param name="goods">What, of whatever lot.</param>
    /// <param name="at">Where it stands.</param>
    /// <param name="standing">What it may be used for.</param>
    public StoreTask(int siteId, Goods goods, Place at, StandingDefinition standing, decimal quantity, DateTimeOffset since)
    {
        SiteId = siteId;
        Kind = KindFor(standing);
        FromBinId = AtBinId = at.BinId!.Value;
        ItemId = goods.ItemId;
        BatchId = goods.BatchId;
        UnitId = goods.UnitId;
        Serial = goods.Serial;
        Standing = at.Standing!.Value;
        Key = KeyOf(goods, at);
        Quantity = quantity;
        Since = since;
    }

    public int Id { get; private set; }
    public int SiteId { get; private set; }
    public TaskKind Kind { get; private set; }

    /// <summary>Where the goods stood when it was made.</summary>
    public int FromBinId { get; private set; }

    /// <summary>Where they are now: there, or on a truck.</summary>
    public int AtBinId { get; private set; }
    public int ItemId { get; private set; }
    public int? BatchId { get; private set; }
    public int? UnitId { get; private set; }
    public string? Serial { get; private set; }
    public Standing Standing { get; private set; }

    /// <summary>Goods and place as one text: of what waits there is one task for each.</summary>
    public string Key { get; private set; } = "";

    /// <summary>What is still to be brought, in base units. Of a waiting task what nobody has taken; 0 where all of it is taken.</summary>
    public decimal Quantity { get; private set; }

    /// <summary>Since when the first of them stands there.</summary>
    public DateTimeOffset Since { get; private set; }

    /// <summary>The bin it is promised to.</summary>
    public int? TargetBinId { get; private set; }

    /// <summary>How that bin was chosen.</summary>
    public Proposal? Trail { get; private set; }
    public TaskState State { get; private set; } = TaskState.Waiting;

    /// <summary>Who has taken it; null while it waits.</summary>
    public int? PersonId { get; private set; }
    public string? PersonName { get; private set; }
    public DateTimeOffset? TakenAt { get; private set; }

    /// <summary>When it was done, given back or stopped.</summary>
    public DateTimeOffset? DoneAt { get; private set; }

    /// <summary>True when the goods were scanned, were the right ones, and are on the truck.</summary>
    public bool IsLoaded { get; private set; }

    /// <summary>The goods it moves.</summary>
    public Goods Goods => new(ItemId, BatchId, UnitId, Serial);

    /// <summary>Where they are now.</summary>
    public Place At => Place.In(AtBinId, Standing);

    /// <summary>The key of goods of any lot at a place.</summary>
    public static string KeyOf(Goods goods, Place at) => Balance.KeyOf(goods.OfAnyLot, at);

    /// <summary>What is to be done with goods of a standing.</summary>
    public static TaskKind KindFor(StandingDefinition standing) =>
        standing.Kind switch
        {
            StandingKind.Usable => TaskKind.PutAway,
            StandingKind.ToInspect => TaskKind.ToBench,
            StandingKind.Held or StandingKind.Rejected => TaskKind.ToCage,
            _ => throw new ArgumentOutOfRangeException(nameof(standing), standing.Kind, null),
        };

    /// <summary>What an entry over it is about: its goods, where they stand, and a bin that it names.</summary>
    public IReadOnlyList<Reference> About(int? bin)
    {
        var about = new List<Reference> { Reference.Item(ItemId), Reference.Bin(AtBinId) };
        if (BatchId is { } batch)
            about.Add(Reference.Batch(batch));
        if (UnitId is { } unit)
            about.Add(new Reference(ReferenceKind.Unit, unit));
        if (Serial is { } serial)
            about.Add(new Reference(ReferenceKind.Serial, serial));
        if (bin is { } named)
            about.Add(Reference.Bin(named));
        return about;
    }

    /// <summary>So much waits now, since then.</summary>
    public void Wait(decimal quantity, DateTimeOffset since)
    {
        if (State != TaskState.Waiting || quantity < 0)
            throw new InvalidOperationException($"{quantity} of task {Id} cannot wait.");
        (Quantity, Since) = (quantity, since);
    }

    /// <summary>A driver takes a part of what waits, or all of it.</summary>
    /// <returns>The task that is theirs: this one where all is taken, else one of its own.</returns>
    public StoreTask Take(decimal quantity, Person driver, DateTimeOffset at)
    {
        if (State != TaskState.Waiting || quantity <= 0 || quantity > Quantity)
            throw new InvalidOperationException($"{quantity} of task {Id} cannot be taken.");
        if (quantity == Quantity)
        {
            State = TaskState.Taken;
            TakeOver(driver, at);
            return this;
        }

        Quantity -= quantity;
        var task = new StoreTask
        {
            SiteId = SiteId,
            Kind = Kind,
            FromBinId = FromBinId,
            AtBinId = AtBinId,
            ItemId = ItemId,
            BatchId = BatchId,
            UnitId = UnitId,
            Serial = Serial,
            Standing = Standing,
            Key = Key,
            Quantity = quantity,
            Since = Since,
            State = TaskState.Taken,
        };
        task.TakeOver(driver, at);
        return task;
    }

    /// <summary>It is this driver's from now on.</summary>
    public void TakeOver(Person driver, DateTimeOffset at) => (PersonId, PersonName, TakenAt) = (driver.Id, driver.Name, at);

    /// <summary>Sets how much and where to, with the trail.</summary>
    public void Promise(decimal quantity, Proposal trail)
    {
        Quantity = quantity;
        Trail = trail;
        TargetBinId = trail.Shares.Count > 0 ? trail.Shares[0].BinId : null;
    }

    /// <summary>Only the driver who took it goes on with it.</summary>
    public Refusal? MayBeWorkedBy(int personId, SiteTime local) =>
        State switch
        {
            TaskState.Done => new Refusal(
                ShelfRefusals.TaskDone,
                $"The task was done by {PersonName} at {local(DoneAt!.Value):HH:mm}.",
                "Take the next one."
            ),
            TaskState.GivenBack => new Refusal(
                ShelfRefusals.TaskGivenBack,
                $"{PersonName} gave the task back.",
                "Take it anew from the queue."
            ),
            TaskState.Stopped => new Refusal(
                ShelfRefusals.TaskStopped,
                $"Stop: since {local(DoneAt!.Value):HH:mm} these goods may be used for something else, and the task is over.",
                "Scan the goods: they have another place to go to."
            ),
            TaskState.Waiting => new Refusal(ShelfRefusals.TaskNotTaken, "Nobody has taken this task.", "Take it first."),
            TaskState.Taken when personId != PersonId => new Refusal(
                ShelfRefusals.TaskTaken,
                $"{PersonName} has taken this task.",
                "Take another one."
            ),
            TaskState.Taken => null,
            _ => throw new ArgumentOutOfRangeException(nameof(personId), State, null),
        };

    /// <summary>The right goods were scanned: they are on the truck.</summary>
    public void Load(int truckBinId)
    {
        IsLoaded = true;
        AtBinId = truckBinId;
        Key = KeyOf(Goods, At);
    }

    /// <summary>So much of it is in a bin; the task is done when nothing is left.</summary>
    public void PutDown(decimal quantity, DateTimeOffset at)
    {
        Quantity -= quantity;
        if (Quantity <= 0)
            End(TaskState.Done, at);
    }

    /// <summary>Gives it back to the queue.</summary>
    public void GiveBack(DateTimeOffset at) => End(TaskState.GivenBack, at);

    /// <summary>So much less of its goods is there: it is for what is left, and over where nothing is.</summary>
    public void Shrink(decimal to, DateTimeOffset at)
    {
        Quantity = to;
        if (to <= 0)
            End(TaskState.Stopped, at);
    }

    void End(TaskState state, DateTimeOffset at) => (State, DoneAt) = (state, at);
}

/// <summary>What drivers have taken is promised, wherever it still stands.</summary>
public static class Promises
{
    /// <summary>What stands there less what drivers have taken of it, never below 0.</summary>
    public static decimal Free(decimal there, IEnumerable<StoreTask> taken) => Math.Max(0, there - taken.Sum(j => j.Quantity));
}
