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

/// <summary>Acts of Cage.</summary>
public static class CageActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<LiftRequest, DoneAnswer>("/cage/lift", Right.LiftHold, Lift);
        routes.Act<LiftManyRequest, DoneAnswer>("/cage/lift-many", Right.LiftHold, LiftMany);
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
        return new DoneAnswer(await Now(act, item, now));
    }

    /// <summary>Lifts several in one act, each as if alone and each with its entries; where one may not be lifted, none is.</summary>
    public static async Task<Outcome<DoneAnswer>> LiftMany(Act act, LiftManyRequest request)
    {
        var numbers = (request.Holds ?? []).OfType<string>().Distinct(StringComparer.Ordinal).ToList();
        if (numbers.Count is 0 or > MostTogether)
            return new Refusal(HouseRefusals.TooMany, $"One to {MostTogether} holds are lifted together.", "Choose some.");
        foreach (var number in numbers)
            if ((await Lift(act, new LiftRequest(number, request.Note))).Refused(out var refusal))
                return refusal with { Sentence = $"{refusal.Sentence} None of the {numbers.Count} was lifted." };
        return new DoneAnswer($"{numbers.Count} holds are lifted: {string.Join(", ", numbers)}.");
    }

    const int MostTogether = 50;

    /// <summary>What goods are now that one statement less is said of them: usable, or whose word still stands.</summary>
    public static async Task<string> Now(Act act, Item item, IReadOnlyDictionary<Standing, StandsNow> now)
    {
        var ids = now.Values.SelectMany(n => n.Holds).Distinct().ToList();
        var numbers = await act.Db.Holds.Where(h => ids.Contains(h.Id)).ToDictionaryAsync(h => h.Id, h => h.Number);
        return string.Join(" ", now.OrderBy(n => act.Standings.Order(n.Key)).Select(n => Words(n.Key, n.Value)));

        string Words(Standing standing, StandsNow goods)
        {
            var are = $"{Quantities.Show(goods.Quantity)} {item.UnitWord} of {item.Name} are {act.Standings.Word(standing)}";
            return standing == Standing.Usable || goods.Holds.Count == 0
                ? $"{are}."
                : $"{are} still, by {string.Join(" and ", goods.Holds.Select(h => numbers[h]).Order(StringComparer.Ordinal))}.";
        }
    }

    /// <summary>A hold of the site by its number.</summary>
    public static Task<Hold?> Load(Act act, string number) =>
        act.Db.Holds.FirstOrDefaultAsync(h => h.SiteId == act.Site.Id && h.Number == number);

    /// <summary>Goods of an item that is inspected are not usable by leaving their holds alone: what nobody has inspected waits at the
    /// bench, once no hold is left on it.</summary>
    public static async Task<Refusal?> ToBench(Act act, Item item, IReadOnlyList<Lot> lots)
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
