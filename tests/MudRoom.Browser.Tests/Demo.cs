using Microsoft.AspNetCore.Builder;
using Microsoft.Data.Sqlite;
using MudRoom.Server;
using MudRoom.Server.Hosting;
using MudRoom.Tests;

[assembly: AssemblyFixture(typeof(MudRoom.Browser.Tests.Demo))]

namespace MudRoom.Browser.Tests;

/// <summary>A demo server with a stopped clock on a database of its own, behind a real port.</summary>
public class Demo : IAsyncLifetime
{
    readonly string folder = Directory.CreateTempSubdirectory("mudroom-browser-").FullName;
    WebApplication? app;

    public string Url { get; private set; } = "";

    /// <summary>Its database file.</summary>
    public string File => Path.Combine(folder, "mudroom.db");

    public async ValueTask InitializeAsync()
    {
        var web = Path.Combine(Repository.Root(), "web", "build");
        if (!System.IO.File.Exists(Path.Combine(web, "index.html")))
            throw new InvalidOperationException("The front end is not built: run ./mudroom test.");
        await DemoTemplate.CopyTo(folder);
        app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true, Web: web));
        Url = app.Urls.First();
    }

    public async ValueTask DisposeAsync()
    {
        if (app is not null)
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }

        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
        GC.SuppressFinalize(this);
    }
}

/// <summary>A demo of Road's own: the board is moved here and the tallies of other tests do not stand in its way.</summary>
public sealed class RoadDemo : Demo;
