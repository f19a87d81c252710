using System.Text;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Demo;
using MudRoom.Server.Hosting;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>The demo has what its story tells of, so that each can be tried. All of it is made up.</summary>
public sealed class DemoScenarioTests(DemoServer server) : IClassFixture<DemoServer>
{
    static readonly DateOnly tuesday = new(2026, 3, 10);

    [Fact]
    public async Task What_somebody_is_told_to_try_first_is_there_and_still_to_be_done()
    {
        await using var db = server.Db();
        var sheet = RoleGuide.Of(Role.Inspector).Page.Split('/')[^1];
        Assert.Equal(Core.Bench.InspectionState.Drawn, (await db.Inspections.SingleAsync(i => i.Number == sheet)).State);
        var gate = RoleGuide.Of(Role.GateHand).Try.Split(' ')[2];
        Assert.Equal(ArrivalState.Expected, (await db.Arrivals.SingleAsync(a => a.Number == gate)).State);
    }

    [Fact]
    public async Task There_are_about_a_hundred_and_twenty_items_of_every_storage_class_and_of_all_that_is_asked_for()
    {
        await using var db = server.Db();
        var items = await db.Items.ToListAsync();
        Assert.InRange(items.Count, 115, 130);
        // Storage classes by 2-words; a rack for dry goods is no place for gas.
        Assert.Equal(Enum.GetValues<StorageClass>().Order(), items.Select(i => i.StorageClass).Distinct().Order());
        Assert.Equal(items.Count, items.Select(i => i.BasePack.Gtin).Distinct().Count());
        Assert.Contains(items, i => i.NeedsSerial);
        Assert.Contains(items, i => i.CatchWeight);
        Assert.Contains(items, i => i.BaseUnit == "KGM");
        Assert.Contains(items, i => i.BaseUnit == "MTR");
        Every.One(items, i => Assert.NotNull(db.ItemPictures.Find(i.Id)));
    }

    [Fact]
    public async Task Sixteen_arrivals_belong_to_the_Tuesday_and_a_vehicle_says_its_plate()
    {
        await using var db = server.Db();
        var arrivals = await db.Arrivals.Where(a => a.Number.CompareTo("A-2611") >= 0 && a.Number.CompareTo("A-2628") < 0).ToListAsync();
        Assert.Equal(16, arrivals.Count);
        Every.One(arrivals, a => Assert.Equal(tuesday, DateOnly.FromDateTime(a.Planned.UtcDateTime)));
        Assert.Equal(6, arrivals.Count(a => a.State == ArrivalState.CountedIn));
        Assert.Equal(3, arrivals.Count(a => a.State == ArrivalState.AtDoor));
        Every.One(arrivals.Where(a => a.State == ArrivalState.AtDoor && a.ContainerNumber is null), a => Assert.NotNull(a.Plate));
        Assert.Contains(arrivals, a => a.State == ArrivalState.Expected && a.Plate is not null);
    }

    [Fact]
    public async Task Fifteen_vendors_go_from_excellent_to_dreadful_and_ninety_days_tell_it()
    {
        await using var db = server.Db();
        var loads = await db
            .ManifestLines.Join(
                db.Arrivals.Where(a => a.Planned < new DateTimeOffset(2026, 3, 10, 0, 0, 0, TimeSpan.Zero)),
                m => m.ArrivalId,
                a => a.Id,
                (m, a) =>
                    new
                    {
                        m.Part!.VendorId,
                        m.Part.Due,
                        m.Part.ClosedShort,
                        a.Planned,
                    }
            )
            .ToListAsync();
        var sellers = await db.Vendors.Where(v => v.Code != "HILL" && v.Code != "HOLN").ToListAsync();
        Assert.Equal(15, sellers.Count);
        Every.One(sellers, v => Assert.True(loads.Count(l => l.VendorId == v.Id) >= 5, v.Code));
        double Late(string code) =>
            loads
                .Where(l => l.VendorId == sellers.First(v => v.Code == code).Id)
                .Average(l => DateOnly.FromDateTime(l.Planned.UtcDateTime) > l.Due.AddDays(1) ? 1.0 : 0);
        Assert.InRange(Late("QUER"), 0, 0.08);
        Assert.InRange(Late("ZAND"), 0.15, 0.6);
        Assert.InRange(Late("OLLE"), 0.5, 1);
        double Short(string code) =>
            loads.Where(l => l.VendorId == sellers.First(v => v.Code == code).Id).Average(l => l.ClosedShort ? 1.0 : 0);
        Assert.InRange(Short("QUER"), 0, 0.05);
        Assert.InRange(Short("OLLE"), 0.2, 0.6);
    }

    [Fact]
    public async Task A_transfer_a_return_approvals_a_draft_outwork_and_a_taught_scanner_are_there_to_be_tried()
    {
        await using var db = server.Db();
        var orders = await db.Orders.Include(o => o.Lines).ThenInclude(l => l.Parts).ToListAsync();
        Assert.Equal("TR-0118", Assert.Single(orders, o => o.Kind == OrderKind.Transfer).Number);
        Assert.Equal(
            ["RT-0001", "RT-0042"],
            orders.Where(o => o.Kind == OrderKind.CustomerReturn).Select(o => o.Number).Order(StringComparer.Ordinal)
        );
        Assert.Empty(Assert.Single(orders, o => o.State == OrderState.Draft).Approvals);
        Assert.Contains(orders, o => o.Approvals.Count == 2 && o.Approvals[1].Note is not null);
        var note = Assert.Single(await db.OutworkNotes.ToListAsync());
        Assert.Equal((true, 120m), (note.IsOpen, note.Out));
        var scanner = (await db.Sites.FirstAsync(s => s.Code == "LM")).Scanner;
        Assert.Equal("(01)09521234100007(10)B-7\u001d", "(01)09521234100007(10)B-7" + scanner.Code("~^"));
        Assert.Contains(await db.Discrepancies.ToListAsync(), d => d.Kind == DiscrepancyKind.Damaged);
    }

    [Fact]
    public async Task What_a_partner_sent_is_refused_with_each_of_its_faults()
    {
        using var dilys = await server.SignIn("dilys");
        var file = PartnerFile.WithFaults;
        var looked = await dilys.Act(
            "/road/import/preview",
            new { name = file.Name, content = Convert.ToBase64String(Encoding.UTF8.GetBytes(file.Text)) }
        );
        var faults = looked["faults"].EnumerateArray().Select(f => f.GetProperty("value").GetString()).ToList();
        Assert.Equal(new HashSet<string?> { "HT-99", "twenty", "2026-04-31", "OLLY" }, [.. faults]);
    }

    [Fact]
    public async Task A_second_start_takes_nothing_from_a_demo_that_another_server_has()
    {
        var settings = new ServerSettings(Path.GetDirectoryName(server.File)!, Port: 0, IsDemo: true, StoppedClock: true);
        await Assert.ThrowsAsync<StartException>(() => CommandLine.Start(settings, fresh: true));
        await using var db = server.Db();
        Assert.Equal(2, await db.Sites.CountAsync());
    }

    [Fact]
    public async Task A_demo_whose_making_was_broken_off_is_known_for_it()
    {
        var folder = Directory.CreateTempSubdirectory("mudroom-half-").FullName;
        await DemoTemplate.CopyTo(folder);
        var file = Path.Combine(folder, "mudroom.db");
        Assert.False(await DemoClock.IsHalfMade(file));
        await using (var db = Database.Context(file))
            await db.Notes.Where(n => n.Name == DemoClock.NoteName).ExecuteDeleteAsync();
        Assert.True(await DemoClock.IsHalfMade(file));
        Assert.False(await DemoClock.IsHalfMade(Path.Combine(folder, "none.db")));
    }

    /// <summary>The leek seed that its vendor calls back: some sold, some in the cage, some to be fetched, and one box not found.</summary>
    [Fact]
    public async Task A_recall_is_in_progress_and_misses_one_box()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var recall = Assert.Single((await wanjiru.Ask("/cage/recalls"))["open"].EnumerateArray().ToList());
        Assert.Equal("1 box of 19 is not found.", recall.GetProperty("finding").GetString());
        var finding = (await wanjiru.Ask("/cage/recalls/" + recall.GetProperty("number").GetString()))["finding"];
        Assert.Equal(
            [200m, 120m, 20m, 40m],
            new[] { "cage", "elsewhere", "missing", "gone" }.Select(s => finding.GetProperty(s).GetDecimal())
        );
    }
}
