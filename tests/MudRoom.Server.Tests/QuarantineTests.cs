using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Goods never slip out of quarantine, whatever else is said of them.</summary>
public sealed class QuarantineTests(DemoServer server) : IClassFixture<DemoServer>
{
    /// <summary>Bare-root trees, which a rule holds for 14 days, on no order of the tools' arrival.</summary>
    static Dictionary<string, object?> Trees(string packs, string aside, object? more = null)
    {
        var count =
            (Dictionary<string, object?>)
                Client.Count(
                    packs,
                    "A-2618",
                    "AP-BR",
                    "bundle",
                    new
                    {
                        sourceBatch = "TREE-" + packs,
                        origin = "FR",
                        production = "2026-02-01",
                        aside,
                        note = "broken roots",
                        vendor = "MALO",
                    }
                );
        foreach (var p in more?.GetType().GetProperties() ?? [])
            count[p.Name] = p.GetValue(more);
        return count;
    }

    async Task<Hold> Aside(Client wanjiru, string packs)
    {
        var counted = await wanjiru.Act("/door/count", Trees(packs, "NotOnOrder"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        await using var db = server.Db();
        return await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
    }

    [Fact]
    public async Task Goods_under_a_rule_that_are_counted_aside_are_not_free_when_only_that_is_settled()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var hold = await Aside(wanjiru, "2");
        Assert.Equal((HoldReason.CountedAside, 1), (hold.Reason, hold.Times.Count));
        Assert.Equal(hold.Since.AddDays(14), hold.Until);
        Assert.Equal("time-not-over", (await wanjiru.Act("/cage/lift", new { hold = hold.Number })).Code);
        Assert.Equal(
            "time-not-over",
            (
                await wanjiru.Act(
                    "/cage/decide",
                    new
                    {
                        hold = hold.Number,
                        decision = "Scrap",
                        quantity = "10",
                        note = "x",
                    }
                )
            ).Code
        );
        var released = await wanjiru.Act(
            "/cage/decide",
            new
            {
                hold = hold.Number,
                decision = "ReleaseUnderConcession",
                askedBy = "Hollin Nurseries",
                forWhom = "C-20417",
                quantity = "20",
                note = "on PO-4490 after all",
            }
        );
        Assert.True(released.IsOk, released.Body.ToString());
        await using var db = server.Db();
        var stands = Assert.Single(await db.Balances.Where(b => b.BatchId == hold.BatchId).ToListAsync());
        Assert.Equal((Standing.Held, 20m), (stands.Standing, stands.Quantity));
        var rest = await db.Holds.SingleAsync(h => h.CameFromId == hold.Id);
        Assert.Equal((HoldReason.Rule, 20m, hold.Until), (rest.Reason, rest.Quantity, rest.Until));
        Assert.Equal(
            "nothing-to-decide",
            (
                await wanjiru.Act(
                    "/cage/decide",
                    new
                    {
                        hold = rest.Number,
                        decision = "ReleaseUnderConcession",
                        askedBy = "Hollin Nurseries",
                        forWhom = "C-20417",
                        quantity = "20",
                        note = "x",
                    }
                )
            ).Code
        );
        Assert.Equal("time-not-over", (await wanjiru.Act("/cage/lift", new { hold = rest.Number })).Code);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_hold_by_rule_is_never_decided_away_and_its_end_is_said_in_the_site_s_time()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var hold = await server.HoldOn("PL-BR");
        var decided = await wanjiru.Act(
            "/cage/decide",
            new
            {
                hold,
                decision = "ReleaseUnderConcession",
                askedBy = "Hollin Nurseries",
                forWhom = "C-20417",
                quantity = "1",
                note = "we need them",
            }
        );
        Assert.Equal("nothing-to-decide", decided.Code);
        var lifted = await wanjiru.Act("/cage/lift", new { hold });
        Assert.Equal("time-not-over", lifted.Code);
        Assert.DoesNotContain("UTC", lifted.Sentence, StringComparison.Ordinal);
        var cards = (await wanjiru.Ask("/cage/holds"))["holds"].EnumerateArray().ToList();
        Every.One(cards.Where(c => c.GetProperty("reason").GetString() == "Rule"), c =>
            Assert.False(c.GetProperty("canDecide").GetBoolean())
        );
    }

    [Fact]
    public async Task A_later_count_gets_its_own_end_and_never_the_earlier_one()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var first = await Aside(wanjiru, "3");
        Assert.True((await wanjiru.Act("/demo/clock", new { at = "2026-03-10T12:20:00" })).IsOk);
        var second = await wanjiru.Act("/door/count", Trees("3", "NotOnOrder"));
        Assert.True(second.IsOk, second.Body.ToString());
        await using var db = server.Db();
        var holds = await db.Holds.Where(h => h.BatchId == first.BatchId && h.IsOpen).OrderBy(h => h.Id).ToListAsync();
        Assert.Equal(2, holds.Count);
        Every.One(holds, h => Assert.Equal(h.Since.AddDays(14), h.Until));
        Assert.True(holds[1].Until > holds[0].Until);
        Assert.Empty((await server.Check()).Faults);
    }

    [Theory]
    [InlineData("UPDATE Finding SET Value = 80000, Conforms = 1 WHERE Conforms = 0")]
    [InlineData("UPDATE PlanVersions SET Text = json_set(Text, '$.characteristics[0].upper', 0.3)")]
    [InlineData("UPDATE PlanVersions SET Text = json_set(Text, '$.rules.Major.aql', 4.0)")]
    [InlineData("UPDATE Inspections SET Comment = 'all good' WHERE State = 2")]
    public async Task The_check_finds_a_signed_sheet_that_was_changed(string sql)
    {
        using var sunita = await server.SignIn("sunita");
        var sheet = await sunita.Ask("/bench/sheet/I-0024");
        if (sheet["signedBy"].ValueKind == System.Text.Json.JsonValueKind.Null)
        {
            var gap = sheet["characteristics"]
                .EnumerateArray()
                .First(c => c.GetProperty("name").GetString() == "Gap at the tip")
                .GetProperty("id")
                .GetInt32();
            Assert.Equal(
                "value-doubtful",
                (
                    await sunita.Act(
                        "/bench/find",
                        new
                        {
                            inspection = "I-0024",
                            piece = 27,
                            characteristic = gap,
                            value = "9",
                        }
                    )
                ).Code
            );
            Assert.True(
                (
                    await sunita.Act(
                        "/bench/gauge",
                        new
                        {
                            inspection = "I-0024",
                            piece = 27,
                            text = "feeler 0.17",
                        }
                    )
                ).IsOk
            );
            Assert.Equal(
                "reason-missing",
                (
                    await sunita.Act(
                        "/bench/find",
                        new
                        {
                            inspection = "I-0024",
                            piece = 27,
                            characteristic = gap,
                            value = "0.08",
                        }
                    )
                ).Code
            );
            Assert.True(
                (
                    await sunita.Act(
                        "/bench/sign",
                        new
                        {
                            inspection = "I-0024",
                            name = "Sunita Gellatly",
                            password = "sunita-mud-06",
                            verdict = "Rejected",
                            comment = "Gap.",
                        }
                    )
                ).IsOk
            );
        }

        Assert.Empty((await server.Check()).Faults);
        using var copy = new Copy(server.File);
        copy.Run(sql);
        await using var db = Data.Database.Context(copy.File);
        Assert.Contains((await Data.BookCheck.Run(db, null)).Faults, f => f.Contains("Sheet I-0024 was changed", StringComparison.Ordinal));
    }
}
