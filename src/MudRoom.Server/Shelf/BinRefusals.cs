using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Shelf;

/// <summary>The bin of a job does not take its goods.</summary>
public sealed record BinRefusedRequest(int Job, BinTrouble Trouble);

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
        var job = await act.Db.Jobs.FirstOrDefaultAsync(j => j.SiteId == act.Site.Id && j.Id == request.Job);
        if (job is null)
            return Problems.NotFound("job", request.Job.ToString());
        if (job.MayBeWorkedBy(act.Person.Id, act.Site.LocalTime) is { } notYours)
            return notYours;
        if (!Enum.IsDefined(request.Trouble) || job.TargetBinId is not { } binId)
            return new Refusal(ShelfRefusals.BinUnknown, "Say what is wrong with the bin.", "Full, blocked, or not there.");
        act.Db.BinRefusals.Add(
            new BinRefusal
            {
                SiteId = act.Site.Id,
                BinId = binId,
                ItemId = job.ItemId,
                BatchId = job.BatchId,
                Trouble = request.Trouble,
                PersonName = act.Person.Name,
                At = act.Now,
                Day = act.Today,
            }
        );
        await act.Db.SaveChangesAsync();
        var item = act.SetUp.Catalogue[job.ItemId];
        var (address, word) = (act.SetUp.Address(binId), BinRefusal.Word(request.Trouble));
        var goods = Store.GoodsFrom(
            act.SetUp,
            job.FromBinId,
            job.ItemId,
            job.BatchId,
            job.UnitId,
            act.Standings[job.Standing],
            job.Quantity
        );
        var trail = PutAway.Propose(
            goods,
            await Store.For(act, without: job.Id),
            await Today(act.Db, act.Site, act.Now, job.ItemId, job.BatchId)
        );
        var next = trail.Shares.Count > 0 ? trail.Shares[0] : null;
        if (next is null)
            job.GiveBack();
        else
            job.Promise(next.Quantity, trail);
        act.Write(
            EntryKind.BinRefused,
            address,
            $"{act.Person.Name} says {address} is {word} for {item.Name}. "
                + (next is null ? $"{trail.Reason} The job is back in the queue." : $"To {next.Address} instead."),
            about: job.About(binId)
        );
        act.Touch("shelf", "house");
        return next is null
            ? new TakeAnswer(job.Id, null, $"{address} is noted as {word}. {trail.Reason} The job is back in the queue: ask a supervisor.")
            : new TakeAnswer(
                job.Id,
                next.Address,
                $"{address} is noted as {word}. {Quantities.Show(next.Quantity)} {item.UnitWord} to {next.Address}. {trail.Reason}"
            );
    }
}
