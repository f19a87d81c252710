using CsCheck;
using MudRoom.Core.Book;
using MudRoom.Core.Door;

namespace MudRoom.Core.Tests.Book;

public sealed class LedgerTests
{
    static readonly Doer doer = new(new DateTimeOffset(2026, 3, 10, 11, 0, 0, TimeSpan.Zero), 1, "Leila", "handheld", Guid.NewGuid());

    static readonly Gen<Movement> anyMovement = Gen.Select(
        Gen.Int[1, 3],
        Gen.Int[1, 40],
        Gen.Int[0, 4],
        Gen.Int[0, 4],
        (item, quantity, from, to) => new Movement(new Goods(item), quantity, At(from), At(to == from ? (to + 1) % 5 : to))
    );

    static Place At(int place) => place == 0 ? new Place(Account.Vendor) : Place.In(place, place == 4 ? Standing.Held : Standing.Usable);

    static List<LedgerEntry> Chain_(params string[] sentences)
    {
        var entries = new List<LedgerEntry>();
        foreach (var sentence in sentences)
            entries.Add(
                new LedgerEntry(
                    entries.Count == 0 ? ChainHead.Start : entries[^1].Head,
                    1,
                    doer,
                    new QuestionAsked("A-1", sentence),
                    new Movement(new Goods(1), 4.5m, At(0), At(1))
                )
            );
        return entries;
    }

    [Fact]
    public void A_chain_holds_as_written_and_breaks_where_an_entry_is_left_out()
    {
        var chain = Chain_("one", "two", "three");
        Assert.Null(Chain.Fault(ChainHead.Start, chain[0]));
        Assert.Null(Chain.Fault(chain[0].Head, chain[1]));
        Assert.Contains("missing", Chain.Fault(chain[0].Head, chain[2]));
    }

    [Fact]
    public void Two_entries_that_differ_in_one_letter_have_different_hashes() =>
        Assert.NotEqual(Chain_("one")[0].Hash, Chain_("onE")[0].Hash);

    [Fact]
    public void Fields_cannot_be_shifted_into_each_other_unseen()
    {
        LedgerEntry Of(string subject, string question) => new(ChainHead.Start, 1, doer, new QuestionAsked(subject, question));
        Assert.NotEqual(Of("ab", "c").Hash, Of("a", "bc").Hash);
    }

    [Fact]
    public void Nothing_appears_or_vanishes_whatever_is_moved() =>
        anyMovement
            .Array[0, 60]
            .Sample(movements =>
            {
                var accounts = new Accounts();
                foreach (var m in movements)
                    accounts.Apply(m, doer.At);
                var inside = accounts.Balances.Sum(b => b.Quantity);
                var cameIn =
                    movements.Where(m => !m.From.IsInside && m.To.IsInside).Sum(m => m.Quantity)
                    - movements.Where(m => m.From.IsInside && !m.To.IsInside).Sum(m => m.Quantity);
                return inside == cameIn;
            });

    [Fact]
    public void Undo_in_reverse_restores() =>
        anyMovement
            .Array[0, 40]
            .Sample(movements =>
            {
                var accounts = new Accounts();
                foreach (var m in movements)
                    accounts.Apply(m, doer.At);
                foreach (var m in movements.Reverse())
                    accounts.Apply(m.Reversed(), doer.At);
                return !accounts.Balances.Any();
            });

    [Fact]
    public void A_balance_never_falls_below_nothing()
    {
        var balance = new Balance(1, new Goods(1), Place.In(1, Standing.Usable));
        balance.Change(5, doer.At);
        Assert.Throws<InvalidOperationException>(() => balance.Change(-6, doer.At));
        Assert.Equal(5, balance.Quantity);
    }
}
