using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.RegularExpressions;
using MudRoom.Server.Labels;
using MudRoom.Tests;
using SkiaSharp;
using UglyToad.PdfPig;

namespace MudRoom.Server.Tests;

/// <summary>What is printed: sheets and labels as PDF of their true size, claims as CSV too.</summary>
public sealed partial class PrintTests(DemoServer server) : IClassFixture<DemoServer>
{
    [GeneratedRegex(@"/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]")]
    private static partial Regex Box();

    static string Pdf(byte[] bytes)
    {
        var text = Encoding.Latin1.GetString(bytes);
        Assert.StartsWith("%PDF-", text, StringComparison.Ordinal);
        Assert.Contains("%%EOF", text, StringComparison.Ordinal);
        return text;
    }

    static IEnumerable<(double Width, double Height)> Pages(byte[] bytes) =>
        Box()
            .Matches(Pdf(bytes))
            .Select(m =>
                (
                    double.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture),
                    double.Parse(m.Groups[2].Value, CultureInfo.InvariantCulture)
                )
            );

    /// <summary>Sizes by ISO 216 (A6) and by the inch of 25.4 mm; a point is a 72nd of an inch.</summary>
    [Theory]
    [InlineData(true, 105, 148)]
    [InlineData(false, 101.6, 152.4)]
    public void A_label_is_as_large_as_its_paper(bool isA6, double widthMm, double heightMm)
    {
        var (width, height) = Assert.Single(
            Pages(
                LogisticLabel.Pdf(
                    new Core.Door.LabelContent("Low Meadow", Core.Identification.Sscc.Make(3, "9521234", 1), [], []),
                    isA6 ? LogisticLabel.A6 : LogisticLabel.FourBySix
                )
            )
        );
        Assert.Equal(widthMm, width / 72 * 25.4, 0.2);
        Assert.Equal(heightMm, height / 72 * 25.4, 0.2);
    }

    /// <summary>A reason of two hundred characters is as much a part of the paper as a short one.</summary>
    [Fact]
    public void A_line_that_is_wider_than_the_paper_goes_on_in_the_next()
    {
        var reason = "Why: " + string.Join(' ', Enumerable.Range(1, 40).Select(i => $"rust{i}"));
        var heading = "To Terracotta Valmora: " + string.Join(' ', Enumerable.Range(1, 20).Select(i => $"note{i}"));
        var unbroken = new string('W', 130);
        using var pdf = PdfDocument.Open(Sheet.Draw(new SheetContent("Return V-1", [heading], [], [], [reason, unbroken, "Date:"], [])));
        var page = Assert.Single(pdf.GetPages());
        // As drawn, without the gaps that a reader of the paper would see.
        var drawn = string.Concat(page.Letters.Select(l => l.Value)).Replace(" ", "", StringComparison.Ordinal);
        foreach (var line in new[] { heading, reason, unbroken, "Date:" })
            Assert.Contains(line.Replace(" ", "", StringComparison.Ordinal), drawn, StringComparison.Ordinal);
        Assert.All(page.GetWords(), w => Assert.InRange(w.BoundingBox.Right, 0, page.Width - Sheet.Left + 1));
    }

    [Fact]
    public void A_long_sheet_goes_over_several_pages_and_each_picture_has_one()
    {
        using var bitmap = new SKBitmap(40, 30);
        using var image = SKImage.FromBitmap(bitmap);
        var picture = image.Encode(SKEncodedImageFormat.Png, 100).ToArray();
        SheetContent Of(int rows, params byte[][] pictures) =>
            new(
                "T",
                ["one"],
                [new("A", 42), new("B", 200, false)],
                [.. Enumerable.Range(0, rows).Select(i => new[] { $"{i}", Sheet.Blank })],
                ["end"],
                [.. pictures.Select(p => ("p", p))]
            );
        Assert.Single(Pages(Sheet.Draw(Of(0))));
        Assert.Single(Pages(Sheet.Draw(Of(10))));
        Assert.True(Pages(Sheet.Draw(Of(90))).Count() >= 3);
        Assert.Equal(3, Pages(Sheet.Draw(Of(1, picture, [1, 2, 3]))).Count());
    }

    [Theory]
    [InlineData("tally-sheet/A-2617")]
    [InlineData("claim/A-2617")]
    public async Task A_tally_is_printed_to_count_on_paper_and_to_claim(string path)
    {
        using var maren = await server.SignIn("maren");
        var answer = await maren.Http.GetAsync("/api/LM/door/" + path);
        Assert.Equal("application/pdf", answer.Content.Headers.ContentType!.MediaType);
        Every.One(Pages(await answer.Content.ReadAsByteArrayAsync()), p => Assert.Equal((595, 842), p));
        Assert.Equal("not-found", (await maren.Ask("/door/" + path.Replace("A-2617", "A-9999", StringComparison.Ordinal))).Code);
    }

    [Fact]
    public async Task The_claim_as_CSV_has_every_difference_the_tally_shows()
    {
        using var maren = await server.SignIn("maren");
        var shown = (await maren.Ask("/door/tally/A-2617"))["discrepancies"]
            .EnumerateArray()
            .Select(d => d.GetProperty("sentence").GetString()!)
            .Order()
            .ToList();
        Assert.NotEmpty(shown);
        var file = Exchange.Csv.CsvTable.Read(
            await maren.Http.GetStringAsync("/api/LM/door/claim/A-2617/csv"),
            ["arrival", "what", "quantity", "sentence"],
            ["vendor", "order", "item", "unit", "at", "pictures"],
            Exchange.FileHabits.Plain,
            row => shown.Remove(row.Raw("sentence"))
        );
        Assert.Empty(file.Faults);
        Assert.Empty(shown);
    }

    /// <summary>The carrier gets one file: the table, and beside it each picture under the name the table gives it.</summary>
    [Fact]
    public async Task The_claim_with_its_pictures_is_one_file_that_says_which_shows_what()
    {
        using var maren = await server.SignIn("maren");
        var photograph = (
            await maren.Act(
                "/road/arrivals/attach",
                new
                {
                    arrival = "A-2618",
                    name = "torn.png",
                    content = Convert.ToBase64String(Pictures.Png(60, 40)),
                }
            )
        )["id"].GetInt32();
        var counted = await maren.Act(
            "/door/count",
            Client.Count(
                "1",
                "A-2618",
                "FK-DG",
                "each",
                new
                {
                    aside = "Damaged",
                    note = "Handle split.",
                    pictures = new[] { photograph },
                }
            )
        );
        Assert.True(counted.IsOk, counted.Body.ToString());
        using var file = new ZipArchive(await maren.Http.GetStreamAsync("/api/LM/door/claim/A-2618/zip"));
        var named = new List<string>();
        using var table = new StreamReader(await file.GetEntry("claim-A-2618.csv")!.OpenAsync());
        Assert.Empty(
            Exchange
                .Csv.CsvTable.Read(
                    await table.ReadToEndAsync(),
                    ["sentence", "pictures"],
                    ["arrival", "what", "quantity", "vendor", "order", "item", "unit", "at"],
                    Exchange.FileHabits.Plain,
                    row =>
                    {
                        if (row.Raw("sentence").EndsWith("Handle split.", StringComparison.Ordinal))
                            named.Add(row.Raw("pictures"));
                    }
                )
                .Faults
        );
        var picture = file.GetEntry(Assert.Single(named))!;
        await using var db = server.Db();
        Assert.Equal(db.Attachments.Single(a => a.Id == photograph).Content.Length, picture.Length);
        Assert.Equal("not-found", (await maren.Ask("/door/claim/A-9999/zip")).Code);
    }

    [Fact]
    public async Task A_posted_receipt_is_printed()
    {
        using var maren = await server.SignIn("maren");
        await using var db = server.Db();
        var receipt = db.Receipts.First(r => r.SiteId == 1).Number;
        Assert.Single(Pages(await maren.Http.GetByteArrayAsync($"/api/LM/door/receipt/{receipt}")));
        Assert.Equal("not-found", (await maren.Ask("/door/receipt/R-9999")).Code);
    }
}
