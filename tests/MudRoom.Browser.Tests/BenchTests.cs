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

        browser.Go("/bench/I-0026");
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
            browser.Until(d => StandsIn(d, piece, i) && Found() == made ? "there" : null, $"the cursor in value {i + 1} of piece {piece}");
            browser.Driver.SwitchTo().ActiveElement().SendKeys(typed[i] + Keys.Enter);
            keys++;
        }

        browser.Until(_ => Found() == 10 ? "all" : null, "ten findings");
        // At most two keys beside the digits for each value.
        Assert.True(keys <= 2 * Found());

        // The cursor goes on before the answer is there, and who types on keeps it: half a value is not recorded.
        browser.Until(d => StandsIn(d, 3, 0) ? "there" : null, "the cursor in piece 3");
        AnswersAreLate();
        ByHand(browser, "0.08");
        browser.Until(d => StandsIn(d, 3, 1) ? "there" : null, "the cursor in the next before the answer");
        ByHand(browser, "56");
        browser.Until(d => StandsIn(d, 3, 2) ? "there" : null, "the cursor in the third before an answer");
        ByHand(browser, "21", "");
        browser.Until(_ => Found() == 12 ? "found" : null, "two values of piece 3");
        browser.Driver.ExecuteScript("late.shift()();");
        browser.Until(d => d.FindElements(By.CssSelector("tr.hand .clear")).Count == 1 ? "there" : null, "that one stands on the sheet");
        Thread.Sleep(200);
        Assert.Equal("21", Cursor().GetDomProperty("value"));
        TheyCome();
        browser.Until(d => d.FindElements(By.CssSelector("tr.hand .clear")).Count == 2 ? "there" : null, "that both stand on the sheet");
        ByHand(browser, "2");
        browser.Until(_ => Found() == 13 ? "found" : null, "the third value of piece 3");
        Assert.Equal([0.08m, 56, 212], Findings().Where(f => f is { Piece: 3, Value: not null }).Select(f => f.Value!.Value).Order());
        Looks(3);

        // What is refused late is open again, with what was typed, and the cursor in it …
        browser.Until(d => StandsIn(d, 4, 0) ? "there" : null, "the cursor in piece 4");
        AnswersAreLate();
        ByHand(browser, "0.o8");
        browser.Until(d => StandsIn(d, 4, 1) ? "there" : null, "the cursor in the next before the refusal");
        TheyCome();
        browser.Until(d => StandsIn(d, 4, 0) ? "there" : null, "the cursor back in what was refused");
        Assert.Equal("0.o8", Cursor().GetDomProperty("value"));
        Type(browser, Keys.Control + "a");
        ByHand(browser, "0.08");
        browser.Until(d => StandsIn(d, 4, 1) ? "there" : null, "the cursor in the second value of piece 4");

        // … unless another is half typed, of the next piece too: that is gone on with, and what was refused stays open.
        ByHand(browser, "56");
        browser.Until(d => StandsIn(d, 4, 2) ? "there" : null, "the cursor in the third value of piece 4");
        ByHand(browser, "212");
        Looks(4);
        browser.Until(d => StandsIn(d, 5, 0) ? "there" : null, "the cursor in piece 5");
        ByHand(browser, "0.08");
        browser.Until(d => StandsIn(d, 5, 1) ? "there" : null, "the cursor in the second value of piece 5");
        AnswersAreLate();
        ByHand(browser, "5o");
        browser.Until(d => StandsIn(d, 5, 2) ? "there" : null, "the cursor in the third value of piece 5");
        ByHand(browser, "21", "");
        TheyCome();
        browser.WaitText("5o is no number");
        Assert.Equal("21", Cursor().GetDomProperty("value"));
        ByHand(browser, "2");
        for (var looks = 2; looks > 0; looks--)
        {
            browser.Driver.FindElement(By.CssSelector("tr.hand .looks [data-open]")).Click();
            browser.Until(
                d => d.FindElements(By.CssSelector("tr.hand .looks [data-open]")).Count == looks - 1 ? "made" : null,
                "that the look is made"
            );
        }

        browser.Until(d => StandsIn(d, 5, 1) ? "there" : null, "the cursor in what is open still");
        AnswersAreLate();
        ByHand(browser, "5o");
        browser.Until(d => StandsIn(d, 6, 0) ? "there" : null, "the cursor in the next piece before the refusal");
        ByHand(browser, "0.0", "");
        TheyCome();
        browser.WaitText("5o is no number");
        Assert.True(StandsIn(browser.Driver, 6, 0));
        Assert.Equal("0.0", Cursor().GetDomProperty("value"));
        ByHand(browser, "8");
        browser.Until(_ => Findings().Any(f => f is { Piece: 6, Value: 0.08m }) ? "found" : null, "the first value of piece 6");

        // An answer that comes when another sheet is open stands on its own.
        browser.Until(d => StandsIn(d, 6, 1) ? "there" : null, "the cursor in the second value of piece 6");
        AnswersAreLate();
        ByHand(browser, "55.5");
        browser.Until(_ => Findings().Any(f => f is { Piece: 6, Value: 55.5m }) ? "found" : null, "the second value of piece 6");
        browser.PressAt("a[href$='/bench/I-0024']");
        browser.WaitText("Bypass secateurs 21 cm goes by this plan");
        var others = Cell("6 2");
        Assert.NotEqual("55.5", others);
        TheyCome();
        Thread.Sleep(300);
        Assert.Equal(others, Cell("6 2"));

        string Cell(string place) => browser.Wait($"[data-cell='{place}'] b").Text;

        void Looks(int piece)
        {
            foreach (var look in (int[])[3, 4])
            {
                browser.Until(d => StandsIn(d, piece, look) ? "there" : null, $"the cursor in look {look} of piece {piece}");
                Type(browser, Keys.Enter);
            }
        }

        void AnswersAreLate() =>
            browser.Driver.ExecuteScript(
                "window.late = []; window.atOnce = window.fetch;"
                    + "const comesLate = (answer) => new Promise((come) => late.push(() => come(answer)));"
                    + "const isFinding = (of) => (of.url ?? of).includes('/bench/find');"
                    + "window.fetch = (...asked) => isFinding(asked[0]) ? atOnce(...asked).then(comesLate) : atOnce(...asked);"
            );

        void TheyCome() => browser.Driver.ExecuteScript("window.fetch = atOnce; late.forEach((come) => come());");

        IWebElement Cursor() => browser.Driver.SwitchTo().ActiveElement();

        int Found() => Findings().Count;

        List<Core.Bench.Finding> Findings()
        {
            using var db = Data.Database.Context(demo.File);
            return db.Inspections.Where(i => i.Number == "I-0026").SelectMany(i => i.Findings).ToList();
        }
    }

    /// <summary>The cursor stands in a value that is still open, the first of a piece being 0.</summary>
    static bool StandsIn(IWebDriver driver, int piece, int value)
    {
        var here = driver.SwitchTo().ActiveElement();
        return here.GetDomAttribute("data-open") is not null
            && here.FindElement(By.XPath("ancestor::tr")).GetDomAttribute("data-piece") == $"{piece}"
            && here.FindElements(By.XPath("ancestor::td/preceding-sibling::td[@data-cell]")).Count == value;
    }

    /// <summary>Goes on with Tab until the cursor stands where it should.</summary>
    static void TabTo(Browser browser, string css)
    {
        for (var i = 0; i < 200; i++)
        {
            var there = (bool)browser.Driver.ExecuteScript("return document.activeElement.matches(arguments[0])", css)!;
            if (there)
                return;
            // Not to the element: a field for files would take the key for a path.
            new OpenQA.Selenium.Interactions.Actions(browser.Driver).SendKeys(Keys.Tab).Perform();
        }

        Assert.Fail($"Tab does not come to {css}.");
    }

    static void Type(Browser browser, string keys) => browser.Driver.SwitchTo().ActiveElement().SendKeys(keys);

    /// <summary>As a person types and presses Enter, or another key; keys as fast as a scanner's are a scan.</summary>
    static void ByHand(Browser browser, string words, string? last = null)
    {
        foreach (var letter in words)
        {
            Type(browser, letter.ToString());
            Thread.Sleep(60);
        }

        Type(browser, last ?? Keys.Enter);
    }

    [Fact]
    public void A_sheet_goes_from_the_queue_to_the_second_signature_by_keyboard_alone()
    {
        using var sunita = new Browser(demo.Url).SignIn("sunita");
        var looked = Plan("inForce");
        Says(
            sunita,
            "/bench/plans/draft",
            $$"""{"plan":3,"looked":"{{looked.Hash}}","says":{{looked.Says.Replace("\"wantsSecond\":false", "\"wantsSecond\":true")}}}"""
        );
        Says(sunita, "/bench/plans/sign", $$"""{"plan":3,"looked":"{{Plan("draft").Hash}}","name":"sunita","password":"sunita-mud-06"}""");

        sunita.Go("/bench");
        sunita.WaitText("Predatory mite sachets");
        TabTo(sunita, "a[href$='/bench/I-0027']");
        Type(sunita, Keys.Enter);
        sunita.Wait("#draw");
        TabTo(sunita, "#draw");
        Type(sunita, Keys.Enter);
        var (keys, values) = (0, 0);
        for (var piece = 1; piece <= 8; piece++)
            foreach (var (i, typed) in new[] { piece == 5 ? "78" : "95", "24.8", "" }.Index())
            {
                sunita.Until(d => StandsIn(d, piece, i) ? "there" : null, $"the cursor in value {i + 1} of piece {piece}");
                // The first weight comes from the bench's scale, in kilograms; the others are typed.
                if (piece == 1 && typed == "24.8")
                {
                    Says(sunita, "/bench/scales", """{"scale":"Demo scale","kilograms":0.0248,"steady":true}""");
                    Says(sunita, "/bench/scales", """{"scale":"By door 3","kilograms":612,"steady":true}""");
                    TabTo(sunita, "#gauge-scale");
                    Type(sunita, Keys.Enter);
                    // What lies by a door is no sachet: where two have sent, it is asked which.
                    sunita.WaitText("Which scale?");
                    TabTo(sunita, "button[data-scale='Demo scale']");
                    Type(sunita, Keys.Enter);
                    sunita.WaitText("0.0248 kg from Demo scale");
                    sunita.WaitText("Fill, piece 1: 24.8 g");
                    continue;
                }

                Type(sunita, typed + Keys.Enter);
                (keys, values) = (keys + 1, values + 1);
            }

        Assert.True(keys <= 2 * values);
        sunita.WaitText("Every class is within what may be accepted");
        sunita.Until(
            d => d.SwitchTo().ActiveElement().GetDomAttribute("name") == "signature" ? "yes" : null,
            "the cursor in the signature"
        );
        ByHand(sunita, "sunita-mud-06");
        sunita.WaitText("another person signs it too");

        using var bram = new Browser(demo.Url).SignIn("bram");
        bram.Go("/bench");
        bram.WaitText("Predatory mite sachets");
        TabTo(bram, "a[href$='/bench/I-0027']");
        Type(bram, Keys.Enter);
        bram.Wait("input[name=signature]");
        TabTo(bram, "input[name=signature]");
        ByHand(bram, "bram-mud-07");
        bram.WaitText("Sunita Gellatly and Bram Okonjo");
        bram.WaitText("80 each of Predatory mite sachets are usable");

        // The signed sheet proves itself; a paper with another hash is found out.
        TabTo(bram, "a[href$='/bench/I-0027/sheet']");
        Type(bram, Keys.Enter);
        bram.WaitText("It is as it was signed");
        bram.Go("/bench/I-0027/sheet?hash=00ff");
        bram.WaitText("the paper names another hash");

        (string Hash, string Says) Plan(string version)
        {
            using var plan = System.Text.Json.JsonDocument.Parse(
                (string)
                    sunita.Driver.ExecuteAsyncScript(
                        "const done = arguments[arguments.length - 1]; fetch('/api/LM/bench/plan/3').then(r => r.text()).then(done);"
                    )!
            );
            var at = plan.RootElement.GetProperty(version);
            return (at.GetProperty("hash").GetString()!, at.GetProperty("says").GetRawText());
        }
    }

    static void Says(Browser browser, string path, string body) => browser.Act(path, body);

    /// <summary>A serial line as the browser gives it (Web Serial API, W3C community group report), here a stand-in: lines come in pieces,
    /// and the cable is pulled out.</summary>
    const string SerialLine = """
        Object.defineProperty(navigator, 'serial', { value: { requestPort: async () => ({
          open: async options => { window.serialSpeed = options.baudRate; },
          close: async () => { window.serialClosed = true; },
          readable: new ReadableStream({ start(line) {
            window.serialSends = text => line.enqueue(new TextEncoder().encode(text));
            window.serialBreaks = () => line.error(new Error('The device has been lost.'));
          } }),
        }) } });
        """;

    [Fact]
    public void A_gauge_on_a_serial_line_of_the_browser_writes_into_the_sheet_and_a_pulled_cable_is_told()
    {
        using var sunita = new Browser(demo.Url).SignIn("sunita");
        sunita.Driver.ExecuteCdpCommand(
            "Page.addScriptToEvaluateOnNewDocument",
            new Dictionary<string, object?> { ["source"] = SerialLine }
        );
        sunita.Go("/bench/I-0024");
        sunita.PressAt("#gauge-serial");
        sunita.WaitText("A gauge on a serial line sends to this sheet");
        Assert.Equal(9600L, sunita.Driver.ExecuteScript("return window.serialSpeed"));
        sunita.Driver.ExecuteScript("serialSends('feel'); serialSends('er 0.11 m'); serialSends('m\\r\\nfeel')");
        sunita.WaitSaid("Gap at the tip, piece 27: 0.11 mm.");
        // What does not fit its limits is said as well; the rest of a line waited for its end.
        sunita.Driver.ExecuteScript("serialSends('er 7 kg\\n')");
        sunita.WaitText("7 kg of the feeler");
        sunita.Driver.ExecuteScript("serialBreaks()");
        sunita.WaitText("The serial line is not there: The device has been lost.");
        sunita.Wait("#gauge-serial");

        // Let go, the line is closed and the next sheet may take it.
        sunita.Go("/bench/I-0024");
        sunita.PressAt("#gauge-serial");
        sunita.PressAt("#gauge-let-go");
        sunita.Until(
            d => (bool)((IJavaScriptExecutor)d).ExecuteScript("return window.serialClosed === true")! ? "yes" : null,
            "the line closed"
        );
        using (var db = Data.Database.Context(demo.File))
            Assert.Contains(db.Inspections.Where(i => i.Number == "I-0024").SelectMany(i => i.Findings).ToList(), f =>
                f is { Piece: 27, Value: 0.11m }
            );
        sunita.Act("/bench/clear", """{"inspection":"I-0024","piece":27,"characteristic":1,"reason":"only tried"}""", "sentence");
    }

    /// <summary>Hands are quicker than answers: what is changed before the last change is answered goes on from it.</summary>
    [Fact]
    public void Two_changes_of_a_draft_in_one_breath_are_both_kept()
    {
        using var sunita = new Browser(demo.Url).SignIn("sunita");
        sunita.Go("/bench/plans/2");
        sunita.WaitText("Draft the next version");
        sunita.Driver.ExecuteScript(
            "[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Draft the next version').click()"
        );
        sunita.WaitText("Sign it in force");
        sunita.Driver.ExecuteScript(
            """
            const of = name => [...document.querySelectorAll('label')]
              .find(l => l.textContent.trim().startsWith(`Sample rule of ${name}`)).querySelector('select');
            for (const [name, kind] of [['Major', 'OneByOne'], ['Minor', 'All']]) {
              of(name).value = kind;
              of(name).dispatchEvent(new Event('change', { bubbles: true }));
            }
            """
        );
        sunita.Until(
            _ =>
            {
                using var db = Data.Database.Context(demo.File);
                var draft = db.Set<Core.Bench.PlanVersion>().Single(v => v.PlanId == 2 && v.From == null).Text;
                return draft.Contains("one-by-one", StringComparison.Ordinal) && draft.Contains("\"all\"", StringComparison.Ordinal)
                    ? "both"
                    : null;
            },
            "both changes in the draft"
        );
        sunita.WaitText("one by one, 1 % passes 95 times of 100");
        Assert.DoesNotContain("an older one", sunita.Driver.FindElement(By.TagName("main")).Text);
        sunita.Driver.ExecuteScript(
            "[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Drop the draft').click()"
        );
        sunita.WaitText("Draft the next version");
    }

    /// <summary>A large sheet: 500 pieces by 8 characteristics, of which all but the last piece are found already.</summary>
    [Fact]
    public void A_sheet_of_500_pieces_by_8_characteristics_is_finished_by_keyboard_and_nothing_runs_sideways()
    {
        using var browser = new Browser(demo.Url).SignIn("sunita");
        var characteristics = string.Join(
            ",",
            Enumerable
                .Range(1, 8)
                .Select(i =>
                    $$"""
                        {"id":0,"name":"Measure {{i}}","class":"Major","unit":"mm","lower":"0","upper":"10","passWord":"good",
                        "failWord":"bad"}
                        """
                )
        );
        var made = browser.Act(
            "/bench/plans/new",
            $$"""
            {"name":"Large","says":{"samplingUnit":"each","setUpMinutes":"1","secondsPerPiece":"1","critical":null,
            "major":{"kind":"Fixed","size":"500","ac":"10"},"minor":null,"characteristics":[{{characteristics}}],"wantsSecond":false} }
            """,
            "id"
        );
        string hash;
        long balance;
        using (var db = Data.Database.Context(demo.File))
        {
            hash = db.PlanVersions.Single(v => v.PlanId == int.Parse(made)).Hash;
            var pots = db.Items.Single(i => i.Code == "CP-08").Id;
            balance = db
                .Balances.Where(b => b.ItemId == pots && b.Standing == Core.Book.Standing.Usable)
                .AsEnumerable()
                .First(b => b.Quantity >= 600)
                .Id;
        }

        browser.Act("/bench/plans/sign", $$"""{"plan":{{made}},"looked":"{{hash}}","name":"sunita","password":"sunita-mud-06"}""");
        var number = browser.Act("/bench/ask", $$"""{"balance":{{balance}},"quantity":"600","why":"cracks","plan":{{made}}}""", "number");
        browser.Act("/bench/draw", $$"""{"inspection":"{{number}}"}""", "sampleSize");
        using (var db = Data.Database.Context(demo.File))
        {
            var sheet = db.Inspections.Single(i => i.Number == number).Id;
            var ids = db.PlanVersions.Single(v => v.PlanId == int.Parse(made)).Content.Characteristics.Select(c => c.Id).ToList();
            db.AddRange(
                Enumerable
                    .Range(1, 499)
                    .SelectMany(piece => ids.Select(c => (piece, c)))
                    .Select(x => new Core.Bench.Finding
                    {
                        InspectionId = sheet,
                        Piece = x.piece,
                        CharacteristicId = x.c,
                        Value = 5,
                        Conforms = true,
                        By = "Sunita Gellatly",
                        At = DateTimeOffset.UnixEpoch,
                    })
            );
            db.SaveChanges();
        }

        browser.Go("/bench/" + number);
        browser.WaitText("8 findings still to be made");
        Assert.Equal(0, browser.Overflow());
        TabTo(browser, "tr.hand [data-open]");
        for (var i = 1; i <= 8; i++)
        {
            browser.Until(
                d =>
                    d.SwitchTo().ActiveElement().GetDomAttribute("aria-label") is { } label
                    && label.StartsWith($"Measure {i}, piece 500", StringComparison.Ordinal)
                        ? "there"
                        : null,
                $"the cursor in measure {i}"
            );
            Type(browser, (i == 8 ? "11" : "7") + Keys.Enter);
        }

        browser.WaitText("Every class is within what may be accepted");
        // A value's answer says how the sheet stands: the whole of it is asked for at the beginning and with the verdict, not with each of
        // the eight.
        var asked = (long)
            browser.Driver.ExecuteScript(
                "return performance.getEntriesByType('resource').filter((r) => r.name.includes('/bench/sheet/')).length"
            )!;
        Assert.InRange(asked, 1, 7);
        // The first piece and the last are both reached, and on a phone nothing runs sideways.
        browser.PressAt("button[aria-label='Piece 1, good']");
        browser.Wait("tr[data-piece='1']");
        browser.Resize(390, 844);
        browser.Go("/bench/" + number);
        browser.WaitText("Measure 8");
        Assert.Equal(0, browser.Overflow());
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
        // Against the spread within the lots most of them stand apart; the buyer is told once.
        browser.Press("chart");
        new OpenQA.Selenium.Support.UI.SelectElement(browser.Wait("select[name=by]")).SelectByValue("Spread");
        browser.WaitText("means lie outside what the spread within lots lets expect");
        browser.WaitText("Standard deviation");
        browser.PressAt("#tell-buyer");
        browser.Fill("input[name=tell-note]", "their tool wears");
        browser.Press("Send it");
        browser.WaitText("The buyer is told of Bypass secateurs 21 cm from Kitagiri Blades");
        browser.PressAt("#tell-buyer");
        browser.Press("Send it");
        browser.WaitText("no lot was signed since");
        // The sheet of the next lot warns of it.
        browser.Go("/bench/I-0024");
        browser.WaitText("Gap at the tip, lot after lot");
    }

    [Fact]
    public void A_plan_judges_by_a_marked_picture_a_scan_names_a_piece_and_the_sample_goes_its_way()
    {
        var picture = Path.Combine(Path.GetTempPath(), $"seam-{Guid.NewGuid():N}.png");
        File.WriteAllBytes(picture, Convert.FromBase64String(Png));
        using var browser = new Browser(demo.Url).SignIn("sunita");
        browser.Go("/bench/plans/2");
        browser.PressAt("#begin-draft");
        browser.WaitText("Draft of version 2 begun");
        browser.Press("Moisture");
        browser.PressAt("input[name=uses-up]");
        browser.WaitText("piece was stays whole");
        browser.Driver.FindElement(By.CssSelector("input[name=reference-picture]")).SendKeys(picture);
        browser.Wait("figure button img");
        browser.PressAt("figure button");
        browser.WaitText("Mark 1");
        browser.Until(d => d.FindElement(By.Id("sign-plan")).Enabled ? "yes" : null, "that it may be signed");
        browser.PressAt("#sign-plan");
        browser.Fill("input[name=signature]", "sunita-mud-06");
        browser.Press("Sign version 2 in force");
        browser.WaitText("Seed lot, version 2, is in force");

        browser.Go("/bench/I-0025");
        browser.PressAt("#draw");
        browser.WaitText("Seed lot, version 2");
        browser.Wait("figure img");
        browser.WaitText("the piece is used up");
        // A serial in a GS1 element string names the piece in hand; an item's own number names none.
        browser.Scan("]C121SACK-7");
        browser.WaitSaid("Piece 1 is SACK-7.");
        browser.WaitText("SACK-7");
        browser.Driver.FindElement(By.CssSelector("input[name=sheet-picture]")).SendKeys(picture);
        browser.Wait(".pictures img");

        browser.PressAt("#bring-sample");
        browser.WaitText("The sample of I-0025 is in BENCH-1");
        foreach (var piece in new[] { 1, 2, 3, 4, 5 })
        foreach (var c in new[] { 1, 2, 3 })
            if (c < 3 || piece < 3)
                browser.Act(
                    "/bench/find",
                    $$"""
                    {"inspection":"I-0025","piece":{{piece}},"characteristic":{{c}},"value":{{(c == 1 ? "\"8.1\"" : "null")}},
                    "pass":{{(c == 1 ? "null" : "true")}}}
                    """,
                    "sentence"
                );
        browser.Go("/bench/I-0025");
        browser.WaitText("Every class is within what may be accepted");
        // Five were measured by what uses them up: that is proposed, and changed by hand.
        var fate = browser.Wait("select[name=sample-fate]");
        Assert.Equal("UsedUp", fate.GetDomProperty("value"));
        browser.Fill("input[name=sample-quantity]", "2");
        browser.PressAt("#settle-sample");
        browser.WaitText("2 kg of the sample are used up and out of the books");
        new OpenQA.Selenium.Support.UI.SelectElement(browser.Wait("select[name=sample-fate]")).SelectByValue("Retained");
        browser.Fill("input[name=sample-quantity]", "1");
        browser.Fill("input[name=sample-until]", "2028-03-10");
        browser.PressAt("#settle-sample");
        browser.WaitText("1 kg are kept in BENCH-1 until 2028-03-10");
        browser.Resize(390, 844);
        browser.Go("/bench/I-0025");
        browser.Wait("[data-part='trail'], #sample, body");
        Assert.Equal(0, browser.Overflow());
        File.Delete(picture);
    }

    /// <summary>A PNG of one pixel.</summary>
    const string Png = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";
}
