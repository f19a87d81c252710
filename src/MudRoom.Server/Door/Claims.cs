using System.IO.Compression;
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

/// <summary>The claim over what was wrong with an arrival: a sheet to sign, a table, and the table with its pictures in one file.</summary>
public static class Claims
{
    const int MostPictures = 20;
    const float Left = Sheet.Left;
    static readonly string[] columns = ["arrival", "what", "vendor", "order", "item", "quantity", "unit", "sentence", "at", "pictures"];

    sealed record Difference(
        DiscrepancyKind Kind,
        string Vendor,
        string Order,
        string Item,
        decimal Quantity,
        string Unit,
        string Sentence,
        DateTime At,
        IReadOnlyList<string> Pictures
    );

    sealed record Picture(int Id, string Name, string MediaType, int? PartId, Guid? ActId, string By, DateTimeOffset At)
    {
        /// <summary>Its name in the file of the claim.</summary>
        public string File => $"picture-{Id}.{(MediaType == "image/png" ? "png" : "jpg")}";

        /// <summary>True when it shows this difference: it was taken with the count, or of the line.</summary>
        public bool Shows(Discrepancy d) => ActId is { } act ? act == d.ActId : PartId is { } part && part == d.PartId;
    }

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/claim/{number}", Right.See, Pdf);
        routes.Ask("/door/claim/{number}/csv", Right.See, Csv);
        routes.Ask("/door/claim/{number}/zip", Right.See, Zip);
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Pdf(Inquiry inquiry, string number)
    {
        var arrival = await inquiry.Db.Arrivals.Numbered(inquiry.Site, number);
        if (arrival is null)
            return Problems.Of(Problems.NotFound("arrival", number));
        var pictures = (await Pictures(inquiry, arrival)).Take(MostPictures).ToList();
        var rows = await Differences(inquiry, arrival, pictures);
        var content = await Contents(inquiry, pictures);
        return ArrivalPrints.Pdf(
            arrival.Number,
            new SheetContent(
                $"Claim {arrival.Number}",
                [
                    $"{inquiry.Site.Name}: {arrival.Vehicle} {arrival.ContainerNumber ?? arrival.Plate} {arrival.Haulier}, at door "
                        + $"{(arrival.AtDoorAt is { } at ? inquiry.Local(at).ToString("yyyy-MM-dd HH:mm") : "not yet")}",
                    $"Seal on paper {arrival.Seal ?? "none"}, found "
                        + $"{arrival.SealFound ?? "not noted"}{(arrival.SealReason is null ? "" : $" ({arrival.SealReason})")}. "
                        + $"Delivery notes {string.Join(", ", arrival.DeliveryNotes.Select(n => n.Number))}",
                ],
                [
                    new("What", Left, false),
                    new("Vendor", 112, false),
                    new("Order", 210),
                    new("Item", 272, false),
                    new("How many", 376),
                    new("In words", 442, false),
                ],
                [
                    .. rows.Select(r =>
                        new[]
                        {
                            Discrepancies.Word(r.Kind),
                            r.Vendor,
                            r.Order,
                            r.Item,
                            $"{Quantities.Show(r.Quantity)} {r.Unit}",
                            r.Sentence,
                        }
                    ),
                ],
                [
                    rows.Count == 0 ? "Nothing was over, short or damaged." : $"{rows.Count} differences.",
                    "For the carrier: ______________________     For us: ______________________",
                ],
                [.. pictures.Select(p => ($"{Of(p, rows)}{p.Name}, {p.By}, {inquiry.Local(p.At):yyyy-MM-dd HH:mm}", content[p.Id]))]
            )
        );
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Csv(Inquiry inquiry, string number)
    {
        var arrival = await inquiry.Db.Arrivals.Numbered(inquiry.Site, number);
        if (arrival is null)
            return Problems.Of(Problems.NotFound("arrival", number));
        return TypedResults.File(
            Table(arrival, await Differences(inquiry, arrival, await Pictures(inquiry, arrival))),
            "text/csv; charset=utf-8",
            $"claim-{arrival.Number}.csv"
        );
    }

    /// <summary>The table and every picture it names.</summary>
    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Zip(Inquiry inquiry, string number)
    {
        var arrival = await inquiry.Db.Arrivals.Numbered(inquiry.Site, number);
        if (arrival is null)
            return Problems.Of(Problems.NotFound("arrival", number));
        var pictures = await Pictures(inquiry, arrival);
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            await Add(
                zip,
                $"claim-{arrival.Number}.csv",
                Table(arrival, await Differences(inquiry, arrival, pictures)),
                CompressionLevel.Optimal
            );
            foreach (var some in pictures.Chunk(MostPictures))
            {
                var content = await Contents(inquiry, some);
                foreach (var picture in some)
                    await Add(zip, picture.File, content[picture.Id], CompressionLevel.NoCompression);
            }
        }

        return TypedResults.File(file.ToArray(), "application/zip", $"claim-{arrival.Number}.zip");
    }

    static async Task Add(ZipArchive zip, string name, byte[] content, CompressionLevel level)
    {
        await using var entry = await zip.CreateEntry(name, level).OpenAsync();
        await entry.WriteAsync(content);
    }

    static byte[] Table(Arrival arrival, List<Difference> rows) =>
        CsvOut.Write(
            columns,
            rows.Select(r =>
                new object?[]
                {
                    arrival.Number,
                    Discrepancies.Word(r.Kind),
                    r.Vendor,
                    r.Order,
                    r.Item,
                    r.Quantity,
                    r.Unit,
                    r.Sentence,
                    r.At,
                    string.Join(" ", r.Pictures),
                }
            )
        );

    /// <summary>What a picture shows, before its name in the sheet.</summary>
    static string Of(Picture picture, List<Difference> rows) =>
        rows.Find(r => r.Pictures.Contains(picture.File)) is { } shown ? $"{shown.Item}, {Discrepancies.Word(shown.Kind)}: " : "";

    /// <summary>All pictures of the arrival, without their bytes.</summary>
    static Task<List<Picture>> Pictures(Inquiry inquiry, Arrival arrival) =>
        inquiry
            .Db.Attachments.Where(a => a.ArrivalId == arrival.Id && a.MediaType.StartsWith("image/"))
            .OrderBy(a => a.Id)
            .Select(a => new Picture(a.Id, a.Name, a.MediaType, a.PartId, a.ActId, a.By, a.At))
            .ToListAsync();

    static async Task<Dictionary<int, byte[]>> Contents(Inquiry inquiry, IEnumerable<Picture> pictures)
    {
        var ids = pictures.Select(p => p.Id).ToList();
        return await inquiry
            .Db.Attachments.Where(a => ids.Contains(a.Id))
            .Select(a => new { a.Id, a.Content })
            .ToDictionaryAsync(a => a.Id, a => a.Content);
    }

    static async Task<List<Difference>> Differences(Inquiry inquiry, Arrival arrival, List<Picture> pictures)
    {
        var found = await inquiry.Db.Discrepancies.Where(d => d.ArrivalId == arrival.Id && !d.TakenBack).OrderBy(d => d.Id).ToListAsync();
        var parts = found.Select(d => d.PartId).ToList();
        var orders = await inquiry
            .Db.LineParts.Where(p => parts.Contains(p.Id))
            .Select(p => new
            {
                p.Id,
                p.VendorId,
                Order = p.Line!.Order!.Number,
                Line = p.Line.Number,
            })
            .ToDictionaryAsync(p => p.Id);
        // Goods on no order were counted for a vendor.
        var acts = found.Where(d => d.PartId is null && d.ActId is not null).Select(d => d.ActId!.Value).Distinct().ToList();
        var vendors =
            acts.Count == 0
                ? []
                : (
                    await inquiry
                        .Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && acts.Contains(e.ActId))
                        .Select(e => new { e.ActId, e.VendorId })
                        .ToListAsync()
                )
                    .DistinctBy(e => e.ActId)
                    .ToDictionary(e => e.ActId, e => e.VendorId);
        return
        [
            .. found.Select(d =>
            {
                var item = d.ItemId is { } i ? inquiry.SetUp.Catalogue[i] : null;
                var order = d.PartId is { } p ? orders[p] : null;
                var vendor = order?.VendorId ?? (d.ActId is { } act && vendors.TryGetValue(act, out var named) ? named : null as int?);
                return new Difference(
                    d.Kind,
                    vendor is { } v ? inquiry.SetUp.Vendors[v].Name : "",
                    order is null ? "" : $"{order.Order}-{order.Line}",
                    item?.Name ?? "not known yet",
                    d.Quantity,
                    item?.UnitWord ?? "",
                    d.Sentence,
                    inquiry.Local(d.At),
                    [.. pictures.Where(x => x.Shows(d)).Select(x => x.File)]
                );
            }),
        ];
    }
}
