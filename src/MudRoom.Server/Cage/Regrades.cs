using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>Goods become goods of another item, where they stand: out of the one and into the other, so that both add up.</summary>
public static class Regrades
{
    /// <summary>Regrades all of some lots. What else is said of them must be settled first. Where the new item is inspected and these
    /// goods came by a door, they wait at the bench.</summary>
    /// <param name="hold">The hold whose decision it is.</param>
    /// <param name="decision">With the item that they become.</param>
    public static async Task<Outcome<string>> Run(
        Act act,
        Hold hold,
        Item item,
        IReadOnlyList<Lot> lots,
        decimal quantity,
        HoldDecision decision,
        string note,
        IReadOnlyList<Reference> about
    )
    {
        var into = act.SetUp.Catalogue[decision.IntoItemId!.Value];
        // The items may have changed since it was decided.
        if (Regrade.Fault(item, into, quantity, hold.BatchId is not null) is { } wrong)
            return wrong;
        await Lots.Settle(act, hold, lots);
        await act.Db.SaveChangesAsync();
        if (Said.Numbers((await Said.OfLots(act.Db, [.. lots.Select(l => l.Id)])).SelectMany(g => g)) is { Count: > 0 } others)
            return new Refusal(
                HouseRefusals.NotLet,
                $"{string.Join(" and ", others)} {(others.Count == 1 ? "is" : "are")} on these goods too: they are regraded when "
                    + "nothing else is said of them.",
                "Settle that first."
            );
        var batch = await BatchIn(act, item, into, hold.BatchId);
        if (batch.Refused(out var taken))
            return taken;
        var fact = new GoodsRegraded(hold.Number, Amount.Of(quantity, item), into.Name, note)
        {
            About = [Reference.Item(into.Id), .. about],
        };
        var rows = await LotReads.Balances(act.Db, [.. lots.Select(l => l.Id)]);
        var become = lots.ToDictionary(l => l.Id, l => l.RegradedTo(into.Id, batch.Value, act.Now));
        act.Db.Lots.AddRange(become.Values);
        await act.Db.SaveChangesAsync();
        var between = new Place(Account.Regraded);
        foreach (var row in rows)
        {
            // The row is what is left, and is empty once its goods are out.
            var there = row.Quantity;
            act.Write(fact, new Movement(row.Goods, there, row.Place, between));
            var goods = new Goods(into.Id, batch.Value, row.UnitId, null, become[row.LotId!.Value].Id);
            act.Write(fact, new Movement(goods, there, between, Place.In(row.BinId, Standing.Usable)));
        }

        List<Lot> now = [.. become.Values];
        if (await CageActs.ToBench(act, into, now) is { } noBench)
            return noBench;
        var stand = await Lots.Restand(act, now, fact);
        return $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name} regraded. {await CageActs.Now(act, into, stand)}";
    }

    /// <summary>The batch that goods of a batch have in the item that they become: of the same number and source batch, so that a recall
    /// finds them; null for goods of none.</summary>
    static async Task<Outcome<int?>> BatchIn(Act act, Item item, Item into, int? batchId)
    {
        if (batchId is null)
            return (int?)null;
        var was = await act.Db.Batches.SingleAsync(b => b.Id == batchId);
        var cameAs = was.CameAsItemId ?? item.Id;
        var there = await act.Db.Batches.FirstOrDefaultAsync(b => b.ItemId == into.Id && b.Number == was.Number);
        if (there is not null && (there.CameAsItemId ?? into.Id, there.SourceBatchId) != (cameAs, was.SourceBatchId))
            return new Refusal(
                CageRefusals.RegradeWrong,
                $"{into.Name} has other goods in batch {was.Number}: two kinds would be one.",
                "Choose another item."
            );
        if (there is null)
        {
            there = new Batch
            {
                ItemId = into.Id,
                Number = was.Number,
                SourceBatchId = was.SourceBatchId,
                Expiry = was.Expiry,
                CameAsItemId = cameAs == into.Id ? null : cameAs,
            };
            act.Db.Batches.Add(there);
            await act.Db.SaveChangesAsync();
        }

        return there.Id;
    }
}
