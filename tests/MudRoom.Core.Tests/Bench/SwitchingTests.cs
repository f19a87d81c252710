using CsCheck;
using MudRoom.Core.Bench;
using static MudRoom.Core.Bench.SwitchingEvent;

namespace MudRoom.Core.Tests.Bench;

/// <summary>The switching rules of ISO 2859-1, clause 9, from memory.</summary>
public sealed class SwitchingTests
{
    static readonly DateOnly first = new(2026, 1, 5);

    /// <summary>Lots of a plan with Ac 2, a week apart: + accepted at the next tighter AQL too, = accepted only at its own, - not
    /// accepted.</summary>
    static List<SwitchingEvent> Lots(string marks, int ac = 2, bool? onFirst = null) =>
        [.. marks.Select((m, i) => (SwitchingEvent)new Lot($"I-{i + 1}", first.AddDays(7 * i), m != '-', ac, m == '+', onFirst))];

    static SeverityStand After(string marks) => Switching.After(Lots(marks));

    [Theory]
    [InlineData("+++++", Severity.Normal)]
    [InlineData("-++++", Severity.Normal)]
    [InlineData("--", Severity.Tightened)]
    [InlineData("-+++-", Severity.Tightened)]
    [InlineData("-++++-", Severity.Normal)]
    [InlineData("--++++", Severity.Tightened)]
    [InlineData("--+++++", Severity.Normal)]
    [InlineData("--++++-+++++", Severity.Normal)]
    [InlineData("--+++++-", Severity.Normal)]
    public void Two_of_five_tighten_and_five_accepted_in_a_row_bring_back(string marks, Severity severity) =>
        Assert.Equal(severity, After(marks).Severity);

    [Fact]
    public void Five_not_accepted_on_tightened_in_sum_stop_and_a_person_restarts_on_tightened()
    {
        var stopped = After("--" + "-+-+-+-+-");
        Assert.True(stopped.IsStopped);
        Assert.Contains("a person restarts it", stopped.Why);
        Assert.False(After("--" + "-+-+-+-+").IsStopped);

        var again = Switching.After([.. Lots("--" + "-+-+-+-+-"), new Restarted("Priya")]);
        Assert.False(again.IsStopped);
        Assert.Equal(Severity.Tightened, again.Severity);
        // The sum begins anew: four more do not stop it.
        Assert.False(Switching.After([.. Lots("--" + "-+-+-+-+-"), new Restarted("Priya"), .. Lots("-+-+-+-")]).IsStopped);
    }

    [Fact]
    public void The_score_grows_by_three_where_the_next_tighter_AQL_would_have_accepted_and_falls_to_nothing_else()
    {
        Assert.Equal(9, After("+++").Score);
        Assert.Equal(0, After("+++=").Score);
        Assert.Equal(3, After("++-+").Score);
        Assert.Equal(6, Switching.After(Lots("===", ac: 1)).Score);
        Assert.Equal(9, Switching.After(Lots("===", onFirst: true)).Score);
        Assert.Equal(0, Switching.After(Lots("+++", onFirst: false)).Score);
    }

    [Fact]
    public void Reduced_wants_thirty_points_and_a_persons_word()
    {
        var due = After("++++++++++");
        Assert.Equal((Severity.Normal, 30, true), (due.Severity, due.Score, due.MayBeReduced));
        Assert.Equal(Severity.Reduced, Switching.After([.. Lots("++++++++++"), new ReducedAllowed("Priya")]).Severity);
        Assert.Equal(Severity.Reduced, Switching.After([new ReducedAllowed("Priya"), .. Lots("++++++++++")]).Severity);
        Assert.Equal(Severity.Normal, Switching.After([new ReducedAllowed("Priya"), .. Lots("+++++++++")]).Severity);
    }

    [Fact]
    public void One_lot_not_accepted_a_long_gap_or_a_persons_word_ends_reduced()
    {
        List<SwitchingEvent> reduced = [.. Lots("++++++++++"), new ReducedAllowed("Priya")];
        var next = first.AddDays(7 * 10);
        Assert.Equal(Severity.Normal, Switching.After([.. reduced, new Lot("I-11", next, false, 1, false, null)]).Severity);
        Assert.Equal(Severity.Reduced, Switching.After([.. reduced, new Lot("I-11", next, true, 1, false, null)]).Severity);
        Assert.Equal(Severity.Normal, Switching.After([.. reduced, new Lot("I-11", next.AddDays(100), true, 1, true, null)]).Severity);
        Assert.Equal(Severity.Normal, Switching.After([.. reduced, new ReducedEnded("Priya")]).Severity);
    }

    [Fact]
    public void Each_lot_says_under_what_it_was_judged_and_what_followed()
    {
        var stand = After("+--+");
        Assert.Equal([Severity.Normal, Severity.Normal, Severity.Normal, Severity.Tightened], stand.Lots.Select(l => l.Under));
        Assert.Equal("2 of the last 3 lots were not accepted.", stand.Lots[2].Then);
        Assert.Equal(
            "The next lot is inspected tightened: 2 of the last 3 lots were not accepted.",
            SeverityStand.Change(After("+-"), After("+--"))
        );
        Assert.Null(SeverityStand.Change(After("+"), After("++")));
    }

    /// <summary>Against a second writing of the rules that looks back over the lots since each severity began, by a table of what leads
    /// where.</summary>
    [Fact]
    public void Random_histories_go_the_way_of_a_second_writing_of_the_rules()
    {
        var lot = Gen.Select(Gen.Bool, Gen.Bool, Gen.Int[0, 4], Gen.Int[0, 120], Gen.Int[0, 2]);
        Gen.Select(
                Gen.OneOf(lot.Select(l => (Is: 0, l)), Gen.Int[1, 3].Select(i => (Is: i, (true, true, 0, 0, 0)))).Array[0, 60],
                Gen.Int[50, 100]
            )
            .Sample(
                (happened, good) =>
                {
                    var day = first;
                    var events = new List<SwitchingEvent>();
                    foreach (var (kind, (accepted, tighter, ac, gap, twice)) in happened)
                        switch (kind)
                        {
                            case 1:
                                events.Add(new ReducedAllowed("Priya"));
                                break;
                            case 2:
                                events.Add(new ReducedEnded("Priya"));
                                break;
                            case 3:
                                events.Add(new Restarted("Priya"));
                                break;
                            default:
                                // Mostly good lots, so that reduced inspection is reached at all.
                                var isGood = accepted || gap < good;
                                day = day.AddDays(gap);
                                events.Add(
                                    new Lot(
                                        $"I-{events.Count}",
                                        day,
                                        isGood,
                                        ac,
                                        isGood && (tighter || gap < good),
                                        twice == 0 ? isGood : null
                                    )
                                );
                                break;
                        }
                    var ours = Switching.After(events);
                    var theirs = ByTable(events);
                    Assert.Equal(theirs, (ours.Severity, ours.IsStopped));
                }
            );
    }

    static (Severity, bool) ByTable(IReadOnlyList<SwitchingEvent> events)
    {
        // What has happened since the severity of now began, as letters, and the table of what leads where.
        var severity = Severity.Normal;
        var isStopped = false;
        var since = new List<Lot>();
        var allowed = false;
        DateOnly? before = null;
        foreach (var e in events)
        {
            var gap = 0;
            if (e is Lot l)
            {
                gap = before is { } b ? l.On.DayNumber - b.DayNumber : 0;
                before = l.On;
                since.Add(l);
            }

            var lots = since.ToList();
            var last = e as Lot;
            var score = lots.AsEnumerable().Reverse().Select(Worth).TakeWhile(w => w > 0).Sum();
            (bool If, Severity To)[] table = severity switch
            {
                Severity.Normal =>
                [
                    (last is not null && lots.TakeLast(5).Count(x => !x.IsAccepted) >= 2, Severity.Tightened),
                    (last is not null && score >= 30 && allowed && gap <= Switching.SteadyDays, Severity.Reduced),
                    (e is ReducedAllowed && score >= 30, Severity.Reduced),
                ],
                Severity.Tightened =>
                [
                    (isStopped && e is Restarted, Severity.Tightened),
                    (
                        !isStopped && lots.Count(x => !x.IsAccepted) < 5 && lots.Count >= 5 && lots.TakeLast(5).All(x => x.IsAccepted),
                        Severity.Normal
                    ),
                ],
                _ =>
                [
                    (last is { IsAccepted: false }, Severity.Normal),
                    (last is not null && gap > Switching.SteadyDays, Severity.Normal),
                    (e is ReducedEnded, Severity.Normal),
                ],
            };
            allowed = e switch
            {
                ReducedAllowed => true,
                ReducedEnded => false,
                _ => allowed,
            };
            if (severity == Severity.Tightened && lots.Count(x => !x.IsAccepted) >= 5)
                isStopped = true;
            foreach (var (applies, to) in table)
                if (applies)
                {
                    severity = to;
                    since.Clear();
                    isStopped = false;
                    allowed = allowed && to == Severity.Reduced;
                    break;
                }
        }

        return (severity, isStopped);

        static int Worth(Lot l) =>
            !l.IsAccepted ? 0
            : l.OnFirst is { } onFirst ? (onFirst ? 3 : 0)
            : l.Ac < 2 ? 2
            : l.AtTighter ? 3
            : 0;
    }
}
