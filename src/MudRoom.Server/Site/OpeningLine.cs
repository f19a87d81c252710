using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange.Csv;

namespace MudRoom.Server.Site;

/// <summary>Goods that stood in a bin when the book begins.</summary>
/// <param name="Row">Its line of the file.</param>
/// <param name="Standing">As the file says. What waited for inspection or was rejected is held from now on: nobody here has inspected
/// it.</param>
/// <param name="Number">Our batch, where the item has batches.</param>
/// <param name="Source">The vendor and their batch, where it is known.</param>
/// <param name="Until">Good until.</param>
/// <param name="On">The unit they stand on, and the pack that it is.</param>
sealed record OpeningLine(
    CsvRow Row,
    Bin Bin,
    Item Item,
    decimal Quantity,
    Standing Standing,
    string? Number,
    string? Serial,
    (int Vendor, string Number)? Source,
    DateOnly? Until,
    (string Sscc, PackLevel Pack)? On
)
{
    /// <summary>The batch, once it was looked up or made.</summary>
    public Batch? Batch { get; set; }

    /// <summary>The unit, once it was looked up or made.</summary>
    public LogisticUnit? Unit { get; set; }

    public Batch NewBatch(SourceBatch? source) =>
        new()
        {
            ItemId = Item.Id,
            Number = Number!,
            Expiry = Until,
            SourceBatch = source,
        };

    public SourceBatch NewSource() =>
        new()
        {
            ItemId = Item.Id,
            VendorId = Source!.Value.Vendor,
            Number = Source.Value.Number,
            Expiry = Until,
            BestBefore = Until,
        };

    /// <summary>True where a hold speaks for them.</summary>
    public bool IsHeld => Standing != Standing.Usable;

    /// <summary>The standing they have from now on: one that the site added stays what it is.</summary>
    public Standing HeldAs => Standing == Standing.ToInspect || Standing == Standing.Rejected ? Standing.Held : Standing;

    /// <summary>Where they stand from now on.</summary>
    public Place Place => Place.In(Bin.Id, HeldAs);

    /// <summary>The lot, once it was looked up or made.</summary>
    public Lot? Lot { get; set; }

    /// <summary>By which lines of the same goods find their lot: what stood here when the book began came together. What is held is a lot
    /// of its own.</summary>
    public string LotKey => IsHeld ? "" : $"opening|{Bin.SiteId}|{Item.Id}|{Goods.BatchId}";

    /// <summary>What they are, with their lot.</summary>
    public Goods OfLot => Goods with { LotId = Lot!.Id };

    /// <summary>Looks up or makes the lots of some lines, whose batches are saved.</summary>
    public static async Task GiveLots(MudRoomDb db, IReadOnlyList<OpeningLine> lines, DateTimeOffset at)
    {
        var keys = lines.Select(l => l.LotKey).Where(k => k.Length > 0).Distinct().ToList();
        var lots = await db.Lots.AsTracking().Where(l => keys.Contains(l.CountKey)).ToDictionaryAsync(l => l.CountKey);
        foreach (var line in lines)
        {
            if (lots.GetValueOrDefault(line.LotKey) is not { } lot)
            {
                lot = new Lot
                {
                    SiteId = line.Bin.SiteId,
                    ItemId = line.Item.Id,
                    BatchId = line.Goods.BatchId,
                    VendorId = line.Source?.Vendor,
                    Origin = LotOrigin.OpeningStock,
                    OpenedAt = at,
                    CountKey = line.LotKey,
                };
                db.Lots.Add(lot);
                if (line.LotKey.Length > 0)
                    lots[line.LotKey] = lot;
            }

            line.Lot = lot;
        }

        await db.SaveChangesAsync();
    }

    /// <summary>What they are; whole once batch and unit are saved.</summary>
    public Goods Goods => new(Item.Id, Batch is { Id: > 0 } batch ? batch.Id : null, Unit is { Id: > 0 } unit ? unit.Id : null, Serial);

    /// <summary>It becomes an entry of the ledger, as all stock does.</summary>
    public void Write(StockBook book, int siteId, Doer doer) =>
        book.Write(
            siteId,
            doer,
            new StockOpened(Bin.Address, Amount.Of(Quantity, Item)),
            new Movement(OfLot, Quantity, new Place(Account.Adjustment), Place)
        );
}
