using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Data;
using MudRoom.Server.Hosting;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>The folder with the data: one server, files for their owner, copies that are checked, and a sentence for all that can be wrong
/// with it.</summary>
public sealed class DataFolderTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("mudroom-folder-").FullName;

    string Db => Path.Combine(folder, "mudroom.db");

    ServerSettings Settings => new(folder, Port: 0, IsDemo: true, StoppedClock: true);

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    async Task<string> Refused() => (await Assert.ThrowsAsync<StartException>(() => CommandLine.Start(Settings))).Refusal.Code;

    [Fact]
    public async Task One_folder_has_one_server_and_its_files_are_for_their_owner_only()
    {
        await DemoTemplate.CopyTo(folder);
        var first = await CommandLine.Start(Settings);
        try
        {
            Assert.Equal("folder-taken", await Refused());
            if (!OperatingSystem.IsWindows())
            {
                const UnixFileMode others =
                    UnixFileMode.GroupRead | UnixFileMode.GroupWrite | UnixFileMode.OtherRead | UnixFileMode.OtherWrite;
                Assert.Equal(UnixFileMode.None, File.GetUnixFileMode(folder) & others);
                foreach (var file in Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories).Where(f => f != Db))
                    Assert.True((File.GetUnixFileMode(file) & others) == 0, file);
            }
        }
        finally
        {
            await first.StopAsync();
            await first.DisposeAsync();
        }

        var again = await CommandLine.Start(Settings);
        await again.StopAsync();
        await again.DisposeAsync();
    }

    [Fact]
    public async Task What_is_no_database_cut_short_of_another_program_or_newer_gets_a_sentence_and_is_not_touched()
    {
        await File.WriteAllTextAsync(Db, "Dear diary, " + new string('x', 4000));
        Assert.Equal("no-database", await Refused());

        File.Delete(Db);
        await DemoTemplate.CopyTo(folder);
        var whole = await File.ReadAllBytesAsync(Db);
        await File.WriteAllBytesAsync(Db, whole[..(whole.Length / 2)]);
        Assert.Equal("database-cut", await Refused());
        Assert.Equal(whole.Length / 2, new FileInfo(Db).Length);

        File.Delete(Db);
        Run("CREATE TABLE Recipes (Name TEXT); INSERT INTO Recipes VALUES ('pie');");
        Assert.Equal("database-foreign", await Refused());

        File.Delete(Db);
        await File.WriteAllBytesAsync(Db, whole);
        Run("INSERT INTO __EFMigrationsHistory VALUES ('29990101000000_FromTheFuture', '99.0.0')");
        Assert.Equal("database-newer", await Refused());
        Assert.Equal(3, await CommandLine.Run(["check", "--data", folder]));
    }

    [Fact]
    public async Task An_older_database_is_copied_before_it_is_brought_up_to_date()
    {
        await DemoTemplate.CopyTo(folder);
        Run(
            "ALTER TABLE DoneActs DROP COLUMN Content; ALTER TABLE AspNetUsers DROP COLUMN MustChange; DELETE FROM "
                + "__EFMigrationsHistory WHERE MigrationId LIKE '%PasswordsAndActs'"
        );
        var app = await CommandLine.Start(Settings);
        await app.StopAsync();
        await app.DisposeAsync();
        var copy = Assert.Single(Directory.GetFiles(folder, "before-upgrade-*.db"));
        await using var old = Database.Context(copy);
        Assert.Contains(await old.Database.GetPendingMigrationsAsync(), m => m.EndsWith("PasswordsAndActs", StringComparison.Ordinal));
        await using var now = Database.Context(Db);
        Assert.Empty(await now.Database.GetPendingMigrationsAsync());
    }

    [Fact]
    public async Task A_backup_taken_under_load_is_checked_before_it_replaces_anything()
    {
        await DemoTemplate.CopyTo(folder);
        var app = await CommandLine.Start(Settings);
        var backup = Path.Combine(folder, "backup.db");
        long entries;
        try
        {
            using var leila = await Client.SignIn(app.Urls.First(), "leila");
            using var stop = new CancellationTokenSource();
            var counting = Task.Run(async () =>
            {
                while (!stop.IsCancellationRequested)
                    await leila.Act("/door/count", Client.Count());
            });
            Assert.Equal(0, await CommandLine.Run(["backup", "--data", folder, backup]));
            // Written over is nothing.
            Assert.Equal(3, await CommandLine.Run(["backup", "--data", folder, backup]));
            await stop.CancelAsync();
            await counting;
            Assert.Equal(3, await CommandLine.Run(["restore", "--data", folder, backup]));
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }

        SqliteConnection.ClearAllPools();
        await using (var db = Database.Context(backup))
            entries = await db.Ledger.LongCountAsync();
        // On an empty machine too.
        var empty = Path.Combine(folder, "empty");
        Assert.Equal(0, await CommandLine.Run(["restore", "--data", empty, backup]));
        Assert.Equal(0, await CommandLine.Run(["check", "--data", empty]));
        Assert.Equal(0, await CommandLine.Run(["restore", "--data", folder, backup]));
        Assert.Single(Directory.GetFiles(folder, "replaced-*.db"));
        await using (var db = Database.Context(Db))
            Assert.Equal(entries, await db.Ledger.LongCountAsync());

        using var spoilt = new Copy(backup);
        spoilt.Run("UPDATE Balances SET Quantity = Quantity + 1000000 WHERE Id = (SELECT MIN(Id) FROM Balances)");
        SqliteConnection.ClearAllPools();
        Assert.Equal(3, await CommandLine.Run(["restore", "--data", folder, spoilt.File]));
        await using (var db = Database.Context(Db))
            Assert.Equal(entries, await db.Ledger.LongCountAsync());
        await File.WriteAllTextAsync(Path.Combine(folder, "note.txt"), "no database");
        Assert.Equal(3, await CommandLine.Run(["restore", "--data", folder, Path.Combine(folder, "note.txt")]));
        Assert.Equal(3, await CommandLine.Run(["check", "--data", folder, "--head", Path.Combine(folder, "note.txt")]));
        Assert.Equal(3, await CommandLine.Run(["check", "--data", folder, "--head", Path.Combine(folder, "nothing.txt")]));
        Assert.Equal(2, await CommandLine.Run(["serve", "--data", folder, "--port", "many"]));
        Assert.Equal(3, await CommandLine.Run(["backup", "--data", Path.Combine(folder, "nowhere"), Path.Combine(folder, "b2.db")]));
    }

    [Fact]
    public async Task Who_has_locked_everybody_out_is_helped_by_the_command()
    {
        await DemoTemplate.CopyTo(folder);
        Run("UPDATE People SET Active = 0");
        Assert.Equal(0, await CommandLine.Run(["admin", "--data", folder, "--reset"]));
        Assert.Equal(3, await CommandLine.Run(["admin", "--data", folder, "--reset", "nobody-here"]));
        await using var db = Database.Context(Db);
        var person = await db.People.SingleAsync(p => p.Active);
        Assert.Contains(Core.Site.Role.Administrator, person.Roles);
        Assert.True((await db.Users.SingleAsync(u => u.Id == person.Id)).MustChange);
    }

    [Fact]
    public async Task The_demos_clock_goes_on_where_it_was_and_never_before_the_last_entry_of_the_book()
    {
        await DemoTemplate.CopyTo(folder);
        using var copy = new Copy(Db);
        await using var db = Database.Context(copy.File);
        var last = await db.Ledger.OrderBy(e => e.Seq).Select(e => e.At).LastAsync();
        var begins = last.AddDays(-1);

        Note(last.AddHours(2));
        Assert.Equal(last.AddHours(2), DemoClock.LastSeen(copy.File, begins));
        Note(last.AddHours(-2));
        Assert.Equal(last, DemoClock.LastSeen(copy.File, begins));
        Assert.Equal(last.AddHours(1), DemoClock.LastSeen(copy.File, last.AddHours(1)));
        copy.Run($"DELETE FROM \"Notes\" WHERE \"Name\" = '{DemoClock.NoteName}'");
        Assert.Equal(last, DemoClock.LastSeen(copy.File, begins));

        void Note(DateTimeOffset at) =>
            copy.Run($"UPDATE \"Notes\" SET \"Value\" = '{at.UtcTicks}' WHERE \"Name\" = '{DemoClock.NoteName}'");
    }

    [Fact]
    public async Task A_full_disk_gets_a_sentence_and_counting_goes_on_as_soon_as_there_is_room()
    {
        await DemoTemplate.CopyTo(folder);
        var app = await CommandLine.Start(Settings);
        try
        {
            using var leila = await Client.SignIn(app.Urls.First(), "leila");
            var desk = app.Services.GetRequiredService<WriteDesk>();
            await Disk.Room(desk, 0);
            // Smaller writes may still fit into the pages there are: the act that was refused is the one that must come through later.
            Answer full;
            Guid id;
            var tries = 0;
            do
            {
                id = Guid.NewGuid();
                full = await leila.Act("/door/count", Client.Count(), id);
            } while (full.IsOk && ++tries < 2000);
            Assert.Equal((507, "disk-full"), ((int)full.Status, full.Code));
            Assert.Equal(503, (int)(await leila.Http.GetAsync("/health")).StatusCode);
            await Disk.Room(desk, Disk.Plenty);
            Assert.True((await leila.Act("/door/count", Client.Count(), id)).IsOk);
            Assert.Equal(200, (int)(await leila.Http.GetAsync("/health")).StatusCode);
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    [Fact]
    public async Task A_file_in_the_watched_folder_never_stops_the_house()
    {
        await DemoTemplate.CopyTo(folder);
        var app = await CommandLine.Start(Settings);
        try
        {
            var inbox = Path.Combine(folder, "inbox", "LM");
            Directory.CreateDirectory(inbox);
            var order = UblOrder("PO-PRICE", "0.00123456");
            var deep = string.Concat(Enumerable.Repeat("<a>", 60_000)) + string.Concat(Enumerable.Repeat("</a>", 60_000));
            await File.WriteAllTextAsync(Path.Combine(inbox, "price.xml"), order);
            await File.WriteAllTextAsync(Path.Combine(inbox, "deep.xml"), deep);
            await File.WriteAllTextAsync(Path.Combine(inbox, "good.xml"), UblOrder("PO-GOOD", "1.25"));
            for (
                var i = 0;
                i < 300
                    && !(
                        File.Exists(Path.Combine(inbox, "taken", "good.xml"))
                        && File.Exists(Path.Combine(inbox, "refused", "price.xml.why.txt"))
                        && File.Exists(Path.Combine(inbox, "refused", "deep.xml.why.txt"))
                    );
                i++
            )
                await Task.Delay(50);
            Assert.Contains(
                "six decimals",
                await File.ReadAllTextAsync(Path.Combine(inbox, "refused", "price.xml.why.txt")),
                StringComparison.Ordinal
            );
            Assert.Contains(
                "nested more than",
                await File.ReadAllTextAsync(Path.Combine(inbox, "refused", "deep.xml.why.txt")),
                StringComparison.Ordinal
            );
            Assert.True(File.Exists(Path.Combine(inbox, "taken", "good.xml")));
            using var anselm = await Client.SignIn(app.Urls.First(), "anselm");
            var health = await anselm.Ask("/site/health");
            Assert.Contains(health["pieces"].EnumerateArray(), p =>
                p.GetProperty("name").GetString() == "watched folder" && p.GetProperty("isWell").GetBoolean()
            );
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    static string UblOrder(string number, string price) =>
        $"""
            <Order xmlns="urn:oasis:names:specification:ubl:schema:xsd:Order-2" xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
              <cbc:ID>{number}</cbc:ID><cbc:IssueDate>2026-03-01</cbc:IssueDate>
              <cac:SellerSupplierParty><cac:Party><cac:PartyIdentification><cbc:ID>NILG</cbc:ID></cac:PartyIdentification></cac:Party></cac:SellerSupplierParty>
              <cac:Delivery><cac:DeliveryLocation><cbc:ID>LM</cbc:ID></cac:DeliveryLocation><cac:RequestedDeliveryPeriod><cbc:EndDate>2026-03-20</cbc:EndDate></cac:RequestedDeliveryPeriod></cac:Delivery>
              <cac:OrderLine><cac:LineItem><cbc:ID>1</cbc:ID><cbc:Quantity unitCode="H87">10</cbc:Quantity><cac:Price><cbc:PriceAmount currencyID="GBP">{price}</cbc:PriceAmount></cac:Price>
                <cac:Item><cac:BuyersItemIdentification><cbc:ID>CB-05</cbc:ID></cac:BuyersItemIdentification></cac:Item></cac:LineItem></cac:OrderLine>
            </Order>
            """;

    void Run(string sql)
    {
        SqliteConnection.ClearAllPools();
        using var connection = new SqliteConnection($"Data Source={Db};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }
}
