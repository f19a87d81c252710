using System.Text.Json.Nodes;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>How a site plans, and who is here when.</summary>
public sealed class PlanningPageTests(DemoServer server) : IClassFixture<DemoServer>
{
    static JsonObject Settings(Answer answer) => JsonNode.Parse(answer["settings"].GetRawText())!.AsObject();

    [Fact]
    public async Task A_rule_that_only_warned_forbids_once_the_site_says_so()
    {
        using var anselm = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-STRICT",
                kind = "Purchase",
                vendor = "QUER",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "PF-50",
                        quantity = "102",
                        due = "2026-03-12",
                    },
                },
            }
        );
        var arrival = (
            await wanjiru.Act(
                "/road/arrivals",
                new
                {
                    orders = new[] { "PO-STRICT" },
                    planned = "2026-03-12T10:00:00",
                    atOnce = false,
                }
            )
        )["number"].GetString()!;
        var version = (await wanjiru.Ask($"/road/arrivals/{arrival}"))["version"].GetInt32();
        var early = new
        {
            arrival,
            door = 2,
            start = "2026-03-12T08:00:00",
            crew = new[] { 2 },
            version,
        };
        Assert.Equal("plan-warns", (await wanjiru.Act("/road/plan", early)).Code);
        var now = await anselm.Ask("/site/planning");
        var settings = Settings(now);
        settings["advisory"] = new JsonArray("Spacing");
        Assert.Equal("right-missing", (await wanjiru.Act("/site/planning", new { settings, horizonDays = 14 })).Code);
        Assert.True((await anselm.Act("/site/planning", new { settings, horizonDays = 14 })).IsOk);
        Assert.Equal("plan-breaks-rule", (await wanjiru.Act("/road/plan", early)).Code);
    }

    [Theory]
    [InlineData("palletsPerHour", 0)]
    [InlineData("setUpMinutes", -1)]
    [InlineData("mostCrew", 500)]
    [InlineData("gateMinutes", 100000)]
    [InlineData("otherFreeDays", -3)]
    public async Task Settings_that_cannot_be_right_are_refused_and_nothing_is_kept(string field, int value)
    {
        using var anselm = await server.SignIn("anselm");
        var settings = Settings(await anselm.Ask("/site/planning"));
        var was = settings.ToJsonString();
        settings[field] = value;
        Assert.Equal("setting-absurd", (await anselm.Act("/site/planning", new { settings, horizonDays = 14 })).Code);
        Assert.Equal(was, Settings(await anselm.Ask("/site/planning")).ToJsonString());
    }

    [Fact]
    public async Task Settings_without_a_list_are_refused()
    {
        using var anselm = await server.SignIn("anselm");
        var settings = Settings(await anselm.Ask("/site/planning"));
        settings["hours"] = null;
        Assert.Equal("setting-absurd", (await anselm.Act("/site/planning", new { settings, horizonDays = 14 })).Code);
    }

    [Fact]
    public async Task A_holiday_shuts_the_doors_of_that_day()
    {
        using var anselm = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        var settings = Settings(await anselm.Ask("/site/planning"));
        settings["holidays"] = new JsonArray(
            new JsonObject
            {
                ["day"] = "2026-03-19",
                ["name"] = "Stocktaking",
                ["until"] = null,
            }
        );
        Assert.True((await anselm.Act("/site/planning", new { settings, horizonDays = 14 })).IsOk);
        var day = await wanjiru.Ask("/road/day?date=2026-03-19");
        Assert.Equal("Stocktaking", day["holiday"].GetString());
        Every.One(day["doors"].EnumerateArray(), d => Assert.Equal(System.Text.Json.JsonValueKind.Null, d.GetProperty("from").ValueKind));
    }

    [Fact]
    public async Task Who_is_taken_off_the_roster_unloads_nothing_that_day()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var week = await wanjiru.Ask("/road/roster?day=2026-03-10");
        Assert.Equal("2026-03-09", week["monday"].GetString());
        var leila = week["people"]
            .EnumerateArray()
            .First(p => p.GetProperty("name").GetString()!.StartsWith("Leila", StringComparison.Ordinal))
            .GetProperty("personId")
            .GetInt32();
        async Task<bool> Unloads() =>
            (await wanjiru.Ask("/road/day?date=2026-03-11"))["workers"].EnumerateArray().Any(w => w.GetProperty("id").GetInt32() == leila);
        Assert.True(
            (
                await wanjiru.Act(
                    "/road/roster",
                    new
                    {
                        personId = leila,
                        day = "2026-03-11",
                        from = "07:00:00",
                        to = "15:30:00",
                    }
                )
            ).IsOk
        );
        Assert.True(await Unloads());
        Assert.True((await wanjiru.Act("/road/roster", new { personId = leila, day = "2026-03-11" })).IsOk);
        Assert.False(await Unloads());
        Assert.Equal(
            "hours-backward",
            (
                await wanjiru.Act(
                    "/road/roster",
                    new
                    {
                        personId = leila,
                        day = "2026-03-11",
                        from = "15:00:00",
                        to = "07:00:00",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "date-absurd",
            (
                await wanjiru.Act(
                    "/road/roster",
                    new
                    {
                        personId = leila,
                        day = "1900-03-11",
                        from = "07:00:00",
                        to = "15:00:00",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "not-found",
            (
                await wanjiru.Act(
                    "/road/roster",
                    new
                    {
                        personId = 9999,
                        day = "2026-03-11",
                        from = "07:00:00",
                        to = "15:00:00",
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task A_week_becomes_as_the_one_before()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var before = (await wanjiru.Ask("/road/roster?day=2026-03-09"))["people"];
        Assert.True((await wanjiru.Act("/road/roster/copy", new { monday = "2026-03-16" })).IsOk);
        var after = (await wanjiru.Ask("/road/roster?day=2026-03-16"))["people"];
        static IEnumerable<string?> Hours(System.Text.Json.JsonElement people) =>
            people.EnumerateArray().SelectMany(p => p.GetProperty("days").EnumerateArray()).Select(d => d.GetProperty("from").GetString());
        Assert.Equal(Hours(before), Hours(after));
        Assert.Equal("week-empty", (await wanjiru.Act("/road/roster/copy", new { monday = "2026-12-28" })).Code);
    }
}
