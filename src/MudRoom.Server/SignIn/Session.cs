using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.SignIn;

/// <summary>Name and password.</summary>
public sealed record SignInRequest(string Name, string Password);

/// <summary>A scanned badge and its PIN, to change the person on a shared device.</summary>
public sealed record BadgeRequest(string Badge, string Pin);

/// <summary>A site the person may work at.</summary>
/// <param name="TimeZone">IANA name: times are shown by the clock of the site.</param>
public sealed record SiteChoice(string Code, string Name, string TimeZone);

/// <summary>Who is signed in, what they may do, and the token that acts must carry.</summary>
public sealed record SessionAnswer(
    bool SignedIn, int? PersonId, string? Name, IReadOnlyList<Role> Roles, IReadOnlyList<Right> Rights, IReadOnlyList<SiteChoice> Sites, string? Token, bool IsDemo);

/// <summary>Signing in and out. The only endpoints that a stranger may call.</summary>
public static class Session
{
    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/api/session", Get).AllowAnonymous().WithName("ask session");
        app.MapPost("/api/session", SignIn).AllowAnonymous().WithName("act sign in").ProducesProblem(401);
        app.MapPost("/api/session/badge", ByBadge).AllowAnonymous().WithName("act sign in by badge").ProducesProblem(401);
        app.MapDelete("/api/session", SignOut).AllowAnonymous().WithName("act sign out");
    }

    static async Task<Ok<SessionAnswer>> Get(HttpContext http, SetUpStore setUps, IAntiforgery antiforgery, Mode mode)
    {
        var setUp = await setUps.Current();
        return TypedResults.Ok(Answer(SignedIn.PersonOf(http.User, setUp), setUp, antiforgery.GetAndStoreTokens(http).RequestToken, mode));
    }

    static async Task<Results<Ok<SessionAnswer>, ProblemHttpResult>> SignIn(
        HttpContext http, SignInRequest request, UserManager<SignInAccount> accounts, SignInManager<SignInAccount> signIn, SetUpStore setUps, IAntiforgery antiforgery, Mode mode)
    {
        if (!await antiforgery.IsRequestValidAsync(http))
            return Problems.Of(new Refusal("token-missing", "The anti-forgery token is missing or old.", "Load the page again."));
        var setUp = await setUps.Current();
        var failed = new Refusal("sign-in-failed", "Name and password do not belong together.", "Try again. After five tries the name is locked for five minutes.");
        var account = await accounts.FindByNameAsync((request.Name ?? "").Trim());
        if (account is null || setUp.People.GetValueOrDefault(account.Id) is not { Active: true } person) return Problems.Of(failed);
        var result = await signIn.PasswordSignInAsync(account, request.Password ?? "", isPersistent: true, lockoutOnFailure: true);
        if (result.IsLockedOut)
            return Problems.Of(new Refusal("locked-out", "Too many tries: this name is locked for five minutes.", "Wait, or ask the administrator."));
        if (!result.Succeeded) return Problems.Of(failed);
        // The token belongs to who is signed in: the page asks for a new one with its next look at the session.
        return TypedResults.Ok(Answer(person, setUp, null, mode));
    }

    /// <summary>Signs in who carries the badge; wrong PINs count against the same lock as passwords.</summary>
    static async Task<Results<Ok<SessionAnswer>, ProblemHttpResult>> ByBadge(
        HttpContext http, BadgeRequest request, UserManager<SignInAccount> accounts, SignInManager<SignInAccount> signIn, SetUpStore setUps, IAntiforgery antiforgery, Mode mode)
    {
        if (!await antiforgery.IsRequestValidAsync(http))
            return Problems.Of(new Refusal("token-missing", "The anti-forgery token is missing or old.", "Load the page again."));
        var setUp = await setUps.Current();
        var failed = new Refusal("sign-in-failed", "Badge and PIN do not belong together.", "Try again. After five tries the badge is locked for five minutes.");
        var badge = (request.Badge ?? "").Trim();
        var account = badge.Length == 0 ? null : await accounts.Users.FirstOrDefaultAsync(a => a.Badge == badge);
        if (account?.PinHash is null || setUp.People.GetValueOrDefault(account.Id) is not { Active: true } person) return Problems.Of(failed);
        if (await accounts.IsLockedOutAsync(account))
            return Problems.Of(new Refusal("locked-out", "Too many tries: this badge is locked for five minutes.", "Wait, or sign in with name and password later."));
        if (accounts.PasswordHasher.VerifyHashedPassword(account, account.PinHash, request.Pin ?? "") == PasswordVerificationResult.Failed)
        {
            await accounts.AccessFailedAsync(account);
            return Problems.Of(failed);
        }

        await accounts.ResetAccessFailedCountAsync(account);
        await signIn.SignInAsync(account, isPersistent: true);
        return TypedResults.Ok(Answer(person, setUp, null, mode));
    }

    static async Task<Results<Ok, ProblemHttpResult>> SignOut(HttpContext http, SignInManager<SignInAccount> signIn, IAntiforgery antiforgery)
    {
        if (!await antiforgery.IsRequestValidAsync(http))
            return Problems.Of(new Refusal("token-missing", "The anti-forgery token is missing or old.", "Load the page again."));
        await signIn.SignOutAsync();
        return TypedResults.Ok();
    }

    static SessionAnswer Answer(Person? person, SetUp setUp, string? token, Mode mode) => person is null
        ? new SessionAnswer(false, null, null, [], [], [], token, mode.IsDemo)
        : new SessionAnswer(
            true, person.Id, person.Name, person.Roles, Rights.Of(person.Roles),
            [.. person.Sites.Where(setUp.Sites.ContainsKey).Select(s => new SiteChoice(s, setUp.Sites[s].Name, setUp.Sites[s].TimeZone))], token, mode.IsDemo);
}
