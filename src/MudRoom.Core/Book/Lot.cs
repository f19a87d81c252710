namespace MudRoom.Core.Book;

/// <summary>How a lot came to be.</summary>
public enum LotOrigin
{
    /// <summary>Counted in at a door.</summary>
    Counted = 0,

    /// <summary>Stood here when the book began.</summary>
    OpeningStock = 1,

    /// <summary>Came back from outwork.</summary>
    Outwork = 2,

    /// <summary>Split off another lot.</summary>
    Split = 3,

    /// <summary>Stood here when lots began: named by what the book said then.</summary>
    FromBefore = 4,

    /// <summary>Was of another item before.</summary>
    Regraded = 5,
}

/// <summary>
/// Goods that came together and are judged together. What is said of goods is said of their lot, wherever its parts stand and move; see
/// <see cref="Statement"/>.
/// </summary>
public sealed class Lot
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }
    public required LotOrigin Origin { get; init; }
    public required DateTimeOffset OpenedAt { get; init; }

    /// <summary>What it came with; null where it did not come through a door.</summary>
    public int? ArrivalId { get; init; }

    /// <summary>Who sent it.</summary>
    public int? VendorId { get; init; }

    /// <summary>The receipt it stands on, once that is posted; what is counted afterwards is another lot.</summary>
    public int? ReceiptId { get; set; }

    /// <summary>The lot it was split off.</summary>
    public int? ParentId { get; init; }

    /// <summary>By which a count finds the lot it adds to; empty for lots that no count adds to.</summary>
    public string CountKey { get; set; } = "";

    /// <summary>Something else is said of it than was when it was counted: what is counted from now on is another lot.</summary>
    public void TakesNoMore() => CountKey = "";

    /// <summary>The key of what is counted together: arrival, sender, item, own batch (and so source batch), and what is said of the goods
    /// from the start.</summary>
    public static string CountKeyOf(
        int arrivalId,
        int vendorId,
        int itemId,
        int? batchId,
        IEnumerable<int> holds,
        IEnumerable<int> inspections,
        int? reservation = null
    ) =>
        $"{arrivalId}|{vendorId}|{itemId}|{batchId}|{string.Join('+', holds)}|{string.Join(',', inspections)}"
        + (reservation is { } kept ? $"|{kept}" : "");

    /// <summary>Its goods as goods of another item: of the same origin, on the same receipt; nothing is said of them.</summary>
    /// <param name="batch">Their batch in the new item; null where they have none.</param>
    public Lot RegradedTo(int item, int? batch, DateTimeOffset at) =>
        new()
        {
            SiteId = SiteId,
            ItemId = item,
            BatchId = batch,
            Origin = LotOrigin.Regraded,
            OpenedAt = at,
            ArrivalId = ArrivalId,
            VendorId = VendorId,
            ReceiptId = ReceiptId,
        };

    /// <summary>A part of it that goes its own way: the same goods of the same origin, on the same receipt.</summary>
    public Lot SplitOff(DateTimeOffset at) =>
        new()
        {
            SiteId = SiteId,
            ItemId = ItemId,
            BatchId = BatchId,
            Origin = LotOrigin.Split,
            OpenedAt = at,
            ArrivalId = ArrivalId,
            VendorId = VendorId,
            ReceiptId = ReceiptId,
            ParentId = Id,
        };
}

/// <summary>What a hold or an inspection says of a lot: what it may not be used as. Open until it is settled.</summary>
public sealed class Statement
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int LotId { get; init; }

    /// <summary>The hold that says it; null where another does.</summary>
    public int? HoldId { get; init; }

    /// <summary>The inspection that says it; null where another does.</summary>
    public int? InspectionId { get; init; }

    /// <summary>The reservation that keeps it for somebody who waits; null where another says something.</summary>
    public int? ReservationId { get; init; }

    /// <summary>The standing it asks for.</summary>
    public required Standing Asks { get; set; }
    public required DateTimeOffset Since { get; init; }

    /// <summary>The act that said it; null from before that was kept.</summary>
    public Guid? SaidBy { get; init; }

    /// <summary>When it was settled; null while it holds.</summary>
    public DateTimeOffset? SettledAt { get; private set; }

    /// <summary>The act that settled it.</summary>
    public Guid? SettledBy { get; private set; }

    /// <summary>True while it holds.</summary>
    public bool IsOpen => SettledAt is null;

    /// <summary>Nothing follows from it any more.</summary>
    /// <param name="by">The act that settles it.</param>
    public void Settle(DateTimeOffset at, Guid? by = null)
    {
        if (!IsOpen)
            return;
        (SettledAt, SettledBy) = (at, by);
    }

    /// <summary>What settled it was undone: it holds again.</summary>
    public void HoldsAgain() => (SettledAt, SettledBy) = (null, null);

    /// <summary>The same, said of a part that was split off; what was settled is settled of it too.</summary>
    public Statement Of(int lotId) =>
        new()
        {
            SettledAt = SettledAt,
            SettledBy = SettledBy,
            SaidBy = SaidBy,
            SiteId = SiteId,
            LotId = lotId,
            HoldId = HoldId,
            InspectionId = InspectionId,
            ReservationId = ReservationId,
            Asks = Asks,
            Since = Since,
        };
}

/// <summary>The one rule by which what is said of goods becomes their standing.</summary>
public static class Statements
{
    /// <summary>Of all that is said, the word that keeps back most: by kind, and within a kind by the site's rank; usable only where
    /// nothing is left. The order in which things are said or settled does not matter.</summary>
    public static Standing StandingOf(IEnumerable<Statement> said, SiteStandings standings) =>
        said.Where(s => s.IsOpen).Select(s => s.Asks).DefaultIfEmpty(Standing.Usable).MaxBy(standings.Order);

    /// <summary>What may be done with goods: only what all that is said of them lets.</summary>
    public static Lets LetsOf(IEnumerable<Statement> said, SiteStandings standings) =>
        standings.LetsOf(said.Where(s => s.IsOpen).Select(s => s.Asks));

    /// <summary>True of goods that are inspected before they are used: no inspection has spoken for them, now or before, and nothing else
    /// is said of them any more but for whom they are kept.</summary>
    public static bool WantsInspection(IEnumerable<Statement> ever) =>
        ever.All(s => s.InspectionId is null && (s.ReservationId is not null || !s.IsOpen));

    /// <summary>True where two lots are judged alike: the same holds and inspections say the same of both, and the same inspections have
    /// spoken for both, and both are kept for the same. Holds that are settled make no difference any more.</summary>
    public static bool SayTheSame(IEnumerable<Statement> one, IEnumerable<Statement> other)
    {
        static HashSet<(int?, int?, int?, Standing?)> Of(IEnumerable<Statement> ever) =>
            [
                .. ever.Where(s => s.IsOpen || s.InspectionId is not null)
                    .Select(s => (s.HoldId, s.InspectionId, s.ReservationId, s.IsOpen ? s.Asks : (Standing?)null)),
            ];
        return Of(one).SetEquals(Of(other));
    }
}
