namespace MudRoom.Core.Identification;

/// <summary>
/// A batch number of open length ends at a separator (FNC1). A scanner that leaves it out lets the batch swallow what follows. That
/// cannot be seen with certainty, but it can be suspected: where a whole date or count with its identifier stands at the end of the batch.
/// </summary>
public static class SwallowedIdentifiers
{
    /// <summary>Dates further than this from today are taken for part of a batch number.</summary>
    const int MostYears = 10;

    static readonly string[] dates = ["11", "13", "15", "16", "17"];

    /// <summary>What the batch would be without what it may have swallowed; null where nothing is suspected.</summary>
    /// <param name="read">As it was read.</param>
    /// <param name="today">The date at the site.</param>
    /// <returns>The string as it would read with the separator, and the words for a person.</returns>
    public static (ElementString Instead, string Words)? Suspect(ElementString read, DateOnly today)
    {
        // Only the last element can have swallowed anything: a separator stands behind the others.
        if (read.Elements is not [.., { Ai: "10" } batch])
            return null;
        for (var at = 1; at < batch.Value.Length; at++)
            if (Tail(batch.Value[at..], today) is { Count: > 0 } tail && tail.All(t => read[t.Ai] is null))
            {
                var instead = new ElementString(
                    [.. read.Elements.SkipLast(1), batch with { Value = batch.Value[..at] }, .. tail],
                    read.ReadOn
                );
                return (
                    instead,
                    $"Batch {batch.Value} ends with what reads as {string.Join(" and ", tail.Select(t => $"({t.Ai}) {t.Value}"))}: "
                        + $"the separator may be missing, and the batch be {batch.Value[..at]}."
                );
            }

        return null;
    }

    /// <summary>Elements that fill the whole text: dates near today first, then perhaps a count; empty where they do not.</summary>
    static List<Element> Tail(string text, DateOnly today)
    {
        var tail = new List<Element>();
        while (text.Length >= 8 && dates.Contains(text[..2]) && tail.All(t => t.Ai != text[..2]) && IsNear(text[2..8], today))
        {
            tail.Add(new Element(text[..2], text[2..8], 0));
            text = text[8..];
        }

        if (text.Length == 0)
            return tail;
        // A count alone is too short to be told from a number; behind a date it is none by chance.
        return tail.Count > 0 && text.Length is >= 3 and <= 10 && text[..2] is "30" or "37" && text[2] != '0' && CheckDigit.IsDigits(text)
            ? [.. tail, new Element(text[..2], text[2..], 0)]
            : [];
    }

    static bool IsNear(string digits, DateOnly today) =>
        CheckDigit.IsDigits(digits)
        && GoodsDate.Read(digits, today, DayZero.LastOfMonth) is { } date
        && Math.Abs(date.Date.DayNumber - today.DayNumber) <= MostYears * 366;
}
