using System.Globalization;

namespace MudRoom.Core.Door;

/// <summary>Serial numbers as they are typed: one, several, or ranges.</summary>
public static class Serials
{
    /// <summary>Most serials of one count.</summary>
    public const int Most = 500;

    /// <summary>
    /// Reads "IC-0101 to IC-0150", "0101 to 0150", "A1, A2, A7" or a mixture, one after another by comma, semicolon or line. The ends of a
    /// range are the same
    /// but for the digits at their end, which keep their length.
    /// </summary>
    /// <returns>Each serial once, in order; refused when a range runs backward, is not one, or a serial stands twice.</returns>
    public static Outcome<IReadOnlyList<string>> Read(string text)
    {
        var all = new List<string>();
        foreach (var piece in text.Split([',', ';', '\n', '\r'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var ends = piece.Split(" to ", StringSplitOptions.TrimEntries);
            if (ends.Length == 1)
                all.Add(piece);
            else if (ends.Length == 2 && Range(ends[0], ends[1]) is { } range)
            {
                if (range.Refused(out var wrong))
                    return wrong;
                all.AddRange(range.Value);
            }
            else
                return new Refusal(
                    DoorRefusals.SerialRange,
                    $"{piece} is no range of serial numbers.",
                    "Type the first and the last with to between them."
                );
            if (all.Count > Most)
                return new Refusal(DoorRefusals.SerialsMany, $"More than {Most} serial numbers at once.", "Count them in parts.");
        }

        if (all.Count == 0)
            return new Refusal(DoorRefusals.SerialMissing, "There is no serial number.", "Scan or type it.");
        if (all.Find(s => s.Length > 40) is { } lengthy)
            return new Refusal(HouseRefusals.CodeLong, $"{lengthy[..20]}… has more than 40 characters.", "Look at the label again.");
        return all.GroupBy(s => s, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice
            ? new Refusal(DoorRefusals.SerialTwice, $"{twice.Key} stands twice.", "Take one away.")
            : all;
    }

    /// <summary>All from the first to the last, which are the same but for the digits at their end. Refused when they are not, run
    /// backward, or are too many.</summary>
    public static Outcome<IReadOnlyList<string>> Range(string first, string last)
    {
        var (head, from) = Cut(first);
        var (tail, to) = Cut(last);
        if (from.Length == 0 || from.Length > 15 || !head.Equals(tail, StringComparison.OrdinalIgnoreCase) || from.Length != to.Length)
            return new Refusal(
                DoorRefusals.SerialRange,
                $"{first} to {last} is no range: both ends must be alike but for the digits at their end.",
                "Type the two as they stand on the labels."
            );
        var (a, b) = (long.Parse(from, CultureInfo.InvariantCulture), long.Parse(to, CultureInfo.InvariantCulture));
        if (b < a)
            return new Refusal(DoorRefusals.SerialRange, $"{first} to {last} runs backward.", "Type the lower one first.");
        if (b - a >= Most)
            return new Refusal(DoorRefusals.SerialsMany, $"{first} to {last} are more than {Most} serial numbers.", "Count them in parts.");
        return Enumerable
            .Range(0, (int)(b - a) + 1)
            .Select(i => head + (a + i).ToString(CultureInfo.InvariantCulture).PadLeft(from.Length, '0'))
            .ToList();
    }

    static (string Head, string Digits) Cut(string text)
    {
        var at = text.Length;
        while (at > 0 && char.IsAsciiDigit(text[at - 1]))
            at--;
        return (text[..at], text[at..]);
    }
}
