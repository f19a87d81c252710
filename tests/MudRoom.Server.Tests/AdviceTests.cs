using System.Text;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;

namespace MudRoom.Server.Tests;

/// <summary>Despatch advices, changes of orders and what is aboard which vehicle, as vendors send them and people put them right.</summary>
public sealed class AdviceTests(DemoServer server) : IClassFixture<DemoServer>
{
    static int made;

    /// <summary>An SSCC of another house: GS1 prefix and serial, with its check digit.</summary>
    static string Unit()
    {
        var body = $"34012345{Interlocked.Increment(ref made) + 500_000:000000000}";
        return body + Core.Identification.CheckDigit.For(body);
    }

    static string Advice(
        string number,
        string order,
        string function,
        params (int Line, string Item, string Quantity, string Unit)[] aboard
    )
    {
        var body = new List<string>
        {
            $"BGM+351+{number}+{function}",
            "DTM+137:20260310:102",
            "DTM+17:202603111400:203",
            "NAD+SU+SALT::92",
            "NAD+DP+LM::92",
        };
        foreach (var (at, (line, item, quantity, unit)) in aboard.Index())
            body.AddRange(
                $"CPS+{at + 1}",
                "PAC+1++201",
                $"GIN+BJ+{unit}",
                $"LIN+{at + 1}",
                $"PIA+1+{item}:IN",
                $"QTY+12:{quantity}:EA",
                $"RFF+ON:{order}:{line}"
            );
        return string.Join(
            "'",
            [$"UNB+UNOC:3+A+B+260310:0800+{number}", "UNH+1+DESADV:D:01B:UN", .. body, $"UNT+{body.Count + 2}+1", $"UNZ+1+{number}", ""]
        );
    }

    /// <summary>An open order of two lines: 40 of calcium nitrate, 10 of ammonium nitrate.</summary>
    static async Task Order(Client dilys, string number) =>
        Assert.True(
            (
                await dilys.Act(
                    "/road/orders/new",
                    new
                    {
                        number,
                        kind = "Purchase",
                        vendor = "SALT",
                        draft = false,
                        lines = new[]
                        {
                            new
                            {
                                item = "CN-25",
                                quantity = "40",
                                due = "2026-03-11",
                            },
                            new
                            {
                                item = "AN-25",
                                quantity = "10",
                                due = "2026-03-11",
                            },
                        },
                    }
                )
            ).IsOk
        );

    static async Task<string> Planned(Client client, string order, object? more = null)
    {
        var answer = await client.Act(
            "/road/arrivals",
            more
                ?? new
                {
                    orders = new[] { order },
                    planned = "2026-03-11T10:00:00",
                    atOnce = false,
                }
        );
        Assert.True(answer.IsOk, answer.Body.ToString());
        return answer["number"].GetString()!;
    }

    static Task<Answer> Import(Client client, string text, string? arrival = null) =>
        client.Act(
            "/road/import",
            new
            {
                name = "advice.edi",
                text,
                arrival,
            }
        );

    async Task<Arrival> Arrival(string number)
    {
        await using var db = server.Db();
        return await db.Arrivals.Include(a => a.Manifest).SingleAsync(a => a.Number == number);
    }

    static string Joined(Answer answer)
    {
        Assert.True(answer.IsOk, answer.Body.ToString());
        return answer["arrivals"].EnumerateArray().Single().GetString()!;
    }

    [Fact]
    public async Task An_advice_joins_the_arrival_its_lines_are_planned_on()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-JOIN");
        var planned = await Planned(wanjiru, "PO-JOIN");
        Assert.Equal(planned, Joined(await Import(wanjiru, Advice("DA-JOIN", "PO-JOIN", "9", (1, "CN-25", "36", Unit())))));
        var arrival = await Arrival(planned);
        Assert.Equal([36, 10], arrival.Manifest.OrderByDescending(m => m.Expected).Select(m => m.Expected));
        var page = await wanjiru.Ask($"/road/arrivals/{planned}");
        Assert.Contains(
            "line 2 is planned on " + planned + " and not in the advice",
            Assert.Single(page["differences"].EnumerateArray()).GetProperty("sentence").GetString(),
            StringComparison.Ordinal
        );
        Assert.Equal("despatch advice DA-JOIN", page["etas"].EnumerateArray().First().GetProperty("source").GetString());
        Assert.Equal(planned, (await wanjiru.Ask("/scan?text=DA-JOIN"))["arrival"].GetString());
    }

    [Fact]
    public async Task Where_two_arrivals_carry_its_lines_somebody_says_which()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-WHICH");
        await using (var db = server.Db())
        {
            var parts = await db
                .LineParts.Where(p => p.Line!.Order!.Number == "PO-WHICH")
                .OrderBy(p => p.Line!.Number)
                .Select(p => p.Id)
                .ToListAsync();
            await Planned(
                wanjiru,
                "",
                new
                {
                    orders = new[] { "PO-WHICH" },
                    parts = new[] { parts[0] },
                    atOnce = false,
                    planned = "2026-03-11T10:00:00",
                }
            );
            await Planned(
                wanjiru,
                "",
                new
                {
                    orders = new[] { "PO-WHICH" },
                    parts = new[] { parts[1] },
                    atOnce = false,
                    planned = "2026-03-11T11:00:00",
                }
            );
        }

        var text = Advice("DA-WHICH", "PO-WHICH", "9", (1, "CN-25", "40", Unit()), (2, "AN-25", "10", Unit()));
        var choices = (await wanjiru.Act("/road/import/preview", new { name = "advice.edi", text }))["choices"]
            .EnumerateArray()
            .Single()
            .GetProperty("arrivals")
            .EnumerateArray()
            .Select(a => a.GetString()!)
            .ToList();
        Assert.Equal(2, choices.Count);
        var asked = await Import(wanjiru, text);
        Assert.Equal("which-arrival", asked.Code);
        Assert.Contains(string.Join(" or ", choices), asked.Sentence, StringComparison.Ordinal);
        Assert.Equal(choices[1], Joined(await Import(wanjiru, text, choices[1])));
        var sentences = (await wanjiru.Ask("/road/arrivals/" + choices[1]))["differences"]
            .EnumerateArray()
            .Select(d => d.GetProperty("sentence").GetString()!);
        Assert.Contains(sentences, s => s.EndsWith($"is planned on {choices[0]} too.", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_second_advice_of_a_line_is_the_rest_of_it_on_another_vehicle()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-TWO");
        var first = await Planned(wanjiru, "PO-TWO");
        Assert.Equal(
            first,
            Joined(await Import(wanjiru, Advice("DA-TWO-1", "PO-TWO", "9", (1, "CN-25", "24", Unit()), (2, "AN-25", "10", Unit()))))
        );
        var second = Joined(await Import(wanjiru, Advice("DA-TWO-2", "PO-TWO", "9", (1, "CN-25", "16", Unit()))));
        Assert.NotEqual(first, second);
        Assert.Equal(
            (24m, 16m),
            ((await Arrival(first)).Manifest.Max(m => m.Expected), (await Arrival(second)).Manifest.Single().Expected)
        );
    }

    [Fact]
    public async Task A_line_part_comes_on_several_vehicles_and_each_says_how_much_is_aboard()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-PARTS");
        var first = await Planned(wanjiru, "PO-PARTS");
        var line = (await Arrival(first)).Manifest.MaxBy(m => m.Expected)!;
        Assert.Equal("nothing-open", (await wanjiru.Act("/road/arrivals", new { orders = new[] { "PO-PARTS" }, atOnce = false })).Code);
        Assert.Equal(
            "quantity-not-positive",
            (
                await wanjiru.Act(
                    "/road/arrivals/carry",
                    new
                    {
                        arrival = first,
                        line = line.Id,
                        quantity = "0",
                    }
                )
            ).Code
        );
        var carried = await wanjiru.Act(
            "/road/arrivals/carry",
            new
            {
                arrival = first,
                line = line.Id,
                quantity = "24",
            }
        );
        Assert.True(carried.IsOk, carried.Body.ToString());
        var second = await Planned(wanjiru, "PO-PARTS");
        Assert.Equal(16, (await Arrival(second)).Manifest.Single().Expected);
        Assert.True((await wanjiru.Act("/road/arrivals/withdraw", new { arrival = second, reason = "The haulier has no room." })).IsOk);
        Assert.True((await wanjiru.Act("/road/arrivals/add", new { arrival = first, orders = new[] { "PO-PARTS" } })).IsOk);
        Assert.Equal(40, (await Arrival(first)).Manifest.Max(m => m.Expected));
    }

    [Fact]
    public async Task An_arrival_on_which_nothing_was_counted_is_withdrawn_with_a_reason_and_its_lines_are_open_again()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-OFF");
        var arrival = await Planned(wanjiru, "PO-OFF");
        Assert.Equal("note-missing", (await wanjiru.Act("/road/arrivals/withdraw", new { arrival, reason = " " })).Code);
        Assert.True((await wanjiru.Act("/road/arrivals/withdraw", new { arrival, reason = "It was sent to another house." })).IsOk);
        Assert.Equal("withdrawn", (await wanjiru.Act("/road/arrivals/withdraw", new { arrival, reason = "Again." })).Code);
        Assert.Equal("withdrawn", (await wanjiru.Act("/road/at-door", new { arrival, door = 5 })).Code);
        Assert.DoesNotContain(
            arrival,
            (await wanjiru.Ask("/road/board"))["arrivals"].EnumerateArray().Select(a => a.GetProperty("number").GetString())
        );
        var again = await Planned(wanjiru, "PO-OFF");
        Assert.Equal(2, (await Arrival(again)).Manifest.Count);
        Assert.Equal("counted", (await wanjiru.Act("/road/arrivals/withdraw", new { arrival = "A-2617", reason = "No." })).Code);
        Assert.True((await wanjiru.Act("/road/arrivals/withdraw", new { arrival = again, reason = "The first one comes." })).IsOk);
        Assert.True((await wanjiru.Act("/yard/take-back", new { arrival, reason = "It comes after all." })).IsOk);
        Assert.Equal(ArrivalState.Expected, (await Arrival(arrival)).State);
    }

    [Fact]
    public async Task A_withdrawal_that_is_taken_back_has_its_advice_again_and_not_where_its_lines_went_elsewhere()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-BACK");
        var unit = Unit();
        var arrival = Joined(await Import(wanjiru, Advice("DA-BACK", "PO-BACK", "9", (1, "CN-25", "40", unit))));
        Assert.True((await wanjiru.Act("/road/arrivals/withdraw", new { arrival, reason = "Not today." })).IsOk);
        Assert.True((await wanjiru.Act("/yard/take-back", new { arrival })).IsOk);
        Assert.Equal(arrival, (await wanjiru.Ask("/scan?text=DA-BACK"))["arrival"].GetString());
        Assert.Equal("file-faults", (await Import(wanjiru, Advice("DA-BACK", "PO-BACK", "9", (1, "CN-25", "40", Unit())))).Code);
        await using var db = server.Db();
        Assert.NotNull((await db.LineParts.AsNoTracking().FirstAsync(p => p.Line!.Order!.Number == "PO-BACK" && p.Ordered == 40)).Coming);
        Assert.True((await wanjiru.Act("/road/arrivals/withdraw", new { arrival, reason = "Not at all." })).IsOk);
        var other = await Planned(wanjiru, "PO-BACK");
        var refused = await wanjiru.Act("/yard/take-back", new { arrival });
        Assert.Equal("meanwhile", refused.Code);
        Assert.Contains(other, refused.Sentence, StringComparison.Ordinal);
        Assert.Equal(ArrivalState.Withdrawn, (await Arrival(arrival)).State);
    }

    [Fact]
    public async Task An_advice_of_which_a_part_was_sent_on_is_not_half_cancelled()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-SENT");
        var arrival = Joined(
            await Import(wanjiru, Advice("DA-SENT", "PO-SENT", "9", (1, "CN-25", "40", Unit()), (2, "AN-25", "10", Unit())))
        );
        var line = (await Arrival(arrival)).Manifest.MinBy(m => m.Expected)!.Id;
        var sent = await wanjiru.Act(
            "/road/redirect",
            new
            {
                arrival,
                lines = new[] { line },
                site = "HB",
                reason = "They need it.",
            }
        );
        Assert.True(sent.IsOk, sent.Body.ToString());
        Assert.Equal("advice-parted", (await Import(wanjiru, Advice("DA-SENT", "PO-SENT", "1"))).Code);
        await using var db = server.Db();
        Assert.Equal(
            2,
            await db
                .AdvisedUnits.Where(u =>
                    db.DespatchAdvices.Any(d => d.Id == u.AdviceId && d.ArrivalId == u.ArrivalId && d.Number == "DA-SENT")
                )
                .CountAsync()
        );
    }

    [Fact]
    public async Task An_advice_that_is_replaced_or_cancelled_leaves_nothing_of_the_one_before()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-CHG");
        var (old, fresh) = (Unit(), Unit());
        var arrival = Joined(await Import(wanjiru, Advice("DA-CHG", "PO-CHG", "9", (1, "CN-25", "40", old))));
        Assert.Equal("file-faults", (await Import(wanjiru, Advice("DA-CHG", "PO-CHG", "9", (1, "CN-25", "30", fresh)))).Code);
        Assert.Equal(
            arrival,
            Joined(await Import(wanjiru, Advice("DA-CHG", "PO-CHG", "5", (1, "CN-25", "30", fresh), (2, "AN-25", "10", Unit()))))
        );
        await using (var db = server.Db())
        {
            var id = (await Arrival(arrival)).Id;
            Assert.Equal(
                [30, 10],
                await db.AdvisedUnits.Where(u => u.ArrivalId == id).OrderBy(u => u.Id).Select(u => u.Quantity).ToListAsync()
            );
            Assert.Equal([30, 10], (await Arrival(arrival)).Manifest.OrderBy(m => m.Id).Select(m => m.Expected));
        }

        Assert.Equal(arrival, Joined(await Import(wanjiru, Advice("DA-CHG", "PO-CHG", "1"))));
        var gone = await Arrival(arrival);
        Assert.Equal((ArrivalState.Withdrawn, 0), (gone.State, gone.Manifest.Count));
        var missing = await Import(wanjiru, Advice("DA-NONE", "PO-CHG", "1"));
        Assert.Contains("no despatch advice of this number is here", missing.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_cancelled_advice_leaves_the_plan_it_had_joined()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-KEEP");
        var planned = await Planned(wanjiru, "PO-KEEP");
        await Import(wanjiru, Advice("DA-KEEP", "PO-KEEP", "9", (1, "CN-25", "12", Unit())));
        Assert.Equal(planned, Joined(await Import(wanjiru, Advice("DA-KEEP", "PO-KEEP", "1"))));
        var arrival = await Arrival(planned);
        Assert.Equal((ArrivalState.Expected, 40m), (arrival.State, arrival.Manifest.Max(m => m.Expected)));
        await using var db = server.Db();
        Assert.Empty(await db.AdvisedUnits.Where(u => u.ArrivalId == arrival.Id).ToListAsync());
    }

    [Fact]
    public async Task A_unit_that_two_open_arrivals_would_carry_is_refused_with_both_named()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await Order(wanjiru, "PO-SAME");
        var unit = Unit();
        var arrival = Joined(await Import(wanjiru, Advice("DA-SAME-1", "PO-SAME", "9", (1, "CN-25", "20", unit))));
        var refused = await Import(wanjiru, Advice("DA-SAME-2", "PO-SAME", "9", (1, "CN-25", "20", unit)));
        Assert.Equal("file-faults", refused.Code);
        Assert.Contains(
            $"despatch advice DA-SAME-2 names this unit, and DA-SAME-1 has it aboard {arrival} already",
            refused.Sentence,
            StringComparison.Ordinal
        );
    }

    static string Change(string order, params string[] lines) =>
        string.Join(
            "'",
            [
                "UNB+UNOC:3+A+B+260310:0800+C1",
                "UNH+1+ORDCHG:D:01B:UN",
                $"BGM+230+{order}+4",
                .. lines,
                $"UNT+{lines.Length + 3}+1",
                "UNZ+1+C1",
                "",
            ]
        );

    [Theory]
    [InlineData("LIN+1+3|PIA+1+CN-25:IN|QTY+21:40:EA", "changes nothing")]
    [InlineData("LIN+9+3|PIA+1+CN-25:IN|QTY+21:50:EA", "no such line")]
    [InlineData("LIN+1+3|PIA+1+AN-25:IN|QTY+21:50:EA", "another item")]
    [InlineData("LIN+1+3|QTY+21:50:EA", "no item is named")]
    public async Task A_change_that_matches_nothing_is_a_fault(string lines, string reason)
    {
        using var dilys = await server.SignIn("dilys");
        await using (var db = server.Db())
            if (!await db.Orders.AnyAsync(o => o.Number == "PO-NIL"))
                await Order(dilys, "PO-NIL");
        var refused = await Import(dilys, Change("PO-NIL", lines.Split('|')));
        Assert.Equal("file-faults", refused.Code);
        Assert.Contains(reason, refused.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Of_several_deliveries_a_change_says_which()
    {
        using var dilys = await server.SignIn("dilys");
        await dilys.Act(
            "/road/import",
            new
            {
                name = "s.csv",
                text = "order,vendor,line,item,quantity,due,site\nPO-SCH,SALT,1,CN-25,40,2026-04-01,LM\nPO-SCH,SALT,1,CN-25,40,2026-05-01,LM\n",
            }
        );
        Assert.Contains(
            "2026-04-01, 2026-05-01; say which",
            (await Import(dilys, Change("PO-SCH", "LIN+1+3", "PIA+1+CN-25:IN", "QTY+21:20:EA", "DTM+2:20260601:102"))).Sentence,
            StringComparison.Ordinal
        );
        Assert.True((await Import(dilys, Change("PO-SCH", "LIN+1+3", "PIA+1+CN-25:IN", "QTY+21:20:EA", "DTM+2:20260501:102"))).IsOk);
        await using var db = server.Db();
        Assert.Equal(
            [40, 20],
            await db.LineParts.Where(p => p.Line!.Order!.Number == "PO-SCH").OrderBy(p => p.Due).Select(p => p.Ordered).ToListAsync()
        );
        // A deletion that names a date leaves the other delivery open.
        Assert.True((await Import(dilys, Change("PO-SCH", "LIN+1+2", "PIA+1+CN-25:IN", "DTM+2:20260501:102"))).IsOk);
        Assert.Equal(
            [true, false],
            await db
                .LineParts.AsNoTracking()
                .Where(p => p.Line!.Order!.Number == "PO-SCH")
                .OrderBy(p => p.Due)
                .Select(p => p.IsOpen)
                .ToListAsync()
        );
        Assert.Contains(
            "say which",
            (await Import(dilys, Change("PO-SCH", "LIN+1+2", "PIA+1+CN-25:IN", "DTM+2:20260701:102"))).Sentence,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Bytes_are_read_by_the_encoding_they_name()
    {
        using var dilys = await server.SignIn("dilys");
        var text = "order;vendor;line;item;quantity;due;site;käufer\nPO-BYTES;SALT;1;CN-25;40;11.03.2026;LM;Jörg\n";
        var refused = await dilys.Act(
            "/road/import",
            new { name = "b.csv", content = Convert.ToBase64String(Encoding.Latin1.GetBytes(text)) }
        );
        Assert.Equal("file-encoding", refused.Code);
        var content = Convert.ToBase64String([.. Encoding.Unicode.Preamble, .. Encoding.Unicode.GetBytes(text)]);
        var seen = await dilys.Act("/road/import/preview", new { name = "b.csv", content });
        Assert.Equal("Column käufer is not known here and was left alone.", seen["notes"].EnumerateArray().Single().GetString());
        Assert.True((await dilys.Act("/road/import", new { name = "b.csv", content })).IsOk);
    }

    [Fact]
    public async Task A_refused_file_of_the_watched_folder_is_listed_with_all_its_faults_and_tried_again()
    {
        using var dilys = await server.SignIn("dilys");
        var inbox = Path.Combine(Path.GetDirectoryName(server.File)!, "inbox", "LM");
        Directory.CreateDirectory(inbox);
        await File.WriteAllTextAsync(
            Path.Combine(inbox, "later.csv"),
            "order,vendor,line,item,quantity,due,site\nPO-LATE-1,NEWBIE,1,CN-25,4,2026-04-01,LM\nPO-LATE-1,NEWBIE,2,NONE-1,4,2026-04-01,LM\n"
        );
        var row = await Listed(dilys, "later.csv");
        Assert.Contains("NEWBIE", row.GetProperty("why").GetString(), StringComparison.Ordinal);
        var content = Convert.ToBase64String(await dilys.Http.GetByteArrayAsync("/api/LM/road/import/refused/later.csv"));
        Assert.Equal(3, (await dilys.Act("/road/import/preview", new { name = "later.csv", content }))["faults"].GetArrayLength());
        Assert.Equal(
            "file-faults",
            (
                await dilys.Act(
                    "/road/import",
                    new
                    {
                        name = "later.csv",
                        content,
                        refused = "later.csv",
                    }
                )
            ).Code
        );
        Assert.Single((await dilys.Ask("/road/import/refused")).Body.EnumerateArray(), f =>
            f.GetProperty("name").GetString() == "later.csv"
        );

        await File.WriteAllTextAsync(
            Path.Combine(inbox, "refused", "later.csv"),
            "order,vendor,line,item,quantity,due,site\nPO-LATE-1,SALT,1,CN-25,4,2026-04-01,LM\n"
        );
        content = Convert.ToBase64String(await dilys.Http.GetByteArrayAsync("/api/LM/road/import/refused/later.csv"));
        Assert.True(
            (
                await dilys.Act(
                    "/road/import",
                    new
                    {
                        name = "later.csv",
                        content,
                        refused = "later.csv",
                    }
                )
            ).IsOk
        );
        Assert.DoesNotContain((await dilys.Ask("/road/import/refused")).Body.EnumerateArray(), f =>
            f.GetProperty("name").GetString() == "later.csv"
        );
        Assert.True(File.Exists(Path.Combine(inbox, "taken", "later.csv")));
    }

    [Theory]
    [InlineData("../../mudroom.db")]
    [InlineData("..%2F..%2Fmudroom.db")]
    [InlineData("nothing.csv.why.txt")]
    public async Task Only_files_of_that_folder_are_given_out(string name)
    {
        using var dilys = await server.SignIn("dilys");
        Assert.False((await dilys.Ask($"/road/import/refused/{name}")).IsOk);
        Assert.False((await dilys.Act("/road/import/put-away", new { name })).IsOk);
    }

    static async Task<System.Text.Json.JsonElement> Listed(Client client, string name)
    {
        for (var i = 0; i < 150; i++)
        {
            var row = (await client.Ask("/road/import/refused"))
                .Body.EnumerateArray()
                .FirstOrDefault(f => f.GetProperty("name").GetString() == name);
            if (row.ValueKind == System.Text.Json.JsonValueKind.Object)
                return row;
            await Task.Delay(100);
        }

        throw new TimeoutException($"{name} is not listed.");
    }
}
