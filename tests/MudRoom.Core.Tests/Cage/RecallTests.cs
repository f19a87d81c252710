using CsCheck;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>What is missed, looked for, seen and told in a recall, and when it may end.</summary>
public sealed class RecallTests
{
    static readonly SiteTime local = at => at.UtcDateTime;
    static readonly DateTimeOffset began = new(2026, 3, 10, 9, 12, 0, TimeSpan.Zero);
    static readonly Hand wanjiru = new(1, "Wanjiru"),
        petra = new(8, "Petra");
    static readonly RecallSpot home = new(7, 30, null, null);

    static Recall Begin(bool drill = false) =>
        new()
        {
            Number = "RC-0007",
            SiteId = 1,
            Scope = new RecallScope(RecallBy.SourceBatch, 1, null, ["QS-L-1147"]),
            Says = "Leek seed pouch, source batch QS-L-1147",
            Why = "germination below its paper",
            IsDrill = drill,
            Since = began,
            By = "Wanjiru",
        };

    static Outcome<MissingGoods> NotThere(Recall recall, decimal? quantity, decimal there = 20) =>
        recall.NotThere(home, quantity, there, petra, began.AddMinutes(30), local);

    static RecallFinding Finding(decimal cage = 0, decimal elsewhere = 0, decimal missing = 0, decimal gone = 0, decimal seen = 0) =>
        new(cage, elsewhere, missing, gone, 0, seen, 0);

    [Fact]
    public void More_cannot_be_missing_than_the_book_has_there_and_nobody_misses_yet()
    {
        var recall = Begin();
        Assert.Equal("more-than-there", NotThere(recall, 21).Refusal!.Code);
        Assert.Equal("more-than-there", NotThere(recall, 0).Refusal!.Code);
        Assert.Equal("more-than-there", NotThere(recall, -1).Refusal!.Code);
        Assert.Equal(1, NotThere(recall, 15).Value.Id);
        Assert.Equal("more-than-there", NotThere(recall, 6).Refusal!.Code);
        Assert.Equal((2, 5m), (NotThere(recall, null).Value.Id, recall.StillMissing.Last().Quantity));
        Assert.Equal("more-than-there", NotThere(recall, null).Refusal!.Code);
        Assert.Equal(20, recall.StillMissing.Sum(m => m.Quantity));
    }

    [Fact]
    public void Who_misses_goods_has_looked_there_and_what_was_seen_there_is_seen_no_more()
    {
        var recall = Begin();
        Assert.Null(recall.See(home, wanjiru, began, local));
        Assert.Null(recall.See(home, petra, began, local));
        Assert.Equal("Wanjiru", Assert.Single(recall.Seen).By);
        var missing = NotThere(recall, 20).Value;
        Assert.Empty(recall.Seen);
        Assert.Equal([(30, "Petra")], missing.Looked.Select(l => (l.BinId, l.By)));
    }

    [Fact]
    public void Looked_in_a_bin_twice_the_last_time_counts_and_what_is_found_is_looked_for_no_more()
    {
        var recall = Begin();
        NotThere(recall, 20);
        Assert.True(recall.NotIn(1, 31, petra, began.AddMinutes(40), local).Accepted(out _));
        var twice = recall.NotIn(1, 31, wanjiru, began.AddMinutes(50), local).Value;
        Assert.Equal([(30, "Petra"), (31, "Wanjiru")], twice.Looked.Select(l => (l.BinId, l.By)));
        Assert.Equal("not-missing", recall.NotIn(2, 31, petra, began, local).Refusal!.Code);
        Assert.Equal(44, recall.Find(1, 44, petra, began.AddMinutes(55), local).Value.Found!.BinId);
        Assert.Empty(recall.StillMissing);
        Assert.Equal("Petra found that at 2026-03-10 10:07.", recall.Find(1, 45, wanjiru, began, local).Refusal!.Sentence);
        // What was found may be lost again.
        Assert.Equal(2, NotThere(recall, 20).Value.Id);
    }

    [Fact]
    public void A_recall_ends_only_when_it_holds_and_misses_nothing_and_then_nothing_is_done_with_it_any_more()
    {
        var recall = Begin();
        Outcome<string> End(RecallFinding finding) => recall.End(finding, "all scrapped", wanjiru, began.AddHours(5), local);
        Assert.Equal("RC-0007 still misses 20.", End(Finding(cage: 40, missing: 20)).Refusal!.Sentence);
        Assert.Equal("RC-0007 still holds 40.", End(Finding(cage: 38, elsewhere: 2)).Refusal!.Sentence);
        Assert.True(recall.Holds);
        Assert.Equal("all scrapped", End(Finding(gone: 60)).Value);
        Assert.False(recall.Holds);
        Assert.All(
            [
                End(Finding()).Refusal,
                NotThere(recall, 1).Refusal,
                recall.See(home, petra, began, local),
                recall.NotIn(1, 31, petra, began, local).Refusal,
                recall.Find(1, 31, petra, began, local).Refusal,
            ],
            refusal => Assert.Equal("recall-ended", refusal!.Code)
        );
    }

    /// <summary>Within four hours: common practice, no source.</summary>
    [Theory]
    [InlineData(41, "Drill: 58 of 60 seen in 41 min. a label was torn")]
    [InlineData(240, "Drill: 58 of 60 seen in 4 h 00. a label was torn")]
    [InlineData(241, "Drill: 58 of 60 seen in 4 h 01, 1 min over the four hours. a label was torn")]
    public void A_drill_holds_nothing_ends_at_any_time_and_says_how_much_was_seen_in_what_time(int minutes, string says)
    {
        var drill = Begin(drill: true);
        Assert.False(drill.Holds);
        var finding = Finding(cage: 8, elsewhere: 50, missing: 2, seen: 58);
        Assert.Equal(says, drill.End(finding, "a label was torn", wanjiru, began.AddMinutes(minutes), local).Value);
    }

    [Fact]
    public void Who_was_told_twice_was_told_the_last_time()
    {
        var recall = Begin();
        recall.Tell("SO-1", wanjiru, began, "called, nobody there");
        recall.Tell("SO-2", wanjiru, began, "called");
        recall.Tell("SO-1", petra, began.AddMinutes(5), "called, has 3 left");
        Assert.Equal([("SO-2", "called"), ("SO-1", "called, has 3 left")], recall.Told.Select(t => (t.Reference, t.How)));
    }

    [Theory]
    [InlineData(Account.Customer, 3, true)]
    [InlineData(Account.Job, 3, true)]
    [InlineData(Account.Customer, 0, false)]
    [InlineData(Account.Customer, -2, false)]
    [InlineData(Account.Vendor, 3, false)]
    [InlineData(Account.Scrap, 3, false)]
    public void Who_still_has_goods_of_it_is_to_be_told(Account to, decimal quantity, bool isToBeTold) =>
        Assert.Equal(isToBeTold, Recall.MayBeTold(to, quantity));

    static readonly Gen<RecallPart[]> parts = Gen.Select(Gen.Int[0, 4], Gen.Int[0, 50], Gen.Int[0, 50], Gen.Bool, Gen.Bool)
        .Select((room, there, missing, seen, free) => new RecallPart((RecallRoom)room, there + missing, missing, seen, free))
        .Array[0, 12];

    [Fact]
    public void All_sums_meet_what_came_is_here_missing_or_gone() =>
        Gen.Select(parts, Gen.Int[0, 90])
            .Sample(
                (all, gone) =>
                {
                    var finding = RecallFinding.Of(all, gone, 5);
                    Assert.Equal(all.Sum(p => p.Quantity) + gone, finding.Came);
                    Assert.Equal(finding.Came, finding.Cage + finding.Elsewhere + finding.Released + finding.Missing + finding.Gone);
                    Assert.InRange(finding.Seen, finding.Cage, finding.Here);
                    Assert.Equal(all.Sum(p => p.Missing), finding.Missing);
                }
            );

    [Fact]
    public void The_finding_is_a_sentence()
    {
        static string Of(RecallFinding finding) => finding.Sentence(q => $"{q / 20:0}", q => q == 20 ? "1 box" : $"{q / 20:0} boxes");
        Assert.Equal("1 box of 58 is not found", Of(Finding(620, 280, 20, 240)));
        Assert.Equal("14 boxes of 58 are not in the cage yet", Of(Finding(640, 280, 0, 240)));
        Assert.Equal("1 box of 58 is not in the cage yet", Of(Finding(900, 20, 0, 240)));
        Assert.Equal("All that is left, 46 boxes, is in the cage", Of(Finding(920, 0, 0, 240)));
        Assert.Equal("All 12 boxes have left the house", Of(Finding(gone: 240)));
        Assert.Equal("Nothing of it ever came", Of(Finding()));
        Assert.Equal("Nothing of it is held any more: 46 boxes are released", Of(Finding(gone: 240) with { Released = 920 }));
        Assert.Equal("Nothing of it is here yet; 10 boxes are announced", Of(Finding() with { Coming = 200 }));
    }

    static Bin BinAt(int id, int bay, int level, string aisle = "B") =>
        new()
        {
            Id = id,
            SiteId = 1,
            Address = $"{aisle}-{bay:00}-{level}",
            Zone = "RACK",
            Aisle = aisle,
            Bay = bay,
            Level = level,
            Function = BinFunction.Pick,
        };

    /// <summary>Where it should be, beside it, where it was, where the same lies: common practice, no source.</summary>
    [Fact]
    public void The_search_begins_where_it_should_be_and_goes_on_to_its_neighbours_and_to_where_it_was()
    {
        var site = new[] { BinAt(30, 7, 3), BinAt(31, 7, 2), BinAt(32, 8, 3), BinAt(33, 9, 3), BinAt(34, 7, 3, "C"), BinAt(35, 1, 1, "K") };
        var missing = new MissingGoods(1, home, 20, "Petra", began, [new LookedIn(31, "Petra", began)]);
        var list = SearchList.For(missing, site.ToDictionary(b => b.Id), site, [35, 30, 99], [33, 35]);
        Assert.Equal(
            [
                (30, "it should be here"),
                (31, "just below it"),
                (32, "beside it"),
                (35, "it was here before"),
                (33, "the same item lies here"),
            ],
            list.Select(p => (p.BinId, p.Why))
        );
        Assert.Equal([31], list.Where(p => p.Looked is not null).Select(p => p.BinId));
    }

    /// <summary>As what went out and came back, in order; an entry that undoes another is written "u3" behind its quantity.</summary>
    [Theory]
    [InlineData(15, "25 -10")]
    [InlineData(0, "25 -25")]
    // Nobody here has sold them: they had them from elsewhere, and ten went back to them.
    [InlineData(0, "-25")]
    [InlineData(10, "-25 10")]
    [InlineData(10, "5 -25 10")]
    // What was counted in by mistake, or sold by mistake, is as if it had not been.
    [InlineData(0, "-25 25u1")]
    [InlineData(0, "25 -25u1")]
    [InlineData(5, "5 -5 5u2")]
    public void What_has_left_is_what_is_still_out(int gone, string crossings)
    {
        var all = crossings
            .Split(' ')
            .Select(c => c.Split('u'))
            .Select(
                (c, i) => new RecallCrossing(i + 1, 1, Account.Customer, int.Parse(c[0], null), c.Length > 1 ? int.Parse(c[1], null) : null)
            )
            .ToList();
        Assert.Equal(gone, RecallFinding.GoneOf(all));
        // Another item, and what was scrapped, is out besides.
        var besides = new[] { new RecallCrossing(91, 2, Account.Customer, 3, null), new RecallCrossing(92, 1, Account.Scrap, 4, null) };
        Assert.Equal(gone + 7, RecallFinding.GoneOf([.. all, .. besides]));
    }
}
