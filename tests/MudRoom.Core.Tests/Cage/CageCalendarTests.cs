using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>What falls on which day in the cage, and why goods are held.</summary>
public sealed class CageCalendarTests
{
    /// <summary>A Tuesday.</summary>
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 20, 0, TimeSpan.Zero);
    static readonly Hand wanjiru = new(1, "Wanjiru");

    static DateOnly Day(DateTimeOffset at) => DateOnly.FromDateTime(at.UtcDateTime);

    static Hold Held(DateTimeOffset? until = null, HoldReason reason = HoldReason.Rule, params Wanted[] wants)
    {
        var hold = new Hold
        {
            Id = 4,
            Number = "H-0500",
            SiteId = 1,
            ItemId = 1,
            Reason = reason,
            Sentence = "quarantine",
            Since = now.AddDays(-4),
            Until = until,
            LaidBy = "rule",
        }.Wanting(HoldCondition.From(wants.Select(w => ("", w)), now.AddDays(-4)));
        Assert.Null(hold.Grow(40, at => at.UtcDateTime));
        return hold;
    }

    static IEnumerable<(CageDayKind, DateOnly)> Days(Hold hold) => CageCalendar.Of(hold, now, Day).Select(e => (e.Kind, e.On));

    [Fact]
    public void A_time_stands_on_the_day_on_which_it_is_over_and_then_on_today_until_it_is_lifted()
    {
        Assert.Equal([(CageDayKind.TimeOver, new DateOnly(2026, 3, 24))], Days(Held(now.AddDays(14))));
        Assert.Equal([(CageDayKind.Ready, new DateOnly(2026, 3, 10))], Days(Held(now)));
        Assert.Equal([(CageDayKind.Ready, new DateOnly(2026, 3, 10))], Days(Held(now.AddDays(-3))));
        // What is decided over waits for a person, and for no day.
        Assert.Empty(Days(Held(reason: HoldReason.Nonconforming)));
        Assert.Empty(Days(Held(reason: HoldReason.CountedAside)));
    }

    [Fact]
    public void What_is_overdue_stands_on_today_and_what_will_be_on_its_day()
    {
        var late = new Wanted(ConditionKind.Paper, "", Right.LiftHold, PaperKind.TestReport, WithinDays: 3);
        var due = new Wanted(ConditionKind.Signature, "", Right.LiftHold, WithinDays: 6);
        Assert.Equal(
            [(CageDayKind.Overdue, new DateOnly(2026, 3, 10)), (CageDayKind.Due, new DateOnly(2026, 3, 12))],
            Days(Held(wants: [late, due]))
        );
        // One that is wanted for no day stands on none; one that was met on none any more.
        Assert.Empty(Days(Held(wants: due with { WithinDays = null })));
        var hold = Held(wants: due);
        Assert.True(hold.Meet(1, wanjiru, _ => true, null, null, now, at => at.UtcDateTime).Accepted(out _));
        Assert.Equal([(CageDayKind.Ready, new DateOnly(2026, 3, 10))], Days(hold));
    }

    /// <summary>It ends with its last day, at the midnight behind it.</summary>
    [Fact]
    public void A_concession_stands_on_its_last_day()
    {
        var hold = Held(reason: HoldReason.Nonconforming);
        var released = new HoldDecision(DecisionKind.ReleaseUnderConcession, wanjiru, now, "only its look")
        {
            Concession = new Concession("Hollin Nurseries", "C-20417", new DateTimeOffset(2026, 3, 14, 0, 0, 0, TimeSpan.Zero)),
        };
        Assert.True(hold.Decide(released, 40, at => at.UtcDateTime).Accepted(out _));
        Assert.Equal([(CageDayKind.ConcessionEnds, new DateOnly(2026, 3, 13))], Days(hold));
    }

    [Fact]
    public void What_is_lifted_or_decided_over_stands_on_no_day()
    {
        var lifted = Held();
        Assert.True(lifted.Lift(now, wanjiru, null, at => at.UtcDateTime).Accepted(out _));
        Assert.Empty(Days(lifted));
        var late = new Wanted(ConditionKind.Signature, "", Right.LiftHold, WithinDays: 1);
        var decided = Held(null, HoldReason.Nonconforming, late);
        Assert.Single(Days(decided));
        Assert.True(decided.Decide(DecisionKind.Rework.By(wanjiru, now), 40, at => at.UtcDateTime).Accepted(out _));
        Assert.Empty(Days(decided));
    }

    /// <summary>Weeks begin on Monday: ISO 8601-1:2019, 3.1.1.21 (number from memory).</summary>
    [Theory]
    [InlineData("2026-03-10", "2026-03-09")]
    [InlineData("2026-03-09", "2026-03-09")]
    [InlineData("2026-03-15", "2026-03-09")]
    [InlineData("2026-01-01", "2025-12-29")]
    public void A_week_begins_on_its_monday(string day, string monday) =>
        Assert.Equal(DateOnly.Parse(monday, null), CageCalendar.Monday(DateOnly.Parse(day, null)));

    [Fact]
    public void What_is_over_on_a_day_off_is_worked_on_the_next_day_worked()
    {
        var (saturday, monday) = (new DateOnly(2026, 3, 14), new DateOnly(2026, 3, 16));
        Assert.Equal(monday, CageCalendar.WorkedOn(saturday, WorkCalendar.Usual));
        Assert.Equal(monday, CageCalendar.WorkedOn(monday, WorkCalendar.Usual));
        var never = new WorkCalendar(new Dictionary<DayOfWeek, WorkDay>(), new Dictionary<DateOnly, WorkDay>());
        Assert.Null(CageCalendar.WorkedOn(monday, never));
    }

    [Theory]
    [InlineData("damaged", null, "Damaged", "Damaged")]
    [InlineData("Damaged", " a corner ", "Damaged", "Damaged: a corner")]
    [InlineData(null, "smells odd", null, "smells odd")]
    [InlineData(" ", "smells odd", null, "smells odd")]
    public void A_reason_of_the_list_a_sentence_or_both_say_why(string? because, string? why, string? listed, string sentence)
    {
        var settings = new CageSettings { Reasons = ["Damaged", "Warm"] };
        Assert.Equal((listed, sentence), settings.Reason(because, why).Value);
        Assert.Equal(listed, settings.ListedIn(sentence));
    }

    [Fact]
    public void Without_any_reason_nothing_is_held_and_a_reason_is_one_of_the_site()
    {
        var settings = new CageSettings { Reasons = ["Damaged"] };
        Assert.Equal("note-missing", settings.Reason("", " ").Refusal!.Code);
        Assert.Equal("note-missing", settings.Reason("Damaged", new string('a', 501)).Refusal!.Code);
        Assert.Equal("hold-reason-unknown", settings.Reason("Bewitched", "it moves").Refusal!.Code);
    }

    [Theory]
    [InlineData(true, "Damaged", "Warm")]
    [InlineData(true)]
    [InlineData(false, "Damaged", "damaged")]
    [InlineData(false, "")]
    [InlineData(false, "A reason that nobody can read in one go, this is")]
    public void A_list_of_reasons_is_short_and_says_each_once(bool isRight, params string[] reasons) =>
        Assert.Equal(isRight, new CageSettings { Reasons = reasons }.Fault is null);
}
