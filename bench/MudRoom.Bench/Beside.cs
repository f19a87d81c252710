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

    /// <summary>For so long they scan alone first: what comes after is to be told from a machine that is busy with something
    /// else.</summary>
    static readonly TimeSpan alone = TimeSpan.FromSeconds(5);

    /// <summary>Fifty receivers at two scans a second each, alone and then while something long is written: how long they wait for their
    /// acknowledgement.</summary>
    /// <param name="what">What is done meanwhile, as in "… while … in 3 s".</param>
    public static async Task<bool> Scan(Counting counting, string what, Func<Task> write)
    {
        var jar = new CookieContainer();
        using var client = await BuiltServer.SignIn(counting.Url, counting.Name, jar, counting.Password);
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
                        var waited = new List<(TimeSpan At, double Milliseconds)>();
                        for (
                            var next = TimeSpan.FromMilliseconds(i * 500.0 / Receivers);
                            !stop.IsCancellationRequested;
                            next += TimeSpan.FromMilliseconds(500)
                        )
                        {
                            var pause = next - watch.Elapsed;
                            if (pause > TimeSpan.Zero)
                                Thread.Sleep(pause);
                            var begun = watch.Elapsed;
                            if (!scanner.Send())
                                throw new InvalidOperationException("A scan was not acknowledged.");
                            waited.Add((begun, (watch.Elapsed - begun).TotalMilliseconds));
                        }

                        return waited;
                    },
                    TaskCreationOptions.LongRunning
                )
            )
            .ToList();
        await Task.Delay(alone);
        var from = watch.Elapsed;
        await write();
        var seconds = (watch.Elapsed - from).TotalSeconds;
        // What is over in a moment is told by as many scans as the rest.
        if (watch.Elapsed - from < alone)
            await Task.Delay(alone - (watch.Elapsed - from));
        await stop.CancelAsync();
        var all = (await Task.WhenAll(receivers)).SelectMany(w => w).ToList();
        // The first two seconds are those of connections, and of what is compiled for the first scans.
        var before = Sorted(
            all.Where(w => w.At > TimeSpan.FromSeconds(2) && w.At.TotalMilliseconds + w.Milliseconds < from.TotalMilliseconds)
        );
        var meanwhile = Sorted(all.Where(w => w.At.TotalMilliseconds + w.Milliseconds >= from.TotalMilliseconds));
        var p99 = At(meanwhile, 99);
        Console.WriteLine(
            $"{Receivers} receivers, two scans a second each, while {what} in {seconds:0.0} s: {meanwhile.Count} acknowledged, median "
                + $"{At(meanwhile, 50):0.0} ms, 99th percentile {p99:0.0} ms (limit 100), slowest {meanwhile[^1]:0} ms; before, alone: "
                + $"median {At(before, 50):0.0} ms, 99th percentile {At(before, 99):0.0} ms, slowest {before[^1]:0} ms"
        );
        return p99 < 100;

        static List<double> Sorted(IEnumerable<(TimeSpan At, double Milliseconds)> waits) => [.. waits.Select(w => w.Milliseconds).Order()];

        static double At(List<double> sorted, int percent) => sorted[sorted.Count * percent / 100];
    }
}
