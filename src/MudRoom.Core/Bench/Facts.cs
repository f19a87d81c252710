using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

public sealed record SampleDrawn(string Inspection, int Size, long LotSize) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"Sample of {Inspection} drawn: {Size} of {LotSize}.";
}

/// <summary>More of the lot was drawn: its first sample left it open.</summary>
public sealed record SampleDrawnOn(string Inspection, Amount More) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"{More.Words} more drawn for {Inspection}.";
}

public sealed record SamplePutBack(string Inspection) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"Sample of {Inspection} put back: nothing was found on it yet.";
}

/// <summary>One value or look on one piece.</summary>
/// <param name="Found">The value with its unit, or the plan's word for good or bad.</param>
/// <param name="Was">What stood there before, where it was changed.</param>
/// <param name="WasBy">Who had found that.</param>
public sealed record FindingMade(
    string Inspection,
    int Piece,
    string Characteristic,
    string Found,
    bool Conforms,
    string? Was,
    string? WasBy,
    string? Reason,
    bool? IsTyped = null
) : Fact(EntryKind.Found, Inspection)
{
    public override string Words(Wording wording) =>
        $"Piece {Piece}, {Characteristic}: {Found}{(Conforms ? "" : ", nonconforming")}{(IsTyped is true ? ", typed and not read" : "")}"
        + $"{(Was is null ? "" : $", instead of {Was} found by {WasBy}")}{Behind(": ", Reason)}.";
}

/// <summary>What stood on a piece was cleared.</summary>
public sealed record FindingCleared(string Inspection, int Piece, string Characteristic, string Was, string WasBy, string? Reason)
    : Fact(EntryKind.Found, Inspection)
{
    public override string Words(Wording wording) =>
        $"Piece {Piece}, {Characteristic}: cleared, was {Was} found by {WasBy}{Behind(": ", Reason)}.";
}

/// <summary>A note on the sheet.</summary>
/// <param name="Piece">Null for all.</param>
/// <param name="Characteristic">Null for all.</param>
public sealed record SheetNoted(string Inspection, int? Piece, string? Characteristic, string Text) : Fact(EntryKind.Found, Inspection)
{
    public override string Words(Wording wording) =>
        (Piece, Characteristic) switch
        {
            ({ } piece, { } of) => $"Piece {piece}, {of}: {Text}",
            ({ } piece, null) => $"Piece {piece}: {Text}",
            (null, { } of) => $"{of}: {Text}",
            _ => Text,
        };
}

/// <summary>Somebody has it in hand, or has laid it down.</summary>
/// <param name="From">Who had it before, where it was taken over.</param>
public sealed record InspectionTaken(string Inspection, string By, string? From) : Fact(EntryKind.InspectionAsked, Inspection)
{
    public override string Words(Wording wording) => $"{By} took {Inspection} in hand{Behind(", over from ", From)}.";
}

public sealed record InspectionLaidDown(string Inspection, string By) : Fact(EntryKind.InspectionAsked, Inspection)
{
    public override string Words(Wording wording) => $"{By} laid {Inspection} down.";
}

/// <summary>Somebody asked that goods are inspected.</summary>
public sealed record InspectionAsked(string Inspection, Amount Amount, string Plan, string Reason)
    : Fact(EntryKind.InspectionAsked, Inspection)
{
    public override string Words(Wording wording) => $"{Inspection}: {Amount.Words} to be inspected by {Plan}: {Reason}.";
}

/// <summary>An inspection that somebody had asked for is not wanted any more.</summary>
public sealed record InspectionWithdrawn(string Inspection, string By, string Reason) : Fact(EntryKind.InspectionAsked, Inspection)
{
    public override string Words(Wording wording) => $"{By} withdrew {Inspection}: {Reason}.";
}

/// <summary>A sample was brought to the bench.</summary>
public sealed record SampleBrought(string Inspection, Amount Sample, string From, string To) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"Sample of {Inspection}: {Sample.Words} from {From} to {To}.";
}

/// <summary>A part of a sample is with its lot again.</summary>
public sealed record SampleBack(string Inspection, Amount Sample, string In) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"Sample of {Inspection}: {Sample.Words} back with the lot, in {In}.";
}

/// <summary>A part of a sample is used up.</summary>
public sealed record SampleUsedUp(string Inspection, Amount Sample, string From) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"Sample of {Inspection}: {Sample.Words} used up, out of {From}.";
}

/// <summary>A part of a sample is kept.</summary>
public sealed record SampleRetained(string Inspection, Amount Sample, string In, DateOnly Until) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"Sample of {Inspection}: {Sample.Words} kept in {In} until {Until:yyyy-MM-dd}.";
}

/// <summary>A piece bears a name.</summary>
/// <param name="Name">Null where it bears none any more.</param>
public sealed record PieceNamed(string Inspection, int Piece, string? Name) : Fact(EntryKind.Found, Inspection)
{
    public override string Words(Wording wording) => Name is null ? $"Piece {Piece} has no name." : $"Piece {Piece} is {Name}.";
}

/// <summary>A picture was put on the sheet.</summary>
/// <param name="Piece">Null for all.</param>
/// <param name="Characteristic">Null for all.</param>
/// <param name="Hash">SHA-256 of the picture.</param>
public sealed record SheetPictured(string Inspection, int? Piece, string? Characteristic, string Hash) : Fact(EntryKind.Found, Inspection)
{
    public override string Words(Wording wording) =>
        $"Picture of {(Piece is { } piece ? $"piece {piece}" : "the lot")}{Behind(", ", Characteristic)}.";
}

/// <summary>The buyer was told what is seen coming.</summary>
/// <param name="Inspection">Of the last lot.</param>
/// <param name="Finding">In a sentence.</param>
public sealed record BuyerTold(string Inspection, string Characteristic, string Item, string Vendor, string Finding)
    : Fact(EntryKind.BuyerTold, Inspection)
{
    public override string Words(Wording wording) => $"The buyer is told of {Item} from {Vendor}: {Finding}";
}

/// <summary>A lot passes unseen, by a plan that skips lots.</summary>
/// <param name="Seed">By which it was drawn.</param>
public sealed record LotSkipped(string Inspection, string Why, long Seed) : Fact(EntryKind.InspectionAsked, Inspection)
{
    public override string Words(Wording wording) => $"{Inspection}: {Why} Drawn by seed {Seed}.";
}

/// <summary>What was used of a lot before it was rejected, where only its sample waited.</summary>
/// <param name="For">Orders and jobs.</param>
public sealed record UsedBeforeRejected(string Inspection, Amount Used, IReadOnlyList<string> For)
    : Fact(EntryKind.VerdictSigned, Inspection)
{
    public override string Words(Wording wording) => $"{Used.Words} were used before {Inspection} was rejected: {string.Join(", ", For)}.";
}

/// <summary>A signed sheet is taken back: its goods are inspected again.</summary>
/// <param name="By">The inspection in its place.</param>
/// <param name="Gone">What is no longer here of what it spoke for; null where all is.</param>
public sealed record InspectionSuperseded(string Inspection, string By, Verdict Was, Amount Here, Amount? Gone, string Reason)
    : Fact(EntryKind.InspectionAsked, Inspection)
{
    public override string Words(Wording wording) =>
        $"{Inspection}, {Was.ToString().ToLowerInvariant()}, is superseded by {By}: {Reason}. "
        + (Here.Quantity > 0 ? $"{Here.Words} are inspected again" : "It counts no longer, and nothing is inspected again")
        + $"{(Gone is null ? "" : $"; {Gone.Words} are no longer here")}.";
}

/// <summary>A rule says which goods go by a plan.</summary>
/// <param name="Goods">In words.</param>
/// <param name="Plan">Null where none is wanted.</param>
public sealed record InspectionRuleMade(string Goods, string? Plan, string Reason)
    : Fact(Plan is null ? EntryKind.SetUpChanged : EntryKind.PlanChanged, Plan ?? Goods)
{
    public override string Words(Wording wording) =>
        (Plan is null ? $"No inspection is wanted of {Goods}" : $"{Goods}: inspected by {Plan}") + $": {Reason}.";
}

public sealed record InspectionRuleEnded(string Goods, string? Plan)
    : Fact(Plan is null ? EntryKind.SetUpChanged : EntryKind.PlanChanged, Plan ?? Goods)
{
    public override string Words(Wording wording) =>
        Plan is null ? $"It no longer holds that no inspection is wanted of {Goods}." : $"{Goods}: no longer inspected by {Plan}.";
}

/// <param name="Sheet">The hash of the signed sheet.</param>
public sealed record VerdictSigned(string Inspection, Verdict Verdict, string By, string Sheet) : Fact(EntryKind.VerdictSigned, Inspection)
{
    public override string Words(Wording wording) =>
        $"{Inspection} {Verdict.ToString().ToLowerInvariant()}, signed by {By}. Sheet {Sheet}.";
}

/// <summary>The first of two signatures: the sheet waits for the other.</summary>
public sealed record VerdictSignedFirst(string Inspection, Verdict Verdict, string By, SignatureMeaning Meaning)
    : Fact(EntryKind.VerdictSigned, Inspection)
{
    public override string Words(Wording wording) =>
        $"{Inspection} {Verdict.ToString().ToLowerInvariant()}, {Meaning.ToString().ToLowerInvariant()} by {By}; "
        + "a second signature is wanted.";
}

public sealed record SignatureTakenBack(string Inspection, string By) : Fact(EntryKind.VerdictSigned, Inspection)
{
    public override string Words(Wording wording) => $"{By} took the signature under {Inspection} back.";
}

/// <summary>A draft of a plan was begun or changed.</summary>
/// <param name="Changes">Against the draft before, or the version in force; none where it is the first.</param>
public sealed record PlanDrafted(string Plan, int Version, IReadOnlyList<FieldKept> Changes) : Fact(EntryKind.PlanChanged, Plan)
{
    public override string Words(Wording wording) =>
        $"{Plan}, draft of version {Version}" + (Changes.Count == 0 ? " begun." : $": {string.Join(", ", Changes.Select(c => c.Words))}.");
}

public sealed record PlanDraftDropped(string Plan, int Version) : Fact(EntryKind.PlanChanged, Plan)
{
    public override string Words(Wording wording) => $"{Plan}: the draft of version {Version} was dropped.";
}

/// <param name="Content">SHA-256 of all that the version says.</param>
public sealed record PlanPutInForce(string Plan, int Version, DateTimeOffset From, string By, string? Comment, string Content)
    : Fact(EntryKind.PlanChanged, Plan)
{
    public override string Words(Wording wording) =>
        $"{Plan}, version {Version} in force from {wording.Minute(From)}, signed by {By}{Behind(": ", Comment)}.";
}

/// <summary>Until when a gauge is calibrated.</summary>
/// <param name="Was">The date before; null where there was none.</param>
public sealed record GaugeKept(string Gauge, DateOnly? Until, DateOnly? Was) : Fact(EntryKind.SetUpChanged, Gauge)
{
    public override string Words(Wording wording) =>
        (Until is { } until ? $"The {Gauge} is calibrated until {until:yyyy-MM-dd}" : $"The {Gauge} needs no calibration")
        + (Was is { } was && was != Until ? $", was {was:yyyy-MM-dd}." : ".");
}

public sealed record GaugeDropped(string Gauge) : Fact(EntryKind.SetUpChanged, Gauge)
{
    public override string Words(Wording wording) => $"The {Gauge} is kept no longer.";
}

/// <summary>Somebody's word on how sharply a vendor's lots of an item are looked at.</summary>
public sealed record SeverityWord(string Item, string Vendor, SeveritySaid Said, string Reason) : Fact(EntryKind.SeveritySaid, Item)
{
    public override string Words(Wording wording) =>
        Said switch
        {
            SeveritySaid.ReducedAllowed => $"Reduced inspection of {Item} from {Vendor} was allowed: {Reason}.",
            SeveritySaid.ReducedEnded => $"Reduced inspection of {Item} from {Vendor} was ended: {Reason}.",
            SeveritySaid.Restarted => $"Inspection of {Item} from {Vendor} was restarted on tightened: {Reason}.",
            _ => throw new InvalidOperationException($"{Said} is no word on severity."),
        };
}
