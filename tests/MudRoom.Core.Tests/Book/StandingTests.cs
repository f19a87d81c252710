using CsCheck;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Book;

/// <summary>Standings are rows of a site: what is said of goods lets only what all of it lets, and shows what keeps back most.</summary>
public sealed class StandingTests
{
    const Lets stays = Lets.PutAway | Lets.Move | Lets.Count | Lets.Sample;

    static StandingDefinition Row(
        int id,
        string word,
        StandingKind kind = StandingKind.Held,
        Lets lets = stays,
        int rank = 50,
        MarkShape shape = MarkShape.Ring,
        MarkColour colour = MarkColour.Sea,
        bool available = false,
        bool retired = false,
        params BinFunction[] places
    ) =>
        new()
        {
            SiteId = 1,
            Standing = new Standing(id),
            Word = word,
            Kind = kind,
            Lets = lets,
            Places = places.Length == 0 ? [BinFunction.Cage] : [.. places],
            Rank = rank,
            Shape = shape,
            Colour = colour,
            Available = available,
            Retired = retired,
        };

    static readonly StandingDefinition bonded = Row(4, "bonded", rank: 70, shape: MarkShape.Shield);
    static readonly StandingDefinition packaging = Row(
        5,
        "damaged packaging",
        StandingKind.Usable,
        Lets.All & ~Lets.Ship,
        shape: MarkShape.Triangle,
        places: [BinFunction.Pick, BinFunction.Floor]
    );
    static readonly StandingDefinition customs = Row(6, "at customs", lets: Lets.Count, rank: 10, shape: MarkShape.Hexagon);
    static readonly SiteStandings site = new(1, [bonded, packaging, customs]);

    static Statement Says(Standing asks, int lot = 7) =>
        new()
        {
            SiteId = 1,
            LotId = lot,
            Asks = asks,
            Since = default,
        };

    [Fact]
    public void The_seven_of_every_site_are_there_and_a_row_of_the_site_stands_in_the_place_of_one()
    {
        Assert.Equal(
            ["usable", "to inspect", "held", "recalled", "rejected", "to be scrapped", "to go back"],
            SiteStandings.BuiltIn.All.Select(s => s.Word)
        );
        var moved = Row(2, "held", places: [BinFunction.Cage, BinFunction.Floor]);
        Assert.Equal([BinFunction.Cage, BinFunction.Floor], new SiteStandings(1, [moved])[Standing.Held].Places);
        Assert.Equal(new Standing(7), site.Next);
        Assert.Equal((bonded, null), (site.ByWord("Bonded"), site.ByWord("nowhere")));
        Assert.Equal(Standing.ToInspect, site.ByWord("ToInspect")!.Standing);
    }

    [Fact]
    public void Within_a_kind_the_rank_decides_which_word_is_shown_and_never_over_another_kind()
    {
        Assert.Equal(bonded.Standing, Statements.StandingOf([Says(Standing.Held), Says(bonded.Standing)], site));
        Assert.Equal(Standing.Held, Statements.StandingOf([Says(customs.Standing), Says(Standing.Held)], site));
        Assert.Equal(Standing.Rejected, Statements.StandingOf([Says(bonded.Standing), Says(Standing.Rejected)], site));
        Assert.Equal(Standing.ToInspect, Statements.StandingOf([Says(packaging.Standing), Says(Standing.ToInspect)], site));
    }

    [Fact]
    public void Of_two_the_one_that_keeps_back_more_is_the_word_of_goods_of_which_both_are_said()
    {
        Assert.Equal(Standing.Recalled, site.Higher(Standing.ToInspect, Standing.Recalled));
        Assert.Equal(Standing.Rejected, site.Higher(Standing.Rejected, Standing.Recalled));
        foreach (var one in site.All.Select(s => s.Standing))
        foreach (var other in site.All.Select(s => s.Standing))
            Assert.Equal(Statements.StandingOf([Says(one), Says(other)], site), site.Higher(one, other));
    }

    [Fact]
    public void Only_what_every_word_lets_may_be_done_whatever_their_order()
    {
        Gen.Int[0, 6]
            .Select(n => new Standing(n))
            .Array[0, 6]
            .Sample(asks =>
            {
                var said = asks.Select(a => Says(a)).ToList();
                var lets = Statements.LetsOf(said, site);
                foreach (var one in Enum.GetValues<Lets>().Where(l => l is not (Lets.None or Lets.All)))
                    if (lets.HasFlag(one) != asks.All(a => site[a].Lets.HasFlag(one)))
                        return false;
                return lets == Statements.LetsOf(said.AsEnumerable().Reverse(), site)
                    && Statements.StandingOf(said, site) == Statements.StandingOf(said.AsEnumerable().Reverse(), site)
                    && site[Statements.StandingOf(said, site)].Kind == asks.Select(a => site[a].Kind).DefaultIfEmpty().Max();
            });
        var settled = Says(customs.Standing);
        settled.Settle(default);
        Assert.Equal(Lets.All, Statements.LetsOf([settled], site));
    }

    [Fact]
    public void What_keeps_goods_back_never_lets_them_out()
    {
        Assert.Null(bonded.Fault(site.All));
        foreach (var out_ in new[] { Lets.Issue, Lets.Ship })
        foreach (var kind in new[] { StandingKind.ToInspect, StandingKind.Held, StandingKind.Rejected })
            Assert.NotNull(Row(9, "odd", kind, stays | out_, shape: MarkShape.Plus).Fault(site.All));
        Assert.Null(Row(9, "odd", StandingKind.Usable, Lets.All, shape: MarkShape.Plus, available: true).Fault(site.All));
        Assert.NotNull(Row(9, "odd", StandingKind.Usable, stays, shape: MarkShape.Plus, available: true).Fault(site.All));
        Assert.NotNull(Row(9, "odd", StandingKind.Held, stays, shape: MarkShape.Plus, available: true).Fault(site.All));
    }

    [Fact]
    public void A_standing_has_a_word_and_a_mark_of_its_own_and_stands_somewhere()
    {
        Assert.NotNull(Row(9, "Bonded", shape: MarkShape.Plus).Fault(site.All));
        Assert.NotNull(Row(9, "HELD", shape: MarkShape.Plus).Fault(site.All));
        Assert.NotNull(Row(9, "x", shape: MarkShape.Plus).Fault(site.All));
        Assert.NotNull(Row(9, " odd", shape: MarkShape.Plus).Fault(site.All));
        Assert.NotNull(Row(9, "odd", shape: MarkShape.Shield).Fault(site.All));
        Assert.Null(Row(9, "odd", shape: MarkShape.Shield, colour: MarkColour.Wine).Fault(site.All));
        Assert.Null(Row(9, "odd", shape: MarkShape.Shield, retired: true).Fault(site.All));
        Assert.NotNull(Row(9, "odd", shape: MarkShape.Plus, rank: 0).Fault(site.All));
        Assert.NotNull(Row(9, "odd", shape: MarkShape.Plus, rank: 100).Fault(site.All));
        Assert.NotNull(Row(9, "odd", shape: MarkShape.Plus, places: [BinFunction.Staging]).Fault(site.All));
        var nowhere = Row(9, "odd", shape: MarkShape.Plus);
        nowhere.Places = [];
        Assert.NotNull(nowhere.Fault(site.All));
        Assert.All(SiteStandings.BuiltIn.All, s => Assert.Null(s.Fault(site.All)));
    }

    [Fact]
    public void Goods_wait_to_be_put_away_by_the_places_of_their_standing()
    {
        Assert.True(ShelfQueue.OnlyPassesThrough(BinFunction.Staging, bonded));
        Assert.True(ShelfQueue.OnlyPassesThrough(BinFunction.Bench, bonded));
        Assert.False(ShelfQueue.OnlyPassesThrough(BinFunction.Cage, bonded));
        Assert.True(ShelfQueue.OnlyPassesThrough(BinFunction.Cage, packaging));
        var samples = Row(9, "for samples", StandingKind.Usable, places: [BinFunction.Bench, BinFunction.Cage]);
        Assert.False(ShelfQueue.OnlyPassesThrough(BinFunction.Cage, samples));
        Assert.False(ShelfQueue.OnlyPassesThrough(BinFunction.Bench, samples));
        var at = new DateTime(2026, 3, 10, 12, 0, 0);
        Assert.Equal((2, "Bonded: it goes to the cage. Stands here for 0 min."), ShelfQueue.Place(bonded, null, at, at));
        // Who waits for usable goods of another word does not hide where they go.
        Assert.StartsWith("Waited for: job 7. Damaged", ShelfQueue.Place(packaging, "job 7", at, at).Why, StringComparison.Ordinal);
        Assert.Equal(
            (4, "Damaged packaging: it goes to the pick or floor. Stands here for 0 min."),
            ShelfQueue.Place(packaging, null, at, at)
        );
    }

    [Fact]
    public void Of_a_built_in_one_only_the_places_change_and_no_kind_ever_does()
    {
        var wanted = Row(9, "good", StandingKind.Rejected, Lets.None, rank: 3, retired: true, places: [BinFunction.Scrap]);
        var held = SiteStandings.BuiltIn[Standing.Held].ChangedTo(wanted);
        Assert.Equal(
            ("held", StandingKind.Held, stays, 50, false, Standing.Held),
            (held.Word, held.Kind, held.Lets, held.Rank, held.Retired, held.Standing)
        );
        Assert.Equal([BinFunction.Scrap], held.Places);
        var added = bonded.ChangedTo(wanted);
        Assert.Equal(
            ("good", StandingKind.Held, Lets.None, 3, true, bonded.Standing),
            (added.Word, added.Kind, added.Lets, added.Rank, added.Retired, added.Standing)
        );
    }

    [Fact]
    public void A_hold_by_hand_asks_for_held_or_for_what_the_site_added_and_uses_still()
    {
        Assert.Equal(Standing.Held, site.ForHold(null)!.Standing);
        Assert.Equal(bonded, site.ForHold("bonded"));
        Assert.All(new[] { "usable", "to inspect", "rejected", "nowhere" }, word => Assert.Null(site.ForHold(word)));
        Assert.Null(new SiteStandings(1, [Row(4, "bonded", retired: true)]).ForHold("bonded"));
    }

    [Fact]
    public void Out_of_a_receiving_place_goods_are_put_away_and_out_of_others_moved()
    {
        Assert.True(ShelfQueue.Waits(BinFunction.Staging, SiteStandings.BuiltIn[Standing.Held]));
        Assert.False(ShelfQueue.Waits(BinFunction.Staging, customs));
        var onlyIn = Row(9, "once in", StandingKind.Usable, Lets.PutAway, places: [BinFunction.Floor]);
        Assert.True(ShelfQueue.Waits(BinFunction.Staging, onlyIn));
        Assert.False(ShelfQueue.Waits(BinFunction.Cage, onlyIn));
        Assert.False(ShelfQueue.Waits(BinFunction.Pick, SiteStandings.BuiltIn[Standing.Usable]));
    }
}
