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
public sealed record DecideRequest(string Hold, DecisionKind Decision, string Quantity, string? Note);

/// <summary>What was decided over a hold has happened.</summary>
/// <param name="Note">A remark: the haulier, the skip, who worked on them.</param>
/// <param name="Witness">Who saw it, by name; only scrapping wants one.</param>
/// <param name="WitnessPassword">Their password.</param>
public sealed record CarryOutRequest(string Hold, string? Note, string? Witness = null, string? WitnessPassword = null);

/// <summary>Takes back what was decided over a hold and has not happened yet.</summary>
public sealed record UndecideRequest(string Hold, string Why);

/// <summary>Decisions over nonconforming goods. What is decided is one thing and that it happens another: between them the goods are held,
/// and stand in the books where they stand in the house.</summary>
public static class Decisions
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<DecideRequest, DoneAnswer>("/cage/decide", Right.Decide, Decide);
        routes.Act<CarryOutRequest, DoneAnswer>("/cage/carry-out", Right.Decide, CarryOut, WitnessIsNotThem);
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
        var by = new Hand(act.Person.Id, act.Person.Name);
        if (await PromisedFromHere(act, hold) is { } promised)
            return promised;
        var rejectedBy = hold.OrderLineId is null ? null : await ReturnedGoods.RejectedBy(act.Db, hold);
        var decided = hold.Decide(request.Decision, quantity.Value, note, act.Now, by, act.Site.LocalTime, rejectedBy);
        if (decided.Refused(out var refusal))
            return refusal;

        act.Touch("cage", "bench", "shelf", "house");
        if (decided.Value is AfterDecision.Waits waits)
            return await IsToBeDone(act, hold, item, quantity.Value, waits.For);
        var decision = new Decided(hold.Number, request.Decision, note) { About = await Return(act, hold) };
        var lots = await Lots.Part(act, await LotReads.Under(act.Db, hold), quantity.Value, hold.Number);
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
        return new DoneAnswer($"{Upper(Decided.Word(request.Decision))}: {await CageActs.Now(act, item, lots, now)} {stays}");
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

        var made = new DecisionMade(under.Number, decision.Kind, Amount.Of(quantity, item), decision.Note, of)
        {
            About = [Reference.Hold(hold.Number), .. Lots.About(lots), .. await Return(act, hold)],
        };
        act.Write(made);
        await Lots.AskOf(act, under, lots);
        await Lots.Restand(act, lots, made);
        await Receipts.Moved(act);
        return new DoneAnswer(
            $"{under.Number}: {Quantities.Show(quantity)} {item.UnitWord} of {item.Name} are {decision.ToBe}. They are held until that "
                + "has happened."
        );
    }

    public static async Task<Outcome<DoneAnswer>> CarryOut(Act act, CarryOutRequest request)
    {
        if (await CageActs.Load(act, request.Hold) is not { } hold)
            return Problems.NotFound("hold", request.Hold);
        if (request.Note is { Length: > 200 })
            return new Refusal(HouseRefusals.NoteMissing, "A remark has at most 200 characters.", "Say it shorter.");
        if (await PromisedFromHere(act, hold) is { } promised)
            return promised;
        var item = act.SetUp.Catalogue[hold.ItemId];
        var (lots, quantity, decision) = (await LotReads.Under(act.Db, hold), hold.Quantity, hold.Decision);
        var isLookedAt = lots.Count > 0;
        foreach (var lot in lots)
            isLookedAt &= await Inspections.HasPlan(act, item, lot);
        // What something else is said of does not go to a customer.
        if (
            decision?.Kind == DecisionKind.BackToCustomer
            && await Lots.MayNot(act, lots, Lets.Ship, "go to a customer", but: hold) is { } kept
        )
            return kept;
        var witness = Named(act, request.Witness);
        var done = hold.CarryOut(
            act.Now,
            new Hand(act.Person.Id, act.Person.Name),
            witness is null ? null : new Hand(witness.Id, witness.Name),
            isLookedAt,
            act.Site.LocalTime
        );
        if (done.Refused(out var refusal))
            return refusal;
        act.Touch("cage", "shelf", "bench", "house");
        string?[] remarks =
        [
            decision!.Note,
            request.Note.OrNull(),
            decision.Kind == DecisionKind.Scrap ? $"seen by {witness!.Name}" : null,
        ];
        var back = await Return(act, hold);
        var fact = new Decided(hold.Number, decision.Kind, string.Join("; ", remarks.OfType<string>())) { About = back };
        var goods = $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name}";
        switch (done.Value)
        {
            case AfterDecision.Leave leaves:
                await Lots.Settle(act, hold, lots);
                var sent = await Lots.SendOut(act, lots, leaves.To, fact);
                if (sent.Refused(out var notYet))
                    return notYet;
                await Receipts.Moved(act);
                return new DoneAnswer($"{goods}: {Decided.Word(decision.Kind)}.");
            case AfterDecision.LookedAtAgain:
                if (hold.IsOpen)
                    await Lots.AskOf(act, hold, lots);
                else
                    await Lots.Settle(act, hold, lots);
                foreach (var lot in lots)
                    if (await Inspections.BringToBench(act, item, lot, await Inspections.TriggerOf(act.Db, lot)) is { } closed)
                        return closed;
                act.Write(fact with { About = [.. Lots.About(lots), .. back] });
                var now = await Lots.Restand(act, lots, fact);
                await Receipts.Moved(act);
                return new DoneAnswer($"{Upper(Decided.Word(decision.Kind))}: {await CageActs.Now(act, item, lots, now)}");
            case AfterDecision.DecidedAgain:
                act.Write(fact with { About = [.. Lots.About(lots), .. back] });
                await Lots.AskOf(act, hold, lots);
                await Lots.Restand(act, lots, fact);
                var next = back.Count > 0 ? "have them looked at against the customer's reason again" : "decide over them again";
                return new DoneAnswer($"{goods}: {Decided.Word(decision.Kind)}. No plan of inspection speaks of them: {next}.");
            default:
                throw new InvalidOperationException($"{done.Value} does not follow from carrying out.");
        }
    }

    public static async Task<Outcome<DoneAnswer>> Undecide(Act act, UndecideRequest request)
    {
        if (await CageActs.Load(act, request.Hold) is not { } hold)
            return Problems.NotFound("hold", request.Hold);
        if (request.Why.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
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

    static async Task<Refusal?> WitnessIsNotThem(Inquiry inquiry, CarryOutRequest request) =>
        request.Witness.OrNull() is null ? null : await Signatures.IsNotTheirs(inquiry, request.Witness, request.WitnessPassword ?? "");

    /// <summary>Somebody who works at the site, by name or sign-in name; null where nobody is called so.</summary>
    static Person? Named(Act act, string? name) =>
        name.OrNull() is { } who ? act.SetUp.People.Values.FirstOrDefault(p => Signatures.IsCalled(p, who)) : null;

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
    static async Task<IReadOnlyList<Reference>> Return(Act act, Hold hold) =>
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
