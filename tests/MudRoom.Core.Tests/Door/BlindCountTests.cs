using MudRoom.Core.Door;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

public sealed class BlindCountTests
{
    static readonly DateTimeOffset at = new(2026, 3, 10, 9, 0, 0, TimeSpan.Zero);
    static readonly Person leila = new()
    {
        Id = 3,
        Name = "Leila Fennimore",
        SignInName = "leila",
        Roles = [Role.Receiver],
        Sites = ["LM"],
    };
    static readonly Person maren = new()
    {
        Id = 4,
        Name = "Maren Oduya",
        SignInName = "maren",
        Roles = [Role.Receiver],
        Sites = ["LM"],
    };

    static DoorSettings SiteThat(bool countsBlind) => new() { Blind = countsBlind };

    static SecondCount Asked(decimal first = 40) =>
        new()
        {
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 7,
            First = first,
            AskedBy = "Wanjiru Holloway",
            AskedAt = at,
        };

    [Theory]
    [InlineData(true, Role.Receiver, true)]
    [InlineData(false, Role.Receiver, false)]
    [InlineData(true, Role.Supervisor, false)]
    [InlineData(true, Role.Inspector, false)]
    public void Who_counts_at_a_site_that_counts_blind_does_not_know_what_is_expected_and_who_settles_does(
        bool blind,
        Role role,
        bool applies
    ) => Assert.Equal(applies, BlindCount.Applies(SiteThat(blind), [role]));

    [Fact]
    public void A_receiver_who_is_also_a_supervisor_sees_all() =>
        Assert.False(BlindCount.Applies(SiteThat(true), [Role.Receiver, Role.Supervisor]));

    [Fact]
    public void An_item_is_unsettled_by_its_sum_over_all_lines_not_line_by_line()
    {
        Assert.Equal([7], BlindCount.Unsettled([(7, 40, 36), (8, 10, 10)], []));
        Assert.Empty(BlindCount.Unsettled([(7, 20, 24), (7, 20, 16)], []));
    }

    [Fact]
    public void Two_counts_that_agree_settle_the_item_at_that_quantity_and_at_no_other()
    {
        var second = Asked(36);
        Assert.Null(second.Take(36, maren, [leila.Id], at));
        Assert.Equal(SecondCountState.Agrees, second.State);
        Assert.Empty(BlindCount.Unsettled([(7, 40, 36)], [second]));
        // Something more was counted since.
        Assert.Equal([7], BlindCount.Unsettled([(7, 40, 37)], [second]));
    }

    [Fact]
    public void Two_counts_that_differ_settle_nothing_until_the_first_is_corrected_or_a_supervisor_lets_it_stand()
    {
        var second = Asked(36);
        Assert.Null(second.Take(38, maren, [leila.Id], at));
        Assert.Equal(SecondCountState.Differs, second.State);
        Assert.Equal([7], BlindCount.Unsettled([(7, 40, 36)], [second]));
        Assert.Empty(BlindCount.Unsettled([(7, 40, 38)], [second]));
        Assert.Null(second.LetFirstStand());
        Assert.Empty(BlindCount.Unsettled([(7, 40, 36)], [second]));
    }

    [Fact]
    public void Nobody_counts_their_own_goods_a_second_time()
    {
        var second = Asked();
        Assert.Equal("same-person", second.Take(40, leila, [leila.Id], at)!.Code);
        Assert.Equal(SecondCountState.Waiting, second.State);
    }

    [Fact]
    public void Nothing_there_is_a_count_and_less_than_nothing_is_none()
    {
        var second = Asked();
        Assert.Equal("quantity-not-positive", second.Take(-1, maren, [], at)!.Code);
        Assert.Null(second.Take(0, maren, [], at));
        Assert.Equal(0, second.Second);
    }

    [Fact]
    public void A_second_count_is_taken_once_and_only_a_difference_wants_a_decision()
    {
        var second = Asked();
        Assert.Equal("decided", second.LetFirstStand()!.Code);
        Assert.Null(second.Take(40, maren, [leila.Id], at));
        Assert.Equal("decided", second.Take(41, maren, [leila.Id], at)!.Code);
        Assert.Equal("decided", second.LetFirstStand()!.Code);
        Assert.Equal(40, second.Second);
    }
}
