using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange.Csv;

/// <summary>Reads a CSV table line by line: UTF-8 with or without byte order mark, comma or semicolon, a heading line.</summary>
public static class CsvTable
{
    /// <summary>Most faults that are said at once.</summary>
    public const int MostFaults = 100;

    /// <summary>Calls for each line; stops after a hundred faults. Missing, unknown and doubled columns are faults of the heading.</summary>
    public static List<FileFault> Read(string text, IReadOnlyList<string> required, IReadOnlyList<string> optional, Action<CsvRow> line)
    {
        var faults = new List<FileFault>();
        text = text.TrimStart('\ufeff');
        if (string.IsNullOrWhiteSpace(text)) return [new FileFault(1, "", "", "The file is empty.")];
        var end = text.IndexOf('\n');
        var heading = end < 0 ? text : text[..end];
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            Delimiter = heading.Contains(';') ? ";" : ",",
            TrimOptions = TrimOptions.Trim,
            BadDataFound = bad => faults.Add(new FileFault(bad.Context.Parser?.RawRow ?? 0, "", "", "A quotation mark is not closed.")),
            MissingFieldFound = null,
        };
        using var csv = new CsvReader(new StringReader(text), configuration);
        csv.Read();
        csv.ReadHeader();
        var columns = (csv.HeaderRecord ?? []).Select(c => c.ToLowerInvariant()).ToList();
        faults.AddRange(required.Where(r => !columns.Contains(r)).Select(r => new FileFault(1, r, "", "This column is missing.")));
        faults.AddRange(columns.Where(c => !required.Contains(c) && !optional.Contains(c)).Select(c => new FileFault(1, c, "", "No such column is known.")));
        faults.AddRange(columns.GroupBy(c => c).Where(g => g.Count() > 1).Select(g => new FileFault(1, g.Key, "", "This column stands twice.")));
        if (faults.Count > 0) return faults;
        var lines = 0;
        while (faults.Count < MostFaults && csv.Read())
        {
            lines++;
            line(new CsvRow(csv.Parser.Record ?? [], csv.Parser.RawRow, columns, faults));
        }

        if (faults.Count == 0 && lines == 0) faults.Add(new FileFault(2, "", "", "There is a heading but no line."));
        return faults;
    }

    /// <summary>All lines, to be looked at later; what is found wrong with them then is added to the faults.</summary>
    public static (IReadOnlyList<CsvRow> Rows, List<FileFault> Faults) Rows(string text, IReadOnlyList<string> required, IReadOnlyList<string> optional)
    {
        var rows = new List<CsvRow>();
        var faults = Read(text, required, optional, rows.Add);
        return (rows, faults);
    }
}

/// <summary>One line of the file with its faults.</summary>
public sealed class CsvRow(string[] fields, int fileLine, List<string> columns, List<FileFault> faults)
{
    public List<FileFault> Faults { get; } = faults;
    public IReadOnlyList<string> Columns => columns;
    public int FileLine { get; } = fileLine;

    public void Fault(string field, string reason) => Faults.Add(new FileFault(FileLine, field, Raw(field), reason));

    /// <summary>True where something stands in it.</summary>
    public bool Optional(string field) => Raw(field).Length > 0;

    /// <summary>True where the file has this column, blank or not.</summary>
    public bool Has(string field) => columns.Contains(field);

    public string Text(string field, int most)
    {
        var text = Raw(field);
        if (text.Length == 0) Fault(field, "is empty");
        if (text.Length > most) Fault(field, $"has more than {most} characters");
        return text;
    }

    public decimal Number(string field, decimal least, decimal most, bool whole)
    {
        var text = Text(field, 40);
        if (text.Length == 0) return 0;
        var number = Quantities.Read(text);
        if (number.Refused(out var why)) Fault(field, why.Sentence);
        else if (number.Value < least || number.Value > most) Fault(field, $"must be between {Quantities.Show(least)} and {Quantities.Show(most)}");
        else if (whole && decimal.Truncate(number.Value) != number.Value) Fault(field, "must be a whole number");
        else return number.Value;
        return 0;
    }

    public DateOnly Date(string field, DateOnly? blank)
    {
        if (blank is { } date && !Optional(field)) return date;
        var text = Text(field, 20);
        if (DateOnly.TryParseExact(text, "yyyy-MM-dd", out var read))
        {
            if (read.Year is >= 2000 and <= 2100) return read;
            Fault(field, "lies outside the years 2000 to 2100");
        }
        else if (text.Length > 0)
        {
            Fault(field, "is no date; write it as 2026-03-10");
        }

        return default;
    }

    public OrderKind Kind()
    {
        switch (Raw("kind").ToLowerInvariant())
        {
            case "" or "purchase": return OrderKind.Purchase;
            case "transfer": return OrderKind.Transfer;
            case "return" or "customer return": return OrderKind.CustomerReturn;
            default:
                Fault("kind", "is none of purchase, transfer, return");
                return OrderKind.Purchase;
        }
    }

    public T? Find<T>(string field, IReadOnlyDictionary<string, T> known, string reason) where T : class
    {
        var code = Text(field, 40);
        if (code.Length == 0) return null;
        if (known.TryGetValue(code, out var found)) return found;
        Fault(field, reason);
        return null;
    }

    public PackLevel? Pack(Item item)
    {
        if (!Optional("unit")) return item.BasePack;
        var word = Raw("unit");
        if (item.PackLevels.Find(p => p.Name.Equals(word, StringComparison.OrdinalIgnoreCase)) is { } pack) return pack;
        if (Units.Code(word) == item.BaseUnit) return item.BasePack;
        Fault("unit", $"{item.Code} has no such unit; it has {string.Join(", ", item.PackLevels.Select(p => p.Name))}");
        return null;
    }

    /// <summary>The same line with another value in a column that the file has.</summary>
    public CsvRow With(string field, string value)
    {
        var at = columns.IndexOf(field);
        return at < 0 || at >= fields.Length ? this : new CsvRow([.. fields[..at], value, .. fields[(at + 1)..]], FileLine, columns, Faults);
    }

    /// <summary>What stands there, or nothing.</summary>
    public string Raw(string field)
    {
        var at = columns.IndexOf(field);
        var text = at < 0 || at >= fields.Length ? "" : fields[at];
        // The apostrophe that CsvOut puts before what a spreadsheet would take for a formula.
        return text.Length > 1 && text[0] == '\'' && text[1] is '=' or '+' or '-' or '@' ? text[1..] : text;
    }

    /// <summary>yes or no, true or false, 1 or 0; blank is no.</summary>
    public bool YesNo(string field)
    {
        switch (Raw(field).ToLowerInvariant())
        {
            case "yes" or "true" or "1" or "y": return true;
            case "" or "no" or "false" or "0" or "n": return false;
            default:
                Fault(field, "is neither yes nor no");
                return false;
        }
    }

    /// <summary>One of an enumeration's names, in any case; blank gives the first.</summary>
    public T OneOf<T>(string field) where T : struct, Enum
    {
        var text = Raw(field).Replace(" ", "");
        if (text.Length == 0) return default;
        if (Enum.TryParse<T>(text, ignoreCase: true, out var read) && Enum.IsDefined(read) && !char.IsDigit(text[0])) return read;
        Fault(field, $"is none of {string.Join(", ", Enum.GetNames<T>())}");
        return default;
    }

    /// <summary>Words between spaces or vertical bars.</summary>
    public IReadOnlyList<string> Words(string field) => Raw(field).Split([' ', '|'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    /// <summary>A number, or what it is when blank.</summary>
    public decimal NumberOr(string field, decimal blank, decimal least, decimal most, bool whole = false) => Optional(field) ? Number(field, least, most, whole) : blank;
}
