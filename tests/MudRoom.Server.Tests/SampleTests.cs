using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Data;
using MudRoom.Server.Bench;
using MudRoom.Tests;
using UglyToad.PdfPig;
using UglyToad.PdfPig.DocumentLayoutAnalysis.TextExtractor;
using static MudRoom.Server.Tests.BenchHands;

namespace MudRoom.Server.Tests;

/// <summary>The way of a sample through the book, what names its pieces, and pictures; inspections that are withdrawn, asked for by an
/// order, or due because goods are long in store.</summary>
public sealed class SampleTests(DemoServer server) : IClassFixture<DemoServer>
{
    async Task<T> From<T>(Func<MudRoomDb, Task<T>> ask)
    {
        await using var db = server.Db();
        return await ask(db);
    }

    Task<Inspection> Newest() => From(db => db.Inspections.OrderByDescending(i => i.Id).FirstAsync());

    /// <summary>What stands of the goods of an inspection, by bin and standing.</summary>
    Task<List<(string Bin, Standing Standing, decimal Quantity)>> Stands(Inspection of) =>
        From(async db =>
        {
            var lots = await db.Statements.Where(s => s.InspectionId == of.Id).Select(s => s.LotId).Distinct().ToListAsync();
            var parts = await db.Lots.Where(l => lots.Contains(l.ParentId!.Value)).Select(l => l.Id).ToListAsync();
            var rows = await db
                .Balances.Where(b => lots.Contains(b.LotId!.Value) || parts.Contains(b.LotId!.Value))
                .Join(
                    db.Bins,
                    b => b.BinId,
                    x => x.Id,
                    (b, x) =>
                        new
                        {
                            x.Address,
                            b.Standing,
                            b.Quantity,
                        }
                )
                .ToListAsync();
            return rows.Where(r => r.Quantity > 0)
                .GroupBy(r => (r.Address, r.Standing))
                .Select(g => (g.Key.Address, g.Key.Standing, g.Sum(r => r.Quantity)))
                .OrderBy(r => r.Address, StringComparer.Ordinal)
                .ThenBy(r => r.Standing.Id)
                .ToList();
        });

    static Task<Answer> Settle(Client client, string inspection, string fate, string quantity, string? bin = null, string? until = null) =>
        client.Act(
            "/bench/settle-sample",
            new
            {
                inspection,
                fate,
                quantity,
                bin,
                until,
            }
        );

    static JsonNode Fixed(int size) => JsonNode.Parse($$"""{"kind":"Fixed","size":"{{size}}","ac":"0"}""")!;

    /// <summary>One by one: five good ones are enough; after one bad, eleven.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task What_the_first_pieces_leave_open_is_drawn_on_and_goes_where_the_sample_is(bool onlySampleWaits)
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        await InForce(sunita, says =>
        {
            says["major"] = JsonNode.Parse("""{"kind":"OneByOne","good":"5","alpha":"10","bad":"40","beta":"10"}""");
            says["minor"] = Fixed(1);
            says["onlySampleWaits"] = onlySampleWaits;
        });
        // By whichever of these tests comes first.
        await Rule(sunita, 1, "GK-07", "Receipt");
        Assert.True((await wanjiru.Act("/door/count", Knives($"ON-{onlySampleWaits}", "12"))).IsOk);
        var waits = await Newest();
        var inspection = waits.Number;
        var drawn = await sunita.Act("/bench/draw", new { inspection });
        Assert.Equal(5, drawn["sampleSize"].GetInt32());
        Assert.True((await sunita.Act("/bench/bring-sample", new { inspection })).IsOk);
        var sheet = await sunita.Ask($"/bench/sheet/{inspection}");
        var bench = sheet["sample"].GetProperty("benches")[0].GetString()!;
        var majors = sheet["characteristics"]
            .EnumerateArray()
            .Where(c => c.GetProperty("class").GetString() == "Major")
            .Select(c =>
                (
                    Id: c.GetProperty("id").GetInt32(),
                    IsLooked: c.GetProperty("unit").ValueKind == JsonValueKind.Null,
                    Upper: c.GetProperty("upper")
                )
            )
            .ToList();
        async Task<Answer> Look(int piece, bool good)
        {
            Answer? last = null;
            foreach (var (id, isLooked, upper) in majors)
            {
                last = await sunita.Act(
                    "/bench/find",
                    new
                    {
                        inspection,
                        piece,
                        characteristic = id,
                        value = isLooked
                            ? null
                            : (upper.GetDecimal() + (good ? 0 : 1)).ToString(System.Globalization.CultureInfo.InvariantCulture),
                        pass = isLooked ? good : (bool?)null,
                        isSure = true,
                    }
                );
                if (!last.IsOk)
                    return last;
            }

            return last!;
        }

        for (var piece = 1; piece <= 5; piece++)
            Assert.True((await Look(piece, good: piece != 2)).IsOk);
        Assert.Equal(5, (await Stands(waits)).Where(s => s.Bin == bench && s.Standing == Standing.ToInspect).Sum(s => s.Quantity));
        Assert.Equal("piece-outside", (await Look(12, true)).Code);
        Assert.True((await Look(6, true)).IsOk);
        var stands = await Stands(waits);
        Assert.Equal(11, stands.Where(s => s.Bin == bench && s.Standing == Standing.ToInspect).Sum(s => s.Quantity));
        Assert.Equal(onlySampleWaits ? 1 : 0, stands.Where(s => s.Standing == Standing.Usable).Sum(s => s.Quantity));
        Assert.Empty((await server.Check()).Faults);

        // Drawn once: the next pieces are there.
        for (var piece = 7; piece <= 11; piece++)
            Assert.True((await Look(piece, true)).IsOk);
        Assert.Equal(11, (await From(db => db.Inspections.SingleAsync(i => i.Number == inspection))).Sampled);
        var told = await From(db => db.Ledger.Where(e => e.Kind == EntryKind.SampleDrawn && e.Subject == inspection).ToListAsync());
        Assert.Equal(6, told.Select(e => e.What).OfType<SampleDrawnOn>().Sum(f => f.More.Quantity));
        Assert.True((await Settle(sunita, inspection, "Back", "11")).IsOk);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_sample_goes_to_the_bench_is_used_up_kept_or_back_with_its_lot_and_all_of_it_is_in_the_book()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        await InForce(sunita, says =>
        {
            (says["major"], says["minor"]) = (Fixed(4), Fixed(2));
            (says["retainUnits"], says["retainMonths"]) = ("1", "24");
            says["characteristics"]!.AsArray().First(c => c!["class"]!.GetValue<string>() == "Minor")!["usesUp"] = true;
        });
        Assert.True((await Rule(sunita, 1, "GK-07", "Receipt")).IsOk);
        Assert.True((await wanjiru.Act("/door/count", Knives("WAY-1", "20"))).IsOk);
        var waits = await Newest();
        var inspection = waits.Number;
        Assert.Equal("sample-not-drawn", (await Settle(sunita, inspection, "Back", "1")).Code);
        Assert.Equal("Accepted", await Fill(sunita, inspection));
        var before = await Stands(waits);
        Assert.Equal(20, before.Sum(b => b.Quantity));

        var sample = (await sunita.Ask($"/bench/sheet/{inspection}"))["sample"];
        Assert.Equal((4m, 4m), (sample.GetProperty("quantity").GetDecimal(), sample.GetProperty("left").GetDecimal()));
        Assert.Equal("UsedUp", sample.GetProperty("next").GetProperty("fate").GetString());
        Assert.Equal("right-missing", (await maren.Act("/bench/bring-sample", new { inspection })).Code);
        Assert.Equal("bench-unknown", (await sunita.Act("/bench/bring-sample", new { inspection, bin = "C-05-2" })).Code);
        var bench = sample.GetProperty("benches")[0].GetString()!;
        var brought = await sunita.Act("/bench/bring-sample", new { inspection });
        Assert.True(brought.IsOk, brought.Body.ToString());
        Assert.Equal("sample-there", (await sunita.Act("/bench/bring-sample", new { inspection })).Code);
        Assert.Contains((bench, Standing.ToInspect, 4m), await Stands(waits));
        Assert.Empty((await server.Check()).Faults);

        // While the sheet is open, two are used up: the verdict speaks for the eighteen that are left.
        Assert.Equal("more-than-sampled", (await Settle(sunita, inspection, "UsedUp", "5")).Code);
        Assert.Equal("not-a-number", (await Settle(sunita, inspection, "UsedUp", "two")).Code);
        var used = await Settle(sunita, inspection, "UsedUp", "2");
        Assert.True(used.IsOk, used.Body.ToString());
        Assert.Equal(18, (await Stands(waits)).Sum(b => b.Quantity));
        Assert.Equal(18, await From(db => db.Inspections.Where(i => i.Number == inspection).Select(i => i.Quantity).SingleAsync()));
        Assert.Empty((await server.Check()).Faults);
        Assert.True((await Sign(sunita, inspection, "Accepted")).IsOk);

        // Kept: held until its day, wherever the lot goes.
        Assert.Equal("retained-until", (await Settle(sunita, inspection, "Retained", "1", until: "2026-03-10")).Code);
        Assert.Equal("bin-unknown", (await Settle(sunita, inspection, "Retained", "1", "Z-99-9", "2028-03-10")).Code);
        Assert.Equal("retained-not-there", (await Settle(sunita, inspection, "Retained", "1", "C-05-2", "2028-03-10")).Code);
        var cage = await From(db =>
            db.Bins.Where(b => b.SiteId == 1 && b.Function == Core.Site.BinFunction.Cage && !b.Blocked).Select(b => b.Address).FirstAsync()
        );
        var kept = await Settle(sunita, inspection, "Retained", "1", cage, "2028-03-10");
        Assert.True(kept.IsOk, kept.Body.ToString());
        Assert.Contains((cage, Standing.Held, 1m), await Stands(waits));
        var hold = await From(db => db.Holds.OrderByDescending(h => h.Id).FirstAsync());
        Assert.Equal((HoldReason.Retained, 1m), (hold.Reason, hold.Quantity));
        Assert.Equal("time-not-over", (await wanjiru.Act("/cage/lift", new { hold = hold.Number })).Code);

        // The rest goes back to where the lot stands; then nothing is left to settle.
        Assert.Equal(
            "Back",
            (await sunita.Ask($"/bench/sheet/{inspection}"))["sample"].GetProperty("next").GetProperty("fate").GetString()
        );
        Assert.True((await Settle(sunita, inspection, "Back", "1")).IsOk);
        Assert.Equal("sample-settled", (await Settle(sunita, inspection, "Back", "1")).Code);
        Assert.DoesNotContain(await Stands(waits), s => s.Bin == bench);
        Assert.Equal(17, (await Stands(waits)).Where(s => s.Standing == Standing.Usable).Sum(s => s.Quantity));
        var told = await From(db => db.Ledger.Where(e => e.Kind == EntryKind.SampleDrawn && e.Subject == inspection).ToListAsync());
        Assert.Equal(
            [typeof(SampleDrawn), typeof(SampleBrought), typeof(SampleUsedUp), typeof(SampleRetained), typeof(SampleBack)],
            told.Select(e => e.What!.GetType()).Distinct().Where(t => t != typeof(Restood))
        );
        Assert.Contains(told, e => e.ToAccount == Account.Bench && e.Quantity == 2);
        Assert.Empty((await server.Check()).Faults);

        // Taken back by another inspection, the seventeen and the kept one wait again; what is used up is named as gone.
        var again = await sunita.Act("/bench/supersede", new { inspection, reason = "wrong light" });
        Assert.True(again.IsOk, again.Body.ToString());
        Assert.Equal(HttpStatusCode.OK, again.Status);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Each_rule_has_pieces_of_its_own_and_what_is_typed_instead_of_read_stands_in_the_book()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        JsonNode? before = null;
        await InForce(sunita, says =>
        {
            before = says.DeepClone();
            (says["critical"], says["major"], says["minor"], says["eachItsOwn"]) = (Fixed(1), Fixed(3), Fixed(2), true);
            foreach (var c in says["characteristics"]!.AsArray())
                if (c!["unit"] is not null && c["class"]!.GetValue<string>() == "Major")
                    c["had"] = "Gauge";
        });
        await Rule(sunita, 1, "GK-07", "Receipt");
        Assert.True((await wanjiru.Act("/door/count", Knives("OWN-1", "20"))).IsOk);
        var inspection = (await Newest()).Number;
        Assert.Equal(6, (await sunita.Act("/bench/draw", new { inspection }))["sampleSize"].GetInt32());
        var sheet = await sunita.Ask($"/bench/sheet/{inspection}");
        var by = sheet["characteristics"].EnumerateArray().ToLookup(c => c.GetProperty("class").GetString());
        (int, int) Pieces(string of) =>
            by[of]
                .Select(c => c.GetProperty("pieces"))
                .Select(p => (p.GetProperty("first").GetInt32(), p.GetProperty("last").GetInt32()))
                .First();
        Assert.Equal(((1, 1), (2, 4), (5, 6)), (Pieces("Critical"), Pieces("Major"), Pieces("Minor")));
        var run = Assert.Single(sheet["wanted"].EnumerateArray());
        Assert.Equal((1, 6), (run.GetProperty("first").GetInt32(), run.GetProperty("last").GetInt32()));

        var read = by["Major"].First(c => c.GetProperty("had").GetString() == "Gauge");
        var (characteristic, upper) = (read.GetProperty("id").GetInt32(), read.GetProperty("upper").GetDecimal());
        var value = upper.ToString(System.Globalization.CultureInfo.InvariantCulture);
        Task<Answer> Typed(int piece) =>
            sunita.Act(
                "/bench/find",
                new
                {
                    inspection,
                    piece,
                    characteristic,
                    value,
                }
            );
        Assert.Equal("piece-outside", (await Typed(1)).Code);
        Assert.Equal("piece-outside", (await Typed(5)).Code);
        Assert.True((await Typed(2)).IsOk);
        var gauge = await sunita.Act(
            "/bench/gauge",
            new
            {
                inspection,
                piece = 3,
                text = value,
                characteristic,
            }
        );
        Assert.True(gauge.IsOk, gauge.Body.ToString());
        Assert.NotEqual("Accepted", (await sunita.Ask($"/bench/sheet/{inspection}"))["verdict"].GetString());
        var told = await From(db =>
            db.Ledger.Where(e => e.Subject == inspection && e.Kind == EntryKind.Found).OrderBy(e => e.Seq).ToListAsync()
        );
        Assert.Equal([true, false], told.Select(e => e.What).Cast<FindingMade>().Select(f => f.IsTyped is true));

        Assert.Equal("Accepted", await Look(sunita, inspection));
        Assert.True((await Sign(sunita, inspection, "Accepted")).IsOk);
        await InForce(sunita, says =>
        {
            foreach (var (name, was) in before!.AsObject())
                says[name] = was?.DeepClone();
        });
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task The_queue_is_put_in_order_before_it_is_cut_and_says_how_many_more_wait()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        foreach (var batch in new[] { "Q-1", "Q-2", "Q-3" })
            Assert.True((await wanjiru.Act("/door/count", Client.Count("3", "A-2620", "SC-18", "each", new { sourceBatch = batch }))).IsOk);
        var newest = (await Newest()).Number;
        Assert.True((await sunita.Act("/bench/draw", new { inspection = newest })).IsOk);
        var all = await sunita.Ask("/bench/queue?most=500");
        var open = all["cards"].EnumerateArray().Where(c => c.GetProperty("state").GetString() != "Signed").ToList();
        Assert.Equal((open.Count, 0), (all["open"].GetInt32(), all["more"].GetInt32()));
        var sheets = open.TakeWhile(c => c.GetProperty("state").GetString() == "Drawn")
            .Select(c => c.GetProperty("number").GetString())
            .ToList();
        Assert.Contains(newest, sheets);
        // Open sheets come before everything that waits, however long.
        var cut = await sunita.Ask($"/bench/queue?most={sheets.Count}");
        Assert.Equal((open.Count, open.Count - sheets.Count), (cut["open"].GetInt32(), cut["more"].GetInt32()));
        Assert.Equal(
            sheets,
            cut["cards"]
                .EnumerateArray()
                .Where(c => c.GetProperty("state").GetString() != "Signed")
                .Select(c => c.GetProperty("number").GetString())
        );
        Assert.True(open.Count - sheets.Count >= 2);
        Assert.Equal(all["minutes"].GetInt32(), cut["minutes"].GetInt32());
    }

    [Fact]
    public async Task Of_what_is_waited_for_the_bench_takes_the_earliest_hour_first()
    {
        using var sunita = await server.SignIn("sunita");
        using var dilys = await server.SignIn("dilys");
        using var wanjiru = await server.SignIn("wanjiru");
        // By whichever of these tests comes first.
        await Rule(sunita, 1, "GK-07", "Receipt");
        Assert.True((await wanjiru.Act("/door/count", Knives("HOUR-2", "3"))).IsOk);
        Assert.True((await wanjiru.Act("/door/count", Client.Count("3", "A-2620", "SC-18", "each", new { sourceBatch = "HOUR-1" }))).IsOk);
        var inspection = (await Newest()).Number;
        var imported = await dilys.Act(
            "/road/import",
            new
            {
                name = "w.csv",
                text = "order,vendor,line,item,quantity,waiting_quantity,waiting_for,waiting_by,due,site\n"
                    + "PO-HOUR,KITA,1,GK-07,8,5,job 7,2026-03-10 16:00,2026-03-12,LM\n"
                    + "PO-HOUR,KITA,2,SC-18,8,5,job 8,2026-03-10 14:00,2026-03-12,LM\n",
            }
        );
        Assert.True(imported.IsOk, imported.Body.ToString());
        var waiting = (await sunita.Ask("/bench/queue?most=500"))["cards"]
            .EnumerateArray()
            .Where(c => c.GetProperty("state").GetString() == "Waiting")
            .Select(c => (Number: c.GetProperty("number").GetString(), Why: c.GetProperty("why").GetString()!))
            .Where(c => c.Why.StartsWith("Waited for", StringComparison.Ordinal))
            .ToList();
        Assert.Contains((inspection, "Waited for: job 8, by 10 Mar 14:00."), waiting);
        // The knives came to the bench before; who names no hour comes last.
        var words = waiting.ConvertAll(w => w.Why);
        var mites = words.IndexOf("Waited for: three orders, by 10 Mar 15:00.");
        var knives = words.IndexOf("Waited for: job 7, by 10 Mar 16:00.");
        Assert.InRange(words.IndexOf("Waited for: job 8, by 10 Mar 14:00."), 0, mites - 1);
        Assert.InRange(mites, 0, knives - 1);
        Assert.InRange(words.FindIndex(w => !w.Contains(", by ", StringComparison.Ordinal)), knives + 1, words.Count);
        Assert.Contains("job 7, by 10 Mar 16:00", (await dilys.Ask("/road/orders/PO-HOUR")).Body.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_rejected_lots_sample_is_used_up_out_of_its_hold()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True((await wanjiru.Act("/door/count", Client.Count("9", "A-2620", "SC-18", "each", new { sourceBatch = "WAY-2" }))).IsOk);
        var waits = await Newest();
        Assert.Equal("Rejected", await Fill(sunita, waits.Number, good: false));
        Assert.True((await Sign(sunita, waits.Number, "Rejected")).IsOk);
        var hold = await From(db => db.Holds.SingleAsync(h => h.InspectionId == waits.Id));
        Assert.Equal(9, hold.Quantity);
        var used = await Settle(sunita, waits.Number, "UsedUp", "2");
        Assert.True(used.IsOk, used.Body.ToString());
        Assert.Equal(7, await From(db => db.Holds.Where(h => h.Id == hold.Id).Select(h => h.Quantity).SingleAsync()));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Pieces_bear_names_and_pictures_and_only_pictures_are_taken()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True((await wanjiru.Act("/door/count", Client.Count("5", "A-2620", "SC-18", "each", new { sourceBatch = "WAY-3" }))).IsOk);
        var inspection = (await Newest()).Number;
        Task<Answer> Name(int piece, string text) =>
            sunita.Act(
                "/bench/name-piece",
                new
                {
                    inspection,
                    piece,
                    text,
                }
            );
        Assert.Equal("sample-not-drawn", (await Name(1, "SN-1")).Code);
        Assert.True((await sunita.Act("/bench/draw", new { inspection, lotSize = "5" })).IsOk);
        // A serial out of a GS1 element string (GS1 General Specifications, application identifier 21).
        Assert.Equal("Piece 1 is SN-77.", (await Name(1, "]C121SN-77"))["sentence"].GetString());
        Assert.Equal("piece-named", (await Name(2, "sn-77")).Code);
        Assert.Equal("names-no-piece", (await Name(2, "04012345678901")).Code);
        Assert.Equal("piece-outside", (await Name(99, "SN-78")).Code);

        Task<Answer> Picture(byte[] content, int? piece = 1) =>
            sunita.Act(
                "/bench/picture",
                new
                {
                    inspection,
                    piece,
                    content = Convert.ToBase64String(content),
                }
            );
        Assert.Equal("file-kind", (await Picture("%PDF-1.7"u8.ToArray())).Code);
        Assert.Equal("file-kind", (await Picture("<svg/>"u8.ToArray())).Code);
        Assert.Equal("piece-outside", (await Picture(Pictures.Png(40, 30), 99)).Code);
        var kept = await Picture(Pictures.Png(40, 30));
        Assert.True(kept.IsOk, kept.Body.ToString());
        var sheet = await sunita.Ask($"/bench/sheet/{inspection}");
        Assert.Equal("SN-77", sheet["pieces"][0].GetProperty("name").GetString());
        Assert.Equal(1, sheet["pictures"][0].GetProperty("piece").GetInt32());
        var id = kept["id"].GetInt32();
        using var seen = await sunita.Http.GetAsync($"/api/LM/bench/pictures/{id}");
        Assert.Equal("image/jpeg", seen.Content.Headers.ContentType!.MediaType);
        using var elsewhere = await sunita.Http.GetAsync($"/api/KD/bench/pictures/{id}");
        Assert.NotEqual(HttpStatusCode.OK, elsewhere.StatusCode);
        Assert.Equal(1, await From(db => db.Set<BenchPicture>().CountAsync(p => p.InspectionId != null)));

        // On paper too, as another program reads it (PdfPig).
        Assert.True(
            (
                await sunita.Act(
                    "/bench/note",
                    new
                    {
                        inspection,
                        piece = 2,
                        text = "burr at the tip",
                    }
                )
            ).IsOk
        );
        Assert.Equal("Accepted", await Look(sunita, inspection));
        Assert.True((await Sign(sunita, inspection, "Accepted")).IsOk);
        using var paper = PdfDocument.Open(await sunita.Http.GetByteArrayAsync($"/api/LM/bench/paper/{inspection}"));
        var pages = paper.GetPages().ToList();
        // A line of the paper may go on in the next one.
        var text = string.Join(
            ' ',
            pages.SelectMany(p => ContentOrderTextExtractor.GetText(p).Split((char[]?)null)).Where(w => w.Length > 0)
        );
        Assert.Contains("bears SN-77", text);
        Assert.Contains("piece 2: burr at the tip, Sunita Gellatly", text);
        Assert.Contains("Picture 1: piece 1: SHA-256 " + kept["hash"].GetString()![..20], text);
        Assert.Single(pages[^1].GetImages());
        Assert.Contains("picture 1: piece 1", pages[^1].Text);
    }

    [Fact]
    public async Task What_the_vendor_has_invoiced_waits_with_that_reason()
    {
        using var sunita = await server.SignIn("sunita");
        using var dilys = await server.SignIn("dilys");
        var stock = await From(db =>
            db.Balances.Where(b => b.SiteId == 1 && b.Quantity > 0 && b.Standing == Standing.Usable && b.BinId != 0)
                .Join(db.Items.Where(i => i.Code == "SP-DG"), b => b.ItemId, i => i.Id, (b, i) => b)
                .Join(db.Lots, b => b.LotId, l => l.Id, (b, l) => new { b.Id, l.ReceiptId })
                .Join(db.Receipts.Where(r => r.InvoicedAt == null), b => b.ReceiptId, r => r.Id, (b, r) => new { b.Id, r.Number })
                .FirstAsync()
        );
        var asked = await sunita.Act(
            "/bench/ask",
            new
            {
                balance = stock.Id,
                why = "loose blade",
                plan = 1,
            }
        );
        Assert.True(asked.IsOk, asked.Body.ToString());
        async Task<string> Why() =>
            (await sunita.Ask("/bench/queue"))["cards"]
                .EnumerateArray()
                .Single(c => c.GetProperty("number").GetString() == asked["number"].GetString())
                .GetProperty("why")
                .GetString()!;
        Assert.EndsWith("nobody is held up.", await Why(), StringComparison.Ordinal);
        Assert.True((await dilys.Act("/door/receipts/invoiced", new { receipt = stock.Number })).IsOk);
        Assert.StartsWith($"The vendor's invoice for {stock.Number} waits since", await Why(), StringComparison.Ordinal);
        Assert.True((await sunita.Act("/bench/withdraw", new { inspection = asked["number"].GetString(), reason = "looked again" })).IsOk);
    }

    [Fact]
    public async Task A_wrong_sheet_whose_goods_are_used_is_taken_back_and_counts_no_longer()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True((await wanjiru.Act("/door/count", Client.Count("3", "A-2620", "SC-18", "each", new { sourceBatch = "WAY-9" }))).IsOk);
        var signed = await Newest();
        Assert.Equal("Accepted", await Fill(sunita, signed.Number));
        Assert.True((await Sign(sunita, signed.Number, "Accepted")).IsOk);
        var free = await From(db => db.Balances.SingleAsync(b => b.BatchId == signed.BatchId && b.Quantity > 0));
        var issued = await wanjiru.Act(
            "/book/issue",
            new
            {
                balance = free.Id,
                quantity = "3",
                to = "Job",
                reference = "JOB-9",
            }
        );
        Assert.True(issued.IsOk, issued.Body.ToString());
        var counted = await From(db => Severities.Of(db, signed, at => at.UtcDateTime));
        Assert.Contains(counted.Outcomes, o => o.Number == signed.Number);

        var back = await sunita.Act("/bench/supersede", new { inspection = signed.Number, reason = "another lot was on the bench" });
        Assert.True(back.IsOk, back.Body.ToString());
        Assert.Contains("nothing is inspected again; 3 each of", back["sentence"].GetString());
        var again = await Newest();
        Assert.Equal((InspectionState.Withdrawn, signed.Id), (again.State, again.SupersedesId));
        Assert.Equal(
            $"Sunita Gellatly took {signed.Number} back: another lot was on the bench. Nothing of its goods is here; "
                + "what comes back of them waits for this sheet.",
            (await sunita.Ask($"/bench/sheet/{again.Number}"))["withdrawn"].GetString()
        );
        Assert.DoesNotContain((await From(db => Severities.Of(db, signed, at => at.UtcDateTime))).Outcomes, o => o.Number == signed.Number);
        Assert.Equal("superseded", (await sunita.Act("/bench/supersede", new { inspection = signed.Number, reason = "again" })).Code);

        // Issued by mistake: what comes back has no sheet that counts, and waits for one.
        var entry = await From(db => db.Ledger.Where(e => e.Kind == EntryKind.Issued).MaxAsync(e => e.Seq));
        Assert.True((await wanjiru.Act("/book/undo", new { entry, reason = "the wrong job" })).IsOk);
        again = await Newest();
        Assert.Equal((InspectionState.Waiting, 3m, null), (again.State, again.Quantity, again.WithdrawnBecause));
        var stands = await From(db => db.Balances.SingleAsync(b => b.BatchId == signed.BatchId && b.Quantity > 0));
        Assert.Equal(Standing.ToInspect, stands.Standing);
        Assert.Equal("Accepted", await Fill(sunita, again.Number));
        Assert.True((await Sign(sunita, again.Number, "Accepted")).IsOk);
        Assert.Contains((await From(db => Severities.Of(db, signed, at => at.UtcDateTime))).Outcomes, o => o.Number == again.Number);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_piece_that_has_a_serial_bears_one_of_its_own_lot_and_of_no_other()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.True((await Rule(sunita, 1, "SP-02", "Receipt")).IsOk);
        var ordered = await wanjiru.Act(
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
                        item = "SP-02",
                        quantity = "4",
                        due = "2026-03-10",
                    },
                },
            }
        );
        Assert.True(ordered.IsOk, ordered.Body.ToString());
        var opened = await wanjiru.Act(
            "/door/open-on-the-spot",
            new
            {
                orders = new[] { "PO-SER" },
                vehicle = "truck",
                door = 4,
                atOnce = true,
                notIso6346 = false,
                unplanned = true,
                deliveryNote = "N-SER",
            }
        );
        Assert.True(opened.IsOk, opened.Body.ToString());
        var arrival = opened["number"].GetString()!;
        Task<Answer> Count(string serial) => wanjiru.Act("/door/count", Client.Count("1", arrival, "SP-02", "each", new { serial }));
        var first = await Count("SN-1");
        Assert.True(first.IsOk, first.Body.ToString());
        var inspection = (await Newest()).Number;
        Assert.True((await sunita.Act("/bench/draw", new { inspection, lotSize = "1" })).IsOk);
        // The sample is drawn: what comes now is another lot.
        Assert.True((await Count("SN-2")).IsOk);
        Assert.NotEqual(inspection, (await Newest()).Number);
        Assert.Equal("serial-not-of-lot", (await Name("SN-2")).Code);
        Assert.Equal("serial-not-of-lot", (await Name("SN-9")).Code);
        Assert.True((await Name("SN-1")).IsOk);

        Task<Answer> Name(string text) =>
            sunita.Act(
                "/bench/name-piece",
                new
                {
                    inspection,
                    piece = 1,
                    text,
                }
            );
    }

    [Fact]
    public async Task A_plan_judges_by_a_picture_with_marks_that_its_version_names_by_hash()
    {
        using var sunita = await server.SignIn("sunita");
        var kept = await sunita.Act("/bench/plans/picture", new { content = Convert.ToBase64String(Pictures.Png(60, 40)) });
        Assert.True(kept.IsOk, kept.Body.ToString());
        var id = kept["id"].GetInt32();
        var looked = (await sunita.Ask("/bench/plan/2"))["inForce"];
        async Task<Answer> Draft(int picture, int x)
        {
            var says = JsonNode.Parse(looked.GetProperty("says").GetRawText())!;
            says["characteristics"]![0]!["picture"] = JsonNode.Parse(
                $$"""{"id":{{picture}},"marks":[{"x":{{x}},"y":20,"text":"split seam"}]}"""
            );
            return await sunita.Act(
                "/bench/plans/draft",
                new
                {
                    plan = 2,
                    looked = looked.GetProperty("hash").GetString(),
                    says,
                }
            );
        }

        Assert.Equal("not-found", (await Draft(id + 1000, 50)).Code);
        Assert.True((await Draft(id, 150)).IsOk);
        var plan = await sunita.Ask("/bench/plan/2");
        Assert.Contains("outside the picture", plan["faults"].ToString(), StringComparison.Ordinal);
        var text = await From(db => db.PlanVersions.Where(v => v.PlanId == 2 && v.From == null).Select(v => v.Text).SingleAsync());
        Assert.Contains(kept["hash"].GetString()!, text, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_was_asked_for_by_hand_is_withdrawn_and_its_goods_are_as_they_were()
    {
        using var yusuf = await server.SignIn("yusuf");
        var stock = await From(db =>
            db.Balances.Where(b => b.SiteId == 1 && b.Standing == Standing.Usable && b.Quantity >= 20 && b.UnitId == null)
                .Where(b => db.Items.Any(i => i.Id == b.ItemId && i.InspectionPlanId == null))
                .OrderBy(b => b.Id)
                .FirstAsync()
        );
        var asked = await yusuf.Act(
            "/bench/ask",
            new
            {
                balance = stock.Id,
                why = "smells musty",
                plan = 1,
                quantity = "5",
            }
        );
        var inspection = asked["number"].GetString()!;
        var waits = await Newest();
        Assert.Equal("reason-missing", (await yusuf.Act("/bench/withdraw", new { inspection, reason = " " })).Code);
        var gone = await yusuf.Act("/bench/withdraw", new { inspection, reason = "it was the sack beside it" });
        Assert.True(gone.IsOk, gone.Body.ToString());
        Assert.Equal("inspection-withdrawn", (await yusuf.Act("/bench/withdraw", new { inspection, reason = "again" })).Code);
        Assert.All(await Stands(waits), s => Assert.Equal(Standing.Usable, s.Standing));
        using var sunita = await server.SignIn("sunita");
        Assert.Equal("inspection-withdrawn", (await sunita.Act("/bench/draw", new { inspection })).Code);
        Assert.Equal("inspection-withdrawn", (await sunita.Act("/bench/take", new { inspection })).Code);
        Assert.StartsWith(
            "Withdrawn by Yusuf Tarn: it was",
            (await sunita.Ask($"/bench/sheet/{inspection}"))["withdrawn"].GetString(),
            StringComparison.Ordinal
        );
        var queue = await sunita.Ask("/bench/queue");
        Assert.DoesNotContain(queue["cards"].EnumerateArray(), c => c.GetProperty("number").GetString() == inspection);
        // Asked for again, the same goods wait again.
        var again = await yusuf.Act(
            "/bench/ask",
            new
            {
                balance = stock.Id,
                why = "it was this one",
                plan = 1,
                quantity = "5",
            }
        );
        Assert.True(again.IsOk, again.Body.ToString());
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task What_an_order_line_asks_to_be_inspected_waits_when_it_is_counted()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        using var priya = await server.SignIn("leila");
        var line = await From(db =>
            db.ManifestLines.Where(m => db.Arrivals.Any(a => a.Id == m.ArrivalId && a.Number == "A-2618"))
                .Where(m => db.Items.Any(i => i.Id == m.Part!.ItemId && i.Code == "HS-15"))
                .Select(m => new { m.Part!.Line!.Number, Order = m.Part.Line.Order!.Number })
                .FirstAsync()
        );
        object Asks(bool asks) =>
            new
            {
                order = line.Order,
                line = line.Number,
                asks,
            };
        using var buyer = await server.SignIn("anselm");
        Assert.Equal("right-missing", (await sunita.Act("/road/orders/ask-inspection", Asks(true))).Code);
        Assert.Equal("plan-none-fits", (await wanjiru.Act("/road/orders/ask-inspection", Asks(true))).Code);
        Assert.True((await Rule(sunita, 1, "HS-15", "OrderLine")).IsOk);
        var asked = await wanjiru.Act("/road/orders/ask-inspection", Asks(true));
        Assert.True(asked.IsOk, asked.Body.ToString());
        Assert.Equal("nothing-changed", (await wanjiru.Act("/road/orders/ask-inspection", Asks(true))).Code);
        Assert.True((await wanjiru.Act("/door/count", Client.Count("1", item: "HS-15", pack: "each"))).IsOk);
        var waits = await Newest();
        Assert.Equal((InspectionTrigger.OrderLine, 1), (waits.Trigger, waits.PlanId));
        Assert.All(await Stands(waits), s => Assert.Equal(Standing.ToInspect, s.Standing));
        // An order file that asks for goods that no plan is meant for says so before it is taken in.
        var preview = await wanjiru.Act(
            "/road/import/preview",
            new { name = "o.csv", text = "order,vendor,line,item,quantity,due,site,inspect\nPO-ASK,SALT,1,CN-25,40,2026-04-01,LM,yes\n" }
        );
        Assert.Contains(
            "Line 1 of PO-ASK asks for an inspection, and no plan is meant for",
            preview.Body.ToString(),
            StringComparison.Ordinal
        );
        Assert.True((await wanjiru.Act("/road/orders/ask-inspection", Asks(false))).IsOk);
        var others = await From(db => db.Inspections.CountAsync());
        Assert.True((await wanjiru.Act("/door/count", Client.Count("1", item: "HS-15", pack: "each"))).IsOk);
        Assert.Equal(others, await From(db => db.Inspections.CountAsync()));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Goods_long_in_store_wait_for_a_verdict_once_and_again_after_as_many_days()
    {
        using var sunita = await server.SignIn("sunita");
        using var maren = await server.SignIn("maren");
        var item = await From(db =>
            db.Items.FirstAsync(i =>
                i.InspectionPlanId == null
                && db.Balances.Any(b => b.ItemId == i.Id && b.Standing == Standing.Usable && b.LotId != null && b.UnitId == null)
                && !db.Statements.Any(s => db.Lots.Any(l => l.Id == s.LotId && l.ItemId == i.Id))
            )
        );
        object Days(int? afterDays, int? plan = 1, string? trigger = "Age") =>
            new
            {
                plan,
                trigger,
                item = item.Code,
                category = "",
                vendor = "",
                origin = "",
                reason = "they live for weeks",
                afterDays,
            };
        Assert.Equal("inspection-rule-days", (await sunita.Act("/bench/rules/new", Days(null))).Code);
        Assert.Equal("inspection-rule-days", (await sunita.Act("/bench/rules/new", Days(0))).Code);
        Assert.Equal("inspection-rule-days", (await sunita.Act("/bench/rules/new", Days(5, trigger: "Receipt"))).Code);
        Assert.Equal("inspection-rule-days", (await sunita.Act("/bench/rules/new", Days(5, plan: null))).Code);
        Assert.StartsWith("Nothing", (await Look())["sentence"].GetString(), StringComparison.Ordinal);
        var lots = await From(db =>
            db.Lots.Where(l => l.ItemId == item.Id && db.Balances.Any(b => b.LotId == l.Id && b.Quantity > 0)).ToListAsync()
        );
        Assert.NotEmpty(lots);
        Assert.True((await sunita.Act("/bench/rules/new", Days(3650))).IsOk);
        Assert.StartsWith("Nothing", (await Look())["sentence"].GetString(), StringComparison.Ordinal);
        Assert.Equal("right-missing", (await maren.Act("/bench/rules/look-in-store", new { })).Code);
        var rules = await sunita.Ask("/bench/rules");
        var rule = rules["rules"].EnumerateArray().Single(r => r.GetProperty("days").ValueKind == JsonValueKind.Number);
        Assert.True((await sunita.Act("/bench/rules/end", new { rule = rule.GetProperty("id").GetInt32() })).IsOk);
        // As if they had come long ago.
        await using (var db = server.Db())
            await db.Lots.Where(l => l.ItemId == item.Id).ExecuteUpdateAsync(s => s.SetProperty(l => l.OpenedAt, DateTimeOffset.UnixEpoch));
        Assert.True((await sunita.Act("/bench/rules/new", Days(30))).IsOk);
        var waiting = await From(db => db.Inspections.CountAsync(i => i.ItemId == item.Id && i.State == InspectionState.Waiting));
        // What is held is not looked for, however old it is.
        using var wanjiru = await server.SignIn("wanjiru");
        var usable = await From(db =>
            db.Balances.Where(b => b.ItemId == item.Id && b.SiteId == 1 && b.Standing == Standing.Usable && b.Quantity > 0)
                .Select(b => b.Id)
                .ToListAsync()
        );
        foreach (var balance in usable)
            await wanjiru.Act("/cage/hold", new { balance, why = "smells" });
        Assert.StartsWith("Nothing", (await Look())["sentence"].GetString(), StringComparison.Ordinal);
        foreach (var hold in await From(db => db.Holds.Where(h => h.IsOpen && h.Sentence == "smells").Select(h => h.Number).ToListAsync()))
            Assert.True((await wanjiru.Act("/cage/lift", new { hold })).IsOk);
        var found = await Look();
        Assert.StartsWith("To be inspected: I-", found["sentence"].GetString(), StringComparison.Ordinal);
        var waits = await Newest();
        Assert.Equal(InspectionTrigger.Age, waits.Trigger);
        Assert.All(await Stands(waits), s => Assert.Equal(Standing.ToInspect, s.Standing));
        Assert.StartsWith("Nothing", (await Look())["sentence"].GetString(), StringComparison.Ordinal);
        Assert.StartsWith("By rule:", (await sunita.Ask($"/bench/sheet/{waits.Number}"))["whyHere"].GetString(), StringComparison.Ordinal);
        Assert.True(await From(db => db.Inspections.CountAsync(i => i.ItemId == item.Id && i.State == InspectionState.Waiting)) > waiting);
        Assert.Empty((await server.Check()).Faults);

        Task<Answer> Look() => sunita.Act("/bench/rules/look-in-store", new { });
    }

    [Fact]
    public async Task The_buyer_is_told_once_of_what_is_seen_coming_and_not_of_what_is_steady()
    {
        using var sunita = await server.SignIn("sunita");
        using var maren = await server.SignIn("maren");
        var cards = (await sunita.Ask("/bench/coming")).Body.EnumerateArray().ToList();
        object About(JsonElement card) =>
            new
            {
                plan = card.GetProperty("planId").GetInt32(),
                item = card.GetProperty("itemId").GetInt32(),
                vendor = card.GetProperty("vendorId").GetInt32(),
                characteristic = card.GetProperty("characteristic").GetInt32(),
                note = "please ask about their tool",
            };
        var drifts = cards.First(c => c.GetProperty("state").GetString() == "PassesLimit");
        var steady = cards.First(c => c.GetProperty("state").GetString() == "Steady");
        Assert.Equal("nothing-coming", (await sunita.Act("/bench/coming/tell", About(steady))).Code);
        Assert.Equal("right-missing", (await maren.Act("/bench/coming/tell", About(drifts))).Code);
        var told = await sunita.Act("/bench/coming/tell", About(drifts));
        Assert.True(told.IsOk, told.Body.ToString());
        Assert.Equal("buyer-told-already", (await sunita.Act("/bench/coming/tell", About(drifts))).Code);
        var message = await From(db =>
            db.OutMessages.OrderByDescending(m => m.At).FirstAsync(m => m.Kind == Core.Out.OutKind.QualityNotice)
        );
        var body = JsonNode.Parse(message.Body)!;
        Assert.Equal("quality-notice", body["message"]!.GetValue<string>());
        Assert.True(body["lots"]!.AsArray().Count > 5);
        Assert.Contains("passes the limit", body["finding"]!.GetValue<string>(), StringComparison.Ordinal);
        var path = string.Join("/", new[] { "planId", "itemId", "vendorId", "characteristic" }.Select(p => drifts.GetProperty(p)));
        string? said = null;
        // What entries are about is written behind them.
        for (var i = 0; said is null && i < 50; i++, await Task.Delay(100))
            said = (await sunita.Ask($"/bench/coming/{path}"))["told"].GetString();
        Assert.StartsWith("The buyer was told of it by Sunita Gellatly", said, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_chart_within_lots_has_limits_for_each_lot_and_all_characteristics_together_have_one_too()
    {
        using var sunita = await server.SignIn("sunita");
        var card = (await sunita.Ask("/bench/coming"))
            .Body.EnumerateArray()
            .First(c => c.GetProperty("state").GetString() == "PassesLimit");
        var path = $"/bench/coming/{card.GetProperty("planId")}/{card.GetProperty("itemId")}/{card.GetProperty("vendorId")}/";
        var characteristic = card.GetProperty("characteristic").GetInt32();
        foreach (var by in new[] { "Spread", "Range" })
        {
            var chart = await sunita.Ask($"{path}{characteristic}?by={by}");
            Assert.True(chart.IsOk, chart.Body.ToString());
            Assert.Equal(JsonValueKind.Null, chart["whyNoChart"].ValueKind);
            Assert.All(chart["lots"].EnumerateArray(), l =>
                Assert.True(l.GetProperty("high").GetDouble() > l.GetProperty("low").GetDouble())
            );
            Assert.All(chart["lots"].EnumerateArray(), l => Assert.Equal(JsonValueKind.Number, l.GetProperty("second").ValueKind));
        }

        var together = await sunita.Ask($"{path}0");
        Assert.Equal("Nonconformities per piece", together["name"].GetString());
        Assert.Equal("per piece", together["unit"].GetString());
    }
}
