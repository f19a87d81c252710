using System.Diagnostics;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Shelf;

namespace MudRoom.Bench;

/// <summary>One proposal over a small, a large and a very large store, asked of the picture that is kept beside the writer.</summary>
static class Proposals
{
    public static async Task<bool> Report(string folder)
    {
        await One(folder, 300);
        var (large, largest) = (await One(folder, 20_000), await One(folder, 100_000));
        return large < LimitOf(20_000) && largest < LimitOf(100_000);
    }

    /// <summary>Milliseconds that one proposal may take.</summary>
    static int LimitOf(int bins) => bins > 20_000 ? 60 : 15;

    static async Task<double> One(string folder, int bins)
    {
        var file = Path.Combine(folder, $"store-{bins}.db");
        await using (var making = Database.Context(file))
        {
            await making.Database.MigrateAsync();
            Fill(making, bins);
            await making.SaveChangesAsync();
        }

        await using var db = Database.Context(file);
        var setUp = await SetUp.Load(db);
        var goods = new GoodsToPlace(setUp.Catalogue.Items.First(), null, setUp.Standings[1][Standing.Usable], 40, 1, false, 10, 3);
        await using var desk = new WriteDesk(file);
        _ = desk.Store.Views(1, setUp.Catalogue, setUp.BinsOfSite[1], []);
        var begun = Stopwatch.GetTimestamp();
        await desk.Probe();
        _ = desk.Store.Views(1, setUp.Catalogue, setUp.BinsOfSite[1], []);
        var made = Stopwatch.GetElapsedTime(begun).TotalMilliseconds;
        var whole = new List<double>();
        var core = new List<double>();
        for (var i = 0; i < 40; i++)
        {
            var begin = Stopwatch.GetTimestamp();
            var store = desk.Store.Views(1, setUp.Catalogue, setUp.BinsOfSite[1], [])
                ?? throw new InvalidOperationException("The picture of the store is not there.");
            var loaded = Stopwatch.GetTimestamp();
            var proposal = PutAway.Propose(goods, store);
            whole.Add(Stopwatch.GetElapsedTime(begin).TotalMilliseconds);
            core.Add(Stopwatch.GetElapsedTime(loaded).TotalMilliseconds);
            if (proposal.LookedAt != bins)
                throw new InvalidOperationException("Not every bin was looked at.");
        }

        whole.Sort();
        core.Sort();
        Console.WriteLine(
            $"one proposal over {bins:#,0} bins: median {whole[20]:0.0} ms, of it {core[20]:0.0} ms choosing (limit {LimitOf(bins)}); "
                + $"the picture of the store was made in {made:0} ms"
        );
        return whole[20];
    }

    static void Fill(MudRoomDb db, int bins)
    {
        var site = new WarehouseSite
        {
            Id = 1,
            Code = "B",
            Name = "Bench",
            TimeZone = "Etc/UTC",
            CompanyPrefix = "9521234",
        };
        var items = Enumerable
            .Range(1, 200)
            .Select(i => new Item
            {
                Id = i,
                Code = $"I-{i}",
                Name = $"Item {i}",
                Mass = 1.5m,
                Volume = 3,
                LongestSide = 0.4m,
                HomeZone = "Z" + i % 7,
                PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
            })
            .ToList();
        db.Add(site);
        db.AddRange(items);
        for (var i = 1; i <= bins; i++)
            db.Add(
                new Bin
                {
                    Id = i,
                    SiteId = 1,
                    Address = $"{i / 1000}-{i % 1000:000}",
                    Zone = "Z" + i % 7,
                    Function = BinFunction.Reserve,
                    MaxMass = 800,
                    MaxVolume = 1500,
                    MaxLength = 1.2m,
                    X = i % 97,
                    Y = i % 61,
                    Height = i % 5 * 1.5m,
                    Level = i % 5,
                }
            );
        // Four bins of five hold something.
        for (var i = 1; i <= bins; i++)
            if (i % 5 != 0)
            {
                var balance = new Balance(1, new Goods(i % 200 + 1), Place.In(i, Standing.Usable));
                balance.Change(40 + i % 300, DateTimeOffset.UnixEpoch);
                db.Add(balance);
            }
    }
}
