namespace MudRoom.Core.Site;

/// <summary>What Site refuses.</summary>
public static class SiteRefusals
{
    public static readonly RefusalKind AttributeUnknown = new("attribute-unknown", "… is not asked of this item.", "Load the page again.");

    public static readonly RefusalKind AttributeWrong = new(
        "attribute-wrong",
        "An item asks for at most … attributes.",
        "Leave some out. Nothing was kept."
    );

    public static readonly RefusalKind GlnTaken = new("gln-taken", "GLN … is that of ….", "Every site has its own. Nothing was kept.");

    public static readonly RefusalKind LastAdministrator = new(
        "last-administrator",
        "No administrator would be left who can sign in.",
        "Leave at least one. Nothing was changed."
    );

    public static readonly RefusalKind MarkUnknown = new("mark-unknown", "A mark is none of those offered.", "Choose from the list.");

    public static readonly RefusalKind NotADate = new("not-a-date", "is no date; write it as 2026-03-10", "Look at the date.");

    public static readonly RefusalKind NumberMissing = new("number-missing", "There is no number.", "Type how many there are.");

    public static readonly RefusalKind NumbersNotSet = new(
        "numbers-not-set",
        "… has no GS1 company prefix yet, so no unit can get a number.",
        "An administrator sets it under Site, House; or chooses own numbers."
    );

    public static readonly RefusalKind PrefixWrong = new(
        "prefix-wrong",
        "… is no GS1 company prefix: it has 4 to 12 digits.",
        "It stands in the paper your GS1 organisation sent. Nothing was kept."
    );

    public static readonly RefusalKind QuantityNotWhole = new(
        "quantity-not-whole",
        "… of … is no whole number of …. The nearest are … and ….",
        "Type one of the two."
    );

    public static readonly RefusalKind RangeWrong = new(
        "range-wrong",
        "The next number lies between 0 and ….",
        "Look at it again. Nothing was kept."
    );

    public static readonly RefusalKind ScannerNoSeparator = new(
        "scanner-no-separator",
        "The scanner leaves the separator between two parts of a code out.",
        "Set it to send control character 29, or a character instead of it, and scan again."
    );

    public static readonly RefusalKind ScannerUnread = new(
        "scanner-unread",
        "What came is not the test label.",
        "Scan the label on this page, and nothing else."
    );

    public static readonly RefusalKind SpotTwice = new(
        "spot-twice",
        "Spot … stands there twice.",
        "Name one of them otherwise. Nothing was kept."
    );

    public static readonly RefusalKind TimeZoneUnknown = new(
        "time-zone-unknown",
        "… is no time zone this server knows.",
        "Choose one of the list, as Europe/London. Nothing was kept."
    );

    public static readonly RefusalKind TooFine = new("too-fine", "… has more than six decimals.", "Round it to what was measured.");

    public static readonly RefusalKind UnNumber = new(
        "un-number",
        "… is no UN number: it has four digits.",
        "Look at the transport document."
    );
}
