using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>What a receiver does beside scanning piece by piece: several packs at once, weights, paper, numbers of the device, what goes
/// back.</summary>
public sealed class DoorWorkTests : IAsyncLifetime
{
    readonly DemoServer server = new();

    public ValueTask InitializeAsync() => server.InitializeAsync();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    static string Gtin(string item, string pack) =>
        DemoTemplate.Of.Items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;

    static object Brick(string packs, string pack, object? more = null) =>
        Client.Count(packs, "A-2617", "CB-05", pack, more ?? new { sourceBatch = "NC-1201" });

    [Fact]
    public async Task A_receipt_shows_its_own_pieces_and_takes_none_of_another_back()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Task<Answer> Piece(string serial) =>
            wanjiru.Act(
                "/door/count",
                Client.Count(
                    "1",
                    "A-2620",
                    "IC-08",
                    "each",
                    new
                    {
                        serial,
                        aside = "NotOnOrder",
                        vendor = "TARN",
                    }
                )
            );
        var vendors = (await wanjiru.Ask("/door/tally/A-2620"))["vendors"].EnumerateArray().Select(v => v.GetProperty("id").GetInt32());
        await using var db = server.Db();
        var tarn = (await db.Vendors.SingleAsync(v => v.Code == "TARN")).Id;
        async Task<string> Post()
        {
            var posted = await wanjiru.Act(
                "/door/close",
                new
                {
                    arrival = "A-2620",
                    partly = true,
                    decisions = Array.Empty<object>(),
                    deliveryNotes = vendors.Append(tarn).Select(vendorId => new { vendorId, deliveryNote = "T-9" }),
                }
            );
            return posted["receipts"]
                .EnumerateArray()
                .Single(r => r.GetProperty("vendor").GetString()!.StartsWith("Tarnwick", StringComparison.Ordinal))
                .GetProperty("number")
                .GetString()!;
        }
        Assert.True((await Piece("RS-1")).IsOk);
        var first = await Post();
        Assert.True((await Piece("RS-2")).IsOk);
        var second = await Post();
        async Task<List<(string? Serial, long Balance)>> Stands(string receipt) =>
            [
                .. (await wanjiru.Ask("/door/receipts/" + receipt))["lines"]
                    .EnumerateArray()
                    .SelectMany(l => l.GetProperty("stands").EnumerateArray())
                    .Select(s => (s.GetProperty("serial").GetString(), s.GetProperty("balance").GetInt64())),
            ];
        var (one, two) = (await Stands(first), await Stands(second));
        Assert.Equal(("RS-1", "RS-2"), (Assert.Single(one).Serial, Assert.Single(two).Serial));
        object Back(string receipt, long balance) =>
            new
            {
                receipt,
                balance,
                quantity = "1",
                reason = "not ordered",
            };
        Assert.Equal("other-receipt", (await wanjiru.Act("/door/receipts/return", Back(first, two[0].Balance))).Code);
        Assert.True((await wanjiru.Act("/door/receipts/return", Back(second, two[0].Balance))).IsOk);
        Assert.Empty(await Stands(second));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Who_counted_how_much_is_told_by_person_and_what_was_taken_back_is_told_apart()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        async Task<(int Counts, int Aside, int TakenBack)> Leila(string of)
        {
            var row = (await wanjiru.Ask("/door/counted-by" + of))
                .Body.EnumerateArray()
                .FirstOrDefault(r => r.GetProperty("person").GetString() == "Leila Fennimore");
            return row.ValueKind == System.Text.Json.JsonValueKind.Undefined
                ? default
                : (row.GetProperty("counts").GetInt32(), row.GetProperty("aside").GetInt32(), row.GetProperty("takenBack").GetInt32());
        }

        var (here, week) = (await Leila("?arrival=A-2618"), await Leila(""));
        var wrong = Guid.NewGuid();
        Assert.True((await leila.Act("/door/count", Client.Count("2", item: "SP-DG", pack: "each", more: new { aside = "Over" }))).IsOk);
        Assert.True((await leila.Act("/door/count", Client.Count(), wrong)).IsOk);
        Assert.True((await leila.Act("/door/take-back", new { arrival = "A-2618", count = wrong })).IsOk);
        foreach (var (of, before) in new[] { ("?arrival=A-2618", here), ("", week) })
            Assert.Equal((before.Counts + 1, before.Aside + 1, before.TakenBack + 1), await Leila(of));
        Assert.Equal(default, await Leila("?from=2026-03-11&to=2026-03-12"));
        Assert.Empty((await wanjiru.Ask("/door/counted-by?arrival=A-9999")).Body.EnumerateArray());
        Assert.StartsWith(
            "person,counts,aside,taken back,first,last\r\n",
            await wanjiru.Http.GetStringAsync("/api/LM/door/counted-by.csv?from=2026-03-01"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Full_pallets_loose_cartons_and_pieces_are_one_entry()
    {
        using var leila = await server.SignIn("leila");
        var counted = await leila.Act(
            "/door/count",
            Brick(
                "2",
                "pallet",
                new { sourceBatch = "NC-1201", more = new[] { new { pack = "carton", packs = "3" }, new { pack = "each", packs = "2" } } }
            )
        );
        Assert.True(counted.IsOk, counted.Body.ToString());
        Assert.Equal((2 * 96 + 3 * 4 + 2, 2), (counted["quantity"].GetInt32(), counted["units"].GetArrayLength()));
        await using var db = server.Db();
        var last = (await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync()).ActId;
        Assert.Equal(206, (await db.TallyEntries.Where(e => e.ActId == last).ToListAsync()).Sum(e => e.Quantity));
        Assert.Single(await db.TallyEntries.Where(e => e.ActId == last).Select(e => e.BatchId).Distinct().ToListAsync());
        Assert.Equal(
            "level-twice",
            (
                await leila.Act(
                    "/door/count",
                    Brick("2", "pallet", new { sourceBatch = "NC-1201", more = new[] { new { pack = "pallet", packs = "3" } } })
                )
            ).Code
        );
        Assert.Equal(
            "packs-not-whole",
            (
                await leila.Act(
                    "/door/count",
                    Brick("2", "pallet", new { sourceBatch = "NC-1201", more = new[] { new { pack = "carton", packs = "0.5" } } })
                )
            ).Code
        );
        Assert.True((await leila.Act("/door/take-back", new { arrival = "A-2617" })).IsOk);
        Assert.Empty(await db.TallyEntries.AsNoTracking().Where(e => e.ActId == last && e.TakenBackAt == null).ToListAsync());
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Goods_are_measured_in_other_units_of_the_same_kind_exactly()
    {
        using var leila = await server.SignIn("leila");
        object Seed(string packs, string unit) =>
            Client.Count(
                packs,
                "A-2617",
                "SD-FEN",
                unit,
                new
                {
                    sourceBatch = "F-1",
                    production = "2025-10-31",
                    bestBefore = "2027-10-30",
                    origin = "IN",
                }
            );
        Assert.Equal(2.5m, (await leila.Act("/door/count", Seed("2500", "g")))["quantity"].GetDecimal());
        // A pound is 0.45359237 kg: 10 of them are no whole number of half kilograms.
        var refused = await leila.Act("/door/count", Seed("10", "lb"));
        Assert.Equal("quantity-not-whole", refused.Code);
        Assert.Contains("4.5 and 5", refused.Sentence, StringComparison.Ordinal);
        Assert.Equal("pack-unknown", (await leila.Act("/door/count", Seed("1", "ft"))).Code);
    }

    [Fact]
    public async Task Weighed_goods_take_their_weight_from_the_scale_and_beyond_tolerance_are_doubted()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        Assert.True((await wanjiru.Act("/road/at-door", new { arrival = "A-2627", door = 1 })).IsOk);
        Assert.Empty((await maren.Ask("/door/scales")).Body.EnumerateArray());
        Assert.Equal(
            "scale-name",
            (
                await maren.Act(
                    "/door/scales",
                    new
                    {
                        scale = " ",
                        kilograms = 1,
                        steady = true,
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await maren.Act(
                    "/door/scales",
                    new
                    {
                        scale = "By door 1",
                        kilograms = 20.4,
                        steady = true,
                    }
                )
            ).IsOk
        );
        var weight = (await maren.Ask("/door/scales")).Body[0].GetProperty("kilograms").GetDecimal();
        object Net(string? kilograms) =>
            Client.Count(
                "2",
                "A-2627",
                "SH-10",
                "net",
                new
                {
                    sourceBatch = "Z-1",
                    production = "2026-02-01",
                    bestBefore = "2026-06-01",
                    origin = "NL",
                    weight = kilograms,
                }
            );
        Assert.Equal("wanted", (await maren.Act("/door/count", Net(null))).Code);
        Assert.Equal("weight-off", (await maren.Act("/door/count", Net("25"))).Code);
        Assert.True((await maren.Act("/door/count", Net(weight.ToString("0.###")))).IsOk);
        await using var db = server.Db();
        Assert.Equal(20.4m, (await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync()).Weight);
    }

    [Fact]
    public async Task A_paper_tally_is_typed_in_whole_or_not_at_all_under_the_name_of_who_counted()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var before = server.LastEntry();
        Dictionary<string, object?> Row(string item, string packs, string pack) =>
            (Dictionary<string, object?>)Client.Count(packs, "A-2618", item, pack);
        var wrong = await wanjiru.Act(
            "/door/paper",
            new
            {
                arrival = "A-2618",
                countedBy = "tomasz",
                rows = new[] { Row("HH-16", "2", "box"), Row("SP-DG", "many", "bundle") },
            }
        );
        Assert.Equal("not-a-number", wrong.Code);
        Assert.StartsWith("Row 2, SP-DG:", wrong.Sentence, StringComparison.Ordinal);
        Assert.Equal(before, server.LastEntry());
        Assert.Equal(
            "right-missing",
            (
                await wanjiru.Act(
                    "/door/paper",
                    new
                    {
                        arrival = "A-2618",
                        countedBy = "petra",
                        rows = new[] { Row("HH-16", "2", "box") },
                    }
                )
            ).Code
        );
        Assert.Equal("nothing-counted", (await wanjiru.Act("/door/paper", new { arrival = "A-2618", rows = Array.Empty<object>() })).Code);
        Assert.Equal("nothing-counted", (await wanjiru.Act("/door/paper", new { arrival = "A-2618", rows = new object?[] { null } })).Code);
        Assert.Equal(
            "pack-unknown",
            (await wanjiru.Act("/door/count", Client.Count("1", "A-2618", "HS-15", "each", new { more = new object?[] { null } }))).Code
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/door/paper",
                    new
                    {
                        arrival = "A-2618",
                        countedBy = "tomasz",
                        rows = new[] { Row("HH-16", "2", "box"), Row("HS-15", "5", "each") },
                    }
                )
            ).IsOk
        );
        await using var db = server.Db();
        var taken = await db.TallyEntries.Where(e => e.FromPaper).ToListAsync();
        Assert.Equal((2, "Tomasz Birkett"), (taken.Count, taken.Select(t => t.PersonName).Distinct().Single()));
        Assert.Equal("Wanjiru Holloway", (await db.Ledger.SingleAsync(e => e.Seq == taken[0].LedgerSeq)).PersonName);
    }

    [Fact]
    public async Task Numbers_of_a_device_are_its_own_and_are_never_given_twice()
    {
        using var leila = await server.SignIn("leila");
        var block = await leila.Act("/door/numbers", new { kind = "Unit" });
        var (from, to) = (block["from"].GetInt64(), block["to"].GetInt64());
        Assert.Equal(NumberBlock.Size, to - from + 1);
        var second = await leila.Act("/door/numbers", new { kind = "Unit" });
        Assert.Equal(to + 1, second["from"].GetInt64());
        var own = Sscc.Make(3, "9521234", from);
        object Pallet(params string[] units) =>
            Brick(
                units.Length == 0 ? "1" : units.Length.ToString(),
                "pallet",
                new { sourceBatch = "NC-1201", units = units.Length == 0 ? null : units }
            );
        Assert.Equal("unit-not-reserved", (await leila.Act("/door/count", Pallet(Sscc.Make(3, "9521234", from - 1)))).Code);
        Assert.Equal("unit-not-reserved", (await leila.Act("/door/count", Pallet("395212340000000010"))).Code);
        Assert.Equal(
            "unit-unasked",
            (await leila.Act("/door/count", Brick("1", "carton", new { sourceBatch = "NC-1201", units = new[] { own } }))).Code
        );
        Assert.Equal("unit-numbers", (await leila.Act("/door/count", Pallet(own, own))).Code);
        Assert.Equal(own, (await leila.Act("/door/count", Pallet(own)))["units"][0].GetString());
        Assert.Equal("unit-used", (await leila.Act("/door/count", Pallet(own))).Code);
        // The site's own next number lies behind both blocks.
        var given = (await leila.Act("/door/count", Pallet()))["units"][0].GetString()!;
        Assert.True(NumberBlock.SerialOf(given, 3, "9521234") > second["to"].GetInt64());
        var batches = await leila.Act("/door/numbers", new { kind = "Batch" });
        Assert.Equal((1001, 1050), (batches["from"].GetInt64(), batches["to"].GetInt64()));
    }

    [Fact]
    public async Task What_waited_on_a_device_is_sent_together_and_each_count_keeps_its_own_id_and_answer()
    {
        using var leila = await server.SignIn("leila");
        var ids = Enumerable.Range(0, 5).Select(_ => Guid.CreateVersion7()).ToList();
        object Sent(int i) =>
            new
            {
                id = ids[i],
                request = i == 2 ? Client.Count("1", "A-2618", "NO-SUCH", "each") : Client.Count("1", "A-2618", "HS-15", "each"),
            };
        async Task<List<JsonElement>> Send(params int[] which) =>
            [.. (await leila.Act("/door/counts", which.Select(Sent).ToArray())).Body.EnumerateArray()];
        var answers = await Send(0, 1, 2, 3);
        Assert.Equal(ids.Take(4), answers.Select(a => a.GetProperty("id").GetGuid()));
        Assert.Equal("item-unknown", answers[2].GetProperty("problem").GetProperty("code").GetString());
        Assert.Equal(3, answers.Count(a => a.TryGetProperty("answer", out _)));
        // Sent again, alone or together, each is still done once.
        Assert.Equal(4, (await Send(0, 1, 3, 4)).Count(a => a.TryGetProperty("answer", out _)));
        Assert.True((await leila.Act("/door/count", Client.Count("1", "A-2618", "HS-15", "each"), ids[0])).IsOk);
        await using var db = server.Db();
        Assert.Equal(4, await db.TallyEntries.CountAsync(e => ids.Contains(e.ActId)));
        Assert.Equal("acts-count", (await leila.Act("/door/counts", Array.Empty<object>())).Code);
        Assert.Equal("acts-count", (await leila.Act("/door/counts", Enumerable.Range(0, 65).Select(_ => Sent(0)).ToArray())).Code);
        Assert.Equal("act-id-missing", (await leila.Act("/door/counts", new[] { new { id = Guid.Empty, request = Client.Count() } })).Code);
    }

    [Fact]
    public async Task One_pallet_of_the_vendor_is_not_counted_by_two_people_and_like_ones_are_warned_of()
    {
        using var leila = await server.SignIn("leila");
        using var tomasz = await server.SignIn("tomasz");
        const string sscc = "340123450000009010";
        object Labelled(string packs = "24") => Brick(packs, "carton", new { sourceBatch = "NC-1201", sscc });
        Assert.True((await leila.Act("/door/count", Labelled())).IsOk);
        var twice = await tomasz.Act("/door/count", Labelled());
        Assert.Equal("unit-counted", twice.Code);
        Assert.Contains("Leila Fennimore at 11:20", twice.Sentence, StringComparison.Ordinal);
        Assert.Equal(
            "wrong-check-digit",
            (await tomasz.Act("/door/count", Brick("24", "carton", new { sourceBatch = "NC-1201", sscc = "340123450000009011" }))).Code
                is { } code
            && code.Contains("check", StringComparison.Ordinal)
                ? "wrong-check-digit"
                : ""
        );
        Assert.Equal(JsonValueKind.Null, (await leila.Act("/door/count", Brick("1", "pallet")))["warning"].ValueKind);
        Assert.Contains(
            "Leila Fennimore counted 1 pallet",
            (await tomasz.Act("/door/count", Brick("1", "pallet")))["warning"].GetString(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Two_batches_stand_on_one_unit_where_place_and_standing_are_the_same()
    {
        using var leila = await server.SignIn("leila");
        var unit = (await leila.Act("/door/count", Brick("1", "pallet")))["units"][0].GetString()!;
        var mixed = await leila.Act("/door/count", Brick("3", "carton", new { sourceBatch = "NC-1300", onto = unit }));
        Assert.True(mixed.IsOk, mixed.Body.ToString());
        Assert.Equal(
            "unit-elsewhere",
            (
                await leila.Act(
                    "/door/count",
                    Brick(
                        "3",
                        "carton",
                        new
                        {
                            sourceBatch = "NC-1300",
                            onto = unit,
                            aside = "Damaged",
                            note = "torn",
                        }
                    )
                )
            ).Code
        );
        Assert.Equal(
            "not-found",
            (await leila.Act("/door/count", Brick("3", "carton", new { sourceBatch = "NC-1300", onto = "395212340000099992" }))).Code
        );
        await using var db = server.Db();
        var id = (await db.Units.SingleAsync(u => u.Sscc == unit)).Id;
        Assert.Equal([12m, 96m], await db.Balances.Where(b => b.UnitId == id).Select(b => b.Quantity).OrderBy(q => q).ToListAsync());
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_serial_that_left_shows_its_history_and_may_come_back_while_one_on_hand_is_refused()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        await wanjiru.BringVan();
        object Piece(string serial) => Client.Count("1", "A-2624", "IC-08", "each", new { serial });
        Assert.Equal(JsonValueKind.Null, (await maren.Act("/door/count", Piece("IC-0900")))["warning"].ValueKind);
        Assert.Equal("serial-here", (await maren.Act("/door/count", Piece("IC-0900"))).Code);
        await using var db = server.Db();
        var balance = await db.Balances.SingleAsync(b => b.Serial == "IC-0900");
        // The job that waits for it gets it.
        Assert.True(
            (
                await wanjiru.Act(
                    "/book/issue",
                    new
                    {
                        balance = balance.Id,
                        quantity = "1",
                        to = "Customer",
                        reference = "J-221",
                    }
                )
            ).IsOk
        );
        var read = await maren.Ask($"/scan?text={Uri.EscapeDataString($"(01){Gtin("IC-08", "each")}(21)IC-0900")}&arrival=A-2624");
        Assert.Contains("for J-221", read["history"][0].GetString(), StringComparison.Ordinal);
        Assert.Contains(
            "was here before",
            (await maren.Act("/door/count", Piece("IC-0900")))["warning"].GetString(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Item_batch_and_date_may_be_scanned_one_after_another()
    {
        using var leila = await server.SignIn("leila");
        async Task<Answer> Scan(string text, string wanted, string serial = "", string of = "CB-05") =>
            await leila.Ask($"/scan?text={text}&arrival=A-2617&wanted={wanted}&of={of}&serial={serial}");
        await using var db = server.Db();
        var known = await db
            .SourceBatches.Where(b => db.Items.Any(i => i.Id == b.ItemId && i.Code == "CB-05"))
            .Select(b => b.Number)
            .FirstAsync();
        var alike = string.Concat(known.Select(c => char.IsAsciiDigit(c) ? '7' : c));
        var fits = await Scan(alike, "sourceBatch,production");
        Assert.Equal(("Details", alike), (fits["kind"].GetString(), fits["sourceBatch"].GetString()));
        // A text that looks like none of the item's batches fills nothing by itself.
        var offered = await Scan("HANDLE WITH CARE", "sourceBatch,production");
        Assert.Equal(
            ("Unknown", "sourceBatch", "HANDLE WITH CARE"),
            (offered["kind"].GetString(), offered["offers"].GetString(), offered["sourceBatch"].GetString())
        );
        Assert.Equal(
            ("Details", "Unknown"),
            (
                (await Scan("IC-0951", "serial", "IC-0950", "IC-08"))["kind"].GetString(),
                (await Scan("SP-02-0001", "serial", "IC-0950", "IC-08"))["kind"].GetString()
            )
        );
        Assert.Equal("2025-10-31", (await Scan("251031", "production,bestBefore"))["production"].GetString());
        Assert.Equal("2027-10-31", (await Scan("271000", "bestBefore"))["bestBefore"].GetString());
        Assert.Equal("2026-05-01", (await Scan("2026-05-01", "expiry"))["expiry"].GetString());
        Assert.Equal("Unknown", (await Scan("L-77", "production"))["kind"].GetString());
        Assert.Equal("Item", (await Scan("CB-05", "sourceBatch"))["kind"].GetString());
    }

    [Fact]
    public async Task Goods_go_back_to_the_vendor_before_the_invoice_and_after_it_with_different_consequences()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var dilys = await server.SignIn("dilys");
        using var leila = await server.SignIn("leila");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-BACK",
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
            await leila.Act(
                "/door/open-on-the-spot",
                new
                {
                    orders = new[] { "PO-BACK" },
                    vehicle = "truck",
                    door = 4,
                    atOnce = true,
                    notIso6346 = false,
                    unplanned = true,
                    deliveryNote = "Q-1",
                }
            )
        )["number"].GetString()!;
        Assert.True((await leila.Act("/door/count", Client.Count("20", arrival, "PF-50", "each"))).IsOk);
        var receipt = (
            await leila.Act(
                "/door/close",
                new
                {
                    arrival,
                    decisions = Array.Empty<object>(),
                    deliveryNotes = Array.Empty<object>(),
                }
            )
        )["receipts"][0].GetProperty("number").GetString()!;
        var line = (await leila.Ask($"/door/receipts/{receipt}"))["lines"][0];
        var stands = line.GetProperty("stands")
            .EnumerateArray()
            .First(s => s.GetProperty("place").GetString()!.StartsWith("D4", StringComparison.Ordinal))
            .GetProperty("balance")
            .GetInt64();
        object Back(string quantity, string reason = "mouldy") =>
            new
            {
                receipt,
                balance = stands,
                quantity,
                reason,
            };
        Assert.Equal("right-missing", (await leila.Act("/door/receipts/return", Back("3"))).Code);
        Assert.Equal("note-missing", (await wanjiru.Act("/door/receipts/return", Back("3", " "))).Code);
        Assert.Equal("more-than-there", (await wanjiru.Act("/door/receipts/return", Back("21"))).Code);
        Assert.True((await wanjiru.Act("/door/receipts/return", Back("3"))).IsOk);
        await using var db = server.Db();
        Task<decimal> Received() =>
            db.LineParts.AsNoTracking().Where(p => p.Line!.Order!.Number == "PO-BACK").Select(p => p.Received).SingleAsync();
        Assert.Equal(17, await Received());
        Assert.NotEqual(Core.Road.OrderState.Complete, (await db.Orders.AsNoTracking().SingleAsync(o => o.Number == "PO-BACK")).State);
        Assert.Equal("right-missing", (await leila.Act("/door/receipts/invoiced", new { receipt })).Code);
        Assert.True((await dilys.Act("/door/receipts/invoiced", new { receipt })).IsOk);
        Assert.Equal("decided", (await dilys.Act("/door/receipts/invoiced", new { receipt })).Code);
        Assert.True((await wanjiru.Act("/door/receipts/return", Back("4"))).IsOk);
        Assert.Equal(17, await Received());
        var shown = await leila.Ask($"/door/receipts/{receipt}");
        Assert.Equal(
            ["not to be invoiced", "credit wanted"],
            shown["returns"].EnumerateArray().Select(r => r.GetProperty("consequence").GetString())
        );
        Assert.Equal(13, shown["lines"][0].GetProperty("left").GetDecimal());
        var csv = await dilys.Http.GetStringAsync("/api/LM/door/returns.csv");
        Assert.Contains("credit wanted", csv, StringComparison.Ordinal);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task Outwork_comes_back_against_its_note_several_notes_to_an_order()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        await using var db = server.Db();
        var stock = await db
            .Balances.Where(b => b.Standing == Standing.Usable && b.UnitId == null && b.Quantity >= 20)
            .OrderBy(b => b.Id)
            .FirstAsync();
        object Out(string quantity, string treatment = "seed dressing") =>
            new
            {
                balance = stock.Id,
                quantity,
                vendor = "BRAC",
                order = "TO-9",
                treatment,
            };
        Assert.Equal("note-missing", (await wanjiru.Act("/door/outwork/send", Out("5", ""))).Code);
        Assert.Equal("more-than-there", (await wanjiru.Act("/door/outwork/send", Out("9999999"))).Code);
        Assert.True((await wanjiru.Act("/door/outwork/send", Out("10"))).IsOk);
        Assert.True((await wanjiru.Act("/door/outwork/send", Out("6"))).IsOk);
        var notes = (await maren.Ask("/door/outwork?order=TO-9"))["notes"]
            .EnumerateArray()
            .Select(n => n.GetProperty("number").GetString()!)
            .Order()
            .ToList();
        Assert.Equal(2, notes.Count);
        Assert.Equal("Outwork", (await maren.Ask($"/scan?text={notes[0]}"))["kind"].GetString());
        object Back(string? quantity, bool restLost = false, string? note = null) =>
            new
            {
                note = note ?? notes[0],
                quantity,
                door = 4,
                restLost,
            };
        Assert.Equal("more-than-out", (await maren.Act("/door/outwork/back", Back("11"))).Code);
        Assert.Equal("quantity-not-positive", (await maren.Act("/door/outwork/back", Back(null))).Code);
        Assert.True((await maren.Act("/door/outwork/back", Back("4"))).IsOk);
        Assert.True((await maren.Act("/door/outwork/back", Back("5", restLost: true))).IsOk);
        Assert.Equal("more-than-out", (await maren.Act("/door/outwork/back", Back("1"))).Code);
        Assert.True((await maren.Act("/door/outwork/back", Back("6", note: notes[1]))).IsOk);
        var done = await db.OutworkNotes.Where(n => n.Order == "TO-9").AsNoTracking().OrderBy(n => n.Id).ToListAsync();
        Assert.Equal([(9m, 1m, false), (6m, 0m, false)], done.Select(n => (n.Back, n.Lost, n.IsOpen)));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task An_administrator_says_what_an_item_asks_and_the_next_count_goes_by_it()
    {
        using var anselm = await server.SignIn("anselm");
        using var leila = await server.SignIn("leila");
        object Keep(object[]? attributes = null, string pattern = "", string un = "", string type = "PX") =>
            new
            {
                code = "CB-05",
                attributes = attributes ?? [],
                catchWeight = false,
                weightTolerance = 10,
                batchPattern = pattern,
                rulingDate = "BestBefore",
                minimumRemainingDays = (int?)180,
                marks = new
                {
                    hazards = Array.Empty<string>(),
                    unNumber = un,
                    handling = new[] { "KeepDry" },
                },
                packageTypes = new Dictionary<string, string> { ["pallet"] = type },
            };
        Assert.Equal("right-missing", (await leila.Act("/site/item", Keep())).Code);
        Assert.Equal(
            "attribute-wrong",
            (
                await anselm.Act(
                    "/site/item",
                    Keep([
                        new
                        {
                            name = "Grade",
                            kind = "Choice",
                            need = "Required",
                        },
                    ])
                )
            ).Code
        );
        Assert.Equal("un-number", (await anselm.Act("/site/item", Keep(un: "12"))).Code);
        Assert.Equal("package-type", (await anselm.Act("/site/item", Keep(type: "ZZZ"))).Code);
        Assert.Equal("batch-pattern", (await anselm.Act("/site/item", Keep(pattern: "{what}{n}"))).Code);
        object[] asked =
        [
            new
            {
                name = "Grade",
                kind = "Choice",
                need = "Required",
                choices = new[] { "fine", "coarse" },
            },
            new
            {
                name = "Moisture",
                kind = "Number",
                need = "Recommended",
                unit = "%",
                least = 0,
                most = 100,
            },
        ];
        Assert.True((await anselm.Act("/site/item", Keep(asked, "{vendor}{yy}{ww}-{n}"))).IsOk);
        Assert.Equal("wanted", (await leila.Act("/door/count", Brick("1", "pallet", new { sourceBatch = "NEW-1" }))).Code);
        Assert.Equal(
            "recommended",
            (
                await leila.Act(
                    "/door/count",
                    Brick("1", "pallet", new { sourceBatch = "NEW-1", attributes = new Dictionary<string, string> { ["Grade"] = "fine" } })
                )
            ).Code
        );
        var counted = await leila.Act(
            "/door/count",
            Brick(
                "1",
                "pallet",
                new
                {
                    sourceBatch = "NEW-1",
                    attributes = new Dictionary<string, string> { ["Grade"] = "fine" },
                    blankAllowed = true,
                }
            )
        );
        Assert.Equal("NILG2611-1", counted["batch"].GetString());
        Assert.True(
            (
                await anselm.Act("/site/item/picture", new { code = "CB-05", content = Convert.ToBase64String(Pictures.Png(3000, 2000)) })
            ).IsOk
        );
        using var picture = await leila.Http.GetAsync("/api/LM/site/items/CB-05/picture");
        Assert.Equal("image/jpeg", picture.Content.Headers.ContentType!.MediaType);
        Assert.True((await anselm.Act("/site/item/picture", new { code = "CB-05", content = "" })).IsOk);
        Assert.Equal(System.Net.HttpStatusCode.NotFound, (await leila.Http.GetAsync("/api/LM/site/items/CB-05/picture")).StatusCode);
    }

    [Theory]
    [InlineData("MALA", -1, "a@mala.example", "setting-absurd")]
    [InlineData("MALA", 40_000, "a@mala.example", "setting-absurd")]
    [InlineData("MALA", 200, "nobody", "setting-absurd")]
    [InlineData("NOONE", 200, "a@mala.example", "not-found")]
    public async Task A_vendor_is_not_kept_half(string code, int days, string mail, string refusal)
    {
        using var anselm = await server.SignIn("anselm");
        var before = server.LastEntry();
        Assert.Equal(
            refusal,
            (
                await anselm.Act(
                    "/site/vendor",
                    new
                    {
                        code,
                        contact = "Ana",
                        telephone = "",
                        mail,
                        minimumRemainingDays = days,
                    }
                )
            ).Code
        );
        Assert.Equal(before, server.LastEntry());
        using var leila = await server.SignIn("leila");
        Assert.Equal(
            "right-missing",
            (
                await leila.Act(
                    "/site/vendor",
                    new
                    {
                        code,
                        contact = "Ana",
                        telephone = "",
                        mail,
                        minimumRemainingDays = days,
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task How_long_goods_of_a_vendor_must_keep_is_said_by_hand_and_the_next_count_goes_by_it()
    {
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var anselm = await own.SignIn("anselm");
        using var leila = await own.SignIn("leila");
        object Seed() =>
            Client.Count(
                "1",
                "A-2617",
                "SD-PHA",
                "each",
                new
                {
                    sourceBatch = "HAND-1",
                    production = "2025-10-02",
                    bestBefore = "2026-09-30",
                    origin = "IN",
                }
            );
        Assert.True((await leila.Act("/door/count", Seed())).IsOk);
        Assert.True(
            (
                await anselm.Act(
                    "/site/vendor",
                    new
                    {
                        code = "MALA",
                        contact = "Ravi Menon",
                        telephone = "+91 000",
                        mail = "desk@mala.example",
                        minimumRemainingDays = 300,
                    }
                )
            ).IsOk
        );
        var refused = await leila.Act("/door/count", Seed());
        Assert.Equal("short-life", refused.Code);
        Assert.Contains("goods of this vendor want 300", refused.Sentence, StringComparison.Ordinal);
        var row = (await anselm.Ask("/site"))["vendors"].EnumerateArray().Single(v => v.GetProperty("code").GetString() == "MALA");
        Assert.Equal((300, "Ravi Menon"), (row.GetProperty("minimumRemainingDays").GetInt32(), row.GetProperty("contact").GetString()));
        Assert.True(
            (
                await anselm.Act(
                    "/site/vendor",
                    new
                    {
                        code = "MALA",
                        contact = (string?)null,
                        telephone = (string?)null,
                        mail = (string?)null,
                        minimumRemainingDays = (int?)null,
                    }
                )
            ).IsOk
        );
        Assert.True((await leila.Act("/door/count", Seed())).IsOk);
    }

    [Theory]
    [InlineData("a-2617", "Arrival")]
    [InlineData("A-2617", "Arrival")]
    [InlineData("po-4471", "Order")]
    public async Task Numbers_of_orders_and_arrivals_are_read_in_any_case(string typed, string kind)
    {
        using var leila = await server.SignIn("leila");
        Assert.Equal(kind, (await leila.Ask($"/scan?text={typed}"))["kind"].GetString());
    }

    [Fact]
    public async Task A_code_in_the_field_of_the_quantity_is_refused_and_a_decimal_comma_is_read_where_the_site_says_so()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var anselm = await server.SignIn("anselm");
        Assert.Equal("quantity-is-code", (await wanjiru.Act("/door/count", Client.Count("119521234100918"))).Code);
        Assert.Equal("quantity-is-code", (await wanjiru.Act("/door/count", Client.Count("]C10109521234000013"))).Code);
        Assert.Equal("not-a-number", (await wanjiru.Act("/door/count", Client.Count("2,0"))).Code);
        var facts = JsonNode.Parse((await anselm.Ask("/site/house"))["facts"].GetRawText())!;
        facts["decimalComma"] = true;
        Assert.True((await anselm.Act("/site/house", facts)).IsOk);
        Assert.Equal(12, (await wanjiru.Act("/door/count", Client.Count("2,0")))["quantity"].GetDecimal());
        facts["decimalComma"] = false;
        Assert.True((await anselm.Act("/site/house", facts)).IsOk);
    }

    [Fact]
    public async Task What_is_not_to_count_stands_in_the_book_with_its_reason_and_can_be_taken_back_once()
    {
        using var leila = await server.SignIn("leila");
        var said = Guid.NewGuid();
        object Not(string reason, Guid? takesBack = null) =>
            new
            {
                arrival = "A-2618",
                what = "Digging spade, box",
                scanned = "0195",
                reason,
                takesBack,
            };
        Assert.Equal("reason-missing", (await leila.Act("/door/not-counted", Not(" "))).Code);
        Assert.True((await leila.Act("/door/not-counted", Not("the wrong stack"), said)).IsOk);
        Assert.True((await leila.Act("/door/not-counted", Not("the wrong stack", said))).IsOk);
        Assert.Equal("taken-back", (await leila.Act("/door/not-counted", Not("the wrong stack", said))).Code);
        await using var db = server.Db();
        var entries = await db
            .Ledger.Where(e => e.Kind == Core.Book.EntryKind.NotCounted && e.Subject == "A-2618")
            .OrderBy(e => e.Seq)
            .ToListAsync();
        Assert.Equal([null, entries[0].Seq], entries.Select(e => e.Undoes));
        Assert.Contains("the wrong stack", entries[0].InWords(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_label_whose_batch_seems_to_have_swallowed_a_date_is_asked_about_until_that_batch_is_known()
    {
        using var maren = await server.SignIn("maren");
        async Task<Answer> Scan() =>
            await maren.Ask($"/scan?text={Uri.EscapeDataString($"(01){Gtin("CB-05", "each")}(10)229111251031")}&arrival=A-2617");
        var asked = await Scan();
        Assert.Equal("batch-swallows", asked["problem"].GetProperty("code").GetString());
        Assert.Equal(
            ("2291", "2025-10-31"),
            (asked["instead"].GetProperty("sourceBatch").GetString(), asked["instead"].GetProperty("production").GetString())
        );
        Assert.True(
            (
                await maren.Act(
                    "/door/count",
                    Client.Count(
                        "1",
                        "A-2617",
                        "CB-05",
                        "each",
                        new
                        {
                            sourceBatch = "229111251031",
                            production = "2025-10-30",
                            bestBefore = "2028-10-30",
                            origin = "LK",
                        }
                    )
                )
            ).IsOk
        );
        Assert.Equal(JsonValueKind.Null, (await Scan())["problem"].ValueKind);
        // The same batch with another date is a question before anything is counted.
        var other = await maren.Ask(
            $"/scan?text={Uri.EscapeDataString($"(01){Gtin("CB-05", "each")}(11)251001(10)229111251031")}&arrival=A-2617"
        );
        Assert.Equal("batch-dates-differ", other["problem"].GetProperty("code").GetString());
    }

    [Fact]
    public async Task Pieces_counted_in_one_go_are_told_by_their_serials_and_taken_back_one_by_one()
    {
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        await wanjiru.BringVan();
        var id = Guid.NewGuid();
        var counted = await maren.Act(
            "/door/count",
            Client.Count("1", "A-2624", "IC-08", "each", new { serials = "IC-0981 to IC-0983" }),
            id
        );
        Assert.True(counted.IsOk, counted.Body.ToString());
        var rows = (await maren.Ask("/door/tally/A-2624"))["counts"]
            .EnumerateArray()
            .Where(c => c.GetProperty("act").GetGuid() == id)
            .ToList();
        Assert.Equal(["IC-0981", "IC-0982", "IC-0983"], rows.Select(r => r.GetProperty("serial").GetString()).Order());
        Assert.True(
            (
                await maren.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2624",
                        count = id,
                        serial = "IC-0982",
                    }
                )
            ).IsOk
        );
        Assert.Equal(
            "nothing-to-take-back",
            (
                await maren.Act(
                    "/door/take-back",
                    new
                    {
                        arrival = "A-2624",
                        count = id,
                        serial = "IC-0982",
                    }
                )
            ).Code
        );
        await using var db = server.Db();
        Assert.Equal(
            ["IC-0981", "IC-0983"],
            await db
                .Balances.Where(b => b.Serial != null && b.Serial.StartsWith("IC-098"))
                .Select(b => b.Serial)
                .OrderBy(s => s)
                .ToListAsync()
        );
        Assert.Empty((await server.Check()).Faults);
    }
}
