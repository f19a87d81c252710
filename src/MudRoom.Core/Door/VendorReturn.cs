namespace MudRoom.Core.Door;

/// <summary>Goods of a posted receipt that went back to their vendor.</summary>
public sealed class VendorReturn
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public required int SiteId { get; init; }
    public required int ReceiptId { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }
    public int? PartId { get; init; }

    /// <summary>In base units.</summary>
    public required decimal Quantity { get; init; }

    /// <summary>True when the vendor had invoiced the receipt: a credit is wanted. False: the receipt counts less, and the order is open
    /// again.</summary>
    public required bool Invoiced { get; init; }
    public required string Reason { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
    public required long LedgerSeq { get; init; }

    /// <summary>How much of a receipt's goods can still go back.</summary>
    public static decimal Left(decimal received, IEnumerable<decimal> returned) => Math.Max(0, received - returned.Sum());

    /// <summary>What the export says of it.</summary>
    public string Consequence => Invoiced ? "credit wanted" : "not to be invoiced";
}
