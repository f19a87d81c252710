using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Shelf;

/// <summary>Goods that are to leave a bin: of which line of stock, of which item, how much.</summary>
public sealed record Leaving(StockLine Row, Item Item, decimal Quantity)
{
    /// <summary>Reads what somebody wants to take out, as typed.</summary>
    /// <param name="balance">The stock it is taken from.</param>
    /// <param name="typed">How much, in base units.</param>
    /// <param name="mayNot">Why goods of that standing may not leave this way; null where they may.</param>
    /// <param name="verb">What is done with them, as in "Issue what is there."</param>
    /// <returns>Refused where the stock is gone, is not as much, is promised to a driver's job, or may not leave.</returns>
    public static async Task<Outcome<Leaving>> Read(
        Act act,
        long balance,
        string typed,
        Func<StockLine, Item, Refusal?> mayNot,
        string verb
    )
    {
        var found = await act.Db.Balances.FirstOrDefaultAsync(b => b.SiteId == act.Site.Id && b.Id == balance);
        if (found is null)
            return new Refusal(HouseRefusals.NotFound, "That stock is not there any more.", "Look at the bin again.");
        var row = await Lots.LineOf(act.Db, found);
        var item = act.SetUp.Catalogue[row.ItemId];
        var quantity = Quantities.Read(typed, act.Site.Door.DecimalComma);
        if (quantity.Refused(out var noNumber))
            return noNumber;
        if (Quantities.Check(quantity.Value, item) is { } badQuantity)
            return badQuantity;
        if (mayNot(row, item) is { } stays)
            return stays;
        var free = Promises.Free(row.Quantity, await TakenJobs.From(act.Db, row.Goods, row.Place));
        return quantity.Value > free
            ? new Refusal(
                HouseRefusals.MoreThanThere,
                $"{act.SetUp.Address(row.BinId)} has {Quantities.Show(free)} {item.UnitWord} free.",
                $"{verb} what is there."
            )
            : new Leaving(row, item, quantity.Value);
    }

    /// <summary>Only usable goods leave the house.</summary>
    public static Func<StockLine, Item, Refusal?> OnlyUsable(Act act) =>
        (row, item) =>
            Standings.MayBeIssued(row.Standing)
                ? null
                : new Refusal(
                    HouseRefusals.NotUsable,
                    $"{item.Name} in {act.SetUp.Address(row.BinId)} is {Standings.Word(row.Standing)} and may not leave.",
                    "Have it inspected or released first."
                );
}
