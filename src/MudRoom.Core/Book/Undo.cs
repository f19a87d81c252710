using MudRoom.Core.Site;

namespace MudRoom.Core.Book;

/// <summary>Which acts are undone from the book: by counter-entries, with a reason, as long as the goods have not gone further. Counts,
/// receipts and steps of an arrival are taken back where they are made.</summary>
public static class Undo
{
    /// <summary>The right that undoing asks for, which is that of the act; null for what is not undone here.</summary>
    public static Right? RightFor(EntryKind kind) =>
        kind switch
        {
            EntryKind.PutAway => Right.PutAway,
            EntryKind.Issued => Right.Issue,
            EntryKind.HoldLifted => Right.LiftHold,
            EntryKind.Decided => Right.Decide,
            EntryKind.KeepingEnded => Right.KeepOrders,
            _ => null,
        };
}
