using System.Diagnostics;
using System.Net;
using System.Text.Json;

namespace MudRoom.Bench;

/// <summary>Where and by whom is counted.</summary>
/// <param name="Name">What they sign in with.</param>
/// <param name="Password">Null for people of the demo.</param>
/// <param name="Items">What is counted, by their codes, one by one.</param>
sealed record Counting(string Url, string Site, string Arrival, string Name, string? Password, string[] Items);

/// <summary>How long scans wait while something long is done.</summary>
static class Beside
{
    const int Receivers = 50;

    /// <summary>Fifty receivers at two scans a second each while something long is written: how long they wait for their
    /// acknowledgement.</summary>
    /// <param name="what">What is done meanwhile, as in "… while … in 3 s".</param>
    public static async Task<bool> Scan(Counting counting, string what, Func<Task> write)
    {
        var jar = new CookieContainer();
        using var client = await Scans.SignIn(counting.Url, counting.Name, jar, counting.Password);
        var (at, cookie, token) = (
            new Uri(counting.Url),
            jar.GetCookieHeader(new Uri(counting.Url)),
            client.DefaultRequestHeaders.GetValues("X-Token").Single()
        );
        using var stop = new CancellationTokenSource();
        var watch = Stopwatch.StartNew();
        var receivers = Enumerable
            .Range(0, Receivers)
            .Select(i =>
                Task.Factory.StartNew(
                    () =>
                    {
                        var scan = JsonSerializer.SerializeToUtf8Bytes(
                            new
                            {
                                arrival = counting.Arrival,
                                item = counting.Items[i % counting.Items.Length],
                                pack = "each",
                                packs = "1",
                                overAllowed = false,
                                earlyAllowed = true,
                            }
                        );
                        using var scanner = new Scanner(at, cookie, token, scan, site: counting.Site);
                        var waited = new List<double>();
                        for (
                            var next = TimeSpan.FromMilliseconds(i * 500.0 / Receivers);
                            !stop.IsCancellationRequested;
                            next += TimeSpan.FromMilliseconds(500)
                        )
                        {
                            var pause = next - watch.Elapsed;
                            if (pause > TimeSpan.Zero)
                                Thread.Sleep(pause);
                            var begin = Stopwatch.GetTimestamp();
                            if (!scanner.Send())
                                throw new InvalidOperationException("A scan was not acknowledged.");
                            waited.Add(Stopwatch.GetElapsedTime(begin).TotalMilliseconds);
                        }

                        return waited;
                    },
                    TaskCreationOptions.LongRunning
                )
            )
            .ToList();
        await Task.Delay(2000);
        var import = Stopwatch.StartNew();
        await write();
        var seconds = import.Elapsed.TotalSeconds;
        await stop.CancelAsync();
        var all = (await Task.WhenAll(receivers)).SelectMany(w => w).Order().ToList();
        var p99 = all[all.Count * 99 / 100];
        Console.WriteLine(
            $"{Receivers} receivers, two scans a second each, while {what} in {seconds:0.0} s: {all.Count} acknowledged, median "
                + $"{all[all.Count / 2]:0.0} ms, 99th percentile {p99:0.0} ms (limit 100), slowest {all[^1]:0} ms"
        );
        return p99 < 100;
    }
}
