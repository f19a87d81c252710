using System.Reflection;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;
using MudRoom.Core;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Acts;

/// <summary>Who does an act, from where, under which id.</summary>
/// <param name="SiteCode">The site.</param>
/// <param name="Person">Who.</param>
/// <param name="Device">The device's own name.</param>
/// <param name="Id">Made by the device; the same id does the thing once.</param>
public sealed record ActFrom(string SiteCode, Person Person, string Device, Guid Id)
{
    /// <summary>Who imports what comes by the folder: no one of flesh and blood, with the right to keep orders and no other.</summary>
    public static Person Nobody { get; } =
        new()
        {
            Id = 0,
            Name = "watched folder",
            SignInName = "",
            Roles = [Role.Buyer],
            Sites = [],
        };

    /// <summary>Who does what a rule says when its time has come, with the right to nothing.</summary>
    public static Person ByRule { get; } =
        new()
        {
            Id = 0,
            Name = "rule",
            SignInName = "",
            Roles = [],
            Sites = [],
        };
}

/// <summary>Runs acts at the write desk: once each, all or nothing, told to the others when durable.</summary>
public sealed class ActRunner(
    WriteDesk desk,
    SetUpStore setUps,
    TimeProvider clock,
    Announcer announcer,
    Sessions sessions,
    IEnumerable<IAfterAct> followers,
    IOptions<JsonOptions> json
)
{
    static readonly JsonSerializerOptions withoutSecrets = new(JsonSerializerDefaults.Web)
    {
        TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { LeaveSecretsOut } },
        Converters = { new JsonStringEnumConverter() },
    };

    /// <summary>Runs one act.</summary>
    /// <returns>The answer as JSON, or the refusal.</returns>
    public async Task<Outcome<string>> Run<TRequest, TAnswer>(
        ActFrom from,
        string path,
        TRequest request,
        Func<Act, TRequest, Task<Outcome<TAnswer>>> run
    )
    {
        var content = ContentOf(request);
        Act? act = null;
        Task<Outcome<string>> Write() =>
            desk.Do(async scope =>
            {
                if (scope.FindDone(from.Id) is { } done)
                    return (Again(done, from, path, content), false);
                act = new Act(scope, from.SiteCode, from.Person, await setUps.For(scope.Db), clock.GetUtcNow(), from.Device, from.Id);
                var result = await run(act, request);
                if (result.Refused(out var refusal))
                    return (refusal, false);
                if (act.SetUpChanged != SetUpParts.None)
                {
                    if (setUps.KeptFor is { } other && other != from.Id)
                        return (Busy, false);
                    await SetUp.CountChange(scope.Db);
                    setUps.ChangedAtDesk(from.Id, act.SetUpChanged);
                }

                foreach (var follower in followers)
                    await follower.After(act);
                var answer = JsonSerializer.Serialize(result.Value, json.Value.SerializerOptions);
                scope.Append(
                    new DoneAct
                    {
                        Id = from.Id,
                        Path = path,
                        PersonId = from.Person.Id,
                        At = act.Now,
                        Answer = answer,
                        Content = content,
                    }
                );
                return ((Outcome<string>)answer, true);
            });
        try
        {
            var outcome = await Write();
            if (outcome.Refusal is null && act is not null)
            {
                foreach (var (person, stamp) in act.EndedSessions)
                    sessions.StampChanged(person, stamp);
                if (act.SetUpChanged != SetUpParts.None)
                    sessions.PeopleChanged(await setUps.Renew(from.Id, act.SetUpChanged));
                announcer.Tell(from.SiteCode, act.Touched, from.Person.Name, from.Id);
            }

            return outcome;
        }
        finally
        {
            setUps.Settled(from.Id);
        }
    }

    /// <summary>The answer of an act that was done under this id before; null where it was not.</summary>
    public Task<Outcome<string>?> DoneBefore<TRequest>(ActFrom from, string path, TRequest request)
    {
        var content = ContentOf(request);
        return desk.Do(scope =>
            Task.FromResult((scope.FindDone(from.Id) is { } done ? Again(done, from, path, content) : (Outcome<string>?)null, false))
        );
    }

    static Refusal Busy { get; } =
        new(HouseRefusals.SetUpBusy, "A file of the set-up is being taken in just now. Nothing was changed.", "Try again in a moment.");

    static Outcome<string> Again(DoneAct done, ActFrom from, string path, string content) =>
        done.Path == path && done.PersonId == from.Person.Id && (done.Content is null || done.Content == content)
            ? done.Answer
            : new Refusal(HouseRefusals.ActIdUsed, "This act id was used for something else.", "Give every act an id of its own.");

    /// <summary>What was asked, as a hash: passwords and PINs are no part of it, since a hash of them would be worth guessing at.</summary>
    static string ContentOf<TRequest>(TRequest request) =>
        Convert.ToHexStringLower(SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(request, withoutSecrets)));

    static void LeaveSecretsOut(JsonTypeInfo type)
    {
        if (type.Kind != JsonTypeInfoKind.Object)
            return;
        foreach (
            var left in type.Properties.Where(p => IsSecret(p.Name) || p.AttributeProvider is PropertyInfo { CanWrite: false }).ToList()
        )
            type.Properties.Remove(left);

        // What is worked out of the rest says nothing more.
        static bool IsSecret(string name) =>
            name.Contains("password", StringComparison.OrdinalIgnoreCase) || name.Equals("pin", StringComparison.OrdinalIgnoreCase);
    }
}
