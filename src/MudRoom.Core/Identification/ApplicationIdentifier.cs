using System.Collections.Frozen;

namespace MudRoom.Core.Identification;

/// <summary>One part of an element's value: a run of digits or characters, fixed or up to a length.</summary>
/// <param name="Set">N digits, X the 82 characters, Y the 39, Z base 64 for URLs.</param>
/// <param name="Length">Exact length, or the most when <paramref name="Variable"/>.</param>
/// <param name="Variable">True for "up to".</param>
/// <param name="Optional">True when the part may be missing.</param>
/// <param name="Checks">Names of further checks: csum, yymmd0 and others.</param>
public sealed record ElementPart(char Set, int Length, bool Variable, bool Optional, IReadOnlyList<string> Checks);

/// <summary>
/// A GS1 application identifier: what its value looks like and what it may and must stand with.
/// Source of the table: application-identifiers.csv beside this file, which names its own.
/// </summary>
/// <param name="Number">Two to four digits.</param>
/// <param name="Title">The data title, or empty.</param>
/// <param name="Parts">The parts of the value, in order.</param>
/// <param name="Predefined">True when the length is predefined and no separator follows.</param>
/// <param name="Excludes">Identifiers it may not stand with.</param>
/// <param name="Requires">Each must be met: alternatives of identifiers that must stand together with it.</param>
public sealed record ApplicationIdentifier(
    string Number,
    string Title,
    IReadOnlyList<ElementPart> Parts,
    bool Predefined,
    IReadOnlyList<string> Excludes,
    IReadOnlyList<IReadOnlyList<IReadOnlyList<string>>> Requires
)
{
    static readonly FrozenDictionary<string, ApplicationIdentifier> table = Load();

    /// <summary>All identifiers.</summary>
    public static IReadOnlyCollection<ApplicationIdentifier> All => table.Values;

    /// <summary>Longest value in characters.</summary>
    public int MaxLength => Parts.Sum(p => p.Length);

    /// <summary>Shortest value in characters.</summary>
    public int MinLength => Parts.Where(p => !p.Optional).Sum(p => p.Variable ? 1 : p.Length);

    /// <summary>The identifier with which the text begins, or null.</summary>
    public static ApplicationIdentifier? StartingIn(ReadOnlySpan<char> text)
    {
        var lookup = table.GetAlternateLookup<ReadOnlySpan<char>>();
        for (var length = 2; length <= 4 && length <= text.Length; length++)
            if (lookup.TryGetValue(text[..length], out var found))
                return found;
        return null;
    }

    /// <summary>The identifier with exactly this number, or null.</summary>
    public static ApplicationIdentifier? Of(string number) => table.GetValueOrDefault(number);

    static FrozenDictionary<string, ApplicationIdentifier> Load()
    {
        var all = new Dictionary<string, ApplicationIdentifier>();
        foreach (var line in Tables.Lines("Identification.application-identifiers.csv"))
        {
            var cells = line.Split(';');
            foreach (var number in Numbers(cells[0]))
            {
                all[number] = new ApplicationIdentifier(
                    number,
                    cells[4],
                    [.. Split(cells[1], ' ').Select(Part)],
                    cells[5] == "fixed",
                    Split(cells[2], ','),
                    [
                        .. Split(cells[3], '&')
                            .Select(all =>
                                (IReadOnlyList<IReadOnlyList<string>>)[.. Split(all.Trim(), '|').Select(one => Split(one, '+'))]
                            ),
                    ]
                );
            }
        }

        return all.ToFrozenDictionary();
    }

    static string[] Split(string text, char by) => text.Length == 0 ? [] : text.Split(by, StringSplitOptions.TrimEntries);

    static IEnumerable<string> Numbers(string range)
    {
        var ends = range.Split('-');
        if (ends.Length == 1)
            return ends;
        var first = int.Parse(ends[0]);
        return Enumerable.Range(first, int.Parse(ends[1]) - first + 1).Select(n => n.ToString());
    }

    static ElementPart Part(string text)
    {
        var optional = text.StartsWith('[');
        var words = text.Replace("[", "").Replace("]", "").Split(',');
        var shape = words[0];
        var variable = shape.Contains("..");
        return new ElementPart(shape[0], int.Parse(shape[1..].Replace("..", "")), variable, optional, words[1..]);
    }
}
