namespace MudRoom.Core.Identification;

/// <summary>
/// A freight container's number: owner, category, serial, check digit.
/// Source: ISO 6346, section 3 and annex A (letters 10 to 38 without the multiples of 11, weights 2^0 to 2^9, modulo 11).
/// </summary>
/// <param name="Owner">Three letters.</param>
/// <param name="Category">U freight container, J equipment, Z trailer or chassis.</param>
/// <param name="Serial">Six digits.</param>
/// <param name="Check">0 to 9.</param>
public sealed record ContainerNumber(string Owner, char Category, string Serial, int Check)
{
    /// <summary>True when the remainder was 10, which is written 0; the standard advises owners not to use such serials.</summary>
    public bool NotRecommended => Remainder($"{Owner}{Category}{Serial}") == 10;

    /// <inheritdoc />
    public override string ToString() => $"{Owner}{Category} {Serial} {Check}";

    /// <summary>True when the text has the shape of a container number, whatever its check digit.</summary>
    public static bool LooksLike(string text)
    {
        var plain = Plain(text);
        return plain.Length == 11 && plain[..4].All(char.IsAsciiLetterUpper) && plain[4..].All(char.IsAsciiDigit);
    }

    /// <summary>Reads a container number with or without spaces and hyphens.</summary>
    public static Outcome<ContainerNumber> Read(string text)
    {
        var plain = Plain(text);
        if (!LooksLike(plain))
            return new Refusal(
                IdentificationRefusals.ContainerShape,
                $"{text} is not a container number: four letters and seven digits.",
                "Read it from the container's rear door."
            );
        if (plain[3] is not ('U' or 'J' or 'Z'))
            return new Refusal(
                IdentificationRefusals.ContainerCategory,
                $"{text} has {plain[3]} as its fourth letter; ISO 6346 knows U, J and Z.",
                "Read it again, or take it as a reference that is not ISO 6346."
            );
        var should = Remainder(plain[..10]) % 10;
        if (plain[10] - '0' != should)
            return new Refusal(
                IdentificationRefusals.CheckDigit,
                $"{text} is not a valid container number: its last digit should be {should}, not {plain[10]}.",
                "Read it again from the container's rear door."
            );
        return new ContainerNumber(plain[..3], plain[3], plain[4..10], should);
    }

    /// <summary>True when two references are the same but for spaces, hyphens and case.</summary>
    public static bool Same(string a, string b) => Plain(a) == Plain(b);

    static string Plain(string text) => text.Replace(" ", "").Replace("-", "").ToUpperInvariant();

    static int Remainder(string firstTen)
    {
        var sum = 0;
        for (var i = 0; i < 10; i++)
            sum += ValueOf(firstTen[i]) << i;
        return sum % 11;
    }

    static int ValueOf(char c)
    {
        if (char.IsAsciiDigit(c))
            return c - '0';
        var place = c - 'A';
        // A is 10; 11, 22 and 33 are left out.
        return 10 + place + (place > 0 ? 1 : 0) + (place > 10 ? 1 : 0) + (place > 20 ? 1 : 0);
    }
}
