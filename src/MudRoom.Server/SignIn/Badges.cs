using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.SignIn;

/// <summary>A badge and PIN for a person; a blank badge takes it away, as when it is lost.</summary>
public sealed record GiveBadgeRequest(string SignInName, string? Badge, string? Pin);

/// <summary>Badges with PINs, for changing the person on a shared device.</summary>
public static class Badges
{
    public static void Map(SiteRoutes routes) => routes.Act<GiveBadgeRequest, DoneAnswer>("/site/people/badge", Right.SetUp, Give);

    /// <summary>Hash of a PIN, as passwords are hashed.</summary>
    public static string Hash(SignInAccount account, string pin) => new PasswordHasher<SignInAccount>().HashPassword(account, pin);

    public static async Task<Outcome<DoneAnswer>> Give(Act act, GiveBadgeRequest request)
    {
        var name = (request.SignInName ?? "").Trim().ToUpperInvariant();
        var account = await act.Db.Users.FirstOrDefaultAsync(u => u.NormalizedUserName == name);
        if (account is null || act.SetUp.People.GetValueOrDefault(account.Id) is not { } person)
            return Problems.NotFound("person", request.SignInName ?? "");
        if (Access.Borders(act.Person, person) is { } border)
            return border;
        var badge = request.Badge.OrNull();
        if (badge is null)
        {
            (account.Badge, account.PinHash) = (null, null);
            // Whoever is signed in by the lost badge is asked again.
            act.EndSessions(account);
            act.Write(new BadgeTaken(person.SignInName, person.Name) { About = [new Reference(ReferenceKind.Person, person.Id)] });
            return new DoneAnswer($"{person.Name} has no badge any more.");
        }

        if (badge.Length is < 6 or > 40)
            return new Refusal(HouseRefusals.BadgeShape, "A badge number has 6 to 40 characters.", "Scan the badge.");
        if (request.Pin is not { Length: >= 4 and <= 12 } pin || !pin.All(char.IsAsciiDigit))
            return new Refusal(HouseRefusals.PinShape, "A PIN has 4 to 12 digits.", "Type another one.");
        if (await act.Db.Users.AnyAsync(u => u.Badge == badge && u.Id != account.Id))
            return new Refusal(HouseRefusals.BadgeTaken, "Somebody else carries this badge.", "Take it from them first.");
        // A new badge in the place of another one: whoever is signed in by the old one is asked again.
        if (account.Badge is not null && account.Badge != badge)
            act.EndSessions(account);
        (account.Badge, account.PinHash) = (badge, Hash(account, pin));
        act.Write(new BadgeGiven(person.SignInName, person.Name) { About = [new Reference(ReferenceKind.Person, person.Id)] });
        act.Touch("site");
        return new DoneAnswer($"{person.Name} signs in by badge and PIN.");
    }
}
