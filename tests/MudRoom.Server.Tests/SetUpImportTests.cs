using System.Globalization;
using System.Text;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Book;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Hosting;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Set-up files and opening stock are written in slices too: seen whole or not at all, whatever comes between.</summary>
public sealed class SetUpImportTests(DemoServer server) : IClassFixture<DemoServer>
{
    static string Items(string prefix, int howMany, string name)
    {
        var text = new StringBuilder("code,name,unit\n");
        for (var n = 0; n < howMany; n++)
            text.Append(CultureInfo.InvariantCulture, $"{prefix}-{n},{name} {n},H87\n");
        return text.ToString();
    }

    /// <summary>Opening stock in new bins, each line its own, and the bins it stands in.</summary>
    static (string Bins, string Stock) Stock(string prefix, int howMany, string more = "")
    {
        var (bins, stock) = (new StringBuilder("address,zone,function\n"), new StringBuilder("bin,item,quantity\n"));
        for (var n = 0; n < howMany; n++)
        {
            bins.Append(CultureInfo.InvariantCulture, $"{prefix}-{n},Dry reserve,Reserve\n");
            stock.Append(CultureInfo.InvariantCulture, $"{prefix}-{n},HH-16,{n % 7 + 1}\n");
        }

        return (bins.ToString(), stock.Append(more).ToString());
    }

    static async Task<decimal> AtSeven(MudRoomDb db) =>
        (await db.Balances.SingleAsync(b => b.BinId == db.Bins.First(bin => bin.Address == "OS-7").Id)).Quantity;

    static async Task<Answer> Take(Client client, string kind, string text, Guid? id = null) =>
        await client.Act(
            "/site/files/import",
            new
            {
                kind,
                name = kind + ".csv",
                text,
            },
            id
        );

    [Fact]
    public async Task Opening_stock_is_hidden_until_it_is_whole_while_scans_are_taken_and_adds_to_what_stands_there()
    {
        using var anselm = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        // A line in a receiving place too: it waits for a driver once all is seen, and the check says so.
        var (bins, lines) = Stock("OS", 3000, "D1-R1,HH-16,9\n");
        Assert.True((await Take(anselm, "Bins", bins)).IsOk);
        Assert.True((await Take(anselm, "Stock", "bin,item,quantity\nOS-7,HH-16,40\n")).IsOk);
        var importing = Take(anselm, "Stock", lines);
        var (seen, atSeven) = (new HashSet<(int, int)>(), new HashSet<decimal>());
        var watching = Task.Run(async () =>
        {
            while (!importing.IsCompleted)
                await Watch();
        });
        var counted = 0;
        for (; !importing.IsCompleted; counted++)
            Assert.True((await wanjiru.Act("/door/count", Client.Count(more: new { overAllowed = true }))).IsOk);
        await watching;

        // All at one instant, without asking for the writer's place.
        async Task Watch()
        {
            var hidden = HiddenImport.Of(Path.GetFullPath(server.File));
            await using var db = server.Db();
            await db.Database.OpenConnectionAsync();
            await using var instant = ((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true);
            await db.Database.UseTransactionAsync(instant);
            var of = db.Bins.Where(b => b.Address.StartsWith("OS-")).Select(b => b.Id);
            var now = (
                await db.Balances.CountAsync(b => of.Contains(b.BinId)),
                await db.Ledger.CountAsync(e => e.Kind == EntryKind.OpeningStock && e.Subject.StartsWith("OS-"))
            );
            atSeven.Add(await AtSeven(db));
            // Shown between two of the questions: they are of two instants.
            if (hidden == HiddenImport.Of(Path.GetFullPath(server.File)))
                seen.Add(now);
        }

        var done = await importing;
        Assert.True(done.IsOk, done.Body.ToString());
        Assert.Equal(3001, done["new"].GetInt32());
        Assert.True(counted > 3, $"{counted} counts beside the import");
        Assert.Subset(new HashSet<(int, int)> { (1, 1), (3000, 3001) }, seen);
        Assert.Subset(new HashSet<decimal> { 40, 41 }, atSeven);
        await using var after = server.Db();
        Assert.Equal(41, await AtSeven(after));
        Assert.Equal(3001, await after.Ledger.CountAsync(e => e.Kind == EntryKind.OpeningStock && e.Subject.StartsWith("OS-")));
        Assert.Empty((await server.Check()).Faults);
        // The same file again changes nothing.
        var again = await Take(anselm, "Stock", lines);
        Assert.Equal((0, 3001), (again["new"].GetInt32(), again["unchanged"].GetInt32()));
    }

    [Fact]
    public async Task A_long_set_up_file_is_seen_whole_or_not_at_all_and_one_with_a_fault_leaves_nothing()
    {
        using var anselm = await server.SignIn("anselm");
        var store = server.App.Services.GetRequiredService<SetUpStore>();
        Assert.True((await Take(anselm, "Items", Items("LONG", 700, "Before"))).IsOk);
        var importing = Take(anselm, "Items", Items("LONG", 1500, "After"));
        var seen = new HashSet<(int, int)>();
        while (!importing.IsCompleted)
        {
            var items = (await store.Current()).Catalogue.Items.Where(i => i.Code.StartsWith("LONG-", StringComparison.Ordinal)).ToList();
            seen.Add((items.Count, items.Count(i => i.Name.StartsWith("After", StringComparison.Ordinal))));
            await Task.Delay(5);
        }

        var done = await importing;
        Assert.Equal((800, 700), (done["new"].GetInt32(), done["changed"].GetInt32()));
        Assert.Subset(new HashSet<(int, int)> { (700, 0), (1500, 1500) }, seen);
        Assert.Equal(1500, (await store.Current()).Catalogue.Items.Count(i => i.Name.StartsWith("After", StringComparison.Ordinal)));
        Assert.Equal("file-faults", (await Take(anselm, "Items", Items("BAD", 800, "Bad") + "BAD-X,,H87\n")).Code);
        await using var db = server.Db();
        Assert.False(await db.Items.AnyAsync(i => i.Code.StartsWith("BAD-")));
    }

    [Fact]
    public async Task While_a_set_up_file_is_taken_in_nobody_else_changes_the_set_up_and_afterwards_they_do()
    {
        using var anselm = await server.SignIn("anselm");
        var store = server.App.Services.GetRequiredService<SetUpStore>();
        const string vendor = "code,name,country\nBUSY,Busy Vendor,NL\n";
        await store.KeepFor(Guid.NewGuid(), () => Task.CompletedTask);
        try
        {
            Assert.Equal("set-up-busy", (await Take(anselm, "Vendors", vendor)).Code);
            await using var db = server.Db();
            Assert.False(await db.Vendors.AnyAsync(v => v.Code == "BUSY"));
        }
        finally
        {
            store.StopKeeping();
        }

        Assert.True((await Take(anselm, "Vendors", vendor)).IsOk);
    }

    /// <summary>A full disk stops it in the middle, and the server is stopped then: the next one goes on, behind a head of the chain that
    /// nobody sees yet.</summary>
    [Theory]
    [InlineData("Stock")]
    [InlineData("Items")]
    public async Task What_a_full_disk_and_a_stop_have_left_in_the_middle_is_finished_by_the_next_server(string kind)
    {
        var folder = Directory.CreateTempSubdirectory("mudroom-setup-").FullName;
        await DemoTemplate.CopyTo(folder);
        var file = Path.Combine(folder, "mudroom.db");
        var settings = new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true);
        var (bins, stock) = Stock("CUT", 1500);
        var (id, text) = (Guid.NewGuid(), kind == "Stock" ? stock : Items("CUT", 3000, "Cut"));
        try
        {
            await using (var first = await CommandLine.Start(settings))
            {
                using var anselm = await Client.SignIn(first.Urls.First(), "anselm");
                Assert.True((await Take(anselm, "Bins", bins)).IsOk);
                await Disk.Room(first.Services.GetRequiredService<WriteDesk>(), 120);
                Assert.Equal("disk-full", (await Take(anselm, kind, text, id)).Code);
                await first.StopAsync();
            }

            SqliteConnection.ClearAllPools();
            await using (var db = Database.Context(file))
                Assert.InRange((await db.StagedImports.SingleAsync(i => i.ActId == id)).Done, 1, kind == "Stock" ? 1499 : 2999);
            await using var next = await CommandLine.Start(settings);
            // Before it answers anybody the set-up is whole.
            Assert.Equal(
                kind == "Stock" ? 0 : 3000,
                (await next.Services.GetRequiredService<SetUpStore>().Current()).Catalogue.Items.Count(i =>
                    i.Code.StartsWith("CUT-", StringComparison.Ordinal)
                )
            );
            using var again = await Client.SignIn(next.Urls.First(), "anselm");
            var answer = await Take(again, kind, text, id);
            Assert.True(answer.IsOk, answer.Body.ToString());
            Assert.Equal(kind == "Stock" ? 1500 : 3000, answer["new"].GetInt32());
            await using (var db = Database.Context(file))
            {
                Assert.Equal(
                    kind == "Stock" ? 1500 : 0,
                    await db.Ledger.CountAsync(e => e.Kind == EntryKind.OpeningStock && e.Subject.StartsWith("CUT-"))
                );
                Assert.Equal(kind == "Stock" ? 0 : 3000, await db.Items.CountAsync(i => i.Code.StartsWith("CUT-")));
                Assert.Empty((await BookCheck.Run(db, null)).Faults);
            }

            await next.StopAsync();
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task A_first_password_in_a_long_file_is_kept_nowhere_in_clear()
    {
        using var anselm = await server.SignIn("anselm");
        const string secret = "mossy lantern 83";
        var text = new StringBuilder("name,sign_in,roles,sites,first_password\n");
        for (var n = 0; n < 600; n++)
            text.Append(CultureInfo.InvariantCulture, $"Picker {n},longfile{n},Driver,LM,{(n == 550 ? secret : "")}\n");
        var id = Guid.NewGuid();
        Assert.Equal(600, (await Take(anselm, "People", text.ToString(), id))["new"].GetInt32());
        // Sent twice under its id it is done once, though the hashes of it would differ.
        Assert.Equal(600, (await Take(anselm, "People", text.ToString(), id))["new"].GetInt32());
        using var stranger = new Client(server.Url);
        await stranger.LoadToken();
        Assert.Equal("password-must-change", (await stranger.Post("/api/session", new { name = "longfile550", password = secret })).Code);
        Assert.Equal(
            System.Net.HttpStatusCode.Unauthorized,
            (await stranger.Post("/api/session", new { name = "longfile3", password = "" })).Status
        );
        foreach (var part in Directory.GetFiles(Path.GetDirectoryName(server.File)!, "mudroom.db*"))
        {
            await using var stream = new FileStream(part, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
            using var reader = new StreamReader(stream, Encoding.Latin1);
            Assert.DoesNotContain(secret, await reader.ReadToEndAsync(), StringComparison.Ordinal);
        }
    }

    /// <summary>What stands held has a hold that speaks for it: else it could never be freed, and the check of the book would say
    /// so.</summary>
    [Fact]
    public async Task Goods_that_were_held_when_the_book_began_can_be_lifted()
    {
        using var anselm = await server.SignIn("anselm");
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var cage = await db.Bins.FirstAsync(b => b.SiteId == 1 && b.Function == Core.Site.BinFunction.Cage);
        var taken = await Take(anselm, "Stock", $"bin,item,quantity,standing\n{cage.Address},SP-DG,4,Held\n");
        Assert.True(taken.IsOk, taken.Body.ToString());
        Assert.Empty((await server.Check()).Faults);
        var hold = await db.Holds.OrderByDescending(h => h.Id).FirstAsync();
        Assert.Equal((4, "Was held when the book began."), (hold.Quantity, hold.Sentence));
        var lifted = await wanjiru.Act("/cage/lift", new { hold = hold.Number, note = "looked at" });
        Assert.True(lifted.IsOk, lifted.Body.ToString());
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>What is sampled by the vendor's batch may stand in several batches of ours: it is one and the same.</summary>
    [Fact]
    public async Task Two_batches_of_ours_may_be_of_one_source_batch()
    {
        using var anselm = await server.SignIn("anselm");
        Assert.True((await Take(anselm, "Items", "code,name,unit,asks\nTWO-B,Two batches,H87,B\n")).IsOk);
        Assert.True((await Take(anselm, "Bins", "address,zone,function\nTB-1,Dry reserve,Reserve\nTB-2,Dry reserve,Reserve\n")).IsOk);
        var taken = await Take(
            anselm,
            "Stock",
            "bin,item,quantity,batch,source_batch,vendor\nTB-1,TWO-B,5,B-1,S-9,NILG\nTB-2,TWO-B,6,B-2,S-9,NILG\n"
        );
        Assert.True(taken.IsOk, taken.Body.ToString());
        await using var db = server.Db();
        Assert.Single(await db.SourceBatches.Where(s => s.Number == "S-9").ToListAsync());
        Assert.Equal(2, await db.Batches.CountAsync(b => b.SourceBatch!.Number == "S-9"));
    }
}
