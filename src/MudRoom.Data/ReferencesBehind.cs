using System.Data.Common;
using System.Globalization;
using Microsoft.Data.Sqlite;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>
/// What the entries are about is written behind them: when there are many, when somebody asks for it, or when the desk has nothing else to
/// do; in the order of the key, many rows by one command, so that each page of the table is touched once for a thousand scans and not once
/// for each. Nothing rests on memory: every entry carries in itself what it is about, a note says up to which one the table is written,
/// and who opens the database goes on from there. As an interceptor it sees every question of the writer before it is asked; readers ask
/// the desk (<see cref="WriteDesk.CatchUp"/>).
/// </summary>
sealed class ReferencesBehind(SqliteConnection connection) : BeforeEachCommand
{
    /// <summary>Up to which entry the table is written; no row where there never was one.</summary>
    public const string WrittenUpTo = """
        SELECT COALESCE((SELECT CAST("Value" AS INTEGER) FROM "Notes" WHERE "Name" = 'references'), 0)
        """;

    const string Table = "EntryReferences";

    /// <summary>Most rows that one command writes.</summary>
    const int Most = 64;

    /// <summary>So many entries wait no longer.</summary>
    const int Enough = 1024;

    static readonly object[] kinds = [.. Enumerable.Range(0, (int)Enum.GetValues<ReferenceKind>().Max() + 1).Select(k => (object)(long)k)];

    readonly SqliteCommand?[] commands = new SqliteCommand?[Most + 1];
    readonly List<LedgerEntry> held = [];
    readonly List<LedgerEntry> written = [];
    SqliteCommand? note;
    SqliteTransaction? transaction;
    int writtenBeforePiece;
    volatile bool waits;

    /// <summary>True when some wait; may be asked from anywhere.</summary>
    public bool Waits => waits;

    /// <summary>A transaction begins.</summary>
    public void Begin(SqliteTransaction begun)
    {
        transaction = begun;
        written.Clear();
    }

    /// <summary>A piece begins: what it causes to be written is taken back with it.</summary>
    public void BeginPiece() => writtenBeforePiece = written.Count;

    /// <summary>Holds what a piece that is kept has written.</summary>
    public void Hold(IReadOnlyList<LedgerEntry> entries)
    {
        held.AddRange(entries);
        waits = held.Count > 0;
    }

    /// <summary>The piece was taken back to its savepoint: what was written since then is held again.</summary>
    public void TakeBackPiece() => HoldAgain(from: writtenBeforePiece);

    /// <summary>The transaction was taken back: what it wrote is held again, and its own entries were never there.</summary>
    /// <param name="last">The last entry before it.</param>
    public void TakeBack(long last)
    {
        HoldAgain(from: 0);
        held.RemoveAll(e => e.Seq > last);
        waits = held.Count > 0;
    }

    /// <summary>Writes what is held when it is enough to be worth it.</summary>
    public void WriteIfMany()
    {
        if (held.Count >= Enough)
            Write();
    }

    /// <summary>Writes all that is held.</summary>
    public void Write()
    {
        if (held.Count == 0)
            return;
        var rows = new List<(Reference Thing, long Seq)>(held.Count * 10);
        foreach (var entry in held)
        foreach (var thing in References.Of(entry, _ => null))
            rows.Add((thing, entry.Seq));
        rows.Sort(ByKey);
        for (var done = 0; done < rows.Count; done += Most)
            Insert(rows, done, Math.Min(Most, rows.Count - done));
        Note(held[^1].Seq);
        written.AddRange(held);
        held.Clear();
        waits = false;
    }

    void HoldAgain(int from)
    {
        held.InsertRange(0, written.Skip(from));
        written.RemoveRange(from, written.Count - from);
        waits = held.Count > 0;
    }

    static int ByKey((Reference Thing, long Seq) a, (Reference Thing, long Seq) b)
    {
        if (a.Thing.Kind != b.Thing.Kind)
            return a.Thing.Kind.CompareTo(b.Thing.Kind);
        var byId = string.CompareOrdinal(a.Thing.Id, b.Thing.Id);
        return byId != 0 ? byId : a.Seq.CompareTo(b.Seq);
    }

    void Insert(List<(Reference Thing, long Seq)> rows, int from, int count)
    {
        var command = commands[count] ??= Prepare(count);
        command.Transaction = transaction;
        var parameters = command.Parameters;
        for (var i = 0; i < count; i++)
        {
            var (thing, seq) = rows[from + i];
            parameters[3 * i].Value = kinds[(int)thing.Kind];
            parameters[3 * i + 1].Value = thing.Id;
            parameters[3 * i + 2].Value = seq;
        }

        if (command.ExecuteNonQuery() != count)
            throw new InvalidOperationException("What some entries are about was not written.");
    }

    SqliteCommand Prepare(int count)
    {
        var command = connection.CreateCommand();
        command.CommandText =
            $"INSERT INTO \"{Table}\" (\"Kind\", \"Id\", \"Seq\", \"Derived\") VALUES "
            + string.Join(", ", Enumerable.Range(0, count).Select(i => $"($k{i}, $i{i}, $s{i}, 0)"));
        for (var i = 0; i < count; i++)
        {
            command.Parameters.Add(new SqliteParameter($"$k{i}", SqliteType.Integer));
            command.Parameters.Add(new SqliteParameter($"$i{i}", SqliteType.Text));
            command.Parameters.Add(new SqliteParameter($"$s{i}", SqliteType.Integer));
        }

        command.Prepare();
        return command;
    }

    void Note(long upTo)
    {
        note ??= NoteOn(connection);
        note.Transaction = transaction;
        note.Parameters[0].Value = upTo.ToString(CultureInfo.InvariantCulture);
        note.ExecuteNonQuery();
    }

    /// <summary>The command that notes up to which entry the table is written; its one parameter is the number as text.</summary>
    public static SqliteCommand NoteOn(SqliteConnection connection)
    {
        var command = connection.CreateCommand();
        command.CommandText =
            "INSERT INTO \"Notes\" (\"Name\", \"Value\") VALUES ('references', $upTo) "
            + "ON CONFLICT (\"Name\") DO UPDATE SET \"Value\" = excluded.\"Value\"";
        command.Parameters.Add(new SqliteParameter("$upTo", SqliteType.Text));
        return command;
    }

    protected override void Before(DbCommand command)
    {
        if (held.Count > 0 && command.CommandText.Contains(Table, StringComparison.Ordinal))
            Write();
    }
}
