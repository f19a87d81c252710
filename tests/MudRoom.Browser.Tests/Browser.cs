using System.Collections.Concurrent;
using MudRoom.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Support.UI;

namespace MudRoom.Browser.Tests;

/// <summary>One person at one screen.</summary>
public sealed class Browser : IDisposable
{
    static readonly ConcurrentDictionary<string, string> sessions = new();
    readonly ChromeDriver driver;
    readonly string url;

    /// <param name="profile">A folder that keeps what the browser keeps; null for one that forgets.</param>
    /// <param name="more">Further arguments of the browser.</param>
    public Browser(string url, int width = 1280, int height = 800, string? profile = null, params string[] more)
    {
        Environment.SetEnvironmentVariable("SE_OFFLINE", "true");
        this.url = url;
        // The shell keeps no profile. It is started itself: the script of its name waits for it, and is all that would be ended.
        var options = new ChromeOptions
        {
            BinaryLocation = profile is null ? Find("chromium-headless-shell", within: "/usr/lib/chromium") : Find("chromium"),
        };
        options.AddArguments(
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-dev-shm-usage",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--force-color-profile=srgb",
            "--hide-scrollbars"
        );
        options.AddArguments(more);
        if (profile is not null)
            options.AddArgument("--user-data-dir=" + profile);
        var driverPath = Find("chromedriver");
        var service = ChromeDriverService.CreateDefaultService(Path.GetDirectoryName(driverPath), Path.GetFileName(driverPath));
        service.SuppressInitialDiagnosticInformation = true;
        service.LogPath = "/dev/null";
        driver = new ChromeDriver(service, options, TimeSpan.FromMinutes(2));
        Resize(width, height);
    }

    public ChromeDriver Driver => driver;

    /// <summary>The folder that all of its processes are told.</summary>
    public string Folder => (string)((Dictionary<string, object>)driver.Capabilities.GetCapability("chrome")!)["userDataDir"];

    public void Resize(int width, int height) =>
        driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new Dictionary<string, object?>
            {
                ["width"] = width,
                ["height"] = height,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = width < 700,
            }
        );

    /// <summary>Signed in: the first time in the form, then with the cookie that was given there, unless that session has ended.</summary>
    public Browser SignIn(string name)
    {
        if (!sessions.TryGetValue(name, out var cookie))
        {
            SignInByHand(name);
            sessions.TryAdd(name, driver.Manage().Cookies.GetCookieNamed("mudroom")!.Value);
            return this;
        }

        driver.ExecuteCdpCommand(
            "Network.setCookie",
            new Dictionary<string, object?>
            {
                ["url"] = url,
                ["name"] = "mudroom",
                ["value"] = cookie,
                ["httpOnly"] = true,
                ["sameSite"] = "Strict",
                ["expires"] = DateTimeOffset.UtcNow.AddHours(12).ToUnixTimeSeconds(),
            }
        );
        Go("/");
        Wait(".house, input[name=name]");
        return driver.FindElements(By.CssSelector(".house")).Count > 0 ? this : SignInByHand(name);
    }

    /// <summary>Signed in, in the form.</summary>
    public Browser SignInByHand(string name)
    {
        Go("/");
        Fill("input[name=name]", name);
        Fill("input[name=password]", DemoTemplate.PasswordOf(name));
        Press("Come in");
        Wait(".house");
        return this;
    }

    public void Go(string path)
    {
        driver.Navigate().GoToUrl(url + path);
        Wait("body");
    }

    public IWebElement Wait(string css) => Until(d => d.FindElements(By.CssSelector(css)).FirstOrDefault(e => e.Displayed), css);

    public IWebElement WaitText(string text) =>
        Until(
            d =>
                d.FindElements(By.XPath($"//*[contains(normalize-space(.), \"{text}\")][not(self::script)]"))
                    .LastOrDefault(e => e.Displayed),
            text
        );

    public void WaitGone(string css) =>
        Until(d => d.FindElements(By.CssSelector(css)).Any(e => e.Displayed) ? null : new object(), $"no {css}");

    public void Press(string words) =>
        Until(
            d =>
            {
                var found = d.FindElements(By.XPath($"//*[self::button or self::a][contains(normalize-space(.), \"{words}\")]"))
                    .FirstOrDefault(e => e.Displayed && e.Enabled);
                if (found is null)
                    return null;
                Click(found);
                return found;
            },
            $"button {words}"
        );

    public void PressAt(string css) =>
        Until(
            d =>
            {
                var found = d.FindElements(By.CssSelector(css)).FirstOrDefault(e => e.Displayed && e.Enabled);
                if (found is null)
                    return null;
                Click(found);
                return found;
            },
            css
        );

    void Click(IWebElement element)
    {
        driver.ExecuteScript("arguments[0].scrollIntoView({block: 'center'})", element);
        element.Click();
    }

    public void Fill(string css, string text)
    {
        var field = Wait(css);
        field.Clear();
        field.SendKeys(text);
    }

    /// <summary>Types as a scanner does: into whatever has the focus, fast, with Enter at the end; FNC1 comes as Ctrl+].</summary>
    public void Scan(string text, bool inField = false)
    {
        if (!inField)
            driver.ExecuteScript("document.activeElement?.blur?.()");
        var parts = text.Split('\u001d');
        for (var i = 0; i < parts.Length; i++)
        {
            if (i > 0)
                driver.ExecuteScript(
                    "(document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent('keydown', {key: ']', ctrlKey: true, "
                        + "bubbles: true, cancelable: true}))"
                );
            // The Enter comes with the last of it: a pause before it would be a person's.
            new OpenQA.Selenium.Interactions.Actions(driver).SendKeys(parts[i] + (i == parts.Length - 1 ? Keys.Enter : "")).Perform();
        }
    }

    /// <summary>The same label on the next of the goods: a hand takes longer to it than the moment within which a label is asked
    /// about.</summary>
    public void ScanNext(string text)
    {
        Thread.Sleep(320);
        Scan(text);
    }

    /// <summary>
    /// Types into what has the focus at the pace of a scanner, however slow this machine draws: the keys come one right behind the other,
    /// and do what the
    /// browser does with them unless the page takes them, Enter on a button or in a form included.
    /// </summary>
    public void ScanAtOnce(string text) =>
        driver.ExecuteScript(
            """
            const at = () => document.activeElement ?? document.body;
            // All keys are of the instant of the scan, however long the page takes over each.
            const keys = [...arguments[0], 'Enter'].map((key) => new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
            for (const key of keys)
              if (!at().dispatchEvent(key)) continue;
              else if (key.key === 'Enter') at().matches('button') ? at().click() : at().form?.requestSubmit();
              else if (at().matches('input, textarea')) document.execCommand('insertText', false, key.key);
            """,
            text
        );

    /// <summary>What the scan line says it understood.</summary>
    public string Said() => driver.FindElement(By.Id("said")).Text;

    public void WaitSaid(string words, int seconds = 30) =>
        Until(
            _ => Said().Contains(words, StringComparison.OrdinalIgnoreCase) ? new object() : null,
            $"the scan line to say {words}",
            Said,
            seconds
        );

    public T Until<T>(Func<IWebDriver, T?> condition, string what, Func<string>? now = null, int seconds = 30)
        where T : class
    {
        var wait = new WebDriverWait(driver, TimeSpan.FromSeconds(seconds)) { PollingInterval = TimeSpan.FromMilliseconds(60) };
        wait.IgnoreExceptionTypes(
            typeof(StaleElementReferenceException),
            typeof(ElementClickInterceptedException),
            typeof(ElementNotInteractableException),
            typeof(NoSuchElementException)
        );
        try
        {
            return wait.Until(d => condition(d)) ?? throw new InvalidOperationException();
        }
        catch (WebDriverTimeoutException)
        {
            var shown = driver.FindElements(By.CssSelector("main, .sill, .camera, [role=dialog]")).Select(e => e.Text);
            throw new TimeoutException($"Waited in vain for {what} at {driver.Url}. {now?.Invoke()}\n{string.Join("\n", shown)}");
        }
    }

    /// <summary>An act by the person of this browser, as the page would do it; fails when it is refused.</summary>
    /// <param name="answer">The field of the answer that is wanted, or null.</param>
    public string Act(string path, string body, string answer = "sentence")
    {
        var said = (string)
            driver.ExecuteAsyncScript(
                """
                const [path, body, answer, done] = arguments;
                (async () => {
                  const token = (await (await fetch('/api/session')).json()).token;
                  const headers = { 'Content-Type': 'application/json', 'X-Token': token, 'Act-Id': crypto.randomUUID() };
                  const sent = await fetch('/api/LM' + path, { method: 'POST', body, headers });
                  const text = await sent.text();
                  return sent.ok ? 'ok ' + (JSON.parse(text)[answer] ?? '') : text;
                })().then(done, (e) => done(String(e)));
                """,
                path,
                body,
                answer
            )!;
        return said.StartsWith("ok ", StringComparison.Ordinal) ? said[3..] : throw new InvalidOperationException($"{path} {body}: {said}");
    }

    /// <summary>How much wider than the screen the page is; nothing may scroll sideways.</summary>
    public long Overflow() =>
        (long)driver.ExecuteScript("return document.documentElement.scrollWidth - document.documentElement.clientWidth")!;

    public void Shot(string file)
    {
        Thread.Sleep(500);
        driver.GetScreenshot().SaveAsFile(file);
    }

    public void Dispose() => driver.Dispose();

    static string Find(string program, string? within = null) =>
        $"{within}:{Environment.GetEnvironmentVariable("PATH")}"
            .Split(':')
            .Select(p => Path.Combine(p, program))
            .FirstOrDefault(File.Exists)
        ?? throw new InvalidOperationException($"{program} is not on the PATH: run ./mudroom test, which installs it.");
}
