using System.Diagnostics;
using System.Globalization;
using System.Text;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Hosting;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Nothing long stands in front of a scan: a large import is written in slices, hidden until it is whole, and outlives a killed
/// server.</summary>
public sealed class ImportTests(DemoServer server) : IClassFixture<DemoServer>
{
    static string Orders(string prefix, int orders, string last = "CB-05")
    {
        var text = new StringBuilder("order,vendor,line,item,quantity,due,site\n");
        for (var n = 0; n < orders; n++)
        for (var line = 1; line <= 10; line++)
            text.Append(
                CultureInfo.InvariantCulture,
                $"{prefix}-{n},NILG,{line},{(n == orders - 1 && line == 10 ? last : "CB-05")},{line},2026-05-{line:00},LM\n"
            );
        return text.ToString();
    }

    [Fact]
    public async Task Scans_are_taken_while_a_large_import_is_written_and_nobody_sees_a_part_of_it()
    {
        using var dilys = await server.SignIn("dilys");
        using var wanjiru = await server.SignIn("wanjiru");
        var importing = dilys.Act("/road/import", new { name = "large.csv", text = Orders("PO-BIG", 1500) });
        var (counted, parts) = (0, new HashSet<int>());
        while (!importing.IsCompleted)
        {
            Assert.True((await wanjiru.Act("/door/count", Client.Count(more: new { overAllowed = true }))).IsOk);
            counted++;
            await using var db = server.Db();
            parts.Add(await db.LineParts.CountAsync(p => p.Line!.Order!.Number.StartsWith("PO-BIG")));
        }

        var done = await importing;
        Assert.True(done.IsOk, done.Body.ToString());
        Assert.True(counted > 3, $"{counted} counts beside the import");
        Assert.Subset(new HashSet<int> { 0, 15000 }, parts);
        await using (var after = server.Db())
        {
            Assert.Equal(15000, await after.LineParts.CountAsync(p => p.Line!.Order!.Number.StartsWith("PO-BIG")));
            Assert.Equal(
                (StageState.Whole, ""),
                await after
                    .StagedImports.OrderByDescending(i => i.Id)
                    .Select(i => new ValueTuple<StageState, string>(i.State, i.Text))
                    .FirstAsync()
            );
        }

        Assert.Contains(
            "was imported on",
            (await dilys.Act("/road/import", new { name = "again.csv", text = Orders("PO-BIG", 1500) }))["before"].GetString(),
            StringComparison.Ordinal
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_large_import_sent_twice_under_its_id_is_done_once_and_one_with_a_fault_leaves_nothing()
    {
        using var dilys = await server.SignIn("dilys");
        var id = Guid.NewGuid();
        var both = await Task.WhenAll(
            dilys.Act("/road/import", new { name = "twice.csv", text = Orders("PO-TWICE", 120) }, id),
            dilys.Act("/road/import", new { name = "twice.csv", text = Orders("PO-TWICE", 120) }, id)
        );
        Every.One(both, b => Assert.True(b.IsOk, b.Body.ToString()));
        Assert.Equal(both[0].Body.GetRawText(), both[1].Body.GetRawText());
        Assert.Equal(
            "file-faults",
            (await dilys.Act("/road/import", new { name = "bad.csv", text = Orders("PO-BAD", 120, "NO-SUCH") })).Code
        );
        await using var db = server.Db();
        Assert.Equal(120, await db.Orders.CountAsync(o => o.Number.StartsWith("PO-TWICE")));
        Assert.False(await db.Orders.IgnoreQueryFilters().AnyAsync(o => o.Number.StartsWith("PO-BAD")));
    }

    [Fact]
    public async Task An_import_that_a_killed_server_has_begun_is_hidden_and_finished_by_the_next_one()
    {
        var folder = Directory.CreateTempSubdirectory("mudroom-import-").FullName;
        await DemoTemplate.CopyTo(folder);
        var file = Path.Combine(folder, "mudroom.db");
        var text = Orders("PO-CUT", 300);
        var actId = Guid.NewGuid();
        // As a killed server leaves it: the file kept, the first forty orders written, the rest not.
        await using (var db = Database.Context(file))
        {
            var site = await db.Sites.FirstAsync(s => s.Code == "LM");
            var dilys = await db.People.FirstAsync(p => p.SignInName == "dilys");
            var stage = new StagedImport
            {
                SiteId = site.Id,
                PersonId = dilys.Id,
                PersonName = dilys.Name,
                Device = "test",
                ActId = actId,
                Name = "cut.csv",
                Text = text,
                At = new DateTimeOffset(2026, 3, 10, 11, 0, 0, TimeSpan.Zero),
                Done = 40,
            };
            db.StagedImports.Add(stage);
            await db.SaveChangesAsync();
            var (vendor, item) = (await db.Vendors.FirstAsync(v => v.Code == "NILG"), await db.Items.FirstAsync(i => i.Code == "CB-05"));
            for (var n = 0; n < 40; n++)
                db.Orders.Add(
                    new Core.Road.Order
                    {
                        Number = $"PO-CUT-{n}",
                        VendorId = vendor.Id,
                        ImportId = stage.Id,
                        Lines =
                        [
                            .. Enumerable
                                .Range(1, 10)
                                .Select(line => new Core.Road.OrderLine
                                {
                                    Number = line,
                                    ItemId = item.Id,
                                    Parts =
                                    [
                                        new Core.Road.LinePart
                                        {
                                            ImportId = stage.Id,
                                            ItemId = item.Id,
                                            VendorId = vendor.Id,
                                            SiteId = site.Id,
                                            Due = new DateOnly(2026, 5, line),
                                            Ordered = line,
                                        },
                                    ],
                                }),
                        ],
                    }
                );
            await db.SaveChangesAsync();
        }

        await Staging.HideWhatIsNotWhole(file);
        await using (var db = Database.Context(file))
            Assert.False(await db.Orders.AnyAsync(o => o.Number.StartsWith("PO-CUT")));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            var watch = Stopwatch.StartNew();
            await using var db = Database.Context(file);
            while (await db.Orders.CountAsync(o => o.Number.StartsWith("PO-CUT")) == 0 && watch.Elapsed < TimeSpan.FromSeconds(30))
                await Task.Delay(50);
            Assert.Equal(300, await db.Orders.CountAsync(o => o.Number.StartsWith("PO-CUT")));
            Assert.Equal(3000, await db.LineParts.CountAsync(p => p.Line!.Order!.Number.StartsWith("PO-CUT")));
            // Who sent it and got no answer sends it again under its id, and is answered.
            using var dilys = await Client.SignIn(app.Urls.First(), "dilys");
            var again = await dilys.Act("/road/import", new { name = "cut.csv", text }, actId);
            Assert.Equal(300, again["orders"].GetInt32());
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
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
    public async Task An_import_that_fills_the_disk_stays_hidden_and_goes_on_when_there_is_room()
    {
        using var dilys = await server.SignIn("dilys");
        var (id, text) = (Guid.NewGuid(), Orders("PO-FULL", 400));
        var desk = server.App.Services.GetRequiredService<WriteDesk>();
        try
        {
            // Room for the file and some slices of it.
            await Disk.Room(desk, 150);
            Assert.Equal("disk-full", (await dilys.Act("/road/import", new { name = "full.csv", text }, id)).Code);
            await using var db = server.Db();
            Assert.True(
                await db.Orders.IgnoreQueryFilters().AnyAsync(o => o.Number.StartsWith("PO-FULL")),
                "the disk was full before anything was written"
            );
            Assert.False(await db.Orders.AnyAsync(o => o.Number.StartsWith("PO-FULL")));
        }
        finally
        {
            await Disk.Room(desk, Disk.Plenty);
        }

        var again = await dilys.Act("/road/import", new { name = "full.csv", text }, id);
        Assert.True(again.IsOk, again.Body.ToString());
        Assert.Equal(400, again["orders"].GetInt32());
        await using var after = server.Db();
        Assert.Equal(
            (400, 4000),
            (
                await after.Orders.CountAsync(o => o.Number.StartsWith("PO-FULL")),
                await after.LineParts.CountAsync(p => p.Line!.Order!.Number.StartsWith("PO-FULL"))
            )
        );
        Assert.Empty((await server.Check()).Faults);
    }

    /// <summary>A server killed while it took the rows of an import away goes on with that, and not with writing the rest behind the
    /// gap.</summary>
    [Fact]
    public async Task An_import_that_was_being_taken_away_is_taken_away_to_its_end()
    {
        await using (var db = server.Db())
        {
            var stage = new StagedImport
            {
                SiteId = 1,
                PersonId = 1,
                PersonName = "Wanjiru Holloway",
                Device = "test",
                ActId = Guid.NewGuid(),
                Name = "gone.csv",
                Text = "",
                At = DateTimeOffset.UnixEpoch,
                State = StageState.TakingBack,
                Done = 3,
            };
            db.StagedImports.Add(stage);
            await db.SaveChangesAsync();
            db.Orders.Add(
                new Core.Road.Order
                {
                    Number = "PO-GONE-0",
                    VendorId = 1,
                    ImportId = stage.Id,
                }
            );
            await db.SaveChangesAsync();
        }

        using var dilys = await server.SignIn("dilys");
        Assert.True((await dilys.Act("/road/import", new { name = "next.csv", text = Orders("PO-NEXT", 60) })).IsOk);
        await using var after = server.Db();
        Assert.False(await after.Orders.IgnoreQueryFilters().AnyAsync(o => o.Number == "PO-GONE-0"));
        Assert.Equal(StageState.GivenUp, (await after.StagedImports.SingleAsync(i => i.Name == "gone.csv")).State);
        Assert.Equal(60, await after.Orders.CountAsync(o => o.Number.StartsWith("PO-NEXT")));
    }
}
