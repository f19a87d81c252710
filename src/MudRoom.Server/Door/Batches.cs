using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>Finds or makes the batches of a count.</summary>
public static class Batches
{
    static readonly Func<MudRoomDb, int, int, string, SourceBatch?> sourceByNumber = EF.CompileQuery(
        (MudRoomDb db, int item, int vendor, string number) =>
            db.SourceBatches.FirstOrDefault(b => b.ItemId == item && b.VendorId == vendor && b.Number == number)
    );

    static readonly Func<MudRoomDb, int, string, IEnumerable<SourceBatch>> sourcesByNumber = EF.CompileQuery(
        (MudRoomDb db, int item, string number) => db.SourceBatches.Where(b => b.ItemId == item && b.Number == number).Take(2)
    );

    static readonly Func<MudRoomDb, int, string, Batch?> batchByNumber = EF.CompileQuery(
        (MudRoomDb db, int item, string number) =>
            db.Batches.Include(b => b.SourceBatch).FirstOrDefault(b => b.ItemId == item && b.Number == number)
    );

    static readonly Func<MudRoomDb, int, Batch?> latestOfSource = EF.CompileQuery(
        (MudRoomDb db, int source) => db.Batches.Where(b => b.SourceBatchId == source).OrderByDescending(b => b.Id).FirstOrDefault()
    );

    /// <summary>The number the item's rule proposes for the next own batch.</summary>
    public static string Propose(MudRoomDb db, Item item, string vendor, DateOnly today)
    {
        var around = BatchRules.Around(item, today, vendor);
        var taken = db.Batches.Count(b => b.ItemId == item.Id && b.Number.StartsWith(around.Start) && b.Number.EndsWith(around.End));
        return BatchRules.Next(around, taken, number => batchByNumber(db, item.Id, number) is not null);
    }

    /// <summary>The own batch that today's goods of a source batch are in already, or null.</summary>
    public static string? Existing(MudRoomDb db, Item item, Vendor vendor, string sourceNumber, DateOnly today) =>
        sourceByNumber(db, item.Id, vendor.Id, sourceNumber) is { } source
        && latestOfSource(db, source.Id) is { } batch
        && BatchRules.IsOf(batch.Number, BatchRules.Around(item, today, vendor.Code))
            ? batch.Number
            : null;

    /// <summary>True when the source batch came before.</summary>
    public static bool IsKnown(MudRoomDb db, Item item, int vendorId, string? number) =>
        number is not null && sourceByNumber(db, item.Id, vendorId, number) is not null;

    /// <summary>Whose goods a customer sends back: of the own batch they are labelled with, or of the only source batch of that number
    /// that the house knows; where it knows neither, the customer's own. So they stay what they were, and a recall finds them.</summary>
    /// <returns>The vendor of their batch, and the count with its source batch.</returns>
    public static (int VendorId, Count Count) AsKnown(MudRoomDb db, Count count, int customer)
    {
        var said = count.SourceBatchNumber.OrNull();
        if (count.BatchNumber.OrNull() is { } own && batchByNumber(db, count.Item.Id, own)?.SourceBatch is { } of)
            return (of.VendorId, said is null ? count with { SourceBatchNumber = of.Number } : count);
        return said is not null && sourcesByNumber(db, count.Item.Id, said).ToList() is [{ } only]
            ? (only.VendorId, count)
            : (customer, count);
    }

    /// <summary>What is doubtful in the batch a label names, before anything is counted: a known source batch with another date or origin,
    /// or one that seems to have swallowed what follows it.</summary>
    public static Refusal? Doubt(MudRoomDb db, Item item, int vendorId, ElementString? read, DateOnly today)
    {
        if (read?.Batch is not { } number)
            return null;
        if (sourceByNumber(db, item.Id, vendorId, number) is { } source)
        {
            var dates = new DatesOfGoods(read.Production, read.BestBefore?.LastDay, read.Expiry?.LastDay, false, null);
            return BatchRules.Contradiction(
                source,
                dates,
                read.Origin is { } origin ? Countries.ByNumber(origin) : null,
                new Dictionary<string, string>()
            );
        }

        return SwallowedIdentifiers.Suspect(read, today) is { } suspect
            ? new Refusal(DoorRefusals.BatchSwallows, suspect.Words, "Look at what is printed below the bars, and say which it is.")
            : null;
    }

    /// <summary>The batch of a count; null for items without one. New ones are saved, for their ids go into the ledger.</summary>
    public static async Task<Outcome<Batch?>> For(Act act, Count count, CountDecision decision, int vendorId)
    {
        var item = count.Item;
        if (!item.NeedsBatch)
            return (Batch?)null;
        var sourceNumber = count.SourceBatchNumber.OrNull();
        var source = sourceNumber is null ? null : sourceByNumber(act.Db, item.Id, vendorId, sourceNumber);
        if (source is not null && BatchRules.Contradiction(source, decision.Dates, decision.Origin, count.Attributes) is { } clash)
            return clash;
        var vendor = act.SetUp.Vendors[vendorId];
        var number = count.BatchNumber.OrNull()
            ?? (sourceNumber is null ? null : Existing(act.Db, item, vendor, sourceNumber, act.Today))
            ?? Propose(act.Db, item, vendor.Code, act.Today);
        if (number.Length > BatchRules.MostCharacters)
            return new Refusal(DoorRefusals.BatchLong, $"{number} has more than 20 characters.", "Shorten it: a label carries 20.");
        var batch = batchByNumber(act.Db, item.Id, number);
        if (batch is not null)
        {
            if (BatchRules.MayJoin(batch, vendorId, sourceNumber))
                return batch;
            // What was proposed to two devices belongs to the one that uses it first.
            if (!count.BatchProposed)
                return new Refusal(
                    DoorRefusals.BatchInUse,
                    $"Batch {number} holds "
                        + (
                            batch.SourceBatch is { } holds
                                ? $"source batch {holds.Number} of {act.SetUp.Vendors[holds.VendorId].Name}."
                                : "goods of no source batch."
                        ),
                    "Use another batch number: one batch holds one source batch of one vendor."
                );
            number = Propose(act.Db, item, vendor.Code, act.Today);
        }

        if (source is null && sourceNumber is not null)
        {
            source = new SourceBatch
            {
                ItemId = item.Id,
                VendorId = vendorId,
                Number = sourceNumber,
                Production = decision.Dates.Production?.Date,
                ProductionMonthOnly = decision.Dates.Production?.MonthOnly ?? false,
                BestBefore = decision.Dates.BestBefore,
                Expiry = decision.Dates.Expiry,
                DateWorkedOut = decision.Dates.WorkedOut,
                Origin = decision.Origin?.Code,
                Attributes = new Dictionary<string, string>(count.Attributes),
            };
        }

        batch = new Batch
        {
            ItemId = item.Id,
            Number = number,
            SourceBatch = source,
            Expiry = decision.Dates.Ruling(item),
        };
        act.Db.Batches.Add(batch);
        await act.Db.SaveChangesAsync();
        return batch;
    }
}
