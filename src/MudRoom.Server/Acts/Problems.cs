using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.HttpResults;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Data;

namespace MudRoom.Server.Acts;

/// <summary>Refusals over HTTP, as problems by RFC 9457: the code, the sentence and the next step.</summary>
public static class Problems
{
    /// <summary>A refusal as a problem.</summary>
    public static ProblemHttpResult Of(Refusal refusal) =>
        TypedResults.Problem(
            detail: refusal.Sentence,
            title: "Refused",
            statusCode: refusal.Kind.Status,
            type: "urn:mud-room:" + refusal.Code,
            extensions: new Dictionary<string, object?> { ["code"] = refusal.Code, ["next"] = refusal.Next }
        );

    /// <summary>An outcome as 200 or a problem.</summary>
    public static Results<Ok<T>, ProblemHttpResult> Answer<T>(Outcome<T> outcome) =>
        outcome.Refused(out var refusal) ? Of(refusal) : TypedResults.Ok(outcome.Value);

    /// <summary>Nothing of that number is here.</summary>
    public static Refusal NotFound(string what, string which) =>
        new(HouseRefusals.NotFound, $"There is no {what} {which} at this site.", "Look at the number again, or find it in Book.");

    /// <summary>What could not even be read, and what broke: a sentence, and nothing of the inside.</summary>
    public static async Task Handle(HttpContext http)
    {
        var failure = http.Features.Get<IExceptionHandlerFeature>()?.Error;
        var refusal =
            failure is BadHttpRequestException { StatusCode: 413 } ? TooLarge.Beyond(TooLarge.MostOf(http))
            : failure is BadHttpRequestException
                ? new Refusal(
                    HouseRefusals.Unreadable,
                    "The request could not be read: a field is missing or holds what it cannot hold.",
                    "Look at what was sent."
                )
            : OfFailure(failure);
        var problem = Of(refusal);
        problem.ProblemDetails.Status = failure is BadHttpRequestException bad ? bad.StatusCode : refusal.Kind.Status;
        http.Response.StatusCode = problem.ProblemDetails.Status.Value;
        await http.Response.WriteAsJsonAsync(problem.ProblemDetails, options: null, contentType: "application/problem+json");
    }

    /// <summary>What broke, in a sentence that gives nothing of the inside away; a full disk is told apart, for somebody can do something
    /// about it.</summary>
    public static Refusal OfFailure(Exception? failure) =>
        DatabaseFailure.IsFull(failure)
            ? new Refusal(
                HouseRefusals.DiskFull,
                "The server's disk is full. Nothing was changed.",
                "Tell the administrator to make room; what was sent is taken when there is some."
            )
            : new Refusal(
                HouseRefusals.Broken,
                "Something broke on our side. Nothing was changed.",
                "Try again. If it stays, tell the administrator the time."
            );
}
