using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange.Csv;

/// <summary>What is wrong in a table, and what was left alone.</summary>
/// <param name="Notes">Columns that are not known, each a sentence.</param>
/// <param name="Separator">Between the columns.</param>
public sealed record CsvRead(List<FileFault> Faults, IReadOnlyList<string> Notes, char Separator = ',');

/// <summary>
/// Reads a CSV table line by line: a heading line, columns in any order, separated by comma, semicolon or tab. Columns that are not known
/// are named and left alone.
/// </summary>
public static class CsvTable
{
    static readonly char[] separators = [',', ';', '\t'];

    /// <summary>Calls for each line; stops after a hundred faults. Missing and doubled columns are faults of the heading.</summary>
    /// <param name="habits">How numbers and dates are written where the house sends files of its own.</param>
    public static CsvRead Read(
        string text,
        IReadOnlyList<string> required,
        IReadOnlyList<string> optional,
        FileHabits habits,
        Action<CsvRow> line
    )
    {
        var faults = new List<FileFault>();
        text = text.TrimStart('\ufeff');
        if (string.IsNullOrWhiteSpace(text))
            return new CsvRead([new FileFault(1, "", "", "The file is empty.")], []);
        var separator = SeparatorOf(text, [.. required, .. optional]);
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            Delimiter = separator.ToString(),
            TrimOptions = TrimOptions.Trim,
            BadDataFound = bad => faults.Add(new FileFault(bad.Context.Parser?.RawRow ?? 0, "", "", "A quotation mark is not closed.")),
            MissingFieldFound = null,
        };
        using var csv = new CsvReader(new StringReader(text), configuration);
        csv.Read();
        csv.ReadHeader();
        var columns = (csv.HeaderRecord ?? []).Select(c => c.ToLowerInvariant()).ToList();
        var others = columns.Where(c => c.Length > 0 && !required.Contains(c) && !optional.Contains(c)).Distinct().ToList();
        List<string> notes = [.. others.Select(c => $"Column {c} is not known here and was left alone.")];
        faults.AddRange(required.Where(r => !columns.Contains(r)).Select(r => new FileFault(1, r, "", "This column is missing.")));
        faults.AddRange(
            columns
                .Except(others)
                .Where(c => c.Length > 0 && columns.Count(o => o == c) > 1)
                .Distinct()
                .Select(c => new FileFault(1, c, "", "This column stands twice."))
        );
        if (faults.Count > 0)
            return new CsvRead(faults, notes, separator);
        // Where a comma does not part columns, it stands before decimals.
        var own = separator == ';' ? habits with { DecimalComma = true } : habits;
        var lines = 0;
        while (faults.Count < Resolver.MostFaults && csv.Read())
        {
            lines++;
            line(new CsvRow(csv.Parser.Record ?? [], csv.Parser.RawRow, columns, own, faults));
        }

        if (faults.Count == 0 && lines == 0)
            faults.Add(new FileFault(2, "", "", "There is a heading but no line."));
        return new CsvRead(faults, notes, separator);
    }

    /// <summary>All lines, to be looked at later; what is found wrong with them then is added to the faults.</summary>
    public static (IReadOnlyList<CsvRow> Rows, CsvRead Read) Rows(
        string text,
        IReadOnlyList<string> required,
        IReadOnlyList<string> optional,
        FileHabits habits
    )
    {
        var rows = new List<CsvRow>();
        var read = Read(text, required, optional, habits, rows.Add);
        return (rows, read);
    }

    /// <summary>The separator that finds most of the known columns in the heading.</summary>
    static char SeparatorOf(string text, IReadOnlyList<string> known)
    {
        var end = text.AsSpan().IndexOfAny('\r', '\n');
        var heading = end < 0 ? text : text[..end];
        return separators.MaxBy(s => heading.Split(s).Count(c => known.Contains(c.Trim().Trim('"').Trim().ToLowerInvariant())));
    }
}

/// <summary>One line of the file with its faults.</summary>
public sealed class CsvRow(string[] fields, int fileLine, List<string> columns, FileHabits habits, List<FileFault> faults)
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
        if (text.Length == 0)
            Fault(field, "is empty");
        if (text.Length > most)
            Fault(field, $"has more than {most} characters");
        return text;
    }

    public decimal Number(string field, decimal least, decimal most, bool whole)
    {
        var text = Text(field, 40);
        if (text.Length == 0)
            return 0;
        var number = Quantities.Read(text, habits.DecimalComma);
        if (number.Refused(out var why))
            Fault(field, why.Sentence);
        else if (number.Value < least || number.Value > most)
            Fault(field, $"must be between {Quantities.Show(least)} and {Quantities.Show(most)}");
        else if (whole && decimal.Truncate(number.Value) != number.Value)
            Fault(field, "must be a whole number");
        else
            return number.Value;
        return 0;
    }

    public DateOnly Date(string field, DateOnly? blank)
    {
        if (blank is { } date && !Optional(field))
            return date;
        var text = Text(field, 20);
        if (text.Length == 0)
            return default;
        var read = TradeDates.Read(text, habits.Dates);
        if (!read.Refused(out var why))
            return read.Value;
        Fault(field, why.Sentence);
        return default;
    }

    /// <summary>A day and an hour on the site's wall clock, "2026-03-10 14:00", the day in the form of the site; a fault where it is
    /// none.</summary>
    public DateTime? Instant(string field)
    {
        var (day, hour) = Text(field, 30).Replace('T', ' ').Split(' ', 2, StringSplitOptions.TrimEntries) is [var d, var h]
            ? (d, h)
            : ("", "");
        var date = TradeDates.Read(day, habits.Dates);
        if (
            !date.Refused(out _)
            && TimeOnly.TryParseExact(hour, ["H:mm", "H:mm:ss"], CultureInfo.InvariantCulture, DateTimeStyles.None, out var time)
        )
            return date.Value.ToDateTime(time);
        Fault(field, "is no day with an hour, such as 2026-03-10 14:00");
        return null;
    }

    public OrderKind Kind()
    {
        switch (Raw("kind").ToLowerInvariant())
        {
            case "" or "purchase":
                return OrderKind.Purchase;
            case "transfer":
                return OrderKind.Transfer;
            case "return" or "customer return":
                return OrderKind.CustomerReturn;
            default:
                Fault("kind", "is none of purchase, transfer, return");
                return OrderKind.Purchase;
        }
    }

    public T? Find<T>(string field, IReadOnlyDictionary<string, T> known, string reason)
        where T : class
    {
        var code = Text(field, 40);
        if (code.Length == 0)
            return null;
        if (known.TryGetValue(code, out var found))
            return found;
        Fault(field, reason);
        return null;
    }

    public PackLevel? Pack(Item item)
    {
        if (TradeUnits.PackOf(Raw("unit"), item, item.BasePack) is { } pack)
            return pack;
        Fault("unit", $"{item.Code} does not come in this unit; it comes in {TradeUnits.In(item)}");
        return null;
    }

    /// <summary>The same line with another value in a column that the file has.</summary>
    public CsvRow With(string field, string value)
    {
        var at = columns.IndexOf(field);
        return at < 0 || at >= fields.Length
            ? this
            : new CsvRow([.. fields[..at], value, .. fields[(at + 1)..]], FileLine, columns, habits, Faults);
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
            case "yes" or "true" or "1" or "y":
                return true;
            case "" or "no" or "false" or "0" or "n":
                return false;
            default:
                Fault(field, "is neither yes nor no");
                return false;
        }
    }

    /// <summary>One of an enumeration's names, in any case; blank gives the first.</summary>
    public T OneOf<T>(string field)
        where T : struct, Enum
    {
        var text = Raw(field).Replace(" ", "");
        if (text.Length == 0)
            return default;
        if (Enum.TryParse<T>(text, ignoreCase: true, out var read) && Enum.IsDefined(read) && !char.IsDigit(text[0]))
            return read;
        Fault(field, $"is none of {string.Join(", ", Enum.GetNames<T>())}");
        return default;
    }

    /// <summary>Words between spaces or vertical bars.</summary>
    public IReadOnlyList<string> Words(string field) =>
        Raw(field).Split([' ', '|'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    /// <summary>A number, or what it is when blank.</summary>
    public decimal NumberOr(string field, decimal blank, decimal least, decimal most, bool whole = false) =>
        Optional(field) ? Number(field, least, most, whole) : blank;
}
