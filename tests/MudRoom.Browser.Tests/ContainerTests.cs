using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Data;
using MudRoom.Tests;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>A demo of its own for a container that is counted from the first carton to its receipts.</summary>
public sealed class ContainerDemo : Demo;

/// <summary>A floor-loaded container of three orders: two people count, one of them through a dead spot, a supervisor settles what is wrong
/// from the desk meanwhile.</summary>
[Collection("each on a demo of its own")]
public sealed class ContainerTests(ContainerDemo demo) : IClassFixture<ContainerDemo>
{
    static readonly IReadOnlyList<Core.Site.Item> items = DemoTemplate.Of.Items;

    static string Gtin(string item, string pack) => items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;

    [Fact]
    public async Task From_the_first_carton_to_posted_receipts_nothing_is_lost_doubled_or_on_the_wrong_order()
    {
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        var number = Prepare(desk);
        desk.Go($"/door/{number}");
        desk.Wait(".lines li");
        using var phone = new Browser(demo.Url, 390, 844).SignIn("leila");
        using var second = new Browser(demo.Url).SignIn("tomasz");
        foreach (var browser in new[] { phone, second })
        {
            browser.Go($"/door/{number}");
            browser.Wait(".lines li");
        }

        // Forty cartons of one batch in one entry, and the other person sees them without a reload.
        phone.Scan($"(01){Gtin("CB-05", "carton")}(10)NC-9001");
        phone.WaitSaid("Coir brick 5 kg, carton of 4");
        phone.Fill("input[name=packs]", "40");
        phone.PressAt("#take");
        phone.WaitText("160 each of Coir brick");
        second.WaitText("Leila: Coir brick 5 kg, 40 cartons");

        // Serial numbers one after another: each takes the one before.
        second.Scan($"(01){Gtin("IC-08", "each")}(21)IC-7001");
        second.WaitSaid("serial IC-7001");
        second.Scan("IC-7002");
        second.WaitSaid("Serial IC-7002");
        second.Scan("IC-7003");
        second.WaitSaid("Serial IC-7003");
        second.PressAt("#take");
        second.WaitGone("#take");

        // Production and best before the wrong way round are found at the door.
        second.Scan($"(01){Gtin("SD-PHA", "each")}(10)MK-P-77(11)270331(15)251002(422)356");
        second.WaitSaid("Phacelia");
        second.Fill("input[name=packs]", "50");
        second.PressAt("#take");
        second.WaitText("the two may be swapped");
        second.Press("Swap the two");
        second.PressAt("#take");
        second.WaitText("50 each of Phacelia");

        // Damaged goods stand aside with a reason and a sentence.
        phone.Scan($"(01){Gtin("CB-05", "carton")}(10)NC-9001");
        phone.Wait(".count");
        phone.Fill("input[name=packs]", "2");
        phone.Driver.FindElement(By.CssSelector(".count summary")).Click();
        phone.Wait("select[name=aside]").FindElement(By.XPath("./option[.='Torn or crushed']")).Click();
        phone.PressAt("#take");
        phone.WaitText("wants a sentence");
        phone.Fill("input[name=note]", "crushed under the coir");
        phone.PressAt("#take");
        phone.WaitText("held, in D3-R5");

        // More than was ordered waits for a yes from the desk, while the receiver counts on.
        phone.Scan($"(01){Gtin("CC-70", "carton")}(10)NX-9");
        phone.WaitSaid("Coir chips");
        phone.Fill("input[name=packs]", "12");
        phone.PressAt("#take");
        phone.WaitText("would be over");
        phone.Press("Ask a supervisor, count on");
        desk.WaitText("would be over. Take them?");
        desk.Press("Yes, take them");
        desk.WaitText("answered");

        // A code that nobody knows: named and bound at the desk, counted by itself.
        phone.Scan("FREMD-9077");
        phone.WaitText("Nothing here is called");
        phone.Press("Put it aside as a question");
        desk.WaitText("What is FREMD-9077?");
        desk.Until(d => d.FindElements(By.CssSelector("select[name=question-item] option[value=DL-16]")).FirstOrDefault(), "the items")
            .Click();
        desk.Until(
                d => d.FindElements(By.CssSelector("select[name=question-pack] option")).FirstOrDefault(o => o.Text == "coil"),
                "the packs"
            )
            .Click();
        desk.Press("Count it as this");
        desk.Until(d => d.FindElements(By.XPath("//*[contains(., 'Yes. 1 coil')]")).FirstOrDefault(), "the coil");

        // A dead spot: six cartons are kept on the device, and a badge changes nothing of whose they are.
        Network(phone, offline: true);
        for (var i = 0; i < 6; i++)
            phone.ScanNext($"(01){Gtin("CB-05", "carton")}(10)NC-9002");
        phone.Until(d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "6" ? d : null, "six waiting");
        Network(phone, offline: false);
        phone.WaitGone("#waiting");

        // The desk closes: what is short is decided line by line, each vendor has a note.
        desk.Until(
            d => d.FindElements(By.XPath("//*[contains(., 'Leila: Coir brick 5 kg, 1 carton')]")).FirstOrDefault(),
            "the cartons of the dead spot"
        );
        desk.PressAt("#close-tally");
        desk.WaitText("lines are not complete");
        desk.Press("Close and post");
        desk.WaitText("nobody has said whether more comes");
        foreach (var radio in desk.Driver.FindElements(By.CssSelector(".closing input[type=radio][value=MoreToCome]")))
            radio.Click();
        foreach (var (field, i) in desk.Driver.FindElements(By.CssSelector(".closing input[name^=note-]")).Select((f, i) => (f, i)))
            field.SendKeys($"DN-90{i}");
        desk.Press("Close and post");
        desk.WaitText("is counted in");

        await using var db = Database.Context(demo.File);
        var arrival = await db.Arrivals.SingleAsync(a => a.Number == number);
        var entries = await db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null).ToListAsync();
        decimal Counted(string item) => entries.Where(e => e.ItemId == items.First(i => i.Code == item).Id).Sum(e => e.Quantity);
        Assert.Equal(
            (160 + 8 + 24, 48, 50, 3, 100),
            ((int)Counted("CB-05"), (int)Counted("CC-70"), (int)Counted("SD-PHA"), (int)Counted("IC-08"), (int)Counted("DL-16"))
        );
        Assert.Equal(["IC-7001", "IC-7002", "IC-7003"], entries.Select(e => e.Serial).OfType<string>().Order());
        Assert.Equal(3, await db.Receipts.CountAsync(r => r.ArrivalId == arrival.Id));
        Every.One(entries, e => Assert.NotNull(e.ReceiptId));
        var kinds = await db
            .Discrepancies.Where(d => d.ArrivalId == arrival.Id && !d.TakenBack)
            .Select(d => d.Kind)
            .Distinct()
            .ToListAsync();
        Assert.Equal([DiscrepancyKind.Over, DiscrepancyKind.Short, DiscrepancyKind.Damaged], kinds.Order());

        // The book says the same: each count is one movement from the vendor, and each order has only its own items.
        var seqs = entries.Select(e => e.LedgerSeq).ToList();
        var book = await db.Ledger.Where(e => seqs.Contains(e.Seq)).ToListAsync();
        Assert.Equal(entries.Sum(e => e.Quantity), book.Sum(e => e.Quantity));
        Every.One(book, e => Assert.Equal((EntryKind.Counted, Account.Vendor), (e.Kind, e.FromAccount)));
        Assert.Equal(
            6,
            entries
                .Where(e =>
                    e.PersonName == "Leila Fennimore"
                    && e.Quantity == 4
                    && e.Aside == null
                    && e.ItemId == items.First(i => i.Code == "CB-05").Id
                )
                .Select(e => e.ActId)
                .Distinct()
                .Count()
        );
        var parts = await db
            .LineParts.Where(p => p.Line!.Order!.Number.StartsWith("PO-900"))
            .Select(p => new
            {
                p.Line!.Order!.Number,
                p.ItemId,
                p.Received,
            })
            .ToListAsync();
        Every.One(parts, p => Assert.Equal(entries.Where(e => e.ItemId == p.ItemId).Sum(e => e.Quantity), p.Received));
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    /// <summary>Three orders and a container that carries them, at door 3, which the one before has left empty.</summary>
    static string Prepare(Browser desk)
    {
        string Line(string item, int quantity) => $$"""{"item":"{{item}}","quantity":"{{quantity}}","due":"2026-03-10"}""";
        void Order(string number, string vendor, params string[] lines) =>
            desk.Act(
                "/road/orders/new",
                $$"""{"number":"{{number}}","kind":"Purchase","vendor":"{{vendor}}","draft":false,"lines":[{{string.Join(",", lines)}}]}"""
            );
        Order("PO-9001", "NILG", Line("CB-05", 240), Line("CC-70", 40));
        Order("PO-9002", "MALA", Line("SD-PHA", 60));
        Order("PO-9003", "TARN", Line("IC-08", 3), Line("DL-16", 100));
        var container = Enumerable.Range(0, 10).Select(d => $"WZLU 900117 {d}").First(n => ContainerNumber.Read(n).Refusal is null);
        desk.Act("/yard/step", """{"arrival":"A-2617","step":"Empty"}""", "sentence");
        return desk.Act(
            "/road/arrivals",
            $$"""{"orders":["PO-9001","PO-9002","PO-9003"],"vehicle":"container","container":"{{container}}","door":3,"atOnce":true,"notIso6346":false,"unplanned":true,"handling":"FloorLoaded","units":120}""",
            "number"
        );
    }

    static void Network(Browser browser, bool offline)
    {
        browser.Driver.ExecuteCdpCommand("Network.enable", []);
        browser.Driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new Dictionary<string, object?>
            {
                ["offline"] = offline,
                ["latency"] = 0,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );
    }
}
