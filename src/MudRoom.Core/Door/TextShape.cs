namespace MudRoom.Core.Door;

/// <summary>
/// What a number looks like, learned from those before it: its runs of letters and digits, and the signs between them. A text from a
/// scanner that is no code of its own is taken for a batch or serial number only where it looks like those of the item or vendor.
/// </summary>
public static class TextShape
{
    /// <summary>How many earlier numbers are looked at.</summary>
    public const int Remembered = 20;

    /// <summary>True when a text looks like one of those before it: the same signs in the same places, letters as many, digits one more or
    /// fewer at most.</summary>
    /// <param name="text">As it was scanned.</param>
    /// <param name="before">Numbers of the same kind; none means that nothing is known.</param>
    public static bool Fits(string text, IEnumerable<string> before)
    {
        var runs = Runs(text);
        return before.Any(b => AreAlike(runs, Runs(b)));
    }

    static bool AreAlike(List<(char Kind, int Length)> a, List<(char Kind, int Length)> b) =>
        a.Count == b.Count
        && a.Zip(b).All(p => p.First.Kind == p.Second.Kind && Math.Abs(p.First.Length - p.Second.Length) <= (p.First.Kind == '9' ? 1 : 0));

    /// <summary>Runs of one kind: A for letters, 9 for digits, a sign for itself.</summary>
    static List<(char Kind, int Length)> Runs(string text)
    {
        var runs = new List<(char Kind, int Length)>();
        foreach (var c in text)
        {
            var kind =
                char.IsLetter(c) ? 'A'
                : char.IsAsciiDigit(c) ? '9'
                : c;
            if (runs is [.., var (last, length)] && last == kind)
                runs[^1] = (kind, length + 1);
            else
                runs.Add((kind, 1));
        }

        return runs;
    }
}
