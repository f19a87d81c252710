using CsCheck;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

/// <summary>What stands on labels, what is closed and posted, what goes out and comes back.</summary>
public sealed class PapersOfTheDoorTests
{
    static readonly DateTimeOffset at = new(2026, 3, 10, 9, 0, 0, TimeSpan.Zero);
    static readonly PackLevel each = new()
    {
        Name = "each",
        Numerator = 1,
        Gtin = "09521234100013",
    };
    static readonly PackLevel box = new()
    {
        Name = "box",
        Numerator = 6,
        Gtin = "19521234100010",
    };
    static readonly PackLevel pallet = new()
    {
        Name = "pallet",
        Numerator = 96,
        IsUnit = true,
        Gtin = "29521234100017",
    };
    static readonly Item spade = new()
    {
        Id = 1,
        Code = "SP-DG",
        Name = "Digging spade",
        BaseUnit = "H87",
        PackLevels = [each, box, pallet],
    };

    static OutworkNote Note(decimal sent = 100) =>
        new()
        {
            Number = "O-0001",
            SiteId = 1,
            VendorId = 4,
            Order = "TO-9",
            ItemId = 1,
            Treatment = "galvanised",
            Sent = sent,
            By = "Wanjiru Holloway",
            At = at,
        };

    /// <summary>GS1 General Specifications: (02) is the trade item contained in a logistic unit and stands only with (37), how many of
    /// it.</summary>
    [Theory]
    [InlineData(96, "19521234100010", "16")]
    [InlineData(90, "19521234100010", "15")]
    [InlineData(95, "09521234100013", "95")]
    public void A_units_label_names_the_largest_pack_that_divides_its_content_and_how_many(int quantity, string gtin, string count) =>
        Assert.Equal([new LabelElement("02", gtin), new LabelElement("37", count)], LabelCodes.Contained(spade, quantity));

    [Fact]
    public void A_content_that_no_GTIN_counts_has_no_code()
    {
        var rope = new Item
        {
            Id = 2,
            Code = "RO",
            Name = "Rope",
            BaseUnit = "MTR",
            Step = 0.5m,
            PackLevels = [new PackLevel { Name = "metre", Numerator = 1 }],
        };
        Assert.Empty(LabelCodes.Contained(rope, 12.5m));
        Assert.Empty(LabelCodes.Contained(spade, 0.5m));
    }

    [Fact]
    public void A_packs_label_has_its_GTIN_and_the_own_batch_where_there_is_one()
    {
        Assert.Equal([new LabelElement("01", "19521234100010"), new LabelElement("10", "SP-0310-1")], LabelCodes.OfPack(box, "SP-0310-1"));
        Assert.Equal([new LabelElement("01", "19521234100010")], LabelCodes.OfPack(box, null));
        Assert.Empty(LabelCodes.OfPack(new PackLevel { Name = "loose", Numerator = 1 }, "SP-0310-1"));
    }

    [Theory]
    [InlineData(StandingKind.Held, "crushed", "Job 7", "HELD: crushed")]
    [InlineData(StandingKind.Held, null, null, "HELD")]
    [InlineData(StandingKind.Rejected, null, "Job 7", "REJECTED")]
    [InlineData(StandingKind.ToInspect, null, "Job 7", "TO INSPECT")]
    [InlineData(StandingKind.Usable, null, "Job 7", "FOR Job 7")]
    [InlineData(StandingKind.Usable, null, null, null)]
    public void What_keeps_goods_back_is_seen_before_who_waits_for_them(StandingKind kind, string? why, string? waiting, string? banner) =>
        Assert.Equal(banner, LabelCodes.Banner(SiteStandings.BuiltIn[new Standing((int)kind)], why, waiting));

    [Fact]
    public void Every_kind_of_difference_has_a_word_of_its_own()
    {
        var words = Enum.GetValues<DiscrepancyKind>().Select(Discrepancies.Word).ToList();
        Assert.Equal(words.Count, words.Distinct().Count());
        Assert.All(Enum.GetValues<Aside>(), aside => Assert.NotEmpty(Discrepancies.Word(AsideDifferences.Of(aside))));
    }

    [Theory]
    [InlineData(40, 40, LineOutcome.Complete, false)]
    [InlineData(40, 30, LineOutcome.Short, true)]
    [InlineData(40, 0, LineOutcome.Untouched, true)]
    [InlineData(40, 44, LineOutcome.Over, false)]
    [InlineData(0, 0, LineOutcome.Complete, false)]
    public void A_line_is_complete_short_over_or_untouched_and_short_ones_want_a_decision(
        int expected,
        int counted,
        LineOutcome outcome,
        bool wants
    )
    {
        var line = new ClosingLine(1, expected, counted, Math.Max(0, expected - counted), null);
        Assert.Equal(outcome, line.Outcome);
        Assert.Equal(wants, line.WantsDecision);
    }

    [Fact]
    public void A_line_that_came_by_another_arrival_meanwhile_wants_no_decision() =>
        Assert.False(new ClosingLine(1, 40, 30, 0, null).WantsDecision);

    [Fact]
    public void A_receipt_is_invoiced_once_and_never_when_it_was_reversed()
    {
        var receipt = new Receipt
        {
            Number = "R-0001",
            SiteId = 1,
            ArrivalId = 1,
            VendorId = 1,
            DeliveryNote = "DN-7",
            PostedAt = at,
            PostedBy = "Wanjiru Holloway",
        };
        Assert.Null(receipt.Invoice(at));
        Assert.Equal("decided", receipt.Invoice(at)!.Code);
        var reversed = new Receipt
        {
            Number = "R-0002",
            SiteId = 1,
            ArrivalId = 1,
            VendorId = 1,
            DeliveryNote = "DN-8",
            PostedAt = at,
            PostedBy = "Wanjiru Holloway",
        };
        reversed.Reverse(at);
        Assert.Equal("reversed", reversed.Invoice(at)!.Code);
    }

    [Fact]
    public void No_more_goes_back_to_a_vendor_than_came()
    {
        Assert.Equal(25, VendorReturn.Left(40, [10, 5]));
        Assert.Equal(0, VendorReturn.Left(40, [40]));
        Assert.Equal(0, VendorReturn.Left(40, [40, 1]));
    }

    /// <summary>Whatever comes back in whatever parts: back, lost and out are what was sent, and the note is open exactly while something
    /// is out.</summary>
    [Fact]
    public void Outwork_adds_up() =>
        Gen.Select(Gen.Int[-3, 60], Gen.Bool)
            .List[0, 12]
            .Sample(steps =>
            {
                var note = Note();
                foreach (var (quantity, restLost) in steps)
                {
                    var (back, lost, open) = (note.Back, note.Lost, note.IsOpen);
                    if (note.TakeBack(quantity, restLost) is not null)
                        Assert.Equal((back, lost, open), (note.Back, note.Lost, note.IsOpen));
                    Assert.Equal(note.Sent, note.Back + note.Lost + note.Out);
                    Assert.InRange(note.Out, 0, note.Sent);
                    Assert.Equal(note.Out > 0, note.IsOpen);
                }
            });

    [Fact]
    public void Nothing_more_comes_back_than_is_out_and_what_is_lost_ends_the_note()
    {
        var note = Note();
        Assert.Null(note.TakeBack(60, restLost: false));
        Assert.Equal("more-than-out", note.TakeBack(41, restLost: false)!.Code);
        Assert.Equal("quantity-not-positive", note.TakeBack(0, restLost: false)!.Code);
        Assert.Null(note.TakeBack(30, restLost: true));
        Assert.Equal((90m, 10m, false), (note.Back, note.Lost, note.IsOpen));
    }

    [Fact]
    public void A_label_that_the_printer_did_not_take_keeps_why_and_can_be_sent_again()
    {
        var job = new PrintJob
        {
            SiteId = 1,
            Printer = "Door 2",
            Title = "Digging spade",
            Size = "a6",
            Copies = 1,
            By = "Leila Fennimore",
            At = at,
        };
        job.Fail(new string('x', 400));
        Assert.Equal(PrintState.Failed, job.State);
        Assert.Equal(300, job.Error!.Length);
        job.Again();
        Assert.Equal((PrintState.Waiting, (string?)null), (job.State, job.Error));
        job.Done();
        Assert.Equal(PrintState.Printed, job.State);
    }

    [Fact]
    public void A_question_is_answered_once()
    {
        var question = new TallyQuestion
        {
            SiteId = 1,
            ArrivalId = 1,
            Kind = QuestionKind.Over,
            Sentence = "Take them?",
            Packs = "2",
            PersonId = 3,
            AskedBy = "Leila Fennimore",
            AskedAt = at,
        };
        Assert.Null(question.Settle("Yes.", "Wanjiru Holloway", at));
        Assert.Contains("Wanjiru Holloway", question.Settle("No.", "Somebody Else", at)!.Sentence);
        Assert.Equal(("Yes.", false), (question.Answer, question.IsOpen));
    }
}
