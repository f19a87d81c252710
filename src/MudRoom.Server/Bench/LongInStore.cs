using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Bench;

/// <summary>Looks now which goods have been in store for as long as rules say.</summary>
public sealed record LookInStoreRequest;

/// <summary>Goods that have been in store for as long as a rule says, or as long since they were last accepted, wait for a verdict
/// again.</summary>
public static class LongInStore
{
    public static void Map(SiteRoutes routes) =>
        routes.Act<LookInStoreRequest, DoneAnswer>("/bench/rules/look-in-store", Right.KeepPlans, (act, _) => Look(act));

    public static async Task<Outcome<DoneAnswer>> Look(Act act)
    {
        var rules = act.SetUp.InspectionRules.Where(r => r.AfterDays is not null).ToList();
        var opened = new List<string>();
        if (rules.Count > 0)
            foreach (var (lot, goods, plans) in await Due(act, rules))
            foreach (var plan in plans)
                opened.Add(await Bring(act, lot, goods, plan));
        if (opened.Count > 0)
        {
            await Receipts.Moved(act);
            act.Touch("bench", "cage", "shelf", "book", "house");
        }

        return new DoneAnswer(
            opened.Count == 0 ? "Nothing has been in store for as long as a rule says." : $"To be inspected: {string.Join(", ", opened)}."
        );
    }

    /// <summary>The usable lots whose time is over, each with the plans it goes by.</summary>
    static async Task<List<(Lot Lot, GoodsToInspect Goods, IReadOnlyList<PlanChosen> Plans)>> Due(Act act, List<InspectionRule> rules)
    {
        var items = act.SetUp.Catalogue.Items.Where(i => rules.Exists(r => r.MayFit(i))).Select(i => i.Id).ToList();
        var usable = act.Standings.All.Where(s => s.Kind == StandingKind.Usable).Select(s => s.Standing).ToList();
        var before = act.Now.AddDays(-rules.Min(r => r.AfterDays!.Value));
        var lots = await act
            .Db.Lots.Where(l => l.SiteId == act.Site.Id && items.Contains(l.ItemId) && l.OpenedAt <= before)
            .Where(l => act.Db.Balances.Any(b => b.LotId == l.Id && b.Quantity > 0 && usable.Contains(b.Standing)))
            .OrderBy(l => l.Id)
            .ToListAsync();
        var ids = lots.ConvertAll(l => l.Id);
        var said = (await act.Db.Statements.Where(s => ids.Contains(s.LotId) && s.InspectionId != null).ToListAsync()).ToLookup(s =>
            s.LotId
        );
        var sheetIds = said.SelectMany(s => s).Select(s => s.InspectionId!.Value).Distinct().ToList();
        var sheets = await act.Db.Inspections.AsNoTracking().Where(i => sheetIds.Contains(i.Id)).ToDictionaryAsync(i => i.Id);
        var batches = lots.Select(l => l.BatchId).OfType<int>().Distinct().ToList();
        var origins = await act
            .Db.Batches.Where(b => batches.Contains(b.Id))
            .Select(b => new
            {
                b.Id,
                b.SourceBatch!.Origin,
                b.SourceBatch.VendorId,
            })
            .ToDictionaryAsync(b => b.Id);
        var due = new List<(Lot, GoodsToInspect, IReadOnlyList<PlanChosen>)>();
        foreach (var lot in lots)
        {
            var batch = lot.BatchId is { } id ? origins.GetValueOrDefault(id) : null;
            var goods = new GoodsToInspect(
                InspectionTrigger.Age,
                act.SetUp.Catalogue[lot.ItemId],
                lot.VendorId ?? batch?.VendorId,
                batch?.Origin
            );
            var own = said[lot.Id].Select(s => sheets[s.InspectionId!.Value]).ToList();
            var plans = WhichPlans.Due(goods, rules, lot.OpenedAt, own, act.Now);
            if (plans.Count > 0)
                due.Add((lot, goods, plans));
        }

        return due;
    }

    static async Task<string> Bring(Act act, Lot lot, GoodsToInspect goods, PlanChosen plan)
    {
        var item = goods.Item;
        var quantity = await Lots.Quantity(act, [lot]);
        var inspection = await Inspections.Open(
            act,
            new ComesToBench(lot.ArrivalId, item, lot.BatchId, goods.VendorId, InspectionTrigger.Age),
            plan.PlanId,
            plan.Rule!.Id
        );
        // New, and so open.
        _ = inspection.Grow(quantity);
        await act.Db.SaveChangesAsync();
        Lots.Say(act, lot, inspection);
        var fact = new InspectionAsked(
            inspection.Number,
            Amount.Of(quantity, item),
            act.SetUp.Plans[plan.PlanId].Name,
            $"{plan.Rule.AfterDays} days in store"
        )
        {
            About = [.. Lots.About([lot])],
        };
        act.Write(fact);
        await Lots.Restand(act, [lot], fact);
        return $"{inspection.Number}, {Quantities.Show(quantity)} {item.UnitWord} of {item.Name}";
    }
}

/// <summary>Looks once an hour, at every site.</summary>
public sealed class LongInStoreWatch(SetUpStore setUps, ActRunner acts, Health health, ILogger<LongInStoreWatch> logger)
    : Watchman(health, logger, "goods long in store")
{
    static readonly TimeSpan pause = TimeSpan.FromHours(1);

    protected override async Task Work(CancellationToken stopping)
    {
        while (true)
        {
            var setUp = await setUps.Current();
            if (setUp.InspectionRules.Any(r => r.AfterDays is not null))
                foreach (var site in setUp.Sites.Values)
                    await acts.Run(
                        new ActFrom(site.Code, ActFrom.ByRule, "server", Guid.NewGuid()),
                        "/bench/rules/look-in-store",
                        new LookInStoreRequest(),
                        (act, _) => LongInStore.Look(act)
                    );
            Succeeded();
            await Task.Delay(pause, stopping);
        }
    }
}
