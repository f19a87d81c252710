using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Data;

namespace MudRoom.Server.Book;

/// <summary>Entries by which goods left the house or came back into it.</summary>
public static class Crossings
{
    /// <summary>Those of some lots; none by which they were counted in or that was taken back.</summary>
    public static async Task<IReadOnlyList<LedgerEntry>> OfLots(History history, IReadOnlyList<int> lots) =>
        lots.Count == 0
            ? []
            : (
                await history
                    .AboutAny(ReferenceKind.Lot, [.. lots.Select(l => new Reference(ReferenceKind.Lot, l).Id)])
                    .Where(e =>
                        e.Quantity != null
                        && (e.FromAccount == Account.Bin) != (e.ToAccount == Account.Bin)
                        && !RecallFinding.CountedIn.Contains(e.Kind)
                    )
                    .AsNoTracking()
                    .ToListAsync()
            )
                .DistinctBy(e => e.Seq)
                .ToList();

    /// <summary>What such entries come to: what left less what came back, in base units.</summary>
    public static decimal Left(IEnumerable<LedgerEntry> entries) =>
        entries.Sum(e => e.Movement!.From.IsInside ? e.Quantity!.Value : -e.Quantity!.Value);
}
