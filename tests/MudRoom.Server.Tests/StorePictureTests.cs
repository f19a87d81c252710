using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Hosting;
using MudRoom.Server.Shelf;

namespace MudRoom.Server.Tests;

/// <summary>One picture of the store: what stands where, kept beside the writer, says what the tables say at all times.</summary>
public sealed class StorePictureTests(DemoServer server) : IClassFixture<DemoServer>
{
    WriteDesk Desk => server.App.Services.GetRequiredService<WriteDesk>();

    static readonly Doer doer = new(DateTimeOffset.UnixEpoch.AddYears(60), 1, "Yusuf", "handheld", Guid.NewGuid());

    /// <summary>Asked for once, it is there from the next piece of writing on.</summary>
    async Task IsThere()
    {
        _ = await server.StoreIsAsTheTables();
        await Desk.Probe();
        Assert.True(await server.StoreIsAsTheTables());
    }

    /// <summary>Some loose goods go from one pick bin to another.</summary>
    async Task<Movement> Some(int skip)
    {
        await using var db = server.Db();
        var row = await db
            .Balances.Where(b =>
                b.SiteId == 1
                && b.Standing == Standing.Usable
                && b.UnitId == null
                && b.Serial == null
                && b.Quantity > 2
                && db.Bins.Any(x => x.Id == b.BinId && x.Function == Core.Site.BinFunction.Pick)
            )
            .OrderBy(b => b.Id)
            .Skip(skip)
            .FirstAsync();
        var to = await db.Bins.FirstAsync(b =>
            b.SiteId == 1 && b.Function == Core.Site.BinFunction.Pick && !db.Balances.Any(x => x.BinId == b.Id)
        );
        return new Movement(row.Goods, 1, row.Place, Place.In(to.Id, Standing.Usable));
    }

    Task<bool> Move(Movement movement, bool keep, bool fail = false) =>
        Desk.Do<bool>(scope =>
        {
            scope.Book.Write(1, doer, new SetDownHalfWay("there", new Amount(movement.Quantity, "each", "it")), movement);
            return fail ? throw new InvalidOperationException("no") : Task.FromResult((true, keep));
        });

    [Fact]
    public async Task It_follows_what_is_kept_and_nothing_that_is_refused_or_fails()
    {
        await IsThere();
        var movement = await Some(0);
        await Move(movement, keep: false);
        Assert.True(await server.StoreIsAsTheTables());
        await Assert.ThrowsAsync<InvalidOperationException>(() => Move(movement, keep: true, fail: true));
        await Desk.Probe();
        Assert.True(await server.StoreIsAsTheTables());
        await Move(movement, keep: true);
        Assert.True(await server.StoreIsAsTheTables());
        await Move(movement.Reversed(), keep: true);
        Assert.True(await server.StoreIsAsTheTables());
    }

    [Fact]
    public async Task Who_asks_within_an_act_sees_what_the_act_has_moved_already()
    {
        await IsThere();
        var movement = await Some(1);
        var setUp = await server.App.Services.GetRequiredService<SetUpStore>().Current();
        var within = Desk.Store.Views(1, setUp.Catalogue, setUp.BinsOfSite[1], [movement])!;
        await Move(movement, keep: true);
        await using var db = server.Db();
        Assert.Equal(await Store.FromTables(db, setUp, 1), within);
        await Move(movement.Reversed(), keep: true);
    }

    [Fact]
    public async Task A_change_of_the_set_up_is_in_it_at_once()
    {
        await IsThere();
        using var anselm = await server.SignIn("anselm");
        var changed = await anselm.Act(
            "/site/files/import",
            new
            {
                kind = "Items",
                name = "items.csv",
                text = "code,kg\nCP-08,9\n",
            }
        );
        Assert.True(changed.IsOk, changed.Body.ToString());
        await Desk.Probe();
        Assert.True(await server.StoreIsAsTheTables());
    }

    [Fact]
    public async Task The_check_compares_a_picture_kept_by_the_whole_ledger_with_the_tables()
    {
        await using var db = server.Db();
        var setUp = await SetUp.Load(db);
        Assert.Empty(await Store.Faults(db, setUp));
        using var copy = new Copy(server.File);
        copy.Run("UPDATE Balances SET Quantity = Quantity + 1000000 WHERE Id = (SELECT MIN(Id) FROM Balances)");
        await using var spoilt = Database.Context(copy.File);
        Assert.Contains("in the picture", Assert.Single(await Store.Faults(spoilt, setUp)), StringComparison.Ordinal);
        Assert.Equal(0, await CommandLine.Run(["check", "--store", "--data", Path.GetDirectoryName(server.File)!]));
    }

    [Fact]
    public async Task The_check_is_of_one_instant_whatever_is_moved_meanwhile()
    {
        var movement = await Some(2);
        var stopped = false;
        var moving = Task.Run(
            async () =>
            {
                while (!Volatile.Read(ref stopped))
                {
                    await Move(movement, keep: true);
                    await Move(movement.Reversed(), keep: true);
                    await Task.Delay(1);
                }
            },
            TestContext.Current.CancellationToken
        );
        try
        {
            for (var i = 0; i < 4; i++)
                Assert.Equal(0, await CommandLine.Run(["check", "--store", "--data", Path.GetDirectoryName(server.File)!]));
        }
        finally
        {
            Volatile.Write(ref stopped, true);
            await moving;
        }
    }
}
