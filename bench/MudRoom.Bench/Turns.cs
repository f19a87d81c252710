using System.Diagnostics;

namespace MudRoom.Bench;

/// <summary>Two builds beside each other.</summary>
static class Turns
{
    /// <summary>This build's server and another's, each on a demo of its own making: five rounds, in each of which the two take turns of a
    /// second, so that what else the machine does falls on both. The middle one of the rounds counts.</summary>
    public static async Task<bool> Report(string dll, string other, string folder)
    {
        var servers = new List<(Process Process, string Url)>();
        try
        {
            foreach (var (program, name) in ((string, string)[])[(dll, "this"), (other, "other")])
            {
                servers.Add((BuiltServer.Start(program, Directory.CreateDirectory(Path.Combine(folder, name)).FullName, out var url), url));
                await Scans.OpenDoor(url);
                await Scans.Count(url, TimeSpan.FromSeconds(20));
            }

            var scans = await InTurn("a scan in a request of its own", servers.ConvertAll(s => s.Url), folder, Scans.Scanners, 1);
            return await InTurn($"{Scans.Waiting} waiting counts in a request", servers.ConvertAll(s => s.Url), folder, 50, Scans.Waiting)
                && scans;
        }
        finally
        {
            foreach (var (process, _) in servers)
            {
                await BuiltServer.Stop(process);
                process.Dispose();
            }
        }
    }

    static async Task<bool> InTurn(string kind, List<string> urls, string folder, int receivers, int together)
    {
        var second = TimeSpan.FromSeconds(1);
        List<Scanner>[] sides = [await Scans.SignedIn(urls[0], receivers, together), await Scans.SignedIn(urls[1], receivers, together)];
        foreach (var side in sides)
            await Scans.Count(side, TimeSpan.FromSeconds(4));
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
                    var (taken, _, lasted, refused) = await Scans.Count(sides[side], second);
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
}
