using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;

namespace MudRoom.Server.Tests;

/// <summary>Holds on what comes: an item, an order line, all that a vendor sends; and what is held on which day.</summary>
public sealed class HoldAheadTests(DemoServer server) : IClassFixture<DemoServer>
{
    static async Task<int> Id(Client client, string why) =>
        (await client.Ask("/cage/ahead"))["holds"]
            .EnumerateArray()
            .Single(h => h.GetProperty("why").GetString() == why)
            .GetProperty("id")
            .GetInt32();

    async Task<List<Hold>> For(string why)
    {
        await using var db = server.Db();
        return await db.Holds.Where(h => h.Sentence == why).OrderBy(h => h.Id).ToListAsync();
    }

    async Task<Standing> Of(string batch)
    {
        await using var db = server.Db();
        return await db
            .Balances.Where(b => b.Quantity > 0 && db.Batches.Any(x => x.Id == b.BatchId && x.SourceBatch!.Number == batch))
            .Select(b => b.Standing)
            .SingleAsync();
    }

    /// <summary>What a vendor still sends is held as it is counted, what stands here too; ending it lets the next by and frees
    /// nothing.</summary>
    [Fact]
    public async Task All_that_a_vendor_sends_is_held_from_now_on_until_somebody_ends_it()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        Assert.True((await wanjiru.Act("/door/count", BenchHands.Knives("AH-1", "6"))).IsOk);
        var lay = new
        {
            vendor = "KITA",
            because = "The vendor warns",
            why = "soft steel",
            alsoHere = true,
        };
        Assert.Equal("right-missing", (await leila.Act("/cage/ahead/lay", lay)).Code);
        var laid = await sunita.Act("/cage/ahead/lay", lay);
        Assert.True(laid.IsOk, laid.Body.ToString());
        const string why = "The vendor warns: soft steel";
        Assert.Contains("everything from Kitagiri Blades: the signature of a supervisor", laid["sentence"].GetString());
        Assert.Contains("here too, by H-", laid["sentence"].GetString());
        Assert.Equal("hold-rule-there", (await sunita.Act("/cage/ahead/lay", lay)).Code);

        // Exactly what a scan of all that stands here finds.
        await using (var db = server.Db())
        {
            var kita = await db.Vendors.Where(v => v.Code == "KITA").Select(v => v.Id).SingleAsync();
            var standing = await db
                .Balances.Where(b => b.Quantity > 0 && db.Lots.Any(l => l.Id == b.LotId && l.SiteId == 1 && l.VendorId == kita))
                .ToListAsync();
            var holds = await For(why);
            Assert.Equal(standing.Sum(b => b.Quantity), holds.Sum(h => h.Quantity));
            Assert.Equal(standing.Select(b => (b.ItemId, b.BatchId)).Distinct().Count(), holds.Count);
            Assert.All(holds, h => Assert.Equal("The vendor warns", h.Because));
        }

        Assert.NotEqual(Standing.Usable, await Of("AH-1"));
        Assert.True((await wanjiru.Act("/door/count", BenchHands.Knives("AH-2", "4"))).IsOk);
        Assert.Equal(Standing.Held, await Of("AH-2"));
        var came = Assert.Single(await For(why), h => h is { Reason: HoldReason.Rule, Quantity: 4 });
        Assert.Equal("conditions-open", (await wanjiru.Act("/cage/lift", new { hold = came.Number })).Code);
        // Twice holds nothing twice.
        var before = (await For(why)).Count;
        var again = await sunita.Act("/cage/ahead/hold-here", new { id = await Id(sunita, why) });
        Assert.Equal("Nothing of it stands here that is not held for that.", again["sentence"].GetString());
        Assert.Equal(before, (await For(why)).Count);

        // It is no rule: it is neither listed, nor changed, nor ended as one.
        var id = await Id(sunita, why);
        Assert.DoesNotContain(why, (await sunita.Ask("/cage/rules"))["rules"].ToString(), StringComparison.Ordinal);
        var asRule = new
        {
            rule = id,
            why = "odd",
            signer = "sunita",
            password = "sunita-mud-06",
        };
        Assert.Equal("not-found", (await sunita.Act("/cage/rules/end", asRule)).Code);

        Assert.Equal("right-missing", (await sunita.Act("/cage/ahead/end", new { id, why = "it was good" })).Code);
        Assert.Equal("reason-missing", (await wanjiru.Act("/cage/ahead/end", new { id, why = " " })).Code);
        Assert.True((await wanjiru.Act("/cage/ahead/end", new { id, why = "it was good" })).IsOk);
        Assert.Equal("not-found", (await wanjiru.Act("/cage/ahead/end", new { id, why = "again" })).Code);
        Assert.True((await wanjiru.Act("/door/count", BenchHands.Knives("AH-3", "4"))).IsOk);
        Assert.NotEqual(Standing.Held, await Of("AH-3"));
        Assert.Equal(Standing.Held, await Of("AH-2"));
        var told = (await wanjiru.Ask($"/book/ledger?text={Uri.EscapeDataString(why)}")).Body.ToString();
        Assert.Contains("it was good", told, StringComparison.Ordinal);
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>Goods that somebody holds by hand for the same words are held by it too: that hold wants nothing.</summary>
    [Fact]
    public async Task What_is_held_by_hand_for_the_same_reason_is_held_as_it_says_too()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True((await wanjiru.Act("/door/count", BenchHands.Knives("AH-9", "6"))).IsOk);
        long balance;
        await using (var db = server.Db())
            balance = await db
                .Balances.Where(b => b.Quantity > 0 && db.Batches.Any(x => x.Id == b.BatchId && x.SourceBatch!.Number == "AH-9"))
                .Select(b => b.Id)
                .SingleAsync();
        var byHand = await wanjiru.Act("/cage/hold", new { balance, because = "Somebody complains" });
        Assert.True(byHand.IsOk, byHand.Body.ToString());
        var laid = await wanjiru.Act(
            "/cage/ahead/lay",
            new
            {
                item = "GK-07",
                because = "Somebody complains",
                alsoHere = true,
            }
        );
        Assert.True(laid.IsOk, laid.Body.ToString());
        await using (var db = server.Db())
        {
            var holds = await db
                .Holds.Where(h => h.IsOpen && db.Batches.Any(x => x.Id == h.BatchId && x.SourceBatch!.Number == "AH-9"))
                .OrderBy(h => h.Id)
                .ToListAsync();
            Assert.Equal([0, 1], holds.Select(h => h.Besides.Count));
            Assert.All(holds, h => Assert.Equal(("Somebody complains", 6m), (h.Because, h.Quantity)));
        }

        var id = await Id(wanjiru, "Somebody complains");
        Assert.True((await wanjiru.Act("/cage/ahead/end", new { id, why = "cleared up" })).IsOk);
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>A condition that a hold on what comes wants is met before goods counted aside are free, whatever is decided.</summary>
    [Fact]
    public async Task An_order_line_is_held_as_it_comes_and_a_decision_does_not_decide_that_away()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        string order;
        int line;
        await using (var db = server.Db())
        {
            var of = await db
                .ManifestLines.Where(m => db.Arrivals.Any(a => a.Id == m.ArrivalId && a.Number == "A-2617") && m.Part!.Line!.Order != null)
                .Where(m => db.Items.Any(i => i.Id == m.Part!.ItemId && i.Code == "SD-MUS"))
                .Select(m => new { m.Part!.Line!.Order!.Number, Line = m.Part.Line.Number })
                .FirstAsync();
            (order, line) = (of.Number, of.Line);
        }

        Assert.Equal("not-found", (await wanjiru.Act("/cage/ahead/lay", new { order = "PO-0", why = "late papers" })).Code);
        Assert.Equal("order-line-unclear", (await wanjiru.Act("/cage/ahead/lay", new { line, why = "late papers" })).Code);
        Assert.Equal(
            "order-line-unclear",
            (
                await wanjiru.Act(
                    "/cage/ahead/lay",
                    new
                    {
                        order,
                        line = 99,
                        why = "late papers",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "order-line-unclear",
            (
                await wanjiru.Act(
                    "/cage/ahead/lay",
                    new
                    {
                        order,
                        line,
                        vendor = "KITA",
                        why = "late papers",
                    }
                )
            ).Code
        );
        var laid = await wanjiru.Act(
            "/cage/ahead/lay",
            new
            {
                order,
                line,
                why = "late papers",
                alsoHere = false,
            }
        );
        Assert.True(laid.IsOk, laid.Body.ToString());
        Assert.Contains($"line {line} of {order}", laid["sentence"].GetString());
        Assert.Empty(await For("late papers"));

        Assert.True((await wanjiru.Act("/door/count", LotTests.Sacks("2", "LP-1", "Damaged", "torn"))).IsOk);
        Hold aside;
        await using (var db = server.Db())
            aside = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        Assert.Equal((HoldReason.CountedAside, "late papers"), (aside.Reason, aside.Besides.Single().Rule));
        var released = await wanjiru.Act(
            "/cage/decide",
            new
            {
                hold = aside.Number,
                decision = "ReleaseUnderConcession",
                quantity = "50",
                note = "only the sack",
                askedBy = "Perrow Gardens",
                forWhom = "C-20417",
            }
        );
        Assert.True(released.IsOk, released.Body.ToString());
        Assert.Equal(Standing.Held, await Of("LP-1"));
        Assert.True((await wanjiru.Act("/cage/ahead/end", new { id = await Id(wanjiru, "late papers"), why = "they are here" })).IsOk);
        Assert.Empty((await server.Check()).Faults);
    }

    [Theory]
    [InlineData("""{"why":"odd"}""", "hold-rule-empty")]
    [InlineData("""{"item":"GK-07"}""", "note-missing")]
    [InlineData("""{"item":"GK-07","because":"Bewitched"}""", "hold-reason-unknown")]
    [InlineData("""{"item":"Moon rock","why":"odd"}""", "not-found")]
    [InlineData("""{"vendor":"Nobody","why":"odd"}""", "not-found")]
    [InlineData("""{"item":"GK-07","why":"odd","wants":[{"kind":"Signature","what":"","of":"See"}]}""", "condition-absurd")]
    public async Task What_cannot_be_held_as_it_comes_gets_a_sentence_and_nothing_is_kept(string body, string code)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal(code, (await wanjiru.Act("/cage/ahead/lay", System.Text.Json.Nodes.JsonNode.Parse(body)!)).Code);
        await using var db = server.Db();
        Assert.Equal(0, await db.HoldRules.CountAsync(r => r.IsByHand && r.Name == "odd"));
    }

    [Fact]
    public async Task A_hold_by_hand_goes_by_the_sites_list_of_reasons()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var anselm = await server.SignIn("anselm");
        Assert.Equal("cage-settings-absurd", (await anselm.Act("/site/cage", new { reasons = "Rusty\nrusty" })).Code);
        var usual = string.Join('\n', (await wanjiru.Ask("/cage/choices"))["reasons"].EnumerateArray().Select(r => r.GetString()));
        Assert.True((await anselm.Act("/site/cage", new { reasons = "Rusty\n\n  Bent \n" })).IsOk);
        Assert.Equal(["Rusty", "Bent"], (await wanjiru.Ask("/cage/choices"))["reasons"].EnumerateArray().Select(r => r.GetString()!));
        long balance;
        await using (var db = server.Db())
            balance = await db
                .Balances.Where(b => b.Quantity > 1 && b.Standing == Standing.Usable && b.UnitId == null && b.Serial == null)
                .Where(b => db.Lots.Any(l => l.Id == b.LotId && l.SiteId == 1))
                .Select(b => b.Id)
                .FirstAsync();
        Assert.Equal("hold-reason-unknown", (await wanjiru.Act("/cage/hold", new { balance, because = "Damaged" })).Code);
        Assert.Equal("note-missing", (await wanjiru.Act("/cage/hold", new { balance, why = "" })).Code);
        var held = await wanjiru.Act(
            "/cage/hold",
            new
            {
                balance,
                quantity = "1",
                because = "bent",
            }
        );
        Assert.True(held.IsOk, held.Body.ToString());
        var hold = Assert.Single(await For("Bent"));
        Assert.Equal("Bent", hold.Because);
        var reasons = (await wanjiru.Ask("/cage/holds"))["figures"].GetProperty("reasons").EnumerateArray().ToList();
        Assert.Equal(1, reasons.Single(r => r.GetProperty("reason").GetString() == "Bent").GetProperty("count").GetInt32());
        // Who leaves the list alone leaves it as it is.
        Assert.True((await anselm.Act("/site/cage", new { secondAbove = (string?)null })).IsOk);
        Assert.Equal(2, (await wanjiru.Ask("/cage/choices"))["reasons"].GetArrayLength());
        Assert.True((await anselm.Act("/site/cage", new { reasons = usual })).IsOk);
    }

    /// <summary>Every end of the weeks shown, reckoned from the holds one by one.</summary>
    [Theory]
    [InlineData("2026-03-09")]
    [InlineData("2026-03-20")]
    [InlineData("2017-01-02")]
    public async Task The_calendar_has_what_ends_on_its_days_and_says_how_much_lies_outside(string from)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var calendar = await wanjiru.Ask($"/cage/calendar?from={from}");
        var days = calendar["days"].EnumerateArray().ToList();
        Assert.Equal(35, days.Count);
        Assert.Equal("2026-03-10", calendar["today"].GetString());
        var (first, last) = (days[0].GetProperty("on").GetDateTime(), days[^1].GetProperty("on").GetDateTime());
        Assert.Equal(DayOfWeek.Monday, first.DayOfWeek);
        await using var db = server.Db();
        var open = await db.Holds.Where(h => h.SiteId == 1 && h.IsOpen && h.Decision == null && h.Until != null).ToListAsync();
        var now = new DateTimeOffset((await wanjiru.Ask("/cage/holds"))["now"].GetDateTime(), TimeSpan.Zero);
        // Ends of this March and April: Greenwich time until the 29th, an hour more from then on.
        var over = open.Where(h => h.Until > now)
            .Select(h =>
                (h.Number, On: h.Until!.Value.AddHours(h.Until >= new DateTimeOffset(2026, 3, 29, 1, 0, 0, TimeSpan.Zero) ? 1 : 0).Date)
            )
            .Where(e => e.On >= first && e.On <= last)
            .Order();
        Assert.Equal(
            over,
            days.SelectMany(d =>
                    d.GetProperty("events")
                        .EnumerateArray()
                        .Where(e => e.GetProperty("kind").GetString() == "TimeOver")
                        .Select(e => (e.GetProperty("hold").GetString()!, On: d.GetProperty("on").GetDateTime()))
                )
                .Order()
        );
        var total = calendar["before"].GetInt32() + calendar["behind"].GetInt32() + days.Sum(d => d.GetProperty("events").GetArrayLength());
        Assert.True(total >= over.Count());
        var sunday = days[6];
        Assert.Equal(
            ("Off", days[7].GetProperty("on").GetString()),
            (sunday.GetProperty("works").GetString(), sunday.GetProperty("workedOn").GetString())
        );
    }
}
