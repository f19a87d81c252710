using System.Collections.Concurrent;
using System.Security.Claims;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.SignalR;
using MudRoom.Server.Acts;

namespace MudRoom.Server.SignIn;

/// <summary>
/// Ends sessions and live lines at once. The security stamp of an account is Identity's own means and is looked at every minute; a stamp
/// that this
/// server has changed is known here, so that the next request of the old session is refused already. One server has one database, so it
/// knows all.
/// </summary>
public sealed class Sessions
{
    const string StampClaim = "AspNet.Identity.SecurityStamp";
    readonly ConcurrentDictionary<int, string> changed = new();
    readonly ConcurrentDictionary<string, HubCallerContext> lines = new();

    /// <summary>The stamp of somebody has changed: every session that carries another has ended, and its live lines with it.</summary>
    public void StampChanged(int personId, string? stamp)
    {
        changed[personId] = stamp ?? "";
        Sweep(context => PersonOf(context.User) != personId || !HasEnded(context.User));
    }

    /// <summary>True when a session carries a stamp that was changed since.</summary>
    public bool HasEnded(ClaimsPrincipal? user) =>
        PersonOf(user) is { } id && changed.TryGetValue(id, out var stamp) && user!.FindFirstValue(StampClaim) != stamp;

    /// <summary>The people have changed: lines of those who left, or may not work at the site any more, are cut.</summary>
    public void PeopleChanged(SetUp setUp) =>
        Sweep(context =>
            SignedIn.PersonOf(context.User, setUp) is { } person
            && (context.Items["site"] is not string site || person.Sites.Contains(site))
        );

    /// <summary>Keeps a live line in mind as long as it is open.</summary>
    public void Opened(HubCallerContext line) => lines[line.ConnectionId] = line;

    public void Closed(HubCallerContext line) => lines.TryRemove(line.ConnectionId, out _);

    /// <summary>Looked at with every request: first what is known here, then Identity's own validation of the stamp.</summary>
    public static Task Validate(CookieValidatePrincipalContext context)
    {
        if (!context.HttpContext.RequestServices.GetRequiredService<Sessions>().HasEnded(context.Principal))
            return SecurityStampValidator.ValidatePrincipalAsync(context);
        context.RejectPrincipal();
        return Task.CompletedTask;
    }

    void Sweep(Func<HubCallerContext, bool> stays)
    {
        foreach (var line in lines.Values.Where(l => !stays(l)))
            line.Abort();
    }

    static int? PersonOf(ClaimsPrincipal? user) => int.TryParse(user?.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : null;
}
