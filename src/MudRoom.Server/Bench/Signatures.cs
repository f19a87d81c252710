using System.Globalization;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Bench;

/// <summary>Signatures: the one who is signed in signs, with their own password again.</summary>
public static class Signatures
{
    /// <summary>Why a signature does not hold; null where it does. A wrong one counts like a wrong password.</summary>
    public static async Task<Refusal?> IsNotThem(Inquiry inquiry, string? signer, string password)
    {
        var wrong = new Refusal(
            BenchRefusals.SignatureWrong,
            "Name and password are not those of who is signed in.",
            "Type your own name and password."
        );
        return IsCalled(inquiry.Person, signer ?? "") ? await IsNotOf(inquiry, inquiry.Person, password, wrong) : wrong;
    }

    /// <summary>Why the signature of somebody who stands beside who is signed in does not hold; null where it does. They must work at the
    /// site. A wrong one counts like a wrong password of theirs.</summary>
    public static async Task<Refusal?> IsNotTheirs(Inquiry inquiry, string? signer, string password)
    {
        var wrong = new Refusal(
            BenchRefusals.SignatureWrong,
            "Name and password are not those of somebody who works here.",
            "Have them type their own name and password."
        );
        var person = inquiry.SetUp.People.Values.FirstOrDefault(p => IsCalled(p, signer ?? ""));
        return person is { Active: true } && person.Sites.Contains(inquiry.Site.Code)
            ? await IsNotOf(inquiry, person, password, wrong)
            : wrong;
    }

    /// <summary>True where somebody is called so, or signs in so.</summary>
    public static bool IsCalled(Person person, string typed) =>
        typed.Trim() is var name
        && (
            name.Equals(person.SignInName, StringComparison.OrdinalIgnoreCase)
            || name.Equals(person.Name, StringComparison.OrdinalIgnoreCase)
        );

    static async Task<Refusal?> IsNotOf(Inquiry inquiry, Person person, string password, Refusal wrong)
    {
        var entrance = inquiry.Http.RequestServices.GetRequiredService<Session.Entrance>();
        if (await entrance.Accounts.FindByIdAsync(person.Id.ToString(CultureInfo.InvariantCulture)) is not { } account)
            return wrong;
        return await entrance.Check(inquiry.Http, account, password) is { } no
            ? no.Kind == HouseRefusals.SignInFailed
                ? wrong
                : no
            : null;
    }
}
