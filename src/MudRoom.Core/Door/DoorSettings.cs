using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>What stands in the field of the quantity when an item was scanned.</summary>
public enum QuantityEntry
{
    /// <summary>One pack for each scan.</summary>
    Scanned = 0,

    /// <summary>What is still open, to be looked at and confirmed.</summary>
    Proposed = 1,

    /// <summary>Nothing: it must be typed.</summary>
    Typed = 2,
}

/// <summary>The stops goods make before a bin.</summary>
public enum Stops
{
    ReceivingPlace,

    /// <summary>Goods to inspect go to the bench, all others to the receiving place.</summary>
    ReceivingPlaceAndBench,

    /// <summary>Usable goods go straight to the bin the rules propose.</summary>
    StraightIn,
}

/// <summary>Whether goods are inspected before their receipt is posted.</summary>
public enum InspectionTime
{
    AfterReceipt,
    BeforeReceipt,
}

/// <summary>One reason of the administrator's list for counting goods aside.</summary>
/// <param name="Name">As it stands on the screen: "crushed", "wet".</param>
/// <param name="Kind">What it means for the book.</param>
/// <param name="WantsSentence">True when a sentence must come with it.</param>
/// <param name="WantsPicture">True when a picture must come with it.</param>
public sealed record AsideReason(string Name, Aside Kind, bool WantsSentence = false, bool WantsPicture = false);

/// <summary>When a label is printed by itself.</summary>
public enum PrintEvent
{
    /// <summary>A unit was counted in: its label with SSCC.</summary>
    UnitCounted,

    /// <summary>Goods were counted in loose: a label for each pack.</summary>
    PackCounted,

    /// <summary>Goods were set aside as held.</summary>
    CountedAside,
}

/// <summary>Which label comes at which event from which printer.</summary>
/// <param name="Event">When.</param>
/// <param name="Door">At this door only; null for all.</param>
/// <param name="Printer">Its name, from the list of printers.</param>
/// <param name="Size">a6 or 4x6.</param>
public sealed record PrintRule(PrintEvent Event, int? Door, string Printer, string Size = "a6");

/// <summary>A label printer.</summary>
/// <param name="Name">As it is called at the doors.</param>
/// <param name="Address">ipp://host:631/printers/queue of a real one; empty for the stand-in that collects what it printed.</param>
public sealed record Printer(string Name, string Address = "")
{
    /// <summary>Host with port, and queue, of a real printer; null for the stand-in.</summary>
    /// <exception cref="FormatException">The address is none.</exception>
    public (string Host, string Queue)? Target => Address.Length == 0 ? null : TargetOf(Address) ?? throw new FormatException(Address);

    /// <summary>Reads ipp://host:port/printers/queue; null when it is none.</summary>
    public static (string Host, string Queue)? TargetOf(string address) =>
        Uri.TryCreate(address, UriKind.Absolute, out var uri)
        && uri.Scheme is "ipp" or "ipps"
        && uri is { Segments: ["/", "printers/", { Length: > 0 } queue] }
        && queue.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or '.')
            ? ($"{uri.Host}:{(uri.Port > 0 ? uri.Port : 631)}", queue)
            : null;
}

/// <summary>How a site counts goods in.</summary>
public sealed record DoorSettings
{
    /// <summary>Most reasons, rules or printers of a site.</summary>
    public const int MostEntries = 60;

    public QuantityEntry Quantity { get; init; }

    /// <summary>True when no device that counts may know what is expected.</summary>
    public bool Blind { get; init; }

    /// <summary>True when a count that differs is counted a second time by somebody else before the tally is closed.</summary>
    public bool SecondCount { get; init; }

    /// <summary>True when an item may be counted only by a barcode of it.</summary>
    public bool ScanForced { get; init; }

    /// <summary>True when all that is still open may be taken as ordered by one press.</summary>
    public bool RestAsOrdered { get; init; }

    public Stops Stops { get; init; }

    public InspectionTime Inspection { get; init; }

    /// <summary>True when the receiver chooses among the door's receiving places; else the place is given.</summary>
    public bool PlaceChosen { get; init; }

    /// <summary>The administrator's reasons for counting aside; empty means one for each kind.</summary>
    public IReadOnlyList<AsideReason> Reasons { get; init; } = [];

    public IReadOnlyList<Printer> Printers { get; init; } = [];

    public IReadOnlyList<PrintRule> Prints { get; init; } = [];

    /// <summary>Names of the printers, those first that print rules name for a door: what is printed by hand there comes out there
    /// too.</summary>
    public IReadOnlyList<string> PrintersFor(int? door) =>
        [
            .. Printers
                .Select(p => p.Name)
                .OrderByDescending(name => door is not null && Prints.Any(r => r.Door == door && r.Printer == name)),
        ];

    /// <summary>The reasons in force: those of the list, and one by its own name for each kind that has none.</summary>
    public IReadOnlyList<AsideReason> ReasonsInForce =>
        [
            .. Reasons,
            .. Enum.GetValues<Aside>()
                .Where(kind => Reasons.All(r => r.Kind != kind))
                .Select(kind => new AsideReason(Asides.Word(kind), kind, WantsSentence: kind == Aside.Damaged)),
        ];

    /// <summary>The reason of a count: the one named, else the first of its kind; null when it is not counted aside.</summary>
    public Outcome<AsideReason?> ReasonOf(Aside? kind, string? name)
    {
        if (kind is null && name.OrNull() is null)
            return (AsideReason?)null;
        var fitting = ReasonsInForce.Where(r => (kind is null || r.Kind == kind) && (name.OrNull() is null || r.Name == name)).ToList();
        return fitting.Count > 0
            ? fitting[0]
            : new Refusal(DoorRefusals.ReasonUnknown, $"{name} is no reason of this site.", "Choose one from the list.");
    }

    /// <summary>What is wrong with the settings, if anything.</summary>
    /// <param name="doors">Numbers of the site's doors.</param>
    public Refusal? Fault(IReadOnlyCollection<int> doors)
    {
        if (Reasons is null || Printers is null || Prints is null || Prints.Any(r => r is null))
            return Absurd("A list or a part of one is missing.");
        if (new[] { Reasons.Count, Printers.Count, Prints.Count }.Max() > MostEntries)
            return Absurd($"A list has more than {MostEntries} entries.");
        if (!Enum.IsDefined(Quantity) || !Enum.IsDefined(Stops) || !Enum.IsDefined(Inspection))
            return Absurd("A choice is none of those offered.");
        if (Blind && Quantity == QuantityEntry.Proposed)
            return Absurd("A blind count cannot have what is open proposed.");
        if (Reasons.Any(r => r is null || r.Name.OrNull() is not { Length: <= 60 } || !Enum.IsDefined(r.Kind)))
            return Absurd("A reason has a name of at most 60 characters.");
        if (Reasons.GroupBy(r => r.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
            return Absurd($"The reason {twice.Key} stands there twice.");
        if (Printers.Any(p => p is null || p.Name.OrNull() is not { Length: <= 40 }))
            return Absurd("A printer has a name of at most 40 characters.");
        if (Printers.GroupBy(p => p.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } same)
            return Absurd($"The printer {same.Key} stands there twice.");
        if (Printers.FirstOrDefault(p => p.Address is { Length: > 0 } && Printer.TargetOf(p.Address) is null) is { } wrong)
            return Absurd($"{wrong.Address} is no address of a printer; one looks like ipp://printserver:631/printers/door2.");
        if (Prints.FirstOrDefault(r => Printers.All(p => p.Name != r.Printer)) is { } rule)
            return Absurd($"A print rule names {rule.Printer}, which is no printer of the list.");
        if (Prints.Any(r => r.Size is not ("a6" or "4x6") || !Enum.IsDefined(r.Event)))
            return Absurd("A label is A6 or 4 by 6 inches.");
        if (Prints.FirstOrDefault(r => r.Door is { } door && !doors.Contains(door)) is { } astray)
            return Absurd($"There is no door {astray.Door}.");
        return null;
    }

    static Refusal Absurd(string sentence) => new(HouseRefusals.SettingAbsurd, sentence, "Look at it again. Nothing was kept.");
}
