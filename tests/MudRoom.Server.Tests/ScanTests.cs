using System.Text.Json;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>A label means the same in every room: at the door, at the shelf and in the book, raw or in brackets, with what a taught scanner
/// types around it.</summary>
public sealed class ScanTests(DemoServer server) : IClassFixture<DemoServer>
{
    static readonly IReadOnlyList<Core.Site.Item> items = DemoTemplate.Of.Items;

    static string Gtin(string item, string pack) => items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;

    /// <summary>A pallet of its own arrival, counted and at the door.</summary>
    async Task<string> Pallet(string order)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = order,
                kind = "Purchase",
                vendor = "QUER",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "BK-60",
                        quantity = "400",
                        due = "2026-03-10",
                    },
                },
            }
        );
        var arrival = (
            await maren.Act(
                "/door/open-on-the-spot",
                new
                {
                    orders = new[] { order },
                    vehicle = "truck",
                    door = 4,
                    atOnce = true,
                }
            )
        )["number"].GetString()!;
        var counted = await maren.Act("/door/count", Client.Count("1", arrival, "BK-60", "pallet"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        Assert.True((await wanjiru.Act("/yard/step", new { arrival, step = "Empty" })).IsOk);
        return counted["units"][0].GetString()!;
    }

    static async Task<(int Stock, int Entries)> Book(Client client, string scan) =>
        (
            (await client.Ask($"/book/find?text={Uri.EscapeDataString(scan)}"))["stockTotal"].GetInt32(),
            (await client.Ask($"/book/ledger?text={Uri.EscapeDataString(scan)}"))["rows"].GetArrayLength()
        );

    [Fact]
    public async Task Every_way_to_write_a_units_label_finds_its_stock_and_what_happened_to_it()
    {
        var sscc = await Pallet("PO-SCAN1");
        using var petra = await server.SignIn("petra");
        string[] written = [sscc, "00" + sscc, $"(00){sscc}", $"]C100{sscc}", $"]C100{sscc}02{Gtin("BK-60", "each")}3745"];
        foreach (var scan in written)
        {
            var (stock, entries) = await Book(petra, scan);
            Assert.True(stock == 1 && entries >= 1, $"{scan}: {stock} in stock, {entries} entries");
        }

        // The content beside the number makes it no other thing: the unit's own label confirms the unit.
        var waits = (await petra.Ask("/shelf/queue"))["tasks"].EnumerateArray().First(j => j.GetProperty("sscc").GetString() == sscc);
        var task = await petra.Act("/shelf/take", new { task = waits.GetProperty("task").GetInt32() });
        Assert.True((await petra.Act("/shelf/scan-goods", new { task = task["task"].GetInt32(), scan = written[^1] })).IsOk);
        await petra.Act("/shelf/give-back", new { task = task["task"].GetInt32() });
    }

    [Fact]
    public async Task An_item_with_its_batch_finds_that_batch_and_no_other()
    {
        using var petra = await server.SignIn("petra");
        var all = (await petra.Ask("/book/find?text=SD-CARR"))["stock"].EnumerateArray().ToList();
        var row = all.First(r =>
            r.GetProperty("sourceBatch").ValueKind == JsonValueKind.String
            && all.Any(o => o.GetProperty("sourceBatch").GetString() != r.GetProperty("sourceBatch").GetString())
        );
        var batch = row.GetProperty("sourceBatch").GetString()!;
        var found = (await petra.Ask($"/book/find?text={Uri.EscapeDataString($"]C101{Gtin("SD-CARR", "box")}10{batch}")}"))["stock"]
            .EnumerateArray()
            .ToList();
        Assert.NotEmpty(found);
        Every.One(found, r => Assert.Equal(batch, r.GetProperty("sourceBatch").GetString()));
        Assert.True(found.Count < all.Count);
        // The same batch number on goods that nobody here knows stands for nothing.
        Assert.Equal((0, 0), await Book(petra, $"(01)09521239999909(10){batch}"));
    }

    [Fact]
    public async Task What_a_taught_scanner_types_around_a_code_is_taken_off_in_every_room()
    {
        var sscc = await Pallet("PO-SCAN2");
        using var anselm = await server.SignIn("anselm");
        using var petra = await server.SignIn("petra");
        async Task Teach(object scanner)
        {
            var door = await anselm.Ask("/site/door");
            var settings = door["settings"];
            Assert.True(
                (
                    await anselm.Act(
                        "/site/door",
                        new
                        {
                            settings,
                            scanner,
                            hasAddresses = true,
                        }
                    )
                ).IsOk
            );
        }

        await Teach(
            new
            {
                prefix = "~~",
                suffix = "#",
                separator = "|",
                pace = 0,
                repeatWithin = 300,
            }
        );
        var typed = $"~~]C100{sscc}#";
        Assert.Equal("Unit", (await petra.Ask($"/scan?text={Uri.EscapeDataString(typed)}"))["kind"].GetString());
        var (stock, entries) = await Book(petra, typed);
        Assert.True(stock == 1 && entries >= 1, $"{stock} in stock, {entries} entries");
        var taken = await petra.Act("/shelf/take", new { scan = typed });
        Assert.True(taken.IsOk, taken.Body.ToString());
        Assert.True((await petra.Act("/shelf/scan-goods", new { task = taken["task"].GetInt32(), scan = typed })).IsOk);
        await petra.Act("/shelf/give-back", new { task = taken["task"].GetInt32() });
        // Who signs in gets them with the site, for dead spots.
        var site = (await Client.Read(await petra.Http.GetAsync("/api/session")))["sites"]
            .EnumerateArray()
            .First(s => s.GetProperty("code").GetString() == "LM");
        Assert.Equal("~~", site.GetProperty("scanner").GetProperty("prefix").GetString());
        await Teach(
            new
            {
                prefix = "",
                suffix = "",
                separator = "",
                pace = 0,
                repeatWithin = 300,
            }
        );
    }

    [Fact]
    public async Task A_note_of_what_a_label_lacks_is_said_and_the_label_is_read()
    {
        using var petra = await server.SignIn("petra");
        var scan = Uri.EscapeDataString($"(02){Gtin("SD-CARR", "box")}");
        var read = await petra.Ask($"/scan?text={scan}");
        Assert.Equal("Item", read["kind"].GetString());
        Assert.Contains("(02) at place 1 needs (37)", read["words"].GetString(), StringComparison.Ordinal);
        Assert.Contains(
            "net 1.25 kg",
            (await petra.Ask($"/scan?text={Uri.EscapeDataString($"(01){Gtin("SD-CARR", "box")}(3103)001250")}"))["words"].GetString(),
            StringComparison.Ordinal
        );
    }
}
