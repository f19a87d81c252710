using System.Data.Common;
using Microsoft.Data.Sqlite;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>
/// What the entries of a group of pieces are about, held back until somebody asks for it or the transaction ends: then written in the order
/// of the key, many rows by one command, so that each page of the table is touched once for the group and not once for each scan.
/// As an interceptor it sees every question before it is asked, so nobody misses what an earlier piece has written.
/// </summary>
sealed class ReferencesHeldBack : BeforeEachCommand
{
    const string Table = "EntryReferences";

    /// <summary>Most rows that one command writes.</summary>
    const int Most = 64;

    static readonly object[] kinds = [.. Enumerable.Range(0, (int)Enum.GetValues<ReferenceKind>().Max() + 1).Select(k => (object)(long)k)];

    readonly SqliteCommand?[] commands = new SqliteCommand?[Most + 1];
    readonly SqliteConnection connection;
    readonly List<LedgerEntry> held = [];
    readonly List<LedgerEntry> writtenByPiece = [];
    SqliteTransaction? transaction;

    public ReferencesHeldBack(SqliteConnection connection) => this.connection = connection;

    /// <summary>A transaction begins; nothing is held back.</summary>
    public void Begin(SqliteTransaction begun)
    {
        transaction = begun;
        held.Clear();
        writtenByPiece.Clear();
    }

    /// <summary>A piece begins: what it causes to be written is undone with it.</summary>
    public void BeginPiece() => writtenByPiece.Clear();

    /// <summary>Holds what a piece that is kept has written.</summary>
    public void Hold(IReadOnlyList<LedgerEntry> entries) => held.AddRange(entries);

    /// <summary>The piece was taken back to its savepoint: what was written since then is held again.</summary>
    public void TakeBackPiece()
    {
        held.InsertRange(0, writtenByPiece);
        writtenByPiece.Clear();
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
        writtenByPiece.AddRange(held);
        held.Clear();
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

    protected override void Before(DbCommand command)
    {
        if (held.Count > 0 && command.CommandText.Contains(Table, StringComparison.Ordinal))
            Write();
    }
}
