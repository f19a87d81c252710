using MudRoom.Tests;

namespace MudRoom.Browser.Tests;

/// <summary>Takes the pictures of docs/screenshots from the demo on its stopped clock. Run by ./mudroom shots.</summary>
public sealed class Shots(Demo demo)
{
    readonly string folder = Environment.GetEnvironmentVariable("SHOTS") ?? Path.Combine(Repository.Root(), "docs", "screenshots");

    [Fact(Explicit = true)]
    public void Of_every_room()
    {
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        Take(desk, "/road", ".panel .button.go", "road");
        Take(desk, "/yard", ".head h1", "yard");
        Take(desk, "/door/A-2617", ".lines li", "door", b =>
        {
            b.Scan("(01)" + Gtin("SD-FEN", "sack") + "(10)MK-F-2291(11)271030(15)251031(422)356");
            b.Wait(".count");
            b.Driver.ExecuteScript("document.getElementById('take').click()");
            b.Wait(".count .said");
            b.Driver.ExecuteScript("document.querySelector('.work .scroll').scrollTop = 0");
        });
        desk.Press("Leave it");
        Take(desk, "/cage", ".bar", "cage", b =>
        {
            b.Press("Terracotta pot 24 cm, 5 stacks");
            void decide(string kind, string? quantity)
            {
                b.Wait($"select[name=decision] option[value={kind}]").Click();
                if (quantity is null)
                    return;
                b.Fill("input[name=quantity]", quantity);
                b.Fill("input[name=why]", "A pallet tipped over");
            }
            decide("ReturnToVendor", "10");
            b.PressAt("form.decide button");
            b.WaitText("are to be returned to vendor");
            decide("Regrade", "24");
            b.Fill("input[name=into]", "Terracotta pot 24 cm, second grade");
        });
        Take(desk, "/cage/recalls/RC-0001", ".walls", "recall");
        Take(desk, "/book?text=HH-16", ".entries li", "book");
        Take(desk, "/site", "table.list td", "site");
        desk.Driver.ExecuteScript("localStorage.setItem('scheme', 'dark')");
        Take(desk, "/road", ".panel .button.go", "road-dark");
        using var bench = new Browser(demo.Url).SignIn("sunita");
        Take(bench, "/bench", ".verdict", "bench");
        Take(bench, "/cage/returns/RT-0001", ".way li", "return");
        Take(bench, "/bench/coming", ".chart svg", "bench-coming");
        Take(bench, "/bench/plans/1", "#begin-draft", "bench-plan", b =>
        {
            b.PressAt("#begin-draft");
            b.Press("Length");
            b.Wait("input[name=upper]").SendKeys(OpenQA.Selenium.Keys.Control + "a");
            b.Wait("input[name=upper]").SendKeys("214" + OpenQA.Selenium.Keys.Tab);
            b.WaitText("upper limit was 215");
            b.Press("Length");
            b.Driver.ExecuteScript("document.querySelector('.work .scroll').scrollTop = 0");
        });
        using var shelf = new Browser(demo.Url).SignIn("petra");
        Take(shelf, "/shelf", ".funnel", "shelf");
        using var door = new Browser(demo.Url, 390, 844).SignIn("leila");
        Take(door, "/door/A-2617", ".lines li", "door-phone", b =>
        {
            b.Scan("(01)" + Gtin("SD-FEN", "sack") + "(10)MK-F-2291(11)251031(15)271030(422)356");
            b.Wait(".count");
        });
        Take(door, "/door/A-2620", ".lines li", "door-dead-spot", b =>
        {
            Thread.Sleep(800);
            b.Driver.ExecuteCdpCommand("Network.enable", []);
            b.Driver.ExecuteCdpCommand(
                "Network.emulateNetworkConditions",
                new Dictionary<string, object?>
                {
                    ["offline"] = true,
                    ["latency"] = 0,
                    ["downloadThroughput"] = 0,
                    ["uploadThroughput"] = 0,
                }
            );
            for (var i = 0; i < 3; i++)
                b.ScanNext(Gtin("SC-18", "each"));
            b.WaitText("to be sent");
            b.WaitSaid("3 waiting");
        });
        Take(desk, "/door/A-2618", ".lines li", "door-close", b =>
        {
            b.Driver.ExecuteScript("localStorage.setItem('scheme', 'light')");
            b.Go("/door/A-2618");
            b.Wait(".lines li");
            b.PressAt("#close-tally");
            b.WaitText("lines are not complete");
        });
        using var gate = new Browser(demo.Url, 390, 844).SignIn("efua");
        Take(gate, "/yard", ".head h1", "yard-phone", b =>
        {
            b.Scan("QKHU 205538 6");
            b.Wait("input[name=seal]");
            b.Fill("input[name=seal]", "QH 77121");
        });
        using var driver = new Browser(demo.Url, 390, 844).SignIn("petra");
        Take(driver, "/shelf", "#bin", "shelf-phone");
        Take(driver, "/cage/recalls/RC-0001", "#look", "recall-phone");
    }

    void Take(Browser browser, string path, string wait, string name, Action<Browser>? first = null)
    {
        browser.Go(path);
        browser.Wait(wait);
        first?.Invoke(browser);
        browser.Shot(Path.Combine(folder, name + ".png"));
    }

    static string Gtin(string item, string pack) =>
        DemoTemplate.Of.Items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;
}
