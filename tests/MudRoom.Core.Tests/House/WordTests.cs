using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;

namespace MudRoom.Core.Tests.House;

/// <summary>Words that nobody says on the floor, and what is said instead: on screens, in messages and in docs.</summary>
public sealed class WordTests
{
    static readonly string house = Path.GetFullPath(Path.Combine(Folder(), "../../.."));

    static string Folder([CallerFilePath] string file = "") => Path.GetDirectoryName(file)!;

    /// <summary>Not this, but that.</summary>
    static readonly Dictionary<string, string> instead = new()
    {
        ["it is not to count"] = "do not count it",
        ["nothing is to be done"] = "there is nothing to do",
        ["what is open and on no arrival"] = "open orders without an arrival",
        ["is doubted"] = "is asked about",
        ["successfully"] = "say what was done",
        ["an error occurred"] = "say what happened",
        ["something went wrong"] = "say what happened",
        ["oops"] = "say what happened",
        ["please"] = "say it without",
        ["click"] = "press",
        ["utilise"] = "use",
        ["utilize"] = "use",
        ["in order to"] = "to",
        ["hereby"] = "say it without",
        ["SKU"] = "item",
        ["GRN"] = "receipt",
        ["ASN"] = "despatch advice",
        ["supplier code"] = "vendor's code",
        ["warehouse location"] = "bin",
        ["goods receipt note"] = "receipt",
    };

    static readonly Regex unwanted = new($@"\b({string.Join('|', instead.Keys.Select(Regex.Escape))})\b", RegexOptions.IgnoreCase);

    /// <summary>What is read by people: the text of pages and what stands in quotes, and docs.</summary>
    static string Read(string file)
    {
        var text = File.ReadAllText(file);
        return Path.GetExtension(file) switch
        {
            ".md" => text,
            ".cs" => string.Join('\n', Regex.Matches(text, "\"(?:[^\"\\\\\n]|\\\\.)*\"").Select(m => m.Value)),
            _ => Regex.Replace(text, @"(?s)<style>.*?</style>|//[^\n]*|/\*.*?\*/|on\w*click|onclick|'click'|\.click\(", ""),
        };
    }

    static IEnumerable<string> Unwanted(string name, string text) =>
        unwanted
            .Matches(text)
            .Select(m =>
                $"{name}: \"{m.Value}\"; say: {instead.First(w => w.Key.Equals(m.Value, StringComparison.OrdinalIgnoreCase)).Value}"
            );

    [Fact]
    public void Screens_messages_and_docs_are_in_the_words_of_the_floor()
    {
        var files = new[] { ("src", "*.cs"), ("web/src", "*.svelte"), ("web/src", "*.ts"), ("docs", "*.md") }
            .SelectMany(f => Directory.EnumerateFiles(Path.Combine(house, f.Item1), f.Item2, SearchOption.AllDirectories))
            .Where(f => !f.EndsWith(".test.ts", StringComparison.Ordinal))
            .Where(f => !f.Split('/').Any(part => part is "bin" or "obj" or "generated" or "decisions" or "Migrations"))
            .ToList();
        Assert.True(files.Count > 300, $"Only {files.Count} files were found.");
        Assert.Empty(files.SelectMany(f => Unwanted(Path.GetRelativePath(house, f), Read(f))));
    }

    [Fact]
    public void An_unwanted_word_is_found_whatever_its_case_and_a_part_of_another_is_not() =>
        Assert.Equal(["here: \"Please\"; say: say it without"], Unwanted("here", "Please scan. That is pleasest of all."));
}
