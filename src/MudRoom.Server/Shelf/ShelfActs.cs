using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;
using MudRoom.Server.Road;

namespace MudRoom.Server.Shelf;

/// <summary>Takes a task: from the queue, or by scanning the goods themselves.</summary>
/// <param name="Task">Id from the queue, or null.</param>
/// <param name="Scan">What was scanned on the goods, or null.</param>
/// <param name="Quantity">How much, or null for all.</param>
/// <param name="TakeOver">True to take goods over that a colleague has taken, and has on the truck or not.</param>
public sealed record TakeRequest(int? Task, string? Scan, string? Quantity, bool TakeOver = false);

/// <summary>The task that was taken.</summary>
public sealed record TakeAnswer(int Task, string? Bin, string Sentence);

/// <summary>Puts goods down in a bin that was scanned.</summary>
/// <param name="Quantity">How much, or null for all that is left of the task.</param>
/// <param name="Reason">Why another bin than the proposed one.</param>
public sealed record PutDownRequest(int Task, string Bin, string? Quantity, string? Reason);

/// <summary>What was put down, and what is left.</summary>
public sealed record PutDownAnswer(string Sentence, decimal Left, string? NextBin);

/// <summary>The goods of a task, scanned before the way is driven.</summary>
/// <param name="Task">The task the driver looks at; another one of theirs, where the goods scanned are of that one.</param>
public sealed record ScanGoodsRequest(int Task, string Scan);

/// <summary>The task whose goods were scanned.</summary>
public sealed record ScanGoodsAnswer(int Task, string? Bin, string Sentence);

/// <summary>Gives a task back.</summary>
public sealed record TaskRequest(int Task, string? Reason);

/// <summary>Acts of Shelf.</summary>
public static class ShelfActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<TakeRequest, TakeAnswer>("/shelf/take", Right.PutAway, Take);
        routes.Act<ScanGoodsRequest, ScanGoodsAnswer>("/shelf/scan-goods", Right.PutAway, ScanGoods);
        routes.Act<PutDownRequest, PutDownAnswer>("/shelf/put-down", Right.PutAway, PutDown);
        routes.Act<TaskRequest, TakeAnswer>("/shelf/give-back", Right.PutAway, GiveBack);
        BinRefusals.Map(routes);
    }

    public static async Task<Outcome<TakeAnswer>> Take(Act act, TakeRequest request)
    {
        var found = request.Task is { } id ? await act.Db.Tasks.FirstOrDefaultAsync(t => t.SiteId == act.Site.Id && t.Id == id) : null;
        var isConfirmed = false;
        if (request.Task is null)
        {
            var scanned = await ByScan(act, request.Scan ?? "");
            if (scanned.Refused(out var wrong))
                return wrong;
            (found, isConfirmed) = scanned.Value;
        }

        if (found is { State: TaskState.Taken } taken)
            return request.TakeOver
                ? await TakeOver(act, taken, isConfirmed)
                : new Refusal(
                    ShelfRefusals.TaskTaken,
                    $"{taken.PersonName} has taken it at {act.Site.LocalTime(taken.TakenAt!.Value):HH:mm}"
                        + $"{(taken.IsLoaded ? $", and has it on {act.SetUp.Address(taken.AtBinId)}" : "")}.",
                    "Take another one from the queue, or take it over if you have it now."
                );
        if (found is not { State: TaskState.Waiting, Quantity: > 0 } waiting)
            return new Refusal(
                ShelfRefusals.TaskTaken,
                "Nothing of it waits there any more: somebody has taken it.",
                "Take another one from the queue."
            );
        var item = act.SetUp.Catalogue[waiting.ItemId];
        var toLeave = ShelfQueue.ToLeave(act.SetUp.Bins[waiting.AtBinId].Function);
        if (
            await Lots.MayNot(
                act,
                await Lots.Of(act, await Lots.LineAt(act.Db, waiting.Goods, waiting.At)),
                toLeave,
                toLeave == Lets.PutAway ? "be put away" : "be moved"
            ) is
            { } keptBack
        )
            return keptBack;
        var quantity = waiting.Quantity;
        if (!string.IsNullOrWhiteSpace(request.Quantity))
        {
            var typed = Typed(act, request.Quantity, item, waiting.Quantity, waiting.UnitId is not null);
            if (typed.Refused(out var bad))
                return bad;
            quantity = typed.Value;
        }

        var trail = await Propose(act, waiting, quantity);
        if (trail.Shares.Count == 0)
            return new Refusal(ShelfRefusals.NoBin, trail.Reason, "Free a bin, or ask a supervisor.");
        // Where one bin does not take all, the task is for what the first takes; the rest waits for the next.
        var task = waiting.Take(trail.Shares[0].Quantity, act.Person, act.Now);
        task.Promise(task.Quantity, trail);
        if (task != waiting)
            act.Db.Tasks.Add(task);
        await act.Db.SaveChangesAsync();
        act.Write(
            new TaskTaken(
                trail.Shares[0].Address,
                act.Person.Name,
                Amount.Of(task.Quantity, item),
                act.SetUp.Address(task.AtBinId),
                trail.Reason
            )
            {
                About = task.About(task.TargetBinId),
            }
        );
        if (isConfirmed)
            await Trucks.Load(act, task);
        act.Touch("shelf", "house");
        return new TakeAnswer(
            task.Id,
            trail.Shares[0].Address,
            $"{Quantities.Show(task.Quantity)} {item.UnitWord} of {item.Name} to {trail.Shares[0].Address}. "
                + $"{trail.Reason}{(request.Task is null && !isConfirmed ? " Scan the unit's own label before you go." : "")}"
        );
    }

    /// <summary>A colleague's task becomes the driver's own: where the goods were loaded or scanned, they are on the driver's truck from
    /// now on.</summary>
    static async Task<TakeAnswer> TakeOver(Act act, StoreTask task, bool isConfirmed)
    {
        var item = act.SetUp.Catalogue[task.ItemId];
        var (from, bin) = (task.PersonName, act.SetUp.Address(task.TargetBinId));
        task.TakeOver(act.Person, act.Now);
        act.Write(new TaskTakenOver(bin, act.Person.Name, Amount.Of(task.Quantity, item), from) { About = task.About(task.TargetBinId) });
        if (isConfirmed || task.IsLoaded)
            await Trucks.Load(act, task);
        act.Touch("shelf", "house");
        return new TakeAnswer(
            task.Id,
            bin,
            $"{Quantities.Show(task.Quantity)} {item.UnitWord} of {item.Name} to {bin}: taken over from {from}."
        );
    }

    static async Task<Proposal> Propose(Act act, StoreTask task, decimal quantity) =>
        PutAway.Propose(
            Store.GoodsFrom(act.SetUp, task, act.Standings, quantity),
            await Store.For(act, without: task.Id),
            await BinRefusals.Today(act.Db, act.Site, act.Now, task.ItemId, task.BatchId)
        );

    /// <summary>The goods scanned must be those of a task of the driver: the unit by its own label, or the item, and its batch where the
    /// label says one.</summary>
    public static async Task<Outcome<ScanGoodsAnswer>> ScanGoods(Act act, ScanGoodsRequest request)
    {
        var asked = await act.Db.Tasks.FirstOrDefaultAsync(j => j.SiteId == act.Site.Id && j.Id == request.Task);
        if (asked is null)
            return Problems.NotFound("task", request.Task.ToString());
        if (asked.MayBeWorkedBy(act.Person.Id, act.Site.LocalTime) is { } notYours)
            return notYours;
        var matching = await Matching(act, request.Scan ?? "");
        if (matching.Refused(out var unknown))
            return unknown;
        var (rows, byUnit) = matching.Value;
        bool IsOf(StoreTask task) => rows.Exists(b => b.Place == task.At && b.Goods == task.Goods);
        var own = await act
            .Db.Tasks.Where(j => j.SiteId == act.Site.Id && j.PersonId == act.Person.Id && j.State == TaskState.Taken)
            .ToListAsync();
        // With two pallets taken, the one that is scanned is the one that is moved.
        var task = own.OrderByDescending(j => j.Id == asked.Id).FirstOrDefault(j => IsOf(j) && (j.UnitId is null || byUnit));
        if (task is not null)
        {
            await Trucks.Load(act, task);
            act.Touch("shelf");
            var bin = act.SetUp.Address(task.TargetBinId);
            return new ScanGoodsAnswer(
                task.Id,
                bin,
                $"{act.SetUp.Catalogue[task.ItemId].Name}, the right goods{(task.Id == asked.Id ? "" : " of your other task")}. Bring "
                    + $"them to {bin}."
            );
        }

        var item = act.SetUp.Catalogue[asked.ItemId];
        if (IsOf(asked))
            return new Refusal(
                ShelfRefusals.UnitLabel,
                $"This task is for one labelled unit of {item.Name}: only its own label tells it from the others.",
                "Scan its SSCC, the number of 18 digits."
            );
        var held = rows.Find(b => b.ItemId == asked.ItemId && KindOf(b.Standing) is StandingKind.Held or StandingKind.Rejected);
        StandingKind KindOf(Standing standing) => act.Standings[standing].Kind;
        return held is not null && KindOf(asked.Standing) == StandingKind.Usable
            ? new Refusal(
                ShelfRefusals.GoodsHeld,
                $"That is {act.Standings.Word(held.Standing)}, in {act.SetUp.Address(held.BinId)}. It may not go to "
                    + $"{act.SetUp.Address(asked.TargetBinId)}.",
                $"Take the usable {item.Name} from {act.SetUp.Address(asked.AtBinId)}."
            )
            : new Refusal(
                ShelfRefusals.WrongGoods,
                $"That is not what this task is for: {Quantities.Show(asked.Quantity)} {item.UnitWord} of {item.Name} from "
                    + $"{act.SetUp.Address(asked.AtBinId)}.",
                "Scan the goods of the task, or give it back."
            );
    }

    public static async Task<Outcome<PutDownAnswer>> PutDown(Act act, PutDownRequest request)
    {
        var task = await act.Db.Tasks.FirstOrDefaultAsync(j => j.SiteId == act.Site.Id && j.Id == request.Task);
        if (task is null)
            return Problems.NotFound("task", request.Task.ToString());
        if (task.MayBeWorkedBy(act.Person.Id, act.Site.LocalTime) is { } notYours)
            return notYours;
        if (!task.IsLoaded)
            return new Refusal(
                ShelfRefusals.GoodsNotScanned,
                "The goods of this task were not scanned yet.",
                "Scan their label first, then the bin."
            );
        var scan = (request.Bin ?? "").Trim().ToUpperInvariant();
        if (!act.SetUp.BinsByAddress.TryGetValue((act.Site.Id, scan), out var bin))
            return act.SetUp.HasAddress(scan)
                ? new Refusal(HouseRefusals.OtherSite, $"Bin {scan} belongs to another site.", "Scan a bin of this site.")
                : new Refusal(ShelfRefusals.BinUnknown, $"{request.Bin} is no bin of this site.", "Scan the bin's label.");
        if (
            bin.Id != task.TargetBinId
            && await act.Db.Tasks.FirstOrDefaultAsync(j =>
                j.SiteId == act.Site.Id
                && j.PersonId == act.Person.Id
                && j.State == TaskState.Taken
                && j.IsLoaded
                && j.Id != task.Id
                && j.TargetBinId == bin.Id
            )
                is { } other
        )
            return new Refusal(
                ShelfRefusals.OtherTask,
                $"{bin.Address} is where your {act.SetUp.Catalogue[other.ItemId].Name} goes; in hand is "
                    + $"{act.SetUp.Catalogue[task.ItemId].Name}.",
                "Scan the goods you put down once more, then the bin."
            );
        var item = act.SetUp.Catalogue[task.ItemId];
        var quantity = task.Quantity;
        if (!string.IsNullOrWhiteSpace(request.Quantity))
        {
            var typed = Typed(act, request.Quantity, item, task.Quantity, task.UnitId is not null);
            if (typed.Refused(out var bad))
                return bad;
            quantity = typed.Value;
        }

        if (bin.Function == BinFunction.Staging)
            return await SetDownHalfWay(act, task, bin, item, quantity);
        var goods = Store.GoodsFrom(act.SetUp, task, act.Standings, quantity);
        var store = await Store.For(act, without: task.Id);
        if (PutAway.FirstBroken(goods, store.First(b => b.Bin.Id == bin.Id), quantity) is { } limit)
            return PutAway.Refuse(limit, goods, bin);

        var insteadOf = bin.Id == task.TargetBinId ? null : act.SetUp.Address(task.TargetBinId);
        var why = insteadOf is null ? null : request.Reason.OrNull();
        await act.Move(
            of => new GoodsPutAway(bin.Address, Amount.Of(of, item), insteadOf, why),
            task.Goods,
            quantity,
            task.At,
            Place.In(bin.Id, task.Standing)
        );
        task.PutDown(quantity, act.Now);
        await Receipts.Moved(act);
        string? next = null;
        if (task.State == TaskState.Taken)
        {
            await act.Db.SaveChangesAsync();
            task.Promise(task.Quantity, await Propose(act, task, task.Quantity));
            next = act.SetUp.Address(task.TargetBinId);
        }

        act.Touch("shelf", "house");
        return new PutDownAnswer(
            $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name} in "
                + $"{bin.Address}.{(task.State == TaskState.Done ? "" : $" {Quantities.Show(task.Quantity)} left, to {next}.")}",
            task.State == TaskState.Done ? 0 : task.Quantity,
            next
        );
    }

    public static async Task<Outcome<TakeAnswer>> GiveBack(Act act, TaskRequest request)
    {
        var task = await act.Db.Tasks.FirstOrDefaultAsync(j => j.SiteId == act.Site.Id && j.Id == request.Task);
        if (task is null)
            return Problems.NotFound("task", request.Task.ToString());
        if (task.MayBeWorkedBy(act.Person.Id, act.Site.LocalTime) is { } notYours)
            return notYours;
        var item = act.SetUp.Catalogue[task.ItemId];
        var bin = act.SetUp.Address(task.TargetBinId);
        await BackInTheQueue(act, task, new TaskGivenBack(bin, act.Person.Name, Amount.Of(task.Quantity, item), request.Reason.OrNull()));
        return new TakeAnswer(task.Id, null, "The task is back in the queue.");
    }

    /// <summary>Ends a task: its goods are where it took them, and wait anew.</summary>
    internal static async Task BackInTheQueue(Act act, StoreTask task, Fact since)
    {
        act.Write(since with { About = task.About(task.TargetBinId) });
        await Trucks.Unload(act, task);
        task.GiveBack(act.Now);
        await StoreTasks.Follow(act, [(task.Goods, Place.In(task.FromBinId, task.Standing))]);
        act.Touch("shelf", "house");
    }

    /// <summary>In a receiving place they wait for the next driver.</summary>
    static async Task<Outcome<PutDownAnswer>> SetDownHalfWay(Act act, StoreTask task, Bin bin, Item item, decimal quantity)
    {
        if (quantity != task.Quantity)
            return new Refusal(
                ShelfRefusals.BinRefused,
                $"{bin.Address} is on the way: what is set down there is all that you have of it.",
                "Set all of it down, or bring a part to its bin."
            );
        await act.Move(
            of => new SetDownHalfWay(bin.Address, Amount.Of(of, item)),
            task.Goods,
            quantity,
            task.At,
            Place.In(bin.Id, task.Standing)
        );
        task.GiveBack(act.Now);
        act.Touch("shelf", "house");
        return new PutDownAnswer(
            $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name} in {bin.Address}, half way: they wait there for the next driver.",
            0,
            null
        );
    }

    static Outcome<decimal> Typed(Act act, string text, Item item, decimal most, bool isUnit)
    {
        var typed = Quantities.Read(text, act.Site.DecimalComma);
        if (typed.Refused(out var bad))
            return bad;
        if (Quantities.Check(typed.Value, item) is { } badQuantity)
            return badQuantity;
        if (typed.Value > most)
            return new Refusal(
                HouseRefusals.MoreThanThere,
                $"There are {Quantities.Show(most)} {item.UnitWord}; {Quantities.Show(typed.Value)} are more.",
                "Take what is there."
            );
        if (isUnit && typed.Value != most)
            return new Refusal(HouseRefusals.UnitWhole, "A labelled unit is put away whole.", "Take it as it is.");
        return typed.Value;
    }

    /// <summary>The task that a scan of the goods means.</summary>
    /// <returns>The task, and whether the scan has told its goods from all other.</returns>
    static async Task<Outcome<(StoreTask Task, bool IsConfirmed)>> ByScan(Act act, string scan)
    {
        var matching = await Matching(act, scan);
        if (matching.Refused(out var unknown))
            return unknown;
        var (rows, byUnit) = matching.Value;
        var keys = rows.Select(b => StoreTask.KeyOf(b.Goods, b.Place)).ToList();
        var tasks = await act.Db.Tasks.Open(act.Site.Id).Where(t => keys.Contains(t.Key)).ToListAsync();
        if (ShelfQueue.Meant(tasks, act.Standings) is { } meant)
            return (meant, meant.UnitId is null || byUnit);
        return rows.Find(b => ShelfQueue.OnlyPassesThrough(act.SetUp.Bins[b.BinId].Function, act.Standings[b.Standing])) is { } kept
            ? new Refusal(
                HouseRefusals.NotLet,
                $"It is {act.Standings.Word(kept.Standing)}, and stays in {act.SetUp.Address(kept.BinId)}: it may not be moved.",
                "Have it lifted first."
            )
            : new Refusal(
                ShelfRefusals.PutAwayAlready,
                $"It stands in {act.SetUp.Address(rows[0].BinId)} already.",
                "There is nothing to do."
            );
    }

    /// <summary>All stock of the site that a label can mean: a unit, a serial, an item, a batch.</summary>
    /// <returns>The stock, the oldest first, and whether the label was that of one unit.</returns>
    static async Task<Outcome<(List<StockLine> Rows, bool ByUnit)>> Matching(Act act, string scan)
    {
        var meant = await Meant.Of(act.Db, act.SetUp, act.Site, act.Scan(scan));
        var found = await meant.Of(act.Db.Balances.Where(b => b.SiteId == act.Site.Id)).OrderBy(b => b.Since).ToListAsync();
        return found.Count > 0
            ? (StockLine.Of(found).ToList(), meant.Unit is not null)
            : new Refusal(ShelfRefusals.NothingThere, $"Nothing with {meant.Key} stands on this site.", "Scan the label of the goods.");
    }
}
