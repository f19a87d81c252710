using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;

namespace MudRoom.Server.Tests;

/// <summary>Decisions over HTTP: in parts, carried out one by one, seen by somebody else, taken back.</summary>
public sealed class HoldDecisionTests(DemoServer server) : IClassFixture<DemoServer>
{
    async Task<Hold> Torn(Client client, string batch, string packs)
    {
        var counted = await client.Act("/door/count", LotTests.Sacks(packs, batch, "Damaged", "torn"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        return await Last();
    }

    async Task<Hold> Last()
    {
        await using var db = server.Db();
        return await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
    }

    static Task<Answer> Decide(Client client, Hold hold, string decision, string quantity) =>
        client.Act(
            "/cage/decide",
            new
            {
                hold = hold.Number,
                decision,
                quantity,
                note = "torn in the container",
                askedBy = "Hollin Nurseries",
                forWhom = "C-20417",
            }
        );

    /// <summary>What stands of a batch, by standing.</summary>
    async Task<Dictionary<Standing, decimal>> Stands(int? batch)
    {
        await using var db = server.Db();
        var rows = await db.Balances.Where(b => b.BatchId == batch && b.Quantity > 0).ToListAsync();
        return rows.GroupBy(b => b.Standing).ToDictionary(g => g.Key, g => g.Sum(b => b.Quantity));
    }

    [Fact]
    public async Task A_lot_decided_in_parts_is_in_the_books_until_each_part_has_gone_its_way()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        var hold = await Torn(wanjiru, "PARTS-1", "6");
        Assert.Equal("right-missing", (await Decide(leila, hold, "Scrap", "25")).Code);
        Assert.Equal("more-than-held", (await Decide(wanjiru, hold, "Rework", "151")).Code);
        Assert.True((await Decide(wanjiru, hold, "ReturnToVendor", "50")).IsOk);
        var back = await Last();
        Assert.True((await Decide(wanjiru, hold, "Scrap", "25")).IsOk);
        var scrap = await Last();
        Assert.True((await Decide(wanjiru, hold, "Rework", "75")).IsOk);
        Assert.Equal("decided-already", (await Decide(wanjiru, hold, "Scrap", "75")).Code);
        Assert.Equal("decided-already", (await wanjiru.Act("/cage/lift", new { hold = hold.Number })).Code);
        Assert.Equal(
            new Dictionary<Standing, decimal>
            {
                [Standing.ToGoBack] = 50,
                [Standing.ToScrap] = 25,
                [Standing.Held] = 75,
            },
            await Stands(hold.BatchId)
        );
        var cards = (await wanjiru.Ask("/cage/holds"))["holds"].EnumerateArray().ToDictionary(h => h.GetProperty("number").GetString()!);
        Assert.Equal(
            ["to be returned to vendor", "to be scrapped", "to be reworked"],
            new[] { back, scrap, hold }.Select(h => cards[h.Number].GetProperty("decision").GetProperty("toBe").GetString())
        );

        var before = server.LastEntry();
        Task<Answer> CarryOut(Hold of, string? witness = null, string? witnessPassword = null) =>
            wanjiru.Act(
                "/cage/carry-out",
                new
                {
                    hold = of.Number,
                    witness,
                    witnessPassword,
                }
            );
        Assert.Equal("witness-missing", (await CarryOut(scrap)).Code);
        Assert.Equal("witness-missing", (await CarryOut(scrap, "wanjiru", "wanjiru-mud-01")).Code);
        Assert.Equal("signature-wrong", (await CarryOut(scrap, "leila", "guessed")).Code);
        Assert.Equal("signature-wrong", (await CarryOut(scrap, "nobody", "leila-mud-03")).Code);
        Assert.Equal("not-found", (await wanjiru.Act("/cage/carry-out", new { hold = "H-9999" })).Code);
        Assert.Equal(before, server.LastEntry());

        Assert.True((await CarryOut(back)).IsOk);
        Assert.True((await CarryOut(scrap, "leila", "leila-mud-03")).IsOk);
        Assert.Equal("hold-lifted", (await CarryOut(scrap, "leila", "leila-mud-03")).Code);
        Assert.Equal(new Dictionary<Standing, decimal> { [Standing.Held] = 75 }, await Stands(hold.BatchId));
        var worked = await CarryOut(hold);
        Assert.True(worked.IsOk, worked.Body.ToString());
        Assert.Equal(new Dictionary<Standing, decimal> { [Standing.ToInspect] = 75 }, await Stands(hold.BatchId));
        await using var db = server.Db();
        var inspection = await db.Inspections.SingleAsync(i => i.BatchId == hold.BatchId);
        Assert.Equal((InspectionState.Waiting, 75m), (inspection.State, inspection.Quantity));
        var gone = await db.Ledger.Where(e => e.BatchId == hold.BatchId && e.Kind == EntryKind.Decided && e.Quantity != null).ToListAsync();
        Assert.Equal(
            [(Account.Scrap, 25m), (Account.Vendor, 50m)],
            gone.Where(e => !e.Movement!.To.IsInside)
                .GroupBy(e => e.Movement!.To.Account)
                .Select(g => (g.Key, g.Sum(e => e.Quantity!.Value)))
                .OrderBy(g => g.Item2)
        );
        Assert.Contains(
            "seen by Leila",
            (await wanjiru.Ask($"/book/ledger?text={scrap.Number}")).Body.ToString(),
            StringComparison.Ordinal
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_decision_is_taken_back_with_a_reason_and_another_made_while_it_has_not_happened()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var hold = await Torn(wanjiru, "BACK-1", "2");
        Task<Answer> Undecide(string why) => wanjiru.Act("/cage/undecide", new { hold = hold.Number, why });
        Assert.Equal("not-decided", (await Undecide("x")).Code);
        Assert.Equal("not-decided", (await wanjiru.Act("/cage/carry-out", BenchHands.Seen(hold.Number))).Code);
        Assert.True((await Decide(wanjiru, hold, "Scrap", "50")).IsOk);
        // What is counted after it was decided is held by a hold of its own.
        var later = await Torn(wanjiru, "BACK-1", "1");
        await using (var db = server.Db())
            Assert.Equal(
                [(hold.Number, 50m), (later.Number, 25m)],
                (await db.Holds.Where(h => h.BatchId == hold.BatchId).OrderBy(h => h.Id).ToListAsync()).Select(h => (h.Number, h.Quantity))
            );
        Assert.Equal("reason-missing", (await Undecide(" ")).Code);
        Assert.True((await Undecide("the vendor wants them back")).IsOk);
        Assert.True((await Decide(wanjiru, hold, "ReleaseUnderConcession", "50")).IsOk);
        Assert.Contains(
            "not to be scrapped, Wanjiru Holloway: the vendor wants them back",
            (await wanjiru.Ask($"/book/ledger?text={hold.Number}")).Body.ToString(),
            StringComparison.Ordinal
        );
        Assert.Empty((await server.Check()).Faults);
    }
}
