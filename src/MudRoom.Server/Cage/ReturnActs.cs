using System.Globalization;
using System.Text.Json.Nodes;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Out;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Cage;

/// <summary>What was found of part or all of what a hold binds to a customer's return.</summary>
/// <param name="Note">What was seen.</param>
public sealed record FindReturnRequest(string Hold, ReturnFound Found, string Quantity, string Note);

/// <summary>Takes back what was found of the goods of a hold.</summary>
public sealed record FindingBackRequest(string Hold, string Why);

/// <summary>The findings of customers' returns: given by who may sign verdicts, and told to accounts at once.</summary>
public static class ReturnActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<FindReturnRequest, DoneAnswer>("/cage/returns/finding", Right.SignVerdict, Find);
        routes.Act<FindingBackRequest, DoneAnswer>("/cage/returns/finding/back", Right.SignVerdict, TakeBack);
    }

    public static async Task<Outcome<DoneAnswer>> Find(Act act, FindReturnRequest request)
    {
        if (await CageActs.Load(act, request.Hold ?? "") is not { } hold)
            return Problems.NotFound("hold", request.Hold ?? "");
        if (!Enum.IsDefined(request.Found))
            return new Refusal(CageRefusals.ChoiceUnknown, "That is no finding.", "Choose one from the list.");
        var item = act.SetUp.Catalogue[hold.ItemId];
        var read = Quantities.Read(request.Quantity, act.Site.DecimalComma);
        if (read.Refused(out var badNumber))
            return badNumber;
        var quantity = read.Value;
        if (Quantities.Check(quantity, item) is { } badQuantity)
            return badQuantity;
        if (request.Note.OrNull() is not { Length: <= 500 } note)
            return new Refusal(HouseRefusals.NoteMissing, "A finding wants a sentence of at most 500 characters.", "Say what you see.");
        if (await Decisions.PromisedFromHere(act, hold) is { } promised)
            return promised;
        var finding = new ReturnFinding(request.Found, note, new Hand(act.Person.Id, act.Person.Name), act.Now);
        var waiting = await ReturnedGoods.WaitFor(act.Db, [hold.Id]);
        var isAll = hold.Find(finding, quantity, act.Site.LocalTime, waiting.GetValueOrDefault(hold.Id));
        if (isAll.Refused(out var refusal))
            return refusal;

        var (under, lots) = (hold, await LotReads.Under(act.Db, hold));
        if (!isAll.Value)
        {
            under = hold.PartFound(await act.Number("H"), quantity, finding);
            act.Db.Holds.Add(under);
            lots = [.. await Lots.Part(act, lots, quantity, hold.Number)];
            await Lots.Settle(act, hold, lots);
            await act.Db.SaveChangesAsync();
            Lots.Say(act, lots, under);
        }

        var of = (await ReturnedGoods.Of(act.Db, hold))!;
        var fact = new ReturnWasFound(under.Number, of.Order, Amount.Of(quantity, item), of.Terms.Reason, finding.Words, act.Person.Name)
        {
            About = [of.Reference, Reference.Hold(hold.Number), .. Lots.About(lots)],
        };
        act.Write(fact);
        await Lots.Restand(act, lots, fact);
        Tell(act, of, under, item, finding, null);
        act.Touch("bench", "cage", "shelf", "house");
        return new DoneAnswer($"{act.Words(fact)} Accounts are told, with {of.Terms.PromisedWords}.");
    }

    public static async Task<Outcome<DoneAnswer>> TakeBack(Act act, FindingBackRequest request)
    {
        if (await CageActs.Load(act, request.Hold ?? "") is not { } hold)
            return Problems.NotFound("hold", request.Hold ?? "");
        if (request.Why.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        var was = hold.TakeFindingBack(act.Site.LocalTime);
        if (was.Refused(out var refusal))
            return refusal;
        var of = (await ReturnedGoods.Of(act.Db, hold))!;
        var fact = new ReturnFindingTakenBack(hold.Number, of.Order, was.Value.Words, act.Person.Name, why)
        {
            About = [of.Reference, .. Lots.About(await LotReads.Under(act.Db, hold))],
        };
        act.Write(fact);
        Tell(act, of, hold, act.SetUp.Catalogue[hold.ItemId], was.Value, why);
        act.Touch("bench", "cage", "house");
        return new DoneAnswer(act.Words(fact));
    }

    /// <summary>Tells accounts, as docs/formats/return-finding-json.md says.</summary>
    /// <param name="takenBack">Why the finding counts no longer; null for one that is given.</param>
    static void Tell(Act act, ReturnOf of, Hold hold, Item item, ReturnFinding finding, string? takenBack)
    {
        var customer = act.SetUp.Vendors[of.CustomerId];
        Outbox.Emit(
            act,
            OutKind.ReturnFinding,
            of.Order,
            new JsonObject
            {
                ["order"] = of.Order,
                ["line"] = of.Line,
                ["customer"] = new JsonObject
                {
                    ["code"] = customer.Code,
                    ["name"] = customer.Name,
                    ["gln"] = customer.Gln,
                },
                ["item"] = item.Code,
                ["name"] = item.Name,
                ["quantity"] = hold.Quantity.ToString(LedgerEntry.QuantityForm, CultureInfo.InvariantCulture),
                ["unit"] = item.BaseUnit,
                ["hold"] = hold.Number,
                ["reason"] = of.Terms.Reason,
                ["promised"] = ReturnTerms.Word(of.Terms.Promised),
                ["found"] = Token(finding.Found),
                ["note"] = finding.Note,
                ["by"] = finding.By.Name,
                ["takenBack"] = takenBack,
            }
        );
    }

    /// <summary>A finding in a word that does not change with what screens say.</summary>
    static string Token(ReturnFound found) =>
        found switch
        {
            ReturnFound.AsSaid => "as-said",
            ReturnFound.OtherFault => "other-fault",
            ReturnFound.NoFault => "no-fault",
            ReturnFound.HarmedThere => "harmed-there",
            _ => throw new ArgumentOutOfRangeException(nameof(found), found, null),
        };
}
