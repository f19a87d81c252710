using Microsoft.EntityFrameworkCore;
using MudRoom.Data;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>A demo of the newcomer's own: the truck of the ten minutes is still to come.</summary>
public sealed class NewcomerDemo : Demo;

/// <summary>The demo's own door, as somebody finds it who has never seen the house.</summary>
[Collection("each on a demo of its own")]
public sealed class TenMinutesTests(NewcomerDemo demo) : IClassFixture<NewcomerDemo>
{
    /// <summary>A newcomer presses what is offered, step by step, and each tick is of something that has really happened.</summary>
    [Fact]
    public async Task Ten_minutes_lead_a_newcomer_through_the_house()
    {
        using var newcomer = new Browser(demo.Url, 390, 844);
        newcomer.Go("/");
        newcomer.Wait(".card[data-person=efua]");
        newcomer.PressAt("#ten-minutes-begin");
        IReadOnlyList<string> Ticked() =>
            [.. newcomer.Driver.FindElements(By.CssSelector("section[aria-label^=Ten] .step.done")).Select(s => s.GetAttribute("title")!)];
        void Go(string who)
        {
            newcomer.PressAt("#ten-minutes-go");
            newcomer.Until(
                d =>
                    d.FindElements(By.CssSelector(".strip, header")).Count > 0
                    && d.PageSource.Contains(who, StringComparison.Ordinal)
                    && d.FindElements(By.Id("ten-minutes-go")).Count == 0
                        ? d
                        : null,
                who
            );
        }

        Go("Wanjiru");
        Assert.Empty(Ticked());
        newcomer.PressAt(".bring .row button.go");
        newcomer.Until(_ => Ticked().Contains("Bring a truck to its door") ? new object() : null, "the first tick");
        Go("Maren");
        newcomer.Wait(".lines li");
        newcomer.PressAt("section[aria-label^=Ten] button[data-scan]");
        newcomer.Fill("input[name=packs]", "20");
        newcomer.PressAt("#take");
        newcomer.Until(_ => Ticked().Contains("Count the seed") ? new object() : null, "the seed ticked");
        await using var db = Database.Context(demo.File);
        var arrival = await db.Arrivals.FirstAsync(a => a.Number == "A-2621", TestContext.Current.CancellationToken);
        Assert.True(
            await db.TallyEntries.AnyAsync(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null, TestContext.Current.CancellationToken)
        );
        // What has not happened is not ticked, and straying loses nothing.
        Assert.DoesNotContain("Find it again", Ticked());
        newcomer.Go("/road");
        newcomer.Until(_ => Ticked().Contains("Count the seed") ? new object() : null, "the ticks after straying");
    }
}
