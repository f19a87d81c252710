using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>A count that reaches over the lines of several vendors is parted as the goods were.</summary>
public sealed class SplitTests
{
    [Fact]
    public async Task A_count_larger_than_one_vendors_lines_is_parted_with_batches_and_receipts_and_over_lies_on_its_line()
    {
        await using var server = new DemoServer();
        await server.InitializeAsync();
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        var arrival = await TwoVendorsOfOneItem(wanjiru, "PO-ONE", "PO-OTHER");
        var counted = await wanjiru.Act(
            "/door/count",
            new
            {
                arrival,
                item = "CB-05",
                pack = "each",
                packs = "13",
                sourceBatch = "MIX-1",
                origin = "LK",
                overAllowed = true,
                earlyAllowed = false,
            }
        );
        Assert.True(counted.IsOk, counted.Body.ToString());
        Assert.Contains("parted between Nilgama Coir and", counted["sentence"].GetString(), StringComparison.Ordinal);
        await using var db = server.Db();
        var entries = await db
            .TallyEntries.Where(e => db.Arrivals.Any(a => a.Id == e.ArrivalId && a.Number == arrival))
            .OrderBy(e => e.Id)
            .ToListAsync();
        var vendors = await db.Vendors.ToDictionaryAsync(v => v.Id, v => v.Code);
        Assert.Equal([("NILG", 8m, 0m), ("QUER", 5m, 1m)], entries.Select(e => (vendors[e.VendorId], e.Quantity, e.Over)));
        Assert.Equal(2, entries.Select(e => e.BatchId).Distinct().Count());
        var over = await db.Discrepancies.SingleAsync(d =>
            d.Kind == DiscrepancyKind.Over
            && d.ItemId == entries[0].ItemId
            && db.Arrivals.Any(a => a.Id == d.ArrivalId && a.Number == arrival)
        );
        Assert.Equal(entries[1].PartId, over.PartId);

        var tally = await maren.Ask("/door/tally/" + arrival);
        var notes = tally["vendors"]
            .EnumerateArray()
            .Select(v => new { vendorId = v.GetProperty("id").GetInt32(), deliveryNote = "DN-" + v.GetProperty("id").GetInt32() })
            .ToArray();
        var closed = await maren.Act(
            "/door/close",
            new
            {
                arrival,
                decisions = Array.Empty<object>(),
                deliveryNotes = notes,
            }
        );
        Assert.True(closed.IsOk, closed.Body.ToString());
        Assert.Equal(
            ["NILG", "QUER"],
            (
                await db
                    .Receipts.Where(r => db.Arrivals.Any(a => a.Id == r.ArrivalId && a.Number == arrival))
                    .Select(r => r.VendorId)
                    .ToListAsync()
            )
                .Select(v => vendors[v])
                .Order()
        );
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public async Task An_own_batch_holds_the_source_batch_of_one_vendor_though_another_vendor_prints_the_same_number()
    {
        await using var server = new DemoServer();
        await server.InitializeAsync();
        using var wanjiru = await server.SignIn("wanjiru");
        async Task<Answer> Count(string arrival, bool batchProposed) =>
            await wanjiru.Act(
                "/door/count",
                new
                {
                    arrival,
                    item = "CB-05",
                    pack = "each",
                    packs = "12",
                    batch = "OWN-7",
                    batchProposed,
                    sourceBatch = "MIX-2",
                    origin = "LK",
                }
            );

        var arrival = await TwoVendorsOfOneItem(wanjiru, "PO-THREE", "PO-FOUR");
        var typed = await Count(arrival, batchProposed: false);
        Assert.Equal("batch-in-use", typed.Code);
        Assert.Contains("MIX-2 of Nilgama Coir", typed.Body.ToString(), StringComparison.Ordinal);
        Assert.True((await Count(arrival, batchProposed: true)).IsOk);
        await using var db = server.Db();
        var counted = await db
            .TallyEntries.Where(e => db.Arrivals.Any(a => a.Id == e.ArrivalId && a.Number == arrival))
            .OrderBy(e => e.Id)
            .Join(
                db.Batches.Include(b => b.SourceBatch),
                e => e.BatchId,
                b => b.Id,
                (e, b) =>
                    new
                    {
                        e.VendorId,
                        b.Number,
                        b.SourceBatch,
                    }
            )
            .ToListAsync();
        Assert.Equal(2, counted.Count);
        Every.One(counted, c => Assert.Equal((c.VendorId, "MIX-2"), (c.SourceBatch!.VendorId, c.SourceBatch.Number)));
        Assert.Equal("OWN-7", counted[0].Number);
        Assert.NotEqual("OWN-7", counted[1].Number);
    }

    /// <summary>An arrival at a door with 8 coir bricks of one vendor and 4 of another.</summary>
    static async Task<string> TwoVendorsOfOneItem(Client wanjiru, string one, string other)
    {
        foreach (var (number, vendor, quantity) in new[] { (one, "NILG", "8"), (other, "QUER", "4") })
            Assert.True(
                (
                    await wanjiru.Act(
                        "/road/orders/new",
                        new
                        {
                            number,
                            kind = "Purchase",
                            vendor,
                            draft = false,
                            lines = new[]
                            {
                                new
                                {
                                    item = "CB-05",
                                    quantity,
                                    due = vendor == "NILG" ? "2026-03-09" : "2026-03-10",
                                },
                            },
                        }
                    )
                ).IsOk
            );
        var opened = await wanjiru.Act(
            "/door/open-on-the-spot",
            new
            {
                orders = new[] { one, other },
                vehicle = "truck",
                door = 4,
                atOnce = true,
            }
        );
        return opened["number"].GetString()!;
    }
}
