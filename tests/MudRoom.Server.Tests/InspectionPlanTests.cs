using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Server.Bench;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>A plan in force is never edited: a draft is compared, signed, and rules what is drawn from then on.</summary>
public sealed class InspectionPlanTests(DemoServer server) : IClassFixture<DemoServer>
{
    static JsonNode Says(Answer plan, string version) => JsonNode.Parse(plan[version].GetProperty("says").GetRawText())!;

    static string Hash(Answer plan, string version) => plan[version].GetProperty("hash").GetString()!;

    static Task<Answer> Plan(Client client, int id = 1) => client.Ask($"/bench/plan/{id}");

    static Task<Answer> Draft(Client client, string looked, JsonNode says, int plan = 1) =>
        client.Act(
            "/bench/plans/draft",
            new
            {
                plan,
                looked,
                says,
            }
        );

    static Task<Answer> Sign(Client client, string looked, string? from = null, string password = "sunita-mud-06", int plan = 1) =>
        client.Act(
            "/bench/plans/sign",
            new
            {
                plan,
                looked,
                from,
                name = "Sunita Gellatly",
                password,
                comment = "length drifts",
            }
        );

    [Fact]
    public async Task A_draft_is_compared_signed_in_force_and_rules_the_next_draw_while_open_sheets_keep_their_version()
    {
        using var sunita = await server.SignIn("sunita");
        var plan = await Plan(sunita);
        var says = Says(plan, "inForce");
        says["characteristics"]![2]!["upper"] = "214";
        says["major"]!["isDouble"] = true;
        Assert.True((await Draft(sunita, Hash(plan, "inForce"), says)).IsOk);

        // In the same breath by an older look: refused, and nothing of it kept.
        Assert.Equal("draft-moved", (await Draft(sunita, Hash(plan, "inForce"), says)).Code);
        plan = await Plan(sunita);
        var changes = plan["changes"].EnumerateArray().Select(c => $"{c.GetProperty("field")} {c.GetProperty("was")}").ToList();
        Assert.Equal(["major level II, AQL 2.5", "upper limit 215"], changes);
        Assert.Equal(1, plan["inForce"].GetProperty("number").GetInt32());

        // Both versions, what they do to the vendor's lots, one beside the other.
        var lots = plan["lots"][0];
        var does = await sunita.Ask(
            $"/bench/plan/1/does?of=Major&lot=240&item={lots.GetProperty("itemId")}&vendor={lots.GetProperty("vendorId")}"
        );
        Assert.Equal(32, does["inForce"].GetProperty("size").GetInt32());
        Assert.Equal((20, 20), (does["draft"].GetProperty("size").GetInt32(), does["draft"].GetProperty("second").GetInt32()));
        Assert.Equal(448, does["vendor"].GetProperty("inspected").GetInt32());

        Assert.Equal("signature-wrong", (await Sign(sunita, Hash(plan, "draft"), password: "nonsense-01")).Code);
        Assert.True((await Sign(sunita, Hash(plan, "draft"))).IsOk);
        var open = await sunita.Ask("/bench/sheet/I-0024");
        Assert.Equal(1, open["planVersion"].GetInt32());
        Assert.True((await sunita.Act("/bench/draw", new { inspection = "I-0026" })).IsOk);
        // Drawn by a slip: put back, and drawn again.
        Assert.True((await sunita.Act("/bench/put-back", new { inspection = "I-0026" })).IsOk);
        Assert.Equal("findings-made", (await sunita.Act("/bench/put-back", new { inspection = "I-0024" })).Code);
        Assert.True((await sunita.Act("/bench/draw", new { inspection = "I-0026" })).IsOk);
        var next = await sunita.Ask("/bench/sheet/I-0026");
        Assert.Equal(2, next["planVersion"].GetInt32());
        Assert.Equal("214", next["characteristics"][2].GetProperty("upper").GetRawText());
        // Book names the plan, and finds what happened to it by its name.
        var told = await sunita.Ask("/book/ledger?text=Cutting%20tools");
        Assert.Contains("version 2 in force from", told["rows"][0].GetProperty("sentence").GetString());
        Assert.Equal("Plan", told["rows"][0].GetProperty("about")[0].GetProperty("kind").GetString());
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_version_may_begin_on_a_later_day_and_what_is_in_force_stays_until_then()
    {
        using var sunita = await server.SignIn("sunita");
        var plan = await Plan(sunita, 2);
        var before = plan["inForce"].GetProperty("number").GetInt32();
        var says = Says(plan, "inForce");
        says["setUpMinutes"] = "20";
        Assert.True((await Draft(sunita, Hash(plan, "inForce"), says, 2)).IsOk);
        plan = await Plan(sunita, 2);
        Assert.Equal("plan-backdated", (await Sign(sunita, Hash(plan, "draft"), "2026-03-01", plan: 2)).Code);
        Assert.True((await Sign(sunita, Hash(plan, "draft"), "2026-03-16", plan: 2)).IsOk);
        plan = await Plan(sunita, 2);
        Assert.Equal(
            (before, before + 1),
            (plan["inForce"].GetProperty("number").GetInt32(), plan["next"].GetProperty("number").GetInt32())
        );
    }

    [Fact]
    public async Task Where_two_sign_the_goods_are_free_only_after_the_second_who_is_another()
    {
        using var sunita = await server.SignIn("sunita");
        using var bram = await server.SignIn("bram");
        var plan = await Plan(sunita, 2);
        var says = Says(plan, "inForce");
        says["wantsSecond"] = true;
        Assert.True((await Draft(sunita, Hash(plan, "inForce"), says, 2)).IsOk);
        Assert.True((await Sign(sunita, Hash(await Plan(sunita, 2), "draft"), plan: 2)).IsOk);
        Assert.True((await sunita.Act("/bench/draw", new { inspection = "I-0025" })).IsOk);
        var sheet = await sunita.Ask("/bench/sheet/I-0025");
        foreach (var c in sheet["characteristics"].EnumerateArray())
            for (var piece = 1; piece <= c.GetProperty("pieces").GetProperty("last").GetInt32(); piece++)
                Assert.True((await Find(sunita, piece, c)).IsOk);

        Assert.True((await SignSheet(sunita, "Sunita Gellatly", "sunita-mud-06")).IsOk);
        Assert.Equal("signed-already", (await SignSheet(sunita, "Sunita Gellatly", "sunita-mud-06")).Code);
        var moisture = sheet["characteristics"][0];
        Assert.Equal("signed-first", (await Find(bram, 1, moisture, "8.8")).Code);
        Assert.Equal("no-signature", (await bram.Act("/bench/unsign", new { inspection = "I-0025" })).Code);
        await using (var db = server.Db())
            Assert.True(await Inspects(db));
        Assert.True((await SignSheet(bram, "Bram Okonjo", "bram-mud-07")).IsOk);
        await using (var db = server.Db())
            Assert.False(await Inspects(db));
        Assert.Equal("Sunita Gellatly and Bram Okonjo", (await sunita.Ask("/bench/sheet/I-0025"))["signedBy"].GetString());
        Assert.Empty((await server.Check()).Faults);

        static Task<bool> Inspects(Data.MudRoomDb db) =>
            db.Statements.AnyAsync(s => s.SettledAt == null && db.Inspections.Any(i => i.Id == s.InspectionId && i.Number == "I-0025"));
        Task<Answer> SignSheet(Client client, string name, string password) =>
            client.Act(
                "/bench/sign",
                new
                {
                    inspection = "I-0025",
                    name,
                    password,
                    verdict = "Accepted",
                    meaning = "Approved",
                }
            );
        static Task<Answer> Find(Client client, int piece, JsonElement c, string value = "8") =>
            client.Act(
                "/bench/find",
                new
                {
                    inspection = "I-0025",
                    piece,
                    characteristic = c.GetProperty("id").GetInt32(),
                    value = c.GetProperty("unit").ValueKind == JsonValueKind.Null ? null : value,
                    pass = c.GetProperty("unit").ValueKind == JsonValueKind.Null ? true : (bool?)null,
                }
            );
    }

    [Fact]
    public async Task A_new_plan_is_a_draft_with_its_faults_and_dropped_leaves_nothing()
    {
        using var sunita = await server.SignIn("sunita");
        var says = Says(await Plan(sunita, 2), "inForce");
        says["characteristics"] = new JsonArray();
        Assert.Equal("plan-name-taken", (await sunita.Act("/bench/plans/new", new { name = "seed LOT", says })).Code);
        var made = await sunita.Act("/bench/plans/new", new { name = "Live plants", says });
        Assert.True(made.IsOk, made.Body.ToString());
        var id = made.Body.GetProperty("id").GetInt32();
        var plan = await Plan(sunita, id);
        Assert.Contains("nothing to look at", plan["faults"][0].GetString());
        var refused = await Sign(sunita, Hash(plan, "draft"), plan: id);
        Assert.Equal("plan-faulty", refused.Code);
        Assert.True((await sunita.Act("/bench/plans/drop", new { plan = id, looked = Hash(plan, "draft") })).IsOk);
        await using var db = server.Db();
        Assert.False(await db.InspectionPlans.AnyAsync(p => p.Id == id));
    }

    [Theory]
    [InlineData("upper", "0,2x", "upper limit of Gap at the tip")]
    [InlineData("upper", "0.1234567", "upper limit of Gap at the tip")]
    public async Task What_is_no_number_is_named(string field, string typed, string names)
    {
        using var sunita = await server.SignIn("sunita");
        var plan = await Plan(sunita);
        var version = plan["draft"].ValueKind == JsonValueKind.Null ? "inForce" : "draft";
        var says = Says(plan, version);
        says["characteristics"]![0]![field] = typed;
        var refused = await Draft(sunita, Hash(plan, version), says);
        Assert.False(refused.IsOk);
        Assert.Contains(names, refused.Body.GetProperty("detail").GetString());
    }

    [Fact]
    public async Task A_word_on_severity_counts_only_where_it_is_asked_for_and_only_of_a_supervisor()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        Task<Answer> Say(Client client, string said, string? reason = "steady for months", string inspection = "I-0024") =>
            client.Act(
                "/bench/severity",
                new
                {
                    inspection,
                    said,
                    reason,
                }
            );
        Assert.Equal("right-missing", (await Say(sunita, "ReducedAllowed")).Code);
        Assert.Equal("severity-idle", (await Say(wanjiru, "Restarted")).Code);
        Assert.Equal("reason-missing", (await Say(wanjiru, "ReducedAllowed", " ")).Code);
        Assert.False((await Say(wanjiru, "ReducedAllowed", inspection: "I-9999")).IsOk);
        // The minors of fourteen lots were accepted at the next tighter AQL too: only a person's word was missing. The majors were not.
        Assert.True((await Say(wanjiru, "ReducedAllowed")).IsOk);
        Assert.Equal("Reduced", Severity((await sunita.Ask("/bench/sheet/I-0024"))));
        Assert.True((await Say(wanjiru, "ReducedEnded")).IsOk);
        Assert.Equal("Normal", Severity((await sunita.Ask("/bench/sheet/I-0024"))));

        static string Severity(Answer sheet) => sheet["severities"][1].GetProperty("severity").GetString()!;
    }

    /// <summary>The lots of a vendor at a site, class by class, with the words of people in between.</summary>
    [Fact]
    public void Severity_follows_from_the_lots_and_the_words_in_their_order()
    {
        var day = new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
        (string, DateTimeOffset, IReadOnlyList<ClassOutcome>) Lot(int i, bool major, bool minor) =>
            (
                $"I-{i}",
                day.AddDays(i),
                [
                    new(CharacteristicClass.Major, major, 32, major ? 0 : 4, 2, major, null, Severity.Normal, true),
                    new(CharacteristicClass.Minor, minor, 32, minor ? 0 : 5, 3, minor, null, Severity.Normal, true),
                ]
            );
        var seen = Severities.Of([Lot(1, true, true), Lot(2, false, true), Lot(3, false, true)], [], at => at.UtcDateTime);
        Assert.Equal((Severity.Tightened, Severity.Normal), (seen.For(CharacteristicClass.Major), seen.For(CharacteristicClass.Minor)));
        Assert.Equal((8, 96), (seen.Quality(CharacteristicClass.Major).Nonconforming, seen.Quality(CharacteristicClass.Major).Inspected));
        Assert.Null(seen.IsStopped);
        var bad = Enumerable.Range(1, 7).Select(i => Lot(i, false, true)).ToList();
        Assert.NotNull(Severities.Of(bad, [], at => at.UtcDateTime).IsStopped);
        var restarted = new SeverityRow
        {
            SiteId = 1,
            ItemId = 1,
            VendorId = 1,
            Said = SeveritySaid.Restarted,
            By = "Wanjiru",
            At = day.AddDays(8),
            Reason = "new tool",
        };
        var again = Severities.Of(bad, [restarted], at => at.UtcDateTime);
        Assert.Equal((null, Severity.Tightened), (again.IsStopped, again.For(CharacteristicClass.Major)));
    }
}
