using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

public sealed record SampleDrawn(string Inspection, int Size, long LotSize) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"Sample of {Inspection} drawn: {Size} of {LotSize}.";
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
    string? Reason
) : Fact(EntryKind.Found, Inspection)
{
    public override string Words(Wording wording) =>
        $"Piece {Piece}, {Characteristic}: {Found}{(Conforms ? "" : ", nonconforming")}"
        + $"{(Was is null ? "" : $", instead of {Was} found by {WasBy}")}{Behind(": ", Reason)}.";
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
