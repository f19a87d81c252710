using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Logging;

namespace MudRoom.Browser.Tests;

/// <summary>What the network does between a device and the server.</summary>
public enum Network
{
    /// <summary>All goes through.</summary>
    Good,

    /// <summary>Every request is taken and never answered.</summary>
    Hangs,

    /// <summary>The server does what it is asked, and a gateway answers 502.</summary>
    ErrorAfter,

    /// <summary>The server does what it is asked, and its answer is cut in the middle.</summary>
    CutAnswer,

    /// <summary>A portal answers everything with a page of its own, status 200.</summary>
    Portal,
}

/// <summary>Stands between a browser and the server, and spoils what it is told to spoil.</summary>
public sealed class BadNetwork : IAsyncDisposable
{
    readonly WebApplication app;
    readonly HttpClient server;

    BadNetwork(WebApplication app, HttpClient server) => (this.app, this.server) = (app, server);

    public Network Is { get; set; } = Network.Good;

    public string Url => app.Urls.First();

    /// <summary>Opens one in front of a server.</summary>
    public static async Task<BadNetwork> Before(string url)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls("http://127.0.0.1:0");
        var app = builder.Build();
        var network = new BadNetwork(
            app,
            new HttpClient(new SocketsHttpHandler { UseCookies = false, AllowAutoRedirect = false }) { BaseAddress = new Uri(url) }
        );
        app.Run(network.Pass);
        await app.StartAsync();
        return network;
    }

    async Task Pass(HttpContext http)
    {
        var now = Is;
        if (now == Network.Hangs)
        {
            await Task.Delay(Timeout.Infinite, http.RequestAborted).ContinueWith(_ => { }, TaskScheduler.Default);
            return;
        }

        if (now == Network.Portal)
        {
            await Page(http, 200, "<html><body>Welcome. Accept our terms to go on.</body></html>");
            return;
        }

        using var request = new HttpRequestMessage(new HttpMethod(http.Request.Method), http.Request.Path + http.Request.QueryString);
        if (http.Request.ContentLength > 0 || http.Request.Headers.TransferEncoding.Count > 0)
        {
            using var body = new MemoryStream();
            await http.Request.Body.CopyToAsync(body);
            request.Content = new ByteArrayContent(body.ToArray());
        }

        foreach (
            var (name, value) in http.Request.Headers.Where(h =>
                h.Key is not ("Host" or "Connection" or "Content-Length" or "Transfer-Encoding" or "Accept-Encoding")
            )
        )
            if (!request.Headers.TryAddWithoutValidation(name, value.ToArray()))
                request.Content?.Headers.TryAddWithoutValidation(name, value.ToArray());
        using var answer = await server.SendAsync(request);
        var content = await answer.Content.ReadAsByteArrayAsync();
        if (now == Network.ErrorAfter)
        {
            await Page(http, 502, "<html><body>502 Bad Gateway</body></html>");
            return;
        }

        http.Response.StatusCode = (int)answer.StatusCode;
        foreach (
            var (name, values) in answer
                .Headers.Concat(answer.Content.Headers)
                .Where(h => h.Key is not ("Transfer-Encoding" or "Connection"))
        )
            http.Response.Headers[name] = values.ToArray();
        if (now == Network.CutAnswer && content.Length > 1)
        {
            // The length is promised, half of it comes, and the line is dead.
            http.Response.ContentLength = content.Length;
            await http.Response.Body.WriteAsync(content.AsMemory(0, content.Length / 2));
            await http.Response.Body.FlushAsync();
            http.Abort();
            return;
        }

        await http.Response.Body.WriteAsync(content);
    }

    static Task Page(HttpContext http, int status, string page)
    {
        http.Response.StatusCode = status;
        http.Response.ContentType = "text/html";
        return http.Response.WriteAsync(page);
    }

    public async ValueTask DisposeAsync()
    {
        server.Dispose();
        await app.StopAsync(new CancellationToken(canceled: true)).ContinueWith(_ => { }, TaskScheduler.Default);
        await app.DisposeAsync();
    }
}
