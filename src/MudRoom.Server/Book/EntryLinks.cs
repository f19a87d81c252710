using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>A thing that an entry is about, as a screen links it: papers to their page, goods and places to what the book knows of
/// them.</summary>
/// <param name="Text">By which it is found in Book: its number, address, SSCC.</param>
public sealed record EntryLink(ReferenceKind Kind, string Text);

/// <summary>Names what entries are about.</summary>
static class EntryLinks
{
    /// <summary>By entry: its papers, then goods, then places. Who and on what stands in the entry itself.</summary>
    public static async Task<ILookup<long, EntryLink>> Of(Inquiry inquiry, IReadOnlyList<LedgerEntry> entries)
    {
        var about = entries.SelectMany(e => References.Of(e, _ => null).Select(r => (e.Seq, r.Kind, r.Id))).ToList();
        List<int> Ids(ReferenceKind kind) => [.. about.Where(r => r.Kind == kind).Select(r => Number(r.Id)).Distinct()];
        var (batchIds, sourceIds, unitIds) = (Ids(ReferenceKind.Batch), Ids(ReferenceKind.SourceBatch), Ids(ReferenceKind.Unit));
        var batches = await inquiry.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id, b => b.Number);
        var sources = await inquiry.Db.SourceBatches.Where(b => sourceIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id, b => b.Number);
        var units = await inquiry.Db.Units.Where(u => unitIds.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Sscc);
        string? Text(ReferenceKind kind, string id) =>
            kind switch
            {
                ReferenceKind.Person or ReferenceKind.Device => null,
                ReferenceKind.Item => inquiry.SetUp.Catalogue[Number(id)].Code,
                ReferenceKind.Batch => batches.GetValueOrDefault(Number(id)),
                ReferenceKind.SourceBatch => sources.GetValueOrDefault(Number(id)),
                ReferenceKind.Lot => $"lot {id}",
                ReferenceKind.Unit => units.GetValueOrDefault(Number(id)),
                ReferenceKind.Bin => inquiry.SetUp.Bins.GetValueOrDefault(Number(id))?.Address,
                ReferenceKind.Vendor => inquiry.SetUp.Vendors.GetValueOrDefault(Number(id))?.Name,
                ReferenceKind.Order
                or ReferenceKind.Arrival
                or ReferenceKind.Receipt
                or ReferenceKind.Serial
                or ReferenceKind.Hold
                or ReferenceKind.Inspection
                or ReferenceKind.VendorReturn
                or ReferenceKind.OutworkNote
                or ReferenceKind.Demand
                or ReferenceKind.Plan
                or ReferenceKind.HoldRule
                or ReferenceKind.Recall
                or ReferenceKind.File => id,
                _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
            };
        return about
            .OrderBy(r => Order(r.Kind))
            .Select(r => (r.Seq, r.Kind, Text: Text(r.Kind, r.Id)))
            .Where(r => r.Text is not null)
            .ToLookup(r => r.Seq, r => new EntryLink(r.Kind, r.Text!));
    }

    static int Number(string id) => int.Parse(id, CultureInfo.InvariantCulture);

    static int Order(ReferenceKind kind) =>
        kind switch
        {
            ReferenceKind.Item or ReferenceKind.Batch or ReferenceKind.SourceBatch => 1,
            ReferenceKind.Lot or ReferenceKind.Unit or ReferenceKind.Serial => 2,
            ReferenceKind.Bin => 3,
            _ => 0,
        };
}
