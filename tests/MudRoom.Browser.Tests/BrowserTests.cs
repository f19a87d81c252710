namespace MudRoom.Browser.Tests;

/// <summary>The browsers of the tests themselves.</summary>
[Collection("one after another")]
public sealed class BrowserTests
{
    /// <summary>One that stays would go on asking a server that is gone, and each would slow what comes after it.</summary>
    [Fact]
    public void A_browser_that_is_closed_leaves_no_process()
    {
        string folder;
        using (var browser = new Browser("http://127.0.0.1"))
        {
            folder = browser.Folder;
            Assert.NotEmpty(Told(folder));
        }

        for (var i = 0; i < 100 && Told(folder).Count > 0; i++)
            Thread.Sleep(100);
        Assert.Empty(Told(folder));
    }

    /// <summary>The processes that are told a folder.</summary>
    static List<string> Told(string folder) =>
        [
            .. Directory
                .EnumerateDirectories("/proc")
                .Select(p => Path.Combine(p, "cmdline"))
                .Where(c => Says(c).Contains(folder, StringComparison.Ordinal)),
        ];

    static string Says(string commandLine)
    {
        try
        {
            return File.ReadAllText(commandLine);
        }
        catch (IOException)
        {
            return "";
        }
    }
}
