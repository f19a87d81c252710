using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;

namespace MudRoom.Server.Tests;

/// <summary>The facts of a house: what units are numbered by, its clock, its yard.</summary>
public sealed class HouseFactsTests(DemoServer server) : IClassFixture<DemoServer>
{
    static async Task<JsonNode> Facts(Client client) => JsonNode.Parse((await client.Ask("/site/house"))["facts"].GetRawText())!;

    static async Task<Answer> Keep(Client client, Action<JsonNode> change)
    {
        var facts = await Facts(client);
        change(facts);
        return await client.Act("/site/house", facts);
    }

    [Fact]
    public async Task What_is_kept_holds_for_the_next_unit_and_the_next_file()
    {
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var anselm = await own.SignIn("anselm");
        var kept = await Keep(anselm, f =>
        {
            f["companyPrefix"] = "95213210";
            f["nextNumber"] = 5;
            f["dateForm"] = "MonthDayYear";
            f["gln"] = "9521321000032";
            f["spots"]!
                .AsArray()
                .Add(
                    new JsonObject
                    {
                        ["number"] = "Z9",
                        ["vehicles"] = new JsonArray("truck"),
                        ["coldPlug"] = true,
                        ["x"] = 12,
                    }
                );
        });
        Assert.True(kept.IsOk, kept.Body.ToString());
        Assert.StartsWith("3 9521321 000000 005", (await anselm.Ask("/site/house"))["sample"].GetString(), StringComparison.Ordinal);
        using var maren = await own.SignIn("maren");
        Assert.Equal("395213210", (await maren.Act("/door/numbers", new { kind = "Unit" }))["start"].GetString());
        using var dilys = await own.SignIn("dilys");
        Assert.True(
            (
                await dilys.Act(
                    "/road/import",
                    new
                    {
                        name = "us.csv",
                        text = "order,vendor,line,item,quantity,due,site\nPO-US,SALT,1,CN-25,40,3/25/2026,9521321000032\n",
                    }
                )
            ).IsOk
        );
        await using var db = own.Db();
        Assert.Equal(new DateOnly(2026, 3, 25), (await db.LineParts.SingleAsync(p => p.Line!.Order!.Number == "PO-US")).Due);
        Assert.True(await db.YardSpots.AnyAsync(s => s.Number == "Z9" && s.ColdPlug));
        Assert.Empty((await own.Check()).Faults);
    }

    [Fact]
    public async Task No_unit_is_numbered_while_nobody_has_said_by_what()
    {
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var anselm = await own.SignIn("anselm");
        Assert.True((await Keep(anselm, f => f["companyPrefix"] = null)).IsOk);
        using var maren = await own.SignIn("maren");
        Assert.Equal("numbers-not-set", (await maren.Act("/door/numbers", new { kind = "Unit" })).Code);
        Assert.True((await Keep(anselm, f => f["ownNumbers"] = true)).IsOk);
        Assert.True((await maren.Act("/door/numbers", new { kind = "Unit" })).IsOk);
    }

    [Theory]
    [InlineData("timeZone", "\"Europe/Nowhere\"", "time-zone-unknown")]
    [InlineData("name", "\" \"", "setting-absurd")]
    [InlineData("gln", "\"9521321000019\"", "gln-wrong")]
    [InlineData("companyPrefix", "\"12\"", "prefix-wrong")]
    [InlineData("nextNumber", "0", "range-wrong")]
    [InlineData("spots", "[]", "spot-taken")]
    [InlineData("spots", "[{\"number\":\"Q1\",\"vehicles\":[\"boat\"],\"coldPlug\":false,\"x\":0}]", "vehicle-unknown")]
    public async Task What_cannot_be_is_refused_and_nothing_is_kept(string field, string value, string code)
    {
        using var anselm = await server.SignIn("anselm");
        var before = (await Facts(anselm)).ToJsonString();
        Assert.Equal(code, (await Keep(anselm, f => f[field] = JsonNode.Parse(value))).Code);
        Assert.Equal(before, (await Facts(anselm)).ToJsonString());
    }

    [Fact]
    public async Task Two_vendors_never_have_one_gln_by_hand_or_by_file()
    {
        using var anselm = await server.SignIn("anselm");
        Assert.True((await anselm.Act("/site/vendor", new { code = "SALT", gln = "9521321000025" })).IsOk);
        Assert.Equal("gln-taken", (await anselm.Act("/site/vendor", new { code = "QUER", gln = "9521321000025" })).Code);
        var file = await anselm.Act(
            "/site/files/preview",
            new
            {
                kind = "Vendors",
                name = "v.csv",
                text = "code,gln\nQUER,9521321000025\nNILG,9521321000018\n",
            }
        );
        Assert.Equal(["gln"], file["faults"].EnumerateArray().Select(f => f.GetProperty("field").GetString()));
    }
}
