using Microsoft.EntityFrameworkCore;
using MudRoom.Data;

namespace MudRoom.Server.Cage;

/// <summary>What goods are worth.</summary>
public static class Prices
{
    /// <summary>The last price of an order, per base unit, by item; items that were never ordered with one are left out.</summary>
    public static async Task<IReadOnlyDictionary<int, decimal?>> Last(MudRoomDb db, IReadOnlyList<int> items) =>
        await db
            .OrderLines.Where(l => items.Contains(l.ItemId) && l.Price != null)
            .GroupBy(l => l.ItemId)
            .Select(g => new { Item = g.Key, Last = g.OrderByDescending(l => l.Id).Select(l => l.Price).First() })
            .ToDictionaryAsync(p => p.Item, p => p.Last);
}
