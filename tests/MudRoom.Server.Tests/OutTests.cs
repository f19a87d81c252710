using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Out;
using MudRoom.Core.Site;

namespace MudRoom.Server.Tests;

/// <summary>Others are told of receipts in the transaction that posts or settles them: at least once, under the same id.</summary>
public sealed class OutTests(DemoServer server) : IClassFixture<DemoServer>
{
    string Folder => Path.Combine(Path.GetDirectoryName(server.File)!, "out", "LM");

    async Task<OutMessage> Until(Func<OutMessage, bool> is_, string subject, OutKind kind)
    {
        for (var i = 0; i < 200; i++)
        {
            await using var db = server.Db();
            if (
                await db.OutMessages.AsNoTracking().FirstOrDefaultAsync(m => m.Subject == subject && m.Kind == kind) is { } message
                && is_(message)
            )
                return message;
            await Task.Delay(50);
        }

        await using var last = server.Db();
        Assert.Fail($"{subject}: " + JsonSerializer.Serialize(await last.OutMessages.ToListAsync()));
        return null!;
    }

    async Task Tell(Client anselm, string when)
    {
        var page = await anselm.Ask("/site/door");
        var kept = await anselm.Act(
            "/site/door",
            new
            {
                settings = page["settings"],
                receipts = when,
                hasAddresses = true,
            }
        );
        Assert.True(kept.IsOk, kept.Body.ToString());
    }

    async Task<string> Post(Client wanjiru, string item = "SP-DG")
    {
        var counted = await wanjiru.Act("/door/count", Client.Count("1", "A-2618", item, "each", new { overAllowed = true }));
        Assert.True(counted.IsOk, counted.Body.ToString());
        await using var db = server.Db();
        var vendors = await db
            .TallyEntries.Where(e =>
                e.TakenBackAt == null && e.ReceiptId == null && db.Arrivals.Any(a => a.Id == e.ArrivalId && a.Number == "A-2618")
            )
            .Select(e => e.VendorId)
            .Distinct()
            .ToListAsync();
        var closed = await wanjiru.Act(
            "/door/close",
            new
            {
                arrival = "A-2618",
                partly = true,
                decisions = Array.Empty<object>(),
                deliveryNotes = vendors.Select(v => new { vendorId = v, deliveryNote = $"N-{v}" }),
            }
        );
        Assert.True(closed.IsOk, closed.Body.ToString());
        return closed["receipts"].EnumerateArray().Last().GetProperty("number").GetString()!;
    }

    [Fact]
    public async Task A_posted_receipt_goes_out_once_is_tried_again_where_it_cannot_and_arrives_when_it_is_taken_away()
    {
        using var anselm = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        await Tell(anselm, "WhenPosted");
        // Where the folder of the site should be there is a file: nothing can be written there.
        Directory.CreateDirectory(Path.GetDirectoryName(Folder)!);
        if (Directory.Exists(Folder))
            Directory.Delete(Folder, recursive: true);
        await File.WriteAllTextAsync(Folder, "in the way");
        var receipt = await Post(wanjiru);
        var failed = await Until(m => m.Tries > 0, receipt, OutKind.ReceiptPosted);
        Assert.Equal(OutState.Waiting, failed.State);
        Assert.NotEmpty(failed.Said);

        File.Delete(Folder);
        Assert.True((await wanjiru.Act("/book/out/again", new { message = failed.Id })).IsOk);
        var sent = await Until(m => m.State == OutState.Sent, receipt, OutKind.ReceiptPosted);
        var file = Assert.Single(Directory.GetFiles(Folder, $"{receipt}-*"));
        Assert.Contains(sent.Id.ToString("N"), file, StringComparison.Ordinal);
        var body = JsonDocument.Parse(await File.ReadAllTextAsync(file)).RootElement;
        Assert.Equal(
            ("receipt-posted", receipt, sent.Id),
            (body.GetProperty("message").GetString(), body.GetProperty("receipt").GetString(), body.GetProperty("id").GetGuid())
        );
        Assert.Contains(body.GetProperty("lines").EnumerateArray(), l =>
            l.GetProperty("item").GetString() == "SP-DG" && l.GetProperty("unit").GetString() == "H87"
        );

        // A folder that is gone (a share that is not there) is no receiver who took what lay in it.
        Directory.Move(Folder, Folder + "-away");
        await Task.Delay(2500);
        await using (var db = server.Db())
            Assert.Equal(OutState.Sent, (await db.OutMessages.SingleAsync(m => m.Id == sent.Id)).State);
        Directory.Move(Folder + "-away", Folder);

        // Nobody takes a hundred older ones away; what is taken has arrived all the same.
        await using (var db = server.Db())
        {
            for (var i = 0; i < 100; i++)
            {
                var older = new OutMessage
                {
                    Id = Guid.NewGuid(),
                    SiteId = sent.SiteId,
                    Kind = OutKind.ReceiptPosted,
                    Subject = $"OLD-{i}",
                    Body = "{}",
                    At = sent.At.AddDays(-1),
                };
                older.HandOver();
                db.OutMessages.Add(older);
                await File.WriteAllTextAsync(Path.Combine(Folder, $"{older.Subject}-{older.Id:N}.json"), "{}");
            }

            await db.SaveChangesAsync();
        }

        File.Delete(file);
        await Until(m => m.State == OutState.Acknowledged, receipt, OutKind.ReceiptPosted);
        Assert.Equal("message-arrived", (await wanjiru.Act("/book/out/again", new { message = sent.Id })).Code);
        var list = await wanjiru.Ask("/book/out?state=Acknowledged");
        Assert.Contains(list["messages"].EnumerateArray(), m => m.GetProperty("subject").GetString() == receipt);
    }

    [Fact]
    public async Task A_refused_act_tells_nobody_and_a_site_that_tells_nobody_has_no_messages()
    {
        using var anselm = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        await Tell(anselm, "Never");
        var receipt = await Post(wanjiru);
        await using var db = server.Db();
        Assert.False(await db.OutMessages.AnyAsync(m => m.Subject == receipt));
        await Tell(anselm, "WhenPosted");
        var before = await db.OutMessages.CountAsync();
        Assert.False(
            (
                await wanjiru.Act(
                    "/door/close",
                    new
                    {
                        arrival = "A-2618",
                        partly = false,
                        decisions = Array.Empty<object>(),
                    }
                )
            ).IsOk
        );
        Assert.Equal(before, await db.OutMessages.CountAsync());
    }

    [Fact]
    public async Task A_settled_receipt_goes_out_with_the_places_really_used_when_the_last_of_its_goods_is_put_away()
    {
        using var anselm = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        using var yusuf = await server.SignIn("yusuf");
        await Tell(anselm, "WhenSettled");
        var receipt = await Post(wanjiru, "HH-16");
        await using var db = server.Db();
        var id = (await db.Receipts.SingleAsync(r => r.Number == receipt)).Id;
        async Task<List<Core.Book.Balance>> Waiting()
        {
            await using var now = server.Db();
            var staging = await now.Bins.Where(b => b.Function == BinFunction.Staging).Select(b => b.Id).ToListAsync();
            return await now
                .Balances.Where(b => staging.Contains(b.BinId) && now.Lots.Any(l => l.Id == b.LotId && l.ReceiptId == id))
                .ToListAsync();
        }

        for (var i = 0; i < 20 && (await Waiting()).FirstOrDefault() is { } row; i++)
        {
            Assert.False(await db.OutMessages.AnyAsync(m => m.Subject == receipt));
            var taken = await yusuf.Act("/shelf/take", new { task = await server.TaskOf(row.Id) });
            Assert.True(taken.IsOk, taken.Body.ToString());
            var task = taken["task"].GetInt32();
            var item = (await db.Items.SingleAsync(x => x.Id == row.ItemId)).Code;
            var unit = row.UnitId is { } u ? "00" + (await db.Units.SingleAsync(x => x.Id == u)).Sscc : row.Serial ?? item;
            Assert.True((await yusuf.Act("/shelf/scan-goods", new { task, scan = unit })).IsOk);
            var down = await yusuf.Act("/shelf/put-down", new { task, bin = taken["bin"].GetString() });
            Assert.True(down.IsOk, down.Body.ToString());
        }

        var settled = await Until(_ => true, receipt, OutKind.ReceiptSettled);
        var places = JsonDocument.Parse(settled.Body).RootElement.GetProperty("places").EnumerateArray().ToList();
        Assert.NotEmpty(places);
        Assert.All(places, p => Assert.DoesNotContain("D", p.GetProperty("bin").GetString()!.Split('-')[0][..1], StringComparison.Ordinal));
        await using var after = server.Db();
        Assert.NotNull((await after.Receipts.SingleAsync(r => r.Id == id)).SettledAt);
    }

    [Fact]
    public async Task A_line_that_must_be_accepted_first_says_so_and_is_free_by_itself()
    {
        using var anselm = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        await Tell(anselm, "WhenPosted");
        var rule = await BenchHands.Rule(sunita, 1, "GK-07", "Receipt");
        Assert.True(rule.IsOk, rule.Body.ToString());
        var counted = await wanjiru.Act("/door/count", BenchHands.Knives("PAY-1", "12"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        await using var db = server.Db();
        var batch = await db.Batches.SingleAsync(b => b.SourceBatch!.Number == "PAY-1");
        var inspection = await db.Inspections.SingleAsync(i => i.BatchId == batch.Id);
        var closed = await wanjiru.Act(
            "/door/close",
            new
            {
                arrival = "A-2620",
                partly = true,
                decisions = Array.Empty<object>(),
                deliveryNotes = new[] { new { vendorId = inspection.VendorId, deliveryNote = "N-PAY" } },
            }
        );
        Assert.True(closed.IsOk, closed.Body.ToString());
        var receipt = await db.Lots.Where(l => l.BatchId == batch.Id && l.ReceiptId != null).Select(l => l.ReceiptId).FirstAsync();
        var number = await db.Receipts.Where(r => r.Id == receipt).Select(r => r.Number).SingleAsync();

        Task<Answer> Decide(string hold, string decision, string quantity) =>
            wanjiru.Act(
                "/cage/decide",
                new
                {
                    hold,
                    decision,
                    quantity,
                    note = "blades too soft",
                }
            );

        async Task<string> Waits()
        {
            var page = await wanjiru.Ask($"/door/receipts/{number}");
            var line = page["lines"].EnumerateArray().Single(l => l.GetProperty("sourceBatch").GetString() == "PAY-1");
            var by = string.Join(" ", line.GetProperty("acceptFirst").EnumerateArray().Select(a => a.GetString()));
            var file = await wanjiru.Http.GetStringAsync("/api/LM/road/received.csv");
            Assert.Equal(by.Length > 0, file.Contains(by.Length > 0 ? by : inspection.Number, StringComparison.Ordinal));
            return by;
        }

        async Task<List<string>> Told() =>
            [
                .. (
                    await db
                        .OutMessages.FromSql($"SELECT * FROM OutMessages WHERE Subject = {number} ORDER BY rowid")
                        .AsNoTracking()
                        .ToListAsync()
                )
                    .Where(m => m.Kind != OutKind.ReceiptSettled)
                    .Select(m => JsonDocument.Parse(m.Body).RootElement)
                    .Select(b => $"{b.GetProperty("message")}: {string.Join(" ", b.GetProperty("acceptFirst").EnumerateArray())}".Trim()),
            ];

        Assert.Equal(inspection.Number, await Waits());
        // The secateurs of the same receipt wait too, all the time.
        var other = (await Told()).Single().Split(' ')[1];
        Assert.Equal([$"receipt-posted: {other} {inspection.Number}"], await Told());
        Assert.Equal("Accepted", await BenchHands.Fill(sunita, inspection.Number));
        Assert.True((await BenchHands.Sign(sunita, inspection.Number, "Accepted")).IsOk);
        Assert.Equal("", await Waits());
        Assert.Equal($"receipt-acceptance: {other}", (await Told())[^1]);
        // The sheet was wrong: it waits again, is rejected, and is free when what was decided has happened.
        var again = await sunita.Act("/bench/supersede", new { inspection = inspection.Number, reason = "the caliper was out" });
        var second = again["number"].GetString()!;
        Assert.Equal(second, await Waits());
        Assert.Equal($"receipt-acceptance: {other} {second}", (await Told())[^1]);
        Assert.Equal("Rejected", await BenchHands.Fill(sunita, second, good: false));
        Assert.True((await BenchHands.Sign(sunita, second, "Rejected")).IsOk);
        var hold = await db.Holds.Where(h => h.BatchId == batch.Id && h.IsOpen).Select(h => h.Number).SingleAsync();
        Assert.Equal(hold, await Waits());
        Assert.Equal($"receipt-acceptance: {hold} {other}", (await Told())[^1]);
        // A part is decided over: it waits by a number of its own, and others are told so.
        Assert.True((await Decide(hold, "ReturnToVendor", "5")).IsOk);
        var part = await db.Holds.OrderByDescending(h => h.Id).Select(h => h.Number).FirstAsync();
        Assert.Equal($"{hold} {part}", await Waits());
        Assert.Equal($"receipt-acceptance: {hold} {part} {other}", (await Told())[^1]);
        Assert.True((await wanjiru.Act("/cage/carry-out", new { hold = part })).IsOk);
        Assert.Equal($"receipt-acceptance: {hold} {other}", (await Told())[^1]);
        Assert.True((await Decide(hold, "ReturnToVendor", "7")).IsOk);
        Assert.Equal(hold, await Waits());
        Assert.True((await wanjiru.Act("/cage/carry-out", new { hold })).IsOk);
        Assert.Equal("", await Waits());
        Assert.Equal($"receipt-acceptance: {other}", (await Told())[^1]);
        Assert.Equal(7, (await Told()).Count);
        Assert.Empty((await server.Check()).Faults);
    }
}
