using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;

namespace MudRoom.Core.Tests.House;

/// <summary>A line of code is at most 140 characters, so that two files can be read side by side. Formatters do not break what stands in
/// quotes or comments; this counts it.</summary>
public sealed partial class LineTests
{
    const int Most = 140;

    static readonly string house = Path.GetFullPath(Path.Combine(Folder(), "../../.."));

    static string Folder([CallerFilePath] string file = "") => Path.GetDirectoryName(file)!;

    /// <summary>A line of somebody else's format kept as it is sent: UBL, EDIFACT, JSON, a heading of an order file.</summary>
    [GeneratedRegex("""<c[ab]c:|xmlns|UN[AB]\+|UNA:|\{"|order,vendor,line""")]
    private static partial Regex Foreign();

    static IEnumerable<string> Code() =>
        from root in new[] { "src", "tests", "bench", "web/src" }
        from file in Directory.EnumerateFiles(Path.Combine(house, root), "*", SearchOption.AllDirectories)
        where Path.GetExtension(file) is ".cs" or ".ts" or ".svelte"
        where !file.Split('/').Any(part => part is "bin" or "obj" or "Migrations" or "generated")
        select file;

    static IEnumerable<string> TooLong(string name, IEnumerable<string> lines) =>
        lines
            .Select((line, index) => (Line: line, Number: index + 1))
            .Where(l => l.Line.Length > Most && !Foreign().IsMatch(l.Line))
            .Select(l => $"{name}:{l.Number} has {l.Line.Length} characters");

    [Fact]
    public void A_line_has_at_most_140_characters()
    {
        var files = Code().ToList();
        Assert.True(files.Count > 400, $"Only {files.Count} files of code were found under {house}.");
        Assert.Empty(files.SelectMany(file => TooLong(Path.GetRelativePath(house, file), File.ReadLines(file))));
    }

    [Fact]
    public void A_longer_line_is_found_and_a_message_of_another_format_is_not_one()
    {
        string[] lines = [new('x', Most), new('x', Most + 1), "<cbc:ID>" + new string('x', Most)];
        Assert.Equal(["here.cs:2 has 141 characters"], TooLong("here.cs", lines));
    }
}
