using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using MudRoom.Demo;

namespace MudRoom.Bench;

/// <summary>A built server as another program: started, asked over HTTP, stopped.</summary>
static class BuiltServer
{
    /// <param name="password">Of somebody who is not of the demo.</param>
    public static async Task<HttpClient> SignIn(string url, string name, CookieContainer? cookies = null, string? password = null)
    {
        var client = new HttpClient(new SocketsHttpHandler { CookieContainer = cookies ?? new CookieContainer() })
        {
            BaseAddress = new Uri(url),
        };
        await LoadToken(client);
        password ??= PeopleList.Make().First(p => p.Person.SignInName == name).Password;
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

    public static async Task Act(HttpClient client, string path, object body)
    {
        using var response = await Send(client, path, JsonContent.Create(body));
        if (!response.IsSuccessStatusCode)
            throw new InvalidOperationException(await response.Content.ReadAsStringAsync());
    }

    public static async Task Answer(string url)
    {
        using var client = new HttpClient { BaseAddress = new Uri(url) };
        (await client.GetAsync("/api/session")).EnsureSuccessStatusCode();
    }

    /// <param name="isDemo">False for what lies in the folder.</param>
    public static Process Start(string dll, string folder, out string url, bool isDemo = true)
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

    public static async Task Stop(Process process)
    {
        Process.Start("kill", ["-TERM", process.Id.ToString()])!.WaitForExit();
        await process.WaitForExitAsync();
    }
}
