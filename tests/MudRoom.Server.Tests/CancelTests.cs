using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;

namespace MudRoom.Server.Tests;

/// <summary>Cancelling what has not come, while its goods stand at a door.</summary>
public sealed class CancelTests
{
    [Fact]
    public async Task What_is_cancelled_while_it_is_counted_is_asked_about_and_never_booked_while_another_order_is_open()
    {
        await using var server = new DemoServer();
        await server.InitializeAsync();
        using var dilys = await server.SignIn("dilys");
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal(
            "note-missing",
            (
                await dilys.Act(
                    "/road/orders/cancel",
                    new
                    {
                        order = "PO-4471",
                        reason = " ",
                        confirmed = false,
                    }
                )
            ).Code
        );
        var told = await dilys.Act(
            "/road/orders/cancel",
            new
            {
                order = "PO-4471",
                reason = "Bought elsewhere.",
                confirmed = false,
            }
        );
        Assert.Equal("cancel-confirm", told.Code);
        Assert.Contains("A-2617 with goods of it is at door 3.", told.Sentence, StringComparison.Ordinal);
        await using var db = server.Db();
        Assert.NotEqual(OrderState.ClosedShort, (await db.Orders.AsNoTracking().SingleAsync(o => o.Number == "PO-4471")).State);
        var done = await dilys.Act(
            "/road/orders/cancel",
            new
            {
                order = "PO-4471",
                reason = "Bought elsewhere.",
                confirmed = true,
            }
        );
        Assert.True(done.IsOk, done.Body.ToString());

        async Task<decimal> Received(string order) =>
            (
                await db
                    .LineParts.AsNoTracking()
                    .Where(p => p.Line!.Order!.Number == order && p.ItemId == db.Items.Single(i => i.Code == "CB-05").Id)
                    .ToListAsync()
            ).Sum(p => p.Received);
        var (first, second) = (await Received("PO-4471"), await Received("PO-4490"));
        object brick = new
        {
            arrival = "A-2617",
            item = "CB-05",
            pack = "carton",
            packs = "1",
            sourceBatch = "NI-900",
            origin = "LK",
            overAllowed = false,
            earlyAllowed = true,
        };
        var counted = await maren.Act("/door/count", brick);
        Assert.True(counted.IsOk, counted.Body.ToString());
        Assert.Equal((first, true), (await Received("PO-4471"), await Received("PO-4490") > second));

        Assert.True(
            (
                await dilys.Act(
                    "/road/orders/cancel",
                    new
                    {
                        order = "PO-4490",
                        reason = "Bought elsewhere.",
                        confirmed = true,
                    }
                )
            ).IsOk
        );
        var asked = await maren.Act("/door/count", brick);
        Assert.True(asked.Code == "order-shut", asked.Body.ToString());
        Assert.Contains("is cancelled or closed", asked.Sentence, StringComparison.Ordinal);
        Assert.True(
            (
                await maren.Act(
                    "/door/ask",
                    new
                    {
                        arrival = "A-2617",
                        kind = "Over",
                        count = brick,
                    }
                )
            ).IsOk
        );
        var question = (await wanjiru.Ask("/door/tally/A-2617"))["questions"]
            .EnumerateArray()
            .Last(q => q.GetProperty("open").GetBoolean());
        Assert.Contains("which is cancelled or closed", question.GetProperty("sentence").GetString(), StringComparison.Ordinal);
        Assert.True((await wanjiru.Act("/door/answer", new { question = question.GetProperty("id").GetInt32(), yes = true })).IsOk);
        Assert.Equal(
            "meanwhile",
            (await dilys.Act("/road/orders/cancel/back", new { order = "PO-4490" })).Code == "meanwhile"
            || (await dilys.Act("/road/orders/cancel/back", new { order = "PO-4471" })).Code == "meanwhile"
                ? "meanwhile"
                : ""
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_cancellation_is_taken_back_and_all_is_as_before()
    {
        await using var server = new DemoServer();
        await server.InitializeAsync();
        using var dilys = await server.SignIn("dilys");
        var before = (await dilys.Ask("/road/orders/PO-4438"))["lines"].ToString();
        Assert.True(
            (
                await dilys.Act(
                    "/road/orders/cancel",
                    new
                    {
                        order = "PO-4438",
                        reason = "By mistake.",
                        confirmed = false,
                    }
                )
            ).IsOk
        );
        Assert.Equal("By mistake.", (await dilys.Ask("/road/orders/PO-4438"))["cancelledWhy"].GetString());
        Assert.True((await dilys.Act("/road/orders/cancel/back", new { order = "PO-4438" })).IsOk);
        Assert.Equal(before, (await dilys.Ask("/road/orders/PO-4438"))["lines"].ToString());
        Assert.Equal("not-cancelled", (await dilys.Act("/road/orders/cancel/back", new { order = "PO-4438" })).Code);
    }
}
