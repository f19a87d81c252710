using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Site;

namespace MudRoom.Data;

/// <summary>
/// Gives lots to the stock of a database from before there were any, by entries of the book. What a hold or an inspection spoke for is told
/// by the units that were counted for it, else by its being the only one for those goods; what cannot be told apart becomes one lot under
/// all of them.
/// </summary>
static class LotsFromBefore
{
    /// <summary>A hold or an inspection that speaks for goods.</summary>
    sealed record Speaker(Hold? Hold, Inspection? Inspection)
    {
        public string Key => Hold is null ? $"I{Inspection!.Id}" : $"H{Hold.Id}";

        public bool Counted(TallyEntry entry) =>
            Hold is null ? entry.InspectionId == Inspection!.Id : entry.HoldId == (Hold.CameFromId ?? Hold.Id);
    }

    /// <summary>Gives them, where there is stock without; nothing otherwise.</summary>
    public static async Task Give(MudRoomDb db, TimeProvider clock)
    {
        var rows = await db.Balances.IgnoreQueryFilters().Where(b => b.LotId == null).OrderBy(b => b.Id).ToListAsync();
        if (rows.Count == 0)
            return;
        // All of it or nothing: a database that was begun is begun anew.
        await using var whole = await db.Database.BeginTransactionAsync();
        var now = clock.GetUtcNow();
        if (await db.Ledger.IgnoreQueryFilters().OrderByDescending(e => e.Seq).FirstAsync() is var last && last.At > now)
            now = last.At;
        var speakers = (await db.Holds.Where(h => h.IsOpen && h.Quantity > 0).OrderBy(h => h.Id).ToListAsync())
            .Select(h => ((h.SiteId, h.ItemId, h.BatchId, h.Asks), Speaker: new Speaker(h, null)))
            .Concat(
                (await db.Inspections.Open().Where(i => i.Quantity > 0).OrderBy(i => i.Id).ToListAsync()).Select(i =>
                    ((i.SiteId, i.ItemId, i.BatchId, Asks: Standing.ToInspect), Speaker: new Speaker(null, i))
                )
            )
            .ToLookup(s => s.Item1, s => s.Speaker);
        var counts = await db.TallyEntries.Where(e => e.TakenBackAt == null).ToListAsync();
        var sites = await db.Sites.ToDictionaryAsync(s => s.Id);

        var groups = rows.GroupBy(b => (b.SiteId, b.ItemId, b.BatchId, b.Standing))
            .SelectMany(g => Apart(g.Key.Standing == Standing.Usable ? [] : [.. speakers[g.Key]], [.. g], counts))
            .ToList();
        var lots = groups.ConvertAll(g => (g.Said, g.Rows, Lot: LotOf(g.Rows[0], counts.Find(c => g.Said.Any(s => s.Counted(c))), now)));
        foreach (var speaker in lots.SelectMany(l => l.Said).Distinct())
        {
            var quantity = lots.Where(l => l.Said.Contains(speaker)).Sum(l => l.Rows.Sum(b => b.Quantity));
            speaker.Hold?.Recount(quantity);
            speaker.Inspection?.Recount(quantity);
        }

        db.Lots.AddRange(lots.Select(l => l.Lot));
        await db.SaveChangesAsync();

        var book = new StockBook(db, last.Head, new InHand());
        var doer = new Doer(now, 0, "Mud Room", "upgrade", Guid.CreateVersion7(now));
        foreach (var (said, of, lot) in lots)
        {
            var standing = of[0].Standing;
            var speaking = said.Count > 0 || standing == Standing.Usable ? said : [HoldWithoutWord(of, sites[of[0].SiteId], now)];
            foreach (var row in of)
                book.Write(
                    row.SiteId,
                    doer,
                    new LotNamed(lot.Id, row.Quantity),
                    new Movement(row.Goods, row.Quantity, row.Place, row.Place, lot.Id)
                );
            foreach (var speaker in speaking)
            {
                if (speaker.Hold is { Id: 0 } made)
                {
                    db.Holds.Add(made);
                    await db.SaveChangesAsync();
                }

                db.Statements.Add(
                    new Statement
                    {
                        SiteId = lot.SiteId,
                        LotId = lot.Id,
                        HoldId = speaker.Hold?.Id,
                        InspectionId = speaker.Inspection?.Id,
                        Asks = standing,
                        Since = speaker.Hold?.Since ?? speaker.Inspection!.Since,
                    }
                );
            }
        }

        foreach (var count in counts)
            count.LotId = lots.FirstOrDefault(l =>
                l.Lot.ItemId == count.ItemId
                && l.Lot.BatchId == count.BatchId
                && (l.Said.Any(s => s.Counted(count)) || l.Said.Count == 0 && count is { HoldId: null, InspectionId: null })
            ).Lot?.Id;
        book.Sweep();
        db.Ledger.AddRange(book.Written);
        await db.SaveChangesAsync();
        await whole.CommitAsync();
    }

    /// <summary>Parts goods that read alike by who speaks for them.</summary>
    static IEnumerable<(IReadOnlyList<Speaker> Said, List<Balance> Rows)> Apart(
        IReadOnlyList<Speaker> speakers,
        List<Balance> rows,
        List<TallyEntry> counts
    )
    {
        var counted = counts.Where(c => c.UnitId is not null && speakers.Any(s => s.Counted(c))).ToLookup(c => c.UnitId!.Value);
        IReadOnlyList<Speaker> Of(Balance row) =>
            speakers.Count > 1 && row.UnitId is { } unit && speakers.Where(s => counted[unit].Any(s.Counted)).ToList() is { Count: > 0 } own
                ? own
                : speakers;
        return rows.GroupBy(b => string.Join(",", Of(b).Select(s => s.Key))).Select(g => (Of(g.First()), g.ToList()));
    }

    /// <param name="count">A count that brought such goods; null where none is known.</param>
    static Lot LotOf(Balance row, TallyEntry? count, DateTimeOffset now) =>
        new()
        {
            SiteId = row.SiteId,
            ItemId = row.ItemId,
            BatchId = row.BatchId,
            Origin = LotOrigin.FromBefore,
            OpenedAt = now,
            ArrivalId = count?.ArrivalId,
            VendorId = count?.VendorId,
        };

    /// <summary>Goods that stand held and of which nothing says why: somebody looks at them and lifts it.</summary>
    static Speaker HoldWithoutWord(List<Balance> rows, WarehouseSite site, DateTimeOffset now)
    {
        var hold = new Hold
        {
            Number = site.TakeNumber("H"),
            SiteId = site.Id,
            ItemId = rows[0].ItemId,
            BatchId = rows[0].BatchId,
            Reason = rows[0].Standing == Standing.Rejected ? HoldReason.Nonconforming : HoldReason.ByHand,
            Sentence = $"Was {SiteStandings.BuiltIn.Word(rows[0].Standing)} when lots were named, and nothing said why.",
            Since = now,
            LaidBy = "Mud Room",
        };
        hold.Recount(rows.Sum(b => b.Quantity));
        return new Speaker(hold, null);
    }
}
