using System.Collections.Concurrent;

namespace MudRoom.Data;

/// <summary>How far an import is that is written in slices between other acts.</summary>
public enum StageState
{
    /// <summary>Its rows are being written and are hidden from all readers.</summary>
    Writing = 0,

    /// <summary>All of it is there.</summary>
    Whole = 1,

    /// <summary>It was given up; none of its rows are left.</summary>
    GivenUp = 2,

    /// <summary>Its rows, still hidden, are being taken away.</summary>
    TakingBack = 3,
}

/// <summary>A large import, kept with its file, so that a server that was killed goes on where it was.</summary>
public sealed class StagedImport
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int PersonId { get; init; }
    public required string PersonName { get; init; }
    public required string Device { get; init; }

    /// <summary>The act it belongs to: sent again, it is answered once.</summary>
    public required Guid ActId { get; init; }
    public required string Name { get; init; }

    /// <summary>The file; empty once it is whole or given up.</summary>
    public required string Text { get; set; }
    public required DateTimeOffset At { get; init; }
    public StageState State { get; set; } = StageState.Writing;

    /// <summary>Orders of the file that are written, in its order.</summary>
    public int OrdersDone { get; set; }
}

public static class StagedImports
{
    /// <summary>Those that were begun and are neither whole nor taken away.</summary>
    public static IQueryable<StagedImport> Unfinished(this IQueryable<StagedImport> imports) => imports.Where(i => i.State == StageState.Writing || i.State == StageState.TakingBack);
}

/// <summary>
/// The import whose rows nobody sees yet, by database file: rows carry its id and are left out of every question until it is whole. One at a time.
/// </summary>
public static class HiddenImport
{
    /// <summary>No import is hidden.</summary>
    public const int None = -1;

    static readonly ConcurrentDictionary<string, int> byFile = new();

    public static int Of(string file) => byFile.GetValueOrDefault(file, None);

    public static void Set(string file, int import) => byFile[file] = import;
}
