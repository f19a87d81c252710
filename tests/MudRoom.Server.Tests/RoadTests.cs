using System.Net;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Data;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

public sealed class RoadTests(DemoServer server) : IClassFixture<DemoServer>
{
    const string Day = "2026-03-10";

    static async Task<int> Version(Client client, string arrival) => (await client.Ask($"/road/arrivals/{arrival}"))["version"].GetInt32();

    static object Plan(string arrival, int? door, string time, int version, int[]? crew = null, string? reason = null) =>
        new
        {
            arrival,
            door,
            start = $"{Day}T{time}:00",
            crew,
            version,
            reason,
        };

    [Fact]
    public async Task Of_two_who_move_an_arrival_at_once_one_wins_and_the_other_is_told_who_did_it()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var version = await Version(wanjiru, "A-2621");
        var both = await Task.WhenAll(
            wanjiru.Act("/road/plan", Plan("A-2621", 1, "12:20", version)),
            wanjiru.Act("/road/plan", Plan("A-2621", 1, "12:40", version))
        );
        var lost = Assert.Single(both, a => !a.IsOk);
        Assert.Equal(("plan-moved", HttpStatusCode.Conflict), (lost.Code, lost.Status));
        Assert.Contains("Wanjiru Holloway", lost.Sentence, StringComparison.Ordinal);
        Assert.Equal(version + 1, await Version(wanjiru, "A-2621"));
    }

    [Fact]
    public async Task A_hard_rule_refuses_a_plan_and_names_the_nearest_that_keeps_all()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var before = server.LastEntry();
        var refused = await wanjiru.Act("/road/plan", Plan("A-2619", 5, "14:00", await Version(wanjiru, "A-2619")));
        Assert.Equal("plan-breaks-rule", refused.Code);
        Assert.Contains("keeps all rules", refused["next"].GetString(), StringComparison.Ordinal);
        Assert.Equal(before, server.LastEntry());
        var check = await wanjiru.Act("/road/plan/check", Plan("A-2619", 5, "14:00", 0));
        Assert.Contains("Vehicle", check["broken"].EnumerateArray().Select(b => b.GetProperty("rule").GetString()));
        var offer = check["nearest"];
        var taken = await wanjiru.Act(
            "/road/plan",
            new
            {
                arrival = "A-2619",
                door = offer.GetProperty("door").GetInt32(),
                start = offer.GetProperty("start").GetString(),
                crew = offer.GetProperty("crew").EnumerateArray().Select(c => c.GetInt32()),
                version = await Version(wanjiru, "A-2619"),
            }
        );
        Assert.True(taken.IsOk, taken.Body.ToString());
    }

    [Fact]
    public async Task An_advisory_rule_is_overruled_with_a_reason_that_stays()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-EARLY",
                kind = "Purchase",
                vendor = "QUER",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "PF-50",
                        quantity = "102",
                        due = "2026-03-12",
                    },
                },
            }
        );
        var number = (
            await wanjiru.Act(
                "/road/arrivals",
                new
                {
                    orders = new[] { "PO-EARLY" },
                    planned = "2026-03-12T10:00:00",
                    atOnce = false,
                }
            )
        )["number"].GetString()!;
        object Early(int version, string? reason) =>
            new
            {
                arrival = number,
                door = 2,
                start = "2026-03-12T08:00:00",
                crew = new[] { 2 },
                version,
                reason,
            };
        var warned = await wanjiru.Act("/road/plan", Early(await Version(wanjiru, number), null));
        Assert.Equal("plan-warns", warned.Code);
        Assert.Contains("expected at the gate at 09:50", warned.Sentence, StringComparison.Ordinal);
        Assert.True((await wanjiru.Act("/road/plan", Early(await Version(wanjiru, number), "the driver called, he is near"))).IsOk);
        var page = await wanjiru.Ask($"/road/arrivals/{number}");
        Assert.Equal(
            ("BeforeGate", "the driver called, he is near"),
            (page["overrulings"][0].GetProperty("rule").GetString(), page["overrulings"][0].GetProperty("reason").GetString())
        );
    }

    [Fact]
    public async Task A_plan_of_1900_or_without_the_right_or_of_no_arrival_changes_nothing()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        var before = server.LastEntry();
        Assert.Equal(
            "date-absurd",
            (
                await wanjiru.Act(
                    "/road/plan",
                    new
                    {
                        arrival = "A-2621",
                        door = 1,
                        start = "1900-01-01T10:00:00",
                        version = 1,
                    }
                )
            ).Code
        );
        Assert.Equal("not-found", (await wanjiru.Act("/road/plan", Plan("A-9999", 1, "12:00", 0))).Code);
        Assert.Equal("not-found", (await wanjiru.Act("/road/plan", Plan("A-2621", 77, "12:00", await Version(wanjiru, "A-2621")))).Code);
        Assert.Equal(
            "already-at-door",
            (await wanjiru.Act("/road/plan", Plan("A-2617", 3, "15:00", await Version(wanjiru, "A-2617"), [2, 3]))).Code
        );
        Assert.Equal("right-missing", (await leila.Act("/road/plan", Plan("A-2621", 1, "12:00", 1))).Code);
        Assert.Equal(before, server.LastEntry());
    }

    [Fact]
    public async Task A_proposed_day_is_taken_whole_and_breaks_no_rule_afterwards()
    {
        await using var untouched = new DemoServer();
        await untouched.InitializeAsync();
        using var wanjiru = await untouched.SignIn("wanjiru");
        var proposed = await wanjiru.Act("/road/plan/propose", new { date = Day, seconds = 4 });
        Assert.True(proposed.IsOk, proposed.Body.ToString());
        Assert.Empty(proposed["notPlaced"].EnumerateArray());
        var moves = proposed["moves"]
            .EnumerateArray()
            .Where(m => m.GetProperty("changed").GetBoolean())
            .Select(m => new
            {
                arrival = m.GetProperty("arrival").GetString(),
                door = m.GetProperty("door").GetInt32(),
                start = m.GetProperty("start").GetString(),
                crew = m.GetProperty("crew").EnumerateArray().Select(c => c.GetInt32()).ToArray(),
                version = m.GetProperty("version").GetInt32(),
            })
            .ToList();
        Assert.NotEmpty(moves);
        var taken = await wanjiru.Act("/road/plan/take", new { moves });
        Assert.True(taken.IsOk, taken.Body.ToString());
        var blocks = (await wanjiru.Ask("/road/day"))["blocks"]
            .EnumerateArray()
            .Where(b => b.GetProperty("card").GetProperty("state").GetString() is "Expected" or "InYard")
            .ToList();
        Every.One(blocks, b =>
            Assert.DoesNotContain(b.GetProperty("broken").EnumerateArray(), r => r.GetProperty("force").GetString() == "Hard")
        );
        Assert.Equal("plan-moved", (await wanjiru.Act("/road/plan/take", new { moves })).Code);
    }

    [Fact]
    public async Task The_day_tells_when_each_door_is_likely_to_be_clear()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var forecast = (await wanjiru.Ask("/road/day"))["forecast"];
        foreach (var door in forecast.GetProperty("doors").EnumerateArray())
            Assert.True(
                door.GetProperty("early").GetDateTime() <= door.GetProperty("likely").GetDateTime()
                    && door.GetProperty("likely").GetDateTime() <= door.GetProperty("late").GetDateTime()
            );
        Assert.Equal(6, (await wanjiru.Ask("/road/week"))["days"].GetArrayLength());
    }

    /// <summary>The question in SQL and the rule in Core put every part into the same one state, on whatever day it is asked.</summary>
    [Fact]
    public async Task The_state_of_a_part_is_the_same_in_the_list_and_in_the_rule()
    {
        await using var db = server.Db();
        var parts = await db.LineParts.ToListAsync();
        for (var days = -40; days <= 40; days += 4)
        {
            var today = new DateOnly(2026, 3, 10).AddDays(days);
            foreach (var state in Enum.GetValues<Core.Road.DueState>())
                Assert.Equal(
                    parts.Where(p => Core.Road.DueRules.State(p.Due, today, p.Coming) == state).Select(p => p.Id).Order(),
                    (await Server.Road.DueQuestion.In(db.LineParts, state, today).Select(p => p.Id).ToListAsync()).Order()
                );
        }
    }

    [Fact]
    public async Task The_states_of_what_is_due_sum_to_all_and_each_page_holds_only_its_own()
    {
        using var dilys = await server.SignIn("dilys");
        var all = await dilys.Ask("/road/due");
        var sum = 0;
        foreach (var state in new[] { "Late", "DueToday", "FallsLate", "OnTime" })
        {
            var one = await dilys.Ask($"/road/due?state={state}");
            Every.One(one["rows"].EnumerateArray(), r => Assert.Equal(state, r.GetProperty("state").GetString()));
            Assert.Equal(Math.Min(50, one["total"].GetInt32()), one["rows"].GetArrayLength());
            sum += one["total"].GetInt32();
        }

        Assert.Equal(all["total"].GetInt32(), sum);
        Assert.Equal(1, (await dilys.Ask("/road/due?text=PO-4438"))["total"].GetInt32());
        Assert.Equal(0, (await dilys.Ask("/road/due?vendor=NOBODY"))["total"].GetInt32());
        var csv = await (await dilys.Http.GetAsync("/api/LM/road/due.csv?state=Late")).Content.ReadAsStringAsync();
        Assert.Equal((await dilys.Ask("/road/due?state=Late"))["total"].GetInt32() + 1, csv.Trim().Split('\n').Length);
    }

    [Fact]
    public async Task What_was_promised_is_kept_and_shown_and_takes_the_call_off_the_queue()
    {
        using var dilys = await server.SignIn("dilys");
        var row = (await dilys.Ask("/road/due?text=PO-4438"))["rows"][0];
        Assert.Contains("PO-4438", (await dilys.Ask("/road/calls")).Body.EnumerateArray().Select(c => c.GetProperty("order").GetString()));
        Assert.Equal(
            "note-missing",
            (
                await dilys.Act(
                    "/road/promise",
                    new
                    {
                        parts = new[] { row.GetProperty("partId").GetInt32() },
                        with = "Ornella",
                        text = " ",
                    }
                )
            ).Code
        );
        var kept = await dilys.Act(
            "/road/promise",
            new
            {
                parts = new[] { row.GetProperty("partId").GetInt32() },
                with = "Ornella",
                text = "on the road tonight",
                @for = "2026-03-12",
            }
        );
        Assert.True(kept.IsOk, kept.Body.ToString());
        Assert.Equal(
            "on the road tonight",
            (await dilys.Ask("/road/due?text=PO-4438"))["rows"][0].GetProperty("promise").GetProperty("text").GetString()
        );
        Assert.DoesNotContain(
            "PO-4438",
            (await dilys.Ask("/road/calls")).Body.EnumerateArray().Select(c => c.GetProperty("order").GetString())
        );
    }

    [Fact]
    public async Task An_order_changes_by_hand_but_not_below_what_was_received()
    {
        using var dilys = await server.SignIn("dilys");
        await using var db = server.Db();
        var part = await db.LineParts.FirstAsync(p => p.Received > 0 && p.IsOpen && p.SiteId == 1);
        var refused = await dilys.Act(
            "/road/orders/change",
            new
            {
                part = part.Id,
                quantity = (part.Received - 1).ToString("0"),
                due = (string?)null,
            }
        );
        Assert.Equal("below-received", refused.Code);
        Assert.Equal("date-absurd", (await dilys.Act("/road/orders/change", new { part = part.Id, due = "9999-01-01" })).Code);
        var order = await db.LineParts.Where(p => p.Id == part.Id).Select(p => p.Line!.Order!.Number).FirstAsync();
        Assert.True(
            (
                await dilys.Act(
                    "/road/orders/change",
                    new
                    {
                        part = part.Id,
                        due = "2026-04-15",
                        reason = "agreed by telephone",
                    }
                )
            ).IsOk
        );
        var page = await dilys.Ask($"/road/orders/{order}");
        Assert.Contains("agreed by telephone", page["changes"][0].GetProperty("sentence").GetString(), StringComparison.Ordinal);
        Assert.Equal("Dilys Pemberwick", page["changes"][0].GetProperty("by").GetString());
    }

    [Fact]
    public async Task A_draft_is_on_no_arrival_until_it_is_opened()
    {
        using var dilys = await server.SignIn("dilys");
        using var wanjiru = await server.SignIn("wanjiru");
        var order = new
        {
            number = "PO-DRAFT",
            kind = "Purchase",
            vendor = "QUER",
            draft = true,
            lines = new[]
            {
                new
                {
                    item = "PF-50",
                    quantity = "51",
                    due = "2026-03-20",
                    note = (string?)null,
                },
            },
        };
        Assert.True((await dilys.Act("/road/orders/new", order)).IsOk);
        Assert.Equal("number-taken", (await dilys.Act("/road/orders/new", order)).Code);
        Assert.Equal("order-not-open", (await wanjiru.Act("/road/arrivals", new { orders = new[] { "PO-DRAFT" }, atOnce = false })).Code);
        Assert.Equal(0, (await dilys.Ask("/road/due?text=PO-DRAFT"))["total"].GetInt32());
        Assert.True((await dilys.Act("/road/orders/open", new { order = "PO-DRAFT" })).IsOk);
        Assert.True((await wanjiru.Act("/road/arrivals", new { orders = new[] { "PO-DRAFT" }, atOnce = false })).IsOk);
    }

    [Fact]
    public async Task A_price_never_reaches_a_role_of_the_warehouse()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var dilys = await server.SignIn("dilys");
        Assert.DoesNotContain((await wanjiru.Ask("/road/orders/PO-4471"))["lines"].EnumerateArray(), l =>
            l.GetProperty("price").ValueKind == System.Text.Json.JsonValueKind.Number
        );
        Assert.Contains((await dilys.Ask("/road/orders/PO-4471"))["lines"].EnumerateArray(), l =>
            l.GetProperty("price").ValueKind == System.Text.Json.JsonValueKind.Number
        );
        var print = await dilys.Http.GetByteArrayAsync("/api/LM/road/orders/PO-4471/print");
        Assert.StartsWith("%PDF-", Encoding.ASCII.GetString(print, 0, 5), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Lines_come_onto_an_arrival_and_off_it_and_stay_open_on_their_orders()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var made = await wanjiru.Act(
            "/road/arrivals",
            new
            {
                orders = new[] { "PO-4493" },
                planned = "2026-03-12T09:00:00",
                atOnce = false,
            }
        );
        var number = made["number"].GetString()!;
        Assert.True((await wanjiru.Act("/road/arrivals/add", new { arrival = number, orders = new[] { "PO-4497" } })).IsOk);
        Assert.Equal(
            "nothing-open",
            (await wanjiru.Act("/road/arrivals/add", new { arrival = number, orders = new[] { "PO-4497" } })).Code
        );
        Assert.Equal(
            "tally-begun",
            (await wanjiru.Act("/road/arrivals/add", new { arrival = "A-2617", orders = new[] { "PO-4438" } })).Code
        );
        var page = await wanjiru.Ask($"/road/arrivals/{number}");
        var lines = page["manifest"]
            .EnumerateArray()
            .Where(m => m.GetProperty("order").GetString() == "PO-4497")
            .Select(m => m.GetProperty("id").GetInt32())
            .ToArray();
        Assert.Equal(2, lines.Length);
        Assert.True((await wanjiru.Act("/road/arrivals/take-off", new { arrival = number, lines })).IsOk);
        Assert.Equal(2, (await wanjiru.Ask("/road/due?text=PO-4497&planned=false"))["total"].GetInt32());
        Assert.Equal("2026-03-12", (await wanjiru.Ask("/road/due?text=PO-4493"))["rows"][0].GetProperty("expected").GetString()![..10]);
    }

    [Theory]
    [InlineData("WZLU 482615 4", false, "check-digit")]
    [InlineData("WZLU 482615 3", false, "container-twice")]
    [InlineData("BOX 7", false, "container-shape")]
    public async Task A_container_number_must_be_right_and_on_one_open_arrival(string container, bool notIso6346, string code)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal(
            code,
            (
                await wanjiru.Act(
                    "/road/arrivals",
                    new
                    {
                        orders = new[] { "PO-4438" },
                        container,
                        notIso6346,
                        atOnce = false,
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task Another_reference_is_taken_when_it_is_said_to_be_none_of_iso_6346()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var made = await wanjiru.Act(
            "/road/arrivals",
            new
            {
                orders = new[] { "PO-4396" },
                container = "SWAP BODY 7",
                notIso6346 = true,
                vehicle = "container",
                atOnce = false,
            }
        );
        Assert.True(made.IsOk, made.Body.ToString());
        Assert.False((await wanjiru.Ask($"/road/arrivals/{made["number"].GetString()}"))["papers"].GetProperty("iso6346").GetBoolean());
    }

    [Fact]
    public async Task A_later_time_is_kept_with_its_source_and_lets_its_lines_fall_late()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var before = (await wanjiru.Ask("/road/due?state=FallsLate"))["total"].GetInt32();
        Assert.True(
            (
                await wanjiru.Act(
                    "/road/eta",
                    new
                    {
                        arrival = "A-2624",
                        eta = "2026-03-12T10:00:00",
                        source = "haulier",
                    }
                )
            ).IsOk
        );
        var page = await wanjiru.Ask("/road/arrivals/A-2624");
        Assert.Equal("haulier", page["etas"][0].GetProperty("source").GetString());
        Assert.True((await wanjiru.Ask("/road/due?state=FallsLate"))["total"].GetInt32() > before);
        Assert.Equal(
            "source-missing",
            (
                await wanjiru.Act(
                    "/road/eta",
                    new
                    {
                        arrival = "A-2624",
                        eta = "2026-03-12T10:00:00",
                        source = "",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "already-on-site",
            (
                await wanjiru.Act(
                    "/road/eta",
                    new
                    {
                        arrival = "A-2617",
                        eta = "2026-03-12T10:00:00",
                        source = "haulier",
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task A_paper_is_taken_for_what_it_is_and_not_for_what_it_is_called()
    {
        using var leila = await server.SignIn("leila");
        var picture = Convert.ToBase64String(Pictures.Png(40, 30));
        var attached = await leila.Act(
            "/road/arrivals/attach",
            new
            {
                arrival = "A-2618",
                name = "../../note.png",
                content = picture,
            }
        );
        Assert.True(attached.IsOk, attached.Body.ToString());
        Assert.Equal(("note.jpg", "image/jpeg"), (attached["name"].GetString(), attached["mediaType"].GetString()));
        Assert.Equal(
            "file-kind",
            (
                await leila.Act(
                    "/road/arrivals/attach",
                    new
                    {
                        arrival = "A-2618",
                        name = "a.png",
                        content = Convert.ToBase64String("<script>alert(1)</script>"u8.ToArray()),
                    }
                )
            ).Code
        );
        Assert.Equal(
            "unreadable",
            (
                await leila.Act(
                    "/road/arrivals/attach",
                    new
                    {
                        arrival = "A-2618",
                        name = "a.png",
                        content = "no base 64!",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "unreadable",
            (
                await leila.Act(
                    "/road/arrivals/attach",
                    new
                    {
                        arrival = "A-2618",
                        name = "a.png",
                        content = Convert.ToBase64String([0x89, .. "PNG\r\n\u001a\n"u8, 1, 2, 3]),
                    }
                )
            ).Code
        );
        using var paper = await leila.Http.GetAsync($"/api/LM/road/attachments/{attached["id"].GetInt32()}");
        Assert.Equal("image/jpeg", paper.Content.Headers.ContentType!.MediaType);
        Assert.Contains("sandbox", paper.Headers.GetValues("Content-Security-Policy").First(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Everything_received_in_a_chosen_time_is_found_with_who_counted_it()
    {
        using var dilys = await server.SignIn("dilys");
        var past = await dilys.Ask("/road/received?from=2025-12-01&to=2026-03-10");
        Assert.True(past["total"].GetInt32() > 300, "ninety days of history are behind the demo");
        Assert.Equal(20, past["receipts"].GetArrayLength());
        Assert.Equal(0, (await dilys.Ask("/road/received?from=2024-01-01&to=2024-02-01"))["total"].GetInt32());
        var line = past["receipts"][0].GetProperty("lines")[0];
        Assert.True(line.GetProperty("quantity").GetDecimal() > 0 && line.GetProperty("countedBy").GetArrayLength() > 0);
    }

    [Fact]
    public async Task A_despatch_advice_becomes_an_arrival_with_its_units_and_what_differs_waits_for_a_decision()
    {
        using var dilys = await server.SignIn("dilys");
        using var wanjiru = await server.SignIn("wanjiru");
        var made = await dilys.Act(
            "/road/orders/new",
            new
            {
                number = "PO-ADV",
                kind = "Purchase",
                vendor = "NILG",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "CB-05",
                        quantity = "96",
                        due = "2026-03-20",
                    },
                },
            }
        );
        Assert.True(made.IsOk, made.Body.ToString());
        string[] segments =
        [
            "BGM+351+DA-77+9",
            "DTM+17:202603121000:203",
            "RFF+ON:PO-ADV",
            "NAD+SU+NILG",
            "NAD+DP+LM",
            "CPS+1",
            "CPS+2+1",
            "PAC+1++201",
            "PCI+33E",
            "GIN+BJ+395212360000000012",
            "LIN+1",
            "PIA+1+CB-05:IN",
            "QTY+12:120:EA",
            "RFF+ON:PO-ADV:1",
            "GIN+BX+L-9",
            "LIN+2",
            "PIA+1+MYSTERY:SA",
            "QTY+12:5:EA",
        ];
        var text =
            $"UNB+UNOC:3+A+B+260310:1100+1'UNH+1+DESADV:D:01B:UN'{string.Concat(segments.Select(s => s + "'"))}UNT+{segments.Length + 2}+1'UNZ+1+1'";
        var preview = await dilys.Act("/road/import/preview", new { name = "da.edi", text });
        Assert.Equal((1, 0), (preview["advices"].GetInt32(), preview["faults"].GetArrayLength()));
        var imported = await dilys.Act("/road/import", new { name = "da.edi", text });
        Assert.True(imported.IsOk, imported.Body.ToString());
        var number = imported["arrivals"][0].GetString();
        var page = await wanjiru.Ask($"/road/arrivals/{number}");
        Assert.Equal("395212360000000012", page["advised"][0].GetProperty("sscc").GetString());
        var differences = page["differences"].EnumerateArray().ToList();
        Assert.Equal(2, differences.Count);
        var decided = await wanjiru.Act(
            "/road/arrivals/decide-difference",
            new
            {
                arrival = number,
                difference = differences[0].GetProperty("id").GetInt32(),
                decision = "Take it when it comes",
            }
        );
        Assert.True(decided.IsOk, decided.Body.ToString());
        Assert.Contains(
            "it is here already",
            (
                await dilys.Act("/road/import", new { name = "again.edi", text = text.Replace("1100", "1101", StringComparison.Ordinal) })
            ).Sentence,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task An_order_change_by_file_moves_what_is_still_to_come_and_is_seen_on_the_arrival()
    {
        using var dilys = await server.SignIn("dilys");
        var csv = "order,vendor,line,item,quantity,due,site\nPO-CHG,NILG,1,CB-05,96,2026-03-20,LM\n";
        Assert.True((await dilys.Act("/road/import", new { name = "chg.csv", text = csv })).IsOk);
        using var wanjiru = await server.SignIn("wanjiru");
        var arrival = (await wanjiru.Act("/road/arrivals", new { orders = new[] { "PO-CHG" }, atOnce = false }))["number"].GetString();
        const string change =
            "UNB+UNOC:3+A+B+260310:1100+2'UNH+1+ORDCHG:D:96A:UN'BGM+230+C1+4'RFF+ON:PO-CHG'LIN+1+3'PIA+1+CB-05:IN'QTY+21:192:EA'DTM+2:20260325:102'UNS+S'UNT+9+1'UNZ+1+2'";
        var taken = await dilys.Act("/road/import", new { name = "chg.edi", text = change });
        Assert.True(taken.IsOk, taken.Body.ToString());
        var part = (await wanjiru.Ask("/road/orders/PO-CHG"))["lines"][0].GetProperty("parts")[0];
        Assert.Equal((192m, "2026-03-25"), (part.GetProperty("ordered").GetDecimal(), part.GetProperty("due").GetString()));
        Assert.Equal(2, (await wanjiru.Ask($"/road/arrivals/{arrival}"))["orderChanges"].GetArrayLength());
        Assert.Contains(
            "no order of this number",
            (
                await dilys.Act(
                    "/road/import",
                    new { name = "x.edi", text = change.Replace("PO-CHG", "PO-NONE", StringComparison.Ordinal) }
                )
            ).Sentence,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_partner_fills_the_watched_folder_and_what_is_wrong_is_put_aside_with_its_reason()
    {
        using var dilys = await server.SignIn("dilys");
        var inbox = Path.Combine(Path.GetDirectoryName(server.File)!, "inbox", "LM");
        var good = (await dilys.Act("/demo/partner", new { message = "Order" }))["file"].GetString()!;
        var wrong = (await dilys.Act("/demo/partner", new { message = "WrongFile" }))["file"].GetString()!;
        for (
            var i = 0;
            i < 100
                && !(File.Exists(Path.Combine(inbox, "taken", good)) && File.Exists(Path.Combine(inbox, "refused", wrong + ".why.txt")));
            i++
        )
            await Task.Delay(100);
        Assert.True(File.Exists(Path.Combine(inbox, "taken", good)), "the good file is taken");
        Assert.Contains(
            "NOBODY",
            await File.ReadAllTextAsync(Path.Combine(inbox, "refused", wrong + ".why.txt")),
            StringComparison.Ordinal
        );
        await using var db = server.Db();
        Assert.True(await db.ImportedFiles.AnyAsync(f => f.Name == good && f.By == "watched folder"));
    }

    [Fact]
    public async Task Orders_are_listed_by_kind_state_and_sort_and_the_file_says_the_same()
    {
        using var dilys = await server.SignIn("dilys");
        async Task<List<JsonElement>> Rows(string query) => [.. (await dilys.Ask("/road/orders?" + query))["rows"].EnumerateArray()];
        Assert.True(
            (
                await dilys.Act(
                    "/road/orders/new",
                    new
                    {
                        number = "TR-LIST",
                        kind = "Transfer",
                        vendor = "NILG",
                        draft = false,
                        lines = new[]
                        {
                            new
                            {
                                item = "CB-05",
                                quantity = "8",
                                due = "2026-03-20",
                            },
                        },
                    }
                )
            ).IsOk
        );
        // Kinds and states share them out: each order stands under one of each.
        var total = (await dilys.Ask("/road/orders"))["total"].GetInt32();
        var ofKinds = 0;
        foreach (var kind in Enum.GetNames<OrderKind>())
        {
            var answer = await dilys.Ask("/road/orders?kind=" + kind);
            ofKinds += answer["total"].GetInt32();
            Assert.All(answer["rows"].EnumerateArray(), r => Assert.Equal(kind, r.GetProperty("kind").GetString()));
        }

        Assert.Equal(total, ofKinds);
        Assert.Contains(await Rows("kind=Transfer"), r => r.GetProperty("number").GetString() == "TR-LIST");
        var sum = 0;
        foreach (var state in Enum.GetNames<OrderState>())
        {
            var answer = await dilys.Ask("/road/orders?state=" + state);
            sum += answer["total"].GetInt32();
            Assert.All(answer["rows"].EnumerateArray(), r => Assert.Equal(state, r.GetProperty("state").GetString()));
        }

        Assert.Equal(total, sum);
        var due = (await Rows("sort=NextDue")).Select(r => r.GetProperty("nextDue").GetString()).ToList();
        Assert.Equal(due.OrderBy(d => d is null).ThenBy(d => d, StringComparer.Ordinal), due);
        var numbers = (await Rows("sort=Number")).Select(r => r.GetProperty("number").GetString()!).ToList();
        Assert.Equal(numbers.Order(StringComparer.Ordinal), numbers);
        var oldest = (await Rows("sort=Oldest")).Select(r => r.GetProperty("orderDate").GetString()!).ToList();
        Assert.Equal(oldest.Order(StringComparer.Ordinal), oldest);
        var lines = (await dilys.Http.GetStringAsync("/api/LM/road/orders.csv?kind=Transfer&sort=Number"))
            .Trim()
            .Split('\n')
            .Skip(1)
            .Select(l => l.Split(',')[0])
            .ToList();
        Assert.Equal((await Rows("kind=Transfer&sort=Number")).Select(r => r.GetProperty("number").GetString()), lines);
        Assert.Equal(HttpStatusCode.BadRequest, (await dilys.Ask("/road/orders?sort=Price")).Status);
    }

    [Fact]
    public async Task What_was_received_is_found_by_vendor_and_order_and_the_order_says_what_each_receipt_took_in()
    {
        using var dilys = await server.SignIn("dilys");
        var all = (await dilys.Ask("/road/received?from=2026-01-01"))["receipts"].EnumerateArray().ToList();
        var some = all.First(r =>
            r.GetProperty("lines").EnumerateArray().Any(l => l.GetProperty("order").ValueKind == JsonValueKind.String)
        );
        var (vendor, line) = (
            some.GetProperty("vendor").GetString()!,
            some.GetProperty("lines").EnumerateArray().First(l => l.GetProperty("order").ValueKind == JsonValueKind.String)
        );
        var order = line.GetProperty("order").GetString()!;
        var byVendor = (await dilys.Ask($"/road/received?from=2026-01-01&text={Uri.EscapeDataString(vendor)}"))["receipts"]
            .EnumerateArray()
            .ToList();
        Assert.NotEmpty(byVendor);
        Every.One(byVendor, r => Assert.Equal(vendor, r.GetProperty("vendor").GetString()));
        var byOrder = (await dilys.Ask($"/road/received?from=2026-01-01&text={order}"))["receipts"].EnumerateArray().ToList();
        Assert.NotEmpty(byOrder);
        Every.One(byOrder, r =>
            Assert.Contains(order, r.GetProperty("lines").EnumerateArray().Select(l => l.GetProperty("order").GetString()))
        );
        var receipt = (await dilys.Ask("/road/orders/" + order))["receipts"]
            .EnumerateArray()
            .Single(r => r.GetProperty("number").GetString() == some.GetProperty("receipt").GetString());
        Assert.Contains(receipt.GetProperty("quantities").EnumerateArray().Select(q => q.GetString()!), q =>
            q.EndsWith(" of " + line.GetProperty("itemName").GetString(), StringComparison.Ordinal)
        );
    }
}
