using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Data;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>Customers' returns from their announcement, or from the door, to scrap and to stock.</summary>
public sealed class ReturnTests(RoadDemo demo) : IClassFixture<RoadDemo>
{
    async Task<List<(Standing Standing, decimal Quantity)>> Stock(string order)
    {
        await using var db = Database.Context(demo.File);
        var holds = db.Holds.Where(h => db.OrderLines.Any(l => l.Id == h.OrderLineId && l.Order!.Number == order)).Select(h => h.Id);
        var lots = db.Statements.Where(s => holds.Contains(s.HoldId!.Value)).Select(s => s.LotId);
        var rows = await db.Balances.Where(b => lots.Contains(b.LotId!.Value) && b.Quantity > 0).ToListAsync();
        return [.. rows.GroupBy(b => b.Standing).Select(g => (g.Key, g.Sum(b => b.Quantity)))];
    }

    static void Find(Browser browser, string found, string quantity, string note)
    {
        browser.PressAt($"select[name=found] option[value={found}]");
        browser.Fill("input[name=found-quantity]", quantity);
        browser.Fill("input[name=found-note]", note);
        browser.Press("That is the finding");
    }

    static void Decide(Browser browser, string kind, string quantity)
    {
        browser.PressAt($"select[name=decision] option[value={kind}]");
        browser.Fill("input[name=quantity]", quantity);
        browser.Fill("input[name=why]", "as found");
        browser.Press("Decide");
    }

    [Fact]
    public async Task Pots_that_were_announced_go_to_scrap_and_to_stock_by_what_is_found_of_them()
    {
        const string order = "RT-7001";
        using (var dilys = new Browser(demo.Url).SignIn("dilys"))
        {
            dilys.Go("/road/orders/new");
            dilys.Fill("input[name=number]", order);
            dilys.Wait("select[name=kind] option[value=CustomerReturn]").Click();
            dilys
                .Until(d => d.FindElements(By.CssSelector("select[name=vendor] option[value=HOLN]")).FirstOrDefault(), "customers")
                .Click();
            dilys.Driver.FindElement(By.CssSelector("select[name=item-0] option[value=TP-18]")).Click();
            dilys.Fill("input[name=quantity-0]", "6");
            dilys.Fill("input[name=due-0]", "2026-03-10" + Keys.Tab);
            dilys.Fill("input[name=reason-0]", "two of them are cracked");
            dilys.Press("Keep it, open for receiving");
            dilys.Wait($"a[href='/cage/returns/{order}']").Click();
            dilys.WaitText("The goods are not all here yet");
            dilys.WaitText("“two of them are cracked” credit was promised");
        }

        using var wanjiru = new Browser(demo.Url).SignIn("wanjiru");
        var arrival = wanjiru.Act(
            "/road/arrivals",
            $$"""{"orders":["{{order}}"],"planned":null,"vehicle":"truck","door":1,"atOnce":true,"notIso6346":false,"unplanned":false}""",
            "number"
        );
        wanjiru.Act("/door/count", $$"""{"arrival":"{{arrival}}","item":"TP-18","pack":"each","packs":"6","overAllowed":false}""");
        Assert.Equal([(Standing.ToInspect, 6m)], await Stock(order));

        using (var sunita = new Browser(demo.Url, 390, 844).SignIn("sunita"))
        {
            sunita.Go($"/cage/returns/{order}");
            sunita.WaitText("An inspector says what the goods are");
            Find(sunita, "AsSaid", "2", "");
            sunita.WaitText("A finding wants a sentence");
            Find(sunita, "AsSaid", "2", "cracked through");
            sunita.WaitText("2 each of Terracotta pot 18 cm of RT-7001, as the customer says: cracked through");
            Find(sunita, "NoFault", "4", "ring as they should");
            sunita.WaitText("A supervisor decides what becomes of the goods");
            Assert.Equal(0, sunita.Overflow());
        }

        wanjiru.Go($"/cage/returns/{order}");
        Decide(wanjiru, "UsableAgain", "4");
        wanjiru.WaitText("Usable again: 4 each of Terracotta pot 18 cm are usable.");
        Decide(wanjiru, "Scrap", "2");
        wanjiru.WaitText("What was decided has still to happen");
        Assert.Equal([(Standing.Usable, 4m), (Standing.ToScrap, 2m)], (await Stock(order)).OrderByDescending(s => s.Quantity));
        wanjiru.Fill("input[name=witness]", "leila");
        wanjiru.Fill("input[name=witness-password]", "leila-mud-03");
        wanjiru.Press("They are scrapped");
        wanjiru.WaitText("All of it is done");
        wanjiru.WaitText("2 each scrapped");
        Assert.Equal([(Standing.Usable, 4m)], await Stock(order));
        Assert.Empty(wanjiru.Driver.FindElements(By.CssSelector(".way li:not(.done)")));
    }

    [Fact]
    public async Task One_that_nobody_announced_is_made_at_the_door_on_a_phone_and_goes_back_to_the_customer()
    {
        using var leila = new Browser(demo.Url, 390, 844).SignIn("leila");
        leila.Go("/door/A-2618");
        leila.Press("Trail");
        leila.PressAt("details.unannounced summary");
        leila
            .Until(d => d.FindElements(By.CssSelector("select[name=return-customer] option[value=HOLN]")).FirstOrDefault(), "customers")
            .Click();
        leila.Wait("select[name=return-item] option[value=TP-18]").Click();
        leila.Fill("input[name=return-quantity]", "0");
        leila.Fill("input[name=return-reason]", "wrong size");
        leila.Press("Make a return of it");
        leila.WaitText("it must be more than 0");
        leila.Fill("input[name=return-quantity]", "3");
        leila.Press("Make a return of it");
        leila.WaitText("Nobody announced it");
        await using var db = Database.Context(demo.File);
        var order = leila.Until(
            _ => db.Orders.Where(o => o.Lines.Any(l => l.Note != null && l.Note.Contains("A-2618"))).Select(o => o.Number).FirstOrDefault(),
            "the return"
        );
        Assert.Equal(0, leila.Overflow());
        leila.Act("/door/count", """{"arrival":"A-2618","item":"TP-18","pack":"each","packs":"3","overAllowed":false}""");

        using var sunita = new Browser(demo.Url).SignIn("sunita");
        sunita.Go($"/cage/returns/{order}");
        Find(sunita, "HarmedThere", "3", "painted over");
        sunita.WaitText("Accounts are told, with nothing promised.");
        sunita.PressAt("details.back summary");
        sunita.Fill("input[name=finding-back-why]", "of another lot");
        sunita.Press("Take it back");
        sunita.WaitText("not harmed at the customer's: painted over");
        Find(sunita, "HarmedThere", "3", "painted over");
        sunita.WaitText("A supervisor decides what becomes of it.");

        using var wanjiru = new Browser(demo.Url).SignIn("wanjiru");
        wanjiru.Go($"/cage/returns/{order}");
        Decide(wanjiru, "BackToCustomer", "3");
        wanjiru.Press("They have left");
        wanjiru.WaitText("All of it is done");
        wanjiru.WaitText("3 each gone to a customer");
        Assert.Empty(await Stock(order));
    }
}
