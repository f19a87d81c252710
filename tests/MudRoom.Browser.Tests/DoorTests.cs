using Microsoft.AspNetCore.Builder;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Data;
using MudRoom.Server;
using MudRoom.Server.Hosting;
using MudRoom.Tests;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>A demo of Door's own.</summary>
public sealed class DoorDemo : Demo;

/// <summary>Door through the real screens: questions from one device to another, badges, and scans as fast as a scanner gives
/// them.</summary>
[Collection("one after another")]
public sealed class DoorTests(DoorDemo demo, ITestOutputHelper output) : IClassFixture<DoorDemo>
{
    static readonly IReadOnlyList<Core.Site.Item> items = DemoTemplate.Of.Items;

    static string Gtin(string item, string pack) => items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;

    [Fact]
    public void The_demo_labels_scan_when_they_are_pressed()
    {
        using var receiver = new Browser(demo.Url).SignIn("ikenna");
        receiver.Go("/door/A-2618");
        receiver.Wait(".lines li");
        receiver.PressAt("#labels-tab");
        receiver.Wait("button[data-scan]");
        receiver.PressAt($"button[data-scan='{Gtin("FK-DG", "bundle")}']");
        receiver.WaitSaid("Digging fork, bundle of 6 each");
    }

    [Fact]
    public void An_order_scanned_at_a_door_with_no_arrival_planned_opens_one_on_the_spot()
    {
        using var receiver = new Browser(demo.Url).SignIn("leila");
        receiver.Go("/door");
        receiver.Wait(".queue-card");
        receiver.Scan("PO-4495");
        receiver.WaitText("No arrival is planned for it");
        receiver.Press("Door 4");
        receiver.WaitText("Bring it to door 1");
        receiver.Press("Door 1");
        receiver.WaitText("Predatory mite sachets");
        Assert.Contains("/door/A-", receiver.Driver.Url);
    }

    [Fact]
    public async Task An_unknown_code_is_answered_from_a_desk_while_the_receiver_counts_on_and_the_count_completes_itself()
    {
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("maren");
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        receiver.Go("/door/A-2618");
        desk.Go("/door/A-2618");
        receiver.Wait(".lines li");
        desk.Wait(".lines li");
        receiver.Scan("FREMD-20441");
        receiver.WaitText("Nothing here is called");
        receiver.Fill("input[name=unknown-packs]", "3");
        receiver.Press("Put it aside as a question");
        receiver.WaitText("Put aside as a question");
        receiver.Scan(Gtin("HS-15", "each"));
        receiver.WaitSaid("Hoe shaft");
        Assert.True(receiver.Overflow() <= 0);

        desk.WaitText("What is FREMD-20441?");
        desk.Until(d => d.FindElements(By.CssSelector("select[name=question-item] option[value=HH-16]")).FirstOrDefault(), "the items")
            .Click();
        desk.Until(
                d => d.FindElements(By.CssSelector("select[name=question-pack] option")).FirstOrDefault(o => o.Text == "each"),
                "the packs"
            )
            .Click();
        desk.Press("Count it as this");
        // "answered" may stand there of another question: the form goes when this one is.
        desk.WaitGone("select[name=question-item]");
        await using var db = Database.Context(demo.File);
        var counted = await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync();
        Assert.Equal((3m, "Maren Oduya"), (counted.Quantity, counted.PersonName));
        receiver.Press("Leave it");
        receiver.Scan("FREMD-20441");
        receiver.WaitSaid("Draw hoe head");
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    [Fact]
    public async Task What_is_over_is_asked_and_refused_with_a_word_to_the_receiver()
    {
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("leila");
        receiver.Go("/door/A-2618");
        receiver.Wait(".lines li");
        receiver.Scan(Gtin("SP-DG", "each"));
        receiver.WaitSaid("Digging spade");
        receiver.Fill("input[name=packs]", "800");
        receiver.PressAt("#take");
        receiver.WaitText("would be over");
        receiver.Press("Ask a supervisor, count on");
        await using var db = Database.Context(demo.File);
        var question = receiver.Until(
            _ => db.TallyQuestions.AsNoTracking().FirstOrDefault(q => q.Kind == QuestionKind.Over && q.IsOpen),
            "the question"
        );
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        desk.Go("/door/A-2618");
        desk.Fill($"[data-question='{question.Id}'] input[name=question-note]", "leave them aboard");
        desk.PressAt($"[data-question='{question.Id}'] .button:not(.go)");
        receiver.Driver.FindElement(By.XPath("//button[@role='tab'][last()]")).Click();
        receiver.WaitText("leave them aboard");
        var spade = items.First(i => i.Code == "SP-DG").Id;
        Assert.False(await db.TallyEntries.AnyAsync(e => e.ItemId == spade && e.Quantity > 500));
    }

    [Fact]
    public void The_delivery_note_is_scanned_while_counting_and_a_code_of_two_vendors_asks_which_is_meant()
    {
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("leila");
        receiver.Go("/door/A-2617");
        receiver.Wait(".lines li");
        receiver.Scan("DN-77-1");
        receiver.Press("It is the delivery note of Nilgama Coir");
        receiver.WaitSaid("Delivery note DN-77-1 of Nilgama Coir");
        receiver.Scan("DN-77-1");
        receiver.WaitSaid("it is noted for A-2617");
        receiver.Scan(MudRoom.Demo.ItemList.SharedCode);
        receiver.WaitSaid("stands for 2 items");
        Assert.True(receiver.Overflow() <= 0);
        receiver.Press("Coir pot 8 cm");
        receiver.WaitSaid("Coir pot 8 cm, each");
        receiver.Press("Leave it");

        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        desk.Go("/door/A-2617");
        desk.Press("Close the tally");
        Assert.Equal("DN-77-1", desk.Wait(".closing input[name^='note-']").GetDomProperty("value"));
    }

    [Fact]
    public async Task A_line_is_taken_back_with_one_reason_and_the_receiver_sees_it_at_once()
    {
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("leila");
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        receiver.Go("/door/A-2617");
        desk.Go("/door/A-2617");
        receiver.WaitText("332 / 320");
        desk.Press("Coir chips 70 L");
        desk.Press("Take back all 2 counts of this line");
        desk.Fill("input[name=take-back-reason]", "the wrong stack");
        desk.Press("Take back all 2 counts of this line");
        desk.WaitSaid("Taken back: 332 each of Coir chips 70 L.");
        receiver.WaitText("0 / 320");
        await using var db = Database.Context(demo.File);
        var taken = await db.Ledger.Where(e => e.Kind == Core.Book.EntryKind.TakenBack).ToListAsync();
        Assert.Equal(2, taken.Count(e => e.What is Core.Door.CountTakenBack { Reason: "the wrong stack" }));
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    [Fact]
    public void A_badge_and_a_pin_change_the_person_on_a_shared_device()
    {
        using var device = new Browser(demo.Url, 390, 844).SignIn("maren");
        device.Go("/door");
        device.WaitText("Maren Oduya");
        device.Scan("BADGE-003");
        device.Wait("input[name=pin]");
        device.Fill("input[name=pin]", "9999");
        device.Press("Work on");
        device.WaitText("do not belong together");
        device.Fill("input[name=pin]", "1003");
        device.Press("Work on");
        device.WaitText("Leila Fennimore");
    }

    [Fact]
    public async Task A_scan_while_the_quantity_is_being_typed_goes_to_the_line_and_the_quantity_stays_as_typed()
    {
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("leila");
        receiver.Go("/door/A-2618");
        receiver.Wait(".lines li");
        receiver.Scan(Gtin("HH-16", "each"));
        receiver.WaitSaid("Draw hoe head");
        receiver.Fill("input[name=packs]", "2");
        // Longer than a scanner waits between two characters.
        await Task.Delay(200);
        receiver.ScanAtOnce(Gtin("SP-DG", "each"));
        receiver.WaitSaid("Digging spade");
        await using var db = Database.Context(demo.File);
        var counted = await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync();
        Assert.Equal(
            ("Leila Fennimore", 2m, "HH-16"),
            (counted.PersonName, counted.Quantity, items.First(i => i.Id == counted.ItemId).Code)
        );
        receiver.Press("Leave it");
    }

    [Fact]
    public async Task Twenty_scans_one_after_another_as_fast_as_a_scanner_gives_them_are_all_counted_and_none_is_mixed_up()
    {
        using var receiver = new Browser(demo.Url).SignIn("ikenna");
        receiver.Go("/door/A-2618");
        receiver.Wait(".lines li");
        await using var db = Database.Context(demo.File);
        async Task<decimal> Counted(string code)
        {
            var item = items.First(i => i.Code == code).Id;
            return (
                await db
                    .TallyEntries.AsNoTracking()
                    .Where(e => e.TakenBackAt == null && e.PersonName.StartsWith("Ikenna") && e.ItemId == item)
                    .ToListAsync()
            ).Sum(e => e.Quantity);
        }

        var before = (await Counted("HH-16"), await Counted("HS-15"));
        receiver.Driver.ExecuteScript(
            """
            window.spans = [];
            const said = document.getElementById('said');
            let since = 0;
            addEventListener('keydown', (e) => { if (e.key === 'Enter') since = performance.now(); }, true);
            const watch = new MutationObserver(() => { if (since) { window.spans.push(performance.now() - since); since = 0; } });
            watch.observe(said, { childList: true, subtree: true, characterData: true });
            """
        );
        for (var i = 0; i < 20; i++)
            receiver.Scan(Gtin(i % 2 == 0 ? "HH-16" : "HS-15", "each"));
        receiver.Until(
            d => !d.FindElement(By.CssSelector(".sill .next")).Text.Contains("one moment", StringComparison.Ordinal) ? d : null,
            "the line to be empty",
            seconds: 60
        );
        receiver.PressAt("#take");
        receiver.Until(
            _ => Counted("HH-16").Result == before.Item1 + 10 && Counted("HS-15").Result == before.Item2 + 10 ? new object() : null,
            "ten of each",
            () => $"{Counted("HH-16").Result} and {Counted("HS-15").Result}"
        );
        var spans = ((IReadOnlyCollection<object>)receiver.Driver.ExecuteScript("return window.spans")!)
            .Select(Convert.ToDouble)
            .Order()
            .ToList();
        output.WriteLine($"From scan to word, {spans.Count} scans: median {spans[spans.Count / 2]:0} ms, slowest {spans[^1]:0} ms.");
        Assert.NotEmpty(spans);
    }
}

/// <summary>A dead spot: the server is really gone, the browser is closed, and everything comes in once when both are back.</summary>
[Collection("one after another")]
public sealed class DeadSpotTests
{
    [Fact]
    public async Task Fifty_scans_without_a_network_outlive_the_browser_and_are_counted_once_each()
    {
        var folder = Directory.CreateTempSubdirectory("mudroom-dead-spot-").FullName;
        var profile = Directory.CreateTempSubdirectory("mudroom-profile-").FullName;
        var web = Path.Combine(Repository.Root(), "web", "build");
        var items = DemoTemplate.Of.Items;
        var brick = items.First(i => i.Code == "CB-05").PackLevels.First(p => p.Name == "each").Gtin!;
        await DemoTemplate.CopyTo(folder);
        var app = await Start(0);
        var port = new Uri(app.Urls.First()).Port;
        var url = $"http://127.0.0.1:{port}";
        var file = Path.Combine(folder, "mudroom.db");
        try
        {
            using (var device = new Browser(url, 390, 844, profile).SignIn("maren"))
            {
                device.Go("/door/A-2617");
                device.Wait(".lines li");
                device.Until(
                    d => (bool)((IJavaScriptExecutor)d).ExecuteScript("return !!navigator.serviceWorker.controller")! ? d : null,
                    "the page to be kept on the device"
                );
                device.Go("/door/A-2617");
                device.Wait(".lines li");
                Thread.Sleep(800);
                await Stop();
                for (var i = 0; i < 50; i++)
                    device.ScanNext($"(01){brick}(10)NG-DEAD");
                device.Until(
                    d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "50" ? d : null,
                    "fifty waiting",
                    () => device.Driver.FindElements(By.Id("waiting")).FirstOrDefault()?.Text ?? "none"
                );
                device.WaitSaid("Coir brick 5 kg, each");
            }

            using (var again = new Browser(url, 390, 844, profile))
            {
                again.Go("/door/A-2617");
                again.Until(
                    d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "50" ? d : null,
                    "fifty after the browser was closed"
                );
                again.Scan("NOTHING-KNOWN");
                again.Until(d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "51" ? d : null, "the fifty-first");
                app = await Start(port);
                again.WaitText("1 came back");
                again.WaitText("NOTHING-KNOWN is no item");
                again.Fill("input[name=not-counted]", "no label of ours");
                again.Press("Do not count it");
                again.WaitGone("#waiting");
            }

            await using var db = Database.Context(file);
            var counts = await db
                .TallyEntries.Where(e => db.Batches.Any(b => b.Id == e.BatchId && b.SourceBatch!.Number == "NG-DEAD"))
                .ToListAsync();
            Assert.Equal((50, 50m, 50), (counts.Count, counts.Sum(c => c.Quantity), counts.Select(c => c.ActId).Distinct().Count()));
            Every.One(counts, c => Assert.Equal("Maren Oduya", c.PersonName));
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await Stop();
            Directory.Delete(folder, recursive: true);
            Directory.Delete(profile, recursive: true);
        }

        Task<WebApplication> Start(int at) =>
            CommandLine.Start(new ServerSettings(folder, Port: at, IsDemo: true, StoppedClock: true, Web: web));

        async Task Stop()
        {
            await app.StopAsync();
            await app.DisposeAsync();
            SqliteConnection.ClearAllPools();
        }
    }
}

/// <summary>What a device does by itself: reads by its camera, keeps a driver's task through a dead spot, changes the person there, and
/// counts blind.</summary>
[Collection("one after another")]
public sealed class DeviceTests(DoorDemo demo) : IClassFixture<DoorDemo>
{
    static readonly IReadOnlyList<Core.Site.Item> items = DemoTemplate.Of.Items;

    static void Network(Browser browser, bool offline)
    {
        browser.Driver.ExecuteCdpCommand("Network.enable", []);
        browser.Driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new Dictionary<string, object?>
            {
                ["offline"] = offline,
                ["latency"] = 0,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );
    }

    /// <summary>What the browser itself holds against installing the page (Web Application Manifest, W3C): nothing.</summary>
    [Fact]
    public void The_application_can_be_installed_on_the_device()
    {
        using var device = new Browser(demo.Url, 390, 844).SignIn("maren");
        device.Go("/door");
        device.Until(
            d =>
                ((IJavaScriptExecutor)d).ExecuteAsyncScript(
                    "const done = arguments[0]; navigator.serviceWorker.ready.then((r) => done(r.active.state))"
                ),
            "the service worker"
        );
        var held = (Dictionary<string, object>)device.Driver.ExecuteCdpCommand("Page.getInstallabilityErrors", [])!;
        Assert.Empty((IEnumerable<object>)held["installabilityErrors"]);
        var manifest = (Dictionary<string, object>)device.Driver.ExecuteCdpCommand("Page.getAppManifest", [])!;
        Assert.Empty((IEnumerable<object>)manifest["errors"]);
        Assert.Contains("\"start_url\": \"/door\"", (string)manifest["data"], StringComparison.Ordinal);
    }

    /// <summary>The browser's camera is fed with a film of one of our labels: 20 frames of motion JPEG.</summary>
    [Fact]
    public void The_camera_reads_a_label_by_what_ships_with_the_application()
    {
        var gtin = items.First(i => i.Code == "HH-16").PackLevels.First(p => p.Name == "box").Gtin!;
        var label = Server.Labels.LogisticLabel.Draw(
            new Core.Door.LabelContent(
                "Low Meadow",
                null,
                [new("01", gtin)],
                [new Core.Door.LabelLine("Draw hoe head 16 cm", "6 each", null, null)]
            )
        );
        using var picture = SkiaSharp.SKBitmap.Decode(label);
        using var film = new SkiaSharp.SKBitmap(1280, 960);
        using (var canvas = new SkiaSharp.SKCanvas(film))
        {
            canvas.Clear(SkiaSharp.SKColors.White);
            using var drawn = SkiaSharp.SKImage.FromBitmap(picture);
            canvas.DrawImage(
                drawn,
                new SkiaSharp.SKRect(300, 0, 300 + 960f * picture.Width / picture.Height, 960),
                new SkiaSharp.SKSamplingOptions(SkiaSharp.SKCubicResampler.Mitchell)
            );
        }

        var frame = SkiaSharp.SKImage.FromBitmap(film).Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 95).ToArray();
        var file = Path.Combine(Path.GetTempPath(), $"film-{Guid.NewGuid():N}.mjpeg");
        File.WriteAllBytes(file, [.. Enumerable.Range(0, 20).SelectMany(_ => frame)]);
        try
        {
            using var device = new Browser(
                demo.Url,
                1280,
                800,
                null,
                "--use-fake-ui-for-media-stream",
                "--use-fake-device-for-media-stream",
                $"--use-file-for-fake-video-capture={file}"
            ).SignIn("maren");
            device.Go("/door/A-2618");
            device.Wait(".lines li");
            device.PressAt("#camera");
            // The reader is unpacked first, and each picture is looked at thoroughly: on a busy machine that takes its time.
            device.WaitSaid("Draw hoe head 16 cm, box of 6", 90);
            device.Press("Put the camera away");
            device.WaitGone("video");
        }
        finally
        {
            File.Delete(file);
        }
    }

    /// <summary>A label without a barcode, photographed a little askew; its text in a typeface that ships with the labels.</summary>
    internal static string PhotographOfPrint(params string[] lines)
    {
        using var picture = new SkiaSharp.SKBitmap(1600, 900);
        using var canvas = new SkiaSharp.SKCanvas(picture);
        canvas.Clear(new SkiaSharp.SKColor(0xd8, 0xd4, 0xca));
        canvas.RotateDegrees(2.5f, 800, 450);
        using var font = new SkiaSharp.SKFont(Server.Labels.Faces.Codes, 78);
        using var ink = new SkiaSharp.SKPaint { Color = new SkiaSharp.SKColor(0x22, 0x20, 0x1c), IsAntialias = true };
        for (var i = 0; i < lines.Length; i++)
            canvas.DrawText(lines[i], 130, 230 + 150 * i, SkiaSharp.SKTextAlign.Left, font, ink);
        var file = Path.Combine(Path.GetTempPath(), $"print-{Guid.NewGuid():N}.jpg");
        using var encoded = SkiaSharp.SKImage.FromBitmap(picture).Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 85);
        File.WriteAllBytes(file, encoded.ToArray());
        return file;
    }

    [Fact]
    public void Print_without_a_barcode_is_offered_beside_its_picture_and_taken_by_a_press_only()
    {
        var print = PhotographOfPrint("FENUGREEK SEED", "LOT: MK-F-2291", "MFG 31.10.2025", "BEST BEFORE 30.10.2027");
        try
        {
            using var device = new Browser(demo.Url, 390, 844).SignIn("wanjiru");
            device.Go("/road");
            device.Act(
                "/road/orders/new",
                """{"number":"PO-PRINT","kind":"Purchase","vendor":"MALA","draft":false,"lines":[{"item":"SD-FEN","quantity":"500","due":"2026-03-10"}]}"""
            );
            var arrival = device.Act(
                "/door/open-on-the-spot",
                """{"orders":["PO-PRINT"],"vehicle":"truck","door":1,"atOnce":true,"notIso6346":false,"unplanned":true,"deliveryNote":"N-2"}""",
                "number"
            );
            device.Go("/door/" + arrival);
            device.Wait(".lines li");
            device.Scan(items.First(i => i.Code == "SD-FEN").PackLevels.First(p => p.Name == "sack").Gtin!);
            device.Wait("#count");
            string Value(string field) => device.Driver.FindElement(By.Name(field)).GetAttribute("value")!;
            device.Driver.FindElement(By.Name("printed")).SendKeys(print);
            device.Until(d => d.FindElements(By.CssSelector(".printed li")).Count == 3 ? d : null, "three offers", seconds: 120);
            Assert.Equal(("", "", ""), (Value("sourceBatch"), Value("production"), Value("bestBefore")));
            Assert.True(device.Overflow() <= 0);
            foreach (var _ in Enumerable.Range(0, 3))
                device.PressAt(".printed li button");
            Assert.Equal(("MK-F-2291", "2025-10-31", "2027-10-30"), (Value("sourceBatch"), Value("production"), Value("bestBefore")));
        }
        finally
        {
            File.Delete(print);
        }
    }

    /// <summary>What Petra has on the truck is on it for Yusuf too: he takes it over, and her scan of the bin moves nothing.</summary>
    [Fact]
    public async Task What_a_colleague_has_on_the_truck_is_taken_over_with_one_press()
    {
        using var petra = new Browser(demo.Url, 390, 844).SignIn("petra");
        petra.Go("/shelf");
        petra.WaitText("Scan the goods.");
        await using var db = Database.Context(demo.File);
        var task = await db.Tasks.AsNoTracking().SingleAsync(t => t.State == TaskState.Taken && t.PersonName!.StartsWith("Petra"));
        var unit = await db.Units.SingleAsync(u => u.Id == task.UnitId);
        var bin = (await db.Bins.SingleAsync(b => b.Id == task.TargetBinId)).Address;
        petra.Scan("00" + unit.Sscc);
        petra.WaitSaid("the right goods");
        petra.WaitText("The right goods, on your truck.");

        using var yusuf = new Browser(demo.Url).SignIn("yusuf");
        yusuf.Go("/shelf");
        yusuf.Press("TRUCK-PETRA");
        yusuf.WaitText("It is on TRUCK-PETRA.");
        yusuf.PressAt("#take-over");
        yusuf.WaitText("taken over from Petra");
        yusuf.WaitText("The right goods, on your truck.");
        // Her screen has let go of it: the bin is a bin, and nothing moves.
        petra.Until(d => d.PageSource.Contains("on your truck", StringComparison.Ordinal) ? null : d, "the task to be gone");
        petra.Scan(bin);
        petra.WaitSaid($"Bin {bin}");
        Assert.Equal(TaskState.Taken, (await db.Tasks.AsNoTracking().SingleAsync(t => t.Id == task.Id)).State);

        yusuf.Scan(bin);
        yusuf.WaitSaid($"in {bin}.");
        Assert.Equal(TaskState.Done, (await db.Tasks.AsNoTracking().SingleAsync(t => t.Id == task.Id)).State);
        Assert.Equal(bin, (await db.Bins.SingleAsync(b => b.Id == db.Balances.Single(x => x.UnitId == unit.Id).BinId)).Address);
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    [Fact]
    public async Task A_task_that_was_taken_is_scanned_to_its_end_without_a_network()
    {
        using var driver = new Browser(demo.Url, 390, 844).SignIn("callum");
        driver.Go("/shelf");
        driver.PressAt("#take-task");
        driver.WaitText("Scan the goods.");
        Thread.Sleep(4000);
        await using var db = Database.Context(demo.File);
        var job = await db.Tasks.OrderByDescending(j => j.Id).FirstAsync(j => j.PersonName!.StartsWith("Callum"));
        var bin = (await db.Bins.SingleAsync(b => b.Id == job.TargetBinId)).Address;
        var goods =
            job.UnitId is { } unit ? "00" + (await db.Units.SingleAsync(u => u.Id == unit)).Sscc
            : job.BatchId is { } batch ? (await db.Batches.SingleAsync(b => b.Id == batch)).Number
            : (await db.Items.SingleAsync(i => i.Id == job.ItemId)).Code;
        Network(driver, offline: true);
        driver.Scan("SOMETHING-ELSE");
        driver.WaitSaid("not a label of these goods");
        driver.Scan(goods);
        driver.WaitSaid("The right goods, as far as this device knows");
        driver.Scan(bin);
        driver.WaitSaid($"in {bin}. Kept.");
        driver.Until(d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "2" ? d : null, "two steps waiting");
        Assert.Equal(TaskState.Taken, (await db.Tasks.AsNoTracking().SingleAsync(j => j.Id == job.Id)).State);
        Network(driver, offline: false);
        driver.WaitGone("#waiting");
        Assert.Equal(TaskState.Done, (await db.Tasks.AsNoTracking().SingleAsync(j => j.Id == job.Id)).State);
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    [Fact]
    public async Task Without_a_network_a_pallet_gets_its_label_from_the_device_and_who_signed_in_today_may_work_on()
    {
        using var device = new Browser(demo.Url, 390, 844).SignIn("maren");
        void Badge(string badge, string pin)
        {
            device.Scan(badge);
            device.Fill("input[name=pin]", pin);
            device.Press("Work on");
        }

        device.Go("/door/A-2617");
        device.Wait(".lines li");
        Badge("BADGE-003", "1003");
        device.WaitSaid("Leila Fennimore is here");
        Badge("BADGE-004", "1004");
        device.WaitSaid("Maren Oduya is here");
        Thread.Sleep(4000);
        Network(device, offline: true);
        device.Scan($"(01){items.First(i => i.Code == "CB-05").PackLevels.First(p => p.Name == "pallet").Gtin}(10)NC-OFF");
        device.WaitSaid("its label is in the bar above");
        Badge("BADGE-008", "1008");
        device.WaitText("who signed in on this device by badge today");
        device.Press("Leave it");
        Badge("BADGE-003", "1003");
        device.WaitSaid("Leila Fennimore is here");
        device.Scan($"(01){items.First(i => i.Code == "CB-05").PackLevels.First(p => p.Name == "carton").Gtin}(10)NC-OFF");
        device.WaitSaid("2 waiting");
        // What its label does not say is typed to the scan that waits.
        device.Fill("input[name=kept-packs]", "3" + Keys.Tab);
        device.WaitText("Kept with the scan");
        Assert.True(device.Overflow() <= 0);
        Network(device, offline: false);
        // What she counts is not booked to who signed in before: she scans her badge once more.
        device.WaitText("scan your badge again");
        Badge("BADGE-003", "1003");
        device.Until(d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "1" ? d : null, "only the other's count to wait");
        Badge("BADGE-004", "1004");
        device.WaitGone("#waiting");
        await using var db = Database.Context(demo.File);
        var counts = await db
            .TallyEntries.Where(e => db.Batches.Any(b => b.Id == e.BatchId && b.SourceBatch!.Number == "NC-OFF"))
            .OrderBy(e => e.Quantity)
            .ToListAsync();
        Assert.Equal([(12m, "Leila Fennimore"), (96m, "Maren Oduya")], counts.Select(c => (c.Quantity, c.PersonName)));
        // Other devices have blocks of their own: the pallet's number is out of one of them, and none was given by the server.
        var pallet = counts.Single(c => c.Quantity == 96m).UnitId;
        var sscc = (await db.Units.SingleAsync(u => u.Id == pallet)).Sscc;
        var serial = NumberBlock.SerialOf(sscc, 3, "9521234");
        Assert.NotNull(serial);
        Assert.Contains(await db.NumberBlocks.Where(b => b.Kind == BlockKind.Unit).ToListAsync(), b => b.Has(serial.Value));
    }

    [Fact]
    public void Who_counts_blind_sees_what_was_counted_and_no_bars()
    {
        using var admin = new Browser(demo.Url).SignIn("anselm");
        admin.Go("/site/door");
        admin.Wait("input[name=blind]").Click();
        admin.Press("Keep the settings");
        admin.WaitText("Kept. Every door");
        try
        {
            using var receiver = new Browser(demo.Url, 390, 844).SignIn("ikenna");
            receiver.Go("/door/A-2618");
            receiver.WaitText("counted blind");
            receiver.Wait(".unseen");
            receiver.Scan("SP-DG");
            receiver.WaitSaid("Digging spade");
            receiver.Fill("input[name=packs]", "500");
            receiver.PressAt("#take");
            receiver.WaitText("500 each of Digging spade");
            Assert.Empty(receiver.Driver.FindElements(By.CssSelector(".work .body, .work svg.load")));
            Assert.DoesNotContain(" / ", receiver.Driver.FindElement(By.Id("work")).Text, StringComparison.Ordinal);
            receiver.Go("/book");
            receiver.Go("/road");
            receiver.WaitText("counts blind");
        }
        finally
        {
            admin.Wait("input[name=blind]").Click();
            admin.Press("Keep the settings");
            admin.Until(d => !d.FindElement(By.CssSelector("input[name=blind]")).Selected ? d : null, "seen again");
            Thread.Sleep(800);
        }
    }
}
