using Microsoft.AspNetCore.Builder;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Data;
using MudRoom.Server.Hosting;
using OpenQA.Selenium;

namespace MudRoom.Browser.Tests;

/// <summary>A demo of Door's own.</summary>
public sealed class DoorDemo : Demo;

/// <summary>Door through the real screens: questions from one device to another, badges, and scans as fast as a scanner gives them.</summary>
[Collection("one after another")]
public sealed class DoorTests(DoorDemo demo, ITestOutputHelper output) : IClassFixture<DoorDemo>
{
    static readonly IReadOnlyList<Core.Site.Item> items = MudRoom.Demo.Scenario.Make().Items;

    static string Gtin(string item, string pack) => items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;

    [Fact]
    public async Task An_unknown_code_is_answered_from_a_desk_while_the_receiver_counts_on_and_the_count_completes_itself()
    {
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("maren");
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        receiver.Go("/door/A-2618");
        desk.Go("/door/A-2618");
        receiver.Wait(".lines li");
        desk.Wait(".lines li");
        receiver.Scan("FREMD-20441");
        receiver.WaitText("Nothing here is called");
        receiver.Fill("input[name=unknown-packs]", "3");
        receiver.Press("Put it aside as a question");
        receiver.WaitText("Put aside as a question");
        receiver.Scan(Gtin("HS-15", "each"));
        receiver.WaitSaid("Hoe shaft");
        Assert.True(receiver.Overflow() <= 0);

        desk.WaitText("What is FREMD-20441?");
        desk.Until(d => d.FindElements(By.CssSelector("select[name=question-item] option[value=HH-16]")).FirstOrDefault(), "the items").Click();
        desk.Until(d => d.FindElements(By.CssSelector("select[name=question-pack] option")).FirstOrDefault(o => o.Text == "each"), "the packs").Click();
        desk.Press("Count it as this");
        desk.WaitText("answered");
        await using var db = Database.Context(demo.File);
        var counted = await db.TallyEntries.OrderByDescending(e => e.Id).FirstAsync();
        Assert.Equal((3m, "Maren Oduya"), (counted.Quantity, counted.PersonName));
        receiver.Press("Leave it");
        receiver.Scan("FREMD-20441");
        receiver.WaitSaid("Draw hoe head");
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    [Fact]
    public async Task What_is_over_is_asked_and_refused_with_a_word_to_the_receiver()
    {
        using var receiver = new Browser(demo.Url, 390, 844).SignIn("leila");
        receiver.Go("/door/A-2618");
        receiver.Wait(".lines li");
        receiver.Scan(Gtin("SP-DG", "each"));
        receiver.WaitSaid("Digging spade");
        receiver.Fill("input[name=packs]", "800");
        receiver.PressAt("#take");
        receiver.WaitText("would be over");
        receiver.Press("Ask a supervisor, count on");
        await using var db = Database.Context(demo.File);
        var question = receiver.Until(_ => db.TallyQuestions.AsNoTracking().FirstOrDefault(q => q.Kind == QuestionKind.Over && q.IsOpen), "the question");
        using var desk = new Browser(demo.Url).SignIn("wanjiru");
        desk.Go("/door/A-2618");
        desk.Fill($"[data-question='{question.Id}'] input[name=question-note]", "leave them aboard");
        desk.PressAt($"[data-question='{question.Id}'] .button:not(.go)");
        receiver.Driver.FindElement(By.XPath("//button[@role='tab'][last()]")).Click();
        receiver.WaitText("leave them aboard");
        var spade = items.First(i => i.Code == "SP-DG").Id;
        Assert.False(await db.TallyEntries.AnyAsync(e => e.ItemId == spade && e.Quantity > 500));
    }

    [Fact]
    public void A_badge_and_a_pin_change_the_person_on_a_shared_device()
    {
        using var device = new Browser(demo.Url, 390, 844).SignIn("maren");
        device.Go("/door");
        device.WaitText("Maren Oduya");
        device.Scan("BADGE-003");
        device.Wait("input[name=pin]");
        device.Fill("input[name=pin]", "9999");
        device.Press("Work on");
        device.WaitText("do not belong together");
        device.Fill("input[name=pin]", "1003");
        device.Press("Work on");
        device.WaitText("Leila Fennimore");
    }

    [Fact]
    public async Task Twenty_scans_one_after_another_as_fast_as_a_scanner_gives_them_are_all_counted_and_none_is_mixed_up()
    {
        using var receiver = new Browser(demo.Url).SignIn("ikenna");
        receiver.Go("/door/A-2618");
        receiver.Wait(".lines li");
        await using var db = Database.Context(demo.File);
        async Task<decimal> Counted(string code)
        {
            var item = items.First(i => i.Code == code).Id;
            return (await db.TallyEntries.AsNoTracking().Where(e => e.TakenBackAt == null && e.PersonName.StartsWith("Ikenna") && e.ItemId == item).ToListAsync()).Sum(e => e.Quantity);
        }

        var before = (await Counted("HH-16"), await Counted("HS-15"));
        receiver.Driver.ExecuteScript("""
            window.spans = [];
            const said = document.getElementById('said');
            let since = 0;
            addEventListener('keydown', (e) => { if (e.key === 'Enter') since = performance.now(); }, true);
            new MutationObserver(() => { if (since) { window.spans.push(performance.now() - since); since = 0; } }).observe(said, { childList: true, subtree: true, characterData: true });
            """);
        for (var i = 0; i < 20; i++) receiver.Scan(Gtin(i % 2 == 0 ? "HH-16" : "HS-15", "each"));
        receiver.Until(d => !d.FindElement(By.CssSelector(".sill .next")).Text.Contains("one moment", StringComparison.Ordinal) ? d : null, "the line to be empty");
        receiver.PressAt("#take");
        receiver.Until(_ => Counted("HH-16").Result == before.Item1 + 10 && Counted("HS-15").Result == before.Item2 + 10 ? new object() : null, "ten of each", () => $"{Counted("HH-16").Result} and {Counted("HS-15").Result}");
        var spans = ((IReadOnlyCollection<object>)receiver.Driver.ExecuteScript("return window.spans")!).Select(Convert.ToDouble).Order().ToList();
        output.WriteLine($"From scan to word, {spans.Count} scans: median {spans[spans.Count / 2]:0} ms, slowest {spans[^1]:0} ms.");
        Assert.NotEmpty(spans);
    }
}

/// <summary>A dead spot: the server is really gone, the browser is closed, and everything comes in once when both are back.</summary>
[Collection("one after another")]
public sealed class DeadSpotTests
{
    [Fact]
    public async Task Fifty_scans_without_a_network_outlive_the_browser_and_are_counted_once_each()
    {
        var folder = Directory.CreateTempSubdirectory("mudroom-dead-spot-").FullName;
        var profile = Directory.CreateTempSubdirectory("mudroom-profile-").FullName;
        var web = Path.Combine(Demo.Root(), "web", "build");
        var items = MudRoom.Demo.Scenario.Make().Items;
        var brick = items.First(i => i.Code == "CB-05").PackLevels.First(p => p.Name == "each").Gtin!;
        WebApplication app = await Start(0);
        var port = new Uri(app.Urls.First()).Port;
        var url = $"http://127.0.0.1:{port}";
        var file = Path.Combine(folder, "mudroom.db");
        try
        {
            using (var device = new Browser(url, 390, 844, profile).SignIn("maren"))
            {
                device.Go("/door/A-2617");
                device.Wait(".lines li");
                device.Until(d => (bool)((IJavaScriptExecutor)d).ExecuteScript("return !!navigator.serviceWorker.controller")! ? d : null, "the page to be kept on the device");
                device.Go("/door/A-2617");
                device.Wait(".lines li");
                Thread.Sleep(800);
                await Stop();
                for (var i = 0; i < 50; i++) device.Scan($"(01){brick}(10)NG-DEAD");
                device.Until(d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "50" ? d : null, "fifty waiting", () => device.Driver.FindElements(By.Id("waiting")).FirstOrDefault()?.Text ?? "none");
                device.WaitSaid("Coir brick 5 kg, each");
            }

            using (var again = new Browser(url, 390, 844, profile))
            {
                again.Go("/door/A-2617");
                again.Until(d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "50" ? d : null, "fifty after the browser was closed");
                again.Scan("NOTHING-KNOWN");
                again.Until(d => d.FindElements(By.Id("waiting")).FirstOrDefault()?.Text == "51" ? d : null, "the fifty-first");
                app = await Start(port);
                again.WaitText("1 came back");
                again.WaitText("NOTHING-KNOWN is no item");
                again.Press("It is not to count");
                again.WaitGone("#waiting");
            }

            await using var db = Database.Context(file);
            var counts = await db.TallyEntries.Where(e => db.Batches.Any(b => b.Id == e.BatchId && b.SourceBatch!.Number == "NG-DEAD")).ToListAsync();
            Assert.Equal((50, 50m, 50), (counts.Count, counts.Sum(c => c.Quantity), counts.Select(c => c.ActId).Distinct().Count()));
            Assert.All(counts, c => Assert.Equal("Maren Oduya", c.PersonName));
            Assert.Empty((await BookCheck.Run(db, null)).Faults);
        }
        finally
        {
            await Stop();
            Directory.Delete(folder, recursive: true);
            Directory.Delete(profile, recursive: true);
        }

        Task<WebApplication> Start(int at) => CommandLine.Start(new ServerSettings(folder, Port: at, IsDemo: true, StoppedClock: true, Web: web));

        async Task Stop()
        {
            await app.StopAsync();
            await app.DisposeAsync();
            SqliteConnection.ClearAllPools();
        }
    }
}
