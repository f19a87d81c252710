using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>A condition of a hold that people meet.</summary>
/// <param name="May">True where who asks may meet it.</param>
/// <param name="MayOpen">True where it was met and who asks may take that back.</param>
public sealed record ConditionView(
    int Id,
    ConditionKind Kind,
    string Words,
    PaperKind? Paper,
    string? PaperWord,
    bool IsMet,
    int? PaperId,
    bool May,
    bool MayOpen
);

/// <summary>A hold with its conditions.</summary>
/// <param name="Besides">What else is said of its goods: other holds and inspections, by their numbers.</param>
/// <param name="Asks">The standing it asks for.</param>
/// <param name="Due">When the first of its conditions that are open should be met.</param>
/// <param name="Recall">The recall that laid it; null for others.</param>
/// <param name="Return">The customer's return that it binds its goods to; null for others.</param>
/// <param name="Choices">What may be decided over its goods.</param>
/// <param name="TwoDecide">True where two people decide over all of them.</param>
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
    StandingSeen Asks,
    IReadOnlyList<ConditionView> Conditions,
    bool IsReady,
    bool IsOverdue,
    DateTime? Due,
    DecisionView? Decision,
    string? Recall,
    string? Return,
    IReadOnlyList<DecisionKind> Choices,
    bool TwoDecide
);

/// <summary>What was decided over all of a hold and has still to happen.</summary>
/// <param name="ToBe">"to be scrapped"; of a regrade with the item.</param>
/// <param name="Note">Why, with all that belongs to it.</param>
/// <param name="WantsWitness">True where somebody else must have seen it.</param>
/// <param name="UsableUntil">The end of a concession; null for others.</param>
/// <param name="MayTakeBack">True where who asks may take it back, or end the concession.</param>
/// <param name="Value">Of the goods, at the last price of an order; null where none is known, and for who may not see prices.</param>
public sealed record DecisionView(
    DecisionKind Kind,
    string ToBe,
    string By,
    DateTime At,
    string Note,
    bool WantsWitness,
    bool MayCarryOut,
    bool MayTakeBack,
    DateTime? UsableUntil,
    decimal? Value
)
{
    /// <summary>Of a hold; null where nothing has still to happen.</summary>
    public static DecisionView? Of(Inquiry inquiry, Hold hold) =>
        hold is { IsOpen: true, Decision: { } d }
            ? new DecisionView(
                d.Kind,
                d.ToBe + (d.IntoItemId is { } into ? $" to {inquiry.SetUp.Catalogue[into].Name}" : ""),
                d.By.Name,
                inquiry.Local(d.At),
                d.Reasons,
                d.Kind == DecisionKind.Scrap,
                inquiry.May(Right.Decide) && !hold.IsUnderConcession,
                inquiry.May(Right.Decide),
                hold.UsableUntil is { } until ? inquiry.Local(until) : null,
                inquiry.May(Right.SeePrices) ? d.ValueOf(hold.Quantity) : null
            )
            : null;
}

/// <summary>The holds of a site.</summary>
/// <param name="NotShown">So many more are open, behind those that are shown.</param>
public sealed record CageAnswer(IReadOnlyList<HoldCard> Holds, CageFigures Figures, int NotShown, DateTime Now);

/// <summary>The queue of Cage.</summary>
public static class CagePages
{
    const int MostShown = 200;
    const int MostLifted = 50;

    public static void Map(SiteRoutes routes) => routes.Ask("/cage/holds", Right.See, Holds);

    static async Task<Ok<CageAnswer>> Holds(Inquiry inquiry)
    {
        var open = await inquiry
            .Db.Holds.Where(h => h.SiteId == inquiry.Site.Id && h.IsOpen)
            .OrderBy(h => h.Since)
            .AsNoTracking()
            .ToListAsync();
        var accepted = await Conditions.Acceptances(inquiry.Db, open);
        AcceptedBy? By(Hold hold) => accepted.GetValueOrDefault(hold.Id);
        var weekAgo = inquiry.Now.AddDays(-7);
        var lifted = await inquiry
            .Db.Holds.Where(h => h.SiteId == inquiry.Site.Id && !h.IsOpen && h.LiftedAt > weekAgo)
            .OrderByDescending(h => h.LiftedAt)
            .Take(MostLifted)
            .AsNoTracking()
            .ToListAsync();
        List<Hold> rows = [.. open.OrderBy(h => CageQueue.Place(h, inquiry.Now, By(h)).Rank).Take(MostShown), .. lifted];
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
        var recallIds = rows.Select(h => h.RecallId).OfType<int>().Distinct().ToList();
        var recalls = await inquiry
            .Db.Recalls.Where(r => recallIds.Contains(r.Id))
            .Select(r => new { r.Id, r.Number })
            .ToDictionaryAsync(r => r.Id, r => r.Number);
        var returns = await ReturnedGoods.Orders(inquiry.Db, rows);
        var prices = await Prices.Last(inquiry.Db, [.. open.Concat(rows).Select(h => h.ItemId).Distinct()]);
        var cards = rows.Select(h =>
        {
            var item = inquiry.SetUp.Catalogue[h.ItemId];
            var batch = h.BatchId is { } id ? batches[id] : null;
            var by = By(h);
            var (rank, why) = CageQueue.Place(h, inquiry.Now, by);
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
                    h.Links(inquiry.Now, inquiry.Local, by),
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
                    h.IsOpen && inquiry.May(Right.LiftHold) && h.IsLifted && h.Decision is null,
                    h.IsOpen && inquiry.May(Right.Decide) && h.MayBeDecided && h.Decision is null,
                    [.. besides[h.Id]],
                    inquiry.Standings[h.Asks].Seen,
                    [.. h.Besides.Where(c => c.Wants.Kind != ConditionKind.Acceptance).Select(c => ViewOf(inquiry, h, c))],
                    h.IsReady(inquiry.Now, by),
                    h.Overdue(inquiry.Now, by) is not null,
                    h.Unmet(by).Min(c => c.Due) is { } due ? inquiry.Local(due) : null,
                    DecisionView.Of(inquiry, h),
                    h.RecallId is { } called ? recalls[called] : null,
                    h.OrderLineId is { } line ? returns[line] : null,
                    HoldDecision.Choices(h.Reason),
                    inquiry.CageSettings.WantsSecond(h.Quantity * prices.GetValueOrDefault(h.ItemId))
                )
            );
        });
        return TypedResults.Ok(
            new CageAnswer(
                [.. cards.OrderBy(c => c.rank).ThenBy(c => c.card.Since).Select(c => c.card)],
                Figures(inquiry, open, By, prices),
                Math.Max(0, open.Count - MostShown),
                inquiry.Local(inquiry.Now)
            )
        );
    }

    static CageFigures Figures(Inquiry inquiry, List<Hold> open, Func<Hold, AcceptedBy?> by, IReadOnlyDictionary<int, decimal?> prices)
    {
        var seesPrices = inquiry.May(Right.SeePrices);
        return CageFigures.Of(
            [
                // Under a concession nothing is blocked.
                .. open.Where(h => !h.IsUnderConcession)
                    .Select(h => new HoldBlocks(
                        CageQueue.WaitsFor(h, inquiry.Now, by(h)),
                        h.Overdue(inquiry.Now, by(h)) is not null,
                        h.Since,
                        h.Quantity * inquiry.SetUp.Catalogue[h.ItemId].Volume,
                        h.Quantity * prices.GetValueOrDefault(h.ItemId),
                        h.ReasonWord
                    )),
            ],
            seesPrices,
            inquiry.Now
        );
    }

    static ConditionView ViewOf(Inquiry inquiry, Hold hold, HoldCondition condition) =>
        new(
            condition.Id,
            condition.Wants.Kind,
            condition.Wants.Words,
            condition.Wants.Paper,
            condition.Wants.Paper?.Word(),
            condition.Met is not null,
            condition.Met?.Paper,
            hold.IsOpen && condition.Met is null && inquiry.May(condition.Wants.Of),
            hold.IsOpen && condition.Met is { } met && (met.PersonId == inquiry.Person.Id || inquiry.May(Right.LiftHold))
        );

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
