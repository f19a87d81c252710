using System.Collections.Frozen;
using System.Text.RegularExpressions;

namespace MudRoom.Core.Identification;

/// <summary>
/// Reads GS1 element strings, raw (FNC1 as control character 29) or in brackets.
/// Source: GS1 General Specifications, sections 3 and 7.8.
/// </summary>
public static partial class ElementStringReader
{
    /// <summary>FNC1 as it comes out of a scanner.</summary>
    public const char Separator = '\u001d';

    const string Characters82 = "!\"%&'()*+,-./0123456789:;<=>?ABCDEFGHIJKLMNOPQRSTUVWXYZ_abcdefghijklmnopqrstuvwxyz";

    static readonly FrozenSet<string> packageTypes = Tables.Lines("Identification.package-types.csv").ToFrozenSet();
    static readonly FrozenSet<string> currencies = Tables.Lines("Identification.currencies.csv").ToFrozenSet();

    [GeneratedRegex(@"\((\d{2,4})\)")]
    private static partial Regex Bracket();

    [GeneratedRegex("^(%[0-9A-Fa-f]{2}|[^%])*$")]
    private static partial Regex Percent();

    /// <summary>Reads a string whose every element must be right; what is wrong is said with its place.</summary>
    /// <param name="text">Without symbology identifier.</param>
    /// <param name="today">The date at the site, for the century of dates.</param>
    public static Outcome<ElementString> Read(string text, DateOnly today)
    {
        if (text.Length > 1000)
            return Bad(IdentificationRefusals.TooLong, "The code has more than 1000 characters.");
        var outcome = text.StartsWith('(') ? Bracketed(text) : Raw(text);
        if (outcome.Refused(out var refusal))
            return refusal;
        var elements = outcome.Value;
        if (elements.Count == 0)
            return Bad(IdentificationRefusals.ElementEmpty, "The code holds no element.");
        foreach (var element in elements)
            if (Check(element, today) is { } wrong)
                return wrong;
        return WithoutRepeats(elements, today);
    }

    /// <summary>What the standard demands of elements that stand together: which exclude and which need each other.</summary>
    public static Refusal? CheckAssociations(ElementString read) => Clash(read) ?? Missing(read);

    /// <summary>Two elements of which the standard says that they exclude each other; null where there are none.</summary>
    public static Refusal? Clash(ElementString read)
    {
        foreach (var element in read.Elements)
            if (
                read.Elements.FirstOrDefault(other =>
                    other != element && ApplicationIdentifier.Of(element.Ai)!.Excludes.Any(e => Matches(e, other.Ai))
                ) is
                { } clash
            )
                return Bad(IdentificationRefusals.ElementClash, $"({element.Ai}) at place {element.At} may not stand with ({clash.Ai}).");
        return null;
    }

    /// <summary>An element that needs another one beside it; null where none is missing. The other one may stand in another symbol of the
    /// same label.</summary>
    public static Refusal? Missing(ElementString read)
    {
        foreach (var element in read.Elements)
        foreach (var need in ApplicationIdentifier.Of(element.Ai)!.Requires)
            if (!need.Any(all => all.All(one => read.Elements.Any(e => Matches(one, e.Ai)))))
                return Bad(
                    IdentificationRefusals.ElementAlone,
                    $"({element.Ai}) at place {element.At} needs "
                        + $"({string.Join(") or (", need.Select(n => string.Join(") and (", n)))}) beside it."
                );
        return null;
    }

    static bool Matches(string pattern, string ai) =>
        pattern.Length == ai.Length && pattern.Zip(ai).All(p => p.First == p.Second || p.First == 'n');

    static Outcome<List<Element>> Raw(string text)
    {
        var elements = new List<Element>();
        var at = text.StartsWith(Separator) ? 1 : 0;
        while (at < text.Length)
        {
            if (text[at] == Separator)
                return Bad(IdentificationRefusals.ElementEmpty, $"There is no element between the separators at place {at + 1}.");
            var ai = ApplicationIdentifier.StartingIn(text.AsSpan(at));
            if (ai is null)
                return Unknown(text[at..Math.Min(at + 4, text.Length)], at);
            var start = at + ai.Number.Length;
            var rest = text.AsSpan(start);
            var stop = rest.IndexOf(Separator);
            var length =
                ai.Predefined ? Math.Min(ai.MaxLength, rest.Length)
                : stop < 0 ? rest.Length
                : stop;
            elements.Add(new Element(ai.Number, rest[..length].ToString(), at + 1));
            at = start + length;
            // A separator after a predefined length is not needed but allowed.
            if (at < text.Length && text[at] == Separator)
                at++;
        }

        return elements;
    }

    static Outcome<List<Element>> Bracketed(string text)
    {
        var elements = new List<Element>();
        var marks = Bracket().Matches(text).Where(m => m.Index == 0 || ApplicationIdentifier.Of(m.Groups[1].Value) is not null).ToList();
        for (var i = 0; i < marks.Count; i++)
        {
            var number = marks[i].Groups[1].Value;
            if (ApplicationIdentifier.Of(number) is null)
                return Unknown(number, marks[i].Index);
            var start = marks[i].Index + marks[i].Length;
            var end = i + 1 < marks.Count ? marks[i + 1].Index : text.Length;
            elements.Add(new Element(number, text[start..end].TrimEnd(' ', Separator), marks[i].Index + 1));
        }

        return elements.Count > 0 ? elements : Unknown(text[..Math.Min(5, text.Length)], 0);
    }

    static Outcome<ElementString> WithoutRepeats(List<Element> elements, DateOnly today)
    {
        var kept = new List<Element>();
        foreach (var element in elements)
        {
            var before = kept.Find(e => e.Ai == element.Ai);
            if (before is null)
                kept.Add(element);
            else if (before.Value != element.Value)
                return Bad(
                    IdentificationRefusals.ElementTwice,
                    $"({element.Ai}) stands twice, as {before.Value} and as {element.Value} at place {element.At}."
                );
        }

        return new ElementString(kept, today);
    }

    static Refusal? Check(Element element, DateOnly today)
    {
        var ai = ApplicationIdentifier.Of(element.Ai)!;
        if (element.Value.Length < ai.MinLength)
            return Bad(
                IdentificationRefusals.ElementShort,
                $"({element.Ai}) at place {element.At} is too short: {Shown(element.Value)} has {element.Value.Length} of "
                    + $"{ai.MinLength} characters."
            );
        if (element.Value.Length > ai.MaxLength)
            return Bad(
                IdentificationRefusals.ElementLong,
                $"({element.Ai}) at place {element.At} is too long: {element.Value.Length} characters, {ai.MaxLength} at most. A "
                    + $"separator may be missing."
            );
        var at = 0;
        foreach (var part in ai.Parts)
        {
            var left = element.Value.Length - at;
            if (left == 0 && part.Optional)
                break;
            if (!part.Variable && left < part.Length)
                return Bad(
                    IdentificationRefusals.ElementShort,
                    $"({element.Ai}) at place {element.At} is too short: {Shown(element.Value)}."
                );
            var value = element.Value.Substring(at, Math.Min(part.Length, left));
            at += value.Length;
            if (value.Where(c => !Allowed(part.Set, c)).Select(c => (char?)c).FirstOrDefault() is { } bad)
                return Bad(
                    IdentificationRefusals.ElementCharacters,
                    $"({element.Ai}) at place {element.At} has {Shown(bad.ToString())}, which may not stand there."
                );
            foreach (var check in part.Checks)
                if (Failing(check, value, today) is { } why)
                    return Bad(why.Kind, $"({element.Ai}) at place {element.At}: {why.Sentence}");
        }

        if (
            element is { Ai: "7007", Value: { Length: 12 } range }
            && GoodsDate.Read(range.AsSpan(0, 6), today, DayZero.Refused) is { } first
            && GoodsDate.Read(range.AsSpan(6), today, DayZero.Refused) is { } last
            && last.Date < first.Date
        )
            return Bad(
                IdentificationRefusals.DateRange,
                $"(7007) at place {element.At}: it ends {last} and begins {first}, after its end."
            );

        if (at < element.Value.Length)
            return Bad(IdentificationRefusals.ElementLong, $"({element.Ai}) at place {element.At} is too long: {Shown(element.Value)}.");
        return null;
    }

    static bool Allowed(char set, char c) =>
        set switch
        {
            'N' => char.IsAsciiDigit(c),
            'X' => Characters82.Contains(c),
            'Y' => char.IsAsciiDigit(c) || char.IsAsciiLetterUpper(c) || c is '#' or '-' or '/',
            'Z' => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or '=',
            _ => false,
        };

    static (RefusalKind Kind, string Sentence)? Failing(string check, string value, DateOnly today) =>
        check switch
        {
            "csum" when !CheckDigit.Holds(value) => (
                IdentificationRefusals.CheckDigit,
                $"{value} has a wrong check digit, it should be {CheckDigit.For(value.AsSpan()[..^1])}."
            ),
            "gcppos1" when value.Length < 2 || !char.IsAsciiDigit(value[0]) || !char.IsAsciiDigit(value[1]) => (
                IdentificationRefusals.CompanyPrefix,
                $"{Shown(value)} does not begin with the digits of a GS1 company prefix."
            ),
            "yymmd0" when GoodsDate.Read(value, today, DayZero.LastOfMonth) is null => (
                IdentificationRefusals.DateImpossible,
                $"{value} is no date (year, month, day)."
            ),
            "yymmdd" when GoodsDate.Read(value, today, DayZero.Refused) is null => (
                IdentificationRefusals.DateImpossible,
                $"{value} is no date with a day (year, month, day)."
            ),
            "yyyymmdd" when !DateOnly.TryParseExact(value, "yyyyMMdd", out _) => (
                IdentificationRefusals.DateImpossible,
                $"{value} is no date (year, month, day)."
            ),
            "hh" or "hhmi" or "hhmiopen" or "mi" or "ss" when !IsTime(check, value) => (
                IdentificationRefusals.TimeImpossible,
                $"{value} is no time of day."
            ),
            "iso3166" when Countries.ByNumber(value) is null => (
                IdentificationRefusals.CountryUnknown,
                $"{value} is no country number of ISO 3166."
            ),
            "iso3166999" when value != "999" && Countries.ByNumber(value) is null => (
                IdentificationRefusals.CountryUnknown,
                $"{value} is no country number of ISO 3166."
            ),
            "iso3166alpha2" when Countries.ByCode(value) is null => (
                IdentificationRefusals.CountryUnknown,
                $"{value} is no country code of ISO 3166."
            ),
            "iso4217" when !currencies.Contains(value) => (
                IdentificationRefusals.CurrencyUnknown,
                $"{value} is no currency number of ISO 4217."
            ),
            "iso5218" when value is not ("0" or "1" or "2" or "9") => (
                IdentificationRefusals.ElementSex,
                $"{value} is no code of ISO 5218."
            ),
            "packagetype" when !packageTypes.Contains(value) => (
                IdentificationRefusals.PackageType,
                $"{Shown(value)} is no package type of UN/ECE Recommendation 21."
            ),
            "hyphen" when value != "-" => (
                IdentificationRefusals.ElementHyphen,
                $"{Shown(value)} stands where only a hyphen may, for below zero."
            ),
            "winding" when value is not ("0" or "1" or "9") => (
                IdentificationRefusals.ElementWinding,
                $"{value} is no winding direction: 0, 1 or 9."
            ),
            "nozeroprefix" when value is ['0', _, ..] => (IdentificationRefusals.ElementZero, "it may not begin with 0."),
            "hasnondigit" when value.All(char.IsAsciiDigit) => (IdentificationRefusals.ElementDigits, "it may not be of digits alone."),
            "pcenc" when !Percent().IsMatch(value) => (
                IdentificationRefusals.ElementPercent,
                $"{Shown(value)} has a % that two hexadecimal digits do not follow."
            ),
            "nonzero" when value.All(c => c == '0') => (IdentificationRefusals.ElementZero, "it may not be 0."),
            "zero" when value.Any(c => c != '0') => (IdentificationRefusals.ElementZero, "it must be 0."),
            "yesno" when value is not ("0" or "1") => (IdentificationRefusals.ElementYesno, "it is 0 or 1."),
            "pieceoftotal" when !IsPieceOfTotal(value) => (
                IdentificationRefusals.ElementPiece,
                $"{value[..2]} of {value[2..]} is no piece of a total."
            ),
            _ => null,
        };

    static bool IsPieceOfTotal(string value)
    {
        var piece = int.Parse(value[..(value.Length / 2)]);
        var total = int.Parse(value[(value.Length / 2)..]);
        return piece > 0 && total > 0 && piece <= total;
    }

    static bool IsTime(string check, string value)
    {
        var first = int.Parse(value[..2]);
        return check switch
        {
            "hh" => first < 24,
            // (4324), (4325): 9999 where the time of the day is not known.
            "hhmiopen" => value == "9999" || first < 24 && int.Parse(value[2..4]) < 60,
            "hhmi" => first < 24 && int.Parse(value[2..4]) < 60,
            _ => first < 60,
        };
    }

    static Refusal Unknown(string start, int at) =>
        Bad(IdentificationRefusals.AiUnknown, $"{Shown(start)} at place {at + 1} is no GS1 application identifier.");

    static Refusal Bad(RefusalKind kind, string sentence) =>
        new(kind, sentence, "Scan the label again, or type what is printed below the bars.");

    static string Shown(string text) => text.Replace(Separator, '\u241d');
}
