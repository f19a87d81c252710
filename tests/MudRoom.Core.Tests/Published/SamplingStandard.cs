using System.Globalization;
using MathNet.Numerics.Distributions;
using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// ISO 2859-1:1999. Single plans of tables 2-A and 2-B against an independent list of half of them (from memory of the standard,
/// their chances to accept computed in R 4.2.2); chances against MathNet.Numerics 5.0.0, R's hypergeometric and the
/// NIST/SEMATECH e-Handbook of Statistical Methods, section 6.2.3. Table 1 and table 2-C: structure only, values from memory.
/// </summary>
public sealed class SamplingStandard
{
    static IEnumerable<string[]> Rows(string file) =>
        File.ReadLines(Path.Combine(AppContext.BaseDirectory, "Published", "data", file)).Skip(1).Select(l => l.Split(','));

    static double Number(string text) => double.Parse(text, CultureInfo.InvariantCulture);

    [Fact]
    public void Every_listed_plan_of_tables_2A_and_2B_is_ours()
    {
        var checkedRows = 0;
        foreach (var r in Rows("iso2859_single_plans_oc.csv"))
        {
            var severity = r[0] == "normal" ? Severity.Normal : Severity.Tightened;
            var plan = SamplingTables.Plan(r[1][0], decimal.Parse(r[3], CultureInfo.InvariantCulture), severity);
            Assert.Equal((r[1][0], int.Parse(r[2]), int.Parse(r[4]), int.Parse(r[5])), (plan.Letter, plan.SampleSize, plan.Ac, plan.Re));
            checkedRows++;
        }

        Assert.True(checkedRows > 130, $"only {checkedRows} rows");
    }

    [Fact]
    public void The_chance_to_accept_at_the_AQL_is_that_of_R()
    {
        foreach (var r in Rows("iso2859_single_plans_oc.csv").Where(r => r[6] != "NA"))
            Assert.Equal(Number(r[6]), ChanceToAccept.FromProcess(Number(r[3]) / 100, int.Parse(r[2]), int.Parse(r[4])), 0.00001);
    }

    [Fact]
    public void The_hypergeometric_chance_is_that_of_R()
    {
        foreach (var r in Rows("hypergeometric_pa.csv"))
            Assert.Equal(Number(r[4]), ChanceToAccept.FromLot(int.Parse(r[0]), int.Parse(r[3]), int.Parse(r[1]), int.Parse(r[2])), 9);
    }

    [Fact]
    public void The_plan_of_the_NIST_handbook_has_its_chances()
    {
        foreach (var r in Rows("nist_handbook_n52_c3.csv"))
            Assert.Equal(Number(r[1]), ChanceToAccept.FromProcess(Number(r[0]), 52, 3), 6);
    }

    [Theory]
    [InlineData(32, 2, 0.05)]
    [InlineData(125, 5, 0.02)]
    [InlineData(13, 0, 0.1)]
    public void The_binomial_chance_is_that_of_a_statistics_library(int n, int ac, double p) =>
        Assert.Equal(new Binomial(p, n).CumulativeDistribution(ac), ChanceToAccept.FromProcess(p, n, ac), 10);

    [Theory]
    [InlineData(Severity.Normal)]
    [InlineData(Severity.Tightened)]
    [InlineData(Severity.Reduced)]
    public void Every_cell_leads_to_a_plan_without_turning_back(Severity severity)
    {
        for (var row = 0; row <= SamplingTables.LastRow(severity); row++)
        for (var column = 0; column < SamplingTables.Aqls.Count; column++)
        {
            var direction = 0;
            var at = row;
            while (SamplingTables.CellAt(at, column, severity) is var cell && cell is not SamplingTables.Cell.Plan)
            {
                var step = cell is SamplingTables.Cell.Up ? -1 : 1;
                Assert.True(direction == 0 || direction == step, $"{severity} row {row} column {column} turns back");
                direction = step;
                at += step;
                Assert.InRange(at, 0, SamplingTables.LastRow(severity));
            }
        }
    }

    [Theory]
    [InlineData(Severity.Normal)]
    [InlineData(Severity.Tightened)]
    [InlineData(Severity.Reduced)]
    public void Along_a_row_a_laxer_AQL_never_accepts_fewer(Severity severity)
    {
        for (var row = 0; row <= SamplingTables.LastRow(severity); row++)
        {
            var last = -1;
            for (var column = 0; column < SamplingTables.Aqls.Count; column++)
                if (SamplingTables.CellAt(row, column, severity) is SamplingTables.Cell.Plan plan)
                {
                    Assert.True(plan.Ac > last);
                    last = plan.Ac;
                }
        }
    }

    [Theory]
    [InlineData(Severity.Tightened, Severity.Normal)]
    public void Tightened_inspection_accepts_a_lot_at_the_AQL_less_often(Severity sharp, Severity lax)
    {
        foreach (var letter in "CDEFGHJKLMN")
        foreach (var aql in new[] { 0.65m, 1.0m, 1.5m, 2.5m, 4.0m })
        {
            var a = SamplingTables.Plan(letter, aql, sharp);
            var b = SamplingTables.Plan(letter, aql, lax);
            Assert.True(
                ChanceToAccept.FromProcess((double)aql / 100, a.SampleSize, a.Ac)
                    <= ChanceToAccept.FromProcess((double)aql / 100, b.SampleSize, b.Ac) + 1e-9,
                $"{letter} {aql}"
            );
        }
    }

    // Table 1 of the standard: well-known cells, from memory.
    [Theory]
    [InlineData(2, InspectionLevel.II, 'A')]
    [InlineData(8, InspectionLevel.III, 'B')]
    [InlineData(240, InspectionLevel.II, 'G')]
    [InlineData(1200, InspectionLevel.II, 'J')]
    [InlineData(1201, InspectionLevel.II, 'K')]
    [InlineData(500, InspectionLevel.S3, 'D')]
    [InlineData(35_000, InspectionLevel.I, 'K')]
    [InlineData(500_001, InspectionLevel.III, 'R')]
    [InlineData(500_001, InspectionLevel.S1, 'D')]
    public void Code_letters_follow_table_1(long lot, InspectionLevel level, char letter) =>
        Assert.Equal(letter, SamplingTables.Letter(lot, level));

    [Fact]
    public void A_larger_lot_or_a_higher_level_never_has_an_earlier_letter()
    {
        long[] lots =
        [
            2,
            8,
            9,
            15,
            16,
            25,
            26,
            50,
            51,
            90,
            91,
            150,
            151,
            280,
            281,
            500,
            501,
            1200,
            1201,
            3200,
            3201,
            10_000,
            10_001,
            35_000,
            35_001,
            150_000,
            150_001,
            500_000,
            500_001,
        ];
        foreach (var level in Enum.GetValues<InspectionLevel>())
            for (var i = 1; i < lots.Length; i++)
                Assert.True(SamplingTables.Letter(lots[i], level) >= SamplingTables.Letter(lots[i - 1], level));
        foreach (var lot in lots)
        foreach (
            var (low, high) in new[]
            {
                (InspectionLevel.I, InspectionLevel.II),
                (InspectionLevel.II, InspectionLevel.III),
                (InspectionLevel.S1, InspectionLevel.S2),
                (InspectionLevel.S3, InspectionLevel.S4),
            }
        )
            Assert.True(SamplingTables.Letter(lot, low) <= SamplingTables.Letter(lot, high));
    }
}
