using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

public sealed record SampleDrawn(string Inspection, int Size, long LotSize) : Fact(EntryKind.SampleDrawn, Inspection)
{
    public override string Words(Wording wording) => $"Sample of {Inspection} drawn: {Size} of {LotSize}.";
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
