using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Cage;

/// <summary>Something of a hold that falls on a day.</summary>
/// <param name="At">When, by the wall clock.</param>
public sealed record CageEventView(CageDayKind Kind, string Hold, string Item, decimal Quantity, string Unit, DateTime At, string Words);

/// <summary>A day of the cage.</summary>
/// <param name="WorkedOn">The next day worked, where the site does not work on this one.</param>
/// <param name="NotShown">So many more fall on it.</param>
public sealed record CageDayView(DateOnly On, WorkDay Works, DateOnly? WorkedOn, IReadOnlyList<CageEventView> Events, int NotShown);

/// <summary>Some weeks of the cage, from a Monday.</summary>
/// <param name="Before">How many events fall on days before, and how many behind.</param>
/// <param name="NoDay">How many open holds wait for no day: only for people.</param>
public sealed record CageCalendarAnswer(DateOnly Today, IReadOnlyList<CageDayView> Days, int Before, int Behind, int NoDay);

/// <summary>The calendar of the cage.</summary>
public static class CageCalendarPage
{
    const int MostOfDay = 20;

    public static void Map(SiteRoutes routes) => routes.Ask("/cage/calendar", Right.See, Run);

    /// <param name="from">Any day of the first week; the week of today where nothing is said.</param>
    static async Task<Ok<CageCalendarAnswer>> Run(Inquiry inquiry, DateOnly? from = null)
    {
        var open = await inquiry.Db.Holds.Where(h => h.SiteId == inquiry.Site.Id && h.IsOpen).AsNoTracking().ToListAsync();
        var accepted = await Conditions.Acceptances(inquiry.Db, open);
        var today = inquiry.Site.DateAt(inquiry.Now);
        var first = CageCalendar.Monday(Clamped(from ?? today, today));
        var behind = first.AddDays(7 * CageCalendar.Weeks);
        var byHold = open.ConvertAll(h => CageCalendar.Of(h, inquiry.Now, inquiry.Site.DateAt, accepted.GetValueOrDefault(h.Id)).ToList());
        var events = byHold.SelectMany(e => e).ToLookup(e => e.On);
        var works = inquiry.PlanSettings.Works();
        return TypedResults.Ok(
            new CageCalendarAnswer(
                today,
                [
                    .. Enumerable
                        .Range(0, 7 * CageCalendar.Weeks)
                        .Select(i => first.AddDays(i))
                        .Select(day =>
                        {
                            var worked = works.On(day);
                            var all = events[day].OrderBy(e => e.Kind).ThenBy(e => e.At).ThenBy(e => e.Hold.Id).ToList();
                            return new CageDayView(
                                day,
                                worked,
                                worked == WorkDay.Off ? CageCalendar.WorkedOn(day, works) : null,
                                [.. all.Take(MostOfDay).Select(e => ViewOf(inquiry, e))],
                                Math.Max(0, all.Count - MostOfDay)
                            );
                        }),
                ],
                events.Where(g => g.Key < first).Sum(g => g.Count()),
                events.Where(g => g.Key >= behind).Sum(g => g.Count()),
                byHold.Count(e => e.Count == 0)
            )
        );
    }

    /// <summary>Ten years either way: no hold lasts longer.</summary>
    static DateOnly Clamped(DateOnly day, DateOnly today) =>
        day < today.AddYears(-10) ? today.AddYears(-10)
        : day > today.AddYears(10) ? today.AddYears(10)
        : day;

    static CageEventView ViewOf(Inquiry inquiry, CageEvent e)
    {
        var item = inquiry.SetUp.Catalogue[e.Hold.ItemId];
        return new CageEventView(e.Kind, e.Hold.Number, item.Name, e.Hold.Quantity, item.UnitWord, inquiry.Local(e.At), e.Words);
    }
}
