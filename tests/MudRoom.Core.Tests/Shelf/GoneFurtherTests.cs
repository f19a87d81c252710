using MudRoom.Core.Book;
using MudRoom.Core.Shelf;

namespace MudRoom.Core.Tests.Shelf;

public sealed class GoneFurtherTests
{
    const int ReceivingPlace = 7,
        Elsewhere = 8;
    static readonly Goods sacks = new(1, BatchId: 2);

    static Balance Stands(decimal quantity, Standing standing = default, int bin = ReceivingPlace, Goods? goods = null)
    {
        var balance = new Balance(1, goods ?? sacks, Place.In(bin, standing));
        balance.Change(quantity, DateTimeOffset.UnixEpoch);
        return balance;
    }

    static StoreTask Taken(decimal quantity, Standing standing = default)
    {
        var at = Place.In(ReceivingPlace, standing);
        return new StoreTask(1, new Goods(1, 2), at, SiteStandings.BuiltIn[standing], quantity, default).Take(
            quantity,
            Drivers.Named("Driver"),
            default
        );
    }

    static CountedGoods Counted(decimal quantity) => Counted(quantity, Standing.Usable);

    static CountedGoods Counted(decimal quantity, Standing? standing) => new(sacks, ReceivingPlace, standing, quantity);

    [Fact]
    public void Goods_that_all_stand_where_they_were_counted_have_not_gone_further() =>
        Assert.Empty(GoneFurther.Of([Counted(10), Counted(5)], [Stands(15), Stands(3, goods: new Goods(1, BatchId: 9))], []));

    [Fact]
    public void Two_counts_of_the_same_goods_want_their_sum()
    {
        var gone = Assert.Single(GoneFurther.Of([Counted(10), Counted(10)], [Stands(12)], []));
        Assert.Equal((20m, 8m, 8m), (gone.Counted.Quantity, gone.Missing, gone.Left));
    }

    [Fact]
    public void What_a_driver_has_taken_is_not_free_though_it_still_stands_there()
    {
        var gone = Assert.Single(GoneFurther.Of([Counted(10)], [Stands(10)], [Taken(4), Taken(3, Standing.Held)]));
        Assert.Equal((4m, 4m, 0m, 0m), (gone.Missing, gone.Taken, gone.Judged, gone.Left));
    }

    [Fact]
    public void Judged_goods_bar_the_undoing_of_the_count_and_not_that_of_its_papers()
    {
        List<Balance> released = [Stands(10, Standing.Usable)];
        var gone = Assert.Single(GoneFurther.Of([Counted(10, Standing.ToInspect)], released, []));
        Assert.Equal((10m, 10m, 0m), (gone.Missing, gone.Judged, gone.Left));
        Assert.Empty(GoneFurther.Of([Counted(10, standing: null)], released, []));
    }

    [Fact]
    public void Goods_of_another_place_or_batch_never_stand_in_for_those_counted() =>
        Assert.Equal(
            10,
            Assert.Single(GoneFurther.Of([Counted(10)], [Stands(10, bin: Elsewhere), Stands(10, goods: new Goods(1))], [])).Left
        );

    [Fact]
    public void Goods_are_recognised_elsewhere_by_serial_else_batch_else_unit_and_never_by_their_item_alone()
    {
        var piece = new Goods(1, BatchId: 2, Serial: "S1");
        Assert.True(piece.Recognises(new Goods(1, BatchId: 2, UnitId: 9, Serial: "S1")));
        Assert.False(piece.Recognises(new Goods(1, BatchId: 2, Serial: "S2")));
        Assert.True(new Goods(1, BatchId: 2, UnitId: 3).Recognises(new Goods(1, BatchId: 2)));
        Assert.True(new Goods(1, UnitId: 3).Recognises(new Goods(1, UnitId: 3)));
        Assert.False(new Goods(1, UnitId: 3).Recognises(new Goods(1)));
        Assert.False(new Goods(1).Recognises(new Goods(1)));
        Assert.False(new Goods(1, BatchId: 2).Recognises(new Goods(4, BatchId: 2)));
    }

    /// <summary>Whatever stands and is taken: what is missing is told apart into three parts, none below 0, and never more than was
    /// counted.</summary>
    [Fact]
    public void What_is_missing_is_left_taken_or_judged_and_no_more_than_was_counted()
    {
        var random = new Random(11);
        for (var i = 0; i < 2_000; i++)
        {
            var counted = random.Next(1, 30);
            var standing = (Standing?)(
                random.Next(3) == 0 ? null
                : random.Next(2) == 0 ? Standing.Usable
                : Standing.ToInspect
            );
            var (usable, toInspect, taken) = (random.Next(30), random.Next(30), random.Next(1, 30));
            var gone = GoneFurther.Of(
                [Counted(counted, standing)],
                [Stands(usable), Stands(toInspect, Standing.ToInspect)],
                [Taken(taken)]
            );
            var there = standing switch
            {
                null => usable + toInspect,
                { Id: 0 } => usable,
                _ => toInspect,
            };
            var free = Math.Max(0, there - (standing == Standing.ToInspect ? 0 : taken));
            if (free >= counted)
                Assert.Empty(gone);
            else
            {
                var only = Assert.Single(gone);
                Assert.Equal(counted - free, only.Missing);
                Assert.All([only.Left, only.Taken, only.Judged], part => Assert.InRange(part, 0, only.Missing));
            }
        }
    }
}
