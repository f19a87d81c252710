using CsCheck;
using MudRoom.Core.Book;

namespace MudRoom.Core.Tests.Book;

/// <summary>What is said of goods is said of their lot, and its standing follows from all of it by one rule.</summary>
public sealed class LotTests
{
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);

    static Statement Says(Standing asks) =>
        new()
        {
            SiteId = 1,
            LotId = 7,
            Asks = asks,
            Since = now,
        };

    static Standing Of(IReadOnlyList<Statement> said) => Statements.StandingOf(said, SiteStandings.BuiltIn);

    [Fact]
    public void Of_all_that_is_said_what_forbids_most_is_shown()
    {
        Assert.Equal(Standing.Usable, Of([]));
        Assert.Equal(Standing.ToInspect, Of([Says(Standing.ToInspect)]));
        Assert.Equal(Standing.Held, Of([Says(Standing.Held), Says(Standing.ToInspect)]));
        Assert.Equal(Standing.Rejected, Of([Says(Standing.Held), Says(Standing.Rejected), Says(Standing.Held)]));
    }

    [Fact]
    public void Goods_are_free_only_when_the_last_word_is_settled_in_whatever_order() =>
        Gen.Select(Gen.Int[1, 3].Select(n => new Standing(n)).Array[1, 6], Gen.Int[0, 1000])
            .Sample(
                (asks, seed) =>
                {
                    var said = asks.Select(Says).ToList();
                    var order = said.OrderBy(_ => seed = (seed * 37 + 11) % 1009).ToList();
                    foreach (var statement in order)
                    {
                        if (Of(said) == Standing.Usable)
                            return false;
                        statement.Settle(now);
                    }

                    return Of(said) == Standing.Usable;
                }
            );

    [Fact]
    public void A_part_that_is_split_off_stays_under_the_same_words_and_has_stood_there_as_long()
    {
        var place = Place.In(4, Standing.Held);
        var split = new Movement(new Goods(1, LotId: 7), 5, place, place, Becomes: 8);
        var accounts = new Accounts();
        accounts.Apply(new Movement(new Goods(1, LotId: 7), 12, new Place(Account.Vendor), place), now);
        accounts.Apply(split, now.AddHours(3));
        Assert.Equal(
            [(7, 7m, now), (8, 5m, now)],
            accounts.Balances.OrderBy(b => b.Goods.LotId).Select(b => (b.Goods.LotId!.Value, b.Quantity, b.Since))
        );
        accounts.Apply(split.Reversed(), now.AddHours(4));
        Assert.Equal((7, 12m), accounts.Balances.Select(b => (b.Goods.LotId!.Value, b.Quantity)).Single());
        Assert.Equal(Standing.Held, Of([Says(Standing.Held).Of(8)]));
        Assert.Equal(8, Says(Standing.Held).Of(8).LotId);
    }

    [Fact]
    public void What_nobody_has_inspected_wants_it_once_nothing_else_is_said_and_only_what_is_judged_alike_joins()
    {
        static Statement By(int? hold, int? inspection, bool settled)
        {
            var statement = new Statement
            {
                SiteId = 1,
                LotId = 7,
                HoldId = hold,
                InspectionId = inspection,
                Asks = hold is null ? Standing.ToInspect : Standing.Held,
                Since = now,
            };
            if (settled)
                statement.Settle(now);
            return statement;
        }
        Assert.True(Statements.WantsInspection([By(1, null, settled: true)]));
        Assert.False(Statements.WantsInspection([By(1, null, settled: false)]));
        Assert.False(Statements.WantsInspection([By(null, 1, settled: true)]));

        Assert.True(Statements.SayTheSame([By(1, null, settled: true)], []));
        Assert.True(Statements.SayTheSame([By(null, 3, settled: false)], [By(null, 3, settled: false)]));
        Assert.False(Statements.SayTheSame([By(1, null, settled: false)], []));
        Assert.False(Statements.SayTheSame([By(null, 3, settled: true)], [By(null, 3, settled: false)]));
        Assert.False(Statements.SayTheSame([By(null, 3, settled: true)], [By(null, 4, settled: true)]));
    }

    [Fact]
    public void People_see_one_line_of_goods_that_read_alike_whatever_their_lots()
    {
        Balance Of(int? lot, decimal quantity, Standing standing, int hours)
        {
            var balance = new Balance(1, new Goods(1, 2, LotId: lot), Place.In(4, standing));
            balance.Change(quantity, now.AddHours(hours));
            return balance;
        }
        var lines = StockLine.Of([Of(9, 3, Standing.Usable, 2), Of(7, 4, Standing.Usable, 1), Of(8, 5, Standing.Held, 0)]);
        Assert.Equal(2, lines.Count);
        Assert.Equal((7m, now.AddHours(1)), (lines[0].Quantity, lines[0].Since));
        Assert.Equal([7, 9], lines[0].Lots);
        Assert.Null(lines[0].Goods.LotId);
    }

    [Fact]
    public void The_hash_of_an_entry_covers_the_lot_and_what_it_becomes()
    {
        var doer = new Doer(now, 1, "Leila", "handheld", Guid.Empty);
        var place = Place.In(4, Standing.Held);
        string Hash(int? lot, int? becomes) =>
            new LedgerEntry(
                ChainHead.Start,
                1,
                doer,
                new LotSplit("H-1", 5, "D1-R4", 8, 7),
                new Movement(new Goods(1, LotId: lot), 5, place, place, becomes)
            ).Hash;
        Assert.Equal(4, new[] { Hash(null, null), Hash(7, null), Hash(7, 8), Hash(8, 7) }.Distinct().Count());
        // By the rules of docs/formats/ledger.md, worked out by tests/ledger/verify.mjs from the same fields.
        Assert.Equal(GoldenHash, Hash(7, 8));
    }

    const string GoldenHash = "c1cfac155e98745f9f5bf4d9fd18b640206c8989de6889615aa669e12db18024";

    static Statement Keeps(int reservation) =>
        new()
        {
            SiteId = 1,
            LotId = 7,
            ReservationId = reservation,
            Asks = Standing.Usable,
            Since = now,
        };

    [Fact]
    public void What_is_kept_for_somebody_is_usable_and_no_less_held_or_wanted_at_the_bench()
    {
        Assert.Equal(Standing.Usable, Of([Keeps(1)]));
        Assert.Equal(Standing.Held, Of([Keeps(1), Says(Standing.Held)]));
        Assert.Equal(Lets.All, Statements.LetsOf([Keeps(1)], SiteStandings.BuiltIn));
        Assert.True(Statements.WantsInspection([Keeps(1)]));
        Assert.False(Statements.WantsInspection([Keeps(1), Says(Standing.Held)]));
    }

    [Fact]
    public void Lots_that_are_kept_for_different_people_are_not_judged_alike()
    {
        Assert.True(Statements.SayTheSame([Keeps(1)], [Keeps(1)]));
        Assert.False(Statements.SayTheSame([Keeps(1)], [Keeps(2)]));
        Assert.False(Statements.SayTheSame([Keeps(1)], []));
        var settled = Keeps(1);
        settled.Settle(now);
        Assert.True(Statements.SayTheSame([settled], []));
        // A part that is split off is kept for the same.
        Assert.True(Statements.SayTheSame([Keeps(1)], [Keeps(1).Of(8)]));
    }

    [Theory]
    [InlineData("WO-88, glasshouse", "WO-88", true)]
    [InlineData("WO-88, glasshouse", "wo-88 ", true)]
    [InlineData("WO-88, glasshouse", "WO-88, glasshouse", true)]
    [InlineData("WO-88, glasshouse", "glasshouse", true)]
    [InlineData("WO-88, glasshouse", "WO-8", false)]
    [InlineData("WO-88/2", "WO-88", false)]
    [InlineData("for WO-881 and WO-88", "WO-88", true)]
    [InlineData("WO-88, glasshouse", "house", false)]
    [InlineData("WO-88, glasshouse", " ", false)]
    [InlineData("84 promised to Hollin Nurseries for tomorrow", "84 promised to Hollin Nurseries for tomo", true)]
    [InlineData("84 promised to Hollin Nurseries for tomorrow", "84 promised to Hollin Nurseries for tom", false)]
    [InlineData("84 promised to Hollin Nurseries for tomorrow", "hollin nurseries", true)]
    [InlineData("84 promised to Hollin Nurseries for tomorrow", "promised to", false)]
    [InlineData("84 promised to Hollin Nurseries for tomorrow", "84", false)]
    [InlineData("Hollin Nurseries 125 kg and job J-218", "125", false)]
    [InlineData("Hollin Nurseries 125 kg and job J-218", "125 kg", false)]
    [InlineData("Hollin Nurseries 125 kg and job J-218", "j-218", true)]
    [InlineData("job 31", "job 31", true)]
    [InlineData("job 31", "job", false)]
    public void What_goods_are_issued_for_means_who_waits_by_words_that_name_them(string who, string reference, bool isFor) =>
        Assert.Equal(isFor, Reservation.IsFor(who, reference));

    [Theory]
    [InlineData(false, false, true)]
    [InlineData(true, false, false)]
    [InlineData(false, true, false)]
    [InlineData(true, true, false)]
    public void Goods_are_kept_for_who_waits_but_not_those_counted_aside_nor_a_customer_s_return(
        bool isAside,
        bool isReturn,
        bool isKept
    ) => Assert.Equal(isKept, Reservation.Keeps(isAside, isReturn));

    /// <summary>However long their words are, goods can be issued for them.</summary>
    [Fact]
    public void Who_waits_can_be_named_by_an_issue() =>
        Gen.String[Gen.Char["ab -/ÄB1,"], 1, 120]
            .Where(who => who.Trim().Length > 0 && who.Trim() == who)
            .Sample(who =>
            {
                var reference = Reservation.ReferenceOf(who);
                return reference.Length is > 0 and <= Reservation.LongestReference && Reservation.IsFor(who, reference);
            });

    [Fact]
    public void Who_waits_takes_their_own_lots_first_and_nobody_those_of_others()
    {
        KeptLot[] kept = [new(2, "job 1"), new(3, "job 2"), new(5, "job 1"), new(5, "job 2")];
        var one = LotsToTake.Of([1, 2, 3, 4, 5], kept, "job 1");
        Assert.Equal(("2,5", "1,4", "2,5,1,4"), (string.Join(',', one.Own), string.Join(',', one.Free), string.Join(',', one.All)));
        Assert.Equal([new KeptLot(3, "job 2")], one.Others);
        var nobody = LotsToTake.Of([1, 2, 3, 4, 5], kept, null);
        Assert.Equal(("", "1,4"), (string.Join(',', nobody.Own), string.Join(',', nobody.Free)));
    }
}
