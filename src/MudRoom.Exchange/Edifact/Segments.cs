using System.Text;

namespace MudRoom.Exchange.Edifact;

/// <summary>A segment: its tag, and its elements with their components.</summary>
/// <param name="Place">1 for the first segment of the interchange.</param>
public sealed record Segment(int Place, string Tag, IReadOnlyList<IReadOnlyList<string>> Elements)
{
    /// <summary>A component, counted from 0; empty when it is not there.</summary>
    public string At(int element, int component = 0) =>
        element < Elements.Count && component < Elements[element].Count ? Elements[element][component] : "";
}

/// <summary>The service characters of an interchange.</summary>
/// <param name="Release">Null where the interchange has none: its place in UNA is blank.</param>
/// <param name="DecimalComma">True where UNA names a comma as the decimal mark.</param>
public readonly record struct ServiceCharacters(char Component, char Element, bool DecimalComma, char? Release, char End)
{
    /// <summary>What holds where there is no UNA: level A of ISO 9735, or level B with its separators that cannot be printed.</summary>
    public static ServiceCharacters Default(string text) =>
        text.StartsWith("UNB\u001d", StringComparison.Ordinal)
            ? new('\u001f', '\u001d', false, null, '\u001c')
            : new(':', '+', false, '?', '\'');
}

/// <summary>Cuts an interchange into segments. Source: ISO 9735, syntax version 3: service string advice, release character.</summary>
public static class Segments
{
    /// <summary>Length of the service string advice: UNA and six characters.</summary>
    const int AdviceLength = 9;

    /// <summary>The segments with the decimal mark they are written in, or the place where the text cannot be cut.</summary>
    public static (List<Segment> Segments, bool DecimalComma, FileFault? Fault) Cut(string text)
    {
        text = text.TrimStart('\ufeff').TrimStart();
        var (at, place, marks) = (0, 0, ServiceCharacters.Default(text));
        if (text.StartsWith("UNA", StringComparison.Ordinal))
        {
            if (text.Length < AdviceLength)
                return ([], false, new FileFault(1, "UNA", text, "The service string advice has six characters behind UNA."));
            marks = new ServiceCharacters(text[3], text[4], text[5] == ',', text[6] == ' ' ? null : text[6], text[8]);
            char[] separate =
            [
                marks.Component,
                marks.Element,
                marks.End,
                .. marks.Release is { } release ? [release] : Array.Empty<char>(),
            ];
            if (separate.Distinct().Count() < separate.Length)
                return ([], false, new FileFault(1, "UNA", text[..AdviceLength], "Two of its characters are the same."));
            (at, place) = (AdviceLength, 1);
        }

        var segments = new List<Segment>();
        var elements = new List<IReadOnlyList<string>>();
        var components = new List<string>();
        var value = new StringBuilder();
        for (; at < text.Length; at++)
        {
            var c = text[at];
            if (c == marks.Release && at + 1 < text.Length)
                value.Append(text[++at]);
            else if (c == marks.Component)
                EndComponent();
            else if (c == marks.Element)
                EndElement();
            else if (c == marks.End)
                EndSegment();
            else if (char.IsControl(c))
                continue;
            else
                value.Append(c);
        }

        return value.ToString().Trim().Length > 0 || components.Count > 0 || elements.Count > 0
            ? (segments, false, new FileFault(place + 1, "", value.ToString().Trim(), "The last segment is not ended."))
            : (segments, marks.DecimalComma, null);

        void EndComponent()
        {
            components.Add(value.ToString());
            value.Clear();
        }

        void EndElement()
        {
            EndComponent();
            elements.Add([.. components]);
            components.Clear();
        }

        void EndSegment()
        {
            EndElement();
            var tag = elements[0][0].Trim();
            segments.Add(new Segment(++place, tag, [.. elements.Skip(1)]));
            elements.Clear();
        }
    }
}
