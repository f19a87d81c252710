namespace MudRoom.Core.Identification;

/// <summary>Global Location Numbers: 13 digits that name a party or a place in messages. Source: GS1 General Specifications, section 3.7
/// and 7.9.</summary>
public static class Gln
{
    /// <summary>The number itself, null for a blank, or what is wrong with it.</summary>
    public static Outcome<string?> Read(string? text)
    {
        if (text.OrNull() is not { } gln)
            return (string?)null;
        if (gln.Length != 13 || !CheckDigit.IsDigits(gln))
            return new Refusal(
                IdentificationRefusals.GlnWrong,
                $"{gln} is no GLN: it has 13 digits.",
                "Look at it again. Nothing was kept."
            );
        return CheckDigit.Holds(gln)
            ? gln
            : new Refusal(
                IdentificationRefusals.GlnWrong,
                $"The check digit of GLN {gln} is wrong: it should be {CheckDigit.For(gln.AsSpan(0, 12))}.",
                "Look at it again. Nothing was kept."
            );
    }
}
