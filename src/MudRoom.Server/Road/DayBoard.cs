using System.Collections.Concurrent;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Shelf;

namespace MudRoom.Server.Road;

/// <summary>A rule that a plan breaks.</summary>
public sealed record BrokenView(PlanRule Rule, RuleForce Force, string Sentence, bool Overruled);

/// <summary>Somebody who can unload on the day.</summary>
public sealed record WorkerView(int Id, string Name, DateTime From, DateTime To, IReadOnlyList<string> Skills);

/// <summary>An arrival on the day board.</summary>
/// <param name="Start">At the door by the plan, or since.</param>
/// <param name="End">Done by the plan, or done.</param>
/// <param name="Booked">When it was booked.</param>
/// <param name="Minutes">Expected minutes at the door.</param>
/// <param name="Version">To be sent back with a move.</param>
public sealed record DayBlock(
    ArrivalCard Card,
    int? Door,
    DateTime Start,
    DateTime End,
    DateTime Booked,
    DateTime AtGate,
    int Minutes,
    Handling Handling,
    int Units,
    IReadOnlyList<int> Crew,
    IReadOnlyList<string> CrewNames,
    IReadOnlyList<BrokenView> Broken,
    int Version,
    string? PlannedBy,
    bool Unplanned
);

/// <summary>A door of the board, with when it will be clear.</summary>
public sealed record DoorOfDay(int Number, string Equipment, DateTime? From, DateTime? To, ClearTime? Clear);

/// <summary>One day.</summary>
/// <param name="Forecast">For today only.</param>
public sealed record DayAnswer(
    DateOnly Date,
    DateTime Now,
    IReadOnlyList<DoorOfDay> Doors,
    IReadOnlyList<DayBlock> Blocks,
    IReadOnlyList<WorkerView> Workers,
    string? Holiday,
    DayForecast? Forecast
);

/// <summary>A day of a week, to choose from.</summary>
public sealed record DayOfWeekView(
    DateOnly Date,
    int Arrivals,
    int WithoutDoor,
    int Lines,
    double BookedHours,
    double OpenHours,
    string? Holiday
);

/// <summary>The days of a week.</summary>
public sealed record WeekAnswer(IReadOnlyList<DayOfWeekView> Days, IReadOnlyList<DayBlock> Blocks, IReadOnlyList<int> Doors);

/// <summary>The day board: doors by hours.</summary>
public static class DayBoard
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/road/day", Right.See, Run);
        routes.Ask("/road/week", Right.See, Week);
    }

    static async Task<Ok<DayAnswer>> Run(Inquiry inquiry, DateOnly? date)
    {
        var day = await SiteDay.Read(inquiry, date ?? inquiry.Today);
        var cards = (await ArrivalCards.Load(inquiry, day.Loads.Select(l => l.Arrival).ToList())).ToDictionary(c => c.Number);
        var forecast = day.Day.Day == inquiry.Today ? await ForecastOf(inquiry, day) : null;
        return TypedResults.Ok(
            new DayAnswer(
                day.Day.Day,
                day.Now,
                [
                    .. day.Day.Doors.Select(d =>
                    {
                        var open = inquiry.PlanSettings.OpenOn(d.Number, day.Day.Day);
                        return new DoorOfDay(
                            d.Number,
                            inquiry.SetUp.Doors.Values.First(x => x.SiteId == inquiry.Site.Id && x.Number == d.Number).Equipment,
                            open?.From,
                            open?.To,
                            forecast?.Doors.FirstOrDefault(c => c.What == $"door {d.Number}")
                        );
                    }),
                ],
                [.. day.Loads.Select(l => Block(inquiry, day, l, cards[l.Arrival.Number]))],
                [
                    .. day.Day.Workers.Select(w => new WorkerView(
                        w.Id,
                        w.Name,
                        w.From,
                        w.To,
                        [.. w.Skills.Where(s => s.Until >= day.Day.Day).Select(s => s.Name)]
                    )),
                ],
                inquiry.PlanSettings.Holidays.FirstOrDefault(h => h.Day == day.Day.Day)?.Name,
                forecast
            )
        );
    }

    static async Task<Ok<WeekAnswer>> Week(Inquiry inquiry, DateOnly? date)
    {
        var some = date ?? inquiry.Today;
        var monday = some.AddDays(-(((int)some.DayOfWeek + 6) % 7));
        var days = new List<SiteDay>();
        for (var i = 0; i < 6; i++)
            days.Add(await SiteDay.Read(inquiry, monday.AddDays(i)));
        var cards = (
            await ArrivalCards.Load(inquiry, days.SelectMany(d => d.Loads.Select(l => l.Arrival)).DistinctBy(a => a.Id).ToList())
        ).ToDictionary(c => c.Number);
        return TypedResults.Ok(
            new WeekAnswer(
                [
                    .. days.Select(d => new DayOfWeekView(
                        d.Day.Day,
                        d.Loads.Count,
                        d.Loads.Count(l => l.Placement is null),
                        d.Loads.Sum(l => l.Plan.Lines),
                        Math.Round(d.Placements.Sum(p => (p.End - p.Start).TotalHours), 1),
                        d.Day.Doors.Sum(x =>
                            inquiry.PlanSettings.OpenOn(x.Number, d.Day.Day) is { } open ? (open.To - open.From).TotalHours : 0
                        ),
                        inquiry.PlanSettings.Holidays.FirstOrDefault(h => h.Day == d.Day.Day)?.Name
                    )),
                ],
                [
                    .. days.SelectMany(d => d.Loads.Select(l => Block(inquiry, d, l, cards[l.Arrival.Number])))
                        .DistinctBy(b => b.Card.Number),
                ],
                [.. days[0].Day.Doors.Select(d => d.Number)]
            )
        );
    }

    static DayBlock Block(Inquiry inquiry, SiteDay day, DayLoad l, ArrivalCard card)
    {
        var minutes = l.Plan.Minutes(Math.Max(1, l.Arrival.Crew.Count), inquiry.PlanSettings);
        var start = l.Placement?.Start ?? inquiry.Local(l.Arrival.Planned);
        return new DayBlock(
            card,
            l.Placement?.Door,
            start,
            l.Placement?.End ?? start.AddMinutes(minutes),
            l.Plan.Booked,
            l.Plan.AtGate,
            (int)Math.Round(minutes),
            l.Arrival.Handling,
            l.Arrival.UnitsAboard,
            l.Arrival.Crew,
            [.. l.Arrival.Crew.Select(id => inquiry.SetUp.People.GetValueOrDefault(id)?.Name ?? "?")],
            [.. day.Broken(l).Select(b => new BrokenView(b.Rule, b.Force, b.Sentence, l.Arrival.Overrulings.Any(o => o.Rule == b.Rule)))],
            l.Arrival.PlanVersion,
            l.Arrival.PlannedBy,
            l.Arrival.Unplanned
        );
    }

    static async Task<DayForecast> ForecastOf(Inquiry inquiry, SiteDay day)
    {
        var store = inquiry.Http.RequestServices.GetRequiredService<ForecastStore>();
        var seq = await inquiry.Db.Ledger.MaxAsync(e => (long?)e.Seq) ?? 0;
        if (store.Find(inquiry.Site.Id, seq, inquiry.Now) is { } known)
            return known;
        // Each waits as long as its own plan says; where that is not known, as the settings say of any.
        var perHour = inquiry.SetUp.PlanSettings[inquiry.Site.Id].Value.InspectionsPerHour;
        var sheets = await inquiry
            .Db.Inspections.Open()
            .AsNoTracking()
            .Where(i => i.SiteId == inquiry.Site.Id && i.Quantity > 0)
            .Select(i => new { Sheet = i, Found = i.Findings.Count })
            .ToListAsync();
        var bench = sheets.Sum(s => (inquiry.SetUp.MinutesLeft(s.Sheet, s.Found, inquiry.Now) ?? 60 / perHour) * perHour / 60);
        var shelf = await OpenTasks.Count(inquiry.Db, inquiry.Site.Id);
        var here = await inquiry
            .Db.Roster.Where(r => r.SiteId == inquiry.Site.Id && r.Day == inquiry.Today)
            .Select(r => r.PersonId)
            .ToListAsync();
        int People(Role role) =>
            inquiry.SetUp.People.Values.Count(p =>
                p.Active && p.Roles.Contains(role) && p.Sites.Contains(inquiry.Site.Code) && (here.Count == 0 || here.Contains(p.Id))
            );
        var forecast = day.Forecast(bench, People(Role.Inspector), shelf, People(Role.Driver));
        store.Keep(inquiry.Site.Id, seq, inquiry.Now, forecast);
        return forecast;
    }
}

/// <summary>Keeps forecasts: each is worked out at most once in three seconds, and anew when the book has grown or a minute is
/// over.</summary>
public sealed class ForecastStore
{
    static readonly TimeSpan atLeast = TimeSpan.FromSeconds(3);
    static readonly TimeSpan atMost = TimeSpan.FromMinutes(1);
    readonly ConcurrentDictionary<int, (DateTimeOffset At, long Seq, DayForecast Forecast)> known = new();

    /// <summary>The forecast of a site, if it is still good.</summary>
    public DayForecast? Find(int siteId, long lastEntry, DateTimeOffset now)
    {
        if (!known.TryGetValue(siteId, out var there))
            return null;
        var age = (now - there.At).Duration();
        return age < (there.Seq == lastEntry ? atMost : atLeast) ? there.Forecast : null;
    }

    public void Keep(int siteId, long lastEntry, DateTimeOffset now, DayForecast forecast) => known[siteId] = (now, lastEntry, forecast);
}
