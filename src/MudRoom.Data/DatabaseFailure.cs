using Microsoft.Data.Sqlite;

namespace MudRoom.Data;

/// <summary>What a failure of the database means, however deep it lies in other failures. Codes of SQLite (sqlite.org, Result and Error
/// Codes).</summary>
public static class DatabaseFailure
{
    const int IoError = 10,
        Full = 13,
        Constraint = 19;

    /// <summary>A row of the same key is there already.</summary>
    public static bool IsTaken(Exception? failure) => CodeOf(failure) == Constraint;

    /// <summary>The disk takes nothing just now; what was tried may go well later.</summary>
    public static bool IsOfDisk(Exception? failure) => IsFull(failure) || CodeOf(failure) == IoError;

    /// <summary>There is no room left.</summary>
    public static bool IsFull(Exception? failure) => CodeOf(failure) == Full || All(failure).Any(f => f is IOException { HResult: 28 });

    static int? CodeOf(Exception? failure) => All(failure).OfType<SqliteException>().Select(f => (int?)f.SqliteErrorCode).FirstOrDefault();

    static IEnumerable<Exception> All(Exception? failure)
    {
        for (var inner = failure; inner is not null; inner = inner.InnerException)
            yield return inner;
    }
}
