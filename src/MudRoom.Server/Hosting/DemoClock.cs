using Microsoft.EntityFrameworkCore;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Hosting;

/// <summary>
/// The demo's own clock: it runs while the server runs, is kept with the data, and stands still when told to, for pictures
/// and tests.
/// </summary>
public sealed class DemoClock : TimeProvider
{
    DateTimeOffset start;
    DateTimeOffset since;

    /// <summary>True when it stands still.</summary>
    public bool Stopped { get; private set; }

    public override DateTimeOffset GetUtcNow() => Stopped ? start : start + (System.GetUtcNow() - since);

    /// <summary>Sets it; it runs on from there unless stopped.</summary>
    public void Set(DateTimeOffset at, bool stopped)
    {
        start = at;
        since = System.GetUtcNow();
        Stopped = stopped;
    }

    /// <summary>Where it was when the server last ran: never before the last entry of the book.</summary>
    public static DateTimeOffset LastSeen(string file, DateTimeOffset begins)
    {
        var ticks = Database.Number(
            file,
            $"""
            max(
                {begins.UtcTicks},
                coalesce((SELECT "At" FROM "Ledger" ORDER BY "Seq" DESC LIMIT 1), 0),
                coalesce((SELECT CAST("Value" AS INTEGER) FROM "Notes" WHERE "Name" = '{NoteName}'), 0)
            )
            """
        );
        return new DateTimeOffset(ticks, TimeSpan.Zero);
    }

    /// <summary>The note it is kept under; the last thing that is written of a demo that is made.</summary>
    public const string NoteName = "demo-clock";

    /// <summary>The note of an instant.</summary>
    public static Note NoteAt(DateTimeOffset at) => new() { Name = NoteName, Value = $"{at.UtcTicks}" };

    /// <summary>True for a database whose making was broken off: it tells half a story, and is made anew.</summary>
    public static async Task<bool> IsHalfMade(string file) =>
        File.Exists(file)
        && await DataFolder.Look(file) is null
        && Database.IsUpToDate(file)
        && Database.IsSo(file, $"EXISTS (SELECT 1 FROM \"Sites\") AND NOT EXISTS (SELECT 1 FROM \"Notes\" WHERE \"Name\" = '{NoteName}')");
}

/// <summary>Keeps the demo's clock with the data, every ten seconds and at the end.</summary>
public sealed class DemoClockKeeper(DemoClock clock, WriteDesk desk, Health health, ILogger<DemoClockKeeper> logger)
    : Watchman(health, logger, "demo's clock")
{
    protected override async Task Work(CancellationToken stopping)
    {
        try
        {
            await Task.Delay(TimeSpan.FromSeconds(10), stopping);
        }
        finally
        {
            await Keep();
        }

        Succeeded();
    }

    Task<int> Keep() =>
        desk.Do(async scope =>
        {
            var now = DemoClock.NoteAt(clock.GetUtcNow());
            if (await scope.Db.Notes.FindAsync(now.Name) is { } kept)
                kept.Value = now.Value;
            else
                scope.Db.Notes.Add(now);
            return (0, true);
        });
}
