using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Data;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace MudRoom.Browser.Tests;

/// <summary>Road and Yard through the real screens: the board by mouse and by keyboard, the gate on a phone, files.</summary>
[Collection("one after another")]
public sealed class RoadTests(RoadDemo demo) : IClassFixture<RoadDemo>
{
    async Task<Arrival> Arrival(string number)
    {
        await using var db = Database.Context(demo.File);
        return await db.Arrivals.AsNoTracking().FirstAsync(a => a.Number == number && a.SiteId == 1);
    }

    static string Block(string number) => $"button.load[data-number='{number}']";

    [Fact]
    public async Task A_load_is_moved_by_dragging_and_the_other_supervisor_sees_it_within_a_second()
    {
        using var first = new Browser(demo.Url).SignIn("wanjiru");
        using var second = new Browser(demo.Url).SignIn("wanjiru");
        first.Go("/road");
        second.Go("/road");
        var load = first.Wait(Block("A-2624"));
        second.Wait(Block("A-2624"));
        var before = (await Arrival("A-2624")).PlanVersion;
        Thread.Sleep(1200);
        new Actions(first.Driver).MoveToElement(load).ClickAndHold().MoveByOffset(60, 0).MoveByOffset(60, 0).Release().Perform();
        var seen = System.Diagnostics.Stopwatch.StartNew();
        await Changed("A-2624", before);
        var at = (await Arrival("A-2624")).Planned.ToString("HH:mm");
        second.Until(d => d.FindElements(By.CssSelector(Block("A-2624"))).Any(e => e.GetAttribute("textContent")!.Contains(at, StringComparison.Ordinal)) ? d : null, "the move on the other screen");
        Assert.True(seen.Elapsed < TimeSpan.FromSeconds(5), $"seen after {seen.Elapsed}");
    }

    [Fact]
    public async Task A_load_is_moved_by_keyboard_alone_and_escape_leaves_it_where_it_was()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road");
        browser.Wait(Block("A-2621"));
        var before = await Arrival("A-2621");
        browser.Driver.ExecuteScript($"document.querySelector(\"{Block("A-2621")}\").focus()");
        new Actions(browser.Driver).SendKeys(Keys.Enter).SendKeys(Keys.ArrowRight).SendKeys(Keys.Escape).Perform();
        browser.Until(d => d.FindElement(By.CssSelector("[aria-live=assertive]")).GetAttribute("textContent")!.Contains("Left where it was", StringComparison.Ordinal) ? d : null, "Escape to be said");
        Assert.Equal(before.PlanVersion, (await Arrival("A-2621")).PlanVersion);
        new Actions(browser.Driver).SendKeys(Keys.Enter).SendKeys(Keys.ArrowRight).SendKeys(Keys.ArrowRight).SendKeys(Keys.ArrowRight).SendKeys(Keys.Enter).Perform();
        await Changed("A-2621", before.PlanVersion);
        Assert.Equal(before.Planned.AddMinutes(15), (await Arrival("A-2621")).Planned);
    }

    [Fact]
    public async Task A_move_that_breaks_a_rule_says_so_and_offers_the_nearest_plan_that_keeps_all()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road?plan=A-2619");
        browser.Wait(".panel .button.go");
        Assert.Contains("dangerous goods", browser.Wait(".panel").Text, StringComparison.Ordinal);
        browser.Driver.FindElement(By.CssSelector(".by-hand summary")).Click();
        browser.Driver.FindElement(By.CssSelector(".by-hand select[name=door] option[value='5']")).Click();
        browser.Press("Plan it so");
        browser.WaitText("Door 5 takes vans and parcels");
        var before = (await Arrival("A-2619")).PlanVersion;
        browser.PressAt(".panel .button.go");
        await Changed("A-2619", before);
        var planned = await Arrival("A-2619");
        Assert.Contains(5, planned.Crew);
    }

    [Fact]
    public void A_day_is_proposed_with_reasons_and_nothing_is_taken_unless_it_is_said()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road");
        browser.Wait(".board");
        browser.Press("Propose a plan");
        browser.WaitText("Weighted lateness");
        browser.Press("Take nothing");
        browser.WaitGone("[role=dialog]");
        browser.Press("Week");
        browser.Wait(".week .bit");
    }

    [Fact]
    public async Task The_gate_hand_lets_a_container_in_on_a_phone_with_a_seal_that_differs()
    {
        using var gate = new Browser(demo.Url, 390, 844).SignIn("efua");
        gate.Go("/yard");
        gate.Wait(".head h1");
        gate.Scan("QKHU2055386");
        gate.WaitSaid("A-2623");
        gate.Fill("input[name=container]", "QKHU 205538 6");
        gate.Fill("input[name=seal]", "QH 99");
        gate.WaitText("The seal differs");
        gate.Fill("input[name=sealReason]", "cut by customs");
        gate.Press("Let it in");
        gate.WaitText("wants a picture");
        var picture = Path.Combine(Path.GetTempPath(), $"seal-{Guid.NewGuid():N}.png");
        gate.Driver.GetScreenshot().SaveAsFile(picture);
        gate.Driver.FindElement(By.CssSelector("input[type=file]")).SendKeys(picture);
        gate.WaitText("is attached");
        File.Delete(picture);
        Assert.Equal("cut by customs", gate.Wait("input[name=sealReason]").GetAttribute("value"));
        gate.Press("Let it in");
        gate.WaitText("Take the last step back");
        Assert.Equal("cut by customs", (await Arrival("A-2623")).SealReason);
        gate.Press("Take the last step back");
        gate.WaitText("let in taken back");
        Assert.Equal(ArrivalState.Expected, (await Arrival("A-2623")).State);
    }

    [Fact]
    public void What_a_vendor_promised_is_noted_and_shown_where_the_line_is_shown()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road/due");
        browser.Fill(".filters input", "PO-4438");
        browser.WaitText("Terracotta pot 18 cm");
        browser.Press("Note a call");
        browser.Fill("input[name=text]", "Loaded tonight, here on Thursday.");
        browser.Press("Keep it");
        browser.WaitText("Loaded tonight, here on Thursday.");
        browser.Go("/road/orders/PO-4438");
        browser.WaitText("Loaded tonight, here on Thursday.");
    }

    [Fact]
    public void A_file_is_looked_at_first_then_imported_and_a_bad_one_names_its_lines()
    {
        using var browser = new Browser(demo.Url).SignIn("dilys");
        browser.Go("/road/import");
        var good = Path.Combine(Path.GetTempPath(), $"orders-{Guid.NewGuid():N}.csv");
        File.WriteAllText(good, "order,vendor,line,item,quantity,due,site\nPO-BROWSE,NILG,1,CB-05,96,2026-04-01,LM\n");
        var bad = good + ".bad.csv";
        File.WriteAllText(bad, "order,vendor,line,item,quantity,due,site\nPO-BAD,NOBODY,1,CB-05,-1,1900-01-01,LM\n");
        browser.Wait("input[type=file]").SendKeys(bad);
        browser.WaitText("no vendor has this code");
        browser.Wait("input[type=file]").SendKeys(good);
        browser.WaitText("1 orders with 1 line parts");
        browser.Press("Import them");
        browser.WaitText("are in.");
        browser.Go("/road/orders/PO-BROWSE");
        browser.WaitText("open for receiving");
        File.Delete(good);
        File.Delete(bad);
    }

    [Fact]
    public void The_administrator_takes_the_bins_out_and_brings_them_in()
    {
        using var browser = new Browser(demo.Url).SignIn("anselm");
        browser.Go("/site/files");
        browser.Press("Vendors");
        var file = Path.Combine(Path.GetTempPath(), $"vendors-{Guid.NewGuid():N}.csv");
        File.WriteAllText(file, "code,name,country\nHEDGE,Hedgerow Supplies,IE\n");
        browser.Wait("input[type=file]").SendKeys(file);
        browser.WaitText("1 lines: 1 new, 0 changed");
        browser.Press("Import them");
        browser.WaitText("1 new, 0 changed.");
        File.Delete(file);
    }

    async Task Changed(string number, int before)
    {
        for (var i = 0; i < 100; i++)
        {
            if ((await Arrival(number)).PlanVersion > before) return;
            await Task.Delay(50);
        }

        Assert.Fail($"{number} was not moved");
    }
}
