using MathNet.Numerics.Statistics;
using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Published;

/// <summary>Real incoming lots, parted into their components of variance, and means and spreads to certified digits.</summary>
public sealed class SpreadOfRealLots
{
    static (int, double, double) Lot(IEnumerable<double> values) =>
        values.ToList() is var v && v.Count > 1 ? (v.Count, v.Mean(), v.StandardDeviation()) : (v.Count, v.Mean(), 0);

    /// <summary>Variance between batches 1764.05, within 2451.25 (Box and Tiao 1973, section 5.1.2, from memory; also by Bates's
    /// lme4).</summary>
    [Fact]
    public void Batches_of_dyestuff()
    {
        var rows = Table.Read("dyestuff.csv");
        Assert.Equal(30, rows.Count);
        var parts = VarianceComponents.Of([.. rows.GroupBy(r => r["Batch"]).Select(g => Lot(g.Select(r => r.Number("Yield"))))])!;
        Assert.Equal((1764.05, 2451.25), (Math.Round(parts.Between, 2), Math.Round(parts.Within, 2)));
    }

    /// <summary>
    /// Strength of a paste: standard deviations 0.8234 between tests, 2.9041 between casks, 1.2874 between deliveries (the estimates of
    /// restricted maximum likelihood for these balanced data, Bates's lme4, from memory; the variances 0.678, 8.434, 1.657). Each is asked
    /// of the rule for one factor: tests within casks, then means of casks within deliveries.
    /// </summary>
    [Fact]
    public void Deliveries_of_paste()
    {
        var rows = Table.Read("pastes.csv");
        Assert.Equal(60, rows.Count);
        var casks = rows.GroupBy(r => (Batch: r["batch"], Cask: r["cask"]))
            .Select(g => (g.Key.Batch, Of: Lot(g.Select(r => r.Number("strength")))))
            .ToList();
        var tests = VarianceComponents.Of([.. casks.Select(c => c.Of)])!.Within;
        var deliveries = VarianceComponents.Of([.. casks.GroupBy(c => c.Batch).Select(g => Lot(g.Select(c => c.Of.Item2)))])!;
        Assert.Equal(
            (0.8234, 2.9041, 1.2874),
            (
                Math.Round(Math.Sqrt(tests), 4),
                Math.Round(Math.Sqrt(deliveries.Within - tests / 2), 4),
                Math.Round(Math.Sqrt(deliveries.Between), 4)
            )
        );
    }

    /// <summary>
    /// Thickness of oxide: standard deviations 11.398 between lots, 5.9888 between wafers, 3.5453 between sites (Pinheiro and Bates 2000,
    /// section 4.2, from memory).
    /// </summary>
    [Fact]
    public void Lots_of_wafers()
    {
        var rows = Table.Read("oxide.csv");
        Assert.Equal(72, rows.Count);
        var wafers = rows.GroupBy(r => (Lot: r["Lot"], Wafer: r["Wafer"]))
            .Select(g => (g.Key.Lot, Of: Lot(g.Select(r => r.Number("Thickness")))))
            .ToList();
        var sites = VarianceComponents.Of([.. wafers.Select(w => w.Of)])!.Within;
        var lots = VarianceComponents.Of([.. wafers.GroupBy(w => w.Lot).Select(g => Lot(g.Select(w => w.Of.Item2)))])!;
        Assert.Equal(
            (11.398, 5.989, 3.545),
            (Math.Round(Math.Sqrt(lots.Between), 3), Math.Round(Math.Sqrt(lots.Within - sites / 3), 3), Math.Round(Math.Sqrt(sites), 3))
        );
    }

    [Fact]
    public void Of_one_lot_or_of_single_pieces_nothing_is_said_and_alike_lots_have_nothing_between_them()
    {
        Assert.Null(VarianceComponents.Of([(30, 5, 1)]));
        Assert.Null(VarianceComponents.Of([(1, 5, 0), (1, 6, 0)]));
        Assert.Equal(0, VarianceComponents.Of([(30, 5, 1), (30, 5, 1)])!.Share);
        Assert.Equal(1, VarianceComponents.Of([(30, 5, 0), (30, 6, 0)])!.Share);
    }

    static readonly int[] michelson =
    [
        .. """
            850 740 900 1070 930 850 950 980 980 880 1000 980 930 650 760 810 1000 1000 960 960
            960 940 960 940 880 800 850 880 900 840 830 790 810 880 880 830 800 790 760 800
            880 880 880 860 720 720 620 860 970 950 880 910 850 870 840 840 850 840 840 840
            890 810 810 820 800 770 760 740 750 760 910 920 890 860 880 720 840 850 850 780
            890 840 780 810 760 810 790 810 820 850 870 870 810 740 810 940 950 800 810 870
            """.Split((char[])[' ', '\n'], StringSplitOptions.RemoveEmptyEntries).Select(int.Parse),
    ];

    /// <summary>
    /// NIST Statistical Reference Datasets, univariate summary statistics (data and certified values from memory; each is made by its own
    /// rule): NumAcc1 to NumAcc4, of which the deviations are ever smaller beside the mean. Michelso, from memory too: a hundred
    /// observations of the speed of light (Michelson 1879) in thousands of km/s; that they have the certified mean and standard deviation
    /// to twelve digits shows that none was remembered wrong.
    /// </summary>
    [Theory]
    [InlineData("NumAcc1", 10_000_002, 1, 14)]
    [InlineData("NumAcc2", 1.2, 0.1, 12)]
    [InlineData("NumAcc3", 1_000_000.2, 0.1, 8)]
    [InlineData("NumAcc4", 10_000_000.2, 0.1, 7)]
    [InlineData("Michelso", 299.8524, 0.0790105478190518, 12)]
    public void Means_and_spreads_as_a_sheet_keeps_them(string set, double mean, double spread, int digits)
    {
        var values = set switch
        {
            "NumAcc1" => [10_000_001m, 10_000_003m, 10_000_002m],
            "NumAcc2" => Swinging(1.2m),
            "NumAcc3" => Swinging(1_000_000.2m),
            "Michelso" => michelson.Select(v => 299 + v / 1000m),
            _ => Swinging(10_000_000.2m),
        };
        var plan = new PlanContent
        {
            SamplingUnit = "each",
            Characteristics =
            [
                new Characteristic
                {
                    Id = 1,
                    Name = set,
                    Unit = "mm",
                },
            ],
        };
        var kept = CharacteristicOutcome
            .Of(
                plan,
                [
                    .. values.Select(
                        (v, i) =>
                            new Finding
                            {
                                Piece = i + 1,
                                CharacteristicId = 1,
                                Value = v,
                                By = "NIST",
                                At = DateTimeOffset.UnixEpoch,
                            }
                    ),
                ]
            )
            .Single();
        // As many digits as a double holds: the log of the relative error, as the datasets' own pages measure it.
        Assert.True(Digits(kept.Mean!.Value, mean) >= Math.Min(digits, 13), $"{kept.Mean}");
        Assert.True(Digits(kept.Spread!.Value, spread) >= digits, $"{kept.Spread}");

        static double Digits(double found, double certified) =>
            found == certified ? 15 : -Math.Log10(Math.Abs(found - certified) / certified);

        // The mean once, then a tenth below and above it, five hundred times.
        static decimal[] Swinging(decimal about) => [about, .. Enumerable.Range(0, 1000).Select(i => about + (i % 2 == 0 ? -0.1m : 0.1m))];
    }

    /// <summary>
    /// Double plans with two samples of one size, by their acceptance numbers and the size times the fraction at which a lot passes with
    /// chance 0.95 and 0.10 (NIST/SEMATECH e-Handbook of Statistical Methods, 6.2.3.3, from memory); rejected at once above the second.
    /// </summary>
    [Theory]
    [InlineData(0, 1, 0.21, 2.50)]
    [InlineData(1, 2, 0.52, 3.92)]
    [InlineData(1, 3, 0.76, 4.11)]
    [InlineData(2, 4, 1.16, 5.39)]
    [InlineData(1, 4, 1.04, 4.42)]
    [InlineData(2, 5, 1.43, 5.55)]
    [InlineData(3, 6, 1.87, 6.78)]
    [InlineData(2, 6, 1.72, 5.82)]
    [InlineData(3, 7, 2.15, 6.91)]
    [InlineData(4, 8, 2.62, 8.10)]
    public void Double_plans_of_the_handbook(int c1, int c2, double at95, double at10)
    {
        const int size = 1000;
        var curve = new OperatingCharacteristic(new SamplePlan.Double(size, c1, c2 + 1, size, c2), int.MaxValue, true);
        Assert.Equal(0.95, curve.Chance(at95 / size), 0.003);
        Assert.Equal(0.10, curve.Chance(at10 / size), 0.003);
    }
}
