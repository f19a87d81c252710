using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace MudRoom.Exchange.Csv;

/// <summary>Writes CSV as spreadsheets and people read it: a header, commas, UTF-8 with BOM, ISO dates, decimal points.</summary>
public static class CsvOut
{
    /// <summary>The file's bytes. Text that a spreadsheet would take for a formula gets an apostrophe in front.</summary>
    public static byte[] Write(IReadOnlyList<string> header, IEnumerable<IReadOnlyList<object?>> rows, char separator = ',')
    {
        using var bytes = new MemoryStream();
        using (var writer = new StreamWriter(bytes, new UTF8Encoding(encoderShouldEmitUTF8Identifier: true), leaveOpen: true))
        using (
            var csv = new CsvWriter(
                writer,
                new CsvConfiguration(CultureInfo.InvariantCulture)
                {
                    InjectionOptions = InjectionOptions.Escape,
                    Delimiter = separator.ToString(),
                }
            )
        )
        {
            foreach (var name in header)
                csv.WriteField(name);
            csv.NextRecord();
            foreach (var row in rows)
            {
                foreach (var value in row)
                    csv.WriteField(Text(value));
                csv.NextRecord();
            }
        }

        return bytes.ToArray();
    }

    /// <summary>One value as it stands in a file.</summary>
    public static string Text(object? value) =>
        value switch
        {
            null => "",
            DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            DateTime at => at.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture),
            decimal number => number.ToString("0.######", CultureInfo.InvariantCulture),
            IFormattable other => other.ToString(null, CultureInfo.InvariantCulture),
            _ => value.ToString() ?? "",
        };
}
