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

/// <summary>What is in a file that is written in slices.</summary>
public enum StageKind
{
    /// <summary>Orders, with changes and despatch advices.</summary>
    Orders = 0,
    Stock = 1,
    Items = 2,
    Packs = 3,
    Vendors = 4,
    Bins = 5,
    People = 6,
}

/// <summary>A large import, kept with its file, so that a server that was killed goes on where it was.</summary>
public sealed class StagedImport
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int PersonId { get; init; }
    public required string PersonName { get; init; }
    public required string Device { get; init; }

    public StageKind Kind { get; init; }

    /// <summary>The act it belongs to: sent again, it is answered once.</summary>
    public required Guid ActId { get; init; }
    public required string Name { get; init; }

    /// <summary>The arrival that was chosen for its despatch advice, if any.</summary>
    public string? Arrival { get; init; }

    /// <summary>The file; empty once it is whole or given up.</summary>
    public required string Text { get; set; }
    public required DateTimeOffset At { get; init; }
    public StageState State { get; set; } = StageState.Writing;

    /// <summary>What will be answered, as JSON, where it is known before the first slice.</summary>
    public string Answer { get; init; } = "";

    /// <summary>Orders or lines of the file that are written, in its order.</summary>
    public int Done { get; set; }

    /// <summary>Lines among them that are left for the last act, since what they change is seen already: their places, with
    /// commas.</summary>
    public string Left { get; set; } = "";

    /// <summary>True where it changes the set-up, which everybody reads from one picture.</summary>
    public bool IsOfSetUp => Kind is not (StageKind.Orders or StageKind.Stock);
}

public static class StagedImports
{
    /// <summary>Those that were begun and are neither whole nor taken away.</summary>
    public static IQueryable<StagedImport> Unfinished(this IQueryable<StagedImport> imports) =>
        imports.Where(i => i.State == StageState.Writing || i.State == StageState.TakingBack);

    /// <summary>True where there is one, asked without the model: it is asked at every start.</summary>
    public static bool AnyUnfinished(string file) =>
        Database.IsSo(
            file,
            $"EXISTS (SELECT 1 FROM \"StagedImports\" WHERE \"State\" IN ({(int)StageState.Writing}, {(int)StageState.TakingBack}))"
        );
}

/// <summary>
/// The import whose rows nobody sees yet, by database file: rows carry its id, entries of the book its act, and are left out of every
/// question until it
/// is whole. One at a time.
/// </summary>
/// <param name="Import">Its id.</param>
/// <param name="Act">The act it belongs to.</param>
public sealed record HiddenImport(int Import, Guid Act)
{
    /// <summary>No import is hidden.</summary>
    public static HiddenImport None { get; } = new(-1, Guid.Empty);

    static readonly ConcurrentDictionary<string, HiddenImport> byFile = new();

    public static HiddenImport Of(string file) => byFile.GetValueOrDefault(file, None);

    public static void Set(string file, HiddenImport hidden) => byFile[file] = hidden;
}
