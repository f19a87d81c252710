using MudRoom.Core.Site;

namespace MudRoom.Core.Book;

/// <summary>Rows of a set-up file were kept.</summary>
/// <param name="Rows">What the rows are: items, bins, people.</param>
public sealed record SetUpFileTaken(string Site, string Rows, int New, int Changed, string File) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) => $"{Rows}: {New} new, {Changed} changed from {File}.";
}

/// <summary>A field of a row and what stood in it; both are null where the book only says that it was changed.</summary>
/// <param name="Was">Blank for nothing.</param>
public sealed record FieldKept(string Field, string? Was, string? Now)
{
    public string Words
    {
        get
        {
            var name = Field.Replace('_', ' ');
            return Was is null ? $"{name} changed" : $"{name} {Shown(Was)} → {Shown(Now!)}";
        }
    }

    static string Shown(string value) => value.Length == 0 ? "nothing" : value;
}

/// <summary>An item, pack, vendor, door, bin or person came or was changed by a file.</summary>
/// <param name="Code">By which it is known: its code, number, address or sign-in name.</param>
/// <param name="Changes">None where it is new.</param>
public sealed record SetUpRowKept(string Code, string Name, IReadOnlyList<FieldKept> Changes, string File)
    : Fact(EntryKind.SetUpChanged, Code)
{
    public override string Words(Wording wording) =>
        Changes.Count == 0 ? $"{Name} is new, from {File}." : $"{Name}: {string.Join(", ", Changes.Select(c => c.Words))}, by {File}.";
}

/// <summary>A driver got a truck of their own at the site: what they have on it is there.</summary>
public sealed record TruckMade(string Truck, string Person) : Fact(EntryKind.SetUpChanged, Truck)
{
    public override string Words(Wording wording) => $"{Truck} is where {Person} has goods on the way.";
}

public sealed record SiteChanged(string Site, string Name, string Zone, string? NumbersBy, int Spots) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) =>
        $"The facts of {Name} were changed: {Zone}, units numbered by {NumbersBy ?? "nothing yet"}, {Spots} yard spots.";
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
