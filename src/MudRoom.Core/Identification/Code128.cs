namespace MudRoom.Core.Identification;

/// <summary>
/// Code 128 and GS1-128 as a row of bar and space widths. Source: ISO/IEC 15417, from memory; what it draws is read back by
/// an independent decoder in the tests.
/// </summary>
public static class Code128
{
    const int Fnc1 = 102;
    const int ToB = 100;
    const int ToC = 99;
    const int StartB = 104;
    const int StartC = 105;

    // Widths of bar, space, bar, space, bar, space for the values 0 to 105; the stop has a seventh bar.
    const string Patterns =
        "212222222122222221121223121322131222122213122312132212221213221312231212112232122132122231113222123122123221223211221132"
        + "221231213212223112312131311222321122321221312212322112322211212123212321232121111323131123131321112313132113132311211313"
        + "231113231311112133112331132131113123113321133121313121211331231131213113213311213131311123311321331121312113312311332111"
        + "314111221411431111111224111422121124121421141122141221112214112412122114122411142112142211241211221114413111241112134111"
        + "111242121142121241114212124112124211411212421112421211212141214121412121111143111341131141114113114311411113411311113141"
        + "114131311141411131211412211214211232";

    const string Stop = "2331112";

    /// <summary>GS1-128 of element strings: FNC1 behind the start, and where an element of open length ends before another.</summary>
    /// <param name="elements">Identifiers with their values, in order.</param>
    /// <returns>Widths in modules, beginning with a bar.</returns>
    public static IReadOnlyList<int> Gs1(IReadOnlyList<(string Ai, string Value)> elements)
    {
        var text = new System.Text.StringBuilder().Append(ElementStringReader.Separator);
        for (var i = 0; i < elements.Count; i++)
        {
            text.Append(elements[i].Ai).Append(elements[i].Value);
            var open = ApplicationIdentifier.Of(elements[i].Ai) is not { Predefined: true };
            if (open && i < elements.Count - 1)
                text.Append(ElementStringReader.Separator);
        }

        return Widths(Values(text.ToString()));
    }

    /// <summary>Symbol values: pairs of digits in set C where four or more digits stand together, everything else in set B.</summary>
    static List<int> Values(string text)
    {
        var values = new List<int>();
        var inC = DigitsAt(text, 0, skipFnc1: true) >= 4 || text.Length == 2 && DigitsAt(text, 0, skipFnc1: true) == 2;
        values.Add(inC ? StartC : StartB);
        var at = 0;
        while (at < text.Length)
        {
            if (text[at] == ElementStringReader.Separator)
            {
                values.Add(Fnc1);
                at++;
            }
            else if (inC && DigitsAt(text, at) >= 2)
            {
                values.Add((text[at] - '0') * 10 + text[at + 1] - '0');
                at += 2;
            }
            else if (inC)
            {
                values.Add(ToB);
                inC = false;
            }
            else if (DigitsAt(text, at) is var run and >= 4 && run % 2 == 0)
            {
                values.Add(ToC);
                inC = true;
            }
            else
            {
                if (text[at] is < ' ' or > '~')
                    throw new ArgumentException($"Character {(int)text[at]} has no place in Code 128 set B.", nameof(text));
                values.Add(text[at] - ' ');
                at++;
            }
        }

        var sum = values[0];
        for (var i = 1; i < values.Count; i++)
            sum += values[i] * i;
        values.Add(sum % 103);
        return values;
    }

    static int DigitsAt(string text, int at, bool skipFnc1 = false)
    {
        var count = 0;
        for (var i = at; i < text.Length; i++)
        {
            if (skipFnc1 && text[i] == ElementStringReader.Separator)
                continue;
            if (!char.IsAsciiDigit(text[i]))
                break;
            count++;
        }

        return count;
    }

    static List<int> Widths(List<int> values) =>
        [.. values.SelectMany(v => Patterns.Substring(v * 6, 6)).Select(c => c - '0'), .. Stop.Select(c => c - '0')];
}
