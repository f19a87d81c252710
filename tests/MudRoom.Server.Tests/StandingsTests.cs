using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Book;

namespace MudRoom.Server.Tests;

/// <summary>What goods may be used for is a row of the site: the administrator adds a standing, and everything follows it.</summary>
public sealed class StandingsTests(DemoServer server) : IClassFixture<DemoServer>
{
    /// <summary>A standing as the page sends it.</summary>
    public static Dictionary<string, object?> Row(string word, string kind, string shape, params string[] places) =>
        new()
        {
            ["word"] = word,
            ["kind"] = kind,
            ["lets"] =
                kind == "Usable" ? ["PutAway", "Move", "Issue", "Count", "Sample"] : (string[])["PutAway", "Move", "Count", "Sample"],
            ["places"] =
                places.Length > 0 ? places
                : kind == "Usable" ? ["Pick", "Reserve", "Floor"]
                : (string[])["Cage"],
            ["rank"] = 60,
            ["shape"] = shape,
            ["colour"] = "Sea",
            ["available"] = false,
            ["retired"] = false,
        };

    /// <summary>Adds it where it is not there yet.</summary>
    /// <returns>Its number.</returns>
    public static async Task<int> Add(DemoServer server, Dictionary<string, object?> row)
    {
        using var administrator = await server.SignIn("anselm");
        if (Find(await administrator.Ask("/site/standings"), (string)row["word"]!) is { } there)
            return there.GetProperty("id").GetInt32();
        var kept = await administrator.Act("/site/standings", new { row, seen = 0 });
        Assert.True(kept.IsOk, kept.Body.ToString());
        return Find(await administrator.Ask("/site/standings"), (string)row["word"]!)!.Value.GetProperty("id").GetInt32();
    }

    static JsonElement? Find(Answer page, string word) =>
        page["rows"].EnumerateArray().Cast<JsonElement?>().FirstOrDefault(r => r!.Value.GetProperty("word").GetString() == word);

    /// <summary>Loose goods that nobody has said anything of, of an item that is not inspected.</summary>
    async Task<Balance> Loose(int skip)
    {
        await using var db = server.Db();
        return await db
            .Balances.Where(b =>
                b.SiteId == 1
                && b.Standing == Standing.Usable
                && b.UnitId == null
                && b.Serial == null
                && b.Quantity >= 10
                && db.Bins.Any(x => x.Id == b.BinId && x.Function == Core.Site.BinFunction.Pick)
                && db.Items.Any(i => i.Id == b.ItemId && i.InspectionPlanId == null)
                && !db.Balances.Any(o => o.BinId == b.BinId && o.ItemId == b.ItemId && o.Id != b.Id)
                && db.Balances.Count(o => o.LotId == b.LotId) == 1
            )
            .OrderBy(b => b.Id)
            .Skip(skip)
            .FirstAsync();
    }

    async Task<Balance> OfLot(int? lot)
    {
        await using var db = server.Db();
        return await db.Balances.SingleAsync(b => b.LotId == lot);
    }

    async Task<Core.Cage.Hold> LastHold()
    {
        await using var db = server.Db();
        return await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
    }

    async Task<string> CodeOf(Balance balance)
    {
        await using var db = server.Db();
        return await db.Items.Where(i => i.Id == balance.ItemId).Select(i => i.Code).SingleAsync();
    }

    [Fact]
    public async Task Goods_of_an_added_standing_may_be_issued_where_it_lets_them_and_not_shipped_and_the_hold_speaks_for_less()
    {
        var wet = await Add(server, Row("wet cartons", "Usable", "Triangle"));
        using var wanjiru = await server.SignIn("wanjiru");
        var stock = await Loose(0);
        var held = await wanjiru.Act(
            "/cage/hold",
            new
            {
                balance = stock.Id,
                why = "rained on",
                @as = "wet cartons",
            }
        );
        Assert.Contains("are wet cartons, by", held["sentence"].GetString(), StringComparison.Ordinal);
        var hold = await LastHold();
        var now = await OfLot(stock.LotId);
        Assert.Equal((wet, hold.Quantity), (now.Standing.Id, now.Quantity));

        var row = (await wanjiru.Ask($"/book/find?text={await CodeOf(stock)}"))["stock"]
            .EnumerateArray()
            .Single(r => r.GetProperty("id").GetInt64() == now.Id);
        Assert.Equal(
            ("wet cartons", "Triangle", true, false),
            (
                row.GetProperty("standing").GetProperty("word").GetString(),
                row.GetProperty("standing").GetProperty("shape").GetString(),
                row.GetProperty("mayIssue").GetBoolean(),
                row.GetProperty("mayShip").GetBoolean()
            )
        );
        var issued = await wanjiru.Act(
            "/book/issue",
            new
            {
                balance = now.Id,
                quantity = "3",
                to = "Job",
                reference = "J-7",
            }
        );
        Assert.True(issued.IsOk, issued.Body.ToString());
        await using (var db = server.Db())
            Assert.Equal(hold.Quantity - 3, (await db.Holds.SingleAsync(h => h.Id == hold.Id)).Quantity);
        var shipped = await wanjiru.Act(
            "/door/outwork/send",
            new
            {
                balance = now.Id,
                quantity = "1",
                vendor = "V-01",
                order = "O-1",
                treatment = "dried",
            }
        );
        Assert.Equal("not-usable", shipped["code"].GetString());
        Assert.Empty((await server.Check()).Faults);

        // Issued whole, the hold holds nothing any more.
        var rest = await wanjiru.Act(
            "/book/issue",
            new
            {
                balance = now.Id,
                quantity = $"{hold.Quantity - 3}",
                to = "Job",
                reference = "J-7",
            }
        );
        Assert.True(rest.IsOk, rest.Body.ToString());
        await using var after = server.Db();
        Assert.False((await after.Holds.SingleAsync(h => h.Id == hold.Id)).IsOpen);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Of_two_words_only_what_both_let_may_be_done_and_the_rank_shows_one_which_can_be_changed()
    {
        using var administrator = await server.SignIn("anselm");
        var spare = Row("spare", "Usable", "Plus");
        var tagged = Row("tagged", "Usable", "Arch");
        tagged["lets"] = (string[])["PutAway", "Move", "Count"];
        tagged["rank"] = 20;
        var (high, low) = (await Add(server, spare), await Add(server, tagged));
        using var wanjiru = await server.SignIn("wanjiru");
        var stock = await Loose(1);
        foreach (var word in new[] { "spare", "tagged" })
            Assert.True(
                (
                    await wanjiru.Act(
                        "/cage/hold",
                        new
                        {
                            balance = (await OfLot(stock.LotId)).Id,
                            why = "seen",
                            @as = word,
                        }
                    )
                ).IsOk
            );
        var both = await OfLot(stock.LotId);
        Assert.Equal(high, both.Standing.Id);
        var issued = await wanjiru.Act(
            "/book/issue",
            new
            {
                balance = both.Id,
                quantity = "1",
                to = "Job",
                reference = "J-8",
            }
        );
        Assert.Equal("not-usable", issued["code"].GetString());

        tagged["id"] = low;
        tagged["rank"] = 90;
        Assert.True((await administrator.Act("/site/standings", new { row = tagged, seen = 0 })).IsOk);
        Assert.Equal(low, (await OfLot(stock.LotId)).Standing.Id);
        Assert.Empty((await server.Check()).Faults);

        spare["id"] = high;
        spare["word"] = "for samples";
        Assert.True((await administrator.Act("/site/standings", new { row = spare, seen = 0 })).IsOk);
        var card = (await wanjiru.Ask("/cage/holds"))["holds"]
            .EnumerateArray()
            .Select(h => h.GetProperty("asks").GetProperty("word").GetString());
        Assert.Contains("for samples", card);

        spare["retired"] = true;
        var refused = await administrator.Act("/site/standings", new { row = spare, seen = 0 });
        Assert.Equal("standing-in-use", refused["code"].GetString());
    }

    [Fact]
    public async Task A_change_shows_what_it_would_forbid_and_is_kept_only_by_who_has_seen_it()
    {
        using var administrator = await server.SignIn("anselm");
        var usable = Find(await administrator.Ask("/site/standings"), "usable")!.Value;
        var row = JsonSerializer.Deserialize<Dictionary<string, object?>>(usable.GetRawText())!;
        row["places"] = (string[])["Reserve", "Floor"];
        row["word"] = "good";
        row["lets"] = Array.Empty<string>();
        var preview = await administrator.Act("/site/standings/preview", row);
        var lines = preview["lines"].GetInt32();
        await using (var db = server.Db())
            Assert.Equal(
                await db
                    .Balances.Where(b =>
                        b.SiteId == 1
                        && b.Standing == Standing.Usable
                        && db.Bins.Any(x =>
                            x.Id == b.BinId
                            && x.Function != Core.Site.BinFunction.Reserve
                            && x.Function != Core.Site.BinFunction.Floor
                            && x.Function != Core.Site.BinFunction.Staging
                        )
                    )
                    .Select(b => new
                    {
                        b.BinId,
                        b.ItemId,
                        b.BatchId,
                        b.UnitId,
                        b.Serial,
                    })
                    .Distinct()
                    .CountAsync(),
                lines
            );
        Assert.NotEqual(0, lines);
        Assert.Equal("stands-wrongly", (await administrator.Act("/site/standings", new { row, seen = lines - 1 }))["code"].GetString());
        Assert.True((await administrator.Act("/site/standings", new { row, seen = lines })).IsOk);
        // Of one that every site has only the places are another: its word and its rights are not anybody's to change.
        var kept = Find(await administrator.Ask("/site/standings"), "usable")!.Value;
        Assert.Equal((2, 6), (kept.GetProperty("places").GetArrayLength(), kept.GetProperty("lets").GetArrayLength()));
        row["places"] = usable.GetProperty("places");
        Assert.True((await administrator.Act("/site/standings", new { row, seen = 0 })).IsOk);
    }

    [Fact]
    public async Task Only_the_administrator_changes_them_and_nonsense_is_refused()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True((await wanjiru.Ask("/site/standings")).IsOk);
        Assert.Equal(
            "right-missing",
            (await wanjiru.Act("/site/standings", new { row = Row("mine", "Held", "Plus"), seen = 0 }))["code"].GetString()
        );
        using var administrator = await server.SignIn("anselm");
        foreach (
            var (field, value) in new (string, object?)[]
            {
                ("word", "held"),
                ("word", ""),
                ("word", null),
                ("places", Array.Empty<string>()),
                ("places", (string[])["Staging"]),
                ("rank", 0),
                ("lets", (string[])["Issue"]),
                ("available", true),
            }
        )
        {
            var row = Row("odd", "Held", "Hexagon");
            row[field] = value;
            Assert.Equal("standing-absurd", (await administrator.Act("/site/standings", new { row, seen = 0 }))["code"].GetString());
        }

        var stock = await Loose(0);
        Assert.Equal("choice-unknown", (
                await wanjiru.Act(
                    "/cage/hold",
                    new
                    {
                        balance = stock.Id,
                        why = "seen",
                        @as = "rejected",
                    }
                )
            )["code"].GetString());
    }

    [Fact]
    public async Task Goods_that_may_not_be_moved_are_in_nobodys_queue_and_those_that_may_go_where_their_standing_has_its_places()
    {
        var still = Row("at customs", "Held", "Hexagon");
        still["lets"] = (string[])["Count"];
        await Add(server, still);
        await Add(server, Row("for tasting", "Usable", "Ring", "Bench"));
        using var tomasz = await server.SignIn("tomasz");
        using var wanjiru = await server.SignIn("wanjiru");
        using var yusuf = await server.SignIn("yusuf");
        await tomasz.Act("/door/count", Client.Count("2"));
        var balance = await Waiting();
        Assert.True(
            (
                await wanjiru.Act(
                    "/cage/hold",
                    new
                    {
                        balance,
                        quantity = "1",
                        why = "papers",
                        @as = "at customs",
                    }
                )
            ).IsOk
        );
        Assert.Equal(0, await InQueue("at customs"));
        Assert.True(
            (
                await wanjiru.Act(
                    "/cage/hold",
                    new
                    {
                        balance = await Waiting(),
                        quantity = "1",
                        why = "tasting",
                        @as = "for tasting",
                    }
                )
            ).IsOk
        );
        Assert.Equal(1, await InQueue("for tasting"));
        var card = (await yusuf.Ask("/shelf/queue"))["tasks"]
            .EnumerateArray()
            .First(j => j.GetProperty("standing").GetProperty("word").GetString() == "for tasting");
        Assert.Contains("For tasting: it goes to the bench.", card.GetProperty("why").GetString(), StringComparison.Ordinal);
        var taken = await yusuf.Act("/shelf/take", new { task = card.GetProperty("task").GetInt32() });
        Assert.True(taken.IsOk, taken.Body.ToString());
        await using var db = server.Db();
        var bin = taken["bin"].GetString();
        Assert.Equal(Core.Site.BinFunction.Bench, (await db.Bins.SingleAsync(b => b.SiteId == 1 && b.Address == bin)).Function);
        await yusuf.Act("/shelf/give-back", new { task = taken["task"].GetInt32() });
        Assert.Empty((await server.Check()).Faults);

        async Task<int> InQueue(string word) =>
            (await yusuf.Ask("/shelf/queue"))["tasks"]
                .EnumerateArray()
                .Count(j => j.GetProperty("standing").GetProperty("word").GetString() == word);

        async Task<long> Waiting()
        {
            await using var now = server.Db();
            var last = await now.TallyEntries.OrderByDescending(e => e.Id).FirstAsync();
            return await now
                .Balances.Where(b => b.ItemId == last.ItemId && b.BinId == last.BinId && b.Standing == Standing.Usable)
                .OrderByDescending(b => b.Id)
                .Select(b => b.Id)
                .FirstAsync();
        }
    }

    [Fact]
    public async Task A_sample_is_not_drawn_of_goods_of_which_somebody_says_that_they_may_not_be_sampled()
    {
        var still = Row("sealed", "Held", "HalfCircle");
        still["lets"] = (string[])["PutAway", "Move", "Count"];
        await Add(server, still);
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        var counted = await wanjiru.Act("/door/count", LotTests.Sacks("2", "SEALED-1"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        await using var db = server.Db();
        var inspection = await db.Inspections.OrderByDescending(i => i.Id).FirstAsync();
        var stock = await db.Balances.SingleAsync(b => b.BatchId == inspection.BatchId);
        Assert.True(
            (
                await wanjiru.Act(
                    "/cage/hold",
                    new
                    {
                        balance = stock.Id,
                        why = "seal whole",
                        @as = "sealed",
                    }
                )
            ).IsOk
        );
        var hold = await LastHold();
        var drawn = await sunita.Act("/bench/draw", new { inspection = inspection.Number });
        Assert.True(!drawn.IsOk, drawn.Body.ToString());
        Assert.Equal("not-let", drawn["code"].GetString());
        Assert.Contains($"{hold.Number} says that they are sealed", drawn.Body.ToString(), StringComparison.Ordinal);
        Assert.True((await wanjiru.Act("/cage/lift", new { hold = hold.Number })).IsOk);
        Assert.True((await sunita.Act("/bench/draw", new { inspection = inspection.Number })).IsOk);
    }

    [Fact]
    public async Task What_is_set_up_is_seen_by_the_act_that_stands_behind_it_at_the_write_desk()
    {
        using var administrator = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        var stock = await Loose(0);
        var desk = server.App.Services.GetRequiredService<MudRoom.Data.WriteDesk>();
        var (begun, goesOn) = (new TaskCompletionSource(), new TaskCompletionSource());
        // Somebody writes slowly; behind them wait the standing, and the hold that asks for it.
        var slow = desk.Do(async _ =>
        {
            begun.SetResult();
            await goesOn.Task;
            return (0, false);
        });
        await begun.Task;
        var row = Row("just now", "Held", "Arch");
        row["colour"] = "Wine";
        var adding = administrator.Act("/site/standings", new { row, seen = 0 });
        await Task.Delay(300, TestContext.Current.CancellationToken);
        var holding = wanjiru.Act(
            "/cage/hold",
            new
            {
                balance = stock.Id,
                why = "at once",
                @as = "just now",
            }
        );
        await Task.Delay(300, TestContext.Current.CancellationToken);
        goesOn.SetResult();
        await slow;
        var added = await adding;
        Assert.True(added.IsOk, added.Body.ToString());
        var held = await holding;
        Assert.True(held.IsOk, held.Body.ToString());
        Assert.Empty((await server.Check()).Faults);
    }
}
