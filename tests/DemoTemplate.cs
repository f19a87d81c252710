using Microsoft.Data.Sqlite;
using MudRoom.Data;
using MudRoom.Server;
using MudRoom.Server.Hosting;

namespace MudRoom.Tests;

/// <summary>The demo is made once for all tests of a run; each server that is tested gets a copy of its database.</summary>
public static class DemoTemplate
{
    static readonly Lazy<Task<string>> template = new(Make);

    /// <summary>Lays a copy of the demo's database into a folder.</summary>
    public static async Task CopyTo(string folder) => File.Copy(await template.Value, Path.Combine(folder, "mudroom.db"));

    static async Task<string> Make()
    {
        var settings = new ServerSettings(
            Directory.CreateTempSubdirectory("mudroom-template-").FullName,
            Port: 0,
            IsDemo: true,
            StoppedClock: true
        );
        var app = await CommandLine.Start(settings);
        await app.StopAsync();
        await app.DisposeAsync();
        var copy = Path.Combine(settings.Folder, "template.db");
        using (var from = Database.Open(settings.File))
        using (var to = new SqliteConnection($"Data Source={copy};Pooling=False"))
        {
            to.Open();
            from.BackupDatabase(to);
        }

        return copy;
    }
}
