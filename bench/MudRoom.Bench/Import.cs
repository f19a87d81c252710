using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text.Json;
using CsvHelper;
using CsvHelper.Configuration;
using Microsoft.Data.Sqlite;
using MudRoom.Data;

namespace MudRoom.Bench;

/// <summary>A large import: against a raw bulk insert of the same rows with the same indexes, and beside fifty receivers.</summary>
static class Import
{
    const int SetUpLines = 20_000;

    public static async Task<bool> Report(string dll, string folder)
    {
        using var server = BuiltServer.Start(dll, folder, out var url);
        try
        {
            await Scans.OpenDoor(url);
            var demo = new Counting(url, "LM", "A-BENCH", "leila", null, Scans.Items);
            using var buyer = await BuiltServer.SignIn(url, "dilys");
            // Once for the compiler, as the raw insert is prepared too.
            await BuiltServer.Act(buyer, "/api/LM/road/import", new { name = "warm.csv", text = Small() });
            var quiet = Stopwatch.StartNew();
            await BuiltServer.Act(buyer, "/api/LM/road/import", new { name = "quiet.csv", text = Road.File(7) });
            var own = quiet.Elapsed.TotalSeconds;
            var raw = Raw(Path.Combine(folder, "mudroom.db"), Path.Combine(folder, "raw.db"));
            Console.WriteLine(
                $"import of {Road.Lines:#,0} order lines on a quiet server: {own:0.0} s; reading the file and a raw bulk insert of "
                    + $"the same rows with the same indexes: {raw:0.0} s; ratio {own / raw:0.0} (limit 6)"
            );

            var beside = await Beside.Scan(demo, $"{Road.Lines:#,0} order lines are imported", () =>
                BuiltServer.Act(buyer, "/api/LM/road/import", new { name = "beside.csv", text = Road.File(8) })
            );
            using var administrator = await BuiltServer.SignIn(url, "anselm");
            var bins = await Beside.Scan(demo, $"{SetUpLines:#,0} bins are set up", () =>
                SetUp(administrator, "Bins", "address,zone,function\n", n => $"BN-{n},Dry reserve,Reserve\n")
            );
            var stock = await Beside.Scan(demo, $"{SetUpLines:#,0} lines of opening stock are taken in", () =>
                SetUp(administrator, "Stock", "bin,item,quantity\n", n => $"BN-{n},HH-16,5\n")
            );
            return own / raw <= 6 && beside && bins && stock;
        }
        finally
        {
            await BuiltServer.Stop(server);
        }
    }

    static Task SetUp(HttpClient administrator, string kind, string heading, Func<int, string> line) =>
        BuiltServer.Act(
            administrator,
            "/api/LM/site/files/import",
            new
            {
                kind,
                name = $"{kind}.csv",
                text = heading + string.Concat(Enumerable.Range(0, SetUpLines).Select(line)),
            }
        );

    static string Small() =>
        "order,vendor,line,item,quantity,due,site\n"
        + string.Concat(Enumerable.Range(0, 600).Select(n => $"PO-W-{n / 10},BRAC,{n % 10 + 1},HH-16,5,2026-04-01,LM\n"));

    /// <summary>Reads the file with CsvHelper and inserts the rows that the import has made, prepared, in one transaction, into tables with
    /// the same columns and indexes.</summary>
    static double Raw(string from, string to)
    {
        using var source = new SqliteConnection($"Data Source={from};Mode=ReadOnly");
        source.Open();
        using var target = Database.Open(to);
        string[] tables = ["Orders", "OrderLines", "LineParts"];
        foreach (
            var sql in Texts(
                source,
                "SELECT sql FROM sqlite_master WHERE tbl_name IN ('Orders','OrderLines','LineParts') AND sql IS NOT NULL ORDER BY type DESC"
            )
        )
            Run(target, StripReferences(sql));
        var rows = tables.ToDictionary(t => t, t => Rows(source, t));
        var text = Road.File(7);
        var watch = Stopwatch.StartNew();
        using (var csv = new CsvReader(new StringReader(text), new CsvConfiguration(CultureInfo.InvariantCulture)))
        {
            csv.Read();
            csv.ReadHeader();
            while (csv.Read())
                for (var i = 0; i < 7; i++)
                    _ = csv.GetField(i);
        }

        using (var transaction = target.BeginTransaction())
        {
            foreach (var table in tables)
            {
                using var insert = target.CreateCommand();
                insert.Transaction = transaction;
                var columns = rows[table][0].Length;
                insert.CommandText = $"INSERT INTO {table} VALUES ({string.Join(",", Enumerable.Range(0, columns).Select(i => "$" + i))})";
                for (var i = 0; i < columns; i++)
                    insert.Parameters.Add(new SqliteParameter("$" + i, null));
                insert.Prepare();
                foreach (var row in rows[table])
                {
                    for (var i = 0; i < columns; i++)
                        insert.Parameters[i].Value = row[i];
                    insert.ExecuteNonQuery();
                }
            }

            transaction.Commit();
        }

        return watch.Elapsed.TotalSeconds;
    }

    /// <summary>The other tables are not there: rows point to nothing here.</summary>
    static string StripReferences(string sql) =>
        System.Text.RegularExpressions.Regex.Replace(
            sql,
            @",\s*CONSTRAINT ""FK_[^,]*?REFERENCES [^,]*?(?=,\s*CONSTRAINT|\s*\)\s*$)",
            "",
            System.Text.RegularExpressions.RegexOptions.Singleline
        );

    static List<object[]> Rows(SqliteConnection source, string table)
    {
        using var command = source.CreateCommand();
        command.CommandText = table switch
        {
            "Orders" => "SELECT * FROM Orders WHERE Number LIKE 'PO-L7-%'",
            "OrderLines" => "SELECT l.* FROM OrderLines l JOIN Orders o ON o.Id = l.OrderId WHERE o.Number LIKE 'PO-L7-%'",
            _ => "SELECT p.* FROM LineParts p JOIN OrderLines l ON l.Id = p.LineId JOIN Orders o ON o.Id = l.OrderId WHERE o.Number "
                + "LIKE 'PO-L7-%'",
        };
        using var reader = command.ExecuteReader();
        var rows = new List<object[]>();
        while (reader.Read())
        {
            var row = new object[reader.FieldCount];
            reader.GetValues(row);
            rows.Add(row);
        }

        return rows;
    }

    static List<string> Texts(SqliteConnection source, string sql)
    {
        using var command = source.CreateCommand();
        command.CommandText = sql;
        using var reader = command.ExecuteReader();
        var texts = new List<string>();
        while (reader.Read())
            texts.Add(reader.GetString(0));
        return texts;
    }

    static void Run(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }
}
