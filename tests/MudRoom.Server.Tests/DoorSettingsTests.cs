using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Site;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>How a site counts, set by the administrator and obeyed at the door. Each on a demo of its own, for the settings are the whole
/// site's.</summary>
public sealed class DoorSettingsTests : IAsyncLifetime
{
    readonly DemoServer server = new();

    public ValueTask InitializeAsync() => server.InitializeAsync();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    async Task<Answer> Set(Action<Dictionary<string, object?>> change, bool hasAddresses = true)
    {
        using var anselm = await server.SignIn("anselm");
        var settings = JsonSerializer.Deserialize<Dictionary<string, object?>>((await anselm.Ask("/site/door"))["settings"])!;
        change(settings);
        settings.Remove("scanner", out var scanner);
        return await anselm.Act(
            "/site/door",
            new
            {
                settings,
                scanner,
                hasAddresses,
            }
        );
    }

    [Fact]
    public async Task Absurd_settings_are_refused_and_nothing_is_kept()
    {
        var before = server.LastEntry();
        Assert.Equal("setting-absurd", (await Set(s => (s["blind"], s["quantity"]) = (true, "Proposed"))).Code);
        Assert.Equal(
            "setting-absurd",
            (
                await Set(s =>
                    s["reasons"] = new[]
                    {
                        new
                        {
                            name = "",
                            kind = "Damaged",
                            wantsSentence = false,
                            wantsPicture = false,
                        },
                    }
                )
            ).Code
        );
        Assert.Equal("setting-absurd", (await Set(s => s["printers"] = new[] { new { name = "P", address = "http://x" } })).Code);
        Assert.Equal(
            "setting-absurd",
            (
                await Set(s =>
                    s["prints"] = new[]
                    {
                        new
                        {
                            @event = "UnitCounted",
                            door = (int?)null,
                            printer = "Nowhere",
                            size = "a6",
                        },
                    }
                )
            ).Code
        );
        Assert.Equal(
            "setting-absurd",
            (
                await Set(s =>
                    s["prints"] = new[]
                    {
                        new
                        {
                            @event = "UnitCounted",
                            door = (int?)77,
                            printer = "Door 3",
                            size = "a6",
                        },
                    }
                )
            ).Code
        );
        Assert.Equal(
            "setting-absurd",
            (
                await Set(s =>
                    s["scanner"] = new
                    {
                        prefix = "",
                        suffix = "",
                        separator = "A",
                    }
                )
            ).Code
        );
        Assert.Equal("setting-absurd", (await Set(s => s["prints"] = new object?[] { null })).Code);
        Assert.Equal("setting-absurd", (await Set(s => s["reasons"] = null)).Code);
        Assert.Equal("setting-absurd", (await Set(s => s["scanner"] = new { prefix = (string?)null })).Code);
        Assert.Equal(before, server.LastEntry());
        using var leila = await server.SignIn("leila");
        Assert.Equal("right-missing", (await leila.Act("/site/door", new { settings = new { }, hasAddresses = true })).Code);
    }

    [Fact]
    public async Task What_differs_is_counted_by_a_second_person_who_does_not_know_the_first()
    {
        Assert.True((await Set(s => (s["blind"], s["secondCount"]) = (true, true))).IsOk);
        using var ikenna = await server.SignIn("ikenna");
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal("second-count-wanted", (await Close(wanjiru)).Code);
        Assert.Equal("right-missing", (await maren.Act("/door/second-count/ask", new { arrival = "A-2618" })).Code);
        Assert.True((await wanjiru.Act("/door/second-count/ask", new { arrival = "A-2618" })).IsOk);
        Assert.Equal("nothing-differs", (await wanjiru.Act("/door/second-count/ask", new { arrival = "A-2618" })).Code);
        // Maren has counted nothing here: whatever she is to count again, she is told neither how much nor in which counts.
        var seen = await maren.Ask("/door/tally/A-2618");
        var asked = seen["secondCounts"].EnumerateArray().ToList();
        var names = asked.Select(s => s.GetProperty("itemName").GetString()).ToList();
        Every.One(seen["manifest"].EnumerateArray().Where(m => names.Contains(m.GetProperty("itemName").GetString())), m =>
            Assert.Equal(0, m.GetProperty("counted").GetDecimal())
        );
        Assert.DoesNotContain(seen["counts"].EnumerateArray(), c => names.Contains(c.GetProperty("item").GetString()));
        Assert.Contains((await wanjiru.Ask("/door/tally/A-2618"))["counts"].EnumerateArray(), c =>
            names.Contains(c.GetProperty("item").GetString())
        );
        Assert.NotEmpty(asked);
        Every.One(asked, s => Assert.Equal(JsonValueKind.Null, s.GetProperty("first").ValueKind));
        foreach (var second in asked)
        {
            var id = second.GetProperty("id").GetInt32();
            if (second.GetProperty("item").GetString() is "SP-DG")
                Assert.Equal(
                    "same-person",
                    (
                        await ikenna.Act(
                            "/door/second-count",
                            new
                            {
                                id,
                                packs = "1",
                                pack = "each",
                            }
                        )
                    ).Code
                );
            await using var db = server.Db();
            var first = (await db.SecondCounts.SingleAsync(s => s.Id == id)).First;
            // The hoes differ the second time, all others agree.
            var packs = second.GetProperty("item").GetString() == "HH-16" ? first - 1 : first;
            Assert.True(
                (
                    await maren.Act(
                        "/door/second-count",
                        new
                        {
                            id,
                            packs = packs.ToString("0.###"),
                            pack = "each",
                        }
                    )
                ).IsOk
            );
            Assert.Equal(
                "decided",
                (
                    await maren.Act(
                        "/door/second-count",
                        new
                        {
                            id,
                            packs = "1",
                            pack = "each",
                        }
                    )
                ).Code
            );
        }

        Assert.Empty((await maren.Ask("/door/tally/A-2618"))["secondCounts"].EnumerateArray());
        Assert.Contains("Draw hoe head", (await Close(wanjiru)).Sentence, StringComparison.Ordinal);
        var differs = (await wanjiru.Ask("/door/tally/A-2618"))["secondCounts"]
            .EnumerateArray()
            .Single(s => s.GetProperty("state").GetString() == "Differs");
        Assert.Equal(
            "counts-blind",
            (await maren.Act("/door/second-count/first-stands", new { id = differs.GetProperty("id").GetInt32() })).Code
                is "right-missing"
                    or "counts-blind"
                ? "counts-blind"
                : ""
        );
        Assert.True((await wanjiru.Act("/door/second-count/first-stands", new { id = differs.GetProperty("id").GetInt32() })).IsOk);
        Assert.True((await Close(wanjiru)).IsOk);

        async Task<Answer> Close(Client client)
        {
            var tally = await client.Ask("/door/tally/A-2618");
            return await client.Act(
                "/door/close",
                new
                {
                    arrival = "A-2618",
                    decisions = tally["manifest"]
                        .EnumerateArray()
                        .Select(m => new { manifestLine = m.GetProperty("id").GetInt32(), decision = "MoreToCome" })
                        .ToArray(),
                    deliveryNotes = tally["vendors"]
                        .EnumerateArray()
                        .Select(v => new { vendorId = v.GetProperty("id").GetInt32(), deliveryNote = "B-1" })
                        .ToArray(),
                }
            );
        }
    }

    [Fact]
    public async Task Where_scanning_is_forced_an_item_is_counted_only_by_a_barcode_of_it()
    {
        Assert.True((await Set(s => s["scanForced"] = true)).IsOk);
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        var items = DemoTemplate.Of.Items;
        var gtin = items.First(i => i.Code == "HH-16").PackLevels.First(p => p.Name == "box").Gtin;
        Assert.Equal("scan-forced", (await maren.Act("/door/count", Client.Count())).Code);
        Assert.Equal("scan-forced", (await maren.Act("/door/count", Client.Count(more: new { scanned = "HH-16" }))).Code);
        Assert.Equal(
            "scan-forced",
            (await maren.Act("/door/count", Client.Count(more: new { scanned = items.First(i => i.Code == "HS-15").BasePack.Gtin }))).Code
        );
        Assert.True((await maren.Act("/door/count", Client.Count(more: new { scanned = gtin }))).IsOk);
        Assert.True((await maren.Act("/door/count", Client.Count(more: new { scanned = $"]C101{gtin}" }))).IsOk);
        Assert.True((await wanjiru.Act("/door/count", Client.Count())).IsOk);
    }

    [Fact]
    public async Task Quantities_are_proposed_or_must_be_typed_as_the_site_says()
    {
        using var maren = await server.SignIn("maren");
        async Task<(decimal? Packs, bool Proposed)> Scan(string code)
        {
            var read = await maren.Ask($"/scan?text={code}&arrival=A-2618");
            return (read["packs"].ValueKind == JsonValueKind.Null ? null : read["packs"].GetDecimal(), read["proposed"].GetBoolean());
        }

        Assert.Equal((1m, false), await Scan("HS-15"));
        Assert.True((await Set(s => s["quantity"] = "Proposed")).IsOk);
        Assert.Equal((48m, true), await Scan("HS-15"));
        Assert.True((await Set(s => s["quantity"] = "Typed")).IsOk);
        Assert.Equal((null, false), await Scan("HS-15"));
    }

    [Fact]
    public async Task The_stops_before_a_bin_are_those_of_the_site()
    {
        using var leila = await server.SignIn("leila");
        using var wanjiru = await server.SignIn("wanjiru");
        async Task<string> PlaceOf(object count) => (await leila.Act("/door/count", count))["place"].GetString()!;
        var spades = Client.Count("1", "A-2618", "HS-15", "each");
        Assert.Equal("D2-R1", await PlaceOf(spades));
        Assert.Equal(
            "place-wrong",
            (await Set(s => s["placeChosen"] = true)).IsOk
                ? (await leila.Act("/door/count", Client.Count("1", "A-2618", "HS-15", "each", new { place = "D2-R5" }))).Code
                : ""
        );
        Assert.Equal("D2-R2", await PlaceOf(Client.Count("1", "A-2618", "HS-15", "each", new { place = "D2-R2" })));
        // Goods to inspect stand apart, or at the bench.
        object Snips(string source) => Client.Count("1", "A-2620", "SC-18", "box", new { sourceBatch = source });
        Assert.Equal("D5-R4", await PlaceOf(Snips("STOP-1")));
        Assert.True((await Set(s => s["stops"] = "ReceivingPlaceAndBench")).IsOk);
        Assert.Equal("BENCH-1", await PlaceOf(Snips("STOP-2")));
        Assert.True((await Set(s => s["stops"] = "StraightIn")).IsOk);
        var straight = await PlaceOf(spades);
        Assert.Equal(StorageClass.Oversize, DemoTemplate.Of.Bins.First(b => b.Address == straight).StorageClass);
        Assert.Equal("D2-R5", await PlaceOf(Client.Count("1", "A-2618", "HS-15", "each", new { aside = "Damaged", note = "bent" })));
        // One undivided store: goods are in when they are counted.
        Assert.True((await Set(s => s["stops"] = "ReceivingPlace", hasAddresses: false)).IsOk);
        Assert.Equal("F-01-0", await PlaceOf(spades));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Where_inspection_comes_first_no_receipt_is_posted_without_its_verdict()
    {
        Assert.True((await Set(s => s["inspection"] = "BeforeReceipt")).IsOk);
        using var leila = await server.SignIn("leila");
        var refused = await leila.Act(
            "/door/close",
            new
            {
                arrival = "A-2617",
                decisions = Array.Empty<object>(),
                partly = true,
                deliveryNotes = (await leila.Ask("/door/tally/A-2617"))["vendors"]
                    .EnumerateArray()
                    .Select(v => new { vendorId = v.GetProperty("id").GetInt32(), deliveryNote = "N-1" })
                    .ToArray(),
            }
        );
        Assert.Equal("not-inspected", refused.Code);
        Assert.Equal("A-2617", (await leila.Ask("/door/tally/A-2617"))["card"].GetProperty("number").GetString());
    }

    [Fact]
    public async Task The_rest_is_taken_as_ordered_where_items_ask_for_nothing_and_what_asks_is_named()
    {
        using var maren = await server.SignIn("maren");
        var rest = await maren.Act("/door/rest-as-ordered", new { arrival = "A-2618" });
        Assert.True(rest.IsOk, rest.Body.ToString());
        Every.One((await maren.Ask("/door/tally/A-2618"))["manifest"].EnumerateArray(), m =>
            Assert.Equal(m.GetProperty("expected").GetDecimal(), m.GetProperty("counted").GetDecimal())
        );
        Assert.Equal("nothing-open", (await maren.Act("/door/rest-as-ordered", new { arrival = "A-2618" })).Code);
        var seeds = await maren.Act("/door/rest-as-ordered", new { arrival = "A-2617" });
        Assert.Equal("rest-wants-more", seeds.IsOk ? "rest-wants-more" : seeds.Code);
        Assert.True((await Set(s => s["restAsOrdered"] = false)).IsOk);
        Assert.Equal("rest-not-allowed", (await maren.Act("/door/rest-as-ordered", new { arrival = "A-2618" })).Code);
        Assert.Empty((await server.Check()).Faults);
    }

    [Theory]
    [InlineData("010952123499999710TEST-A1\u001d2110", "", "", "")]
    [InlineData("~~010952123499999710TEST-A1\u001d2110#", "~~", "#", "")]
    [InlineData("]C1010952123499999710TEST-A1|2110", "", "", "|")]
    public async Task A_scanner_is_taught_by_what_it_types_for_a_known_label(string typed, string prefix, string suffix, string separator)
    {
        using var anselm = await server.SignIn("anselm");
        var learned = (await anselm.Act("/site/scanner", new { typed }))["settings"];
        Assert.Equal(
            (prefix, suffix, separator),
            (
                learned.GetProperty("prefix").GetString(),
                learned.GetProperty("suffix").GetString(),
                learned.GetProperty("separator").GetString()
            )
        );
        Assert.True((await Set(s => s["scanner"] = learned)).IsOk);
        using var leila = await server.SignIn("leila");
        var gtin = DemoTemplate.Of.Items.First(i => i.Code == "CB-05").BasePack.Gtin;
        var fnc1 = separator.Length > 0 ? separator : "\u001d";
        var read = await leila.Ask($"/scan?text={Uri.EscapeDataString($"{prefix}01{gtin}10L7{fnc1}3010{suffix}")}");
        Assert.Equal(("Item", "L7"), (read["kind"].GetString(), read["sourceBatch"].GetString()));
    }

    [Fact]
    public void The_test_label_is_right_by_the_rules_and_reads_the_same_as_it_is_drawn()
    {
        var today = new DateOnly(2026, 3, 10);
        var read = Assert.IsType<ScannedCode.Elements>(ScannedCode.Of(Door.DoorSettingsPage.TestLabel, today)).Read;
        var shown = Assert.IsType<ScannedCode.Elements>(ScannedCode.Of(Door.DoorSettingsPage.TestLabelShown, today)).Read;
        Assert.Equal([("01", "09521234999997"), ("10", "TEST-A1"), ("21", "10")], read.Elements.Select(e => (e.Ai, e.Value)));
        Assert.Equal(read.Elements.Select(e => (e.Ai, e.Value)), shown.Elements.Select(e => (e.Ai, e.Value)));
    }

    [Theory]
    [InlineData("something else", "scanner-unread")]
    [InlineData("010952123499999710TEST-A12110", "scanner-no-separator")]
    [InlineData("010952123499999710TEST-A1", "scanner-unread")]
    public async Task What_cannot_be_learned_is_said(string typed, string code)
    {
        using var anselm = await server.SignIn("anselm");
        Assert.Equal(code, (await anselm.Act("/site/scanner", new { typed }))["problem"].GetProperty("code").GetString());
    }
}
