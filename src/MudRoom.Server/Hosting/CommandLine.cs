using System.Reflection;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Demo;
using MudRoom.Server.Demo;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Hosting;

/// <summary>The commands of the program: serve, demo, check, head, backup.</summary>
public static class CommandLine
{
    const string Usage = """
        mudroom serve  [--data FOLDER] [--host ADDRESS] [--port N] [--certificate FILE --certificate-password TEXT]
        mudroom demo   [--data FOLDER] [--port N] [--fresh] [--stopped-clock]
        mudroom check  [--data FOLDER] [--head FILE]      verify the chain and the balances
        mudroom head   [--data FOLDER]                    print the chain's head, to be kept elsewhere
        mudroom backup [--data FOLDER] FILE               copy the database while it is in use
        """;

    /// <summary>Runs a command.</summary>
    /// <returns>0 when all is well, 1 when the check found faults, 2 for a wrong call.</returns>
    public static async Task<int> Run(string[] args)
    {
        // The tool that writes the OpenAPI document starts the program only to see its endpoints.
        if (Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider")
        {
            await ServerApp.Build(new ServerSettings(Path.GetTempPath(), Port: 0, Watches: false)).RunAsync();
            return 0;
        }

        var command = args.FirstOrDefault() ?? "";
        var options = Options(args.Skip(1));
        var isDemo = command == "demo";
        var folder = Path.GetFullPath(options.GetValueOrDefault("data") ?? Path.Combine("data", isDemo ? "demo" : "site"));
        var settings = new ServerSettings(
            folder, options.GetValueOrDefault("host") ?? "127.0.0.1", int.Parse(options.GetValueOrDefault("port") ?? "5199"), isDemo, options.ContainsKey("stopped-clock"),
            options.GetValueOrDefault("certificate"), options.GetValueOrDefault("certificate-password"), options.GetValueOrDefault("web"));
        switch (command)
        {
            case "serve" or "demo":
                if (isDemo && options.ContainsKey("fresh")) Forget(settings);
                return await Serve(settings);
            case "check":
                return await Check(settings, options.GetValueOrDefault("head"));
            case "head":
                await using (var db = Database.Context(settings.File)) Console.WriteLine(JsonSerializer.Serialize((await BookCheck.Run(db, null)).Head));
                return 0;
            case "backup" when options.GetValueOrDefault("") is { } target:
                Backup(settings, target);
                return 0;
            default:
                Console.Error.WriteLine(Usage);
                return 2;
        }
    }

    /// <summary>Builds, migrates, fills and runs the server until it is stopped.</summary>
    static async Task<int> Serve(ServerSettings settings)
    {
        await using var app = await Start(settings);
        Console.WriteLine($"Mud Room is at {app.Urls.First()}");
        if (settings.IsDemo)
        {
            Console.WriteLine("\nThe demo's people: name, password, role");
            foreach (var (person, password) in Scenario.Make().People)
                Console.WriteLine($"  {person.SignInName,-10} {password,-18} {person.Name}, {string.Join(", ", person.Roles)}");
        }

        Console.WriteLine("\nStop it with Ctrl+C.");
        await app.WaitForShutdownAsync();
        return 0;
    }

    /// <summary>Everything up to an answering server.</summary>
    public static async Task<WebApplication> Start(ServerSettings settings)
    {
        Directory.CreateDirectory(settings.Folder);
        await Database.BringUpToDate(settings.File);
        var app = ServerApp.Build(settings);
        if (settings.IsDemo) await BeginDemo(app, settings);
        else await BeginSite(settings);
        await app.StartAsync();
        return app;
    }

    static async Task BeginDemo(WebApplication app, ServerSettings settings)
    {
        var clock = app.Services.GetRequiredService<DemoClock>();
        await using var db = Database.Context(settings.File);
        if (!await db.Sites.AnyAsync())
        {
            await app.Services.GetRequiredService<DemoLoader>().Load(Scenario.Make());
            clock.Set(Scenario.Begins, settings.StoppedClock);
            return;
        }

        clock.Set(await DemoClock.LastSeen(db, Scenario.Begins), settings.StoppedClock);
    }

    /// <summary>A real site begins with one administrator, whose password is printed once.</summary>
    static async Task BeginSite(ServerSettings settings)
    {
        await using var db = Database.Context(settings.File);
        if (await db.People.AnyAsync()) return;
        var site = new WarehouseSite { Code = "S1", Name = "First site", TimeZone = "Etc/UTC", CompanyPrefix = "9521234" };
        var person = new Person { Id = 1, Name = "Administrator", SignInName = "admin", Roles = [Role.Administrator, Role.Supervisor], Sites = [site.Code] };
        var password = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(8));
        db.AddRange(site, person, SignInAccounts.New(person, password));
        await db.SaveChangesAsync();
        Console.WriteLine($"First administrator: name admin, password {password} (shown only now)");
    }

    static async Task<int> Check(ServerSettings settings, string? headFile)
    {
        if (!File.Exists(settings.File))
        {
            Console.Error.WriteLine($"There is no database at {settings.File}.");
            return 2;
        }

        var exported = headFile is null ? null : JsonSerializer.Deserialize<ChainHead>(await File.ReadAllTextAsync(headFile));
        await using var db = Database.Context(settings.File);
        var report = await BookCheck.Run(db, exported);
        foreach (var line in report.Faults.Concat(report.Notices)) Console.WriteLine(line);
        Console.WriteLine(report.Faults.Count == 0
            ? $"{report.Entries} entries: the chain holds and the balances equal the ledger. Head {report.Head.Seq} {report.Head.Hash}"
            : $"{report.Faults.Count} faults in {report.Entries} entries.");
        return report.Faults.Count == 0 ? 0 : 1;
    }

    static void Backup(ServerSettings settings, string target)
    {
        using var from = Database.Open(settings.File);
        using var to = new SqliteConnection($"Data Source={target};Pooling=False");
        to.Open();
        from.BackupDatabase(to);
        Console.WriteLine($"Copied to {target}.");
    }

    static void Forget(ServerSettings settings)
    {
        SqliteConnection.ClearAllPools();
        foreach (var file in new[] { "", "-wal", "-shm" }.Select(end => settings.File + end).Where(File.Exists)) File.Delete(file);
    }

    static Dictionary<string, string> Options(IEnumerable<string> args)
    {
        var options = new Dictionary<string, string>();
        string? name = null;
        foreach (var arg in args)
        {
            if (arg.StartsWith("--", StringComparison.Ordinal))
            {
                name = arg[2..];
                options[name] = "";
            }
            else
            {
                options[name ?? ""] = arg;
                name = null;
            }
        }

        return options;
    }
}
