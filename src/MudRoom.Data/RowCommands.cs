using System.Linq.Expressions;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace MudRoom.Data;

/// <summary>Inserts and updates whole rows of one kind.</summary>
interface IRowCommands : IDisposable
{
    void Insert(object row);

    /// <summary>The values of a row as they would be stored now, for <see cref="Update"/>.</summary>
    object[] ValuesOf(object row);

    /// <summary>Stores the values that a row had.</summary>
    /// <param name="before">What is stored now, where it is known: only what differs is written, and only its indexes are touched.</param>
    void Update(object[] values, object[]? before);
}

/// <summary>
/// Inserts and updates whole rows by commands prepared once on the writing connection, for the few kinds of row that every
/// scan writes. Columns and conversions come from EF's model, so there is no second mapping; only the tracking is left out.
/// </summary>
sealed class RowCommands<T> : IRowCommands
    where T : class
{
    readonly SqliteConnection connection;
    readonly string table;
    readonly List<IProperty> updated;
    readonly Prepared insert;
    readonly Func<T, object>[] insertRead;
    readonly Func<T, object>[] updateRead;
    readonly Dictionary<ulong, Prepared> updates = [];

    /// <param name="withKey">True where the writer numbers the rows itself.</param>
    public RowCommands(SqliteConnection connection, IModel model, bool withKey = false)
    {
        this.connection = connection;
        var type = model.FindEntityType(typeof(T))!;
        table = $"\"{type.GetTableName()}\"";
        var all = type.GetProperties().ToList();
        // A key that the database gives is left out: SQLite numbers the row.
        var inserted = all.Where(p => withKey || p.ValueGenerated == ValueGenerated.Never || !p.IsPrimaryKey()).ToList();
        insert = new Prepared(
            connection,
            $"INSERT INTO {table} ({string.Join(", ", inserted.Select(Name))}) VALUES ({string.Join(", ", inserted.Select(_ => "?"))})"
        );
        insertRead = [.. inserted.Select(Reader)];
        // Rows whose key is several columns are only ever inserted.
        var key = all.Count(p => p.IsPrimaryKey()) == 1 ? all.Single(p => p.IsPrimaryKey()) : null;
        if (all.Count > 64)
            throw new InvalidOperationException($"{table} has more columns than the 64 whose changes can be told apart.");
        updated = key is null ? [] : [.. all.Where(p => p != key), key];
        updateRead = [.. updated.Select(Reader)];
    }

    public void Insert(object row) => Run(insert, Values(insertRead, (T)row));

    public object[] ValuesOf(object row) => Values(updateRead, (T)row);

    public void Update(object[] values, object[]? before)
    {
        var changed = Enumerable.Range(0, updated.Count - 1).Where(i => before is null || !values[i].Equals(before[i])).ToArray();
        if (changed.Length == 0)
            return;
        var which = changed.Aggregate(0UL, (bits, i) => bits | 1UL << i);
        if (!updates.TryGetValue(which, out var update))
            updates[which] = update = UpdateOf(changed);
        Run(update, [.. changed.Select(i => values[i]), values[^1]]);
    }

    public void Dispose()
    {
        insert.Dispose();
        foreach (var update in updates.Values)
            update.Dispose();
    }

    Prepared UpdateOf(int[] changed) =>
        new(
            connection,
            $"UPDATE {table} SET {string.Join(", ", changed.Select(column => $"{Name(updated[column])} = ?"))} "
                + $"WHERE {Name(updated[^1])} = ?"
        );

    static object[] Values(Func<T, object>[] read, T row)
    {
        var values = new object[read.Length];
        for (var i = 0; i < read.Length; i++)
            values[i] = read[i](row);
        return values;
    }

    static string Name(IProperty property) => $"\"{property.GetColumnName()}\"";

    /// <summary>Reads a property as the value that is stored.</summary>
    static Func<T, object> Reader(IProperty property)
    {
        var row = Expression.Parameter(typeof(T));
        var get = Expression
            .Lambda<Func<T, object?>>(Expression.Convert(Expression.Property(row, property.PropertyInfo!), typeof(object)), row)
            .Compile();
        ValueConverter? converter = property.GetTypeMapping().Converter;
        if (converter is null)
            return entity => get(entity) ?? DBNull.Value;
        var convert = converter.ConvertToProvider;
        return entity => get(entity) is { } value ? convert(value) ?? DBNull.Value : DBNull.Value;
    }

    static void Run(Prepared prepared, ReadOnlySpan<object> values)
    {
        for (var i = 0; i < values.Length; i++)
            prepared.Bind(i + 1, values[i]);
        if (prepared.Run() != 1)
            throw new InvalidOperationException($"A row of {typeof(T).Name} was not written.");
    }
}

/// <summary>Looks for an act by its id, by a command prepared once.</summary>
sealed class DoneActLookup
{
    readonly SqliteCommand command;

    public DoneActLookup(SqliteConnection connection)
    {
        command = connection.CreateCommand();
        command.CommandText = "SELECT \"Path\", \"PersonId\", \"At\", \"Answer\", \"Content\" FROM \"DoneActs\" WHERE \"Id\" = $0";
        command.Parameters.Add(new SqliteParameter("$0", SqliteType.Blob));
        command.Prepare();
    }

    public DoneAct? Find(Guid id, SqliteTransaction transaction)
    {
        command.Transaction = transaction;
        command.Parameters[0].Value = id.ToByteArray(true);
        using var reader = command.ExecuteReader();
        return reader.Read()
            ? new DoneAct
            {
                Id = id,
                Path = reader.GetString(0),
                PersonId = reader.GetInt32(1),
                At = new DateTimeOffset(reader.GetInt64(2), TimeSpan.Zero),
                Answer = reader.GetString(3),
                Content = reader.IsDBNull(4) ? null : reader.GetString(4),
            }
            : null;
    }
}
