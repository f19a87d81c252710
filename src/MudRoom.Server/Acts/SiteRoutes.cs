using Microsoft.AspNetCore.Mvc;
using MudRoom.Core;
using MudRoom.Core.Site;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Acts;

/// <summary>The right an endpoint asks for. Every endpoint of a site has one.</summary>
public sealed record RightNeeded(Right Right);

/// <summary>
/// The endpoints of a site, all under /api/{site}. <see cref="VisitMaker"/> asks, before anything else: signed in, this site, this right,
/// and for what changes things the anti-forgery token.
/// </summary>
public sealed class SiteRoutes
{
    readonly RouteGroupBuilder group;

    /// <summary>Opens the group.</summary>
    public SiteRoutes(IEndpointRouteBuilder app) => group = app.MapGroup("/api/{site}");

    /// <summary>A question: reads, changes nothing.</summary>
    public void Ask(string path, Right right, Delegate handler) =>
        group.MapGet(path, handler).WithMetadata(new RightNeeded(right)).WithName(NameOf("ask", path)).ProducesProblem(403).ProducesProblem(404);

    /// <summary>A question with a body, too large for an address: changes nothing.</summary>
    public void Check<TRequest, TResult>(string path, Right right, Func<Visit, TRequest, Task<TResult>> run) where TRequest : notnull =>
        group.MapPost(path, ([FromBody] TRequest request, Visit visit) => run(visit, request))
            .WithMetadata(new RightNeeded(right)).WithName(NameOf("check", path)).ProducesProblem(400).ProducesProblem(403);

    /// <summary>An act: changes something, once for its id.</summary>
    /// <param name="before">What takes long and needs no writing, such as looking at a password: asked before the write desk.</param>
    public void Act<TRequest, TAnswer>(
        string path, Right right, Func<Act, TRequest, Task<Outcome<TAnswer>>> run, Func<Visit, TRequest, Task<Refusal?>>? before = null) where TRequest : notnull =>
        group.MapPost(path, async (
                [FromBody] TRequest request, [FromHeader(Name = "Act-Id")] Guid? actId, [FromHeader(Name = "Device")] string? device, Visit visit, ActRunner runner) =>
            {
                if (actId is not { } id)
                    return Problems.Of(new Refusal("act-id-missing", "The act has no id.", "Send the header Act-Id with a new UUID."));
                if (before is not null && await before(visit, request) is { } no) return Problems.Of(no);
                var outcome = await runner.Run(new ActFrom(visit.Site.Code, visit.Person, NameOfDevice(device), id), path, request, run);
                return outcome.Refused(out var refusal) ? Problems.Of(refusal) : (IResult)Results.Text(outcome.Value, "application/json");
            })
            .WithMetadata(new RightNeeded(right)).WithName(NameOf("act", path))
            .Produces<TAnswer>().ProducesProblem(400).ProducesProblem(403).ProducesProblem(409).ProducesProblem(422);

    static string NameOfDevice(string? device) => string.IsNullOrWhiteSpace(device) ? "unnamed" : device.Trim()[..Math.Min(40, device.Trim().Length)];

    static string NameOf(string kind, string path) => $"{kind} {path.Trim('/')}";
}

/// <summary>Asks who, where and with which right, before the endpoint binds its arguments.</summary>
public sealed class VisitMaker(RequestDelegate next)
{
    /// <summary>Makes the visit, or answers with the refusal.</summary>
    public async Task InvokeAsync(HttpContext http, SetUpStore setUps, TimeProvider clock, TokenCheck tokens)
    {
        if (http.GetEndpoint()?.Metadata.GetMetadata<RightNeeded>() is not { } needed)
        {
            await next(http);
            return;
        }

        var setUp = await setUps.Current();
        var refusal = Judge(http, setUp, needed.Right, out var site, out var person);
        if (refusal is null && !HttpMethods.IsGet(http.Request.Method) && !await tokens.Fits(http, person!.Id))
            refusal = new Refusal("token-missing", "The anti-forgery token is missing or old.", "Load the page again.");
        if (refusal is not null)
        {
            await Problems.Of(refusal).ExecuteAsync(http);
            return;
        }

        if (await TooLarge.Refuse(http) is { } large)
        {
            await Problems.Of(large).ExecuteAsync(http);
            return;
        }

        http.Items[typeof(Visit)] = new Visit(http, site!, person!, setUp, clock.GetUtcNow());
        await next(http);
    }

    static Refusal? Judge(HttpContext http, SetUp setUp, Right right, out WarehouseSite? site, out Person? person)
    {
        site = null;
        person = SignedIn.PersonOf(http.User, setUp);
        if (person is null) return new Refusal("not-signed-in", "You are not signed in.", "Sign in.");
        var code = http.GetRouteValue("site") as string ?? "";
        if (!setUp.Sites.TryGetValue(code, out site) || !person.Sites.Contains(site.Code))
            return new Refusal("site-not-yours", "You may not work at this site.", "Choose one of your sites, or ask the administrator.");
        if (!Rights.Allow(person.Roles, right))
            return new Refusal("right-missing", "You have not the right to do this.", $"Ask {Rights.WhoMay(right)}.");
        return null;
    }
}
