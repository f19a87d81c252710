using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>Holds goods that stand somewhere, by hand.</summary>
/// <param name="Balance">The stock, by its id.</param>
/// <param name="Quantity">How much of it, in base units; null for all.</param>
/// <param name="Why">What it is about.</param>
/// <param name="As">The word of the standing it asks for; null for held.</param>
public sealed record HoldGoodsRequest(long Balance, string? Quantity, string Why, string? As = null);

/// <summary>Lays holds by hand for rooms that know no cage.</summary>
public sealed class HandHolds : ILayHolds
{
    public Task Lay(Act act, Item item, Lot lot, decimal quantity, string why, StandingDefinition chosen) =>
        HandHold.Lay(act, item, lot, quantity, why, chosen);
}

/// <summary>A hold that no rule laid: somebody says that goods are held, and somebody lifts it.</summary>
static class HandHold
{
    /// <summary>Lays it on a lot that stands held already.</summary>
    /// <param name="quantity">In base units.</param>
    /// <param name="sentence">Why.</param>
    public static Task Lay(Act act, Item item, Lot lot, decimal quantity, string sentence, StandingDefinition? chosen = null) =>
        On(act, item, [lot], quantity, sentence, chosen: chosen);

    /// <summary>Lays it on stock, or on a part of it that is split off; whatever else is said of it stays said.</summary>
    public static async Task<Outcome<DoneAnswer>> OnStock(Act act, HoldGoodsRequest request)
    {
        var meant = await PartOfStock.Read(act, request.Balance, request.Quantity);
        if (meant.Refused(out var notThere))
            return notThere;
        var (line, item, quantity) = meant.Value;
        if (request.Why.OrNull() is not { Length: <= 500 } why)
            return new Refusal(HouseRefusals.NoteMissing, "A hold wants a sentence of at most 500 characters.", "Say why.");
        if (act.Standings.ForHold(request.As.OrNull()) is not { } chosen)
            return new Refusal(CageRefusals.ChoiceUnknown, $"Nothing is held as {request.As}.", "Choose one from the list.");
        var number = await act.Number("H");
        var lots = await meant.Value.Part(act, number);
        var (hold, laid) = await On(act, item, lots, quantity, why, number, chosen);
        var now = await Lots.Restand(act, lots, laid);
        act.Touch("cage", "shelf", "bench", "book", "house");
        return new DoneAnswer(
            $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name} in {act.SetUp.Address(line.BinId)} are "
                + $"{act.Standings.Word(now.Keys.MaxBy(act.Standings.Order))}, by {hold.Number}."
        );
    }

    static async Task<(Hold Hold, HoldLaid Laid)> On(
        Act act,
        Item item,
        IReadOnlyList<Lot> lots,
        decimal quantity,
        string sentence,
        string? number = null,
        StandingDefinition? chosen = null
    )
    {
        var arrivals = lots.Select(l => l.ArrivalId).Distinct().ToList();
        var hold = new Hold
        {
            Number = number ?? await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = lots[0].BatchId,
            Reason = HoldReason.ByHand,
            Chosen = chosen is null or { Standing.Id: 2 } ? null : chosen.Standing,
            Sentence = sentence,
            Since = act.Now,
            ArrivalId = arrivals.Count == 1 ? arrivals[0] : null,
            LaidBy = act.Person.Name,
        };
        // New, and so open.
        _ = hold.Grow(quantity, act.Site.LocalTime);
        act.Db.Holds.Add(hold);
        await act.Db.SaveChangesAsync();
        Lots.Say(act, lots, hold);
        var laid = new HoldLaid(hold.Number, item.Name, Amount.Of(quantity, item), null, hold.Sentence) { About = [.. Lots.About(lots)] };
        act.Write(laid);
        return (hold, laid);
    }
}
