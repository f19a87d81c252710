using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>A characteristic of a vendor's lots that will fail, or does not go on as it did.</summary>
/// <param name="Last">The last of the lots.</param>
public sealed record ChartWarning(PastLot Last, Characteristic Of, Outlook Seen);

/// <summary>What charts warn of, while nobody has told the buyer: one of each plan, item and vendor, the one that goes worst.</summary>
public static class ChartWarnings
{
    /// <summary>The last lot was signed no longer ago: what nobody cared about for a week is no news.</summary>
    static readonly TimeSpan news = TimeSpan.FromDays(7);

    public static async Task<IReadOnlyList<ChartWarning>> Of(Inquiry inquiry)
    {
        var past = PastLots.Of(inquiry);
        var seen = (await past.LotsSignedSince(inquiry.Now - news))
            .SelectMany(lots => past.CharacteristicsOf(lots.Last()).Select(c => new ChartWarning(lots.Last(), c, past.Outlook(lots, c))))
            .Where(w => w.Seen.IsWarning)
            .ToList();
        var numbers = seen.Select(w => w.Last.Number).Distinct().ToList();
        var entries =
            numbers.Count == 0
                ? []
                : await (await inquiry.History())
                    .AboutAny(ReferenceKind.Inspection, numbers)
                    .Where(e => e.SiteId == inquiry.Site.Id && e.Kind == EntryKind.BuyerTold)
                    .ToListAsync();
        var told = entries.Select(e => (e.Subject, (e.What as BuyerTold)?.Characteristic)).ToHashSet();
        return
        [
            .. seen.Where(w => !told.Contains((w.Last.Number, w.Of.Name)))
                .GroupBy(w => (w.Last.ItemId, w.Last.VendorId, w.Last.PlanId))
                .Select(g => g.OrderBy(w => w.Seen.State).ThenBy(w => w.Seen.Drift?.PassesIn).First()),
        ];
    }
}
