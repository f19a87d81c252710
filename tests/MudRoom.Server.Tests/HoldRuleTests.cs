using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;

namespace MudRoom.Server.Tests;

/// <summary>Rules of holds: signed in force, tried on what came, changed and ended; what they hold stays held.</summary>
public sealed class HoldRuleTests(DemoServer server) : IClassFixture<DemoServer>
{
    static Dictionary<string, object?> Says(string name, int days, string counted = "Calendar", string from = "Tally", object? goods = null)
    {
        var says = new Dictionary<string, object?>
        {
            ["name"] = name,
            ["days"] = days,
            ["counted"] = counted,
            ["from"] = from,
        };
        foreach (var p in goods?.GetType().GetProperties() ?? [])
            says[p.Name] = p.GetValue(goods);
        return says;
    }

    static Task<Answer> Sign(Client client, object says, int? inPlaceOf = null, string password = "sunita-mud-06") =>
        client.Act(
            "/cage/rules/sign",
            new
            {
                says,
                inPlaceOf,
                signer = "Sunita Gellatly",
                password,
            }
        );

    static Task<Answer> End(Client client, int rule, string why) =>
        client.Act(
            "/cage/rules/end",
            new
            {
                rule,
                why,
                signer = "sunita",
                password = "sunita-mud-06",
            }
        );

    static async Task<int> Id(Client client, string name) =>
        (await client.Ask("/cage/rules"))["rules"]
            .EnumerateArray()
            .Single(r => r.GetProperty("name").GetString() == name)
            .GetProperty("id")
            .GetInt32();

    Task<List<Hold>> Held(string batch) => From(batch, h => h.IsOpen);

    async Task<List<Hold>> From(string batch, Func<Hold, bool> which)
    {
        await using var db = server.Db();
        var holds = await db
            .Holds.Where(h => db.Batches.Any(b => b.Id == h.BatchId && b.SourceBatch!.Number == batch))
            .OrderBy(h => h.Id)
            .ToListAsync();
        return [.. holds.Where(which)];
    }

    [Fact]
    public async Task A_rule_is_signed_in_force_holds_what_is_counted_from_then_on_and_what_it_holds_outlives_it()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        var says = Says(
            "New smithy",
            3,
            "Working",
            "Arrival",
            new
            {
                vendor = "Kitagiri Blades",
                item = "GK-07",
                batch = "KN-*",
            }
        );
        Assert.Equal("right-missing", (await Sign(wanjiru, says)).Code);
        Assert.Equal("signature-wrong", (await Sign(sunita, says, password: "guessed")).Code);
        var signed = await Sign(sunita, says);
        Assert.Equal(
            "New smithy, signed in force by Sunita Gellatly: Grafting knife 7 cm from Kitagiri Blades whose batch is written KN-*: "
                + "3 working days from the gate.",
            signed["sentence"].GetString()
        );
        Assert.Equal("hold-rule-there", (await Sign(sunita, says)).Code);

        Assert.True((await wanjiru.Act("/door/count", BenchHands.Knives("KN-1", "6"))).IsOk);
        Assert.True((await wanjiru.Act("/door/count", BenchHands.Knives("OTHER-1", "6"))).IsOk);
        Assert.Empty(await Held("OTHER-1"));
        var hold = Assert.Single(await Held("KN-1"));
        // Of Tuesday the tenth: Wednesday, Thursday, half of Friday (stocktaking) and Saturday until noon.
        Assert.Equal(new DateTimeOffset(2026, 3, 14, 12, 0, 0, TimeSpan.Zero), hold.Until);
        Assert.Equal(("New smithy", 6m), (hold.Times.Single().Rule, hold.Quantity));

        // A change ends the rule and signs another; what was counted keeps its time.
        var id = await Id(sunita, "New smithy");
        var changed = Says(
            "New smithy",
            2,
            goods: new
            {
                vendor = "KITA",
                item = "GK-07",
                batch = "KN-*",
            }
        );
        var again = await Sign(sunita, changed, id);
        Assert.Contains("Before: Grafting knife 7 cm", again["sentence"].GetString(), StringComparison.Ordinal);
        Assert.Equal("not-found", (await Sign(sunita, changed, id)).Code);
        Assert.True((await wanjiru.Act("/door/count", BenchHands.Knives("KN-1", "4"))).IsOk);
        var both = await Held("KN-1");
        Assert.Equal([6m, 4m], both.Select(h => h.Quantity));
        Assert.Equal(both[1].Since.AddDays(2), both[1].Until);

        id = await Id(sunita, "New smithy");
        Assert.Equal("reason-missing", (await End(sunita, id, " ")).Code);
        Assert.True((await End(sunita, id, "ten lots were good")).IsOk);
        Assert.Equal("not-found", (await End(sunita, id, "again")).Code);
        Assert.True((await wanjiru.Act("/door/count", BenchHands.Knives("KN-2", "4"))).IsOk);
        Assert.Empty(await Held("KN-2"));
        Assert.Equal(2, (await Held("KN-1")).Count);
        var list = await sunita.Ask("/cage/rules");
        Assert.DoesNotContain("New smithy", list["rules"].ToString(), StringComparison.Ordinal);
        Assert.Equal(2, list["ended"].EnumerateArray().Count(r => r.GetProperty("name").GetString() == "New smithy"));
        var told = await sunita.Ask("/book/ledger?text=New%20smithy");
        Assert.Contains("ended by Sunita Gellatly: ten lots were good.", told.Body.ToString(), StringComparison.Ordinal);
        Assert.Empty((await server.Check()).Faults);
    }

    [Theory]
    [InlineData("", 3, "{}", "setting-absurd")]
    [InlineData("Everything", 3, "{}", "hold-rule-empty")]
    [InlineData("Never", 0, """{"category":"citrus"}""", "hold-rule-absurd")]
    [InlineData("Odd", 3, """{"category":"citrus","seasonFirst":"02-30","seasonLast":"03-01"}""", "hold-rule-absurd")]
    [InlineData("Odd", 3, """{"category":"citrus","seasonFirst":"spring","seasonLast":"03-01"}""", "hold-rule-absurd")]
    [InlineData("Odd", 3, """{"category":"citrus","seasonFirst":"03-01"}""", "hold-rule-absurd")]
    [InlineData("Unknown", 3, """{"vendor":"Nobody"}""", "not-found")]
    [InlineData("Unknown", 3, """{"category":"moon rock"}""", "not-found")]
    [InlineData("Odd", 3, """{"category":"citrus","counted":7}""", "unreadable")]
    public async Task What_cannot_be_a_rule_gets_a_sentence_and_nothing_is_kept(string name, int days, string goods, string code)
    {
        using var sunita = await server.SignIn("sunita");
        var says = Says(name, days);
        foreach (var (key, value) in System.Text.Json.Nodes.JsonNode.Parse(goods)!.AsObject())
            says[key] = value;
        Assert.Equal(code, (await Sign(sunita, says)).Code);
        await using var db = server.Db();
        Assert.Equal(0, await db.HoldRules.CountAsync(r => r.Name == name));
    }

    /// <summary>Against every lot of the ninety days, one by one.</summary>
    [Theory]
    [InlineData("category=bare-root%20tree")]
    [InlineData("vendor=KITA&batch=*1")]
    [InlineData("vendor=KITA&seasonFirst=12-15&seasonLast=01-31&counted=Working")]
    public async Task A_trial_says_what_a_rule_would_have_caught(string query)
    {
        using var sunita = await server.SignIn("sunita");
        var trial = await sunita.Ask(
            "/cage/rules/trial?name=Trial&days=10&" + (query.Contains("counted") ? "" : "counted=Calendar&") + "from=Tally&" + query
        );
        Assert.True(trial.IsOk, trial.Body.ToString());
        await using var db = server.Db();
        var since = new DateTimeOffset(trial["since"].GetDateTime(), TimeSpan.Zero);
        var lots = await db.Lots.Where(l => l.SiteId == 1 && l.ParentId == null && l.ArrivalId != null).ToListAsync();
        lots.RemoveAll(l => l.OpenedAt < since);
        var items = await db.Items.ToDictionaryAsync(i => i.Id);
        var batches = await db.Batches.Include(b => b.SourceBatch).ToDictionaryAsync(b => b.Id);
        var kita = await db.Vendors.Where(v => v.Code == "KITA").Select(v => v.Id).SingleAsync();
        string batchOf(Lot lot) => lot.BatchId is { } id ? batches[id].SourceBatch?.Number ?? "" : "";
        var caught = lots.Where(l =>
                query.StartsWith("category", StringComparison.Ordinal) ? items[l.ItemId].Category == "bare-root tree"
                : query.Contains("batch", StringComparison.Ordinal) ? l.VendorId == kita && batchOf(l).EndsWith('1')
                : l.VendorId == kita && (l.OpenedAt.Month == 1 || l.OpenedAt is { Month: 12, Day: >= 15 })
            )
            .ToList();
        Assert.NotEmpty(caught);
        Assert.Equal(lots.Count, trial["lookedAt"].GetInt32());
        Assert.Equal(caught.Count, trial["lots"].GetInt32());
        Assert.Equal(caught.Select(l => l.VendorId).Distinct().Count(), trial["vendors"].GetInt32());
        Assert.Equal(Math.Min(20, caught.Count), trial["last"].GetArrayLength());
    }
}
