namespace MudRoom.Core.Identification;

/// <summary>What a scanned or typed text is by its own form, before anything is looked up.</summary>
public abstract record ScannedCode
{
    ScannedCode() { }

    /// <summary>A trade item number, in 14 digits.</summary>
    public sealed record TradeItem(string Gtin) : ScannedCode;

    /// <summary>A logistic unit's number.</summary>
    public sealed record Unit(string Sscc) : ScannedCode;

    /// <summary>A GS1 element string.</summary>
    public sealed record Elements(ElementString Read) : ScannedCode;

    /// <summary>A freight container's number.</summary>
    public sealed record Container(ContainerNumber Number) : ScannedCode;

    /// <summary>Any other text: a code to be looked up.</summary>
    public sealed record Plain(string Text) : ScannedCode;

    /// <summary>It has the form of one of the above but is wrong; <paramref name="Text"/> may still be a known code.</summary>
    public sealed record Wrong(string Text, Refusal Why) : ScannedCode;

    /// <summary>
    /// Sorts a text by its form. A symbology identifier (ISO/IEC 15424) in front is taken off and used:
    /// ]C1 ]d2 ]Q3 ]e0 carry element strings; ]E0 ]E4 ]I1 a plain GTIN. An address on the web is read as GS1 Digital Link.
    /// </summary>
    /// <param name="scanned">As it came from the scanner or keyboard.</param>
    /// <param name="today">The date at the site.</param>
    public static ScannedCode Of(string scanned, DateOnly today)
    {
        var text = scanned.Trim(' ', '\r', '\n', '\t');
        var symbology = "";
        if (text.Length > 3 && text[0] == ']')
        {
            symbology = text[1..3];
            text = text[3..];
        }

        return symbology switch
        {
            "C1" or "d2" or "Q3" or "e0" => FromElements(text, today),
            "E0" or "E4" or "I1" => FromGtin(text),
            _ => ByForm(text, today),
        };
    }

    /// <summary>True for a text that is a barcode's content by its form alone: it can be neither a quantity nor a date.</summary>
    public static bool IsCode(string text)
    {
        var plain = text.Trim();
        if (plain.Length > 3 && plain[0] == ']' && char.IsAsciiLetter(plain[1]) && char.IsAsciiDigit(plain[2])) return true;
        if (plain.StartsWith('(') || plain.Contains(ElementStringReader.Separator) || DigitalLink.LooksLike(plain)) return true;
        return CheckDigit.IsDigits(plain) && (plain.Length >= 15 || plain.Length is 8 or 12 or 13 or 14 && CheckDigit.Holds(plain)) || LooksLikeElements(plain);
    }

    static ScannedCode ByForm(string text, DateOnly today)
    {
        if (DigitalLink.LooksLike(text)) return DigitalLink.Elements(text) is { } elements ? FromElements(elements, today) : new Plain(text);
        if (text.StartsWith('(') || text.Contains(ElementStringReader.Separator)) return FromElements(text, today);
        if (ContainerNumber.LooksLike(text))
        {
            var number = ContainerNumber.Read(text);
            return number.Refused(out var why) ? new Wrong(text, why) : new Container(number.Value);
        }

        if (!CheckDigit.IsDigits(text)) return LooksLikeElements(text) ? FromElements(text, today) : new Plain(text);
        return text.Length switch
        {
            8 => CheckDigit.Holds(text) ? FromGtin(text) : new Plain(text),
            12 or 13 or 14 => FromGtin(text),
            18 => Sscc.Read(text) is var sscc && sscc.Refused(out var why) ? new Wrong(text, why) : new Unit(text),
            >= 16 => FromElements(text, today),
            _ => new Plain(text),
        };
    }

    /// <summary>Typed without separator, brackets or symbology: taken as elements only if it begins with a valid trade item or unit.</summary>
    static bool LooksLikeElements(string text) =>
        text.Length > 16 && text[..2] is "01" or "02" && CheckDigit.Holds(text.AsSpan(2, 14))
        || text.Length > 20 && text[..2] == "00" && CheckDigit.Holds(text.AsSpan(2, 18));

    static ScannedCode FromGtin(string text) =>
        Gtin.Read(text) is var gtin && gtin.Refused(out var why) ? new Wrong(text, why) : new TradeItem(gtin.Value);

    static ScannedCode FromElements(string text, DateOnly today)
    {
        var read = ElementStringReader.Read(text, today);
        if (read.Refused(out var why)) return new Wrong(text, why);
        return read.Value is { Elements: [{ Ai: "00" } only] } ? new Unit(only.Value) : new Elements(read.Value);
    }
}
