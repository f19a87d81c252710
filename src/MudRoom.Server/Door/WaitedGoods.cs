using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>Who waits for what is counted on a line part.</summary>
/// <param name="Waited">How much of it they still wait for, in base units.</param>
public sealed record WaitedOnLine(Reservation Reservation, decimal Waited);

/// <summary>Goods that somebody waits for: kept for them from their count on.</summary>
public static class WaitedGoods
{
    /// <summary>By line part, for whom what is counted on it is kept; none for parts for which nobody waits any more.</summary>
    /// <param name="isAside">True where it is counted aside.</param>
    public static async Task<IReadOnlyDictionary<int, WaitedOnLine>> On(
        Act act,
        IEnumerable<ManifestLine> lines,
        IReadOnlyList<Share> shares,
        bool isAside
    )
    {
        var kept = new Dictionary<int, WaitedOnLine>();
        foreach (var line in lines.Where(l => shares.Any(s => s.PartId == l.PartId)))
        {
            var part = line.Part!;
            var waited = CountGoods.ViewOf(line).Waited;
            if (waited <= 0 || part.WaitingFor is not { } who)
                continue;
            if (!Reservation.Keeps(isAside, part.Line!.Order!.Kind == OrderKind.CustomerReturn))
                continue;
            var there = await act.Db.Reservations.FirstOrDefaultAsync(r => r.PartId == part.Id && r.For == who);
            if (there is null)
            {
                there = new Reservation
                {
                    SiteId = act.Site.Id,
                    PartId = part.Id,
                    For = who,
                    By = part.WaitingBy,
                    Since = act.Now,
                };
                act.Db.Reservations.Add(there);
                await act.Db.SaveChangesAsync();
            }

            kept[part.Id] = new WaitedOnLine(there, waited);
        }

        return kept;
    }
}
