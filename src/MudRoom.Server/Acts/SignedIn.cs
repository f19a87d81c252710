using System.Security.Claims;
using MudRoom.Core.Site;

namespace MudRoom.Server.Acts;

/// <summary>From the cookie to the person. Roles and sites come from the set-up, so a leaver is out at once.</summary>
public static class SignedIn
{
    /// <summary>The person who is signed in and still active, or null.</summary>
    public static Person? PersonOf(ClaimsPrincipal? user, SetUp setUp) =>
        int.TryParse(user?.FindFirstValue(ClaimTypes.NameIdentifier), out var id)
        && setUp.People.GetValueOrDefault(id) is { Active: true } person
            ? person
            : null;
}
