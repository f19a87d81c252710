using System.Linq.Expressions;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace MudRoom.Data;

/// <summary>
/// Inserts rows that are only ever appended, by one command prepared once on the writing connection. Columns and conversions
/// come from EF's model, so there is no second mapping; only the tracking, which append-only rows do not need, is left out.
/// </summary>
sealed class Appender<T> : IDisposable where T : class
{
    readonly SqliteCommand command;
    readonly Func<T, object>[] read;

    public Appender(SqliteConnection connection, IModel model)
    {
        var type = model.FindEntityType(typeof(T))!;
        // A key that the database gives is left out: SQLite numbers the row.
        var columns = type.GetProperties().Where(p => p.ValueGenerated == ValueGenerated.Never || !p.IsPrimaryKey()).ToList();
        command = connection.CreateCommand();
        command.CommandText = $"INSERT INTO \"{type.GetTableName()}\" ({string.Join(", ", columns.Select(c => $"\"{c.GetColumnName()}\""))}) VALUES ({string.Join(", ", columns.Select((_, i) => "$" + i))})";
        for (var i = 0; i < columns.Count; i++) command.Parameters.Add(new SqliteParameter("$" + i, null));
        command.Prepare();
        read = [.. columns.Select(Reader)];
    }

    /// <summary>Inserts one row in the transaction that is open.</summary>
    public void Append(T row, SqliteTransaction transaction)
    {
        command.Transaction = transaction;
        for (var i = 0; i < read.Length; i++) command.Parameters[i].Value = read[i](row);
        command.ExecuteNonQuery();
    }

    public void Dispose() => command.Dispose();

    /// <summary>Reads a property as the value that is stored.</summary>
    static Func<T, object> Reader(IProperty property)
    {
        var row = Expression.Parameter(typeof(T));
        var get = Expression.Lambda<Func<T, object?>>(Expression.Convert(Expression.Property(row, property.PropertyInfo!), typeof(object)), row).Compile();
        ValueConverter? converter = property.GetTypeMapping().Converter;
        if (converter is null) return entity => get(entity) ?? DBNull.Value;
        var convert = converter.ConvertToProvider;
        return entity => get(entity) is { } value ? convert(value) ?? DBNull.Value : DBNull.Value;
    }
}
