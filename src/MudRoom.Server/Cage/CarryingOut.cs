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

/// <summary>What was decided over a hold has happened.</summary>
/// <param name="Note">A remark: the haulier, the skip, who worked on them.</param>
/// <param name="Witness">Who saw it, by name; only scrapping wants one.</param>
/// <param name="WitnessPassword">Their password.</param>
public sealed record CarryOutRequest(string Hold, string? Note, string? Witness = null, string? WitnessPassword = null);

/// <summary>What was decided happens: goods leave the books when they leave the house, become goods of another item, or were worked
/// on.</summary>
public static class CarryingOut
{
    public static void Map(SiteRoutes routes) =>
        routes.Act<CarryOutRequest, DoneAnswer>("/cage/carry-out", Right.Decide, Run, WitnessIsNotThem);

    public static async Task<Outcome<DoneAnswer>> Run(Act act, CarryOutRequest request)
    {
        if (await CageActs.Load(act, request.Hold) is not { } hold)
            return Problems.NotFound("hold", request.Hold);
        if (request.Note is { Length: > 200 })
            return new Refusal(HouseRefusals.NoteMissing, "A remark has at most 200 characters.", "Say it shorter.");
        if (await Decisions.PromisedFromHere(act, hold) is { } promised)
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
        var witness = Decisions.Named(act, request.Witness);
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
            decision!.Reasons,
            request.Note.OrNull(),
            decision.Kind == DecisionKind.Scrap ? $"seen by {witness!.Name}" : null,
        ];
        var back = await Decisions.Return(act, hold);
        var fact = new Decided(hold.Number, decision.Kind, string.Join("; ", remarks.OfType<string>())) { About = back };
        var goods = $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name}";
        switch (done.Value)
        {
            case AfterDecision.Leave leaves:
                await DecisionMessage.Tell(act, hold.Number, item, lots, quantity, decision, act.Person.Name);
                await Lots.Settle(act, hold, lots);
                var sent = await Lots.SendOut(act, lots, leaves.To, fact);
                if (sent.Refused(out var notYet))
                    return notYet;
                var papers = leaves.To == Account.Vendor ? await Papers(act, hold, lots, sent.Value, decision.Reasons) : "";
                await Receipts.Moved(act);
                return new DoneAnswer($"{goods}: {Decided.Word(decision.Kind)}.{papers}");
            case AfterDecision.Become:
                await DecisionMessage.Tell(act, hold.Number, item, lots, quantity, decision, act.Person.Name);
                var regraded = await Regrades.Run(act, hold, item, lots, quantity, decision, fact.Note, back);
                if (regraded.Refused(out var notRegraded))
                    return notRegraded;
                await Receipts.Moved(act);
                return new DoneAnswer(regraded.Value);
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
                return new DoneAnswer($"{Decisions.Upper(Decided.Word(decision.Kind))}: {await CageActs.Now(act, item, now)}");
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

    /// <summary>Makes out the returns of goods that went back to their vendors: one for each posted receipt that they came with. What a
    /// customer sent back stands on a receipt of that customer, and on none of the vendor.</summary>
    /// <returns>What was made out, in sentences; empty where nothing was.</returns>
    static async Task<string> Papers(Act act, Hold hold, IReadOnlyList<Lot> lots, IReadOnlyList<LedgerEntry> sent, string reason)
    {
        if (hold.OrderLineId is not null)
            return "";
        var ids = lots.Select(l => l.ReceiptId).Distinct().ToList();
        var receipts = await act.Db.Receipts.Where(r => ids.Contains(r.Id) && r.ReversedAt == null).OrderBy(r => r.Id).ToListAsync();
        var said = "";
        foreach (var receipt in receipts)
        {
            var of = lots.Where(l => l.ReceiptId == receipt.Id).Select(l => l.Id).ToHashSet();
            var entries = sent.Where(e => of.Contains(e.LotId!.Value)).ToList();
            var back = new GoesBack(receipt, hold.ItemId, hold.BatchId, entries.Sum(e => e.Quantity!.Value));
            var counts = await VendorReturns.Counts(act, receipt, back.ItemId, back.BatchId);
            var number = await act.Number("V");
            await VendorReturns.Make(
                act,
                back,
                await VendorReturns.Left(act, receipt, back.ItemId, back.BatchId, counts),
                number,
                reason,
                entries[0]
            );
            said +=
                $" {number} on {receipt.Number}: "
                + (receipt.InvoicedAt is null ? "not to be invoiced; the order is open for them again." : "a credit is wanted.");
        }

        if (receipts.Count > 0)
            act.Touch("door", "road");
        return said;
    }

    static async Task<Refusal?> WitnessIsNotThem(Inquiry inquiry, CarryOutRequest request) =>
        request.Witness.OrNull() is null ? null : await Signatures.IsNotTheirs(inquiry, request.Witness, request.WitnessPassword ?? "");
}
