using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using MudRoom.Demo;

namespace MudRoom.Bench;

/// <summary>The built server: start, memory, and scans acknowledged over HTTP by eight scanners at once.</summary>
static class Scans
{
    const int Scanners = 8;
    const int Waiting = 32;
    internal static string[] Items => items;

    static readonly string[] items = ["HH-16", "SP-DG", "FK-DG", "HS-15", "TP-18", "TS-18", "ST-CU", "HF-17"];

    public static async Task<bool> Report(string dll, string folder)
    {
        using (var first = Start(dll, folder, out var firstUrl))
        {
            await Answer(firstUrl);
            await Stop(first);
        }

        var begin = Stopwatch.GetTimestamp();
        using var server = Start(dll, folder, out var url);
        await Answer(url);
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
            await Stop(server);
        }
    }

    /// <summary>Only how fast it goes.</summary>
    public static async Task<bool> Fast(string dll, string folder)
    {
        using var server = Start(dll, folder, out var url);
        try
        {
            await OpenDoor(url);
            return await AsFastAsItGoes(url, folder);
        }
        finally
        {
            await Stop(server);
        }
    }

    /// <summary>This build's server and another's, each on a demo of its own making: five rounds, in each of which the two take turns of a
    /// second, so that what else the machine does falls on both. The middle one of the rounds counts.</summary>
    public static async Task<bool> InTurn(string dll, string other, string folder)
    {
        var servers = new List<(Process Process, string Url)>();
        try
        {
            foreach (var (program, name) in ((string, string)[])[(dll, "this"), (other, "other")])
            {
                servers.Add((Start(program, Directory.CreateDirectory(Path.Combine(folder, name)).FullName, out var url), url));
                await OpenDoor(url);
                await Count(url, TimeSpan.FromSeconds(20));
            }

            var scans = await InTurn("a scan in a request of its own", servers.ConvertAll(s => s.Url), folder, Scanners, 1);
            return await InTurn($"{Waiting} waiting counts in a request", servers.ConvertAll(s => s.Url), folder, 50, Waiting) && scans;
        }
        finally
        {
            foreach (var (process, _) in servers)
            {
                await Stop(process);
                process.Dispose();
            }
        }
    }

    static async Task<bool> InTurn(string kind, List<string> urls, string folder, int receivers, int together)
    {
        var second = TimeSpan.FromSeconds(1);
        List<Scanner>[] sides = [await SignedIn(urls[0], receivers, together), await SignedIn(urls[1], receivers, together)];
        foreach (var side in sides)
            await Count(side, TimeSpan.FromSeconds(4));
        var rounds = new List<(double This, double Other)>();
        for (var round = 0; round < 5; round++)
        {
            var raw = Disk.Raw(folder, second);
            double[] counted = [0, 0];
            double[] seconds = [0, 0];
            // Who is first in one turn is second in the next.
            for (var turn = 0; turn < 6; turn++)
                foreach (var side in turn % 2 == 0 ? (int[])[0, 1] : [1, 0])
                {
                    var (taken, _, lasted, refused) = await Count(sides[side], second);
                    if (refused > 0)
                        throw new InvalidOperationException($"{refused} scans were refused.");
                    counted[side] += taken.Count * together;
                    seconds[side] += lasted;
                }

            rounds.Add((counted[0] / seconds[0] / raw, counted[1] / seconds[1] / raw));
        }

        foreach (var side in sides)
            side.ForEach(s => s.Dispose());
        var slower = 1 - Middle(rounds.Select(r => r.This / r.Other));
        Console.WriteLine(
            $"{kind}, ratios to raw transactions round by round: {Each(rounds.Select(r => r.This))}; the other build "
                + $"{Each(rounds.Select(r => r.Other))}; in the middle {Middle(rounds.Select(r => r.This)):0.000} and "
                + $"{Middle(rounds.Select(r => r.Other)):0.000}; of each round's two, in the middle {slower:0 %} slower (limit 20 %)"
        );
        return slower <= 0.2;
    }

    static double Middle(IEnumerable<double> ratios)
    {
        var sorted = ratios.Order().ToList();
        return sorted[sorted.Count / 2];
    }

    static string Each(IEnumerable<double> ratios) => string.Join(", ", ratios.Select(r => $"{r:0.000}"));

    internal static async Task OpenDoor(string url)
    {
        using var buyer = await SignIn(url, "dilys");
        var csv =
            "order,vendor,line,item,quantity,due,site\n"
            + string.Concat(items.Select((item, i) => $"PO-BENCH,BRAC,{i + 1},{item},100000000,2026-03-10,LM\n"));
        await Act(buyer, "/api/LM/road/import", new { name = "bench.csv", text = csv });
        using var receiver = await SignIn(url, "leila");
        await Act(
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

    static async Task<(double PerSecond, double Median, double P99, int Refused)> Count(
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
    static async Task<List<Scanner>> SignedIn(string url, int receivers, int together)
    {
        string[] people = ["leila", "tomasz", "maren", "ikenna"];
        var scanners = new List<Scanner>();
        for (var i = 0; i < receivers; i++)
        {
            var cookies = new CookieContainer();
            using var client = await SignIn(url, people[i % people.Length], cookies);
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
    static async Task<(List<double> Taken, double P99, double Seconds, int Refused)> Count(List<Scanner> scanners, TimeSpan time)
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
            using var client = await SignIn(url, name, jar);
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

    /// <param name="password">Of somebody who is not of the demo.</param>
    internal static async Task<HttpClient> SignIn(string url, string name, CookieContainer? cookies = null, string? password = null)
    {
        var client = new HttpClient(new SocketsHttpHandler { CookieContainer = cookies ?? new CookieContainer() })
        {
            BaseAddress = new Uri(url),
        };
        await LoadToken(client);
        password ??= Scenario.Make().People.First(p => p.Person.SignInName == name).Password;
        (await client.PostAsJsonAsync("/api/session", new { name, password })).EnsureSuccessStatusCode();
        await LoadToken(client);
        return client;
    }

    static async Task LoadToken(HttpClient client)
    {
        var session = await client.GetFromJsonAsync<JsonElement>("/api/session");
        client.DefaultRequestHeaders.Remove("X-Token");
        client.DefaultRequestHeaders.Add("X-Token", session.GetProperty("token").GetString());
    }

    static async Task<HttpResponseMessage> Send(HttpClient client, string path, HttpContent body)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = body };
        request.Headers.Add("Act-Id", Guid.NewGuid().ToString());
        return await client.SendAsync(request);
    }

    internal static async Task Act(HttpClient client, string path, object body)
    {
        using var response = await Send(client, path, JsonContent.Create(body));
        if (!response.IsSuccessStatusCode)
            throw new InvalidOperationException(await response.Content.ReadAsStringAsync());
    }

    static async Task Answer(string url)
    {
        using var client = new HttpClient { BaseAddress = new Uri(url) };
        (await client.GetAsync("/api/session")).EnsureSuccessStatusCode();
    }

    /// <param name="isDemo">False for what lies in the folder.</param>
    internal static Process Start(string dll, string folder, out string url, bool isDemo = true)
    {
        if (!File.Exists(dll))
            throw new InvalidOperationException("The server is not built: run ./mudroom bench.");
        var start = new ProcessStartInfo(
            "dotnet",
            isDemo ? [dll, "demo", "--data", folder, "--port", "0", "--stopped-clock"] : [dll, "serve", "--data", folder, "--port", "0"]
        )
        {
            RedirectStandardOutput = true,
        };
        var process = Process.Start(start)!;
        while (process.StandardOutput.ReadLine() is { } line)
            if (line.StartsWith("Mud Room is at ", StringComparison.Ordinal))
            {
                url = line["Mud Room is at ".Length..];
                _ = process.StandardOutput.ReadToEndAsync();
                return process;
            }

        throw new InvalidOperationException("The server did not start.");
    }

    internal static async Task Stop(Process process)
    {
        Process.Start("kill", ["-TERM", process.Id.ToString()])!.WaitForExit();
        await process.WaitForExitAsync();
    }
}
