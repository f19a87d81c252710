namespace MudRoom.Core.Identification;

/// <summary>
/// Reads GS1 Digital Link addresses into element strings: https://example.com/01/09521234543213/10/L7?17=271231 says what
/// (01)09521234543213(10)L7(17)271231 says. Source: GS1 Digital Link Standard, URI syntax: an identification key and its qualifiers in the path,
/// further elements as parameters whose names are application identifiers; other parameters mean nothing here. Any domain may stand before it.
/// </summary>
public static class DigitalLink
{
    /// <summary>Application identifiers that a path may begin with, as the standard's table of primary identification keys has them.</summary>
    static readonly HashSet<string> keys = ["00", "01", "253", "255", "401", "402", "414", "417", "8003", "8004", "8006", "8010", "8013", "8017", "8018"];

    /// <summary>True for what has the form of an address on the web.</summary>
    public static bool LooksLike(string text) =>
        text.StartsWith("https://", StringComparison.OrdinalIgnoreCase) || text.StartsWith("http://", StringComparison.OrdinalIgnoreCase);

    /// <summary>The element string of an address, raw with separators; null where it is some other address.</summary>
    /// <param name="text">The whole address; percent-encoded values are decoded. A GTIN has its 14 digits there.</param>
    public static string? Elements(string text)
    {
        if (!Uri.TryCreate(text, UriKind.Absolute, out var address) || address.Scheme is not ("http" or "https")) return null;
        var path = address.AbsolutePath.Trim('/').Split('/');
        var start = Array.FindIndex(path, keys.Contains);
        while (start >= 0 && (path.Length - start) % 2 != 0) start = Array.FindIndex(path, start + 1, keys.Contains);
        if (start < 0) return null;
        var elements = new List<(string Ai, string Value)>();
        for (var at = start; at < path.Length; at += 2)
        {
            if (ApplicationIdentifier.Of(path[at]) is null) return null;
            elements.Add((path[at], Uri.UnescapeDataString(path[at + 1])));
        }

        foreach (var parameter in address.Query.TrimStart('?').Split(['&', ';'], StringSplitOptions.RemoveEmptyEntries))
            if (parameter.Split('=', 2) is [var ai, var value] && ApplicationIdentifier.Of(ai) is not null) elements.Add((ai, Uri.UnescapeDataString(value)));
        return string.Join(ElementStringReader.Separator, elements.Select(e => e.Ai + e.Value));
    }
}
