using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>Goods that are kept for somebody are to be free for anybody.</summary>
/// <param name="Balance">The stock, by the id of one of its rows.</param>
public sealed record KeepNoMoreRequest(long Balance, string Reason);

/// <summary>So much of a lot in one place is kept.</summary>
public sealed record KeptPortion(KeptLot Kept, decimal Quantity);

/// <summary>Goods kept for waiting demand: said of them as they are counted, until they leave or somebody ends it.</summary>
public static class Reservations
{
    public static void Map(SiteRoutes routes) => routes.Act<KeepNoMoreRequest, DoneAnswer>("/book/keep-no-more", Right.KeepOrders, End);

    /// <summary>What is said of lots that are kept for somebody, now.</summary>
    public static IQueryable<Statement> Open(MudRoomDb db) => db.Statements.Where(s => s.ReservationId != null && s.SettledAt == null);

    /// <summary>What of some lots is kept for whom now.</summary>
    public static async Task<IReadOnlyList<KeptLot>> OfLots(MudRoomDb db, IReadOnlyCollection<int> lots) =>
        await Open(db)
            .Where(s => lots.Contains(s.LotId))
            .Join(db.Reservations, s => s.ReservationId, r => r.Id, (s, r) => new KeptLot(s.LotId, r.For, r.By))
            .ToListAsync();

    /// <summary>What is kept of the goods of an inspection.</summary>
    public static async Task<ILookup<int, KeptLot>> OfInspections(MudRoomDb db, IReadOnlyCollection<int> inspections)
    {
        var lots = await db
            .Statements.Where(s => inspections.Contains(s.InspectionId!.Value) && s.SettledAt == null)
            .Select(s => new { Inspection = s.InspectionId!.Value, s.LotId })
            .ToListAsync();
        var kept = (await OfLots(db, [.. lots.Select(l => l.LotId).Distinct()])).ToLookup(k => k.LotId);
        return lots.SelectMany(l => kept[l.LotId].Select(k => (l.Inspection, Kept: k)))
            .OrderBy(x => x.Kept.By ?? DateTime.MaxValue)
            .ToLookup(x => x.Inspection, x => x.Kept);
    }

    /// <summary>For whom goods are kept that stand in some bins.</summary>
    /// <returns>By what stands where, of any lot, who waits first.</returns>
    public static async Task<ILookup<(Goods Goods, Place At), KeptPortion>> InBins(
        MudRoomDb db,
        int siteId,
        IReadOnlyCollection<int> bins
    ) =>
        await Portions(
            db,
            await db
                .Balances.Where(b => b.SiteId == siteId && bins.Contains(b.BinId))
                .Join(Open(db), b => b.LotId, s => s.LotId, (b, s) => s.LotId)
                .Distinct()
                .ToListAsync()
        );

    /// <summary>What is kept of some lots, wherever it stands.</summary>
    /// <returns>By what stands where, of any lot, who waits first.</returns>
    public static async Task<ILookup<(Goods Goods, Place At), KeptPortion>> Portions(MudRoomDb db, IReadOnlyCollection<int> lots)
    {
        var kept = (await OfLots(db, lots)).ToLookup(k => k.LotId);
        var rows = kept.Count == 0 ? [] : await LotReads.Balances(db, [.. kept.Select(k => k.Key)]);
        return rows.SelectMany(r =>
                kept[r.LotId!.Value].Select(k => (Key: (r.Goods.OfAnyLot, r.Place), Of: new KeptPortion(k, r.Quantity)))
            )
            .OrderBy(x => x.Of.Kept.By ?? DateTime.MaxValue)
            .ToLookup(x => x.Key, x => x.Of);
    }

    /// <summary>Of some lots those that may be taken for somebody.</summary>
    public static async Task<LotsToTake> ToTake(MudRoomDb db, IReadOnlyList<int> lots, string? reference) =>
        LotsToTake.Of(lots, await OfLots(db, lots), reference);

    static async Task<Outcome<DoneAnswer>> End(Act act, KeepNoMoreRequest request)
    {
        if (request.Reason.OrNull() is not { Length: <= 200 } reason)
            return new Refusal(HouseRefusals.ReasonMissing, "Say in at most 200 characters why nobody waits for them.", "Type the reason.");
        var read = await PartOfStock.Read(act, request.Balance, null);
        if (read.Refused(out var notThere))
            return notThere;
        var (line, item, _) = read.Value;
        var kept = (await OfLots(act.Db, line.Lots)).ToLookup(k => k.LotId);
        var lots = (await Lots.Of(act, line)).Where(l => kept[l.Id].Any()).ToList();
        if (lots.Count == 0)
            return new Refusal(
                BookRefusals.NotKept,
                $"{item.Name} in {act.SetUp.Address(line.BinId)} is kept for nobody.",
                "There is nothing to do."
            );
        var place = act.SetUp.Address(line.BinId);
        var said = new List<string>();
        foreach (var of in lots.GroupBy(l => string.Join(" and ", kept[l.Id].Select(k => k.For).Distinct().Order(StringComparer.Ordinal))))
        {
            // Of a lot that stands elsewhere too, what stands here.
            var here = await Lots.Quantity(act, [.. of], at: line);
            var parts = await Lots.Part(act, [.. of], here, of.Key, at: line);
            await Lots.SettleKeeping(act, parts);
            var ended = new KeepingEnded(of.Key, Amount.Of(here, item), place, reason) { About = [.. Lots.About(parts)] };
            act.Write(ended);
            await Lots.Restand(act, parts, ended);
            said.Add(act.Words(ended));
        }

        act.Touch("shelf", "book", "bench", "house");
        return new DoneAnswer(string.Join(" ", said));
    }
}
