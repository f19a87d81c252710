using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using MudRoom.Core.Identification;
using MudRoom.Tests;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// Ten thousand element strings, good and bad, made from a seed: our verdict against the linters of the GS1 Barcode Syntax Dictionary as
/// bwip-js 4.11.4 (MIT)
/// carries them, our values against gs1-barcode-parser 1.0.1 (MIT), both run here and now by Node.
/// </summary>
public sealed class ElementStringCorpus
{
    const int Size = 10_000;
    static readonly DateOnly today = new(2026, 3, 10);

    // Those whose values are made here; the rest of the table is checked against recorded verdicts in Gs1ElementStrings.
    static readonly string[] identifiers =
    [
        "00",
        "01",
        "02",
        "10",
        "11",
        "13",
        "15",
        "17",
        "20",
        "21",
        "22",
        "30",
        "37",
        "240",
        "241",
        "250",
        "251",
        "3100",
        "3103",
        "3112",
        "3302",
        "400",
        "401",
        "402",
        "410",
        "420",
        "422",
    ];

    [Fact]
    public async Task Ours_and_theirs_agree_on_ten_thousand_strings_good_and_bad()
    {
        var random = new Random(20260310);
        var corpus = Enumerable.Range(0, Size).Select(_ => Make(random)).ToList();
        var theirs = await Ask(corpus);
        Assert.Equal(Size, theirs.Count);
        var (good, bad, read) = (0, 0, 0);
        for (var i = 0; i < Size; i++)
        {
            var verdict = theirs[i].GetProperty("lint").GetString()!;
            var ours = ElementStringReader.Read(corpus[i].Bracketed, today);
            var refusal = ours.Refusal ?? ElementStringReader.CheckAssociations(ours.Value);
            Assert.True(
                (verdict == "ok") == (refusal is null),
                $"{corpus[i].Bracketed}: they say {verdict}, we say {refusal?.Sentence ?? "ok"}"
            );
            if (verdict != "ok")
            {
                bad++;
                continue;
            }

            good++;
            var raw = ElementStringReader.Read(corpus[i].Raw, today);
            Assert.True(raw.Refusal is null, $"{corpus[i].Raw}: {raw.Refusal?.Sentence}");
            Assert.Equal(ours.Value.Elements.Select(e => (e.Ai, e.Value)), raw.Value.Elements.Select(e => (e.Ai, e.Value)));
            if (theirs[i].GetProperty("parsed") is not { ValueKind: JsonValueKind.Array } parsed)
                continue;
            foreach (var item in parsed.EnumerateArray())
            {
                Assert.Equal(item[1].GetString(), raw.Value[item[0].GetString()!]);
                read++;
            }
        }

        // The corpus holds enough of each kind to mean something.
        Assert.True(good > 3000 && bad > 3000 && read > 5000, $"{good} good, {bad} bad, {read} values compared");
    }

    static (string Bracketed, string Raw) Make(Random random)
    {
        // Most hold a trade item, for what else stands there needs one; some do not, and both readers must say so.
        var ais = identifiers
            .OrderBy(_ => random.Next())
            .Take(random.Next(0, 4))
            .Prepend(random.Next(8) == 0 ? "00" : "01")
            .Distinct()
            .ToList();
        var elements = ais.Select(ai => (Ai: ai, Value: Good(ai, random))).ToList();
        if (random.Next(2) == 0)
        {
            var at = random.Next(elements.Count);
            elements[at] = (elements[at].Ai, Bend(elements[at].Value, random));
        }

        var raw =
            "]d2"
            + string.Concat(
                elements.Select(
                    (e, i) =>
                        e.Ai
                        + e.Value
                        + (i < elements.Count - 1 && ApplicationIdentifier.Of(e.Ai) is not { Predefined: true } ? "\u001d" : "")
                )
            );
        return (string.Concat(elements.Select(e => $"({e.Ai}){e.Value}")), raw[3..]);
    }

    static string Good(string ai, Random random) =>
        ai switch
        {
            "00" => WithCheckDigit(Digits(random, 17)),
            "01" or "02" => WithCheckDigit(Digits(random, 13)),
            "410" => WithCheckDigit(Digits(random, 12)),
            "402" => WithCheckDigit(Digits(random, 16)),
            "11" or "13" or "15" or "17" => $"{random.Next(100):00}{random.Next(1, 13):00}{random.Next(0, 29):00}",
            "20" => Digits(random, 2),
            "30" or "37" => Digits(random, random.Next(1, 9)),
            "422" => new[] { "056", "276", "356", "528", "826" }[random.Next(5)],
            "401" => Digits(random, 7) + Letters(random, random.Next(1, 20)),
            { Length: 4 } => Digits(random, 6),
            _ => Letters(random, random.Next(1, ai is "250" or "251" or "240" or "241" or "400" or "401" ? 31 : 21)),
        };

    /// <summary>One thing wrong, or by chance still right: both readers say which.</summary>
    static string Bend(string value, Random random) =>
        random.Next(6) switch
        {
            0 => value[..^1],
            1 => value + Digits(random, random.Next(1, 12)),
            2 => value[..^1] + (char)('0' + (value[^1] - '0' + 1 + 10) % 10),
            3 => Put(value, random.Next(value.Length), "é"),
            // No blanks: those that people type between the parts of bracketed text are let pass here.
            4 => Put(value, random.Next(value.Length), new[] { "^", "~", "$", "|", "A", "[" }[random.Next(6)]),
            _ => Put(value, random.Next(value.Length), Digits(random, 1)),
        };

    static string Put(string value, int at, string what) => value[..at] + what + value[(at + 1)..];

    static string WithCheckDigit(string body) => body + CheckDigit.For(body);

    static string Digits(Random random, int count) =>
        string.Concat(Enumerable.Range(0, count).Select(_ => random.Next(10).ToString(CultureInfo.InvariantCulture)));

    static string Letters(Random random, int count)
    {
        const string set = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-/.,:;+*_!%&'\"<=>?";
        return string.Concat(Enumerable.Range(0, count).Select(_ => set[random.Next(set.Length)]));
    }

    static async Task<List<JsonElement>> Ask(IEnumerable<(string Bracketed, string Raw)> corpus)
    {
        var web = Path.Combine(Repository.Root(), "web");
        Assert.True(
            Directory.Exists(Path.Combine(web, "node_modules")),
            "The packages of the front end are not installed: run ./mudroom test."
        );
        using var node = Process.Start(
            new ProcessStartInfo("node", [Path.Combine(AppContext.BaseDirectory, "Published", "oracle", "read-element-strings.mjs"), web])
            {
                RedirectStandardInput = true,
                RedirectStandardOutput = true,
            }
        )!;
        var said = node.StandardOutput.ReadToEndAsync();
        foreach (var (bracketed, raw) in corpus)
            await node.StandardInput.WriteLineAsync(JsonSerializer.Serialize(new[] { bracketed, raw }));
        node.StandardInput.Close();
        var lines = (await said).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        await node.WaitForExitAsync();
        return [.. lines.Select(l => JsonDocument.Parse(l).RootElement)];
    }
}
