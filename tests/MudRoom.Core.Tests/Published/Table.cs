using System.Globalization;

namespace MudRoom.Core.Tests.Published;

/// <summary>A table of outside values: lines that begin with # say where they come from; a row is read by its columns' names.</summary>
public static class Table
{
    /// <summary>The rows of a file under data.</summary>
    public static IReadOnlyList<Row> Read(string file)
    {
        var lines = File.ReadLines(Path.Combine(AppContext.BaseDirectory, "Published", "data", file))
            .Where(l => l.Length > 0 && l[0] != '#')
            .Select(l => l.Split(','))
            .ToList();
        return [.. lines.Skip(1).Select(cells => new Row(lines[0], cells))];
    }
}

/// <summary>One row.</summary>
public sealed record Row(string[] Names, string[] Cells)
{
    /// <summary>The text of a cell.</summary>
    public string this[string name] => Cells[Array.IndexOf(Names, name)];

    /// <summary>A cell as a number.</summary>
    public double Number(string name) => double.Parse(this[name], CultureInfo.InvariantCulture);

    /// <summary>A cell as a whole number.</summary>
    public int Whole(string name) => (int)Number(name);
}
