using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>Somebody's hours on one day; null when not here.</summary>
public sealed record RosterCell(DateOnly Day, TimeOnly? From, TimeOnly? To);

/// <summary>Somebody who works at the site, with the week.</summary>
/// <param name="Lapsing">Tickets that are over or end within thirty days, in words.</param>
public sealed record RosterRow(
    int PersonId,
    string Name,
    IReadOnlyList<Role> Roles,
    IReadOnlyList<Skill> Skills,
    IReadOnlyList<string> Lapsing,
    IReadOnlyList<RosterCell> Days
);

/// <summary>A week of the roster, Monday to Sunday.</summary>
public sealed record RosterAnswer(DateOnly Monday, DateOnly Today, IReadOnlyList<RosterRow> People);

/// <summary>Somebody is here on a day from when to when; both left out: is not here.</summary>
public sealed record RosterRequest(int PersonId, DateOnly Day, TimeOnly? From, TimeOnly? To);

/// <summary>The week that begins on this Monday becomes as the one before it.</summary>
public sealed record CopyWeekRequest(DateOnly Monday);

/// <summary>Who is here when.</summary>
public static class RosterPage
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/road/roster", Right.PlanArrivals, Run);
        routes.Act<RosterRequest, DoneAnswer>("/road/roster", Right.PlanArrivals, Set);
        routes.Act<CopyWeekRequest, DoneAnswer>("/road/roster/copy", Right.PlanArrivals, CopyWeek);
    }

    static async Task<Ok<RosterAnswer>> Run(Inquiry inquiry, DateOnly? day)
    {
        var monday = MondayOf(day ?? inquiry.Today);
        var until = monday.AddDays(7);
        var entries = (
            await inquiry.Db.Roster.Where(r => r.SiteId == inquiry.Site.Id && r.Day >= monday && r.Day < until).ToListAsync()
        ).ToLookup(r => (r.PersonId, r.Day));
        return TypedResults.Ok(
            new RosterAnswer(
                monday,
                inquiry.Today,
                [
                    .. inquiry
                        .SetUp.People.Values.Where(p => p.Active && p.Sites.Contains(inquiry.Site.Code))
                        .OrderBy(p => p.Roles.Min())
                        .ThenBy(p => p.Name, StringComparer.Ordinal)
                        .Select(p => new RosterRow(
                            p.Id,
                            p.Name,
                            p.Roles,
                            p.Skills,
                            [
                                .. p
                                    .Skills.Where(s => s.Until.DayNumber - inquiry.Today.DayNumber <= 30)
                                    .Select(s =>
                                        s.Until < inquiry.Today
                                            ? $"{s.Name} ended {s.Until:yyyy-MM-dd}"
                                            : $"{s.Name} ends {s.Until:yyyy-MM-dd}"
                                    ),
                            ],
                            [
                                .. Enumerable
                                    .Range(0, 7)
                                    .Select(i =>
                                        entries[(p.Id, monday.AddDays(i))].FirstOrDefault() is { } e
                                            ? new RosterCell(e.Day, e.From, e.To)
                                            : new RosterCell(monday.AddDays(i), null, null)
                                    ),
                            ]
                        )),
                ]
            )
        );
    }

    public static async Task<Outcome<DoneAnswer>> Set(Act act, RosterRequest request)
    {
        if (act.SetUp.People.GetValueOrDefault(request.PersonId) is not { } person || !person.Sites.Contains(act.Site.Code))
            return Problems.NotFound("person", request.PersonId.ToString());
        if (Math.Abs(request.Day.DayNumber - act.Today.DayNumber) > 400)
            return new Refusal(HouseRefusals.DateAbsurd, $"{request.Day:yyyy-MM-dd} is more than a year away.", "Look at the date.");
        var entry = await act.Db.Roster.FirstOrDefaultAsync(r =>
            r.SiteId == act.Site.Id && r.PersonId == person.Id && r.Day == request.Day
        );
        if (request is { From: null, To: null })
        {
            if (entry is not null)
                act.Db.Roster.Remove(entry);
            return Done(act, new RosterSet(act.Site.Code, person.Name, request.Day, null));
        }

        if (request.From is not { } from || request.To is not { } to || to <= from)
            return new Refusal(
                RoadRefusals.HoursBackward,
                $"{person.Name} would go before coming.",
                "Give the hour of coming and the later hour of going."
            );
        if (entry is null)
            act.Db.Roster.Add(
                new RosterEntry
                {
                    SiteId = act.Site.Id,
                    PersonId = person.Id,
                    Day = request.Day,
                    From = from,
                    To = to,
                }
            );
        else
            (entry.From, entry.To) = (from, to);
        return Done(act, new RosterSet(act.Site.Code, person.Name, request.Day, new RosterHours(from, to)));
    }

    public static async Task<Outcome<DoneAnswer>> CopyWeek(Act act, CopyWeekRequest request)
    {
        var monday = MondayOf(request.Monday);
        if (Math.Abs(monday.DayNumber - act.Today.DayNumber) > 400)
            return new Refusal(HouseRefusals.DateAbsurd, $"{monday:yyyy-MM-dd} is more than a year away.", "Look at the date.");
        var (begin, until) = (monday.AddDays(-7), monday.AddDays(7));
        var both = await act.Db.Roster.Where(r => r.SiteId == act.Site.Id && r.Day >= begin && r.Day < until).ToListAsync();
        var before = both.Where(r => r.Day < monday).ToList();
        if (before.Count == 0)
            return new Refusal(
                RoadRefusals.WeekEmpty,
                $"Nobody stands on the roster of the week from {begin:yyyy-MM-dd}.",
                "Fill that week first."
            );
        act.Db.Roster.RemoveRange(both.Where(r => r.Day >= monday));
        act.Db.Roster.AddRange(
            before.Select(r => new RosterEntry
            {
                SiteId = r.SiteId,
                PersonId = r.PersonId,
                Day = r.Day.AddDays(7),
                From = r.From,
                To = r.To,
            })
        );
        return Done(act, new RosterWeekCopied(act.Site.Code, monday));
    }

    static DoneAnswer Done(Act act, Fact fact)
    {
        act.Write(fact);
        act.Touch("road", "house");
        return new DoneAnswer(act.Words(fact));
    }

    static DateOnly MondayOf(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + 6) % 7));
}
