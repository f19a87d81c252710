using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Data;

namespace MudRoom.Server.Road;

/// <summary>What open arrivals carry of some line parts: a part may come on several vehicles, and each says how much is aboard.</summary>
sealed class Aboard(ILookup<int, (string Arrival, decimal Quantity)> byPart)
{
    /// <summary>Reads it.</summary>
    /// <param name="but">An arrival that is left out: the one that is worked on.</param>
    public static async Task<Aboard> Read(MudRoomDb db, IReadOnlyCollection<int> partIds, int? but = null)
    {
        var rows = await db
            .ManifestLines.Where(m => partIds.Contains(m.PartId) && m.ArrivalId != but)
            .Join(db.Arrivals.Open(), m => m.ArrivalId, a => a.Id, (m, a) => new { Line = m, a.Number })
            .AsNoTracking()
            .ToListAsync();
        return new Aboard(rows.ToLookup(r => r.Line.PartId, r => (r.Number, r.Line.StillAboard)));
    }

    /// <summary>The arrivals that carry any of them.</summary>
    public IReadOnlyList<string> Arrivals { get; } =
    [.. byPart.SelectMany(p => p).Select(p => p.Arrival).Distinct().Order(StringComparer.Ordinal)];

    /// <summary>The arrivals that carry a part.</summary>
    public IReadOnlyList<string> Of(LinePart part) => [.. byPart[part.Id].Select(p => p.Arrival)];

    /// <summary>What may still be put on a vehicle.</summary>
    public decimal Free(LinePart part) => part.Free(byPart[part.Id].Sum(p => p.Quantity));
}
