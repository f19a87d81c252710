using Microsoft.EntityFrameworkCore;
using MudRoom.Data;
using MudRoom.Tests;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>A demo of the bad network's own.</summary>
public sealed class NetworkDemo : Demo;

/// <summary>A scan is never lost and never counted twice, whatever the network does and whenever the page is killed.</summary>
[Collection("each on a demo of its own")]
public sealed class NetworkTests(NetworkDemo demo) : IClassFixture<NetworkDemo>
{
    static readonly IReadOnlyList<Core.Site.Item> items = DemoTemplate.Of.Items;

    static string Gtin(string item, string pack) => items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;

    /// <summary>Opened by the first of the tests, large enough for all of them.</summary>
    static bool opened;
    static string arrival = "";

    static readonly (string Code, string Label)[] labels = [("HS-15", Gtin("HS-15", "each")), ("HH-16", Gtin("HH-16", "each"))];

    [Theory]
    [InlineData(Network.Hangs)]
    [InlineData(Network.ErrorAfter)]
    [InlineData(Network.CutAnswer)]
    [InlineData(Network.Portal)]
    public async Task Fifty_scans_through_a_bad_network_with_the_page_killed_in_between_are_in_the_book_once_each(Network bad)
    {
        var profile = Directory.CreateTempSubdirectory("mudroom-device-").FullName;
        await using var network = await BadNetwork.Before(demo.Url);
        var before = await Counted();
        var scans = 0;
        // Two labels in turn: each is another count, and none is the trembling of a hand.
        void Scan(Browser device, int howMany)
        {
            for (var i = 0; i < howMany; i++)
                device.Scan(labels[scans++ % 2].Label);
        }

        using (var device = new Browser(network.Url, 390, 844, profile))
        {
            device.SignIn("wanjiru");
            if (!opened)
            {
                device.Act(
                    "/road/orders/new",
                    """{"number":"PO-NET","kind":"Purchase","vendor":"BRAC","draft":false,"lines":[{"item":"HS-15","quantity":"500","due":"2026-03-10"},{"item":"HH-16","quantity":"500","due":"2026-03-10"}]}"""
                );
                arrival = device.Act(
                    "/door/open-on-the-spot",
                    """{"orders":["PO-NET"],"vehicle":"truck","door":4,"atOnce":true,"notIso6346":false,"unplanned":true,"deliveryNote":"N-1"}""",
                    "number"
                );
                opened = true;
            }

            device.Driver.ExecuteAsyncScript("const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(null))");
            device.Go("/door/" + arrival);
            device.Wait(".lines li");
            device.Until(
                d =>
                    (bool)
                        ((IJavaScriptExecutor)d).ExecuteAsyncScript(
                            "const done = arguments[0]; const open = indexedDB.open('mud-room'); open.onsuccess = () => { const all "
                                + "= open.result.transaction('kept').objectStore('kept').count(); all.onsuccess = () => { "
                                + "open.result.close(); done(all.result > 0); }; }"
                        )!
                        ? new object()
                        : null,
                "the arrival to be kept on the device"
            );
            Scan(device, 10);
            network.Is = bad;
            Scan(device, 15);
            // Longer than a hand needs, shorter than the time limit of a request: what was scanned is on the disk by now, and nowhere else.
            Thread.Sleep(400);
        }

        using (var device = new Browser(network.Url, 390, 844, profile))
        {
            device.Go("/door/" + arrival);
            device.WaitText("no network");
            Scan(device, 15);
            device.WaitText("no network");
            network.Is = Network.Good;
            AllIsSent();
            Scan(device, 10);
            device.Until(
                d =>
                    d.FindElement(By.CssSelector(".sill .next")).Text.Contains("one moment", StringComparison.Ordinal)
                        ? null
                        : new object(),
                "the last scan to be read",
                // A machine that answers as slowly as a dead spot does not lose one either: each of them is waited for, then kept.
                seconds: 60
            );
            device.WaitSaid("Draw hoe head");
            device.PressAt("#take");
            device.Until(d => d.FindElements(By.Id("take")).Count == 0 ? new object() : null, "the last of them to be taken", seconds: 30);
            AllIsSent();

            void AllIsSent() =>
                device.Until(
                    d => d.FindElements(By.CssSelector("section.bar #waiting")).Count == 0 ? new object() : null,
                    "all that waits to be sent",
                    seconds: 60
                );
        }

        Assert.Equal(50, scans);
        var after = await Counted();
        Assert.Equal([25m, 25m], labels.Select(l => after[l.Code] - before[l.Code]));
        await using var db = Database.Context(demo.File);
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
        Directory.Delete(profile, recursive: true);
    }

    /// <summary>A sheet on a bad network: each value is kept on the device, the cursor goes on, and all of it is on the sheet once when the
    /// network is back.</summary>
    [Theory]
    [InlineData(Network.Hangs)]
    [InlineData(Network.ErrorAfter)]
    [InlineData(Network.CutAnswer)]
    public async Task What_is_found_on_a_bad_network_is_kept_and_on_the_sheet_once(Network bad)
    {
        await using var network = await BadNetwork.Before(demo.Url);
        using var device = new Browser(network.Url).SignIn("sunita");
        await using var db = Database.Context(demo.File);
        if ((await db.Inspections.AsNoTracking().SingleAsync(i => i.Number == "I-0026")).Sample is null)
            device.Act("/bench/draw", """{"inspection":"I-0026"}""", "sampleSize");
        var (before, told) = (Found(), Told());
        device.Go("/bench/I-0026");
        device.Wait("tr.hand [data-open]");
        device.Driver.ExecuteScript("document.querySelector('tr.hand [data-open]').focus()");
        network.Is = bad;
        string[] typed = ["0.08", "56", "212", "", ""];
        for (var i = 0; i < typed.Length; i++)
        {
            device.Until(
                d =>
                    d.FindElements(By.CssSelector("tr.hand [data-open]")) is { Count: > 0 } open
                    && d.SwitchTo().ActiveElement().Equals(open[0])
                    && Kept(d) == i
                        ? "there"
                        : null,
                $"the cursor in value {i + 1}"
            );
            // As a person types: keys as fast as a scanner's are a scan.
            foreach (var key in typed[i])
            {
                device.Driver.SwitchTo().ActiveElement().SendKeys(key.ToString());
                Thread.Sleep(60);
            }

            device.Driver.SwitchTo().ActiveElement().SendKeys(Keys.Enter);
        }

        device.Until(d => Kept(d) == typed.Length ? "all" : null, "all five to be kept");
        device.WaitText("5 findings");
        network.Is = Network.Good;
        device.Until(d => Kept(d) == 0 && Found() == before + typed.Length ? "all" : null, "what was kept to be on the sheet", seconds: 60);
        Assert.Equal(told + typed.Length, Told());
        Assert.Empty((await BookCheck.Run(db, null)).Faults);

        static int Kept(IWebDriver d) => d.FindElements(By.XPath("//td[contains(., 'kept here, not sent yet')]")).Count;

        int Found()
        {
            using var now = Database.Context(demo.File);
            return now.Inspections.Where(i => i.Number == "I-0026").SelectMany(i => i.Findings).Count();
        }

        int Told()
        {
            using var now = Database.Context(demo.File);
            return now.Ledger.Count(e => e.Kind == Core.Book.EntryKind.Found && e.Subject == "I-0026");
        }
    }

    /// <summary>What a device counted before the recall, and could not send, is held as it comes; until then the device is named.</summary>
    [Fact]
    public async Task What_waits_on_a_device_is_recalled_as_it_comes()
    {
        await using var network = await BadNetwork.Before(demo.Url);
        using var device = new Browser(network.Url, 390, 844).SignIn("wanjiru");
        device.Driver.ExecuteAsyncScript("const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(null))");
        device.Go("/door/A-2617");
        device.Wait(".lines li");
        var sack = "01" + Gtin("SD-FEN", "sack") + "1125103115271030" + "10REC-OFF\u001d422356";
        device.Scan(sack);
        device.WaitSaid("Fenugreek seed");
        network.Is = Network.Hangs;
        device.PressAt("#take");
        device.WaitSaid("Kept on this device");
        string number;
        using (var desk = new Browser(demo.Url).SignIn("sunita"))
        {
            desk.Go("/cage/recalls");
            desk.Fill("input[name=item]", "SD-FEN");
            desk.Fill("textarea[name=numbers]", "REC-OFF");
            desk.Fill("input[name=why]", "moist");
            desk.Press("Begin the recall");
            desk.WaitText("Nobody here knows Fenugreek seed, source batch REC-OFF.");
            desk.PressAt("input[name=may-come]");
            desk.Press("Begin the recall");
            desk.WaitText("Nothing of it ever came.");
            number = desk.Driver.Url.Split('/')[^1];
            network.Is = Network.Good;
            device.Until(
                d => d.FindElements(By.CssSelector("section.bar #waiting")).Count == 0 ? new object() : null,
                "all that waits to be sent",
                seconds: 60
            );
            desk.Go($"/cage/recalls/{number}");
            desk.WaitText("1 sack of 1 is not in the cage yet.");
        }

        await using var db = Database.Context(demo.File);
        var recall = await db.Recalls.SingleAsync(r => r.Number == number);
        Assert.Equal(25, (await db.Holds.SingleAsync(h => h.RecallId == recall.Id)).Quantity);
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    async Task<Dictionary<string, decimal>> Counted()
    {
        await using var db = Database.Context(demo.File);
        var rows = await db
            .TallyEntries.Where(e => e.TakenBackAt == null)
            .Join(db.Items, e => e.ItemId, i => i.Id, (e, i) => new { i.Code, e.Quantity })
            .ToListAsync();
        return labels.ToDictionary(l => l.Code, l => rows.Where(r => r.Code == l.Code).Sum(r => r.Quantity));
    }

    [Fact]
    public async Task Print_is_read_in_a_dead_spot_and_what_was_taken_is_counted_when_the_network_is_back()
    {
        var print = DeviceTests.PhotographOfPrint("FENUGREEK SEED", "LOT: MK-F-2377", "MFG 31.10.2025", "BEST BEFORE 30.10.2027");
        await using var network = await BadNetwork.Before(demo.Url);
        try
        {
            using var device = new Browser(network.Url, 390, 844).SignIn("wanjiru");
            device.Go("/road");
            device.Act(
                "/road/orders/new",
                """{"number":"PO-DEAD","kind":"Purchase","vendor":"MALA","draft":false,"lines":[{"item":"SD-FEN","quantity":"500","due":"2026-03-10"}]}"""
            );
            var arrival = device.Act(
                "/door/open-on-the-spot",
                """{"orders":["PO-DEAD"],"vehicle":"truck","door":1,"atOnce":true,"notIso6346":false,"unplanned":true,"deliveryNote":"N-3"}""",
                "number"
            );
            device.Driver.ExecuteAsyncScript("const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(null))");
            device.Go("/door/" + arrival);
            device.Wait(".lines li");
            device.Until(
                d =>
                    (bool)
                        ((IJavaScriptExecutor)d).ExecuteAsyncScript(
                            "const done = arguments[0]; Promise.all(['/printed/eng.traineddata.gz'].map((url) => caches.match(url)))"
                                + ".then(async (data) => { const names = []; for (const c of await caches.keys()) for (const r of await "
                                + "(await caches.open(c)).keys()) names.push(r.url); done(data.every(Boolean) && names.some((n) => "
                                + "n.includes('tesseract-core')) && names.some((n) => n.includes('worker.min'))); })"
                        )!
                        ? new object()
                        : null,
                "what reads print to lie on the device",
                seconds: 60
            );
            network.Is = Network.Hangs;
            device.Scan(items.First(i => i.Code == "SD-FEN").PackLevels.First(p => p.Name == "sack").Gtin!);
            device.Until(d => d.FindElements(By.CssSelector(".kept [name=printed]")).Count > 0 ? d : null, "the kept scan", seconds: 30);
            device.Driver.FindElement(By.Name("printed")).SendKeys(print);
            device.Until(d => d.FindElements(By.CssSelector(".printed li")).Count == 3 ? d : null, "three offers", seconds: 120);
            foreach (var _ in Enumerable.Range(0, 3))
                device.PressAt(".printed li button");
            device.Fill("input[name=kept-origin]", "IN" + Keys.Tab);
            device.WaitText("Kept with the scan");
            network.Is = Network.Good;
            await using var db = Database.Context(demo.File);
            var batch = device.Until(
                _ => db.SourceBatches.AsNoTracking().FirstOrDefault(b => b.Number == "MK-F-2377"),
                "the batch to be counted",
                seconds: 60
            );
            Assert.Equal((new DateOnly(2025, 10, 31), new DateOnly(2027, 10, 30)), (batch.Production, batch.BestBefore));
        }
        finally
        {
            File.Delete(print);
        }
    }

    [Fact]
    public void A_scan_presses_no_button_of_a_dialog_and_goes_only_into_the_field_that_wants_it()
    {
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        desk.Go("/door/A-2617");
        desk.Wait(".lines li");
        desk.Press("Close the tally");
        var note = desk.Wait(".closing input[name^='note-']");
        note.SendKeys("DN-7");
        // The cursor stands in the delivery note: a GTIN typed by a scanner, with its Enter, neither replaces it nor posts the tally.
        desk.ScanAtOnce(Gtin("CB-05", "carton"));
        desk.WaitSaid("A delivery note is wanted here");
        Assert.Equal("DN-7", note.GetDomProperty("value"));
        desk.ScanAtOnce("DN-20260310-4");
        desk.WaitSaid("Delivery note DN-20260310-4");
        Assert.Equal("DN-20260310-4", note.GetDomProperty("value"));
        // The focus on the button that posts: a scan does not press it.
        desk.Driver.ExecuteScript(
            "[...document.querySelectorAll('.closing button')].find((b) => b.textContent.includes('Close and post')).focus()"
        );
        desk.ScanAtOnce(Gtin("CB-05", "carton"));
        desk.WaitSaid("wanted here");
        using var db = Database.Context(demo.File);
        Assert.False(db.Receipts.Any(r => r.ArrivalId == db.Arrivals.First(a => a.Number == "A-2617").Id));
    }

    [Fact]
    public void What_is_in_hand_stays_with_who_scanned_it_when_somebody_else_takes_the_device()
    {
        using var device = new Browser(demo.Url, 390, 844).SignIn("leila");
        device.Go("/door/A-2618");
        device.Wait(".lines li");
        device.Scan(Gtin("SP-DG", "each"));
        device.WaitSaid("Digging spade");
        device.Scan("BADGE-004");
        device.Fill("input[name=pin]", "1004");
        device.Press("Work on");
        device.WaitSaid("Maren Oduya is here");
        device.WaitGone("#take");
        device.WaitText("In hand, not taken: Digging spade");
        device.WaitText("It waits until they are back");
        device.Scan("BADGE-003");
        device.Fill("input[name=pin]", "1003");
        device.Press("Work on");
        device.WaitSaid("Still in hand from before");
        device.Wait("#take");
        device.Press("Leave it");
    }

    [Fact]
    public void An_answer_is_seen_on_the_device_that_asked_in_any_room()
    {
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("leila");
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        receiver.Go("/door/A-2618");
        receiver.Wait(".lines li");
        receiver.Scan("FREMD-5566");
        receiver.Press("Put it aside as a question");
        receiver.WaitText("Put aside as a question");
        receiver.Go("/book");
        desk.Go("/door/A-2618");
        desk.WaitText("1 question");
        var question = desk.WaitText("What is FREMD-5566?").FindElement(By.XPath("ancestor::*[@data-question]"));
        var id = question.GetDomAttribute("data-question");
        desk.Fill($"[data-question='{id}'] input[name=question-note]", "send it back with the driver");
        desk.PressAt($"[data-question='{id}'] .button:not(.go)");
        receiver.WaitSaid("send it back with the driver");
        receiver.Press("Seen");
        receiver.WaitGone(".answers");
    }
}
