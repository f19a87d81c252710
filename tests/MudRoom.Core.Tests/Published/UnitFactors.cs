using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// Sizes of units against published factors: NIST Special Publication 811 (2008), appendix B.8, bold entries, which are exact by
/// definition; the values stand from
/// memory, as no package here carries them. Codes against UN/ECE Recommendation 20 and GS1's measures as digital-link.js 1.4.3 maps them.
/// </summary>
public sealed class UnitFactors
{
    [Theory]
    [InlineData("LBR", "KGM", "0.45359237")]
    [InlineData("ONZ", "KGM", "0.028349523125")]
    [InlineData("STI", "KGM", "6.35029318")]
    [InlineData("CWI", "KGM", "50.80234544")]
    [InlineData("TNE", "KGM", "1000")]
    [InlineData("GRM", "KGM", "0.001")]
    [InlineData("INH", "MTR", "0.0254")]
    [InlineData("FOT", "MTR", "0.3048")]
    [InlineData("YRD", "MTR", "0.9144")]
    [InlineData("KMT", "MTR", "1000")]
    [InlineData("FTK", "MTK", "0.09290304")]
    [InlineData("YDK", "MTK", "0.83612736")]
    [InlineData("GLL", "LTR", "3.785411784")]
    [InlineData("GLI", "LTR", "4.54609")]
    [InlineData("PTI", "LTR", "0.56826125")]
    [InlineData("OZI", "LTR", "0.0284130625")]
    [InlineData("APZ", "KGM", "0.0311034768")]
    [InlineData("INK", "MTK", "0.00064516")]
    [InlineData("QTL", "LTR", "0.946352946")]
    [InlineData("INQ", "LTR", "0.016387064")]
    [InlineData("FTQ", "LTR", "28.316846592")]
    [InlineData("YDQ", "LTR", "764.554857984")]
    [InlineData("MTQ", "LTR", "1000")]
    [InlineData("KGM", "GRM", "1000")]
    [InlineData("YRD", "FOT", "3")]
    [InlineData("FOT", "INH", "12")]
    [InlineData("STI", "LBR", "14")]
    public void A_unit_is_as_large_as_it_is_published_to_be(string from, string to, string factor)
    {
        var (up, down) = Units.Ratio(from, to)!.Value;
        Assert.Equal(decimal.Parse(factor, System.Globalization.CultureInfo.InvariantCulture), (decimal)up / down);
    }

    [Fact]
    public void Every_unit_has_a_code_of_the_recommendation_and_of_GS1s_measures()
    {
        // UN/ECE Recommendation 20, as listed by open packages; the codes that GS1's measure identifiers stand for, by digital-link.js
        // 1.4.3 (Apache-2.0).
        string[] gs1 =
        [
            "KGM",
            "MTR",
            "MTK",
            "LTR",
            "MTQ",
            "LBR",
            "INH",
            "FOT",
            "YRD",
            "FTK",
            "YDK",
            "ONZ",
            "APZ",
            "INK",
            "QTL",
            "GLL",
            "INQ",
            "FTQ",
            "YDQ",
        ];
        Assert.All(gs1, code => Assert.NotNull(Units.Find(code)));
        Assert.Equal(Units.All.Count, Units.All.Select(u => u.Code).Distinct().Count());
        Assert.Equal(Units.All.Count, Units.All.Select(u => u.Word).Distinct().Count());
        var known = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "Published", "data", "unece_rec20_codes.csv"))
            .Skip(1)
            .ToHashSet();
        Assert.All(Units.All, u => Assert.Contains(u.Code, known));
    }

    [Fact]
    public void There_and_back_is_the_same_and_what_does_not_measure_the_same_has_no_ratio()
    {
        foreach (var a in Units.All)
        foreach (var b in Units.All)
        {
            var there = Units.Ratio(a.Code, b.Code);
            Assert.Equal(a.Dimension == b.Dimension, there is not null);
            if (there is { } t && Units.Ratio(b.Code, a.Code) is { } back)
                Assert.Equal((t.Numerator, t.Denominator), (back.Denominator, back.Numerator));
        }
    }

    [Fact]
    public void Package_types_are_codes_of_recommendation_21()
    {
        var known = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "Published", "data", "unece_rec21_codes.csv"))
            .Skip(1)
            .ToHashSet();
        Assert.All(PackageTypes.All, t => Assert.Contains(t.Code, known));
    }
}
