using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Shelf;

namespace MudRoom.Server.Tests;

/// <summary>What was done with goods is undone from its entry, with a reason, as long as they have not gone further.</summary>
public sealed class UndoTests(DemoServer server) : IClassFixture<DemoServer>
{
    async Task<Balance> Loose(int skip)
    {
        await using var db = server.Db();
        return await db
            .Balances.Where(b =>
                b.SiteId == 1
                && b.Standing == Standing.Usable
                && b.UnitId == null
                && b.Serial == null
                && b.Quantity >= 20
                && !db.Balances.Any(o => o.BinId == b.BinId && o.ItemId == b.ItemId && o.Id != b.Id)
                && db.Items.Any(i => i.Id == b.ItemId && i.InspectionPlanId == null)
                && db.Bins.Any(x => x.Id == b.BinId && x.Function == Core.Site.BinFunction.Pick)
            )
            .OrderByDescending(b => b.Id)
            .Skip(skip)
            .FirstAsync();
    }

    async Task<LedgerEntry> Last(EntryKind kind)
    {
        await using var db = server.Db();
        return await db.Ledger.Where(e => e.Kind == kind).OrderByDescending(e => e.Seq).FirstAsync();
    }

    static Task<Answer> Issue(Client person, Balance stock, string quantity) =>
        person.Act(
            "/book/issue",
            new
            {
                balance = stock.Id,
                quantity,
                to = "Job",
                reference = "J-12",
            }
        );

    async Task<decimal> OfLot(int? lot)
    {
        await using var db = server.Db();
        return (await db.Balances.Where(b => b.LotId == lot).ToListAsync()).Sum(b => b.Quantity);
    }

    /// <summary>What is issued out of a bin takes the oldest lots first: an entry for each, and one act.</summary>
    [Fact]
    public async Task Undoing_one_entry_of_an_act_undoes_all_of_it_and_says_so()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var hoes = await db.Items.FirstAsync(i => i.Code == "HH-16");
        var lots = await db
            .Balances.Where(b =>
                b.ItemId == hoes.Id && b.Standing == Standing.Usable && db.Bins.Any(x => x.Id == b.BinId && x.Address == "A-03-1")
            )
            .OrderBy(b => b.LotId)
            .ToListAsync();
        Assert.True(lots.Count > 1);
        var (first, second) = (lots[0].Quantity, 1m);
        Assert.True((await Issue(wanjiru, lots[0], $"{first + second}")).IsOk);
        var last = await Last(EntryKind.Issued);

        var undone = await wanjiru.Act("/book/undo", new { entry = last.Seq, reason = "the wrong job" });
        Assert.Equal(
            "Taken back: 1 each of Draw hoe head 16 cm out of A-03-1 for J-12. Why: the wrong job. "
                + $"With it: {first:0} each of Draw hoe head 16 cm out of A-03-1 for J-12.",
            undone["sentence"].GetString()
        );
        await using var after = server.Db();
        foreach (var lot in lots)
            Assert.Equal(lot.Quantity, await OfLot(lot.LotId));
    }

    [Fact]
    public async Task An_issue_is_undone_once_by_who_may_issue_and_says_why()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        var stock = await Loose(0);
        Assert.True((await Issue(wanjiru, stock, "7")).IsOk);
        var issued = await Last(EntryKind.Issued);
        Assert.Equal("right-missing", (await leila.Act("/book/undo", new { entry = issued.Seq, reason = "not mine" })).Code);
        Assert.Equal("reason-missing", (await wanjiru.Act("/book/undo", new { entry = issued.Seq, reason = " " })).Code);
        var undone = await wanjiru.Act("/book/undo", new { entry = issued.Seq, reason = "wrong job" });
        Assert.True(undone.IsOk, undone.Body.ToString());
        Assert.Equal(stock.Quantity, await OfLot(stock.LotId));
        Assert.Equal("taken-back", (await wanjiru.Act("/book/undo", new { entry = issued.Seq, reason = "again" })).Code);
        var counter = await Last(EntryKind.Undone);
        Assert.Equal((issued.Seq, issued.Movement!.Reversed()), (counter.Undoes, counter.Movement));
        Assert.Equal("not-undone", (await wanjiru.Act("/book/undo", new { entry = counter.Seq, reason = "turn and turn" })).Code);
        // Found from the job that it was for, both ways.
        var found = (await wanjiru.Ask("/book/ledger?text=J-12"))["rows"].EnumerateArray().Select(r => r.GetProperty("seq").GetInt64());
        Assert.Equal([counter.Seq, issued.Seq], found.Take(2));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_count_is_taken_back_at_its_door_and_not_from_the_book()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var counted = await Last(EntryKind.Counted);
        Assert.Equal("not-undone", (await wanjiru.Act("/book/undo", new { entry = counted.Seq, reason = "no" })).Code);
        Assert.Equal("not-found", (await wanjiru.Act("/book/undo", new { entry = 99_999_999, reason = "no" })).Code);
    }

    [Fact]
    public async Task A_put_away_is_undone_until_the_goods_have_gone_further_and_then_waits_on_the_truck_again()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var yusuf = await server.SignIn("yusuf");
        Assert.True(
            (await wanjiru.Act("/door/count", Client.Count("2", item: "SP-DG", pack: "each", more: new { overAllowed = true }))).IsOk
        );
        await using var db = server.Db();
        var count = await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync();
        var at = await db.Balances.SingleAsync(b => b.LotId == count.LotId && b.BinId == count.BinId);
        var item = await db.Items.SingleAsync(i => i.Id == count.ItemId);
        var put = await PutAway(at.Id);
        Assert.True((await yusuf.Act("/book/undo", new { entry = put.Seq, reason = "was the wrong pallet" })).IsOk);
        await using var again = server.Db();
        var onTruck = await again.Balances.SingleAsync(b => b.LotId == count.LotId && b.BinId == put.FromBinId);
        Assert.Equal(at.Quantity, onTruck.Quantity);
        Assert.Equal("TRUCK-YUSUF", await again.Bins.Where(b => b.Id == onTruck.BinId).Select(b => b.Address).SingleAsync());
        var card = (await yusuf.Ask("/shelf/queue"))["tasks"].EnumerateArray().First();
        Assert.Equal(
            (await server.TaskOf(onTruck.Id), "On your truck, and for another place: scan it."),
            (card.GetProperty("task").GetInt32(), card.GetProperty("why").GetString())
        );
        var second = await PutAway(onTruck.Id);
        await using var there = server.Db();
        var stands = await there.Balances.SingleAsync(b => b.LotId == count.LotId && b.BinId == second.ToBinId);
        Assert.True((await Issue(yusuf, stands, $"{stands.Quantity}")).IsOk);
        var issued = await Last(EntryKind.Issued);
        var refused = await yusuf.Act("/book/undo", new { entry = second.Seq, reason = "too late" });
        Assert.Equal("gone-further", refused.Code);
        // First the last, then the one before.
        Assert.True((await yusuf.Act("/book/undo", new { entry = issued.Seq, reason = "first this" })).IsOk);
        Assert.True((await yusuf.Act("/book/undo", new { entry = second.Seq, reason = "then that" })).IsOk);
        Assert.Empty((await server.Check()).Faults);

        async Task<LedgerEntry> PutAway(long balance)
        {
            var taken = await yusuf.Act("/shelf/take", new { task = await server.TaskOf(balance) });
            Assert.True(taken.IsOk, taken.Body.ToString());
            var task = taken["task"].GetInt32();
            await yusuf.Act("/shelf/scan-goods", new { task, scan = item.Code });
            var down = await yusuf.Act("/shelf/put-down", new { task, bin = taken["bin"].GetString() });
            Assert.True(down.IsOk, down.Body.ToString());
            return await Last(EntryKind.PutAway);
        }
    }

    [Fact]
    public async Task Of_goods_held_since_an_issue_comes_back_under_that_hold()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var stock = await Loose(1);
        Assert.True((await Issue(wanjiru, stock, "5")).IsOk);
        var issued = await Last(EntryKind.Issued);
        await using var db = server.Db();
        var left = await db.Balances.SingleAsync(b => b.LotId == stock.LotId);
        Assert.True((await wanjiru.Act("/cage/hold", new { balance = left.Id, why = "smells" })).IsOk);
        Assert.True((await wanjiru.Act("/book/undo", new { entry = issued.Seq, reason = "came back unused" })).IsOk);
        await using var now = server.Db();
        var all = await now.Balances.SingleAsync(b => b.LotId == stock.LotId);
        var hold = await now.Holds.OrderByDescending(h => h.Id).FirstAsync();
        Assert.Equal((Standing.Held, stock.Quantity, stock.Quantity), (all.Standing, all.Quantity, hold.Quantity));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_scrapping_that_was_a_mistake_is_undone_and_the_goods_are_held_as_before()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var counted = await wanjiru.Act("/door/count", LotTests.Sacks("3", "SCRAP-1", "Damaged", "torn"));
        Assert.True(counted.IsOk, counted.Body.ToString());
        await using var db = server.Db();
        var hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        foreach (var quantity in new[] { "25", "50" })
        {
            var decided = await wanjiru.Act(
                "/cage/decide",
                new
                {
                    hold = hold.Number,
                    decision = "Scrap",
                    quantity,
                    note = "rotten",
                }
            );
            Assert.True(decided.IsOk, decided.Body.ToString());
            var last = await db.Holds.OrderByDescending(h => h.Id).Select(h => h.Number).FirstAsync();
            var under = quantity == "25" ? last : hold.Number;
            Assert.True((await wanjiru.Act("/cage/carry-out", BenchHands.Seen(under))).IsOk);
            var entry = await Last(EntryKind.Decided);
            Assert.True((await wanjiru.Act("/book/undo", new { entry = entry.Seq, reason = "only wet" })).IsOk);
            await using var now = server.Db();
            var again = await now.Holds.SingleAsync(h => h.Number == under);
            Assert.Equal((true, decimal.Parse(quantity), DecisionKind.Scrap), (again.IsOpen, again.Quantity, again.Decision?.Kind));
            Assert.Empty((await server.Check()).Faults);
        }
    }

    [Fact]
    public async Task A_piece_that_is_here_again_and_a_unit_that_stands_elsewhere_are_not_brought_back_a_second_time()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var unit = await db.Balances.FirstAsync(b => b.SiteId == 1 && b.Standing == Standing.Usable && b.UnitId != null && b.Quantity > 2);
        Assert.True((await Issue(wanjiru, unit, "1")).IsOk);
        var ofUnit = await Last(EntryKind.Issued);
        var loose = await Loose(0);
        Assert.True((await Issue(wanjiru, loose, "1")).IsOk);
        var issued = await Last(EntryKind.Issued);
        var other = await db.Bins.FirstAsync(b => b.SiteId == 1 && b.Function == Core.Site.BinFunction.Reserve && b.Id != unit.BinId);
        var desk = server.App.Services.GetRequiredService<Data.WriteDesk>();
        var piece = new Goods(loose.ItemId, loose.BatchId, null, "S-TWICE", loose.LotId);
        var place = loose.Place;
        // The rest of the unit goes elsewhere; a piece with a serial leaves and comes in again.
        await Write(new Movement(unit.Goods, unit.Quantity - 1, unit.Place, Place.In(other.Id, Standing.Usable)), EntryKind.Moved);
        await Write(new Movement(piece, 1, new Place(Account.Vendor), place), EntryKind.Counted);
        await Write(new Movement(piece, 1, place, new Place(Account.Customer)), EntryKind.Issued);
        var left = await Last(EntryKind.Issued);
        await Write(new Movement(piece, 1, new Place(Account.Vendor), place), EntryKind.Counted);
        Assert.Equal("gone-further", (await wanjiru.Act("/book/undo", new { entry = ofUnit.Seq, reason = "no" })).Code);
        Assert.Equal("serial-here", (await wanjiru.Act("/book/undo", new { entry = left.Seq, reason = "no" })).Code);
        Assert.True((await wanjiru.Act("/book/undo", new { entry = issued.Seq, reason = "the plain one" })).IsOk);
        // As it was, for the check at the end.
        await Write(new Movement(piece, 1, place, new Place(Account.Customer)), EntryKind.Issued);
        Assert.True((await wanjiru.Act("/book/undo", new { entry = left.Seq, reason = "now it is out" })).IsOk);
        Assert.Empty((await server.Check()).Faults);

        Task<bool> Write(Movement movement, EntryKind kind) =>
            desk.Do(scope =>
            {
                var doer = new Doer(DateTimeOffset.UnixEpoch.AddYears(60), 1, "Wanjiru", "desk", Guid.NewGuid());
                var moved = new Amount(movement.Quantity, "each", "it");
                scope.Book.Write(
                    1,
                    doer,
                    kind == EntryKind.Issued ? new GoodsIssued("x", moved, "x") : new SetDownHalfWay("x", moved),
                    movement
                );
                return Task.FromResult((true, true));
            });
    }
}
