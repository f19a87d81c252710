using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;

namespace MudRoom.Server.Door;

/// <summary>The label of one unit: as a picture to look at, or as a PDF of its true size (a6, 4x6) to print.</summary>
public static class UnitLabel
{
    public static void Map(SiteRoutes routes) => routes.Ask("/door/label/{sscc}", Right.See, Run, BlindView.Open);

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Run(Inquiry inquiry, string sscc, string? size)
    {
        var unit = await inquiry.Db.Units.FirstOrDefaultAsync(u => u.SiteId == inquiry.Site.Id && u.Sscc == sscc);
        if (unit is null)
            return Problems.Of(Problems.NotFound("unit", sscc));
        var label = await Content(inquiry.Db, inquiry.SetUp, inquiry.Site, unit);
        return size is "a6" or "4x6"
            ? TypedResults.File(LogisticLabel.Pdf(label, LogisticLabel.Size(size)), "application/pdf", $"{unit.Sscc}.pdf")
            : TypedResults.File(LogisticLabel.Draw(label), "image/png", $"{unit.Sscc}.png");
    }

    /// <summary>The label of a unit as it stands now.</summary>
    public static async Task<LabelContent> Content(MudRoomDb db, SetUp setUp, WarehouseSite site, LogisticUnit unit)
    {
        var on = StockLine.Of(await db.Balances.AsNoTracking().Where(b => b.UnitId == unit.Id).OrderBy(b => b.Id).ToListAsync());
        var batchIds = on.Select(b => b.BatchId).ToList();
        var batches = await db.Batches.AsNoTracking().Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        return new LabelContent(
            site.Name,
            unit.Sscc,
            on.Count == 1 ? LabelCodes.Contained(setUp.Catalogue[on[0].ItemId], on[0].Quantity) : [],
            [.. on.Select(b => LineOf(setUp.Catalogue[b.ItemId], b.Quantity, b.BatchId is { } id ? batches[id] : null))],
            on.Count > 0 ? LabelCodes.Banner(setUp.Standings[unit.SiteId][on[0].Standing], null, null) : null,
            unit.PackageType
        );
    }

    /// <summary>One line of a label.</summary>
    public static LabelLine LineOf(Item item, decimal quantity, Batch? batch) =>
        new(
            item.Name,
            $"{Quantities.Show(quantity)} {item.UnitWord}",
            batch?.Number,
            batch?.Expiry?.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture)
        );
}
