using MudRoom.Core.Cage;

namespace MudRoom.Core.Tests.Cage;

/// <summary>Which goods a recall is about.</summary>
public sealed class RecallScopeTests
{
    const int Leek = 1,
        Onion = 2,
        Frost = 11,
        Hollow = 12;

    static readonly DateOnly may = new(2025, 5, 10);

    static GoodsInQuestion Goods(
        string? source = "QS-L-1147",
        int item = Leek,
        int? vendor = Frost,
        string? batch = "26070-1",
        int? arrival = 5,
        string? serial = null,
        (DateOnly, DateOnly)? produced = null
    ) => new(item, vendor, arrival, batch, source, produced, serial);

    static RecallScope BySource(params string[] numbers) => new(RecallBy.SourceBatch, null, null, numbers);

    [Theory]
    [InlineData("QS-L-1147", true)]
    [InlineData("qs-l-1147", true)]
    [InlineData(" QS-L-1147 ", true)]
    [InlineData("QS-L-1148", false)]
    [InlineData("QS-L-114", false)]
    [InlineData("QS-L-11470", false)]
    [InlineData(null, false)]
    public void A_source_batch_is_the_same_however_its_letters_were_typed_and_no_other_is(string? source, bool caught) =>
        Assert.Equal(caught, BySource("QS-L-1147").Catches(Goods(source)));

    [Fact]
    public void Of_an_item_or_a_vendor_only_theirs_are_caught_and_goods_of_nobody_known_too()
    {
        var leeks = BySource("QS-L-1147") with { ItemId = Leek };
        Assert.True(leeks.Catches(Goods()));
        Assert.False(leeks.Catches(Goods(item: Onion)));
        var frost = BySource("QS-L-1147") with { VendorId = Frost };
        Assert.True(frost.Catches(Goods(vendor: Frost)));
        Assert.False(frost.Catches(Goods(vendor: Hollow)));
        // A label names the batch, and nobody wrote down who sent it: it is not let go for that.
        Assert.True(frost.Catches(Goods(vendor: null)));
    }

    [Fact]
    public void By_own_batches_serials_and_advice()
    {
        var batches = new RecallScope(RecallBy.Batch, null, null, ["26070-1", "26070-2"]);
        Assert.True(batches.Catches(Goods(source: null)));
        Assert.False(batches.Catches(Goods(batch: "26070-3")));
        var serials = new RecallScope(RecallBy.Serial, Leek, null, ["IC-0101", "IC-0102"]);
        Assert.True(serials.Catches(Goods(serial: "ic-0102")));
        Assert.False(serials.Catches(Goods(serial: "IC-0103")));
        Assert.False(serials.Catches(Goods()));
        var advice = new RecallScope(RecallBy.Advice, null, Frost, ["DA-1"], ArrivalId: 5);
        Assert.True(advice.Catches(Goods(source: null)));
        Assert.False(advice.Catches(Goods(arrival: 6)));
        // Two vendors may come in one container: the other's goods are not of this advice.
        Assert.False(advice.Catches(Goods(vendor: Hollow)));
        Assert.False(advice.Catches(Goods(vendor: null)));
    }

    [Theory]
    [InlineData("2025-05-10", "2025-05-10", true)]
    [InlineData("2025-05-01", "2025-05-09", false)]
    [InlineData("2025-05-11", "2025-05-12", false)]
    [InlineData("2025-05-01", "2025-05-10", true)]
    public void By_days_of_production_both_ends_count(string from, string to, bool caught)
    {
        var scope = new RecallScope(RecallBy.Produced, null, Frost, [], DateOnly.Parse(from), DateOnly.Parse(to));
        Assert.Equal(caught, scope.Catches(Goods(produced: (may, may))));
        Assert.False(scope.Catches(Goods(vendor: Hollow, produced: (may, may))));
        Assert.False(scope.Catches(Goods()));
    }

    /// <summary>Where the label names the month only, any day of it may be the one.</summary>
    [Fact]
    public void What_was_made_in_a_month_that_reaches_into_the_days_is_caught()
    {
        var month = (new DateOnly(2025, 5, 1), new DateOnly(2025, 5, 31));
        RecallScope Of(int from, int to) =>
            new(RecallBy.Produced, null, Frost, [], new DateOnly(2025, from, 30), new DateOnly(2025, to, 1));
        Assert.True(Of(5, 6).Catches(Goods(produced: month)));
        Assert.True(Of(4, 5).Catches(Goods(produced: month)));
        Assert.False(Of(3, 4).Catches(Goods(produced: month)));
    }

    [Fact]
    public void Goods_whose_telling_mark_was_never_recorded_are_suspects_and_others_are_not()
    {
        var leeks = BySource("QS-L-1147") with { ItemId = Leek };
        Assert.True(leeks.Suspects(Goods(source: null)));
        Assert.False(leeks.Suspects(Goods()));
        Assert.False(leeks.Suspects(Goods("QS-L-1148")));
        Assert.False(leeks.Suspects(Goods(source: null, item: Onion)));
        var days = new RecallScope(RecallBy.Produced, null, Frost, [], may, may);
        Assert.True(days.Suspects(Goods()));
        Assert.False(days.Suspects(Goods(produced: (may.AddDays(1), may.AddDays(1)))));
        Assert.False(days.Suspects(Goods(vendor: Hollow)));
    }

    public static TheoryData<RecallScope, string> Faults() =>
        new()
        {
            { BySource(), "names what it is about" },
            { BySource(""), "names what it is about" },
            { BySource(new string('x', 41)), "at most 40" },
            { BySource([.. Enumerable.Range(0, 501).Select(i => $"B{i}")]), "at most 500" },
            { new RecallScope((RecallBy)9, null, null, ["x"]), "goes by" },
            { new RecallScope(RecallBy.Serial, null, Frost, ["x"]), "are of an item" },
            { new RecallScope(RecallBy.Produced, Leek, null, [], may, may), "are of a vendor" },
            { new RecallScope(RecallBy.Produced, Leek, Frost, [], null, may), "are of a vendor" },
            { new RecallScope(RecallBy.Produced, Leek, Frost, [], may, may.AddDays(-1)), "before the first" },
            { new RecallScope(RecallBy.Advice, null, Frost, ["DA-1"]), "of a vendor and an arrival" },
        };

    [Theory]
    [MemberData(nameof(Faults))]
    public void What_cannot_be_right_is_said(RecallScope scope, string says) =>
        Assert.Contains(says, scope.Fault!.Sentence, StringComparison.Ordinal);

    [Fact]
    public void The_same_numbers_in_another_order_and_other_letters_are_the_same_recall()
    {
        Assert.True(BySource("A-1", "B-2").IsAlike(BySource("b-2", "A-1 ")));
        Assert.False(BySource("A-1", "B-2").IsAlike(BySource("A-1")));
        Assert.False(BySource("A-1").IsAlike(BySource("A-1") with { ItemId = Leek }));
        Assert.False(BySource("A-1").IsAlike(new RecallScope(RecallBy.Batch, null, null, ["A-1"])));
    }

    [Fact]
    public void It_says_in_words_what_it_is_about()
    {
        static string Words(RecallScope scope) => scope.Words(i => i == Leek ? "Leek seed pouch" : "?", _ => "Frost & Sons");
        Assert.Equal("Leek seed pouch, source batch QS-L-1147", Words(BySource("QS-L-1147") with { ItemId = Leek }));
        Assert.Equal("source batches A, B", Words(BySource("A", "B")));
        Assert.Equal("source batches A and 4 more, last E", Words(BySource("A", "B", "C", "D", "E")));
        Assert.Equal("Frost & Sons, made on 2025-05-10", Words(new RecallScope(RecallBy.Produced, null, Frost, [], may, may)));
        Assert.Equal(
            "Frost & Sons, all of despatch advice DA-1",
            Words(new RecallScope(RecallBy.Advice, null, Frost, ["DA-1"], ArrivalId: 5))
        );
        Assert.Null((BySource("A") with { ItemId = Leek }).Fault);
    }
}
