using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>Something other than stock that the words fit.</summary>
public sealed record FoundThing(string Kind, string Code, string Words, string? Link);

/// <summary>What a text names besides stock: items, bins, batches, and papers with the page they are on.</summary>
static class FoundThings
{
    /// <summary>Most of one kind.</summary>
    const int Most = 10;

    /// <summary>All that it names, the goods first.</summary>
    public static async Task<IReadOnlyList<FoundThing>> Of(Inquiry inquiry, Meant meant) =>
        [
            .. inquiry
                .SetUp.Catalogue.Items.Where(i => meant.Items.Contains(i.Id))
                .Take(Most)
                .Select(i => new FoundThing("item", i.Code, i.Name, null)),
            .. meant.Bin is { } at && inquiry.SetUp.Bins[at] is var bin
                ? [new FoundThing("bin", bin.Address, $"{bin.Function.ToString().ToLowerInvariant()}, {bin.Zone}", null)]
                : (FoundThing[])[],
            .. await Expected(inquiry, meant),
            .. await Speaking(inquiry, meant),
            .. await Batches(inquiry, meant),
        ];

    static async Task<IReadOnlyList<FoundThing>> Expected(Inquiry inquiry, Meant meant)
    {
        var (site, numbers) = (inquiry.Site.Id, meant.Numbers);
        var orders = await inquiry
            .Db.Orders.Where(o => numbers.Contains(o.Number) && o.Lines.Any(l => l.Parts.Any(p => p.SiteId == site)))
            .ToListAsync();
        var arrivals = await inquiry
            .Db.Arrivals.Where(a => a.SiteId == site && (numbers.Contains(a.Number) || numbers.Contains(a.ContainerNumber!)))
            .Take(Most)
            .ToListAsync();
        var receipts = await inquiry
            .Db.Receipts.Where(r => r.SiteId == site && (numbers.Contains(r.Number) || r.DeliveryNote == meant.Key))
            .Take(Most)
            .ToListAsync();
        return
        [
            .. orders.Select(o => new FoundThing("order", o.Number, inquiry.SetUp.Vendors[o.VendorId].Name, $"/road/orders/{o.Number}")),
            .. arrivals.Select(a => new FoundThing("arrival", a.Number, a.State.ToString(), $"/road/arrivals/{a.Number}")),
            .. receipts.Select(r => new FoundThing(
                "receipt",
                r.Number,
                $"{inquiry.SetUp.Vendors[r.VendorId].Name}, delivery note {r.DeliveryNote}",
                $"/door/receipts/{r.Number}"
            )),
        ];
    }

    /// <summary>What says something of goods: a hold, an inspection, a recall, of this site.</summary>
    static async Task<IReadOnlyList<FoundThing>> Speaking(Inquiry inquiry, Meant meant)
    {
        var site = inquiry.Site.Id;
        return meant.Paper switch
        {
            (ReferenceKind.Hold, var number) =>
            [
                .. (await inquiry.Db.Holds.Where(h => h.SiteId == site && h.Number == number).ToListAsync()).Select(h => new FoundThing(
                    "hold",
                    h.Number,
                    $"{inquiry.SetUp.Catalogue[h.ItemId].Name}: {h.Sentence}{(h.IsOpen ? "" : ", settled")}",
                    $"/cage?hold={h.Number}"
                )),
            ],
            (ReferenceKind.Inspection, var number) =>
            [
                .. (
                    await inquiry
                        .Db.Inspections.Where(i => i.SiteId == site && i.Number == number)
                        .Select(i => new { i.Number, i.ItemId })
                        .ToListAsync()
                ).Select(i => new FoundThing("inspection", i.Number, inquiry.SetUp.Catalogue[i.ItemId].Name, $"/bench/{i.Number}")),
            ],
            (ReferenceKind.Recall, var number) =>
            [
                .. (
                    await inquiry
                        .Db.Recalls.Where(r => r.SiteId == site && r.Number == number)
                        .Select(r => new
                        {
                            r.Number,
                            r.Says,
                            r.IsDrill,
                        })
                        .ToListAsync()
                ).Select(r => new FoundThing(r.IsDrill ? "drill" : "recall", r.Number, r.Says, $"/cage/recalls/{r.Number}")),
            ],
            _ => [],
        };
    }

    static async Task<IReadOnlyList<FoundThing>> Batches(Inquiry inquiry, Meant meant)
    {
        var number = meant.Code.Batch ?? meant.Key;
        var batches = await inquiry
            .Db.Batches.Include(b => b.SourceBatch)
            .Where(b =>
                (b.Number == number || b.SourceBatch!.Number == number)
                && (meant.Code.Batch == null || meant.Items.Count == 0 || meant.Items.Contains(b.ItemId))
            )
            .Take(Most)
            .ToListAsync();
        return [.. batches.Select(b => new FoundThing("batch", b.Number, Trace(inquiry, b), null))];
    }

    static string Trace(Inquiry inquiry, Batch batch)
    {
        var source = batch.SourceBatch;
        var words = inquiry.SetUp.Catalogue[batch.ItemId].Name;
        if (source is null)
            return words;
        words += $", source batch {source.Number} of {inquiry.SetUp.Vendors[source.VendorId].Name}";
        if (source.ProductionAsKnown is { } made)
            words += $", produced {made}";
        if (batch.Expiry is { } end)
            words += $", good until {end:yyyy-MM-dd}{(source.DateWorkedOut ? " (worked out)" : "")}";
        if (source.Origin is { } origin)
            words += $", from {Countries.ByCode(origin)?.Name}";
        return words;
    }
}
