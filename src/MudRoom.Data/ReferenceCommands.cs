using Microsoft.Data.Sqlite;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>Writes what an entry is about: all of it by one command, prepared once for each number of rows.</summary>
sealed class ReferenceCommands(SqliteConnection connection)
{
    /// <summary>More than an entry of the floor names; what names more is written in several.</summary>
    const int Most = 16;

    static readonly object[] kinds = [.. Enumerable.Range(0, (int)Enum.GetValues<ReferenceKind>().Max() + 1).Select(k => (object)(long)k)];

    readonly SqliteCommand?[] commands = new SqliteCommand?[Most + 1];

    /// <summary>Writes the references of one entry.</summary>
    public void Insert(LedgerEntry entry, SqliteTransaction transaction)
    {
        var about = References.Of(entry, _ => null);
        object seq = entry.Seq;
        for (var done = 0; done < about.Count; done += Most)
        {
            var count = Math.Min(Most, about.Count - done);
            var command = commands[count] ??= Prepare(count);
            command.Transaction = transaction;
            var parameters = command.Parameters;
            parameters[0].Value = seq;
            for (var i = 0; i < count; i++)
            {
                var reference = about[done + i];
                parameters[2 * i + 1].Value = kinds[(int)reference.Kind];
                parameters[2 * i + 2].Value = reference.Id;
            }

            if (command.ExecuteNonQuery() != count)
                throw new InvalidOperationException($"What entry {entry.Seq} is about was not written.");
        }
    }

    SqliteCommand Prepare(int count)
    {
        var command = connection.CreateCommand();
        command.CommandText =
            "INSERT INTO \"EntryReferences\" (\"Kind\", \"Id\", \"Seq\", \"Derived\") VALUES "
            + string.Join(", ", Enumerable.Range(0, count).Select(i => $"($k{i}, $i{i}, $seq, 0)"));
        command.Parameters.Add(new SqliteParameter("$seq", SqliteType.Integer));
        for (var i = 0; i < count; i++)
        {
            command.Parameters.Add(new SqliteParameter($"$k{i}", SqliteType.Integer));
            command.Parameters.Add(new SqliteParameter($"$i{i}", SqliteType.Text));
        }

        command.Prepare();
        return command;
    }
}
