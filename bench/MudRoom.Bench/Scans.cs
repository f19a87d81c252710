using System.Diagnostics;
using System.Net;
using System.Text.Json;

namespace MudRoom.Bench;

/// <summary>The built server: start, memory, and scans acknowledged over HTTP by eight scanners at once.</summary>
static class Scans
{
    internal const int Scanners = 8;
    internal const int Waiting = 32;
    internal static string[] Items => items;

    static readonly string[] items = ["HH-16", "SP-DG", "FK-DG", "HS-15", "TP-18", "TS-18", "ST-CU", "HF-17"];

    public static async Task<bool> Report(string dll, string folder)
    {
        using (var first = BuiltServer.Start(dll, folder, out var firstUrl))
        {
            await BuiltServer.Answer(firstUrl);
            await BuiltServer.Stop(first);
        }

        var begin = Stopwatch.GetTimestamp();
        using var server = BuiltServer.Start(dll, folder, out var url);
        await BuiltServer.Answer(url);
        var start = Stopwatch.GetElapsedTime(begin).TotalSeconds;
        Console.WriteLine($"start of the built server to its first answer: {start:0.00} s (limit 3)");
        try
        {
            await OpenDoor(url);
            await Count(url, TimeSpan.FromSeconds(20));
            // Both kinds in turn, so that what else the machine does falls on both; the middle one of five ratios counts.
            var turns = new List<(double PerSecond, double Median, double P99, int Refused, double Raw)>();
            for (var turn = 0; turn < 5; turn++)
            {
                var raw = Disk.Raw(folder, TimeSpan.FromSeconds(1.5));
                var (each, middle, slow, no) = await Count(url, TimeSpan.FromSeconds(4));
                turns.Add((each, middle, slow, no, raw));
            }

            Console.WriteLine("ratios turn by turn: " + string.Join(", ", turns.Select(t => $"{t.PerSecond / t.Raw:0.000}")));
            var (perSecond, median, p99, _, rawPerSecond) = turns.OrderBy(t => t.PerSecond / t.Raw).ElementAt(2);
            var refused = turns.Sum(t => t.Refused);
            var ratio = perSecond / rawPerSecond;
            Console.WriteLine($"raw one-row transactions, write-ahead log, synchronous FULL: {rawPerSecond:0} a second");
            server.Refresh();
            var memory = server.WorkingSet64 / 1024 / 1024;
            Console.WriteLine(
                $"scans acknowledged over HTTP by {Scanners} scanners at once: {perSecond:0} a second (limit 200), median "
                    + $"{median:0.0} ms, 99th percentile {p99:0.0} ms, refused {refused}"
            );
            Console.WriteLine($"ratio to raw transactions: {ratio:0.000} (limit 0.15)");
            Console.WriteLine($"resident memory of the demo server after that: {memory} MB (limit 300)");
            var fifty = await Fifty(url, Path.Combine(folder, "mudroom.db"));
            var fast = await AsFastAsItGoes(url, folder);
            return fifty && fast && start < 3 && perSecond >= 200 && ratio >= 0.15 && memory < 300 && refused == 0;
        }
        finally
        {
            await BuiltServer.Stop(server);
        }
    }

    /// <summary>Only how fast it goes.</summary>
    public static async Task<bool> Fast(string dll, string folder)
    {
        using var server = BuiltServer.Start(dll, folder, out var url);
        try
        {
            await OpenDoor(url);
            return await AsFastAsItGoes(url, folder);
        }
        finally
        {
            await BuiltServer.Stop(server);
        }
    }

    internal static async Task OpenDoor(string url)
    {
        using var buyer = await BuiltServer.SignIn(url, "dilys");
        var csv =
            "order,vendor,line,item,quantity,due,site\n"
            + string.Concat(items.Select((item, i) => $"PO-BENCH,BRAC,{i + 1},{item},100000000,2026-03-10,LM\n"));
        await BuiltServer.Act(buyer, "/api/LM/road/import", new { name = "bench.csv", text = csv });
        using var receiver = await BuiltServer.SignIn(url, "leila");
        await BuiltServer.Act(
            receiver,
            "/api/LM/door/open-on-the-spot",
            new
            {
                orders = new[] { "PO-BENCH" },
                door = 4,
                atOnce = true,
                number = "A-BENCH",
            }
        );
    }

    internal static async Task<(double PerSecond, double Median, double P99, int Refused)> Count(
        string url,
        TimeSpan time,
        int receivers = Scanners,
        int together = 1
    )
    {
        var scanners = await SignedIn(url, receivers, together);
        var counted = await Count(scanners, time);
        scanners.ForEach(s => s.Dispose());
        return (counted.Taken.Count * together / counted.Seconds, counted.Taken[counted.Taken.Count / 2], counted.P99, counted.Refused);
    }

    /// <summary>Scanners whose people are signed in, each with one item to count.</summary>
    internal static async Task<List<Scanner>> SignedIn(string url, int receivers, int together)
    {
        string[] people = ["leila", "tomasz", "maren", "ikenna"];
        var scanners = new List<Scanner>();
        for (var i = 0; i < receivers; i++)
        {
            var cookies = new CookieContainer();
            using var client = await BuiltServer.SignIn(url, people[i % people.Length], cookies);
            var scan = JsonSerializer.SerializeToUtf8Bytes(
                new
                {
                    arrival = "A-BENCH",
                    item = items[i % items.Length],
                    pack = "each",
                    packs = "1",
                    overAllowed = false,
                    earlyAllowed = true,
                }
            );
            var at = new Uri(url);
            scanners.Add(
                new Scanner(at, cookies.GetCookieHeader(at), client.DefaultRequestHeaders.GetValues("X-Token").Single(), scan, together)
            );
        }

        return scanners;
    }

    /// <summary>All count at once.</summary>
    /// <returns>How long each request took, in milliseconds and in order; and how long all of it, in seconds.</returns>
    internal static async Task<(List<double> Taken, double P99, double Seconds, int Refused)> Count(List<Scanner> scanners, TimeSpan time)
    {
        var watch = Stopwatch.StartNew();
        var results = await Task.WhenAll(
            scanners.Select(scanner => Task.Factory.StartNew(() => CountOn(scanner, watch, time), TaskCreationOptions.LongRunning))
        );
        var seconds = watch.Elapsed.TotalSeconds;
        var all = results.SelectMany(r => r.Taken).Order().ToList();
        return (all, all[all.Count * 99 / 100], seconds, results.Sum(r => r.Refused));
    }

    /// <summary>Fifty receivers, two scans a second each, for two minutes: every acknowledged scan is in the book once.</summary>
    static async Task<bool> Fifty(string url, string file)
    {
        const int receivers = 50;
        var time = TimeSpan.FromSeconds(120);
        string[] people = ["leila", "tomasz", "maren", "ikenna"];
        var cookies = new List<(Uri At, string Cookie, string Token)>();
        foreach (var name in people)
        {
            var jar = new CookieContainer();
            using var client = await BuiltServer.SignIn(url, name, jar);
            cookies.Add((new Uri(url), jar.GetCookieHeader(new Uri(url)), client.DefaultRequestHeaders.GetValues("X-Token").Single()));
        }

        var before = Entries(file);
        var watch = Stopwatch.StartNew();
        var results = await Task.WhenAll(
            Enumerable
                .Range(0, receivers)
                .Select(i =>
                    Task.Factory.StartNew(
                        () =>
                        {
                            var (at, cookie, token) = cookies[i % people.Length];
                            using var scanner = new Scanner(
                                at,
                                cookie,
                                token,
                                JsonSerializer.SerializeToUtf8Bytes(
                                    new
                                    {
                                        arrival = "A-BENCH",
                                        item = items[i % items.Length],
                                        pack = "each",
                                        packs = "1",
                                        overAllowed = false,
                                        earlyAllowed = true,
                                    }
                                )
                            );
                            var taken = new List<double>();
                            for (
                                var next = TimeSpan.FromMilliseconds(i * 500.0 / receivers);
                                next < time;
                                next += TimeSpan.FromMilliseconds(500)
                            )
                            {
                                var wait = next - watch.Elapsed;
                                if (wait > TimeSpan.Zero)
                                    Thread.Sleep(wait);
                                var begin = Stopwatch.GetTimestamp();
                                if (!scanner.Send())
                                    throw new InvalidOperationException("A scan was not acknowledged.");
                                taken.Add(Stopwatch.GetElapsedTime(begin).TotalMilliseconds);
                            }

                            return taken;
                        },
                        TaskCreationOptions.LongRunning
                    )
                )
        );
        var all = results.SelectMany(r => r).Order().ToList();
        var after = Entries(file);
        var p99 = all[all.Count * 99 / 100];
        var once = after.Rows - before.Rows == all.Count && after.Acts - before.Acts == all.Count;
        Console.WriteLine(
            $"{receivers} receivers, two scans a second each, {time.TotalSeconds:0} s: {all.Count} acknowledged, in the book "
                + $"{after.Rows - before.Rows} by {after.Acts - before.Acts} acts, median {all[all.Count / 2]:0.0} ms, 99th "
                + $"percentile {p99:0.0} ms (limit 100)"
        );
        return once && p99 < 100;
    }

    /// <summary>Fifty receivers as fast as it goes: what waits on a device is sent together, as after a dead spot, each count with its own
    /// id and answer.</summary>
    static async Task<bool> AsFastAsItGoes(string url, string folder)
    {
        const int receivers = 50;
        await Count(url, TimeSpan.FromSeconds(4), receivers, Waiting);
        var turns = new List<(double PerSecond, double Raw, double P99, int Refused)>();
        for (var turn = 0; turn < 5; turn++)
        {
            var raw = Disk.Raw(folder, TimeSpan.FromSeconds(1.5));
            var (each, _, slow, no) = await Count(url, TimeSpan.FromSeconds(4), receivers, Waiting);
            turns.Add((each, raw, slow, no));
        }

        Console.WriteLine("ratios turn by turn: " + string.Join(", ", turns.Select(t => $"{t.PerSecond / t.Raw:0.000}")));
        var (perSecond, rawPerSecond, p99, _) = turns.OrderBy(t => t.PerSecond / t.Raw).ElementAt(2);
        Console.WriteLine(
            $"{receivers} receivers as fast as it goes, {Waiting} waiting counts in a request: {perSecond:0} a second (limit 500), "
                + $"a request's 99th percentile {p99:0.0} ms, raw {rawPerSecond:0} a second, ratio {perSecond / rawPerSecond:0.000} "
                + $"(limit 0.25), refused {turns.Sum(t => t.Refused)}"
        );
        return perSecond >= 500 && perSecond / rawPerSecond >= 0.25 && turns.Sum(t => t.Refused) == 0;
    }

    static (long Rows, long Acts) Entries(string file)
    {
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={file};Mode=ReadOnly");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT COUNT(*), COUNT(DISTINCT ActId) FROM TallyEntries";
        using var reader = command.ExecuteReader();
        reader.Read();
        return (reader.GetInt64(0), reader.GetInt64(1));
    }

    static (List<double> Taken, int Refused) CountOn(Scanner scanner, Stopwatch watch, TimeSpan time)
    {
        var taken = new List<double>();
        var refused = 0;
        while (watch.Elapsed < time)
        {
            var begin = Stopwatch.GetTimestamp();
            if (scanner.Send())
                taken.Add(Stopwatch.GetElapsedTime(begin).TotalMilliseconds);
            else
                refused++;
        }

        return (taken, refused);
    }
}
