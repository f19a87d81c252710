using MudRoom.Data;

namespace MudRoom.Server.Tests;

/// <summary>A disk of a certain size, by SQLite's own limit (max_page_count).</summary>
static class Disk
{
    /// <summary>Pages enough for every test.</summary>
    public const int Plenty = 1_000_000;

    /// <summary>Leaves room for so many pages more than there are; pages that deleted rows have left behind are given back first.</summary>
    public static async Task Room(WriteDesk desk, int pages)
    {
        // What is left to write behind would be written in the middle of this, on the same connection.
        for (var tries = 0; ; tries++)
            try
            {
                await desk.CatchUp();
                await Set(desk, pages);
                return;
            }
            catch (InvalidOperationException) when (tries < 50)
            {
                await Task.Delay(20);
            }
    }

    static async Task Set(WriteDesk desk, int pages)
    {
        using var command = desk.Connection.CreateCommand();
        command.CommandText = "PRAGMA freelist_count";
        if (pages != Plenty && (long)(await command.ExecuteScalarAsync())! > 0)
        {
            command.CommandText = "VACUUM";
            await command.ExecuteNonQueryAsync();
        }

        command.CommandText = "PRAGMA page_count";
        var there = (long)(await command.ExecuteScalarAsync())!;
        command.CommandText = $"PRAGMA max_page_count = {there + pages}";
        await command.ExecuteScalarAsync();
    }
}
