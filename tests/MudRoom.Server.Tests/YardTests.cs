namespace MudRoom.Server.Tests;

public sealed class YardTests(DemoServer server) : IClassFixture<DemoServer>
{
    [Fact]
    public async Task The_gate_checks_the_container_and_its_seal_against_the_plan()
    {
        using var efua = await server.SignIn("efua");
        var before = server.LastEntry();
        Assert.Equal("check-digit", (await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "1", container = "QKHU 205538 7" })).Code);
        Assert.Equal("container-differs", (await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "1", container = "WZLU 482615 3" })).Code);
        Assert.Equal("seal-differs", (await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "1", container = "QKHU 205538 6", seal = "XX 1" })).Code);
        Assert.Equal("picture-missing", (await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "1", seal = "XX 1", sealReason = "cut by customs" })).Code);
        Assert.Equal("spot-unfit", (await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "8" })).Code);
        Assert.Equal("spot-unknown", (await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "99" })).Code);
        Assert.Equal(before, server.LastEntry());
        var picture = Convert.ToBase64String(Pictures.Png(20, 20));
        Assert.True((await efua.Act("/road/arrivals/attach", new { arrival = "A-2623", name = "seal.jpg", content = picture })).IsOk);
        Assert.True((await efua.Act("/yard/let-in", new { arrival = "A-2623", spot = "1", container = "QKHU2055386", seal = "XX 1", sealReason = "cut by customs" })).IsOk);
        var card = (await efua.Ask("/yard"))["vehicles"].EnumerateArray().First(v => v.GetProperty("card").GetProperty("number").GetString() == "A-2623");
        Assert.Equal(("XX 1", "cut by customs", 5), (card.GetProperty("sealFound").GetString(), card.GetProperty("sealReason").GetString(), card.GetProperty("detention").GetProperty("daysLeft").GetInt32()));
    }

    [Fact]
    public async Task A_vehicle_goes_step_by_step_and_every_step_is_taken_back()
    {
        using var efua = await server.SignIn("efua");
        using var wanjiru = await server.SignIn("wanjiru");
        var let = await efua.Act("/yard/let-in", new { arrival = "A-2624", spot = "8" });
        Assert.True(let.IsOk, let.Body.ToString());
        Assert.True((await efua.Act("/yard/stands-at", new { arrival = "A-2624", spot = "6" })).IsOk);
        Assert.Equal("spot-taken", (await efua.Act("/yard/stands-at", new { arrival = "A-2624", spot = "4" })).Code);
        Assert.True((await efua.Act("/yard/step", new { arrival = "A-2624", step = "Call" })).IsOk);
        Assert.True((await wanjiru.Act("/road/at-door", new { arrival = "A-2624", door = 1 })).IsOk);
        Assert.Equal("not-empty", (await efua.Act("/yard/step", new { arrival = "A-2624", step = "GateOut" })).Code);
        foreach (var step in new[] { "Unloaded", "Empty", "GateOut" }) Assert.True((await efua.Act("/yard/step", new { arrival = "A-2624", step })).IsOk);
        Assert.Equal("step-done", (await efua.Act("/yard/step", new { arrival = "A-2624", step = "GateOut" })).Code);
        for (var back = 0; back < 6; back++) Assert.True((await efua.Act("/yard/take-back", new { arrival = "A-2624" })).IsOk);
        Assert.Equal("nothing-to-take-back", (await efua.Act("/yard/take-back", new { arrival = "A-2624" })).Code);
        Assert.Empty((await server.Check()).Faults);
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
        Assert.Equal("not-found", (await efua.Act("/yard/unplanned", new { vehicle = "truck", plate = "AB 12", spot = "5", orders = new[] { "PO-NONE" } })).Code);
        var taken = await efua.Act("/yard/unplanned", new { vehicle = "truck", plate = "AB 12", spot = "5", orders = new[] { "PO-4438" } });
        Assert.True(taken.IsOk, taken.Body.ToString());
        var bare = await efua.Act("/yard/unplanned", new { vehicle = "van", plate = "CD 34", spot = "3" });
        Assert.True(bare.IsOk, bare.Body.ToString());
        var vehicles = (await efua.Ask("/yard"))["vehicles"].EnumerateArray().ToList();
        var card = vehicles.First(v => v.GetProperty("card").GetProperty("number").GetString() == bare["number"].GetString());
        Assert.Equal((true, 0), (card.GetProperty("unplanned").GetBoolean(), card.GetProperty("card").GetProperty("lines").GetInt32()));
    }

    [Fact]
    public async Task A_spot_is_proposed_with_its_reason()
    {
        using var efua = await server.SignIn("efua");
        var card = (await efua.Ask("/yard"))["vehicles"].EnumerateArray().First(v => v.GetProperty("card").GetProperty("number").GetString() == "A-2621");
        Assert.Equal("7", card.GetProperty("proposal").GetProperty("spot").GetString());
        Assert.Contains("plug", card.GetProperty("proposal").GetProperty("reason").GetString(), StringComparison.Ordinal);
    }
}
