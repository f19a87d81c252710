using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Bench;

/// <summary>Asks that goods which stand somewhere are inspected. They are named by one of three.</summary>
/// <param name="Balance">The stock, by its id.</param>
/// <param name="Count">The count that brought them in, by the id of its act.</param>
/// <param name="Task">The task that moves them.</param>
/// <param name="Quantity">How much of it, in base units; null for all.</param>
/// <param name="Plan">By which plan; null for the one that is meant for such goods.</param>
public sealed record AskInspectionRequest(
    string Why,
    long? Balance = null,
    Guid? Count = null,
    int? Task = null,
    string? Quantity = null,
    int? Plan = null
);

/// <summary>Takes a signed sheet back: its goods are inspected again.</summary>
public sealed record SupersedeRequest(string Inspection, string Reason);

/// <summary>An inspection that was asked for by hand is not wanted any more.</summary>
public sealed record WithdrawInspectionRequest(string Inspection, string Reason);

/// <summary>The inspection that was opened.</summary>
public sealed record InspectionOpened(string Number, string Sentence);

/// <summary>Inspections that somebody asks for: of goods that stand anywhere, and in the place of a signed one.</summary>
public static class AskedFor
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<AskInspectionRequest, InspectionOpened>("/bench/ask", Right.AskInspection, Ask);
        routes.Act<WithdrawInspectionRequest, DoneAnswer>("/bench/withdraw", Right.AskInspection, Withdraw);
        routes.Act<SupersedeRequest, InspectionOpened>("/bench/supersede", Right.SignVerdict, Supersede);
    }

    public static async Task<Outcome<InspectionOpened>> Ask(Act act, AskInspectionRequest request)
    {
        if (request.Why.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        var meant = await PartOfStock.Read(act, await Stock(act, request) ?? 0, request.Quantity);
        if (meant.Refused(out var notThere))
            return notThere;
        var (line, item, quantity) = meant.Value;
        var stand = await Lots.Of(act, line);
        var vendor = Same(stand, l => l.VendorId) ?? await Inspections.SenderOf(act.Db, line.BatchId);
        var plans = Plans(act, request.Plan, new GoodsToInspect(InspectionTrigger.ByHand, item, vendor, null));
        if (plans.Refused(out var noPlan))
            return noPlan;
        if (await Waits(act, stand, plans.Value) is { } waits)
            return waits;
        var goods = new ComesToBench(Same(stand, l => l.ArrivalId), item, line.BatchId, vendor, InspectionTrigger.ByHand);
        var opened = new List<(Inspection Inspection, InspectionAsked Fact)>(plans.Value.Count);
        foreach (var plan in plans.Value)
        {
            var inspection = await Inspections.Open(act, goods, plan.PlanId, plan.Rule?.Id, why);
            // New, and so open.
            _ = inspection.Grow(quantity);
            await act.Db.SaveChangesAsync();
            opened.Add(
                (inspection, new InspectionAsked(inspection.Number, Amount.Of(quantity, item), act.SetUp.Plans[plan.PlanId].Name, why))
            );
        }

        var lots = await meant.Value.Part(act, opened[0].Inspection.Number);
        foreach (var (inspection, fact) in opened)
        {
            foreach (var lot in lots)
                Lots.Say(act, lot, inspection);
            act.Write(fact with { About = [.. Lots.About(lots)] });
        }

        await Lots.Restand(act, lots, opened[0].Fact);
        act.Touch("bench", "cage", "shelf", "book", "house");
        return new InspectionOpened(opened[0].Inspection.Number, string.Join(" ", opened.Select(o => act.Words(o.Fact))));
    }

    /// <summary>The stock that is named, by the id of one of its rows; null where there is none.</summary>
    static async Task<long?> Stock(Act act, AskInspectionRequest request)
    {
        if (request.Balance is not null)
            return request.Balance;
        var there = act.Db.Balances.Where(b => b.SiteId == act.Site.Id);
        if (request.Count is { } count)
        {
            var lots = act.Db.TallyEntries.Where(e => e.ActId == count && e.TakenBackAt == null).Select(e => e.LotId);
            there = there.Where(b => lots.Contains(b.LotId));
        }
        else if (await act.Db.Tasks.FirstOrDefaultAsync(t => t.SiteId == act.Site.Id && t.Id == request.Task) is { } task)
            there = there.Of(task.Goods, task.At);
        else
            return null;
        return (await there.OrderBy(b => b.Id).ToListAsync()).Find(b => b.Quantity > 0)?.Id;
    }

    public static async Task<Outcome<DoneAnswer>> Withdraw(Act act, WithdrawInspectionRequest request)
    {
        if (await BenchActs.Load(act, request.Inspection) is not { } inspection)
            return Problems.NotFound("inspection", request.Inspection);
        if (inspection.Withdraw(request.Reason, act.Person.Name, act.Site.LocalTime) is { } refusal)
            return refusal;
        var lots = await LotReads.Under(act.Db, inspection);
        await Lots.SettleInspection(act, inspection.Id, lots);
        var fact = new InspectionWithdrawn(inspection.Number, act.Person.Name, inspection.WithdrawnBecause!)
        {
            About = [.. Lots.About(lots)],
        };
        act.Write(fact);
        await Lots.Restand(act, lots, fact);
        await Receipts.Moved(act);
        act.Touch("bench", "inspection:" + inspection.Number, "cage", "shelf", "book", "house");
        return new DoneAnswer(act.Words(fact));
    }

    public static async Task<Outcome<InspectionOpened>> Supersede(Act act, SupersedeRequest request)
    {
        var inspection = await act.Db.Inspections.FirstOrDefaultAsync(i => i.SiteId == act.Site.Id && i.Number == request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        if (await act.Db.Inspections.FirstOrDefaultAsync(i => i.SupersedesId == inspection.Id) is { } other)
            return new Refusal(
                BenchRefusals.Superseded,
                $"{inspection.Number} was superseded by {other.Number} already.",
                "Open that one."
            );
        var item = act.SetUp.Catalogue[inspection.ItemId];
        var lots = await LotReads.EverUnder(act.Db, inspection);
        var here = await Lots.Quantity(act, lots);
        var again = inspection.SupersededBy(await act.Number("I"), here, request.Reason, act.Person.Name, act.Now);
        if (again.Refused(out var refusal))
            return refusal;
        act.Db.Inspections.Add(again.Value);
        await act.Db.SaveChangesAsync();
        // What its verdict laid goes with it; what was decided since, and what anybody else says, stays said.
        var laid = await act
            .Db.Holds.Where(h => h.InspectionId == inspection.Id && h.IsOpen && h.Reason == HoldReason.Nonconforming)
            .ToListAsync();
        foreach (var hold in laid)
        {
            await Lots.Settle(act, hold, await LotReads.Under(act.Db, hold));
            if (hold.Shrink(hold.Quantity, act.Now, act.Person.Name, act.Site.LocalTime) is { } lifted)
                return lifted;
        }

        foreach (var lot in lots)
            Lots.Say(act, lot, again.Value);
        var fact = new InspectionSuperseded(
            inspection.Number,
            again.Value.Number,
            inspection.Verdict!.Value,
            Amount.Of(here, item),
            here < inspection.Quantity ? Amount.Of(inspection.Quantity - here, item) : null,
            again.Value.AskedBecause!
        )
        {
            About = [Reference.Inspection(again.Value.Number), .. laid.Select(h => Reference.Hold(h.Number)), .. Lots.About(lots)],
        };
        await Lots.Restand(act, lots, fact);
        act.Write(fact);
        await Receipts.Moved(act);
        act.Touch("bench", "inspection:" + inspection.Number, "cage", "shelf", "book", "house");
        return new InspectionOpened(again.Value.Number, act.Words(fact));
    }

    static Outcome<List<PlanChosen>> Plans(Act act, int? typed, GoodsToInspect goods)
    {
        if (typed is { } id)
            return act.SetUp.Plans.TryGetValue(id, out var plan) && plan.InForce(act.Now) is not null
                ? (List<PlanChosen>)[new PlanChosen(id, null)]
                : new Refusal(BenchRefusals.PlanNotInForce, "No version of that plan is in force.", "Choose another.");
        var meant = WhichPlans.ByHand(goods, act.SetUp.InspectionRules);
        return meant.Count > 0
            ? meant.ToList()
            : new Refusal(BenchRefusals.PlanNoneFits, $"No plan is meant for {goods.Item.Name}.", "Choose one from the list.");
    }

    /// <summary>The goods wait already for a verdict by one of these plans.</summary>
    static async Task<Refusal?> Waits(Act act, IReadOnlyList<Lot> lots, IReadOnlyList<PlanChosen> plans)
    {
        var (ids, planIds) = (lots.Select(l => l.Id).ToList(), plans.Select(p => p.PlanId).ToList());
        var there = await act
            .Db.Statements.Where(s => ids.Contains(s.LotId) && s.SettledAt == null && s.InspectionId != null)
            .Join(act.Db.Inspections, s => s.InspectionId, i => i.Id, (s, i) => i)
            .FirstOrDefaultAsync(i => planIds.Contains(i.PlanId));
        return there is null
            ? null
            : new Refusal(BenchRefusals.WaitsAlready, $"They wait for the verdict of {there.Number} already.", "Open that one.");
    }

    static int? Same(IReadOnlyList<Lot> lots, Func<Lot, int?> of) => lots.Select(of).Distinct().ToList() is [var only] ? only : null;
}
