using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>One label for each pack of a count that stands loose: item, GTIN, own batch.</summary>
/// <param name="Packs">How many; a broken pack gets a label too.</param>
/// <param name="Banner">What has to be seen first, or null.</param>
sealed record PackLabels(Item Item, PackLevel Pack, decimal Packs, Batch? Batch, string? Banner)
{
    const int MostCopies = 200;

    public string Title => $"{Item.Name}, {Pack.Name}";
    public IReadOnlyList<LabelElement> Code => LabelCodes.OfPack(Pack, Batch?.Number);
    public LabelLine Line => UnitLabel.LineOf(Item, Pack.Content(1), Batch);
    public int Copies => (int)Math.Clamp(Math.Ceiling(Packs), 1, MostCopies);

    public LabelContent Content(string from) => new(from, null, Code, [Line], Banner, Pack.PackageType);

    /// <summary>The labels of one pack level of a count, as its goods stood when they were counted.</summary>
    public static async Task<Outcome<PackLabels>> Of(MudRoomDb db, SetUp setUp, WarehouseSite site, Guid count, string pack)
    {
        var entries = await db
            .TallyEntries.AsNoTracking()
            .Where(e =>
                e.ActId == count
                && e.PackName == pack
                && e.TakenBackAt == null
                && db.Arrivals.Any(a => a.Id == e.ArrivalId && a.SiteId == site.Id)
            )
            .ToListAsync();
        if (entries is not [var first, ..])
            return Problems.NotFound("count", count.ToString());
        var item = setUp.Catalogue[first.ItemId];
        if (item.LabelledPack(pack) is not { } level)
            return new Refusal(
                DoorRefusals.LabelNone,
                $"{item.Name} was counted by {pack}: no pack of it gets a label.",
                "Count it in packs to label them."
            );
        if (first.UnitId is not null)
            return new Refusal(DoorRefusals.LabelUnit, "These goods stand on a unit.", "Print the label of the unit.");
        var batch = first.BatchId is { } id ? await db.Batches.AsNoTracking().FirstAsync(b => b.Id == id) : null;
        return new PackLabels(
            item,
            level,
            entries.Sum(e => e.Packs),
            batch,
            LabelCodes.Banner(setUp.Standings[site.Id][first.Standing], first.AsideReason, null)
        );
    }
}
