using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>What is printed of a tally: a sheet to count on when the power fails, the claim over what was wrong, and the receipt.</summary>
public static class ArrivalPrints
{
    const int MostPictures = 20;
    const float Left = Sheet.Left;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/tally-sheet/{number}", Right.See, TallySheet);
        routes.Ask("/door/claim/{number}", Right.See, Claim);
        routes.Ask("/door/claim/{number}/csv", Right.See, ClaimCsv);
        routes.Ask("/door/receipt/{number}", Right.See, ReceiptSheet);
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> TallySheet(Visit visit, string number)
    {
        var arrival = await visit.Db.Arrivals.Numbered(visit.Site, number);
        if (arrival is null) return Problems.Of(Problems.NotFound("arrival", number));
        var manifest = await ArrivalPage.Manifest(visit, arrival.Id);
        return Pdf(arrival.Number, new SheetContent(
            $"Tally {arrival.Number}",
            [
                $"{visit.Site.Name}, {visit.Local(visit.Now):yyyy-MM-dd HH:mm}: {arrival.Vehicle} {arrival.ContainerNumber ?? arrival.Plate} {arrival.Haulier}",
                "Count each line and write it down; type it in when the power is back. Seal found: ______________  Counted by: ______________",
            ],
            [new("Order", Left), new("Item", 120, false), new(visit.Site.Door.Blind ? "Unit" : "On paper", 270), new("Counted", 336), new("Batch, dates", 410), new("Damaged", 506)],
            [.. manifest.Select(m => new[] { $"{m.Order}-{m.Line}", m.ItemName, visit.Site.Door.Blind ? m.Unit : $"{Quantities.Show(m.Expected)} {m.Unit}", Sheet.Blank, Sheet.Blank, Sheet.Blank })],
            ["Not on this sheet (item, vendor, how many): ____________________________________________________"], [], 26));
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Claim(Visit visit, string number)
    {
        var arrival = await visit.Db.Arrivals.Numbered(visit.Site, number);
        if (arrival is null) return Problems.Of(Problems.NotFound("arrival", number));
        var rows = await Differences(visit, arrival);
        var pictures = await visit.Db.Attachments.Where(a => a.ArrivalId == arrival.Id && a.MediaType.StartsWith("image/")).OrderBy(a => a.Id).Take(MostPictures).ToListAsync();
        return Pdf(arrival.Number, new SheetContent(
            $"Claim {arrival.Number}",
            [
                $"{visit.Site.Name}: {arrival.Vehicle} {arrival.ContainerNumber ?? arrival.Plate} {arrival.Haulier}, at door {(arrival.AtDoorAt is { } at ? visit.Local(at).ToString("yyyy-MM-dd HH:mm") : "not yet")}",
                $"Seal on paper {arrival.Seal ?? "none"}, found {arrival.SealFound ?? "not noted"}{(arrival.SealReason is null ? "" : $" ({arrival.SealReason})")}. Delivery notes {string.Join(", ", arrival.DeliveryNotes.Select(n => n.Number))}",
            ],
            [new("What", Left, false), new("Vendor", 112, false), new("Order", 210), new("Item", 272, false), new("How many", 376), new("In words", 442, false)],
            [.. rows.Select(r => new[] { Discrepancies.Word(r.Kind), r.Vendor, r.Order, r.Item, $"{Quantities.Show(r.Quantity)} {r.Unit}", r.Sentence })],
            [rows.Count == 0 ? "Nothing was over, short or damaged." : $"{rows.Count} differences.", "For the carrier: ______________________     For us: ______________________"],
            [.. pictures.Select(p => ($"{p.Name}, {p.By}, {visit.Local(p.At):yyyy-MM-dd HH:mm}", p.Content))]));
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ClaimCsv(Visit visit, string number)
    {
        var arrival = await visit.Db.Arrivals.Numbered(visit.Site, number);
        if (arrival is null) return Problems.Of(Problems.NotFound("arrival", number));
        var rows = await Differences(visit, arrival);
        return TypedResults.File(
            CsvOut.Write(["arrival", "what", "vendor", "order", "item", "quantity", "unit", "sentence", "at"], rows.Select(r => new object?[] { arrival.Number, Discrepancies.Word(r.Kind), r.Vendor, r.Order, r.Item, r.Quantity, r.Unit, r.Sentence, r.At })),
            "text/csv; charset=utf-8", $"claim-{arrival.Number}.csv");
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ReceiptSheet(Visit visit, string number)
    {
        var receipt = await visit.Db.Receipts.FirstOrDefaultAsync(r => r.SiteId == visit.Site.Id && r.Number == number);
        if (receipt is null) return Problems.Of(Problems.NotFound("receipt", number));
        var arrival = await visit.Db.Arrivals.FirstAsync(a => a.Id == receipt.ArrivalId);
        var entries = await visit.Db.TallyEntries.Where(e => e.ReceiptId == receipt.Id && e.TakenBackAt == null).ToListAsync();
        var parts = entries.Select(e => e.PartId).ToList();
        var orders = await visit.Db.LineParts.Where(p => parts.Contains(p.Id)).Select(p => new { p.Id, Order = p.Line!.Order!.Number, Line = p.Line.Number }).ToDictionaryAsync(p => p.Id);
        var batchIds = entries.Select(e => e.BatchId).ToList();
        var batches = await visit.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id, b => b.Number);
        return Pdf(receipt.Number, new SheetContent(
            receipt.Number,
            [
                $"{visit.SetUp.Vendors[receipt.VendorId].Name}, delivery note {receipt.DeliveryNote}, arrival {arrival.Number}",
                $"Posted at {visit.Site.Name} on {visit.Local(receipt.PostedAt):yyyy-MM-dd HH:mm} by {receipt.PostedBy}{(receipt.ReversedAt is { } at ? $"; reversed {visit.Local(at):yyyy-MM-dd HH:mm}" : "")}",
            ],
            [new("Order", Left), new("Item", 130, false), new("Received", 300), new("Batch", 390), new("Standing", 490, false)],
            [.. entries.GroupBy(e => (e.PartId, e.ItemId, e.BatchId, e.Standing)).Select(g =>
            {
                var item = visit.SetUp.Catalogue[g.Key.ItemId];
                var order = g.Key.PartId is { } p ? $"{orders[p].Order}-{orders[p].Line}" : "on no order";
                return new[] { order, item.Name, $"{Quantities.Show(g.Sum(e => e.Quantity))} {item.UnitWord}", g.Key.BatchId is { } b ? batches[b] : "", Core.Book.Standings.Word(g.Key.Standing) };
            })],
            [$"{entries.Count} counts."], []));
    }

    sealed record Difference(DiscrepancyKind Kind, string Vendor, string Order, string Item, decimal Quantity, string Unit, string Sentence, DateTime At);

    static async Task<List<Difference>> Differences(Visit visit, Arrival arrival)
    {
        var found = await visit.Db.Discrepancies.Where(d => d.ArrivalId == arrival.Id && !d.TakenBack).OrderBy(d => d.Id).ToListAsync();
        var parts = found.Select(d => d.PartId).ToList();
        var orders = await visit.Db.LineParts.Where(p => parts.Contains(p.Id)).Select(p => new { p.Id, p.VendorId, Order = p.Line!.Order!.Number, Line = p.Line.Number }).ToDictionaryAsync(p => p.Id);
        return [.. found.Select(d =>
        {
            var item = d.ItemId is { } i ? visit.SetUp.Catalogue[i] : null;
            var order = d.PartId is { } p ? orders[p] : null;
            return new Difference(
                d.Kind, order is null ? "" : visit.SetUp.Vendors[order.VendorId].Name, order is null ? "" : $"{order.Order}-{order.Line}", item?.Name ?? "not known yet", d.Quantity, item?.UnitWord ?? "", d.Sentence, visit.Local(d.At));
        })];
    }

    static FileContentHttpResult Pdf(string name, SheetContent content) => TypedResults.File(Sheet.Draw(content), "application/pdf", $"{name}.pdf");
}
