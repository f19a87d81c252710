using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Put-away: the task that is scanned is the one that is moved, and what waits has one meaning.</summary>
public sealed class ShelfTests(DemoServer server) : IClassFixture<DemoServer>
{
    /// <summary>Two labelled pallets and a loose pack of the same goods, counted at a door of their own.</summary>
    static async Task<List<string>> TwoPallets(Client wanjiru, Client maren, string order, int loose)
    {
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
        var counted = await maren.Act("/door/count", Client.Count("2", arrival, "BK-60", "pallet"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        if (loose > 0)
            await maren.Act("/door/count", Client.Count($"{loose}", arrival, "BK-60", "each"));
        await wanjiru.Act("/yard/step", new { arrival, step = "Empty" });
        return [.. counted["units"].EnumerateArray().Select(u => u.GetString()!)];
    }

    static async Task<JsonElement> Waiting(Client client, string sscc) =>
        (await client.Ask("/shelf/queue"))["tasks"].EnumerateArray().First(j => j.GetProperty("sscc").GetString() == sscc);

    [Fact]
    public async Task Of_two_tasks_the_one_that_is_scanned_is_the_one_that_moves()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var petra = await server.SignIn("petra");
        var units = await TwoPallets(wanjiru, maren, "PO-PALS", loose: 0);
        var tasks = new List<Answer>();
        foreach (var unit in units)
            tasks.Add(await petra.Act("/shelf/take", new { task = (await Waiting(petra, unit)).GetProperty("task").GetInt32() }));
        Every.One(tasks, j => Assert.True(j.IsOk, j.Body.ToString()));
        var first = tasks[0]["task"].GetInt32();
        Assert.Equal("unit-label", (await petra.Act("/shelf/scan-goods", new { task = first, scan = "BK-60" })).Code);
        var scanned = await petra.Act("/shelf/scan-goods", new { task = first, scan = "00" + units[1] });
        Assert.Equal(tasks[1]["task"].GetInt32(), scanned["task"].GetInt32());
        Assert.Contains("of your other task", scanned["sentence"].GetString(), StringComparison.Ordinal);
        Assert.Equal(
            "goods-not-scanned",
            (await petra.Act("/shelf/put-down", new { task = first, bin = tasks[0]["bin"].GetString() })).Code
        );
        Assert.True((await petra.Act("/shelf/put-down", new { task = scanned["task"].GetInt32(), bin = scanned["bin"].GetString() })).IsOk);
        await using var db = server.Db();
        async Task<string> Stands(string sscc) =>
            (
                await db
                    .Balances.Where(b => db.Units.Any(u => u.Id == b.UnitId && u.Sscc == sscc))
                    .Select(b => db.Bins.Single(x => x.Id == b.BinId).Address)
                    .SingleAsync()
            );
        Assert.Equal(
            (scanned["bin"].GetString(), true),
            (await Stands(units[1]), (await Stands(units[0])).StartsWith("D4", StringComparison.Ordinal))
        );

        Assert.True((await petra.Act("/shelf/scan-goods", new { task = first, scan = units[0] })).IsOk);
        Assert.True((await petra.Act("/shelf/give-back", new { task = first })).IsOk);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task An_items_label_takes_the_loose_goods_and_tells_no_unit()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var yusuf = await server.SignIn("yusuf");
        await TwoPallets(wanjiru, maren, "PO-LOOSE", loose: 5);
        var gtin = DemoTemplate.Of.Items.First(i => i.Code == "BK-60").BasePack.Gtin!;
        var loose = await yusuf.Act("/shelf/take", new { scan = gtin });
        Assert.True(loose.IsOk, loose.Body.ToString());
        Assert.Contains("5 each of", loose["sentence"].GetString(), StringComparison.Ordinal);
        var unit = await yusuf.Act("/shelf/take", new { scan = gtin });
        Assert.Contains("Scan the unit's own label", unit["sentence"].GetString(), StringComparison.Ordinal);
        Assert.Equal(
            "goods-not-scanned",
            (await yusuf.Act("/shelf/put-down", new { task = unit["task"].GetInt32(), bin = unit["bin"].GetString() })).Code
        );
        foreach (var task in new[] { loose, unit })
            await yusuf.Act("/shelf/give-back", new { task = task["task"].GetInt32() });
    }

    [Fact]
    public async Task What_waits_is_the_same_for_queue_strip_and_forecast()
    {
        using var petra = await server.SignIn("petra");
        async Task<int> Strip() =>
            (await petra.Ask("/house"))["rooms"]
                .EnumerateArray()
                .First(r => r.GetProperty("room").GetString() == "shelf")
                .GetProperty("count")
                .GetInt32();
        async Task<int> Queue() => (await petra.Ask("/shelf/queue"))["tasks"].GetArrayLength();
        Assert.Equal(await Queue(), await Strip());
        var free = (await petra.Ask("/shelf/queue"))["tasks"]
            .EnumerateArray()
            .First(j =>
                j.GetProperty("state").GetString() == "Waiting"
                && j.GetProperty("standing").GetProperty("kind").GetString() == nameof(StandingKind.Usable)
            );
        var taken = await petra.Act("/shelf/take", new { task = free.GetProperty("task").GetInt32() });
        Assert.True(taken.IsOk, taken.Body.ToString());
        Assert.Equal(await Queue(), await Strip());
        await petra.Act("/shelf/give-back", new { task = taken["task"].GetInt32() });
    }

    [Fact]
    public async Task A_bin_that_was_said_to_be_full_is_not_proposed_for_these_goods_again_that_day_and_the_next_best_is()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var petra = await server.SignIn("petra");
        using var yusuf = await server.SignIn("yusuf");
        var units = await TwoPallets(wanjiru, maren, "PO-FULL", loose: 0);
        var taken = await petra.Act("/shelf/take", new { task = (await Waiting(petra, units[0])).GetProperty("task").GetInt32() });
        var (task, first) = (taken["task"].GetInt32(), taken["bin"].GetString()!);
        Assert.Equal("task-taken", (await yusuf.Act("/shelf/bin-refused", new { task, trouble = "Full" })).Code);
        var refused = await petra.Act("/shelf/bin-refused", new { task, trouble = "Full" });
        Assert.True(refused.IsOk, refused.Body.ToString());
        var second = refused["bin"].GetString()!;
        Assert.NotEqual(first, second);
        Assert.Contains($"{first} is noted as full", refused["sentence"].GetString(), StringComparison.Ordinal);

        // The next pallet of the same goods is not sent there either, and the plan says why.
        var proposal = await yusuf.Ask($"/shelf/tasks/{(await Waiting(yusuf, units[1])).GetProperty("task").GetInt32()}");
        Assert.NotEqual(first, proposal["bin"].GetString());
        var ruledOut = proposal["trail"].GetProperty("ruledOut").EnumerateArray();
        Assert.Equal(1, ruledOut.Single(r => r.GetProperty("limit").GetString() == "SaidUnusable").GetProperty("bins").GetInt32());
        var plan = (await yusuf.Ask("/shelf/plan"))["bins"].EnumerateArray();
        Assert.StartsWith(
            "full, says Petra",
            plan.Single(b => b.GetProperty("address").GetString() == first).GetProperty("said").GetString()
        );

        // Something else than the book says may stand in a bin.
        var other = await petra.Act("/shelf/bin-refused", new { task, trouble = "OtherGoods" });
        Assert.Contains($"{second} is noted as taken by something else", other["sentence"].GetString(), StringComparison.Ordinal);
        Assert.DoesNotContain(other["bin"].GetString(), new[] { first, second });

        // Who finds room there all the same may put it there.
        await petra.Act("/shelf/scan-goods", new { task, scan = "00" + units[0] });
        Assert.True((await petra.Act("/shelf/put-down", new { task, bin = first })).IsOk);
    }

    async Task<(string Address, decimal Quantity, StandingKind Kind)> Stands(string sscc)
    {
        await using var db = server.Db();
        var stands = await db.Balances.SingleAsync(b => db.Units.Any(u => u.Id == b.UnitId && u.Sscc == sscc));
        return (
            await db.Bins.Where(b => b.Id == stands.BinId).Select(b => b.Address).SingleAsync(),
            stands.Quantity,
            (StandingKind)stands.Standing.Id
        );
    }

    async Task<Answer> TakeScanned(Client driver, string unit)
    {
        var taken = await driver.Act("/shelf/take", new { scan = "00" + unit });
        Assert.True(taken.IsOk, taken.Body.ToString());
        return taken;
    }

    [Fact]
    public async Task Goods_that_were_scanned_are_on_the_truck_until_they_are_in_a_bin_and_given_back_they_are_where_they_were()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var petra = await server.SignIn("petra");
        var unit = (await TwoPallets(wanjiru, maren, "PO-TRUCK", loose: 0))[0];
        var door = (await Stands(unit)).Address;
        var task = await petra.Act("/shelf/take", new { task = (await Waiting(petra, unit)).GetProperty("task").GetInt32() });
        // Taken from the queue it is promised; it still stands at the door.
        Assert.Equal(door, (await Stands(unit)).Address);
        await petra.Act("/shelf/scan-goods", new { task = task["task"].GetInt32(), scan = "00" + unit });
        await petra.Act("/shelf/scan-goods", new { task = task["task"].GetInt32(), scan = "00" + unit });
        Assert.Equal("TRUCK-PETRA", (await Stands(unit)).Address);
        var card = await Waiting(petra, unit);
        Assert.Equal(("TRUCK-PETRA", true), (card.GetProperty("from").GetString(), card.GetProperty("loaded").GetBoolean()));
        Assert.Empty((await server.Check()).Faults);

        Assert.True((await petra.Act("/shelf/give-back", new { task = task["task"].GetInt32() })).IsOk);
        Assert.Equal(door, (await Stands(unit)).Address);
        Assert.Equal("Waiting", (await Waiting(petra, unit)).GetProperty("state").GetString());
        var again = await TakeScanned(petra, unit);
        Assert.Equal("TRUCK-PETRA", (await Stands(unit)).Address);
        Assert.True((await petra.Act("/shelf/put-down", new { task = again["task"].GetInt32(), bin = again["bin"].GetString() })).IsOk);
        Assert.Equal(again["bin"].GetString(), (await Stands(unit)).Address);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Goods_set_down_half_way_wait_there_and_a_colleague_takes_over_what_is_on_a_truck()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var petra = await server.SignIn("petra");
        using var yusuf = await server.SignIn("yusuf");
        var unit = (await TwoPallets(wanjiru, maren, "PO-HALF", loose: 0))[0];
        var first = await TakeScanned(petra, unit);
        var half = await petra.Act("/shelf/put-down", new { task = first["task"].GetInt32(), bin = "D1-R2" });
        Assert.True(half.IsOk, half.Body.ToString());
        Assert.Equal("D1-R2", (await Stands(unit)).Address);
        Assert.Equal("task-given-back", (await petra.Act("/shelf/give-back", new { task = first["task"].GetInt32() })).Code);
        Assert.Equal("D1-R2", (await Waiting(yusuf, unit)).GetProperty("from").GetString());

        var second = await TakeScanned(petra, unit);
        var refused = await yusuf.Act("/shelf/take", new { scan = "00" + unit });
        Assert.Equal("task-taken", refused.Code);
        Assert.Contains("has it on TRUCK-PETRA", refused.Sentence, StringComparison.Ordinal);
        var over = await yusuf.Act("/shelf/take", new { scan = "00" + unit, takeOver = true });
        Assert.True(over.IsOk, over.Body.ToString());
        Assert.Equal((second["task"].GetInt32(), "TRUCK-YUSUF"), (over["task"].GetInt32(), (await Stands(unit)).Address));
        Assert.Equal(
            "task-taken",
            (await petra.Act("/shelf/put-down", new { task = second["task"].GetInt32(), bin = second["bin"].GetString() })).Code
        );
        Assert.True((await yusuf.Act("/shelf/put-down", new { task = over["task"].GetInt32(), bin = over["bin"].GetString() })).IsOk);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_hold_finds_goods_on_a_truck_stops_the_task_and_gives_them_another_way()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var petra = await server.SignIn("petra");
        var unit = (await TwoPallets(wanjiru, maren, "PO-STOP", loose: 0))[0];
        var taken = await TakeScanned(petra, unit);
        await using var db = server.Db();
        var stock = await db.Balances.SingleAsync(b => db.Units.Any(u => u.Id == b.UnitId && u.Sscc == unit));
        var held = await wanjiru.Act("/cage/hold", new { balance = stock.Id, why = "smells of diesel" });
        Assert.True(held.IsOk, held.Body.ToString());
        Assert.Equal(("TRUCK-PETRA", StandingKind.Held), ((await Stands(unit)).Address, (await Stands(unit)).Kind));
        var stopped = await petra.Act("/shelf/put-down", new { task = taken["task"].GetInt32(), bin = taken["bin"].GetString() });
        Assert.Equal("task-stopped", stopped.Code);
        var card = await Waiting(petra, unit);
        Assert.Equal(
            ("Waiting", "ToCage", "TRUCK-PETRA"),
            (card.GetProperty("state").GetString(), card.GetProperty("kind").GetString(), card.GetProperty("from").GetString())
        );
        var cage = await TakeScanned(petra, unit);
        Assert.StartsWith("CAGE", cage["bin"].GetString(), StringComparison.Ordinal);
        Assert.True((await petra.Act("/shelf/put-down", new { task = cage["task"].GetInt32(), bin = cage["bin"].GetString() })).IsOk);
        Assert.Equal(cage["bin"].GetString(), (await Stands(unit)).Address);
        Assert.Empty((await server.Check()).Faults);
    }
}
