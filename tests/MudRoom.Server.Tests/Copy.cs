using Microsoft.Data.Sqlite;
using MudRoom.Data;

namespace MudRoom.Server.Tests;

/// <summary>A copy of a database that a test may spoil.</summary>
sealed class Copy : IDisposable
{
    public Copy(string from)
    {
        using var source = Database.Open(from);
        using var target = new SqliteConnection($"Data Source={File};Pooling=False");
        target.Open();
        source.BackupDatabase(target);
    }

    public string File { get; } = Path.Combine(Path.GetTempPath(), $"copy-{Guid.NewGuid():N}.db");

    public void Run(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={File};Pooling=False;Foreign Keys=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        Assert.True(command.ExecuteNonQuery() > 0 || sql.StartsWith("DROP", StringComparison.Ordinal), "the test changed nothing");
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        System.IO.File.Delete(File);
    }
}
