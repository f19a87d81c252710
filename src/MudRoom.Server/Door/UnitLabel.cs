using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;

namespace MudRoom.Server.Door;

/// <summary>The label of one unit: as a picture to look at, or as a PDF of its true size (a6, 4x6) to print.</summary>
public static class UnitLabel
{
    public static void Map(SiteRoutes routes) => routes.Ask("/door/label/{sscc}", Right.See, Run);

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Run(Visit visit, string sscc, string? size)
    {
        var unit = await visit.Db.Units.FirstOrDefaultAsync(u => u.SiteId == visit.Site.Id && u.Sscc == sscc);
        if (unit is null) return Problems.Of(Problems.NotFound("unit", sscc));
        var on = await visit.Db.Balances.Where(b => b.UnitId == unit.Id).ToListAsync();
        var batchIds = on.Select(b => b.BatchId).ToList();
        var batches = await visit.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        var lines = on.Select(b =>
        {
            var item = visit.SetUp.Catalogue[b.ItemId];
            var batch = b.BatchId is { } id ? batches[id] : null;
            return new LabelLine(item.Name, $"{Quantities.Show(b.Quantity)} {item.UnitWord}", batch?.Number, batch?.Expiry?.ToString("yyyy-MM-dd"));
        }).ToList();
        return size switch
        {
            "a6" => TypedResults.File(LogisticLabel.Pdf(unit.Sscc, visit.Site.Name, lines, LogisticLabel.A6), "application/pdf", $"{unit.Sscc}.pdf"),
            "4x6" => TypedResults.File(LogisticLabel.Pdf(unit.Sscc, visit.Site.Name, lines, LogisticLabel.FourBySix), "application/pdf", $"{unit.Sscc}.pdf"),
            _ => TypedResults.File(LogisticLabel.Draw(unit.Sscc, visit.Site.Name, lines), "image/png", $"{unit.Sscc}.png"),
        };
    }
}
