using CsCheck;
using MudRoom.Core.Book;

namespace MudRoom.Core.Tests.Book;

public sealed class OwnFirstTests
{
    static Balance On(int bin, decimal quantity, int? unit = null)
    {
        var balance = new Balance(1, new Goods(7, null, unit), Place.In(bin, Standing.Held));
        balance.Change(quantity, DateTimeOffset.UnixEpoch);
        return balance;
    }

    [Fact]
    public void A_hold_takes_the_units_it_counted_before_loose_goods()
    {
        var unit = On(5, 40, unit: 9);
        var taken = OwnFirst.Choose([On(1, 40), unit], [(5, 9)], new HashSet<int>(), 40);
        Assert.Equal([new Taking(unit, 40)], taken);
    }

    [Fact]
    public void A_hold_takes_loose_goods_where_it_counted_them_before_those_elsewhere()
    {
        var here = On(2, 10);
        var taken = OwnFirst.Choose([On(1, 40), here], [(2, null)], new HashSet<int>(), 12);
        Assert.Equal(10, taken.Single(t => t.From == here).Quantity);
        Assert.Equal(12, taken.Sum(t => t.Quantity));
    }

    [Fact]
    public void A_hold_never_takes_a_unit_that_another_hold_counted() =>
        Assert.Empty(OwnFirst.Choose([On(1, 40, unit: 3)], [(1, null)], new HashSet<int> { 3 }, 40));

    [Fact]
    public void It_takes_what_is_wanted_or_all_there_is_and_from_no_balance_more_than_it_holds() =>
        Gen.Select(Gen.Int[1, 50].Array[0, 8], Gen.Int[1, 200])
            .Sample(
                (stocks, wanted) =>
                {
                    var rows = stocks.Select((s, i) => On(i + 1, s)).ToList();
                    var taken = OwnFirst.Choose(rows, [], new HashSet<int>(), wanted);
                    Assert.Equal(Math.Min(wanted, stocks.Sum()), taken.Sum(t => t.Quantity));
                    Assert.All(taken, t => Assert.InRange(t.Quantity, 1, t.From.Quantity));
                }
            );
}
