using Microsoft.AspNetCore.Identity;
using MudRoom.Data;

namespace MudRoom.Server.SignIn;

/// <summary>
/// Refuses passwords that are tried first: those on a short list of the commonest (from memory), the person's own name, one character or
/// one run of
/// the keyboard over and over. Length is Identity's own validator's.
/// </summary>
public sealed class CommonPasswords : IPasswordValidator<SignInAccount>
{
    static readonly HashSet<string> common = new(StringComparer.OrdinalIgnoreCase)
    {
        "password",
        "passwort",
        "motdepasse",
        "letmein",
        "welcome",
        "iloveyou",
        "sunshine",
        "princess",
        "football",
        "baseball",
        "dragon",
        "monkey",
        "shadow",
        "master",
        "superman",
        "qwerty",
        "qwertyuiop",
        "qwertz",
        "qwertzuiop",
        "azerty",
        "azertyuiop",
        "asdfgh",
        "asdfghjkl",
        "zxcvbnm",
        "1q2w3e4r5t",
        "1qaz2wsx",
        "q1w2e3r4t5",
        "zaq12wsx",
        "admin",
        "administrator",
        "changeme",
        "default",
        "secret",
        "trustno1",
        "whatever",
        "starwars",
        "computer",
        "internet",
        "michael",
        "jennifer",
        "jessica",
        "charlie",
        "warehouse",
        "mudroom",
        "receiving",
        "supervisor",
        "receiver",
        "scanner",
        "goodsin",
        "abc123",
        "abcdef",
        "abcdefghij",
        "aaaaaaaaaa",
        "summer",
        "winter",
        "spring",
        "autumn",
        "monday",
        "january",
    };

    const string Runs = "01234567890123456789 98765432109876543210 abcdefghijklmnopqrstuvwxyz qwertyuiop asdfghjkl zxcvbnm";

    public Task<IdentityResult> ValidateAsync(UserManager<SignInAccount> manager, SignInAccount user, string? password) =>
        Task.FromResult(
            IsCommon(password ?? "", user.UserName ?? "")
                ? IdentityResult.Failed(
                    new IdentityError { Code = "common", Description = "That password is among the first that are tried." }
                )
                : IdentityResult.Success
        );

    /// <summary>True for a password that is tried first.</summary>
    public static bool IsCommon(string password, string name)
    {
        var plain = password.Trim().ToLowerInvariant();
        // Digits and signs around a common word make it no better: Password2026!
        var word = plain.Trim("0123456789!?.,;:-_#*+$%&/ ".ToCharArray());
        return common.Contains(plain)
            || common.Contains(word)
            || plain.Distinct().Count() <= 3
            || Runs.Contains(plain, StringComparison.Ordinal)
            || name.Length >= 3
                && plain.Replace(name.ToLowerInvariant(), "", StringComparison.Ordinal).Length < 6
                && plain.Contains(name.ToLowerInvariant(), StringComparison.Ordinal);
    }
}
