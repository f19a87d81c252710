using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Data;
using MudRoom.Server.Hosting;
using MudRoom.Tests;
using NetArchTest.Rules;

namespace MudRoom.Server.Tests;

public sealed class HostingTests
{
    [Fact]
    public async Task A_real_site_begins_with_one_administrator_and_answers_over_HTTPS_beyond_this_machine()
    {
        var folder = Directory.CreateTempSubdirectory("mudroom-serve-").FullName;
        var app = await CommandLine.Start(new ServerSettings(folder, Host: "0.0.0.0", Port: 0));
        try
        {
            var port = new Uri(app.Urls.First()).Port;
            using var http = new HttpClient(
                new HttpClientHandler
                {
                    ServerCertificateCustomValidationCallback = (_, certificate, _, _) =>
                        certificate!.Subject.StartsWith("CN=", StringComparison.Ordinal),
                }
            );
            var session = await http.GetStringAsync(new Uri($"https://127.0.0.1:{port}/api/session"));
            Assert.Contains("\"signedIn\":false", session);
            // Only a demo opens its own door.
            Assert.Equal(
                System.Net.HttpStatusCode.NotFound,
                (await http.GetAsync(new Uri($"https://127.0.0.1:{port}/api/demo/people"))).StatusCode
            );
            await using var db = Database.Context(Path.Combine(folder, "mudroom.db"));
            Assert.Equal("admin", (await db.People.SingleAsync()).SignInName);
            Assert.True(File.Exists(Path.Combine(folder, "self-made.pfx")));
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>What each native library is called in the notices, by how its file begins.</summary>
    static readonly (string File, string Word)[] natives =
    [
        ("libe_sqlite3", "SQLite"),
        ("libSkiaSharp", "SkiaSharp"),
        ("libabsl", "Abseil"),
        ("libprotobuf", "Protocol Buffers"),
        ("libutf8_validity", "utf8_range"),
        ("libCbc", "COIN-OR"),
        ("libCgl", "COIN-OR"),
        ("libClp", "COIN-OR"),
        ("libCoin", "COIN-OR"),
        ("libOsi", "COIN-OR"),
        ("libhighs", "HiGHS"),
        ("libscip", "SCIP"),
        ("libre2", "RE2"),
        ("libbz2", "bzip2"),
        ("libz.", "zlib"),
        ("libortools", "OR-Tools"),
        ("google-ortools-native", "OR-Tools"),
    ];

    [Fact]
    public void The_notices_name_all_that_ships_native_libraries_too()
    {
        var notices = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "NOTICE.md"));
        Assert.Equal(File.ReadAllText(Path.Combine(Repository.Root(), "NOTICE.md")), notices);
        var shipped = Directory
            .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "runtimes", "linux-x64", "native"))
            .Select(f => Path.GetFileName(f)!)
            .ToList();
        Assert.Contains("libSkiaSharp.so", shipped);
        foreach (var file in shipped)
        {
            var known = natives.FirstOrDefault(n => file.StartsWith(n.File, StringComparison.Ordinal));
            Assert.True(known.Word is not null && notices.Contains(known.Word, StringComparison.Ordinal), $"{file} is in no notice");
        }

        var front = System
            .Text.Json.JsonDocument.Parse(File.ReadAllText(Path.Combine(Repository.Root(), "web", "package.json")))
            .RootElement.GetProperty("dependencies")
            .EnumerateObject()
            .Select(d => d.Name);
        var words = new Dictionary<string, string>
        {
            ["@lucide/svelte"] = "Lucide",
            ["@microsoft/signalr"] = "SignalR client",
            ["@skeletonlabs/skeleton"] = "Skeleton",
            ["@skeletonlabs/skeleton-svelte"] = "Skeleton",
            ["@tanstack/svelte-query"] = "TanStack Query",
        };
        foreach (var name in front)
            Assert.True(
                notices.Contains(
                    words.GetValueOrDefault(
                        name,
                        name.StartsWith("@fontsource", StringComparison.Ordinal) ? "Atkinson Hyperlegible" : name
                    ),
                    StringComparison.Ordinal
                ),
                $"{name} is in no notice"
            );
    }

    [Fact]
    public async Task The_migrations_say_what_the_model_says()
    {
        var file = Path.Combine(Path.GetTempPath(), $"migrated-{Guid.NewGuid():N}.db");
        await using var db = Database.Context(file);
        await db.Database.MigrateAsync();
        Assert.False(db.Database.HasPendingModelChanges());
        Assert.Empty(await db.Database.GetPendingMigrationsAsync());
    }

    [Fact]
    public void Arrows_between_the_projects_point_one_way()
    {
        Assert.DoesNotContain(typeof(Core.Site.Item).Assembly.GetReferencedAssemblies(), a =>
            a.Name!.StartsWith("MudRoom", StringComparison.Ordinal)
        );
        foreach (
            var assembly in new[]
            {
                typeof(MudRoomDb).Assembly,
                typeof(Exchange.FileFault).Assembly,
                typeof(MudRoom.Demo.Scenario).Assembly,
            }
        )
            Assert.Equal(
                ["MudRoom.Core"],
                assembly.GetReferencedAssemblies().Select(a => a.Name!).Where(n => n.StartsWith("MudRoom", StringComparison.Ordinal))
            );
    }

    [Fact]
    public void A_view_never_names_two_schemas_alike()
    {
        var names = Types
            .InAssembly(typeof(ServerSettings).Assembly)
            .That()
            .ArePublic()
            .GetTypes()
            .Where(t => t.Name.EndsWith("Answer", StringComparison.Ordinal) || t.Name.EndsWith("Request", StringComparison.Ordinal))
            .Select(t => t.Name)
            .ToList();
        Assert.Equal(names.Distinct().Count(), names.Count);
    }
}
