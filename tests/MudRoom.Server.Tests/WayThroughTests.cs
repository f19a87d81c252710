using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Bench, Cage, Shelf and Book over HTTP.</summary>
public sealed class WayThroughTests(DemoServer server) : IClassFixture<DemoServer>
{
    [Fact]
    public async Task A_rejected_lot_is_held_and_decided_over_and_its_sheet_cannot_be_changed()
    {
        using var sunita = await server.SignIn("sunita");
        var sheet = await sunita.Ask("/bench/sheet/I-0024");
        var gap = sheet["characteristics"]
            .EnumerateArray()
            .First(c => c.GetProperty("name").GetString() == "Gap at the tip")
            .GetProperty("id")
            .GetInt32();
        Assert.Equal("findings-missing", (await Sign(sunita, "Accepted")).Code);
        Assert.Equal(
            "piece-outside",
            (
                await sunita.Act(
                    "/bench/find",
                    new
                    {
                        inspection = "I-0024",
                        piece = 99,
                        characteristic = gap,
                        value = "0.1",
                    }
                )
            ).Code
        );
        var third = await sunita.Act(
            "/bench/find",
            new
            {
                inspection = "I-0024",
                piece = 27,
                characteristic = gap,
                value = "0.17",
            }
        );
        Assert.Equal("Rejected", third["verdict"].GetString());
        Assert.Equal("verdict-moved", (await Sign(sunita, "Accepted")).Code);
        Assert.Equal("signature-wrong", (await Sign(sunita, "Rejected", password: "wrong")).Code);
        Assert.Equal("signature-wrong", (await Sign(sunita, "Rejected", name: "Bram Okonjo")).Code);
        var signed = await Sign(sunita, "Rejected");
        Assert.True(signed.IsOk, signed.Body.ToString());
        var before = server.LastEntry();
        Assert.Equal(
            "signed",
            (
                await sunita.Act(
                    "/bench/find",
                    new
                    {
                        inspection = "I-0024",
                        piece = 28,
                        characteristic = gap,
                        value = "0.1",
                    }
                )
            ).Code
        );
        Assert.Equal("signed", (await Sign(sunita, "Rejected")).Code);
        Assert.Equal(before, server.LastEntry());

        using var wanjiru = await server.SignIn("wanjiru");
        var hold = (await wanjiru.Ask("/cage/holds"))["holds"]
            .EnumerateArray()
            .First(h => h.GetProperty("reason").GetString() == "Nonconforming");
        var number = hold.GetProperty("number").GetString();
        Assert.Equal(240, hold.GetProperty("quantity").GetDecimal());
        Assert.Equal("wants-decision", (await wanjiru.Act("/cage/lift", new { hold = number })).Code);
        Assert.Equal(
            "more-than-held",
            (
                await wanjiru.Act(
                    "/cage/decide",
                    new
                    {
                        hold = number,
                        decision = "Scrap",
                        quantity = "241",
                        note = "x",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "note-missing",
            (
                await wanjiru.Act(
                    "/cage/decide",
                    new
                    {
                        hold = number,
                        decision = "Scrap",
                        quantity = "10",
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/cage/decide",
                    new
                    {
                        hold = number,
                        decision = "ReturnToVendor",
                        quantity = "230",
                        note = "Blades too soft.",
                    }
                )
            ).IsOk
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/cage/decide",
                    new
                    {
                        hold = number,
                        decision = "Scrap",
                        quantity = "10",
                        note = "Cut open for the test.",
                    }
                )
            ).IsOk
        );
        await using var db = server.Db();
        // Decided, they still stand where they stand.
        Standing[] decided = [Standing.ToGoBack, Standing.ToScrap];
        Assert.Equal(240, await db.Balances.Where(b => decided.Contains(b.Standing)).SumAsync(b => b.Quantity));
        var back = await db.Holds.Where(h => h.Quantity == 230).Select(h => h.Number).SingleAsync();
        Assert.True((await wanjiru.Act("/cage/carry-out", new { hold = back, note = "with the van" })).IsOk);
        Assert.Equal("witness-missing", (await wanjiru.Act("/cage/carry-out", new { hold = number })).Code);
        Assert.True((await wanjiru.Act("/cage/carry-out", BenchHands.Seen(number))).IsOk);
        Assert.False(await db.Balances.AnyAsync(b => b.Standing == Standing.Rejected));
        Assert.Equal(SheetHash(db), (await db.Inspections.FirstAsync(i => i.Number == "I-0024")).SheetHash);
        Assert.Empty((await server.Check()).Faults);

        Task<Answer> Sign(Client client, string verdict, string name = "Sunita Gellatly", string password = "sunita-mud-06") =>
            client.Act(
                "/bench/sign",
                new
                {
                    inspection = "I-0024",
                    name,
                    password,
                    verdict,
                    comment = "Gap at the tip.",
                }
            );
    }

    static string SheetHash(Data.MudRoomDb db)
    {
        var sheet = db.Inspections.Include(i => i.Findings).First(i => i.Number == "I-0024");
        var plan = db.InspectionPlans.Include(p => p.Versions).First(p => p.Id == sheet.PlanId);
        return Core.Bench.Sheets.Hash(sheet, plan.Name, plan[sheet.PlanVersion]);
    }

    [Fact]
    public async Task A_hold_is_lifted_when_its_time_is_over_and_not_before()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var apples = await server.HoldOn("AP-BR");
        Assert.Equal("time-not-over", (await wanjiru.Act("/cage/lift", new { hold = await server.HoldOn("PL-BR") })).Code);
        Assert.True((await wanjiru.Act("/cage/lift", new { hold = apples, note = "Plant passport seen." })).IsOk);
        await using var db = server.Db();
        var trees = await db.Items.FirstAsync(i => i.Code == "AP-BR");
        Every.One(await db.Balances.Where(b => b.ItemId == trees.Id).ToListAsync(), b => Assert.Equal(Standing.Usable, b.Standing));
        Assert.Equal("hold-lifted", (await wanjiru.Act("/cage/lift", new { hold = apples })).Code);
    }

    [Fact]
    public async Task Two_drivers_cannot_take_one_task_and_only_the_right_goods_go_into_a_bin_that_may_take_them()
    {
        using var yusuf = await server.SignIn("yusuf");
        using var callum = await server.SignIn("callum");
        var tasks = (await yusuf.Ask("/shelf/queue"))["tasks"].EnumerateArray();
        var waiting = tasks.First(j => j.GetProperty("item").GetString() == "Fenugreek seed").GetProperty("task").GetInt32();
        var takes = await Task.WhenAll(yusuf.Act("/shelf/take", new { task = waiting }), callum.Act("/shelf/take", new { task = waiting }));
        Assert.Single(takes, t => t.IsOk);
        Assert.Equal("task-taken", takes.Single(t => !t.IsOk).Code);
        var (winner, loser) = takes[0].IsOk ? (yusuf, callum) : (callum, yusuf);
        var task = takes.Single(t => t.IsOk)["task"].GetInt32();
        var address = takes.Single(t => t.IsOk)["bin"].GetString();

        Assert.Equal("goods-not-scanned", (await winner.Act("/shelf/put-down", new { task, bin = address })).Code);
        Assert.Equal("wrong-goods", (await winner.Act("/shelf/scan-goods", new { task, scan = "HH-16" })).Code);
        Assert.Equal("task-taken", (await loser.Act("/shelf/scan-goods", new { task, scan = "SD-FEN" })).Code);
        Assert.True((await winner.Act("/shelf/scan-goods", new { task, scan = "SD-FEN" })).IsOk);
        Assert.Equal("other-site", (await winner.Act("/shelf/put-down", new { task, bin = "HB-STORE" })).Code);
        Assert.Equal("bin-unknown", (await winner.Act("/shelf/put-down", new { task, bin = "Z-99-9" })).Code);
        Assert.Equal("bin-refused", (await winner.Act("/shelf/put-down", new { task, bin = "O-05-1" })).Code);
        Assert.Equal("bin-refused", (await winner.Act("/shelf/put-down", new { task, bin = "CAGE-01" })).Code);
        var part = await winner.Act(
            "/shelf/put-down",
            new
            {
                task,
                bin = address,
                quantity = "100",
            }
        );
        Assert.Equal(200, part["left"].GetDecimal());
        var rest = await winner.Act("/shelf/put-down", new { task, bin = part["nextBin"].GetString() });
        Assert.Equal(0, rest["left"].GetDecimal());
        Assert.Equal("task-done", (await winner.Act("/shelf/put-down", new { task, bin = address })).Code);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_task_for_usable_goods_refuses_held_ones()
    {
        using var petra = await server.SignIn("petra");
        using var tomasz = await server.SignIn("tomasz");
        await tomasz.Act("/door/count", Client.Count("1"));
        await tomasz.Act("/door/count", Client.Count("1", more: new { aside = "Damaged", note = "Box crushed." }));
        var queue = (await petra.Ask("/shelf/queue"))["tasks"].EnumerateArray().ToList();
        var usable = queue.First(j =>
            j.GetProperty("item").GetString() == "Draw hoe head 16 cm"
            && j.GetProperty("standing").GetProperty("word").GetString() == "usable"
            && j.GetProperty("state").GetString() == "Waiting"
        );
        var taken = await petra.Act("/shelf/take", new { task = usable.GetProperty("task").GetInt32() });
        Assert.True(taken.IsOk, taken.Body.ToString());
        Assert.True((await petra.Act("/shelf/scan-goods", new { task = taken["task"].GetInt32(), scan = "HH-16" })).IsOk);
        Assert.Equal("bin-refused", (await petra.Act("/shelf/put-down", new { task = taken["task"].GetInt32(), bin = "CAGE-01" })).Code);
        Assert.True((await petra.Act("/shelf/give-back", new { task = taken["task"].GetInt32() })).IsOk);
    }

    [Fact]
    public async Task The_trail_adds_up()
    {
        using var petra = await server.SignIn("petra");
        var tasks = (await petra.Ask("/shelf/queue"))["tasks"]
            .EnumerateArray()
            .Where(j => j.GetProperty("state").GetString() == "Waiting")
            .ToList();
        Assert.NotEmpty(tasks);
        foreach (var j in tasks)
        {
            var trail = (await petra.Ask($"/shelf/tasks/{j.GetProperty("task").GetInt32()}"))["trail"];
            Assert.Equal(
                trail.GetProperty("lookedAt").GetInt32(),
                trail.GetProperty("ruledOut").EnumerateArray().Sum(r => r.GetProperty("bins").GetInt32())
                    + trail.GetProperty("left").GetInt32()
            );
        }
    }

    [Fact]
    public async Task Only_usable_goods_leave_and_no_more_than_are_there()
    {
        using var callum = await server.SignIn("callum");
        var stock = (await callum.Ask("/book/find?text=TP-18"))["stock"].EnumerateArray().First();
        var balance = stock.GetProperty("id").GetInt64();
        Task<Answer> Issue(string quantity, string reference = "C-1") =>
            callum.Act(
                "/book/issue",
                new
                {
                    balance,
                    quantity,
                    to = "Customer",
                    reference,
                }
            );
        Assert.Equal("more-than-there", (await Issue("100000")).Code);
        Assert.Equal("quantity-not-positive", (await Issue("0")).Code);
        Assert.Equal("reference-missing", (await Issue("1", "")).Code);
        Assert.True((await Issue("12")).IsOk);
        var held = (await callum.Ask("/book/find?text=PL-BR"))["stock"].EnumerateArray().First();
        Assert.Equal(
            "not-usable",
            (
                await callum.Act(
                    "/book/issue",
                    new
                    {
                        balance = held.GetProperty("id").GetInt64(),
                        quantity = "1",
                        to = "Customer",
                        reference = "C-1",
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task Anything_is_found_by_scan_or_words()
    {
        using var callum = await server.SignIn("callum");
        foreach (var text in new[] { "CB-05", "coir brick", "CB-0310-1", "NC-1201", "C-06-1" })
            Assert.True((await callum.Ask("/book/find?text=" + Uri.EscapeDataString(text)))["stockTotal"].GetInt32() > 0, text);
        foreach (var text in new[] { "PO-4471", "A-2617", "R-0001", "WZLU 482615 3" })
            Assert.True((await callum.Ask("/book/find?text=" + Uri.EscapeDataString(text)))["things"].GetArrayLength() > 0, text);
    }

    [Theory]
    [InlineData("house")]
    [InlineData("road/board")]
    [InlineData("road/due")]
    [InlineData("road/orders")]
    [InlineData("door/queue")]
    [InlineData("bench/queue")]
    [InlineData("cage/holds")]
    [InlineData("shelf/queue")]
    [InlineData("shelf/plan")]
    [InlineData("book/ledger")]
    [InlineData("site")]
    public async Task The_small_site_answers_in_every_room_and_shows_nothing_of_the_large_one(string room)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var answer = await Client.Read(await wanjiru.Http.GetAsync("/api/HB/" + room));
        Assert.True(answer.IsOk, answer.Body.ToString());
        Assert.DoesNotContain("A-2617", answer.Body.ToString());
    }

    [Fact]
    public async Task Prices_do_not_leave_the_server_for_warehouse_roles()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var dilys = await server.SignIn("dilys");
        var line = (await wanjiru.Ask("/road/orders/PO-4471"))["lines"][0];
        Assert.Equal(System.Text.Json.JsonValueKind.Null, line.GetProperty("price").ValueKind);
        Assert.True((await dilys.Ask("/road/orders/PO-4471"))["lines"][0].GetProperty("price").GetDecimal() > 0);
    }

    [Fact]
    public async Task A_file_of_orders_is_taken_whole_or_refused_with_line_and_field()
    {
        using var dilys = await server.SignIn("dilys");
        const string head = "\ufefforder;vendor;line;item;quantity;unit;due;site\n";
        var before = server.LastEntry();
        var bad = await dilys.Act(
            "/road/import/preview",
            new { name = "a.csv", text = head + "PO-9001;NILG;1;CB-05;10;carton;2026-04-01;LM\nPO-9001;NOBODY;2;XX;-5;;1900-01-01;ZZ\n" }
        );
        Assert.Equal(
            ["vendor", "site", "item", "quantity", "due"],
            bad["faults"].EnumerateArray().Select(f => f.GetProperty("field").GetString()!)
        );
        Every.One(bad["faults"].EnumerateArray(), f => Assert.Equal(3, f.GetProperty("line").GetInt32()));
        Assert.Equal(
            "file-faults",
            (await dilys.Act("/road/import", new { name = "a.csv", text = head + "PO-9001;NOBODY;1;CB-05;10;;2026-04-01;LM\n" })).Code
        );
        Assert.Equal(before, server.LastEntry());
        var good = head + "PO-9001;NILG;1;CB-05;10;carton;2026-04-01;LM\nPO-9001;NILG;1;CB-05;5;carton;2026-05-01;LM\n";
        Assert.True((await dilys.Act("/road/import", new { name = "b.csv", text = good })).IsOk);
        var order = await dilys.Ask("/road/orders/PO-9001");
        Assert.Equal(
            [40m, 20m],
            order["lines"][0].GetProperty("parts").EnumerateArray().Select(p => p.GetProperty("ordered").GetDecimal())
        );
        var after = server.LastEntry();
        var again = await dilys.Act("/road/import", new { name = "c.csv", text = good });
        Assert.Contains("Nothing is changed again", again["before"].GetString(), StringComparison.Ordinal);
        Assert.Equal(after, server.LastEntry());
        Assert.Equal(
            "file-faults",
            (await dilys.Act("/road/import", new { name = "d.csv", text = good + "PO-9002;NILG;1;CB-05;5;carton;2026-05-01;LM\n" })).Code
        );
    }

    [Theory]
    [InlineData("")]
    [InlineData("order,vendor\nPO-1,NILG\n")]
    [InlineData("order,vendor,line,item,quantity,due,site\n")]
    [InlineData("order,vendor,line,item,quantity,due,site\nPO-1,\"NILG,1,CB-05,1,2026-04-01,LM\n")]
    [InlineData("PK\u0003\u0004 not a csv at all")]
    public async Task A_file_that_is_not_what_it_says_is_refused(string text)
    {
        using var dilys = await server.SignIn("dilys");
        Assert.Equal("file-faults", (await dilys.Act("/road/import", new { name = "x.csv", text })).Code);
    }
}
