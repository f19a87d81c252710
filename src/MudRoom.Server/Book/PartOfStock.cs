using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>A line of stock, or a part of it, of which somebody says something.</summary>
/// <param name="Line">Goods of one kind in one place, of whatever lots.</param>
/// <param name="Quantity">How much of it, in base units.</param>
public sealed record PartOfStock(StockLine Line, Item Item, decimal Quantity)
{
    /// <summary>Reads it as it was typed.</summary>
    /// <param name="balance">The stock, by the id of one of its rows.</param>
    /// <param name="typed">How much of it; empty for all.</param>
    public static async Task<Outcome<PartOfStock>> Read(Act act, long balance, string? typed)
    {
        var row = await act.Db.Balances.FirstOrDefaultAsync(b => b.SiteId == act.Site.Id && b.Id == balance);
        if (row is null)
            return new Refusal(HouseRefusals.NotFound, "That stock is not there any more.", "Look at the bin again.");
        var line = await Lots.LineOf(act.Db, row);
        var item = act.SetUp.Catalogue[line.ItemId];
        var quantity = line.Quantity;
        if (typed.OrNull() is { } text)
        {
            var read = Quantities.Read(text, act.Site.DecimalComma);
            if (read.Refused(out var noNumber))
                return noNumber;
            if (Quantities.Check(read.Value, item) is { } badQuantity)
                return badQuantity;
            quantity = read.Value;
        }

        if (quantity > line.Quantity)
            return new Refusal(
                HouseRefusals.MoreThanThere,
                $"{act.SetUp.Address(line.BinId)} has {Quantities.Show(line.Quantity)} {item.UnitWord}.",
                "Take what is there."
            );
        if (line.UnitId is not null && quantity != line.Quantity)
            return new Refusal(HouseRefusals.UnitWhole, "A labelled unit stays whole.", "Take all of it.");
        return new PartOfStock(line, item, quantity);
    }

    /// <summary>The lots of it; where it is a part of one, that is split off.</summary>
    /// <param name="subject">The paper it is for.</param>
    public async Task<IReadOnlyList<Lot>> Part(Act act, string subject) =>
        await Lots.Part(act, await Lots.Of(act, Line), Quantity, subject, at: Line);
}
