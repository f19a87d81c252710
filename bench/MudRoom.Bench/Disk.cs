using System.Diagnostics;
using MudRoom.Data;

namespace MudRoom.Bench;

/// <summary>What the disk itself does: one sync, and one-row SQLite transactions with write-ahead log and full sync.</summary>
static class Disk
{
    public static bool Report(string folder)
    {
        var syncs = new List<double>();
        using (var file = new FileStream(Path.Combine(folder, "sync"), FileMode.Create))
            for (var i = 0; i < 300; i++)
            {
                file.Write(new byte[4096]);
                var begin = Stopwatch.GetTimestamp();
                file.Flush(flushToDisk: true);
                syncs.Add(Stopwatch.GetElapsedTime(begin).TotalMicroseconds);
            }

        syncs.Sort();
        Console.WriteLine($"one sync of the disk: median {syncs[150]:0} µs, 95th percentile {syncs[285]:0} µs");
        return true;
    }

    /// <summary>Raw one-row transactions a second, for so long.</summary>
    public static double Raw(string folder, TimeSpan time)
    {
        using var connection = Database.Open(Path.Combine(folder, "raw.db"));
        Run("CREATE TABLE IF NOT EXISTS T (Id INTEGER PRIMARY KEY, Text TEXT)");
        using var insert = connection.CreateCommand();
        insert.CommandText = "INSERT INTO T (Text) VALUES ('one row')";
        for (var i = 0; i < 200; i++)
            insert.ExecuteNonQuery();
        var count = 0;
        var watch = Stopwatch.StartNew();
        while (watch.Elapsed < time)
        {
            insert.ExecuteNonQuery();
            count++;
        }

        return count / watch.Elapsed.TotalSeconds;

        void Run(string sql)
        {
            using var command = connection.CreateCommand();
            command.CommandText = sql;
            command.ExecuteNonQuery();
        }
    }
}
