using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

public sealed class TallyTests(DemoServer server) : IClassFixture<DemoServer>
{
    [Fact]
    public async Task A_count_moves_stock_at_once_with_one_entry_in_the_book()
    {
        using var leila = await server.SignIn("leila");
        var before = server.LastEntry();
        var answer = await leila.Act("/door/count", Client.Count("2"));
        Assert.True(answer.IsOk, answer.Body.ToString());
        Assert.Equal(12, answer["quantity"].GetDecimal());
        await using var db = server.Db();
        var entry = Assert.Single(await db.Ledger.Where(e => e.Seq > before && e.Kind == EntryKind.Counted).ToListAsync());
        Assert.Equal((Account.Vendor, Account.Bin, 12m), (entry.FromAccount!.Value, entry.ToAccount!.Value, entry.Quantity!.Value));
        Assert.Equal("Leila Fennimore", entry.PersonName);
    }

    [Fact]
    public async Task The_same_act_id_twice_counts_once_and_gets_the_same_answer()
    {
        using var leila = await server.SignIn("leila");
        var id = Guid.NewGuid();
        var first = await leila.Act("/door/count", Client.Count(), id);
        var after = server.LastEntry();
        var second = await leila.Act("/door/count", Client.Count(), id);
        Assert.Equal(first.Body.ToString(), second.Body.ToString());
        Assert.Equal(after, server.LastEntry());
    }

    [Fact]
    public async Task Twenty_presses_at_once_with_one_act_id_count_once()
    {
        using var leila = await server.SignIn("leila");
        var id = Guid.NewGuid();
        var before = server.LastEntry();
        await Task.WhenAll(Enumerable.Range(0, 20).Select(_ => leila.Act("/door/count", Client.Count(), id)));
        Assert.Equal(before + 1, server.LastEntry());
    }

    [Fact]
    public async Task An_act_id_is_not_used_for_something_else()
    {
        using var leila = await server.SignIn("leila");
        var id = Guid.NewGuid();
        await leila.Act("/door/count", Client.Count(), id);
        Assert.Equal("act-id-used", (await leila.Act("/door/take-back", new { arrival = "A-2618" }, id)).Code);
    }

    [Fact]
    public async Task Taking_back_is_a_counter_entry_that_names_what_it_undoes()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var id = Guid.NewGuid();
        var count = await wanjiru.Act("/door/count", Client.Count("1", more: new { overAllowed = true }), id);
        Assert.True(count.IsOk, count.Body.ToString());
        var counted = server.LastEntry();
        var back = await wanjiru.Act("/door/take-back", new { arrival = "A-2618", count = id });
        Assert.True(back.IsOk, back.Body.ToString());
        await using var db = server.Db();
        var undo = await db.Ledger.FirstAsync(e => e.Seq == counted + 1);
        Assert.Equal(counted, undo.Undoes);
        Assert.Equal("nothing-to-take-back", (await wanjiru.Act("/door/take-back", new { arrival = "A-2618", count = id })).Code);
        Assert.Empty((await server.Check()).Faults);
    }

    [Theory]
    [InlineData("0", "quantity-not-positive")]
    [InlineData("-1", "quantity-not-positive")]
    [InlineData("1e30", "not-a-number")]
    [InlineData("abc", "not-a-number")]
    [InlineData("", "number-missing")]
    [InlineData("1.5", "packs-not-whole")]
    [InlineData("999999999999", "quantity-too-large")]
    public async Task A_quantity_that_cannot_be_is_refused_and_nothing_changes(string packs, string code)
    {
        using var leila = await server.SignIn("leila");
        var before = server.LastEntry();
        var answer = await leila.Act("/door/count", Client.Count(packs));
        Assert.Equal(code, answer.Code);
        Assert.NotEmpty(answer.Sentence);
        Assert.Equal(before, server.LastEntry());
    }

    [Theory]
    [InlineData("2027-10-30", "2025-10-31", "dates-swapped")]
    [InlineData("2026-02-30", "2027-10-31", "date-impossible")]
    [InlineData("2026-04-01", "2027-10-31", "production-in-future")]
    [InlineData("2025-10-31", "2026-03-20", "short-life")]
    public async Task Dates_that_cannot_be_are_refused_and_nothing_changes(string production, string bestBefore, string code)
    {
        using var leila = await server.SignIn("leila");
        var before = server.LastEntry();
        var answer = await leila.Act(
            "/door/count",
            Client.Count(
                "1",
                "A-2617",
                "SD-FEN",
                "sack",
                new
                {
                    sourceBatch = "MK-F-3000",
                    production,
                    bestBefore,
                    origin = "IN",
                }
            )
        );
        Assert.Equal(code, answer.Code);
        Assert.Equal(before, server.LastEntry());
    }

    [Theory]
    [InlineData("9521234543214", "check-digit")]
    [InlineData("09521234999997", "gtin-unknown")]
    [InlineData("NO-SUCH-THING", "code-unknown")]
    [InlineData("HB-STORE", "other-site")]
    [InlineData("(05)123", "ai-unknown")]
    [InlineData("CSQU3054390", "check-digit")]
    public async Task A_scan_that_is_not_understood_says_why(string scan, string code)
    {
        using var leila = await server.SignIn("leila");
        var answer = await leila.Ask("/scan?text=" + Uri.EscapeDataString(scan));
        Assert.Equal(code, answer["problem"].GetProperty("code").GetString());
        Assert.NotEmpty(answer["words"].GetString()!);
    }

    [Theory]
    [InlineData("HH-16", "Item")]
    [InlineData("PO-4441", "Order")]
    [InlineData("A-2618", "Arrival")]
    [InlineData("C-06-1", "Bin")]
    [InlineData("WZLU 482615 3", "Container")]
    [InlineData("(10)MK-1(17)271030", "Details")]
    public async Task A_scan_is_understood_in_words(string scan, string kind)
    {
        using var leila = await server.SignIn("leila");
        Assert.Equal(kind, (await leila.Ask("/scan?text=" + Uri.EscapeDataString(scan)))["kind"].GetString());
    }

    [Fact]
    public async Task A_vendors_own_code_is_known_and_the_line_is_proposed_with_its_reason()
    {
        using var leila = await server.SignIn("leila");
        var item = DemoTemplate.Of.Items.First(i => i.Code == "CB-05");
        var answer = await leila.Ask($"/scan?arrival=A-2617&text={item.VendorCodes[0].Code}");
        Assert.Equal("PO-4490", answer["line"].GetProperty("order").GetString());
        Assert.Contains("PO-4471 is full", answer["lineReason"].GetString());
        Assert.Equal(2, answer["lines"].GetArrayLength());
    }

    [Fact]
    public async Task Over_beyond_tolerance_waits_for_a_supervisor_and_the_receiver_may_set_it_aside()
    {
        using var ikenna = await server.SignIn("ikenna");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal("over", (await ikenna.Act("/door/count", Client.Count("20", item: "HS-15", pack: "bundle"))).Code);
        Assert.Equal(
            "right-missing",
            (await ikenna.Act("/door/count", Client.Count("20", item: "HS-15", pack: "bundle", more: new { overAllowed = true }))).Code
        );
        Assert.True((await ikenna.Act("/door/count", Client.Count("4", item: "HS-15", pack: "bundle"))).IsOk);
        var aside = await ikenna.Act("/door/count", Client.Count("1", item: "HS-15", pack: "bundle", more: new { aside = "Over" }));
        Assert.Equal("held", aside["standing"].GetString());
        Assert.True(
            (await wanjiru.Act("/door/count", Client.Count("1", item: "HS-15", pack: "bundle", more: new { overAllowed = true }))).IsOk
        );
    }

    [Fact]
    public async Task Others_on_the_tally_hear_of_a_count_within_a_second()
    {
        using var leila = await server.SignIn("leila");
        using var tomasz = await server.SignIn("tomasz");
        await using var line = new HubConnectionBuilder().WithUrl(server.Url + "/live", o => o.Cookies = tomasz.Cookies).Build();
        var heard = new TaskCompletionSource<string>();
        line.On<System.Text.Json.JsonElement>("changed", change =>
        {
            if (change.ToString().Contains("arrival:A-2618"))
                heard.TrySetResult(change.GetProperty("by").GetString()!);
        });
        await line.StartAsync();
        Assert.False(await line.InvokeAsync<bool>("Join", "HB"));
        Assert.True(await line.InvokeAsync<bool>("Join", "LM"));
        await leila.Act("/door/count", Client.Count());
        Assert.Equal("Leila Fennimore", await heard.Task.WaitAsync(TimeSpan.FromSeconds(1)));
    }

    [Fact]
    public async Task Closing_wants_every_line_settled_then_posts_a_receipt_per_vendor_and_closes_for_good()
    {
        using var ikenna = await server.SignIn("ikenna");
        using var wanjiru = await server.SignIn("wanjiru");
        await ikenna.Act("/door/count", Client.Count("1", "A-2620", "GK-07", "box", new { sourceBatch = "KB-77" }));
        Assert.Equal(
            "lines-undecided",
            (
                await wanjiru.Act(
                    "/door/close",
                    new
                    {
                        arrival = "A-2620",
                        decisions = Array.Empty<object>(),
                        deliveryNotes = Array.Empty<object>(),
                    }
                )
            ).Code
        );
        var tally = await wanjiru.Ask("/door/tally/A-2620");
        var lines = tally["manifest"].EnumerateArray().ToList();
        var decisions = lines
            .Select((l, i) => new { manifestLine = l.GetProperty("id").GetInt32(), decision = i == 0 ? "NeverComing" : "MoreToCome" })
            .ToList();
        Assert.Equal(
            "delivery-note-missing",
            (
                await wanjiru.Act(
                    "/door/close",
                    new
                    {
                        arrival = "A-2620",
                        decisions,
                        deliveryNotes = Array.Empty<object>(),
                    }
                )
            ).Code
        );
        var vendor = lines[0].GetProperty("vendorId").GetInt32();
        var closed = await wanjiru.Act(
            "/door/close",
            new
            {
                arrival = "A-2620",
                decisions,
                deliveryNotes = new[] { new { vendorId = vendor, deliveryNote = "DN-88210" } },
            }
        );
        Assert.True(closed.IsOk, closed.Body.ToString());
        Assert.Single(closed["receipts"].EnumerateArray());
        Assert.Equal("PartlyReceived", closed["orders"][0].GetProperty("state").GetString());
        var before = server.LastEntry();
        Assert.Equal(
            "tally-closed",
            (await ikenna.Act("/door/count", Client.Count("1", "A-2620", "GK-07", "box", new { sourceBatch = "KB-77" }))).Code
        );
        Assert.Equal(before, server.LastEntry());
        await using var db = server.Db();
        Assert.Equal(ArrivalState.CountedIn, (await db.Arrivals.FirstAsync(a => a.Number == "A-2620")).State);
    }

    [Fact]
    public async Task An_order_with_no_arrival_planned_opens_one_at_the_door()
    {
        using var maren = await server.SignIn("maren");
        var opened = await maren.Act(
            "/door/open-on-the-spot",
            new
            {
                orders = new[] { "PO-4493" },
                door = 4,
                atOnce = true,
            }
        );
        Assert.True(opened.IsOk, opened.Body.ToString());
        var number = opened["number"].GetString()!;
        var counted = await maren.Act("/door/count", Client.Count("2", number, "PF-50", "pallet"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        Assert.Equal(2, counted["units"].GetArrayLength());
        Assert.Equal(
            "nothing-open",
            (
                await maren.Act(
                    "/door/open-on-the-spot",
                    new
                    {
                        orders = new[] { "PO-4493" },
                        door = 1,
                        atOnce = true,
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task A_serial_is_one_piece_that_is_on_hand_only_once_and_is_found_by_it()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        Assert.Equal(
            "not-at-door",
            (await maren.Act("/door/count", Client.Count("1", "A-2624", "IC-08", "each", new { serial = "IC-0001" }))).Code
        );
        Assert.True((await wanjiru.BringVan()).IsOk);
        Assert.Equal("door-taken", (await wanjiru.Act("/road/at-door", new { arrival = "A-2623", door = 3 })).Code);
        Assert.Equal("wanted", (await maren.Act("/door/count", Client.Count("1", "A-2624", "IC-08", "each"))).Code);
        Assert.Equal(
            "serial-one",
            (await maren.Act("/door/count", Client.Count("2", "A-2624", "IC-08", "each", new { serial = "IC-0001" }))).Code
        );
        Assert.True((await maren.Act("/door/count", Client.Count("1", "A-2624", "IC-08", "each", new { serial = "IC-0001" }))).IsOk);
        Assert.Equal(
            "serial-here",
            (await maren.Act("/door/count", Client.Count("1", "A-2624", "IC-08", "each", new { serial = "IC-0001" }))).Code
        );
        Assert.Equal("Serial", (await maren.Ask("/scan?text=IC-0001"))["kind"].GetString());
        Assert.Equal(1, (await maren.Ask("/book/find?text=IC-0001"))["stockTotal"].GetInt32());
    }

    [Fact]
    public async Task A_run_of_counts_and_other_acts_between_them_never_lose_a_piece()
    {
        using var ikenna = await server.SignIn("ikenna");
        using var maren = await server.SignIn("maren");
        var random = new Random(3);
        for (var i = 0; i < 40; i++)
        {
            var client = random.Next(2) == 0 ? ikenna : maren;
            if (random.Next(4) == 0)
                await client.Act("/door/take-back", new { arrival = "A-2618" });
            else
                await client.Act(
                    "/door/count",
                    Client.Count(
                        "1",
                        item: random.Next(2) == 0 ? "FK-DG" : "SP-DG",
                        pack: "each",
                        more: new { aside = random.Next(3) == 0 ? "Over" : null }
                    )
                );
        }

        await using var db = server.Db();
        var arrival = await db.Arrivals.Include(a => a.Manifest).ThenInclude(m => m.Part).FirstAsync(a => a.Number == "A-2618");
        var counts = await db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null).ToListAsync();
        foreach (var line in arrival.Manifest)
        {
            var sum = counts.Where(c => c.PartId == line.PartId).Sum(c => c.Quantity);
            Assert.Equal((sum, sum), (line.Counted, line.Part!.Received));
        }

        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task One_batch_holds_one_source_batch()
    {
        using var leila = await server.SignIn("leila");
        Task<Answer> Seed(string source, string batch) =>
            leila.Act(
                "/door/count",
                Client.Count(
                    "1",
                    "A-2617",
                    "SD-PHA",
                    "each",
                    new
                    {
                        sourceBatch = source,
                        batch,
                        production = "2025-10-02",
                        bestBefore = "2027-03-31",
                        origin = "IN",
                    }
                )
            );
        Assert.True((await Seed("MK-P-1", "PH-TEST-1")).IsOk);
        Assert.Equal("batch-in-use", (await Seed("MK-P-2", "PH-TEST-1")).Code);
    }

    /// <summary>Two devices are proposed the same number for two source batches: who counts first has it, the other gets the next one
    /// without being asked.</summary>
    [Fact]
    public async Task A_proposed_batch_number_belongs_to_whoever_uses_it_first()
    {
        using var leila = await server.SignIn("leila");
        using var wanjiru = await server.SignIn("wanjiru");
        Task<Answer> Take(Client client, string source, string batch, bool proposed) =>
            client.Act(
                "/door/count",
                Client.Count(
                    "1",
                    "A-2618",
                    "SD-CARR",
                    "box",
                    new
                    {
                        sourceBatch = source,
                        batch,
                        batchProposed = proposed,
                        aside = "NotOnOrder",
                        vendor = "HALV",
                        origin = "DK",
                        bestBefore = "2027-12-01",
                    }
                )
            );
        var number = (await Take(leila, "HF-FIRST", "", false))["batch"].GetString()!;
        var typed = await Take(wanjiru, "HF-TYPED", number, proposed: false);
        Assert.Equal("batch-in-use", typed.Code);
        var next = await Take(wanjiru, "HF-SECOND", number, proposed: true);
        Assert.True(next.IsOk, next.Body.ToString());
        Assert.NotEqual(number, next["batch"].GetString());
        Assert.Equal(number, (await Take(wanjiru, "HF-FIRST", number, proposed: true))["batch"].GetString());
    }
}
