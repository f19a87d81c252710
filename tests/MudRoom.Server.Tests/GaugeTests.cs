using System.Net;
using System.Net.Sockets;
using System.Runtime.InteropServices;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Server.Hosting;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Gauges: until when they may be read, and how what they read comes to the sheet.</summary>
public sealed class GaugeTests(DemoServer server) : IClassFixture<DemoServer>
{
    const string Sheet = "I-0024";

    static Task<Answer> Keep(Client client, string name, string? until) => client.Act("/bench/gauges/keep", new { name, until });

    static Task<Answer> Gauge(Client client, int piece, string text) =>
        client.Act(
            "/bench/gauge",
            new
            {
                inspection = Sheet,
                piece,
                text,
                characteristic = (int?)null,
            }
        );

    async Task<int> Findings()
    {
        await using var db = server.Db();
        return await db.Set<Finding>().CountAsync(f => db.Inspections.Any(i => i.Id == f.InspectionId && i.Number == Sheet));
    }

    [Fact]
    public async Task A_gauge_past_its_date_reads_nothing_that_counts_and_another_unit_is_converted()
    {
        using var sunita = await server.SignIn("sunita");
        using var maren = await server.SignIn("maren");
        Assert.Equal("right-missing", (await Keep(maren, "feeler", "2026-03-09")).Code);
        Assert.Equal("setting-absurd", (await Keep(sunita, "12 mm", null)).Code);
        // The demo's day is the tenth of March: the last day counts, the day after does not.
        Assert.True((await Keep(sunita, "Feeler", "2026-03-09")).IsOk);
        var before = await Findings();
        Assert.Equal("gauge-overdue", (await Gauge(sunita, 27, "feeler 0.08 mm")).Code);
        Assert.Equal(
            "gauge-overdue",
            (
                await sunita.Act(
                    "/bench/find",
                    new
                    {
                        inspection = Sheet,
                        piece = 27,
                        characteristic = 1,
                        value = "0.08",
                    }
                )
            ).Code
        );
        Assert.Equal(before, await Findings());
        var list = await sunita.Ask("/bench/gauges");
        Assert.Contains("ended on 2026-03-09", list.Body[0].GetProperty("why").GetString());
        Assert.Equal("Cutting tools", list.Body[0].GetProperty("plans")[0].GetString());
        Assert.True((await Keep(sunita, "feeler", "2026-03-10")).IsOk);
        var taken = await Gauge(sunita, 27, "feeler 0.0035 in");
        Assert.True(taken.IsOk, taken.Body.ToString());
        // The inch is 25.4 mm by definition (NIST Special Publication 811, appendix B).
        Assert.Equal(0.0889m, taken["finding"].GetProperty("value").GetDecimal());
        Assert.Equal("gauge-none", (await Gauge(sunita, 28, "feeler 0.0035 kg")).Code);
        Assert.True((await sunita.Act("/bench/gauges/drop", new { name = "FEELER" })).IsOk);
        Assert.Equal("not-found", (await sunita.Act("/bench/gauges/drop", new { name = "feeler" })).Code);
    }

    async Task<List<string>> Lines(Client client, long after)
    {
        var until = DateTime.UtcNow.AddSeconds(20);
        while (true)
        {
            var answer = await client.Ask($"/bench/gauges/lines?after={after}");
            var lines = answer["lines"].EnumerateArray().Select(l => l.GetProperty("line").GetString()!).ToList();
            if (lines.Count >= 2 || DateTime.UtcNow > until)
                return lines;
            await Task.Delay(50);
        }
    }

    static async Task<long> Last(Client client) => (await client.Ask("/bench/gauges/lines"))["last"].GetInt64();

    [Fact]
    public async Task A_line_that_is_sent_again_counts_once_and_nonsense_is_refused()
    {
        using var sunita = await server.SignIn("sunita");
        using var maren = await server.SignIn("maren");
        var (after, id) = (await Last(sunita), Guid.NewGuid());
        Assert.True((await sunita.Act("/bench/gauges/line", new { line = "caliper 212.4 mm", id })).IsOk);
        Assert.True((await sunita.Act("/bench/gauges/line", new { line = "caliper 212.4 mm", id })).IsOk);
        Assert.True((await sunita.Act("/bench/gauges/line", new { line = "caliper 212.4 mm", id = Guid.NewGuid() })).IsOk);
        Assert.Equal(["caliper 212.4 mm", "caliper 212.4 mm"], await Lines(sunita, after));
        Assert.Equal("not-a-number", (await sunita.Act("/bench/gauges/line", new { line = "caliper", id })).Code);
        Assert.Equal("right-missing", (await maren.Act("/bench/gauges/line", new { line = "caliper 1 mm", id })).Code);
        Assert.Equal("right-missing", (await maren.Ask("/bench/gauges/lines")).Code);
    }

    [Fact]
    public async Task The_reader_sends_what_a_network_port_says_line_by_line()
    {
        using var sunita = await server.SignIn("sunita");
        var after = await Last(sunita);
        using var gauge = new TcpListener(IPAddress.Loopback, 0);
        gauge.Start();
        using var stop = new CancellationTokenSource(TimeSpan.FromSeconds(30));
        var said = new List<string>();
        using var reader = new GaugeReader(new Uri(server.Url), "LM", said.Add);
        Assert.False(await reader.SignIn("sunita", "nonsense-01", stop.Token));
        Assert.True(await reader.SignIn("sunita", "sunita-mud-06", stop.Token));
        var reading = reader.ReadPort("127.0.0.1", ((IPEndPoint)gauge.LocalEndpoint).Port, stop.Token);
        using (var line = await gauge.AcceptTcpClientAsync(stop.Token))
            await line.GetStream()
                .WriteAsync(Encoding.ASCII.GetBytes("feeler 0.0"), stop.Token)
                .AsTask()
                .ContinueWith(async _ =>
                {
                    await Task.Delay(30);
                    await line.GetStream().WriteAsync(Encoding.ASCII.GetBytes("9 mm\r\nhello\r\ncaliper 212.4 mm\r\n"));
                })
                .Unwrap();
        Assert.Equal(["feeler 0.09 mm", "caliper 212.4 mm"], await Lines(sunita, after));
        await stop.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => reading);
        Assert.Contains("hello: no line of a gauge, left out.", said);
    }

    [Fact]
    public async Task A_reader_whose_session_has_ended_signs_in_again_and_loses_no_line()
    {
        using var sunita = await server.SignIn("sunita");
        var after = await Last(sunita);
        using var reader = new GaugeReader(new Uri(server.Url), "LM", _ => { });
        Assert.True(await reader.SignIn("bram", "bram-mud-07", CancellationToken.None));
        await reader.SignOut(CancellationToken.None);
        using var line = new MemoryStream(Encoding.ASCII.GetBytes("caliper 212.4 mm\ncaliper 212.5 mm\n"));
        await reader.Read(line, CancellationToken.None);
        Assert.Equal(["caliper 212.4 mm", "caliper 212.5 mm"], await Lines(sunita, after));
    }

    /// <summary>A pseudo-terminal stands in for the serial line: the program at the bench opens its far end as it would a device.</summary>
    [Fact]
    public async Task The_reader_sends_what_a_serial_line_says()
    {
        using var sunita = await server.SignIn("sunita");
        var after = await Last(sunita);
        var master = posix_openpt(2 | 0x100);
        Assert.True(master > 0 && grantpt(master) == 0 && unlockpt(master) == 0);
        var path = Marshal.PtrToStringAnsi(ptsname(master))!;
        using var stop = new CancellationTokenSource(TimeSpan.FromSeconds(30));
        using var reader = new GaugeReader(new Uri(server.Url), "LM", _ => { });
        Assert.True(await reader.SignIn("sunita", "sunita-mud-06", stop.Token));
        var reading = Task.Run(() => reader.ReadSerial(path, "9600", stop.Token));
        using (var line = new FileStream(new Microsoft.Win32.SafeHandles.SafeFileHandle(master, ownsHandle: true), FileAccess.Write, 1))
        {
            await Task.Delay(300);
            await line.WriteAsync(Encoding.ASCII.GetBytes("caliper 212.4 mm\nfeeler 0.09 mm\n"));
            await line.FlushAsync();
            Assert.Equal(["caliper 212.4 mm", "feeler 0.09 mm"], await Lines(sunita, after));
            // Stopped while the line is silent: it ends, and does not wait for one more value.
            await stop.CancelAsync();
            await Assert.ThrowsAnyAsync<OperationCanceledException>(() => reading.WaitAsync(TimeSpan.FromSeconds(5)));
        }

        using var none = new GaugeReader(new Uri(server.Url), "LM", _ => { });
        await Assert.ThrowsAsync<IOException>(() => none.ReadSerial("/dev/null", "9600", CancellationToken.None));
    }

    [DllImport("libc")]
    static extern int posix_openpt(int flags);

    [DllImport("libc")]
    static extern int grantpt(int fd);

    [DllImport("libc")]
    static extern int unlockpt(int fd);

    [DllImport("libc")]
    static extern nint ptsname(int fd);
}
