using MudRoom.Tests;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>Bench as its inspector uses it: a plan from draft to signature, a sheet by keyboard, what past lots say of the next.</summary>
[Collection("one after another")]
public sealed class BenchTests(Demo demo)
{
    [Fact]
    public void A_plan_is_drafted_compared_signed_in_force_drawn_by_the_next_lot_and_its_sheet_filled_by_keyboard_alone()
    {
        using var browser = new Browser(demo.Url).SignIn("sunita");
        browser.Go("/bench/plans/1");
        browser.PressAt("#begin-draft");
        browser.WaitText("Draft of version 2 begun");
        browser.Press("Length");
        var upper = browser.Wait("input[name=upper]");
        // A limit that crosses the other is kept as a draft, said, and cannot be signed.
        upper.SendKeys(Keys.Control + "a");
        upper.SendKeys("200" + Keys.Tab);
        browser.WaitText("the lower limit 209 lies above the upper 200");
        Assert.False(browser.Wait("#sign-plan").Enabled);
        upper = browser.Wait("input[name=upper]");
        upper.SendKeys(Keys.Control + "a");
        upper.SendKeys("214" + Keys.Tab);
        browser.WaitText("upper limit was 215");
        browser.Until(d => d.FindElement(By.Id("sign-plan")).Enabled ? "yes" : null, "that it may be signed");
        browser.PressAt("#sign-plan");
        browser.Fill("input[name=signature]", "sunita-mud-06");
        browser.Press("Sign version 2 in force");
        browser.WaitText("Cutting tools, version 2, is in force");

        browser.Go("/bench/I-0017");
        browser.PressAt("#draw");
        browser.WaitText("Cutting tools, version 2");
        browser.WaitText("209 to 214 mm");

        // Two pieces: each value typed, Enter, and the cursor stands in the next; a look is one Enter.
        browser.Wait("tr.hand [data-open]").SendKeys("");
        browser.Driver.ExecuteScript("document.querySelector('tr.hand [data-open]').focus()");
        var keys = 0;
        string[] typed = ["0.08", "56", "212", "", ""];
        for (var piece = 1; piece <= 2; piece++)
        for (var i = 0; i < typed.Length; i++)
        {
            var made = (piece - 1) * typed.Length + i;
            browser.Until(
                d =>
                    d.SwitchTo().ActiveElement() is var here
                    && here.GetDomAttribute("data-open") is not null
                    && here.FindElement(By.XPath("ancestor::tr")).GetDomAttribute("data-piece") == piece.ToString()
                    && Found() == made
                        ? "there"
                        : null,
                $"the cursor in value {i + 1} of piece {piece}"
            );
            browser.Driver.SwitchTo().ActiveElement().SendKeys(typed[i] + Keys.Enter);
            keys++;
        }

        browser.Until(_ => Found() == 10 ? "all" : null, "ten findings");
        // At most two keys beside the digits for each value.
        Assert.True(keys <= 2 * Found());

        int Found()
        {
            using var db = Data.Database.Context(demo.File);
            return db.Inspections.Where(i => i.Number == "I-0017").SelectMany(i => i.Findings).Count();
        }
    }

    [Fact]
    public void What_past_lots_say_of_the_next_is_read_by_keyboard_and_as_a_table()
    {
        using var browser = new Browser(demo.Url).SignIn("sunita");
        browser.Go("/bench/coming");
        browser.WaitText("Gap at the tip has risen for six lots. At this pace its mean passes the limit in");
        browser.WaitText("six in a row, each further than the one before");
        var chart = browser.Wait("[role=application]");
        chart.SendKeys(Keys.Home);
        browser.Until(
            d => d.FindElement(By.CssSelector("p.point")).Text.StartsWith("I-0001", StringComparison.Ordinal) ? "it" : null,
            "the first lot"
        );
        browser.Press("table");
        Assert.Equal(
            14,
            browser
                .Until(d => d.FindElements(By.CssSelector("main table.list tbody tr")) is { Count: > 0 } rows ? rows : null, "rows")
                .Count
        );
        // The sheet of the next lot warns of it.
        browser.Go("/bench/I-0015");
        browser.WaitText("Gap at the tip, lot after lot");
    }
}
