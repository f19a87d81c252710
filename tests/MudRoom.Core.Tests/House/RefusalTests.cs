using System.Reflection;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.RegularExpressions;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.House;

/// <summary>Every "no" is a value of its room: with one code, used, listed for people in docs and for the device in its types. With
/// MUDROOM_WRITE set the two lists are written anew.</summary>
public sealed class RefusalTests
{
    static readonly string house = Path.GetFullPath(Path.Combine(Folder(), "../../.."));

    static string Folder([CallerFilePath] string file = "") => Path.GetDirectoryName(file)!;

    sealed record Kept(string Room, string Class, string Name, RefusalKind Kind);

    static readonly IReadOnlyList<Kept> all =
    [
        .. typeof(Item)
            .Assembly.GetTypes()
            .Where(t => t.Name.EndsWith("Refusals", StringComparison.Ordinal))
            .SelectMany(t =>
                t.GetFields(BindingFlags.Public | BindingFlags.Static)
                    .Select(f => new Kept(t.Name[..^"Refusals".Length], t.Name, f.Name, (RefusalKind)f.GetValue(null)!))
            )
            .OrderBy(k => k.Room, StringComparer.Ordinal)
            .ThenBy(k => k.Kind.Code, StringComparer.Ordinal),
    ];

    static readonly string code = string.Join(
        "\n",
        Directory
            .EnumerateFiles(Path.Combine(house, "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && !f.EndsWith("Refusals.cs", StringComparison.Ordinal))
            .Select(File.ReadAllText)
    );

    [Fact]
    public void A_code_is_of_one_refusal_and_is_its_name()
    {
        Assert.True(all.Count > 200, $"{all.Count} refusals were found.");
        Assert.Equal(all.Count, all.Select(k => k.Kind.Code).Distinct().Count());
        foreach (var kept in all)
            Assert.Equal(kept.Name, string.Concat(kept.Kind.Code.Split('-').Select(w => char.ToUpperInvariant(w[0]) + w[1..])));
    }

    [Fact]
    public void Each_says_something_and_advises_something()
    {
        Assert.Empty(all.Where(k => k.Kind.Says.Length < 8 || k.Kind.Next.Length < 8).Select(k => k.Kind.Code));
        Assert.Empty(all.Where(k => k.Kind.Status is < 400 or > 599).Select(k => k.Kind.Code));
    }

    [Fact]
    public void Each_is_given_somewhere() =>
        Assert.Empty(
            all.Where(k => !Regex.IsMatch(code, $@"\b{k.Class}\.{k.Name}\b") && !Regex.IsMatch(code, $@"using static .*{k.Class}"))
                .Select(k => $"{k.Class}.{k.Name}")
        );

    [Fact]
    public void Nothing_is_refused_by_a_code_of_its_own_and_no_rule_asks_for_a_code()
    {
        Assert.DoesNotMatch(new Regex("""new Refusal\(\s*["$]"""), code);
        Assert.DoesNotMatch(new Regex("""\.Code\s*(==|is)\s*"[a-z]+(-[a-z]+)+"""), code);
    }

    [Fact]
    public void Docs_list_them_as_they_are()
    {
        var text = new StringBuilder(
            "# What is refused\n\nMade from the values in the code (`Core/*/Refusals.cs`); … stands for what differs. "
                + "Over HTTP each is a problem by RFC 9457 with its code.\n"
        );
        foreach (var room in all.GroupBy(k => k.Room))
        {
            text.Append($"\n## {room.Key}\n\n| code | HTTP | it says | what to do |\n|---|---|---|---|\n");
            foreach (var kind in room.Select(k => k.Kind))
                text.Append($"| {kind.Code} | {kind.Status} | {Cell(kind.Says)} | {Cell(kind.Next)} |\n");
        }

        AsKept("docs/refusals.md", text.ToString());
    }

    [Fact]
    public void The_device_knows_their_codes() =>
        AsKept(
            "web/src/lib/api/refusals.ts",
            "/** Codes of all that the server refuses. Made from its values; docs/refusals.md says what each means. */\n"
                + "export type RefusalCode =\n"
                + string.Join("\n", all.Select(k => k.Kind.Code).Order(StringComparer.Ordinal).Select(c => $"  | '{c}'"))
                + ";\n"
        );

    static string Cell(string text) => text.Replace("|", "\\|", StringComparison.Ordinal);

    static void AsKept(string path, string text)
    {
        var file = Path.Combine(house, path);
        if (Environment.GetEnvironmentVariable("MUDROOM_WRITE") is not null)
            File.WriteAllText(file, text);
        Assert.Equal(text, File.ReadAllText(file));
    }
}
