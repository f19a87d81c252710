using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>
/// What a scanned or typed text means in the house: the stock and the entries it stands for, the same in every room. The narrowest that the
/// text names
/// counts: its unit; its item with its batch or serial number; else all that is called so.
/// </summary>
sealed record Meant
{
    /// <summary>Names of items are searched from so many characters on.</summary>
    const int ShortestPart = 2;

    const int MostByName = 50;

    Meant(ScannedCode code) => Code = code;

    /// <summary>The text, read.</summary>
    public ScannedCode Code { get; }

    /// <summary>By what it is looked for: the number of the thing itself.</summary>
    public string Key => Code.Key;

    /// <summary>Items it names by a code or, where that is asked for, by a part of the name.</summary>
    public List<int> Items { get; private init; } = [];

    /// <summary>Own batches with its batch number, ours or the vendor's.</summary>
    public List<int?> Batches { get; private init; } = [];

    /// <summary>Source batches of those.</summary>
    public List<int> SourceBatches { get; private init; } = [];

    /// <summary>The unit it names, where we know it.</summary>
    public int? Unit { get; private init; }

    /// <summary>The bin whose address it is.</summary>
    public int? Bin { get; private init; }

    /// <summary>The lot whose number it is, as "lot 676".</summary>
    public int? Lot { get; private init; }

    /// <summary>Lots of which an open hold or inspection of that number says something, where that is asked for.</summary>
    public List<int?> LotsUnder { get; private init; } = [];

    /// <summary>The number, as it was typed and as we give numbers, in capitals.</summary>
    public IReadOnlyList<string> Numbers => Key.ToUpperInvariant() is var large && large != Key ? [Key, large] : [Key];

    /// <summary>The paper that speaks for goods whose number it is, by how such numbers begin.</summary>
    public (ReferenceKind Kind, string Number)? Paper =>
        Numbers[^1] switch
        {
            ['H', '-', ..] hold => (ReferenceKind.Hold, hold),
            ['I', '-', ..] inspection => (ReferenceKind.Inspection, inspection),
            ['R', 'C', '-', ..] recall => (ReferenceKind.Recall, recall),
            _ => null,
        };

    /// <summary>People who are called so, where that is asked for.</summary>
    public List<int> People { get; private init; } = [];

    /// <summary>The plan of inspection that is called so.</summary>
    public string? Plan { get; private init; }

    /// <summary>True for an item named with its batch or serial; of an item nobody knows it stands for nothing, whoever else has a batch of
    /// that number.</summary>
    bool IsNarrow => Code.ItemCode is not null && (Code.Batch ?? Code.Serial) is not null;

    /// <summary>Looks a text up.</summary>
    /// <param name="code">The text, read by <see cref="WarehouseSite.Scan"/>.</param>
    /// <param name="byName">True where items are found by a part of their name or code too, as a person types it.</param>
    public static async Task<Meant> Of(MudRoomDb db, SetUp setUp, WarehouseSite site, ScannedCode code, bool byName = false)
    {
        var meant = new Meant(code);
        var key = meant.Key;
        var batch = code.Batch ?? key;
        var batches = await db
            .Batches.Where(b => b.Number == batch || b.SourceBatch!.Number == batch)
            .Select(b => new
            {
                b.Id,
                b.ItemId,
                b.SourceBatchId,
            })
            .ToListAsync();
        var named = setUp.Catalogue.ByCode(code.ItemCode ?? "").Select(f => f.Item.Id);
        if (byName && code is ScannedCode.Plain or ScannedCode.Wrong && key.Length >= ShortestPart)
            named = named.Concat(
                setUp
                    .Catalogue.Items.Where(i =>
                        i.Name.Contains(key, StringComparison.OrdinalIgnoreCase) || i.Code.Contains(key, StringComparison.OrdinalIgnoreCase)
                    )
                    .Select(i => i.Id)
                    .Take(MostByName)
            );
        var narrow = meant.IsNarrow;
        return meant with
        {
            Items = [.. named.Distinct()],
            Batches = [.. batches.Where(b => !narrow || named.Contains(b.ItemId)).Select(b => (int?)b.Id)],
            SourceBatches =
            [
                .. batches.Where(b => !narrow || named.Contains(b.ItemId)).Select(b => b.SourceBatchId).OfType<int>().Distinct(),
            ],
            Unit = await db.Units.Where(u => u.Sscc == (code.UnitSscc ?? key)).Select(u => (int?)u.Id).FirstOrDefaultAsync(),
            Lot = LotIn(key),
            LotsUnder = byName ? await Under(db, site, meant.Paper) : [],
            People = byName
                ? [.. setUp.People.Values.Where(p => p.Name.Equals(key, StringComparison.OrdinalIgnoreCase)).Select(p => p.Id)]
                : [],
            Plan = setUp.Plans.Values.FirstOrDefault(p => p.Name.Equals(key, StringComparison.OrdinalIgnoreCase))?.Name,
            Bin = setUp.BinsByAddress.GetValueOrDefault((site.Id, key.ToUpperInvariant()))?.Id,
        };
    }

    static Task<List<int?>> Under(MudRoomDb db, WarehouseSite site, (ReferenceKind Kind, string Number)? paper)
    {
        var said = paper switch
        {
            (ReferenceKind.Hold, var number) => db
                .Holds.Where(h => h.SiteId == site.Id && h.Number == number)
                .Join(db.Statements, h => (int?)h.Id, s => s.HoldId, (_, s) => s),
            (ReferenceKind.Inspection, var number) => db
                .Inspections.Where(i => i.SiteId == site.Id && i.Number == number)
                .Join(db.Statements, i => (int?)i.Id, s => s.InspectionId, (_, s) => s),
            _ => null,
        };
        return said is null
            ? Task.FromResult<List<int?>>([])
            : said.Where(s => s.SettledAt == null).Select(s => (int?)s.LotId).Distinct().ToListAsync();
    }

    static int? LotIn(string text) =>
        text.Split(' ') is [var word, var id] && word.Equals("lot", StringComparison.OrdinalIgnoreCase) && int.TryParse(id, out var lot)
            ? lot
            : null;

    /// <summary>Of these balances the ones it stands for; what stands in a bin is not asked here.</summary>
    public IQueryable<Balance> Of(IQueryable<Balance> rows)
    {
        if (Unit is { } unit)
            return rows.Where(b => b.UnitId == unit);
        if (Lot is { } lot)
            return rows.Where(b => b.LotId == lot);
        if (LotsUnder.Count > 0)
            return rows.Where(b => LotsUnder.Contains(b.LotId));
        if (IsNarrow)
        {
            rows = rows.Where(b => Items.Contains(b.ItemId));
            if (Code.Batch is not null)
                rows = rows.Where(b => Batches.Contains(b.BatchId));
            return Code.Serial is { } serial ? rows.Where(b => b.Serial == serial) : rows;
        }

        return rows.Where(b => Items.Contains(b.ItemId) || b.BatchId != null && Batches.Contains(b.BatchId) || b.Serial == Key);
    }

    /// <summary>The things of which entries of the ledger are meant. Papers, files and devices are called by the text itself.</summary>
    public IReadOnlyList<Reference> Things
    {
        get
        {
            // What was corrected of a source batch happened to each batch that came of it.
            var sources = SourceBatches.Select(b => new Reference(ReferenceKind.SourceBatch, b));
            if (Unit is { } unit)
                return [new Reference(ReferenceKind.Unit, unit)];
            if (Lot is { } lot)
                return [new Reference(ReferenceKind.Lot, lot)];
            if (IsNarrow && Code.Serial is { } serial)
                return [new Reference(ReferenceKind.Serial, serial)];
            if (IsNarrow)
                return [.. Batches.OfType<int>().Select(Reference.Batch), .. sources];
            return
            [
                .. byText.Select(kind => new Reference(kind, Key)),
                // Our own numbers are typed as they come to hand.
                .. Numbers.SelectMany(number => papers.Select(kind => new Reference(kind, number))),
                .. Items.Select(Reference.Item),
                .. Batches.OfType<int>().Select(Reference.Batch),
                .. sources,
                .. People.Select(p => new Reference(ReferenceKind.Person, p)),
                .. Bin is { } bin ? [Reference.Bin(bin)] : (Reference[])[],
                .. Plan is { } plan ? [new Reference(ReferenceKind.Plan, plan)] : (Reference[])[],
            ];
        }
    }

    /// <summary>Only entries of these items are meant, where a serial is named with its item; null for any.</summary>
    public IReadOnlyList<int>? OnlyItems => IsNarrow && Code.Serial is not null ? Items : null;

    /// <summary>Papers with numbers that are given here, in capitals; an order may be called as it likes.</summary>
    static readonly ReferenceKind[] papers =
    [
        ReferenceKind.Order,
        ReferenceKind.Arrival,
        ReferenceKind.Receipt,
        ReferenceKind.Hold,
        ReferenceKind.Recall,
        ReferenceKind.Inspection,
        ReferenceKind.VendorReturn,
        ReferenceKind.OutworkNote,
    ];

    static readonly ReferenceKind[] byText =
    [
        ReferenceKind.HoldRule,
        ReferenceKind.Demand,
        ReferenceKind.File,
        ReferenceKind.Device,
        ReferenceKind.Serial,
    ];
}
