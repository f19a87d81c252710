using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;
using MudRoom.Server.Road;

namespace MudRoom.Server.Shelf;

/// <summary>Takes goods to put away: from the queue by balance, or by scanning the goods themselves.</summary>
/// <param name="Balance">Id from the queue, or null.</param>
/// <param name="Scan">What was scanned on the goods, or null.</param>
/// <param name="Quantity">How much, or null for all.</param>
public sealed record TakeRequest(long? Balance, string? Scan, string? Quantity);

/// <summary>The job that was taken.</summary>
public sealed record TakeAnswer(int Job, string? Bin, string Sentence);

/// <summary>Puts goods down in a bin that was scanned.</summary>
/// <param name="Quantity">How much, or null for all that is left of the job.</param>
/// <param name="Reason">Why another bin than the proposed one.</param>
public sealed record PutDownRequest(int Job, string Bin, string? Quantity, string? Reason);

/// <summary>What was put down, and what is left.</summary>
public sealed record PutDownAnswer(string Sentence, decimal Left, string? NextBin);

/// <summary>The goods of a job, scanned before the way is driven.</summary>
/// <param name="Job">The job the driver looks at; another one of theirs, where the goods scanned are of that one.</param>
public sealed record ScanGoodsRequest(int Job, string Scan);

/// <summary>The job whose goods were scanned.</summary>
public sealed record ScanGoodsAnswer(int Job, string? Bin, string Sentence);

/// <summary>Gives a job back.</summary>
public sealed record JobRequest(int Job, string? Reason);

/// <summary>Acts of Shelf.</summary>
public static class ShelfActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<TakeRequest, TakeAnswer>("/shelf/take", Right.PutAway, Take);
        routes.Act<ScanGoodsRequest, ScanGoodsAnswer>("/shelf/scan-goods", Right.PutAway, ScanGoods);
        routes.Act<PutDownRequest, PutDownAnswer>("/shelf/put-down", Right.PutAway, PutDown);
        routes.Act<JobRequest, TakeAnswer>("/shelf/give-back", Right.PutAway, GiveBack);
        BinRefusals.Map(routes);
    }

    public static async Task<Outcome<TakeAnswer>> Take(Act act, TakeRequest request)
    {
        var row = request.Balance is { } id ? await act.Db.Balances.FirstOrDefaultAsync(b => b.SiteId == act.Site.Id && b.Id == id) : null;
        var found = row is null ? null : await Lots.LineOf(act.Db, row);
        var isConfirmed = false;
        if (request.Balance is null)
        {
            var scanned = await ByScan(act, request.Scan ?? "");
            if (scanned.Refused(out var wrong))
                return wrong;
            (found, isConfirmed) = scanned.Value;
        }

        if (found is null)
            return new Refusal(
                ShelfRefusals.JobTaken,
                "Nothing of it waits there any more: somebody has taken it.",
                "Take another one from the queue."
            );
        var taken = await TakenJobs.From(act.Db, found.Goods, found.Place);
        var free = Promises.Free(found.Quantity, taken);
        if (free <= 0)
            return new Refusal(
                ShelfRefusals.JobTaken,
                $"{taken[^1].PersonName} has taken it at {act.Site.LocalTime(taken[^1].TakenAt):HH:mm}.",
                "Take another one from the queue."
            );
        var item = act.SetUp.Catalogue[found.ItemId];
        var standing = act.Standings[found.Standing];
        var toLeave = ShelfQueue.ToLeave(act.SetUp.Bins[found.BinId].Function);
        if (
            await Lots.MayNot(act, await Lots.Of(act, found), toLeave, toLeave == Lets.PutAway ? "be put away" : "be moved") is { } keptBack
        )
            return keptBack;
        var quantity = free;
        if (!string.IsNullOrWhiteSpace(request.Quantity))
        {
            var typed = Typed(act, request.Quantity, item, free, found.UnitId is not null);
            if (typed.Refused(out var bad))
                return bad;
            quantity = typed.Value;
        }

        var job = new PutAwayJob
        {
            SiteId = act.Site.Id,
            FromBinId = found.BinId,
            ItemId = found.ItemId,
            BatchId = found.BatchId,
            UnitId = found.UnitId,
            Serial = found.Serial,
            Standing = found.Standing,
            PersonId = act.Person.Id,
            PersonName = act.Person.Name,
            TakenAt = act.Now,
        };
        var goods = Store.GoodsFrom(act.SetUp, found.BinId, found.ItemId, found.BatchId, found.UnitId, standing, quantity);
        var trail = PutAway.Propose(
            goods,
            await Store.For(act),
            await BinRefusals.Today(act.Db, act.Site, act.Now, found.ItemId, found.BatchId)
        );
        if (trail.Shares.Count == 0)
            return new Refusal(ShelfRefusals.NoBin, trail.Reason, "Free a bin, or ask a supervisor.");
        // Where one bin does not take all, the job is for what the first takes; the rest stays in the queue for the next.
        job.Promise(trail.Shares[0].Quantity, trail);
        if (isConfirmed)
            job.ConfirmGoods(act.Now);
        act.Db.Jobs.Add(job);
        await act.Db.SaveChangesAsync();
        act.Write(
            EntryKind.JobTaken,
            trail.Shares[0].Address,
            $"{act.Person.Name} takes {Quantities.Show(job.Quantity)} {item.UnitWord} of {item.Name} from "
                + $"{act.SetUp.Address(job.FromBinId)} to {trail.Shares[0].Address}. {trail.Reason}",
            about: job.About(job.TargetBinId)
        );
        act.Touch("shelf", "house");
        return new TakeAnswer(
            job.Id,
            trail.Shares[0].Address,
            $"{Quantities.Show(job.Quantity)} {item.UnitWord} of {item.Name} to {trail.Shares[0].Address}. "
                + $"{trail.Reason}{(request.Balance is null && !isConfirmed ? " Scan the unit's own label before you go." : "")}"
        );
    }

    /// <summary>The goods scanned must be those of a job of the driver: the unit by its own label, or the item, and its batch where the
    /// label says one.</summary>
    public static async Task<Outcome<ScanGoodsAnswer>> ScanGoods(Act act, ScanGoodsRequest request)
    {
        var asked = await act.Db.Jobs.FirstOrDefaultAsync(j => j.SiteId == act.Site.Id && j.Id == request.Job);
        if (asked is null)
            return Problems.NotFound("job", request.Job.ToString());
        if (asked.MayBeWorkedBy(act.Person.Id, act.Site.LocalTime) is { } notYours)
            return notYours;
        var matching = await Matching(act, request.Scan ?? "");
        if (matching.Refused(out var unknown))
            return unknown;
        var (rows, byUnit) = matching.Value;
        bool IsOf(PutAwayJob job) => rows.Exists(b => b.BinId == job.FromBinId && b.Goods == job.Goods && b.Standing == job.Standing);
        var own = await act
            .Db.Jobs.Where(j => j.SiteId == act.Site.Id && j.PersonId == act.Person.Id && j.State == JobState.Taken)
            .ToListAsync();
        // With two pallets taken, the one that is scanned is the one that is moved.
        var job = own.OrderByDescending(j => j.Id == asked.Id).FirstOrDefault(j => IsOf(j) && (j.UnitId is null || byUnit));
        if (job is not null)
        {
            job.ConfirmGoods(act.Now);
            act.Touch("shelf");
            var bin = act.SetUp.Address(job.TargetBinId);
            return new ScanGoodsAnswer(
                job.Id,
                bin,
                $"{act.SetUp.Catalogue[job.ItemId].Name}, the right goods{(job.Id == asked.Id ? "" : " of your other job")}. Bring "
                    + $"them to {bin}."
            );
        }

        var item = act.SetUp.Catalogue[asked.ItemId];
        if (IsOf(asked))
            return new Refusal(
                ShelfRefusals.UnitLabel,
                $"This job is for one labelled unit of {item.Name}: only its own label tells it from the others.",
                "Scan its SSCC, the number of 18 digits."
            );
        var held = rows.Find(b => b.ItemId == asked.ItemId && KindOf(b.Standing) is StandingKind.Held or StandingKind.Rejected);
        StandingKind KindOf(Standing standing) => act.Standings[standing].Kind;
        return held is not null && KindOf(asked.Standing) == StandingKind.Usable
            ? new Refusal(
                ShelfRefusals.GoodsHeld,
                $"That is {act.Standings.Word(held.Standing)}, in {act.SetUp.Address(held.BinId)}. It may not go to "
                    + $"{act.SetUp.Address(asked.TargetBinId)}.",
                $"Take the usable {item.Name} from {act.SetUp.Address(asked.FromBinId)}."
            )
            : new Refusal(
                ShelfRefusals.WrongGoods,
                $"That is not what this job is for: {Quantities.Show(asked.Quantity)} {item.UnitWord} of {item.Name} from "
                    + $"{act.SetUp.Address(asked.FromBinId)}.",
                "Scan the goods of the job, or give it back."
            );
    }

    public static async Task<Outcome<PutDownAnswer>> PutDown(Act act, PutDownRequest request)
    {
        var job = await act.Db.Jobs.FirstOrDefaultAsync(j => j.SiteId == act.Site.Id && j.Id == request.Job);
        if (job is null)
            return Problems.NotFound("job", request.Job.ToString());
        if (job.MayBeWorkedBy(act.Person.Id, act.Site.LocalTime) is { } notYours)
            return notYours;
        if (job.GoodsScannedAt is null)
            return new Refusal(
                ShelfRefusals.GoodsNotScanned,
                "The goods of this job were not scanned yet.",
                "Scan their label first, then the bin."
            );
        var scan = (request.Bin ?? "").Trim().ToUpperInvariant();
        if (!act.SetUp.BinsByAddress.TryGetValue((act.Site.Id, scan), out var bin))
            return act.SetUp.HasAddress(scan)
                ? new Refusal(HouseRefusals.OtherSite, $"Bin {scan} belongs to another site.", "Scan a bin of this site.")
                : new Refusal(ShelfRefusals.BinUnknown, $"{request.Bin} is no bin of this site.", "Scan the bin's label.");
        if (
            bin.Id != job.TargetBinId
            && await act.Db.Jobs.FirstOrDefaultAsync(j =>
                j.SiteId == act.Site.Id
                && j.PersonId == act.Person.Id
                && j.State == JobState.Taken
                && j.GoodsScannedAt != null
                && j.Id != job.Id
                && j.TargetBinId == bin.Id
            )
                is { } other
        )
            return new Refusal(
                ShelfRefusals.OtherJob,
                $"{bin.Address} is where your {act.SetUp.Catalogue[other.ItemId].Name} goes; in hand is "
                    + $"{act.SetUp.Catalogue[job.ItemId].Name}.",
                "Scan the goods you put down once more, then the bin."
            );
        var item = act.SetUp.Catalogue[job.ItemId];
        var quantity = job.Quantity;
        if (!string.IsNullOrWhiteSpace(request.Quantity))
        {
            var typed = Typed(act, request.Quantity, item, job.Quantity, job.UnitId is not null);
            if (typed.Refused(out var bad))
                return bad;
            quantity = typed.Value;
        }

        var store = await Store.For(act, without: job.Id);
        var goods = Store.GoodsFrom(act.SetUp, job.FromBinId, job.ItemId, job.BatchId, job.UnitId, act.Standings[job.Standing], quantity);
        if (PutAway.FirstBroken(goods, store.First(b => b.Bin.Id == bin.Id), quantity) is { } limit)
            return PutAway.Refuse(limit, goods, bin);

        var from = Place.In(job.FromBinId, job.Standing);
        if ((await act.Book.Oldest(job.Goods, from, quantity)).Sum(p => p.Quantity) < quantity)
            return new Refusal(
                ShelfRefusals.GoodsGone,
                $"{act.SetUp.Address(job.FromBinId)} no longer holds {Quantities.Show(quantity)} {item.UnitWord} of {item.Name} as "
                    + $"{act.Standings.Word(job.Standing)}.",
                "Give the job back and look at the queue."
            );
        var elsewhere =
            bin.Id == job.TargetBinId
                ? ""
                : $", not {act.SetUp.Address(job.TargetBinId)}" + (request.Reason.OrNull() is { } why ? ": " + why : "");
        await act.Move(
            EntryKind.PutAway,
            bin.Address,
            of => $"{Quantities.Show(of)} {item.UnitWord} of {item.Name} put into {bin.Address}{elsewhere}.",
            job.Goods,
            quantity,
            from,
            Place.In(bin.Id, job.Standing)
        );
        job.PutDown(quantity, act.Now);
        await Receipts.Moved(act);
        string? next = null;
        if (job.State == JobState.Taken)
        {
            await act.Db.SaveChangesAsync();
            var rest = Store.GoodsFrom(
                act.SetUp,
                job.FromBinId,
                job.ItemId,
                job.BatchId,
                job.UnitId,
                act.Standings[job.Standing],
                job.Quantity
            );
            var trail = PutAway.Propose(
                rest,
                await Store.For(act, without: job.Id),
                await BinRefusals.Today(act.Db, act.Site, act.Now, job.ItemId, job.BatchId)
            );
            job.Promise(job.Quantity, trail);
            next = act.SetUp.Address(job.TargetBinId);
        }

        act.Touch("shelf", "house");
        return new PutDownAnswer(
            $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name} in "
                + $"{bin.Address}.{(job.State == JobState.Done ? "" : $" {Quantities.Show(job.Quantity)} left, to {next}.")}",
            job.State == JobState.Done ? 0 : job.Quantity,
            next
        );
    }

    public static async Task<Outcome<TakeAnswer>> GiveBack(Act act, JobRequest request)
    {
        var job = await act.Db.Jobs.FirstOrDefaultAsync(j => j.SiteId == act.Site.Id && j.Id == request.Job);
        if (job is null)
            return Problems.NotFound("job", request.Job.ToString());
        if (job.MayBeWorkedBy(act.Person.Id, act.Site.LocalTime) is { } notYours)
            return notYours;
        job.GiveBack();
        act.Write(
            EntryKind.JobGivenBack,
            act.SetUp.Address(job.TargetBinId),
            $"{act.Person.Name} gave the job to {act.SetUp.Address(job.TargetBinId)} "
                + $"back{(string.IsNullOrWhiteSpace(request.Reason) ? "" : ": " + request.Reason.Trim())}.",
            about: job.About(job.TargetBinId)
        );
        act.Touch("shelf", "house");
        return new TakeAnswer(job.Id, null, "The job is back in the queue.");
    }

    static Outcome<decimal> Typed(Act act, string text, Item item, decimal most, bool isUnit)
    {
        var typed = Quantities.Read(text, act.Site.Door.DecimalComma);
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

    /// <summary>The waiting stock that a scan of the goods means; usable goods before others, loose ones before units that their own label
    /// tells apart.</summary>
    /// <returns>The stock, and whether the scan has told it from all other.</returns>
    static async Task<Outcome<(StockLine Row, bool IsConfirmed)>> ByScan(Act act, string scan)
    {
        var matching = await Matching(act, scan);
        if (matching.Refused(out var unknown))
            return unknown;
        var (rows, byUnit) = matching.Value;
        var free = (await WaitingStock.Read(act.Db, act.SetUp, act.Site.Id)).Waiting.Select(w => w.Row.Id).ToHashSet();
        var waiting = rows.Where(b => ShelfQueue.OnlyPassesThrough(act.SetUp.Bins[b.BinId].Function, act.Standings[b.Standing]))
            .OrderByDescending(b => free.Contains(b.Id))
            .ThenBy(b => act.Standings.Order(b.Standing))
            .ThenByDescending(b => b.UnitId is null)
            .ToList();
        if (waiting.Count == 0)
            return new Refusal(
                ShelfRefusals.PutAwayAlready,
                $"It stands in {act.SetUp.Address(rows[0].BinId)} already.",
                "There is nothing to do."
            );
        return (waiting[0], waiting[0].UnitId is null || byUnit);
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
