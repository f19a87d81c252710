using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Cage;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>
/// A recall is rare, and when it comes everybody waits for it. Its questions are asked once when the server has started, of goods that
/// nobody calls back, so that they are compiled before somebody means them: else the first recall after a start keeps scans waiting for a
/// second.
/// </summary>
public sealed class RecallsAtHand(IDbContextFactory<MudRoomDb> contexts, SetUpStore setUps, TimeProvider clock) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        // The server answers before this is worked at.
        await Task.Yield();
        await using var db = await contexts.CreateDbContextAsync(stoppingToken);
        await Ask(db, await setUps.For(db), clock.GetUtcNow());
    }

    /// <summary>Asks where the newest batch is, as a recall of it would; writes nothing.</summary>
    /// <returns>What was found; null in a house without batches.</returns>
    public static async Task<RecalledGoods?> Ask(MudRoomDb db, SetUp setUp, DateTimeOffset now)
    {
        if (await db.Batches.OrderByDescending(b => b.Id).FirstOrDefaultAsync() is not { } newest)
            return null;
        var recall = new Recall
        {
            Number = "",
            SiteId = 0,
            Scope = new RecallScope(RecallBy.Batch, newest.ItemId, null, [newest.Number]),
            Says = "",
            Why = "",
            IsDrill = false,
            Since = now,
            By = "",
        };
        return await RecallReads.Of(db, new History(db), setUp, recall);
    }
}
