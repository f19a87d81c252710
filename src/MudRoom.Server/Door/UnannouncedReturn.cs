using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>Goods that a customer sends back and nobody has announced are aboard what stands at a door.</summary>
/// <param name="Customer">Their code.</param>
/// <param name="Item">Its code.</param>
/// <param name="Quantity">In base units, as typed: what they say they send.</param>
public sealed record UnannouncedReturnRequest(
    string Arrival,
    string Customer,
    string Item,
    string Quantity,
    string Reason,
    ReturnPromise Promised
);

/// <summary>The return that was made of it.</summary>
public sealed record UnannouncedReturnAnswer(string Order, string Sentence);

/// <summary>Makes a customer's return at the door, of goods that nobody announced: they are then counted as any others.</summary>
public static class UnannouncedReturn
{
    public static void Map(SiteRoutes routes) =>
        routes.Act<UnannouncedReturnRequest, UnannouncedReturnAnswer>("/door/returns", Right.Tally, Run, blind: BlindView.Open);

    public static async Task<Outcome<UnannouncedReturnAnswer>> Run(Act act, UnannouncedReturnRequest request)
    {
        var arrival = await act.Db.Arrivals.Include(a => a.Manifest).Numbered(act.Site, request.Arrival ?? "");
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival ?? "");
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var number = await FreeNumber(act);
        var made = await OrderActs.New(
            act,
            new NewOrderRequest(
                number,
                OrderKind.CustomerReturn,
                request.Customer,
                Draft: false,
                [
                    new NewOrderLine(
                        request.Item,
                        request.Quantity,
                        act.Today,
                        $"nobody announced it, aboard {arrival.Number}",
                        Reason: request.Reason,
                        Promised: request.Promised
                    ),
                ]
            )
        );
        if (made.Refused(out var refusal))
            return refusal;
        var part = await act.Db.LineParts.Include(p => p.Line!).ThenInclude(l => l.Order).SingleAsync(p => p.Line!.Order!.Number == number);
        arrival.Manifest.Add(new ManifestLine { Part = part, Expected = part.Ordered });
        arrival.UnitsAboard += LoadOf.Units(act.SetUp, arrival.Handling, [part]);
        act.Write(new LinesAdded(arrival.Number, [new LineNamed(number, part.Line!.Number)]));
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, [part.Id]);
        act.Touch("road", "yard", "door", "bench", "house", "arrival:" + arrival.Number);
        var item = act.SetUp.Catalogue[part.ItemId];
        return new UnannouncedReturnAnswer(
            number,
            $"{number}: {Quantities.Show(part.Ordered)} {item.UnitWord} of {item.Name} from {act.SetUp.Vendors[part.VendorId].Name}. "
                + "Count them now; they wait at the bench then."
        );
    }

    /// <summary>The next number of a return; some may have been typed or imported.</summary>
    static async Task<string> FreeNumber(Act act)
    {
        var house = await act.Db.Sites.ToListAsync();
        while (true)
        {
            var number = WarehouseSite.TakeHouseNumber("RT", await act.SiteRow(), house);
            if (!await act.Db.Orders.IgnoreQueryFilters().AnyAsync(o => o.Number == number))
                return number;
        }
    }
}
