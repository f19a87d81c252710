using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Book;
using MudRoom.Server.Out;
using MudRoom.Server.Road;

namespace MudRoom.Server.Cage;

/// <summary>Lifts a hold.</summary>
public sealed record LiftRequest(string Hold, string? Note);

/// <summary>Lifts several holds, or none.</summary>
public sealed record LiftManyRequest(IReadOnlyList<string> Holds, string? Note);

/// <summary>Decides over part or all of what a hold holds.</summary>
public sealed record DecideRequest(string Hold, DecisionKind Decision, string Quantity, string? Note);

/// <summary>Acts of Cage.</summary>
public static class CageActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<LiftRequest, DoneAnswer>("/cage/lift", Right.LiftHold, Lift);
        routes.Act<LiftManyRequest, DoneAnswer>("/cage/lift-many", Right.LiftHold, LiftMany);
        routes.Act<DecideRequest, DoneAnswer>("/cage/decide", Right.Decide, Decide);
        routes.Act<HoldGoodsRequest, DoneAnswer>("/cage/hold", Right.LayHold, HandHold.OnStock);
    }

    public static async Task<Outcome<DoneAnswer>> Lift(Act act, LiftRequest request)
    {
        var hold = await Load(act, request.Hold);
        if (hold is null)
            return Problems.NotFound("hold", request.Hold);
        var lots = await LotReads.Under(act.Db, hold);
        var lifted = hold.Lift(
            act.Now,
            new Hand(act.Person.Id, act.Person.Name),
            request.Note,
            act.Site.LocalTime,
            await Conditions.AcceptanceOf(act.Db, hold)
        );
        if (lifted.Refused(out var refusal))
            return refusal;
        var item = act.SetUp.Catalogue[hold.ItemId];
        await Lots.Settle(act, hold, lots);
        if (await ToBench(act, item, lots) is { } noBench)
            return noBench;
        var lift = new HoldLifted(hold.Number, act.Person.Name, request.Note.OrNull()) { About = [.. Lots.About(lots)] };
        var now = await Lots.Restand(act, lots, lift);
        await Receipts.Moved(act);
        act.Write(lift);
        act.Touch("cage", "shelf", "house");
        return new DoneAnswer(await Now(act, item, lots, now));
    }

    /// <summary>Lifts several in one act, each as if alone and each with its entries; where one may not be lifted, none is.</summary>
    public static async Task<Outcome<DoneAnswer>> LiftMany(Act act, LiftManyRequest request)
    {
        var numbers = request.Holds.Distinct(StringComparer.Ordinal).ToList();
        if (numbers.Count is 0 or > MostTogether)
            return new Refusal(HouseRefusals.TooMany, $"One to {MostTogether} holds are lifted together.", "Choose some.");
        foreach (var number in numbers)
            if ((await Lift(act, new LiftRequest(number, request.Note))).Refused(out var refusal))
                return refusal with { Sentence = $"{refusal.Sentence} None of the {numbers.Count} was lifted." };
        return new DoneAnswer($"{numbers.Count} holds are lifted: {string.Join(", ", numbers)}.");
    }

    const int MostTogether = 50;

    /// <summary>What goods are now that one statement less is said of them: usable, or whose word still stands.</summary>
    static async Task<string> Now(Act act, Item item, IReadOnlyList<Lot> lots, IReadOnlyDictionary<Standing, decimal> now)
    {
        var holds = await Lots.Holding(act, lots);
        return string.Join(
            " ",
            now.OrderBy(n => act.Standings.Order(n.Key))
                .Select(n =>
                    $"{Quantities.Show(n.Value)} {item.UnitWord} of {item.Name} are {act.Standings.Word(n.Key)}"
                    + (n.Key != Standing.Usable && holds.Count > 0 ? $" still, by {string.Join(" and ", holds)}." : ".")
                )
        );
    }

    public static async Task<Outcome<DoneAnswer>> Decide(Act act, DecideRequest request)
    {
        var hold = await Load(act, request.Hold);
        if (hold is null)
            return Problems.NotFound("hold", request.Hold);
        if (!Enum.IsDefined(request.Decision))
            return new Refusal(CageRefusals.ChoiceUnknown, "That is no decision.", "Choose one from the list.");
        var item = act.SetUp.Catalogue[hold.ItemId];
        var quantity = Quantities.Read(request.Quantity, act.Site.DecimalComma);
        if (quantity.Refused(out var badNumber))
            return badNumber;
        if (Quantities.Check(quantity.Value, item) is { } badQuantity)
            return badQuantity;
        if (request.Note.OrNull() is not { Length: <= 500 } note)
            return new Refusal(HouseRefusals.NoteMissing, "A decision wants a sentence of at most 500 characters.", "Say why.");
        if (await PromisedFromHere(act, hold) is { } promised)
            return promised;
        var decided = hold.Decide(request.Decision, quantity.Value, act.Now, act.Person.Name, act.Site.LocalTime);
        if (decided.Refused(out var refusal))
            return refusal;

        var decision = new Decided(hold.Number, request.Decision, note);
        act.Touch("cage", "shelf", "house");
        var lots = await Lots.Part(act, await LotReads.Under(act.Db, hold), quantity.Value, hold.Number);
        await Lots.Settle(act, hold, lots);
        if (decided.Value is AfterDecision.HeldOn)
            return await StaysByItsConditions(act, hold, item, lots, quantity.Value, decision);
        var stays = hold.IsOpen
            ? $"{Quantities.Show(hold.Quantity)} {item.UnitWord} stay in {hold.Number}."
            : $"{hold.Number} holds nothing any more.";
        if (decided.Value is not AfterDecision.Leave leaves)
        {
            if (await ToBench(act, item, lots) is { } noBench)
                return noBench;
            var now = await Lots.Restand(act, lots, decision);
            await Receipts.Moved(act);
            return new DoneAnswer($"{Upper(Decided.Word(request.Decision))}: {await Now(act, item, lots, now)} {stays}");
        }

        var sent = await Lots.SendOut(act, lots, leaves.To, decision);
        if (sent.Refused(out var notYet))
            return notYet;
        await Receipts.Moved(act);
        return new DoneAnswer(
            $"{Quantities.Show(quantity.Value)} {item.UnitWord} of {item.Name}: {Decided.Word(request.Decision)}. {stays}"
        );
    }

    static string Upper(string words) => char.ToUpperInvariant(words[0]) + words[1..];

    /// <summary>Released from why they were set aside, and still held by the conditions that are not met.</summary>
    static async Task<Outcome<DoneAnswer>> StaysByItsConditions(
        Act act,
        Hold hold,
        Item item,
        IReadOnlyList<Lot> lots,
        decimal quantity,
        Decided decision
    )
    {
        var rest = hold.ByItsConditions(await act.Number("H"), quantity);
        act.Db.Holds.Add(rest);
        await act.Db.SaveChangesAsync();
        Lots.Say(act, lots, rest);
        act.Write(decision with { About = [.. Lots.About(lots)] });
        await Lots.Restand(act, lots, decision);
        act.Write(
            new HoldKeeps(rest.Number, Amount.Of(quantity, item), hold.Number, rest.Until)
            {
                About = [Reference.Hold(hold.Number), .. Lots.About(lots)],
            }
        );
        return new DoneAnswer(
            $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name} are released from why they were set aside. They stay held "
                + $"by {rest.Number} until "
                + (rest.TimeRuns(act.Now) ? $"{act.Site.LocalTime(rest.Until!.Value):yyyy-MM-dd HH:mm}." : "its conditions are met.")
        );
    }

    /// <summary>A hold of the site by its number.</summary>
    public static Task<Hold?> Load(Act act, string number) =>
        act.Db.Holds.FirstOrDefaultAsync(h => h.SiteId == act.Site.Id && h.Number == number);

    static async Task<Refusal?> PromisedFromHere(Act act, Hold hold)
    {
        var tasks = await act
            .Db.Tasks.Where(j =>
                j.SiteId == act.Site.Id && j.State == Core.Shelf.TaskState.Taken && j.ItemId == hold.ItemId && j.BatchId == hold.BatchId
            )
            .ToListAsync();
        if (tasks.Count == 0)
            return null;
        var stands = await LotReads.Balances(act.Db, [.. (await LotReads.Under(act.Db, hold)).Select(l => l.Id)]);
        var task = tasks.Find(t => stands.Any(b => b.Place == t.At && b.Goods.OfAnyLot == t.Goods));
        return task is null
            ? null
            : new Refusal(CageRefusals.OnTheMove, $"{task.PersonName} is moving these goods right now.", "Wait until they are put down.");
    }

    /// <summary>Goods of an item that is inspected are not usable by leaving their holds alone: what nobody has inspected waits at the
    /// bench, once no hold is left on it.</summary>
    static async Task<Refusal?> ToBench(Act act, Item item, IReadOnlyList<Lot> lots)
    {
        await act.Db.SaveChangesAsync();
        foreach (var lot in lots)
        {
            if (lot.ArrivalId is null || !await Lots.WantsInspection(act, lot))
                continue;
            if (await Inspections.BringToBench(act, item, lot, await Inspections.TriggerOf(act.Db, lot)) is { } closed)
                return closed;
        }

        return null;
    }
}
