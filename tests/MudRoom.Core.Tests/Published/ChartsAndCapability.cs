using System.Globalization;
using System.Text.Json;
using MathNet.Numerics.Statistics;
using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// Control charts, run rules and capability against R 4.2.2 (as each table of data says at its head), the run lengths of Champ and Woodall
/// (1987), and the certified values of NIST/ITL's Statistical Reference Datasets.
/// </summary>
public sealed class ChartsAndCapability
{
    static void Near(double wanted, double got, double relative, string what) =>
        Assert.True(Math.Abs(wanted - got) <= relative * Math.Max(Math.Abs(wanted), 1e-9), $"{what}: {wanted} wanted, {got} got");

    [Fact]
    public void The_constants_are_those_of_the_tables()
    {
        var rows = Table.Read("control_chart_constants.csv");
        Assert.Equal(24, rows.Count);
        foreach (var r in rows)
        {
            var n = r.Whole("n");
            var known = ChartConstants.For(n);
            Assert.Equal(r.Number("d2"), known.D2, 2e-6);
            Assert.Equal(r.Number("d3"), known.D3, 2e-6);
            Assert.Equal(r.Number("c4"), known.C4, 2e-6);
            Assert.Equal(r.Number("A2"), 3 / (known.D2 * Math.Sqrt(n)), 2e-6);
            Assert.Equal(r.Number("B4"), 1 + 3 * Math.Sqrt(1 - known.C4 * known.C4) / known.C4, 5e-6);
            Assert.Equal(r.Number("D3"), Math.Max(0, 1 - 3 * known.D3 / known.D2), 5e-6);
        }
    }

    static IReadOnlyList<IReadOnlyList<double>> Series(string name) =>
        [
            .. Table
                .Read("capability_series.csv")
                .Where(r => r["series"] == name)
                .GroupBy(r => r["subgroup"])
                .Select(g => (IReadOnlyList<double>)[.. g.Select(r => r.Number("value"))]),
        ];

    static Dictionary<string, double> Wanted(string name, string chart) =>
        Table
            .Read("capability_and_limits.csv")
            .Where(r => r["series"] == name && r["chart"] == chart && r["value"] is not ("" or "NA"))
            .ToDictionary(r => r["quantity"], r => r.Number("value"));

    [Theory]
    [InlineData("morley")]
    [InlineData("made_gap_25x5")]
    public void Limits_of_means_ranges_and_spreads_are_those_of_R(string name)
    {
        var (means, ranges) = ControlCharts.ByRange([.. Series(name).Select(Subgroup.Of)]);
        var byRange = Wanted(name, "xbar_R");
        Near(byRange["center"], means.Center, 1e-9, "centre");
        Near(byRange["UCL_x"], means.Points[0].High, 1e-6, "UCL of means");
        Near(byRange["LCL_x"], means.Points[0].Low, 1e-6, "LCL of means");
        Near(byRange["UCL_R"], ranges.Points[0].High, 1e-6, "UCL of ranges");
        Near(byRange["LCL_R"], ranges.Points[0].Low, 1e-6, "LCL of ranges");
        var (bySpread, spreads) = ControlCharts.BySpread([.. Series(name).Select(Subgroup.Of)]);
        var wanted = Wanted(name, "xbar_s");
        Near(wanted["UCL_x"], bySpread.Points[0].High, 1e-8, "UCL of means by s");
        Near(wanted["LCL_x"], bySpread.Points[0].Low, 1e-8, "LCL of means by s");
        Near(wanted["UCL_s"], spreads.Points[0].High, 1e-8, "UCL of s");
        Near(wanted["LCL_s"], spreads.Points[0].Low, 1e-8, "LCL of s");
    }

    [Theory]
    [InlineData("Nile")]
    [InlineData("MASS_chem")]
    public void Limits_of_single_values_are_those_of_R(string name)
    {
        var (values, moving) = ControlCharts.Individuals([.. Series(name).Select(g => g[0])]);
        var wanted = Wanted(name, "I_MR");
        Near(wanted["center"], values.Center, 1e-9, "centre");
        Near(wanted["UCL_x"], values.Points[0].High, 1e-7, "UCL");
        Near(wanted["LCL_x"], values.Points[0].Low, 1e-7, "LCL");
        Near(wanted["MR_bar"], moving.Center, 1e-9, "mean moving range");
        Near(wanted["UCL_MR"], moving.Points[0].High, 1e-7, "UCL of moving ranges");
    }

    /// <summary>NIST/SEMATECH e-Handbook 6.3.2.2, ten flow rates, from memory: centre 50.81, limits 45.8159 and 55.8041.</summary>
    [Fact]
    public void The_handbooks_chart_of_ten_single_values_has_its_limits()
    {
        var (values, moving) = ControlCharts.Individuals([49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1]);
        Assert.Equal(50.81, values.Center, 0.001);
        Assert.Equal(1.8778, moving.Center, 0.0001);
        // The handbook rounds d2 to 1.128.
        Assert.Equal(55.8041, values.Points[0].High, 0.002);
        Assert.Equal(45.8159, values.Points[0].Low, 0.002);
    }

    [Fact]
    public void Charts_of_attributes_have_the_limits_of_each_point()
    {
        var rows = Table.Read("p_u_charts.csv");
        Assert.True(rows.Count > 150);
        foreach (var of in rows.GroupBy(r => (r["series"], Chart: r["chart"])))
        {
            var lots = of.Select(r => (r.Number("count"), r.Number("size"))).ToList();
            var chart = of.Key.Chart == "p" ? ControlCharts.Fractions(lots) : ControlCharts.PerUnit(lots);
            foreach (var (r, point) in of.Zip(chart.Points))
            {
                Near(r.Number("center"), chart.Center, 1e-9, "centre");
                Near(r.Number("UCL"), point.High, 1e-9, "UCL");
                Assert.Equal(r.Number("LCL"), point.Low, 1e-9);
                Assert.Equal(r["outside"] == "1", point.IsOutside);
            }
        }
    }

    [Fact]
    public void Each_rule_is_broken_at_the_points_where_R_and_a_second_writing_find_it()
    {
        using var file = JsonDocument.Parse(
            File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Published", "data", "rules_points.json"))
        );
        var (checkedRules, found) = (0, 0);
        foreach (var c in file.RootElement.GetProperty("cases").EnumerateArray())
        {
            var values = c.GetProperty("x").EnumerateArray().Select(x => x.GetDouble()).ToList();
            foreach (
                var (rule, name) in new[]
                {
                    (RunRule.BeyondThree, "nelson1"),
                    (RunRule.NineOnOneSide, "nelson2"),
                    (RunRule.SixRisingOrFalling, "nelson3"),
                    (RunRule.FourteenUpAndDown, "nelson4"),
                    (RunRule.TwoOfThreeBeyondTwo, "nelson5_point"),
                    (RunRule.FourOfFiveBeyondOne, "nelson6_point"),
                    (RunRule.FifteenWithinOne, "nelson7"),
                    (RunRule.EightBeyondOne, "nelson8"),
                    (RunRule.EightOnOneSide, "we4"),
                }
            )
            {
                var broken = RunRules.Of(values, c.GetProperty("center").GetDouble(), c.GetProperty("sigma").GetDouble(), [rule]);
                Assert.Equal(
                    c.GetProperty("breaks").GetProperty(name).EnumerateArray().Select(p => p.GetInt32()),
                    broken.Select(b => b.At + 1)
                );
                checkedRules++;
                found += broken.Count;
            }
        }

        Assert.True(checkedRules >= 50 && found > 20, $"{checkedRules} rules, {found} points");
    }

    /// <summary>Champ and Woodall (1987), table 1: with no shift one beyond three sigma comes after 370.4 points on average; with two of
    /// three beyond two, 225.44; with a shift of one sigma 43.89 and 20.01. Simulated, three per cent of room.</summary>
    [Theory]
    [InlineData(0, 370.4, 225.44)]
    [InlineData(1, 43.89, 20.01)]
    public void Runs_are_as_long_as_published(double shift, double one, double withTwoOfThree)
    {
        var random = new Random(1987);
        Near(one, Length([RunRule.BeyondThree]), 0.04, "beyond three");
        Near(withTwoOfThree, Length([RunRule.BeyondThree, RunRule.TwoOfThreeBeyondTwo]), 0.04, "with two of three");

        double Length(RunRule[] rules)
        {
            const int runs = 6000;
            long points = 0;
            for (var run = 0; run < runs; run++)
            {
                var last = new List<double>();
                do
                {
                    points++;
                    last.Add(MathNet.Numerics.Distributions.Normal.Sample(random, shift, 1));
                    if (last.Count > 3)
                        last.RemoveAt(0);
                } while (RunRules.Of(last, 0, 1, rules).All(b => b.At < last.Count - 1));
            }

            return points / (double)runs;
        }
    }

    [Theory]
    [InlineData("morley")]
    [InlineData("made_gap_25x5")]
    public void Capability_and_its_ranges_are_those_of_R(string name)
    {
        var limits = Wanted(name, "limits");
        double? Limit(string which) => limits.TryGetValue(which, out var v) ? v : null;
        var fits = Capability.Of(Series(name), Limit("L"), Limit("U")).Is!;
        var wanted = Wanted(name, "capability");
        Near(wanted["mean"], fits.Mean, 1e-9, "mean");
        Near(wanted["sigma_within_pooled"], fits.Within, 1e-9, "within");
        Near(wanted["sigma_overall"], fits.Overall, 1e-9, "overall");
        foreach (
            var (prefix, of) in new[]
            {
                ("Cp_within_pooled", fits.Cp),
                ("Cpk_within_pooled", fits.Cpk),
                ("Pp_overall", fits.Pp),
                ("Ppk_overall", fits.Ppk),
            }
        )
            if (wanted.TryGetValue(prefix, out var value))
            {
                Near(value, of!.Value, 1e-9, prefix);
                Near(wanted[prefix + "_low95"], of.Low, 1e-6, prefix + " low");
                Near(wanted[prefix + "_high95"], of.High, 1e-6, prefix + " high");
            }
            else
            {
                Assert.Null(of);
            }
    }

    /// <summary>NIST/SEMATECH e-Handbook 6.1.6, from memory: limits 8 and 20, mean 16, s 2: Cp 1.0, Cpk 0.6667.</summary>
    [Fact]
    public void The_handbooks_capability_is_its()
    {
        var fits = Capability.Of([(50, 16, 2), (50, 16, 2)], 8, 20).Is!;
        Assert.Equal(1.0, fits.Cp!.Value, 1e-9);
        Assert.Equal(0.6667, fits.Cpk!.Value, 0.0001);
    }

    /// <summary>NIST/ITL StRD, analysis of variance: the certified residual standard deviation is the pooled spread within.</summary>
    [Theory]
    [InlineData("AtmWtAg.dat", 9)]
    [InlineData("SiRstv.dat", 10)]
    [InlineData("SmLs01.dat", 12)]
    public void The_spread_within_lots_has_the_certified_digits(string file, int digits)
    {
        var lines = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "Published", "data", file));
        var certified = lines
            .First(l => l.Contains("Standard Deviation", StringComparison.Ordinal) && l.Any(char.IsDigit))
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Last();
        var data = lines
            .Skip(60)
            .Select(l => l.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            .Where(p => p.Length == 2)
            .Select(p => (Group: p[0], Value: double.Parse(p[1], CultureInfo.InvariantCulture)))
            .GroupBy(p => p.Group)
            .Select(g => (IReadOnlyList<double>)[.. g.Select(p => p.Value)])
            .ToList();
        var within = Capability.Of(data, 0, 1).Is!.Within;
        Near(double.Parse(certified, CultureInfo.InvariantCulture), within, Math.Pow(10, -digits), file);
    }

    [Fact]
    public void A_drift_is_seen_before_it_passes_the_limit()
    {
        double[] means = [0.085, 0.072, 0.094, 0.075, 0.070, 0.078, 0.087, 0.095, 0.104, 0.112];
        var drift = Drift.Of(means, 0, 0.15)!;
        Assert.Equal(6, drift.Lots);
        Assert.Equal(5, drift.PassesIn);
        Assert.Null(Drift.Of([.. means, 0.11], 0, 0.15));
        Assert.Null(Drift.Of(means, null, null)!.PassesIn);
        Assert.Contains(RunRules.Of(means, means.Average(), means.StandardDeviation(), RunRules.Nelson), b =>
            b is { Rule: RunRule.SixRisingOrFalling, At: 9 }
        );
    }

    [Fact]
    public void Where_little_is_known_a_sentence_stands_instead_of_a_number()
    {
        Assert.Contains("Fewer than two lots", Capability.Of([(32, 1, 0.1)], 0, 2).Why);
        Assert.Contains("alike", Capability.Of([(32, 1, 0), (32, 1.1, 0)], 0, 2).Why);
        Assert.Contains("no limit", Capability.Of([(32, 1, 0.1), (32, 1.1, 0.1)], null, null).Why);
        Assert.Null(Capability.Of([(32, 1, 0.1), (32, 1.1, 0.1)], null, 2).Is!.Cp);
    }
}
