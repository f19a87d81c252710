using MudRoom.Core.Door;

namespace MudRoom.Core.Tests.Door;

public sealed class SenderTests
{
    [Fact]
    public void Goods_belong_to_the_vendor_of_the_order_that_takes_them_whatever_is_said_at_the_door() =>
        Assert.Equal(3, Sender.Of(3, 7, [1, 2]).Value);

    [Fact]
    public void Goods_on_no_order_belong_to_the_vendor_named_even_one_that_is_not_aboard() =>
        Assert.Equal(7, Sender.Of(null, 7, [1, 2]).Value);

    [Fact]
    public void Goods_on_no_order_belong_to_the_only_vendor_aboard() => Assert.Equal(4, Sender.Of(null, null, [4, 4]).Value);

    [Theory]
    [InlineData()]
    [InlineData(1, 2)]
    public void Where_nothing_tells_it_is_asked(params int[] aboard)
    {
        Assert.True(Sender.Of(null, null, aboard).Refused(out var refusal));
        Assert.Equal("vendor-missing", refusal.Code);
    }

    [Fact]
    public void Who_is_aboard_is_not_asked_where_it_is_known()
    {
        var asked = 0;
        var aboard = Enumerable
            .Range(1, 2)
            .Select(v =>
            {
                asked++;
                return v;
            });
        Assert.Equal(3, Sender.Of(3, null, aboard).Value);
        Assert.Equal(7, Sender.Of(null, 7, aboard).Value);
        Assert.Equal(0, asked);
    }
}
