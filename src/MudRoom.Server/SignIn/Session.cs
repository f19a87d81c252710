using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.SignIn;

/// <summary>Name and password.</summary>
public sealed record SignInRequest(string Name, string Password);

/// <summary>One's own password anew: the old one, or the one-time password of an administrator, and the new.</summary>
public sealed record OwnPasswordRequest(string Name, string Password, string NewPassword);

/// <summary>A scanned badge and its PIN, to change the person on a shared device.</summary>
public sealed record BadgeRequest(string Badge, string Pin);

/// <summary>A site the person may work at.</summary>
/// <param name="TimeZone">IANA name: times are shown by the clock of the site.</param>
/// <param name="DateForm">How dates are typed there beside ISO.</param>
public sealed record SiteChoice(string Code, string Name, string TimeZone, ScannerSettings Scanner, DateForm DateForm);

/// <summary>Who is signed in, what they may do, and the token that acts must carry.</summary>
public sealed record SessionAnswer(
    bool SignedIn,
    int? PersonId,
    string? Name,
    IReadOnlyList<Role> Roles,
    IReadOnlyList<Right> Rights,
    IReadOnlyList<SiteChoice> Sites,
    string? Token,
    bool IsDemo
);

/// <summary>Signing in and out. The only endpoints that a stranger may call.</summary>
public static class Session
{
    /// <summary>Largest body: a name and two passwords.</summary>
    const int MostBytes = 4096;

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/api/session", Get).AllowAnonymous().WithName("ask session");
        Open(app.MapPost("/api/session", SignIn), "act sign in");
        Open(app.MapPost("/api/session/badge", ByBadge), "act sign in by badge");
        Open(app.MapPost("/api/session/password", ChangePassword), "act change own password");
        app.MapDelete("/api/session", SignOut).AllowAnonymous().WithName("act sign out");
    }

    static void Open(RouteHandlerBuilder route, string name) =>
        route.AllowAnonymous().WithName(name).WithMetadata(new RequestSizeLimitAttribute(MostBytes)).ProducesProblem(401);

    static async Task<Ok<SessionAnswer>> Get(HttpContext http, SetUpStore setUps, IAntiforgery antiforgery, Mode mode)
    {
        var setUp = await setUps.Current();
        return TypedResults.Ok(Answer(SignedIn.PersonOf(http.User, setUp), setUp, antiforgery.GetAndStoreTokens(http).RequestToken, mode));
    }

    static async Task<Results<Ok<SessionAnswer>, ProblemHttpResult>> SignIn(HttpContext http, SignInRequest request, Entrance entrance)
    {
        var (who, refusal) = await entrance.Try(http, request.Name, request.Password);
        if (refusal is not null)
            return Problems.Of(refusal);
        if (who!.MustChange)
            return Problems.Of(MustChange);
        await entrance.SignIn.SignInAsync(who, isPersistent: true);
        // The token belongs to who is signed in: the page asks for a new one with its next look at the session.
        return TypedResults.Ok(await entrance.Answer(who));
    }

    static Refusal MustChange =>
        new(HouseRefusals.PasswordMustChange, "This password was given for one time only.", "Choose one of your own.");

    /// <summary>Everybody changes their own password; all other sessions of theirs end.</summary>
    static async Task<Results<Ok<SessionAnswer>, ProblemHttpResult>> ChangePassword(
        HttpContext http,
        OwnPasswordRequest request,
        Entrance entrance
    )
    {
        var (who, refusal) = await entrance.Try(http, request.Name, request.Password);
        if (refusal is not null)
            return Problems.Of(refusal);
        if (request.NewPassword == request.Password)
            return Problems.Of(new Refusal(HouseRefusals.PasswordSame, "The new password is the old one.", "Choose another one."));
        if ((request.NewPassword ?? "").Length > 200)
            return Problems.Of(new Refusal(HouseRefusals.PasswordWeak, "A password has at most 200 characters.", "Choose a shorter one."));
        var changed = await entrance.Accounts.ChangePasswordAsync(who!, request.Password, request.NewPassword ?? "");
        if (!changed.Succeeded)
            return Problems.Of(Weak(changed));
        who!.MustChange = false;
        await entrance.Accounts.UpdateAsync(who);
        entrance.Sessions.StampChanged(who.Id, who.SecurityStamp);
        await entrance.SignIn.SignInAsync(who, isPersistent: true);
        return TypedResults.Ok(await entrance.Answer(who));
    }

    /// <summary>What is wrong with a password that was chosen, in Identity's words.</summary>
    public static Refusal Weak(IdentityResult result) =>
        new(
            HouseRefusals.PasswordWeak,
            string.Join(" ", result.Errors.Select(e => e.Description)),
            "Choose a longer one that nobody would guess."
        );

    /// <summary>Signs in who carries the badge. Wrong PINs lock the badge on that device, never the person's password.</summary>
    static async Task<Results<Ok<SessionAnswer>, ProblemHttpResult>> ByBadge(HttpContext http, BadgeRequest request, Entrance entrance)
    {
        if (await entrance.Token(http) is { } noToken)
            return Problems.Of(noToken);
        if (entrance.Tries.FromAddress(http) is { } tooOften)
            return Problems.Of(tooOften);
        var failed = new Refusal(
            HouseRefusals.SignInFailed,
            "Badge and PIN do not belong together.",
            $"Try again. After {Tries.MostAtDevice} tries the badge is locked on this device for a while."
        );
        var badge = (request.Badge ?? "").Trim();
        var account = badge.Length == 0 ? null : await entrance.Accounts.Users.FirstOrDefaultAsync(a => a.Badge == badge);
        if (account?.PinHash is null || !await entrance.IsHere(account))
        {
            entrance.WorkInVain(request.Pin);
            entrance.Tries.Wrong(http);
            return Problems.Of(failed);
        }

        if (entrance.Tries.OfBadge(http, account.Id) is { } locked)
            return Problems.Of(locked);
        if (
            entrance.Accounts.PasswordHasher.VerifyHashedPassword(account, account.PinHash, request.Pin ?? "")
            == PasswordVerificationResult.Failed
        )
        {
            entrance.Tries.WrongPin(http, account.Id);
            entrance.Tries.Wrong(http);
            return Problems.Of(failed);
        }

        entrance.Tries.RightPin(http, account.Id);
        await entrance.SignIn.SignInAsync(account, isPersistent: true);
        return TypedResults.Ok(await entrance.Answer(account));
    }

    /// <summary>Signing out ends every session of the person: a cookie that was copied is worth nothing afterwards.</summary>
    static async Task<Results<Ok, ProblemHttpResult>> SignOut(HttpContext http, Entrance entrance)
    {
        if (await entrance.Token(http) is { } noToken)
            return Problems.Of(noToken);
        if (await entrance.Accounts.GetUserAsync(http.User) is { } account)
        {
            await entrance.Accounts.UpdateSecurityStampAsync(account);
            entrance.Sessions.StampChanged(account.Id, account.SecurityStamp);
        }

        await entrance.SignIn.SignOutAsync();
        return TypedResults.Ok();
    }

    static SessionAnswer Answer(Person? person, SetUp setUp, string? token, Mode mode) =>
        person is null
            ? new SessionAnswer(false, null, null, [], [], [], token, mode.IsDemo)
            : new SessionAnswer(
                true,
                person.Id,
                person.Name,
                person.Roles,
                Rights.Of(person.Roles),
                [
                    .. person
                        .Sites.Where(setUp.Sites.ContainsKey)
                        .Select(s => setUp.Sites[s])
                        .Select(s => new SiteChoice(s.Code, s.Name, s.TimeZone, s.Scanner, s.DateForm)),
                ],
                token,
                mode.IsDemo
            );

    /// <summary>What every way in needs.</summary>
    public sealed class Entrance(
        UserManager<SignInAccount> accounts,
        SignInManager<SignInAccount> signIn,
        SetUpStore setUps,
        IAntiforgery antiforgery,
        Mode mode,
        Sessions sessions,
        Tries tries
    )
    {
        static readonly SignInAccount nobody = SignInAccounts.New(
            new Person
            {
                Id = -1,
                Name = "",
                SignInName = "",
                Roles = [],
                Sites = [],
            },
            Guid.NewGuid().ToString()
        );

        public UserManager<SignInAccount> Accounts => accounts;
        public SignInManager<SignInAccount> SignIn => signIn;
        public Sessions Sessions => sessions;
        public Tries Tries => tries;

        /// <summary>The refusal of a request without its anti-forgery token.</summary>
        public async Task<Refusal?> Token(HttpContext http) =>
            await antiforgery.IsRequestValidAsync(http)
                ? null
                : new Refusal(HouseRefusals.TokenMissing, "The anti-forgery token is missing or old.", "Load the page again.");

        /// <summary>True while the person of an account works here.</summary>
        public async Task<bool> IsHere(SignInAccount account) =>
            (await setUps.Current()).People.GetValueOrDefault(account.Id) is { Active: true };

        /// <summary>As much work as looking at a password, so that the time does not tell whether a name is known.</summary>
        public void WorkInVain(string? password) =>
            _ = accounts.PasswordHasher.VerifyHashedPassword(nobody, nobody.PasswordHash!, password ?? "");

        /// <summary>Looks at name and password. Wrong ones count, against the name and against the address.</summary>
        public async Task<(SignInAccount? Account, Refusal? Refusal)> Try(HttpContext http, string? name, string? password)
        {
            if (await Token(http) is { } noToken)
                return (null, noToken);
            if (tries.FromAddress(http) is { } tooOften)
                return (null, tooOften);
            var account = await accounts.FindByNameAsync((name ?? "").Trim());
            if (account is null || !await IsHere(account))
            {
                WorkInVain(password);
                tries.Wrong(http);
                return (null, Failed);
            }

            var refusal = await Check(http, account, password);
            return refusal is null ? (account, null) : (null, refusal);
        }

        /// <summary>Looks at the password of a known account; wrong ones count against its lock, wherever they are typed.</summary>
        public async Task<Refusal?> Check(HttpContext http, SignInAccount account, string? password)
        {
            if (tries.FromAddress(http) is { } tooOften)
                return tooOften;
            var result = await signIn.CheckPasswordSignInAsync(account, password ?? "", lockoutOnFailure: true);
            if (result.Succeeded)
                return null;
            tries.Wrong(http);
            return result.IsLockedOut
                ? new Refusal(
                    HouseRefusals.LockedOut,
                    "Too many tries: this name is locked for five minutes.",
                    "Wait, or ask the administrator."
                )
                : Failed;
        }

        public async Task<SessionAnswer> Answer(SignInAccount account)
        {
            var setUp = await setUps.Current();
            return Session.Answer(setUp.People.GetValueOrDefault(account.Id), setUp, null, mode);
        }

        static Refusal Failed =>
            new(
                HouseRefusals.SignInFailed,
                "Name and password do not belong together.",
                "Try again. After five tries the name is locked for five minutes."
            );
    }
}
