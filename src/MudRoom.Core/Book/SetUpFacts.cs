using MudRoom.Core.Site;

namespace MudRoom.Core.Book;

/// <summary>Rows of a set-up file were kept.</summary>
/// <param name="Rows">What the rows are: items, bins, people.</param>
public sealed record SetUpFileTaken(string Site, string Rows, int New, int Changed, string File) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) => $"{Rows}: {New} new, {Changed} changed from {File}.";
}

public sealed record SiteChanged(string Site, string Name, string Zone, string? NumbersBy, int Spots) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) =>
        $"The facts of {Name} were changed: {Zone}, units numbered by {NumbersBy ?? "nothing yet"}, {Spots} yard spots.";
}

public sealed record PlanningChanged(string Site, string Name, int Advisory, int Holidays) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) =>
        $"How {Name} plans its days was changed: {Advisory} rules only warn, {Holidays} holidays.";
}

/// <summary>How a site counts goods in.</summary>
public sealed record CountingChanged(
    string Site,
    string Name,
    QuantityEntry Quantity,
    bool Blind,
    bool SecondCount,
    bool ScanForced,
    int Reasons,
    int Printers,
    int Prints
) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording)
    {
        string[] words =
        [
            Quantity switch
            {
                QuantityEntry.Proposed => "what is open is proposed",
                QuantityEntry.Typed => "quantities are typed",
                QuantityEntry.Scanned => "one for each scan",
                _ => throw new ArgumentOutOfRangeException(nameof(wording), Quantity, null),
            },
            Blind ? "blind" : "",
            SecondCount ? "counted twice where it differs" : "",
            ScanForced ? "by scan only" : "",
            $"{Reasons} reasons",
            $"{Printers} printers",
            $"{Prints} print rules",
        ];
        return $"How {Name} counts goods in was changed: {string.Join(", ", words.Where(w => w.Length > 0))}.";
    }
}

/// <param name="MinimumDays">How long goods must keep when they come in; null where the items say.</param>
public sealed record VendorChanged(string Vendor, string Name, int? MinimumDays) : Fact(EntryKind.SetUpChanged, Vendor)
{
    public override string Words(Wording wording) =>
        $"{Name} changed: "
        + (MinimumDays is { } days ? $"goods must keep {days} days when they come in." : "how long goods must keep is said by the items.");
}

/// <summary>What is asked of an item when it is counted.</summary>
/// <param name="WeighedWithin">By how many percent its weight may differ; null where it is not weighed.</param>
public sealed record ItemAsksChanged(string Item, string Name, int Attributes, decimal? WeighedWithin, string? BatchPattern)
    : Fact(EntryKind.SetUpChanged, Item)
{
    public override string Words(Wording wording) =>
        $"What {Name} asks for was changed: {Attributes} attributes"
        + (WeighedWithin is { } within ? $", weighed within {Quantities.Show(within)} %" : "")
        + $"{Behind(", batches by ", BatchPattern)}.";
}

public sealed record ItemPictureChanged(string Item, string Name, bool TakenAway) : Fact(EntryKind.SetUpChanged, Item)
{
    public override string Words(Wording wording) => $"The picture of {Name} was {(TakenAway ? "taken away" : "changed")}.";
}

public sealed record BadgeGiven(string SignInName, string Person) : Fact(EntryKind.SetUpChanged, SignInName)
{
    public override string Words(Wording wording) => $"{Person} was given a badge.";
}

public sealed record BadgeTaken(string SignInName, string Person) : Fact(EntryKind.SetUpChanged, SignInName)
{
    public override string Words(Wording wording) => $"{Person} has no badge any more.";
}

public sealed record PasswordGiven(string SignInName, string Person) : Fact(EntryKind.SetUpChanged, SignInName)
{
    public override string Words(Wording wording) => $"{Person} was given a password for one time.";
}
