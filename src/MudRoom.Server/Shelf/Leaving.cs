using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Shelf;

/// <summary>Goods that are to leave a bin: of which line of stock, of which item, how much.</summary>
/// <param name="Lots">The lots that may leave; of others in the same line something is said that keeps them.</param>
public sealed record Leaving(StockLine Row, Item Item, decimal Quantity, IReadOnlyList<int> Lots)
{
    /// <summary>Reads what somebody wants to take out, as typed.</summary>
    /// <param name="balance">The stock it is taken from.</param>
    /// <param name="typed">How much, in base units.</param>
    /// <param name="by">What must be let be done with it; null where the caller looks for itself.</param>
    /// <param name="verb">What is done with them, as in "Issue what is there."</param>
    /// <returns>Refused where the stock is gone, is not as much, is promised to a driver's task, or may not leave.</returns>
    public static async Task<Outcome<Leaving>> Read(Act act, long balance, string typed, Lets? by, string verb)
    {
        var found = await act.Db.Balances.FirstOrDefaultAsync(b => b.SiteId == act.Site.Id && b.Id == balance);
        if (found is null)
            return new Refusal(HouseRefusals.NotFound, "That stock is not there any more.", "Look at the bin again.");
        var row = await Book.Lots.LineOf(act.Db, found);
        var item = act.SetUp.Catalogue[row.ItemId];
        var quantity = Quantities.Read(typed, act.Site.DecimalComma);
        if (quantity.Refused(out var noNumber))
            return noNumber;
        if (Quantities.Check(quantity.Value, item) is { } badQuantity)
            return badQuantity;
        var lots = row.Lots;
        if (by is { } lets)
        {
            var may = await LotReads.Letting(act.Db, act.Standings, row.Lots, lets);
            if (may.Count == 0 || !act.Standings[row.Standing].Lets.HasFlag(lets))
                return new Refusal(
                    HouseRefusals.NotUsable,
                    $"{item.Name} in {act.SetUp.Address(row.BinId)} is {act.Standings.Word(row.Standing)} and may not leave.",
                    "Have it inspected or released first."
                );
            lots = may;
        }

        var there = lots.Count == row.Lots.Count ? row.Quantity : await act.Book.QuantityOf(row.Goods, row.Place, lots);
        var free = Promises.Free(there, await OpenTasks.TakenFrom(act.Db, row.Goods, row.Place));
        return quantity.Value > free
            ? new Refusal(
                HouseRefusals.MoreThanThere,
                $"{act.SetUp.Address(row.BinId)} has {Quantities.Show(free)} {item.UnitWord} free.",
                $"{verb} what is there."
            )
            : new Leaving(row, item, quantity.Value, lots);
    }

    /// <summary>Takes them out, the oldest lots first; what is said of them is said of so much less.</summary>
    /// <param name="fact">What happened, by how much it happened to.</param>
    /// <returns>Refused where who speaks for them does not let go.</returns>
    public async Task<Refusal?> Out(Act act, Func<decimal, Fact> fact, Account to)
    {
        var entries = await act.Move(fact, Row.Goods, Quantity, Row.Place, new Place(to), Lots);
        foreach (var gone in entries)
            if (gone.LotId is { } lot && await Book.Lots.Shrink(act, lot, gone.Quantity!.Value) is { } refusal)
                return refusal;
        return null;
    }
}
