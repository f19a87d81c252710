namespace MudRoom.Core;

/// <summary>The tables of standards that are kept as text beside the code that uses them.</summary>
static class Tables
{
    /// <summary>The lines of an embedded table that are neither empty nor comment.</summary>
    public static IEnumerable<string> Lines(string name)
    {
        using var stream = typeof(Tables).Assembly.GetManifestResourceStream("MudRoom.Core." + name)
            ?? throw new InvalidOperationException($"The table {name} is not in the assembly.");
        using var reader = new StreamReader(stream);
        while (reader.ReadLine() is { } line)
            if (line.Length > 0 && line[0] != '#')
                yield return line;
    }
}
