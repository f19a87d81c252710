using MudRoom.Core.Book;
using MudRoom.Core.Cage;
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
/// <param name="Vendors">Who may be named in a new one.</param>
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
/// <param name="Gone">Who got some of it, those who are not told yet first.</param>
/// <param name="GoneNotShown">So many more got some of it, behind those that are shown.</param>
/// <param name="ToTell">How many who got some of it are not told yet, shown or not.</param>
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
    int GoneNotShown,
    int ToTell,
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
