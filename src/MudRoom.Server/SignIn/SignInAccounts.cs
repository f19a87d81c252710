using Microsoft.AspNetCore.Identity;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Server.SignIn;

/// <summary>Makes sign-in accounts.</summary>
public static class SignInAccounts
{
    static readonly PasswordHasher<SignInAccount> hasher = new();

    /// <summary>The account of a person, with a password.</summary>
    /// <param name="mustChange">True for a password that was given for one time.</param>
    public static SignInAccount New(Person person, string password, bool mustChange = false)
    {
        var account = new SignInAccount
        {
            Id = person.Id,
            UserName = person.SignInName,
            NormalizedUserName = person.SignInName.ToUpperInvariant(),
            SecurityStamp = Guid.NewGuid().ToString("N"),
            LockoutEnabled = true,
            MustChange = mustChange,
        };
        account.PasswordHash = hasher.HashPassword(account, password);
        return account;
    }

    /// <summary>True when the password is the account's.</summary>
    public static bool Verify(SignInAccount account, string password) =>
        account.PasswordHash is { } hash && hasher.VerifyHashedPassword(account, hash, password) != PasswordVerificationResult.Failed;
}
