using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
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
        var moved = await BenchActs.Restand(act, hold.ItemId, hold.BatchId, lifted.Value, Standing.Held, Standing.Usable, EntryKind.HoldLifted, hold.Number, $"{hold.Number} lifted");
        act.Write(EntryKind.HoldLifted, hold.Number, $"{hold.Number} lifted by {act.Person.Name}{(string.IsNullOrWhiteSpace(request.Note) ? "" : ": " + request.Note.Trim())}");
        act.Touch("cage", "shelf", "house");
        return new DoneAnswer($"{Quantities.Show(moved)} {item.UnitWord} of {item.Name} are usable.");
    }

    public static async Task<Outcome<DoneAnswer>> Decide(Act act, DecideRequest request)
    {
        var hold = await Load(act, request.Hold);
        if (hold is null) return Problems.NotFound("hold", request.Hold);
        var item = act.SetUp.Catalogue[hold.ItemId];
        var quantity = Quantities.Read(request.Quantity);
        if (quantity.Refused(out var badNumber)) return badNumber;
        if (Quantities.Check(quantity.Value, item) is { } badQuantity) return badQuantity;
        if (string.IsNullOrWhiteSpace(request.Note)) return new Refusal("note-missing", "A decision wants a sentence.", "Say why.");
        var standing = hold.Reason == HoldReason.Nonconforming ? Standing.Rejected : Standing.Held;
        if (await PromisedFromHere(act, hold, standing) is { } promised) return promised;
        if (hold.Shrink(quantity.Value, act.Now, act.Person.Name) is { } refusal) return refusal;

        var sentence = $"{hold.Number}: {Word(request.Decision)}, {request.Note.Trim()}";
        var moved = request.Decision == DecisionKind.ReleaseUnderConcession
            ? await BenchActs.Restand(act, hold.ItemId, hold.BatchId, quantity.Value, standing, Standing.Usable, EntryKind.Decided, hold.Number, sentence)
            : await SendOut(act, hold, quantity.Value, standing, request.Decision == DecisionKind.Scrap ? Account.Scrap : Account.Vendor, sentence);
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

    static async Task<decimal> SendOut(Act act, Hold hold, decimal quantity, Standing standing, Account to, string sentence)
    {
        var rows = await act.Db.Balances.Where(b => b.SiteId == act.Site.Id && b.ItemId == hold.ItemId && b.BatchId == hold.BatchId && b.Standing == standing)
            .OrderBy(b => b.Id).ToListAsync();
        var left = quantity;
        foreach (var row in rows)
        {
            if (left == 0) break;
            var takes = Math.Min(left, row.Quantity);
            act.Write(EntryKind.Decided, hold.Number, sentence, new Movement(row.Goods, takes, row.Place, new Place(to)));
            left -= takes;
        }

        return quantity - left;
    }

    static string Word(DecisionKind decision) => decision switch
    {
        DecisionKind.ReleaseUnderConcession => "released under concession",
        DecisionKind.ReturnToVendor => "returned to vendor",
        DecisionKind.Scrap => "scrapped",
        _ => throw new ArgumentOutOfRangeException(nameof(decision), decision, null),
    };
}
