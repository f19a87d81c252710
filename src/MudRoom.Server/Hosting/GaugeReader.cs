using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json;
using MudRoom.Core.Bench;

namespace MudRoom.Server.Hosting;

/// <summary>
/// Reads gauges that stand at a bench, from a serial line or a network port, and sends each line to the server, where the sheet that
/// listens takes it. A line that could not be sent is sent again, in order, and counts once.
/// </summary>
public sealed class GaugeReader(Uri server, string site, Action<string> say) : IDisposable
{
    static readonly TimeSpan pause = TimeSpan.FromSeconds(1);

    readonly HttpClient http = new(new HttpClientHandler { CookieContainer = new CookieContainer() }) { BaseAddress = server };

    /// <summary>By which it signs in again where its session has ended.</summary>
    (string Name, string Password) signedIn;

    /// <summary>Signs in as an inspector.</summary>
    public async Task<bool> SignIn(string name, string password, CancellationToken stop)
    {
        signedIn = (name, password);
        await Token(stop);
        var answer = await http.PostAsJsonAsync("/api/session", new { name, password }, stop);
        if (!answer.IsSuccessStatusCode)
            return false;
        await Token(stop);
        return true;
    }

    /// <summary>Ends its session.</summary>
    public async Task SignOut(CancellationToken stop)
    {
        await http.DeleteAsync("/api/session", stop);
        await Token(stop);
    }

    /// <summary>What a text holds of whole lines, and what is left of it.</summary>
    public static (IReadOnlyList<string> Lines, string Left) Cut(string text)
    {
        var parts = text.ReplaceLineEndings("\n").Split('\n');
        return ([.. parts[..^1].Select(l => l.Trim()).Where(l => l.Length > 0)], parts[^1]);
    }

    /// <summary>Reads until the source ends or it is stopped.</summary>
    public async Task Read(Stream source, CancellationToken stop)
    {
        using var reader = new StreamReader(source);
        var (rest, buffer) = ("", new char[256]);
        while (!stop.IsCancellationRequested)
        {
            var count = await reader.ReadAsync(buffer, stop);
            if (count == 0)
                return;
            (var lines, rest) = Cut(rest + new string(buffer, 0, count));
            foreach (var line in lines)
                if (Gauges.Read(line) is null)
                    say($"{line}: no line of a gauge, left out.");
                else
                    await Send(line, stop);
        }
    }

    /// <summary>Reads a port of a gauge or of a box of several; goes on when it is gone for a while.</summary>
    public async Task ReadPort(string host, int port, CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                using var client = new TcpClient();
                await client.ConnectAsync(host, port, stop);
                say($"Reading {host}:{port}.");
                await Read(client.GetStream(), stop);
                say($"{host}:{port} has closed the line; it is tried again.");
            }
            catch (SocketException gone)
            {
                say($"{host}:{port} is not there ({gone.SocketErrorCode}); it is tried again.");
            }

            await Task.Delay(pause, stop);
        }
    }

    /// <summary>Reads a serial line until it ends. Its speed is set by stty, which every Linux has.</summary>
    public async Task ReadSerial(string path, string baud, CancellationToken stop)
    {
        using (
            var set = Process.Start(
                new ProcessStartInfo("stty") { ArgumentList = { "-F", path, "raw", "-echo", baud }, RedirectStandardError = true }
            )!
        )
        {
            await set.WaitForExitAsync(stop);
            if (set.ExitCode != 0)
                throw new IOException($"{path} is no serial line: {(await set.StandardError.ReadToEndAsync(stop)).Trim()}.");
        }

        await using var source = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite, 1, useAsync: false);
        say($"Reading {path}.");
        // A silent line is not left waiting for one more value when it is stopped.
        await Read(source, stop).WaitAsync(stop);
    }

    async Task Send(string line, CancellationToken stop)
    {
        var id = Guid.NewGuid();
        while (!stop.IsCancellationRequested)
        {
            try
            {
                var answer = await http.PostAsJsonAsync($"/api/{site}/bench/gauges/line", new { line, id }, stop);
                if (answer.IsSuccessStatusCode)
                {
                    say(line);
                    return;
                }

                // Whoever signs out ends every session of theirs.
                if (answer.StatusCode == HttpStatusCode.Unauthorized && await SignIn(signedIn.Name, signedIn.Password, stop))
                    continue;
                if ((int)answer.StatusCode is >= 400 and < 500)
                {
                    say($"{line}: refused, {(int)answer.StatusCode}.");
                    return;
                }
            }
            catch (HttpRequestException)
            {
                // The server is not reached: the line is kept and sent again.
            }

            say($"{line}: not sent yet, it is tried again.");
            await Task.Delay(pause, stop);
        }
    }

    async Task Token(CancellationToken stop)
    {
        var session = await http.GetFromJsonAsync<JsonElement>("/api/session", stop);
        http.DefaultRequestHeaders.Remove("X-Token");
        http.DefaultRequestHeaders.Add("X-Token", session.GetProperty("token").GetString());
    }

    public void Dispose() => http.Dispose();
}
