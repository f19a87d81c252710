using System.Net;
using System.Text.Json;
using MudRoom.Tests;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>axe-core finds nothing serious on any screen, nothing scrolls sideways at any size, and the keyboard reaches
/// everything.</summary>
[Collection("one after another")]
public sealed class AccessTests(Demo demo)
{
    static readonly string axe = File.ReadAllText(Path.Combine(Repository.Root(), "web", "node_modules", "axe-core", "axe.min.js"));

    static readonly (string Path, string Wait)[] screens =
    [
        ("/road", ".panel"),
        ("/road/received", ".receipt"),
        ("/site/files", ".head h1"),
        ("/road/due", "table.list td .status"),
        ("/road/orders", "table.list td"),
        ("/road/orders/PO-4471", "table.list td"),
        ("/road/import", "input[type=file]"),
        ("/road/arrivals/A-2619", "table.list td"),
        ("/yard", ".head h1"),
        ("/door", ".queue-card"),
        ("/door/A-2617", ".lines li"),
        ("/bench/I-0024", ".verdict"),
        ("/bench/plans/1", ".chart svg"),
        ("/bench/coming", ".chart svg"),
        ("/cage", ".bar"),
        ("/cage/rules", ".queue-card"),
        ("/cage/ahead", "select[name=hold-because]"),
        ("/cage/calendar", "table .event"),
        ("/cage/recalls", "textarea[name=numbers]"),
        ("/cage/recalls/RC-0001", ".house .walls"),
        ("/cage/returns/RT-0001", ".way li"),
        ("/notices", ".notices li"),
        ("/shelf", ".funnel"),
        ("/book?text=CB-05", ".entries li"),
        ("/book/out", "table.list td"),
        ("/site", "table.list td"),
        ("/site/door", "input[name=blind]"),
        ("/site/standings", "table td"),
        ("/site/cage", "input[name=second-above]"),
        ("/site/scanner", "img.gs1-128"),
        ("/site/items/AN-25", "input[name=batch-pattern]"),
        ("/door/prints", "table.list td"),
        ("/door/outwork", "input[name=note]"),
        ("/door/receipts/R-0001", "table.list td"),
        ("/door/A-2617/paper", "#sheet input"),
        ("/labels", "button[data-scan]"),
    ];

    [Theory]
    [InlineData("light")]
    [InlineData("dark")]
    public void Axe_finds_nothing_serious_on_any_screen(string scheme)
    {
        using var browser = new Browser(demo.Url);
        browser.Go("/");
        browser.Wait("input[name=password]");
        var faults = Faults(browser, "/ (sign in)");
        browser.SignInByHand("wanjiru");
        browser.Driver.ExecuteScript($"localStorage.setItem('scheme', '{scheme}')");
        foreach (var (path, wait) in screens)
        {
            browser.Go(path);
            browser.Wait(wait);
            faults.AddRange(Faults(browser, path));
        }

        Assert.True(faults.Count == 0, string.Join("\n", faults));
    }

    /// <summary>What a phone fetches before a tally takes scans; the rest comes when it is needed, or behind it for dead spots.</summary>
    [Fact]
    public void A_tally_takes_scans_after_at_most_160_kilobytes_of_script()
    {
        using var browser = new Browser(demo.Url, 390, 844).SignIn("maren");
        browser.Driver.ExecuteCdpCommand("Network.enable", []);
        browser.Driver.ExecuteCdpCommand("Network.setBypassServiceWorker", new Dictionary<string, object?> { ["bypass"] = true });
        browser.Go("/door/A-2618");
        browser.Wait(".lines li");
        browser.Scan("HH-16");
        browser.WaitSaid("Draw hoe head");
        var scripts = (
            (IReadOnlyCollection<object>)
                browser.Driver.ExecuteScript(
                    "return performance.getEntriesByType('resource').filter((r) => r.name.split('?')[0].endsWith('.js')).map((r) => "
                        + "[r.name, r.encodedBodySize, r.decodedBodySize]);"
                )!
        )
            .Cast<IReadOnlyCollection<object>>()
            .Select(r => (Name: (string)r.First(), Size: Convert.ToInt64(r.ElementAt(1)), Whole: Convert.ToInt64(r.Last())))
            .ToList();
        var sum = scripts.Sum(s => s.Size);
        Assert.True(scripts.Count > 10 && scripts.All(s => s.Size > 0) && sum < scripts.Sum(s => s.Whole) / 2, string.Join("\n", scripts));
        Assert.True(sum <= 160_000, $"{sum} bytes: {string.Join("\n", scripts.OrderByDescending(s => s.Size).Take(8))}");
    }

    [Fact]
    public void Axe_finds_nothing_serious_with_a_count_in_hand_and_while_closing()
    {
        using var browser = new Browser(demo.Url, 390, 844).SignIn("maren");
        browser.Go("/door/A-2617");
        browser.Wait(".lines li");
        browser.Scan("SD-FEN");
        browser.Wait(".count");
        var faults = Faults(browser, "count in hand");
        browser.Press("Leave it");
        browser.Press("Coir chips 70 L");
        browser.Press("Take back all 2 counts");
        browser.Wait("input[name=take-back-reason]");
        faults.AddRange(Faults(browser, "a line's counts"));
        browser.Press("Leave it");
        browser.Scan("P-080");
        browser.WaitText("Which is it?");
        faults.AddRange(Faults(browser, "which of two items"));
        browser.Press("Leave it");
        browser.PressAt("#close-tally");
        browser.Wait(".closing");
        Thread.Sleep(400);
        faults.AddRange(Faults(browser, "closing"));
        Assert.True(faults.Count == 0, string.Join("\n", faults));
    }

    [Theory]
    [InlineData(1280, 800)]
    [InlineData(820, 1180)]
    [InlineData(390, 844)]
    public void Nothing_scrolls_sideways(int width, int height)
    {
        using var browser = new Browser(demo.Url, width, height).SignIn("wanjiru");
        foreach (var (path, _) in screens)
        {
            browser.Go(path);
            browser.Wait(".sill");
            Thread.Sleep(250);
            Assert.True(browser.Overflow() <= 0, $"{path} is {browser.Overflow()} px too wide at {width}");
        }
    }

    [Fact]
    public void Rooms_queue_and_scan_line_are_reached_by_keyboard_alone()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyDown(Keys.Alt).SendKeys("3").KeyUp(Keys.Alt).Perform();
        browser.Wait(".queue-card");
        Assert.EndsWith("/door", browser.Driver.Url);
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyDown(Keys.Alt).SendKeys("s").KeyUp(Keys.Alt).Perform();
        Assert.Equal("scan", browser.Driver.SwitchTo().ActiveElement().GetAttribute("id"));
        browser.Driver.ExecuteScript("document.querySelector('.queue-card').focus()");
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).SendKeys(Keys.Enter).Perform();
        browser.Wait(".lines li");
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).SendKeys(Keys.F1).Perform();
        browser.WaitText("this list");
    }

    static List<string> Faults(Browser browser, string where)
    {
        browser.Driver.ExecuteScript(axe);
        var json = (string)
            browser.Driver.ExecuteAsyncScript(
                "const done = arguments[arguments.length - 1]; axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', "
                    + "'wcag21aa', 'wcag22aa', 'best-practice']}).then((r) => done(JSON.stringify(r.passes.length < 8 ? [{impact: "
                    + "'critical', id: 'axe-looked-at-nothing', nodes: [{html: '', failureSummary: ''}]}] : r.violations)))"
            )!;
        return
        [
            .. JsonDocument
                .Parse(json)
                .RootElement.EnumerateArray()
                .Where(v => v.GetProperty("impact").GetString() is "serious" or "critical")
                .Select(v =>
                    $"{where}: {v.GetProperty("id").GetString()}: {v.GetProperty("nodes")[0].GetProperty("html").GetString()} "
                    + $"{v.GetProperty("nodes")[0].GetProperty("failureSummary").GetString()}"
                ),
        ];
    }

    [Fact]
    public async Task A_file_is_sent_as_the_browser_takes_it_and_one_that_is_not_there_is_no_page()
    {
        using var http = new HttpClient { BaseAddress = new Uri(demo.Url) };
        Assert.Equal(HttpStatusCode.NotFound, (await http.GetAsync("/_app/immutable/chunks/of-last-week.js")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await http.GetAsync("/printed/eng.traineddata")).StatusCode);
        Assert.Equal("page", (await http.GetAsync("/door/A-2611.js")).Headers.GetValues("Mud-Room").Single());

        using var learned = await http.GetAsync("/printed/eng.traineddata.gz");
        Assert.Empty(learned.Content.Headers.ContentEncoding);
        // RFC 1952, 2.3.1: the two bytes that every gzip member begins with.
        Assert.Equal([0x1f, 0x8b], (await learned.Content.ReadAsByteArrayAsync())[..2]);

        var index = await http.GetStringAsync("/");
        var start = System.Text.RegularExpressions.Regex.Match(index, "/_app/immutable/entry/start[^\"]+").Value;
        using var asked = new HttpRequestMessage(HttpMethod.Get, start) { Headers = { { "Accept-Encoding", "gzip;q=0, br" } } };
        Assert.Equal(["br"], (await http.SendAsync(asked)).Content.Headers.ContentEncoding);
        Assert.Empty((await http.GetAsync(start)).Content.Headers.ContentEncoding);
    }
}
