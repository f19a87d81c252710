using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>An arrival of the day with all that planning wants of it.</summary>
public sealed record DayLoad(
    Arrival Arrival,
    LoadToPlan Plan,
    Placement? Placement,
    IReadOnlyList<int> Vendors,
    double Share,
    int Inspections,
    int Tasks
);

/// <summary>One day of a site as the planning rules see it, read in a fixed number of queries.</summary>
public sealed record SiteDay(WarehouseSite Site, DayToPlan Day, IReadOnlyList<DayLoad> Loads, PastLoads Past, DateTime Now)
{
    /// <summary>Where everything that has a door is planned.</summary>
    public IReadOnlyList<Placement> Placements { get; } = [.. Loads.Select(l => l.Placement).OfType<Placement>()];

    public DayLoad? Find(string number) => Loads.FirstOrDefault(l => l.Arrival.Number == number);

    /// <summary>The rules the plan of one arrival breaks; done ones and those at a door break none.</summary>
    public IReadOnlyList<BrokenRule> Broken(DayLoad load) =>
        load.Placement is { } place && load.Arrival.State is ArrivalState.Expected or ArrivalState.InYard && load.Placement is not null
            ? PlanCheck.Check(Day, load.Plan, load.Placement, Placements)
            : [];

    /// <summary>Reads a day. Today's holds also what is late from days before and is still to come.</summary>
    public static async Task<SiteDay> Read(
        MudRoomDb db,
        SetUp setUp,
        WarehouseSite site,
        DateOnly date,
        DateTimeOffset now,
        PastLoads past,
        string? also = null
    )
    {
        var (begin, end) = site.Days(date, date);
        var today = site.DateAt(now) == date;
        var arrivals = await db
            .Arrivals.AsNoTracking()
            .Where(a =>
                a.SiteId == site.Id
                && (
                    a.Planned >= begin && a.Planned < end && a.State != ArrivalState.Withdrawn
                    || today
                        && (
                            a.State == ArrivalState.InYard
                            || a.State == ArrivalState.AtDoor
                            || a.State == ArrivalState.Expected && a.Planned < begin
                        )
                    || a.Number == also
                    || today && a.State == ArrivalState.CountedIn && a.AtDoorAt >= begin && a.AtDoorAt < end
                )
            )
            .OrderBy(a => a.Planned)
            .Take(300)
            .ToListAsync();
        var ids = arrivals.Select(a => a.Id).ToList();
        var lines = (
            await db
                .ManifestLines.AsNoTracking()
                .Where(m => ids.Contains(m.ArrivalId))
                .Select(m => new
                {
                    m.ArrivalId,
                    m.Expected,
                    m.Counted,
                    m.Part!.ItemId,
                    m.Part.VendorId,
                    m.Part.WaitingQuantity,
                })
                .ToListAsync()
        ).ToLookup(l => l.ArrivalId);
        var roster = await db.Roster.AsNoTracking().Where(r => r.SiteId == site.Id && r.Day == date).ToListAsync();
        var spots = await db.YardSpots.AsNoTracking().Where(s => s.SiteId == site.Id).Select(s => s.Vehicles).ToListAsync();
        var doors = setUp.Doors.Values.Where(d => d.SiteId == site.Id).OrderBy(d => d.Number).ToList();
        var settings = setUp.PlanSettings[site.Id].Value;
        var wall = site.LocalTime(now);
        var loads = arrivals
            .Select(a =>
            {
                var aboard = lines[a.Id].ToList();
                var items = aboard.Select(l => setUp.Catalogue[l.ItemId]).ToList();
                var vendors = aboard.Select(l => l.VendorId).Distinct().ToList();
                var expected = LoadRules.AtGate(
                    a.GateInAt,
                    a.Eta,
                    a.Booked,
                    settings.GateMinutes,
                    now,
                    today && a.State == ArrivalState.Expected
                );
                var begun = a.State is ArrivalState.AtDoor or ArrivalState.CountedIn;
                var plan = new LoadToPlan(
                    a.Number,
                    a.Vehicle,
                    a.Handling,
                    Math.Max(1, a.UnitsAboard),
                    aboard.Count,
                    [.. items.Select(i => i.StorageClass).Distinct()],
                    site.LocalTime(a.Booked),
                    site.LocalTime(expected),
                    LoadRules.Weight(
                        aboard.Any(l => l.WaitingQuantity > 0 && l.Counted < l.Expected),
                        items.Any(i => i.StorageClass == StorageClass.Cold)
                    ),
                    vendors.Count == 0 ? 1 : vendors.Average(past.FactorOf),
                    begun
                );
                var door =
                    (a.DoorId ?? a.PlannedDoorId) is { } id && setUp.Doors.TryGetValue(id, out var there) ? there.Number : (int?)null;
                var share = aboard.Count == 0 ? 0 : aboard.Average(l => l.Expected == 0 ? 1 : (double)Math.Min(1, l.Counted / l.Expected));
                var start = site.LocalTime(a.AtDoorAt ?? a.Planned);
                if (!begun && DateOnly.FromDateTime(plan.AtGate) == date)
                    start = LoadRules.Start(start, plan.AtGate, settings.GateMinutes);
                Placement? placement = null;
                if (door is { } number)
                {
                    var minutes = plan.Minutes(Math.Max(1, a.Crew.Count), settings);
                    var until = a.CountedInAt is { } done ? site.LocalTime(done) : start.AddMinutes(Math.Ceiling(minutes));
                    // What is being counted holds its door at least as long as the rest is likely to take.
                    if (a.State == ArrivalState.AtDoor)
                        until = Later(until, wall.AddMinutes(Math.Ceiling((1 - share) * minutes)));
                    placement = new Placement(a.Number, number, start, a.Crew, until);
                }

                return new DayLoad(
                    a,
                    plan,
                    placement,
                    vendors,
                    share,
                    aboard
                        .DistinctBy(l => (l.ItemId, l.VendorId))
                        .Sum(l =>
                            setUp
                                .PlansFor(
                                    new GoodsToInspect(InspectionTrigger.Receipt, setUp.Catalogue[l.ItemId], l.VendorId, Origin: null)
                                )
                                .Count
                        ),
                    Math.Max(aboard.Count, a.Handling == Handling.Palletised ? a.UnitsAboard : aboard.Count)
                );
            })
            .ToList();
        return new SiteDay(
            site,
            new DayToPlan(
                date,
                [.. loads.Select(l => l.Plan)],
                [.. doors.Select(d => new DoorToPlan(d.Number, d.Vehicles, d.Special))],
                Workers(setUp, site, date, roster),
                settings
            )
            {
                Spots = spots,
            },
            loads,
            past,
            wall
        );
    }

    /// <summary>Reads the day that is asked for.</summary>
    public static async Task<SiteDay> Read(Inquiry inquiry, DateOnly date, string? also = null) =>
        await Read(
            inquiry.Db,
            inquiry.SetUp,
            inquiry.Site,
            date,
            inquiry.Now,
            await inquiry
                .Http.RequestServices.GetRequiredService<PastLoadStore>()
                .Of(inquiry.Site, inquiry.SetUp.PlanSettings[inquiry.Site.Id], inquiry.Today),
            also
        );

    /// <summary>Who can unload: receivers of the roster; where none is kept for the day, all receivers while any door is open.</summary>
    static List<Worker> Workers(SetUp setUp, WarehouseSite site, DateOnly date, List<RosterEntry> roster)
    {
        if (roster.Count > 0)
            return
            [
                .. roster
                    .Where(r => setUp.People.GetValueOrDefault(r.PersonId) is { Active: true } p && p.Roles.Contains(Role.Receiver))
                    .Select(r => new Worker(
                        r.PersonId,
                        setUp.People[r.PersonId].Name,
                        setUp.People[r.PersonId].Skills,
                        date.ToDateTime(r.From),
                        date.ToDateTime(r.To)
                    ))
                    .OrderBy(w => w.Id),
            ];
        var open = setUp.PlanSettings[site.Id].Value.Hours.Where(h => h.Day == date.DayOfWeek).ToList();
        if (open.Count == 0)
            return [];
        return
        [
            .. setUp
                .People.Values.Where(p => p.Active && p.Roles.Contains(Role.Receiver) && p.Sites.Contains(site.Code))
                .Select(p => new Worker(
                    p.Id,
                    p.Name,
                    p.Skills,
                    date.ToDateTime(open.Min(h => h.From)),
                    date.ToDateTime(open.Max(h => h.To))
                ))
                .OrderBy(w => w.Id),
        ];
    }

    /// <summary>The forecast of what is still to be done on this day.</summary>
    public DayForecast Forecast(double bench, int inspectors, int shelf, int drivers)
    {
        var stillOpen = Loads.Where(l => l.Arrival.State <= ArrivalState.AtDoor).ToLookup(ComesToday);
        var open = stillOpen[true]
            .Select(l => new LoadToForecast(
                l.Arrival.Number,
                l.Placement?.Door,
                l.Placement is null ? [] : l.Arrival.Crew,
                l.Placement?.Start ?? l.Plan.AtGate,
                l.Placement?.End ?? l.Plan.AtGate,
                l.Plan.AtGate,
                l.Arrival.GateInAt is not null ? 0 : Past.GateSpreadOf(l.Arrival.Haulier),
                l.Plan.Minutes(Math.Max(1, l.Arrival.Crew.Count), Day.Settings),
                l.Vendors.Count == 0 ? 0.25 : l.Vendors.Average(Past.SpreadOf),
                l.Arrival.State == ArrivalState.AtDoor,
                l.Share,
                l.Inspections,
                l.Tasks
            ))
            .ToList();
        var shiftEnds = Day.Doors.Select(d => Day.Settings.OpenOn(d.Number, Day.Day)?.To).Max() ?? Now.Date.AddHours(17);
        return Core.Road.Forecast.Run(
            new DayToForecast(
                Now,
                open,
                bench,
                inspectors,
                shelf,
                drivers,
                shiftEnds,
                Day.Settings,
                [.. stillOpen[false].Select(l => l.Arrival.Number)]
            ),
            Seed(Day.Day)
        );
    }

    bool ComesToday(DayLoad load) => load.Arrival.State != ArrivalState.Expected || DateOnly.FromDateTime(load.Plan.AtGate) <= Day.Day;

    /// <summary>The same day has the same seed, so that a forecast moves only when what it is made from moves.</summary>
    static int Seed(DateOnly day) => day.DayNumber;

    static DateTime Later(DateTime a, DateTime b) => a > b ? a : b;
}
