namespace MudRoom.Exchange.Edifact;

/// <summary>A segment: its tag, and its elements with their components.</summary>
/// <param name="Place">1 for the first segment of the interchange.</param>
public sealed record Segment(int Place, string Tag, IReadOnlyList<IReadOnlyList<string>> Elements)
{
    /// <summary>A component, counted from 0; empty when it is not there.</summary>
    public string At(int element, int component = 0) =>
        element < Elements.Count && component < Elements[element].Count ? Elements[element][component] : "";
}

/// <summary>Cuts an interchange into segments. Source: ISO 9735, syntax version 3: service string advice, release character.</summary>
public static class Segments
{
    /// <summary>The segments, or the place where the text cannot be cut.</summary>
    public static (List<Segment> Segments, FileFault? Fault) Cut(string text)
    {
        text = text.TrimStart('\ufeff').TrimStart();
        var (component, element, release, end) = (':', '+', '?', '\'');
        var at = 0;
        if (text.StartsWith("UNA", StringComparison.Ordinal))
        {
            if (text.Length < 9) return ([], new FileFault(1, "UNA", text, "The service string advice has six characters behind UNA."));
            (component, element, release, end) = (text[3], text[4], text[6], text[8]);
            at = 9;
        }

        var segments = new List<Segment>();
        var place = text.StartsWith("UNA", StringComparison.Ordinal) ? 1 : 0;
        var elements = new List<IReadOnlyList<string>>();
        var components = new List<string>();
        var value = new System.Text.StringBuilder();
        for (; at < text.Length; at++)
        {
            var c = text[at];
            if (c == release && at + 1 < text.Length) value.Append(text[++at]);
            else if (c == component) EndComponent();
            else if (c == element) EndElement();
            else if (c == end) EndSegment();
            else if (c is '\r' or '\n') continue;
            else value.Append(c);
        }

        return value.ToString().Trim().Length > 0 || components.Count > 0 || elements.Count > 0
            ? (segments, new FileFault(place + 1, "", value.ToString().Trim(), "The last segment is not ended."))
            : (segments, null);

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
