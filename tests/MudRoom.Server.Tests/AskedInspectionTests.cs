using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Tests;
using static MudRoom.Server.Tests.BenchHands;

namespace MudRoom.Server.Tests;

/// <summary>Which goods are inspected, by which plans; what somebody asks for; and how a signed sheet is taken back.</summary>
public sealed class AskedInspectionTests(DemoServer server) : IClassFixture<DemoServer>
{
    async Task<List<Inspection>> Waiting(string item)
    {
        await using var db = server.Db();
        return await db
            .Inspections.Where(i => i.State != InspectionState.Signed && db.Items.Any(x => x.Id == i.ItemId && x.Code == item))
            .OrderBy(i => i.Id)
            .ToListAsync();
    }

    async Task<IReadOnlyList<(Standing Standing, decimal Quantity)>> Stands(Inspection of)
    {
        await using var db = server.Db();
        var lots = db.Statements.Where(s => s.InspectionId == of.Id).Select(s => s.LotId);
        return
        [
            .. (await db.Balances.Where(b => lots.Contains(b.LotId!.Value)).ToListAsync())
                .Where(b => b.Quantity > 0)
                .GroupBy(b => b.Standing)
                .Select(g => (g.Key, g.Sum(b => b.Quantity))),
        ];
    }

    [Fact]
    public async Task Goods_that_two_plans_want_have_two_sheets_and_a_sheet_that_is_wrong_is_superseded()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        Assert.Equal("right-missing", (await Rule(maren, 1, "HH-16")).Code);
        Assert.Equal("inspection-rule-empty", (await Rule(sunita, 1)).Code);
        Assert.Equal("not-found", (await Rule(sunita, 1, "no such item")).Code);
        Assert.True((await Rule(sunita, 1, "HH-16")).IsOk);
        Assert.True((await Rule(sunita, 2, "hh-16")).IsOk);
        Assert.Equal("inspection-rule-there", (await Rule(sunita, 2, "Draw hoe head 16 cm")).Code);
        Assert.Equal("inspection-rule-there", (await Rule(sunita, null, "HH-16")).Code);
        var would = await sunita.Ask("/bench/rules/would?item=HH-16");
        Assert.Equal(2, would["ways"][0].GetProperty("plans").GetArrayLength());

        Assert.True((await wanjiru.Act("/door/count", Client.Count("1"))).IsOk);
        Assert.True((await wanjiru.Act("/door/count", Client.Count("1"))).IsOk);
        var both = await Waiting("HH-16");
        Assert.Equal([1, 2], both.Select(i => i.PlanId));
        var lot = both[0].Quantity;
        Assert.All(both, i => Assert.Equal(lot, i.Quantity));
        Assert.Equal([(Standing.ToInspect, lot)], await Stands(both[0]));
        Assert.StartsWith("By rule: Draw hoe head", (await sunita.Ask($"/bench/sheet/{both[1].Number}"))["whyHere"].GetString());

        Assert.Equal("Accepted", await Fill(sunita, both[0].Number));
        Assert.True((await Sign(sunita, both[0].Number, "Accepted")).IsOk);
        Assert.Equal([(Standing.ToInspect, lot)], await Stands(both[0]));
        Assert.Equal("Accepted", await Fill(sunita, both[1].Number));
        Assert.True((await Sign(sunita, both[1].Number, "Accepted")).IsOk);
        Assert.Equal([(Standing.Usable, lot)], await Stands(both[0]));
        Assert.Empty((await server.Check()).Faults);

        // The first was wrong: its goods wait again, and are rejected.
        Answer again(string inspection) =>
            sunita.Act("/bench/supersede", new { inspection, reason = "the caliper was out" }).GetAwaiter().GetResult();
        var opened = again(both[0].Number);
        Assert.True(opened.IsOk, opened.Body.ToString());
        var second = opened["number"].GetString()!;
        Assert.Equal("superseded", again(both[0].Number).Code);
        Assert.Equal("not-signed", again(second).Code);
        Assert.Equal([(Standing.ToInspect, lot)], await Stands(both[0]));
        Assert.Equal(second, (await sunita.Ask($"/bench/sheet/{both[0].Number}"))["supersededBy"].GetString());
        var queue = (await sunita.Ask("/bench/queue"))["cards"].EnumerateArray().ToLookup(c => c.GetProperty("number").GetString());
        Assert.Equal(second, queue[both[0].Number].Single().GetProperty("supersededBy").GetString());
        Assert.Equal(JsonValueKind.Null, queue[second].Single().GetProperty("supersededBy").ValueKind);
        Assert.Equal("Rejected", await Fill(sunita, second, good: false));
        Assert.True((await Sign(sunita, second, "Rejected")).IsOk);
        Assert.Equal([(Standing.Rejected, lot)], await Stands(both[0]));
        // In the line of lots the second counts, in the place of the first.
        await using (var db = server.Db())
        {
            var line = await Bench.Severities.Of(db, 1, both[0].ItemId, both[0].VendorId!.Value, 1, at => at.UtcDateTime);
            Assert.Equal([second], line.Outcomes.Select(o => o.Number));
        }

        // The second was wrong too: what its verdict held is held no longer, and waits for a third.
        var held = await From(db => db.Holds.OrderByDescending(h => h.Id).Select(h => h.Number).FirstAsync());
        var third = again(second)["number"].GetString()!;
        // The hold's own history says why it holds no longer.
        var history = await sunita.Ask($"/book/ledger?text={held}");
        Assert.Contains($"{second}, rejected, is superseded by {third}", history.Body.ToString());
        Assert.Equal([(Standing.ToInspect, lot)], await Stands(both[0]));
        Assert.Equal("Accepted", await Fill(sunita, third));
        Assert.True((await Sign(sunita, third, "Accepted")).IsOk);
        Assert.Equal([(Standing.Usable, lot)], await Stands(both[0]));
        var told = await sunita.Ask($"/book/ledger?text={third}");
        Assert.Contains(told["rows"].EnumerateArray(), r =>
            r.GetProperty("sentence").GetString()!.Contains($"{second}, rejected, is superseded by {third}", StringComparison.Ordinal)
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_driver_or_a_receiver_asks_for_an_inspection_by_one_press_once()
    {
        using var yusuf = await server.SignIn("yusuf");
        using var maren = await server.SignIn("maren");
        await using var db = server.Db();
        var stock = await db
            .Balances.Where(b =>
                b.SiteId == 1
                && b.Standing == Standing.Usable
                && b.Quantity >= 20
                && b.UnitId == null
                && db.Items.Any(i => i.Id == b.ItemId && i.InspectionPlanId == null)
            )
            .OrderBy(b => b.Id)
            .FirstAsync();
        Task<Answer> Ask(Client client, object what) => client.Act("/bench/ask", what);
        Assert.Equal("reason-missing", (await Ask(yusuf, new { balance = stock.Id, why = " " })).Code);
        Assert.Equal("plan-none-fits", (await Ask(yusuf, new { balance = stock.Id, why = "smells musty" })).Code);
        Assert.Equal(
            "more-than-there",
            (
                await Ask(
                    yusuf,
                    new
                    {
                        balance = stock.Id,
                        why = "smells musty",
                        plan = 1,
                        quantity = "99999999",
                    }
                )
            ).Code
        );
        var asked = await Ask(
            yusuf,
            new
            {
                balance = stock.Id,
                why = "smells musty",
                plan = 1,
                quantity = "5",
            }
        );
        Assert.True(asked.IsOk, asked.Body.ToString());
        var inspection = await db.Inspections.SingleAsync(i => i.Number == asked["number"].GetString());
        Assert.Equal((5m, InspectionTrigger.ByHand, "Yusuf Tarn"), (inspection.Quantity, inspection.Trigger, inspection.AskedBy));
        Assert.Equal([(Standing.ToInspect, 5m)], await Stands(inspection));
        var card = await yusuf.Ask($"/bench/sheet/{inspection.Number}");
        Assert.Equal("Yusuf Tarn asked for it: smells musty.", card["whyHere"].GetString());

        // What waits already is not asked for twice by one plan.
        await using var now = server.Db();
        var waits = await now.Balances.FirstAsync(b =>
            b.Standing == Standing.ToInspect && b.BatchId == stock.BatchId && b.ItemId == stock.ItemId
        );
        Assert.Equal(
            "waits-already",
            (
                await Ask(
                    maren,
                    new
                    {
                        balance = waits.Id,
                        why = "again",
                        plan = 1,
                    }
                )
            ).Code
        );
        Assert.Equal("not-found", (await Ask(maren, new { balance = 999_999, why = "x" })).Code);

        // A receiver, by the count that brought goods in.
        Assert.True((await maren.Act("/door/count", Client.Count("1", item: "HS-15", pack: "each"))).IsOk);
        await using var counted = server.Db();
        var count = await counted.TallyEntries.OrderByDescending(e => e.Id).FirstAsync();
        var byCount = await Ask(
            maren,
            new
            {
                count = count.ActId,
                why = "handles are loose",
                plan = 1,
            }
        );
        Assert.True(byCount.IsOk, byCount.Body.ToString());
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Goods_back_from_outwork_go_by_the_rule_for_it_and_what_a_rule_exempts_does_not_wait()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        await using var noted = server.Db();
        var note = await noted.OutworkNotes.SingleAsync(n => n.Number == "W-0001");
        var item = await noted.Items.Where(i => i.Id == note.ItemId).Select(i => i.Code).SingleAsync();
        Assert.True((await Rule(sunita, 2, item, "Outwork")).IsOk);
        var back = await wanjiru.Act(
            "/door/outwork/back",
            new
            {
                note = "W-0001",
                quantity = "20",
                door = 4,
                restLost = false,
            }
        );
        Assert.True(back.IsOk, back.Body.ToString());
        var inspection = Assert.Single(await Waiting(item));
        Assert.Equal((InspectionTrigger.Outwork, 20m), (inspection.Trigger, inspection.Quantity));
        Assert.Equal([(Standing.ToInspect, 20m)], await Stands(inspection));

        // Snips of this vendor need none for now: the next count is usable at once. The rule ends, and they wait again.
        Assert.True((await Rule(sunita, null, "SC-18")).IsOk);
        object Snips(string batch) => Client.Count("1", "A-2620", "SC-18", "each", new { sourceBatch = batch });
        Assert.True((await wanjiru.Act("/door/count", Snips("FREE-1"))).IsOk);
        Assert.Equal(Standing.Usable, await Last());
        var rules = await sunita.Ask("/bench/rules");
        var none = rules["rules"].EnumerateArray().Single(r => r.GetProperty("planId").ValueKind == JsonValueKind.Null);
        Assert.True((await sunita.Act("/bench/rules/end", new { rule = none.GetProperty("id").GetInt32() })).IsOk);
        Assert.Equal("not-found", (await sunita.Act("/bench/rules/end", new { rule = none.GetProperty("id").GetInt32() })).Code);
        Assert.True((await wanjiru.Act("/door/count", Snips("FREE-2"))).IsOk);
        Assert.Equal(Standing.ToInspect, await Last());
        Assert.Empty((await server.Check()).Faults);

        async Task<Standing> Last()
        {
            await using var db = server.Db();
            return (await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync()).Standing;
        }
    }

    [Fact]
    public async Task One_inspector_sees_what_another_has_in_hand_and_a_value_is_cleared_and_noted()
    {
        using var sunita = await server.SignIn("sunita");
        using var bram = await server.SignIn("bram");
        const string inspection = "I-0024";
        Assert.True((await sunita.Act("/bench/take", new { inspection, over = true })).IsOk);
        Assert.Equal("taken-by-other", (await bram.Act("/bench/take", new { inspection })).Code);
        var card = (await bram.Ask("/bench/queue"))["cards"]
            .EnumerateArray()
            .Single(c => c.GetProperty("number").GetString() == inspection);
        Assert.Equal(("Sunita Gellatly", false), (card.GetProperty("takenBy").GetString(), card.GetProperty("isMine").GetBoolean()));
        Assert.True((await sunita.Act("/bench/lay-down", new { inspection })).IsOk);
        Assert.True((await bram.Act("/bench/take", new { inspection })).IsOk);

        var sheet = await bram.Ask($"/bench/sheet/{inspection}");
        var found = sheet["findings"][0];
        var (piece, characteristic) = (found.GetProperty("piece").GetInt32(), found.GetProperty("characteristic").GetInt32());
        Task<Answer> Clear(string? reason) =>
            bram.Act(
                "/bench/clear",
                new
                {
                    inspection,
                    piece,
                    characteristic,
                    reason,
                }
            );
        Assert.Equal("reason-missing", (await Clear(null)).Code);
        Assert.True((await Clear("wrong piece")).IsOk);
        Assert.Equal("nothing-found", (await Clear("wrong piece")).Code);
        Assert.True(
            (
                await bram.Act(
                    "/bench/note",
                    new
                    {
                        inspection,
                        piece,
                        characteristic = (int?)null,
                        text = "burr at the tip",
                    }
                )
            ).IsOk
        );
        var after = await bram.Ask($"/bench/sheet/{inspection}");
        Assert.Equal(sheet["findings"].GetArrayLength() - 1, after["findings"].GetArrayLength());
        Assert.Contains("wrong piece", after["cleared"][0].GetProperty("was")[0].GetString());
        Assert.Equal("burr at the tip", after["notes"][0].GetProperty("text").GetString());
        // Found again: what stood there stands behind it.
        var value = found.GetProperty("value");
        var again = await bram.Act(
            "/bench/find",
            new
            {
                inspection,
                piece,
                characteristic,
                value = value.ValueKind == JsonValueKind.Null ? null : value.GetRawText(),
                pass = value.ValueKind == JsonValueKind.Null ? true : (bool?)null,
            }
        );
        Assert.True(again.IsOk, again.Body.ToString());
        after = await bram.Ask($"/bench/sheet/{inspection}");
        Assert.Equal(0, after["cleared"].GetArrayLength());
        Assert.Contains(after["findings"].EnumerateArray(), f => f.GetProperty("before").GetArrayLength() > 0);
    }

    [Fact]
    public async Task Who_lacks_the_ticket_of_a_plan_neither_takes_nor_draws_nor_signs()
    {
        using var sunita = await server.SignIn("sunita");
        const string inspection = "I-0027";
        var plan = await sunita.Ask("/bench/plan/3");
        var says = System.Text.Json.Nodes.JsonNode.Parse(plan["inForce"].GetProperty("says").GetRawText())!;
        says["qualification"] = "lens work";
        Assert.True(
            (
                await sunita.Act(
                    "/bench/plans/draft",
                    new
                    {
                        plan = 3,
                        looked = plan["inForce"].GetProperty("hash").GetString(),
                        says,
                    }
                )
            ).IsOk
        );
        var looked = (await sunita.Ask("/bench/plan/3"))["draft"].GetProperty("hash").GetString();
        Assert.True(
            (
                await sunita.Act(
                    "/bench/plans/sign",
                    new
                    {
                        plan = 3,
                        looked,
                        name = "sunita",
                        password = "sunita-mud-06",
                    }
                )
            ).IsOk
        );
        Assert.Equal("qualification-missing", (await sunita.Act("/bench/take", new { inspection })).Code);
        var drawn = await sunita.Act("/bench/draw", new { inspection });
        Assert.Equal("qualification-missing", drawn.Code);
        Assert.Contains("lens work", drawn.Body.ToString());
        Assert.Equal("qualification-missing", (await Sign(sunita, inspection, "Accepted")).Code);
        foreach (
            var (path, body) in new (string, object)[]
            {
                (
                    "clear",
                    new
                    {
                        inspection,
                        piece = 1,
                        characteristic = 1,
                    }
                ),
                ("note", new { inspection, text = "x" }),
            }
        )
            Assert.Equal("qualification-missing", (await sunita.Act("/bench/" + path, body)).Code);
        await using var db = server.Db();
        Assert.Equal(InspectionState.Waiting, (await db.Inspections.SingleAsync(i => i.Number == inspection)).State);
    }

    async Task<T> From<T>(Func<Data.MudRoomDb, Task<T>> ask)
    {
        await using var db = server.Db();
        return await ask(db);
    }

    [Fact]
    public async Task Where_only_the_sample_waits_what_was_used_is_named_and_later_lots_may_pass_unseen()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        await InForce(sunita, says =>
        {
            says["onlySampleWaits"] = true;
            says["major"] = System.Text.Json.Nodes.JsonNode.Parse("""{"kind":"Fixed","size":"2","ac":"0"}""");
            says["minor"] = System.Text.Json.Nodes.JsonNode.Parse("""{"kind":"Fixed","size":"2","ac":"0"}""");
        });
        Assert.True((await Rule(sunita, 1, "GK-07", "Receipt")).IsOk);
        Assert.True((await wanjiru.Act("/door/count", Knives("ONLY-1"))).IsOk);
        var inspection = Assert.Single(await Waiting("GK-07"));
        Assert.True(inspection.LetsUse);
        Assert.Equal([(Standing.Usable, 8m)], await Stands(inspection));

        var drawn = await sunita.Act("/bench/draw", new { inspection = inspection.Number });
        Assert.True(drawn.IsOk, drawn.Body.ToString());
        var apart = await Stands(inspection);
        Assert.Equal([(Standing.ToInspect, 2m), (Standing.Usable, 6m)], apart.OrderBy(s => s.Quantity));
        Assert.Empty((await server.Check()).Faults);
        Assert.True((await sunita.Act("/bench/put-back", new { inspection = inspection.Number })).IsOk);
        Assert.Equal([(Standing.Usable, 8m)], await Stands(inspection));

        Assert.Equal("Rejected", await Fill(sunita, inspection.Number, good: false));
        var free = await From(db =>
            db.Balances.SingleAsync(b => b.BatchId == inspection.BatchId && b.Standing == Standing.Usable && b.Quantity > 0)
        );
        var issued = await wanjiru.Act(
            "/book/issue",
            new
            {
                balance = free.Id,
                quantity = "5",
                to = "Job",
                reference = "JOB-7",
            }
        );
        Assert.True(issued.IsOk, issued.Body.ToString());
        // What came back again was not used.
        free = await From(db =>
            db.Balances.SingleAsync(b => b.BatchId == inspection.BatchId && b.Standing == Standing.Usable && b.Quantity > 0)
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/book/issue",
                    new
                    {
                        balance = free.Id,
                        quantity = "1",
                        to = "Job",
                        reference = "JOB-8",
                    }
                )
            ).IsOk
        );
        var entry = await From(db => db.Ledger.OrderByDescending(e => e.Seq).FirstAsync(e => e.Kind == EntryKind.Issued));
        var undone = await wanjiru.Act("/book/undo", new { entry = entry.Seq, reason = "wrong job" });
        Assert.True(undone.IsOk, undone.Body.ToString());
        var signed = await Sign(sunita, inspection.Number, "Rejected");
        Assert.True(signed.IsOk, signed.Body.ToString());
        Assert.Contains("5 each of Grafting knife 7 cm were used before", signed["sentence"].GetString());
        Assert.Contains("JOB-7, 5 each", signed["sentence"].GetString());
        Assert.DoesNotContain("JOB-8", signed["sentence"].GetString());
        Assert.Equal([(Standing.Rejected, 3m)], await Stands(inspection));
        Assert.Empty((await server.Check()).Faults);

        // Lots are skipped only once one was accepted: the next is looked at, the one behind it passes unseen.
        await InForce(sunita, says =>
        {
            says["onlySampleWaits"] = false;
            says["skipAfter"] = "1";
            says["skipPercent"] = "0.0001";
        });
        Assert.True((await wanjiru.Act("/door/count", Knives("ONLY-2"))).IsOk);
        var looked = Assert.Single(await Waiting("GK-07"));
        Assert.Equal("0 of 1 lots accepted in a row: every lot is looked at.", looked.SkipWhy);
        Assert.Equal("Accepted", await Fill(sunita, looked.Number));
        Assert.True((await Sign(sunita, looked.Number, "Accepted")).IsOk);
        Assert.True((await wanjiru.Act("/door/count", Knives("ONLY-3"))).IsOk);
        Assert.True((await wanjiru.Act("/door/count", Knives("ONLY-3"))).IsOk);
        var unseen = await From(db => db.Inspections.SingleAsync(i => i.State == InspectionState.Skipped));
        Assert.NotNull(unseen.SkipSeed);
        Assert.Equal(
            [(Standing.Usable, 16m)],
            (await From(db => db.Balances.Where(b => b.BatchId == unseen.BatchId).ToListAsync()))
                .Where(b => b.Quantity > 0)
                .GroupBy(b => b.Standing)
                .Select(g => (g.Key, g.Sum(b => b.Quantity)))
        );
        Assert.DoesNotContain((await sunita.Ask("/bench/queue"))["cards"].EnumerateArray(), c =>
            c.GetProperty("number").GetString() == unseen.Number
        );
        Assert.Contains("passes unseen", (await sunita.Ask($"/bench/sheet/{unseen.Number}"))["skipWhy"].GetString());
        Assert.Empty((await server.Check()).Faults);

        // The signed sheet as a paper, and what becomes of it when somebody changes the database behind its back.
        var proof = await sunita.Ask($"/bench/proof/{looked.Number}");
        Assert.True(proof["isWhole"].GetBoolean());
        Assert.Equal(proof["hash"].GetString(), proof["now"].GetString());
        Assert.True(proof["inBook"].GetInt64() > 0);
        Assert.Equal("not-signed", (await sunita.Ask("/bench/proof/I-0025")).Code);
        var paper = await sunita.Http.GetAsync($"/api/LM/bench/paper/{looked.Number}");
        Assert.Equal("application/pdf", paper.Content.Headers.ContentType!.MediaType);
        Assert.StartsWith("%PDF", System.Text.Encoding.ASCII.GetString((await paper.Content.ReadAsByteArrayAsync())[..8]));
        await using var behind = server.Db();
        var finding = await behind.Set<Finding>().AsTracking().FirstAsync(f => f.InspectionId == looked.Id && f.Value != null);
        var was = finding.Value;
        finding.Value = was - 0.01m;
        await behind.SaveChangesAsync();
        Assert.False((await sunita.Ask($"/bench/proof/{looked.Number}"))["isWhole"].GetBoolean());
        finding.Value = was;
        await behind.SaveChangesAsync();
        Assert.True((await sunita.Ask($"/bench/proof/{looked.Number}"))["isWhole"].GetBoolean());
    }
}
