using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Cage;
using MudRoom.Data;

namespace MudRoom.Browser.Tests;

/// <summary>Rules of holds on their page: tried, signed, changed, ended.</summary>
[Collection("one after another")]
public sealed class CageTests(Demo demo)
{
    async Task<List<HoldRule>> Rules(string name)
    {
        await using var db = Database.Context(demo.File);
        return await db.HoldRules.AsNoTracking().Where(r => r.Name == name).OrderBy(r => r.Id).ToListAsync();
    }

    [Fact]
    public async Task A_rule_of_holds_says_what_it_would_have_caught_and_is_signed_changed_and_ended()
    {
        const string name = "Plum pox watch";
        using var browser = new Browser(demo.Url).SignIn("sunita");
        browser.Go("/cage");
        browser.Wait("a[href='/cage/rules']").Click();
        browser.WaitText("Name some goods, and what the rule would have caught stands here.");
        browser.Fill("input[name=rule-name]", name);
        browser.Fill("input[name=rule-days]", "5");
        browser.Wait("select[name=rule-counted] option[value=Working]").Click();
        browser.Wait("select[name=rule-category] option[value='bare-root tree']").Click();
        Assert.Contains("It would have caught 2 lots of 1 vendor", browser.Wait("#trial").Text, StringComparison.Ordinal);

        browser.Fill("input[name=signature]", "guessed");
        browser.Press("Sign it in force");
        browser.WaitText("Name and password are not those of who is signed in.");
        Assert.Empty(await Rules(name));
        browser.Fill("input[name=signature]", "sunita-mud-06");
        browser.Press("Sign it in force");
        browser.WaitText("signed in force by Sunita Gellatly: all of bare-root tree: 5 working days from the tally.");
        Assert.Equal((5, HoldDays.Working, true), Only(await Rules(name)));

        browser.Press(name);
        browser.Fill("input[name=rule-days]", "6");
        browser.Fill("input[name=signature]", "sunita-mud-06");
        browser.Press("Sign the change in force");
        browser.WaitText("Before: all of bare-root tree: 5 working days from the tally.");
        Assert.Equal([false, true], (await Rules(name)).Select(r => r.IsOpen));

        browser.Press(name);
        browser.Fill("input[name=signature]", "sunita-mud-06");
        browser.Press("End the rule");
        browser.WaitText("A reason of at most 200 characters is wanted.");
        browser.Fill("input[name=signature]", "sunita-mud-06");
        browser.Fill("input[name=rule-why]", "the watch is over");
        browser.Press("End the rule");
        browser.WaitText("ended by Sunita Gellatly: the watch is over.");
        Assert.All(await Rules(name), r => Assert.False(r.IsOpen));
        browser.Resize(390, 844);
        Assert.Equal(0, browser.Overflow());
    }

    static (int Days, HoldDays Counted, bool IsOpen) Only(List<HoldRule> rules)
    {
        var rule = Assert.Single(rules);
        return (rule.Days, rule.Counted, rule.IsOpen);
    }
}
