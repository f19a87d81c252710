using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Out;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using UglyToad.PdfPig;

namespace MudRoom.Server.Tests;

/// <summary>Concessions with an end, regrades, the second person and the way to the scrap place, over HTTP.</summary>
public sealed class ConcessionTests(DemoServer server) : IClassFixture<DemoServer>
{
    async Task<Hold> BrokenPots()
    {
        await using var db = server.Db();
        return await db.Holds.SingleAsync(h => h.IsOpen && h.Reason == HoldReason.CountedAside && h.Quantity == 40);
    }

    async Task<Hold> Load(string number)
    {
        await using var db = server.Db();
        return await db.Holds.AsNoTracking().SingleAsync(h => h.SiteId == 1 && h.Number == number);
    }

    static async Task<(Answer Answer, string Hold)> Decide(Client who, string hold, string decision, string quantity, object? more = null)
    {
        var body = new Dictionary<string, object?>
        {
            ["hold"] = hold,
            ["decision"] = decision,
            ["quantity"] = quantity,
            ["note"] = "chipped rims",
        };
        foreach (var property in more?.GetType().GetProperties() ?? [])
            body[property.Name] = property.GetValue(more);
        var answer = await who.Act("/cage/decide", body);
        var sentence = answer.IsOk ? answer.Body.GetProperty("sentence").GetString()! : "";
        return (answer, sentence.StartsWith("H-", StringComparison.Ordinal) ? sentence.Split(':')[0] : hold);
    }

    async Task<List<Balance>> Under(string hold)
    {
        await using var db = server.Db();
        var lots = await db
            .Statements.Where(s => db.Holds.Any(h => h.Id == s.HoldId && h.Number == hold && h.SiteId == 1) && s.SettledAt == null)
            .Select(s => s.LotId)
            .ToListAsync();
        return await db.Balances.Where(b => lots.Contains(b.LotId!.Value) && b.Quantity > 0).ToListAsync();
    }

    async Task<JsonElement> Told(string hold, int times = 1)
    {
        await using var db = server.Db();
        var all = await db.OutMessages.Where(m => m.Kind == OutKind.GoodsDecided && m.Subject == hold).ToListAsync();
        Assert.Equal(times, all.Count);
        var told = all[0];
        return JsonDocument.Parse(told.Body).RootElement;
    }

    /// <summary>The demo's broken pots: some become second grade, some go back, the shards are scrapped. Each part is brought to its place
    /// by its own task, and leaves the books when it leaves.</summary>
    [Fact]
    public async Task Broken_pots_are_split_between_regrade_return_and_scrap_and_each_part_goes_its_way()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var petra = await server.SignIn("petra");
        var pots = await BrokenPots();
        Assert.Equal("regrade-wrong", (await Decide(wanjiru, pots.Number, "Regrade", "24")).Answer.Code);
        Assert.Equal("regrade-wrong", (await Decide(wanjiru, pots.Number, "Regrade", "24", new { into = "TP-24" })).Answer.Code);
        Assert.Equal("not-found", (await Decide(wanjiru, pots.Number, "Regrade", "24", new { into = "TP-99" })).Answer.Code);
        Assert.Equal(40, (await Load(pots.Number)).Quantity);

        var (regrade, seconds) = await Decide(wanjiru, pots.Number, "Regrade", "24", new { into = "TP-24S" });
        Assert.True(regrade.IsOk, regrade.Body.ToString());
        var (back, toVendor) = await Decide(wanjiru, pots.Number, "ReturnToVendor", "10");
        Assert.True(back.IsOk, back.Body.ToString());
        var (scrap, shards) = await Decide(wanjiru, pots.Number, "Scrap", "6");
        Assert.True(scrap.IsOk, scrap.Body.ToString());
        Assert.Equal(pots.Number, shards);
        Assert.All(await Under(shards), b => Assert.Equal(Standing.ToScrap, b.Standing));
        Assert.All(await Under(toVendor), b => Assert.Equal(Standing.ToGoBack, b.Standing));
        Assert.All(await Under(seconds), b => Assert.Equal(Standing.Held, b.Standing));

        // Each is brought to where it leaves from.
        await Bring(petra, Standing.ToScrap, BinFunction.Scrap);
        await Bring(petra, Standing.ToGoBack, BinFunction.Dispatch);
        var functions = await Functions();
        Assert.All(await Under(shards), b => Assert.Equal(BinFunction.Scrap, functions[b.BinId]));
        Assert.All(await Under(toVendor), b => Assert.Equal(BinFunction.Dispatch, functions[b.BinId]));

        // What goes back to its vendor gets a paper and counts on its order; undone, it is as if it had not.
        async Task<decimal> Received()
        {
            await using var look = server.Db();
            return await look.LineParts.Where(p => p.Line!.Order!.Number == "PO-4433").SumAsync(p => p.Received);
        }

        Assert.Equal(160, await Received());
        var left = await wanjiru.Act("/cage/carry-out", new { hold = toVendor });
        Assert.True(left.IsOk, left.Body.ToString());
        Assert.Contains("not to be invoiced; the order is open for them again.", left.Body.ToString(), StringComparison.Ordinal);
        Assert.Equal(150, await Received());
        Core.Door.VendorReturn paper;
        long sent;
        await using (var look = server.Db())
        {
            paper = await look.VendorReturns.SingleAsync(r => r.Reason == "chipped rims");
            sent = paper.LedgerSeq;
        }

        Assert.Equal((10m, false), (paper.Quantity, paper.Invoiced));
        using (var pdf = PdfDocument.Open(await wanjiru.Http.GetByteArrayAsync($"/api/LM/door/return/{paper.Number}")))
        {
            var words = string.Join(" ", pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text));
            foreach (var part in new[] { paper.Number, "Terracotta Valmora", "PO-4433-1", "10 each", "not to be invoiced", "chipped rims" })
                Assert.Contains(part, words, StringComparison.Ordinal);
        }

        Assert.Equal("not-found", (await wanjiru.Ask("/door/return/V-9999")).Code);
        Assert.True((await wanjiru.Act("/book/undo", new { entry = sent, reason = "the haulier did not take them" })).IsOk);
        Assert.Equal(160, await Received());
        await using (var look = server.Db())
            Assert.False(await look.VendorReturns.AnyAsync(r => r.Number == paper.Number));
        Assert.True((await wanjiru.Act("/cage/carry-out", new { hold = toVendor })).IsOk);
        Assert.Equal(150, await Received());
        var told = await Told(toVendor, 2);
        Assert.Equal(("return-to-vendor", "10", "TP-24"), (Text(told, "decision"), Text(told, "quantity"), Text(told, "item")));
        Assert.Equal(["VALM"], told.GetProperty("vendors").EnumerateArray().Select(v => v.GetString()!));
        Assert.Single(told.GetProperty("receipts").EnumerateArray());
        Assert.True((await wanjiru.Act("/cage/carry-out", BenchHands.Seen(shards))).IsOk);
        var done = await wanjiru.Act("/cage/carry-out", new { hold = seconds });
        Assert.True(done.IsOk, done.Body.ToString());
        await using var db = server.Db();
        var item = await db.Items.SingleAsync(i => i.Code == "TP-24S");
        var now = await db.Balances.SingleAsync(b => b.ItemId == item.Id && b.Quantity > 0);
        Assert.Equal((24m, Standing.Usable), (now.Quantity, now.Standing));
        Assert.True(await db.Tasks.AnyAsync(t => t.ItemId == item.Id && t.State == TaskState.Waiting && t.Quantity == 24));
        Assert.Equal("TP-24S", Text(await Told(seconds), "into"));
        Assert.Empty((await server.Check()).Faults);

        // What was relabelled by mistake is undone from the book, as if it had not been.
        var entry = await db.Ledger.OrderByDescending(e => e.Seq).FirstAsync(e => e.Subject == seconds && e.Quantity != null);
        var undone = await wanjiru.Act("/book/undo", new { entry = entry.Seq, reason = "the wrong pallet" });
        Assert.True(undone.IsOk, undone.Body.ToString());
        Assert.False(await db.Balances.AnyAsync(b => b.ItemId == item.Id && b.Quantity > 0));
        Assert.Equal((24m, true), ((await Load(seconds)).Quantity, (await Load(seconds)).IsOpen));
        Assert.All(await Under(seconds), b => Assert.Equal(Standing.Held, b.Standing));
        Assert.True((await wanjiru.Act("/cage/carry-out", new { hold = seconds })).IsOk);
        Assert.Empty((await server.Check()).Faults);
    }

    static string Text(JsonElement body, string name) => body.GetProperty(name).GetString()!;

    async Task<Dictionary<int, BinFunction>> Functions()
    {
        await using var db = server.Db();
        return await db.Bins.ToDictionaryAsync(b => b.Id, b => b.Function);
    }

    /// <summary>A driver brings all goods of a standing where it is proposed.</summary>
    async Task Bring(Client driver, Standing standing, BinFunction to)
    {
        List<StoreTask> tasks;
        await using (var db = server.Db())
            tasks = await db.Tasks.Where(t => t.SiteId == 1 && t.State == TaskState.Waiting && t.Standing == standing).ToListAsync();
        Assert.NotEmpty(tasks);
        foreach (var task in tasks)
        {
            var answer = await driver.Act("/shelf/take", new { task = task.Id });
            Assert.True(answer.IsOk, answer.Body.ToString());
            var taken = answer.Body;
            var bin = taken.GetProperty("bin").GetString();
            await using var db = server.Db();
            Assert.True(await db.Bins.AnyAsync(b => b.Address == bin && b.Function == to), taken.ToString());
            var item = await db.Items.SingleAsync(i => i.Id == task.ItemId);
            Assert.True(
                (await driver.Act("/shelf/scan-goods", new { task = taken.GetProperty("task").GetInt32(), scan = item.Code })).IsOk
            );
            var down = await driver.Act("/shelf/put-down", new { task = taken.GetProperty("task").GetInt32(), bin });
            Assert.True(down.IsOk, down.Body.ToString());
        }
    }

    /// <summary>Torn sacks that were inspected and rejected: used under a concession, what is left is held again at its end.</summary>
    [Fact]
    public async Task What_is_left_at_the_end_of_a_concession_is_held_again_and_what_was_used_is_named()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        var hold = await Rejected(wanjiru, "CONC-1");
        async Task<Answer> Concede(string quantity, object? more) =>
            (await Decide(wanjiru, hold.Number, "ReleaseUnderConcession", quantity, more)).Answer;
        Assert.Equal("concession-absurd", (await Concede("5", null)).Code);
        Assert.Equal(
            "concession-absurd",
            (
                await Concede(
                    "5",
                    new
                    {
                        askedBy = "Hollin",
                        forWhom = "C-1",
                        until = "2026-03-09",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "more-than-held",
            (
                await Concede(
                    "500",
                    new
                    {
                        askedBy = "Hollin",
                        forWhom = "C-1",
                        until = "2026-03-20",
                    }
                )
            ).Code
        );
        Assert.Equal("right-missing", (await Decide(leila, hold.Number, "ReleaseUnderConcession", "5")).Answer.Code);

        var before = hold.Quantity;
        var given = await Concede(
            before.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture),
            new
            {
                askedBy = "Hollin Nurseries",
                forWhom = "C-20417",
                until = "2026-03-12",
            }
        );
        Assert.True(given.IsOk, given.Body.ToString());
        var rows = await Under(hold.Number);
        Assert.All(rows, b => Assert.Equal(Standing.Usable, b.Standing));
        var under = await Load(hold.Number);
        Assert.Equal((true, new DateTimeOffset(2026, 3, 13, 0, 0, 0, TimeSpan.Zero)), (under.IsOpen, under.UsableUntil));
        Assert.Equal("concession", Text(await Told(hold.Number), "decision"));
        Assert.Equal("decided-already", (await wanjiru.Act("/cage/carry-out", new { hold = hold.Number })).Code);
        Assert.Equal("wants-decision", (await wanjiru.Act("/cage/lift", new { hold = hold.Number })).Code);

        var issued = await wanjiru.Act(
            "/book/issue",
            new
            {
                balance = rows[0].Id,
                quantity = "4",
                to = "Customer",
                reference = "C-20417",
            }
        );
        Assert.True(issued.IsOk, issued.Body.ToString());
        Assert.Equal(before - 4, (await Load(hold.Number)).Quantity);
        // Its time is not over.
        Assert.True((await wanjiru.Act("/cage/concessions/end", new { })).IsOk);
        Assert.NotNull((await Load(hold.Number)).UsableUntil);

        var ended = await wanjiru.Act("/cage/undecide", new { hold = hold.Number, why = "Hollin wants no more" });
        Assert.True(ended.IsOk, ended.Body.ToString());
        Assert.Contains("used under it: 4 kg for C-20417", ended.Body.ToString(), StringComparison.Ordinal);
        Assert.All(await Under(hold.Number), b => Assert.Equal(Standing.Rejected, b.Standing));
        Assert.Null((await Load(hold.Number)).UsableUntil);
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Nobody has to think of it: the server ends it when its time is over.</summary>
    [Fact]
    public async Task A_concession_ends_by_itself()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var hold = await Rejected(wanjiru, "CONC-2");
        var given = await Decide(
            wanjiru,
            hold.Number,
            "ReleaseUnderConcession",
            hold.Quantity.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture),
            new
            {
                askedBy = "Hollin Nurseries",
                forWhom = "job J-9",
                until = "2026-03-10",
            }
        );
        Assert.True(given.Answer.IsOk, given.Answer.Body.ToString());
        await using (var db = server.Db())
            await db.Holds.Where(h => h.Id == hold.Id).ExecuteUpdateAsync(u => u.SetProperty(h => h.UsableUntil, hold.Since));
        for (var i = 0; i < 600 && (await Load(hold.Number)).UsableUntil is not null; i++)
            await Task.Delay(100);
        Assert.All(await Under(hold.Number), b => Assert.Equal(Standing.Rejected, b.Standing));
        var said = (await wanjiru.Ask($"/book/ledger?text={hold.Number}")).Body.ToString();
        Assert.Contains("the concession ended (rule)", said, StringComparison.Ordinal);
        Assert.Contains("nothing was used under it", said, StringComparison.Ordinal);
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>A lot that the bench rejected.</summary>
    async Task<Hold> Rejected(Client wanjiru, string batch)
    {
        using var sunita = await server.SignIn("sunita");
        Assert.True((await wanjiru.Act("/door/count", LotTests.Sacks("2", batch))).IsOk);
        string inspection;
        await using (var db = server.Db())
            inspection = await db
                .Inspections.Where(i => db.Batches.Any(b => b.Id == i.BatchId && b.SourceBatch!.Number == batch))
                .Select(i => i.Number)
                .SingleAsync();
        await BenchHands.Fill(sunita, inspection, good: false);
        var signed = await BenchHands.Sign(sunita, inspection, "Rejected");
        Assert.True(signed.IsOk, signed.Body.ToString());
        await using var after = server.Db();
        return await after.Holds.OrderByDescending(h => h.Id).FirstAsync(h => h.Reason == HoldReason.Nonconforming);
    }

    [Fact]
    public async Task What_nobody_has_inspected_is_not_released_until_a_day()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True((await wanjiru.Act("/door/count", LotTests.Sacks("1", "CONC-3", "Damaged", "torn"))).IsOk);
        Hold hold;
        await using (var db = server.Db())
            hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        var said = new
        {
            askedBy = "Hollin",
            forWhom = "C-1",
            until = "2026-03-20",
        };
        Assert.Equal("inspect-first", (await Decide(wanjiru, hold.Number, "ReleaseUnderConcession", "25", said)).Answer.Code);
        var free = await Decide(wanjiru, hold.Number, "ReleaseUnderConcession", "25", new { askedBy = "Hollin", forWhom = "C-1" });
        Assert.True(free.Answer.IsOk, free.Answer.Body.ToString());
        Assert.Contains("to inspect", free.Answer.Body.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Above_a_value_somebody_else_signs_with_their_password()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var anselm = await server.SignIn("anselm");
        Assert.True((await wanjiru.Act("/door/count", LotTests.Sacks("2", "TWO-1", "Damaged", "torn"))).IsOk);
        Hold hold;
        await using (var db = server.Db())
            hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        Assert.Equal("right-missing", (await wanjiru.Act("/site/cage", new { secondAbove = "0" })).Code);
        Assert.Equal("cage-settings-absurd", (await anselm.Act("/site/cage", new { secondAbove = "-1" })).Code);
        Assert.True((await anselm.Act("/site/cage", new { secondAbove = "0", version = 0 })).IsOk);
        Assert.Equal("settings-moved", (await anselm.Act("/site/cage", new { secondAbove = "5", version = 0 })).Code);
        try
        {
            async Task<string?> Scrap(string? second, string? secondPassword) =>
                (await Decide(wanjiru, hold.Number, "Scrap", "50", new { second, secondPassword })).Answer.Code;
            Assert.Equal("second-missing", await Scrap(null, null));
            Assert.Equal("second-missing", await Scrap("wanjiru", "wanjiru-mud-01"));
            Assert.Equal("signature-wrong", await Scrap("dilys", "guessed"));
            // A receiver neither decides nor sees prices.
            Assert.Equal("second-missing", await Scrap("leila", "leila-mud-03"));
            Assert.Null((await Load(hold.Number)).Decision);
            Assert.Null(await Scrap("dilys", "dilys-mud-12"));
            var decision = (await Load(hold.Number)).Decision!;
            Assert.Equal("Dilys Pemberwick", decision.Second!.Value.Name);
            Assert.Contains(
                "signed by Dilys Pemberwick too",
                (await wanjiru.Ask($"/book/ledger?text={hold.Number}")).Body.ToString(),
                StringComparison.Ordinal
            );
            // What it is worth is told to who may see prices, and to accounts.
            using var dilys = await server.SignIn("dilys");
            Assert.Equal(decision.Price * 50, await Value(dilys, hold.Number));
            Assert.Null(await Value(wanjiru, hold.Number));
        }
        finally
        {
            Assert.True((await anselm.Act("/site/cage", new { secondAbove = (string?)null })).IsOk);
        }
    }

    /// <summary>What else is said speaks of the item they were, and a recall of that item finds them by the batch that went with
    /// them.</summary>
    [Fact]
    public async Task Goods_are_regraded_when_nothing_else_is_said_and_a_recall_of_what_they_were_finds_them()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True((await wanjiru.Act("/door/count", LotTests.Sacks("2", "REG-1", "Damaged", "torn"))).IsOk);
        Hold hold;
        await using (var db = server.Db())
            hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        Assert.Null((await Decide(wanjiru, hold.Number, "Regrade", "50", new { into = "SD-FEN" })).Answer.Code);
        var laid = await wanjiru.Act(
            "/cage/hold",
            new
            {
                balance = (await Under(hold.Number)).Single().Id,
                quantity = "50",
                why = "smells musty",
            }
        );
        Assert.True(laid.IsOk, laid.Body.ToString());
        string musty;
        await using (var db = server.Db())
            musty = (await db.Holds.OrderByDescending(h => h.Id).FirstAsync()).Number;
        var kept = await wanjiru.Act("/cage/carry-out", new { hold = hold.Number });
        Assert.Equal("not-let", kept.Code);
        Assert.StartsWith($"{musty} is on these goods too", kept.Sentence, StringComparison.Ordinal);
        Assert.Equal(50, (await Under(hold.Number)).Sum(b => b.Quantity));
        Assert.True((await wanjiru.Act("/cage/lift", new { hold = musty })).IsOk);
        Assert.True((await wanjiru.Act("/cage/carry-out", new { hold = hold.Number })).IsOk);

        var begun = await wanjiru.Act(
            "/cage/recalls/begin",
            new
            {
                by = "SourceBatch",
                item = "SD-MUS",
                numbers = "REG-1",
                why = "germination below its paper",
            }
        );
        Assert.True(begun.IsOk, begun.Body.ToString());
        var finding = (await wanjiru.Ask("/cage/recalls/" + begun["number"].GetString()))["finding"];
        Assert.Equal(
            (50m, 50m, 0m),
            (finding.GetProperty("came").GetDecimal(), finding.GetProperty("here").GetDecimal(), finding.GetProperty("gone").GetDecimal())
        );
        await using (var db = server.Db())
        {
            var row = await db.Balances.SingleAsync(b =>
                b.Quantity > 0 && db.Batches.Any(x => x.Id == b.BatchId && x.SourceBatch!.Number == "REG-1")
            );
            Assert.Equal(("SD-FEN", Standing.Recalled), ((await db.Items.SingleAsync(i => i.Id == row.ItemId)).Code, row.Standing));
            hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        }

        // What they were, they can be again: in the batch that they came in, and recalled still.
        Assert.Null((await Decide(wanjiru, hold.Number, "Regrade", "50", new { into = "SD-MUS" })).Answer.Code);
        var back = await wanjiru.Act("/cage/carry-out", new { hold = hold.Number });
        Assert.True(back.IsOk, back.Body.ToString());
        await using var after = server.Db();
        Assert.Equal(
            Standing.Recalled,
            (
                await after.Balances.SingleAsync(b =>
                    b.Quantity > 0
                    && after.Batches.Any(x => x.Id == b.BatchId && x.CameAsItemId == null && x.SourceBatch!.Number == "REG-1")
                )
            ).Standing
        );
        Assert.Empty((await server.Check()).Faults);
    }

    static async Task<decimal?> Value(Client who, string hold)
    {
        var card = (await who.Ask("/cage/holds"))["holds"].EnumerateArray().Single(h => h.GetProperty("number").GetString() == hold);
        var value = card.GetProperty("decision").GetProperty("value");
        return value.ValueKind == JsonValueKind.Null ? null : value.GetDecimal();
    }
}
