using System.Diagnostics;
using System.IO.Compression;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Out;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Data;
using MudRoom.Server.Bench;
using MudRoom.Server.Hosting;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Databases of earlier versions, as those versions wrote them, are opened, brought up to date, and pass the check.</summary>
public sealed class GoldenTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("mudroom-golden-").FullName;

    string Db => Path.Combine(folder, "mudroom.db");

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    async Task Unpack(string name)
    {
        await using var packed = File.OpenRead(Path.Combine(Repository.Root(), "tests", "golden", name));
        await using var gzip = new GZipStream(packed, CompressionMode.Decompress);
        await using var file = File.Create(Db);
        await gzip.CopyToAsync(file);
    }

    /// <summary>Format 1, from before there were lots: 5 865 entries of the demo; of mustard seed of GOLD-1 50 kg held as torn and 75 kg as
    /// mislabelled lie loose in one cage, 100 kg wait to be inspected.</summary>
    [Fact]
    public async Task Stock_from_before_there_were_lots_gets_them_and_what_cannot_be_told_apart_is_under_all_its_holds()
    {
        await Unpack("format-1.db.gz");
        await DataFolder.BringUpToDate(Db, TimeProvider.System);
        await using var db = Database.Context(Db);
        var report = await BookCheck.Run(db, null);
        Assert.Empty(report.Faults);
        Assert.True(await db.Ledger.CountAsync(e => e.HashVersion == 1) > 5000);
        Assert.Equal(await db.Balances.CountAsync(), await db.Ledger.CountAsync(e => e.Kind == EntryKind.LotNamed && e.HashVersion == 3));

        var batch = await db.Batches.SingleAsync(b => b.SourceBatch!.Number == "GOLD-1");
        var held = Assert.Single(await db.Balances.Where(b => b.BatchId == batch.Id && b.Standing == Standing.Held).ToListAsync());
        var said = await db.Statements.Where(s => s.LotId == held.LotId).ToListAsync();
        Assert.Equal((125m, 2), (held.Quantity, said.Count(s => s.HoldId != null)));
        var waits = Assert.Single(await db.Balances.Where(b => b.BatchId == batch.Id && b.Standing == Standing.ToInspect).ToListAsync());
        Assert.Equal([true], (await db.Statements.Where(s => s.LotId == waits.LotId).ToListAsync()).Select(s => s.InspectionId != null));

        // Opened again, nothing is named twice.
        var entries = report.Entries;
        await DataFolder.BringUpToDate(Db, TimeProvider.System);
        Assert.Equal(entries, (await BookCheck.Run(db, null)).Entries);
    }

    /// <summary>Format 2, from before entries named what they are about: the demo with two standings of the site's own, and 100 coir pots
    /// held as of one of them.</summary>
    [Theory]
    [InlineData("format-1.db.gz", "H-0336", "GOLD-1")]
    [InlineData("format-2.db.gz", "H-0337", null)]
    public async Task What_happened_before_is_found_from_what_it_is_about_and_marked_as_worked_out(
        string golden,
        string hold,
        string? batch
    )
    {
        await Unpack(golden);
        Assert.False(Database.IsUpToDate(Db));
        await DataFolder.BringUpToDate(Db, TimeProvider.System);
        Assert.True(Database.IsUpToDate(Db));
        await using var db = Database.Context(Db);
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
        var laid = await new History(db).About(Reference.Hold(hold)).OrderBy(e => e.Seq).ToListAsync();
        Assert.Contains(laid, e => e.Kind == EntryKind.HoldLaid);
        Assert.True(await db.EntryReferences.AnyAsync(r => r.Kind == ReferenceKind.Hold && r.Id == hold && r.Derived));
        var taken = await db.Ledger.FirstAsync(e => e.Kind == EntryKind.TaskTaken && e.HashVersion < 3);
        var bin = await db.Bins.SingleAsync(b => b.SiteId == taken.SiteId && b.Address == taken.Subject);
        Assert.Contains(taken.Seq, await new History(db).About(Reference.Bin(bin.Id)).Select(e => e.Seq).ToListAsync());
        if (batch is null)
            return;
        var own = await db.Batches.SingleAsync(b => b.SourceBatch!.Number == batch);
        var counted = await new History(db).About(Reference.Batch(own.Id)).Where(e => e.Kind == EntryKind.Counted).ToListAsync();
        Assert.NotEmpty(counted);
        Assert.All(counted, e => Assert.Equal("", e.Fact));
    }

    [Fact]
    public async Task What_came_from_before_goes_on_two_holds_on_what_cannot_be_told_apart_are_lifted_one_after_the_other()
    {
        await Unpack("format-1.db.gz");
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            using var wanjiru = await Client.SignIn(app.Urls.First(), "wanjiru");
            await using var db = Database.Context(Db);
            var batch = await db.Batches.SingleAsync(b => b.SourceBatch!.Number == "GOLD-1");
            var holds = await db.Holds.Where(h => h.IsOpen && h.BatchId == batch.Id).OrderBy(h => h.Id).ToListAsync();
            Assert.Equal([125m, 125m], holds.Select(h => h.Quantity));
            using var anselm = await Client.SignIn(app.Urls.First(), "anselm");
            var health = await anselm.Ask("/site/health");
            Assert.Contains(holds[0].Number, health.Body.ToString(), StringComparison.Ordinal);
            Assert.True((await wanjiru.Act("/cage/lift", new { hold = holds[0].Number })).IsOk);
            Assert.Equal(125, await Of(Standing.Held));
            Assert.True((await wanjiru.Act("/cage/lift", new { hold = holds[1].Number })).IsOk);
            Assert.Equal((0, 225), (await Of(Standing.Held), await Of(Standing.ToInspect)));
            // A count from before is taken back as any other.
            var count = await db.TallyEntries.Where(e => e.BatchId == batch.Id && e.InspectionId != null).SingleAsync();
            var back = await wanjiru.Act(
                "/door/take-back",
                new
                {
                    arrival = "A-2617",
                    count = count.ActId,
                    reason = "miscounted",
                }
            );
            Assert.True(back.IsOk, back.Body.ToString());
            Assert.Equal(125, await Of(Standing.ToInspect));
            Assert.Empty((await BookCheck.Run(db, null)).Faults);

            async Task<decimal> Of(Standing standing)
            {
                await using var now = Database.Context(Db);
                return (await now.Balances.Where(b => b.BatchId == batch.Id && b.Standing == standing).ToListAsync()).Sum(b => b.Quantity);
            }
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 3, from before a task was a row and a truck a place: Yusuf has taken and scanned 96 bricks, which stand at the door
    /// by the book; Petra has taken some and not scanned them.</summary>
    [Fact]
    public async Task What_drivers_had_taken_is_theirs_still_is_scanned_once_more_and_all_that_waits_has_a_task()
    {
        await Unpack("format-3.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            var taken = await db.Tasks.Where(t => t.State == TaskState.Taken).OrderBy(t => t.Id).ToListAsync();
            Assert.Equal(
                [("Petra Lindqvale", 96m, false), ("Yusuf Tarn", 96m, false)],
                taken.Select(t => (t.PersonName!, t.Quantity, t.IsLoaded))
            );
            Assert.Equal(67, await db.Tasks.CountAsync(t => t.State == TaskState.Done));
            Assert.True(await db.Tasks.CountAsync(t => t.State == TaskState.Waiting) > 10);
            using var yusuf = await Client.SignIn(app.Urls.First(), "yusuf");
            var task = taken[1].Id;
            var bin = await db.Bins.Where(b => b.Id == taken[1].TargetBinId).Select(b => b.Address).SingleAsync();
            var scan = "00" + await db.Units.Where(u => u.Id == taken[1].UnitId).Select(u => u.Sscc).SingleAsync();
            var unscanned = await yusuf.Act("/shelf/put-down", new { task, bin });
            Assert.Equal("goods-not-scanned", unscanned.Code);
            Assert.True((await yusuf.Act("/shelf/scan-goods", new { task, scan })).IsOk);
            Assert.True((await yusuf.Act("/shelf/put-down", new { task, bin })).IsOk);
            Assert.Equal(18, await TasksPerHour(db));
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 4, from before entries kept values and rooms their settings: an administrator had set what others are told, second
    /// counts, a decimal comma, 17 tasks an hour; Yusuf has 96 bricks on his truck and has put 96 away.</summary>
    [Fact]
    public async Task What_a_site_had_set_is_the_first_version_of_each_room_and_what_was_said_in_sentences_is_read_and_undone()
    {
        await Unpack("format-4.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            var door = (await SettingsRows.Load<DoorSettings>(db, SettingsOf.Door))[1];
            Assert.Equal((1, "upgrade", true, 3), (door.Version, door.By, door.Value.SecondCount, door.Value.Printers.Count));
            Assert.Equal(17, await TasksPerHour(db));
            Assert.Equal(ReceiptOut.WhenSettled, (await SettingsRows.Load<OutSettings>(db, SettingsOf.Out))[1].Value.Receipts);
            var site = await db.Sites.SingleAsync(s => s.Id == 1);
            Assert.Equal(
                (true, "~", "^", 450),
                (site.DecimalComma, site.Scanner.Prefix, site.Scanner.Separator, site.Scanner.RepeatWithin)
            );
            // Nobody had set anything for the small store but what others are told.
            Assert.False((await SettingsRows.Load<DoorSettings>(db, SettingsOf.Door))[2].Value.SecondCount);

            using var yusuf = await Client.SignIn(app.Urls.First(), "yusuf");
            var old = await db.Ledger.OrderByDescending(e => e.Seq).FirstAsync(e => e.Kind == EntryKind.PutAway);
            Assert.Equal((null, "96 each of Coir brick 5 kg put into C-05-2."), (old.What, old.InWords()));
            var undone = await yusuf.Act("/book/undo", new { entry = old.Seq, reason = "the wrong row" });
            Assert.Equal("Taken back: 96 each of Coir brick 5 kg put into C-05-2. Why: the wrong row.", undone["sentence"].GetString());
            var entry = await db.Ledger.OrderByDescending(e => e.Seq).FirstAsync(e => e.Kind == EntryKind.Undone);
            Assert.Equal(("", old.Sentence), (entry.Sentence, Assert.IsType<Undone>(entry.What).Said));
            var task = await db.Tasks.Where(t => t.State == TaskState.Taken && t.IsLoaded).OrderBy(t => t.Id).FirstAsync();
            var bin = await db.Bins.Where(b => b.Id == task.TargetBinId).Select(b => b.Address).SingleAsync();
            var put = await yusuf.Act("/shelf/put-down", new { task = task.Id, bin });
            Assert.True(put.IsOk, put.Body.ToString());
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 5, from before rules said which goods go by which plan: fourteen signed sheets, one open, two that wait.</summary>
    [Fact]
    public async Task Sheets_signed_before_are_whole_count_for_their_vendor_and_are_superseded_as_any_other()
    {
        await Unpack("format-5.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            var signed = await db.Inspections.Where(i => i.SheetHash != null).OrderBy(i => i.Id).ToListAsync();
            Assert.Equal(14, signed.Count);
            Assert.All(signed, i => Assert.Equal((3, InspectionTrigger.Receipt, (string?)null), (i.SheetVersion, i.Trigger, i.AskedBy)));
            var line = await Severities.Of(db, signed[0], at => at.UtcDateTime);
            Assert.Equal(14, line.Outcomes.Count);

            using var sunita = await Client.SignIn(app.Urls.First(), "sunita");
            var again = await sunita.Act("/bench/supersede", new { inspection = signed[^1].Number, reason = "caliper was out" });
            Assert.True(again.IsOk, again.Body.ToString());
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 6, from before a sample had a way of its own: fourteen signed sheets, and open ones.</summary>
    [Fact]
    public async Task A_sample_drawn_before_it_had_a_way_stays_with_its_lot_and_its_sheet_goes_on()
    {
        await Unpack("format-6.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            var drawn = await db.Inspections.Where(i => i.State == InspectionState.Drawn).OrderBy(i => i.Id).FirstAsync();
            Assert.Equal((0m, 0), (drawn.Sampled, drawn.SampleWent.Count));
            using var sunita = await Client.SignIn(app.Urls.First(), "sunita");
            var sheet = await sunita.Ask($"/bench/sheet/{drawn.Number}");
            Assert.Equal(System.Text.Json.JsonValueKind.Null, sheet["sample"].ValueKind);
            Assert.Equal(
                "sample-settled",
                (
                    await sunita.Act(
                        "/bench/settle-sample",
                        new
                        {
                            inspection = drawn.Number,
                            fate = "Back",
                            quantity = "1",
                        }
                    )
                ).Code
            );
            // What is signed was signed by a version before this one, and is whole.
            foreach (var signed in await db.Inspections.Include(i => i.Findings).Where(i => i.SheetHash != null).ToListAsync())
            {
                var plan = await db.InspectionPlans.Include(p => p.Versions).SingleAsync(p => p.Id == signed.PlanId);
                Assert.True(signed.SheetVersion < 5);
                Assert.True(Sheets.IsWhole(signed, plan.Name, plan[signed.PlanVersion]));
            }
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 7, from before who waits named an hour: two open sheets whose samples were drawn, and two plans in draft.</summary>
    [Fact]
    public async Task Who_waited_before_there_was_an_hour_waits_without_one_and_a_plan_says_nothing_of_how_values_are_had()
    {
        await Unpack("format-7.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            Assert.All(await db.LineParts.Where(p => p.WaitingFor != null).ToListAsync(), p => Assert.Equal(p.WaitingFor, p.WaitingWords));
            using var sunita = await Client.SignIn(app.Urls.First(), "sunita");
            var card = (await sunita.Ask("/bench/queue"))["cards"]
                .EnumerateArray()
                .Single(c => c.GetProperty("number").GetString() == "I-0027");
            Assert.Equal("Its sheet is open. Waited for: three orders.", card.GetProperty("why").GetString());
            var sheet = await sunita.Ask("/bench/sheet/I-0027");
            Assert.Equal(8, Assert.Single(sheet["wanted"].EnumerateArray()).GetProperty("last").GetInt32());
            Assert.All(sheet["characteristics"].EnumerateArray(), c => Assert.Equal("Typed", c.GetProperty("had").GetString()));
            Assert.Equal("Accepted", await BenchHands.Look(sunita, "I-0027"));
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 8, from before rules of holds were signed: two rules, goods under both kinds, and a sheet superseded while its goods
    /// were away.</summary>
    [Fact]
    public async Task Rules_of_holds_from_before_they_were_signed_go_on_and_can_be_changed()
    {
        await Unpack("format-8.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            using var sunita = await Client.SignIn(app.Urls.First(), "sunita");
            var rules = (await sunita.Ask("/cage/rules"))["rules"].EnumerateArray().ToList();
            Assert.Equal(
                ["all of bare-root tree: 14 calendar days from the tally", "all of citrus of origin IT: 21 calendar days from the tally"],
                rules.Select(r => r.GetProperty("words").GetString())
            );
            Assert.All(rules, r => Assert.Equal(System.Text.Json.JsonValueKind.Null, r.GetProperty("by").ValueKind));
            var signed = await sunita.Act(
                "/cage/rules/sign",
                new
                {
                    says = new
                    {
                        name = "Citrus",
                        days = 10,
                        counted = "Working",
                        from = "Arrival",
                        category = "citrus",
                    },
                    inPlaceOf = rules[1].GetProperty("id").GetInt32(),
                    signer = "sunita",
                    password = "sunita-mud-06",
                }
            );
            Assert.True(signed.IsOk, signed.Body.ToString());
            Assert.Contains("Before: all of citrus of origin IT", signed["sentence"].GetString(), StringComparison.Ordinal);
            Assert.Contains("took I-0031 back", (await sunita.Ask("/bench/sheet/I-0032")).Body.ToString(), StringComparison.Ordinal);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    static async Task<double> TasksPerHour(MudRoomDb db) =>
        (await SettingsRows.Load<PlanSettings>(db, SettingsOf.Road))[1].Value.TasksPerHour;

    /// <summary>Format 9, from before holds wanted anything besides time: papers belonged to an arrival.</summary>
    [Fact]
    public async Task Holds_and_papers_from_before_there_were_conditions_go_on()
    {
        await Unpack("format-9.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        int papers;
        using (var before = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={Db};Pooling=False"))
        {
            before.Open();
            using var count = before.CreateCommand();
            count.CommandText = "SELECT COUNT(*) FROM Attachments WHERE length(Content) > 0";
            papers = Convert.ToInt32(count.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture);
        }

        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            Assert.Equal(papers, (await db.Attachments.ToListAsync()).Count(a => a.Content.Length > 0 && a.ArrivalId is not null));
            using var wanjiru = await Client.SignIn(app.Urls.First(), "wanjiru");
            var rules = (await wanjiru.Ask("/cage/rules"))["rules"].EnumerateArray().ToList();
            Assert.All(rules, r => Assert.Equal(0, r.GetProperty("wants").GetArrayLength()));
            var ready = (await wanjiru.Ask("/cage/holds"))["holds"].EnumerateArray().First(h => h.GetProperty("isReady").GetBoolean());
            Assert.True((await wanjiru.Act("/cage/lift", new { hold = ready.GetProperty("number").GetString() })).IsOk);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 10, from before there were recalls: a count's lot was found by one hold, which is still found so.</summary>
    [Fact]
    public async Task Stock_from_before_there_were_recalls_is_recalled()
    {
        await Unpack("format-10.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            Assert.All(await db.Holds.ToListAsync(), h => Assert.Null(h.RecallId));
            var row = await db.Balances.FirstAsync(b => b.Standing == Standing.Usable && b.BatchId != null && b.SiteId == 1);
            var batch = (await db.Batches.SingleAsync(b => b.Id == row.BatchId)).Number;
            using var wanjiru = await Client.SignIn(app.Urls.First(), "wanjiru");
            Assert.True(
                (
                    await wanjiru.Act(
                        "/cage/recalls/begin",
                        new
                        {
                            by = "Batch",
                            numbers = batch,
                            why = "x",
                        }
                    )
                ).IsOk
            );
            Assert.False(await db.Balances.AnyAsync(b => b.BatchId == row.BatchId && b.SiteId == 1 && b.Standing == Standing.Usable));
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 11, from before returns were bound: a return that was on its way then is bound as it is counted now.</summary>
    [Fact]
    public async Task A_return_that_was_on_its_way_before_returns_were_bound_is_bound_as_it_comes()
    {
        await Unpack("format-11.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            using var wanjiru = await Client.SignIn(app.Urls.First(), "wanjiru");
            await wanjiru.Act("/yard/step", new { arrival = "A-2618", step = "Empty" });
            var door = await wanjiru.Act("/road/at-door", new { arrival = "A-2625", door = 2 });
            Assert.True(door.IsOk, door.Body.ToString());
            var counted = await wanjiru.Act("/door/count", Client.Count("24", "A-2625", "TP-18", "each", new { }));
            Assert.True(counted.IsOk, counted.Body.ToString());
            var hold = await db.Holds.SingleAsync(h => h.OrderLineId != null);
            Assert.Contains("no reason given; nothing promised", hold.Sentence, StringComparison.Ordinal);
            Assert.True((await wanjiru.Ask("/cage/returns/RT-0042")).IsOk);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 12, from before a decision said where its goods belong: what is decided now is brought there.</summary>
    [Fact]
    public async Task What_was_counted_aside_before_decisions_had_places_is_brought_to_the_scrap_place()
    {
        await Unpack("format-12.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            using var wanjiru = await Client.SignIn(app.Urls.First(), "wanjiru");
            var hold = await db.Holds.FirstAsync(h => h.IsOpen && h.Reason == HoldReason.CountedAside);
            var decided = await wanjiru.Act(
                "/cage/decide",
                new
                {
                    hold = hold.Number,
                    decision = "Scrap",
                    quantity = hold.Quantity.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture),
                    note = "torn",
                }
            );
            Assert.True(decided.IsOk, decided.Body.ToString());
            Assert.True(await db.Tasks.AnyAsync(t => t.Standing == Standing.ToScrap && t.Quantity == hold.Quantity));
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 13, from before goods were held as they come: rules of then are signed ones, and hold as they did.</summary>
    [Fact]
    public async Task Rules_of_holds_from_before_anything_was_held_as_it_comes_stay_rules()
    {
        await Unpack("format-13.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            using var wanjiru = await Client.SignIn(app.Urls.First(), "wanjiru");
            Assert.Empty((await wanjiru.Ask("/cage/ahead"))["holds"].EnumerateArray());
            Assert.Equal(3, (await wanjiru.Ask("/cage/rules"))["rules"].GetArrayLength());
            var laid = await wanjiru.Act(
                "/cage/ahead/lay",
                new
                {
                    item = "GK-07",
                    why = "soft steel",
                    alsoHere = true,
                }
            );
            Assert.True(laid.IsOk, laid.Body.ToString());
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    /// <summary>Format 14, from before goods were kept for who waits: what was counted then is kept for nobody, what comes is.</summary>
    [Fact]
    public async Task Goods_from_before_anything_was_kept_are_kept_for_nobody()
    {
        await Unpack("format-14.db.gz");
        Assert.False(Database.IsUpToDate(Db));
        var app = await CommandLine.Start(new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true));
        try
        {
            await using var db = Database.Context(Db);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
            Assert.False(await db.Statements.AnyAsync(s => s.ReservationId != null));
            using var wanjiru = await Client.SignIn(app.Urls.First(), "wanjiru");
            Assert.Equal(System.Text.Json.JsonValueKind.Array, (await wanjiru.Ask("/shelf/queue"))["tasks"].ValueKind);
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await app.StopAsync();
            await app.DisposeAsync();
        }
    }

    [Theory]
    [InlineData("format-14.db.gz")]
    [InlineData("format-13.db.gz")]
    [InlineData("format-12.db.gz")]
    [InlineData("format-11.db.gz")]
    [InlineData("format-10.db.gz")]
    [InlineData("format-9.db.gz")]
    [InlineData("format-8.db.gz")]
    [InlineData("format-7.db.gz")]
    [InlineData("format-6.db.gz")]
    [InlineData("format-5.db.gz")]
    [InlineData("format-4.db.gz")]
    [InlineData("format-1.db.gz")]
    [InlineData("format-2.db.gz")]
    [InlineData("format-3.db.gz")]
    [InlineData(null)]
    public async Task Another_program_verifies_the_exported_ledger_and_finds_an_entry_that_was_changed(string? golden)
    {
        if (golden is null)
            await DemoTemplate.CopyTo(folder);
        else
            await Unpack(golden);
        await DataFolder.BringUpToDate(Db, TimeProvider.System);
        var export = Path.Combine(folder, "ledger.jsonl");
        Assert.Equal(0, await CommandLine.Run(["ledger", "--data", folder, export]));
        Assert.Equal(3, await CommandLine.Run(["ledger", "--data", folder, export]));
        await using var db = Database.Context(Db);
        var head = (await BookCheck.Run(db, null)).Head;
        var (well, said) = await Verify(export, head.Hash);
        Assert.True(well, said);
        Assert.Contains($"{head.Seq} entries hold together", said, StringComparison.Ordinal);

        var lines = await File.ReadAllLinesAsync(export);
        var counted = Array.FindIndex(lines, l => l.Contains("\"quantity\":\"25\"", StringComparison.Ordinal));
        lines[counted] = lines[counted].Replace("\"quantity\":\"25\"", "\"quantity\":\"24\"", StringComparison.Ordinal);
        await File.WriteAllLinesAsync(export, lines);
        (well, said) = await Verify(export, head.Hash);
        Assert.False(well);
        Assert.Contains($"Entry {counted + 1} was changed", said, StringComparison.Ordinal);
    }

    static async Task<(bool Well, string Said)> Verify(string file, string head)
    {
        using var node = Process.Start(
            new ProcessStartInfo("node", [Path.Combine(Repository.Root(), "tests", "ledger", "verify.mjs"), file, head])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var said = await node.StandardOutput.ReadToEndAsync() + await node.StandardError.ReadToEndAsync();
        await node.WaitForExitAsync();
        return (node.ExitCode == 0, said);
    }
}
