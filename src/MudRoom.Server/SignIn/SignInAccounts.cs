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
    public static SignInAccount New(Person person, string password, bool mustChange = false) => With(person, Hash(password), mustChange);

    /// <summary>The account of a person, with the hash of a password.</summary>
    public static SignInAccount With(Person person, string hash, bool mustChange) =>
        new()
        {
            Id = person.Id,
            UserName = person.SignInName,
            NormalizedUserName = person.SignInName.ToUpperInvariant(),
            SecurityStamp = Guid.NewGuid().ToString("N"),
            LockoutEnabled = true,
            MustChange = mustChange,
            PasswordHash = hash,
        };

    /// <summary>The hash of a password, salted; slow on purpose.</summary>
    public static string Hash(string password) => hasher.HashPassword(new SignInAccount(), password);

    /// <summary>True when the password is the account's.</summary>
    public static bool Verify(SignInAccount account, string password) =>
        account.PasswordHash is { } hash && hasher.VerifyHashedPassword(account, hash, password) != PasswordVerificationResult.Failed;
}
