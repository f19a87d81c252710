using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Book;
using MudRoom.Server.Road;

namespace MudRoom.Server.Cage;

/// <summary>Lifts a hold.</summary>
public sealed record LiftRequest(string Hold, string? Note);

/// <summary>Decides over part or all of what a hold holds.</summary>
public sealed record DecideRequest(string Hold, DecisionKind Decision, string Quantity, string? Note);

/// <summary>Acts of Cage.</summary>
public static class CageActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<LiftRequest, DoneAnswer>("/cage/lift", Right.LiftHold, Lift);
        routes.Act<DecideRequest, DoneAnswer>("/cage/decide", Right.Decide, Decide);
    }

    public static async Task<Outcome<DoneAnswer>> Lift(Act act, LiftRequest request)
    {
        var hold = await Load(act, request.Hold);
        if (hold is null) return Problems.NotFound("hold", request.Hold);
        var lifted = hold.Lift(act.Now, act.Person.Name, request.Note);
        if (lifted.Refused(out var refusal)) return refusal;
        var item = act.SetUp.Catalogue[hold.ItemId];
        var to = await AfterLifting(act, hold, item, lifted.Value);
        var moved = await SpokenFor.Restand(act, SpokenFor.By(hold), lifted.Value, Standing.Held, to, EntryKind.HoldLifted, hold.Number, $"{hold.Number} lifted");
        act.Write(EntryKind.HoldLifted, hold.Number, $"{hold.Number} lifted by {act.Person.Name}{(string.IsNullOrWhiteSpace(request.Note) ? "" : ": " + request.Note.Trim())}");
        act.Touch("cage", "shelf", "house");
        return new DoneAnswer($"{Quantities.Show(moved)} {item.UnitWord} of {item.Name} are {Standings.Word(to)}.");
    }

    public static async Task<Outcome<DoneAnswer>> Decide(Act act, DecideRequest request)
    {
        var hold = await Load(act, request.Hold);
        if (hold is null) return Problems.NotFound("hold", request.Hold);
        var item = act.SetUp.Catalogue[hold.ItemId];
        var quantity = Quantities.Read(request.Quantity, act.Site.Door.DecimalComma);
        if (quantity.Refused(out var badNumber)) return badNumber;
        if (Quantities.Check(quantity.Value, item) is { } badQuantity) return badQuantity;
        if (string.IsNullOrWhiteSpace(request.Note)) return new Refusal("note-missing", "A decision wants a sentence.", "Say why.");
        var standing = hold.Reason == HoldReason.Nonconforming ? Standing.Rejected : Standing.Held;
        if (await PromisedFromHere(act, hold, standing) is { } promised) return promised;
        if (hold.Shrink(quantity.Value, act.Now, act.Person.Name) is { } refusal) return refusal;

        var sentence = $"{hold.Number}: {Word(request.Decision)}, {request.Note.Trim()}";
        var moved = request.Decision == DecisionKind.ReleaseUnderConcession
            ? await SpokenFor.Restand(act, SpokenFor.By(hold), quantity.Value, standing, Standing.Usable, EntryKind.Decided, hold.Number, sentence)
            : await SpokenFor.SendOut(act, SpokenFor.By(hold), quantity.Value, standing, request.Decision == DecisionKind.Scrap ? Account.Scrap : Account.Vendor, EntryKind.Decided, hold.Number, sentence);
        if (moved != quantity.Value)
            return new Refusal("not-all-there", $"Only {Quantities.Show(moved)} {item.UnitWord} of it were found on the site.", "Count the places of the hold.");
        act.Touch("cage", "shelf", "house");
        return new DoneAnswer($"{Quantities.Show(moved)} {item.UnitWord} of {item.Name}: {Word(request.Decision)}. {Quantities.Show(hold.Quantity)} stay held.");
    }

    static Task<Hold?> Load(Act act, string number) => act.Db.Holds.FirstOrDefaultAsync(h => h.SiteId == act.Site.Id && h.Number == number);

    static async Task<Refusal?> PromisedFromHere(Act act, Hold hold, Standing standing)
    {
        var job = await act.Db.Jobs.FirstOrDefaultAsync(j =>
            j.SiteId == act.Site.Id && j.State == Core.Shelf.JobState.Taken && j.ItemId == hold.ItemId && j.BatchId == hold.BatchId && j.Standing == standing);
        return job is null ? null : new Refusal("on-the-move", $"{job.PersonName} is moving these goods right now.", "Wait until they are put down.");
    }

    /// <summary>Goods of an item that is inspected are not usable by being lifted alone: they wait at the bench for their inspection.</summary>
    static async Task<Standing> AfterLifting(Act act, Hold hold, Core.Site.Item item, decimal quantity)
    {
        if (item.InspectionPlanId is null || hold.ArrivalId is not { } arrivalId) return Standing.Usable;
        var vendorId = await act.Db.TallyEntries.Where(e => e.HoldId == hold.Id).Select(e => (int?)e.VendorId).FirstOrDefaultAsync();
        if (vendorId is null) return Standing.Usable;
        var inspection = await Inspections.Waiting(act, arrivalId, item, hold.BatchId, vendorId.Value);
        inspection.Grow(quantity);
        act.Touch("bench");
        return Standing.ToInspect;
    }

    static string Word(DecisionKind decision) => decision switch
    {
        DecisionKind.ReleaseUnderConcession => "released under concession",
        DecisionKind.ReturnToVendor => "returned to vendor",
        DecisionKind.Scrap => "scrapped",
        _ => throw new ArgumentOutOfRangeException(nameof(decision), decision, null),
    };
}
