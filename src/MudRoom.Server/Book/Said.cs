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
    /// <summary>What holds and inspections say of lots now. What is kept for somebody keeps nobody from using it.</summary>
    public static IQueryable<Statement> Open(MudRoomDb db) => db.Statements.Where(s => s.SettledAt == null && s.ReservationId == null);

    /// <summary>By lot, the holds and inspections that say something of it now.</summary>
    public static async Task<ILookup<int, Said>> OfLots(MudRoomDb db, IReadOnlyCollection<int> lots) =>
        (
            await Open(db)
                .Where(s => lots.Contains(s.LotId))
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
