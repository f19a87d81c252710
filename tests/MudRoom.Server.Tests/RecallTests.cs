using System.Globalization;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Cage;

namespace MudRoom.Server.Tests;

/// <summary>Recalls over HTTP: everything of it is held wherever it is and as it comes, all sums meet, and it ends when nothing is
/// left.</summary>
public sealed class RecallTests(DemoServer server) : IClassFixture<DemoServer>
{
    static async Task<Answer> Ok(Client client, string path, object what)
    {
        var answer = await client.Act(path, what);
        Assert.True(answer.IsOk, $"{path} {JsonSerializer.Serialize(what)}: {answer.Body}");
        return answer;
    }

    static Task<Answer> Begin(
        Client client,
        string numbers,
        string by = "SourceBatch",
        string? item = null,
        string? vendor = null,
        bool isDrill = false,
        bool mayCome = false,
        object[]? wants = null
    ) =>
        client.Act(
            "/cage/recalls/begin",
            new
            {
                by,
                item,
                vendor,
                numbers,
                why = "germination below its paper",
                isDrill,
                mayCome,
                wants,
            }
        );

    static async Task<string> Begun(Task<Answer> begin)
    {
        var answer = await begin;
        Assert.True(answer.IsOk, answer.Body.ToString());
        return answer["number"].GetString()!;
    }

    /// <summary>A source batch with usable stock in bins, that nobody else here recalls.</summary>
    async Task<(SourceBatch Source, List<Balance> Stock)> OfStore(int skip, int places = 1)
    {
        await using var db = server.Db();
        var rows = await db
            .Balances.Where(b => b.Standing == Standing.Usable && b.SiteId == 1 && b.UnitId == null && b.Serial == null && b.Quantity > 1)
            .Join(
                db.Bins.Where(b => b.Function == BinFunction.Pick || b.Function == BinFunction.Reserve),
                b => b.BinId,
                x => x.Id,
                (b, x) => b
            )
            .Join(db.Batches.Where(b => b.SourceBatchId != null), b => b.BatchId, b => b.Id, (b, batch) => new { b, batch.SourceBatch })
            .ToListAsync();
        return rows.GroupBy(r => r.SourceBatch!.Id)
            .OrderBy(g => g.Key)
            .Where(g => g.Count() >= places)
            .Select(g => (g.First().SourceBatch!, g.Select(r => r.b).OrderBy(b => b.Id).ToList()))
            .ElementAt(skip);
    }

    async Task<List<Balance>> Of(SourceBatch source)
    {
        await using var db = server.Db();
        return await db
            .Balances.Where(b => b.Quantity > 0 && db.Batches.Any(x => x.Id == b.BatchId && x.SourceBatchId == source.Id))
            .ToListAsync();
    }

    static decimal Sum(Answer page, string of) => page["finding"].GetProperty(of).GetDecimal();

    /// <summary>It was sold, it is recalled, and some comes back: bound to its return, held by the recall, and no longer gone.</summary>
    [Fact]
    public async Task What_a_customer_sends_back_of_a_recalled_batch_is_held_as_it_comes_and_is_no_longer_gone()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var (source, stock) = await Loose(db);
        var item = await db.Items.SingleAsync(i => i.Id == source.ItemId);
        var vendor = (await db.Vendors.SingleAsync(v => v.Id == source.VendorId)).Code;
        var before = (await Of(source)).Sum(b => b.Quantity);
        await Ok(
            wanjiru,
            "/book/issue",
            new
            {
                balance = stock.Id,
                quantity = "2",
                to = "Customer",
                reference = "SO-9111",
            }
        );
        var recall = await Begun(Begin(wanjiru, source.Number, item: item.Code, vendor: vendor));
        Assert.Equal((before, 2m), await Came(recall));
        await Ok(
            wanjiru,
            "/door/returns",
            new
            {
                arrival = "A-2618",
                customer = "HOLN",
                item = item.Code,
                quantity = "1",
                reason = "recalled",
                promised = "Credit",
            }
        );
        var counted = await Ok(
            wanjiru,
            "/door/count",
            Client.Count(
                "1",
                "A-2618",
                item.Code,
                "each",
                new
                {
                    sourceBatch = source.Number,
                    production = source.Production?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    bestBefore = source.BestBefore?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    expiry = source.Expiry?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    origin = source.Origin,
                }
            )
        );
        Assert.Contains(recall, counted.Body.ToString(), StringComparison.Ordinal);
        Assert.Equal(1, await db.SourceBatches.CountAsync(b => b.Number == source.Number && b.ItemId == item.Id));
        Assert.Equal((before, 1m), await Came(recall));
        Assert.Equal(before - 1, (await Of(source)).Where(b => b.Standing == Standing.Recalled).Sum(b => b.Quantity));
        Assert.Empty((await server.Check()).Faults);

        async Task<(decimal Came, decimal Gone)> Came(string of)
        {
            var page = await wanjiru.Ask("/cage/recalls/" + of);
            return (Sum(page, "came"), Sum(page, "gone"));
        }
    }

    /// <summary>Stock of a source batch that is counted piece by piece and has no lots elsewhere that were issued.</summary>
    static async Task<(SourceBatch Source, Balance Stock)> Loose(MudRoomDb db)
    {
        var rows = await db
            .Balances.Where(b => b.Standing == Standing.Usable && b.SiteId == 1 && b.UnitId == null && b.Serial == null && b.Quantity > 4)
            .Join(db.Batches.Where(b => b.SourceBatchId != null), b => b.BatchId, b => b.Id, (b, batch) => new { b, batch.SourceBatch })
            .Join(db.Items.Where(i => i.BaseUnit == "H87"), x => x.b.ItemId, i => i.Id, (x, i) => x)
            .Where(x => !db.Ledger.Any(e => e.BatchId == x.b.BatchId && e.Kind == EntryKind.Issued))
            .Where(x => db.Balances.Count(o => o.BatchId == x.b.BatchId) == 1)
            .OrderByDescending(x => x.b.Id)
            .FirstAsync();
        return (rows.SourceBatch!, rows.b);
    }

    [Fact]
    public async Task Everything_of_a_source_batch_is_held_wherever_it_is_and_what_has_gone_is_named_with_its_papers()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var (source, stock) = await OfStore(0);
        await Ok(
            wanjiru,
            "/book/issue",
            new
            {
                balance = stock[0].Id,
                quantity = "1",
                to = "Customer",
                reference = "SO-9001",
            }
        );
        var issued = server.LastEntry();
        var before = (await Of(source)).Sum(b => b.Quantity);
        using var leila = await server.SignIn("leila");
        Assert.Equal("right-missing", (await Begin(leila, source.Number)).Code);

        var begun = await Begin(wanjiru, source.Number.ToLowerInvariant());
        Assert.True(begun.IsOk, begun.Body.ToString());
        var number = begun["number"].GetString()!;
        Assert.Equal("recall-there", (await Begin(wanjiru, source.Number)).Code);
        var held = await Of(source);
        Assert.Equal(before, held.Sum(b => b.Quantity));
        Assert.All(held, b => Assert.Contains(b.Standing, new[] { Standing.Recalled, Standing.Rejected }));
        Assert.Equal(
            "not-usable",
            (
                await wanjiru.Act(
                    "/book/issue",
                    new
                    {
                        balance = held[0].Id,
                        quantity = "1",
                        to = "Job",
                        reference = "J-1",
                    }
                )
            ).Code
        );

        var page = await wanjiru.Ask("/cage/recalls/" + number);
        Assert.Equal(before, Sum(page, "here"));
        Assert.Equal(0, Sum(page, "missing"));
        Assert.Equal(0, page["notHeld"].GetDecimal());
        var gone = page["gone"].EnumerateArray().Single(g => g.GetProperty("reference").GetString() == "SO-9001");
        Assert.Equal(
            ("customer", 1m, true),
            (gone.GetProperty("to").GetString(), gone.GetProperty("quantity").GetDecimal(), gone.GetProperty("mayBeTold").GetBoolean())
        );
        Assert.Contains(source.Number.ToLowerInvariant(), gone.GetProperty("draft").GetString(), StringComparison.Ordinal);
        // What stands in bins is fetched: somebody is asked to bring it to the cage.
        await using (var db = server.Db())
        {
            var inBins = held.Where(b => b.Standing == Standing.Recalled && stock.Any(s => s.BinId == b.BinId)).ToList();
            Assert.NotEmpty(inBins);
            foreach (var row in inBins)
                Assert.Equal(
                    TaskKind.ToCage,
                    (await db.Tasks.SingleAsync(t => t.Key == StoreTask.KeyOf(row.Goods, row.Place) && t.State == TaskState.Waiting)).Kind
                );
        }

        // What comes back is held as it comes: the issue is undone.
        await Ok(wanjiru, "/book/undo", new { entry = issued, reason = "the customer sent it back" });
        var back = await Of(source);
        Assert.Equal(before + 1, back.Sum(b => b.Quantity));
        Assert.DoesNotContain(back, b => b.Standing == Standing.Usable);
        page = await wanjiru.Ask("/cage/recalls/" + number);
        Assert.Equal((before + 1, 0m), (Sum(page, "here"), page["notHeld"].GetDecimal()));
        Assert.DoesNotContain(page["gone"].EnumerateArray(), g => g.GetProperty("reference").GetString() == "SO-9001");
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Who has none of it left, and who is no customer and no job, is not told.</summary>
    [Fact]
    public async Task Only_who_still_has_some_of_it_is_told()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var (source, stock) = await OfStore(6);
        await Ok(
            wanjiru,
            "/book/issue",
            new
            {
                balance = stock[0].Id,
                quantity = "1",
                to = "Customer",
                reference = "SO-9006",
            }
        );
        var issued = server.LastEntry();
        var recall = await Begun(Begin(wanjiru, source.Number, isDrill: true));
        Task<Answer> Tell() =>
            wanjiru.Act(
                "/cage/recalls/told",
                new
                {
                    recall,
                    reference = "SO-9006",
                    how = "called",
                }
            );
        Assert.True((await Tell()).IsOk);
        await Ok(wanjiru, "/book/undo", new { entry = issued, reason = "never left" });
        Assert.Equal("not-found", (await Tell()).Code);
    }

    /// <summary>Of what a recall holds a part may be used under a concession: that part it has let go. What was scrapped is gone, and
    /// nobody is to be told.</summary>
    [Fact]
    public async Task What_is_released_under_a_concession_it_has_let_go_and_what_is_scrapped_is_gone_to_nobody()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var (source, _) = await OfStore(7);
        var recall = await Begun(Begin(wanjiru, source.Number));
        var before = await wanjiru.Ask("/cage/recalls/" + recall);
        var hold = before["holds"][0].GetProperty("number").GetString();
        Task<Answer> Decide(string decision) =>
            Ok(
                wanjiru,
                "/cage/decide",
                new
                {
                    hold,
                    decision,
                    quantity = "1",
                    note = "looked at one by one",
                    askedBy = "Hollin Nurseries",
                    forWhom = "C-20417",
                    until = decision == "Scrap" ? null : "2026-03-31",
                }
            );
        await Decide("ReleaseUnderConcession");
        var page = await wanjiru.Ask("/cage/recalls/" + recall);
        Assert.Equal((1m, Sum(before, "here") - 1), (Sum(page, "released"), Sum(page, "here")));
        await Decide("Scrap");
        await using var db = server.Db();
        var scrap = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        await Ok(wanjiru, "/cage/carry-out", BenchHands.Seen(scrap.Number));
        var gone = (await wanjiru.Ask("/cage/recalls/" + recall))["gone"]
            .EnumerateArray()
            .Single(g => g.GetProperty("to").GetString() == "scrap");
        Assert.Equal((1m, false), (gone.GetProperty("quantity").GetDecimal(), gone.GetProperty("mayBeTold").GetBoolean()));
        var told = await wanjiru.Act(
            "/cage/recalls/told",
            new
            {
                recall,
                reference = gone.GetProperty("reference").GetString(),
                how = "called",
            }
        );
        Assert.Equal("not-found", told.Code);
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Suspects are those of all goods here of which it was never recorded what would tell, and no others.</summary>
    [Theory]
    [InlineData(RecallBy.SourceBatch)]
    [InlineData(RecallBy.Batch)]
    public async Task Suspects_are_found_as_by_looking_at_all_goods(RecallBy by)
    {
        await using var db = server.Db();
        var scope = new RecallScope(by, null, null, ["NO-SUCH-NUMBER"]);
        var items = await db.Items.Select(i => i.Id).ToListAsync();
        var found = await RecallReads.Suspects(db, scope, items, [], int.MaxValue);
        var there = await db.Balances.Where(b => b.Quantity > 0).Select(b => b.LotId!.Value).Distinct().ToListAsync();
        var all = await RecalledLots.WithBatches(db, await LotReads.ByIds(db, there));
        var expected = all.Where(l => scope.Suspects(l.Goods())).Select(l => l.Lot.Id).Order().ToList();
        Assert.InRange(expected.Count, 1, all.Count - 1);
        Assert.Equal(expected, found.Select(f => f.Lot.Lot.Id).Order());
    }

    /// <summary>What is asked at the start, so that the first recall is no slower than the next, is what a recall asks; it leaves nothing
    /// behind.</summary>
    [Fact]
    public async Task The_questions_of_a_recall_are_asked_once_at_the_start_and_write_nothing()
    {
        var before = server.LastEntry();
        await using var db = server.Db();
        var setUp = await server.App.Services.GetRequiredService<SetUpStore>().For(db);
        var found = await RecallsAtHand.Ask(db, setUp, DateTimeOffset.UtcNow);
        var newest = await db.Batches.OrderByDescending(b => b.Id).FirstAsync();
        Assert.NotNull(found);
        Assert.All(found.Stock, s => Assert.Equal(newest.Id, s.Row.BatchId));
        Assert.False(db.ChangeTracker.HasChanges());
        Assert.Equal(before, server.LastEntry());
        Assert.NotEmpty(found.Stock);
    }

    /// <summary>All of a lot had gone before the recall began, and nothing was said of it: what comes back is held as it comes.</summary>
    [Fact]
    public async Task What_had_gone_before_it_began_is_held_when_it_comes_back()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var (source, stock) = await OfStore(5);
        var all = await Of(source);
        var row = stock.First(r => all.Count(b => b.LotId == r.LotId) == 1);
        var quantity = row.Quantity.ToString("0.######", CultureInfo.InvariantCulture);
        await Ok(
            wanjiru,
            "/book/issue",
            new
            {
                balance = row.Id,
                quantity,
                to = "Customer",
                reference = "SO-9002",
            }
        );
        var issued = server.LastEntry();
        var number = await Begun(Begin(wanjiru, source.Number));
        Assert.DoesNotContain(await Of(source), b => b.LotId == row.LotId);
        await Ok(wanjiru, "/book/undo", new { entry = issued, reason = "the customer sent it back" });
        Assert.Equal(Standing.Recalled, (await Of(source)).Single(b => b.LotId == row.LotId).Standing);
        Assert.Equal(0, (await wanjiru.Ask("/cage/recalls/" + number))["notHeld"].GetDecimal());
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Nobody here knows it yet; when it comes it is held as it is counted, half counted or taken back.</summary>
    [Fact]
    public async Task What_is_not_here_yet_is_held_as_it_is_counted()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var entries = server.LastEntry();
        var unknown = await Begin(wanjiru, "COMES-1", item: "SD-MUS");
        Assert.Equal(("recall-empty", "Nobody here knows White mustard seed, source batch COMES-1."), (unknown.Code, unknown.Sentence));
        Assert.Equal(entries, server.LastEntry());
        var number = await Begun(Begin(wanjiru, "COMES-1", item: "SD-MUS", mayCome: true));
        var counted = await Ok(wanjiru, "/door/count", LotTests.Sacks("4", "COMES-1"));
        Assert.Equal("recalled", counted["standing"].GetString());
        Assert.Contains(number, counted["warning"].GetString(), StringComparison.Ordinal);
        var second = Guid.NewGuid();
        Assert.True((await wanjiru.Act("/door/count", LotTests.Sacks("2", "COMES-1"), second)).IsOk);
        // Torn ones are held as torn, and recalled besides.
        await Ok(wanjiru, "/door/count", LotTests.Sacks("1", "COMES-1", "Damaged", "torn"));
        // Another source batch of the same goods is not.
        Assert.Equal("to inspect", (await Ok(wanjiru, "/door/count", LotTests.Sacks("1", "OTHER-1")))["standing"].GetString());
        await using (var db = server.Db())
        {
            var recall = await db.Recalls.SingleAsync(r => r.Number == number);
            var hold = await db.Holds.SingleAsync(h => h.RecallId == recall.Id);
            Assert.Equal((175m, HoldReason.Recall, true), (hold.Quantity, hold.Reason, hold.IsOpen));
            Assert.Equal(2, await db.Lots.CountAsync(l => l.BatchId == hold.BatchId));
        }

        var last = server.LastEntry();
        await Ok(wanjiru, "/door/take-back", new { arrival = "A-2617", count = second });
        var page = await wanjiru.Ask("/cage/recalls/" + number);
        Assert.Equal((125m, 0m), (Sum(page, "elsewhere"), Sum(page, "gone")));
        Assert.Equal("Door", page["places"][0].GetProperty("room").GetString());
        Assert.True(server.LastEntry() > last);
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>A recall that begins while the goods are counted: what is counted already and what is counted then are under one
    /// hold.</summary>
    [Fact]
    public async Task Goods_half_counted_are_held_and_so_is_the_other_half()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Ok(wanjiru, "/door/count", LotTests.Sacks("2", "HALF-1"));
        var number = await Begun(Begin(wanjiru, "HALF-1"));
        await Ok(wanjiru, "/door/count", LotTests.Sacks("3", "HALF-1"));
        await using var db = server.Db();
        var recall = await db.Recalls.SingleAsync(r => r.Number == number);
        Assert.Equal(125, (await db.Holds.SingleAsync(h => h.RecallId == recall.Id)).Quantity);
        var page = await wanjiru.Ask("/cage/recalls/" + number);
        Assert.Equal((125m, 125m), (Sum(page, "elsewhere"), page["rooms"][0].GetProperty("quantity").GetDecimal()));
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Of a pallet with two batches on it, the one that is recalled is held and fetched; the other stays what it was.</summary>
    [Fact]
    public async Task Of_a_mixed_unit_only_what_is_recalled_is_held()
    {
        using var leila = await server.SignIn("leila");
        using var wanjiru = await server.SignIn("wanjiru");
        using var petra = await server.SignIn("petra");
        static object Bricks(string packs, string pack, object more) => Client.Count(packs, "A-2617", "CB-05", pack, more);
        var unit = (await Ok(leila, "/door/count", Bricks("1", "pallet", new { sourceBatch = "MIX-GOOD" })))["units"][0].GetString();
        await Ok(leila, "/door/count", Bricks("3", "carton", new { sourceBatch = "MIX-BAD", onto = unit }));
        await using var db = server.Db();
        var (good, bad) = (
            await db.SourceBatches.SingleAsync(s => s.Number == "MIX-GOOD"),
            await db.SourceBatches.SingleAsync(s => s.Number == "MIX-BAD")
        );
        var was = Assert.Single(await Of(good));
        var number = await Begun(Begin(wanjiru, "MIX-BAD"));
        var held = Assert.Single(await Of(bad));
        Assert.Equal((Standing.Recalled, 12m, was.UnitId), (held.Standing, held.Quantity, held.UnitId));
        var stays = Assert.Single(await Of(good));
        Assert.Equal((was.Id, was.Standing, was.Quantity), (stays.Id, stays.Standing, stays.Quantity));
        Assert.Equal(12, Sum(await wanjiru.Ask("/cage/recalls/" + number), "elsewhere"));
        // The task brings the recalled cartons to the cage and leaves the pallet where it is.
        var taken = await Ok(petra, "/shelf/take", new { task = await server.TaskOf(held.Id) });
        Assert.StartsWith("CAGE", taken["bin"].GetString(), StringComparison.Ordinal);
        var task = taken["task"].GetInt32();
        await Ok(petra, "/shelf/scan-goods", new { task, scan = unit });
        await Ok(petra, "/shelf/put-down", new { task, bin = taken["bin"].GetString() });
        Assert.Equal(12, Sum(await wanjiru.Ask("/cage/recalls/" + number), "cage"));
        Assert.Equal((was.BinId, was.Quantity), ((await Of(good)).Single().BinId, (await Of(good)).Sum(b => b.Quantity)));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_driver_who_has_it_on_the_truck_is_told_to_stop_and_brings_it_to_the_cage()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var petra = await server.SignIn("petra");
        await Ok(wanjiru, "/door/count", LotTests.Sacks("2", "TRUCK-1"));
        await using var db = server.Db();
        var source = await db.SourceBatches.SingleAsync(s => s.Number == "TRUCK-1");
        var taken = await Ok(petra, "/shelf/take", new { task = await server.TaskOf((await Of(source)).Single().Id) });
        var task = taken["task"].GetInt32();
        await Ok(petra, "/shelf/scan-goods", new { task, scan = "TRUCK-1" });
        var number = await Begun(Begin(wanjiru, "TRUCK-1"));
        Assert.Equal("task-stopped", (await petra.Act("/shelf/put-down", new { task, bin = taken["bin"].GetString() })).Code);
        var page = await wanjiru.Ask("/cage/recalls/" + number);
        Assert.Equal("Truck", page["rooms"][0].GetProperty("room").GetString());
        var anew = await Ok(petra, "/shelf/take", new { task = await server.TaskOf((await Of(source)).Single().Id) });
        Assert.StartsWith("CAGE", anew["bin"].GetString(), StringComparison.Ordinal);
        await Ok(petra, "/shelf/scan-goods", new { task = anew["task"].GetInt32(), scan = "TRUCK-1" });
        await Ok(petra, "/shelf/put-down", new { task = anew["task"].GetInt32(), bin = anew["bin"].GetString() });
        Assert.Equal(50, Sum(await wanjiru.Ask("/cage/recalls/" + number), "cage"));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task What_is_missed_is_looked_for_place_by_place_and_the_book_has_it_where_it_was_found()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var callum = await server.SignIn("callum");
        using var leila = await server.SignIn("leila");
        var (source, stock) = await OfStore(1);
        var number = await Begun(Begin(wanjiru, source.Number));
        var row = (await Of(source)).First(b => b.BinId == stock[0].BinId);
        Assert.Equal("not-found", (await callum.Act("/cage/recalls/not-there", new { recall = "RC-9999", balance = row.Id })).Code);
        Assert.Equal(
            "more-than-there",
            (
                await callum.Act(
                    "/cage/recalls/not-there",
                    new
                    {
                        recall = number,
                        balance = row.Id,
                        quantity = "999999",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "quantity-not-positive",
            (
                await callum.Act(
                    "/cage/recalls/not-there",
                    new
                    {
                        recall = number,
                        balance = row.Id,
                        quantity = "0",
                    }
                )
            ).Code
        );
        var foreign = (await OfStore(3)).Stock[0];
        Assert.Equal("not-missing", (await callum.Act("/cage/recalls/not-there", new { recall = number, balance = foreign.Id })).Code);
        await Ok(callum, "/cage/recalls/not-there", new { recall = number, balance = row.Id });
        var page = await wanjiru.Ask("/cage/recalls/" + number);
        var missing = Assert.Single(page["missing"].EnumerateArray().ToList());
        Assert.Equal(row.Quantity, Sum(page, "missing"));
        Assert.EndsWith("not found.", page["sentence"].GetString(), StringComparison.Ordinal);
        var search = missing.GetProperty("search").EnumerateArray().ToList();
        Assert.Equal("it should be here", search[0].GetProperty("why").GetString());
        Assert.StartsWith("Callum", search[0].GetProperty("looked").GetString(), StringComparison.Ordinal);

        // By scanning: a place, goods of it, goods of something else.
        var elsewhere = search[1].GetProperty("address").GetString()!;
        Assert.Equal(elsewhere, (await callum.Ask($"/cage/recalls/{number}/scan?text={elsewhere}"))["bin"].GetString());
        Assert.Equal(1, (await callum.Ask($"/cage/recalls/{number}/scan?text={source.Number}"))["missing"].GetInt32());
        Assert.Equal($"That is not of {number}.", (await callum.Ask($"/cage/recalls/{number}/scan?text=HH-16"))["sentence"].GetString());
        await Ok(
            callum,
            "/cage/recalls/not-in",
            new
            {
                recall = number,
                missing = 1,
                bin = elsewhere,
            }
        );
        Assert.Equal(
            "not-found",
            (
                await callum.Act(
                    "/cage/recalls/not-in",
                    new
                    {
                        recall = number,
                        missing = 1,
                        bin = "NOWHERE",
                    }
                )
            ).Code
        );
        Assert.Equal("recall-open", (await wanjiru.Act("/cage/recalls/end", new { recall = number, note = "done" })).Code);

        var there = search.Count > 2 ? search[2].GetProperty("address").GetString()! : elsewhere;
        Assert.Equal(
            "right-missing",
            (
                await leila.Act(
                    "/cage/recalls/found",
                    new
                    {
                        recall = number,
                        missing = 1,
                        bin = there,
                    }
                )
            ).Code
        );
        var found = await Ok(
            callum,
            "/cage/recalls/found",
            new
            {
                recall = number,
                missing = 1,
                bin = there,
            }
        );
        Assert.Contains($"found in {there}", found["sentence"].GetString(), StringComparison.Ordinal);
        Assert.Equal(
            "not-missing",
            (
                await callum.Act(
                    "/cage/recalls/found",
                    new
                    {
                        recall = number,
                        missing = 1,
                        bin = there,
                    }
                )
            ).Code
        );
        page = await wanjiru.Ask("/cage/recalls/" + number);
        Assert.Equal(0, Sum(page, "missing"));
        Assert.Contains(page["places"].EnumerateArray(), p => p.GetProperty("address").GetString() == there);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_recall_ends_when_its_holds_are_lifted_by_two_people_and_what_comes_then_is_not_held()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var (source, _) = await OfStore(2);
        object[] wants =
        [
            new
            {
                kind = "Signature",
                what = "",
                of = "SignVerdict",
            },
        ];
        var number = await Begun(Begin(wanjiru, source.Number, wants: wants));
        Assert.Equal("recall-open", (await wanjiru.Act("/cage/recalls/end", new { recall = number, note = "done" })).Code);
        var holds = (await wanjiru.Ask("/cage/recalls/" + number))["holds"]
            .EnumerateArray()
            .Select(h => h.GetProperty("number").GetString()!)
            .ToList();
        Assert.NotEmpty(holds);
        foreach (var hold in holds)
        {
            Assert.Equal("conditions-open", (await wanjiru.Act("/cage/lift", new { hold })).Code);
            using var sunita = await server.SignIn("sunita");
            await Ok(
                sunita,
                "/cage/meet",
                new
                {
                    hold,
                    condition = 1,
                    signer = "sunita",
                    password = "sunita-mud-06",
                }
            );
            await Ok(wanjiru, "/cage/lift", new { hold, note = "the letter was withdrawn" });
        }

        var page = await wanjiru.Ask("/cage/recalls/" + number);
        Assert.Equal((0m, 0m), (Sum(page, "here"), page["notHeld"].GetDecimal()));
        Assert.True(Sum(page, "released") > 0);
        // What it has let go stays free of it.
        await Ok(wanjiru, "/cage/recalls/hold-here", new { recall = number });
        Assert.DoesNotContain(await Of(source), b => b.Standing == Standing.Recalled);
        Assert.Equal("note-missing", (await wanjiru.Act("/cage/recalls/end", new { recall = number, note = " " })).Code);
        using var leila = await server.SignIn("leila");
        Assert.Equal("right-missing", (await leila.Act("/cage/recalls/end", new { recall = number, note = "done" })).Code);
        await Ok(wanjiru, "/cage/recalls/end", new { recall = number, note = "the letter was withdrawn" });
        Assert.Equal("recall-ended", (await wanjiru.Act("/cage/recalls/end", new { recall = number, note = "again" })).Code);
        Assert.Equal("recall-ended", (await wanjiru.Act("/cage/recalls/hold-here", new { recall = number })).Code);
        Assert.Equal(
            "the letter was withdrawn",
            (await wanjiru.Ask("/cage/recalls"))["ended"]
                .EnumerateArray()
                .Single(r => r.GetProperty("number").GetString() == number)
                .GetProperty("finding")
                .GetString()
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_drill_does_all_but_the_holding_and_says_how_much_was_seen()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var callum = await server.SignIn("callum");
        var (source, _) = await OfStore(4);
        var before = await Of(source);
        var number = await Begun(Begin(wanjiru, source.Number, isDrill: true));
        Assert.Equal(before.Select(b => (b.Id, b.Standing)), (await Of(source)).Select(b => (b.Id, b.Standing)));
        Assert.Equal("recall-ended", (await wanjiru.Act("/cage/recalls/hold-here", new { recall = number })).Code);
        await Ok(callum, "/cage/recalls/seen", new { recall = number, balance = before[0].Id });
        await Ok(callum, "/cage/recalls/seen", new { recall = number, balance = before[0].Id });
        var page = await wanjiru.Ask("/cage/recalls/" + number);
        Assert.Equal(before[0].Quantity, Sum(page, "seen"));
        Assert.Empty(page["holds"].EnumerateArray());
        await Ok(wanjiru, "/cage/recalls/end", new { recall = number, note = "the rest was under the canes" });
        var ended = (await wanjiru.Ask("/cage/recalls/" + number))["ending"].GetString()!;
        Assert.StartsWith(
            $"Drill: {Quantities.Show(before[0].Quantity)} of {Quantities.Show(before.Sum(b => b.Quantity))} seen in",
            ended,
            StringComparison.Ordinal
        );
    }

    /// <summary>A lot of many pieces: those that are named are parted from the rest.</summary>
    [Fact]
    public async Task By_serial_numbers_only_the_pieces_named_are_held()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        List<Balance> pieces;
        string code;
        await using (var db = server.Db())
        {
            var lot = (await db.Balances.Where(b => b.Serial != null && b.SiteId == 1).ToListAsync())
                .GroupBy(b => b.LotId)
                .First(g => g.Count() >= 3);
            pieces = [.. lot.OrderBy(b => b.Serial, StringComparer.Ordinal)];
            code = (await db.Items.SingleAsync(i => i.Id == pieces[0].ItemId)).Code;
        }

        var named = pieces.Take(2).Select(p => p.Serial!).ToList();
        Assert.Equal("recall-absurd", (await Begin(wanjiru, named[0], "Serial")).Code);
        var begun = await Begin(wanjiru, string.Join(", ", named), "Serial", item: code);
        Assert.True(begun.IsOk, begun.Body.ToString());
        await using var after = server.Db();
        var serials = pieces.ConvertAll(p => p.Serial);
        var now = await after.Balances.Where(b => serials.Contains(b.Serial) && b.ItemId == pieces[0].ItemId).ToListAsync();
        Assert.Equal(named.Order(), now.Where(b => b.Standing == Standing.Recalled).Select(b => b.Serial!).Order());
        Assert.Equal(pieces.Count - 2, now.Count(b => b.Standing == pieces[0].Standing));
        var page = await wanjiru.Ask("/cage/recalls/" + begun["number"].GetString());
        Assert.Equal(2, Sum(page, "here"));
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Who looks through every entry of the book finds the same: here by place, and gone by papers.</summary>
    [Fact]
    public async Task It_finds_exactly_what_a_full_scan_of_the_ledger_finds()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var sources = await db.SourceBatches.OrderBy(s => s.Id).ToListAsync();
        var batches = await db.Batches.ToListAsync();
        var entries = await db.Ledger.OrderBy(e => e.Seq).AsNoTracking().ToListAsync();
        var names = await db.Bins.ToDictionaryAsync(b => b.Id, b => b.Address);
        var vendors = await db.Vendors.ToDictionaryAsync(v => v.Id, v => v.Name);
        var items = await db.Items.ToDictionaryAsync(i => i.Id, i => i.Code);
        var open = await db.Recalls.Where(r => r.EndedAt == null).ToListAsync();
        var looked = 0;
        for (var i = 0; i < sources.Count; i += Math.Max(1, sources.Count / 12))
        {
            var source = sources[i];
            var of = batches.Where(b => b.SourceBatchId == source.Id).Select(b => (int?)b.Id).ToHashSet();
            var begun = await Begin(
                wanjiru,
                source.Number,
                item: items[source.ItemId],
                vendor: vendors[source.VendorId],
                isDrill: true,
                mayCome: true
            );
            Assert.True(begun.IsOk, begun.Body.ToString());
            var here = new Dictionary<string, decimal>();
            var gone = new Dictionary<string, decimal>();
            foreach (var entry in entries.Where(e => e.Movement is not null && of.Contains(e.BatchId)))
            {
                var (from, to, quantity) = (entry.Movement!.From, entry.Movement.To, entry.Quantity!.Value);
                if (from.BinId is { } a)
                    here[names[a]] = here.GetValueOrDefault(names[a]) - quantity;
                if (to.BinId is { } b)
                    here[names[b]] = here.GetValueOrDefault(names[b]) + quantity;
                if (entry.Kind is EntryKind.Counted or EntryKind.TakenBack or EntryKind.OpeningStock || from.IsInside == to.IsInside)
                    continue;
                gone[entry.Subject] = gone.GetValueOrDefault(entry.Subject) + (from.IsInside ? quantity : -quantity);
            }

            var page = await wanjiru.Ask("/cage/recalls/" + begun["number"].GetString());
            static List<(string, decimal)> Sorted(IEnumerable<KeyValuePair<string, decimal>> sums) =>
                [.. sums.Where(s => s.Value != 0).Select(s => (s.Key, s.Value)).Order()];
            static Dictionary<string, decimal> By(JsonElement rows, string key) =>
                rows.EnumerateArray()
                    .GroupBy(r => r.GetProperty(key).GetString()!)
                    .ToDictionary(g => g.Key, g => g.Sum(r => r.GetProperty("quantity").GetDecimal()));
            Assert.Equal(Sorted(here.Where(h => !h.Key.StartsWith("HB", StringComparison.Ordinal))), Sorted(By(page["places"], "address")));
            Assert.Equal(Sorted(gone), Sorted(By(page["gone"], "reference")));
            Assert.Equal(here.Values.Sum(), Sum(page, "here"));
            looked += here.Count + gone.Count;
        }

        Assert.True(looked > 10, looked.ToString(CultureInfo.InvariantCulture));
    }

    [Fact]
    public async Task What_is_at_another_site_is_listed_and_held_by_who_works_there()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        async Task<Answer> AtBarn(string path, object what)
        {
            var answer = await wanjiru.Post("/api/HB" + path, what);
            Assert.True(answer.IsOk, $"{path}: {answer.Body}");
            return answer;
        }

        await AtBarn(
            "/road/orders/new",
            new
            {
                number = "PO-BARN",
                kind = "Purchase",
                vendor = "SALT",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "LS-05",
                        quantity = "500",
                        due = "2026-03-10",
                    },
                },
            }
        );
        var opened = await AtBarn(
            "/door/open-on-the-spot",
            new
            {
                orders = new[] { "PO-BARN" },
                vehicle = "truck",
                door = 1,
                atOnce = true,
                notIso6346 = false,
                unplanned = true,
                deliveryNote = "N-1",
            }
        );
        await AtBarn(
            "/door/count",
            Client.Count(
                "3",
                opened["number"].GetString()!,
                "LS-05",
                "case",
                new
                {
                    sourceBatch = "BARN-1",
                    production = "2026-01-10",
                    bestBefore = "2027-12-31",
                }
            )
        );
        var number = await Begun(Begin(wanjiru, "BARN-1"));
        var elsewhere = Assert.Single((await wanjiru.Ask("/cage/recalls/" + number))["elsewhere"].EnumerateArray().ToList());
        Assert.True(elsewhere.GetProperty("notHeld").GetDecimal() > 0);
        using var petra = await server.SignIn("petra");
        Assert.False((await petra.Ask("/cage/recalls/" + number))["elsewhere"][0].GetProperty("mayHold").GetBoolean());
        var held = await wanjiru.Post("/api/HB/cage/recalls/hold-here", new { recall = number });
        Assert.True(held.IsOk, held.Body.ToString());
        Assert.Equal(0, (await wanjiru.Ask("/cage/recalls/" + number))["elsewhere"][0].GetProperty("notHeld").GetDecimal());
        await using var after = server.Db();
        Assert.All(await after.Balances.Where(b => b.SiteId == 2).ToListAsync(), b => Assert.Equal(Standing.Recalled, b.Standing));
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>What another program leaves empty, and what nobody can mean.</summary>
    [Theory]
    [InlineData("""{"by":"SourceBatch","numbers":null,"why":"x"}""", "recall-absurd")]
    [InlineData("""{"by":"SourceBatch","numbers":" , ","why":"x"}""", "recall-absurd")]
    [InlineData("""{"by":"SourceBatch","numbers":"A","why":" "}""", "note-missing")]
    [InlineData("""{"by":"SourceBatch","numbers":"A","why":null}""", "note-missing")]
    [InlineData("""{"by":"SourceBatch","numbers":"A","why":"x","item":"NOBODY"}""", "not-found")]
    [InlineData("""{"by":"Serial","numbers":"A9 to A1","why":"x","item":"HH-16"}""", "serial-range")]
    [InlineData("""{"by":"Produced","vendor":"HOLLOW-NOBODY","why":"x"}""", "not-found")]
    [InlineData("""{"by":"Produced","from":"2026-01-02","to":"2026-01-01","why":"x"}""", "recall-absurd")]
    [InlineData("""{"by":"Advice","numbers":"DA-NOBODY","why":"x"}""", "not-found")]
    [InlineData("""{"by":"SourceBatch","numbers":"A","why":"x","wants":[null]}""", "condition-absurd")]
    public async Task Bad_input_is_a_sentence_and_nothing_is_changed(string body, string code)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var before = server.LastEntry();
        var answer = await wanjiru.Act("/cage/recalls/begin", JsonDocument.Parse(body).RootElement);
        Assert.Equal(code, answer.Code);
        Assert.Equal(before, server.LastEntry());
    }
}
