using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Bench;

/// <summary>What becomes of a drawn sample: each part once, and what the plan wants comes first.</summary>
public sealed class SampleWayTests
{
    static readonly SiteTime local = at => at.UtcDateTime;
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);
    static readonly DateOnly today = new(2026, 3, 10);

    static readonly Item seed = new()
    {
        Id = 1,
        Code = "MS-25",
        Name = "Mustard seed",
        BaseUnit = "KGM",
        Step = 0.1m,
        PackLevels = [new PackLevel { Name = "sack", Numerator = 25 }],
    };

    static PlanContent Plan(bool usesUp = false, RetainedSample? retains = null) =>
        new()
        {
            SamplingUnit = "sack",
            Rules = new Dictionary<CharacteristicClass, SampleRule> { [CharacteristicClass.Major] = new SampleRule.Fixed(4, 0) },
            Retains = retains,
            Characteristics =
            [
                new Characteristic
                {
                    Id = 1,
                    Name = "Germination",
                    Class = CharacteristicClass.Major,
                    UsesUp = usesUp,
                },
                new Characteristic
                {
                    Id = 2,
                    Name = "Smell",
                    Class = CharacteristicClass.Major,
                },
            ],
        };

    static Inspection Waiting(string? askedBy = null, int? supersedes = null, bool letsUse = false, decimal quantity = 250)
    {
        var sheet = new Inspection
        {
            Number = "I-0001",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 1,
            Since = now,
            AskedBy = askedBy,
            AskedBecause = askedBy is null ? null : "smells musty",
            SupersedesId = supersedes,
            LetsUse = letsUse,
        };
        Assert.Null(sheet.Grow(quantity));
        return sheet;
    }

    static Inspection Drawn(PlanContent content, Inspection? waiting = null)
    {
        var plan = new InspectionPlan { Id = 1, Name = "Seed" };
        Assert.Null(plan.Write(content, "Priya", now).Sign("Priya", now, now, null));
        var sheet = waiting ?? Waiting();
        Assert.Null(sheet.Draw(plan, plan.InForce(now), seed, _ => Severity.Normal));
        return sheet;
    }

    static Refusal? Settle(Inspection sheet, SampleFate fate, decimal quantity, DateOnly? until = null)
    {
        if (sheet.MaySettle(fate, quantity, until, seed, today) is { } refusal)
            return refusal;
        sheet.Settle(new SampleWent(fate, quantity, "Q-1", until, "Leila", now));
        return null;
    }

    [Fact]
    public void Four_sacks_of_ten_are_the_sample_and_all_of_it_goes_back_where_the_plan_wants_nothing()
    {
        var sheet = Drawn(Plan());
        Assert.Equal(100, sheet.Sampled);
        Assert.Equal(new SampleProposal(SampleFate.Back, 100, null), SampleWay.Next(sheet, Plan(), seed, today));
        Assert.Null(Settle(sheet, SampleFate.Back, 100));
        Assert.Null(SampleWay.Next(sheet, Plan(), seed, today));
    }

    [Fact]
    public void What_was_measured_to_pieces_is_used_up_first_then_so_much_is_kept_as_the_plan_says_and_the_rest_goes_back()
    {
        var content = Plan(usesUp: true, new RetainedSample(1, 24));
        var sheet = Drawn(content);
        // Nothing was looked at yet: nothing is used up.
        Assert.Equal(SampleFate.Retained, SampleWay.Next(sheet, content, seed, today)!.Fate);
        foreach (var piece in new[] { 1, 2 })
        foreach (var c in new[] { 1, 2 })
            Assert.Null(sheet.Find(content, new Observation(piece, c, null, true), "Leila", now, local).Refusal);
        Assert.Equal(new SampleProposal(SampleFate.UsedUp, 50, null), SampleWay.Next(sheet, content, seed, today));
        Assert.Null(Settle(sheet, SampleFate.UsedUp, 30));
        Assert.Equal(new SampleProposal(SampleFate.UsedUp, 20, null), SampleWay.Next(sheet, content, seed, today));
        Assert.Null(Settle(sheet, SampleFate.UsedUp, 20));
        Assert.Equal(new SampleProposal(SampleFate.Retained, 25, new DateOnly(2028, 3, 10)), SampleWay.Next(sheet, content, seed, today));
        Assert.Null(Settle(sheet, SampleFate.Retained, 25, new DateOnly(2028, 3, 10)));
        Assert.Equal(new SampleProposal(SampleFate.Back, 25, null), SampleWay.Next(sheet, content, seed, today));
    }

    [Fact]
    public void No_more_is_settled_than_was_drawn_and_nothing_twice()
    {
        var sheet = Drawn(Plan());
        Assert.Equal("more-than-sampled", Settle(sheet, SampleFate.UsedUp, 100.1m)!.Code);
        Assert.Null(Settle(sheet, SampleFate.UsedUp, 60));
        Assert.Equal("more-than-sampled", Settle(sheet, SampleFate.Back, 40.1m)!.Code);
        Assert.Null(Settle(sheet, SampleFate.Back, 40));
        Assert.Equal("sample-settled", Settle(sheet, SampleFate.Back, 0.1m)!.Code);
        Assert.Equal("sample-not-drawn", Settle(Waiting(), SampleFate.Back, 1)!.Code);
    }

    [Fact]
    public void A_retained_sample_is_kept_until_a_day_to_come()
    {
        var sheet = Drawn(Plan());
        Assert.Equal("retained-until", Settle(sheet, SampleFate.Retained, 25)!.Code);
        Assert.Equal("retained-until", Settle(sheet, SampleFate.Retained, 25, today)!.Code);
        Assert.Null(Settle(sheet, SampleFate.Retained, 25, today.AddDays(1)));
        Assert.NotNull(new RetainedSample(0, 24).Fault);
        Assert.NotNull(new RetainedSample(1, 0).Fault);
    }

    [Fact]
    public void A_sample_that_was_brought_away_stays_drawn_and_is_brought_to_a_place_once()
    {
        var sheet = Drawn(Plan());
        Assert.Null(sheet.Bring(7, "Q-1"));
        Assert.Equal("sample-there", sheet.Bring(7, "Q-1")!.Code);
        Assert.Null(sheet.Bring(8, "Q-2"));
        Assert.Equal("sample-away", sheet.PutBack(local)!.Code);
        Assert.Equal("sample-not-drawn", Waiting().Bring(7, "Q-1")!.Code);
    }

    [Fact]
    public void What_is_used_up_while_the_sheet_is_open_is_spoken_for_no_longer_and_a_signed_sheet_goes_on_saying_what_it_spoke_for()
    {
        var content = Plan();
        var plan = new InspectionPlan { Id = 1, Name = "Seed" };
        Assert.Null(plan.Write(content, "Priya", now).Sign("Priya", now, now, null));
        var sheet = Waiting();
        Assert.Null(sheet.Draw(plan, plan.InForce(now), seed, _ => Severity.Normal));
        sheet.UseUp(30);
        Assert.Equal((220m, 100m), (sheet.Quantity, sheet.Sampled));
        for (var piece = 1; piece <= 4; piece++)
        for (var c = 1; c <= 2; c++)
            Assert.Null(sheet.Find(content, new Observation(piece, c, null, true), "Leila", now, local).Refusal);
        Assert.Equal(Verdict.Accepted, sheet.Sign(plan, new Signature("Leila", now, SignatureMeaning.Checked, null), local).Value);
        sheet.UseUp(10);
        Assert.Equal(220, sheet.Quantity);
        Assert.True(Sheets.IsWhole(sheet, plan.Name, plan[1]));
    }

    [Fact]
    public void A_piece_bears_one_name_and_a_name_is_of_one_piece()
    {
        var sheet = Drawn(Plan());
        Assert.Null(Name(1, "SN-1"));
        Assert.Null(Name(2, " SN-2 "));
        Assert.Equal("piece-named", Name(3, "sn-2")!.Code);
        Assert.Null(Name(2, "SN-3"));
        Assert.Null(Name(3, "SN-2"));
        Assert.Equal([(1, "SN-1"), (2, "SN-3"), (3, "SN-2")], sheet.Pieces.Select(p => (p.Piece, p.Name)));
        Assert.Null(Name(1, ""));
        Assert.Equal([2, 3], sheet.Pieces.Select(p => p.Piece));
        Assert.Equal("piece-outside", Name(5, "SN-5")!.Code);
        Assert.Equal("note-long", Name(4, new string('x', 41))!.Code);

        Refusal? Name(int piece, string name) => sheet.Name(Plan(), new NamedPiece(piece, name, "Leila", now), local);
    }

    [Fact]
    public void Names_and_pictures_are_in_the_hash_of_a_signed_sheet()
    {
        var plain = Hash(_ => { });
        Assert.NotEqual(plain, Hash(s => Assert.Null(s.Name(Plan(), new NamedPiece(1, "SN-1", "Leila", now), local))));
        Assert.NotEqual(plain, Hash(s => Assert.Null(s.Show(Plan(), new SheetPicture(1, "9f2c", 1, null, "Leila", now), local))));

        static string Hash(Action<Inspection> change)
        {
            var plan = new InspectionPlan { Id = 1, Name = "Seed" };
            Assert.Null(plan.Write(Plan(), "Priya", now).Sign("Priya", now, now, null));
            var sheet = Drawn(Plan());
            change(sheet);
            for (var piece = 1; piece <= 4; piece++)
            for (var c = 1; c <= 2; c++)
                Assert.Null(sheet.Find(Plan(), new Observation(piece, c, null, true), "Leila", now, local).Refusal);
            Assert.Equal(Verdict.Accepted, sheet.Sign(plan, new Signature("Leila", now, SignatureMeaning.Checked, null), local).Value);
            return sheet.SheetHash!;
        }
    }

    [Fact]
    public void What_was_asked_for_by_hand_is_withdrawn_while_nothing_is_drawn_and_what_a_rule_wants_is_not()
    {
        Assert.Equal("not-asked-by-hand", Waiting().Withdraw("why", "Leila", local)!.Code);
        Assert.Equal("not-asked-by-hand", Waiting("Petra", supersedes: 3).Withdraw("why", "Leila", local)!.Code);
        var asked = Waiting("Petra");
        Assert.Equal("reason-missing", asked.Withdraw(" ", "Leila", local)!.Code);
        Assert.Null(asked.Withdraw("asked for twice", "Leila", local));
        Assert.Equal((InspectionState.Withdrawn, "asked for twice", "Leila"), (asked.State, asked.WithdrawnBecause, asked.WithdrawnBy));
        Assert.Equal("inspection-withdrawn", asked.Withdraw("again", "Leila", local)!.Code);
        var plan = new InspectionPlan { Id = 1, Name = "Seed" };
        Assert.Null(plan.Write(Plan(), "Priya", now).Sign("Priya", now, now, null));
        Assert.Equal("inspection-withdrawn", asked.Draw(plan, plan.InForce(now), seed, _ => Severity.Normal)!.Code);
        var drawn = Waiting("Petra");
        Assert.Null(drawn.Draw(plan, plan.InForce(now), seed, _ => Severity.Normal));
        Assert.Equal("sample-drawn", drawn.Withdraw("why", "Leila", local)!.Code);
    }

    [Fact]
    public void A_picture_to_judge_by_has_few_marks_each_within_it_and_with_words()
    {
        static string? Fault(params PictureMark[] marks) => new ReferencePicture(1, "9f2c", marks).Fault;
        Assert.Null(Fault(new PictureMark(0, 100, "burr")));
        Assert.NotNull(Fault(new PictureMark(-1, 50, "burr")));
        Assert.NotNull(Fault(new PictureMark(50, 101, "burr")));
        Assert.NotNull(Fault(new PictureMark(50, 50, " ")));
        Assert.NotNull(Fault([.. Enumerable.Repeat(new PictureMark(1, 1, "burr"), 13)]));
    }

    /// <summary>One by one: five good ones are enough; after one bad the whole lot of ten is looked at.</summary>
    [Fact]
    public void What_the_first_pieces_leave_open_is_drawn_when_it_is_looked_at_and_once()
    {
        var says = Plan() with
        {
            Rules = new Dictionary<CharacteristicClass, SampleRule>
            {
                [CharacteristicClass.Major] = new SampleRule.OneByOne(5, 10, 40, 10),
            },
        };
        var sheet = Drawn(says);
        Assert.Equal(125, sheet.Sampled);
        FiveOfWhichOneIsBad(sheet, says);
        Assert.Equal(125, sheet.StillToDraw(6, seed, says));
        sheet.DrawMore(125);
        Assert.Equal((0m, 250m), (sheet.StillToDraw(6, seed, says), sheet.Sampled));
        Assert.Equal(new SampleProposal(SampleFate.Back, 250, null), SampleWay.Next(sheet, says, seed, today));
    }

    /// <summary>What was used meanwhile is not there to be drawn, and makes a piece no smaller: whoever draws on is told.</summary>
    [Fact]
    public void What_was_used_meanwhile_lessens_nothing_of_what_is_still_to_be_drawn()
    {
        var says = Plan() with
        {
            Rules = new Dictionary<CharacteristicClass, SampleRule>
            {
                [CharacteristicClass.Major] = new SampleRule.OneByOne(5, 10, 40, 10),
            },
        };
        // Twenty sacks of which only the sample waits: the rest was used.
        var free = Drawn(says, Waiting(letsUse: true, quantity: 500));
        FiveOfWhichOneIsBad(free, says);
        Assert.Null(free.Shrink(500 - free.Sampled));
        Assert.Equal(25m * 11 - 125, free.StillToDraw(6, seed, says));
        // Ten sacks, all wanted after one bad: two of the sample are used up already.
        var whole = Drawn(says);
        FiveOfWhichOneIsBad(whole, says);
        Assert.Null(Settle(whole, SampleFate.UsedUp, 50));
        whole.UseUp(50);
        Assert.Equal(125, whole.StillToDraw(6, seed, says));
    }

    static void FiveOfWhichOneIsBad(Inspection sheet, PlanContent says)
    {
        for (var piece = 1; piece <= 5; piece++)
        for (var c = 1; c <= 2; c++)
        {
            Assert.Equal(0, sheet.StillToDraw(piece, seed, says));
            Assert.Null(sheet.Find(says, new Observation(piece, c, null, piece != 3), "Leila", now, local).Refusal);
        }
    }
}
