namespace MudRoom.Core.Identification;

/// <summary>
/// Reads GS1 Digital Link addresses into element strings: https://example.com/01/09521234543213/10/L7?17=271231 says what
/// (01)09521234543213(10)L7(17)271231 says. Source: GS1 Digital Link Standard, URI syntax: an identification key and its qualifiers in the
/// path,
/// further elements as parameters whose names are application identifiers; other parameters mean nothing here. Any domain may stand before
/// it.
/// </summary>
public static class DigitalLink
{
    /// <summary>Application identifiers that a path may begin with, as the standard's table of primary identification keys has
    /// them.</summary>
    static readonly HashSet<string> keys =
    [
        "00",
        "01",
        "253",
        "255",
        "401",
        "402",
        "414",
        "417",
        "8003",
        "8004",
        "8006",
        "8010",
        "8013",
        "8017",
        "8018",
    ];

    /// <summary>True for what has the form of an address on the web.</summary>
    public static bool LooksLike(string text) =>
        text.StartsWith("https://", StringComparison.OrdinalIgnoreCase) || text.StartsWith("http://", StringComparison.OrdinalIgnoreCase);

    /// <summary>Qualifiers of a key in the order in which a path has them, as the standard's table has them.</summary>
    static readonly Dictionary<string, string[]> qualifiers = new()
    {
        ["01"] = ["22", "10", "21", "235"],
        ["414"] = ["254", "7040"],
        ["417"] = ["7040"],
        ["8006"] = ["22", "10", "21"],
        ["8010"] = ["8011"],
        ["8017"] = ["8019"],
        ["8018"] = ["8019"],
    };

    /// <summary>The element string of an address, raw with separators, and what was passed over in it; null where it is some other
    /// address.</summary>
    /// <param name="text">The whole address; percent-encoded values are decoded. A GTIN has its 14 digits there.</param>
    public static (string Elements, string? Note)? Read(string text)
    {
        if (!Uri.TryCreate(text, UriKind.Absolute, out var address) || address.Scheme is not ("http" or "https"))
            return null;
        var path = address.AbsolutePath.Trim('/').Split('/');
        var start = Array.FindIndex(path, keys.Contains);
        while (start >= 0 && (path.Length - start) % 2 != 0)
            start = Array.FindIndex(path, start + 1, keys.Contains);
        if (start < 0)
            return null;
        var elements = new List<(string Ai, string Value)>();
        for (var at = start; at < path.Length; at += 2)
        {
            if (ApplicationIdentifier.Of(path[at]) is null)
                return null;
            elements.Add((path[at], Uri.UnescapeDataString(path[at + 1])));
        }

        var note = InOrder(elements)
            ? null
            : "The parts of the address stand in another order than the standard has them; they are read all the same.";
        foreach (var parameter in address.Query.TrimStart('?').Split(['&', ';'], StringSplitOptions.RemoveEmptyEntries))
        {
            if (parameter.Split('=', 2) is not [var ai, var value])
                continue;
            if (ApplicationIdentifier.Of(ai) is not null)
                elements.Add((ai, Uri.UnescapeDataString(value)));
            // Words are other people's; digits alone would be an identifier, and this one there is not.
            else if (CheckDigit.IsDigits(ai))
                note = $"({ai}) in the address is no application identifier and is passed over.";
        }

        return (string.Join(ElementStringReader.Separator, elements.Select(e => e.Ai + e.Value)), note);
    }

    static bool InOrder(List<(string Ai, string Value)> path)
    {
        var order = qualifiers.GetValueOrDefault(path[0].Ai) ?? [];
        var places = path.Skip(1).Select(e => Array.IndexOf(order, e.Ai)).ToList();
        return places.TrueForAll(p => p >= 0) && places.SequenceEqual(places.Order());
    }
}
