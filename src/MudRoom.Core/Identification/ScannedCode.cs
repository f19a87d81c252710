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
    /// <param name="Read">What it says.</param>
    /// <param name="Note">What a person may want to know of it, though it can be read: an element that needs another beside it, parts of an
    /// address passed over; null for nothing.</param>
    public sealed record Elements(ElementString Read, string? Note = null) : ScannedCode;

    /// <summary>A freight container's number.</summary>
    public sealed record Container(ContainerNumber Number) : ScannedCode;

    /// <summary>Any other text: a code to be looked up.</summary>
    public sealed record Plain(string Text) : ScannedCode;

    /// <summary>It has the form of one of the above but is wrong; <paramref name="Text"/> may still be a known code.</summary>
    public sealed record Wrong(string Text, Refusal Why) : ScannedCode;

    /// <summary>The unit it names, or null.</summary>
    public string? UnitSscc =>
        this switch
        {
            Unit unit => unit.Sscc,
            Elements elements => elements.Read.Sscc,
            _ => null,
        };

    /// <summary>The code by which the item it names is found: the trade item's number, else the text itself; null where it names
    /// none.</summary>
    public string? ItemCode =>
        this switch
        {
            TradeItem item => item.Gtin,
            Elements elements => elements.Read.Gtin,
            Plain plain => plain.Text,
            Wrong wrong => wrong.Text,
            _ => null,
        };

    /// <summary>The batch that it says beside its item, or alone; null where it says none.</summary>
    public string? Batch => (this as Elements)?.Read.Batch;

    /// <summary>The serial number that it says beside its item, or alone; null where it says none.</summary>
    public string? Serial => (this as Elements)?.Read.Serial;

    /// <summary>What names the one thing that it stands on: its serial number, its unit, else a text of its own; null where it names goods
    /// of a kind, or what carries them.</summary>
    public string? OneThing =>
        Serial
        ?? UnitSscc
        ?? this switch
        {
            Plain plain => plain.Text,
            Wrong wrong => wrong.Text,
            _ => null,
        };

    /// <summary>What names the thing itself, the narrowest first: its unit, its item, its batch, its serial, its container, its
    /// text.</summary>
    public string Key =>
        UnitSscc
        ?? ItemCode
        ?? Batch
        ?? Serial
        ?? this switch
        {
            Container container => container.Number.ToString(),
            Elements elements => elements.Read.ToString(),
            _ => "",
        };

    /// <summary>
    /// Sorts a text by its form. A symbology identifier (ISO/IEC 15424) in front is taken off and used: ]C1 ]d2 ]Q3 ]e0 ]J1 carry element
    /// strings,
    /// ]E0 ]E3 ]E4 ]I1 a plain GTIN, all others none of the two by themselves; without one the form decides. An address on the web is read
    /// as GS1
    /// Digital Link. Elements that exclude each other are wrong; one that only needs another beside it may be a part of a label, and has a
    /// note.
    /// </summary>
    /// <param name="scanned">The code alone: without what the scanner types before and behind it.</param>
    /// <param name="today">The date at the site.</param>
    public static ScannedCode Of(string scanned, DateOnly today)
    {
        var text = scanned.Trim(' ', '\r', '\n', '\t');
        var symbology = "";
        if (text.Length > 3 && text[0] == ']' && char.IsAsciiLetter(text[1]) && char.IsAsciiLetterOrDigit(text[2]))
        {
            symbology = text[1..3];
            text = text[3..];
        }

        return symbology switch
        {
            "C1" or "d2" or "Q3" or "e0" or "J1" => FromElements(text, today),
            "E0" or "E4" or "I1" => FromGtin(text),
            // An EAN-13 with its add-on: the first 13 digits are the number.
            "E3" => FromGtin(text.Length > 13 ? text[..13] : text),
            "" => ByForm(text, today),
            _ => NoElements(text, today),
        };
    }

    /// <summary>True for a text that is a barcode's content by its form alone: it can be neither a quantity nor a date.</summary>
    public static bool IsCode(string text)
    {
        var plain = text.Trim();
        if (plain.Length > 3 && plain[0] == ']' && char.IsAsciiLetter(plain[1]) && char.IsAsciiDigit(plain[2]))
            return true;
        if (plain.StartsWith('(') || plain.Contains(ElementStringReader.Separator) || DigitalLink.LooksLike(plain))
            return true;
        return CheckDigit.IsDigits(plain) && (plain.Length >= 15 || plain.Length is 8 or 12 or 13 or 14 && CheckDigit.Holds(plain))
            || LooksLikeElements(plain);
    }

    static ScannedCode ByForm(string text, DateOnly today) =>
        text.StartsWith('(')
        || text.Contains(ElementStringReader.Separator)
        || LooksLikeElements(text)
        || CheckDigit.IsDigits(text) && text.Length is >= 16 and not 18
            ? FromElements(text, today)
            : NoElements(text, today);

    /// <summary>What a symbol says that carries no element string: an address, a container, a number of an item or unit, or some
    /// text.</summary>
    static ScannedCode NoElements(string text, DateOnly today)
    {
        if (DigitalLink.LooksLike(text))
            return DigitalLink.Read(text) is var (elements, note) ? FromElements(elements, today, note) : new Plain(text);
        if (ContainerNumber.LooksLike(text))
        {
            var number = ContainerNumber.Read(text);
            return number.Refused(out var why) ? new Wrong(text, why) : new Container(number.Value);
        }

        if (!CheckDigit.IsDigits(text))
            return new Plain(text);
        return text.Length switch
        {
            8 => CheckDigit.Holds(text) ? FromGtin(text) : new Plain(text),
            12 or 13 or 14 => FromGtin(text),
            18 => Sscc.Read(text) is var sscc && sscc.Refused(out var why) ? new Wrong(text, why) : new Unit(text),
            _ => new Plain(text),
        };
    }

    /// <summary>Typed without separator, brackets or symbology: taken as elements only if it begins with a valid trade item or
    /// unit.</summary>
    static bool LooksLikeElements(string text) =>
        text.Length > 16 && text[..2] is "01" or "02" && CheckDigit.Holds(text.AsSpan(2, 14))
        || text.Length > 20 && text[..2] == "00" && CheckDigit.Holds(text.AsSpan(2, 18));

    static ScannedCode FromGtin(string text) =>
        Gtin.Read(text) is var gtin && gtin.Refused(out var why) ? new Wrong(text, why) : new TradeItem(gtin.Value);

    static ScannedCode FromElements(string text, DateOnly today, string? note = null)
    {
        var read = ElementStringReader.Read(text, today);
        if (read.Refused(out var why))
            return new Wrong(text, why);
        if (ElementStringReader.Clash(read.Value) is { } clash)
            return new Wrong(text, clash);
        if (read.Value is { Elements: [{ Ai: "00" } only] })
            return new Unit(only.Value);
        // A batch or a date alone is a part of a label; what names its goods and lacks something is worth a word.
        var names = read.Value.Gtin is not null || read.Value.Sscc is not null;
        return new Elements(read.Value, note ?? (names ? ElementStringReader.Missing(read.Value)?.Sentence : null));
    }
}
