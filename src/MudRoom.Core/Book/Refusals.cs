namespace MudRoom.Core.Book;

/// <summary>What Book refuses.</summary>
public static class BookRefusals
{
    public static readonly RefusalKind NotUsable = new(
        "not-usable",
        "… in … is … and may not leave.",
        "Have it inspected or released first."
    );

    public static readonly RefusalKind NothingChanged = new(
        "nothing-changed",
        "Nothing differs from what is known.",
        "Change what is wrong, then keep it."
    );

    public static readonly RefusalKind ReferenceMissing = new(
        "reference-missing",
        "Say what it is for: an order or job number of at most 40 characters.",
        "Type the number."
    );
}
