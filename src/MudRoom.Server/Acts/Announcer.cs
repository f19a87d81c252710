using System.Threading.Channels;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Acts;

/// <summary>What screens are told: these things have changed, and who did it.</summary>
/// <param name="Topics">"arrival:A-2617", "shelf", "house" …</param>
/// <param name="By">A name.</param>
/// <param name="Acts">The acts that changed them: a screen that has put their answers in place asks for nothing again.</param>
public sealed record Changed(IReadOnlyCollection<string> Topics, string By, IReadOnlyCollection<Guid> Acts);

/// <summary>The live line to the screens. Each joins the site it shows.</summary>
[Authorize]
public sealed class LiveHub(SetUpStore setUps, Sessions sessions) : Hub
{
    public override Task OnConnectedAsync()
    {
        sessions.Opened(Context);
        return base.OnConnectedAsync();
    }

    public override Task OnDisconnectedAsync(Exception? exception)
    {
        sessions.Closed(Context);
        return base.OnDisconnectedAsync(exception);
    }

    /// <summary>Joins a site's line; refused for sites the person may not work at.</summary>
    public async Task<bool> Join(string site)
    {
        var setUp = await setUps.Current();
        var person = SignedIn.PersonOf(Context.User, setUp);
        if (
            person is null
            || sessions.HasEnded(Context.User)
            || !setUp.Sites.TryGetValue(site, out var row)
            || !person.Sites.Contains(row.Code)
        )
            return false;
        Context.Items["site"] = row.Code;
        await Groups.AddToGroupAsync(Context.ConnectionId, row.Code);
        return true;
    }
}

/// <summary>Tells the screens of a site what has changed: what comes within a twentieth of a second goes out together.</summary>
public sealed class Announcer(IHubContext<LiveHub> hub, Health health, ILogger<Announcer> logger) : Watchman(health, logger, "live line")
{
    static readonly TimeSpan pause = TimeSpan.FromMilliseconds(50);
    readonly Channel<(string Site, string Topic, string By, Guid Act)> waiting = Channel.CreateUnbounded<(string, string, string, Guid)>();

    /// <summary>Raised for each topic that is told, for what works on by itself; must return at once.</summary>
    public event Action<string>? Told;

    /// <summary>Puts it in line; never waits.</summary>
    /// <param name="act">The act that changed them; empty where no device sent one.</param>
    public void Tell(string site, IEnumerable<string> topics, string by, Guid act = default)
    {
        foreach (var topic in topics)
        {
            waiting.Writer.TryWrite((site, topic, by, act));
            Told?.Invoke(topic);
        }
    }

    protected override async Task Work(CancellationToken stopping)
    {
        while (await waiting.Reader.WaitToReadAsync(stopping))
        {
            await Task.Delay(pause, stopping);
            var together = new HashSet<(string Site, string Topic, string By, Guid Act)>();
            while (waiting.Reader.TryRead(out var one))
                together.Add(one);
            foreach (var group in together.GroupBy(t => (t.Site, t.By)))
                await hub
                    .Clients.Group(group.Key.Site)
                    .SendAsync(
                        "changed",
                        new Changed([.. group.Select(g => g.Topic).Distinct()], group.Key.By, [.. group.Select(g => g.Act).Distinct()]),
                        CancellationToken.None
                    );
            Succeeded();
        }
    }
}
