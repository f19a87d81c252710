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

    /// <summary>Where they stand from now on.</summary>
    public Place Place => Place.In(Bin.Id, IsHeld ? Standing.Held : Standing.Usable);

    /// <summary>What they are; whole once batch and unit are saved.</summary>
    public Goods Goods => new(Item.Id, Batch is { Id: > 0 } batch ? batch.Id : null, Unit is { Id: > 0 } unit ? unit.Id : null, Serial);

    /// <summary>It becomes an entry of the ledger, as all stock does.</summary>
    public void Write(StockBook book, int siteId, Doer doer) =>
        book.Write(
            siteId,
            EntryKind.OpeningStock,
            doer,
            Bin.Address,
            $"{Quantities.Show(Quantity)} {Item.UnitWord} of {Item.Name} stood in {Bin.Address}.",
            new Movement(Goods, Quantity, new Place(Account.Adjustment), Place)
        );
}
