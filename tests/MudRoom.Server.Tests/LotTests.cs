using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Server.Tests;

/// <summary>Who says what about these goods, and why may they not be used: one exact answer, whatever reads alike beside them.</summary>
public sealed class LotTests(DemoServer server) : IClassFixture<DemoServer>
{
    /// <summary>A count of sacks of mustard seed, which are inspected.</summary>
    public static object Sacks(string packs, string batch, string? aside = null, string? note = null, string arrival = "A-2617") =>
        Client.Count(
            packs,
            arrival,
            "SD-MUS",
            "sack",
            new
            {
                sourceBatch = batch,
                production = "2026-01-10",
                bestBefore = "2027-12-31",
                origin = "IN",
                aside,
                note,
                overAllowed = true,
            }
        );

    static async Task<Answer> Ok(Client client, string path, object what)
    {
        var answer = await client.Act(path, what);
        Assert.True(answer.IsOk, $"{path} {JsonSerializer.Serialize(what)}: {answer.Body}");
        return answer;
    }

    async Task<Core.Cage.Hold> LastHold()
    {
        await using var db = server.Db();
        return await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
    }

    async Task<List<Balance>> Of(int? batch)
    {
        await using var db = server.Db();
        return await db.Balances.Where(b => b.BatchId == batch).OrderBy(b => b.Id).ToListAsync();
    }

    async Task IsWhole() => Assert.Empty((await server.Check()).Faults);

    [Fact]
    public async Task Two_holds_on_loose_goods_that_read_alike_each_free_their_own()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Ok(wanjiru, "/door/count", Sacks("2", "APART-1", "Damaged", "torn"));
        var torn = await LastHold();
        await Ok(wanjiru, "/door/count", Sacks("3", "APART-1", "LabelWrong", "label of another seed"));
        var labelled = await LastHold();
        await Ok(
            wanjiru,
            "/cage/decide",
            new
            {
                hold = labelled.Number,
                decision = "Scrap",
                quantity = "25",
                note = "rotten",
            }
        );
        await Ok(wanjiru, "/cage/carry-out", BenchHands.Seen((await LastHold()).Number));
        await Ok(wanjiru, "/cage/lift", new { hold = torn.Number, note = "mended" });
        var left = await Of(torn.BatchId);
        Assert.Equal(
            [(Standing.Held, 50m), (Standing.ToInspect, 50m)],
            left.Select(b => (b.Standing, b.Quantity)).OrderByDescending(b => b.Standing.Id)
        );
        await IsWhole();
    }

    [Fact]
    public async Task Goods_under_two_holds_are_held_until_the_second_is_lifted_too_and_the_cage_names_both()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var inspector = await server.SignIn("sunita");
        await Ok(wanjiru, "/door/count", Sacks("2", "TWICE-1", "Damaged", "torn"));
        var torn = await LastHold();
        var stock = Assert.Single(await Of(torn.BatchId));
        var laid = await Ok(inspector, "/cage/hold", new { balance = stock.Id, why = "smells of diesel" });
        Assert.Contains("held", laid["sentence"].GetString(), StringComparison.Ordinal);
        var smells = await LastHold();
        var cards = (await wanjiru.Ask("/cage/holds"))["holds"].EnumerateArray().ToList();
        var card = cards.Single(c => c.GetProperty("number").GetString() == torn.Number);
        Assert.Equal([smells.Number], card.GetProperty("besides").EnumerateArray().Select(b => b.GetString()));
        var first = await Ok(wanjiru, "/cage/lift", new { hold = torn.Number });
        Assert.Contains($"are held still, by {smells.Number}", first["sentence"].GetString(), StringComparison.Ordinal);
        Assert.Equal(Standing.Held, Assert.Single(await Of(torn.BatchId)).Standing);
        await IsWhole();
        await Ok(wanjiru, "/cage/lift", new { hold = smells.Number });
        Assert.Equal(Standing.ToInspect, Assert.Single(await Of(torn.BatchId)).Standing);
        await IsWhole();
    }

    [Fact]
    public async Task Who_lifts_one_of_two_holds_is_told_of_each_part_which_hold_keeps_it()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Ok(wanjiru, "/door/count", Sacks("4", "PARTED-1", "Damaged", "torn"));
        var torn = await LastHold();
        var stock = Assert.Single(await Of(torn.BatchId));
        await Ok(wanjiru, "/cage/hold", new { balance = stock.Id, why = "smells of diesel" });
        var smells = await LastHold();
        await Ok(
            wanjiru,
            "/cage/decide",
            new
            {
                hold = torn.Number,
                decision = "Scrap",
                quantity = "25",
                note = "rotten",
            }
        );
        var part = await LastHold();
        var lifted = await Ok(wanjiru, "/cage/lift", new { hold = smells.Number });
        Assert.Equal(
            $"75 kg of White mustard seed are held still, by {torn.Number}. "
                + $"25 kg of White mustard seed are to be scrapped still, by {part.Number}.",
            lifted["sentence"].GetString()
        );
        await IsWhole();
    }

    [Fact]
    public async Task A_part_that_is_held_is_split_off_and_the_rest_stays_usable()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var usable = await db
            .Balances.Where(b => b.Standing == Standing.Usable && b.UnitId == null && b.Serial == null && b.Quantity >= 10 && b.SiteId == 1)
            .OrderByDescending(b => b.Quantity)
            .FirstAsync();
        await Ok(
            wanjiru,
            "/cage/hold",
            new
            {
                balance = usable.Id,
                quantity = "4",
                why = "wet",
            }
        );
        var hold = await LastHold();
        await using var after = server.Db();
        var lots = await after.Lots.Where(l => l.Id == usable.LotId || l.ParentId == usable.LotId).OrderBy(l => l.Id).ToListAsync();
        var child = lots.Last();
        Assert.Equal((usable.LotId, LotOrigin.Split), (child.ParentId, child.Origin));
        Assert.Equal([(usable.LotId, Standing.Usable, usable.Quantity - 4), (child.Id, Standing.Held, 4m)], await Rows());
        var tooMuch = await wanjiru.Act(
            "/cage/decide",
            new
            {
                hold = hold.Number,
                decision = "Scrap",
                quantity = "5",
                note = "more",
            }
        );
        Assert.False(tooMuch.IsOk);
        await Ok(wanjiru, "/cage/lift", new { hold = hold.Number });
        // Nothing is said of the part any more: it is of its lot again.
        Assert.Equal([(usable.LotId, Standing.Usable, usable.Quantity)], await Rows());
        await IsWhole();

        async Task<List<(int? Lot, Standing Standing, decimal Quantity)>> Rows()
        {
            await using var look = server.Db();
            var ids = lots.Select(l => (int?)l.Id).ToList();
            return
            [
                .. (
                    await look.Balances.Where(b => b.BinId == usable.BinId && ids.Contains(b.LotId)).OrderBy(b => b.LotId).ToListAsync()
                ).Select(b => (b.LotId, b.Standing, b.Quantity)),
            ];
        }
    }

    [Fact]
    public async Task A_count_of_which_a_part_was_held_and_freed_again_is_taken_back_whole()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Ok(wanjiru, "/door/count", Sacks("3", "AGAIN-1"));
        await using var db = server.Db();
        var batch = await db.Batches.OrderByDescending(b => b.Id).FirstAsync();
        var stock = Assert.Single(await Of(batch.Id));
        await Ok(
            wanjiru,
            "/cage/hold",
            new
            {
                balance = stock.Id,
                quantity = "25",
                why = "wet",
            }
        );
        var refused = await wanjiru.Act("/door/take-back", new { arrival = "A-2617", reason = "twice" });
        Assert.Equal("gone-further", refused.Code);
        await Ok(wanjiru, "/cage/lift", new { hold = (await LastHold()).Number });
        await Ok(wanjiru, "/door/take-back", new { arrival = "A-2617", reason = "twice" });
        Assert.Empty(await Of(batch.Id));
        await IsWhole();
    }

    [Fact]
    public async Task An_issue_of_one_line_takes_its_lots_oldest_first_an_entry_for_each()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Ok(wanjiru, "/door/count", Client.Count("4", pack: "each", more: new { overAllowed = true }));
        await PostPartly(wanjiru);
        await Ok(wanjiru, "/door/count", Client.Count("3", pack: "each", more: new { overAllowed = true }));
        await using var db = server.Db();
        var last = await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync();
        var lots = await db
            .Balances.Where(b => b.ItemId == last.ItemId && b.BinId == last.BinId && b.Standing == Standing.Usable && b.UnitId == null)
            .OrderBy(b => b.LotId)
            .ToListAsync();
        Assert.True(lots.Count >= 2);
        var line = (await wanjiru.Ask("/book/find?text=HH-16"))["stock"]
            .EnumerateArray()
            .Single(s => s.GetProperty("id").GetInt64() == lots[0].Id);
        // What is kept for somebody goes out before, and to them alone.
        var lotIds = lots.ConvertAll(b => b.LotId);
        var kept = await db
            .Statements.Where(s => lotIds.Contains(s.LotId) && s.ReservationId != null)
            .Select(s => (int?)s.LotId)
            .ToListAsync();
        lots = [.. lots.OrderByDescending(b => kept.Contains(b.LotId))];
        var all = lots.Sum(b => b.Quantity);
        Assert.Equal((lots.Count, all), (line.GetProperty("lots").GetInt32(), line.GetProperty("quantity").GetDecimal()));
        var before = server.LastEntry();
        await Ok(
            wanjiru,
            "/book/issue",
            new
            {
                balance = lots[0].Id,
                quantity = $"{all - 1}",
                to = "Customer",
                reference = "Ashwick Allotments",
            }
        );
        await using var after = server.Db();
        var entries = await after.Ledger.Where(e => e.Seq > before && e.Kind == EntryKind.Issued).OrderBy(e => e.Seq).ToListAsync();
        Assert.Equal(lots.Select(b => b.LotId), entries.Select(e => e.LotId));
        Assert.Equal(lots.SkipLast(1).Select(b => b.Quantity).Append(lots[^1].Quantity - 1), entries.Select(e => e.Quantity!.Value));
        await IsWhole();
    }

    [Fact]
    public async Task What_is_counted_after_a_receipt_is_another_lot_and_a_return_takes_only_the_lots_of_its_receipt()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var sets = Client.Count("2", "A-2618", "SP-DG", "each", new { overAllowed = true });
        await Ok(wanjiru, "/door/count", sets);
        await PostPartly(wanjiru);
        await Ok(wanjiru, "/door/count", Client.Count("5", "A-2618", "SP-DG", "each", new { overAllowed = true }));
        await using var db = server.Db();
        var item = await db.Items.SingleAsync(i => i.Code == "SP-DG");
        var arrival = await db.Arrivals.SingleAsync(a => a.Number == "A-2618");
        var lots = await db.Lots.Where(l => l.ItemId == item.Id && l.ArrivalId == arrival.Id).OrderBy(l => l.Id).ToListAsync();
        var (posted, later) = (lots[^2], lots[^1]);
        Assert.Null(later.ReceiptId);
        Assert.NotNull(posted.ReceiptId);
        var receipt = await db.Receipts.SingleAsync(r => r.Id == posted.ReceiptId);
        var stock = await db.Balances.FirstAsync(b => b.LotId == posted.Id);
        var tooMuch = await wanjiru.Act(
            "/door/receipts/return",
            new
            {
                receipt = receipt.Number,
                balance = stock.Id,
                quantity = $"{stock.Quantity + 1}",
                reason = "bent",
            }
        );
        Assert.False(tooMuch.IsOk);
        await Ok(
            wanjiru,
            "/door/receipts/return",
            new
            {
                receipt = receipt.Number,
                balance = stock.Id,
                quantity = "1",
                reason = "bent",
            }
        );
        await IsWhole();
    }

    [Fact]
    public async Task A_lot_that_was_decided_over_takes_no_more_counts_also_when_its_receipt_is_reversed()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        static object Bent(string packs) =>
            Client.Count(
                packs,
                pack: "each",
                more: new
                {
                    aside = "Damaged",
                    note = "bent in the box",
                    overAllowed = true,
                }
            );
        await Ok(wanjiru, "/door/count", Bent("2"));
        var hold = await LastHold();
        await PostPartly(wanjiru);
        await Ok(wanjiru, "/door/count", Bent("1"));
        await Ok(
            wanjiru,
            "/cage/decide",
            new
            {
                hold = hold.Number,
                decision = "ReleaseUnderConcession",
                askedBy = "Hollin Nurseries",
                forWhom = "C-20417",
                quantity = "2",
                note = "straightened",
            }
        );
        // What a reversal does to lots, without all else that it asks for.
        await using (var db = server.Db())
            await db
                .Lots.Where(l => db.Statements.Any(s => s.LotId == l.Id && s.HoldId == hold.Id))
                .ExecuteUpdateAsync(l => l.SetProperty(x => x.ReceiptId, (int?)null));
        await Ok(wanjiru, "/door/count", Bent("3"));
        await IsWhole();
        await using var after = server.Db();
        Assert.Equal(4, (await after.Holds.SingleAsync(h => h.Id == hold.Id)).Quantity);
    }

    async Task PostPartly(Client wanjiru, string arrival = "A-2618") =>
        await Ok(
            wanjiru,
            "/door/close",
            new
            {
                arrival,
                partly = true,
                decisions = Array.Empty<object>(),
                deliveryNotes = (await VendorsOf(arrival)).Select(v => new { vendorId = v, deliveryNote = $"N-{v}" }),
            }
        );

    async Task<List<int>> VendorsOf(string arrival)
    {
        await using var db = server.Db();
        return await db
            .TallyEntries.Where(e =>
                e.TakenBackAt == null && e.ReceiptId == null && db.Arrivals.Any(a => a.Id == e.ArrivalId && a.Number == arrival)
            )
            .Select(e => e.VendorId)
            .Distinct()
            .ToListAsync();
    }

    string onTheTruck = "";

    async Task<Answer> PutAway(Client driver, Balance row, string? quantity)
    {
        await using var db = server.Db();
        var batch = await db.Batches.SingleAsync(b => b.Id == row.BatchId);
        var taken = await driver.Act("/shelf/take", new { task = await server.TaskOf(row.Id), quantity });
        if (!taken.IsOk)
            return taken;
        var task = taken["task"].GetInt32();
        await driver.Act("/shelf/scan-goods", new { task, scan = batch.Number });
        onTheTruck = await Snapshot(row.BatchId);
        var down = await driver.Act("/shelf/put-down", new { task, bin = taken["bin"].GetString() });
        if (!down.IsOk)
            await driver.Act("/shelf/give-back", new { task });
        return down;
    }

    /// <summary>Counts, holds, verdicts, decisions, a customer's return, a recall, moves and issues in a random order, with what the book
    /// must say after each; and the recall accounts for every gram that came.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public async Task Whatever_is_done_in_whatever_order_nothing_appears_or_vanishes_and_nothing_is_usable_while_anything_is_said(int seed)
    {
        var random = new Random(seed);
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        using var yusuf = await server.SignIn("yusuf");
        var wet = await StandingsTests.Add(server, StandingsTests.Row("wet packaging", "Usable", "Triangle"));
        await StandingsTests.Add(server, StandingsTests.Row("bonded", "Held", "Shield"));
        decimal cameIn = 0,
            leftFor = 0;
        int? batch = null;
        string? recall = null;
        var isReturned = false;
        var done = new List<string>();
        var job = $"job {seed}";
        await using (var db = server.Db())
            await db.Database.ExecuteSqlAsync(
                $"""
                UPDATE LineParts SET WaitingFor = {job}, WaitingQuantity = Received + 75000000
                WHERE ItemId = (SELECT Id FROM Items WHERE Code = 'SD-MUS')
                AND Id IN (SELECT PartId FROM ManifestLines WHERE ArrivalId = (SELECT Id FROM Arrivals WHERE Number = 'A-2617'))
                """
            );
        for (var step = 0; step < 32; step++)
        {
            await using var db = server.Db();
            var rows = await db.Balances.Where(b => b.BatchId == batch && batch != null).ToListAsync();
            var holds = await db.Holds.Where(h => h.IsOpen && h.BatchId == batch && batch != null).ToListAsync();
            var act = random.Next(16);
            var was = await Snapshot(batch);
            var wasKept = await Kept(batch, job);
            var (wasIn, wasLeft) = (cameIn, leftFor);
            Answer answer;
            if (act <= 1 || rows.Count == 0)
            {
                var packs = random.Next(1, 4);
                var aside = random.Next(3) == 0 ? "Damaged" : null;
                answer = await wanjiru.Act(
                    "/door/count",
                    Sacks($"{packs}", $"ANY-{seed}", aside, aside is null ? null : $"torn {random.Next(2)}")
                );
                if (answer.IsOk)
                    cameIn += packs * 25;
                done.Add($"count {packs} {aside}");
                await using var look = server.Db();
                batch ??= (await look.Batches.OrderByDescending(b => b.Id).FirstAsync()).Id;
            }
            else if (act == 2)
            {
                var back = (await db.TallyEntries.Where(e => e.BatchId == batch && e.TakenBackAt == null).ToListAsync()).LastOrDefault();
                answer = await wanjiru.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2617",
                        count = back?.ActId,
                        reason = "twice",
                    }
                );
                if (answer.IsOk)
                    cameIn -= back!.Quantity;
                done.Add("take back");
            }
            else if (act <= 4)
            {
                var row = rows[random.Next(rows.Count)];
                var part = Math.Min(row.Quantity, random.Next(1, 60));
                answer = await wanjiru.Act(
                    "/cage/hold",
                    new
                    {
                        balance = row.Id,
                        quantity = $"{part}",
                        why = $"seen {step}",
                        @as = random.Next(3) switch
                        {
                            0 => "wet packaging",
                            1 => "bonded",
                            _ => null,
                        },
                    }
                );
                done.Add($"hold {part}");
            }
            else if (act == 5 && holds.Count > 0)
            {
                var hold = holds[random.Next(holds.Count)];
                answer = await wanjiru.Act("/cage/lift", new { hold = hold.Number });
                done.Add($"lift {hold.Number}");
            }
            else if (act == 6 && holds.Find(h => h.Decision is not null) is { } decided)
            {
                answer =
                    random.Next(3) == 0
                        ? await wanjiru.Act("/cage/undecide", new { hold = decided.Number, why = "another way" })
                        : await wanjiru.Act("/cage/carry-out", BenchHands.Seen(decided.Number));
                await using var now = server.Db();
                // What is undecided is held still.
                if (answer.IsOk && !(await now.Holds.SingleAsync(h => h.Id == decided.Id)).IsOpen)
                    leftFor += decided.Quantity;
                done.Add($"carry out or not {decided.Number}");
            }
            else if (act is 6 or 7 && holds.Find(h => h.MayBeDecided && h.Decision is null) is { } nonconforming)
            {
                var part = Math.Min(nonconforming.Quantity, random.Next(1, 40));
                var decision = decisions[random.Next(decisions.Length)];
                answer = await wanjiru.Act(
                    "/cage/decide",
                    new
                    {
                        hold = nonconforming.Number,
                        decision,
                        askedBy = "Hollin Nurseries",
                        forWhom = "C-20417",
                        until = random.Next(2) == 0 ? "2026-03-31" : null,
                        into = "SD-FEN",
                        quantity = $"{part}",
                        note = "seen",
                    }
                );
                done.Add($"decide {part} {decision}");
            }
            else if (act == 11)
            {
                answer = await wanjiru.Act(
                    "/cage/recalls/begin",
                    new
                    {
                        by = "SourceBatch",
                        numbers = $"ANY-{seed}",
                        why = "germination below its paper",
                    }
                );
                if (answer.IsOk)
                    recall = answer["number"].GetString();
                done.Add("recall");
            }
            else if (act == 12)
            {
                // They come with the tools, of the batch on their label.
                if (!isReturned)
                    await Ok(wanjiru, "/door/returns", SentBack);
                isReturned = true;
                answer = await wanjiru.Act("/door/count", Sacks("1", $"ANY-{seed}", arrival: "A-2618"));
                if (answer.IsOk)
                    cameIn += 25;
                done.Add($"back from a customer {answer.IsOk}");
            }
            else if (act is 13 or 14 && holds.Find(h => h is { Reason: Core.Cage.HoldReason.CustomerReturn, Decision: null }) is { } back)
            {
                var part = $"{Math.Min(back.Quantity, random.Next(1, 30))}";
                answer = back.Found is null
                    ? await sunita.Act(
                        "/cage/returns/finding",
                        new
                        {
                            hold = back.Number,
                            found = "NoFault",
                            quantity = part,
                            note = "dry",
                        }
                    )
                    : await wanjiru.Act(
                        "/cage/decide",
                        new
                        {
                            hold = back.Number,
                            decision = onReturns[random.Next(onReturns.Length)],
                            quantity = part,
                            note = "as found",
                        }
                    );
                done.Add($"{(back.Found is null ? "find" : "decide over")} {part} of {back.Number} {answer.IsOk}");
            }
            else if (act is 8 or 9)
            {
                var row = rows[random.Next(rows.Count)];
                answer = await PutAway(yusuf, row, random.Next(2) == 0 ? null : $"{Math.Min(row.Quantity, random.Next(1, 60))}");
                // Undone it is on the truck again, as it was before it was put down.
                if (answer.IsOk)
                    was = onTheTruck;
                done.Add($"put away {row.Standing} {answer.IsOk}");
            }
            else if (
                act == 10
                && await db.Inspections.FirstOrDefaultAsync(i =>
                    i.BatchId == batch && i.State == Core.Bench.InspectionState.Waiting && i.Quantity > 0
                )
                    is { } inspection
            )
            {
                await UndoingTests.Accept(sunita, inspection.Number);
                answer = new Answer(System.Net.HttpStatusCode.OK, default);
                done.Add("accept");
            }
            else if (act == 15)
            {
                answer = await wanjiru.Act("/book/keep-no-more", new { balance = rows[random.Next(rows.Count)].Id, reason = "called off" });
                done.Add("keep no more");
            }
            else
            {
                var row = rows[random.Next(rows.Count)];
                var reference = random.Next(2) == 0 ? "J-1" : job;
                // Who waits gets what is kept for them before all else, and nobody but them does.
                var takes = reference == job ? Math.Min(1, await Kept(batch, job, row)) : 0;
                answer = await wanjiru.Act(
                    "/book/issue",
                    new
                    {
                        balance = row.Id,
                        quantity = "1",
                        to = "Job",
                        reference,
                    }
                );
                done.Add($"issue for {reference}");
                if (answer.IsOk)
                {
                    leftFor += 1;
                    Assert.True(row.Standing == Standing.Usable || row.Standing.Id == wet);
                    Assert.True(await Kept(batch, job) == wasKept - takes, $"{string.Join(", ", done)}: {wasKept} was kept.");
                }
            }

            // What is counted aside is kept for nobody.
            Assert.True(await Kept(batch, job, aside: true) == 0, string.Join(", ", done));

            Assert.True((int)answer.Status < 500, $"{string.Join(", ", done)}: {answer.Body}");
            if (answer.IsOk && random.Next(3) == 0 && await LastUndoable() is { } entry)
            {
                var undone = await wanjiru.Act("/book/undo", new { entry, reason = "was a mistake" });
                done.Add("undo");
                Assert.True(undone.IsOk, $"{string.Join(", ", done)}: {undone.Body}");
                // As if it had not been: the same goods in the same places, under the same words.
                Assert.True(was == await Snapshot(batch), $"{string.Join(", ", done)}:\n{was}\n{await Snapshot(batch)}");
                (cameIn, leftFor) = (wasIn, wasLeft);
            }

            await using var after = server.Db();
            var there = (await after.Balances.Where(b => b.BatchId == batch).ToListAsync()).Sum(b => b.Quantity);
            Assert.True(there == cameIn - leftFor, $"{string.Join(", ", done)}: {there} are there, {cameIn} came, {leftFor} left.");
            // A fault stays: it is found by the next look at the whole book.
            var faults = step % 4 == 3 ? (await server.Check()).Faults : [];
            Assert.True(faults.Count == 0, $"{string.Join(", ", done)}: {string.Join(" ", faults)}");
            if (recall is null)
                continue;
            var finding = (await wanjiru.Ask("/cage/recalls/" + recall))["finding"];
            Assert.True(finding.GetProperty("came").GetDecimal() == cameIn, $"{string.Join(", ", done)}: {finding}; {cameIn} came.");
        }
    }

    static readonly string[] onReturns = ["UsableAgain", "Scrap", "Repair", "ReturnToVendor", "BackToCustomer"];

    static readonly object SentBack = new
    {
        arrival = "A-2618",
        customer = "HOLN",
        item = "SD-MUS",
        quantity = "500",
        reason = "ordered by mistake",
        promised = "Credit",
    };

    static readonly string[] decisions = ["Scrap", "ReleaseUnderConcession", "Regrade", "ReturnToVendor"];

    /// <summary>The last entry, where its act is one that is undone from the book.</summary>
    async Task<long?> LastUndoable()
    {
        await using var db = server.Db();
        var last = await db.Ledger.OrderByDescending(e => e.Seq).FirstAsync();
        var ofAct = await db.Ledger.Where(e => e.ActId == last.ActId && e.Seq > last.Seq - 50).ToListAsync();
        return ofAct.Exists(e => e.Kind == EntryKind.HoldLaid) ? null : ofAct.Find(e => Undo.RightFor(e.Kind) is not null)?.Seq;
    }

    /// <summary>How much of a batch is kept for somebody.</summary>
    /// <param name="at">Only of what reads alike with this; null for all of it.</param>
    /// <param name="aside">Only of what was counted aside.</param>
    async Task<decimal> Kept(int? batch, string who, Balance? at = null, bool aside = false)
    {
        await using var db = server.Db();
        return (
            await db
                .Balances.Where(b => b.BatchId == batch && batch != null)
                .Where(b =>
                    db.Statements.Any(s =>
                        s.LotId == b.LotId && s.SettledAt == null && db.Reservations.Any(r => r.Id == s.ReservationId && r.For == who)
                    )
                )
                .Where(b =>
                    !aside
                    || db.Statements.Any(s =>
                        s.LotId == b.LotId && db.Holds.Any(h => h.Id == s.HoldId && h.Reason == Core.Cage.HoldReason.CountedAside)
                    )
                )
                .ToListAsync()
        )
            .Where(b => at is null || (b.Place == at.Place && b.Goods.OfAnyLot == at.Goods.OfAnyLot))
            .Sum(b => b.Quantity);
    }

    /// <summary>What stands where of a batch, and what is said of it.</summary>
    async Task<string> Snapshot(int? batch)
    {
        await using var db = server.Db();
        var rows = (await db.Balances.Where(b => b.BatchId == batch && batch != null).ToListAsync())
            .Select(b => $"lot {b.LotId} in {b.BinId} as {b.Standing.Id}: {b.Quantity}")
            .ToList();
        var said = (
            await db
                .Statements.Where(s => s.SettledAt == null && db.Balances.Any(b => b.LotId == s.LotId && b.BatchId == batch))
                .ToListAsync()
        ).Select(s => $"of lot {s.LotId} {s.HoldId} {s.InspectionId} {s.ReservationId} {s.Asks.Id}");
        var holds = (await db.Holds.Where(h => h.BatchId == batch && batch != null && h.IsOpen).ToListAsync()).Select(h =>
            $"{h.Number} {h.Quantity}"
        );
        return string.Join("\n", rows.Concat(said).Concat(holds).Order(StringComparer.Ordinal));
    }
}
