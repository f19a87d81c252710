using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Out;

namespace MudRoom.Server.Tests;

/// <summary>Customers' returns over HTTP, from the door to where each part of them goes.</summary>
public sealed class CustomerReturnTests(DemoServer server) : IClassFixture<DemoServer>
{
    static async Task<Answer> Ok(Client client, string path, object what)
    {
        var answer = await client.Act(path, what);
        Assert.True(answer.IsOk, $"{path} {JsonSerializer.Serialize(what)}: {answer.Body}");
        return answer;
    }

    static object Return(string item = "TP-18", string quantity = "24", string reason = "ordered by mistake", string customer = "HOLN") =>
        new
        {
            arrival = "A-2618",
            customer,
            item,
            quantity,
            reason,
            promised = "Credit",
        };

    /// <summary>Pots that a customer sends back and nobody announced, counted at the door where the tools are unloaded.</summary>
    async Task<(string Order, Hold Hold)> Counted(Client client, string quantity = "24", string item = "TP-18", object? more = null)
    {
        var order = (await Ok(client, "/door/returns", Return(item, quantity)))["order"].GetString()!;
        await Ok(client, "/door/count", Client.Count(quantity, "A-2618", item, "each", more ?? new { }));
        await using var db = server.Db();
        var lines = db.OrderLines.Where(l => l.Order!.Number == order).Select(l => l.Id);
        return (order, await db.Holds.SingleAsync(h => lines.Contains(h.OrderLineId!.Value)));
    }

    static object Found(string hold, string quantity, string found = "NoFault", string note = "never unpacked") =>
        new
        {
            hold,
            found,
            quantity,
            note,
        };

    static object Decision(string hold, string decision, string quantity) =>
        new
        {
            hold,
            decision,
            quantity,
            note = "as found",
        };

    static async Task<Dictionary<string, (bool Done, string Sentence)>> Way(Client client, string order)
    {
        var page = await client.Ask("/cage/returns/" + order);
        Assert.True(page.IsOk, page.Body.ToString());
        return page["lines"]
            [0]
            .GetProperty("way")
            .EnumerateArray()
            .ToDictionary(
                w => w.GetProperty("word").GetString()!,
                w => (w.GetProperty("closed").GetBoolean(), w.GetProperty("sentence").GetString()!)
            );
    }

    async Task<List<Balance>> Stock(Hold hold)
    {
        await using var db = server.Db();
        var lots = db.Statements.Where(s => db.Holds.Any(h => h.Id == s.HoldId && h.OrderLineId == hold.OrderLineId)).Select(s => s.LotId);
        return await db.Balances.Where(b => lots.Contains(b.LotId!.Value) && b.Quantity > 0).ToListAsync();
    }

    [Fact]
    public async Task A_return_nobody_announced_goes_its_way_in_parts_and_accounts_are_told_what_was_found()
    {
        using var maren = await server.SignIn("maren");
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        var (order, hold) = await Counted(maren);
        Assert.All(await Stock(hold), b => Assert.Equal(Standing.ToInspect, b.Standing));
        var row = (await Stock(hold)).Single();
        var issue = new
        {
            balance = row.Id,
            quantity = "1",
            to = "Customer",
            reference = "SO-1",
        };
        Assert.Equal("not-usable", (await wanjiru.Act("/book/issue", issue)).Code);
        Assert.Equal("wants-decision", (await wanjiru.Act("/cage/lift", new { hold = hold.Number })).Code);
        Assert.Equal("finding-missing", (await wanjiru.Act("/cage/decide", Decision(hold.Number, "UsableAgain", "24"))).Code);
        Assert.Equal("right-missing", (await maren.Act("/cage/returns/finding", Found(hold.Number, "24"))).Code);
        Assert.Equal("right-missing", (await wanjiru.Act("/cage/returns/finding", Found(hold.Number, "24"))).Code);
        var before = server.LastEntry();
        Assert.Equal("more-than-held", (await sunita.Act("/cage/returns/finding", Found(hold.Number, "25"))).Code);
        Assert.Equal("note-missing", (await sunita.Act("/cage/returns/finding", Found(hold.Number, "24", note: " "))).Code);
        Assert.Equal("not-found", (await sunita.Act("/cage/returns/finding", Found("H-9999", "24"))).Code);
        Assert.Equal(before, server.LastEntry());

        // Eight are broken; of the others nothing is wrong.
        await Ok(sunita, "/cage/returns/finding", Found(hold.Number, "8", "HarmedThere", "wet, rims broken"));
        await using (var db = server.Db())
            Assert.Equal(
                [(16m, (ReturnFound?)null), (8m, ReturnFound.HarmedThere)],
                (await db.Holds.Where(h => h.OrderLineId == hold.OrderLineId).OrderBy(h => h.Id).ToListAsync()).Select(h =>
                    (h.Quantity, h.Found?.Found)
                )
            );
        Assert.False((await Way(sunita, order))["finding"].Done);
        await Ok(sunita, "/cage/returns/finding", Found(hold.Number, "16"));
        var way = await Way(sunita, order);
        Assert.Equal((true, true, false), (way["finding"].Done, way["accounts told"].Done, way["decision"].Done));
        Hold broken;
        await using (var db = server.Db())
        {
            broken = await db.Holds.Where(h => h.OrderLineId == hold.OrderLineId).OrderByDescending(h => h.Id).FirstAsync();
            var messages = await db.OutMessages.Where(m => m.Kind == OutKind.ReturnFinding && m.Subject == order).ToListAsync();
            var bodies = messages.Select(m => JsonDocument.Parse(m.Body).RootElement);
            Assert.Equal(
                [("8", "harmed-there", "credit"), ("16", "no-fault", "credit")],
                bodies
                    .Select(b =>
                        (
                            b.GetProperty("quantity").GetString()!,
                            b.GetProperty("found").GetString()!,
                            b.GetProperty("promised").GetString()!
                        )
                    )
                    .OrderBy(b => decimal.Parse(b.Item1, System.Globalization.CultureInfo.InvariantCulture))
            );
        }

        // Sixteen: ten among the good ones, six back to the customer; the broken ones are scrapped.
        await Ok(wanjiru, "/cage/decide", Decision(hold.Number, "UsableAgain", "10"));
        await Ok(wanjiru, "/cage/decide", Decision(hold.Number, "BackToCustomer", "6"));
        await Ok(wanjiru, "/cage/decide", Decision(broken.Number, "Scrap", "8"));
        Assert.Equal(
            [(Standing.ToGoBack, 6m), (Standing.ToScrap, 8m), (Standing.Usable, 10m)],
            (await Stock(hold)).GroupBy(b => b.Standing).Select(g => (g.Key, g.Sum(b => b.Quantity))).OrderBy(g => g.Item2)
        );
        Assert.Equal("witness-missing", (await wanjiru.Act("/cage/carry-out", new { hold = broken.Number })).Code);
        await Ok(wanjiru, "/cage/carry-out", BenchHands.Seen(broken.Number));
        await Ok(wanjiru, "/cage/carry-out", new { hold = hold.Number, note = "with Monday's van" });
        way = await Way(wanjiru, order);
        Assert.All(way.Values, w => Assert.True(w.Done, w.Sentence));
        Assert.Contains("8 each scrapped", way["done"].Sentence, StringComparison.Ordinal);
        Assert.Contains("6 each gone to a customer", way["done"].Sentence, StringComparison.Ordinal);
        Assert.Contains("10 each usable in", way["done"].Sentence, StringComparison.Ordinal);
        Assert.Equal(10, (await Stock(hold)).Sum(b => b.Quantity));
        // They came from the customer, in the book too.
        await using var book = server.Db();
        Assert.Contains(await book.Ledger.Where(e => e.Kind == EntryKind.Counted && e.FromAccount == Account.Customer).ToListAsync(), e =>
            e.Quantity == 24
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_scrapping_undone_is_bound_again_with_its_finding_and_usable_again_is_undone_too()
    {
        using var maren = await server.SignIn("maren");
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        var (order, hold) = await Counted(maren, "3");
        await Ok(sunita, "/cage/returns/finding", Found(hold.Number, "3"));
        await Ok(wanjiru, "/cage/decide", Decision(hold.Number, "UsableAgain", "3"));
        Assert.Equal(Standing.Usable, Assert.Single(await Stock(hold)).Standing);
        await Ok(wanjiru, "/book/undo", new { entry = server.LastEntry(), reason = "of the wrong box" });
        Assert.Equal(Standing.ToInspect, Assert.Single(await Stock(hold)).Standing);
        await Ok(wanjiru, "/cage/decide", Decision(hold.Number, "Scrap", "3"));
        Assert.Equal(Standing.ToScrap, Assert.Single(await Stock(hold)).Standing);
        await Ok(wanjiru, "/cage/undecide", new { hold = hold.Number, why = "the customer wants a picture" });
        Assert.Equal(Standing.ToInspect, Assert.Single(await Stock(hold)).Standing);
        await Ok(wanjiru, "/cage/decide", Decision(hold.Number, "Scrap", "3"));
        await Ok(wanjiru, "/cage/carry-out", BenchHands.Seen(hold.Number));
        Assert.Empty(await Stock(hold));
        await Ok(wanjiru, "/book/undo", new { entry = server.LastEntry(), reason = "it stands here still" });
        Assert.Equal((Standing.ToScrap, 3m), (await Stock(hold)).Select(b => (b.Standing, b.Quantity)).Single());
        Assert.Contains("never unpacked", (await Way(sunita, order))["finding"].Sentence, StringComparison.Ordinal);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task What_was_repaired_and_no_plan_speaks_of_is_looked_at_again_and_that_is_not_undone_from_the_book()
    {
        using var maren = await server.SignIn("maren");
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        var (_, hold) = await Counted(maren, "9");
        await Ok(sunita, "/cage/returns/finding", Found(hold.Number, "9", "AsSaid", "glaze is off"));
        await Ok(wanjiru, "/cage/decide", Decision(hold.Number, "Repair", "9"));
        Assert.Equal(Standing.Held, Assert.Single(await Stock(hold)).Standing);
        await Ok(wanjiru, "/cage/carry-out", new { hold = hold.Number });
        Assert.Equal(Standing.ToInspect, Assert.Single(await Stock(hold)).Standing);
        Assert.Equal("finding-missing", (await wanjiru.Act("/cage/decide", Decision(hold.Number, "UsableAgain", "9"))).Code);
        await using var db = server.Db();
        var entry = await db.Ledger.Where(e => e.Kind == EntryKind.Decided && e.Subject == hold.Number).MaxAsync(e => e.Seq);
        var before = server.LastEntry();
        Assert.Equal("not-undone", (await wanjiru.Act("/book/undo", new { entry, reason = "not glued yet" })).Code);
        Assert.Equal(before, server.LastEntry());
    }

    [Fact]
    public async Task A_finding_taken_back_is_told_as_well()
    {
        using var maren = await server.SignIn("maren");
        using var sunita = await server.SignIn("sunita");
        var (order, hold) = await Counted(maren, "2");
        Task<Answer> Back(string why) => sunita.Act("/cage/returns/finding/back", new { hold = hold.Number, why });
        Assert.Equal("finding-missing", (await Back("x")).Code);
        await Ok(sunita, "/cage/returns/finding", Found(hold.Number, "2"));
        Assert.Equal("found-already", (await sunita.Act("/cage/returns/finding", Found(hold.Number, "2"))).Code);
        Assert.Equal("reason-missing", (await Back(" ")).Code);
        Assert.True((await Back("looked at the wrong pot")).IsOk);
        await using var db = server.Db();
        var told = await db.OutMessages.Where(m => m.Subject == order).Select(m => m.Body).ToListAsync();
        Assert.Equal(
            [null, "looked at the wrong pot"],
            told.Select(m => JsonDocument.Parse(m).RootElement.GetProperty("takenBack").GetString()).Order()
        );
        Assert.False((await Way(sunita, order))["finding"].Done);
    }

    [Fact]
    public async Task What_an_inspection_rejects_is_held_once_and_is_usable_only_after_a_repair_that_passes()
    {
        using var maren = await server.SignIn("maren");
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        var rule = await BenchHands.Rule(sunita, 1, item: "GK-07", trigger: "Return");
        Assert.True(rule.IsOk, rule.Body.ToString());
        var (order, hold) = await Counted(maren, "8", "GK-07", new { sourceBatch = "BACK-7" });
        await using var db = server.Db();
        var inspection = await db.Inspections.Where(i => i.Trigger == InspectionTrigger.Return).OrderByDescending(i => i.Id).FirstAsync();
        Assert.Equal("finding-waits", (await sunita.Act("/cage/returns/finding", Found(hold.Number, "8"))).Code);
        Assert.Contains(inspection.Number, (await Way(sunita, order))["inspection"].Sentence, StringComparison.Ordinal);
        await BenchHands.Fill(sunita, inspection.Number, good: false);
        var signed = await BenchHands.Sign(sunita, inspection.Number, "Rejected");
        Assert.True(signed.IsOk, signed.Body.ToString());
        Assert.Equal(1, await db.Holds.CountAsync(h => h.OrderLineId == hold.OrderLineId));
        Assert.False(await db.Holds.AnyAsync(h => h.InspectionId == inspection.Id));
        Assert.All(await Stock(hold), b => Assert.Equal(Standing.ToInspect, b.Standing));

        await Ok(sunita, "/cage/returns/finding", Found(hold.Number, "8", "AsSaid", "edges are bent"));
        Assert.Equal("rejected-goods", (await wanjiru.Act("/cage/decide", Decision(hold.Number, "UsableAgain", "8"))).Code);
        await Ok(wanjiru, "/cage/decide", Decision(hold.Number, "Repair", "8"));
        await Ok(wanjiru, "/cage/carry-out", new { hold = hold.Number });
        var again = await db.Inspections.Where(i => i.Trigger == InspectionTrigger.Return).OrderByDescending(i => i.Id).FirstAsync();
        Assert.NotEqual(inspection.Id, again.Id);
        await BenchHands.Fill(sunita, again.Number);
        signed = await BenchHands.Sign(sunita, again.Number, "Accepted");
        Assert.True(signed.IsOk, signed.Body.ToString());
        Assert.All(await Stock(hold), b => Assert.Equal(Standing.ToInspect, b.Standing));
        await Ok(sunita, "/cage/returns/finding", Found(hold.Number, "8", "NoFault", "straight again"));
        await Ok(wanjiru, "/cage/decide", Decision(hold.Number, "UsableAgain", "8"));
        Assert.All(await Stock(hold), b => Assert.Equal(Standing.Usable, b.Standing));
        Assert.True((await Way(wanjiru, order))["done"].Done);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Goods_counted_aside_of_a_return_leave_only_when_it_is_found_what_they_are()
    {
        using var maren = await server.SignIn("maren");
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        var (_, bound) = await Counted(maren, "4", more: new { aside = "Damaged", note = "crushed" });
        await using var db = server.Db();
        var aside = await db.Holds.Where(h => h.Reason == HoldReason.CountedAside).OrderByDescending(h => h.Id).FirstAsync();
        Assert.Equal(4, aside.Quantity);
        await Ok(wanjiru, "/cage/decide", Decision(aside.Number, "Scrap", "4"));
        var before = server.LastEntry();
        Assert.Equal("finding-missing", (await wanjiru.Act("/cage/carry-out", BenchHands.Seen(aside.Number))).Code);
        Assert.Equal((4m, before), ((await Stock(bound)).Sum(b => b.Quantity), server.LastEntry()));
        await Ok(sunita, "/cage/returns/finding", Found(bound.Number, "4", "HarmedThere", "crushed on the way"));
        await Ok(wanjiru, "/cage/carry-out", BenchHands.Seen(aside.Number));
        Assert.Empty(await Stock(bound));
        await db.Entry(bound).ReloadAsync();
        Assert.False(await db.Holds.AnyAsync(h => h.IsOpen && h.OrderLineId == bound.OrderLineId));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task What_is_held_for_another_reason_too_is_not_sent_back_to_a_customer()
    {
        using var maren = await server.SignIn("maren");
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        // Of an item that nothing else here is alike to.
        var (_, bound) = await Counted(maren, "5", "TP-24");
        var laid = await Ok(
            wanjiru,
            "/cage/hold",
            new
            {
                balance = (await Stock(bound)).Single().Id,
                quantity = "5",
                why = "asked for by the vendor",
            }
        );
        await Ok(sunita, "/cage/returns/finding", Found(bound.Number, "5"));
        await Ok(wanjiru, "/cage/decide", Decision(bound.Number, "BackToCustomer", "5"));
        Assert.Equal("not-let", (await wanjiru.Act("/cage/carry-out", new { hold = bound.Number })).Code);
        Assert.Equal(5, (await Stock(bound)).Sum(b => b.Quantity));
        await using var db = server.Db();
        var other = await db
            .Holds.Where(h => h.Reason == HoldReason.ByHand)
            .OrderByDescending(h => h.Id)
            .Select(h => h.Number)
            .FirstAsync();
        Assert.Contains(other, laid.Body.ToString(), StringComparison.Ordinal);
        await Ok(wanjiru, "/cage/lift", new { hold = other });
        await Ok(wanjiru, "/cage/carry-out", new { hold = bound.Number });
        Assert.Empty(await Stock(bound));
    }

    [Fact]
    public async Task A_count_taken_back_binds_nothing_any_more()
    {
        using var maren = await server.SignIn("maren");
        var (order, bound) = await Counted(maren, "7");
        await using var db = server.Db();
        var count = await db
            .TallyEntries.Where(e => e.ItemId == bound.ItemId)
            .OrderByDescending(e => e.Id)
            .Select(e => e.ActId)
            .FirstAsync();
        await Ok(maren, "/door/take-back", new { arrival = "A-2618", count });
        Assert.Empty(await Stock(bound));
        Assert.False(await db.Holds.AnyAsync(h => h.IsOpen && h.OrderLineId == bound.OrderLineId));
        var way = await Way(maren, order);
        Assert.Equal((true, false, false), (way["arrival"].Done, way["counted"].Done, way["done"].Done));
        await Ok(maren, "/door/count", Client.Count("7", "A-2618", "TP-18", "each", new { }));
        Assert.Equal(7, (await Stock(bound)).Sum(b => b.Quantity));
    }

    [Fact]
    public async Task One_that_was_announced_is_on_the_list_before_it_comes()
    {
        using var sunita = await server.SignIn("sunita");
        using var dilys = await server.SignIn("dilys");
        var line = new
        {
            item = "TP-18",
            quantity = "6",
            due = "2026-03-20",
            reason = "",
            promised = "Replacement",
        };
        object New(object with, string number = "RT-9001") =>
            new
            {
                number,
                kind = "CustomerReturn",
                vendor = "HOLN",
                draft = false,
                lines = new[] { with },
            };
        Assert.Equal("return-reason-missing", (await dilys.Act("/road/orders/new", New(line))).Code);
        await Ok(
            dilys,
            "/road/orders/new",
            New(
                new
                {
                    line.item,
                    line.quantity,
                    line.due,
                    reason = "leaks",
                    line.promised,
                }
            )
        );
        var rows = (await sunita.Ask("/cage/returns"))["rows"].EnumerateArray().ToList();
        // What somebody here is waited for comes first: the controller at the bench.
        Assert.True(rows[0].GetProperty("waitsForFinding").GetBoolean());
        Assert.Contains(rows, r => r.GetProperty("number").GetString() == "RT-9001");
        var way = await Way(sunita, "RT-9001");
        Assert.Equal(["announced"], way.Where(w => w.Value.Done).Select(w => w.Key));
        Assert.Equal("replacement promised: with the finding", way["accounts told"].Sentence);
        Assert.Equal("not-found", (await sunita.Ask("/cage/returns/PO-4471")).Code);
        Assert.Equal(
            "leaks; replacement promised",
            (await dilys.Ask("/road/orders/RT-9001"))["lines"][0].GetProperty("returnReason").GetString()
        );
    }

    /// <summary>As docs/formats/orders-csv.md says.</summary>
    [Theory]
    [InlineData("return", "leaks", "Credit", null, "leaks; credit promised")]
    [InlineData("return", "", "", null, "no reason given; nothing promised")]
    [InlineData("return", "leaks", "money", "is nothing, credit, replacement or repair", null)]
    [InlineData("purchase", "leaks", "", "stands on an order that is no customer return", null)]
    [InlineData("purchase", "", "repair", "stands on an order that is no customer return", null)]
    public async Task A_file_says_why_a_customer_sends_goods_back(string kind, string why, string promised, string? fault, string? terms)
    {
        using var dilys = await server.SignIn("dilys");
        var number = $"RT-{Guid.NewGuid().ToString("N")[..8]}";
        var answer = await dilys.Act(
            "/road/import",
            new
            {
                name = "returns.csv",
                text = "order,kind,vendor,line,item,quantity,due,site,return_reason,promised\n"
                    + $"{number},{kind},HOLN,1,TP-18,6,2026-03-20,LM,{why},{promised}\n",
            }
        );
        var order = await dilys.Ask("/road/orders/" + number);
        if (fault is not null)
        {
            Assert.Contains(fault, answer.Body.ToString(), StringComparison.Ordinal);
            Assert.Equal("not-found", order.Code);
        }
        else
            Assert.Equal(terms, order["lines"][0].GetProperty("returnReason").GetString());
    }

    [Fact]
    public async Task A_return_at_the_door_wants_all_that_is_known_of_it()
    {
        using var maren = await server.SignIn("maren");
        using var petra = await server.SignIn("petra");
        await using var db = server.Db();
        var (before, orders) = (server.LastEntry(), await db.Orders.CountAsync());
        Assert.Equal("return-reason-missing", (await maren.Act("/door/returns", Return(reason: " "))).Code);
        Assert.Equal("item-unknown", (await maren.Act("/door/returns", Return("NO-1"))).Code);
        Assert.Equal("vendor-unknown", (await maren.Act("/door/returns", Return(customer: "NOBO"))).Code);
        Assert.False((await maren.Act("/door/returns", Return(quantity: "0"))).IsOk);
        Assert.Equal("right-missing", (await petra.Act("/door/returns", Return())).Code);
        var elsewhere = new
        {
            arrival = "A-2625",
            customer = "HOLN",
            item = "TP-18",
            quantity = "1",
            reason = "x",
            promised = "Credit",
        };
        Assert.Equal("not-at-door", (await maren.Act("/door/returns", elsewhere)).Code);
        Assert.Equal(before, server.LastEntry());
        Assert.Equal(orders, await db.Orders.CountAsync());
    }
}
