using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using MudRoom.Demo;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>An answer: its status, and its body.</summary>
public sealed record Answer(HttpStatusCode Status, JsonElement Body)
{
    public bool IsOk => Status == HttpStatusCode.OK;

    /// <summary>The code of the refusal.</summary>
    public string? Code => Body.ValueKind == JsonValueKind.Object && Body.TryGetProperty("code", out var code) ? code.GetString() : null;

    /// <summary>The sentence of the refusal.</summary>
    public string Sentence => Body.GetProperty("detail").GetString()!;

    public JsonElement this[string name] => Body.GetProperty(name);
}

/// <summary>One person at one device, over HTTP.</summary>
public sealed class Client : IDisposable
{
    public Client(string url)
    {
        Cookies = new CookieContainer();
        Http = new HttpClient(new SocketsHttpHandler { CookieContainer = Cookies, AllowAutoRedirect = false })
        {
            BaseAddress = new Uri(url),
        };
    }

    public HttpClient Http { get; }

    public CookieContainer Cookies { get; }

    public string Token { get; private set; } = "";

    public static async Task<Client> SignIn(string url, string name)
    {
        var client = new Client(url);
        await client.LoadToken();
        var password = DemoTemplate.PasswordOf(name);
        var answer = await client.Post("/api/session", new { name, password });
        Assert.True(answer.IsOk, answer.Body.ToString());
        await client.LoadToken();
        return client;
    }

    /// <summary>A second device of who is signed in already, by the cookies of the first; null when the session has ended.</summary>
    public static async Task<Client?> Again(string url, CookieCollection cookies)
    {
        var client = new Client(url);
        client.Cookies.Add(cookies);
        if (await client.LoadToken())
            return client;
        client.Dispose();
        return null;
    }

    public async Task<Answer> Ask(string path) => await Read(await Http.GetAsync("/api/LM" + path));

    public Task<Answer> Act(string path, object body, Guid? id = null) => Post("/api/LM" + path, body, id);

    public async Task<Answer> Post(string path, object body, Guid? id = null, bool withToken = true)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = JsonContent.Create(body) };
        if (withToken)
            request.Headers.Add("X-Token", Token);
        request.Headers.Add("Act-Id", (id ?? Guid.NewGuid()).ToString());
        request.Headers.Add("Device", "test");
        return await Read(await Http.SendAsync(request));
    }

    /// <summary>Brings the van A-2624 to the door it is planned at, from which the truck before it has gone.</summary>
    public async Task<Answer> BringVan()
    {
        await Act("/yard/step", new { arrival = "A-2618", step = "Empty" });
        return await Act("/road/at-door", new { arrival = "A-2624", door = 2 });
    }

    /// <summary>Takes the token of the session; true when somebody is signed in.</summary>
    public async Task<bool> LoadToken()
    {
        var session = await Read(await Http.GetAsync("/api/session"));
        Token = session["token"].GetString()!;
        return session["signedIn"].GetBoolean();
    }

    public static async Task<Answer> Read(HttpResponseMessage response)
    {
        var text = await response.Content.ReadAsStringAsync();
        var isJson = response.Content.Headers.ContentType?.MediaType?.EndsWith("json", StringComparison.Ordinal) == true;
        return new Answer(response.StatusCode, isJson && text.Length > 0 ? JsonDocument.Parse(text).RootElement : default);
    }

    /// <summary>A count of something simple on the tools at door 2.</summary>
    public static object Count(
        string packs = "1",
        string arrival = "A-2618",
        string item = "HH-16",
        string pack = "box",
        object? more = null
    )
    {
        var body = new Dictionary<string, object?>
        {
            ["arrival"] = arrival,
            ["item"] = item,
            ["pack"] = pack,
            ["packs"] = packs,
            ["overAllowed"] = false,
            ["earlyAllowed"] = false,
        };
        foreach (var p in more?.GetType().GetProperties() ?? [])
            body[p.Name] = p.GetValue(more);
        return body;
    }

    public void Dispose() => Http.Dispose();
}
