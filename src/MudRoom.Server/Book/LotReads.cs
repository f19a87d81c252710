using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Data;

namespace MudRoom.Server.Book;

/// <summary>What is asked of lots, always by their keys: however many there are of others, only those that are meant are read.</summary>
public static class LotReads
{
    /// <summary>The lots that a hold speaks for, the oldest first.</summary>
    public static async Task<List<Lot>> Under(MudRoomDb db, Hold hold) =>
        await ByIds(
            db,
            await db.Statements.Where(s => s.HoldId == hold.Id && s.SettledAt == null).Select(s => s.LotId).Distinct().ToListAsync()
        );

    /// <summary>The lots that an inspection speaks for, the oldest first.</summary>
    public static async Task<List<Lot>> Under(MudRoomDb db, Inspection inspection) =>
        await ByIds(
            db,
            await db
                .Statements.Where(s => s.InspectionId == inspection.Id && s.SettledAt == null)
                .Select(s => s.LotId)
                .Distinct()
                .ToListAsync()
        );

    /// <summary>The lots that an inspection speaks for or has spoken for, the oldest first.</summary>
    public static async Task<List<Lot>> EverUnder(MudRoomDb db, Inspection inspection) =>
        await ByIds(db, await db.Statements.Where(s => s.InspectionId == inspection.Id).Select(s => s.LotId).Distinct().ToListAsync());

    /// <summary>Lots by their ids, the oldest first.</summary>
    public static Task<List<Lot>> ByIds(MudRoomDb db, IReadOnlyList<int> ids) =>
        db.Lots.Where(l => ids.Contains(l.Id)).OrderBy(l => l.Id).ToListAsync();

    /// <summary>Of some lots those that were split off others, and what was split off them; the youngest first.</summary>
    public static async Task<IReadOnlyList<Lot>> Children(MudRoomDb db, IReadOnlyList<int> ids)
    {
        var own = await ByIds(db, ids);
        var off = await db.Lots.Where(l => ids.Contains(l.ParentId!.Value)).ToListAsync();
        return [.. own.Where(l => l.ParentId is not null).Concat(off).DistinctBy(l => l.Id).OrderByDescending(l => l.Id)];
    }

    /// <summary>What stands of some lots, wherever.</summary>
    public static async Task<IReadOnlyList<Balance>> Balances(MudRoomDb db, IReadOnlyList<int> ids) =>
        [.. (await db.Balances.Where(b => ids.Contains(b.LotId!.Value)).OrderBy(b => b.Id).ToListAsync()).Where(b => b.Quantity > 0)];

    /// <summary>What stands of the lots of a receipt, wherever.</summary>
    public static async Task<IReadOnlyList<Balance>> OfReceipt(MudRoomDb db, int receiptId) =>
        await Balances(db, await db.Lots.Where(l => l.ReceiptId == receiptId).Select(l => l.Id).ToListAsync());

    /// <summary>Of some lots those of which all that is said lets something be done.</summary>
    public static async Task<IReadOnlyList<int>> Letting(MudRoomDb db, SiteStandings standings, IReadOnlyList<int> ids, Lets lets)
    {
        var said = (await Said(db, ids)).ToLookup(s => s.LotId);
        return [.. ids.Where(id => Statements.LetsOf(said[id], standings).HasFlag(lets))];
    }

    /// <summary>Of some lots those that are bound to a customer's return, with the holds that bind them.</summary>
    public static async Task<IReadOnlyDictionary<int, string>> BoundToReturns(MudRoomDb db, IReadOnlyList<Lot> lots)
    {
        var ids = lots.Select(l => l.Id).ToList();
        return await db
            .Statements.Where(s => ids.Contains(s.LotId) && s.SettledAt == null)
            .Join(db.Holds.Where(h => h.Reason == HoldReason.CustomerReturn), s => s.HoldId, h => h.Id, (s, h) => new { s.LotId, h.Number })
            .ToDictionaryAsync(x => x.LotId, x => x.Number);
    }

    /// <summary>What is said of some lots now.</summary>
    public static Task<List<Statement>> Said(MudRoomDb db, IReadOnlyList<int> ids) =>
        db.Statements.Where(s => ids.Contains(s.LotId) && s.SettledAt == null).ToListAsync();
}
