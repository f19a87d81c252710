using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Shelf;

/// <summary>Goods that want a place, or that a driver has taken.</summary>
/// <param name="Balance">Id of the stock to take; null once it is taken.</param>
/// <param name="Job">Id of the job; null while it waits.</param>
/// <param name="GoodsScanned">True once its goods were scanned and were the right ones.</param>
public sealed record JobCard(
    long? Balance,
    int? Job,
    string Item,
    string? Batch,
    string? Sscc,
    string? Serial,
    StandingSeen Standing,
    decimal Quantity,
    string Unit,
    string InPacks,
    decimal Mass,
    string From,
    string? To,
    string? TakenBy,
    bool Mine,
    DateTime Since,
    string Why,
    bool GoodsScanned = false
);

/// <summary>The queue of Shelf.</summary>
public sealed record ShelfQueueAnswer(IReadOnlyList<JobCard> Jobs, int Drivers);

/// <summary>A bin on the plan of the store.</summary>
/// <param name="Said">What a driver said of it today, or null.</param>
public sealed record PlanBin(
    string Address,
    string Zone,
    string Aisle,
    int Bay,
    int Level,
    BinFunction Function,
    StorageClass StorageClass,
    decimal X,
    decimal Y,
    double Fill,
    bool Blocked,
    string? Said
);

/// <summary>A door on the plan.</summary>
public sealed record PlanDoor(int Number, decimal X);

/// <summary>The store drawn from above.</summary>
public sealed record PlanAnswer(IReadOnlyList<PlanBin> Bins, IReadOnlyList<PlanDoor> Doors);

/// <summary>A proposal with its trail, for the screen.</summary>
/// <param name="Codes">What a label of the goods may say, for a device that will stand in a dead spot.</param>
public sealed record ProposalAnswer(
    JobCard Card,
    Proposal Trail,
    string? Bin,
    string Zone,
    string Aisle,
    int Bay,
    int Level,
    IReadOnlyList<string> Codes
);

/// <summary>The queue of Shelf, the plan of the store, and one job with its trail.</summary>
public static class ShelfPages
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/shelf/queue", Right.See, Queue);
        routes.Ask("/shelf/plan", Right.See, Plan);
        routes.Ask("/shelf/jobs/{job:int}", Right.See, Job);
        routes.Ask("/shelf/proposal/{balance:long}", Right.See, Propose);
    }

    static async Task<Ok<ShelfQueueAnswer>> Queue(Inquiry inquiry)
    {
        var (waiting, taken) = await WaitingStock.Read(inquiry.Db, inquiry.SetUp, inquiry.Site.Id);
        var cards = new List<(int Rank, JobCard Card)>();
        var numbers = await Numbers.Load(
            inquiry,
            [.. waiting.Select(w => (w.Row.BatchId, w.Row.UnitId)), .. taken.Select(j => (j.BatchId, j.UnitId))]
        );
        var itemIds = waiting.Select(w => w.Row.ItemId).ToHashSet();
        var waited = (
            await inquiry
                .Db.LineParts.Where(p => p.SiteId == inquiry.Site.Id && p.WaitingQuantity > p.Received && itemIds.Contains(p.ItemId))
                .Select(p => new { p.ItemId, p.WaitingFor })
                .ToListAsync()
        ).ToLookup(p => p.ItemId, p => p.WaitingFor);
        foreach (var job in taken)
            cards.Add((job.PersonId == inquiry.Person.Id ? 0 : 8, CardOf(inquiry, job, numbers)));
        foreach (var (row, free) in waiting)
        {
            var (rank, why) = ShelfQueue.Place(
                inquiry.Standings[row.Standing],
                waited[row.ItemId].FirstOrDefault(),
                inquiry.Local(row.Since),
                inquiry.Local(inquiry.Now)
            );
            cards.Add((rank, CardOf(inquiry, row, free, numbers, why)));
        }

        return TypedResults.Ok(
            new ShelfQueueAnswer(
                [.. cards.OrderBy(c => c.Rank).ThenBy(c => c.Card.Since).Select(c => c.Card)],
                taken.Select(j => j.PersonId).Distinct().Count()
            )
        );
    }

    static async Task<Ok<PlanAnswer>> Plan(Inquiry inquiry)
    {
        var store = await Store.For(inquiry);
        var today = inquiry.Site.DateAt(inquiry.Now);
        var said = (await inquiry.Db.BinRefusals.Where(r => r.SiteId == inquiry.Site.Id && r.Day == today).OrderBy(r => r.Id).ToListAsync())
            .GroupBy(r => r.BinId)
            .ToDictionary(
                g => g.Key,
                g => $"{BinRefusal.Word(g.Last().Trouble)}, says {g.Last().PersonName}, {inquiry.Local(g.Last().At):HH:mm}"
            );
        return TypedResults.Ok(
            new PlanAnswer(
                [
                    .. store.Select(b => new PlanBin(
                        b.Bin.Address,
                        b.Bin.Zone,
                        b.Bin.Aisle,
                        b.Bin.Bay,
                        b.Bin.Level,
                        b.Bin.Function,
                        b.Bin.StorageClass,
                        b.Bin.X,
                        b.Bin.Y,
                        Math.Round(
                            Math.Min(
                                1,
                                b.Bin.MaxVolume == 0
                                    ? 0
                                    : Math.Max(
                                        (double)(b.Volume / b.Bin.MaxVolume),
                                        b.Bin.MaxMass == 0 ? 0 : (double)(b.Mass / b.Bin.MaxMass)
                                    )
                            ),
                            2
                        ),
                        b.Bin.Blocked,
                        said.GetValueOrDefault(b.Bin.Id)
                    )),
                ],
                [
                    .. inquiry
                        .SetUp.Doors.Values.Where(d => d.SiteId == inquiry.Site.Id)
                        .OrderBy(d => d.Number)
                        .Select(d => new PlanDoor(d.Number, d.X)),
                ]
            )
        );
    }

    static async Task<Results<Ok<ProposalAnswer>, ProblemHttpResult>> Job(Inquiry inquiry, int job)
    {
        var row = await inquiry.Db.Jobs.FirstOrDefaultAsync(j => j.SiteId == inquiry.Site.Id && j.Id == job);
        if (row?.Trail is null)
            return Problems.Of(Problems.NotFound("job", job.ToString()));
        var numbers = await Numbers.Load(inquiry, [(row.BatchId, row.UnitId)]);
        return TypedResults.Ok(Answer(inquiry, CardOf(inquiry, row, numbers), row.Trail, row.TargetBinId, row.ItemId));
    }

    static async Task<Results<Ok<ProposalAnswer>, ProblemHttpResult>> Propose(Inquiry inquiry, long balance)
    {
        var (waiting, _) = await WaitingStock.Read(inquiry.Db, inquiry.SetUp, inquiry.Site.Id);
        var found = waiting.FirstOrDefault(w => w.Row.Id == balance);
        if (found.Row is null)
            return Problems.Of(new Refusal(HouseRefusals.NotFound, "Nothing waits there any more.", "Look at the queue."));
        var numbers = await Numbers.Load(inquiry, [(found.Row.BatchId, found.Row.UnitId)]);
        var goods = Store.GoodsFrom(
            inquiry.SetUp,
            found.Row.BinId,
            found.Row.ItemId,
            found.Row.BatchId,
            found.Row.UnitId,
            inquiry.Standings[found.Row.Standing],
            found.Free
        );
        var trail = PutAway.Propose(
            goods,
            await Store.For(inquiry),
            await BinRefusals.Today(inquiry.Db, inquiry.Site, inquiry.Now, found.Row.ItemId, found.Row.BatchId)
        );
        return TypedResults.Ok(
            Answer(
                inquiry,
                CardOf(inquiry, found.Row, found.Free, numbers, ""),
                trail,
                trail.Shares.Count > 0 ? trail.Shares[0].BinId : null,
                found.Row.ItemId
            )
        );
    }

    static ProposalAnswer Answer(Inquiry inquiry, JobCard card, Proposal trail, int? binId, int itemId)
    {
        var bin = binId is { } id ? inquiry.SetUp.Bins[id] : null;
        return new ProposalAnswer(
            card with
            {
                To = bin?.Address,
            },
            trail,
            bin?.Address,
            bin?.Zone ?? "",
            bin?.Aisle ?? "",
            bin?.Bay ?? 0,
            bin?.Level ?? 0,
            // A labelled unit is told from the others by its own label only.
            card.Sscc
                is { } own
                ? [own]
                :
                [
                    .. new[] { card.Serial, card.Batch }.OfType<string>(),
                    .. Core.Site.Catalogue.Codes(inquiry.SetUp.Catalogue[itemId]).Select(c => c.Code),
                ]
        );
    }

    static JobCard CardOf(Inquiry inquiry, StockLine row, decimal free, Numbers numbers, string why)
    {
        var item = inquiry.SetUp.Catalogue[row.ItemId];
        return new JobCard(
            row.Id,
            null,
            item.Name,
            numbers.Batch(row.BatchId),
            numbers.Sscc(row.UnitId),
            row.Serial,
            inquiry.Standings[row.Standing].Seen,
            free,
            item.UnitWord,
            Quantities.InPacks(free, item),
            free * item.Mass,
            inquiry.SetUp.Address(row.BinId),
            null,
            null,
            false,
            inquiry.Local(row.Since),
            why
        );
    }

    static JobCard CardOf(Inquiry inquiry, PutAwayJob job, Numbers numbers)
    {
        var item = inquiry.SetUp.Catalogue[job.ItemId];
        var mine = job.PersonId == inquiry.Person.Id;
        return new JobCard(
            null,
            job.Id,
            item.Name,
            numbers.Batch(job.BatchId),
            numbers.Sscc(job.UnitId),
            job.Serial,
            inquiry.Standings[job.Standing].Seen,
            job.Quantity,
            item.UnitWord,
            Quantities.InPacks(job.Quantity, item),
            job.Quantity * item.Mass,
            inquiry.SetUp.Address(job.FromBinId),
            inquiry.SetUp.Address(job.TargetBinId),
            job.PersonName,
            mine,
            inquiry.Local(job.TakenAt),
            mine ? "You have taken it." : $"{job.PersonName} has taken it, {inquiry.Local(job.TakenAt):HH:mm}.",
            job.GoodsScannedAt is not null
        );
    }

    /// <summary>Numbers of batches and units, loaded for a list at once.</summary>
    sealed class Numbers(Dictionary<int, string> batches, Dictionary<int, string> units)
    {
        public string? Batch(int? id) => id is { } i ? batches.GetValueOrDefault(i) : null;

        public string? Sscc(int? id) => id is { } i ? units.GetValueOrDefault(i) : null;

        public static async Task<Numbers> Load(Inquiry inquiry, List<(int? Batch, int? Unit)> ids)
        {
            var batchIds = ids.Select(i => i.Batch).Distinct().ToList();
            var unitIds = ids.Select(i => i.Unit).Distinct().ToList();
            return new Numbers(
                await inquiry.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id, b => b.Number),
                await inquiry.Db.Units.Where(u => unitIds.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Sscc)
            );
        }
    }
}
