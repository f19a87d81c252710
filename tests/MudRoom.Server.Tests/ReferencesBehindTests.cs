using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Data;

namespace MudRoom.Server.Tests;

/// <summary>What entries are about is written behind them, and nothing of it is lost: not by a power cut, not with a group that is taken
/// back.</summary>
public sealed class ReferencesBehindTests : IAsyncLifetime
{
    readonly string folder = Directory.CreateTempSubdirectory("mudroom-behind-").FullName;

    string File => Path.Combine(folder, "mudroom.db");

    public async ValueTask InitializeAsync() => await Database.BringUpToDate(File);

    public ValueTask DisposeAsync()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task What_was_not_yet_written_when_the_power_went_is_found_after_the_next_start()
    {
        var copy = Path.Combine(folder, "after.db");
        await using var before = new WriteDesk(File, Timeout.InfiniteTimeSpan);
        await Change(before, "PO-1");
        await before.CatchUp();
        await Change(before, "PO-2");
        Assert.Equal(["PO-1"], await Found(File));
        Assert.Empty(await Faults(File));
        await using (var db = Database.Context(File))
            await db.Database.ExecuteSqlAsync($"VACUUM INTO {copy}");

        await using var after = new WriteDesk(copy, Timeout.InfiniteTimeSpan);
        await Change(after, "PO-3");
        Assert.Equal(["PO-1"], await Found(copy));
        await after.CatchUp();
        Assert.Equal(["PO-1", "PO-2", "PO-3"], await Found(copy));
        Assert.Empty(await Faults(copy));
    }

    [Fact]
    public async Task What_waits_is_written_when_nothing_else_is_to_be_done_and_when_the_desk_closes()
    {
        await using (var desk = new WriteDesk(File, TimeSpan.FromMilliseconds(20)))
        {
            await Change(desk, "PO-1");
            for (var i = 0; i < 1000 && (await Found(File)).Count == 0; i++)
                await Task.Delay(10, TestContext.Current.CancellationToken);
            Assert.Equal(["PO-1"], await Found(File));
        }

        await using (var desk = new WriteDesk(File, Timeout.InfiniteTimeSpan))
            await Change(desk, "PO-2");
        Assert.Equal(["PO-1", "PO-2"], await Found(File));
    }

    [Fact]
    public async Task What_waits_waits_on_when_a_group_is_taken_back_whole()
    {
        await using var desk = new WriteDesk(File, Timeout.InfiniteTimeSpan);
        await Change(desk, "PO-1");
        await Assert.ThrowsAnyAsync<Exception>(() => Change(desk, "PO-2", async db =>
            {
                // Asking writes what waits; then the transaction ends under the desk.
                Assert.Single(await new History(db).About(Reference.Order("PO-1")).ToListAsync());
                await db.Database.ExecuteSqlRawAsync("ROLLBACK");
            }));
        await Change(desk, "PO-3");
        await desk.CatchUp();
        Assert.Equal(["PO-1", "PO-3"], await Found(File));
        Assert.Empty(await Faults(File));
    }

    /// <summary>Who asks between the writing and its commit would find nothing: what was written is not durable yet.</summary>
    [Fact]
    public async Task Who_asks_while_what_waits_is_written_and_not_durable_waits_too()
    {
        await using var desk = new WriteDesk(File, Timeout.InfiniteTimeSpan);
        await Change(desk, "PO-1");
        var asked = Task.CompletedTask;
        await Change(desk, "PO-2", async db =>
        {
            // Asking writes what waits.
            Assert.Single(await new History(db).About(Reference.Order("PO-1")).ToListAsync());
            asked = desk.CatchUp();
            Assert.False(asked.IsCompleted);
        });
        await asked;
        Assert.Equal(["PO-1", "PO-2"], await Found(File));
        // Nothing waits any more, and nobody waits for it.
        Assert.True(desk.CatchUp().IsCompletedSuccessfully);
    }

    static Task<int> Change(WriteDesk desk, string order, Func<MudRoomDb, Task>? besides = null) =>
        desk.Do(async scope =>
        {
            var doer = new Doer(DateTimeOffset.UnixEpoch.AddYears(60), 1, "Nobody", "desk", Guid.NewGuid());
            scope.Book.Write(1, doer, new OrderChanged(order, "changed"));
            if (besides is not null)
                await besides(scope.Db);
            return (0, true);
        });

    static async Task<IReadOnlyList<string>> Found(string file)
    {
        await using var db = Database.Context(file);
        return await db.EntryReferences.Where(r => r.Kind == ReferenceKind.Order).OrderBy(r => r.Seq).Select(r => r.Id).ToListAsync();
    }

    static async Task<IReadOnlyList<string>> Faults(string file)
    {
        await using var db = Database.Context(file);
        return (await BookCheck.Run(db, null)).Faults;
    }
}
