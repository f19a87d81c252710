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
/// <param name="Why">What it is about; may be empty where <paramref name="Because"/> says it.</param>
/// <param name="Because">The reason from the site's list; null for none of them.</param>
/// <param name="As">The word of the standing it asks for; null for held.</param>
/// <param name="Days">Not free before so many times 24 hours, 1 to <see cref="HoldRule.MostDays"/>; null for no time.</param>
/// <param name="Wants">What it wants besides time.</param>
public sealed record HoldGoodsRequest(
    long Balance,
    string? Quantity,
    string? Why,
    string? As = null,
    int? Days = null,
    IReadOnlyList<Wanted>? Wants = null,
    string? Because = null
);

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
        On(act, item, [lot], quantity, (null, sentence), chosen: chosen);

    /// <summary>Lays it on all of some lots of one item and batch, whatever else is said of them, as a hold on what comes says.</summary>
    /// <param name="quantity">In base units, what stands of them.</param>
    /// <returns>Its number.</returns>
    public static async Task<string> OnAll(Act act, IReadOnlyList<Lot> lots, decimal quantity, HoldRule by)
    {
        var reason = (act.CageSettings.ListedIn(by.Name), by.Name);
        var wants = by.Besides.Select(w => (by.Name, w));
        var (hold, laid) = await On(act, act.SetUp.Catalogue[lots[0].ItemId], lots, quantity, reason, wants: wants);
        await Lots.Restand(act, lots, laid);
        return hold.Number;
    }

    /// <summary>Lays it on stock, or on a part of it that is split off; whatever else is said of it stays said.</summary>
    public static async Task<Outcome<DoneAnswer>> OnStock(Act act, HoldGoodsRequest request)
    {
        var meant = await PartOfStock.Read(act, request.Balance, request.Quantity);
        if (meant.Refused(out var notThere))
            return notThere;
        var (line, item, quantity) = meant.Value;
        var reason = act.CageSettings.Reason(request.Because, request.Why);
        if (reason.Refused(out var noReason))
            return noReason;
        if (act.Standings.ForHold(request.As.OrNull()) is not { } chosen)
            return new Refusal(CageRefusals.ChoiceUnknown, $"Nothing is held as {request.As}.", "Choose one from the list.");
        if (request.Days is < 1 or > HoldRule.MostDays)
            return new Refusal(
                CageRefusals.ConditionAbsurd,
                $"A hold lasts 1 to {HoldRule.MostDays} days.",
                "Type how many, or leave it empty."
            );
        var wants = request.Wants ?? [];
        if (Wanted.FaultOf(wants) is { } fault)
            return fault;
        var number = await act.Number("H");
        var lots = await meant.Value.Part(act, number);
        var (hold, laid) = await On(act, item, lots, quantity, reason.Value, number, chosen, request.Days, wants.Select(w => ("", w)));
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
        (string? Because, string Sentence) reason,
        string? number = null,
        StandingDefinition? chosen = null,
        int? days = null,
        IEnumerable<(string Rule, Wanted Wants)>? wants = null
    )
    {
        IReadOnlyList<TimeCondition> times = days is { } n ? [new TimeCondition("", act.Now.AddDays(n))] : [];
        var arrivals = lots.Select(l => l.ArrivalId).Distinct().ToList();
        var hold = new Hold
        {
            Number = number ?? await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = lots[0].BatchId,
            Reason = HoldReason.ByHand,
            Chosen = chosen is null or { Standing.Id: 2 } ? null : chosen.Standing,
            Sentence = reason.Sentence,
            Because = reason.Because,
            Since = act.Now,
            Until = Hold.LastOf(times),
            Times = times,
            ArrivalId = arrivals.Count == 1 ? arrivals[0] : null,
            LaidBy = act.Person.Name,
        }.Wanting(HoldCondition.From(wants ?? [], act.Now));
        // New, and so open.
        _ = hold.Grow(quantity, act.Site.LocalTime);
        act.Db.Holds.Add(hold);
        await act.Db.SaveChangesAsync();
        Lots.Say(act, lots, hold);
        var laid = new HoldLaid(hold.Number, item.Name, Amount.Of(quantity, item), null, hold.Sentence + Wants(hold, act.Site.LocalTime))
        {
            About = [.. Lots.About(lots)],
        };
        act.Write(laid);
        return (hold, laid);
    }

    static string Wants(Hold hold, SiteTime local)
    {
        var until = hold.Until is { } at ? $"until {local(at):yyyy-MM-dd HH:mm}" : null;
        var all = hold.Besides.Select(c => c.Wants.Words).Prepend(until).OfType<string>().ToList();
        return all.Count == 0 ? "" : $"; {string.Join("; ", all)}";
    }
}
