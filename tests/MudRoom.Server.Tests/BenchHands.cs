using System.Text.Json;

namespace MudRoom.Server.Tests;

/// <summary>What hands do at the bench, over HTTP.</summary>
public static class BenchHands
{
    public static Task<Answer> Rule(Client client, int? plan, string? item = null, string? trigger = null, string? vendor = null) =>
        client.Act(
            "/bench/rules/new",
            new
            {
                plan,
                trigger,
                item,
                category = "",
                vendor,
                origin = "",
                reason = "new tool at the maker's",
            }
        );

    public static Task<Answer> Sign(Client client, string inspection, string verdict) =>
        client.Act(
            "/bench/sign",
            new
            {
                inspection,
                name = "Sunita Gellatly",
                password = "sunita-mud-06",
                verdict,
                meaning = "Checked",
            }
        );

    /// <summary>Draws a sample and finds all of it good, or all that is measured far too large.</summary>
    public static async Task<string> Fill(Client client, string inspection, bool good = true)
    {
        var drawn = await client.Act("/bench/draw", new { inspection, lotSize = "10" });
        Assert.True(drawn.IsOk, drawn.Body.ToString());
        return await Look(client, inspection, good);
    }

    /// <summary>Finds all of a drawn sample good, or all that is measured far too large.</summary>
    public static async Task<string> Look(Client client, string inspection, bool good = true)
    {
        var sheet = await client.Ask($"/bench/sheet/{inspection}");
        Answer? last = null;
        foreach (var c in sheet["characteristics"].EnumerateArray())
        {
            var isLooked = c.GetProperty("unit").ValueKind == JsonValueKind.Null;
            var upper = c.GetProperty("upper");
            var lower = c.GetProperty("lower");
            var within =
                isLooked ? 0
                : upper.ValueKind == JsonValueKind.Null ? lower.GetDecimal()
                : upper.GetDecimal();
            var pieces = c.GetProperty("pieces");
            for (var piece = pieces.GetProperty("first").GetInt32(); piece <= pieces.GetProperty("last").GetInt32(); piece++)
            {
                last = await client.Act(
                    "/bench/find",
                    new
                    {
                        inspection,
                        piece,
                        characteristic = c.GetProperty("id").GetInt32(),
                        value = isLooked ? null : (good ? within : within + 1).ToString(System.Globalization.CultureInfo.InvariantCulture),
                        pass = isLooked ? good : (bool?)null,
                        isSure = true,
                    }
                );
                Assert.True(last.IsOk, last.Body.ToString());
            }
        }

        return last!["verdict"].GetString()!;
    }

    /// <summary>A new version of the plan of cutting tools, in force.</summary>
    public static async Task InForce(Client client, Action<System.Text.Json.Nodes.JsonNode> change)
    {
        var plan = await client.Ask("/bench/plan/1");
        var says = System.Text.Json.Nodes.JsonNode.Parse(plan["inForce"].GetProperty("says").GetRawText())!;
        change(says);
        var looked = plan["inForce"].GetProperty("hash").GetString();
        var drafted = await client.Act(
            "/bench/plans/draft",
            new
            {
                plan = 1,
                looked,
                says,
            }
        );
        Assert.True(drafted.IsOk, drafted.Body.ToString());
        looked = (await client.Ask("/bench/plan/1"))["draft"].GetProperty("hash").GetString();
        var signed = await client.Act(
            "/bench/plans/sign",
            new
            {
                plan = 1,
                looked,
                name = "Sunita Gellatly",
                password = "sunita-mud-06",
            }
        );
        Assert.True(signed.IsOk, signed.Body.ToString());
    }

    /// <summary>What was to be scrapped is, and Leila saw it.</summary>
    public static object Seen(string? hold) =>
        new
        {
            hold,
            witness = "leila",
            witnessPassword = "leila-mud-03",
        };

    public static object Knives(string batch, string packs = "8") =>
        Client.Count(packs, "A-2620", "GK-07", "each", new { sourceBatch = batch });
}
