namespace MudRoom.Core.Book;

/// <summary>What Book refuses.</summary>
public static class BookRefusals
{
    public static readonly RefusalKind KeptForOthers = new(
        "kept-for-others",
        "… has … free; … are kept for ….",
        "Issue what is free, or have it said in Book that nobody waits any more."
    );

    public static readonly RefusalKind NotKept = new("not-kept", "… in … is kept for nobody.", "There is nothing to do.");

    public static readonly RefusalKind NotUndone = new(
        "not-undone",
        "This is not undone from the book.",
        "Take it back where it was done.",
        409
    );

    public static readonly RefusalKind StandingAbsurd = new(
        "standing-absurd",
        "There is a standing … already.",
        "Choose another word. Nothing was kept."
    );

    public static readonly RefusalKind StandingInUse = new(
        "standing-in-use",
        "… says that goods are ….",
        "Lift it first; then retire the standing.",
        409
    );

    public static readonly RefusalKind StandsWrongly = new(
        "stands-wrongly",
        "… lines of stock would stand where they may not; you have seen ….",
        "Look at the preview again, then keep it.",
        409
    );
}
