using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
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
        if (hold is null)
            return Problems.NotFound("hold", request.Hold);
        var lifted = hold.Lift(act.Now, act.Person.Name, request.Note, act.Site.LocalTime);
        if (lifted.Refused(out var refusal))
            return refusal;
        var item = act.SetUp.Catalogue[hold.ItemId];
        var to = await AfterHolding(act, hold, item, lifted.Value);
        if (to.Refused(out var noBench))
            return noBench;
        var moved = await SpokenFor.Restand(
            act,
            SpokenFor.By(hold),
            lifted.Value,
            Standing.Held,
            to.Value,
            EntryKind.HoldLifted,
            hold.Number,
            $"{hold.Number} lifted"
        );
        if (moved != lifted.Value)
            return NotAllThere(moved, item);
        act.Write(
            EntryKind.HoldLifted,
            hold.Number,
            $"{hold.Number} lifted by {act.Person.Name}{(string.IsNullOrWhiteSpace(request.Note) ? "" : ": " + request.Note.Trim())}"
        );
        act.Touch("cage", "shelf", "house");
        return new DoneAnswer($"{Quantities.Show(moved)} {item.UnitWord} of {item.Name} are {Standings.Word(to.Value)}.");
    }

    public static async Task<Outcome<DoneAnswer>> Decide(Act act, DecideRequest request)
    {
        var hold = await Load(act, request.Hold);
        if (hold is null)
            return Problems.NotFound("hold", request.Hold);
        if (!Enum.IsDefined(request.Decision))
            return new Refusal(CageRefusals.ChoiceUnknown, "That is no decision.", "Choose one from the list.");
        var item = act.SetUp.Catalogue[hold.ItemId];
        var quantity = Quantities.Read(request.Quantity, act.Site.Door.DecimalComma);
        if (quantity.Refused(out var badNumber))
            return badNumber;
        if (Quantities.Check(quantity.Value, item) is { } badQuantity)
            return badQuantity;
        if (request.Note.OrNull() is not { Length: <= 500 } note)
            return new Refusal(HouseRefusals.NoteMissing, "A decision wants a sentence of at most 500 characters.", "Say why.");
        var standing = hold.Reason == HoldReason.Nonconforming ? Standing.Rejected : Standing.Held;
        if (await PromisedFromHere(act, hold, standing) is { } promised)
            return promised;
        var decided = hold.Decide(request.Decision, quantity.Value, act.Now, act.Person.Name, act.Site.LocalTime);
        if (decided.Refused(out var refusal))
            return refusal;

        var sentence = $"{hold.Number}: {Word(request.Decision)}, {note}";
        act.Touch("cage", "shelf", "house");
        if (decided.Value)
            return await StaysByItsTimes(act, hold, item, quantity.Value, sentence);
        decimal moved;
        if (request.Decision == DecisionKind.ReleaseUnderConcession)
        {
            // A concession settles what was found wrong at the bench; goods that nobody has inspected yet still go there.
            var to = hold.Reason == HoldReason.Nonconforming ? Standing.Usable : await AfterHolding(act, hold, item, quantity.Value);
            if (to.Refused(out var noBench))
                return noBench;
            moved = await SpokenFor.Restand(
                act,
                SpokenFor.By(hold),
                quantity.Value,
                standing,
                to.Value,
                EntryKind.Decided,
                hold.Number,
                sentence
            );
        }
        else
        {
            moved = await SpokenFor.SendOut(
                act,
                SpokenFor.By(hold),
                quantity.Value,
                standing,
                request.Decision == DecisionKind.Scrap ? Account.Scrap : Account.Vendor,
                EntryKind.Decided,
                hold.Number,
                sentence
            );
        }

        if (moved != quantity.Value)
            return NotAllThere(moved, item);
        return new DoneAnswer(
            $"{Quantities.Show(moved)} {item.UnitWord} of {item.Name}: {Word(request.Decision)}. {Quantities.Show(hold.Quantity)} "
                + $"stay held."
        );
    }

    /// <summary>Released from why they were set aside, and still held by the times that run.</summary>
    static async Task<Outcome<DoneAnswer>> StaysByItsTimes(Act act, Hold hold, Item item, decimal quantity, string sentence)
    {
        var rest = new Hold
        {
            Number = await act.Number("H"),
            SiteId = hold.SiteId,
            ItemId = hold.ItemId,
            BatchId = hold.BatchId,
            Reason = HoldReason.Rule,
            Sentence = hold.Times.Count > 0 ? string.Join("; ", hold.Times.Select(t => t.Rule)) : hold.Sentence,
            Since = hold.Since,
            Until = hold.Until,
            Times = hold.Times,
            ArrivalId = hold.ArrivalId,
            InspectionId = hold.InspectionId,
            CameFromId = hold.CountsOf,
            LaidBy = "rule",
        };
        if (rest.Grow(quantity, act.Site.LocalTime) is { } full)
            return full;
        act.Db.Holds.Add(rest);
        act.Write(EntryKind.Decided, hold.Number, sentence);
        act.Write(
            EntryKind.HoldLaid,
            rest.Number,
            $"{rest.Number} keeps {Quantities.Show(quantity)} {item.UnitWord} of {item.Name} from {hold.Number} until "
                + $"{act.Site.LocalTime(rest.Until!.Value):yyyy-MM-dd HH:mm}."
        );
        return new DoneAnswer(
            $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name} are released from why they were set aside. They stay held "
                + $"by {rest.Number} until {act.Site.LocalTime(rest.Until!.Value):yyyy-MM-dd HH:mm}."
        );
    }

    static Refusal NotAllThere(decimal moved, Item item) =>
        new(
            HouseRefusals.NotAllThere,
            $"Only {Quantities.Show(moved)} {item.UnitWord} of it were found on the site.",
            "Count the places of the hold."
        );

    static Task<Hold?> Load(Act act, string number) => act.Db.Holds.FirstOrDefaultAsync(h => h.SiteId == act.Site.Id && h.Number == number);

    static async Task<Refusal?> PromisedFromHere(Act act, Hold hold, Standing standing)
    {
        var job = await act.Db.Jobs.FirstOrDefaultAsync(j =>
            j.SiteId == act.Site.Id
            && j.State == Core.Shelf.JobState.Taken
            && j.ItemId == hold.ItemId
            && j.BatchId == hold.BatchId
            && j.Standing == standing
        );
        return job is null
            ? null
            : new Refusal(CageRefusals.OnTheMove, $"{job.PersonName} is moving these goods right now.", "Wait until they are put down.");
    }

    /// <summary>Goods of an item that is inspected are not usable by leaving their hold alone: they wait at the bench for their
    /// inspection.</summary>
    static async Task<Outcome<Standing>> AfterHolding(Act act, Hold hold, Item item, decimal quantity)
    {
        if (item.InspectionPlanId is null || hold.ArrivalId is not { } arrivalId)
            return Standing.Usable;
        var counts = hold.CountsOf;
        var vendorId = await act.Db.TallyEntries.Where(e => e.HoldId == counts).Select(e => (int?)e.VendorId).FirstOrDefaultAsync();
        if (vendorId is null)
            return Standing.Usable;
        var inspection = await Inspections.Waiting(act, arrivalId, item, hold.BatchId, vendorId.Value);
        if (inspection.Grow(quantity) is { } closed)
            return closed;
        act.Touch("bench");
        return Standing.ToInspect;
    }

    static string Word(DecisionKind decision) =>
        decision switch
        {
            DecisionKind.ReleaseUnderConcession => "released under concession",
            DecisionKind.ReturnToVendor => "returned to vendor",
            DecisionKind.Scrap => "scrapped",
            _ => throw new ArgumentOutOfRangeException(nameof(decision), decision, null),
        };
}
