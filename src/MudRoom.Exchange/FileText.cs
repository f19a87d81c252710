using System.Text;
using System.Text.RegularExpressions;
using MudRoom.Core;

namespace MudRoom.Exchange;

/// <summary>
/// The text of a file from its bytes, by what the file itself says: a byte-order mark, the encoding an XML declaration names (XML 1.0,
/// section 4.3.3 and appendix F), the character set in the UNB of an interchange (ISO 9735, syntax identifiers); else UTF-8.
/// </summary>
public static partial class FileText
{
    static readonly Encoding utf8 = new UTF8Encoding(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);
    static readonly Encoding littleEnds = new UnicodeEncoding(bigEndian: false, byteOrderMark: false, throwOnInvalidBytes: true);
    static readonly Encoding bigEnds = new UnicodeEncoding(bigEndian: true, byteOrderMark: false, throwOnInvalidBytes: true);

    /// <summary>Syntax identifiers of ISO 9735 with the encodings they stand for; A and B are parts of ASCII.</summary>
    static readonly Dictionary<string, string> charactersOf = new()
    {
        ["UNOA"] = "us-ascii",
        ["UNOB"] = "us-ascii",
        ["UNOC"] = "iso-8859-1",
        ["UNOD"] = "iso-8859-2",
        ["UNOE"] = "iso-8859-5",
        ["UNOF"] = "iso-8859-7",
        ["UNOG"] = "iso-8859-3",
        ["UNOH"] = "iso-8859-4",
        ["UNOI"] = "iso-8859-6",
        ["UNOJ"] = "iso-8859-8",
        ["UNOK"] = "iso-8859-9",
        ["UNOW"] = "utf-8",
        ["UNOY"] = "utf-8",
    };

    /// <summary>The text, without a byte-order mark; a refusal where a byte is none of the encoding.</summary>
    /// <param name="bytes">The whole file.</param>
    public static Outcome<string> Read(ReadOnlySpan<byte> bytes)
    {
        if (bytes.StartsWith(utf8.Preamble.Length == 0 ? [0xEF, 0xBB, 0xBF] : utf8.Preamble))
            return Decode(bytes[3..], utf8, "UTF-8");
        if (bytes.StartsWith<byte>([0xFF, 0xFE]))
            return Decode(bytes[2..], littleEnds, "UTF-16");
        if (bytes.StartsWith<byte>([0xFE, 0xFF]))
            return Decode(bytes[2..], bigEnds, "UTF-16");
        if (bytes.StartsWith<byte>([(byte)'<', 0]))
            return Decode(bytes, littleEnds, "UTF-16");
        if (bytes.StartsWith<byte>([0, (byte)'<']))
            return Decode(bytes, bigEnds, "UTF-16");
        var head = Encoding.Latin1.GetString(bytes[..Math.Min(bytes.Length, 400)]).TrimStart();
        if (Interchange().Match(head) is { Success: true } interchange)
        {
            var name = interchange.Groups["set"].Value;
            return charactersOf.TryGetValue(name, out var encoding)
                ? Decode(bytes, Strict(encoding), name)
                : NotRead($"The interchange is written in {name}, a character set that is not read here.");
        }

        if (Declared().Match(head) is { Success: true } declared)
        {
            var name = declared.Groups["name"].Value;
            return Find(name) is { } encoding
                ? Decode(bytes, encoding, name)
                : NotRead($"The document is written in {name}, an encoding that is not read here.");
        }

        return Decode(bytes, utf8, "UTF-8");
    }

    static Outcome<string> Decode(ReadOnlySpan<byte> bytes, Encoding encoding, string name)
    {
        try
        {
            return encoding.GetString(bytes);
        }
        catch (DecoderFallbackException failure)
        {
            return NotRead($"The file is no {name}: byte {failure.Index + 1} is none of its characters.");
        }
    }

    static Refusal NotRead(string sentence) => new(HouseRefusals.FileEncoding, sentence, "Ask for it in UTF-8, or save it as UTF-8.");

    static Encoding? Find(string name)
    {
        try
        {
            return Strict(name);
        }
        catch (ArgumentException)
        {
            return null;
        }
    }

    static Encoding Strict(string name) =>
        (
            CodePagesEncodingProvider.Instance.GetEncoding(name, EncoderFallback.ExceptionFallback, DecoderFallback.ExceptionFallback)
            ?? Encoding.GetEncoding(name, EncoderFallback.ExceptionFallback, DecoderFallback.ExceptionFallback)
        );

    /// <summary>The service string advice, if any, and the syntax identifier behind the first separator of UNB.</summary>
    [GeneratedRegex(@"^(UNA.{6}\s*)?UNB.(?<set>UNO[A-Z])", RegexOptions.Singleline | RegexOptions.CultureInvariant)]
    private static partial Regex Interchange();

    [GeneratedRegex("""^<\?xml[^>]*encoding\s*=\s*["'](?<name>[A-Za-z0-9._-]+)["']""", RegexOptions.CultureInvariant)]
    private static partial Regex Declared();
}
