using MudRoom.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace MudRoom.Browser.Tests;

/// <summary>The one list of the house, as people use it at a desk.</summary>
[Collection("one after another")]
public sealed class ListTests(Demo demo)
{
    static List<string> Column(Browser browser, int at) =>
        [.. browser.Driver.FindElements(By.CssSelector($"table.list tbody tr[data-row] td:nth-child({at})")).Select(c => c.Text)];

    static string Focused(Browser browser) =>
        (string)((IJavaScriptExecutor)browser.Driver).ExecuteScript("return document.activeElement.dataset.row ?? ''")!;

    [Fact]
    public void A_list_that_is_all_here_is_ordered_looked_in_and_its_columns_stay_chosen()
    {
        using var browser = new Browser(demo.Url).SignIn("anselm");
        browser.Go("/site");
        browser.Wait("table.list tbody tr[data-row='CB-05']");
        var before = Column(browser, 1);
        Assert.Equal(100, before.Count);
        browser.PressAt("[data-sort=item]");
        browser.Wait("th[aria-sort=ascending]");
        Assert.Equal(Column(browser, 1).Order(StringComparer.OrdinalIgnoreCase), Column(browser, 1));
        browser.PressAt("[data-sort=item]");
        browser.Wait("th[aria-sort=descending]");
        Assert.Equal(Column(browser, 1).OrderDescending(StringComparer.OrdinalIgnoreCase), Column(browser, 1));
        browser.PressAt("[data-sort=item]");
        browser.WaitGone("th[aria-sort]");
        Assert.Equal(before, Column(browser, 1));

        // What is left over stands on the next page.
        browser.PressAt("nav.pages [data-part=next-trigger]");
        browser.Until(d => Column(browser, 1).Count is > 0 and < 100 ? "" : null, "the second page");
        Assert.DoesNotContain(before[0], Column(browser, 1));
        browser.Fill("input[name=looked]", "terra pot");
        browser.Until(_ => Column(browser, 1) is { Count: > 1 and < 10 } all ? all : null, "the pots");
        Every.One(Column(browser, 1), name => Assert.Contains("Terracotta pot", name, StringComparison.Ordinal));

        browser.PressAt("details.choice summary");
        browser
            .Until(d => d.FindElements(By.CssSelector("details.choice label")).FirstOrDefault(l => l.Text == "Packs"), "the column")
            .Click();
        browser.Until(d => d.FindElements(By.CssSelector("thead th")).All(h => h.Text != "Packs") ? "" : null, "no packs");
        browser.Go("/site");
        browser.Wait("table.list tbody tr[data-row='CB-05']");
        Assert.DoesNotContain("Packs", browser.Driver.FindElements(By.CssSelector("thead th")).Select(h => h.Text));
        browser.PressAt("details.choice summary");
        browser
            .Until(d => d.FindElements(By.CssSelector("details.choice label")).FirstOrDefault(l => l.Text == "Packs"), "the column")
            .Click();
    }

    [Fact]
    public void A_list_that_comes_page_by_page_is_ordered_by_the_server_and_walked_by_keyboard()
    {
        using var browser = new Browser(demo.Url).SignIn("dilys");
        browser.Go("/road/orders");
        browser.Wait("th[aria-sort=descending] [data-sort=ordered]");
        browser.PressAt("[data-sort=order]");
        browser.Wait("th[aria-sort=ascending] [data-sort=order]");
        browser.Until(
            _ => Column(browser, 1) is { Count: > 1 } all && all.SequenceEqual(all.Order(StringComparer.Ordinal)) ? all : null,
            "by number"
        );
        var first = Column(browser, 1);
        var file = browser.Driver.FindElement(By.CssSelector("a[download]")).GetAttribute("href")!;
        Assert.Contains("sort=Number", file, StringComparison.Ordinal);

        var rows = browser.Driver.FindElements(By.CssSelector("tr[data-row]"));
        ((IJavaScriptExecutor)browser.Driver).ExecuteScript("arguments[0].focus()", rows[0]);
        void Type(string keys) => new Actions(browser.Driver).SendKeys(keys).Perform();
        Type(Keys.ArrowDown + Keys.ArrowDown + Keys.ArrowUp);
        Assert.Equal(first[1], Focused(browser));
        Type(Keys.End);
        Assert.Equal(first[^1], Focused(browser));
        Type(Keys.ArrowDown);
        Assert.Equal(first[^1], Focused(browser));
        Type(Keys.PageDown);
        browser.Until(_ => Column(browser, 1) is { Count: > 1 } all && all[0] != first[0] ? all : null, "the next page");
        ((IJavaScriptExecutor)browser.Driver).ExecuteScript("document.querySelector('tr[data-row]').focus()");
        Type(Keys.PageUp);
        browser.Until(_ => Column(browser, 1).SequenceEqual(first) ? first : null, "the page before");
        ((IJavaScriptExecutor)browser.Driver).ExecuteScript("document.querySelector('tr[data-row]').focus()");
        Type(Keys.Home + Keys.Enter);
        browser.Until(d => d.Url.EndsWith("/road/orders/" + first[0], StringComparison.Ordinal) ? "" : null, "the order's page");
    }

    [Fact]
    public void Who_finds_goods_that_look_wrong_holds_them_from_Book_and_the_line_names_the_hold()
    {
        using var inspector = new Browser(demo.Url).SignIn("sunita");
        inspector.Go("/book?text=CG-1M");
        inspector.Wait("table.list td");
        inspector.Press("Hold");
        inspector.Fill("input[name=issue-quantity]", "2");
        inspector.Fill("input[name=hold-why]", "wet through");
        inspector.PressAt(".issue button.go");
        inspector.WaitText("are held, by H-");
        var number = inspector.Wait("table.list a[href^='/cage?hold=']").Text;
        inspector.Go("/cage?hold=" + number);
        inspector.WaitText("wet through");
        inspector.WaitText("Laid by Sunita Gellatly; a supervisor lifts it.");
    }

    [Fact]
    public void A_standing_is_added_by_keyboard_goods_are_held_as_it_and_what_was_issued_of_them_is_undone_from_its_entry()
    {
        using (var administrator = new Browser(demo.Url).SignIn("anselm"))
        {
            administrator.Go("/site/standings");
            administrator.Wait("table td");
            administrator.Press("Add a standing");
            administrator.Fill("input[name=word]", "frost shy");
            administrator.Wait("select[name=kind]").SendKeys("usable");
            foreach (var choice in new[] { "lets-Issue", "place-Cage", "place-Pick" })
                administrator.Wait($"input[name={choice}]").SendKeys(Keys.Space);
            // A person is slower than a scanner, whose Enter ends a scan.
            Thread.Sleep(400);
            administrator.Wait(".settings button.go").SendKeys(Keys.Enter);
            administrator.WaitText("Standing frost shy was added, of the kind usable.");
            administrator.PressAt(".one");
            administrator.Wait("input[name=place-Pick]").SendKeys(Keys.Space);
            administrator.Press("What would it forbid?");
            administrator.WaitText("of stock would stand where usable goods may not");
        }

        using var wanjiru = new Browser(demo.Url).SignIn("wanjiru");
        wanjiru.Go("/book?text=CP-08");
        wanjiru.Wait("table.list td");
        wanjiru.Press("Hold");
        wanjiru.Fill("input[name=issue-quantity]", "10");
        wanjiru.Fill("input[name=hold-why]", "not below zero");
        wanjiru.Wait("select[name=hold-as]").SendKeys("frost shy");
        wanjiru.PressAt(".issue button.go");
        wanjiru.WaitText("are frost shy, by H-");
        wanjiru
            .Until(
                d => d.FindElements(By.XPath("//tr[contains(., 'frost shy')]//button[normalize-space(.) = 'Issue']")).FirstOrDefault(),
                "Issue beside them"
            )
            .Click();
        wanjiru.Fill("input[name=issue-quantity]", "4");
        wanjiru.Fill("input[name=reference]", "J-77");
        wanjiru.PressAt(".issue button.go");
        wanjiru.WaitText("issued for J-77");
        wanjiru.PressAt("button[aria-label^='Undo entry']");
        wanjiru.Fill("input[name=undo-why]", "wrong job");
        wanjiru.PressAt(".issue button.go");
        wanjiru.WaitText("Taken back: 4 each of Coir pot 8 cm");
        // Found from the job they were for, and from there on to the hold that speaks for them.
        wanjiru.Go("/book?text=J-77");
        wanjiru.WaitText("undoes entry");
        wanjiru.Press("CP-08");
        wanjiru.WaitText("What happened with CP-08");
    }

    /// <summary>What somebody waited for is theirs from its count on: the book says so, gives it to nobody else, and takes their word that
    /// they wait no more.</summary>
    [Fact]
    public void Goods_that_somebody_waits_for_are_kept_for_them()
    {
        using var wanjiru = new Browser(demo.Url).SignIn("wanjiru");
        wanjiru.Act(
            "/road/import",
            """{"name":"kept.csv","text":"order,vendor,line,item,quantity,waiting_quantity,waiting_for,due,site\nPO-KEPT,BRAC,1,ST-CU,9,6,WO-88 glasshouse,2026-03-10,LM\n"}"""
        );
        var arrival = wanjiru.Act(
            "/road/arrivals",
            """{"orders":["PO-KEPT"],"planned":null,"vehicle":"truck","door":1,"atOnce":true,"notIso6346":false,"unplanned":false}""",
            "number"
        );
        wanjiru.Act("/door/count", $$"""{"arrival":"{{arrival}}","item":"ST-CU","pack":"each","packs":"9","overAllowed":false}""");
        wanjiru.Go("/shelf");
        wanjiru.WaitText("Waited for: WO-88 glasshouse.");

        wanjiru.Go("/book?text=ST-CU");
        wanjiru.WaitText("6 kept for who waits");
        Beside("Issue");
        // Who waits stands in the field already; for somebody else it is refused, and what was typed stays.
        Assert.Equal("WO-88 glasshouse", wanjiru.Wait("input[name=reference]").GetAttribute("value"));
        wanjiru.Fill("input[name=reference]", "J-12");
        wanjiru.Fill("input[name=issue-quantity]", "5");
        wanjiru.PressAt(".issue button.go");
        wanjiru.WaitText("3 each free; 6 are kept for WO-88 glasshouse");
        wanjiru.Press("For them");
        wanjiru.PressAt(".issue button.go");
        wanjiru.WaitText("issued for WO-88 glasshouse");
        wanjiru.WaitText("1 kept for WO-88 glasshouse");

        Beside("Keep no more");
        wanjiru.Fill("input[name=free-why]", "they have enough");
        wanjiru.PressAt(".issue button.go");
        wanjiru.WaitText("not kept for WO-88 glasshouse any more: they have enough");
        wanjiru.Until(d => d.FindElements(By.XPath("//tr[contains(., 'kept for WO-88')]")).Count == 0 ? d : null, "kept for nobody");
        Assert.Equal(0, wanjiru.Overflow());

        void Beside(string button) =>
            wanjiru
                .Until(
                    d =>
                        d.FindElements(By.XPath($"//tr[contains(., 'kept for WO-88')]//button[normalize-space(.) = '{button}']"))
                            .FirstOrDefault(),
                    $"{button} beside them"
                )
                .Click();
    }
}
