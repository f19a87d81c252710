using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>Says of counts that are to be undone what must be undone before them.</summary>
public static class Undoing
{
    const int MostNamed = 6,
        MostPlaces = 3;

    /// <summary>Null when all goods of the counts still stand free where they were counted in; else where they are now.</summary>
    /// <param name="papersOnly">True when the counts themselves stay, so that goods may have been judged since.</param>
    public static async Task<Refusal?> First(Act act, IReadOnlyList<TallyEntry> entries, bool papersOnly)
    {
        var (items, bins) = (entries.Select(e => e.ItemId).Distinct().ToList(), entries.Select(e => e.BinId).Distinct().ToList());
        var stock = await act
            .Db.Balances.Where(b => b.SiteId == act.Site.Id && items.Contains(b.ItemId) && bins.Contains(b.BinId))
            .ToListAsync();
        var taken = await act
            .Db.Tasks.Where(j =>
                j.SiteId == act.Site.Id && j.State == TaskState.Taken && items.Contains(j.ItemId) && bins.Contains(j.AtBinId)
            )
            .ToListAsync();
        var counted = entries.Select(e => new CountedGoods(
            new Goods(e.ItemId, e.BatchId, e.UnitId, e.Serial, e.LotId),
            e.BinId,
            papersOnly ? null : e.Standing,
            e.Quantity
        ));
        var gone = GoneFurther.Of(counted, stock, taken);
        if (gone.Count == 0)
            return null;
        var elsewhere = await Elsewhere(act, gone);
        var drivers = taken.ToLookup(j => (j.Goods, j.AtBinId), j => j.PersonName!);
        var sentences = gone.GroupBy(g => (g.Counted.Goods.ItemId, g.Counted.BinId))
            .Select(g => Sentence(act.SetUp, [.. g], elsewhere, g.SelectMany(x => drivers[(x.Counted.Goods.OfAnyLot, x.Counted.BinId)])))
            .ToList();
        return new Refusal(
            DoorRefusals.GoneFurther,
            string.Join(" ", sentences.Take(MostNamed)) + (sentences.Count > MostNamed ? $" And {sentences.Count - MostNamed} more." : ""),
            Next(gone)
        );
    }

    /// <summary>Stock that stands elsewhere, of the items that have left their receiving place.</summary>
    static async Task<List<Balance>> Elsewhere(Act act, IReadOnlyList<GoneGoods> gone)
    {
        var left = gone.Where(g => g.Left > 0).Select(g => g.Counted).ToList();
        var (items, bins) = (left.Select(c => c.Goods.ItemId).Distinct().ToList(), left.Select(c => c.BinId).Distinct().ToList());
        return items.Count == 0
            ? []
            : await act
                .Db.Balances.Where(b => b.SiteId == act.Site.Id && items.Contains(b.ItemId) && !bins.Contains(b.BinId))
                .ToListAsync();
    }

    static string Sentence(SetUp setUp, List<GoneGoods> gone, List<Balance> elsewhere, IEnumerable<string> drivers)
    {
        var counted = gone[0].Counted;
        var item = setUp.Catalogue[counted.Goods.ItemId];
        var place = setUp.Address(counted.BinId);
        string Of(decimal quantity) => $"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name}";
        var places = elsewhere
            .Where(b => gone.Any(g => g.Left > 0 && g.Counted.Goods.Recognises(b.Goods)))
            .Select(b => setUp.Address(b.BinId))
            .Distinct()
            .Order(StringComparer.Ordinal)
            .ToList();
        List<string> parts = [];
        if (gone.Sum(g => g.Left) is > 0 and var left)
            parts.Add(
                $"{Of(left)} left {place}"
                    + (places.Count == 0 ? "" : $" and {(left == 1 ? "stands" : "stand")} in {string.Join(", ", places.Take(MostPlaces))}")
                    + (places.Count > MostPlaces ? " and elsewhere." : ".")
            );
        if (gone.Sum(g => g.Taken) is > 0 and var onTasks)
            parts.Add($"{Of(onTasks)} in {place} {(onTasks == 1 ? "is" : "are")} on a task of {string.Join(" and ", drivers.Distinct())}.");
        if (gone.Sum(g => g.Judged) is > 0 and var judged)
            parts.Add($"{Of(judged)} in {place} {(judged == 1 ? "was" : "were")} judged, held or released since the count.");
        return string.Join(" ", parts);
    }

    static string Next(IReadOnlyList<GoneGoods> gone)
    {
        List<string> steps = [];
        if (gone.Any(g => g.Left > 0))
            steps.Add("bring back what was put away");
        if (gone.Any(g => g.Taken > 0))
            steps.Add("have the task given back");
        if (gone.Any(g => g.Judged > 0))
            steps.Add("have the bench or the cage take its decision back");
        var all = string.Join(", then ", steps);
        return char.ToUpperInvariant(all[0]) + all[1..] + ". Then try again.";
    }
}
