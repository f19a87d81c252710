namespace MudRoom.Core.Identification;

/// <summary>Global Trade Item Numbers, kept in their 14-digit form.</summary>
public static class Gtin
{
    /// <summary>Brings GTIN-8, -12, -13 or -14 to 14 digits, or says what is wrong with it.</summary>
    public static Outcome<string> Read(string text)
    {
        if (text.Length is not (8 or 12 or 13 or 14) || !CheckDigit.IsDigits(text))
            return new Refusal(
                IdentificationRefusals.GtinLength,
                $"{text} is not a GTIN: it has 8, 12, 13 or 14 digits.",
                "Scan it again, or type the item code."
            );
        if (!CheckDigit.Holds(text))
            return WrongCheckDigit("GTIN", text);
        return text.PadLeft(14, '0');
    }

    internal static Refusal WrongCheckDigit(string what, string digits) =>
        new(
            IdentificationRefusals.CheckDigit,
            $"{digits} is not a valid {what}: its last digit should be {CheckDigit.For(digits.AsSpan()[..^1])}, not {digits[^1]}.",
            "Scan the label again. If it is typed, compare it digit by digit."
        );
}
