using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Data;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace MudRoom.Browser.Tests;

/// <summary>A load without a door on the board of the day, in a demo of its own: what it gets, others would miss.</summary>
[Collection("each on a demo of its own")]
public sealed class BoardTests(RoadDemo demo) : IClassFixture<RoadDemo>
{
    async Task<Arrival> Arrival(string number)
    {
        await using var db = Database.Context(demo.File);
        return await db.Arrivals.AsNoTracking().FirstAsync(a => a.Number == number && a.SiteId == 1);
    }

    async Task Planned(string number)
    {
        for (var i = 0; i < 100 && (await Arrival(number)).PlannedDoorId is null; i++)
            await Task.Delay(50);
        Assert.NotNull((await Arrival(number)).PlannedDoorId);
    }

    [Fact]
    public async Task A_load_without_a_door_is_laid_on_one_by_keyboard_or_dragged_and_a_press_alone_leaves_it()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Go("/road");
        var waits = browser.Wait("button.waiting[data-number='A-2627']");
        var before = await Arrival("A-2627");
        Assert.Null(before.PlannedDoorId);
        waits.Click();
        Thread.Sleep(600);
        Assert.Equal(before.PlanVersion, (await Arrival("A-2627")).PlanVersion);

        // By keyboard: taken up and left, then taken up and laid on the next door.
        void Keys(params string[] keys)
        {
            browser.Driver.ExecuteScript("document.querySelector(\"button.waiting[data-number='A-2627']\").focus()");
            foreach (var key in keys)
                new Actions(browser.Driver).SendKeys(key).Perform();
        }
        Keys(OpenQA.Selenium.Keys.Enter, OpenQA.Selenium.Keys.ArrowDown, OpenQA.Selenium.Keys.ArrowRight, OpenQA.Selenium.Keys.Escape);
        browser.Until(
            d =>
                d.FindElements(By.CssSelector("[aria-live=assertive]")).Any(e => e.GetDomProperty("textContent") == "Left where it was.")
                    ? d
                    : null,
            "word that it was left"
        );
        Assert.Equal(before.PlanVersion, (await Arrival("A-2627")).PlanVersion);
        Keys(OpenQA.Selenium.Keys.Enter, OpenQA.Selenium.Keys.ArrowDown, OpenQA.Selenium.Keys.Enter);
        browser.WaitText("Nobody is named to unload A-2627");
        browser.Go("/road");
        waits = browser.Wait("button.waiting[data-number='A-2627']");
        var (from, to) = (waits.Location, browser.Wait(".plane").Location);
        new Actions(browser.Driver)
            .MoveToElement(waits)
            .ClickAndHold()
            .MoveByOffset(200, -60)
            .MoveByOffset(to.X + 500 - (from.X + waits.Size.Width / 2 + 200), to.Y + 32 - (from.Y + waits.Size.Height / 2 - 60))
            .Release()
            .Perform();
        // It has no crew yet: the board says so, and has the nearest plan that keeps all rules.
        browser.WaitText("Nobody is named to unload A-2627");
        browser
            .Until(
                d => d.FindElements(By.CssSelector("button.go")).FirstOrDefault(b => b.Text.StartsWith("Door ", StringComparison.Ordinal)),
                "the nearest plan"
            )
            .Click();
        await Planned("A-2627");
    }
}
