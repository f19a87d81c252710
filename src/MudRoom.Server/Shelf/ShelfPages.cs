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
using MudRoom.Server.Book;

namespace MudRoom.Server.Shelf;

/// <summary>A task: goods that want a place, or that a driver has taken.</summary>
/// <param name="Loaded">True once its goods were scanned, were the right ones, and are on the truck.</param>
public sealed record TaskCard(
    int Task,
    TaskKind Kind,
    TaskState State,
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
    bool Loaded
);

/// <summary>The queue of Shelf.</summary>
public sealed record ShelfQueueAnswer(IReadOnlyList<TaskCard> Tasks, int Drivers);

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
    TaskCard Card,
    Proposal Trail,
    string? Bin,
    string Zone,
    string Aisle,
    int Bay,
    int Level,
    IReadOnlyList<string> Codes
);

/// <summary>The queue of Shelf, the plan of the store, and one task with its trail.</summary>
public static class ShelfPages
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/shelf/queue", Right.See, Queue);
        routes.Ask("/shelf/plan", Right.See, Plan);
        routes.Ask("/shelf/tasks/{task:int}", Right.See, One);
    }

    static async Task<Ok<ShelfQueueAnswer>> Queue(Inquiry inquiry)
    {
        var tasks = await OpenTasks.Read(inquiry.Db, inquiry.Site.Id);
        var numbers = await Numbers.Load(inquiry, [.. tasks.Select(t => (t.BatchId, t.UnitId))]);
        var itemIds = tasks.Where(t => t.State == TaskState.Waiting).Select(t => t.ItemId).ToHashSet();
        var waited = (
            await inquiry
                .Db.LineParts.Where(p => p.SiteId == inquiry.Site.Id && p.WaitingQuantity > p.Received && itemIds.Contains(p.ItemId))
                .Select(p => new
                {
                    p.ItemId,
                    p.WaitingFor,
                    p.WaitingBy,
                })
                .ToListAsync()
        ).OrderBy(p => p.WaitingBy ?? DateTime.MaxValue).ToLookup(p => p.ItemId, p => LinePart.WordsOf(p.WaitingFor, p.WaitingBy));
        var kept = await Reservations.InBins(
            inquiry.Db,
            inquiry.Site.Id,
            [.. tasks.Where(t => t.State == TaskState.Waiting).Select(t => t.AtBinId).Distinct()]
        );
        var cards = tasks.Select(task =>
        {
            var (rank, why) =
                task.State == TaskState.Taken ? Taken(inquiry, task)
                : inquiry.SetUp.Bins[task.AtBinId].CarriedBy == inquiry.Person.Id ? ShelfQueue.OnOwnTruck
                : ShelfQueue.Place(
                    inquiry.Standings[task.Standing],
                    kept[(task.Goods.OfAnyLot, task.At)].FirstOrDefault()?.Kept.Words ?? waited[task.ItemId].FirstOrDefault(),
                    inquiry.Local(task.Since),
                    inquiry.Local(inquiry.Now)
                );
            return (Rank: rank, Card: CardOf(inquiry, task, numbers, why));
        });
        return TypedResults.Ok(
            new ShelfQueueAnswer(
                [.. cards.OrderBy(c => c.Rank).ThenBy(c => c.Card.Since).Select(c => c.Card)],
                tasks.Select(t => t.PersonId).OfType<int>().Distinct().Count()
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
                    .. store
                        .Where(b => b.Bin.Function != BinFunction.Truck)
                        .Select(b => new PlanBin(
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

    /// <summary>A task that is taken with the trail of its bin; one that waits with what would be proposed now.</summary>
    static async Task<Results<Ok<ProposalAnswer>, ProblemHttpResult>> One(Inquiry inquiry, int task)
    {
        var row = await inquiry.Db.Tasks.FirstOrDefaultAsync(t => t.SiteId == inquiry.Site.Id && t.Id == task);
        if (row is null)
            return Problems.Of(new Refusal(HouseRefusals.NotFound, "Nothing waits there any more.", "Look at the queue."));
        var numbers = await Numbers.Load(inquiry, [(row.BatchId, row.UnitId)]);
        var trail = row.Trail
            ?? PutAway.Propose(
                Store.GoodsFrom(inquiry.SetUp, row, inquiry.Standings, row.Quantity),
                await Store.For(inquiry),
                await BinRefusals.Today(inquiry.Db, inquiry.Site, inquiry.Now, row.ItemId, row.BatchId)
            );
        return TypedResults.Ok(
            Answer(
                inquiry,
                CardOf(inquiry, row, numbers, row.PersonId is null ? "" : Taken(inquiry, row).Why),
                trail,
                row.TargetBinId ?? (trail.Shares.Count > 0 ? trail.Shares[0].BinId : null),
                row.ItemId
            )
        );
    }

    static (int Rank, string Why) Taken(Inquiry inquiry, StoreTask task) =>
        ShelfQueue.Taken(task, inquiry.Person.Id, inquiry.Local(task.TakenAt!.Value));

    static ProposalAnswer Answer(Inquiry inquiry, TaskCard card, Proposal trail, int? binId, int itemId)
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

    static TaskCard CardOf(Inquiry inquiry, StoreTask task, Numbers numbers, string why)
    {
        var item = inquiry.SetUp.Catalogue[task.ItemId];
        return new TaskCard(
            task.Id,
            task.Kind,
            task.State,
            item.Name,
            numbers.Batch(task.BatchId),
            numbers.Sscc(task.UnitId),
            task.Serial,
            inquiry.Standings[task.Standing].Seen,
            task.Quantity,
            item.UnitWord,
            Quantities.InPacks(task.Quantity, item),
            task.Quantity * item.Mass,
            inquiry.SetUp.Address(task.AtBinId),
            inquiry.SetUp.Address(task.TargetBinId) is { Length: > 0 } to ? to : null,
            task.PersonName,
            task.PersonId == inquiry.Person.Id,
            inquiry.Local(task.TakenAt ?? task.Since),
            why,
            task.IsLoaded
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
