namespace MudRoom.Core.Identification;

/// <summary>
/// The check digit of GTIN, SSCC and GLN: modulo 10, weights 3 and 1 from the right.
/// Source: GS1 General Specifications, section 7.9.1.
/// </summary>
public static class CheckDigit
{
    /// <summary>The check digit (0 to 9) that belongs behind <paramref name="digits"/>.</summary>
    public static int For(ReadOnlySpan<char> digits)
    {
        var sum = 0;
        for (var i = 0; i < digits.Length; i++)
        {
            var weight = (digits.Length - i) % 2 == 1 ? 3 : 1;
            sum += (digits[i] - '0') * weight;
        }

        return (10 - sum % 10) % 10;
    }

    /// <summary>True when <paramref name="text"/> is all digits and its last one is right.</summary>
    public static bool Holds(ReadOnlySpan<char> text) => text.Length > 1 && IsDigits(text) && For(text[..^1]) == text[^1] - '0';

    /// <summary>True when <paramref name="text"/> has at least one character and only 0 to 9.</summary>
    public static bool IsDigits(ReadOnlySpan<char> text) => text.Length > 0 && text.IndexOfAnyExceptInRange('0', '9') < 0;
}
