using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>One line of a thing's history, from the book.</summary>
public sealed record HistoryRow(DateTime At, string By, string Sentence);

/// <summary>How much of some goods is kept for somebody who waits.</summary>
/// <param name="Words">Who waits, as the order says, and by when.</param>
/// <param name="Reference">What they are issued for to be theirs.</param>
public sealed record KeptRow(string Words, string Reference, decimal Quantity);

/// <summary>Goods that read alike in one place.</summary>
/// <param name="Lots">How many lots they are of.</param>
/// <param name="Said">The holds and inspections that say something of them, by their numbers: why they may not be used.</param>
/// <param name="MayIssue">True where all that is said of some of them lets them be issued.</param>
/// <param name="MayShip">The same for being sent out as ours.</param>
/// <param name="Kept">For whom some of them are kept.</param>
public sealed record StockRow(
    long Id,
    string ItemCode,
    string Item,
    string? Batch,
    string? SourceBatch,
    DateOnly? GoodUntil,
    string? Sscc,
    string? Serial,
    string Bin,
    BinFunction Function,
    StandingSeen Standing,
    decimal Quantity,
    string Unit,
    string InPacks,
    DateTime Since,
    int? SourceBatchId,
    int Lots,
    IReadOnlyList<string> Said,
    bool MayIssue,
    bool MayShip,
    IReadOnlyList<KeptRow> Kept
);

/// <summary>What was found.</summary>
public sealed record FoundAnswer(
    IReadOnlyList<StockRow> Stock,
    int StockTotal,
    IReadOnlyList<FoundThing> Things,
    IReadOnlyList<StockSum> Sums,
    IReadOnlyList<TransitRow> InTransit
);

/// <summary>How much of an item stands on the site with one standing.</summary>
public sealed record StandingSum(StandingSeen Standing, decimal Quantity);

/// <summary>How much of an item stands on the site, by standing; and how much is ours on the way to it, which nobody can use yet.</summary>
/// <param name="Available">What is free to use, of whatever standing, and kept for nobody.</param>
/// <param name="Kept">What would be free, and is kept for somebody who waits.</param>
/// <param name="Stands">By standing, what keeps back most last; those that nothing has are left out.</param>
public sealed record StockSum(
    string Item,
    string Unit,
    decimal Available,
    decimal Kept,
    IReadOnlyList<StandingSum> Stands,
    decimal InTransit
);

/// <summary>Goods that are ours and still on the way to this site.</summary>
public sealed record TransitRow(
    string ItemCode,
    string Item,
    decimal Quantity,
    string Unit,
    string Arrival,
    string? Container,
    string Order,
    int Line,
    DateTime Expected
);

/// <summary>An entry of the ledger.</summary>
/// <param name="About">What it is about.</param>
/// <param name="CanUndo">True where who looks may undo it, and nobody has.</param>
public sealed record EntryRow(
    long Seq,
    DateTime At,
    string Person,
    string Device,
    EntryKind Kind,
    string Subject,
    string Sentence,
    string? Item,
    decimal? Quantity,
    string? Unit,
    string? From,
    string? To,
    long? Undoes,
    string Hash,
    IReadOnlyList<EntryLink> About,
    bool CanUndo
);

/// <summary>A page of the ledger, newest first.</summary>
public sealed record LedgerAnswer(IReadOnlyList<EntryRow> Rows, bool More);

/// <summary>Finding things, and the ledger.</summary>
public static class BookPages
{
    const int MostStock = 200;
    const int PageSize = 60;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/book/find", Right.See, Find);
        routes.Ask("/book/ledger", Right.See, Ledger);
    }

    static async Task<Ok<FoundAnswer>> Find(Inquiry inquiry, string? text)
    {
        var words = (text ?? "").Trim();
        if (words.Length is 0 or > 200)
            return TypedResults.Ok(new FoundAnswer([], 0, [], [], []));
        var meant = await Meant.Of(inquiry.Db, inquiry.SetUp, inquiry.Site, inquiry.Scan(words), byName: true);
        var here = inquiry.Db.Balances.Where(b => b.SiteId == inquiry.Site.Id);
        var rows = meant.Bin is { } bin ? here.Where(b => b.BinId == bin) : meant.Of(here);
        var onTheWay = await InTransit(inquiry, meant);
        var total = await rows.Select(b => new
            {
                b.BinId,
                b.ItemId,
                b.BatchId,
                b.UnitId,
                b.Serial,
                b.Standing,
            })
            .Distinct()
            .CountAsync();
        var sums = await rows.GroupBy(b => new { b.ItemId, b.Standing })
            .Select(g => new
            {
                g.Key.ItemId,
                g.Key.Standing,
                Millionths = g.Sum(b => (long)(object)b.Quantity),
            })
            .ToListAsync();
        var said = Reservations.Open(inquiry.Db);
        var keptSums = await rows.Where(b => said.Any(s => s.LotId == b.LotId))
            .GroupBy(b => new { b.ItemId, b.Standing })
            .Select(g => new
            {
                g.Key.ItemId,
                g.Key.Standing,
                Millionths = g.Sum(b => (long)(object)b.Quantity),
            })
            .ToListAsync();
        var stock = await StockRows(
            inquiry,
            StockLine.Of(await rows.OrderBy(b => b.ItemId).ThenBy(b => b.BinId).Take(MostStock).ToListAsync())
        );
        return TypedResults.Ok(
            new FoundAnswer(
                stock,
                total,
                await FoundThings.Of(inquiry, meant),
                [
                    .. sums.Select(s => inquiry.SetUp.Catalogue[s.ItemId])
                        .Concat(onTheWay.Select(t => inquiry.SetUp.Catalogue.Items.First(i => i.Code == t.ItemCode)))
                        .DistinctBy(i => i.Id)
                        .Select(item =>
                        {
                            var stands = sums.Where(s => s.ItemId == item.Id)
                                .OrderBy(s => inquiry.Standings.Order(s.Standing))
                                .Select(s => (Row: inquiry.Standings[s.Standing], Quantity: Storage.FromMillionths(s.Millionths)))
                                .ToList();
                            var kept = keptSums
                                .Where(s => s.ItemId == item.Id && inquiry.Standings[s.Standing].Available)
                                .Sum(s => Storage.FromMillionths(s.Millionths));
                            return new StockSum(
                                item.Name,
                                item.UnitWord,
                                stands.Where(s => s.Row.Available).Sum(s => s.Quantity) - kept,
                                kept,
                                [.. stands.Select(s => new StandingSum(s.Row.Seen, s.Quantity))],
                                onTheWay.Where(t => t.ItemCode == item.Code).Sum(t => t.Quantity)
                            );
                        }),
                ],
                onTheWay
            )
        );
    }

    /// <summary>What is ours on the way to this site: of the items, or of an arrival, container or order by its number.</summary>
    static async Task<List<TransitRow>> InTransit(Inquiry inquiry, Meant meant)
    {
        var key = meant.Key;
        var rows = await inquiry
            .Db.ManifestLines.Where(m => m.InTransit > 0 && m.Part!.SiteId == inquiry.Site.Id)
            .Join(
                inquiry.Db.Arrivals,
                m => m.ArrivalId,
                a => a.Id,
                (m, a) =>
                    new
                    {
                        m.InTransit,
                        m.Part!.ItemId,
                        Order = m.Part.Line!.Order!.Number,
                        Line = m.Part.Line.Number,
                        a.Number,
                        a.ContainerNumber,
                        Expected = a.Eta ?? a.Planned,
                    }
            )
            .Where(t => meant.Items.Contains(t.ItemId) || t.Number == key || t.ContainerNumber == key || t.Order == key)
            .OrderBy(t => t.Expected)
            .Take(MostStock)
            .ToListAsync();
        return
        [
            .. rows.Select(t =>
            {
                var item = inquiry.SetUp.Catalogue[t.ItemId];
                return new TransitRow(
                    item.Code,
                    item.Name,
                    t.InTransit,
                    item.UnitWord,
                    t.Number,
                    t.ContainerNumber,
                    t.Order,
                    t.Line,
                    inquiry.Local(t.Expected)
                );
            }),
        ];
    }

    static async Task<List<StockRow>> StockRows(Inquiry inquiry, IReadOnlyList<StockLine> rows)
    {
        var batchIds = rows.Select(b => b.BatchId).ToList();
        var batches = await inquiry.Db.Batches.Include(b => b.SourceBatch).Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        var unitIds = rows.Select(b => b.UnitId).ToList();
        var units = await inquiry.Db.Units.Where(u => unitIds.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Sscc);
        var lots = rows.SelectMany(r => r.Lots).ToList();
        var said = await Said.OfLots(inquiry.Db, lots);
        var kept = await Reservations.Portions(inquiry.Db, lots);
        return
        [
            .. rows.Select(b =>
            {
                var item = inquiry.SetUp.Catalogue[b.ItemId];
                var batch = b.BatchId is { } id ? batches[id] : null;
                var bin = inquiry.SetUp.Bins[b.BinId];
                bool May(Lets lets) => b.Lots.Any(l => inquiry.Standings.LetsOf(said[l].Select(s => s.Asks)).HasFlag(lets));
                return new StockRow(
                    b.Id,
                    item.Code,
                    item.Name,
                    batch?.Number,
                    batch?.SourceBatch?.Number,
                    batch?.Expiry,
                    b.UnitId is { } u ? units[u] : null,
                    b.Serial,
                    bin.Address,
                    bin.Function,
                    inquiry.Standings[b.Standing].Seen,
                    b.Quantity,
                    item.UnitWord,
                    Quantities.InPacks(b.Quantity, item),
                    inquiry.Local(b.Since),
                    batch?.SourceBatchId,
                    b.Lots.Count,
                    Said.Numbers(b.Lots.SelectMany(l => said[l])),
                    May(Lets.Issue),
                    May(Lets.Ship),
                    [
                        .. kept[(b.Goods, b.Place)]
                            .GroupBy(k => (k.Kept.For, k.Kept.Words))
                            .Select(k => new KeptRow(k.Key.Words, Reservation.ReferenceOf(k.Key.For), k.Sum(p => p.Quantity))),
                    ]
                );
            }),
        ];
    }

    static async Task<Ok<LedgerAnswer>> Ledger(Inquiry inquiry, string? text, long? before)
    {
        var happened = await inquiry.History();
        var meant = text.OrNull() is { } words
            ? await Meant.Of(inquiry.Db, inquiry.SetUp, inquiry.Site, inquiry.Scan(words), byName: true)
            : null;
        var page = meant is null
            ? await happened.Newest(inquiry.Site.Id, PageSize + 1, before)
            : await happened.Newest(inquiry.Site.Id, meant.Things, PageSize + 1, before, meant.OnlyItems);
        var links = await EntryLinks.Of(inquiry, [.. page.Take(PageSize)]);
        var undoable = page.Where(e => Undo.RightFor(e.Kind) is { } right && inquiry.May(right)).Select(e => (long?)e.Seq).ToList();
        var undone = await inquiry.Db.Ledger.Where(e => undoable.Contains(e.Undoes)).Select(e => e.Undoes).ToListAsync();
        var open = undoable.Except(undone).ToHashSet();
        return TypedResults.Ok(
            new LedgerAnswer(
                [.. page.Take(PageSize).Select(e => Row(inquiry, e, links[e.Seq], open.Contains(e.Seq)))],
                page.Count > PageSize
            )
        );
    }

    static EntryRow Row(Inquiry inquiry, LedgerEntry e, IEnumerable<EntryLink> links, bool canUndo)
    {
        var item = e.ItemId is { } id ? inquiry.SetUp.Catalogue[id] : null;
        return new EntryRow(
            e.Seq,
            inquiry.Local(e.At),
            e.PersonName,
            e.Device,
            e.Kind,
            e.Subject,
            e.Words(inquiry.Site.Wording),
            item?.Name,
            e.Quantity,
            item?.UnitWord,
            PlaceWord(e.FromAccount, e.FromBinId, e.FromStanding),
            PlaceWord(e.ToAccount, e.ToBinId, e.ToStanding),
            e.Undoes,
            e.Hash[..12],
            [.. links],
            canUndo
        );

        string? PlaceWord(Account? account, int? binId, Standing? standing) =>
            account switch
            {
                null => null,
                Account.Bin => $"{inquiry.SetUp.Address(binId)}, {inquiry.Standings.Word(standing!.Value)}",
                { } outside => outside.ToString().ToLowerInvariant(),
            };
    }
}
