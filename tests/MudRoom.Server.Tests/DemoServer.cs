using System.Collections.Concurrent;
using System.Net;
using Microsoft.AspNetCore.Builder;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Shelf;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Hosting;
using MudRoom.Server.Shelf;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>A server on a copy of the demo's database, on a stopped clock, behind a real port.</summary>
public sealed class DemoServer : IAsyncLifetime
{
    static readonly ConcurrentDictionary<string, CookieCollection> sessions = new();
    readonly string folder = Directory.CreateTempSubdirectory("mudroom-server-").FullName;

    public WebApplication App { get; private set; } = null!;

    public string Url { get; private set; } = "";

    public string File => Path.Combine(folder, "mudroom.db");

    public async ValueTask InitializeAsync()
    {
        await DemoTemplate.CopyTo(folder);
        App = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        Url = App.Urls.First();
    }

    /// <summary>True where a test has spoilt the book to see what is said about it: the check at the end is left out.</summary>
    public bool IsSpoilt { get; set; }

    /// <summary>Whatever its tests have done, the book holds at the end.</summary>
    public async ValueTask DisposeAsync()
    {
        if (!IsSpoilt)
            await StoreIsAsTheTables();
        await App.StopAsync();
        await App.DisposeAsync();
        if (!IsSpoilt)
            Assert.Empty((await Check()).Faults);
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    /// <summary>The picture of the store says what the tables say, where it is there.</summary>
    public async Task<bool> StoreIsAsTheTables()
    {
        var setUp = await App.Services.GetRequiredService<SetUpStore>().Current();
        var store = App.Services.GetRequiredService<WriteDesk>().Store;
        await using var db = Db();
        var isThere = false;
        foreach (var site in setUp.Sites.Values)
            if (store.Views(site.Id, setUp.Catalogue, setUp.BinsOfSite[site.Id], []) is { } views)
            {
                isThere = true;
                Assert.Equal(await Store.FromTables(db, setUp, site.Id), views);
            }

        return isThere;
    }

    /// <summary>A person of the demo, signed in. A password is looked at once for each person, unless a session has ended: that is slow on
    /// purpose.</summary>
    public async Task<Client> SignIn(string name)
    {
        if (sessions.TryGetValue(name, out var cookies) && await Client.Again(Url, cookies) is { } again)
            return again;
        var client = await Client.SignIn(Url, name);
        sessions.TryAdd(name, client.Cookies.GetAllCookies());
        return client;
    }

    /// <summary>A look into the database.</summary>
    public MudRoomDb Db() => Database.Context(File);

    /// <summary>The task that waits for some stock; -1 where none does.</summary>
    public async Task<int> TaskOf(long balance)
    {
        await using var db = Db();
        if (await db.Balances.SingleOrDefaultAsync(b => b.Id == balance) is not { } row)
            return -1;
        var key = StoreTask.KeyOf(row.Goods, row.Place);
        return await db.Tasks.Where(t => t.Key == key && t.State == TaskState.Waiting).Select(t => (int?)t.Id).SingleOrDefaultAsync() ?? -1;
    }

    /// <summary>The number of the last entry of the book.</summary>
    public long LastEntry()
    {
        using var db = Db();
        return db.Ledger.Max(e => e.Seq);
    }

    /// <summary>The number of the hold that is open on an item of the demo.</summary>
    public async Task<string> HoldOn(string item)
    {
        await using var db = Db();
        return (await db.Holds.SingleAsync(h => h.IsOpen && db.Items.Any(i => i.Id == h.ItemId && i.Code == item))).Number;
    }

    /// <summary>What the check of the book finds.</summary>
    public async Task<CheckReport> Check()
    {
        await using var db = Db();
        return await BookCheck.Run(db, null);
    }
}
