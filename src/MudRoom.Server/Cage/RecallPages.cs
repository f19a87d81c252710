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

/// <summary>A recall in the list.</summary>
/// <param name="Says">Which goods it is about.</param>
/// <param name="Finding">What was found, in a sentence; of one that is ended what came of it.</param>
/// <param name="Missing">True while goods of it are missing.</param>
public sealed record RecallRow(
    string Number,
    string Says,
    string Why,
    bool IsDrill,
    DateTime Since,
    string By,
    DateTime? EndedAt,
    string Finding,
    bool Missing
);

/// <summary>The recalls of the house.</summary>
/// <param name="Items">What may be named in a new one.</param>
/// <param name="Vendors">Likewise.</param>
public sealed record RecallsAnswer(
    IReadOnlyList<RecallRow> Open,
    IReadOnlyList<RecallRow> Ended,
    IReadOnlyList<string> Vendors,
    bool MayBegin
);

/// <summary>Goods of a recall at a place of this site.</summary>
/// <param name="Missing">Of them, what is not there.</param>
/// <param name="Task">Who brings them to the cage, in words; null where nobody has to.</param>
/// <param name="Hold">The hold of the recall on them; null where it does not hold them.</param>
/// <param name="IsReleased">True where it held them and does no more.</param>
public sealed record RecallPlace(
    long Balance,
    string Item,
    string? Batch,
    string? SourceBatch,
    string? Unit,
    string? Serial,
    decimal Quantity,
    string UnitWord,
    string InPacks,
    string Address,
    RecallRoom Room,
    decimal Missing,
    bool IsSeen,
    StandingSeen Standing,
    string? Task,
    string? Hold,
    bool IsReleased
);

/// <summary>Goods of a recall that have left the house.</summary>
/// <param name="To">"customer".</param>
/// <param name="Told">Who told them, when and how; null where nobody has, or nobody has to be.</param>
/// <param name="MayBeTold">True for customers and jobs.</param>
/// <param name="Draft">What to say to them.</param>
public sealed record RecallGoneView(
    string To,
    string Reference,
    string Site,
    string Item,
    decimal Quantity,
    string UnitWord,
    DateTime Last,
    string By,
    string? Told,
    bool MayBeTold,
    string? Draft
);

/// <summary>Goods of a recall that are announced.</summary>
public sealed record RecallComingView(string Arrival, string Site, string Item, decimal Quantity, string UnitWord, DateTime At);

/// <summary>A place where missing goods may be.</summary>
/// <param name="Looked">Who looked there and when; null where nobody has.</param>
public sealed record RecallSearchView(string Address, string Why, string? Looked);

/// <summary>Goods of a recall that are missing at this site.</summary>
public sealed record RecallMissingView(
    int Id,
    string Item,
    string? Batch,
    decimal Quantity,
    string UnitWord,
    string InPacks,
    string Address,
    string By,
    DateTime At,
    IReadOnlyList<RecallSearchView> Search
);

/// <summary>A device that counted lately: what it has not sent yet is not in the book.</summary>
/// <param name="Heard">When something of it came last.</param>
/// <param name="IsSilent">True where nothing has come since the recall began.</param>
public sealed record RecallDevice(string Device, string Person, DateTime Heard, bool IsSilent);

/// <summary>Goods that the recall may be about: what would tell was never recorded.</summary>
public sealed record RecallSuspect(string Item, string? Vendor, string? Batch, DateTime Since, decimal Quantity, string UnitWord, int Lot);

/// <summary>What stands of it at another site.</summary>
/// <param name="NotHeld">Of it, what the recall does not hold yet.</param>
/// <param name="MayHold">True where who asks may hold it there.</param>
public sealed record RecallElsewhere(string Site, string Name, decimal Quantity, int Places, decimal NotHeld, bool MayHold);

/// <summary>A hold of the recall at this site.</summary>
public sealed record RecallHold(string Number, string Item, string? Batch, decimal Quantity, string UnitWord, bool IsReady);

/// <summary>What of a recall is held in a room of this site and was not missed.</summary>
/// <param name="Quantity">In base units.</param>
public sealed record RecallRoomSum(RecallRoom Room, decimal Quantity);

/// <summary>In what goods are told.</summary>
/// <param name="Name">"box", "kg"; empty where goods of several units are told together.</param>
/// <param name="Content">Of one of them, in base units.</param>
public sealed record RecallPack(string Name, decimal Content);

/// <summary>A recall with all that is found of it.</summary>
/// <param name="Sentence">The finding.</param>
/// <param name="Minutes">Since it began, or until it was ended.</param>
/// <param name="LimitMinutes">All should be named within so many.</param>
/// <param name="Pack">In which its sums are told.</param>
/// <param name="PlacesNotShown">So many more places hold some of it, behind those that are shown.</param>
/// <param name="NotHeld">What stands here and it does not hold yet, in base units.</param>
public sealed record RecallAnswer(
    string Number,
    string Says,
    string Why,
    bool IsDrill,
    DateTime Since,
    string By,
    DateTime? EndedAt,
    string? EndedBy,
    string? Ending,
    int Minutes,
    int LimitMinutes,
    string Sentence,
    RecallPack Pack,
    RecallFinding Finding,
    IReadOnlyList<RecallRoomSum> Rooms,
    IReadOnlyList<RecallPlace> Places,
    int PlacesNotShown,
    IReadOnlyList<RecallMissingView> Missing,
    IReadOnlyList<RecallGoneView> Gone,
    IReadOnlyList<RecallComingView> Coming,
    IReadOnlyList<RecallDevice> Devices,
    IReadOnlyList<RecallSuspect> Suspects,
    IReadOnlyList<RecallElsewhere> Elsewhere,
    IReadOnlyList<RecallHold> Holds,
    decimal NotHeld,
    bool MayHold,
    bool MayEnd,
    bool MayMove
);

/// <summary>What a scan means in a search.</summary>
/// <param name="Bin">The place that was scanned; null for goods.</param>
/// <param name="Missing">The missing goods that the label fits; null where it fits none.</param>
/// <param name="Balance">Stock of the recall that the label fits, by its id; null where it fits none.</param>
public sealed record RecallScan(string? Bin, int? Missing, long? Balance, string Sentence);

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
                Gone(inquiry, there, found),
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
                var mayBeTold = g.To is Account.Customer or Account.Job && g.Quantity > 0;
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
