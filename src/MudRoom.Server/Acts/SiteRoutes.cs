using System.Buffers;
using System.Globalization;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Acts;

/// <summary>The right an endpoint asks for. Every endpoint of a site has one.</summary>
public sealed record RightNeeded(Right Right);

/// <summary>What those who count blind get of an endpoint.</summary>
public enum BlindView
{
    /// <summary>Nothing: it may carry or imply what is expected.</summary>
    Shut,

    /// <summary>An answer that neither carries nor implies what is expected.</summary>
    Open,
}

/// <summary>An act that waited on a device.</summary>
/// <param name="Id">Made by the device when it was done there.</param>
public sealed record WaitingAct<T>(Guid Id, T Request);

/// <summary>How an act that waited was answered: by its answer, or by why it was refused.</summary>
public sealed record SentAct<T>(Guid Id, T? Answer, Refusal? Problem);

/// <summary>Says of an endpoint what those who count blind get of it.</summary>
public sealed record BlindAccess(BlindView View);

/// <summary>
/// The endpoints of a site, all under /api/{site}. <see cref="InquiryMaker"/> asks, before anything else: signed in, this site, this right,
/// and for what changes things the anti-forgery token.
/// </summary>
public sealed class SiteRoutes
{
    const int MostTogether = 64;
    readonly RouteGroupBuilder group;

    /// <summary>Opens the group.</summary>
    public SiteRoutes(IEndpointRouteBuilder app) => group = app.MapGroup("/api/{site}");

    /// <summary>A question: reads, changes nothing.</summary>
    /// <param name="blind">What those who count blind get; shut unless it is said otherwise.</param>
    public void Ask(string path, Right right, Delegate handler, BlindView blind = BlindView.Shut) =>
        Map(HttpMethods.Get, path, handler)
            .WithMetadata(new RightNeeded(right), new BlindAccess(blind))
            .WithName(NameOf("ask", path))
            .ProducesProblem(403)
            .ProducesProblem(404);

    /// <summary>A question with a body, too large for an address: changes nothing.</summary>
    public void Check<TRequest, TResult>(
        string path,
        Right right,
        Func<Inquiry, TRequest, Task<TResult>> run,
        BlindView blind = BlindView.Shut,
        long mostBytes = Edge.UsualBytes
    )
        where TRequest : notnull =>
        Map(HttpMethods.Post, path, ([FromBody] TRequest request, Inquiry inquiry) => run(inquiry, request))
            .WithMetadata(new RightNeeded(right), new BlindAccess(blind), new RequestSizeLimitAttribute(mostBytes))
            .WithName(NameOf("check", path))
            .ProducesProblem(400)
            .ProducesProblem(403);

    /// <summary>An act: changes something, once for its id.</summary>
    /// <param name="before">What takes long and needs no writing, such as looking at a password: asked before the write desk.</param>
    /// <param name="prepare">What takes long and changes the request, such as turning a photograph: done before the write desk.</param>
    /// <param name="blind">Whether those who count blind may do it; shut unless it is said otherwise.</param>
    /// <param name="mostBytes">Largest body: much only where files are sent.</param>
    public void Act<TRequest, TAnswer>(
        string path,
        Right right,
        Func<Act, TRequest, Task<Outcome<TAnswer>>> run,
        Func<Inquiry, TRequest, Task<Refusal?>>? before = null,
        Func<TRequest, Outcome<TRequest>>? prepare = null,
        BlindView blind = BlindView.Shut,
        long mostBytes = Edge.UsualBytes
    )
        where TRequest : notnull =>
        Map(
                HttpMethods.Post,
                path,
                async (
                    [FromBody] TRequest request,
                    [FromHeader(Name = "Act-Id")] Guid? actId,
                    [FromHeader(Name = "Device")] string? device,
                    Inquiry inquiry,
                    ActRunner runner
                ) =>
                {
                    if (actId is not { } id)
                        return Problems.Of(
                            new Refusal(HouseRefusals.ActIdMissing, "The act has no id.", "Send the header Act-Id with a new UUID.")
                        );
                    if (before is not null && await before(inquiry, request) is { } no)
                        return Problems.Of(no);
                    if (prepare is not null)
                    {
                        var prepared = prepare(request);
                        if (prepared.Refused(out var unfit))
                            return Problems.Of(unfit);
                        request = prepared.Value;
                    }

                    var outcome = await runner.Run(
                        new ActFrom(inquiry.Site.Code, inquiry.Person, NameOfDevice(device), id),
                        path,
                        request,
                        run
                    );
                    return outcome.Refused(out var refusal)
                        ? Problems.Of(refusal)
                        : (IResult)Results.Text(outcome.Value, "application/json");
                }
            )
            .WithMetadata(new RightNeeded(right), new BlindAccess(blind), new RequestSizeLimitAttribute(mostBytes))
            .WithName(NameOf("act", path))
            .Produces<TAnswer>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(409)
            .ProducesProblem(422);

    /// <summary>An act that takes long: it brings itself to the write desk, in pieces; done once for its id as any other.</summary>
    public void LongAct<TRequest, TAnswer>(
        string path,
        Right right,
        Func<ActFrom, TRequest, IServiceProvider, Task<Outcome<string>>> run,
        long mostBytes
    )
        where TRequest : notnull =>
        Map(
                HttpMethods.Post,
                path,
                async (
                    [FromBody] TRequest request,
                    [FromHeader(Name = "Act-Id")] Guid? actId,
                    [FromHeader(Name = "Device")] string? device,
                    Inquiry inquiry
                ) =>
                {
                    if (actId is not { } id)
                        return Problems.Of(
                            new Refusal(HouseRefusals.ActIdMissing, "The act has no id.", "Send the header Act-Id with a new UUID.")
                        );
                    var outcome = await run(
                        new ActFrom(inquiry.Site.Code, inquiry.Person, NameOfDevice(device), id),
                        request,
                        inquiry.Http.RequestServices
                    );
                    return outcome.Refused(out var refusal)
                        ? Problems.Of(refusal)
                        : (IResult)Results.Text(outcome.Value, "application/json");
                }
            )
            .WithMetadata(new RightNeeded(right), new BlindAccess(BlindView.Shut), new RequestSizeLimitAttribute(mostBytes))
            .WithName(NameOf("act", path))
            .Produces<TAnswer>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(409)
            .ProducesProblem(422);

    /// <summary>
    /// Several acts of one kind that waited on a device, sent together: each with its own id, done once, in order, and answered by itself;
    /// one that is
    /// refused keeps none of the others back. They lie at the write desk at the same time, so they are committed together.
    /// </summary>
    /// <param name="path">Where they are sent.</param>
    /// <param name="single">The path of one alone: an act sent both ways is the same act.</param>
    public void Acts<TRequest, TAnswer>(
        string path,
        string single,
        Right right,
        Func<Act, TRequest, Task<Outcome<TAnswer>>> run,
        BlindView blind
    )
        where TRequest : notnull =>
        Map(
                HttpMethods.Post,
                path,
                async (
                    [FromBody] IReadOnlyList<WaitingAct<TRequest>> waiting,
                    [FromHeader(Name = "Device")] string? device,
                    Inquiry inquiry,
                    ActRunner runner
                ) =>
                {
                    if (waiting.Count is 0 or > MostTogether)
                        return Problems.Of(
                            new Refusal(
                                HouseRefusals.ActsCount,
                                $"1 to {MostTogether} acts are sent together.",
                                "Send the rest behind them."
                            )
                        );
                    if (waiting.Any(w => w is null || w.Request is null || w.Id == Guid.Empty))
                        return Problems.Of(
                            new Refusal(
                                HouseRefusals.ActIdMissing,
                                "One of the acts has no id or no content.",
                                "Give every act an id of its own."
                            )
                        );
                    var outcomes = await Task.WhenAll(
                        waiting.Select(w =>
                            runner.Run(new ActFrom(inquiry.Site.Code, inquiry.Person, NameOfDevice(device), w.Id), single, w.Request, run)
                        )
                    );
                    var json = new ArrayBufferWriter<byte>(512 * waiting.Count);
                    using (var writer = new Utf8JsonWriter(json))
                    {
                        writer.WriteStartArray();
                        for (var i = 0; i < outcomes.Length; i++)
                            Write(writer, waiting[i].Id, outcomes[i]);
                        writer.WriteEndArray();
                    }

                    return Results.Bytes(json.WrittenMemory, "application/json");
                }
            )
            .WithMetadata(new RightNeeded(right), new BlindAccess(blind), new RequestSizeLimitAttribute(Edge.TogetherBytes))
            .WithName(NameOf("acts", path))
            .Produces<IReadOnlyList<SentAct<TAnswer>>>()
            .ProducesProblem(400)
            .ProducesProblem(403);

    static void Write(Utf8JsonWriter writer, Guid id, Outcome<string> outcome)
    {
        writer.WriteStartObject();
        writer.WriteString("id", id);
        if (outcome.Refused(out var no))
        {
            writer.WriteStartObject("problem");
            writer.WriteString("code", no.Code);
            writer.WriteString("sentence", no.Sentence);
            writer.WriteString("next", no.Next);
            writer.WriteEndObject();
        }
        else
        {
            writer.WritePropertyName("answer");
            writer.WriteRawValue(outcome.Value, skipInputValidation: true);
        }

        writer.WriteEndObject();
    }

    /// <summary>A device's own name, as the book keeps it.</summary>
    public static string NameOfDevice(string? device) =>
        string.IsNullOrWhiteSpace(device) ? "unnamed" : device.Trim()[..Math.Min(40, device.Trim().Length)];

    RouteHandlerBuilder Map(string method, string path, Delegate handler) => group.MapAtFirst(method, path, handler, Edge.Check);

    static string NameOf(string kind, string path) => $"{kind} {path.Trim('/')}";
}

/// <summary>Asks who, where and with which right, before the endpoint binds its arguments.</summary>
public sealed class InquiryMaker(RequestDelegate next)
{
    /// <summary>Says with every answer which version of the set-up it was given by: what a device keeps for dead spots follows from
    /// it.</summary>
    public const string SetUpHeader = "Set-Up";

    /// <summary>Makes the inquiry, or answers with the refusal.</summary>
    public async Task InvokeAsync(HttpContext http, SetUpStore setUps, TimeProvider clock, TokenCheck tokens)
    {
        if (http.GetEndpoint()?.Metadata.GetMetadata<RightNeeded>() is not { } needed)
        {
            // A stranger's body is not read to its end for the sake of a sentence.
            if (TooLarge.Beyond(http) is { } beyond)
                await Problems.Of(beyond).ExecuteAsync(http);
            else
                await next(http);
            return;
        }

        var setUp = await setUps.Current();
        var refusal = Judge(http, setUp, needed.Right, out var site, out var person);
        if (refusal is null && !HttpMethods.IsGet(http.Request.Method) && !await tokens.Fits(http, person!.Id))
            refusal = new Refusal(HouseRefusals.TokenMissing, "The anti-forgery token is missing or old.", "Load the page again.");
        if (
            refusal is null
            && BlindCount.Applies(setUp.DoorSettings[site!.Id].Value, person!.Roles)
            && http.GetEndpoint()!.Metadata.GetMetadata<BlindAccess>() is not { View: BlindView.Open }
        )
            refusal = new Refusal(
                HouseRefusals.CountsBlind,
                $"{site!.Name} counts blind: whoever counts does not see what is expected.",
                "Ask a supervisor."
            );
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

        http.Response.Headers[SetUpHeader] = setUp.Version.ToString(CultureInfo.InvariantCulture);
        http.Items[typeof(Inquiry)] = new Inquiry(http, site!, person!, setUp, clock.GetUtcNow());
        await next(http);
    }

    static Refusal? Judge(HttpContext http, SetUp setUp, Right right, out WarehouseSite? site, out Person? person)
    {
        site = null;
        person = SignedIn.PersonOf(http.User, setUp);
        if (person is null)
            return new Refusal(HouseRefusals.NotSignedIn, "You are not signed in.", "Sign in.");
        var code = http.GetRouteValue("site") as string ?? "";
        if (!setUp.Sites.TryGetValue(code, out site) || !person.Sites.Contains(site.Code))
            return new Refusal(
                HouseRefusals.SiteNotYours,
                "You may not work at this site.",
                "Choose one of your sites, or ask the administrator."
            );
        if (!Rights.Allow(person.Roles, right))
            return new Refusal(HouseRefusals.RightMissing, "You have not the right to do this.", $"Ask {Rights.WhoMay(right)}.");
        return null;
    }
}
