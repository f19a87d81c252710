using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Cage;
using MudRoom.Data;

namespace MudRoom.Browser.Tests;

/// <summary>Holds and what lifts them; rules of holds on their page: tried, signed, changed, ended.</summary>
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

    [Fact]
    public async Task Probes_leave_the_cage_on_a_phone_when_their_test_report_was_looked_at_and_not_on_another_paper()
    {
        var paper = Path.Combine(Path.GetTempPath(), "cells.pdf");
        await File.WriteAllBytesAsync(paper, "%PDF-1.7\n"u8.ToArray());
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        browser.Resize(390, 844);
        await using var db = Database.Context(demo.File);
        var hold = await db.Holds.Where(h => h.Sentence == "Lithium cells want their test report").Select(h => h.Number).SingleAsync();
        browser.Go($"/cage?hold={hold}");
        browser.WaitText("It can be lifted when its conditions are met.");
        browser.Press("Look at it");
        browser.WaitText("No paper is attached yet.");
        void attach(string kind)
        {
            browser.Wait($"select[name=paper-kind] option[value={kind}]").Click();
            browser.Wait("input[name=hold-paper]").SendKeys(paper);
            browser.WaitText($"attached to {hold}");
        }

        attach("PhytosanitaryCertificate");
        browser.Press("Look at it");
        browser.Press("I looked at it");
        browser.WaitText($"is a phytosanitary certificate; {hold} wants a test report.");
        attach("TestReport");
        browser.Press("Look at it");
        browser.Press("I looked at it");
        browser.WaitText("Met by Wanjiru Holloway with cells.pdf. It can be lifted.");
        Assert.Equal(0, browser.Overflow());
        browser.Press("Sign and release 6");
        browser.WaitText("6 each of Soil probe SP-3, radio are usable.");
        Assert.False(await db.Holds.Where(h => h.Number == hold).Select(h => h.IsOpen).SingleAsync());
    }

    [Fact]
    public async Task Torn_sacks_decided_in_two_parts_stay_in_the_books_until_each_has_gone_and_somebody_else_has_seen_the_scrapping()
    {
        using var browser = new Browser(demo.Url).SignIn("wanjiru");
        await using var db = Database.Context(demo.File);
        var hold = await db
            .Holds.Where(h => h.IsOpen && h.Reason == HoldReason.CountedAside && db.Items.Any(i => i.Id == h.ItemId && i.Code == "SD-MUS"))
            .OrderBy(h => h.Id)
            .Select(h => new
            {
                h.Number,
                h.BatchId,
                h.Quantity,
            })
            .FirstAsync();
        async Task<decimal> there() =>
            (await db.Balances.AsNoTracking().Where(b => b.BatchId == hold.BatchId).ToListAsync()).Sum(b => b.Quantity);
        var before = await there();
        void decide(string kind, decimal quantity)
        {
            browser.Wait($"select[name=decision] option[value={kind}]").Click();
            browser.Fill("input[name=quantity]", $"{quantity:0}");
            browser.Fill("input[name=why]", "torn in the container");
            browser.PressAt("form.decide button");
        }

        browser.Go($"/cage?hold={hold.Number}");
        decide("Scrap", hold.Quantity - 25);
        browser.WaitText("are to be scrapped. They are held until that has happened.");
        var part = await db.Holds.Where(h => h.IsOpen).OrderByDescending(h => h.Id).Select(h => h.Number).FirstAsync();
        decide("ReturnToVendor", 25);
        browser.WaitText($"{hold.Number}: 25 kg of White mustard seed are to be returned to vendor.");
        browser.WaitText("Take the decision back");
        Assert.Equal(before, await there());
        browser.PressAt("form.decide button.go");
        browser.WaitText("25 kg of White mustard seed: returned to vendor.");
        Assert.Equal(before - 25, await there());

        browser.Resize(390, 844);
        browser.Go($"/cage?hold={part}");
        browser.WaitText("Who saw it");
        browser.PressAt("form.decide button.go");
        browser.WaitText("What is scrapped is seen by somebody besides Wanjiru Holloway.");
        browser.Fill("input[name=witness]", "leila");
        browser.Fill("input[name=witness-password]", "guessed");
        browser.PressAt("form.decide button.go");
        browser.WaitText("Name and password are not those of somebody who works here.");
        browser.Fill("input[name=witness-password]", "leila-mud-03");
        browser.PressAt("form.decide button.go");
        browser.WaitText("of White mustard seed: scrapped.");
        Assert.Equal(before - hold.Quantity, await there());
        Assert.Equal(0, browser.Overflow());
    }

    static (int Days, HoldDays Counted, bool IsOpen) Only(List<HoldRule> rules)
    {
        var rule = Assert.Single(rules);
        return (rule.Days, rule.Counted, rule.IsOpen);
    }
}
