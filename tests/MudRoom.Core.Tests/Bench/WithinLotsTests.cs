using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Bench;

/// <summary>Means of lots against the spread within them.</summary>
public sealed class WithinLotsTests
{
    static readonly Characteristic gap = new()
    {
        Id = 1,
        Name = "Gap",
        Unit = "mm",
        Lower = 0,
        Upper = 1,
    };

    static ChartLot Lot(int n, double mean, double spread, double? range = 0.2) =>
        new($"I-{n:0000}", new DateOnly(2026, 1, 1).AddDays(n), new CharacteristicOutcome(1, 8, 0, mean, spread, range));

    [Fact]
    public void A_lot_apart_from_what_its_spread_lets_expect_is_told_and_alike_ones_are_not()
    {
        var alike = Enumerable.Range(0, 10).Select(i => Lot(i, 0.5 + 0.001 * (i % 3), 0.1)).ToList();
        var (still, _) = WithinLots.Of(gap, alike, LotsChart.Spread);
        Assert.StartsWith("Gap: no mean lies outside", still!.Headline, StringComparison.Ordinal);
        var (apart, _) = WithinLots.Of(gap, [.. alike, Lot(11, 0.8, 0.1)], LotsChart.Spread);
        Assert.StartsWith("Gap: 1 of 11 means lies outside", apart!.Headline, StringComparison.Ordinal);
        Assert.Contains(apart.Broken, b => b is { Rule: RunRule.BeyondThree, At: 10 });
        // A rule that is broken at many lots is told once, at the last.
        var (twice, _) = WithinLots.Of(gap, [.. alike, Lot(11, 0.8, 0.1), Lot(12, 0.2, 0.1)], LotsChart.Spread);
        Assert.Equal(11, Assert.Single(twice!.Broken, b => b.Rule == RunRule.BeyondThree).At);
        var (wide, _) = WithinLots.Of(gap, [.. alike, Lot(11, 0.5, 0.9)], LotsChart.Spread);
        Assert.EndsWith("1 is of another spread.", wide!.Headline, StringComparison.Ordinal);
    }

    /// <summary>A lot of few pieces has wider limits than one of many: three standard deviations of its own mean.</summary>
    [Fact]
    public void Each_lot_has_limits_for_its_own_number_of_pieces()
    {
        var few = new ChartLot("I-1", new DateOnly(2026, 1, 1), new CharacteristicOutcome(1, 2, 0, 0.5, 0.1, 0.2));
        var many = new ChartLot("I-2", new DateOnly(2026, 1, 2), new CharacteristicOutcome(1, 32, 0, 0.5, 0.1, 0.2));
        var (chart, _) = WithinLots.Of(gap, [few, many], LotsChart.Spread);
        var widths = chart!.Means.Points.Select(p => p.High - p.Low).ToList();
        Assert.Equal(Math.Sqrt(32.0 / 2), widths[0] / widths[1], 1e-9);
    }

    [Fact]
    public void Where_there_is_nothing_to_draw_a_sentence_stands_in_its_place()
    {
        Assert.StartsWith("Two lots", WithinLots.Of(gap, [Lot(1, 0.5, 0.1)], LotsChart.Spread).Why, StringComparison.Ordinal);
        Assert.StartsWith(
            "The values of each lot are alike",
            WithinLots.Of(gap, [Lot(1, 0.5, 0), Lot(2, 0.6, 0)], LotsChart.Spread).Why,
            StringComparison.Ordinal
        );
        Assert.StartsWith(
            "Sheets of before",
            WithinLots.Of(gap, [Lot(1, 0.5, 0.1, null), Lot(2, 0.6, 0.1)], LotsChart.Range).Why,
            StringComparison.Ordinal
        );
        Assert.NotNull(WithinLots.Of(gap with { Unit = null }, [Lot(1, 0.5, 0.1), Lot(2, 0.6, 0.1)], LotsChart.Spread).Why);
        Assert.NotNull(WithinLots.Of(gap, [Lot(1, 0.5, 0.1), Lot(2, 0.6, 0.1)], LotsChart.Range).Chart);
    }

    [Fact]
    public void All_characteristics_together_are_counted_per_piece_and_may_be_more_than_one_a_piece()
    {
        var together = SeenComing.Together([new CharacteristicOutcome(1, 8, 6, 0.5, 0.1), new CharacteristicOutcome(2, 8, 5, null, null)]);
        Assert.Equal((8, 11), (together.Looked, together.Nonconforming));
        // What was looked at on two pieces of eight says nothing of the other six.
        Assert.Equal(
            together,
            SeenComing.Together([
                new CharacteristicOutcome(1, 8, 6, 0.5, 0.1),
                new CharacteristicOutcome(2, 8, 5, null, null),
                new CharacteristicOutcome(3, 2, 2, null, null),
            ])
        );
        var lots = Enumerable.Range(0, 5).Select(i => new ChartLot($"I-{i}", new DateOnly(2026, 1, 1), together)).ToList();
        var seen = SeenComing.Of(SeenComing.Everything, lots);
        Assert.Equal(11.0 / 8, seen.Chart!.Center, 1e-12);
        Assert.Equal(11.0 / 8 + 3 * Math.Sqrt(11.0 / 8 / 8), seen.Chart.Points[0].High, 1e-12);
    }

    /// <summary>The buyer hears of what does not go on as it usually does: neither of a steady series, nor of a few lots.</summary>
    [Fact]
    public void Only_what_is_seen_coming_is_worth_telling()
    {
        var of = gap with { Upper = 2 };
        Assert.Equal((Coming.TooFew, false), Told(0.1, 0.11, 0.3));
        Assert.Equal((Coming.Steady, false), Told(0.1, 0.11, 0.1, 0.09, 0.1, 0.11));
        Assert.Equal((Coming.PassesLimit, true), Told(0.1, 0.11, 0.1, 0.4, 0.7, 1.0, 1.3, 1.6));

        (Coming, bool) Told(params double[] means)
        {
            var seen = SeenComing.Of(of, [.. means.Select((m, i) => Lot(i, m, 0.1))]);
            return (seen.State, seen.IsWorthTelling);
        }
    }
}
