using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>What counting goods aside comes to on paper.</summary>
public static class AsideDifferences
{
    /// <summary>The difference between paper and goods that it makes.</summary>
    public static DiscrepancyKind Of(Aside aside) =>
        aside switch
        {
            Site.Aside.Damaged => DiscrepancyKind.Damaged,
            Site.Aside.ShortLife => DiscrepancyKind.ShortLife,
            Site.Aside.LabelWrong => DiscrepancyKind.LabelWrong,
            Site.Aside.Over => DiscrepancyKind.Over,
            Site.Aside.NotOnOrder => DiscrepancyKind.NotOnOrder,
            Site.Aside.WrongItem => DiscrepancyKind.WrongItem,
            Site.Aside.OtherSite => DiscrepancyKind.OtherSite,
            _ => throw new ArgumentOutOfRangeException(nameof(aside), aside, null),
        };
}

/// <summary>One count of an arrival as it was taken. Taking back adds a counter-entry to the ledger and marks this one.</summary>
public sealed class TallyEntry
{
    public int Id { get; init; }
    public required int ArrivalId { get; init; }
    public required int? PartId { get; init; }
    public required int ItemId { get; init; }
    public required int VendorId { get; init; }
    public int? BatchId { get; init; }
    public int? UnitId { get; init; }
    public string? Serial { get; init; }

    /// <summary>The lot it added to; null for counts from before there were lots that were taken back then.</summary>
    public int? LotId { get; set; }
    public required decimal Quantity { get; init; }
    public required string PackName { get; init; }
    public required decimal Packs { get; init; }
    public required Standing Standing { get; init; }
    public required int BinId { get; init; }
    public Aside? Aside { get; init; }

    /// <summary>How much of the quantity is beyond what was ordered.</summary>
    public decimal Over { get; init; }

    /// <summary>The reason by the administrator's list, where it was counted aside.</summary>
    public string? AsideReason { get; init; }

    /// <summary>Kilograms that were weighed, for goods with catch weight.</summary>
    public decimal? Weight { get; init; }

    /// <summary>True when it was typed in from a paper tally.</summary>
    public bool FromPaper { get; init; }
    public string? Note { get; init; }
    public required string Reason { get; init; }
    public required int PersonId { get; init; }
    public required string PersonName { get; init; }
    public required string Device { get; init; }
    public required DateTimeOffset At { get; init; }
    public required Guid ActId { get; init; }

    /// <summary>The ledger entry that moved the stock.</summary>
    public required long LedgerSeq { get; init; }
    public int? HoldId { get; init; }

    /// <summary>Of counts from before there were lots, of which inspections speak since.</summary>
    public int? InspectionId { get; init; }
    public int? ReceiptId { get; set; }
    public DateTimeOffset? TakenBackAt { get; private set; }

    /// <summary>Marks it as taken back.</summary>
    public void TakeBack(DateTimeOffset at) => TakenBackAt = at;
}
