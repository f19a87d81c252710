using MudRoom.Core.Book;
using MudRoom.Core.Door;

namespace MudRoom.Core.Tests.Door;

/// <summary>Goods come to one standing as they are counted, whoever has a say in it. Common practice, no source.</summary>
public sealed class StandingAtCountTests
{
    /// <summary>What an inspection asks that keeps the whole lot back, and one of which only the sample waits.</summary>
    static readonly Standing waits = Standing.ToInspect;
    static readonly Standing onlyTheSampleWaits = Standing.Usable;

    static StandingAtCount Counted(Standing decided, bool isRecalled = false) => new(SiteStandings.BuiltIn, decided, isRecalled);

    [Fact]
    public void What_is_recalled_is_held_as_it_comes_and_asks_no_bench()
    {
        foreach (var decided in (Standing[])[Standing.Usable, Standing.ToInspect, Standing.Held])
        {
            var counted = Counted(decided, isRecalled: true);
            Assert.False(counted.AsksBench);
            Assert.Equal(Standing.Recalled, counted.With([], isReturned: false));
            Assert.Equal(Standing.Recalled, counted.With([], isReturned: true));
        }
    }

    [Fact]
    public void What_the_bench_wants_waits_for_it_and_is_usable_at_once_where_no_inspection_keeps_it_back()
    {
        var counted = Counted(Standing.ToInspect);
        Assert.True(counted.AsksBench);
        Assert.Equal(Standing.ToInspect, counted.With([waits], isReturned: false));
        Assert.Equal(Standing.ToInspect, counted.With([onlyTheSampleWaits, waits], isReturned: false));
        Assert.Equal(Standing.Usable, counted.With([onlyTheSampleWaits], isReturned: false));
        Assert.Equal(Standing.Usable, counted.With([], isReturned: false));
    }

    [Fact]
    public void What_a_customer_sends_back_is_looked_at_whether_or_not_a_plan_speaks_of_it()
    {
        Assert.Equal(Standing.ToInspect, Counted(Standing.Usable).With([], isReturned: true));
        Assert.Equal(Standing.ToInspect, Counted(Standing.ToInspect).With([onlyTheSampleWaits], isReturned: true));
        Assert.Equal(Standing.Held, Counted(Standing.Held).With([], isReturned: true));
    }

    [Fact]
    public void What_is_held_or_usable_by_the_count_alone_stays_so()
    {
        foreach (var decided in (Standing[])[Standing.Usable, Standing.Held])
        {
            Assert.False(Counted(decided).AsksBench);
            Assert.Equal(decided, Counted(decided).With([], isReturned: false));
        }
    }
}
