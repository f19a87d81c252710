using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Server.Cage;

namespace MudRoom.Server.Tests;

/// <summary>What holds want besides time, over HTTP: papers, signatures, an inspection; and many lifted together.</summary>
public sealed class HoldConditionTests(DemoServer server) : IClassFixture<DemoServer>
{
    static readonly string pdf = Convert.ToBase64String("%PDF-1.7\n"u8.ToArray());

    static Task<Answer> Ok(Task<Answer> act) =>
        act.ContinueWith(
            t => t.Result.IsOk ? t.Result : throw new InvalidOperationException(t.Result.Body.ToString()),
            TaskScheduler.Default
        );

    static Task<Answer> Attach(Client client, string hold, string? kind, string name = "paper") =>
        client.Act(
            "/cage/attach",
            new
            {
                hold,
                name,
                content = pdf,
                kind,
            }
        );

    static Task<Answer> Sign(Client client, string hold, int condition, string who, string password) =>
        client.Act(
            "/cage/meet",
            new
            {
                hold,
                condition,
                signer = who,
                password,
            }
        );

    static async Task<JsonElement> Card(Client client, string hold) =>
        (await client.Ask("/cage/holds"))["holds"].EnumerateArray().Single(h => h.GetProperty("number").GetString() == hold);

    async Task<Balance> Usable(Func<IQueryable<Balance>, IQueryable<Balance>>? which = null)
    {
        await using var db = server.Db();
        var rows = db.Balances.Where(b => b.SiteId == 1 && b.Standing == Standing.Usable && b.Quantity >= 20 && b.UnitId == null);
        return await (which?.Invoke(rows) ?? rows).OrderBy(b => b.Id).FirstAsync();
    }

    /// <summary>Lays a hold by hand; its number.</summary>
    async Task<string> Hold(Client client, string quantity, params object[] wants)
    {
        var laid = await Ok(
            client.Act(
                "/cage/hold",
                new
                {
                    balance = (await Usable()).Id,
                    quantity,
                    why = "a customer asked",
                    wants,
                }
            )
        );
        return laid["sentence"].GetString()!.Split("by ")[^1].TrimEnd('.');
    }

    [Fact]
    public async Task Probes_wait_for_the_test_report_of_their_cells_and_go_when_somebody_has_looked_at_it()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        await using var db = server.Db();
        var hold = await db.Holds.SingleAsync(h => h.IsOpen && db.Items.Any(i => i.Id == h.ItemId && i.Code == "SP-03"));
        Assert.Equal((6m, "Lithium cells want their test report"), (hold.Quantity, hold.Sentence));
        var card = await Card(wanjiru, hold.Number);
        Assert.True(card.GetProperty("isOverdue").GetBoolean());
        Assert.False(card.GetProperty("isReady").GetBoolean());
        Assert.StartsWith("A day overdue: a test report (lithium cells by UN 38.3)", card.GetProperty("why").GetString());
        var before = server.LastEntry();
        Assert.Equal("conditions-open", (await wanjiru.Act("/cage/lift", new { hold = hold.Number })).Code);
        Assert.Equal("paper-wrong", (await wanjiru.Act("/cage/meet", new { hold = hold.Number, condition = 1 })).Code);
        Assert.Equal(before, server.LastEntry());

        await Ok(Attach(leila, hold.Number, "PhytosanitaryCertificate", "plants"));
        await Ok(Attach(leila, hold.Number, "TestReport", "un38"));
        Assert.Equal(
            "unreadable",
            (
                await leila.Act(
                    "/cage/attach",
                    new
                    {
                        hold = hold.Number,
                        name = "x",
                        content = pdf,
                        kind = 7,
                    }
                )
            ).Code
        );
        Assert.Equal(
            "file-kind",
            (
                await leila.Act(
                    "/cage/attach",
                    new
                    {
                        hold = hold.Number,
                        name = "x.pdf",
                        content = "TVqQAAMA",
                    }
                )
            ).Code
        );
        var papers = (await wanjiru.Ask($"/cage/holds/{hold.Number}/papers")).Body.EnumerateArray().ToList();
        int id(string name) => papers.Single(p => p.GetProperty("name").GetString() == name).GetProperty("id").GetInt32();
        Task<Answer> Meet(Client client, int paper) =>
            client.Act(
                "/cage/meet",
                new
                {
                    hold = hold.Number,
                    condition = 1,
                    paper,
                }
            );
        var wrong = await Meet(wanjiru, id("plants.pdf"));
        Assert.Equal("paper-wrong", wrong.Code);
        Assert.Contains("is a phytosanitary certificate", wrong.Sentence, StringComparison.Ordinal);
        Assert.Equal("right-missing", (await Meet(leila, id("un38.pdf"))).Code);
        Assert.Equal("not-found", (await Meet(wanjiru, 999_999)).Code);
        var met = await Ok(Meet(wanjiru, id("un38.pdf")));
        Assert.EndsWith("It can be lifted.", met["sentence"].GetString());
        Assert.Equal("condition-met", (await Meet(wanjiru, id("un38.pdf"))).Code);

        // Taken back with a reason, and looked at again.
        Assert.Equal(
            "reason-missing",
            (
                await wanjiru.Act(
                    "/cage/open-again",
                    new
                    {
                        hold = hold.Number,
                        condition = 1,
                        why = "",
                    }
                )
            ).Code
        );
        await Ok(
            wanjiru.Act(
                "/cage/open-again",
                new
                {
                    hold = hold.Number,
                    condition = 1,
                    why = "of another cell",
                }
            )
        );
        Assert.Equal("conditions-open", (await wanjiru.Act("/cage/lift", new { hold = hold.Number })).Code);
        await Ok(Meet(wanjiru, id("un38.pdf")));
        await Ok(wanjiru.Act("/cage/lift", new { hold = hold.Number }));
        var told = (await wanjiru.Ask($"/book/ledger?text={hold.Number}")).Body.ToString();
        Assert.Contains("Met by Wanjiru Holloway with un38.pdf", told, StringComparison.Ordinal);
        Assert.Contains("taken back by Wanjiru Holloway: of another cell", told, StringComparison.Ordinal);
        Assert.Contains("un38.pdf, a test report, attached to", told, StringComparison.Ordinal);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Two_people_sign_and_a_third_lifts_and_nothing_counts_that_one_person_does_twice()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        var hold = await Hold(
            wanjiru,
            "3",
            new
            {
                kind = "Signature",
                what = "as the customer wants it",
                of = "SignVerdict",
            },
            new
            {
                kind = "Signature",
                what = "",
                of = "LiftHold",
            }
        );
        Assert.Equal("signature-wrong", (await Sign(sunita, hold, 1, "Sunita Gellatly", "guessed")).Code);
        Assert.Equal("signature-wrong", (await sunita.Act("/cage/meet", new { hold, condition = 1 })).Code);
        Assert.Equal("right-missing", (await Sign(wanjiru, hold, 1, "wanjiru", "wanjiru-mud-01")).Code);
        await Ok(Sign(sunita, hold, 1, "sunita", "sunita-mud-06"));
        await Ok(Sign(wanjiru, hold, 2, "wanjiru", "wanjiru-mud-01"));
        var card = await Card(wanjiru, hold);
        Assert.True(card.GetProperty("isReady").GetBoolean());
        Assert.Equal("signs-twice", (await wanjiru.Act("/cage/lift", new { hold })).Code);
        // Who signed takes it back, and may lift then when somebody else has signed; nobody else is a supervisor here.
        await Ok(
            wanjiru.Act(
                "/cage/open-again",
                new
                {
                    hold,
                    condition = 2,
                    why = "to lift it myself",
                }
            )
        );
        Assert.Equal("conditions-open", (await wanjiru.Act("/cage/lift", new { hold })).Code);
        Assert.Equal("condition-unknown", (await Sign(wanjiru, hold, 9, "wanjiru", "wanjiru-mud-01")).Code);
        Assert.Equal("not-found", (await Sign(wanjiru, "H-9999", 1, "wanjiru", "wanjiru-mud-01")).Code);
    }

    [Fact]
    public async Task A_hold_that_wants_an_inspection_is_lifted_when_one_has_accepted_all_it_holds()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        var stock = await Usable();
        var laid = await Ok(
            wanjiru.Act(
                "/cage/hold",
                new
                {
                    balance = stock.Id,
                    quantity = "5",
                    why = "looks faded",
                    wants = new[]
                    {
                        new
                        {
                            kind = "Acceptance",
                            what = "",
                            of = "See",
                        },
                    },
                }
            )
        );
        var hold = laid["sentence"].GetString()!.Split("by ")[^1].TrimEnd('.');
        Assert.Equal("condition-by-itself", (await wanjiru.Act("/cage/meet", new { hold, condition = 1 })).Code);
        await using var db = server.Db();
        var row = await db.Holds.SingleAsync(h => h.Number == hold);
        var lot = await db.Statements.Where(s => s.HoldId == row.Id).Select(s => s.LotId).SingleAsync();
        var held = await db.Balances.SingleAsync(b => b.LotId == lot && b.Quantity > 0);
        var asked = await Ok(
            sunita.Act(
                "/bench/ask",
                new
                {
                    balance = held.Id,
                    why = "looks faded",
                    plan = 1,
                    quantity = "5",
                }
            )
        );
        var inspection = asked["number"].GetString()!;
        Assert.Equal("conditions-open", (await wanjiru.Act("/cage/lift", new { hold })).Code);
        Assert.Equal("Accepted", await BenchHands.Fill(sunita, inspection));
        Assert.Equal("conditions-open", (await wanjiru.Act("/cage/lift", new { hold })).Code);
        await Ok(BenchHands.Sign(sunita, inspection, "Accepted"));
        var link = (await Card(wanjiru, hold)).GetProperty("links").EnumerateArray().First();
        Assert.True(link.GetProperty("closed").GetBoolean());
        Assert.Contains(inspection, link.GetProperty("sentence").GetString(), StringComparison.Ordinal);
        // Superseded, it does not stand any more.
        var again = (await Ok(sunita.Act("/bench/supersede", new { inspection, reason = "the caliper was out" })))["number"].GetString()!;
        Assert.Equal("conditions-open", (await wanjiru.Act("/cage/lift", new { hold })).Code);
        Assert.Equal("Accepted", await BenchHands.Fill(sunita, again));
        await Ok(BenchHands.Sign(sunita, again, "Accepted"));
        await Ok(wanjiru.Act("/cage/lift", new { hold }));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Holds_are_lifted_together_or_not_at_all_each_with_its_entry()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var (one, two) = (await Hold(wanjiru, "2"), await Hold(wanjiru, "2"));
        var wanting = await Hold(
            wanjiru,
            "2",
            new
            {
                kind = "Signature",
                what = "",
                of = "KeepPlans",
            }
        );
        var before = server.LastEntry();
        var refused = await wanjiru.Act("/cage/lift-many", new { holds = new[] { one, two, wanting } });
        Assert.Equal("conditions-open", refused.Code);
        Assert.EndsWith("None of the 3 was lifted.", refused.Sentence);
        Assert.Equal(before, server.LastEntry());
        Assert.Equal("too-many", (await wanjiru.Act("/cage/lift-many", new { holds = Array.Empty<string>() })).Code);
        Assert.Equal("not-found", (await wanjiru.Act("/cage/lift-many", new { holds = new[] { one, "H-9999" } })).Code);
        Assert.True((await Card(wanjiru, one)).GetProperty("isOpen").GetBoolean());
        await Ok(wanjiru.Act("/cage/lift-many", new { holds = new[] { one, two, one }, note = "was nothing" }));
        foreach (var hold in new[] { one, two })
        {
            Assert.False((await Card(wanjiru, hold)).GetProperty("isOpen").GetBoolean());
            Assert.Contains(
                "lifted by Wanjiru",
                (await wanjiru.Ask($"/book/ledger?text={hold}")).Body.ToString(),
                StringComparison.Ordinal
            );
        }

        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task What_a_hold_by_hand_cannot_want_gets_a_sentence_and_nothing_is_held()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var balance = (await Usable()).Id;
        var before = server.LastEntry();
        foreach (
            var body in new object[]
            {
                new
                {
                    balance,
                    why = "x",
                    days = 0,
                },
                new
                {
                    balance,
                    why = "x",
                    days = 4000,
                },
                new
                {
                    balance,
                    why = "x",
                    wants = new[]
                    {
                        new
                        {
                            kind = "Paper",
                            what = "",
                            of = "LiftHold",
                        },
                    },
                },
            }
        )
            Assert.Equal("condition-absurd", (await wanjiru.Act("/cage/hold", body)).Code);
        Assert.Equal(before, server.LastEntry());
    }

    /// <summary>As another program may send it.</summary>
    [Theory]
    [InlineData("/cage/lift-many", """{"holds":null}""")]
    [InlineData("/cage/lift-many", """{"holds":[null]}""")]
    [InlineData("/cage/hold", """{"balance":BALANCE,"why":"x","wants":[null]}""")]
    [InlineData("/cage/hold", """{"balance":BALANCE,"why":"x","wants":[{"kind":"Signature","what":null,"of":"LiftHold"}]}""")]
    [InlineData("/cage/meet", """{"hold":null,"condition":1}""")]
    [InlineData("/cage/attach", """{"hold":null,"name":null,"content":null}""")]
    [InlineData("/cage/carry-out", """{"hold":null}""")]
    public async Task What_is_left_empty_gets_a_sentence_too(string path, string body)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var before = server.LastEntry();
        var json = body.Replace("BALANCE", $"{(await Usable()).Id}", StringComparison.Ordinal);
        var answer = await wanjiru.Act(path, JsonDocument.Parse(json).RootElement);
        Assert.True((int)answer.Status is >= 400 and < 500, $"{answer.Status} {answer.Body}");
        Assert.NotEmpty(answer.Sentence);
        Assert.Equal(before, server.LastEntry());
    }

    /// <summary>Of a hold whose goods came with no arrival of this site as well.</summary>
    [Fact]
    public async Task A_paper_of_a_hold_is_read_at_its_site_and_at_no_other()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var hold = await Hold(wanjiru, "1");
        await Ok(Attach(wanjiru, hold, "CertificateOfOrigin", "origin"));
        var paper = (await wanjiru.Ask($"/cage/holds/{hold}/papers")).Body.EnumerateArray().First();
        Assert.Equal(("certificate of origin", true), (paper.GetProperty("word").GetString(), paper.GetProperty("isOwn").GetBoolean()));
        using var got = await wanjiru.Http.GetAsync($"/api/LM/road/attachments/{paper.GetProperty("id").GetInt32()}");
        Assert.Equal("application/pdf", got.Content.Headers.ContentType!.MediaType);
        await using (var db = server.Db())
            await db.Holds.Where(h => h.Number == hold).ExecuteUpdateAsync(s => s.SetProperty(h => h.SiteId, 2));
        try
        {
            await using var db = server.Db();
            await db
                .Attachments.Where(a => a.Id == paper.GetProperty("id").GetInt32())
                .ExecuteUpdateAsync(s => s.SetProperty(a => a.ArrivalId, (int?)null));
            using var elsewhere = await wanjiru.Http.GetAsync($"/api/LM/road/attachments/{paper.GetProperty("id").GetInt32()}");
            Assert.Equal(System.Net.HttpStatusCode.NotFound, elsewhere.StatusCode);
            Assert.Equal("not-found", (await wanjiru.Act("/cage/lift", new { hold })).Code);
            Assert.Equal("not-found", (await Attach(wanjiru, hold, null)).Code);
            Assert.Equal("not-found", (await Sign(wanjiru, hold, 1, "wanjiru", "wanjiru-mud-01")).Code);
            Assert.Equal(
                "not-found",
                (
                    await wanjiru.Act(
                        "/cage/open-again",
                        new
                        {
                            hold,
                            condition = 1,
                            why = "x",
                        }
                    )
                ).Code
            );
            Assert.Equal("not-found", (await wanjiru.Ask($"/cage/holds/{hold}/papers")).Code);
        }
        finally
        {
            await using var db = server.Db();
            await db.Holds.Where(h => h.Number == hold).ExecuteUpdateAsync(s => s.SetProperty(h => h.SiteId, 1));
        }
    }

    [Fact]
    public async Task A_rule_lays_its_conditions_on_what_is_counted_and_a_change_that_is_refused_leaves_the_old_one_in_force()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        Task<Answer> SignRule(string name, int days, int? inPlaceOf, string batch = "CO-*", params object[] wants) =>
            sunita.Act(
                "/cage/rules/sign",
                new
                {
                    says = new
                    {
                        name,
                        days,
                        counted = "Calendar",
                        from = "Tally",
                        item = "GK-07",
                        batch,
                    },
                    inPlaceOf,
                    signer = "sunita",
                    password = "sunita-mud-06",
                    wants,
                }
            );
        var conformity = new
        {
            kind = "Paper",
            what = "",
            of = "SignVerdict",
            paper = "CertificateOfConformity",
            withinDays = 2,
        };
        Assert.Equal("hold-rule-absurd", (await SignRule("Conformity", 0, null)).Code);
        await Ok(SignRule("Conformity", 0, null, "CO-*", conformity));
        await Ok(wanjiru.Act("/door/count", BenchHands.Knives("CO-1", "5")));
        await using var db = server.Db();
        async Task<List<Hold>> Held() =>
            await db
                .Holds.AsNoTracking()
                .Where(h => db.Batches.Any(b => b.Id == h.BatchId && b.SourceBatch!.Number == "CO-1"))
                .OrderBy(h => h.Id)
                .ToListAsync();
        var hold = Assert.Single(await Held());
        Assert.Equal((5m, null, "Conformity"), (hold.Quantity, hold.Until, Assert.Single(hold.Besides).Rule));
        // What is counted while nobody has looked joins it; what comes after is of a hold of its own.
        await Ok(wanjiru.Act("/door/count", BenchHands.Knives("CO-1", "2")));
        Assert.Equal(7, Assert.Single(await Held()).Quantity);
        await Ok(Attach(sunita, hold.Number, "CertificateOfConformity"));
        var paper = (await sunita.Ask($"/cage/holds/{hold.Number}/papers")).Body.EnumerateArray().First().GetProperty("id").GetInt32();
        await Ok(
            sunita.Act(
                "/cage/meet",
                new
                {
                    hold = hold.Number,
                    condition = 1,
                    paper,
                }
            )
        );
        await Ok(wanjiru.Act("/door/count", BenchHands.Knives("CO-1", "3")));
        Assert.Equal([7m, 3m], (await Held()).Select(h => h.Quantity));

        var rules = (await sunita.Ask("/cage/rules"))["rules"].EnumerateArray().ToList();
        var id = rules.Single(r => r.GetProperty("name").GetString() == "Conformity").GetProperty("id").GetInt32();
        Assert.Equal("hold-rule-there", (await SignRule("Conformity", 0, id, "CO-*", conformity)).Code);
        Assert.Equal("hold-rule-absurd", (await SignRule("Conformity", -1, id, "CO-*", conformity)).Code);
        Assert.Equal(
            "condition-absurd",
            (
                await SignRule(
                    "Conformity",
                    0,
                    id,
                    "CO-*",
                    new
                    {
                        kind = "Paper",
                        what = "",
                        of = "See",
                        paper = "TestReport",
                    }
                )
            ).Code
        );
        Assert.Null((await db.HoldRules.AsNoTracking().SingleAsync(r => r.Id == id)).EndedAt);
        // Another name for the same is a change.
        await Ok(SignRule("Conformity of knives", 0, id, "CO-*", conformity));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Who_may_see_prices_sees_what_the_cage_blocks_in_value_and_nobody_else()
    {
        using var dilys = await server.SignIn("dilys");
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var (seen, unseen) = ((await dilys.Ask("/cage/holds"))["figures"], (await wanjiru.Ask("/cage/holds"))["figures"]);
        Assert.Equal(JsonValueKind.Null, unseen.GetProperty("value").ValueKind);
        var holds = await db.Holds.Where(h => h.SiteId == 1 && h.IsOpen).ToListAsync();
        Assert.Equal(holds.Count, seen.GetProperty("open").GetInt32());
        var (value, litres) = (0m, 0m);
        foreach (var hold in holds)
        {
            var lines = await db.OrderLines.Where(l => l.ItemId == hold.ItemId && l.Price != null).ToListAsync();
            value += hold.Quantity * (lines.MaxBy(l => l.Id)?.Price ?? 0);
            litres += hold.Quantity * (await db.Items.SingleAsync(i => i.Id == hold.ItemId)).Volume;
        }

        Assert.True(value > 0);
        Assert.Equal((value, litres), (seen.GetProperty("value").GetDecimal(), seen.GetProperty("litres").GetDecimal()));
        Assert.Equal(litres, unseen.GetProperty("litres").GetDecimal());
        Assert.Equal(holds.Count, seen.GetProperty("waiting").EnumerateArray().Sum(w => w.GetProperty("count").GetInt32()));
    }
}
