using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Data;
using MudRoom.Server.Hosting;
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
            using var http = new HttpClient(new HttpClientHandler { ServerCertificateCustomValidationCallback = (_, certificate, _, _) => certificate!.Subject.StartsWith("CN=", StringComparison.Ordinal) });
            var session = await http.GetStringAsync(new Uri($"https://127.0.0.1:{port}/api/session"));
            Assert.Contains("\"signedIn\":false", session);
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
        Assert.DoesNotContain(typeof(Core.Site.Item).Assembly.GetReferencedAssemblies(), a => a.Name!.StartsWith("MudRoom", StringComparison.Ordinal));
        foreach (var assembly in new[] { typeof(MudRoomDb).Assembly, typeof(Exchange.FileFault).Assembly, typeof(MudRoom.Demo.Scenario).Assembly })
            Assert.Equal(["MudRoom.Core"], assembly.GetReferencedAssemblies().Select(a => a.Name!).Where(n => n.StartsWith("MudRoom", StringComparison.Ordinal)));
    }

    [Fact]
    public void A_view_never_names_two_schemas_alike()
    {
        var names = Types.InAssembly(typeof(ServerSettings).Assembly).That().ArePublic().GetTypes().Where(t => t.Name.EndsWith("Answer", StringComparison.Ordinal) || t.Name.EndsWith("Request", StringComparison.Ordinal)).Select(t => t.Name).ToList();
        Assert.Equal(names.Distinct().Count(), names.Count);
    }
}
