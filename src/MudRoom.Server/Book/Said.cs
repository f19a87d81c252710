using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Data;

namespace MudRoom.Server.Book;

/// <summary>Who says something of a lot.</summary>
/// <param name="HoldId">The hold, or null for an inspection.</param>
/// <param name="Number">Its number.</param>
/// <param name="Asks">The standing it asks for.</param>
public sealed record Said(int? HoldId, string Number, Standing Asks)
{
    /// <summary>By lot, the holds and inspections that say something of it now.</summary>
    public static async Task<ILookup<int, Said>> OfLots(MudRoomDb db, IReadOnlyCollection<int> lots) =>
        (
            await db
                .Statements.Where(s => lots.Contains(s.LotId) && s.SettledAt == null && s.ReservationId == null)
                .Select(s => new
                {
                    s.LotId,
                    s.HoldId,
                    s.Asks,
                    Hold = db.Holds.Where(h => h.Id == s.HoldId).Select(h => h.Number).FirstOrDefault(),
                    Inspection = db.Inspections.Where(i => i.Id == s.InspectionId).Select(i => i.Number).FirstOrDefault(),
                })
                .ToListAsync()
        ).ToLookup(s => s.LotId, s => new Said(s.HoldId, s.Hold ?? s.Inspection ?? "", s.Asks));

    /// <summary>Their numbers, each once, in order.</summary>
    public static IReadOnlyList<string> Numbers(IEnumerable<Said> said) =>
        [.. said.Select(s => s.Number).Distinct().Order(StringComparer.Ordinal)];
}
