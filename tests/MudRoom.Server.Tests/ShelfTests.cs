using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Put-away: the job that is scanned is the one that is moved, and what waits has one meaning.</summary>
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
        (await client.Ask("/shelf/queue"))["jobs"].EnumerateArray().First(j => j.GetProperty("sscc").GetString() == sscc);

    [Fact]
    public async Task Of_two_jobs_the_one_that_is_scanned_is_the_one_that_moves()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var petra = await server.SignIn("petra");
        var units = await TwoPallets(wanjiru, maren, "PO-PALS", loose: 0);
        var jobs = new List<Answer>();
        foreach (var unit in units)
            jobs.Add(await petra.Act("/shelf/take", new { balance = (await Waiting(petra, unit)).GetProperty("balance").GetInt64() }));
        Every.One(jobs, j => Assert.True(j.IsOk, j.Body.ToString()));
        var first = jobs[0]["job"].GetInt32();
        Assert.Equal("unit-label", (await petra.Act("/shelf/scan-goods", new { job = first, scan = "BK-60" })).Code);
        var scanned = await petra.Act("/shelf/scan-goods", new { job = first, scan = "00" + units[1] });
        Assert.Equal(jobs[1]["job"].GetInt32(), scanned["job"].GetInt32());
        Assert.Contains("of your other job", scanned["sentence"].GetString(), StringComparison.Ordinal);
        Assert.Equal("goods-not-scanned", (await petra.Act("/shelf/put-down", new { job = first, bin = jobs[0]["bin"].GetString() })).Code);
        Assert.True((await petra.Act("/shelf/put-down", new { job = scanned["job"].GetInt32(), bin = scanned["bin"].GetString() })).IsOk);
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

        Assert.True((await petra.Act("/shelf/scan-goods", new { job = first, scan = units[0] })).IsOk);
        Assert.True((await petra.Act("/shelf/give-back", new { job = first })).IsOk);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task An_items_label_takes_the_loose_goods_and_tells_no_unit()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var yusuf = await server.SignIn("yusuf");
        await TwoPallets(wanjiru, maren, "PO-LOOSE", loose: 5);
        var gtin = MudRoom.Demo.Scenario.Make().Items.First(i => i.Code == "BK-60").BasePack.Gtin!;
        var loose = await yusuf.Act("/shelf/take", new { scan = gtin });
        Assert.True(loose.IsOk, loose.Body.ToString());
        Assert.Contains("5 each of", loose["sentence"].GetString(), StringComparison.Ordinal);
        var unit = await yusuf.Act("/shelf/take", new { scan = gtin });
        Assert.Contains("Scan the unit's own label", unit["sentence"].GetString(), StringComparison.Ordinal);
        Assert.Equal(
            "goods-not-scanned",
            (await yusuf.Act("/shelf/put-down", new { job = unit["job"].GetInt32(), bin = unit["bin"].GetString() })).Code
        );
        foreach (var job in new[] { loose, unit })
            await yusuf.Act("/shelf/give-back", new { job = job["job"].GetInt32() });
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
        async Task<int> Queue() => (await petra.Ask("/shelf/queue"))["jobs"].GetArrayLength();
        Assert.Equal(await Queue(), await Strip());
        var free = (await petra.Ask("/shelf/queue"))["jobs"]
            .EnumerateArray()
            .First(j =>
                j.GetProperty("balance").ValueKind == JsonValueKind.Number
                && j.GetProperty("standing").GetProperty("kind").GetString() == nameof(StandingKind.Usable)
            );
        var taken = await petra.Act("/shelf/take", new { balance = free.GetProperty("balance").GetInt64() });
        Assert.True(taken.IsOk, taken.Body.ToString());
        Assert.Equal(await Queue(), await Strip());
        await petra.Act("/shelf/give-back", new { job = taken["job"].GetInt32() });
    }

    [Fact]
    public async Task A_bin_that_was_said_to_be_full_is_not_proposed_for_these_goods_again_that_day_and_the_next_best_is()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        using var petra = await server.SignIn("petra");
        using var yusuf = await server.SignIn("yusuf");
        var units = await TwoPallets(wanjiru, maren, "PO-FULL", loose: 0);
        var taken = await petra.Act("/shelf/take", new { balance = (await Waiting(petra, units[0])).GetProperty("balance").GetInt64() });
        var (job, first) = (taken["job"].GetInt32(), taken["bin"].GetString()!);
        Assert.Equal("job-taken", (await yusuf.Act("/shelf/bin-refused", new { job, trouble = "Full" })).Code);
        var refused = await petra.Act("/shelf/bin-refused", new { job, trouble = "Full" });
        Assert.True(refused.IsOk, refused.Body.ToString());
        var second = refused["bin"].GetString()!;
        Assert.NotEqual(first, second);
        Assert.Contains($"{first} is noted as full", refused["sentence"].GetString(), StringComparison.Ordinal);

        // The next pallet of the same goods is not sent there either, and the plan says why.
        var proposal = await yusuf.Ask($"/shelf/proposal/{(await Waiting(yusuf, units[1])).GetProperty("balance").GetInt64()}");
        Assert.NotEqual(first, proposal["bin"].GetString());
        var ruledOut = proposal["trail"].GetProperty("ruledOut").EnumerateArray();
        Assert.Equal(1, ruledOut.Single(r => r.GetProperty("limit").GetString() == "SaidUnusable").GetProperty("bins").GetInt32());
        var plan = (await yusuf.Ask("/shelf/plan"))["bins"].EnumerateArray();
        Assert.StartsWith(
            "full, says Petra",
            plan.Single(b => b.GetProperty("address").GetString() == first).GetProperty("said").GetString()
        );

        // Who finds room there all the same may put it there.
        await petra.Act("/shelf/scan-goods", new { job, scan = "00" + units[0] });
        Assert.True((await petra.Act("/shelf/put-down", new { job, bin = first })).IsOk);
    }
}
