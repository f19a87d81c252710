using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;

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
        foreach (var (number, vendor, quantity) in new[] { ("PO-ONE", "NILG", "8"), ("PO-OTHER", "QUER", "4") })
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
                orders = new[] { "PO-ONE", "PO-OTHER" },
                vehicle = "truck",
                door = 4,
                atOnce = true,
            }
        );
        var arrival = opened["number"].GetString()!;
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
}
