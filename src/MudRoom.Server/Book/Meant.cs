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
            .Select(b => new { b.Id, b.SourceBatchId })
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
        return meant with
        {
            Items = [.. named.Distinct()],
            Batches = [.. batches.Select(b => (int?)b.Id)],
            SourceBatches = [.. batches.Select(b => b.SourceBatchId).OfType<int>().Distinct()],
            Unit = await db.Units.Where(u => u.Sscc == (code.UnitSscc ?? key)).Select(u => (int?)u.Id).FirstOrDefaultAsync(),
            Bin = setUp.BinsByAddress.GetValueOrDefault((site.Id, key.ToUpperInvariant()))?.Id,
        };
    }

    /// <summary>Of these balances the ones it stands for; what stands in a bin is not asked here.</summary>
    public IQueryable<Balance> Of(IQueryable<Balance> rows)
    {
        if (Unit is { } unit)
            return rows.Where(b => b.UnitId == unit);
        if (IsNarrow)
        {
            rows = rows.Where(b => Items.Contains(b.ItemId));
            if (Code.Batch is not null)
                rows = rows.Where(b => Batches.Contains(b.BatchId));
            return Code.Serial is { } serial ? rows.Where(b => b.Serial == serial) : rows;
        }

        return rows.Where(b => Items.Contains(b.ItemId) || b.BatchId != null && Batches.Contains(b.BatchId) || b.Serial == Key);
    }

    /// <summary>Of these entries of the ledger the ones it stands for.</summary>
    public IQueryable<LedgerEntry> Of(IQueryable<LedgerEntry> entries)
    {
        // What was corrected of a source batch happened to each batch that came of it.
        List<string> subjects = [Key, .. SourceBatches.Select(CorrectSourceBatch.Subject)];
        if (Unit is { } unit)
            return entries.Where(e => e.UnitId == unit || e.Subject == Key);
        if (IsNarrow)
        {
            if (Code.Serial is { } serial)
                return entries.Where(e => e.Serial == serial && e.ItemId != null && Items.Contains(e.ItemId.Value));
            return entries.Where(e =>
                subjects.Contains(e.Subject) || e.ItemId != null && Items.Contains(e.ItemId.Value) && Batches.Contains(e.BatchId)
            );
        }

        return entries.Where(e =>
            subjects.Contains(e.Subject)
            || e.ItemId != null && Items.Contains(e.ItemId.Value)
            || e.BatchId != null && Batches.Contains(e.BatchId)
            || e.Serial == Key
            || Bin != null && (e.FromBinId == Bin || e.ToBinId == Bin)
        );
    }
}
