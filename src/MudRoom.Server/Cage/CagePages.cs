using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>A hold with its conditions.</summary>
/// <param name="Besides">What else is said of its goods: other holds and inspections, by their numbers.</param>
/// <param name="Asks">The standing it asks for.</param>
public sealed record HoldCard(
    string Number,
    string Item,
    string? Batch,
    string? SourceBatch,
    decimal Quantity,
    string Unit,
    string InPacks,
    HoldReason Reason,
    string Sentence,
    DateTime Since,
    DateTime? Until,
    string LaidBy,
    IReadOnlyList<ChainLink> Links,
    IReadOnlyList<string> Places,
    string Why,
    string? Arrival,
    string? Inspection,
    bool IsOpen,
    DateTime? LiftedAt,
    string? LiftedBy,
    string? LiftedNote,
    bool CanLift,
    bool CanDecide,
    IReadOnlyList<string> Besides,
    StandingSeen Asks
);

/// <summary>The holds of a site.</summary>
public sealed record CageAnswer(IReadOnlyList<HoldCard> Holds, DateTime Now);

/// <summary>The queue of Cage.</summary>
public static class CagePages
{
    public static void Map(SiteRoutes routes) => routes.Ask("/cage/holds", Right.See, Holds);

    static async Task<Ok<CageAnswer>> Holds(Inquiry inquiry)
    {
        var weekAgo = inquiry.Now.AddDays(-7);
        var rows = await inquiry
            .Db.Holds.Where(h => h.SiteId == inquiry.Site.Id && (h.IsOpen || h.LiftedAt > weekAgo))
            .OrderBy(h => h.Since)
            .Take(300)
            .ToListAsync();
        var batchIds = rows.Select(h => h.BatchId).ToList();
        var batches = await inquiry.Db.Batches.Include(b => b.SourceBatch).Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        var holdIds = rows.Select(h => h.Id).ToList();
        var places = (
            await inquiry
                .Db.Statements.Where(s => holdIds.Contains(s.HoldId!.Value) && s.SettledAt == null)
                .Join(
                    inquiry.Db.Balances,
                    s => s.LotId,
                    b => b.LotId,
                    (s, b) =>
                        new
                        {
                            Hold = s.HoldId!.Value,
                            s.LotId,
                            b.BinId,
                            b.Quantity,
                        }
                )
                .ToListAsync()
        ).ToLookup(p => p.Hold);
        var besides = await Besides(inquiry, holdIds);
        var arrivalIds = rows.Select(h => h.ArrivalId).ToList();
        var arrivals = await inquiry
            .Db.Arrivals.Where(a => arrivalIds.Contains(a.Id))
            .Select(a => new { a.Id, a.Number })
            .ToDictionaryAsync(a => a.Id, a => a.Number);
        var inspectionIds = rows.Select(h => h.InspectionId).ToList();
        var inspections = await inquiry
            .Db.Inspections.Where(i => inspectionIds.Contains(i.Id))
            .Select(i => new { i.Id, i.Number })
            .ToDictionaryAsync(i => i.Id, i => i.Number);
        var cards = rows.Select(h =>
        {
            var item = inquiry.SetUp.Catalogue[h.ItemId];
            var batch = h.BatchId is { } id ? batches[id] : null;
            var (rank, why) = CageQueue.Place(h, inquiry.Now);
            return (
                rank,
                card: new HoldCard(
                    h.Number,
                    item.Name,
                    batch?.Number,
                    batch?.SourceBatch?.Number,
                    h.Quantity,
                    item.UnitWord,
                    Quantities.InPacks(h.Quantity, item),
                    h.Reason,
                    h.Sentence,
                    inquiry.Local(h.Since),
                    h.Until is { } u ? inquiry.Local(u) : null,
                    h.LaidBy,
                    h.Links(inquiry.Now, inquiry.Local),
                    [
                        .. places[h.Id]
                            .GroupBy(p => p.BinId)
                            .Select(g => $"{inquiry.SetUp.Address(g.Key)} {Quantities.Show(g.Sum(p => p.Quantity))}"),
                    ],
                    why,
                    h.ArrivalId is { } a ? arrivals.GetValueOrDefault(a) : null,
                    h.InspectionId is { } i ? inspections.GetValueOrDefault(i) : null,
                    h.IsOpen,
                    h.LiftedAt is { } l ? inquiry.Local(l) : null,
                    h.LiftedBy,
                    h.LiftedNote,
                    h.IsOpen && inquiry.May(Right.LiftHold) && h.Reason != HoldReason.Nonconforming,
                    h.IsOpen && inquiry.May(Right.Decide) && h.MayBeDecided,
                    [.. besides[h.Id]],
                    inquiry.Standings[h.Asks].Seen
                )
            );
        });
        return TypedResults.Ok(
            new CageAnswer([.. cards.OrderBy(c => c.rank).ThenBy(c => c.card.Since).Select(c => c.card)], inquiry.Local(inquiry.Now))
        );
    }

    /// <summary>By hold, the other holds and the inspections that speak for some of its goods.</summary>
    static async Task<ILookup<int, string>> Besides(Inquiry inquiry, List<int> holdIds)
    {
        var lots = await inquiry
            .Db.Statements.Where(s => holdIds.Contains(s.HoldId!.Value) && s.SettledAt == null)
            .Select(s => new { Hold = s.HoldId!.Value, s.LotId })
            .ToListAsync();
        var said = await Said.OfLots(inquiry.Db, [.. lots.Select(l => l.LotId).Distinct()]);
        return lots.SelectMany(l => said[l.LotId].Where(s => s.HoldId != l.Hold).Select(s => (l.Hold, s.Number)))
            .Distinct()
            .OrderBy(x => x.Number, StringComparer.Ordinal)
            .ToLookup(x => x.Hold, x => x.Number);
    }
}
