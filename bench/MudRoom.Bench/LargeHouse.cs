using System.Diagnostics;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Cage;
using MudRoom.Server.SignIn;

namespace MudRoom.Bench;

/// <summary>
/// A large house: 100 000 bins, 20 000 items, two million entries with their lots and what they are about. Made once and kept; asked what a
/// person asks of it.
/// </summary>
static class LargeHouse
{
    const int Bins = 100_000,
        Staging = 200,
        Items = 20_000,
        Batches = 100_000,
        Lots = 500_000,
        People = 50,
        LotsOfArrival = 100;

    /// <summary>Of the older lots nothing is left.</summary>
    const int Gone = 380_000;

    const double SecondsToMake = 180;

    /// <summary>Milliseconds in which a page of what happened is there, at any size (S1: in a second).</summary>
    const double MostForAPage = 1_000;

    /// <summary>Milliseconds in which the first list of a recall is there.</summary>
    const double MostForARecall = 2_000;

    const int MostForAProposal = 60;

    const string Site = "L",
        Supervisor = "p1",
        Password = "large-house-01";

    static readonly DateTimeOffset begins = new(2024, 1, 1, 6, 0, 0, TimeSpan.Zero);

    public static async Task<bool> Report(string dll, string kept, string folder)
    {
        var file = Path.Combine(Directory.CreateDirectory(kept).FullName, Database.Migrations.Max() + ".db");
        var good = true;
        if (!File.Exists(file))
        {
            foreach (var old in Directory.GetFiles(kept))
                File.Delete(old);
            var begun = Stopwatch.GetTimestamp();
            await Make(file + ".part");
            File.Move(file + ".part", file);
            var seconds = Stopwatch.GetElapsedTime(begun).TotalSeconds;
            good &= seconds < SecondsToMake;
            Console.WriteLine(
                $"a house of {Bins:#,0} bins, {Items:#,0} items and {Lots * 4:#,0} entries was made in {seconds:0} s "
                    + $"(limit {SecondsToMake}), {new FileInfo(file).Length / 1024 / 1024} MB"
            );
        }

        await using var db = Database.Context(file);
        var setUp = await SetUp.Load(db);
        good &= await Proposal(file, setUp);
        good &= await Recalls(db, setUp);
        foreach (
            var (what, things) in new (string, Reference[])[]
            {
                ("an item", [Reference.Item(77)]),
                ("an arrival", [Reference.Arrival("A-77")]),
                ("a bin", [Reference.Bin(777)]),
                ("a person", [new Reference(ReferenceKind.Person, 7)]),
                ("a device that did a third of it all", [new Reference(ReferenceKind.Device, "handheld 1")]),
                ("a lot", [new Reference(ReferenceKind.Lot, 77_777)]),
                ("twenty items", [.. Enumerable.Range(100, 20).Select(Reference.Item)]),
            }
        )
        {
            var took = await Median(async () =>
            {
                if ((await new History(db).Newest(1, things, 61, null)).Count == 0)
                    throw new InvalidOperationException($"Nothing happened with {what}.");
            });
            good &= took < MostForAPage;
            Console.WriteLine($"what happened with {what}, the first page: median {took:0.0} ms (limit {MostForAPage})");
        }

        return good & await Meanwhile(dll, file, Directory.CreateDirectory(Path.Combine(folder, "house")).FullName);
    }

    /// <summary>Scans while goods are called back: first asked as a drill, of half a thousand batches, then held, all of one.</summary>
    static async Task<bool> Meanwhile(string dll, string file, string folder)
    {
        File.Copy(file, Path.Combine(folder, "mudroom.db"));
        using var server = BuiltServer.Start(dll, folder, out var url, isDemo: false);
        try
        {
            var counting = new Counting(url, Site, "A-BENCH", Supervisor, Password, [.. Enumerable.Range(1, 8).Select(i => $"S-{i}")]);
            using var supervisor = await BuiltServer.SignIn(url, Supervisor, password: Password);
            var lines = counting.Items.Select((item, i) => $"PO-BENCH,V,{i + 1},{item},1000000,{DateTime.UtcNow:yyyy-MM-dd},{Site}\n");
            await Act(
                "/road/import",
                new { name = "bench.csv", text = "order,vendor,line,item,quantity,due,site\n" + string.Concat(lines) }
            );
            await Act(
                "/door/open-on-the-spot",
                new
                {
                    orders = new[] { "PO-BENCH" },
                    door = 1,
                    atOnce = true,
                    number = counting.Arrival,
                }
            );
            Task Begin(int first, int batches, bool isDrill) =>
                Act(
                    "/cage/recalls/begin",
                    new
                    {
                        by = "Batch",
                        numbers = string.Join(',', Enumerable.Range(first, batches).Select(i => $"B-{i}")),
                        why = "Measured.",
                        isDrill,
                    }
                );
            // What a server does for the first time since its start is compiled meanwhile: that is said, and measured no further.
            var cold = Stopwatch.GetTimestamp();
            await Begin(100, 1, isDrill: true);
            await Begin(101, 1, isDrill: false);
            await Page("RC-0001");
            Console.WriteLine(
                $"the first drill, the first recall and its page after the start: {Stopwatch.GetElapsedTime(cold).TotalMilliseconds:0} ms"
            );
            var asked = new List<double>();
            var quiet = await Beside.Scan(counting, "a recall of five hundred batches is asked for ten times", async () =>
            {
                await Begin(7_000, 500, isDrill: true);
                for (var i = 0; i < 10; i++)
                {
                    var begun = Stopwatch.GetTimestamp();
                    await Page("RC-0003");
                    asked.Add(Stopwatch.GetElapsedTime(begun).TotalMilliseconds);
                }
            });
            var first = asked.Order().ElementAt(5);
            Console.WriteLine(
                $"its page over HTTP meanwhile: the first after {asked[0]:0} ms, median {first:0} ms (limit {MostForARecall})"
            );
            var held = await Beside.Scan(counting, "five batches are recalled and held", () => Begin(9_000, 5, isDrill: false));
            return quiet & held & asked[0] < MostForARecall;

            async Task Page(string recall) => (await supervisor.GetAsync($"/api/{Site}/cage/recalls/{recall}")).EnsureSuccessStatusCode();

            Task Act(string path, object body) => BuiltServer.Act(supervisor, $"/api/{Site}{path}", body);
        }
        finally
        {
            await BuiltServer.Stop(server);
        }
    }

    /// <summary>What stands of recalled goods, and what has left with what papers.</summary>
    static async Task<bool> Recalls(MudRoomDb db, SetUp setUp)
    {
        var good = true;
        foreach (var (what, batches) in new[] { ("one batch", 1), ("five hundred batches", 500) })
        {
            // Of the youngest lots of each some is left.
            var recall = new Recall
            {
                Number = "RC-1",
                SiteId = 1,
                Scope = new RecallScope(RecallBy.Batch, null, null, [.. Enumerable.Range(7_000, batches).Select(i => $"B-{i}")]),
                Says = what,
                Why = what,
                IsDrill = true,
                Since = begins,
                By = "Person 1",
            };
            var finding = new RecallFinding(0, 0, 0, 0, 0, 0, 0);
            var took = await Median(async () => finding = (await RecallReads.Of(db, new History(db), setUp, recall)).Finding);
            // Five lots of forty came of each batch.
            if (finding.Came != 200m * batches)
                throw new InvalidOperationException($"{finding.Came} of {what} were found.");
            good &= took < MostForARecall;
            Console.WriteLine(
                $"a recall of {what}, {finding.Came:#,0} of it found among {Lots * 4:#,0} entries: "
                    + $"median {took:0.0} ms (limit {MostForARecall})"
            );
        }

        return good;
    }

    static async Task<bool> Proposal(string file, SetUp setUp)
    {
        await using var desk = new WriteDesk(file);
        BinView[]? Views() => desk.Store.Views(1, setUp.Catalogue, setUp.BinsOfSite[1], []);
        _ = Views();
        var begun = Stopwatch.GetTimestamp();
        await desk.Probe();
        _ = Views();
        var made = Stopwatch.GetElapsedTime(begun).TotalMilliseconds;
        var goods = new GoodsToPlace(setUp.Catalogue[77], 77, setUp.Standings[1][Standing.Usable], 40, 1, false, 10, 3);
        var took = await Median(() =>
        {
            if (PutAway.Propose(goods, Views()!).LookedAt != Bins)
                throw new InvalidOperationException("Not every bin was looked at.");
            return Task.CompletedTask;
        });
        Console.WriteLine(
            $"one proposal in the large house: median {took:0.0} ms (limit {MostForAProposal}); its picture was made in {made:0} ms"
        );
        return took < MostForAProposal;
    }

    static async Task<double> Median(Func<Task> work)
    {
        var took = new List<double>();
        for (var i = 0; i < 21; i++)
        {
            var begun = Stopwatch.GetTimestamp();
            await work();
            took.Add(Stopwatch.GetElapsedTime(begun).TotalMilliseconds);
        }

        return took.Order().ElementAt(10);
    }

    static async Task Make(string file)
    {
        File.Delete(file);
        await using (var making = Database.Context(file))
        {
            await making.Database.MigrateAsync();
            making.AddRange(
                new WarehouseSite
                {
                    Id = 1,
                    Code = Site,
                    Name = "Large",
                    TimeZone = "Etc/UTC",
                    CompanyPrefix = "9521234",
                }
            );
            making.AddRange(
                Enumerable
                    .Range(1, Items)
                    .Select(i => new Item
                    {
                        Id = i,
                        Code = $"I-{i}",
                        Name = $"Item {i}",
                        Mass = 0.5m,
                        Volume = 1,
                        LongestSide = 0.4m,
                        HomeZone = "Z" + i % 7,
                        NeedsBatch = true,
                        PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
                    })
            );
            making.AddRange(
                Enumerable
                    .Range(1, People)
                    .Select(i => new Person
                    {
                        Id = i,
                        Name = $"Person {i}",
                        SignInName = $"p{i}",
                        Roles = i == 1 ? [Role.Supervisor, Role.Receiver] : [Role.Driver],
                        Sites = [Site],
                    })
            );
            // What is counted beside it all: a door, a vendor, things that need nothing, and who may do everything there.
            making.Add(
                new DockDoor
                {
                    Id = 1,
                    SiteId = 1,
                    Number = 1,
                }
            );
            making.Add(
                new Vendor
                {
                    Id = 1,
                    Code = "V",
                    Name = "Vendor",
                    Country = "NL",
                }
            );
            making.AddRange(
                Enumerable
                    .Range(1, 8)
                    .Select(i => new Item
                    {
                        Id = Items + i,
                        Code = $"S-{i}",
                        Name = $"Simple {i}",
                        Mass = 0.5m,
                        Volume = 1,
                        LongestSide = 0.4m,
                        HomeZone = "Z1",
                        PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
                    })
            );
            await making.SaveChangesAsync();
            making.Add(SignInAccounts.New(await making.People.SingleAsync(p => p.Id == 1), Password));
            await making.SaveChangesAsync();
        }

        await using var db = Database.Context(file);
        using var connection = Database.Open(file);
        Run(connection, "PRAGMA journal_mode=OFF; PRAGMA synchronous=OFF; PRAGMA cache_size=-1500000; PRAGMA foreign_keys=OFF;");
        using (var transaction = connection.BeginTransaction())
        {
            Fill(connection, db);
            transaction.Commit();
        }

        Run(connection, "PRAGMA analysis_limit=400; ANALYZE; PRAGMA journal_mode=WAL;");
    }

    static void Run(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    static void Fill(SqliteConnection connection, MudRoomDb db)
    {
        using var bins = new RowCommands<Bin>(connection, db.Model, withKey: true);
        for (var i = 1; i <= Bins; i++)
            bins.Insert(
                new Bin
                {
                    Id = i,
                    SiteId = 1,
                    Address = $"{i / 1000}-{i % 1000:000}",
                    Zone = "Z" + i % 7,
                    Function = i <= Staging ? BinFunction.Staging : BinFunction.Reserve,
                    DoorId = i <= Staging ? 1 : null,
                    MaxMass = 800,
                    MaxVolume = 1500,
                    MaxLength = 1.2m,
                    X = i % 297,
                    Y = i % 161,
                    Height = i % 5 * 1.5m,
                    Level = i % 5,
                }
            );
        using var batches = new RowCommands<Batch>(connection, db.Model, withKey: true);
        for (var i = 1; i <= Batches; i++)
            batches.Insert(
                new Batch
                {
                    Id = i,
                    ItemId = ItemOf(i),
                    Number = $"B-{i}",
                }
            );
        using var lots = new RowCommands<Lot>(connection, db.Model, withKey: true);
        using var entries = new RowCommands<LedgerEntry>(connection, db.Model);
        using var references = new ReferencesBehind(connection);
        references.Begin();
        using var balances = new RowCommands<Balance>(connection, db.Model);
        void WriteReferences()
        {
            references.Write();
            references.Begin();
        }

        var head = ChainHead.Start;
        for (var i = 1; i <= Lots; i++)
        {
            var at = begins.AddMinutes(i);
            if (i % 1_000 == 0)
                WriteReferences();
            var goods = new Goods(ItemOf(i), (i - 1) % Batches + 1, LotId: i);
            lots.Insert(
                new Lot
                {
                    Id = i,
                    SiteId = 1,
                    ItemId = goods.ItemId,
                    BatchId = goods.BatchId,
                    Origin = LotOrigin.Counted,
                    OpenedAt = at,
                }
            );
            var (door, bin, next) = (In(i % Staging + 1), In(Rack(i)), In(Rack(i + 31)));
            var (arrival, order) = ($"A-{i / LotsOfArrival + 1}", $"PO-{i / LotsOfArrival + 1}");
            var line = new LineNamed(order, i % LotsOfArrival + 1);
            Write(
                new GoodsCounted(arrival, Some(40), $"B-{goods.BatchId}", line, Address(door), false) { About = [Reference.Order(order)] },
                new Movement(goods, 40, new Place(Account.Vendor), door)
            );
            Write(new GoodsPutAway(Address(bin), Some(40), null, null), new Movement(goods, 40, door, bin));
            Write(new GoodsIssued($"C-{i % 9_000}", Some(15), Address(bin)), new Movement(goods, 15, bin, new Place(Account.Customer)));
            if (i <= Gone)
            {
                Write(new GoodsIssued($"C-{i % 7_000}", Some(25), Address(bin)), new Movement(goods, 25, bin, new Place(Account.Customer)));
                continue;
            }

            Write(new SetDownHalfWay(Address(next), Some(25)), new Movement(goods, 25, bin, next));
            var balance = new Balance(1, goods, next);
            balance.Change(25, at);
            balances.Insert(balance);

            Amount Some(decimal quantity) => new(quantity, "each", $"Item {goods.ItemId}");

            static string Address(Place place) => $"B-{place.BinId}";

            void Write(Fact fact, Movement movement)
            {
                var doer = new Doer(at, i % People + 1, $"Person {i % People + 1}", $"handheld {i % 3}", Guid.CreateVersion7(at));
                var entry = new LedgerEntry(head, 1, doer, fact, movement);
                head = entry.Head;
                entries.Insert(entry);
                references.Hold([entry]);
            }
        }

        WriteReferences();
    }

    static int ItemOf(int number) => (number - 1) % Items + 1;

    static int Rack(int number) => Staging + 1 + number % (Bins - Staging);

    static Place In(int bin) => Place.In(bin, Standing.Usable);
}
