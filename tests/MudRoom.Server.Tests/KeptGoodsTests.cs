using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Server.Tests;

/// <summary>What somebody waits for is theirs from its count on: wherever it stands, nobody else gets it, until it leaves or is kept no
/// more.</summary>
public sealed class KeptGoodsTests(DemoServer server) : IClassFixture<DemoServer>
{
    const string Who = "WO-88, glasshouse";

    static async Task<Answer> Ok(Client client, string path, object what)
    {
        var answer = await client.Act(path, what);
        Assert.True(answer.IsOk, $"{path} {JsonSerializer.Serialize(what)}: {answer.Body}");
        return answer;
    }

    const string Arrival = "A-KEPT";

    /// <summary>Orders of which somebody waits for a part, on one arrival at a door; by whichever of these tests comes first.</summary>
    static async Task Arrive(Client wanjiru)
    {
        var opened = await wanjiru.Ask($"/road/arrivals/{Arrival}");
        if (opened.IsOk)
            return;
        await Ok(
            wanjiru,
            "/road/import",
            new
            {
                name = "kept.csv",
                text = "order,vendor,line,item,quantity,waiting_quantity,waiting_for,waiting_by,due,site\n"
                    + $"PO-KEPT-1,BRAC,1,HS-15,20,8,\"{Who}\",2026-03-10 15:00,2026-03-10,LM\n"
                    + "PO-KEPT-2,BRAC,1,FK-DG,20,6,Perrow Gardens,,2026-03-10,LM\n"
                    + "PO-KEPT-3,BRAC,1,TP-18,4,4,job 31,,2026-03-10,LM\n"
                    + "PO-KEPT-4,KITA,1,SC-18,4,4,job 32,2026-03-10 13:00,2026-03-10,LM\n"
                    + "PO-KEPT-5,BRAC,1,TS-18,10,10,job 40,,2026-03-10,LM\n"
                    + "PO-KEPT-6,QUER,1,BK-60,90,30,job 50,,2026-03-10,LM\n"
                    + "PO-KEPT-7,BRAC,1,HT-12,20,6,job 60,,2026-03-10,LM\n",
            }
        );
        await Ok(
            wanjiru,
            "/door/open-on-the-spot",
            new
            {
                orders = Enumerable.Range(1, 7).Select(n => $"PO-KEPT-{n}"),
                door = 4,
                atOnce = true,
                unplanned = true,
                number = Arrival,
            }
        );
    }

    async Task<List<Balance>> Of(string item)
    {
        await using var db = server.Db();
        return await db
            .Balances.Where(b => b.Quantity > 0 && db.Items.Any(i => i.Id == b.ItemId && i.Code == item))
            .Where(b => db.Lots.Any(l => l.Id == b.LotId && db.Arrivals.Any(a => a.Id == l.ArrivalId && a.Number == Arrival)))
            .OrderBy(b => b.LotId)
            .ToListAsync();
    }

    async Task<decimal> Kept(string item)
    {
        var rows = await Of(item);
        await using var db = server.Db();
        var lots = rows.Select(r => r.LotId).ToList();
        var kept = await db
            .Statements.Where(s => lots.Contains(s.LotId) && s.ReservationId != null && s.SettledAt == null)
            .Select(s => (int?)s.LotId)
            .ToListAsync();
        return rows.Where(r => kept.Contains(r.LotId)).Sum(r => r.Quantity);
    }

    static Task<Answer> Issue(Client client, Balance of, string quantity, string reference) =>
        client.Act(
            "/book/issue",
            new
            {
                balance = of.Id,
                quantity,
                to = "Job",
                reference,
            }
        );

    async Task<long> Last(EntryKind kind)
    {
        await using var db = server.Db();
        return await db.Ledger.Where(e => e.Kind == kind).MaxAsync(e => e.Seq);
    }

    async Task<JsonElement> Stock(Client client, long balance, string item) =>
        (await client.Ask($"/book/find?text={item}"))["stock"].EnumerateArray().Single(s => s.GetProperty("id").GetInt64() == balance);

    [Fact]
    public async Task What_is_waited_for_goes_to_who_waits_and_the_rest_to_anybody()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        await Arrive(wanjiru);
        var before = (await wanjiru.Ask("/book/find?text=HS-15"))["sums"][0];
        await Ok(leila, "/door/count", Client.Count("5", Arrival, "HS-15", "each"));
        Assert.Equal(5, await Kept("HS-15"));
        // Who waits gets what comes first, however the count is cut: 5, then 3 of the next 7.
        await Ok(leila, "/door/count", Client.Count("7", Arrival, "HS-15", "each"));
        Assert.Equal([8m, 4m], (await Of("HS-15")).Select(b => b.Quantity));
        Assert.Equal(8, await Kept("HS-15"));
        var stock = (await Of("HS-15"))[0];

        // People see one line, and for whom how much of it is.
        var seen = await Stock(wanjiru, stock.Id, "HS-15");
        Assert.Equal((12m, 2), (seen.GetProperty("quantity").GetDecimal(), seen.GetProperty("lots").GetInt32()));
        var kept = Assert.Single(seen.GetProperty("kept").EnumerateArray());
        Assert.Equal(
            ("WO-88, glasshouse, by 10 Mar 15:00", 8m),
            (kept.GetProperty("words").GetString(), kept.GetProperty("quantity").GetDecimal())
        );
        Assert.Equal("usable", seen.GetProperty("standing").GetProperty("word").GetString());
        var after = (await wanjiru.Ask("/book/find?text=HS-15"))["sums"][0];
        Assert.Equal(
            (before.GetProperty("available").GetDecimal() + 4, before.GetProperty("kept").GetDecimal() + 8),
            (after.GetProperty("available").GetDecimal(), after.GetProperty("kept").GetDecimal())
        );

        // Nobody else gets it.
        var others = await Issue(wanjiru, stock, "5", "WO-8");
        Assert.Equal("kept-for-others", others.Code);
        Assert.Contains("4 each free; 8 are kept for WO-88, glasshouse", others.Sentence, StringComparison.Ordinal);
        await Ok(
            wanjiru,
            "/book/issue",
            new
            {
                balance = stock.Id,
                quantity = "1",
                to = "Job",
                reference = "WO-8",
            }
        );
        Assert.Equal(8, await Kept("HS-15"));
        // They get theirs first; undone, it is theirs again.
        await Ok(
            wanjiru,
            "/book/issue",
            new
            {
                balance = stock.Id,
                quantity = "2",
                to = "Job",
                reference = "wo-88",
            }
        );
        Assert.Equal(6, await Kept("HS-15"));
        await Ok(wanjiru, "/book/undo", new { entry = await Last(EntryKind.Issued), reason = "not fetched" });
        Assert.Equal(8, await Kept("HS-15"));
        // From who waits both ways: what was counted for them, and what they got.
        var told = (await wanjiru.Ask($"/book/ledger?text={Uri.EscapeDataString(Who)}"))["rows"].EnumerateArray().ToList();
        Assert.Equal(2, told.Count(r => r.GetProperty("kind").GetString() == "Counted"));
        Assert.Empty((await server.Check()).Faults);

        // Kept no more: anybody's; taken back: theirs again.
        Assert.Equal("right-missing", (await leila.Act("/book/keep-no-more", new { balance = stock.Id, reason = "they have some" })).Code);
        Assert.Equal("reason-missing", (await wanjiru.Act("/book/keep-no-more", new { balance = stock.Id, reason = " " })).Code);
        var ended = await Ok(wanjiru, "/book/keep-no-more", new { balance = stock.Id, reason = "they have some" });
        Assert.StartsWith("8 each of ", ended["sentence"].GetString(), StringComparison.Ordinal);
        Assert.EndsWith(
            " are not kept for WO-88, glasshouse any more: they have some.",
            ended["sentence"].GetString(),
            StringComparison.Ordinal
        );
        Assert.Equal("not-kept", (await wanjiru.Act("/book/keep-no-more", new { balance = stock.Id, reason = "again" })).Code);
        Assert.Equal(0, await Kept("HS-15"));
        await Ok(wanjiru, "/book/undo", new { entry = await Last(EntryKind.KeepingEnded), reason = "they do wait" });
        Assert.Equal(8, await Kept("HS-15"));
        Assert.Equal("kept-for-others", (await Issue(wanjiru, stock, "6", "WO-9")).Code);
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>A count that is taken back is waited for again: the next one is kept.</summary>
    [Fact]
    public async Task What_was_counted_by_mistake_is_kept_for_nobody_and_the_next_is()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Arrive(wanjiru);
        var count = Guid.NewGuid();
        Assert.True((await wanjiru.Act("/door/count", Client.Count("6", Arrival, "FK-DG", "each"), count)).IsOk);
        Assert.Equal(6, await Kept("FK-DG"));
        await Ok(wanjiru, "/door/take-back", new { arrival = Arrival, count });
        Assert.Empty(await Of("FK-DG"));
        await Ok(wanjiru, "/door/count", Client.Count("9", Arrival, "FK-DG", "each"));
        Assert.Equal(6, await Kept("FK-DG"));
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Goods that are counted and stand at the door, or wait at the bench, are still waited for: they come first.</summary>
    [Fact]
    public async Task Goods_that_were_counted_for_somebody_come_first_until_they_are_in_a_bin()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        await Arrive(wanjiru);
        await Ok(wanjiru, "/door/count", Client.Count("4", Arrival, "TP-18", "each"));
        var queue = (await wanjiru.Ask("/shelf/queue"))["tasks"].EnumerateArray().ToList();
        Assert.Contains(queue, t => t.GetProperty("why").GetString()!.StartsWith("Waited for: job 31.", StringComparison.Ordinal));

        await BenchHands.Rule(sunita, 1, "SC-18", "Receipt");
        await Arrive(wanjiru);
        await Ok(wanjiru, "/door/count", Client.Count("4", Arrival, "SC-18", "each", new { sourceBatch = "KEPT-1" }));
        var bench = (await sunita.Ask("/bench/queue?most=500"))["cards"].EnumerateArray().Select(c => c.GetProperty("why").GetString());
        Assert.Contains("Waited for: job 32, by 10 Mar 13:00.", bench);
        // Kept, and not to be used before its verdict by anybody.
        var waits = Assert.Single(await Of("SC-18"));
        Assert.Equal((4m, Standing.ToInspect), (await Kept("SC-18"), waits.Standing));
        Assert.Equal("not-usable", (await Issue(wanjiru, waits, "1", "job 32")).Code);
    }

    /// <summary>Of goods that are held and kept, lifting the hold leaves them to who waits.</summary>
    [Fact]
    public async Task What_is_kept_and_held_is_still_kept_when_the_hold_is_lifted_and_a_part_of_it_too()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Arrive(wanjiru);
        await Ok(wanjiru, "/door/count", Client.Count("10", Arrival, "TS-18", "each"));
        var stock = Assert.Single(await Of("TS-18"));
        await Ok(
            wanjiru,
            "/cage/hold",
            new
            {
                balance = stock.Id,
                quantity = "3",
                why = "rust",
            }
        );
        await using (var db = server.Db())
        {
            var hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
            Assert.Equal(10, await Kept("TS-18"));
            Assert.Equal("kept-for-others", (await Issue(wanjiru, stock, "1", "job 4")).Code);
            await Ok(wanjiru, "/cage/lift", new { hold = hold.Number });
        }

        // The part has joined its lot again: of both the same is said.
        Assert.Equal(10m, Assert.Single(await Of("TS-18")).Quantity);
        Assert.Equal(10, await Kept("TS-18"));
        await Ok(
            wanjiru,
            "/book/issue",
            new
            {
                balance = stock.Id,
                quantity = "10",
                to = "Job",
                reference = "job 40",
            }
        );
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Of a labelled unit a part may be kept: it stays on the unit, and nobody else gets it.</summary>
    [Fact]
    public async Task Of_a_unit_the_part_that_is_waited_for_is_kept_where_the_unit_stands()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Arrive(wanjiru);
        var unit = (await Ok(wanjiru, "/door/count", Client.Count("1", Arrival, "BK-60", "pallet")))["units"][0].GetString();
        var rows = await Of("BK-60");
        Assert.Single(rows.Select(r => r.UnitId).Distinct());
        Assert.Equal([30m, 15m], rows.Select(r => r.Quantity));
        Assert.Equal(30, await Kept("BK-60"));
        var free = rows[1].Quantity;
        Assert.Equal("kept-for-others", (await Issue(wanjiru, rows[0], $"{free + 1}", "job 51")).Code);
        Assert.True((await Issue(wanjiru, rows[0], $"{free}", "job 51")).IsOk);
        Assert.Equal("kept-for-others", (await Issue(wanjiru, rows[0], "1", "job 51")).Code);
        await Ok(wanjiru, "/book/keep-no-more", new { balance = rows[0].Id, reason = "called off" });
        Assert.Equal((0m, 30m), (await Kept("BK-60"), (await Of("BK-60")).Sum(r => r.Quantity)));
        Assert.True((await Issue(wanjiru, Assert.Single(await Of("BK-60")), "1", "job 51")).IsOk);
        Assert.NotNull(unit);
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Goods counted aside are nothing to wait for: what comes whole afterwards is.</summary>
    [Fact]
    public async Task What_is_counted_aside_is_kept_for_nobody_and_a_vendor_gets_back_no_kept_goods_that_are_good()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Arrive(wanjiru);
        await Ok(wanjiru, "/door/count", Client.Count("3", Arrival, "HT-12", "each", new { aside = "Damaged", note = "bent" }));
        Assert.Equal(0, await Kept("HT-12"));
        await Ok(wanjiru, "/door/count", Client.Count("8", Arrival, "HT-12", "each"));
        // What was counted aside came too: of six three are waited for still.
        Assert.Equal(3, await Kept("HT-12"));
        await using var db = server.Db();
        await Ok(
            wanjiru,
            "/door/close",
            new
            {
                arrival = Arrival,
                partly = true,
                decisions = Array.Empty<object>(),
                deliveryNotes = await db
                    .TallyEntries.Where(e => e.TakenBackAt == null && db.Arrivals.Any(a => a.Id == e.ArrivalId && a.Number == Arrival))
                    .Select(e => e.VendorId)
                    .Distinct()
                    .Select(v => new { vendorId = v, deliveryNote = $"N-{v}" })
                    .ToListAsync(),
            }
        );
        var usable = (await Of("HT-12")).Where(r => r.Standing == Standing.Usable).ToList();
        var receipt = await db
            .Receipts.Where(r => db.Lots.Any(l => l.Id == usable[0].LotId && l.ReceiptId == r.Id))
            .Select(r => r.Number)
            .SingleAsync();
        var all = await Return("8");
        Assert.Equal("kept-for-others", all.Code);
        Assert.Contains("5 each free; 3 are kept for job 60", all.Sentence, StringComparison.Ordinal);
        Assert.True((await Return("5")).IsOk);
        Assert.Equal(3, await Kept("HT-12"));
        Assert.Empty((await server.Check()).Faults);

        Task<Answer> Return(string quantity) =>
            wanjiru.Act(
                "/door/receipts/return",
                new
                {
                    receipt,
                    balance = usable[0].Id,
                    quantity,
                    reason = "wrong colour",
                }
            );
    }
}
