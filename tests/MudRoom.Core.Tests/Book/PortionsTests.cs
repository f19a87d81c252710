using CsCheck;
using MudRoom.Core.Book;

namespace MudRoom.Core.Tests.Book;

/// <summary>Whoever takes goods takes the oldest first, and of no row more than it has (first in, first out: common practice, no
/// source).</summary>
public sealed class PortionsTests
{
    static IReadOnlyList<(int Row, decimal Takes)> Of(decimal wanted, params int[] rows) => Portions.Of(rows, r => (decimal)r, wanted);

    [Fact]
    public void The_first_is_taken_whole_before_the_second_is_touched() =>
        Assert.Equal([(4, 4m), (3, 1m)], Of(5, 4, 3, 9).Select(p => (p.Row, p.Takes)));

    [Fact]
    public void A_row_that_has_nothing_is_left_out_and_the_next_one_serves() =>
        Assert.Equal([(3, 2m)], Of(2, 0, -1, 3).Select(p => (p.Row, p.Takes)));

    [Fact]
    public void Where_less_is_there_all_of_it_is_taken()
    {
        Assert.Equal(7, Of(10, 4, 3).Sum(p => p.Takes));
        Assert.Empty(Of(0, 4));
        Assert.Empty(Of(10));
    }

    [Fact]
    public void As_much_is_taken_as_is_wanted_or_there_and_only_the_last_is_parted() =>
        Gen.Select(Gen.Int[-2, 20].Array[0, 8], Gen.Int[0, 60])
            .Sample(
                (rows, wanted) =>
                {
                    var taken = Of(wanted, rows);
                    return taken.Sum(t => t.Takes) == Math.Min(wanted, rows.Where(r => r > 0).Sum())
                        && taken.All(t => t.Takes > 0)
                        && taken.SkipLast(1).All(t => t.Takes == t.Row)
                        && taken.Select(t => t.Row).SequenceEqual(rows.Where(r => r > 0).Take(taken.Count));
                }
            );
}
