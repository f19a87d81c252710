using System.Diagnostics;
using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Planning;
using MudRoom.Server.Road;

namespace MudRoom.Bench;

/// <summary>Road at size: imports and lists of 200 000 line parts over HTTP, the proposal of a large day, and the forecast against ninety
/// days of history.</summary>
static class Road
{
    /// <summary>Order lines of a large file.</summary>
    internal const int Lines = 100_000;

    public static async Task<bool> Report(string dll, string folder)
    {
        // The demo's database is made by its first start.
        using (var first = BuiltServer.Start(dll, folder, out _))
            await BuiltServer.Stop(first);
        var good = true;
        foreach (var figure in new[] { () => Coverage(folder), () => Task.FromResult(Proposal()), () => Lists(dll, folder) })
            try
            {
                good &= await figure();
            }
            catch (Exception failure)
            {
                good = false;
                Console.WriteLine($"a figure of Road failed: {failure.Message}");
            }

        return good;
    }

    /// <summary>How often what really happened fell into the stated range: each past day forecast at 06:00 from what was known
    /// then.</summary>
    static async Task<bool> Coverage(string folder)
    {
        await using var db = Database.Context(Path.Combine(folder, "mudroom.db"));
        var site = await db.Sites.FirstAsync(s => s.Code == "LM");
        var planning = (await SettingsRows.Load<PlanSettings>(db, SettingsOf.Road))[site.Id].Value;
        var doors = await db.Doors.ToDictionaryAsync(d => d.Id, d => d.Number);
        var (doorDays, doorIn, days, dayIn) = (0, 0, 0, 0);
        var took = new List<double>();
        for (var date = new DateOnly(2026, 1, 5); date <= new DateOnly(2026, 3, 9); date = date.AddDays(1))
        {
            var (begin, end) = (
                site.Instant(date.ToDateTime(TimeOnly.MinValue)),
                site.Instant(date.AddDays(1).ToDateTime(TimeOnly.MinValue))
            );
            var arrivals = (
                await db
                    .Arrivals.AsNoTracking()
                    .Include(a => a.Manifest)
                        .ThenInclude(m => m.Part)
                    .Where(a => a.SiteId == site.Id && a.Planned >= begin && a.Planned < end && a.CountedInAt != null && a.DoorId != null)
                    .ToListAsync()
            )
                .Where(a => a.Crew.Count > 0)
                .ToList();
            if (arrivals.Count == 0)
                continue;
            var past = await PastLoads.Read(db, site.Id, begin, planning);
            var now = date.ToDateTime(new TimeOnly(6, 0));
            var loads = arrivals
                .Select(a =>
                {
                    var vendors = a.Manifest.Select(m => m.Part!.VendorId).Distinct().ToList();
                    var minutes =
                        UnloadingTime.Standard(a.Handling, a.UnitsAboard, a.Manifest.Count, Math.Max(1, a.Crew.Count), planning)
                        * vendors.Average(past.FactorOf);
                    var start = site.LocalTime(a.Planned);
                    return new LoadToForecast(
                        a.Number,
                        doors[a.DoorId!.Value],
                        [],
                        start,
                        start.AddMinutes(minutes),
                        site.LocalTime(a.Booked).AddMinutes(-planning.GateMinutes),
                        past.GateSpreadOf(a.Haulier),
                        minutes,
                        vendors.Average(past.SpreadOf),
                        false,
                        0,
                        0,
                        0
                    );
                })
                .ToList();
            var watch = Stopwatch.GetTimestamp();
            var forecast = Forecast.Run(new DayToForecast(now, loads, 0, 1, 0, 1, now.AddHours(11), planning), date.DayNumber);
            took.Add(Stopwatch.GetElapsedTime(watch).TotalMilliseconds);
            foreach (var door in forecast.Doors)
            {
                var clear = site.LocalTime(
                    arrivals.Where(a => $"door {doors[a.DoorId!.Value]}" == door.What).Max(a => a.CountedInAt!.Value)
                );
                doorDays++;
                if (clear >= door.Early && clear <= door.Late)
                    doorIn++;
            }

            var last = site.LocalTime(arrivals.Max(a => a.CountedInAt!.Value));
            days++;
            if (last >= forecast.AllDoors.Early && last <= forecast.AllDoors.Late)
                dayIn++;
        }

        took.Sort();
        var share = 100.0 * doorIn / doorDays;
        Console.WriteLine($"forecast of a day, 2 000 runs: median {took[took.Count / 2]:0.0} ms");
        Console.WriteLine(
            $"forecast at 06:00 against the history: {share:0.0} of 100 actual clear times of {doorDays} door days, and "
                + $"{100.0 * dayIn / days:0.0} of 100 of {days} days, fell into the 5-to-95 range (limit 85 to 95)"
        );
        return share is >= 85 and <= 95;
    }

    static bool Proposal()
    {
        var day = new DateOnly(2026, 3, 10);
        var six = day.ToDateTime(new TimeOnly(6, 0));
        var random = new Random(40);
        var loads = Enumerable
            .Range(1, 40)
            .Select(n =>
            {
                var booked = six.AddMinutes(random.Next(0, 110) * 5);
                return new LoadToPlan(
                    $"A-{n}",
                    n % 6 == 0 ? "container" : "truck",
                    n % 6 == 0 ? Handling.FloorLoaded : Handling.Palletised,
                    n % 6 == 0 ? random.Next(200, 700) : random.Next(4, 26),
                    3,
                    [n % 9 == 0 ? StorageClass.Oxidiser : StorageClass.Ambient],
                    booked,
                    booked.AddMinutes(random.Next(-30, 60)),
                    n % 4 == 0 ? 4 : 1,
                    1,
                    false
                );
            })
            .ToList();
        var doors = Enumerable
            .Range(1, 8)
            .Select(d => new DoorToPlan(d, d <= 3 ? ["container", "truck"] : ["truck"], d == 8 ? [StorageClass.Oxidiser] : []))
            .ToList();
        var people = Enumerable
            .Range(1, 12)
            .Select(p => new Worker(p, $"P{p}", p <= 2 ? [new Skill("dangerous goods", day)] : [], six, six.AddHours(12)))
            .ToList();
        var settings = new PlanSettings
        {
            Hours = [.. doors.Select(d => new DoorHours(d.Number, DayOfWeek.Tuesday, new TimeOnly(6, 0), new TimeOnly(18, 0)))],
        };
        var watch = Stopwatch.StartNew();
        var proposed = DayProposal.Propose(new DayToPlan(day, loads, doors, people, settings), six, [], seconds: 8);
        var seconds = watch.Elapsed.TotalSeconds;
        Console.WriteLine(
            $"proposal of a day, 40 arrivals on 8 doors with 12 people: {seconds:0.0} s (limit 10), {proposed.Unplaced.Count} "
                + $"without a place, weighted lateness {proposed.Lateness} min, "
                + $"{(proposed.Proven ? "proven best" : $"at most {proposed.Gap:P1} from the bound")}"
        );
        return seconds < 10;
    }

    static async Task<bool> Lists(string dll, string folder)
    {
        using var server = BuiltServer.Start(dll, folder, out var url);
        try
        {
            using var buyer = await BuiltServer.SignIn(url, "dilys");
            var seconds = 0.0;
            for (var part = 1; part <= 2; part++)
            {
                var watch = Stopwatch.StartNew();
                await BuiltServer.Act(buyer, "/api/LM/road/import", new { name = $"lines-{part}.csv", text = File(part) });
                seconds = Math.Max(seconds, watch.Elapsed.TotalSeconds);
            }

            var peak = Peak(server);
            Console.WriteLine(
                $"import of {Lines:#,0} order lines from CSV: {seconds:0.0} s (limit 60), peak memory of the server {peak} MB"
            );
            string[] questions =
            [
                "/road/due",
                "/road/due?page=400",
                "/road/due?state=Late",
                "/road/due?state=OnTime&page=900",
                "/road/due?vendor=BRAC",
                "/road/due?text=secateurs",
                "/road/due?text=PO-L1-5",
                "/road/due?from=2026-06-01&to=2026-06-03",
                "/road/due?planned=false",
                "/road/received?from=2025-12-01",
                "/road/calls",
                "/road/orders",
                "/road/orders?page=50",
                "/road/day",
                "/yard",
            ];
            var slow = 0.0;
            foreach (var question in questions)
            {
                var times = new List<double>();
                for (var i = 0; i < 20; i++)
                {
                    var begin = Stopwatch.GetTimestamp();
                    (await buyer.GetAsync("/api/LM" + question)).EnsureSuccessStatusCode();
                    if (i >= 2)
                        times.Add(Stopwatch.GetElapsedTime(begin).TotalMilliseconds);
                }

                times.Sort();
                Console.WriteLine($"  {question, -46} 95th percentile {times[^1]:0} ms");
                slow = Math.Max(slow, times[^1]);
            }

            Console.WriteLine($"lists over {2 * Lines:#,0} line parts: slowest 95th percentile {slow:0} ms (limit 500)");
            return seconds < 60 && slow < 500;
        }
        finally
        {
            await BuiltServer.Stop(server);
        }
    }

    /// <summary>A file of order lines.</summary>
    internal static string File(int part)
    {
        string[] items = ["HH-16", "SP-DG", "FK-DG", "HS-15", "TP-18", "TS-18", "ST-CU", "HF-17", "SC-21", "CB-05"];
        string[] vendors = ["BRAC", "VALM", "LATT", "QUER", "NILG"];
        var text = new StringBuilder("order,vendor,line,item,quantity,due,site\n");
        for (var n = 0; n < Lines; n++)
        {
            var due = new DateOnly(2026, 2, 1).AddDays(n % 300);
            text.Append(
                CultureInfo.InvariantCulture,
                $"PO-L{part}-{n / 10},{vendors[n / 10 % 5]},{n % 10 + 1},{items[n % 10]},{n % 50 + 1},{due:yyyy-MM-dd},LM\n"
            );
        }
        return text.ToString();
    }

    /// <summary>The most memory a process has held, in MB.</summary>
    static long Peak(Process process)
    {
        var line = System
            .IO.File.ReadLines($"/proc/{process.Id}/status")
            .FirstOrDefault(l => l.StartsWith("VmHWM", StringComparison.Ordinal));
        return line is null
            ? process.PeakWorkingSet64 / 1024 / 1024
            : long.Parse(line.Split(' ', StringSplitOptions.RemoveEmptyEntries)[1], CultureInfo.InvariantCulture) / 1024;
    }
}
