using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>What is printed of a tally: a sheet to count on when the power fails, and the receipt.</summary>
public static class ArrivalPrints
{
    const float Left = Sheet.Left;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/tally-sheet/{number}", Right.See, TallySheet);
        routes.Ask("/door/receipt/{number}", Right.See, ReceiptSheet);
        routes.Ask("/door/return/{number}", Right.See, ReturnSheet);
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> TallySheet(Inquiry inquiry, string number)
    {
        var arrival = await inquiry.Db.Arrivals.Numbered(inquiry.Site, number);
        if (arrival is null)
            return Problems.Of(Problems.NotFound("arrival", number));
        var manifest = await ArrivalPage.Manifest(inquiry, arrival.Id);
        return Pdf(
            arrival.Number,
            new SheetContent(
                $"Tally {arrival.Number}",
                [
                    $"{inquiry.Site.Name}, {inquiry.Local(inquiry.Now):yyyy-MM-dd HH:mm}: {arrival.Vehicle} "
                        + $"{arrival.ContainerNumber ?? arrival.Plate} {arrival.Haulier}",
                    "Count each line and write it down; type it in when the power is back. Seal found: ______________  Counted by: "
                        + "______________",
                ],
                [
                    new("Order", Left),
                    new("Item", 120, false),
                    new(inquiry.DoorSettings.Blind ? "Unit" : "On paper", 270),
                    new("Counted", 336),
                    new("Batch, dates", 410),
                    new("Damaged", 506),
                ],
                [
                    .. manifest.Select(m =>
                        new[]
                        {
                            $"{m.Order}-{m.Line}",
                            m.ItemName,
                            inquiry.DoorSettings.Blind ? m.Unit : $"{Quantities.Show(m.Expected)} {m.Unit}",
                            Sheet.Blank,
                            Sheet.Blank,
                            Sheet.Blank,
                        }
                    ),
                ],
                ["Not on this sheet (item, vendor, how many): ____________________________________________________"],
                [],
                26
            )
        );
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ReceiptSheet(Inquiry inquiry, string number)
    {
        var receipt = await inquiry.Db.Receipts.FirstOrDefaultAsync(r => r.SiteId == inquiry.Site.Id && r.Number == number);
        if (receipt is null)
            return Problems.Of(Problems.NotFound("receipt", number));
        var arrival = await inquiry.Db.Arrivals.FirstAsync(a => a.Id == receipt.ArrivalId);
        var entries = await inquiry.Db.TallyEntries.Where(e => e.ReceiptId == receipt.Id && e.TakenBackAt == null).ToListAsync();
        var parts = entries.Select(e => e.PartId).ToList();
        var orders = await inquiry
            .Db.LineParts.Where(p => parts.Contains(p.Id))
            .Select(p => new
            {
                p.Id,
                Order = p.Line!.Order!.Number,
                Line = p.Line.Number,
            })
            .ToDictionaryAsync(p => p.Id);
        var batchIds = entries.Select(e => e.BatchId).ToList();
        var batches = await inquiry.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id, b => b.Number);
        return Pdf(
            receipt.Number,
            new SheetContent(
                receipt.Number,
                [
                    $"{inquiry.SetUp.Vendors[receipt.VendorId].Name}, delivery note {receipt.DeliveryNote}, arrival {arrival.Number}",
                    $"Posted at {inquiry.Site.Name} on {inquiry.Local(receipt.PostedAt):yyyy-MM-dd HH:mm} by "
                        + $"{receipt.PostedBy}{(receipt.ReversedAt is { } at ? $"; reversed {inquiry.Local(at):yyyy-MM-dd HH:mm}" : "")}",
                ],
                [new("Order", Left), new("Item", 130, false), new("Received", 300), new("Batch", 390), new("Standing", 490, false)],
                [
                    .. entries
                        .GroupBy(e => (e.PartId, e.ItemId, e.BatchId, e.Standing))
                        .Select(g =>
                        {
                            var item = inquiry.SetUp.Catalogue[g.Key.ItemId];
                            var order = g.Key.PartId is { } p ? $"{orders[p].Order}-{orders[p].Line}" : "on no order";
                            return new[]
                            {
                                order,
                                item.Name,
                                $"{Quantities.Show(g.Sum(e => e.Quantity))} {item.UnitWord}",
                                g.Key.BatchId is { } b ? batches[b] : "",
                                inquiry.Standings.Word(g.Key.Standing),
                            };
                        }),
                ],
                [$"{entries.Count} counts."],
                []
            )
        );
    }

    /// <summary>The paper that goes with goods back to their vendor: what, of which delivery, why, and what is claimed.</summary>
    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ReturnSheet(Inquiry inquiry, string number)
    {
        var all = await inquiry
            .Db.VendorReturns.Where(r => r.SiteId == inquiry.Site.Id && (r.Number == number || r.Number.StartsWith(number + "/")))
            .OrderBy(r => r.Id)
            .ToListAsync();
        if (all.Count == 0)
            return Problems.Of(Problems.NotFound("return", number));
        var receipt = await inquiry.Db.Receipts.FirstAsync(r => r.Id == all[0].ReceiptId);
        var vendor = inquiry.SetUp.Vendors[receipt.VendorId];
        var partIds = all.Select(r => r.PartId).ToList();
        var orders = await inquiry
            .Db.LineParts.Where(p => partIds.Contains(p.Id))
            .Select(p => new
            {
                p.Id,
                Order = p.Line!.Order!.Number,
                Line = p.Line.Number,
            })
            .ToDictionaryAsync(p => p.Id);
        var batchIds = all.Select(r => r.BatchId).ToList();
        var batches = await inquiry.Db.Batches.Include(b => b.SourceBatch).Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        return Pdf(
            number,
            new SheetContent(
                $"Return {number}",
                [
                    $"To {vendor.Name}: goods of delivery note {receipt.DeliveryNote}, our receipt {receipt.Number}",
                    $"From {inquiry.Site.Name}, {inquiry.Local(all[0].At):yyyy-MM-dd HH:mm}, {all[0].By}",
                ],
                [new("Order", Left), new("Item", 118, false), new("Quantity", 285), new("Your batch", 355), new("Claimed", 440, false)],
                [
                    .. all.Select(r =>
                    {
                        var item = inquiry.SetUp.Catalogue[r.ItemId];
                        return new[]
                        {
                            r.PartId is { } part && orders.TryGetValue(part, out var o) ? $"{o.Order}-{o.Line}" : "on no order",
                            item.Name,
                            $"{Quantities.Show(r.Quantity)} {item.UnitWord}",
                            r.BatchId is { } b ? batches[b].SourceBatch?.Number ?? batches[b].Number : "",
                            r.Consequence,
                        };
                    }),
                ],
                [$"Why: {all[0].Reason}", "Handed over to: ______________________________  Date: ______________"],
                []
            )
        );
    }

    /// <summary>A sheet as a file.</summary>
    public static FileContentHttpResult Pdf(string name, SheetContent content) =>
        TypedResults.File(Sheet.Draw(content), "application/pdf", $"{name}.pdf");
}
