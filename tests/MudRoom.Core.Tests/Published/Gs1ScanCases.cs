using System.Text.Json;
using MudRoom.Core.Identification;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// Scans as a scanner delivers them, with their symbology identifiers: measures, expiry with a time, repeats, content of units, hyphens,
/// ranges and codes, Digital
/// Links. Written from the GS1 General Specifications and the Barcode Syntax Dictionary, with the verdict of BWIPP 2026-05-28 (bwip-js
/// 4.11.4) beside each; the
/// file names the rule of each case, and which rules are from memory.
/// </summary>
public sealed class Gs1ScanCases
{
    static readonly DateOnly today = new(2026, 3, 10);

    static readonly JsonElement[] cases =
    [
        .. JsonDocument
            .Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Published", "data", "gs1_scan_cases.json")))
            .RootElement.GetProperty("cases")
            .EnumerateArray(),
    ];

    public static TheoryData<string, string> Scans =>
        [.. cases.Select(c => (c.GetProperty("id").GetString()!, c.GetProperty("means").GetString()!))];

    /// <summary>An address whose parts stand in another order, or have a key that there is not, is read all the same, and says
    /// so.</summary>
    static readonly string[] readAndSaid = ["sc77", "sc89"];

    [Theory]
    [MemberData(nameof(Scans))]
    public void A_scan_is_read_or_refused_as_its_rule_says(string id, string means)
    {
        var one = cases.Single(c => c.GetProperty("id").GetString() == id);
        var code = ScannedCode.Of(one.GetProperty("text").GetString()!, today);
        switch (one.GetProperty("expected").GetString())
        {
            case "not an element string":
                Assert.IsType<ScannedCode.Plain>(code);
                break;
            case "refused" when readAndSaid.Contains(id):
                Assert.NotNull(Assert.IsType<ScannedCode.Elements>(code).Note);
                break;
            // What only lacks something beside it may be a part of a label: the standard's verdict is told, the part is read.
            case "refused" when code is ScannedCode.Elements part:
                Assert.Equal("element-alone", ElementStringReader.CheckAssociations(part.Read)?.Code);
                if (part.Read.Gtin is not null || part.Read.Sscc is not null)
                    Assert.NotNull(part.Note);
                break;
            case "refused":
                Assert.IsType<ScannedCode.Wrong>(code);
                break;
            default:
                Assert.Equal(Elements(one, means), Said(code));
                if (code is ScannedCode.Elements whole)
                    Assert.Null(whole.Note);
                break;
        }
    }

    static List<(string, string)> Elements(JsonElement one, string means) =>
        one.GetProperty("elements").ValueKind == JsonValueKind.Array
            ? [.. one.GetProperty("elements").EnumerateArray().Select(e => (e[0].GetString()!, e[1].GetString()!)).Distinct()]
            : [("01", means[^14..])];

    static List<(string, string)> Said(ScannedCode code) =>
        code switch
        {
            ScannedCode.Elements elements => [.. elements.Read.Elements.Select(e => (e.Ai, e.Value))],
            ScannedCode.Unit unit => [("00", unit.Sscc)],
            ScannedCode.TradeItem item => [("01", item.Gtin)],
            _ => [],
        };

    /// <summary>Units of measures as GS1's toolkit digital-link.js 1.4.3 (Apache-2.0) maps them to UN/ECE Recommendation 20.</summary>
    [Fact]
    public void Every_measure_has_the_unit_that_the_toolkit_gives_it()
    {
        var rows = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "Published", "data", "gs1_ai_to_rec20_unit.csv"))
            .Skip(1)
            .Select(l => l.Split(','))
            .ToList();
        Assert.True(rows.Count > 200);
        // QT is the toolkit's word for the liquid quart; the recommendation's lists have QTL.
        foreach (var row in rows)
            Assert.Equal((row[0], row[2] == "QT" ? "QTL" : row[2]), (row[0], Measure.Read(new Element(row[0], "000001", 1))?.Unit));
        // Widths in yards are missing in their table.
        var theirs = rows.Select(r => r[0]).ToHashSet();
        var ours = ApplicationIdentifier
            .All.Where(a => Measure.Read(new Element(a.Number, "000001", 1)) is not null)
            .Select(a => a.Number[..3])
            .ToHashSet();
        Assert.Equal(["326"], ours.Where(prefix => !theirs.Any(t => t.StartsWith(prefix, StringComparison.Ordinal))));
    }
}
