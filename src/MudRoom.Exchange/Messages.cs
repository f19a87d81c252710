using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange;

/// <summary>What an order message does.</summary>
public enum OrderAction
{
    New,
    Change,
    Cancel,
}

/// <summary>What a line of an order change does.</summary>
public enum LineAction
{
    Add,
    Change,
    Cancel,
}

/// <summary>What a despatch advice does.</summary>
public enum AdviceAction
{
    New,

    /// <summary>Stands in the place of the one of the same number.</summary>
    Replace,

    /// <summary>Takes the one of the same number back.</summary>
    Cancel,
}

/// <summary>Waiting demand: somebody waits for some of what comes.</summary>
/// <param name="Quantity">In base units.</param>
/// <param name="For">Who waits, in words.</param>
/// <param name="By">By when, on the site's wall clock; null where nobody said.</param>
public sealed record WaitingDemand(decimal Quantity, string For, DateTime? By);

/// <summary>One delivery of a line of an order message, resolved; a line with several deliveries stands here several times.</summary>
/// <param name="Spot">Line or segment of the file.</param>
/// <param name="Quantity">In base units; null where a change leaves it.</param>
/// <param name="Price">Of one base unit; null where none is named.</param>
/// <param name="AsksInspection">True where the order asks that it is inspected.</param>
/// <param name="Waits">Who waits for it; null for nobody.</param>
/// <param name="Return">Why a customer sends it back; null for other orders, and where nobody has said.</param>
public sealed record TradeLine(
    int Spot,
    LineAction Action,
    int Number,
    Item? Item,
    decimal? Quantity,
    DateOnly? Due,
    WarehouseSite? Site,
    decimal? Price,
    string? Note,
    bool AsksInspection = false,
    WaitingDemand? Waits = null,
    ReturnTerms? Return = null
);

/// <summary>An order, an order change or a cancellation.</summary>
public sealed record OrderMessage(
    int Spot,
    OrderAction Action,
    string Number,
    OrderKind Kind,
    Vendor? Vendor,
    DateOnly OrderDate,
    IReadOnlyList<TradeLine> Lines,
    IReadOnlyList<Approval> Approvals
);

/// <summary>A despatch advice.</summary>
/// <param name="Number">Of the advice; of the one that is taken back, for a cancellation.</param>
/// <param name="Arrives">When the vendor thinks it arrives; null when not said.</param>
/// <param name="Lines">What is aboard, a row for each line, unit and lot; none for a cancellation.</param>
public sealed record AdviceMessage(
    int Spot,
    AdviceAction Action,
    string Number,
    Vendor Vendor,
    WarehouseSite? Site,
    TradeTime? Arrives,
    string? Container,
    string? SizeType,
    string? Seal,
    string? Haulier,
    string? Vessel,
    string? Voyage,
    string? PortFrom,
    string? PortTo,
    IReadOnlyList<AdvisedLine> Lines
);

/// <summary>What a file holds, or its faults (the first hundred). Never both.</summary>
/// <param name="Kind">CSV orders, UBL Order, EDIFACT ORDERS …</param>
public sealed record TradeFile(
    string Kind,
    IReadOnlyList<OrderMessage> Orders,
    IReadOnlyList<AdviceMessage> Advices,
    IReadOnlyList<FileFault> Faults
)
{
    /// <summary>What stands in the file and was passed over, each a sentence: nothing that is needed.</summary>
    public IReadOnlyList<string> Notes { get; init; } = [];

    /// <summary>A file that cannot be read at all.</summary>
    public static TradeFile Unread(string kind, FileFault fault) => new(kind, [], [], [fault]);
}
