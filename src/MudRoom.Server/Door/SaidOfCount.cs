using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Book;
using MudRoom.Server.Cage;

namespace MudRoom.Server.Door;

/// <summary>What is said of goods as they are counted, by all that have a say: rules of holds, recalls, plans of the bench, the return that
/// they came back on. What speaks of them has grown by them.</summary>
/// <param name="Decision">What was decided, with the standing that all of it asks.</param>
/// <param name="Place">Where they are received for it.</param>
/// <param name="Own">The hold of rules, or of goods counted aside; null where there is none.</param>
/// <param name="AtBench">The inspections that wait for them, or pass them unseen.</param>
/// <param name="Held">It, and those of recalls.</param>
/// <param name="Bound">By line part, the hold of the return it is a line of.</param>
public sealed record SaidOfCount(
    CountDecision Decision,
    Bin Place,
    Batch? Batch,
    IReadOnlyList<Recall> Recalls,
    IReadOnlyList<Inspection> AtBench,
    Hold? Own,
    IReadOnlyList<Hold> Held,
    IReadOnlyDictionary<int, Hold> Bound
)
{
    /// <summary>The holds on what is counted on a line part, or on none.</summary>
    public IReadOnlyList<Hold> HoldsOn(int? part) => part is { } on && Bound.TryGetValue(on, out var back) ? [.. Held, back] : Held;

    /// <summary>What rules of holds lay on what is counted.</summary>
    public static HoldConditions ByRule(Act act, CountCommand command, Arrival arrival, List<ManifestLine> lines)
    {
        if (act.SetUp.HoldRules.Count == 0)
            return HoldConditions.None;
        var count = command.Count;
        List<int> vendors = command.OnlyVendor is { } only ? [only] : [.. lines.Select(l => l.Part!.VendorId).Distinct()];
        // Goods on no line are of whoever else sent something with them.
        if (vendors.Count == 0 && act.SetUp.HoldRules.Any(r => r.VendorId is not null))
            vendors = [.. act.Db.ManifestLines.Where(m => m.ArrivalId == arrival.Id).Select(m => m.Part!.VendorId).Distinct()];
        return HoldRule.ConditionsFor(
            act.SetUp.HoldRules,
            new GoodsToHold(
                count.Item,
                vendors,
                Countries.Find(count.Origin ?? "")?.Code,
                count.SourceBatchNumber.OrNull(),
                act.Today,
                [.. lines.Where(l => vendors.Contains(l.Part!.VendorId)).Select(l => l.Part!.LineId)]
            ),
            new HoldStarts(act.Now, arrival.GateInAt ?? arrival.AtDoorAt, count.Production?.LastDay),
            act.Site,
            act.PlanSettings.Works
        );
    }

    /// <summary>How goods that go on a line come to the bench.</summary>
    public static InspectionTrigger Comes(List<ManifestLine> lines, int? part) =>
        lines.Find(l => l.PartId == part)?.Part!.Line is { } line
            ? Inspections.TriggerOf(line.Order!.Kind, line.AsksInspection)
            : InspectionTrigger.Receipt;

    /// <summary>Asks all that have a say.</summary>
    /// <param name="laid">What rules of holds lay on it.</param>
    /// <returns>Refused where no place takes what it is, or what speaks of it takes no more.</returns>
    public static async Task<Outcome<SaidOfCount>> Find(
        Act act,
        CountCommand command,
        Arrival arrival,
        List<ManifestLine> lines,
        CountOutcome decided,
        HoldConditions laid
    )
    {
        var (count, decision, place) = (decided.Count, decided.Decision, decided.Place);
        var item = count.Item;
        var (maker, known) = ReturnedGoods.AreOn(lines, decision.Choice.Shares)
            ? Batches.AsKnown(act.Db, count, decided.Vendor)
            : (decided.Vendor, count);
        var found = await Batches.For(act, known, decision, maker);
        if (found.Refused(out var badBatch))
            return badBatch;
        var batch = found.Value;
        var recalls = RecalledLots.Catching(act.SetUp, RecalledLots.Known(item.Id, maker, arrival.Id, batch, count.Serial));
        var asked = new StandingAtCount(act.Standings, decision.Standing, recalls.Count > 0);
        var comes = Comes(lines, decision.Choice.Shares[0].PartId);
        var inspections = asked.AsksBench
            ? await Inspections.Waiting(
                act,
                new ComesToBench(arrival.Id, item, batch?.Id, decided.Vendor, comes),
                act.SetUp.PlansFor(new GoodsToInspect(comes, item, decided.Vendor, decision.Origin?.Code))
            )
            : [];
        var bound = await ReturnedGoods.Bind(act, arrival, item, batch, lines, decision.Choice.Shares);
        var standing = asked.With(inspections.Select(i => i.Asks), bound.Count > 0);
        if (standing != decision.Standing)
        {
            var received = PlaceFor(act, command, arrival, standing);
            if (received.Refused(out var nowhere))
                return nowhere;
            (decision, place) = (decision with { Standing = standing }, received.Value);
        }

        // Every rule that catches them lays its conditions, whatever else is said of them.
        var why = count.Aside is not null ? HoldReason.CountedAside : HoldReason.Rule;
        var hold = decided.HeldFor is { } words ? await Holds.For(act, arrival, item, batch, why, words, laid) : null;
        var holds = new List<Hold>();
        if (hold is not null)
            holds.Add(hold);
        foreach (var recall in recalls)
            holds.Add(await RecalledLots.HoldFor(act, recall, item, batch?.Id));
        foreach (var each in holds)
            if (each.Grow(count.Quantity, act.Site.LocalTime) is { } lifted)
                return lifted;
        foreach (var inspection in inspections)
            if (inspection.Grow(count.Quantity) is { } drawn)
                return drawn;
        if (holds.Concat(bound.Values).Any(h => h.Id == 0) || inspections.Any(i => i.Id == 0))
            await act.Db.SaveChangesAsync();
        return new SaidOfCount(decision, place, batch, recalls, inspections, hold, holds, bound);
    }

    /// <summary>Where goods are received that are something else than the count alone would say.</summary>
    static Outcome<Bin> PlaceFor(Act act, CountCommand command, Arrival arrival, Standing standing) =>
        ReceivingPlace.By(
            act.Site,
            act.DoorSettings,
            act.Standings[standing],
            act.SetUp.StagingOf(act.SetUp.Doors[arrival.DoorId!.Value]),
            act.SetUp.BinsOfSite[act.Site.Id],
            command.Place
        );
}
