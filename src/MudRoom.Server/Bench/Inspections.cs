using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Bench;

/// <summary>Goods that come to the bench together.</summary>
public sealed record ComesToBench(int? ArrivalId, Item Item, int? BatchId, int? VendorId, InspectionTrigger Trigger);

/// <summary>Finds or makes the inspections that goods wait for.</summary>
public static class Inspections
{
    /// <summary>Who sent the goods of a sheet, in words.</summary>
    public static string Sender(SetUp setUp, Inspection sheet) =>
        sheet.VendorId is { } vendor ? setUp.Vendors[vendor].Name : "an unknown sender";

    /// <summary>Why who acts may not inspect by the plan of a sheet; null where they may.</summary>
    public static Refusal? Unqualified(Act act, Inspection sheet)
    {
        var plan = act.SetUp.Plans[sheet.PlanId];
        var version = sheet.PlanVersion > 0 ? plan[sheet.PlanVersion] : plan.InForce(act.Now);
        return version?.Content.Lacks(act.Person, act.Today);
    }

    /// <summary>Who sent the source batch that a batch holds; null where nobody knows.</summary>
    public static Task<int?> SenderOf(MudRoomDb db, int? batchId) =>
        db.Batches.Where(b => b.Id == batchId).Select(b => (int?)b.SourceBatch!.VendorId).FirstOrDefaultAsync();

    /// <summary>How many items and rules name a plan.</summary>
    public static int GoBy(SetUp setUp, int planId) =>
        setUp.Catalogue.Items.Count(i => i.InspectionPlanId == planId) + setUp.InspectionRules.Count(r => r.PlanId == planId);

    /// <summary>How goods of an order come to the bench.</summary>
    public static InspectionTrigger TriggerOf(OrderKind kind, bool asks) =>
        kind switch
        {
            OrderKind.Transfer => InspectionTrigger.Transfer,
            OrderKind.CustomerReturn => InspectionTrigger.Return,
            _ when asks => InspectionTrigger.OrderLine,
            _ => InspectionTrigger.Receipt,
        };

    /// <summary>How a lot came.</summary>
    public static async Task<InspectionTrigger> TriggerOf(MudRoomDb db, Lot lot) =>
        lot.Origin == LotOrigin.Outwork ? InspectionTrigger.Outwork
        : lot.ArrivalId is null ? InspectionTrigger.Receipt
        : await db
            .ManifestLines.Where(m => m.ArrivalId == lot.ArrivalId && m.Part!.ItemId == lot.ItemId && m.Part.VendorId == lot.VendorId)
            .Select(m => new { m.Part!.Line!.Order!.Kind, m.Part.Line.AsksInspection })
            .FirstOrDefaultAsync()
            is { } line
            ? TriggerOf(line.Kind, line.AsksInspection)
        : InspectionTrigger.Receipt;

    /// <summary>The inspections of one batch of one arrival and vendor whose samples are not drawn yet, one for each plan; new ones where
    /// there are none.</summary>
    public static async Task<IReadOnlyList<Inspection>> Waiting(Act act, ComesToBench goods, IReadOnlyList<PlanChosen> plans)
    {
        if (plans.Count == 0)
            return [];
        var there = await act
            .Db.Inspections.Where(i =>
                i.SiteId == act.Site.Id
                && i.ArrivalId == goods.ArrivalId
                && i.ItemId == goods.Item.Id
                && i.BatchId == goods.BatchId
                && i.VendorId == goods.VendorId
                && i.Trigger == goods.Trigger
                && (i.State == InspectionState.Waiting || i.State == InspectionState.Skipped)
                && i.AskedBy == null
            )
            .ToListAsync();
        var inspections = new List<Inspection>(plans.Count);
        foreach (var plan in plans)
        {
            var inspection = there.Find(i => i.PlanId == plan.PlanId) ?? await OpenByRule(act, goods, plan);
            if (inspection.State == InspectionState.Waiting)
                inspections.Add(inspection);
        }

        return inspections;
    }

    /// <summary>Opens it, and draws whether the lot is looked at where its plan skips lots.</summary>
    static async Task<Inspection> OpenByRule(Act act, ComesToBench goods, PlanChosen plan)
    {
        var inspection = await Open(act, goods, plan.PlanId, plan.Rule?.Id);
        if (
            act.SetUp.Plans[plan.PlanId].InForce(act.Now)?.Content.SkipLot is not { } skip
            || goods.Trigger != InspectionTrigger.Receipt
            || goods.VendorId is not { } vendor
        )
            return inspection;
        var past = await Severities.Of(act.Db, act.Site.Id, goods.Item.Id, vendor, plan.PlanId, act.Site.LocalTime);
        var sharpest =
            past.IsStopped is not null || past.Stands.Values.Any(s => s.Severity == Severity.Tightened)
                ? Severity.Tightened
                : Severity.Normal;
        inspection.Skip(skip, [.. past.Outcomes.Select(o => o.Classes.All(c => c.IsAccepted))], sharpest, Random.Shared.NextInt64());
        if (inspection.State == InspectionState.Skipped)
            act.Write(
                new LotSkipped(inspection.Number, inspection.SkipWhy!, inspection.SkipSeed!.Value) { About = BenchActs.About(inspection) }
            );
        return inspection;
    }

    /// <summary>True where a plan speaks of the goods of a lot.</summary>
    public static async Task<bool> HasPlan(Act act, Item item, Lot lot) =>
        (await PlansOf(act, item, lot, await TriggerOf(act.Db, lot), lot.VendorId)).Count > 0;

    static async Task<IReadOnlyList<PlanChosen>> PlansOf(Act act, Item item, Lot lot, InspectionTrigger trigger, int? vendor)
    {
        var origin = await act.Db.Batches.Where(b => b.Id == lot.BatchId).Select(b => b.SourceBatch!.Origin).FirstOrDefaultAsync();
        return act.SetUp.PlansFor(new GoodsToInspect(trigger, item, vendor, origin));
    }

    /// <summary>A lot waits at the bench by the plans that its goods go by; where there are none, nothing is said of it.</summary>
    public static async Task<Refusal?> BringToBench(Act act, Item item, Lot lot, InspectionTrigger trigger, int? sender = null)
    {
        var vendor = lot.VendorId ?? sender;
        var plans = await PlansOf(act, item, lot, trigger, vendor);
        var goods = new ComesToBench(lot.ArrivalId, item, lot.BatchId, vendor, trigger);
        foreach (var inspection in await Waiting(act, goods, plans))
        {
            if (inspection.Grow(await Lots.Quantity(act, [lot])) is { } closed)
                return closed;
            await act.Db.SaveChangesAsync();
            Lots.Say(act, lot, inspection);
            act.Touch("bench");
        }

        return null;
    }

    /// <summary>Opens an inspection.</summary>
    /// <param name="because">Why somebody asked for it; null where a rule did.</param>
    public static async Task<Inspection> Open(Act act, ComesToBench goods, int planId, int? ruleId, string? because = null)
    {
        var inspection = new Inspection
        {
            Number = await act.Number("I"),
            SiteId = act.Site.Id,
            ArrivalId = goods.ArrivalId,
            ItemId = goods.Item.Id,
            BatchId = goods.BatchId,
            VendorId = goods.VendorId,
            Trigger = goods.Trigger,
            PlanId = planId,
            RuleId = ruleId,
            LetsUse = because is null && act.SetUp.Plans[planId].InForce(act.Now)?.Content.OnlySampleWaits is true,
            AskedBecause = because,
            AskedBy = because is null ? null : act.Person.Name,
            Since = act.Now,
        };
        act.Db.Inspections.Add(inspection);
        return inspection;
    }
}
