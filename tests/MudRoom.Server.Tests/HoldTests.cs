using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;

namespace MudRoom.Server.Tests;

public sealed class HoldTests(DemoServer server) : IClassFixture<DemoServer>
{
    static object Torn(string note, string batch) =>
        Client.Count(
            "1",
            "A-2617",
            "SD-MUS",
            "sack",
            new
            {
                sourceBatch = batch,
                production = "2026-01-10",
                bestBefore = "2027-12-31",
                origin = "IN",
                aside = "Damaged",
                note,
                overAllowed = true,
            }
        );

    [Fact]
    public async Task Goods_of_an_inspected_item_wait_for_their_inspection_when_their_hold_is_lifted()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var counted = await wanjiru.Act("/door/count", Torn("torn corner", "LIFT-1"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        await using var db = server.Db();
        var hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        var lifted = await wanjiru.Act("/cage/lift", new { hold = hold.Number, note = "sack mended" });
        Assert.True(lifted.IsOk, lifted.Body.ToString());
        var stands = Assert.Single(await db.Balances.Where(b => b.BatchId == hold.BatchId && b.Quantity > 0).ToListAsync());
        Assert.Equal(Standing.ToInspect, stands.Standing);
        var inspection = await db.Inspections.SingleAsync(i => i.BatchId == hold.BatchId);
        Assert.Equal((InspectionState.Waiting, stands.Quantity), (inspection.State, inspection.Quantity));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_hold_lifted_twice_says_who_lifted_it_and_moves_nothing()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await wanjiru.Act("/door/count", Torn("torn seam", "LIFT-2"));
        await using var db = server.Db();
        var hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        await wanjiru.Act("/cage/lift", new { hold = hold.Number });
        var before = server.LastEntry();
        var again = await wanjiru.Act("/cage/lift", new { hold = hold.Number });
        Assert.Equal("hold-lifted", again.Code);
        Assert.Contains("Wanjiru", again.Sentence, StringComparison.Ordinal);
        Assert.Equal(before, server.LastEntry());
    }
}
