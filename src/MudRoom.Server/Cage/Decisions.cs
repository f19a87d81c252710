using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Cage;

/// <summary>Decides over part or all of what a hold holds.</summary>
/// <param name="Note">Why.</param>
/// <param name="AskedBy">Who asked for a concession.</param>
/// <param name="ForWhom">The order, job or use that it is given for.</param>
/// <param name="Until">The last day of a concession; null for one over the quantity alone.</param>
/// <param name="Into">The item that the goods are to be of, by code or name; only for a regrade.</param>
/// <param name="Second">Who else decides, by name, where one person is not enough.</param>
/// <param name="SecondPassword">Their password.</param>
public sealed record DecideRequest(
    string Hold,
    DecisionKind Decision,
    string Quantity,
    string? Note,
    string? AskedBy = null,
    string? ForWhom = null,
    DateOnly? Until = null,
    string? Into = null,
    string? Second = null,
    string? SecondPassword = null
);

/// <summary>Takes back what was decided over a hold and has not happened yet.</summary>
public sealed record UndecideRequest(string Hold, string Why);

/// <summary>Decisions over nonconforming goods. What is decided is one thing and that it happens another: between them the goods are held,
/// and stand in the books where they stand in the house.</summary>
public static class Decisions
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<DecideRequest, DoneAnswer>("/cage/decide", Right.Decide, Decide, SecondIsNotThem);
        routes.Act<UndecideRequest, DoneAnswer>("/cage/undecide", Right.Decide, Undecide);
    }

    public static async Task<Outcome<DoneAnswer>> Decide(Act act, DecideRequest request)
    {
        var hold = await CageActs.Load(act, request.Hold);
        if (hold is null)
            return Problems.NotFound("hold", request.Hold);
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
        var read = await Read(act, request, hold, item, quantity.Value, note);
        if (read.Refused(out var absurd))
            return absurd;
        var said = read.Value;
        var rejectedBy = hold.OrderLineId is null ? null : await ReturnedGoods.RejectedBy(act.Db, hold);
        var decided = hold.Decide(said, quantity.Value, act.Site.LocalTime, rejectedBy);
        if (decided.Refused(out var refusal))
            return refusal;
        if (act.CageSettings.Second(said.ValueOf(quantity.Value), said.By, Signed(act, request.Second)) is { } alone)
            return alone;

        act.Touch("cage", "bench", "shelf", "house");
        if (decided.Value is AfterDecision.Waits waits)
            return await IsToBeDone(act, hold, item, quantity.Value, waits.For);
        var decision = new Decided(hold.Number, request.Decision, said.Reasons) { About = await Return(act, hold) };
        var lots = await Lots.Part(act, await LotReads.Under(act.Db, hold), quantity.Value, hold.Number);
        await DecisionMessage.Tell(act, hold.Number, item, lots, quantity.Value, said, act.Person.Name);
        await Lots.Settle(act, hold, lots);
        if (decided.Value is AfterDecision.HeldOn)
            return await StaysByItsConditions(act, hold, item, lots, quantity.Value, decision);
        var stays = hold.IsOpen
            ? $"{Quantities.Show(hold.Quantity)} {item.UnitWord} stay in {hold.Number}."
            : $"{hold.Number} holds nothing any more.";
        if (await CageActs.ToBench(act, item, lots) is { } noBench)
            return noBench;
        var now = await Lots.Restand(act, lots, decision);
        await Receipts.Moved(act);
        return new DoneAnswer($"{Upper(Decided.Word(request.Decision))}: {await CageActs.Now(act, item, now)} {stays}");
    }

    /// <summary>It is decided and has to happen: a part is held by a hold of its own until then.</summary>
    static async Task<Outcome<DoneAnswer>> IsToBeDone(Act act, Hold hold, Item item, decimal quantity, HoldDecision decision)
    {
        var (under, of) = (hold, (string?)null);
        IReadOnlyList<Lot> lots = await LotReads.Under(act.Db, hold);
        if (hold.Decision is null)
        {
            under = hold.PartDecided(await act.Number("H"), quantity, decision);
            of = hold.Number;
            act.Db.Holds.Add(under);
            lots = await Lots.Part(act, lots, quantity, hold.Number);
            await Lots.Settle(act, hold, lots);
            await act.Db.SaveChangesAsync();
            Lots.Say(act, lots, under);
        }

        var goods = Amount.Of(quantity, item);
        Fact made = decision.Concession is { Until: { } until } given
            ? new ConcessionGiven(under.Number, goods, given.AskedBy, given.ForWhom, until, decision.Note, of)
            : new DecisionMade(under.Number, decision.Kind, goods, decision.Reasons, of);
        made = made with { About = [Reference.Hold(hold.Number), .. Lots.About(lots), .. await Return(act, hold)] };
        act.Write(made);
        await Lots.AskOf(act, under, lots);
        var now = await Lots.Restand(act, lots, made);
        await Receipts.Moved(act);
        if (decision.Concession is not null)
        {
            await DecisionMessage.Tell(act, under.Number, item, lots, quantity, decision, act.Person.Name);
            return new DoneAnswer($"{act.Words(made)} {await CageActs.Now(act, item, now)}");
        }

        return new DoneAnswer(
            $"{under.Number}: {Quantities.Show(quantity)} {item.UnitWord} of {item.Name} are {decision.ToBe}. They are held until that "
                + "has happened."
        );
    }

    public static async Task<Outcome<DoneAnswer>> Undecide(Act act, UndecideRequest request)
    {
        if (await CageActs.Load(act, request.Hold) is not { } hold)
            return Problems.NotFound("hold", request.Hold);
        if (request.Why.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        if (hold.IsUnderConcession)
            return await Concessions.End(act, hold, why);
        var was = hold.Undecide(act.Site.LocalTime);
        if (was.Refused(out var refusal))
            return refusal;
        var lots = await LotReads.Under(act.Db, hold);
        var fact = new DecisionTakenBack(hold.Number, was.Value.Kind, act.Person.Name, why)
        {
            About = [.. Lots.About(lots), .. await Return(act, hold)],
        };
        act.Write(fact);
        await Lots.AskOf(act, hold, lots);
        await Lots.Restand(act, lots, fact);
        act.Touch("cage", "bench", "shelf", "house");
        return new DoneAnswer(act.Words(fact));
    }

    /// <summary>What was decided, with all that belongs to it, as somebody sent it.</summary>
    static async Task<Outcome<HoldDecision>> Read(Act act, DecideRequest request, Hold hold, Item item, decimal quantity, string note)
    {
        var decision = new HoldDecision(request.Decision, new Hand(act.Person.Id, act.Person.Name), act.Now, note)
        {
            Second = Signed(act, request.Second)?.Hand,
            Price = (await Prices.Last(act.Db, [item.Id])).GetValueOrDefault(item.Id),
        };
        switch (request.Decision)
        {
            case DecisionKind.ReleaseUnderConcession:
                var until = request.Until is { } day ? act.Site.Days(day, day).End : (DateTimeOffset?)null;
                if (until is not null && await NobodyInspected(act, hold, item) is { } unseen)
                    return unseen;
                return decision with { Concession = new Concession(request.AskedBy.OrNull() ?? "", request.ForWhom.OrNull() ?? "", until) };
            case DecisionKind.Regrade:
                var named = NamedGoods.Read(act.SetUp, request.Into, null, null, null);
                if (named.Refused(out var unknown))
                    return unknown;
                var into = named.Value.Item;
                return Regrade.Fault(item, into, quantity, hold.BatchId is not null) is { } wrong
                    ? wrong
                    : decision with
                    {
                        IntoItemId = into!.Id,
                    };
            default:
                return decision;
        }
    }

    /// <summary>Goods that a plan speaks of and nobody has inspected go to the bench when they are released, so they are not released until
    /// a day only.</summary>
    static async Task<Refusal?> NobodyInspected(Act act, Hold hold, Item item)
    {
        var lots = await LotReads.Under(act.Db, hold);
        var ids = lots.Select(l => l.Id).ToList();
        var seen = (
            await act.Db.Statements.Where(s => ids.Contains(s.LotId) && s.InspectionId != null).Select(s => s.LotId).ToListAsync()
        ).ToHashSet();
        foreach (var lot in lots.Where(l => l.ArrivalId is not null && !seen.Contains(l.Id)))
            if (await Inspections.HasPlan(act, item, lot))
                return new Refusal(
                    CageRefusals.InspectFirst,
                    $"Nobody has inspected all of {hold.Number} yet: they are not released until a day.",
                    "Release them without an end; they go to the bench then."
                );
        return null;
    }

    static async Task<Refusal?> SecondIsNotThem(Inquiry inquiry, DecideRequest request) =>
        request.Second.OrNull() is null ? null : await Signatures.IsNotTheirs(inquiry, request.Second, request.SecondPassword ?? "");

    /// <summary>Who signed besides, with their rights; null for nobody.</summary>
    static (Hand Hand, Func<Right, bool> May)? Signed(Act act, string? name) =>
        Named(act, name) is { } person ? (new Hand(person.Id, person.Name), right => Rights.Allow(person.Roles, right)) : null;

    /// <summary>Somebody who works at the site, by name or sign-in name; null where nobody is called so.</summary>
    internal static Person? Named(Act act, string? name) =>
        name.OrNull() is { } who ? act.SetUp.People.Values.FirstOrDefault(p => Signatures.IsCalled(p, who)) : null;

    internal static string Upper(string words) => char.ToUpperInvariant(words[0]) + words[1..];

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
        await Receipts.Moved(act);
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

    /// <summary>The customer's return that a hold binds its goods to, as what entries are about; nothing for other holds.</summary>
    internal static async Task<IReadOnlyList<Reference>> Return(Act act, Hold hold) =>
        await ReturnedGoods.Of(act.Db, hold) is { } of ? [of.Reference] : [];

    internal static async Task<Refusal?> PromisedFromHere(Act act, Hold hold)
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
}
