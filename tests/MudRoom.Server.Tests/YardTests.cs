using Microsoft.EntityFrameworkCore;

namespace MudRoom.Server.Tests;

public sealed class YardTests(DemoServer server) : IClassFixture<DemoServer>
{
    [Fact]
    public async Task The_gate_checks_the_container_and_its_seal_against_the_plan()
    {
        using var efua = await server.SignIn("efua");
        var before = server.LastEntry();
        Assert.Equal(
            "check-digit",
            (
                await efua.Act(
                    "/yard/let-in",
                    new
                    {
                        arrival = "A-2623",
                        spot = "1",
                        container = "QKHU 205538 7",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "container-twice",
            (
                await efua.Act(
                    "/yard/let-in",
                    new
                    {
                        arrival = "A-2623",
                        spot = "1",
                        container = "WZLU 482615 3",
                    }
                )
            ).Code
        );
        Assert.Contains(
            "found is CSQU 305438 3",
            (
                await efua.Act(
                    "/yard/let-in",
                    new
                    {
                        arrival = "A-2623",
                        spot = "1",
                        container = "CSQU3054383",
                    }
                )
            ).Sentence,
            StringComparison.Ordinal
        );
        Assert.Equal(
            "gate-differs",
            (
                await efua.Act(
                    "/yard/let-in",
                    new
                    {
                        arrival = "A-2623",
                        spot = "1",
                        container = "QKHU 205538 6",
                        seal = "XX 1",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "picture-missing",
            (
                await efua.Act(
                    "/yard/let-in",
                    new
                    {
                        arrival = "A-2623",
                        spot = "1",
                        seal = "XX 1",
                        word = "cut by customs",
                    }
                )
            ).Code
        );
        Assert.Equal("spot-unfit", (await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "8" })).Code);
        Assert.Equal("spot-unknown", (await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "99" })).Code);
        Assert.Equal(before, server.LastEntry());
        var picture = Convert.ToBase64String(Pictures.Png(20, 20));
        Assert.True(
            (
                await efua.Act(
                    "/road/arrivals/attach",
                    new
                    {
                        arrival = "A-2623",
                        name = "seal.jpg",
                        content = picture,
                    }
                )
            ).IsOk
        );
        Assert.True(
            (
                await efua.Act(
                    "/yard/let-in",
                    new
                    {
                        arrival = "A-2623",
                        spot = "1",
                        container = "QKHU2055386",
                        seal = "XX 1",
                        word = "cut by customs",
                    }
                )
            ).IsOk
        );
        var card = (await efua.Ask("/yard"))["vehicles"]
            .EnumerateArray()
            .First(v => v.GetProperty("card").GetProperty("number").GetString() == "A-2623");
        Assert.Equal(
            ("XX 1", "cut by customs", 5),
            (
                card.GetProperty("sealFound").GetString(),
                card.GetProperty("sealReason").GetString(),
                card.GetProperty("detention").GetProperty("daysLeft").GetInt32()
            )
        );
    }

    [Fact]
    public async Task A_vehicle_goes_step_by_step_and_every_step_is_taken_back()
    {
        using var efua = await server.SignIn("efua");
        using var wanjiru = await server.SignIn("wanjiru");
        var let = await efua.Act(
            "/yard/let-in",
            new
            {
                arrival = "A-2624",
                spot = "8",
                plate = "TW24 DRP",
            }
        );
        Assert.True(let.IsOk, let.Body.ToString());
        Assert.True((await efua.Act("/yard/stands-at", new { arrival = "A-2624", spot = "6" })).IsOk);
        Assert.Equal("spot-taken", (await efua.Act("/yard/stands-at", new { arrival = "A-2624", spot = "4" })).Code);
        Assert.True((await efua.Act("/yard/step", new { arrival = "A-2624", step = "Call" })).IsOk);
        Assert.Equal("plan-breaks-rule", (await wanjiru.Act("/road/at-door", new { arrival = "A-2624", door = 1 })).Code);
        Assert.Equal("door-taken", (await wanjiru.Act("/road/at-door", new { arrival = "A-2624", door = 2 })).Code);
        Assert.True((await efua.Act("/yard/step", new { arrival = "A-2618", step = "Empty" })).IsOk);
        Assert.True((await wanjiru.Act("/road/at-door", new { arrival = "A-2624", door = 2 })).IsOk);
        Assert.Equal("not-empty", (await efua.Act("/yard/step", new { arrival = "A-2624", step = "GateOut" })).Code);
        foreach (var step in new[] { "Unloaded", "Empty", "GateOut" })
            Assert.True((await efua.Act("/yard/step", new { arrival = "A-2624", step })).IsOk);
        Assert.Equal("step-done", (await efua.Act("/yard/step", new { arrival = "A-2624", step = "GateOut" })).Code);
        for (var back = 0; back < 6; back++)
            Assert.True((await efua.Act("/yard/take-back", new { arrival = "A-2624" })).IsOk);
        Assert.Equal("nothing-to-take-back", (await efua.Act("/yard/take-back", new { arrival = "A-2624" })).Code);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task The_gate_hand_brings_a_called_vehicle_to_its_door_and_sends_one_away()
    {
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var efua = await own.SignIn("efua");
        Assert.True(
            (
                await efua.Act(
                    "/yard/let-in",
                    new
                    {
                        arrival = "A-2624",
                        spot = "8",
                        plate = "TW24 DRP",
                    }
                )
            ).IsOk
        );
        Assert.Equal("not-called", (await efua.Act("/yard/step", new { arrival = "A-2624", step = "AtDoor" })).Code);
        Assert.Equal("not-unloaded", (await efua.Act("/yard/step", new { arrival = "A-2624", step = "GateOut" })).Code);
        Assert.True((await efua.Act("/yard/step", new { arrival = "A-2624", step = "Call" })).IsOk);
        Assert.Equal("door-taken", (await efua.Act("/yard/step", new { arrival = "A-2624", step = "AtDoor" })).Code);
        Assert.True((await efua.Act("/yard/step", new { arrival = "A-2618", step = "Empty" })).IsOk);
        var there = await efua.Act("/yard/step", new { arrival = "A-2624", step = "AtDoor" });
        Assert.True(there.IsOk, there.Body.ToString());
        await using var db = own.Db();
        Assert.Equal(Core.Road.ArrivalState.AtDoor, (await db.Arrivals.SingleAsync(a => a.Number == "A-2624")).State);
        var visit = (
            await efua.Act(
                "/yard/unplanned",
                new
                {
                    vehicle = "truck",
                    plate = "GO 1",
                    spot = "",
                }
            )
        )["number"].GetString();
        Assert.Equal(
            "plate-on-site",
            (
                await efua.Act(
                    "/yard/let-in",
                    new
                    {
                        arrival = "A-2621",
                        spot = "7",
                        plate = "go1",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "plate-on-site",
            (
                await efua.Act(
                    "/yard/unplanned",
                    new
                    {
                        vehicle = "truck",
                        plate = "GO1",
                        spot = "",
                    }
                )
            ).Code
        );
        Assert.Equal("note-missing", (await efua.Act("/yard/turn-away", new { arrival = visit, reason = "" })).Code);
        Assert.True((await efua.Act("/yard/turn-away", new { arrival = visit, reason = "No papers." })).IsOk);
        Assert.DoesNotContain(
            visit,
            (await efua.Ask("/yard"))["vehicles"].EnumerateArray().Select(v => v.GetProperty("card").GetProperty("number").GetString())
        );
    }

    [Fact]
    public async Task A_door_that_is_not_made_for_the_goods_is_refused_and_those_that_are_named()
    {
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var wanjiru = await own.SignIn("wanjiru");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-OXI",
                kind = "Purchase",
                vendor = "SALT",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "AN-25",
                        quantity = "40",
                        due = "2026-03-10",
                    },
                },
            }
        );
        var number = (
            await wanjiru.Act(
                "/road/arrivals",
                new
                {
                    orders = new[] { "po-oxi" },
                    planned = "2026-03-10T13:00:00",
                    atOnce = false,
                }
            )
        )["number"].GetString()!;
        var refused = await wanjiru.Act("/road/at-door", new { arrival = number, door = 1 });
        Assert.Equal("plan-breaks-rule", refused.Code);
        Assert.Contains("Bring it to door", refused["next"].GetString(), StringComparison.Ordinal);
        var door = int.Parse(
            System.Text.RegularExpressions.Regex.Match(refused["next"].GetString()!, @"door (\d+)").Groups[1].Value,
            System.Globalization.CultureInfo.InvariantCulture
        );
        var there = await wanjiru.Act("/road/at-door", new { arrival = number, door });
        Assert.True(there.IsOk || there.Code == "door-taken", there.Body.ToString());
    }

    [Fact]
    public async Task What_only_warns_of_a_door_wants_a_reason_for_that_door_and_no_other()
    {
        await using var own = new DemoServer();
        await own.InitializeAsync();
        using var anselm = await own.SignIn("anselm");
        var planning = await anselm.Ask("/site/planning");
        var settings = System.Text.Json.Nodes.JsonNode.Parse(planning["settings"].GetRawText())!;
        settings["advisory"]!.AsArray().Add("GoodsClass");
        Assert.True((await anselm.Act("/site/planning", new { settings, horizonDays = 14 })).IsOk);
        using var wanjiru = await own.SignIn("wanjiru");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-WARN",
                kind = "Purchase",
                vendor = "SALT",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "AN-25",
                        quantity = "40",
                        due = "2026-03-10",
                    },
                },
            }
        );
        var arrival = (
            await wanjiru.Act(
                "/road/arrivals",
                new
                {
                    orders = new[] { "PO-WARN" },
                    planned = "2026-03-10T13:00:00",
                    atOnce = false,
                }
            )
        )["number"].GetString()!;
        Assert.Equal("plan-warns", (await wanjiru.Act("/road/at-door", new { arrival, door = 1 })).Code);
        Assert.True(
            (
                await wanjiru.Act(
                    "/road/at-door",
                    new
                    {
                        arrival,
                        door = 1,
                        reason = "Door 4 floods.",
                    }
                )
            ).IsOk
        );
        Assert.Equal(
            "Door 4 floods.",
            (await wanjiru.Ask("/road/arrivals/" + arrival))["overrulings"].EnumerateArray().Single().GetProperty("reason").GetString()
        );
        Assert.True((await wanjiru.Act("/yard/take-back", new { arrival })).IsOk);
        Assert.True((await wanjiru.Act("/yard/step", new { arrival = "A-2618", step = "Empty" })).IsOk);
        Assert.Equal("plan-warns", (await wanjiru.Act("/road/at-door", new { arrival, door = 2 })).Code);
    }

    [Fact]
    public async Task A_vehicle_whose_goods_are_counted_does_not_go_back_to_the_yard()
    {
        using var efua = await server.SignIn("efua");
        Assert.Equal("counted", (await efua.Act("/yard/take-back", new { arrival = "A-2617" })).Code);
    }

    [Fact]
    public async Task A_visit_nobody_planned_is_taken_in_as_such_with_the_orders_its_papers_name()
    {
        using var efua = await server.SignIn("efua");
        Assert.Equal("plate-missing", (await efua.Act("/yard/unplanned", new { vehicle = "truck", spot = "5" })).Code);
        Assert.Equal(
            "not-found",
            (
                await efua.Act(
                    "/yard/unplanned",
                    new
                    {
                        vehicle = "truck",
                        plate = "AB 12",
                        spot = "5",
                        orders = new[] { "PO-NONE" },
                    }
                )
            ).Code
        );
        var taken = await efua.Act(
            "/yard/unplanned",
            new
            {
                vehicle = "truck",
                plate = "AB 12",
                spot = "5",
                orders = new[] { "PO-4438" },
            }
        );
        Assert.True(taken.IsOk, taken.Body.ToString());
        var bare = await efua.Act(
            "/yard/unplanned",
            new
            {
                vehicle = "van",
                plate = "CD 34",
                spot = "3",
            }
        );
        Assert.True(bare.IsOk, bare.Body.ToString());
        var vehicles = (await efua.Ask("/yard"))["vehicles"].EnumerateArray().ToList();
        var card = vehicles.First(v => v.GetProperty("card").GetProperty("number").GetString() == bare["number"].GetString());
        Assert.Equal((true, 0), (card.GetProperty("unplanned").GetBoolean(), card.GetProperty("card").GetProperty("lines").GetInt32()));
    }

    [Fact]
    public async Task A_spot_is_proposed_with_its_reason()
    {
        using var efua = await server.SignIn("efua");
        var card = (await efua.Ask("/yard"))["vehicles"]
            .EnumerateArray()
            .First(v => v.GetProperty("card").GetProperty("number").GetString() == "A-2621");
        Assert.Equal("7", card.GetProperty("proposal").GetProperty("spot").GetString());
        Assert.Contains("plug", card.GetProperty("proposal").GetProperty("reason").GetString(), StringComparison.Ordinal);
    }
}
