using System.Collections.Concurrent;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>
/// Who counts blind is sent nothing that carries or implies what is expected. Two servers differ in nothing but what was ordered: whatever
/// the receiver asks and
/// does, each answer must be the same letter by letter, so that nothing of it can tell.
/// </summary>
public sealed partial class BlindTests
{
    [GeneratedRegex("[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}|[0-9a-f]{32}-[0-9a-f]{16}")]
    private static partial Regex Ids();

    [Fact]
    public async Task Answers_do_not_depend_on_what_was_ordered()
    {
        await using var few = new DemoServer();
        await using var many = new DemoServer();
        await few.InitializeAsync();
        await many.InitializeAsync();
        await Prepare(few, 1);
        await Prepare(many, 7);
        var (a, b) = (await Heard(few), await Heard(many));
        Assert.Equal(a.Count, b.Count);
        Assert.True(a.Count > 40, $"only {a.Count} answers were compared");
        for (var i = 0; i < a.Count; i++)
            Assert.Equal(a[i], b[i]);
        Every.One(a, answer => Assert.DoesNotContain("\"status\":500", answer, StringComparison.Ordinal));
        Assert.Contains("arrival:A-2617", a[^1], StringComparison.Ordinal);
        foreach (var counted in new[] { "in two orders", "in one", "over", "early", "aside" })
            Assert.Contains("\"sentence\"", a.Single(h => h.StartsWith(counted + ":", StringComparison.Ordinal)), StringComparison.Ordinal);
        Assert.Contains(a, h =>
            h.StartsWith("/door/tally/A-2617:", StringComparison.Ordinal) && h.Contains("\"blind\":true", StringComparison.Ordinal)
        );

        // The comparison can fail: who settles tallies sees the difference.
        Assert.NotEqual(await As(few, "wanjiru", "/door/tally/A-2617"), await As(many, "wanjiru", "/door/tally/A-2617"));
        Assert.NotEqual(await As(few, "wanjiru", "/door/queue"), await As(many, "wanjiru", "/door/queue"));
    }

    /// <summary>Blind from now on, and ordered so many times as much of what is not counted yet.</summary>
    static async Task Prepare(DemoServer server, int times)
    {
        using var anselm = await server.SignIn("anselm");
        var page = await anselm.Ask("/site/door");
        var settings = JsonSerializer.Deserialize<Dictionary<string, object>>(page["settings"])!;
        settings["blind"] = true;
        settings["secondCount"] = true;
        settings["restAsOrdered"] = true;
        Assert.True((await anselm.Act("/site/door", new { settings, hasAddresses = true })).IsOk);
        await using var db = server.Db();
        await db.Database.ExecuteSqlAsync($"UPDATE ManifestLines SET Expected = Expected * {times}");
        await db.Database.ExecuteSqlAsync(
            $"UPDATE LineParts SET Ordered = Ordered * {times} WHERE Id IN (SELECT PartId FROM ManifestLines)"
        );
        // Of what is counted blind somebody waits for a part: what is kept for them tells no more than the rest.
        await db.Database.ExecuteSqlAsync(
            $"""
            UPDATE LineParts SET WaitingFor = 'job 7', WaitingQuantity = 5000000 * {times}
            WHERE ItemId = (SELECT Id FROM Items WHERE Code = 'CB-05') AND Id IN (SELECT PartId FROM ManifestLines)
            """
        );
    }

    /// <summary>Everything a receiver is sent while counting: every open question, and counts that are short, over and in two orders at
    /// once.</summary>
    static async Task<List<string>> Heard(DemoServer server)
    {
        var heard = new List<string>();
        using var leila = await server.SignIn("leila");
        await using var line = new HubConnectionBuilder().WithUrl(server.Url + "/live", o => o.Cookies = leila.Cookies).Build();
        var pushed = new ConcurrentDictionary<string, int>();
        line.On<JsonElement>("changed", change =>
        {
            foreach (var topic in change.GetProperty("topics").EnumerateArray())
                pushed.AddOrUpdate($"{topic} by {change.GetProperty("by")}", 1, (_, n) => n + 1);
        });
        await line.StartAsync();
        Assert.True(await line.InvokeAsync<bool>("Join", "LM"));
        void Keep(string what, Answer answer) => heard.Add($"{what}: {Ids().Replace(answer.Body.ToString(), "id")}");
        async Task Look()
        {
            foreach (var path in Open(server))
                Keep(path, await leila.Ask(path));
        }

        await Look();
        object Brick(string packs, string pack, string? aside = null, int? part = null) =>
            Client.Count(
                packs,
                "A-2617",
                "CB-05",
                pack,
                new
                {
                    sourceBatch = "NC-1201",
                    aside,
                    note = "torn",
                    part,
                }
            );
        Keep("in two orders", await leila.Act("/door/count", Brick("9", "pallet")));
        Keep("in one", await leila.Act("/door/count", Brick("2", "carton")));
        Keep("over", await leila.Act("/door/count", Brick("40", "pallet")));
        Keep("early", await leila.Act("/door/count", Client.Count("3", "A-2617", "CP-08", "carton")));
        Keep("aside", await leila.Act("/door/count", Brick("1", "carton", "Damaged")));
        Keep("not aboard", await leila.Act("/door/count", Client.Count("1", "A-2617", "TP-18", "each")));
        Keep("chosen", await leila.Act("/door/count", Brick("1", "carton", part: 1)));
        Keep("announced", await leila.Act("/door/count-unit", new { arrival = "A-2617", sscc = "340123450000009010" }));
        foreach (var scan in new[] { "CB-05", "SD-FEN", "TP-18", "NO-SUCH-THING", "PO-4471", "A-2617" })
            Keep(scan, await leila.Ask($"/scan?text={scan}&arrival=A-2617"));
        Keep(
            "note",
            await leila.Act(
                "/door/delivery-note",
                new
                {
                    arrival = "A-2617",
                    vendorId = 1,
                    note = "DN-1",
                }
            )
        );
        Keep(
            "ask",
            await leila.Act(
                "/door/ask",
                new
                {
                    arrival = "A-2617",
                    kind = "UnknownCode",
                    code = "FREMD-1",
                    packs = "2",
                }
            )
        );
        Keep(
            "close",
            await leila.Act(
                "/door/close",
                new
                {
                    arrival = "A-2617",
                    decisions = Array.Empty<object>(),
                    deliveryNotes = Array.Empty<object>(),
                }
            )
        );
        Keep("rest", await leila.Act("/door/rest-as-ordered", new { arrival = "A-2617" }));
        await Look();
        Keep("back", await leila.Act("/door/take-back", new { arrival = "A-2617" }));
        await Look();
        // How often a topic is pushed depends on how acts fall together in time; what is pushed does not.
        await Task.Delay(1000);
        heard.Add($"pushed: {string.Join("; ", pushed.Keys.Order(StringComparer.Ordinal))}");
        return heard;
    }

    /// <summary>Every question of the site, whether it is open to who counts blind or not: none may tell.</summary>
    static IEnumerable<string> Open(DemoServer server) =>
        server
            .App.Services.GetServices<EndpointDataSource>()
            .SelectMany(s => s.Endpoints)
            .OfType<RouteEndpoint>()
            .Where(e =>
                e.Metadata.GetMetadata<RightNeeded>() is not null && e.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods[0] == "GET"
            )
            .Select(e =>
                e.RoutePattern.RawText!.Replace("/api/{site}", "", StringComparison.Ordinal)
                    .Replace("{number}", "A-2617", StringComparison.Ordinal)
                    .Replace("{id:int}", "1", StringComparison.Ordinal)
                    .Replace("{task:int}", "1", StringComparison.Ordinal)
                    .Replace("{code}", "CB-05", StringComparison.Ordinal)
            )
            .Where(p => !p.Contains("picture", StringComparison.Ordinal))
            .Select(p => p == "/scan" ? "/scan?text=CB-05&arrival=A-2617" : p)
            .Order(StringComparer.Ordinal);

    static async Task<string> As(DemoServer server, string name, string path)
    {
        using var client = await server.SignIn(name);
        return Ids().Replace((await client.Ask(path)).Body.ToString(), "id");
    }
}
