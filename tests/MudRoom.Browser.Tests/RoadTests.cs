using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Data;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace MudRoom.Browser.Tests;

/// <summary>Road and Yard through the real screens: the board by mouse and by keyboard, the gate on a phone, files.</summary>
[Collection("each on a demo of its own")]
public sealed class RoadTests(RoadDemo demo) : IClassFixture<RoadDemo>
{
    async Task<Arrival> Arrival(string number)
    {
        await using var db = Database.Context(demo.File);
        return await db.Arrivals.AsNoTracking().Include(a => a.Manifest).FirstAsync(a => a.Number == number && a.SiteId == 1);
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
        new Actions(first.Driver).MoveToElement(load).ClickAndHold().MoveByOffset(8, 0).MoveByOffset(10, 0).Release().Perform();
        var seen = System.Diagnostics.Stopwatch.StartNew();
        await Changed("A-2624", before);
        var at = (await Arrival("A-2624")).Planned.ToString("HH:mm");
        second.Until(
            d =>
                d.FindElements(By.CssSelector(Block("A-2624")))
                    .Any(e => e.GetAttribute("textContent")!.Contains(at, StringComparison.Ordinal))
                    ? d
                    : null,
            "the move on the other screen"
        );
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
        browser.Until(
            d =>
                d.FindElement(By.CssSelector("[aria-live=assertive]"))
                    .GetAttribute("textContent")!
                    .Contains("Left where it was", StringComparison.Ordinal)
                    ? d
                    : null,
            "Escape to be said"
        );
        Assert.Equal(before.PlanVersion, (await Arrival("A-2621")).PlanVersion);
        new Actions(browser.Driver)
            .SendKeys(Keys.Enter)
            .SendKeys(Keys.ArrowRight)
            .SendKeys(Keys.ArrowRight)
            .SendKeys(Keys.ArrowRight)
            .SendKeys(Keys.Enter)
            .Perform();
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
        gate.WaitText("It is not as planned.");
        gate.Fill("input[name=word]", "cut by customs");
        gate.Press("Let it in");
        gate.WaitText("wants a picture");
        var picture = Path.Combine(Path.GetTempPath(), $"seal-{Guid.NewGuid():N}.png");
        gate.Driver.GetScreenshot().SaveAsFile(picture);
        gate.Driver.FindElement(By.CssSelector("input[type=file]")).SendKeys(picture);
        gate.WaitText("is attached");
        File.Delete(picture);
        Assert.Equal("cut by customs", gate.Wait("input[name=word]").GetAttribute("value"));
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
        browser.WaitText("1 order with 1 line part.");
        browser.Press($"Import {Path.GetFileName(good)}");
        browser.WaitText("In: 1 order with 1 line part.");
        browser.Go("/road/orders/PO-BROWSE");
        browser.WaitText("open for receiving");
        File.Delete(good);
        File.Delete(bad);
    }

    /// <summary>On a phone and a tablet the plan is a list in the order of time: nothing runs off, what must be looked at stands
    /// first.</summary>
    [Theory]
    [InlineData(390, 844)]
    [InlineData(820, 1100)]
    public void The_plan_of_the_day_is_a_list_where_the_board_has_no_room(int width, int height)
    {
        using var browser = new Browser(demo.Url, width, height).SignIn("wanjiru");
        browser.Go("/road");
        var first = browser.Wait("section[aria-label='Look at these first'] .load");
        Assert.Contains(first.GetAttribute("data-number"), new[] { "A-2627", "A-2619" });
        Assert.Empty(browser.Driver.FindElements(By.CssSelector("button.load")));
        Assert.True(browser.Overflow() <= 0);
        browser.PressAt("button[aria-label='Plan A-2619']");
        browser.WaitText("Plan it by hand");
    }

    [Theory]
    [InlineData("/road/orders/PO-4471")]
    [InlineData("/road/arrivals/A-2617")]
    [InlineData("/road/due")]
    [InlineData("/site")]
    public void A_list_is_cards_on_a_phone_and_nothing_runs_off_to_the_side(string page)
    {
        using var browser = new Browser(demo.Url, 390, 844).SignIn("wanjiru");
        browser.Go(page);
        browser.Until(
            d =>
                d.FindElements(By.CssSelector("table.list.cards tbody td[data-label]"))
                    .FirstOrDefault(e => e.Displayed && e.GetAttribute("data-label")!.Length > 0),
            "a cell under its heading"
        );
        Assert.True(browser.Overflow() <= 0);
        Assert.True(
            Convert.ToInt64(
                browser.Driver.ExecuteScript(
                    "return [...document.querySelectorAll('table.list.cards')].reduce((most, t) => Math.max(most, "
                        + "t.getBoundingClientRect().right), 0)"
                )
            ) <= 390
        );
    }

    [Fact]
    public void What_the_watched_folder_refused_is_looked_at_tried_again_and_put_away()
    {
        var inbox = Path.Combine(Path.GetDirectoryName(demo.File)!, "inbox", "LM");
        Directory.CreateDirectory(inbox);
        File.WriteAllText(
            Path.Combine(inbox, "nobody.csv"),
            "order,vendor,line,item,quantity,due,site\nPO-REFUSED,NOBODY,1,CB-05,96,2026-04-01,LM\n"
        );
        using var browser = new Browser(demo.Url).SignIn("dilys");
        browser.Go("/road/import");
        browser.Until(
            d =>
            {
                if (d.FindElements(By.CssSelector("section.partner li")).Any(e => e.Text.Contains("nobody.csv", StringComparison.Ordinal)))
                    return d;
                d.Navigate().Refresh();
                return null;
            },
            "the refused file"
        );
        browser.PressAt("button[aria-label='Look at nobody.csv and try it again']");
        browser.WaitText("no vendor has this code");
        browser.PressAt("button[aria-label='Put nobody.csv away']");
        browser.WaitGone("button[aria-label='Put nobody.csv away']");
        Assert.True(File.Exists(Path.Combine(inbox, "put-away", "nobody.csv")));
    }

    /// <summary>An advice that could be aboard two arrivals is asked about before it is imported.</summary>
    [Fact]
    public async Task Which_arrival_an_advice_belongs_to_is_chosen_before_it_is_imported()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road/import");
        browser.Act(
            "/road/orders/new",
            """{"number":"PO-CHOICE","kind":"Purchase","vendor":"SALT","draft":false,"lines":[{"item":"CN-25","quantity":"40","due":"2026-03-11"},{"item":"LS-05","quantity":"8","due":"2026-03-11"}]}"""
        );
        await using var db = Database.Context(demo.File);
        var parts = await db
            .LineParts.Where(p => p.Line!.Order!.Number == "PO-CHOICE")
            .OrderBy(p => p.Line!.Number)
            .Select(p => p.Id)
            .ToListAsync();
        var arrivals = parts
            .Select(part =>
                browser.Act(
                    "/road/arrivals",
                    $$"""{"orders":["PO-CHOICE"],"parts":[{{part}}],"planned":"2026-03-11T10:00:00","atOnce":false,"notIso6346":false,"unplanned":false}""",
                    "number"
                )
            )
            .ToList();
        var file = Path.Combine(Path.GetTempPath(), $"advice-{Guid.NewGuid():N}.edi");
        File.WriteAllText(
            file,
            string.Join(
                "'",
                "UNB+UNOC:3+A+B+260310:0800+1",
                "UNH+1+DESADV:D:01B:UN",
                "BGM+351+DA-CHOICE+9",
                "NAD+SU+SALT::92",
                "NAD+DP+LM::92",
                "CPS+1",
                "LIN+1",
                "PIA+1+CN-25:IN",
                "QTY+12:40:EA",
                "LIN+2",
                "PIA+1+LS-05:IN",
                "QTY+12:8:EA",
                "UNT+12+1",
                "UNZ+1+1",
                ""
            )
        );
        browser.Wait("input[type=file]").SendKeys(file);
        browser.WaitText("could be aboard several arrivals");
        Assert.False(browser.Wait("button.go").Enabled);
        browser.PressAt($"input[type=radio][value='{arrivals[1]}']");
        browser.Press($"Import {Path.GetFileName(file)}");
        browser.WaitText("The despatch advice is on arrival");
        Assert.Equal(2, (await Arrival(arrivals[1])).Manifest.Count);
        File.Delete(file);
    }

    [Fact]
    public async Task A_line_is_told_to_be_partly_aboard_and_its_arrival_is_withdrawn_and_comes_after_all()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road/orders/PO-4493");
        browser.Press("Make an arrival of what is open");
        browser.Until(d => d.Url.Contains("/road/arrivals/A-", StringComparison.Ordinal) ? d : null, "the new arrival");
        var number = browser.Driver.Url.Split('/')[^1];
        browser.Press("204 each");
        browser.Fill("input[name=aboard]", "102");
        browser.Press("Keep");
        browser.WaitText("102 each of Peat-free compost 50 L are aboard");
        Assert.Equal(102, (await Arrival(number)).Manifest.Max(m => m.Expected));
        browser.Press("Withdraw it");
        browser.Fill("input[name=withdraw-reason]", "The haulier lost it.");
        browser.Press($"Withdraw {number}");
        browser.WaitText("is withdrawn");
        browser.Press("It comes after all");
        browser.WaitText("withdrawal taken back");
        Assert.Equal(ArrivalState.Expected, (await Arrival(number)).State);
    }

    [Fact]
    public void What_has_not_come_of_an_order_is_cancelled_with_a_reason_and_taken_back()
    {
        using var browser = new Browser(demo.Url).SignIn("dilys");
        browser.Go("/road/orders/PO-4497");
        browser.Press("Cancel what has not come");
        browser.Fill("input[name=cancel-reason]", "Bought elsewhere.");
        browser.Press("Cancel PO-4497");
        browser.WaitText("What had not come was cancelled: Bought elsewhere.");
        browser.Press("Take the cancellation back");
        browser.WaitText("open for receiving again");
    }

    [Fact]
    public void The_facts_of_the_house_are_kept_on_one_page_and_what_cannot_be_is_said()
    {
        using var browser = new Browser(demo.Url).SignIn("anselm");
        browser.Go("/site/house");
        browser.Wait("input[name=name]");
        browser.Press("Add a spot");
        browser
            .Until(
                d =>
                    d.FindElements(By.CssSelector("input[name=spot]")) is [.., var last] && last.GetAttribute("value")!.Length == 0
                        ? last
                        : null,
                "the new spot"
            )
            .SendKeys("Z9");
        browser.Fill("input[name=gln]", "9521321000019");
        browser.Press("Keep");
        browser.WaitText("The check digit of GLN 9521321000019 is wrong: it should be 8.");
        browser.Fill("input[name=gln]", "9521321000018");
        browser.Press("Keep");
        browser.WaitText("It holds from now on");
        browser.Go("/site/house");
        browser.Until(
            d => d.FindElements(By.CssSelector("input[name=spot]")).Any(e => e.GetAttribute("value") == "Z9") ? d : null,
            "the spot Z9"
        );
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
        browser.WaitText("1 new, 0 changed, 0 as they were.");
        // A short file says, field by field, what it would change before it does.
        var shorter = file + ".short.csv";
        File.WriteAllText(shorter, "code,name\nHEDGE,Hedgerow and Sons\n");
        browser.Driver.FindElement(By.CssSelector("input[type=file]")).SendKeys(shorter);
        browser.WaitText("0 new, 1 changed, 0 as they are");
        Assert.Equal(
            ["2", "Hedgerow and Sons", "name", "Hedgerow Supplies", "Hedgerow and Sons"],
            browser.Driver.FindElements(By.CssSelector("table.list tbody td")).Where(cell => cell.Displayed).Select(cell => cell.Text)
        );
        browser.Press("Import them");
        browser.WaitText("0 new, 1 changed, 0 as they were.");
        File.Delete(file);
        File.Delete(shorter);
    }

    [Fact]
    public async Task An_order_is_typed_its_goods_are_taken_over_on_the_water_and_sent_to_another_site()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road/orders");
        browser.Wait("a[href='/road/orders/new']").Click();
        browser.Fill("input[name=number]", "PO-TYPED");
        browser
            .Until(d => d.FindElements(By.CssSelector("select[name=vendor] option[value=QUER]")).FirstOrDefault(), "the vendors")
            .Click();
        browser.Driver.FindElement(By.CssSelector("select[name=item-0] option[value=PF-50]")).Click();
        browser.Fill("input[name=quantity-0]", "0");
        browser.Fill("input[name=due-0]", "soon");
        browser.WaitText("no date");
        browser.Fill("input[name=due-0]", "thu" + Keys.Tab);
        Assert.Equal("2026-03-12", browser.Driver.FindElement(By.Name("due-0")).GetAttribute("value"));
        browser.Press("Keep it, open for receiving");
        browser.WaitText("it must be more than 0");
        browser.Fill("input[name=quantity-0]", "30");
        browser.Press("Keep it, open for receiving");
        browser.Until(d => d.Url.EndsWith("/PO-TYPED", StringComparison.Ordinal) ? d : null, "the page of the new order");
        await using var db = Database.Context(demo.File);
        Assert.Equal(30, (await db.LineParts.SingleAsync(p => p.Line!.Order!.Number == "PO-TYPED")).Ordered);

        browser.Go("/road/arrivals/A-2605");
        browser.Wait("input[name=document]");
        browser.Fill("input[name=document]", "BL-4711");
        browser.Press("Take over all lines");
        browser.WaitText("on the books as in transit");
        browser.Go("/book?text=GP-24");
        browser.WaitText("ours, on the way, not to be used yet");
        browser.Go("/road/arrivals/A-2605");
        browser.Wait("input[aria-label='Choose PO-4449 line 3']").Click();
        browser.Wait("select[name=to-site] option:last-child").Click();
        browser.Fill("input[name=why]", "they run short of canes");
        browser.Press("Send there");
        browser.WaitText("they run short of canes");
        Assert.Equal(2, await db.ManifestLines.CountAsync(m => db.Arrivals.Any(a => a.Id == m.ArrivalId && a.Number == "A-2605")));
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    [Fact]
    public async Task What_nobody_planned_opens_an_arrival_at_the_door_from_its_delivery_note_on_a_phone()
    {
        using var browser = new Browser(demo.Url, 390, 844).SignIn("maren");
        browser.Go("/door");
        browser.Wait("input[name=scan], #scan");
        browser.Scan("LS-2026-0417");
        browser.WaitText("LS-2026-0417");
        browser.Fill("input[name=vendor]", "terra");
        browser
            .Until(
                d => d.FindElements(By.CssSelector("input[type=checkbox][value=PO-4438]")).FirstOrDefault(e => e.Displayed),
                "the vendor's open orders"
            )
            .Click();
        browser.Press("Door 4");
        browser.Until(d => d.Url.Contains("/door/A-", StringComparison.Ordinal) ? d : null, "the new tally");
        await using var db = Database.Context(demo.File);
        var arrival = await db.Arrivals.OrderByDescending(a => a.Id).FirstAsync();
        Assert.Equal((ArrivalState.AtDoor, "LS-2026-0417"), (arrival.State, arrival.DeliveryNotes.Single().Number));
        Assert.True(browser.Overflow() <= 0);
    }

    [Fact]
    public async Task The_roster_is_changed_by_keyboard_and_a_rule_is_made_to_forbid()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road/roster");
        var slot = browser.Wait("button.slot[aria-label^='Petra Lindqvale']");
        slot.SendKeys(Keys.Enter);
        browser.Press("Not here");
        browser.WaitText("Petra Lindqvale is not here");
        await using var db = Database.Context(demo.File);
        var petra = await db.People.SingleAsync(p => p.SignInName == "petra");
        Assert.False(await db.Roster.AnyAsync(r => r.PersonId == petra.Id && r.Day == new DateOnly(2026, 3, 9)));

        using var office = new Browser(demo.Url).SignIn("anselm");
        office.Go("/site/planning");
        office.Wait("select[name=rule-YardSpot] option[value=forbids]").Click();
        office.Press("Keep the settings");
        office.WaitText("The day board goes by it from now on");
        Assert.DoesNotContain(PlanRule.YardSpot, (await SettingsRows.Load<PlanSettings>(db, SettingsOf.Road))[1].Value.Advisory);
    }

    [Fact]
    public void Orders_come_in_from_a_file_that_is_looked_at_first()
    {
        using var buyer = new Browser(demo.Url).SignIn("dilys");
        var good = Path.Combine(Path.GetTempPath(), "orders.csv");
        File.WriteAllText(good, "order,vendor,line,item,quantity,unit,due,site\nPO-8800,NILG,1,CB-05,10,carton,2026-04-01,LM\n");
        buyer.Go("/road/import");
        buyer.Wait("input[type=file]").SendKeys(good);
        buyer.WaitText("1 order with 1 line part.");
        buyer.Press($"Import {Path.GetFileName(good)}");
        buyer.WaitText("In: 1 order with 1 line part.");
        File.WriteAllText(good, "order,vendor,line,item,quantity,unit,due,site\nPO-8801,NILG,1,NO-ITEM,10,carton,2026-04-01,LM\n");
        buyer.Go("/road/import");
        buyer.Wait("input[type=file]").SendKeys(good);
        buyer.WaitText("no item has this code");
    }

    async Task Changed(string number, int before)
    {
        for (var i = 0; i < 100; i++)
        {
            if ((await Arrival(number)).PlanVersion > before)
                return;
            await Task.Delay(50);
        }

        Assert.Fail($"{number} was not moved");
    }
}
