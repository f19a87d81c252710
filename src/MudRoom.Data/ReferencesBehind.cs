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
sealed class ReferencesBehind(SqliteConnection connection) : BeforeEachCommand, IDisposable
{
    /// <summary>Up to which entry the table is written; no row where there never was one.</summary>
    public const string WrittenUpTo = """
        SELECT COALESCE((SELECT CAST("Value" AS INTEGER) FROM "Notes" WHERE "Name" = 'references'), 0)
        """;

    /// <summary>Notes up to which entry the table is written; its one value is the number as text.</summary>
    public const string NoteText = """
        INSERT INTO "Notes" ("Name", "Value") VALUES ('references', ?)
        ON CONFLICT ("Name") DO UPDATE SET "Value" = excluded."Value"
        """;

    const string Table = "EntryReferences";

    /// <summary>Most rows that one command writes.</summary>
    const int Most = 64;

    /// <summary>So many entries wait no longer.</summary>
    const int Enough = 1024;

    static readonly object[] kinds = [.. Enumerable.Range(0, (int)Enum.GetValues<ReferenceKind>().Max() + 1).Select(k => (object)(long)k)];

    readonly Prepared?[] commands = new Prepared?[Most + 1];
    readonly List<LedgerEntry> held = [];
    readonly List<LedgerEntry> written = [];
    Prepared? note;
    int writtenBeforePiece;
    volatile bool waits;

    /// <summary>True when some wait, and until those that were written are durable; may be asked from anywhere.</summary>
    public bool Waits => waits;

    /// <summary>A transaction begins.</summary>
    public void Begin() => written.Clear();

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
    }

    /// <summary>What was written is durable: readers find it from now on.</summary>
    public void Committed()
    {
        written.Clear();
        waits = held.Count > 0;
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
        for (var i = 0; i < count; i++)
        {
            var (thing, seq) = rows[from + i];
            command.Bind(3 * i + 1, kinds[(int)thing.Kind]);
            command.Bind(3 * i + 2, thing.Id);
            command.Bind(3 * i + 3, seq);
        }

        if (command.Run() != count)
            throw new InvalidOperationException("What some entries are about was not written.");
    }

    Prepared Prepare(int count) =>
        new(
            connection,
            $"INSERT INTO \"{Table}\" (\"Kind\", \"Id\", \"Seq\", \"Derived\") VALUES "
                + string.Join(", ", Enumerable.Repeat("(?, ?, ?, 0)", count))
        );

    public void Dispose()
    {
        note?.Dispose();
        foreach (var command in commands)
            command?.Dispose();
    }

    void Note(long upTo)
    {
        note ??= new Prepared(connection, NoteText);
        note.Bind(1, upTo.ToString(CultureInfo.InvariantCulture));
        note.Run();
    }

    protected override void Before(DbCommand command)
    {
        if (held.Count > 0 && command.CommandText.Contains(Table, StringComparison.Ordinal))
            Write();
    }
}
