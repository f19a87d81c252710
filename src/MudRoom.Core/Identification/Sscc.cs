namespace MudRoom.Core.Identification;

/// <summary>Serial Shipping Container Codes: 18 digits that identify one logistic unit.</summary>
public static class Sscc
{
    /// <summary>The SSCC itself, or what is wrong with it.</summary>
    public static Outcome<string> Read(string text)
    {
        if (text.Length != 18 || !CheckDigit.IsDigits(text))
            return new Refusal(
                IdentificationRefusals.SsccLength,
                $"{text} is not an SSCC: it has 18 digits.",
                "Scan the unit label again."
            );
        return CheckDigit.Holds(text) ? text : Gtin.WrongCheckDigit("SSCC", text);
    }

    /// <summary>
    /// The SSCC of the site's own range with this serial: extension digit, company prefix, serial reference, check digit.
    /// </summary>
    /// <param name="extension">0 to 9.</param>
    /// <param name="companyPrefix">GS1 company prefix, 4 to 12 digits.</param>
    /// <param name="serial">From 0; as many digits as 16 less the prefix leave room for.</param>
    /// <exception cref="ArgumentOutOfRangeException">The serial does not fit: the range is used up.</exception>
    public static string Make(int extension, string companyPrefix, long serial)
    {
        var room = 16 - companyPrefix.Length;
        var reference = serial.ToString().PadLeft(room, '0');
        if (serial < 0 || reference.Length > room)
            throw new ArgumentOutOfRangeException(nameof(serial), $"Serial {serial} does not fit in {room} digits.");
        var body = $"{extension}{companyPrefix}{reference}";
        return body + CheckDigit.For(body);
    }

    /// <summary>The SSCC in groups that can be read aloud.</summary>
    public static string Spaced(string sscc) => sscc.Length == 18 ? $"{sscc[..1]} {sscc[1..8]} {sscc[8..14]} {sscc[14..]}" : sscc;
}
