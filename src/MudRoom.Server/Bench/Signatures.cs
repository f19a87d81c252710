using System.Globalization;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Server.Acts;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Bench;

/// <summary>Signatures: the one who is signed in signs, with their own password again.</summary>
public static class Signatures
{
    /// <summary>Why a signature does not hold; null where it does. A wrong one counts like a wrong password.</summary>
    public static async Task<Refusal?> IsNotThem(Inquiry inquiry, string? signer, string password)
    {
        var name = (signer ?? "").Trim();
        var wrong = new Refusal(
            BenchRefusals.SignatureWrong,
            "Name and password are not those of who is signed in.",
            "Type your own name and password."
        );
        if (
            !name.Equals(inquiry.Person.SignInName, StringComparison.OrdinalIgnoreCase)
            && !name.Equals(inquiry.Person.Name, StringComparison.OrdinalIgnoreCase)
        )
            return wrong;
        var entrance = inquiry.Http.RequestServices.GetRequiredService<Session.Entrance>();
        if (await entrance.Accounts.FindByIdAsync(inquiry.Person.Id.ToString(CultureInfo.InvariantCulture)) is not { } account)
            return wrong;
        return await entrance.Check(inquiry.Http, account, password) is { } no
            ? no.Kind == HouseRefusals.SignInFailed
                ? wrong
                : no
            : null;
    }
}
