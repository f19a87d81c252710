using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using CsCheck;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Data;
using MudRoom.Server.Labels;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>The book holds: settings of connections, the chain, random histories, a killed server, labels read by others.</summary>
public sealed partial class BookTests(DemoServer server) : IClassFixture<DemoServer>
{
    /// <summary>Our own numbers are typed as they come to hand.</summary>
    [Theory]
    [InlineData("A-2617")]
    [InlineData("RC-0001")]
    public async Task What_happened_is_found_however_the_letters_of_a_number_are_typed(string number)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var entries = (await wanjiru.Ask($"/book/ledger?text={number}"))["rows"].ToString();
        Assert.Contains(number, entries, StringComparison.Ordinal);
        Assert.Equal(entries, (await wanjiru.Ask($"/book/ledger?text={number.ToLowerInvariant()}"))["rows"].ToString());
    }

    [Fact]
    public async Task Goods_are_found_by_the_number_of_what_says_something_of_them_with_the_page_it_is_on()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var held = await Find("LM", "h-0338");
        Assert.Equal(("hold", "H-0338", "/cage?hold=H-0338"), Thing(held));
        Assert.Equal(340, Stock(held).Sum(s => s.GetProperty("quantity").GetDecimal()));
        Assert.All(Stock(held), s => Assert.Contains("H-0338", s.GetProperty("said").EnumerateArray().Select(n => n.GetString())));

        var inspected = await Find("LM", "I-0027");
        Assert.Equal(("inspection", "I-0027", "/bench/I-0027"), Thing(inspected));
        Assert.NotEmpty(Stock(inspected));
        Assert.Equal(("recall", "RC-0001", "/cage/recalls/RC-0001"), Thing(await Find("LM", "rc-0001")));
        Assert.Equal(("order", "PO-4441", "/road/orders/PO-4441"), Thing(await Find("LM", "po-4441")));

        // Another site has neither the hold nor its goods.
        var elsewhere = await Find("HB", "H-0338");
        Assert.Empty(Stock(elsewhere));
        Assert.Empty(elsewhere.GetProperty("things").EnumerateArray());

        Task<JsonElement> Find(string site, string text) =>
            wanjiru.Http.GetFromJsonAsync<JsonElement>($"/api/{site}/book/find?text={text}");

        static List<JsonElement> Stock(JsonElement found) => [.. found.GetProperty("stock").EnumerateArray()];

        static (string?, string?, string?) Thing(JsonElement found)
        {
            var thing = Assert.Single(found.GetProperty("things").EnumerateArray());
            return (thing.GetProperty("kind").GetString(), thing.GetProperty("code").GetString(), thing.GetProperty("link").GetString());
        }
    }

    [Fact]
    public async Task Every_connection_writes_ahead_and_syncs_fully()
    {
        var desk = server.App.Services.GetRequiredService<WriteDesk>();
        AssertSettings(desk.Connection);
        await using var scope = server.App.Services.CreateAsyncScope();
        var reading = scope.ServiceProvider.GetRequiredService<MudRoomDb>();
        await reading.Database.OpenConnectionAsync();
        AssertSettings((SqliteConnection)reading.Database.GetDbConnection());
        await using var own = server.Db();
        await own.Database.OpenConnectionAsync();
        AssertSettings((SqliteConnection)own.Database.GetDbConnection());

        static void AssertSettings(SqliteConnection connection)
        {
            Assert.Equal("wal", Pragma(connection, "journal_mode"));
            Assert.Equal("2", Pragma(connection, "synchronous"));
            Assert.Equal("1", Pragma(connection, "foreign_keys"));
            Assert.NotEqual("0", Pragma(connection, "busy_timeout"));
        }
    }

    [Fact]
    public void Every_decimal_and_instant_is_kept_as_a_whole_number_so_that_SQL_can_sum_and_order_them()
    {
        using var db = server.Db();
        var columns = db
            .Model.GetEntityTypes()
            .SelectMany(t => t.GetProperties())
            .Where(p =>
                Nullable.GetUnderlyingType(p.ClrType) is var u && (u ?? p.ClrType) == typeof(decimal)
                || (u ?? p.ClrType) == typeof(DateTimeOffset)
            )
            .ToList();
        Assert.NotEmpty(columns);
        Every.One(columns.Where(p => p.DeclaringType.ClrType.Namespace!.StartsWith("MudRoom", StringComparison.Ordinal)), p =>
            Assert.Equal("INTEGER", p.GetColumnType())
        );
        Assert.Throws<InvalidOperationException>(() => Storage.ToMillionths(0.0000001m));
    }

    const string WithoutTriggers = "DROP TRIGGER LedgerIsNotChanged; DROP TRIGGER LedgerIsNotErased;";

    [Theory]
    [InlineData("UPDATE Ledger SET Sentence = 'nothing happened' WHERE Seq = 40", "not changed")]
    [InlineData("DELETE FROM Ledger WHERE Seq = 40", "not erased")]
    public void The_ledger_refuses_to_be_changed_or_erased_whoever_opens_the_file(string sql, string why)
    {
        using var copy = new Copy(server.File);
        Assert.Contains(why, Assert.Throws<SqliteException>(() => copy.Run(sql)).Message);
    }

    [Fact]
    public async Task The_check_sees_one_instant_while_the_server_writes_and_keeps_nobody_waiting()
    {
        using var leila = await server.SignIn("leila");
        using var stop = new CancellationTokenSource();
        var counted = 0;
        var counting = Task.Run(async () =>
        {
            while (!stop.IsCancellationRequested)
                if ((await leila.Act("/door/count", Client.Count("1", item: "SP-DG", pack: "each", more: new { aside = "Over" }))).IsOk)
                    counted++;
        });
        for (var i = 0; i < 6; i++)
            Assert.Empty((await server.Check()).Faults);
        await stop.CancelAsync();
        await counting;
        Assert.True(counted > 5, $"{counted} counts beside six checks");
    }

    [Fact]
    public async Task The_demo_s_book_holds() => Assert.Empty((await server.Check()).Faults);

    [Theory]
    [InlineData("UPDATE Ledger SET Sentence = 'nothing happened' WHERE Seq = 40", "Entry 40 was changed")]
    [InlineData(
        "UPDATE Ledger SET Quantity = Quantity + 1000000 WHERE Seq = (SELECT MIN(Seq) FROM Ledger WHERE Quantity IS NOT NULL)",
        "was changed"
    )]
    [InlineData("DELETE FROM Ledger WHERE Seq = 40", "Entry 40 is missing")]
    [InlineData("UPDATE Balances SET Quantity = Quantity + 1000000 WHERE Id = (SELECT MIN(Id) FROM Balances)", "the ledger comes to")]
    [InlineData("UPDATE Balances SET Standing = 0 WHERE Id = (SELECT MIN(Id) FROM Balances WHERE Standing = 2)", "held,")]
    [InlineData("UPDATE Balances SET Key = Key || 'x' WHERE Id = (SELECT MIN(Id) FROM Balances)", "has the key of another")]
    [InlineData("UPDATE Balances SET SiteId = 2 WHERE Id = (SELECT MIN(Id) FROM Balances)", "its bin is of site")]
    [InlineData("UPDATE Balances SET Since = Since - 1 WHERE Id = (SELECT MIN(Id) FROM Balances)", "by the ledger it is")]
    [InlineData(
        "UPDATE Holds SET Quantity = Quantity + 1000000 WHERE Id = (SELECT MIN(Id) FROM Holds WHERE IsOpen = 1)",
        "; its lots have"
    )]
    [InlineData(
        "UPDATE Inspections SET Quantity = Quantity + 1000000 WHERE Id = (SELECT MIN(Id) FROM Inspections WHERE State <> 2 AND "
            + "Quantity > 0)",
        "; its lots have"
    )]
    [InlineData(
        "DELETE FROM EntryReferences WHERE Kind = 2 AND Seq = (SELECT MIN(Seq) FROM EntryReferences WHERE Kind = 2)",
        "are found from"
    )]
    [InlineData(
        "UPDATE EntryReferences SET Derived = 1 WHERE Kind = 2 AND Seq = (SELECT MIN(Seq) FROM EntryReferences WHERE Kind = 2)",
        "are found from"
    )]
    [InlineData(
        "UPDATE Ledger SET Fact = replace(Fact, 'arrival', 'receipt') WHERE Seq = (SELECT MIN(Seq) FROM EntryReferences WHERE Kind = 2)",
        "was changed after"
    )]
    [InlineData("DELETE FROM Balances WHERE Id = (SELECT MIN(Id) FROM Balances)", "is missing; the ledger comes to")]
    [InlineData("UPDATE Ledger SET ToLotId = 1 WHERE Seq = (SELECT MAX(Seq) FROM Ledger)", "was changed after it was written")]
    [InlineData("UPDATE Balances SET LotId = NULL WHERE Id = (SELECT MIN(Id) FROM Balances)", "has no lot")]
    [InlineData(
        "UPDATE Statements SET SettledAt = 1 WHERE Id = (SELECT MIN(Id) FROM Statements WHERE SettledAt IS NULL)",
        "by what is said of lot"
    )]
    [InlineData(
        "UPDATE Statements SET SettledAt = NULL WHERE Id = (SELECT MIN(s.Id) FROM Statements s JOIN Holds h ON h.Id = s.HoldId WHERE "
            + "h.IsOpen = 0)",
        "is lifted, and still said of"
    )]
    [InlineData(
        "UPDATE ManifestLines SET Counted = Counted + 1000000 WHERE Id = (SELECT MIN(Id) FROM ManifestLines WHERE Counted > 0)",
        "its counts come to"
    )]
    public async Task What_was_tampered_with_is_found(string sql, string fault)
    {
        using var copy = new Copy(server.File);
        copy.Run(WithoutTriggers);
        copy.Run(sql);
        await using var db = Database.Context(copy.File);
        Assert.Contains((await BookCheck.Run(db, null)).Faults, f => f.Contains(fault));
    }

    [Fact]
    public async Task What_an_act_is_about_is_found_by_the_next_in_the_same_group_and_stays_when_that_one_fails()
    {
        var desk = server.App.Services.GetRequiredService<WriteDesk>();
        var (begun, goesOn) = (new TaskCompletionSource(), new TaskCompletionSource());
        var slow = desk.Do(async _ =>
        {
            begun.SetResult();
            await goesOn.Task;
            return (0, false);
        });
        await begun.Task;
        var doer = new Doer(DateTimeOffset.UnixEpoch.AddYears(60), 1, "Nobody", "desk", Guid.NewGuid());
        // These three wait together, and are written together.
        var first = desk.Do(scope =>
        {
            scope.Book.Write(1, doer, new OrderChanged("PO-HELD-BACK", "changed"));
            return Task.FromResult((0, true));
        });
        var asks = desk.Do<int>(async scope =>
        {
            Assert.Single(await new History(scope.Db).About(Reference.Order("PO-HELD-BACK")).ToListAsync());
            throw new InvalidOperationException("no");
        });
        var again = desk.Do(async scope =>
            ((await new History(scope.Db).About(Reference.Order("PO-HELD-BACK")).ToListAsync()).Count, true)
        );
        goesOn.SetResult();
        await slow;
        await first;
        Assert.Equal("no", (await Assert.ThrowsAsync<InvalidOperationException>(() => asks)).Message);
        Assert.Equal(1, await again);
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task A_chain_that_was_rewritten_whole_is_found_by_an_exported_head()
    {
        using var copy = new Copy(server.File);
        await using var db = Database.Context(copy.File);
        var head = (await BookCheck.Run(db, null)).Head;
        copy.Run(WithoutTriggers);
        // Rewrite the chain from the first entry on, every hash right.
        copy.Run("DELETE FROM Ledger WHERE ItemId IS NULL");
        var entries = await db.Ledger.AsNoTracking().OrderBy(e => e.Seq).ToListAsync();
        var at = ChainHead.Start;
        copy.Run("DELETE FROM Ledger");
        copy.Run("DELETE FROM EntryReferences");
        foreach (var e in entries)
        {
            var rewritten = new LedgerEntry(
                at,
                e.SiteId,
                new Doer(e.At, e.PersonId, e.PersonName, e.Device, e.ActId),
                e.What!,
                e.Movement,
                e.Undoes
            );
            at = rewritten.Head;
            db.Ledger.Add(rewritten);
            db.EntryReferences.AddRange(StockBook.RowsOf(rewritten));
        }

        await db.SaveChangesAsync();
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
        Assert.NotEmpty((await BookCheck.Run(db, head)).Faults);
    }

    /// <summary>Random histories through the acts themselves: nothing appears, nothing vanishes, nothing below zero.</summary>
    [Fact]
    public async Task Random_counting_taking_back_putting_away_and_issuing_keeps_the_book()
    {
        using var leila = await server.SignIn("leila");
        using var yusuf = await server.SignIn("yusuf");
        var random = new Random(7);
        var counts = new List<Guid>();
        var refused = 0;
        for (var i = 0; i < 120; i++)
        {
            var before = server.LastEntry();
            var id = Guid.NewGuid();
            var answer = random.Next(5) switch
            {
                0 or 1 => await leila.Act(
                    "/door/count",
                    Client.Count(random.Next(-1, 4).ToString(), pack: random.Next(2) == 0 ? "each" : "box"),
                    id
                ),
                2 => await leila.Act(
                    "/door/take-back",
                    new { arrival = "A-2618", count = counts.Count > 0 ? counts[random.Next(counts.Count)] : id }
                ),
                3 => await PutAway(yusuf),
                _ => await Issue(yusuf, random),
            };
            if (answer.IsOk && answer.Body.TryGetProperty("units", out _))
                counts.Add(id);
            if (answer.IsOk)
                continue;
            refused++;
            Assert.NotNull(answer.Code);
            Assert.Equal(before, server.LastEntry());
        }

        Assert.InRange(refused, 5, 115);
        Assert.Empty((await server.Check()).Faults);

        static async Task<Answer> PutAway(Client driver)
        {
            var tasks = (await driver.Ask("/shelf/queue"))["tasks"].EnumerateArray();
            var waiting = tasks.FirstOrDefault(j =>
                j.GetProperty("item").GetString()!.StartsWith("Draw hoe", StringComparison.Ordinal)
                && j.GetProperty("state").GetString() == "Waiting"
            );
            var taken = await driver.Act(
                "/shelf/take",
                new { task = waiting.ValueKind == System.Text.Json.JsonValueKind.Object ? waiting.GetProperty("task").GetInt32() : -1 }
            );
            if (!taken.IsOk)
                return taken;
            await driver.Act("/shelf/scan-goods", new { task = taken["task"].GetInt32(), scan = "HH-16" });
            return await driver.Act("/shelf/put-down", new { task = taken["task"].GetInt32(), bin = taken["bin"].GetString() });
        }

        static async Task<Answer> Issue(Client driver, Random random)
        {
            var stock = (await driver.Ask("/book/find?text=HH-16"))["stock"].EnumerateArray().ToList();
            return await driver.Act(
                "/book/issue",
                new
                {
                    balance = stock[random.Next(stock.Count)].GetProperty("id").GetInt64(),
                    quantity = random.Next(0, 30).ToString(),
                    to = "Job",
                    reference = "J-1",
                }
            );
        }
    }

    [GeneratedRegex(@"http://127\.0\.0\.1:\d+")]
    private static partial Regex Address();

    [Fact]
    public async Task A_killed_server_loses_no_acknowledged_scan()
    {
        var folder = Directory.CreateTempSubdirectory("mudroom-killed-").FullName;
        await DemoTemplate.CopyTo(folder);
        var acknowledged = new System.Collections.Concurrent.ConcurrentBag<Guid>();
        using (var process = Start(folder, out var url))
        {
            using var stop = new CancellationTokenSource();
            var receivers = new[] { "leila", "tomasz", "maren", "ikenna" }
                .Select(async name =>
                {
                    using var client = await Client.SignIn(url, name);
                    while (!stop.IsCancellationRequested)
                    {
                        var id = Guid.NewGuid();
                        try
                        {
                            var answer = await client.Act(
                                "/door/count",
                                Client.Count("1", item: "SP-DG", pack: "each", more: new { aside = "Over" }),
                                id
                            );
                            if (answer.IsOk)
                                acknowledged.Add(id);
                        }
                        catch (HttpRequestException)
                        {
                            return;
                        }
                    }
                })
                .ToList();
            while (acknowledged.Count < 200)
                await Task.Delay(20);
            process.Kill();
            await process.WaitForExitAsync();
            await stop.CancelAsync();
            await Task.WhenAll(receivers);
        }

        await using var db = Database.Context(Path.Combine(folder, "mudroom.db"));
        var written = (await db.Ledger.Where(e => e.Kind == EntryKind.Counted).Select(e => e.ActId).ToListAsync())
            .GroupBy(id => id)
            .ToDictionary(g => g.Key, g => g.Count());
        Every.One(acknowledged, id => Assert.Equal(1, written.GetValueOrDefault(id)));
        Assert.Empty((await BookCheck.Run(db, null)).Faults);
    }

    static Process Start(string folder, out string url)
    {
        var dll = typeof(DemoServer).Assembly.Location.Replace("MudRoom.Server.Tests.dll", "MudRoom.Server.dll");
        var start = new ProcessStartInfo("dotnet", [dll, "demo", "--data", folder, "--port", "0", "--stopped-clock"])
        {
            RedirectStandardOutput = true,
        };
        var process = Process.Start(start)!;
        while (process.StandardOutput.ReadLine() is { } line)
            if (Address().Match(line) is { Success: true } match)
            {
                url = match.Value;
                _ = process.StandardOutput.ReadToEndAsync();
                return process;
            }

        throw new InvalidOperationException("The server did not start.");
    }

    /// <summary>The label we draw, read by an independent decoder: ZXingReader of Debian's zxing-cpp-tools.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_unit_label_is_read_by_an_independent_decoder_as_GS1_128_with_its_SSCC(bool isA6)
    {
        var sscc = Core.Identification.Sscc.Make(3, "9521234", 7118);
        var file = Path.Combine(Path.GetTempPath(), $"label-{Guid.NewGuid():N}.png");
        await System.IO.File.WriteAllBytesAsync(
            file,
            LogisticLabel.Draw(
                new Core.Door.LabelContent(
                    "Low Meadow",
                    sscc,
                    [new("02", "19521234100074"), new("37", "24")],
                    [new("Coir brick 5 kg", "96 each", "CB-0310-1", "2028-03-09")],
                    "HELD",
                    "PX"
                ),
                isA6 ? LogisticLabel.A6 : LogisticLabel.FourBySix
            )
        );
        try
        {
            var said = await Decode(file);
            Assert.Contains("00" + sscc, said);
            Assert.Contains("02195212341000743724", said);
            Assert.Contains("]C1", said);
        }
        finally
        {
            System.IO.File.Delete(file);
        }
    }

    [Fact]
    public async Task The_label_of_a_counted_pallet_comes_from_the_server()
    {
        using var tomasz = await server.SignIn("tomasz");
        var counted = await tomasz.Act("/door/count", Client.Count("1", "A-2617", "CB-05", "pallet", new { sourceBatch = "NC-1201" }));
        Assert.True(counted.IsOk, counted.Body.ToString());
        var sscc = counted["units"][0].GetString()!;
        var file = Path.Combine(Path.GetTempPath(), sscc + ".png");
        await System.IO.File.WriteAllBytesAsync(file, await tomasz.Http.GetByteArrayAsync($"/api/LM/door/label/{sscc}"));
        Assert.Contains("00" + sscc, await Decode(file));
        System.IO.File.Delete(file);
    }

    static async Task<string> Decode(string file)
    {
        using var reader = Process.Start(new ProcessStartInfo("ZXingReader", [file]) { RedirectStandardOutput = true })!;
        var said = await reader.StandardOutput.ReadToEndAsync();
        await reader.WaitForExitAsync();
        return said;
    }

    static string Pragma(SqliteConnection connection, string name)
    {
        using var command = connection.CreateCommand();
        command.CommandText = "PRAGMA " + name;
        return command.ExecuteScalar()!.ToString()!;
    }
}
