using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>The pages of recalls.</summary>
public static class RecallPages
{
    const int MostEnded = 50;
    const int MostShown = 400;
    static readonly TimeSpan CountedLately = TimeSpan.FromHours(24);

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/cage/recalls", Right.See, List);
        routes.Ask("/cage/recalls/{recall}", Right.See, Of);
        routes.Ask("/cage/recalls/{recall}/scan", Right.See, Scan);
    }

    static async Task<Ok<RecallsAnswer>> List(Inquiry inquiry)
    {
        var history = await inquiry.History();
        var open = await inquiry.Db.Recalls.Where(r => r.EndedAt == null).OrderBy(r => r.Since).ToListAsync();
        var ended = await inquiry.Db.Recalls.Where(r => r.EndedAt != null).OrderByDescending(r => r.EndedAt).Take(MostEnded).ToListAsync();
        var found = await RecallReads.Of(inquiry.Db, history, inquiry.SetUp, open);
        var rows = open.Zip(found, (recall, goods) => Row(recall, SentenceOf(inquiry, goods), goods.Finding.Missing > 0));
        return TypedResults.Ok(
            new RecallsAnswer(
                [.. rows.OrderByDescending(r => r.Missing).ThenBy(r => r.IsDrill).ThenBy(r => r.Since)],
                [.. ended.Select(r => Row(r, r.Ending ?? "", false))],
                NamedGoods.Vendors(inquiry.SetUp),
                inquiry.May(Right.LayHold)
            )
        );

        RecallRow Row(Recall recall, string finding, bool missing) =>
            new(
                recall.Number,
                recall.Says,
                recall.Why,
                recall.IsDrill,
                inquiry.Local(recall.Since),
                recall.By,
                recall.EndedAt is { } at ? inquiry.Local(at) : null,
                finding,
                missing
            );
    }

    /// <summary>The pack in which the goods of a recall are told: of one item the largest that nothing of it breaks; of several the unit
    /// they have in common, or none.</summary>
    static RecallPack PackOf(Inquiry inquiry, RecalledGoods found)
    {
        var all = found
            .Stock.SelectMany(s => new[] { (s.Row.ItemId, s.Row.Quantity), (s.Row.ItemId, Quantity: s.Missing) })
            .Concat(found.Gone.Select(g => (g.ItemId, g.Quantity)))
            .Concat(found.Coming.Select(c => (c.ItemId, c.Quantity)))
            .ToList();
        var items = all.Select(a => a.ItemId).Distinct().Select(i => inquiry.SetUp.Catalogue[i]).ToList();
        if (items is not [var item])
            return new RecallPack(items.Select(i => i.UnitWord).Distinct().ToList() is [var unit] ? unit : "", 1);
        var pack = item
            .PackLevels.Where(p => p.Content(1) > 1 && all.TrueForAll(a => a.Quantity % p.Content(1) == 0))
            .MaxBy(p => p.Content(1));
        return pack is null ? new RecallPack(item.UnitWord, 1) : new RecallPack(pack.Name, pack.Content(1));
    }

    static string SentenceOf(Inquiry inquiry, RecalledGoods found)
    {
        var pack = PackOf(inquiry, found);
        string Bare(decimal quantity) => Quantities.Show(quantity / pack.Content);
        return found.Finding.Sentence(Bare, q =>
                pack.Content == 1 ? $"{Bare(q)} {pack.Name}".TrimEnd() : $"{Bare(q)} {Quantities.Plural(pack.Name, q / pack.Content)}"
            ) + ".";
    }

    static async Task<Results<Ok<RecallAnswer>, ProblemHttpResult>> Of(Inquiry inquiry, string recall)
    {
        // History first: all of it is of one instant.
        var history = await inquiry.History();
        if (await inquiry.Db.Recalls.FirstOrDefaultAsync(r => r.Number == recall) is not { } there)
            return Problems.Of(Problems.NotFound("recall", recall));
        var (db, setUp, site) = (inquiry.Db, inquiry.SetUp, inquiry.Site);
        var found = await RecallReads.Of(db, history, setUp, there);
        var here = found.Stock.Where(s => s.Row.SiteId == site.Id).ToList();
        var holds = await db.Holds.Where(h => h.RecallId == there.Id && h.IsOpen).ToListAsync();
        bool IsNotHeld(RecallStock stock) => there.Holds && stock.Hold is null && !stock.IsReleased;
        var accepted = await Conditions.Acceptances(db, holds);
        var batches = holds.Select(h => h.BatchId).OfType<int>().ToList();
        var batchNumbers = await db.Batches.Where(b => batches.Contains(b.Id)).ToDictionaryAsync(b => b.Id, b => b.Number);
        var items = found.Stock.Select(s => s.Row.ItemId).Concat(found.Gone.Select(g => g.ItemId)).ToHashSet();
        if (there.Scope.ItemId is { } named)
            items.Add(named);
        var vendors = found.Stock.Select(s => s.Lot.Goods().VendorId).OfType<int>().ToHashSet();
        var gone = Gone(inquiry, there, found);
        return TypedResults.Ok(
            new RecallAnswer(
                there.Number,
                there.Says,
                there.Why,
                there.IsDrill,
                inquiry.Local(there.Since),
                there.By,
                there.EndedAt is { } at ? inquiry.Local(at) : null,
                there.EndedBy,
                there.Ending,
                (int)((there.EndedAt ?? inquiry.Now) - there.Since).TotalMinutes,
                (int)Recall.Within.TotalMinutes,
                there.Ending ?? SentenceOf(inquiry, found),
                PackOf(inquiry, found),
                found.Finding,
                [
                    .. here.Where(s => !s.IsReleased)
                        .GroupBy(s => s.Room)
                        .Select(g => new RecallRoomSum(g.Key, g.Sum(s => s.Row.Quantity - s.Missing))),
                ],
                await Places(inquiry, here),
                Math.Max(0, here.Count - MostShown),
                await Missing(inquiry, there, here),
                [.. gone.OrderByDescending(IsToTell).Take(MostShown)],
                Math.Max(0, gone.Count - MostShown),
                gone.Count(IsToTell),
                [
                    .. found.Coming.Select(c => new RecallComingView(
                        c.Arrival.Number,
                        CodeOf(setUp, c.Arrival.SiteId),
                        setUp.Catalogue[c.ItemId].Name,
                        c.Quantity,
                        setUp.Catalogue[c.ItemId].UnitWord,
                        inquiry.Local(c.Arrival.Planned)
                    )),
                ],
                there.IsOpen ? await Devices(inquiry, there) : [],
                there.IsOpen
                    ? [.. (await RecallReads.Suspects(db, there.Scope, items, vendors, MostShown)).Select(s => SuspectOf(inquiry, s))]
                    : [],
                [
                    .. found
                        .Stock.Where(s => s.Row.SiteId != site.Id)
                        .GroupBy(s => s.Row.SiteId)
                        .Select(g => new RecallElsewhere(
                            CodeOf(setUp, g.Key),
                            setUp.Sites.Values.First(s => s.Id == g.Key).Name,
                            g.Sum(s => s.Row.Quantity),
                            g.Select(s => s.Row.BinId).Distinct().Count(),
                            g.Where(IsNotHeld).Sum(s => s.Row.Quantity),
                            inquiry.May(Right.LayHold)
                                && inquiry.Person.Sites.Contains(CodeOf(setUp, g.Key), StringComparer.OrdinalIgnoreCase)
                        )),
                ],
                [
                    .. holds
                        .Where(h => h.SiteId == site.Id)
                        .OrderBy(h => h.Id)
                        .Select(h => new RecallHold(
                            h.Number,
                            setUp.Catalogue[h.ItemId].Name,
                            h.BatchId is { } b ? batchNumbers[b] : null,
                            h.Quantity,
                            setUp.Catalogue[h.ItemId].UnitWord,
                            h.IsReady(inquiry.Now, accepted.GetValueOrDefault(h.Id))
                        )),
                ],
                here.Where(IsNotHeld).Sum(s => s.Row.Quantity),
                inquiry.May(Right.LayHold),
                there.IsOpen && inquiry.May(Right.LiftHold),
                inquiry.May(Right.PutAway)
            )
        );
    }

    static bool IsToTell(RecallGoneView gone) => gone is { MayBeTold: true, Told: null };

    static string CodeOf(SetUp setUp, int siteId) => setUp.Sites.Values.First(s => s.Id == siteId).Code;

    static RecallSuspect SuspectOf(Inquiry inquiry, (LotInQuestion Lot, decimal Quantity) suspect)
    {
        var (lot, item) = (suspect.Lot, inquiry.SetUp.Catalogue[suspect.Lot.Lot.ItemId]);
        return new RecallSuspect(
            item.Name,
            lot.Goods().VendorId is { } v ? inquiry.SetUp.Vendors[v].Name : null,
            lot.Batch?.Number,
            inquiry.Local(lot.Lot.OpenedAt),
            suspect.Quantity,
            item.UnitWord,
            lot.Lot.Id
        );
    }

    static async Task<IReadOnlyList<RecallPlace>> Places(Inquiry inquiry, IReadOnlyList<RecallStock> here)
    {
        var unitIds = here.Select(s => s.Row.UnitId).OfType<int>().Distinct().ToList();
        var units = await inquiry.Db.Units.Where(u => unitIds.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Sscc);
        var keys = here.Select(s => StoreTask.KeyOf(s.Row.Goods, s.Row.Place)).Distinct().ToList();
        var tasks = (
            await inquiry
                .Db.Tasks.Where(t =>
                    keys.Contains(t.Key) && (t.State == TaskState.Waiting || t.State == TaskState.Taken) && t.Kind == TaskKind.ToCage
                )
                .ToListAsync()
        ).ToLookup(t => t.Key);
        return
        [
            .. here.OrderBy(s => s.Room == RecallRoom.Cage)
                .ThenByDescending(s => s.Missing)
                .ThenBy(s => inquiry.SetUp.Address(s.Row.BinId), StringComparer.Ordinal)
                .Take(MostShown)
                .Select(s =>
                {
                    var item = inquiry.SetUp.Catalogue[s.Row.ItemId];
                    var task = tasks[StoreTask.KeyOf(s.Row.Goods, s.Row.Place)]
                        .OrderByDescending(t => t.State == TaskState.Taken)
                        .FirstOrDefault();
                    return new RecallPlace(
                        s.Row.Id,
                        item.Name,
                        s.Lot.Batch?.Number,
                        s.Lot.Batch?.SourceBatch?.Number,
                        s.Row.UnitId is { } u ? units.GetValueOrDefault(u) : null,
                        s.Row.Serial,
                        s.Row.Quantity,
                        item.UnitWord,
                        Quantities.InPacks(s.Row.Quantity, item),
                        inquiry.SetUp.Address(s.Row.BinId),
                        s.Room,
                        s.Missing,
                        s.IsSeen,
                        inquiry.Standings[s.Row.Standing].Seen,
                        task is null ? null
                            : task.State == TaskState.Waiting ? "nobody yet"
                            : task.IsLoaded ? $"{task.PersonName}, on the truck"
                            : task.PersonName,
                        s.Hold,
                        s.IsReleased
                    );
                }),
        ];
    }

    static async Task<IReadOnlyList<RecallMissingView>> Missing(Inquiry inquiry, Recall recall, IReadOnlyList<RecallStock> here)
    {
        var missing = recall
            .StillMissing.Select(m =>
                (m, Stock: here.FirstOrDefault(s => m.Spot == new RecallSpot(s.Row.LotId!.Value, s.Row.BinId, s.Row.UnitId, s.Row.Serial)))
            )
            .Where(m => m.Stock is not null)
            .ToList();
        if (missing.Count == 0)
            return [];
        var lots = missing.ConvertAll(m => new Reference(ReferenceKind.Lot, m.m.Spot.LotId).Id);
        // The desk has caught up: asked for before all else.
        var moved = await new History(inquiry.Db)
            .AboutAny(ReferenceKind.Lot, lots)
            .Where(e => e.SiteId == inquiry.Site.Id && (e.FromBinId != null || e.ToBinId != null))
            .OrderByDescending(e => e.Seq)
            .Take(MostShown)
            .ToListAsync();
        var itemIds = missing.Select(m => m.Stock!.Row.ItemId).Distinct().ToList();
        var lie = (
            await inquiry
                .Db.Balances.Where(b => b.SiteId == inquiry.Site.Id && itemIds.Contains(b.ItemId) && b.Quantity > 0)
                .Select(b => new { b.ItemId, b.BinId })
                .Distinct()
                .ToListAsync()
        ).ToLookup(b => b.ItemId, b => b.BinId);
        return
        [
            .. missing.Select(x =>
            {
                var (m, stock) = x;
                var item = inquiry.SetUp.Catalogue[stock!.Row.ItemId];
                var before = moved.Where(e => e.LotId == m.Spot.LotId || e.ToLotId == m.Spot.LotId);
                var places = SearchList.For(
                    m,
                    inquiry.SetUp.Bins,
                    inquiry.SetUp.BinsOfSite[inquiry.Site.Id],
                    before.SelectMany(e => new[] { e.ToBinId, e.FromBinId }).OfType<int>().Distinct(),
                    lie[item.Id]
                );
                return new RecallMissingView(
                    m.Id,
                    item.Name,
                    stock.Lot.Batch?.Number,
                    m.Quantity,
                    item.UnitWord,
                    Quantities.InPacks(m.Quantity, item),
                    inquiry.SetUp.Address(m.Spot.BinId),
                    m.By,
                    inquiry.Local(m.At),
                    [
                        .. places.Select(p => new RecallSearchView(
                            inquiry.SetUp.Address(p.BinId),
                            p.Why,
                            p.Looked is { } l ? $"{l.By}, {inquiry.Local(l.At):HH:mm}" : null
                        )),
                    ]
                );
            }),
        ];
    }

    static IReadOnlyList<RecallGoneView> Gone(Inquiry inquiry, Recall recall, RecalledGoods found) =>
        [
            .. found.Gone.Select(g =>
            {
                var item = inquiry.SetUp.Catalogue[g.ItemId];
                var told = recall.Told.FirstOrDefault(t => t.Reference == g.Reference);
                var mayBeTold = Recall.MayBeTold(g.To, g.Quantity);
                return new RecallGoneView(
                    g.To.ToString().ToLowerInvariant(),
                    g.Reference,
                    CodeOf(inquiry.SetUp, g.SiteId),
                    item.Name,
                    g.Quantity,
                    item.UnitWord,
                    inquiry.Local(g.Last.At),
                    g.Last.PersonName,
                    told is null ? null : $"{told.By}, {inquiry.Local(told.At):yyyy-MM-dd HH:mm}: {told.How}",
                    mayBeTold,
                    mayBeTold
                        ? $"You had {Quantities.Show(g.Quantity)} {item.UnitWord} of {item.Name} for {g.Reference}, last on "
                            + $"{inquiry.Local(g.Last.At):yyyy-MM-dd}. We recall {recall.Says}: {recall.Why} Do not use it, keep it "
                            + "apart, and tell us how much of it you still have."
                        : null
                );
            }),
        ];

    /// <summary>Devices that counted within a day before it began, and when something of them came last.</summary>
    static async Task<IReadOnlyList<RecallDevice>> Devices(Inquiry inquiry, Recall recall)
    {
        var since = recall.Since - CountedLately;
        var counted = await inquiry
            .Db.TallyEntries.Where(e => e.At >= since && e.Device != "")
            .Join(inquiry.Db.Arrivals.Where(a => a.SiteId == inquiry.Site.Id), e => e.ArrivalId, a => a.Id, (e, a) => e.Device)
            .Distinct()
            .ToListAsync();
        var last = (
            await inquiry
                .Db.Ledger.Where(e => e.SiteId == inquiry.Site.Id && e.At >= since && counted.Contains(e.Device))
                .GroupBy(e => e.Device)
                .Select(g => g.Max(e => e.Seq))
                .Join(inquiry.Db.Ledger, seq => seq, e => e.Seq, (_, e) => e)
                .ToListAsync()
        );
        return
        [
            .. last.Select(e => new RecallDevice(e.Device, e.PersonName, inquiry.Local(e.At), e.At < recall.Since))
                .OrderByDescending(d => d.IsSilent)
                .ThenBy(d => d.Heard),
        ];
    }

    static async Task<Results<Ok<RecallScan>, ProblemHttpResult>> Scan(Inquiry inquiry, string recall, string text)
    {
        if (await inquiry.Db.Recalls.FirstOrDefaultAsync(r => r.Number == recall) is not { } there)
            return Problems.Of(Problems.NotFound("recall", recall));
        var code = inquiry.Scan(text);
        var meant = await Meant.Of(inquiry.Db, inquiry.SetUp, inquiry.Site, code);
        if (meant.Bin is { } bin)
            return TypedResults.Ok(new RecallScan(inquiry.SetUp.Address(bin), null, null, $"You are at {inquiry.SetUp.Address(bin)}."));
        var rows = await meant
            .Of(inquiry.Db.Balances.Where(b => b.SiteId == inquiry.Site.Id && b.Quantity > 0))
            .Take(MostShown)
            .ToListAsync();
        var lots = (
            await RecalledLots.WithBatches(
                inquiry.Db,
                await LotReads.ByIds(inquiry.Db, [.. rows.Select(b => b.LotId).OfType<int>().Distinct()])
            )
        ).ToDictionary(l => l.Lot.Id);
        var caught = rows.Where(b => b.LotId is { } lot && there.Scope.Catches(lots[lot].Goods(b.Serial))).ToList();
        var missing = there.StillMissing.FirstOrDefault(m =>
            caught.Any(b => m.Spot == new RecallSpot(b.LotId!.Value, b.BinId, b.UnitId, b.Serial))
        );
        return TypedResults.Ok(
            new RecallScan(
                null,
                missing?.Id,
                caught.FirstOrDefault()?.Id,
                missing is not null ? $"That is of {recall}, and it is missing."
                    : caught.Count > 0 ? $"That is of {recall}: {inquiry.SetUp.Address(caught[0].BinId)} by the book."
                    : $"That is not of {recall}."
            )
        );
    }
}
