using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Data;
using MudRoom.Tests;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>A demo of the way through's own: it needs the doors and the bins as the day begins.</summary>
public sealed class WayDemo : Demo;

/// <summary>One arrival of two vendors' orders from the road to the shelf, through the real screens, with scanner-like typing.</summary>
[Collection("each on a demo of its own")]
public sealed class WayThroughTests(WayDemo demo) : IClassFixture<WayDemo>
{
    static readonly IReadOnlyList<Core.Site.Item> items = DemoTemplate.Of.Items;

    static string Gtin(string item, string pack) => items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;

    Core.Book.SourceBatch? SourceBatch(string number)
    {
        using var db = Data.Database.Context(demo.File);
        return db.SourceBatches.AsNoTracking().FirstOrDefault(b => b.Number == number);
    }

    [Fact]
    public async Task From_the_road_to_the_shelf_and_found_again()
    {
        // Road: expected, and brought to its door.
        using var supervisor = new Browser(demo.Url).SignIn("wanjiru");
        supervisor.Go("/road/arrivals/A-2621");
        supervisor.WaitText("Halvorsgård Frø, Kitagiri Blades");
        supervisor.PressAt(".bring .row button.go");
        supervisor.Wait(".lines li");
        Assert.EndsWith("/door/A-2621", supervisor.Driver.Url);

        // Door, on a phone: a GS1 string fills item, batch, dates and origin; scanning again adds one; the next thing takes it.
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("maren");
        receiver.Go("/door/A-2621");
        receiver.Wait(".lines li");
        var carrots = $"]d201{Gtin("SD-CARR", "box")}11260201152802011" + "0HF-C-900\u001d422208";
        receiver.Scan(carrots);
        receiver.WaitSaid("source batch HF-C-900");
        Assert.Equal("20", receiver.Wait("#quantity").Text);
        receiver.Scan(carrots);
        receiver.WaitSaid("One more: 2 boxes");
        receiver.Fill("input[name=packs]", "20");
        Assert.Contains("PO-4477", receiver.Wait(".line").Text);
        receiver.Scan($"(01){Gtin("SC-21", "box")}(10)KB-2001");
        receiver.WaitSaid("Bypass secateurs 21 cm, box of 10 each");
        receiver.WaitSaid("400 each of Carrot seed pouch, usable");
        receiver.Fill("input[name=packs]", "6");
        receiver.PressAt("#take");
        receiver.WaitText("to inspect, in D1-R4");

        // Both see each other's counts.
        supervisor.Until(
            d => d.FindElements(By.CssSelector(".history li")).Any(e => e.Text.Contains("Maren: Bypass secateurs")) ? d : null,
            "Maren's count at the desk"
        );

        // Too short a life is doubted and counted aside; swapped dates are refused and swapped back.
        receiver.Scan($"(01){Gtin("NM-50", "box")}(11)260301(15)260314(10)HF-N-77");
        receiver.WaitSaid("Nematode pack");
        receiver.PressAt("#take");
        receiver.WaitText("leaves 4 days");
        receiver.Press("Count them aside");
        receiver.PressAt("#take");
        receiver.WaitText("held, in D1-R5");
        receiver.Scan($"(01){Gtin("SD-ONIO", "box")}(11)270601(15)260110(10)HF-O-31(422)208");
        receiver.WaitSaid("Onion seed pouch");
        receiver.PressAt("#take");
        receiver.WaitText("is before production");
        receiver.Press("Swap the two");
        receiver.PressAt("#take");
        receiver.WaitText("20 each of Onion seed pouch");

        // A label that only letters say: its dates are typed as they stand there, and what was understood is said.
        receiver.Scan($"(01){Gtin("SD-ONIO", "box")}(10)HF-O-32(422)208");
        receiver.WaitSaid("Onion seed pouch");
        receiver.Fill("input[name=production]", "02.03.26");
        receiver.Fill("input[name=bestBefore]", "MAR 2028");
        receiver.WaitText("2 Mar 2026");
        receiver.WaitText("March 2028");
        receiver.PressAt("#take");
        receiver.Until(d => SourceBatch("HF-O-32") is { } batch ? batch : null, "the source batch");
        Assert.Equal(
            (new DateOnly(2026, 3, 2), new DateOnly(2028, 3, 31)),
            (SourceBatch("HF-O-32")!.Production, SourceBatch("HF-O-32")!.BestBefore)
        );

        // Taking back the last one leaves it as if it had not been.
        receiver.Press("Trail");
        receiver.Press("Take back");
        receiver.WaitText("(taken back)");

        // Shelf, on a phone: while the tally goes on. The goods are scanned, a wrong bin is refused, the proposed one takes them.
        using var driver = new Browser(demo.Url, 390, 844).SignIn("callum");
        driver.Go("/shelf");
        driver.Wait("#bin");
        driver.Scan($"(01){Gtin("SD-CARR", "box")}(10)HF-C-900");
        driver.WaitSaid("400 each of Carrot seed pouch to K-");
        driver.Scan("O-05-1");
        driver.WaitSaid("Carrot seed pouch wants cold");
        var bin = driver.Until(
            d => d.FindElement(By.Id("bin")).Text is { } text && text.StartsWith("K-", StringComparison.Ordinal) ? text : null,
            "a cold bin"
        );
        driver.Scan(bin);
        driver.WaitSaid($"400 each of Carrot seed pouch in {bin}");

        // Bench: the sample is drawn, filled by keyboard, and the verdict signed.
        using var inspector = new Browser(demo.Url).SignIn("sunita");
        inspector.Go("/bench");
        inspector.WaitText("1 carton of 60");
        inspector.Until(
            d =>
            {
                var card = d.FindElements(By.CssSelector(".queue-card")).First(c => c.Text.Contains("1 carton of 60"));
                card.Click();
                return card;
            },
            "the lot"
        );
        inspector.PressAt("#draw");
        inspector.Wait("table.sheet");
        FillSheet(inspector);
        inspector.Fill("input[name=signature]", "sunita-mud-06");
        inspector.Fill("input[name=comment]", "All good.");
        inspector.Press("Sign: accepted");
        inspector.WaitText("it cannot be changed");

        // Door: closed line by line, with a delivery note per vendor; receipts are posted.
        supervisor.Go("/door/A-2621");
        supervisor.Wait(".lines li");
        supervisor.PressAt("#close-tally");
        supervisor.Wait(".closing");
        supervisor.Press("Close and post");
        supervisor.WaitText("nobody has said whether more comes");
        foreach (var choice in supervisor.Driver.FindElements(By.CssSelector("input[type=radio][value=MoreToCome]")))
            choice.Click();
        foreach (var (field, i) in supervisor.Driver.FindElements(By.CssSelector("input[name^=note-]")).Select((f, i) => (f, i)))
            field.SendKeys($"DN-9900{i}");
        supervisor.Press("Close and post");
        supervisor.WaitText("is counted in");
        Assert.Equal(2, supervisor.Driver.FindElements(By.XPath("//li[contains(., 'delivery note DN-9900')]")).Count);

        // Cage: the nematodes held are decided over.
        supervisor.Go("/cage");
        supervisor.Until(
            d =>
            {
                var card = d.FindElements(By.CssSelector(".queue-card")).FirstOrDefault(c => c.Text.Contains("Nematode"));
                card?.Click();
                return card;
            },
            "the nematodes' hold"
        );
        supervisor.Fill("input[name=quantity]", "20");
        supervisor.Fill("input[name=why]", "Used up today by the glasshouse.");
        new OpenQA.Selenium.Support.UI.SelectElement(supervisor.Wait("select[name=decision]")).SelectByValue("ReleaseUnderConcession");
        supervisor.Fill("input[name=asked-by]", "The glasshouse");
        supervisor.Fill("input[name=for-whom]", "job J-230");
        supervisor.Press("Decide");
        supervisor.WaitText("Released under concession");

        // Book: found again with everything that happened to it.
        supervisor.Go("/book");
        supervisor.Wait(".entries li");
        supervisor.Scan("HF-C-900");
        supervisor.WaitText(bin);
        supervisor.WaitText($"put into {bin}");
        supervisor.WaitText("on PO-4477 line 1");

        await using var db = Database.Context(demo.File);
        Assert.Equal(
            ArrivalState.CountedIn,
            (await db.Arrivals.FirstAsync(a => a.Number == "A-2621", TestContext.Current.CancellationToken)).State
        );
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
        var arrival = await db.Arrivals.FirstAsync(a => a.Number == "A-2621", TestContext.Current.CancellationToken);
        Assert.Equal(
            Core.Bench.Verdict.Accepted,
            (await db.Inspections.FirstAsync(i => i.ArrivalId == arrival.Id, TestContext.Current.CancellationToken)).Verdict
        );
        Assert.Equal(ArrivalState.CountedIn, arrival.State);
    }

    /// <summary>Every value good: typed into its field, looks pressed.</summary>
    static void FillSheet(Browser inspector)
    {
        for (var turn = 0; turn < 400; turn++)
        {
            if (inspector.Driver.FindElements(By.CssSelector("form.sign")).Count > 0)
                return;
            var before = inspector.Driver.FindElement(By.CssSelector(".word span")).Text;
            var acted = (bool)
                inspector.Driver.ExecuteScript(
                    """
                    const row = document.querySelector('tr.hand');
                    if (!row) return false;
                    const field = [...row.querySelectorAll('input')].find((i) => !i.value);
                    if (field) {
                      const name = field.getAttribute('aria-label');
                      field.value = name.startsWith('Gap') ? '0.08' : name.startsWith('Hard') ? '56' : '212';
                      field.dispatchEvent(new Event('change', { bubbles: true }));
                      return true;
                    }
                    const look = [...row.querySelectorAll('.looks')].find((l) => !l.querySelector('[aria-pressed=true]'));
                    if (!look) return false;
                    look.querySelector('button').click();
                    return true;
                    """
                )!;
            if (acted)
                inspector.Until(
                    d =>
                        d.FindElements(By.CssSelector("form.sign")).Count > 0 || d.FindElement(By.CssSelector(".word span")).Text != before
                            ? d
                            : null,
                    "the sheet to take the finding"
                );
            else
                Thread.Sleep(60);
        }

        throw new TimeoutException("The sheet was not filled in 400 turns.");
    }
}
