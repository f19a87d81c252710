using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Shelf;

/// <summary>The bin of a task does not take its goods.</summary>
public sealed record BinRefusedRequest(int Task, BinTrouble Trouble);

/// <summary>What drivers have said of bins today: it is remembered, and the next best is proposed.</summary>
public static class BinRefusals
{
    public static void Map(SiteRoutes routes) => routes.Act<BinRefusedRequest, TakeAnswer>("/shelf/bin-refused", Right.PutAway, Run);

    /// <summary>Bins of which was said today that they do not take these goods.</summary>
    public static async Task<IReadOnlySet<int>> Today(MudRoomDb db, WarehouseSite site, DateTimeOffset now, int itemId, int? batchId)
    {
        var day = site.DateAt(now);
        return await db
            .BinRefusals.Where(r => r.SiteId == site.Id && r.Day == day && r.ItemId == itemId && r.BatchId == batchId)
            .Select(r => r.BinId)
            .ToHashSetAsync();
    }

    public static async Task<Outcome<TakeAnswer>> Run(Act act, BinRefusedRequest request)
    {
        var task = await act.Db.Tasks.FirstOrDefaultAsync(j => j.SiteId == act.Site.Id && j.Id == request.Task);
        if (task is null)
            return Problems.NotFound("task", request.Task.ToString());
        if (task.MayBeWorkedBy(act.Person.Id, act.Site.LocalTime) is { } notYours)
            return notYours;
        if (!Enum.IsDefined(request.Trouble) || task.TargetBinId is not { } binId)
            return new Refusal(ShelfRefusals.BinUnknown, "Say what is wrong with the bin.", "Full, blocked, or not there.");
        act.Db.BinRefusals.Add(
            new BinRefusal
            {
                SiteId = act.Site.Id,
                BinId = binId,
                ItemId = task.ItemId,
                BatchId = task.BatchId,
                Trouble = request.Trouble,
                PersonName = act.Person.Name,
                At = act.Now,
                Day = act.Today,
            }
        );
        await act.Db.SaveChangesAsync();
        var item = act.SetUp.Catalogue[task.ItemId];
        var (address, word) = (act.SetUp.Address(binId), BinRefusal.Word(request.Trouble));
        var trail = PutAway.Propose(
            Store.GoodsFrom(act.SetUp, task, act.Standings, task.Quantity),
            await Store.For(act, without: task.Id),
            await Today(act.Db, act.Site, act.Now, task.ItemId, task.BatchId)
        );
        var next = trail.Shares.Count > 0 ? trail.Shares[0] : null;
        act.Write(
            new BinSaidToBe(address, act.Person.Name, request.Trouble, item.Name, next?.Address, next is null ? trail.Reason : null)
            {
                About = task.About(binId),
            }
        );
        if (next is null)
            await ShelfActs.BackInTheQueue(act, task, new NoBinLeft(act.SetUp.Address(task.TargetBinId), act.Person.Name));
        else
            task.Promise(next.Quantity, trail);
        // What the next bin does not take waits where it is.
        await StoreTasks.Follow(act, [(task.Goods, task.At)]);
        act.Touch("shelf", "house");
        return next is null
            ? new TakeAnswer(
                task.Id,
                null,
                $"{address} is noted as {word}. {trail.Reason} The task is back in the queue: ask a supervisor."
            )
            : new TakeAnswer(
                task.Id,
                next.Address,
                $"{address} is noted as {word}. {Quantities.Show(next.Quantity)} {item.UnitWord} to {next.Address}. {trail.Reason}"
            );
    }
}
