using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Server.Tests;

/// <summary>Goods that are ours before they are here, and goods that go to another own site instead.</summary>
public sealed class OnTheWayTests(DemoServer server) : IClassFixture<DemoServer>
{
    static async Task<string> Expected(Client wanjiru, string order, params (string Item, string Quantity)[] lines)
    {
        Assert.True(
            (
                await wanjiru.Act(
                    "/road/orders/new",
                    new
                    {
                        number = order,
                        kind = "Purchase",
                        vendor = "QUER",
                        draft = false,
                        lines = lines.Select(l => new
                        {
                            item = l.Item,
                            quantity = l.Quantity,
                            due = "2026-03-10",
                        }),
                    }
                )
            ).IsOk
        );
        var made = await wanjiru.Act(
            "/road/arrivals",
            new
            {
                orders = new[] { order },
                planned = "2026-03-10T13:00:00",
                vehicle = "container",
                container = "CSQU3054383",
                atOnce = false,
            }
        );
        Assert.True(made.IsOk, made.Body.ToString());
        return made["number"].GetString()!;
    }

    /// <summary>What the ledger's accounts of an item come to, outside the bins.</summary>
    async Task<(decimal Transit, decimal Vendor)> Outside(string arrival)
    {
        await using var db = server.Db();
        var entries = await db.Ledger.Where(e => e.Subject == arrival && e.Quantity != null).ToListAsync();
        return (Sum(Account.Transit), Sum(Account.Vendor));
        decimal Sum(Account account) =>
            entries.Sum(e => (e.ToAccount == account ? e.Quantity!.Value : 0) - (e.FromAccount == account ? e.Quantity!.Value : 0));
    }

    [Fact]
    public async Task What_is_ours_on_the_way_is_on_the_books_not_usable_and_comes_in_by_counting()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        var arrival = await Expected(wanjiru, "PO-WATER", ("PF-50", "30"));
        Assert.Equal(
            "document-missing",
            (
                await wanjiru.Act(
                    "/road/take-over",
                    new
                    {
                        arrival,
                        lines = Array.Empty<int>(),
                        document = " ",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "right-missing",
            (
                await maren.Act(
                    "/road/take-over",
                    new
                    {
                        arrival,
                        lines = Array.Empty<int>(),
                        document = "BL-77",
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await wanjiru.Act(
                    "/road/take-over",
                    new
                    {
                        arrival,
                        lines = Array.Empty<int>(),
                        document = "BL-77",
                    }
                )
            ).IsOk
        );
        Assert.Equal(
            "nothing-to-take-over",
            (
                await wanjiru.Act(
                    "/road/take-over",
                    new
                    {
                        arrival,
                        lines = Array.Empty<int>(),
                        document = "BL-77",
                    }
                )
            ).Code
        );
        Assert.Equal((30, -30), await Outside(arrival));

        var found = await wanjiru.Ask("/book/find?text=PF-50");
        Assert.Equal(
            30,
            found["inTransit"]
                .EnumerateArray()
                .Single(t => t.GetProperty("arrival").GetString() == arrival)
                .GetProperty("quantity")
                .GetDecimal()
        );
        Assert.Equal(30, found["sums"].EnumerateArray().Single().GetProperty("inTransit").GetDecimal());
        Assert.DoesNotContain(found["stock"].EnumerateArray(), s => s.GetProperty("bin").GetString() == "transit");
        Assert.Empty((await server.Check()).Faults);

        var line = (await wanjiru.Ask($"/road/arrivals/{arrival}"))["manifest"][0].GetProperty("id").GetInt32();
        Assert.Equal("in-transit", (await wanjiru.Act("/road/arrivals/take-off", new { arrival, lines = new[] { line } })).Code);
        await wanjiru.Act("/yard/step", new { arrival = "A-2617", step = "Empty" });
        var brought = await wanjiru.Act("/road/at-door", new { arrival, door = 3 });
        Assert.True(brought.IsOk, brought.Body.ToString());
        Assert.Equal(
            "already-at-door",
            (
                await wanjiru.Act(
                    "/road/take-over/back",
                    new
                    {
                        arrival,
                        lines = Array.Empty<int>(),
                        document = "BL-77",
                    }
                )
            ).Code
        );
        Assert.True((await maren.Act("/door/count", Client.Count("20", arrival, "PF-50", "each"))).IsOk);
        Assert.Equal((10, -30), await Outside(arrival));
        Assert.True(
            (
                await maren.Act(
                    "/door/take-back",
                    new
                    {
                        arrival,
                        count = (Guid?)null,
                        reason = "counted twice",
                    }
                )
            ).IsOk
        );
        Assert.Equal((30, -30), await Outside(arrival));
        Assert.True((await maren.Act("/door/count", Client.Count("20", arrival, "PF-50", "each"))).IsOk);
        Assert.Empty((await server.Check()).Faults);

        // The ten that are not aboard go back to the vendor's account when the tally closes.
        var vendor = (await wanjiru.Ask($"/door/tally/{arrival}"))["vendors"][0].GetProperty("id").GetInt32();
        Assert.True(
            (
                await maren.Act(
                    "/door/delivery-note",
                    new
                    {
                        arrival,
                        vendorId = vendor,
                        note = "QN-1",
                    }
                )
            ).IsOk
        );
        var closed = await wanjiru.Act(
            "/door/close",
            new
            {
                arrival,
                decisions = new[] { new { manifestLine = line, decision = "MoreToCome" } },
                deliveryNotes = Array.Empty<object>(),
            }
        );
        Assert.True(closed.IsOk, closed.Body.ToString());
        Assert.Equal("QN-1", closed["receipts"][0].GetProperty("deliveryNote").GetString());
        Assert.Equal((0, -20), await Outside(arrival));
        Assert.Empty((await server.Check()).Faults);
    }

    [Fact]
    public void More_than_was_ours_on_the_way_comes_from_the_vendor()
    {
        var line = new Core.Road.ManifestLine { Expected = 30 };
        Assert.Equal(30, line.TakeOver());
        Assert.Equal([(Account.Transit, 30m), (Account.Vendor, 2m)], line.Arrive(32));
        Assert.Equal([(Account.Vendor, 5m)], line.Arrive(5));
    }

    [Fact]
    public async Task A_line_sent_to_another_own_site_leaves_this_arrival_and_is_expected_there()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-PART",
                kind = "Purchase",
                vendor = "QUER",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "PF-50",
                        quantity = "12",
                        due = "2026-03-10",
                    },
                    new
                    {
                        item = "HH-16",
                        quantity = "8",
                        due = "2026-03-10",
                    },
                },
            }
        );
        var arrival = (
            await wanjiru.Act(
                "/road/arrivals",
                new
                {
                    orders = new[] { "PO-PART" },
                    planned = "2026-03-10T15:00:00",
                    atOnce = false,
                }
            )
        )["number"].GetString()!;
        var page = await wanjiru.Ask($"/road/arrivals/{arrival}");
        var other = page["otherSites"][0].GetProperty("code").GetString();
        var line = page["manifest"][0].GetProperty("id").GetInt32();
        Assert.Equal(
            "note-missing",
            (
                await wanjiru.Act(
                    "/road/redirect",
                    new
                    {
                        arrival,
                        lines = new[] { line },
                        site = other,
                        reason = "",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "not-found",
            (
                await wanjiru.Act(
                    "/road/redirect",
                    new
                    {
                        arrival,
                        lines = new[] { line },
                        site = "NOWHERE",
                        reason = "x",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "same-site",
            (
                await wanjiru.Act(
                    "/road/redirect",
                    new
                    {
                        arrival,
                        lines = new[] { line },
                        site = "LM",
                        reason = "x",
                    }
                )
            ).Code
        );
        var sent = await wanjiru.Act(
            "/road/redirect",
            new
            {
                arrival,
                lines = new[] { line },
                site = other,
                reason = "they run short",
            }
        );
        Assert.True(sent.IsOk, sent.Body.ToString());
        Assert.Single((await wanjiru.Ask($"/road/arrivals/{arrival}"))["manifest"].EnumerateArray());

        await using var db = server.Db();
        var there = await db.Arrivals.Include(a => a.Manifest).ThenInclude(m => m.Part).SingleAsync(a => a.Manifest.Any(m => m.Id == line));
        Assert.NotEqual(arrival, there.Number);
        Assert.Equal(there.SiteId, there.Manifest.Single().Part!.SiteId);
        Assert.Contains(
            "they run short",
            (await db.OrderChanges.OrderByDescending(c => c.Id).FirstAsync()).Sentence,
            StringComparison.Ordinal
        );

        // The rest goes too: the arrival itself is the other site's now, and no longer found here.
        Assert.True(
            (
                await wanjiru.Act(
                    "/road/redirect",
                    new
                    {
                        arrival,
                        lines = Array.Empty<int>(),
                        site = other,
                        reason = "all of it",
                    }
                )
            ).IsOk
        );
        Assert.Equal("not-found", (await wanjiru.Ask($"/road/arrivals/{arrival}")).Code);
        Assert.Equal("not-found", (await wanjiru.Act("/road/at-door", new { arrival, door = 1 })).Code);
    }

    [Fact]
    public async Task Orders_that_could_be_aboard_are_found_by_their_vendor_and_open_an_arrival_with_its_delivery_note()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var maren = await server.SignIn("maren");
        await wanjiru.Act(
            "/road/orders/new",
            new
            {
                number = "PO-SPOT",
                kind = "Purchase",
                vendor = "QUER",
                draft = false,
                lines = new[]
                {
                    new
                    {
                        item = "PF-50",
                        quantity = "12",
                        due = "2026-03-10",
                    },
                },
            }
        );
        var found = await maren.Ask("/door/open-orders?vendor=quer");
        Assert.Contains(found.Body.EnumerateArray().SelectMany(v => v.GetProperty("orders").EnumerateArray()), o =>
            o.GetProperty("number").GetString() == "PO-SPOT"
        );
        Assert.Empty((await maren.Ask("/door/open-orders?vendor=zzz")).Body.EnumerateArray());
        var made = await maren.Act(
            "/door/open-on-the-spot",
            new
            {
                orders = new[] { "PO-SPOT" },
                vehicle = "truck",
                door = 4,
                atOnce = true,
                notIso6346 = false,
                unplanned = true,
                deliveryNote = "DN-OWN-1",
            }
        );
        Assert.True(made.IsOk, made.Body.ToString());
        Assert.Equal(
            "DN-OWN-1",
            (await maren.Ask($"/door/tally/{made["number"].GetString()}"))["vendors"][0].GetProperty("deliveryNote").GetString()
        );
        Assert.DoesNotContain(
            (await maren.Ask("/door/open-orders?vendor=quer"))
                .Body.EnumerateArray()
                .SelectMany(v => v.GetProperty("orders").EnumerateArray()),
            o => o.GetProperty("number").GetString() == "PO-SPOT"
        );
    }
}
