using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace MudRoom.Server.Tests;

/// <summary>What scans and files write goes by statements of our own, the rest by the mapper: a column does not show which.</summary>
public sealed class StoredValuesTests(DemoServer server) : IClassFixture<DemoServer>
{
    const string Day = "[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]";
    const string Time = " [0-9][0-9]:[0-9][0-9]:[0-9][0-9]*";

    /// <summary>The kind of value that SQLite keeps of a type, and how its text looks where it is one of a calendar.</summary>
    static (string Kind, string? Looks) Of(IProperty property)
    {
        var stored = property.GetTypeMapping().Converter?.ProviderClrType ?? property.ClrType;
        stored = Nullable.GetUnderlyingType(stored) ?? stored;
        return stored switch
        {
            { IsEnum: true } => ("integer", null),
            _ when stored == typeof(int) || stored == typeof(long) || stored == typeof(bool) => ("integer", null),
            _ when stored == typeof(double) => ("real", null),
            _ when stored == typeof(byte[]) => ("blob", null),
            _ when stored == typeof(DateOnly) => ("text", Day),
            _ when stored == typeof(TimeOnly) => ("text", "[0-9][0-9]:[0-9][0-9]:[0-9][0-9]*"),
            _ when stored == typeof(DateTime) => ("text", Day + Time),
            _ when stored == typeof(string) => ("text", null),
            _ => throw new InvalidOperationException($"Nobody says how a {stored} is kept."),
        };
    }

    [Fact]
    public async Task A_column_keeps_its_values_in_one_way_whoever_wrote_them()
    {
        using var dilys = await server.SignIn("dilys");
        using var wanjiru = await server.SignIn("wanjiru");
        var file = await dilys.Act(
            "/road/import",
            new
            {
                name = "kept.csv",
                text = "order,vendor,line,item,quantity,due,site,order_date,price,waiting_quantity,waiting_for,waiting_by\n"
                    + "PO-KEPT,BRAC,1,HH-16,12,2026-03-10,LM,2026-03-02,12.50,3,two orders,2026-03-10 16:30\n",
            }
        );
        Assert.True(file.IsOk, file.Body.ToString());
        Assert.True((await wanjiru.Act("/door/count", Client.Count("1"))).IsOk);
        await using var db = server.Db();
        var part = await db.LineParts.SingleAsync(p => p.WaitingFor == "two orders");
        Assert.Equal(new DateTime(2026, 3, 10, 16, 30, 0), part.WaitingBy);

        await using var connection = new SqliteConnection($"Data Source={server.File};Mode=ReadOnly");
        await connection.OpenAsync();
        var wrong = new List<string>();
        var seen = 0;
        foreach (var type in db.Model.GetEntityTypes().Where(t => t.GetTableName() is not null && !t.IsMappedToJson()))
        foreach (var property in type.GetProperties())
        {
            var (kind, looks) = Of(property);
            var column = $"\"{property.GetColumnName()}\"";
            var isWrong = $"typeof({column}) <> '{kind}'" + (looks is null ? "" : $" OR {column} NOT GLOB '{looks}'");
            await using var command = connection.CreateCommand();
            command.CommandText =
                $"SELECT COUNT(*), (SELECT {column} FROM \"{type.GetTableName()}\" WHERE {column} IS NOT NULL AND ({isWrong}) LIMIT 1) "
                + $"FROM \"{type.GetTableName()}\" WHERE {column} IS NOT NULL";
            await using var reader = await command.ExecuteReaderAsync();
            await reader.ReadAsync();
            seen += reader.GetInt64(0) > 0 ? 1 : 0;
            if (!reader.IsDBNull(1))
                wrong.Add($"{type.GetTableName()}.{property.Name}: {reader.GetValue(1)}");
        }

        Assert.Empty(wrong);
        Assert.True(seen > 300, $"Only {seen} columns have values.");
    }
}
