using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Taking back at the door: a count, a line, a receipt.</summary>
public sealed class UndoingTests(DemoServer server) : IClassFixture<DemoServer>
{
    [Fact]
    public async Task What_somebody_else_counted_is_taken_back_with_a_reason_that_stays_in_the_book()
    {
        using var maren = await server.SignIn("maren");
        using var leila = await server.SignIn("leila");
        var id = Guid.NewGuid();
        Assert.True((await maren.Act("/door/count", Client.Count("2"), id)).IsOk);
        var refused = await leila.Act("/door/take-back", new { arrival = "A-2618", count = id });
        Assert.Equal("note-missing", refused.Code);
        Assert.Contains("Maren Oduya", refused.Sentence, StringComparison.Ordinal);
        Assert.Equal(
            "note-missing",
            (
                await leila.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2618",
                        count = id,
                        reason = new string('x', 201),
                    }
                )
            ).Code
        );
        var done = await leila.Act(
            "/door/take-back",
            new
            {
                arrival = "A-2618",
                count = id,
                reason = "the same boxes twice",
            }
        );
        Assert.Equal("Taken back: 12 each of Draw hoe head 16 cm.", done["sentence"].GetString());
        await using var db = server.Db();
        Assert.EndsWith(
            ": the same boxes twice",
            (await db.Ledger.OrderByDescending(e => e.Seq).FirstAsync()).InWords(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_whole_line_is_taken_back_by_a_supervisor_with_what_differed_on_it()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var tomasz = await server.SignIn("tomasz");
        var line = (await wanjiru.Ask("/door/tally/A-2617"))["manifest"]
            .EnumerateArray()
            .First(m => m.GetProperty("itemCode").GetString() == "CC-70");
        var part = line.GetProperty("partId").GetInt32();
        Assert.Equal(332, line.GetProperty("counted").GetDecimal());
        var counts = await wanjiru.Ask($"/door/tally/A-2617/line/{part}");
        Assert.Equal(332, counts.Body.EnumerateArray().Sum(c => c.GetProperty("quantity").GetDecimal()));
        Every.One(counts.Body.EnumerateArray(), c => Assert.True(c.GetProperty("canTakeBack").GetBoolean()));

        Assert.Equal("note-missing", (await wanjiru.Act("/door/take-back", new { arrival = "A-2617", part })).Code);
        Assert.Equal(
            "nothing-to-take-back",
            (
                await wanjiru.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2618",
                        part,
                        reason = "another arrival",
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2617",
                        part,
                        reason = "the wrong stack",
                    }
                )
            ).IsOk
        );
        var after = await wanjiru.Ask("/door/tally/A-2617");
        Assert.Equal(
            0,
            after["manifest"].EnumerateArray().First(m => m.GetProperty("partId").GetInt32() == part).GetProperty("counted").GetDecimal()
        );
        Assert.DoesNotContain(after["discrepancies"].EnumerateArray(), d => d.GetProperty("item").GetString() == "Coir chips 70 L");
        Every.One((await tomasz.Ask($"/door/tally/A-2617/line/{part}")).Body.EnumerateArray(), c =>
            Assert.True(c.GetProperty("takenBack").GetBoolean())
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_count_that_went_to_two_lines_goes_back_whole_with_either_of_them()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        foreach (var number in new[] { "PO-TWO-A", "PO-TWO-B" })
            Assert.True(
                (
                    await wanjiru.Act(
                        "/road/orders/new",
                        new
                        {
                            number,
                            kind = "Purchase",
                            vendor = "QUER",
                            draft = false,
                            lines = new[]
                            {
                                new
                                {
                                    item = "PF-50",
                                    quantity = "20",
                                    due = "2026-03-10",
                                },
                            },
                        }
                    )
                ).IsOk
            );
        var arrival = (
            await wanjiru.Act(
                "/door/open-on-the-spot",
                new
                {
                    orders = new[] { "PO-TWO-A", "PO-TWO-B" },
                    vehicle = "truck",
                    door = 4,
                    atOnce = true,
                    notIso6346 = false,
                    unplanned = true,
                }
            )
        )["number"].GetString()!;
        var parts = (await wanjiru.Ask("/door/tally/" + arrival))["manifest"]
            .EnumerateArray()
            .Select(m => m.GetProperty("partId").GetInt32())
            .ToList();
        var (both, second) = (Guid.NewGuid(), Guid.NewGuid());
        Assert.True((await wanjiru.Act("/door/count", Client.Count("25", arrival, "PF-50", "each"), both)).IsOk);
        Assert.True((await wanjiru.Act("/door/count", Client.Count("4", arrival, "PF-50", "each"), second)).IsOk);
        await using var db = server.Db();
        Assert.Equal(
            parts.Order(),
            (await db.TallyEntries.Where(e => e.ActId == both).ToListAsync()).Select(e => e.PartId!.Value).Distinct().Order()
        );

        Assert.True(
            (
                await wanjiru.Act(
                    "/door/take-back",
                    new
                    {
                        arrival,
                        part = parts[0],
                        reason = "once more",
                    }
                )
            ).IsOk
        );
        Assert.Equal(
            [second],
            await db.TallyEntries.Where(e => parts.Contains(e.PartId!.Value) && e.TakenBackAt == null).Select(e => e.ActId).ToListAsync()
        );
        Assert.Equal(
            [0m, 4m],
            (await wanjiru.Ask("/door/tally/" + arrival))["manifest"].EnumerateArray().Select(m => m.GetProperty("counted").GetDecimal())
        );
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Receipts may be posted after the inspection: then a signed verdict must not bar the reversal of the receipt that followed
    /// it.</summary>
    [Fact]
    public async Task A_receipt_is_reversed_though_its_goods_were_judged_where_they_stand_and_their_count_is_not()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        await Accept(sunita, "I-0026");
        var tally = await wanjiru.Ask("/door/tally/A-2620");
        var decisions = tally["manifest"]
            .EnumerateArray()
            .Select(m => new { manifestLine = m.GetProperty("id").GetInt32(), decision = "MoreToCome" })
            .ToArray();
        var deliveryNotes = tally["vendors"]
            .EnumerateArray()
            .Select(v => new { vendorId = v.GetProperty("id").GetInt32(), deliveryNote = "K-1" })
            .ToArray();
        var closed = await wanjiru.Act(
            "/door/close",
            new
            {
                arrival = "A-2620",
                decisions,
                deliveryNotes,
            }
        );
        Assert.True(closed.IsOk, closed.Body.ToString());
        var reopened = await wanjiru.Act("/door/reopen", new { arrival = "A-2620", reason = "the wrong note" });
        Assert.True(reopened.IsOk, reopened.Body.ToString());

        var count = tally["counts"][0].GetProperty("act").GetGuid();
        var judged = await wanjiru.Act(
            "/door/take-back",
            new
            {
                arrival = "A-2620",
                count,
                reason = "not ours",
            }
        );
        Assert.Equal("gone-further", judged.Code);
        Assert.Contains("160 each of Flower snips 18 cm in D5-R4 were judged", judged.Sentence, StringComparison.Ordinal);

        // On a task it is the driver's, in a bin it is there: both are said.
        using var petra = await server.SignIn("petra");
        var waiting = (await petra.Ask("/shelf/queue"))["tasks"]
            .EnumerateArray()
            .First(j => j.GetProperty("item").GetString() == "Flower snips 18 cm")
            .GetProperty("task")
            .GetInt64();
        var task = await petra.Act("/shelf/take", new { task = waiting });
        Assert.True(task.IsOk, task.Body.ToString());
        Assert.True(
            (
                await wanjiru.Act(
                    "/door/close",
                    new
                    {
                        arrival = "A-2620",
                        decisions,
                        deliveryNotes,
                    }
                )
            ).IsOk
        );
        Assert.Contains(
            "on a task of Petra Lindqvale",
            (await wanjiru.Act("/door/reopen", new { arrival = "A-2620", reason = "again" })).Sentence,
            StringComparison.Ordinal
        );
        await petra.Act("/shelf/scan-goods", new { task = task["task"].GetInt32(), scan = "SC-18" });
        var down = await petra.Act("/shelf/put-down", new { task = task["task"].GetInt32(), bin = task["bin"].GetString() });
        Assert.True(down.IsOk, down.Body.ToString());
        var gone = await wanjiru.Act("/door/reopen", new { arrival = "A-2620", reason = "again" });
        Assert.Contains($"left D5-R4 and stand in {task["bin"].GetString()}", gone.Sentence, StringComparison.Ordinal);
    }

    internal static async Task Accept(Client inspector, string inspection)
    {
        Assert.True((await inspector.Act("/bench/draw", new { inspection })).IsOk);
        var sheet = await inspector.Ask("/bench/sheet/" + inspection);
        for (var piece = 1; piece <= sheet["sampleSize"].GetInt32(); piece++)
            foreach (
                var c in sheet["characteristics"]
                    .EnumerateArray()
                    .Where(c => piece <= c.GetProperty("pieces").GetProperty("last").GetInt32())
            )
            {
                string[] limits = ["nominal", "upper", "lower"];
                var value = limits.Select(l => c.GetProperty(l)).FirstOrDefault(l => l.ValueKind == JsonValueKind.Number);
                var measured = value.ValueKind == JsonValueKind.Number;
                var found = await inspector.Act(
                    "/bench/find",
                    new
                    {
                        inspection,
                        piece,
                        characteristic = c.GetProperty("id").GetInt32(),
                        value = measured ? value.GetRawText() : null,
                        pass = measured ? (bool?)null : true,
                    }
                );
                Assert.True(found.IsOk, found.Body.ToString());
            }

        var signed = await inspector.Act(
            "/bench/sign",
            new
            {
                inspection,
                name = "Sunita Gellatly",
                password = "sunita-mud-06",
                verdict = "Accepted",
            }
        );
        Assert.True(signed.IsOk, signed.Body.ToString());
    }
}
