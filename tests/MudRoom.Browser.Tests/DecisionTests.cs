using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Out;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>What becomes of bad goods is decided once and then happens; a recall finds its goods wherever they are.</summary>
public sealed class DecisionTests(RoadDemo demo) : IClassFixture<RoadDemo>
{
    MudRoomDb Now() => Database.Context(demo.File);

    static void Decide(Browser browser, string kind, string quantity, string? into = null)
    {
        browser.Wait($"select[name=decision] option[value={kind}]").Click();
        browser.Fill("input[name=quantity]", quantity);
        browser.Fill("input[name=why]", "a pallet tipped over");
        if (into is not null)
            browser.Fill("input[name=into]", into);
        browser.PressAt("form.decide button");
    }

    /// <summary>A driver takes a task, scans the goods and puts them down where it is proposed, on a phone.</summary>
    /// <returns>The bin.</returns>
    static string Bring(Browser driver, StoreTask task, string scan)
    {
        var bin = driver.Act("/shelf/take", $$"""{"task":{{task.Id}}}""", "bin");
        driver.Go("/shelf");
        driver.WaitText(bin);
        driver.Scan(scan);
        driver.Scan(bin);
        driver.WaitSaid($"in {bin}");
        return bin;
    }

    [Fact]
    public async Task Broken_pots_are_decided_in_three_parts_and_each_is_brought_to_its_place_and_goes_its_way()
    {
        using var wanjiru = new Browser(demo.Url).SignIn("wanjiru");
        string hold;
        await using (var db = Now())
            hold = (await db.Holds.SingleAsync(h => h.IsOpen && h.Reason == HoldReason.CountedAside && h.Quantity == 40)).Number;
        wanjiru.Go($"/cage?hold={hold}");
        Decide(wanjiru, "Regrade", "24", "Terracotta pot 24 cm, second grade");
        wanjiru.WaitText("24 each of Terracotta pot 24 cm are to be regraded.");
        Decide(wanjiru, "ReturnToVendor", "10");
        wanjiru.WaitText("10 each of Terracotta pot 24 cm are to be returned to vendor.");
        Decide(wanjiru, "Scrap", "6");
        wanjiru.WaitText("6 each of Terracotta pot 24 cm are to be scrapped.");

        using (var yusuf = new Browser(demo.Url, 390, 844).SignIn("yusuf"))
            foreach (var (standing, place) in new[] { (Standing.ToScrap, "SCRAP"), (Standing.ToGoBack, "LANE") })
            {
                StoreTask task;
                await using (var db = Now())
                    task = await db.Tasks.SingleAsync(t => t.State == TaskState.Waiting && t.Standing == standing);
                Assert.StartsWith(place, Bring(yusuf, task, "TP-24"), StringComparison.Ordinal);
                Assert.Equal(0, yusuf.Overflow());
            }

        Dictionary<DecisionKind, string> holds;
        await using (var db = Now())
            holds = (await db.Holds.Where(h => h.IsOpen && h.Decision != null).ToListAsync()).ToDictionary(
                h => h.Decision!.Kind,
                h => h.Number
            );
        wanjiru.Go($"/cage?hold={holds[DecisionKind.ReturnToVendor]}");
        wanjiru.WaitText("LANE-");
        wanjiru.Press("They have left");
        wanjiru.WaitText("10 each of Terracotta pot 24 cm: returned to vendor.");
        wanjiru.Go($"/cage?hold={holds[DecisionKind.Scrap]}");
        wanjiru.Fill("input[name=witness]", "leila");
        wanjiru.Fill("input[name=witness-password]", "leila-mud-03");
        wanjiru.Press("They are scrapped");
        wanjiru.WaitText("6 each of Terracotta pot 24 cm: scrapped.");
        wanjiru.Go($"/cage?hold={holds[DecisionKind.Regrade]}");
        wanjiru.WaitText("to be regraded to Terracotta pot 24 cm, second grade");
        wanjiru.Press("They are relabelled");
        wanjiru.WaitText("24 each of Terracotta pot 24 cm, second grade are usable.");
        await using var after = Now();
        var second = await after.Items.SingleAsync(i => i.Code == "TP-24S");
        Assert.Equal(24, await after.Balances.Where(b => b.ItemId == second.Id).Select(b => b.Quantity).SingleAsync());
        Assert.Empty((await BookCheck.Run(after, null)).Faults);
    }

    /// <summary>Five sacks and more, each somewhere else: counted at the door, at the bench, in a bin, on a truck, sold, on a device that
    /// cannot send, and announced by a vendor's advice.</summary>
    [Fact]
    public async Task A_recall_over_every_place_ends_with_nothing_unaccounted_for()
    {
        const string batch = "MK-F-REC";
        using var wanjiru = new Browser(demo.Url).SignIn("wanjiru");
        using var petra = new Browser(demo.Url, 390, 844).SignIn("petra");
        await using var network = await BadNetwork.Before(demo.Url);
        using var device = new Browser(network.Url, 390, 844).SignIn("leila");
        device.Driver.ExecuteAsyncScript("const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(null))");
        device.Go("/door/A-2617");
        device.Wait(".lines li");

        string count(string packs) =>
            wanjiru.Act(
                "/door/count",
                $$"""
                {"arrival":"A-2617","item":"SD-FEN","packs":"{{packs}}","pack":"sack","sourceBatch":"{{batch}}",
                 "production":"2025-10-31","bestBefore":"2027-10-30","origin":"IN","overAllowed":true,"earlyAllowed":false}
                """
            );
        var onTheWay = Announced(wanjiru, batch);
        count("4");
        StoreTask Task(BinFunction at)
        {
            using var db = Now();
            var of = db.Batches.Single(b => b.SourceBatch!.Number == batch).Id;
            return db.Tasks.First(t =>
                t.State == TaskState.Waiting && t.BatchId == of && t.Quantity > 0 && db.Bins.Any(b => b.Id == t.AtBinId && b.Function == at)
            );
        }

        string take(string quantity) =>
            petra.Act("/shelf/take", $$"""{"task":{{Task(BinFunction.Staging).Id}},"quantity":"{{quantity}}"}""", "task");
        // One sack into a bin, and five kilograms of it sold; one on the truck; one at the bench.
        var first = take("25");
        petra.Act("/shelf/scan-goods", $$"""{"task":{{first}},"scan":"{{batch}}"}""");
        petra.Act("/shelf/put-down", $$"""{"task":{{first}},"bin":"{{Target(first)}}"}""");
        long Stock(BinFunction? at = null)
        {
            using var db = Now();
            return db
                .Balances.Where(b =>
                    db.Batches.Any(x => x.Id == b.BatchId && x.SourceBatch!.Number == batch)
                    && db.Bins.Any(x =>
                        x.Id == b.BinId
                        && (at == null ? x.Function == BinFunction.Reserve || x.Function == BinFunction.Pick : x.Function == at)
                    )
                )
                .Select(b => b.Id)
                .First();
        }

        wanjiru.Act("/book/issue", $$"""{"balance":{{Stock()}},"quantity":"5","to":"Customer","reference":"SO-9300"}""");
        var second = take("25");
        petra.Act("/shelf/scan-goods", $$"""{"task":{{second}},"scan":"{{batch}}"}""");
        wanjiru.Act("/bench/ask", $$"""{"balance":{{Stock(BinFunction.Staging)}},"quantity":"25","why":"smells musty","plan":2}""");
        StoreTask toBench;
        await using (var db = Now())
            toBench = await db.Tasks.SingleAsync(t =>
                t.State == TaskState.Waiting
                && t.Kind == TaskKind.ToBench
                && db.Batches.Any(b => b.Id == t.BatchId && b.SourceBatch!.Number == batch)
            );
        var bench = petra.Act("/shelf/take", $$"""{"task":{{toBench.Id}}}""", "bin");
        petra.Act("/shelf/scan-goods", $$"""{"task":{{toBench.Id}},"scan":"{{batch}}"}""");
        petra.Act("/shelf/put-down", $$"""{"task":{{toBench.Id}},"bin":"{{bench}}"}""");

        // The device has counted others of the kind, then one of it, and cannot send.
        using var read = Now();
        var gtin = (await read.Items.SingleAsync(i => i.Code == "SD-FEN")).PackLevels.Single(p => p.Name == "sack").Gtin;
        void scan(string of)
        {
            device.Scan($"01{gtin}112510311527103010{of}\u001d422356");
            device.WaitSaid("Fenugreek seed");
        }

        scan("MK-F-OTHER");
        device.PressAt("#take");
        device.WaitText("25 kg of Fenugreek seed");
        scan(batch);
        network.Is = Network.Hangs;
        device.PressAt("#take");
        device.WaitSaid("Kept on this device");

        wanjiru.Go("/cage/recalls");
        wanjiru.Fill("input[name=item]", "SD-FEN");
        wanjiru.Fill("textarea[name=numbers]", batch);
        wanjiru.Fill("input[name=why]", "moist");
        wanjiru.Press("Begin the recall");
        wanjiru.WaitText("95 kg of 100 are not in the cage yet.");
        var number = wanjiru.Driver.Url.Split('/')[^1];
        foreach (var room in new[] { "at a door", "at the bench", "in a bin", "on a truck" })
            wanjiru.WaitText(room);
        wanjiru.WaitText("SO-9300");
        wanjiru.WaitText($"{onTheWay}, ");
        wanjiru.WaitText("50 kg more: held as they are counted.");

        // The device is heard again: what it had counted is held as it comes.
        network.Is = Network.Good;
        device.Until(
            d => d.FindElements(By.CssSelector("section.bar #waiting")).Count == 0 ? new object() : null,
            "all that waits to be sent",
            seconds: 60
        );
        wanjiru.Go($"/cage/recalls/{number}");
        wanjiru.WaitText("120 kg of 125 are not in the cage yet.");

        // All of it is fetched, from wherever it stands; who has it on the truck brings it to the cage instead.
        for (var i = 0; i < 8 && Fetch() is { } fetch; i++)
        {
            var bin = petra.Act("/shelf/take", $$"""{"task":{{fetch}}}""", "bin");
            Assert.StartsWith("CAGE", bin, StringComparison.Ordinal);
            petra.Act("/shelf/scan-goods", $$"""{"task":{{fetch}},"scan":"{{batch}}"}""");
            petra.Act("/shelf/put-down", $$"""{"task":{{fetch}},"bin":"{{bin}}"}""");
        }

        wanjiru.Go($"/cage/recalls/{number}");
        wanjiru.WaitText("All that is left, 120 kg, is in the cage.");
        wanjiru.Press("Tell them");
        wanjiru.Fill("input[name=mail-to]", "stores@hollin.example");
        wanjiru.Press("Send the mail");
        wanjiru.WaitText("all told");
        var letter = await read.OutMessages.AsNoTracking().SingleAsync(m => m.Kind == OutKind.Mail && m.Subject == number);
        Assert.Contains("To: stores@hollin.example", letter.Body, StringComparison.Ordinal);
        var hold = (await read.Holds.AsNoTracking().SingleAsync(h => h.IsOpen && h.Sentence.StartsWith(number))).Number;
        wanjiru.Act("/cage/decide", $$"""{"hold":"{{hold}}","decision":"Scrap","quantity":"120","note":"not to be sown"}""");
        wanjiru.Act("/cage/carry-out", $$"""{"hold":"{{hold}}","witness":"leila","witnessPassword":"leila-mud-03"}""");
        wanjiru.Go($"/cage/recalls/{number}");
        wanjiru.WaitText("All 125 kg have left the house.");
        wanjiru.Fill("input[name=end-note]", "scrapped, the vendor pays");
        wanjiru.Press("End the recall");
        wanjiru.WaitText("Ended by Wanjiru Holloway");
        Assert.Empty((await BookCheck.Run(read, null)).Faults);

        int? Fetch()
        {
            using var db = Now();
            return db
                .Tasks.Where(t =>
                    t.State == TaskState.Waiting
                    && t.Standing == Standing.Recalled
                    && t.Quantity > 0
                    && db.Batches.Any(b => b.Id == t.BatchId && b.SourceBatch!.Number == batch)
                )
                .Select(t => (int?)t.Id)
                .FirstOrDefault();
        }
    }

    /// <summary>Two sacks of it are aboard what a vendor announces.</summary>
    /// <returns>The arrival.</returns>
    static string Announced(Browser browser, string batch)
    {
        browser.Act(
            "/road/orders/new",
            """
            {"number":"PO-REC","kind":"Purchase","vendor":"MALA","draft":false,
             "lines":[{"item":"SD-FEN","quantity":"50","due":"2026-03-11"}]}
            """
        );
        string[] body =
        [
            "BGM+351+DA-REC+9",
            "DTM+137:20260310:102",
            "DTM+17:202603111400:203",
            "NAD+SU+MALA::92",
            "NAD+DP+LM::92",
            "CPS+1",
            "PAC+2++BG",
            "LIN+1",
            "PIA+1+SD-FEN:IN",
            "QTY+12:50:KGM",
            "RFF+ON:PO-REC:1",
            "PCI+36E",
            $"GIN+BX+{batch}",
        ];
        var text = string.Join(
            "'",
            ["UNB+UNOC:3+A+B+260310:0800+DA-REC", "UNH+1+DESADV:D:01B:UN", .. body, $"UNT+{body.Length + 2}+1", "UNZ+1+DA-REC", ""]
        );
        return browser.Act("/road/import", $$"""{"name":"advice.edi","text":"{{text}}"}""", "arrivals");
    }

    string Target(string task)
    {
        using var db = Now();
        var id = int.Parse(task, System.Globalization.CultureInfo.InvariantCulture);
        var bin = db.Tasks.Single(t => t.Id == id).TargetBinId;
        return db.Bins.Single(b => b.Id == bin).Address;
    }
}
