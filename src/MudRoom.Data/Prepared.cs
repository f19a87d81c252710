using System.Globalization;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace MudRoom.Data;

/// <summary>
/// A statement prepared once on the writing connection, whose values are bound by their place. A command of the library looks each of its
/// parameters up by name whenever it runs; what every scan writes has about a hundred. Values are stored as a command stores them.
/// </summary>
sealed class Prepared : IDisposable
{
    readonly sqlite3 database;
    readonly sqlite3_stmt statement;

    /// <param name="connection">An open one; the statement runs in whichever transaction is begun on it.</param>
    /// <param name="text">One statement, its values as question marks.</param>
    /// <exception cref="SqliteException">Where SQLite does not take it.</exception>
    public Prepared(SqliteConnection connection, string text)
    {
        database = connection.Handle!;
        Check(raw.sqlite3_prepare_v3(database, text, raw.SQLITE_PREPARE_PERSISTENT, out statement));
    }

    /// <summary>Sets a value; it stays until another is set.</summary>
    /// <param name="place">1 and up.</param>
    /// <exception cref="NotSupportedException">For a kind of value that no column of ours has.</exception>
    public void Bind(int place, object value) =>
        Check(
            value switch
            {
                DBNull => raw.sqlite3_bind_null(statement, place),
                long number => raw.sqlite3_bind_int64(statement, place, number),
                int number => raw.sqlite3_bind_int64(statement, place, number),
                bool isSo => raw.sqlite3_bind_int64(statement, place, isSo ? 1 : 0),
                Enum one => raw.sqlite3_bind_int64(statement, place, Convert.ToInt64(one, CultureInfo.InvariantCulture)),
                string text => raw.sqlite3_bind_text(statement, place, text),
                byte[] bytes => raw.sqlite3_bind_blob(statement, place, bytes),
                double number => raw.sqlite3_bind_double(statement, place, number),
                DateOnly day => raw.sqlite3_bind_text(statement, place, day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)),
                DateTime time => raw.sqlite3_bind_text(
                    statement,
                    place,
                    time.ToString(@"yyyy\-MM\-dd HH\:mm\:ss.FFFFFFF", CultureInfo.InvariantCulture)
                ),
                _ => throw new NotSupportedException($"No column of ours keeps a {value.GetType()}."),
            }
        );

    /// <summary>Runs it with the values that are set.</summary>
    /// <returns>How many rows it wrote.</returns>
    /// <exception cref="SqliteException">Where SQLite refuses; what was written is taken back with its savepoint.</exception>
    /// <exception cref="InvalidOperationException">Outside a transaction: a full disk ends one without being asked.</exception>
    public int Run()
    {
        if (raw.sqlite3_get_autocommit(database) != 0)
            throw new InvalidOperationException("What every act writes is written in a transaction only.");
        try
        {
            var result = raw.sqlite3_step(statement);
            if (result != raw.SQLITE_DONE)
                SqliteException.ThrowExceptionForRC(result, database);
            return raw.sqlite3_changes(database);
        }
        finally
        {
            raw.sqlite3_reset(statement);
        }
    }

    public void Dispose() => statement.Dispose();

    void Check(int result) => SqliteException.ThrowExceptionForRC(result, database);
}

/// <summary>The savepoint of one act, within the transaction of all that is committed together. The library's own prepares each of its
/// three statements anew for every act.</summary>
sealed class Savepoint(SqliteConnection connection) : IDisposable
{
    readonly Prepared save = new(connection, "SAVEPOINT act");
    readonly Prepared release = new(connection, "RELEASE act");
    readonly Prepared takeBack = new(connection, "ROLLBACK TO act");

    public void Save() => save.Run();

    /// <summary>What was written since then stays, with the transaction.</summary>
    public void Release() => release.Run();

    /// <summary>What was written since then is taken back; the savepoint stays until it is released.</summary>
    /// <exception cref="InvalidOperationException">The whole transaction is taken back already, by a full disk.</exception>
    public void TakeBack() => takeBack.Run();

    public void Dispose()
    {
        save.Dispose();
        release.Dispose();
        takeBack.Dispose();
    }
}
