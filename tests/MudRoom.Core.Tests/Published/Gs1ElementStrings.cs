using System.Text.Json;
using MudRoom.Core.Identification;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// Element strings against other readers: verdicts by the GS1 Barcode Syntax Dictionary's linters in bwip-js 4.11.4 (MIT), parsed
/// values by the toolkit in digital-link.js 1.4.3 (Apache-2.0). The file names them case by case.
/// </summary>
public sealed class Gs1ElementStrings
{
    static readonly DateOnly today = new(2026, 3, 10);

    // The linters of these check what we do not: media types and similar; the value is carried on as it is.
    static readonly JsonElement[] cases =
    [
        .. JsonDocument
            .Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Published", "data", "gs1_element_strings.json")))
            .RootElement.GetProperty("cases")
            .EnumerateArray(),
    ];

    public static TheoryData<string> Strings => [.. cases.Select(c => c.GetProperty("bracketed").GetString()!)];

    [Theory]
    [MemberData(nameof(Strings))]
    public void We_accept_and_refuse_what_the_linters_do(string bracketed)
    {
        var verdict = Case(bracketed).GetProperty("lint_value").GetString()!;
        var ours = ElementStringReader.Read(bracketed, today);
        Assert.True(
            (verdict == "ok") == (ours.Refusal is null),
            $"{bracketed}: they say {verdict}, we say {ours.Refusal?.Sentence ?? "ok"}"
        );
    }

    [Theory]
    [MemberData(nameof(Strings))]
    public void Associations_agree_with_the_linters(string bracketed)
    {
        var read = ElementStringReader.Read(bracketed, today);
        if (read.Refusal is not null)
            return;
        var verdict = Case(bracketed).GetProperty("lint_with_associations").GetString()!;
        var ours = ElementStringReader.CheckAssociations(read.Value);
        Assert.True((verdict == "ok") == (ours is null), $"{bracketed}: they say {verdict}, we say {ours?.Sentence ?? "ok"}");
    }

    [Theory]
    [MemberData(nameof(Strings))]
    public void The_raw_string_reads_as_the_bracketed_one(string bracketed)
    {
        var one = Case(bracketed);
        var elements = one.GetProperty("elements").EnumerateArray().Select(e => (e[0].GetString()!, e[1].GetString()!)).ToList();
        var raw = ElementStringReader.Read(one.GetProperty("raw").GetString()!, today);
        if (raw.Refusal is not null)
            Assert.NotEqual("ok", one.GetProperty("lint_value").GetString());
        else if (one.GetProperty("lint_value").GetString() == "ok")
            Assert.Equal(elements.DistinctBy(e => e.Item1), raw.Value.Elements.Select(e => (e.Ai, e.Value)));
    }

    public static TheoryData<string> Links =>
        [.. cases.Where(c => c.TryGetProperty("digital_link_uri", out _)).Select(c => c.GetProperty("bracketed").GetString()!)];

    [Theory]
    [MemberData(nameof(Links))]
    public void A_digital_link_reads_as_the_toolkit_reads_it_and_what_the_linters_refuse_is_refused_in_it_too(string bracketed)
    {
        var one = Case(bracketed);
        var address = one.GetProperty("digital_link_uri").GetString()!;
        var code = ScannedCode.Of(address, today);
        // The toolkit leaves out what it does not know, and a batch beside a unit: there the address that it wrote is right, and says less
        // than the string.
        var theirs = one.GetProperty("digital_link_toolkit_parse")
            .EnumerateObject()
            .Where(p => Uri.UnescapeDataString(address).Contains(p.Value.GetString()!, StringComparison.Ordinal))
            .ToDictionary(p => p.Name, p => p.Value.GetString());
        var whole = theirs.Count == one.GetProperty("elements").EnumerateArray().DistinctBy(e => e[0].GetString()).Count();
        if (whole && one.GetProperty("lint_value").GetString() != "ok")
            Assert.IsType<ScannedCode.Wrong>(code);
        else if (code is ScannedCode.Unit unit)
            Assert.Equal(theirs, new Dictionary<string, string?> { ["00"] = unit.Sscc });
        else
            Assert.Equal(theirs, Assert.IsType<ScannedCode.Elements>(code).Read.Elements.ToDictionary(e => e.Ai, e => (string?)e.Value));
    }

    static JsonElement Case(string bracketed) => cases.First(c => c.GetProperty("bracketed").GetString() == bracketed);
}
