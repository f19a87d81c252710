using System.Diagnostics;
using System.Globalization;
using System.Reflection;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Demo;
using MudRoom.Server.Acts;
using MudRoom.Server.Demo;
using MudRoom.Server.Road;
using MudRoom.Server.Shelf;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Hosting;

/// <summary>The commands of the program: serve, demo, check, head, ledger, backup.</summary>
public static class CommandLine
{
    const string Usage = """
        mudroom serve  [--data FOLDER] [--host ADDRESS] [--port N] [--certificate FILE --certificate-password TEXT]
        mudroom demo   [--data FOLDER] [--port N] [--fresh] [--stopped-clock]
        mudroom check  [--data FOLDER] [--head FILE] [--store]   verify the chain and the balances, and the picture of the store
        mudroom head   [--data FOLDER]                    print the chain's head, to be kept elsewhere
        mudroom ledger [--data FOLDER] FILE               write the ledger so that another program can verify it
        mudroom backup [--data FOLDER] FILE               copy the database while it is in use
        mudroom restore [--data FOLDER] FILE              check a backup, then put it in the place of the database
        mudroom admin  [--data FOLDER] --reset [NAME]     give an administrator a one-time password
        mudroom gauge  --server URL --site CODE --name NAME [--password-file FILE] (--serial PATH [--baud N] | --tcp HOST:PORT)
                       read a gauge at a bench; the password else by MUDROOM_PASSWORD
        """;

    /// <summary>Runs a command.</summary>
    /// <returns>0 when all is well, 1 when the check found faults, 2 for a wrong call, 3 when it cannot be done.</returns>
    public static async Task<int> Run(string[] args)
    {
        // The tool that writes the OpenAPI document starts the program only to see its endpoints.
        if (Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider")
        {
            var nowhere = new ServerSettings(Path.GetTempPath(), Port: 0, Watches: false);
            await ServerApp.Build(nowhere, new Lazy<WriteDesk>(() => new WriteDesk(nowhere.File))).RunAsync();
            return 0;
        }

        var command = args.FirstOrDefault() ?? "";
        var options = Options(args.Skip(1));
        var isDemo = command == "demo";
        var folder = Path.GetFullPath(options.GetValueOrDefault("data") ?? Path.Combine("data", isDemo ? "demo" : "site"));
        if (!ushort.TryParse(options.GetValueOrDefault("port") ?? "5199", out var port))
        {
            Console.Error.WriteLine($"{options["port"]} is no port. Name a number from 0 to 65535.");
            return 2;
        }

        var settings = new ServerSettings(
            folder,
            options.GetValueOrDefault("host") ?? "127.0.0.1",
            port,
            isDemo,
            options.ContainsKey("stopped-clock"),
            options.GetValueOrDefault("certificate"),
            options.GetValueOrDefault("certificate-password"),
            options.GetValueOrDefault("web")
        );
        DataFolder.OwnerOnly();
        try
        {
            return await Do(command, options, settings);
        }
        catch (StartException refused)
        {
            Console.Error.WriteLine($"{refused.Refusal.Sentence} {refused.Refusal.Next}");
            return 3;
        }
    }

    static async Task<int> Do(string command, Dictionary<string, string> options, ServerSettings settings)
    {
        var isDemo = settings.IsDemo;
        switch (command)
        {
            case "serve" or "demo":
                return await Serve(settings, fresh: isDemo && options.ContainsKey("fresh"));
            case "check":
                return await Check(settings, options.GetValueOrDefault("head"), options.ContainsKey("store"));
            case "head":
                await MustBe(settings.File);
                await using (var db = Database.Context(settings.File))
                    Console.WriteLine(JsonSerializer.Serialize((await BookCheck.Run(db, null)).Head));
                return 0;
            case "ledger" when options.GetValueOrDefault("") is { } target:
                await MustBe(settings.File);
                MustBeNew(target);
                await using (var db = Database.Context(settings.File))
                await using (var file = new StreamWriter(target))
                    Console.WriteLine($"{await LedgerExport.Write(db, file)} entries written to {target}.");
                return 0;
            case "backup" when options.GetValueOrDefault("") is { } target:
                await MustBe(settings.File);
                MustBeNew(target);
                DataFolder.CopyTo(settings.File, target);
                Console.WriteLine($"Copied to {target}.");
                return 0;
            case "restore" when options.GetValueOrDefault("") is { } backup:
                return await Restore(settings, backup);
            case "gauge":
                return await ReadGauge(options);
            case "admin" when options.TryGetValue("reset", out var name):
                return await ResetAdministrator(settings, name);
            default:
                Console.Error.WriteLine(Usage);
                return 2;
        }
    }

    /// <summary>Reads a gauge at a bench until it is stopped.</summary>
    static async Task<int> ReadGauge(Dictionary<string, string> options)
    {
        var password = options.TryGetValue("password-file", out var file)
            ? (await File.ReadAllTextAsync(file)).Trim()
            : Environment.GetEnvironmentVariable("MUDROOM_PASSWORD");
        var tcp = options.GetValueOrDefault("tcp")?.Split(':');
        var port = 0;
        if (
            !Uri.TryCreate(options.GetValueOrDefault("server"), UriKind.Absolute, out var server)
            || !options.TryGetValue("site", out var site)
            || !options.TryGetValue("name", out var name)
            || password is null
            || tcp is null && !options.ContainsKey("serial")
            || tcp is not null && (tcp.Length != 2 || !int.TryParse(tcp[1], out port))
        )
        {
            Console.Error.WriteLine(Usage);
            return 2;
        }

        using var stopped = new CancellationTokenSource();
        Console.CancelKeyPress += (_, pressed) =>
        {
            pressed.Cancel = true;
            stopped.Cancel();
        };
        using var reader = new GaugeReader(server, site, Console.WriteLine);
        try
        {
            if (!await reader.SignIn(name, password, stopped.Token))
            {
                Console.Error.WriteLine($"{name} could not be signed in. Look at name and password.");
                return 3;
            }

            if (tcp is not null)
                await reader.ReadPort(tcp[0], port, stopped.Token);
            else
                await reader.ReadSerial(options["serial"], options.GetValueOrDefault("baud") ?? "9600", stopped.Token);
            return 0;
        }
        catch (OperationCanceledException)
        {
            return 0;
        }
        catch (Exception gone) when (gone is HttpRequestException or IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine($"{gone.Message} Look at the address and the line, then start again.");
            return 3;
        }
    }

    /// <summary>Builds, migrates, fills and runs the server until it is stopped.</summary>
    static async Task<int> Serve(ServerSettings settings, bool fresh)
    {
        await using var app = await Start(settings, fresh);
        Console.WriteLine($"Mud Room is at {app.Urls.First()}");
        if (settings.IsDemo)
        {
            Console.WriteLine("\nThe demo's people: name, password, role");
            foreach (var (person, password) in PeopleList.Make())
                Console.WriteLine($"  {person.SignInName, -10} {password, -18} {person.Name}, {string.Join(", ", person.Roles)}");
        }

        Console.WriteLine("\nStop it with Ctrl+C.");
        await app.WaitForShutdownAsync();
        return 0;
    }

    /// <summary>Everything up to an answering server.</summary>
    /// <param name="fresh">True to begin a demo anew. One whose making was broken off is begun anew by itself; never one that another
    /// server has.</param>
    public static async Task<WebApplication> Start(ServerSettings settings, bool fresh = false)
    {
        var folder = DataFolder.Take(settings);
        try
        {
            if (settings.IsDemo && (fresh || await DemoClock.IsHalfMade(settings.File)))
                Forget(settings);
            if (await DataFolder.BringUpToDate(settings.File, TimeProvider.System) is { } copy)
                Console.WriteLine($"The database is of an older version. Before it was brought up to date it was copied to {copy}.");
            // The model of the database, which the desk asks for, and the endpoints take a second each: they are made side by side.
            var desk = new Lazy<WriteDesk>(() => new WriteDesk(settings.File));
            var opened = Task.Run(async () =>
            {
                await Staging.HideWhatIsNotWhole(settings.File);
                return desk.Value;
            });
            var app = ServerApp.Build(settings, desk);
            await opened;
            app.Lifetime.ApplicationStopped.Register(folder.Dispose);
            if (settings.IsDemo)
                await BeginDemo(app, settings);
            else
                await BeginSite(settings);
            await app.Services.GetRequiredService<Staging>().FinishSetUp();
            await app.StartAsync();
            return app;
        }
        catch
        {
            folder.Dispose();
            throw;
        }
    }

    static void MustBeNew(string file)
    {
        if (File.Exists(file))
            throw new StartException(
                new Refusal(HouseRefusals.FileThere, $"{file} is there already.", "Name another file, so that nothing is written over.")
            );
    }

    /// <summary>There is a database, and it is one of ours.</summary>
    static async Task MustBe(string file)
    {
        if (!File.Exists(file))
            throw new StartException(
                new Refusal(HouseRefusals.NoDatabase, $"There is no database at {file}.", "Name its folder with --data.")
            );
        if (new FileInfo(file).Length == 0)
            throw new StartException(new Refusal(HouseRefusals.NoDatabase, $"{file} is empty.", "Look whether it is the right file."));
        if (await DataFolder.Look(file) is { } refusal)
            throw new StartException(refusal);
    }

    /// <summary>Checks a backup whole, and only then puts it in the place of the database, which is kept beside it.</summary>
    static async Task<int> Restore(ServerSettings settings, string backup)
    {
        await MustBe(backup);
        using var folder = DataFolder.Take(settings);
        var fresh = Path.Combine(settings.Folder, "restoring.db");
        File.Delete(fresh);
        DataFolder.CopyTo(backup, fresh);
        await Database.BringUpToDate(fresh);
        await using (var db = Database.Context(fresh))
        {
            var report = await BookCheck.Run(db, null);
            if (report.Faults.Count > 0)
            {
                foreach (var fault in report.Faults)
                    Console.Error.WriteLine(fault);
                throw new StartException(
                    new Refusal(
                        HouseRefusals.BackupFaulty,
                        $"{backup} does not pass the check. Nothing was replaced.",
                        "Take another backup."
                    )
                );
            }

            Console.WriteLine($"{backup} passes the check: {report.Entries} entries.");
        }

        SqliteConnection.ClearAllPools();
        foreach (var end in new[] { "-wal", "-shm" })
            File.Delete(fresh + end);
        var replaced = Path.Combine(settings.Folder, $"replaced-{TimeProvider.System.GetUtcNow():yyyyMMdd-HHmmss}.db");
        foreach (var end in new[] { "", "-wal", "-shm" }.Where(end => File.Exists(settings.File + end)))
            File.Move(settings.File + end, replaced + end);
        File.Move(fresh, settings.File);
        Console.WriteLine($"It is the database now.{(File.Exists(replaced) ? $" The one before is kept as {replaced}." : "")}");
        return 0;
    }

    /// <summary>For who has locked everybody out: an administrator gets a one-time password, the role, all sites, and is active.</summary>
    static async Task<int> ResetAdministrator(ServerSettings settings, string name)
    {
        await MustBe(settings.File);
        using var folder = DataFolder.Take(settings);
        await Database.BringUpToDate(settings.File);
        await using var db = Database.Context(settings.File);
        var people = await db.People.ToListAsync();
        var person =
            name.Length > 0
                ? people.Find(p => p.SignInName.Equals(name, StringComparison.OrdinalIgnoreCase))
                : people.Find(p => p.Roles.Contains(Role.Administrator) && p.Active)
                    ?? people.Find(p => p.Roles.Contains(Role.Administrator));
        if (person is null)
            throw new StartException(
                new Refusal(
                    HouseRefusals.NotFound,
                    name.Length > 0 ? $"Nobody signs in as {name}." : "There is no administrator.",
                    $"Name one of {string.Join(", ", people.Select(p => p.SignInName).Take(20))}."
                )
            );
        var password = OneTimePassword();
        person.Active = true;
        if (!person.Roles.Contains(Role.Administrator))
            person.Roles = [.. person.Roles, Role.Administrator];
        person.Sites = await db.Sites.Select(s => s.Code).ToListAsync();
        var account = await db.Users.FirstAsync(u => u.Id == person.Id);
        (account.PasswordHash, account.MustChange, account.SecurityStamp) = (
            SignInAccounts.New(person, password).PasswordHash,
            true,
            Guid.NewGuid().ToString("N")
        );
        (account.LockoutEnd, account.AccessFailedCount, account.Badge, account.PinHash) = (null, 0, null, null);
        await db.SaveChangesAsync();
        Console.WriteLine(
            $"{person.Name} signs in as {person.SignInName} with {password} (shown only now), once, and then chooses a password of "
                + $"their own."
        );
        return 0;
    }

    static string OneTimePassword() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(8));

    static async Task BeginDemo(WebApplication app, ServerSettings settings)
    {
        var clock = app.Services.GetRequiredService<DemoClock>();
        if (!Database.IsSo(settings.File, "EXISTS (SELECT 1 FROM \"Sites\")"))
        {
            var begun = Stopwatch.GetTimestamp();
            await app.Services.GetRequiredService<DemoLoader>().Load(Scenario.Make());
            Console.WriteLine(
                string.Create(CultureInfo.InvariantCulture, $"The demo was made in {Stopwatch.GetElapsedTime(begun).TotalSeconds:0.0} s.")
            );
            clock.Set(Scenario.Begins, settings.StoppedClock);
            return;
        }

        clock.Set(DemoClock.LastSeen(settings.File, Scenario.Begins), settings.StoppedClock);
    }

    /// <summary>A real site begins with one administrator, whose password is printed once.</summary>
    static async Task BeginSite(ServerSettings settings)
    {
        if (Database.IsSo(settings.File, "EXISTS (SELECT 1 FROM \"People\")"))
            return;
        await using var db = Database.Context(settings.File);
        var site = new WarehouseSite
        {
            Code = "S1",
            Name = "First site",
            TimeZone = "Etc/UTC",
        };
        var person = new Person
        {
            Id = 1,
            Name = "Administrator",
            SignInName = "admin",
            Roles = [Role.Administrator, Role.Supervisor],
            Sites = [site.Code],
        };
        var password = OneTimePassword();
        db.AddRange(site, person, SignInAccounts.New(person, password, mustChange: true));
        await db.SaveChangesAsync();
        Console.WriteLine($"First administrator: name admin, password {password} (shown only now; it is changed when it is used)");
    }

    static async Task<int> Check(ServerSettings settings, string? headFile, bool withStore)
    {
        await MustBe(settings.File);
        var exported = headFile is null ? null : await ExportedHead(headFile);
        await using var db = Database.Context(settings.File);
        var report = await BookCheck.Run(db, exported);
        if (withStore)
            report = report with { Faults = [.. report.Faults, .. await StoreFaults(settings.File)] };
        foreach (var line in report.Faults.Concat(report.Notices))
            Console.WriteLine(line);
        Console.WriteLine(
            report.Faults.Count == 0
                ? $"{report.Entries} entries: the chain holds and the balances equal the ledger. Head {report.Head.Seq} {report.Head.Hash}"
                : $"{report.Faults.Count} faults in {report.Entries} entries."
        );
        return report.Faults.Count == 0 ? 0 : 1;
    }

    /// <summary>Ledger and tables of one instant: a server may write meanwhile.</summary>
    static async Task<IReadOnlyList<string>> StoreFaults(string file)
    {
        await using var db = Database.Context(file);
        Database.ReadOneInstant(db);
        return await Store.Faults(db, await SetUp.Load(db));
    }

    /// <summary>A head that was exported earlier, as <c>mudroom head</c> printed it.</summary>
    static async Task<ChainHead> ExportedHead(string file)
    {
        var wrong = new StartException(
            new Refusal(
                HouseRefusals.HeadUnreadable,
                $"{file} is no head of the chain.",
                "Name a file that holds what mudroom head has printed."
            )
        );
        try
        {
            return JsonSerializer.Deserialize<ChainHead>(await File.ReadAllTextAsync(file)) is { Hash.Length: 64 } head
                ? head
                : throw wrong;
        }
        catch (Exception failure) when (failure is JsonException or IOException or UnauthorizedAccessException)
        {
            throw wrong;
        }
    }

    /// <summary>The demo begins anew: its database goes, and what partners sent it.</summary>
    static void Forget(ServerSettings settings)
    {
        SqliteConnection.ClearAllPools();
        foreach (var file in new[] { "", "-wal", "-shm" }.Select(end => settings.File + end).Where(File.Exists))
            File.Delete(file);
        if (Directory.Exists(WatchedFolder.InboxOf(settings)))
            Directory.Delete(WatchedFolder.InboxOf(settings), recursive: true);
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
