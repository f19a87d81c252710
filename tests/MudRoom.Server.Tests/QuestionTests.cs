using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Book;
using MudRoom.Server.Acts;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>What a receiver cannot settle, what is on no order, units that were announced, and tallies posted in part or opened
/// again.</summary>
public sealed class QuestionTests(DemoServer server) : IClassFixture<DemoServer>
{
    static object Over(string packs) => Client.Count(packs, item: "SP-DG", pack: "each");

    static async Task<int> LastQuestion(Client client, string arrival = "A-2618") =>
        (await client.Ask($"/door/tally/{arrival}"))["questions"].EnumerateArray().Max(q => q.GetProperty("id").GetInt32());

    [Fact]
    public async Task More_than_may_pass_waits_for_a_yes_and_is_counted_for_the_one_who_asked()
    {
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal("over", (await maren.Act("/door/count", Over("500"))).Code);
        Assert.True(
            (
                await maren.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2618",
                        kind = "Over",
                        count = Over("500"),
                    }
                )
            ).IsOk
        );
        var question = await LastQuestion(maren);
        Assert.Equal(
            "right-missing",
            (
                await maren.Act(
                    "/door/answer",
                    new
                    {
                        question,
                        yes = true,
                        bind = false,
                    }
                )
            ).Code
        );
        Assert.Contains((await wanjiru.Ask("/door/questions")).Body.EnumerateArray(), q => q.GetProperty("id").GetInt32() == question);
        Assert.True(
            (
                await wanjiru.Act(
                    "/door/answer",
                    new
                    {
                        question,
                        yes = true,
                        bind = false,
                    }
                )
            ).IsOk
        );
        await using var db = server.Db();
        var entry = await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync(e => e.Quantity > 100);
        Assert.StartsWith("Maren", entry.PersonName, StringComparison.Ordinal);
        Assert.Equal(
            "decided",
            (
                await wanjiru.Act(
                    "/door/answer",
                    new
                    {
                        question,
                        yes = true,
                        bind = false,
                    }
                )
            ).Code
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_no_wants_a_sentence_and_counts_nothing()
    {
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        await maren.Act(
            "/door/ask",
            new
            {
                arrival = "A-2618",
                kind = "Over",
                count = Over("900"),
            }
        );
        var question = await LastQuestion(maren);
        await using var db = server.Db();
        var before = await db.TallyEntries.CountAsync();
        Assert.Equal(
            "note-missing",
            (
                await wanjiru.Act(
                    "/door/answer",
                    new
                    {
                        question,
                        yes = false,
                        bind = false,
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/door/answer",
                    new
                    {
                        question,
                        yes = false,
                        bind = false,
                        note = "leave them aboard",
                    }
                )
            ).IsOk
        );
        Assert.Equal(before, await db.TallyEntries.CountAsync());
    }

    [Fact]
    public async Task An_unknown_code_is_answered_bound_and_counts_itself_and_is_known_for_ever_after()
    {
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal("Unknown", (await maren.Ask("/scan?text=STRANGE-7&arrival=A-2618"))["kind"].GetString());
        Assert.True(
            (
                await maren.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2618",
                        kind = "UnknownCode",
                        code = "STRANGE-7",
                        packs = "2",
                    }
                )
            ).IsOk
        );
        var question = await LastQuestion(maren);
        var answered = await wanjiru.Act(
            "/door/answer",
            new
            {
                question,
                yes = true,
                item = "HH-16",
                pack = "each",
                bind = true,
            }
        );
        Assert.True(answered.IsOk, answered.Body.ToString());
        Assert.StartsWith("Yes. 2 each", answered["sentence"].GetString(), StringComparison.Ordinal);
        var reading = await maren.Ask("/scan?text=STRANGE-7&arrival=A-2618");
        Assert.Equal("HH-16", reading["item"].GetProperty("code").GetString());
        Assert.Equal(
            "code-known",
            (
                await maren.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2618",
                        kind = "UnknownCode",
                        code = "STRANGE-7",
                        packs = "2",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "code-known",
            (
                await wanjiru.Act(
                    "/door/bind",
                    new
                    {
                        code = "STRANGE-7",
                        item = "FK-DG",
                        pack = "each",
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task A_label_with_an_unknown_gtin_is_asked_about_and_counted_with_all_that_it_says()
    {
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        const string label = "(01)04012345999990(11)260218(15)270812(10)PH-9999(422)356";
        var unknown = await maren.Ask($"/scan?arrival=A-2617&text={Uri.EscapeDataString(label)}");
        Assert.Equal(("Unknown", label), (unknown["kind"].GetString(), unknown["code"].GetString()));
        Assert.Contains("source batch PH-9999", unknown["words"].GetString(), StringComparison.Ordinal);
        Assert.True(
            (
                await maren.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2617",
                        kind = "UnknownCode",
                        code = label,
                        packs = "1",
                    }
                )
            ).IsOk
        );
        var answered = await wanjiru.Act(
            "/door/answer",
            new
            {
                question = await LastQuestion(maren, "A-2617"),
                yes = true,
                item = "SD-FEN",
                pack = "sack",
                bind = true,
            }
        );
        Assert.StartsWith("Yes. 1 sack, 25 kg of Fenugreek", answered["sentence"].GetString(), StringComparison.Ordinal);
        await using var db = server.Db();
        var source = await db.SourceBatches.SingleAsync(b => b.Number == "PH-9999");
        Assert.Equal((new DateOnly(2027, 8, 12), "IN"), (source.BestBefore!.Value, source.Origin));
        Assert.Equal("SD-FEN", (await maren.Ask("/scan?text=04012345999990"))["item"].GetProperty("code").GetString());
    }

    [Fact]
    public async Task A_code_that_two_items_have_is_asked_about_those_aboard_first()
    {
        using var maren = await server.SignIn("maren");
        await using (var db = server.Db())
        {
            var vendors = await db.Vendors.OrderBy(v => v.Id).Take(2).ToListAsync();
            var items = await db.Items.AsTracking().Where(i => i.Code == "FK-DG" || i.Code == "BC-24").ToListAsync();
            for (var i = 0; i < 2; i++)
                items[i].VendorCodes.Add(new Core.Site.VendorCode { VendorId = vendors[i].Id, Code = "100-200" });
            await db.SaveChangesAsync();
        }

        // Written past every act: nobody has told the set-up.
        server.App.Services.GetRequiredService<SetUpStore>().Drop();
        var which = await maren.Ask("/scan?text=100-200&arrival=A-2618");
        Assert.Equal("100-200 stands for 2 items. Which is it?", which["words"].GetString());
        Assert.Equal(
            [("FK-DG", true), ("BC-24", false)],
            which["several"].EnumerateArray().Select(c => (c.GetProperty("code").GetString()!, c.GetProperty("aboard").GetBoolean()))
        );
        Assert.Equal("FK-DG", (await maren.Ask("/scan?text=100-200&arrival=A-2618&item=FK-DG"))["item"].GetProperty("code").GetString());
        Assert.Equal(
            "not-on-arrival",
            (await maren.Ask("/scan?text=100-200&arrival=A-2618&item=BC-24"))["problem"].GetProperty("code").GetString()
        );
    }

    [Fact]
    public async Task A_delivery_note_that_was_given_is_known_when_it_is_scanned_again()
    {
        using var maren = await server.SignIn("maren");
        var vendor = (await maren.Ask("/door/tally/A-2617"))["vendors"][0];
        Assert.Equal("Unknown", (await maren.Ask("/scan?text=DN-55&arrival=A-2617"))["kind"].GetString());
        Assert.True(
            (
                await maren.Act(
                    "/door/delivery-note",
                    new
                    {
                        arrival = "A-2617",
                        vendorId = vendor.GetProperty("id").GetInt32(),
                        note = "DN-55",
                    }
                )
            ).IsOk
        );
        var known = await maren.Ask("/scan?text=DN-55&arrival=A-2617");
        Assert.Equal(
            $"Delivery note DN-55 of {vendor.GetProperty("name").GetString()}: it is noted for A-2617.",
            known["words"].GetString()
        );
        Assert.Equal("Unknown", (await maren.Ask("/scan?text=DN-55&arrival=A-2618"))["kind"].GetString());
    }

    [Fact]
    public async Task A_gtin_is_bound_with_its_check_digit_and_read_in_every_form()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal(
            "right-missing",
            (
                await (await server.SignIn("maren")).Act(
                    "/door/bind",
                    new
                    {
                        code = "04012345123456",
                        item = "HH-16",
                        pack = "each",
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/door/bind",
                    new
                    {
                        code = "4012345123456",
                        item = "HH-16",
                        pack = "each",
                    }
                )
            ).IsOk
        );
        foreach (var form in new[] { "4012345123456", "04012345123456", "(01)04012345123456(10)L7" })
            Assert.Equal("HH-16", (await wanjiru.Ask($"/scan?text={Uri.EscapeDataString(form)}"))["item"].GetProperty("code").GetString());
    }

    [Theory]
    [InlineData(null, "code-unknown")]
    [InlineData("  ", "code-unknown")]
    [InlineData("D1-R1", "code-known")]
    [InlineData("4012345123450", "check-digit")]
    [InlineData("(01)4012345123450", "element-short")]
    public async Task What_is_no_code_of_goods_is_not_bound(string? code, string refused)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal(
            refused,
            (
                await wanjiru.Act(
                    "/door/bind",
                    new
                    {
                        code,
                        item = "HH-16",
                        pack = "each",
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task A_question_is_of_the_tally_it_is_asked_at_and_serials_of_items_that_have_them()
    {
        using var maren = await server.SignIn("maren");
        Assert.Equal(
            "other-arrival",
            (
                await maren.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2618",
                        kind = "Over",
                        count = Client.Count("500", "A-2617", "SP-DG", "each"),
                    }
                )
            ).Code
        );
        Assert.Equal(
            "serials-unasked",
            (await maren.Act("/door/count", Client.Count("1", item: "HH-16", pack: "each", more: new { serials = "1 to 3" }))).Code
        );
        Assert.Equal(
            "unit-unknown",
            (
                await maren.Act(
                    "/door/count-unit",
                    new
                    {
                        arrival = "A-2618",
                        sscc = (string?)null,
                        earlyAllowed = false,
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task Goods_on_no_order_are_taken_aside_for_their_vendor_and_held()
    {
        using var maren = await server.SignIn("maren");
        Assert.Equal("not-on-arrival", (await maren.Act("/door/count", Client.Count("3", item: "GP-24", pack: "each"))).Code);
        var counted = await maren.Act(
            "/door/count",
            Client.Count("3", item: "GP-24", pack: "each", more: new { aside = "NotOnOrder", vendor = "LAMG" })
        );
        Assert.True(counted.IsOk, counted.Body.ToString());
        Assert.Equal("held", counted["standing"].GetString());
        Assert.Equal(
            "not-found",
            (
                await maren.Act(
                    "/door/count",
                    Client.Count("3", item: "GP-24", pack: "each", more: new { aside = "NotOnOrder", vendor = "NOBODY" })
                )
            ).Code
        );
        Assert.Contains((await maren.Ask("/door/tally/A-2618"))["discrepancies"].EnumerateArray(), d =>
            d.GetProperty("kind").GetString() == "NotOnOrder"
        );
        Assert.True(
            (
                await maren.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2618",
                        count = (Guid?)null,
                        reason = "wrong",
                    }
                )
            ).IsOk
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task What_nobody_can_name_is_put_aside_in_words_and_named_later()
    {
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal(
            "note-missing",
            (
                await maren.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2618",
                        kind = "UnknownItem",
                        packs = "4",
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await maren.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2618",
                        kind = "UnknownItem",
                        packs = "4",
                        note = "green tins, no print",
                    }
                )
            ).IsOk
        );
        Assert.Contains((await maren.Ask("/door/tally/A-2618"))["discrepancies"].EnumerateArray(), d =>
            d.GetProperty("kind").GetString() == "UnknownItem" && d.GetProperty("item").GetString() == "not known yet"
        );
        var answered = await wanjiru.Act(
            "/door/answer",
            new
            {
                question = await LastQuestion(maren),
                yes = true,
                item = "FK-DG",
                pack = "each",
                bind = false,
            }
        );
        Assert.True(answered.IsOk, answered.Body.ToString());
        Assert.DoesNotContain((await maren.Ask("/door/tally/A-2618"))["discrepancies"].EnumerateArray(), d =>
            d.GetProperty("sentence").GetString() == "green tins, no print"
        );
    }

    [Fact]
    public async Task A_picture_taken_with_a_question_is_seen_by_who_answers_and_stays_with_the_goods_once_they_are_named()
    {
        using var leila = await server.SignIn("leila");
        using var wanjiru = await server.SignIn("wanjiru");
        var asking = Guid.NewGuid();
        Assert.True(
            (
                await leila.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2617",
                        kind = "UnknownItem",
                        packs = "2",
                        note = "a blue drum",
                    },
                    asking
                )
            ).IsOk
        );
        var picture = await leila.Act(
            "/road/arrivals/attach",
            new
            {
                arrival = "A-2617",
                name = "drum.png",
                content = Convert.ToBase64String(Pictures.Png(60, 40)),
                count = asking,
            }
        );
        Assert.True(picture.IsOk, picture.Body.ToString());
        var id = picture["id"].GetInt32();
        var row = (await wanjiru.Ask("/door/tally/A-2617"))["questions"].EnumerateArray().First(q => q.GetProperty("open").GetBoolean());
        Assert.Equal([id], row.GetProperty("pictures").EnumerateArray().Select(p => p.GetInt32()));

        // Two vendors are aboard and no order names the goods: who answers says whose they are.
        object Named(string? vendor) =>
            new
            {
                question = row.GetProperty("id").GetInt32(),
                yes = true,
                item = "ST-CU",
                pack = "each",
                bind = false,
                vendor,
            };
        Assert.Equal("vendor-missing", (await wanjiru.Act("/door/answer", Named(null))).Code);
        Assert.True(
            (await wanjiru.Ask("/door/tally/A-2617"))["questions"]
                .EnumerateArray()
                .First(q => q.GetProperty("id").GetInt32() == row.GetProperty("id").GetInt32())
                .GetProperty("open")
                .GetBoolean()
        );
        var answered = await wanjiru.Act("/door/answer", Named("NILG"));
        Assert.True(answered.IsOk, answered.Body.ToString());
        var tally = await wanjiru.Ask("/door/tally/A-2617");
        Assert.Equal(
            "Slug trap, copper lid",
            tally["pictures"].EnumerateArray().Single(p => p.GetProperty("id").GetInt32() == id).GetProperty("item").GetString()
        );
        var counted = tally["counts"][0];
        Assert.Equal(
            ("Leila Fennimore", "held", 2m),
            (
                counted.GetProperty("person").GetString(),
                counted.GetProperty("standing").GetString(),
                counted.GetProperty("quantity").GetDecimal()
            )
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2617",
                        count = counted.GetProperty("act").GetGuid(),
                        reason = "the test is over",
                    }
                )
            ).IsOk
        );
    }

    [Fact]
    public async Task What_is_refused_at_the_door_moves_no_stock_and_stands_among_the_discrepancies()
    {
        using var maren = await server.SignIn("maren");
        await using var db = server.Db();
        var moved = await db.Ledger.CountAsync(e => e.Quantity != null);
        Assert.Equal(
            "note-missing",
            (
                await maren.Act(
                    "/door/refuse",
                    new
                    {
                        arrival = "A-2618",
                        packs = "2",
                        reason = "",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "item-unknown",
            (
                await maren.Act(
                    "/door/refuse",
                    new
                    {
                        arrival = "A-2618",
                        item = "NOTHING",
                        packs = "2",
                        reason = "wet",
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await maren.Act(
                    "/door/refuse",
                    new
                    {
                        arrival = "A-2618",
                        item = "FK-DG",
                        packs = "2",
                        reason = "soaked through",
                    }
                )
            ).IsOk
        );
        Assert.Equal(moved, await db.Ledger.CountAsync(e => e.Quantity != null));
        Assert.Contains((await maren.Ask("/door/tally/A-2618"))["discrepancies"].EnumerateArray(), d =>
            d.GetProperty("kind").GetString() == "Refused"
        );
    }

    [Fact]
    public async Task A_range_of_serials_is_counted_whole_or_not_at_all()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        Assert.True((await wanjiru.BringVan()).IsOk);
        object Range(string serials) => Client.Count("1", "A-2624", "IC-08", "each", new { serials });
        var counted = await maren.Act("/door/count", Range("IC-0101 to IC-0106"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        Assert.Equal(6, counted["quantity"].GetInt32());
        Assert.Equal("serial-here", (await maren.Act("/door/count", Range("IC-0104 to IC-0109"))).Code);
        await using var db = server.Db();
        Assert.Equal(6, await db.Balances.CountAsync(b => b.Serial!.StartsWith("IC-01")));
        Assert.True(
            (
                await maren.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2624",
                        count = (Guid?)null,
                        reason = "all of them",
                    }
                )
            ).IsOk
        );
        Assert.Equal(0, await db.Balances.CountAsync(b => b.Serial!.StartsWith("IC-01")));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Attributes_are_checked_kept_with_the_source_batch_and_cannot_contradict()
    {
        using var leila = await server.SignIn("leila");
        Task<Answer> Seed(params (string Name, string Value)[] typed) =>
            leila.Act(
                "/door/count",
                Client.Count(
                    "1",
                    "A-2617",
                    "SD-PHA",
                    "each",
                    new
                    {
                        sourceBatch = "ATT-1",
                        production = "2025-10-02",
                        bestBefore = "2027-03-31",
                        origin = "IN",
                        attributes = typed.ToDictionary(t => t.Name, t => t.Value),
                    }
                )
            );
        Assert.Equal("attribute-wrong", (await Seed(("Germination", "130"))).Code);
        Assert.Equal("attribute-unknown", (await Seed(("Height", "3"))).Code);
        Assert.True((await Seed(("Germination", "94.50"), ("Field", "north"))).IsOk);
        Assert.Equal("batch-attribute-differs", (await Seed(("Germination", "80"))).Code);
        await using var db = server.Db();
        Assert.Equal("94.5", (await db.SourceBatches.SingleAsync(b => b.Number == "ATT-1")).Attributes["Germination"]);
    }

    [Fact]
    public async Task What_was_entered_wrongly_of_a_source_batch_is_corrected_later_and_the_old_values_stay_in_the_book()
    {
        using var leila = await server.SignIn("leila");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True(
            (
                await leila.Act(
                    "/door/count",
                    Client.Count(
                        "1",
                        "A-2617",
                        "SD-PHA",
                        "each",
                        new
                        {
                            sourceBatch = "WRONG-1",
                            batch = "PH-WRONG",
                            production = "2025-10-02",
                            bestBefore = "2027-03-31",
                            origin = "IN",
                        }
                    )
                )
            ).IsOk
        );
        await using var db = server.Db();
        var id = (await db.SourceBatches.SingleAsync(b => b.Number == "WRONG-1")).Id;
        object Right(
            string number = "RIGHT-1",
            string bestBefore = "2027-01-31",
            string reason = "read again from the sack",
            string origin = "India"
        ) =>
            new
            {
                id,
                number,
                production = "2025-10-02",
                bestBefore,
                expiry = "",
                origin,
                attributes = new Dictionary<string, string> { ["Germination"] = "91" },
                reason,
            };
        Assert.Equal("right-missing", (await leila.Act("/book/source-batch", Right())).Code);
        Assert.Equal("note-missing", (await wanjiru.Act("/book/source-batch", Right(reason: " "))).Code);
        Assert.Equal("dates-swapped", (await wanjiru.Act("/book/source-batch", Right(bestBefore: "2025-01-31"))).Code);
        Assert.Equal("country-unknown", (await wanjiru.Act("/book/source-batch", Right(origin: "Atlantis"))).Code);
        Assert.Equal(
            "not-found",
            (
                await wanjiru.Act(
                    "/book/source-batch",
                    new
                    {
                        id = 99999,
                        number = "X",
                        reason = "x",
                    }
                )
            ).Code
        );
        var done = await wanjiru.Act("/book/source-batch", Right());
        Assert.True(done.IsOk, done.Body.ToString());
        Assert.Contains(
            "number WRONG-1 → RIGHT-1; best before 2027-03-31 → 2027-01-31; Germination blank → 91",
            done["sentence"].GetString(),
            StringComparison.Ordinal
        );
        Assert.Equal("nothing-changed", (await wanjiru.Act("/book/source-batch", Right())).Code);
        Assert.Equal(new DateOnly(2027, 1, 31), (await db.Batches.AsNoTracking().SingleAsync(b => b.Number == "PH-WRONG")).Expiry);
        var shown = await wanjiru.Ask($"/book/source-batch/{id}");
        Assert.Contains("read again from the sack", shown["corrections"][0].GetProperty("sentence").GetString(), StringComparison.Ordinal);
        foreach (var number in new[] { "PH-WRONG", "RIGHT-1" })
            Assert.Contains(
                "best before 2027-03-31 → 2027-01-31",
                (await leila.Ask("/book/ledger?text=" + number))["rows"][0].GetProperty("sentence").GetString(),
                StringComparison.Ordinal
            );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_badge_and_its_pin_change_the_person_and_wrong_pins_lock_it()
    {
        using var anselm = await server.SignIn("anselm");
        using var device = new Client(server.Url);
        await device.LoadToken();
        Assert.Equal("sign-in-failed", (await device.Post("/api/session/badge", new { badge = "BADGE-004", pin = "9999" })).Code);
        Assert.True((await device.Post("/api/session/badge", new { badge = "BADGE-004", pin = "1004" })).IsOk);
        await device.LoadToken();
        Assert.Equal("Maren Oduya", Name(await Client.Read(await device.Http.GetAsync("/api/session"))));
        Assert.True((await device.Post("/api/session/badge", new { badge = "BADGE-003", pin = "1003" })).IsOk);
        await device.LoadToken();
        Assert.Equal("Leila Fennimore", Name(await Client.Read(await device.Http.GetAsync("/api/session"))));
        for (var i = 0; i < 5; i++)
            await device.Post("/api/session/badge", new { badge = "BADGE-010", pin = "0000" });
        Assert.Equal("badge-locked", (await device.Post("/api/session/badge", new { badge = "BADGE-010", pin = "1010" })).Code);
        // The person's password is not locked by it, nor the badge of anybody else on this device.
        using (var callum = await server.SignIn("callum"))
            Assert.True((await callum.Ask("/house")).IsOk);
        Assert.True((await device.Post("/api/session/badge", new { badge = "BADGE-003", pin = "1003" })).IsOk);
        await device.LoadToken();

        Assert.Equal(
            "pin-shape",
            (
                await anselm.Act(
                    "/site/people/badge",
                    new
                    {
                        signInName = "petra",
                        badge = "BADGE-NEW",
                        pin = "12",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "badge-taken",
            (
                await anselm.Act(
                    "/site/people/badge",
                    new
                    {
                        signInName = "petra",
                        badge = "BADGE-004",
                        pin = "1234",
                    }
                )
            ).Code
        );
        Assert.True((await anselm.Act("/site/people/badge", new { signInName = "petra", badge = "" })).IsOk);
        Assert.Equal("sign-in-failed", (await device.Post("/api/session/badge", new { badge = "BADGE-008", pin = "1008" })).Code);
        static string? Name(Answer answer) => answer["name"].GetString();
    }

    [Fact]
    public async Task A_tally_is_posted_in_part_closed_and_opened_again_until_its_goods_go_further()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-PARTLY",
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
        );
        var arrival = (
            await maren.Act(
                "/door/open-on-the-spot",
                new
                {
                    orders = new[] { "PO-PARTLY" },
                    vehicle = "truck",
                    door = 4,
                    atOnce = true,
                    notIso6346 = false,
                    unplanned = true,
                    deliveryNote = "Q-77",
                }
            )
        )["number"].GetString()!;
        object Close(bool partly, object[]? decisions = null) =>
            new
            {
                arrival,
                decisions = decisions ?? [],
                deliveryNotes = Array.Empty<object>(),
                partly,
            };
        Assert.Equal("nothing-counted", (await maren.Act("/door/close", Close(true))).Code);
        Assert.True((await maren.Act("/door/count", Client.Count("8", arrival, "PF-50", "each"))).IsOk);
        var part = await maren.Act("/door/close", Close(true));
        Assert.True(part.IsOk, part.Body.ToString());
        Assert.Single(part["receipts"].EnumerateArray());
        Assert.Equal("AtDoor", (await maren.Ask($"/door/tally/{arrival}"))["card"].GetProperty("state").GetString());
        Assert.Equal("posted", (await maren.Act("/door/take-back", new { arrival })).Code);
        Assert.True((await maren.Act("/door/count", Client.Count("7", arrival, "PF-50", "each"))).IsOk);
        Assert.Equal("lines-undecided", (await maren.Act("/door/close", Close(false))).Code);
        var line = (await maren.Ask($"/door/tally/{arrival}"))["manifest"][0].GetProperty("id").GetInt32();
        Assert.True((await maren.Act("/door/close", Close(false, [new { manifestLine = line, decision = "NeverComing" }]))).IsOk);
        Assert.Equal("tally-closed", (await maren.Act("/door/count", Client.Count("1", arrival, "PF-50", "each"))).Code);
        Assert.Equal("right-missing", (await maren.Act("/door/reopen", new { arrival, reason = "one more" })).Code);
        Assert.Equal("note-missing", (await wanjiru.Act("/door/reopen", new { arrival, reason = "" })).Code);
        var reopened = await wanjiru.Act("/door/reopen", new { arrival, reason = "five more were behind the ramp" });
        Assert.True(reopened.IsOk, reopened.Body.ToString());
        Assert.True((await maren.Act("/door/count", Client.Count("5", arrival, "PF-50", "each"))).IsOk);
        Assert.True((await maren.Act("/door/close", Close(false))).IsOk);
        await using var db = server.Db();
        Assert.Equal(Core.Road.OrderState.Complete, (await db.Orders.SingleAsync(o => o.Number == "PO-PARTLY")).State);
        Assert.Equal(2, await db.Receipts.CountAsync(r => r.ReversedAt != null));

        // Once some of it has left the receiving place, what must be undone first is named.
        var id = (await db.Arrivals.SingleAsync(a => a.Number == arrival)).Id;
        var entry = await db.TallyEntries.FirstAsync(e => e.ArrivalId == id && e.TakenBackAt == null);
        var balance = await db.Balances.FirstAsync(b =>
            b.ItemId == entry.ItemId && b.BatchId == entry.BatchId && b.BinId == entry.BinId && b.Standing == Standing.Usable
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/book/issue",
                    new
                    {
                        balance = balance.Id,
                        quantity = balance.Quantity.ToString("0.###"),
                        to = "Job",
                        reference = "J-1",
                    }
                )
            ).IsOk
        );
        var refused = await wanjiru.Act("/door/reopen", new { arrival, reason = "again" });
        Assert.Equal("gone-further", refused.Code);
        Assert.Contains("left D4", refused.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_open_question_keeps_the_tally_open()
    {
        using var maren = await server.SignIn("maren");
        await maren.Act(
            "/door/ask",
            new
            {
                arrival = "A-2620",
                kind = "UnknownItem",
                packs = "1",
                note = "a box without a label",
            }
        );
        var lines = (await maren.Ask("/door/tally/A-2620"))["manifest"]
            .EnumerateArray()
            .Select(m => new { manifestLine = m.GetProperty("id").GetInt32(), decision = "MoreToCome" })
            .ToArray();
        var vendors = (await maren.Ask("/door/tally/A-2620"))["vendors"]
            .EnumerateArray()
            .Select(v => new { vendorId = v.GetProperty("id").GetInt32(), deliveryNote = "K-1" })
            .ToArray();
        Assert.Equal(
            "questions-open",
            (
                await maren.Act(
                    "/door/close",
                    new
                    {
                        arrival = "A-2620",
                        decisions = lines,
                        deliveryNotes = vendors,
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task One_scan_of_an_announced_unit_takes_in_all_that_stands_on_it()
    {
        // A demo of its own: the doors of the other are taken by what is tried there.
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var wanjiru = await own.SignIn("wanjiru");
        using var maren = await own.SignIn("maren");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-UNIT",
                kind = "Purchase",
                vendor = "SALT",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "CN-25",
                        quantity = "40",
                        due = "2026-03-10",
                    },
                    new
                    {
                        item = "AN-25",
                        quantity = "10",
                        due = "2026-03-10",
                    },
                },
            }
        );
        const string pallet = "340123450000009010",
            carton = "340123450000009027";
        var text = string.Join(
            "'",
            "UNB+UNOC:3+SALT:14+MUD:14+260310:0800+U1",
            "UNH+1+DESADV:D:01B:UN:EAN007",
            "BGM+351+DA-UNIT+9",
            "DTM+137:20260310:102",
            "DTM+17:20260310:102",
            "NAD+SU+SALT::92",
            "NAD+DP+LM::92",
            "CPS+1",
            "CPS+2+1",
            "PAC+1++201",
            "PCI+33E",
            $"GIN+BJ+{pallet}",
            "LIN+1",
            "PIA+1+CN-25:IN",
            "QTY+12:40:H87",
            "RFF+ON:PO-UNIT:1",
            "GIN+BX+S-700",
            "CPS+3+2",
            "PAC+1++CT",
            "PCI+33E",
            $"GIN+BJ+{carton}",
            "LIN+2",
            "PIA+1+AN-25:IN",
            "QTY+12:10:H87",
            "RFF+ON:PO-UNIT:2",
            "GIN+BX+S-701",
            "UNT+26+1",
            "UNZ+1+U1",
            ""
        );
        var imported = await wanjiru.Act("/road/import", new { name = "unit.edi", text });
        Assert.True(imported.IsOk, imported.Body.ToString());
        await using var db = own.Db();
        var arrival = (
            await db.Arrivals.SingleAsync(a => db.DespatchAdvices.Any(d => d.ArrivalId == a.Id && d.Number == "DA-UNIT"))
        ).Number;
        Assert.Equal(arrival, (await maren.Ask("/scan?text=DA-UNIT"))["arrival"].GetString());
        Assert.True((await wanjiru.Act("/road/at-door", new { arrival, door = 4 })).IsOk);
        Assert.Equal("AdvisedUnit", (await maren.Ask($"/scan?text=00{pallet}&arrival={arrival}"))["kind"].GetString());
        var left = (await maren.Ask($"/door/tally/{arrival}"))["advisedLeft"].EnumerateArray().Single();
        Assert.Contains("40 each of Calcium nitrate", left.GetProperty("holds").GetString(), StringComparison.Ordinal);
        var taken = await maren.Act(
            "/door/count-unit",
            new
            {
                arrival,
                sscc = pallet,
                earlyAllowed = false,
            }
        );
        Assert.True(taken.IsOk, taken.Body.ToString());
        Assert.Equal(
            "unit-counted",
            (
                await maren.Act(
                    "/door/count-unit",
                    new
                    {
                        arrival,
                        sscc = pallet,
                        earlyAllowed = false,
                    }
                )
            ).Code
        );
        Assert.Equal(
            "unit-unknown",
            (
                await maren.Act(
                    "/door/count-unit",
                    new
                    {
                        arrival,
                        sscc = "340123450000009034",
                        earlyAllowed = false,
                    }
                )
            ).Code
        );
        var unit = await db.Units.SingleAsync(u => u.Sscc == pallet);
        Assert.Equal(50, (await db.Balances.Where(b => b.UnitId == unit.Id).ToListAsync()).Sum(b => b.Quantity));
        Assert.Equal(
            ["S-700", "S-701"],
            await db
                .Balances.Where(b => b.UnitId == unit.Id)
                .Select(b => db.Batches.Single(x => x.Id == b.BatchId).SourceBatch!.Number)
                .OrderBy(n => n)
                .ToListAsync()
        );
        Assert.Empty((await maren.Ask($"/door/tally/{arrival}"))["advisedLeft"].EnumerateArray());
        Assert.Empty((await own.Check()).Faults);
    }

    [Fact]
    public async Task A_piece_that_is_announced_on_its_way_is_counted_from_there_and_nowhere_else()
    {
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var wanjiru = await own.SignIn("wanjiru");
        using var ikenna = await own.SignIn("ikenna");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-SER",
                kind = "Purchase",
                vendor = "TARN",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "IC-08",
                        quantity = "4",
                        due = "2026-03-10",
                    },
                },
            }
        );
        const string box = "340123450000009010";
        var text = string.Join(
            "'",
            "UNB+UNOC:3+TARN:14+MUD:14+260310:0800+S1",
            "UNH+1+DESADV:D:01B:UN:EAN007",
            "BGM+351+DA-SER+9",
            "DTM+17:20260310:102",
            "NAD+SU+TARN::92",
            "NAD+DP+LM::92",
            "CPS+1",
            "CPS+2+1",
            "PAC+1++CT",
            "PCI+33E",
            $"GIN+BJ+{box}",
            "LIN+1",
            "PIA+1+IC-08:IN",
            "QTY+12:4:H87",
            "RFF+ON:PO-SER:1",
            "GIN+BN+TW-077:TW-079+TW-090, A",
            "UNT+16+1",
            "UNZ+1+S1",
            ""
        );
        var backward = await wanjiru.Act(
            "/road/import/preview",
            new { name = "bad.edi", text = text.Replace("TW-077:TW-079", "TW-079:TW-077", StringComparison.Ordinal) }
        );
        Assert.Contains("runs backward", backward["faults"][0].ToString(), StringComparison.Ordinal);
        var imported = await wanjiru.Act("/road/import", new { name = "serials.edi", text });
        Assert.True(imported.IsOk, imported.Body.ToString());
        var arrival = imported["arrivals"][0].GetString()!;

        var stray = await ikenna.Act(
            "/door/count",
            Client.Count(
                "1",
                "A-2618",
                "IC-08",
                "each",
                new
                {
                    serial = "TW-078",
                    aside = "NotOnOrder",
                    vendor = "TARN",
                }
            )
        );
        Assert.Equal("serial-on-the-way", stray.Code);
        Assert.Contains(arrival, stray.Sentence, StringComparison.Ordinal);
        Assert.True((await wanjiru.Act("/road/at-door", new { arrival, door = 4 })).IsOk);
        var read = await ikenna.Ask($"/scan?arrival={arrival}&text={Uri.EscapeDataString("(01)09521234102731(21)TW-078")}");
        Assert.Equal(JsonValueKind.Null, read["problem"].ValueKind);
        var taken = await ikenna.Act(
            "/door/count-unit",
            new
            {
                arrival,
                sscc = box,
                earlyAllowed = false,
            }
        );
        Assert.True(taken.IsOk, taken.Body.ToString());
        await using var db = own.Db();
        Assert.Equal(
            ["TW-077", "TW-078", "TW-079", "TW-090, A"],
            await db.Balances.Where(b => b.Serial!.StartsWith("TW-0")).Select(b => b.Serial).OrderBy(s => s).ToListAsync()
        );
        Assert.Equal(
            "serial-here",
            (await ikenna.Ask($"/scan?arrival={arrival}&text={Uri.EscapeDataString("(01)09521234102731(21)TW-078")}"))["problem"]
                .GetProperty("code")
                .GetString()
        );
        Assert.Empty((await own.Check()).Faults);
    }

    [Fact]
    public async Task Goods_of_a_vendor_nobody_expected_get_a_receipt_of_their_own_and_parts_of_a_tally_share_a_delivery_note()
    {
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var ikenna = await own.SignIn("ikenna");
        using var wanjiru = await own.SignIn("wanjiru");
        Assert.True(
            (
                await ikenna.Act(
                    "/door/count",
                    Client.Count("2", item: "ST-CU", pack: "each", more: new { aside = "NotOnOrder", vendor = "SALT" })
                )
            ).IsOk
        );
        var aboard = (await wanjiru.Ask("/door/tally/A-2618"))["vendors"].EnumerateArray().ToList();
        Assert.Equal([true, true], aboard.Select(v => v.GetProperty("counted").GetBoolean()));
        object Part(params string[] notes) =>
            new
            {
                arrival = "A-2618",
                partly = true,
                decisions = Array.Empty<object>(),
                deliveryNotes = aboard.Zip(notes, (v, n) => new { vendorId = v.GetProperty("id").GetInt32(), deliveryNote = n }),
            };
        Assert.Contains("Saltmarke Nutrients", (await wanjiru.Act("/door/close", Part("DN-1", ""))).Sentence, StringComparison.Ordinal);
        var first = await wanjiru.Act("/door/close", Part("DN-1", "DN-2"));
        Assert.True(first.IsOk, first.Body.ToString());
        Assert.Equal(["DN-1", "DN-2"], first["receipts"].EnumerateArray().Select(r => r.GetProperty("deliveryNote").GetString()).Order());

        // Nothing of either stands open now; what is counted next goes on with the note that is known.
        Every.One((await wanjiru.Ask("/door/tally/A-2618"))["vendors"].EnumerateArray(), v =>
            Assert.False(v.GetProperty("counted").GetBoolean())
        );
        Assert.True((await ikenna.Act("/door/count", Client.Count())).IsOk);
        var second = await wanjiru.Act(
            "/door/close",
            new
            {
                arrival = "A-2618",
                partly = true,
                decisions = Array.Empty<object>(),
                deliveryNotes = Array.Empty<object>(),
            }
        );
        Assert.True(second.IsOk, second.Body.ToString());
        Assert.Equal("DN-1", second["receipts"][0].GetProperty("deliveryNote").GetString());
        Assert.Equal(JsonValueKind.Null, second["warning"].ValueKind);
        Assert.Empty((await own.Check()).Faults);
    }
}
