using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Bench;

/// <summary>An inspection in the queue.</summary>
/// <param name="Minutes">That its sheet will still take; null where the size of the lot must be typed first.</param>
/// <param name="Arrival">That the goods came with; null where they did not come through a door.</param>
/// <param name="VendorId">Who sent them; null where nobody knows.</param>
/// <param name="TakenBy">Who has it in hand; null for nobody.</param>
/// <param name="IsMine">True where that is who asks.</param>
/// <param name="SupersededBy">The sheet that counts in its place; null where its verdict stands.</param>
public sealed record InspectionCard(
    string Number,
    string Item,
    string? Batch,
    string Vendor,
    string? Arrival,
    decimal Quantity,
    string Unit,
    string InPacks,
    DateTime Since,
    InspectionState State,
    Verdict? Verdict,
    string Why,
    string? Place,
    int ItemId,
    int? VendorId,
    int? Minutes,
    string? TakenBy,
    bool IsMine,
    string? SupersededBy
);

/// <summary>The queue of Bench.</summary>
/// <param name="Cards">What comes first, and behind it what was signed since yesterday.</param>
/// <param name="Open">How many are open in all.</param>
/// <param name="Minutes">That all of them will still take, as far as that is known.</param>
/// <param name="More">Open ones that are not shown.</param>
public sealed record QueueAnswer(IReadOnlyList<InspectionCard> Cards, int Open, int Minutes, int More);

/// <summary>The queue of Bench: what the bench takes first, and why.</summary>
public static class QueuePages
{
    /// <summary>Open inspections that are put in order; a bench with more has other cares than their order.</summary>
    const int MostRanked = 5_000;

    /// <summary>Shown where nobody asks for more.</summary>
    const int Shown = 60;

    /// <summary>Signed ones that stand behind the open ones.</summary>
    const int Signed = 20;

    public static void Map(SiteRoutes routes) => routes.Ask("/bench/queue", Right.See, Queue);

    static async Task<Ok<QueueAnswer>> Queue(Inquiry inquiry, int? most)
    {
        var dayAgo = inquiry.Now.AddDays(-1);
        var here = inquiry.Db.Inspections.AsNoTracking().Where(i => i.SiteId == inquiry.Site.Id);
        var rows = await here.Open().Where(i => i.Quantity > 0).OrderBy(i => i.Since).Take(MostRanked).ToListAsync();
        var ranked = BenchQueue.InOrder(await Cards(inquiry, rows), c => c.Place).Select(c => c.Card).ToList();
        var shown = ranked.Take(Math.Max(1, most ?? Shown)).ToList();
        var signed = await here.Where(i => i.Quantity > 0 && i.SignedAt > dayAgo)
            .OrderByDescending(i => i.SignedAt)
            .Take(Signed)
            .ToListAsync();
        return TypedResults.Ok(
            new QueueAnswer(
                [.. shown, .. (await Cards(inquiry, signed)).Select(c => c.Card)],
                ranked.Count,
                ranked.Sum(c => c.Minutes ?? 0),
                ranked.Count - shown.Count
            )
        );
    }

    internal static async Task<List<(InspectionCard Card, BenchPlace Place)>> Cards(Inquiry inquiry, List<Inspection> rows)
    {
        var batchIds = rows.Select(i => i.BatchId).ToList();
        var batches = await inquiry.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        var arrivalIds = rows.Select(i => i.ArrivalId).ToList();
        var arrivals = await inquiry
            .Db.Arrivals.Where(a => arrivalIds.Contains(a.Id))
            .Select(a => new { a.Id, a.Number })
            .ToDictionaryAsync(a => a.Id, a => a.Number);
        var itemIds = rows.Select(i => i.ItemId).ToList();
        var waiting = (
            await inquiry
                .Db.LineParts.Where(p => p.SiteId == inquiry.Site.Id && itemIds.Contains(p.ItemId) && p.WaitingQuantity > p.Received)
                .Select(p => new
                {
                    p.ItemId,
                    p.WaitingFor,
                    p.WaitingBy,
                })
                .ToListAsync()
        ).OrderBy(p => p.WaitingBy ?? DateTime.MaxValue).ToLookup(p => p.ItemId);
        var ids = rows.Select(i => i.Id).ToList();
        var kept = await Reservations.OfInspections(inquiry.Db, ids);
        var found = await inquiry
            .Db.Set<Finding>()
            .Where(f => ids.Contains(f.InspectionId))
            .GroupBy(f => f.InspectionId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count);
        var superseded = await inquiry
            .Db.Inspections.Where(i => ids.Contains(i.SupersedesId!.Value))
            .ToDictionaryAsync(i => i.SupersedesId!.Value, i => i.Number);
        var places = (
            await inquiry
                .Db.Statements.Where(s => ids.Contains(s.InspectionId!.Value) && s.SettledAt == null)
                .Join(inquiry.Db.Balances, s => s.LotId, b => b.LotId, (s, b) => new { Inspection = s.InspectionId!.Value, b.BinId })
                .ToListAsync()
        ).ToLookup(p => p.Inspection, p => p.BinId);
        var invoiced = (
            await inquiry
                .Db.Statements.Where(s => ids.Contains(s.InspectionId!.Value) && s.SettledAt == null)
                .Join(inquiry.Db.Lots, s => s.LotId, l => l.Id, (s, l) => new { Inspection = s.InspectionId!.Value, l.ReceiptId })
                .Join(
                    inquiry.Db.Receipts.Where(r => r.InvoicedAt != null),
                    l => l.ReceiptId,
                    r => r.Id,
                    (l, r) => new { l.Inspection, r.Number }
                )
                .ToListAsync()
        ).ToLookup(r => r.Inspection, r => r.Number);
        return
        [
            .. rows.Select(i =>
            {
                var item = inquiry.SetUp.Catalogue[i.ItemId];
                var batch = i.BatchId is { } id ? batches[id] : null;
                // Who waits for these very goods, else who waits for more of the item.
                (string? For, DateTime? By) waits =
                    kept[i.Id].FirstOrDefault() is { } own ? (own.For, own.By)
                    : waiting[i.ItemId].FirstOrDefault() is { } more ? (more.WaitingFor, more.WaitingBy)
                    : default;
                var place = BenchQueue.Place(
                    new InspectionFacts(
                        i.State,
                        inquiry.Local(i.Since),
                        batch?.Expiry,
                        LinePart.WordsOf(waits.For, waits.By),
                        i.SignedBy,
                        places[i.Id]
                            .Where(b => inquiry.SetUp.Bins[b].Function == BinFunction.Staging)
                            .Select(b => inquiry.SetUp.Address(b))
                            .FirstOrDefault(),
                        invoiced[i.Id].FirstOrDefault(),
                        waits.By
                    ),
                    inquiry.Local(inquiry.Now)
                );
                return (
                    new InspectionCard(
                        i.Number,
                        item.Name,
                        batch?.Number,
                        Inspections.Sender(inquiry.SetUp, i),
                        i.ArrivalId is { } arrival ? arrivals[arrival] : null,
                        i.Quantity,
                        item.UnitWord,
                        Quantities.InPacks(i.Quantity, item),
                        inquiry.Local(i.Since),
                        i.State,
                        i.Verdict,
                        place.Why,
                        places[i.Id].Select(b => inquiry.SetUp.Address(b)).FirstOrDefault(),
                        i.ItemId,
                        i.VendorId,
                        inquiry.SetUp.MinutesLeft(i, found.GetValueOrDefault(i.Id), inquiry.Now),
                        i.TakenBy,
                        i.TakenById == inquiry.Person.Id,
                        superseded.GetValueOrDefault(i.Id)
                    ),
                    place
                );
            }),
        ];
    }
}
