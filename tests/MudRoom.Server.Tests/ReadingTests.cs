using System.Data.Common;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using MudRoom.Core.Book;
using MudRoom.Data;
using MudRoom.Server.Book;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>What is read is proportional to what is asked, and all of one instant.</summary>
public sealed class ReadingTests(DemoServer server) : IClassFixture<DemoServer>
{
    [Fact]
    public async Task An_order_and_an_arrival_are_read_by_their_own_rows_however_many_there_are_of_others()
    {
        await using var connection = Database.Open(server.File);
        var asked = new Asked();
        await using var db = new MudRoomDb(Database.OptionsFor(connection, asked));
        var order = await db.Orders.Include(o => o.Lines).ThenInclude(l => l.Parts).FirstAsync(o => o.Number == "PO-4471");
        var arrival = await db
            .Arrivals.Include(a => a.Manifest)
                .ThenInclude(m => m.Part!)
                    .ThenInclude(p => p.Line!)
                        .ThenInclude(l => l.Order)
            .FirstAsync(a => a.Number == "A-2617");
        Assert.Equal((3, 3), (order.Lines.Count, order.Lines.Sum(l => l.Parts.Count)));
        Assert.Equal(8, arrival.Manifest.Count(m => m.Part!.Line!.Order is not null));
        OnlyWhatIsMeant(asked);
    }

    [Fact]
    public async Task Lots_and_what_is_said_of_them_are_read_by_their_keys_however_many_there_are_of_others()
    {
        await using var connection = Database.Open(server.File);
        await using var plain = server.Db();
        var hold = await plain.Holds.FirstAsync(h => h.IsOpen);
        var inspection = await plain.Inspections.FirstAsync(i => i.State == Core.Bench.InspectionState.Waiting);
        var receipt = await plain.Lots.Where(l => l.ReceiptId != null).Select(l => l.ReceiptId!.Value).FirstAsync();
        var asked = new Asked();
        await using var db = new MudRoomDb(Database.OptionsFor(connection, asked));
        var lots = await LotReads.Under(db, hold);
        var ids = lots.ConvertAll(l => l.Id);
        Assert.NotEmpty(lots);
        Assert.NotEmpty(await LotReads.Under(db, inspection));
        Assert.NotEmpty(await LotReads.Said(db, ids));
        Assert.NotEmpty(await LotReads.Balances(db, ids));
        await LotReads.Children(db, ids);
        await LotReads.OfReceipt(db, receipt);
        await Said.OfLots(db, ids);
        OnlyWhatIsMeant(asked);
    }

    /// <summary>Of what happened with a thing only so much is read as is shown: rows by the key of the references, entries by their
    /// number.</summary>
    [Fact]
    public async Task What_happened_with_a_thing_is_read_by_the_key_of_what_it_is_about_and_no_further_than_is_shown()
    {
        await using var connection = Database.Open(server.File);
        var asked = new Asked();
        await using var db = new MudRoomDb(Database.OptionsFor(connection, asked));
        Assert.NotEmpty(
            await new History(db)
                .About(Reference.Arrival("A-2617"))
                .Where(e => e.SiteId == 1)
                .OrderByDescending(e => e.Seq)
                .Take(40)
                .ToListAsync()
        );
        Assert.NotEmpty(
            await new History(db).Newest(1, [Reference.Arrival("A-2617"), Reference.Item(1), Reference.Order("PO-4471")], 61, null)
        );
        Assert.NotEmpty(await new History(db).Newest(1, [Reference.Item(1)], 61, 5000, [1]));
        OnlyWhatIsMeant(asked);
    }

    /// <summary>"SCAN" in a plan reads a whole table, "MATERIALIZE" makes a whole one of a part of the question; a co-routine is the one
    /// row that was found, a virtual table the list of keys that was asked for. Source: SQLite documentation, EXPLAIN QUERY
    /// PLAN.</summary>
    void OnlyWhatIsMeant(Asked asked)
    {
        using var copy = new Copy(server.File);
        using var connection = OfALargeHouse(copy.File);
        Every.One(asked.Questions, question =>
        {
            var plan = PlanOf(connection, question);
            var found = plan.Where(s => s.StartsWith("CO-ROUTINE ", StringComparison.Ordinal)).Select(s => "SCAN " + s[11..]);
            var steps = plan.Except(found).Where(s => !s.Contains(" VIRTUAL TABLE ", StringComparison.Ordinal));
            Every.One(steps, step => Assert.DoesNotMatch("^(SCAN|MATERIALIZE)", step));
        });
    }

    /// <summary>A database that believes to have a thousand times as many rows: of few, reading them all is quicker than looking for
    /// some. Where all rows of a table are alike, so are all of these. Source: SQLite documentation, "The sqlite_stat1
    /// table".</summary>
    static SqliteConnection OfALargeHouse(string file)
    {
        string Of(string stat)
        {
            var numbers = stat.Split(' ');
            return string.Join(' ', numbers.Select(n => n == numbers[0] ? n + "000" : n));
        }

        // Statistics are read as a connection is opened.
        SqliteConnection Open()
        {
            var connection = new SqliteConnection($"Data Source={file};Pooling=False");
            connection.Open();
            return connection;
        }

        using (var plain = Open())
        {
            plain.CreateFunction("of_a_large_house", (string stat) => Of(stat));
            using var believe = plain.CreateCommand();
            believe.CommandText = "UPDATE sqlite_stat1 SET stat = of_a_large_house(stat)";
            Assert.True(believe.ExecuteNonQuery() > 100);
        }

        return Open();
    }

    [Fact]
    public async Task What_one_request_reads_is_of_one_instant_whatever_is_written_meanwhile()
    {
        await using var reader = Database.Context(server.File);
        Database.ReadOneInstant(reader);
        var before = await reader.Notes.CountAsync();
        await using (var writer = Database.Context(server.File))
        {
            writer.Notes.Add(new Note { Name = $"between {Guid.NewGuid()}", Value = "" });
            await writer.SaveChangesAsync();
        }

        Assert.Equal(before, await reader.Notes.CountAsync());
        await using var later = Database.Context(server.File);
        Assert.Equal(before + 1, await later.Notes.CountAsync());
    }

    static List<string> PlanOf(SqliteConnection connection, string question)
    {
        using var command = connection.CreateCommand();
        command.CommandText = "EXPLAIN QUERY PLAN " + question;
        foreach (var name in System.Text.RegularExpressions.Regex.Matches(question, @"@\w+").Select(m => m.Value).Distinct())
            command.Parameters.AddWithValue(name, "1");
        using var row = command.ExecuteReader();
        var steps = new List<string>();
        while (row.Read())
            steps.Add(row.GetString(3));
        return steps;
    }

    sealed class Asked : DbCommandInterceptor
    {
        public List<string> Questions { get; } = [];

        public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken cancellationToken = default
        )
        {
            Questions.Add(command.CommandText);
            return base.ReaderExecutingAsync(command, eventData, result, cancellationToken);
        }
    }
}
