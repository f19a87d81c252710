using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Shelf;

/// <summary>Goods that are to leave a bin: of which line of stock, of which item, how much.</summary>
/// <param name="From">The lots that may leave; of others in the same line something is said that keeps them.</param>
public sealed record Leaving(StockLine Row, Item Item, decimal Quantity, LotsToTake From)
{
    /// <summary>Reads what somebody wants to take out, as typed.</summary>
    /// <param name="balance">The stock it is taken from.</param>
    /// <param name="typed">How much, in base units.</param>
    /// <param name="by">What must be let be done with it; null where the caller looks for itself. What nobody may use is kept from
    /// nobody.</param>
    /// <param name="verb">What is done with them, as in "Issue what is there."</param>
    /// <param name="reference">What they are for: goods kept for it leave first; null where they are for nobody who may wait.</param>
    /// <returns>Refused where the stock is gone, is not as much, is promised to a driver's task, is kept for others, or may not
    /// leave.</returns>
    public static async Task<Outcome<Leaving>> Read(Act act, long balance, string typed, Lets? by, string verb, string? reference = null)
    {
        var found = await act.Db.Balances.FirstOrDefaultAsync(b => b.SiteId == act.Site.Id && b.Id == balance);
        if (found is null)
            return new Refusal(HouseRefusals.NotFound, "That stock is not there any more.", "Look at the bin again.");
        var row = await Lots.LineOf(act.Db, found);
        var item = act.SetUp.Catalogue[row.ItemId];
        var quantity = Quantities.Read(typed, act.Site.DecimalComma);
        if (quantity.Refused(out var noNumber))
            return noNumber;
        if (Quantities.Check(quantity.Value, item) is { } badQuantity)
            return badQuantity;
        var may = by is { } lets ? await LotReads.Letting(act.Db, act.Standings, row.Lots, lets) : row.Lots;
        if (by is { } asked && (may.Count == 0 || !act.Standings[row.Standing].Lets.HasFlag(asked)))
            return new Refusal(
                HouseRefusals.NotUsable,
                $"{item.Name} in {act.SetUp.Address(row.BinId)} is {act.Standings.Word(row.Standing)} and may not leave.",
                "Have it inspected or released first."
            );
        var from =
            by is null && !act.Standings[row.Standing].Lets.HasFlag(Lets.Issue)
                ? new LotsToTake([], may, [])
                : await Reservations.ToTake(act.Db, may, reference);
        var there = from.All.Count == row.Lots.Count ? row.Quantity : await act.Book.QuantityOf(row.Goods, row.Place, from.All);
        var free = Promises.Free(there, await OpenTasks.TakenFrom(act.Db, row.Goods, row.Place));
        return quantity.Value <= free ? new Leaving(row, item, quantity.Value, from)
            : from.Others.Count == 0
                ? new Refusal(
                    HouseRefusals.MoreThanThere,
                    $"{act.SetUp.Address(row.BinId)} has {Quantities.Show(free)} {item.UnitWord} free.",
                    $"{verb} what is there."
                )
            : await KeptForOthers(act, row, item, free, from.Others, verb);
    }

    /// <summary>The refusal of goods that are there and kept for others.</summary>
    /// <param name="free">How much of it may leave.</param>
    public static async Task<Refusal> KeptForOthers(
        Act act,
        StockLine row,
        Item item,
        decimal free,
        IReadOnlyList<KeptLot> others,
        string verb
    )
    {
        var kept = await act.Book.QuantityOf(row.Goods, row.Place, [.. others.Select(k => k.LotId)]);
        var whom = string.Join(" and ", others.Select(k => k.For).Distinct().Order(StringComparer.Ordinal));
        return new Refusal(
            BookRefusals.KeptForOthers,
            $"{act.SetUp.Address(row.BinId)} has {Quantities.Show(free)} {item.UnitWord} free; "
                + $"{Quantities.Show(kept)} are kept for {whom}.",
            $"{verb} what is free, or have it said in Book that nobody waits any more."
        );
    }

    /// <summary>Takes them out, what is kept for them first, and of that and the rest the oldest lots; what is said of them is said of so
    /// much less.</summary>
    /// <param name="fact">What happened, by how much it happened to.</param>
    /// <returns>Refused where who speaks for them does not let go.</returns>
    public async Task<Refusal?> Out(Act act, Func<decimal, Fact> fact, Account to)
    {
        var own = Math.Min(Quantity, await act.Book.QuantityOf(Row.Goods, Row.Place, From.Own));
        foreach (var (quantity, lots) in new[] { (own, From.Own), (Quantity - own, From.Free) }.Where(p => p.Item1 > 0))
        foreach (var gone in await act.Move(fact, Row.Goods, quantity, Row.Place, new Place(to), lots))
            if (gone.LotId is { } lot && await Lots.Shrink(act, lot, gone.Quantity!.Value) is { } refusal)
                return refusal;
        return null;
    }
}
