using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Data;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>What waits together is written together, and comes to the same as one by one: pieces that are kept, refused, broken or only
/// look.</summary>
public sealed class WriteDeskTests : IAsyncLifetime
{
    static readonly DateTimeOffset at = new(2026, 3, 10, 7, 0, 0, TimeSpan.Zero);
    readonly string folder = Directory.CreateTempSubdirectory("mudroom-desk-").FullName;
    WriteDesk desk = null!;
    Balance stock = null!;

    string File => Path.Combine(folder, "mudroom.db");

    public async ValueTask InitializeAsync()
    {
        await DemoTemplate.CopyTo(folder);
        await using var db = Database.Context(File);
        stock = await db.Balances.AsNoTracking().OrderBy(b => b.Id).FirstAsync(b => b.Serial == null);
        desk = new WriteDesk(File);
    }

    public async ValueTask DisposeAsync()
    {
        await desk.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task Any_mixture_of_pieces_leaves_what_the_kept_ones_did(int seed)
    {
        var random = new Random(seed);
        var expected = stock.Quantity;
        var seen = new List<(decimal Expected, Task<decimal> Seen)>();
        var failing = new List<Task>();
        var gate = new TaskCompletionSource();
        // The first piece waits, so that all the others lie at the desk together.
        var first = desk.Do(async _ =>
        {
            await gate.Task;
            return (0m, true);
        });
        for (var i = 0; i < 200; i++)
        {
            var by = random.Next(1, 5);
            switch (random.Next(8))
            {
                case 0:
                    _ = desk.Do(scope => Move(scope, by, inHand: true, keep: false));
                    break;
                case 1:
                    failing.Add(
                        desk.Do<decimal>(async scope =>
                        {
                            await Move(scope, by, inHand: true, keep: true);
                            throw new InvalidOperationException("broken");
                        })
                    );
                    break;
                case 2:
                    // It asks, which writes what earlier pieces left, and is refused: theirs must stay.
                    _ = desk.Do(async scope =>
                    {
                        await Move(scope, by, inHand: true, keep: true);
                        await scope.Db.Balances.AsNoTracking().CountAsync();
                        return (0m, false);
                    });
                    break;
                case 3:
                    expected += by;
                    _ = desk.Do(scope => Move(scope, by, inHand: false, keep: true));
                    break;
                case 4:
                    seen.Add(
                        (
                            expected,
                            desk.Do(async scope =>
                                ((await scope.Db.Balances.AsNoTracking().FirstAsync(b => b.Id == stock.Id)).Quantity, true)
                            )
                        )
                    );
                    break;
                default:
                    expected += by;
                    _ = desk.Do(scope => Move(scope, by, inHand: true, keep: true));
                    break;
            }
        }

        gate.SetResult();
        await first;
        Assert.Equal(
            expected,
            await desk.Do(async scope => ((await scope.Db.Balances.AsNoTracking().FirstAsync(b => b.Id == stock.Id)).Quantity, true))
        );
        foreach (var (then, looked) in seen)
            Assert.Equal(then, await looked);
        Assert.NotEmpty(failing);
        foreach (var failed in failing)
            await Assert.ThrowsAsync<InvalidOperationException>(() => failed);
        await using var db = Database.Context(File);
        Assert.Equal(expected, (await db.Balances.AsNoTracking().FirstAsync(b => b.Id == stock.Id)).Quantity);
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    [Fact]
    public async Task What_a_refused_or_broken_piece_has_saved_is_taken_back_and_what_is_committed_with_it_stays()
    {
        var gate = new TaskCompletionSource();
        var first = desk.Do(async _ =>
        {
            await gate.Task;
            return (0, true);
        });
        var before = Save("before");
        var refused = Save("refused", keep: false);
        var broken = Save("broken", breaks: true);
        var behind = Save("behind");
        gate.SetResult();
        await Task.WhenAll(first, before, refused, behind);
        await Assert.ThrowsAsync<InvalidOperationException>(() => broken);
        await using var db = Database.Context(File);
        var saved = await db.Notes.Where(n => n.Value == "saved").Select(n => n.Name).ToListAsync();
        Assert.Equal(["before", "behind"], saved.Order());

        Task<int> Save(string name, bool keep = true, bool breaks = false) =>
            desk.Do(async scope =>
            {
                scope.Db.Notes.Add(new Note { Name = name, Value = "saved" });
                await scope.Db.SaveChangesAsync();
                return breaks ? throw new InvalidOperationException("broken") : (0, keep);
            });
    }

    [Fact]
    public async Task Nobody_is_told_done_before_another_connection_can_read_it()
    {
        for (var i = 1; i <= 20; i++)
        {
            await desk.Do(scope => Move(scope, 1, inHand: true, keep: true));
            await using var db = Database.Context(File);
            Assert.Equal(stock.Quantity + i, (await db.Balances.AsNoTracking().FirstAsync(b => b.Id == stock.Id)).Quantity);
        }
    }

    /// <summary>So many pieces come from the vendor onto the stock.</summary>
    Task<(decimal Result, bool Keep)> Move(WriteScope scope, decimal by, bool inHand, bool keep)
    {
        if (inHand)
            scope.InHand.ReadOnlyFromHere();
        var movement = new Movement(stock.Goods, by, new Place(Account.Vendor), stock.Place);
        scope.Book.Write(
            stock.SiteId,
            new Doer(at, 1, "Leila Fennimore", "test", Guid.CreateVersion7()),
            new GoodsCounted("A-0", new Amount(by, "each", "it"), null, null, "there", false),
            movement
        );
        return Task.FromResult((by, keep));
    }
}
