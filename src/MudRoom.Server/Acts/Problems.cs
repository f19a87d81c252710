using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.HttpResults;
using MudRoom.Core;
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
            statusCode: Status(refusal.Code),
            type: "urn:mud-room:" + refusal.Code,
            extensions: new Dictionary<string, object?> { ["code"] = refusal.Code, ["next"] = refusal.Next }
        );

    /// <summary>An outcome as 200 or a problem.</summary>
    public static Results<Ok<T>, ProblemHttpResult> Answer<T>(Outcome<T> outcome) =>
        outcome.Refused(out var refusal) ? Of(refusal) : TypedResults.Ok(outcome.Value);

    /// <summary>Nothing of that number is here.</summary>
    public static Refusal NotFound(string what, string which) =>
        new("not-found", $"There is no {what} {which} at this site.", "Look at the number again, or find it in Book.");

    /// <summary>What could not even be read, and what broke: a sentence, and nothing of the inside.</summary>
    public static async Task Handle(HttpContext http)
    {
        var failure = http.Features.Get<IExceptionHandlerFeature>()?.Error;
        var refusal =
            failure is BadHttpRequestException { StatusCode: 413 } ? TooLarge.Beyond(TooLarge.MostOf(http))
            : failure is BadHttpRequestException
                ? new Refusal(
                    "unreadable",
                    "The request could not be read: a field is missing or holds what it cannot hold.",
                    "Look at what was sent."
                )
            : OfFailure(failure);
        var problem = Of(refusal);
        problem.ProblemDetails.Status =
            failure is BadHttpRequestException bad ? bad.StatusCode
            : refusal.Code == "broken" ? 500
            : Status(refusal.Code);
        http.Response.StatusCode = problem.ProblemDetails.Status.Value;
        await http.Response.WriteAsJsonAsync(problem.ProblemDetails, options: null, contentType: "application/problem+json");
    }

    /// <summary>What broke, in a sentence that gives nothing of the inside away; a full disk is told apart, for somebody can do something
    /// about it.</summary>
    public static Refusal OfFailure(Exception? failure) =>
        DatabaseFailure.IsFull(failure)
            ? new Refusal(
                "disk-full",
                "The server's disk is full. Nothing was changed.",
                "Tell the administrator to make room; what was sent is taken when there is some."
            )
            : new Refusal(
                "broken",
                "Something broke on our side. Nothing was changed.",
                "Try again. If it stays, tell the administrator the time."
            );

    static int Status(string code) =>
        code switch
        {
            "not-found" => 404,
            "not-signed-in" or "sign-in-failed" or "locked-out" or "badge-locked" or "password-must-change" => 401,
            "too-many-tries" => 429,
            "disk-full" => 507,
            "right-missing" or "site-not-yours" => 403,
            "act-id-missing" or "token-missing" or "unreadable" => 400,
            "file-too-large" => 413,
            "act-id-used"
            or "door-taken"
            or "job-taken"
            or "signed"
            or "tally-closed"
            or "hold-lifted"
            or "sample-drawn"
            or "plan-moved"
            or "decided" => 409,
            _ => 422,
        };
}
