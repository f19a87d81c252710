using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>A file of orders, order changes or despatch advices was taken.</summary>
/// <param name="Form">What kind of file it is.</param>
/// <param name="Lines">Line parts of new orders.</param>
/// <param name="Arrivals">Those that the advices made or joined.</param>
public sealed record OrdersImported(
    string File,
    string Form,
    int Orders,
    int Lines,
    int Changes,
    int Advices,
    IReadOnlyList<string> Arrivals
) : Fact(EntryKind.OrdersImported, File)
{
    /// <summary>What was taken, without the file's name.</summary>
    public string Taken()
    {
        var said = new List<string>();
        if (Orders > 0)
            said.Add($"{Quantities.Many(Orders, "order")} with {Quantities.Many(Lines, "line part")} imported");
        if (Changes > 0)
            said.Add($"{Quantities.Many(Changes, "order change")} taken");
        if (Advices > 0)
            said.Add($"{Quantities.Many(Advices, "despatch advice")} taken: {string.Join(", ", Arrivals)}");
        return string.Join("; ", said) + ".";
    }

    public override string Words(Wording wording) => $"{Taken()} {Form}, file {File}.";
}

/// <summary>A file that was refused is not to be imported.</summary>
public sealed record RefusedFilePutAway(string File) : Fact(EntryKind.OrdersImported, File)
{
    public override string Words(Wording wording) => $"Refused file {File} put away: it is not to be imported.";
}

/// <summary>What was changed in an order, in words, as its page shows it.</summary>
public sealed record OrderChanged(string Order, string Change) : Fact(EntryKind.OrderChanged, Order)
{
    public override string Words(Wording wording) => $"{Order}: {Change}.";
}

/// <summary>What a vendor said when somebody called.</summary>
public sealed record Promised(string Order, string With, IReadOnlyList<LineNamed> Lines, string Text, DateOnly? For)
    : Fact(EntryKind.Promised, Order)
{
    public override string Words(Wording wording) =>
        $"{With} about {RoadWords.List(Lines, 6)}: {Text}{(For is { } day ? $" For {day:yyyy-MM-dd}." : "")}";
}

/// <summary>How a despatch advice came to an arrival.</summary>
public enum AdviceWay
{
    Made = 0,
    Joined = 1,
    Replaced = 2,
}

public sealed record AdviceTaken(string Arrival, string Advice, AdviceWay Way, string Vendor, int Lines, int Units, int Differences)
    : Fact(EntryKind.Advised, Arrival)
{
    public override string Words(Wording wording)
    {
        var does = Way switch
        {
            AdviceWay.Made => $"{Arrival} made from despatch advice {Advice}",
            AdviceWay.Joined => $"Despatch advice {Advice} joins {Arrival}",
            AdviceWay.Replaced => $"Despatch advice {Advice} replaced on {Arrival}",
            _ => throw new ArgumentOutOfRangeException(nameof(wording), Way, null),
        };
        var differences = Differences > 0 ? ", " + Quantities.Many(Differences, "difference") : "";
        return $"{does}, of {Vendor}: {Quantities.Many(Lines, "line")}, {Quantities.Many(Units, "unit")}{differences}.";
    }
}

public sealed record AdviceCancelled(string Arrival, string Advice) : Fact(EntryKind.Advised, Arrival)
{
    public override string Words(Wording wording) => $"Despatch advice {Advice} cancelled by its vendor.";
}

/// <summary>What was decided about something that an advice names and the order does not.</summary>
public sealed record DifferenceDecided(string Arrival, string Difference, string Decision) : Fact(EntryKind.Advised, Arrival)
{
    public override string Words(Wording wording) => $"{Difference} Decided: {Decision}";
}

public sealed record ArrivalMade(string Arrival, int Lines, IReadOnlyList<string> Orders) : Fact(EntryKind.ArrivalMade, Arrival)
{
    public override string Words(Wording wording) =>
        $"{Arrival} made with {Quantities.Many(Lines, "line")} of {string.Join(", ", Orders)}.";
}

public sealed record LinesAdded(string Arrival, IReadOnlyList<LineNamed> Lines) : Fact(EntryKind.ArrivalMade, Arrival)
{
    public override string Words(Wording wording) =>
        $"{Quantities.Many(Lines.Count, "line")} added to {Arrival}: {RoadWords.List(Lines, 8)}.";
}

public sealed record LinesTakenOff(string Arrival, IReadOnlyList<LineNamed> Lines) : Fact(EntryKind.ArrivalMade, Arrival)
{
    public override string Words(Wording wording) => $"Taken off {Arrival}, still open on their orders: {RoadWords.List(Lines, 8)}.";
}

/// <summary>How much of a line is aboard.</summary>
public sealed record LineCarried(string Arrival, LineNamed Line, Amount Aboard, decimal Was) : Fact(EntryKind.ArrivalMade, Arrival)
{
    public override string Words(Wording wording) => $"{Line.Words}: {Aboard.Words} are aboard {Arrival}, not {Quantities.Show(Was)}.";
}

/// <summary>What comes, in what, and how it is packed.</summary>
public sealed record ArrivalDescribed(string Arrival, string Vehicle, string? Container, int Units, Handling Handling)
    : Fact(EntryKind.ArrivalMade, Arrival)
{
    public override string Words(Wording wording) =>
        $"Details of {Arrival}: {Vehicle}{Behind(" ", Container)}, {Units} units, {RoadWords.Apart(Handling)}.";
}

public sealed record ArrivalWithdrawn(string Arrival, string Reason) : Fact(EntryKind.ArrivalWithdrawn, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival} withdrawn: {Reason}";
}

public sealed record Attached(string Arrival, string File) : Fact(EntryKind.Attached, Arrival)
{
    public override string Words(Wording wording) => $"{File} attached to {Arrival}.";
}

public sealed record EtaGiven(string Arrival, DateTimeOffset Eta, string Source) : Fact(EntryKind.EtaChanged, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival} is thought to come {wording.Minute(Eta)}, says {Source}.";
}

/// <summary>An arrival was given a door, a time and a crew.</summary>
/// <param name="WasDoor">Where it was planned before; null for no door.</param>
/// <param name="WasAt">When it was planned before, at that door.</param>
/// <param name="Overruled">Rules of the plan that only warn, and were overruled.</param>
public sealed record PlannedAtDoor(
    string Arrival,
    int Door,
    DateTimeOffset Start,
    IReadOnlyList<string> Crew,
    int? WasDoor,
    DateTimeOffset? WasAt,
    IReadOnlyList<PlanRule> Overruled,
    string? Reason
) : Fact(EntryKind.Planned, Arrival)
{
    public override string Words(Wording wording)
    {
        var was = WasDoor is { } door ? $"door {door} {wording.Local(WasAt!.Value):HH:mm}" : "no door";
        var overruled = Overruled.Count > 0 ? $" Overruled: {RoadWords.List(Overruled)}, since {Reason}." : "";
        return $"{Arrival}: door {Door} at {wording.Minute(Start)} with {string.Join(" and ", Crew)}; was {was}.{overruled}";
    }
}

public sealed record TakenOffDoor(string Arrival) : Fact(EntryKind.Planned, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival} taken off its door.";
}

public sealed record BroughtToDoor(string Arrival, int Door) : Fact(EntryKind.AtDoor, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival} at door {Door}.";
}

/// <summary>It stands at a door of which the plan warns.</summary>
public sealed record DoorOverruled(string Arrival, int Door, IReadOnlyList<PlanRule> Rules, string Reason)
    : Fact(EntryKind.Planned, Arrival)
{
    public override string Words(Wording wording) => $"{Arrival} at door {Door}: overruled {RoadWords.List(Rules)}, since {Reason}.";
}

/// <summary>Goods of a line became ours on the way, or the vendor's again.</summary>
public sealed record TakenOver(string Arrival, Amount Goods, LineNamed Line, bool Back, string Document)
    : Fact(EntryKind.TakenOver, Arrival)
{
    public override string Words(Wording wording) =>
        $"{Goods.Words} on {Line.Words} {(Back ? "are the vendor's again" : "are ours, on the way")}, by {Document}.";
}

/// <summary>An arrival, or some of its lines, goes to another site, as an arrival of that site.</summary>
/// <param name="Of">Whose entry this is: one is written for each of the two arrivals.</param>
/// <param name="Lines">How many lines; null for the whole arrival.</param>
public sealed record Redirected(string Of, string From, string Site, string As, int? Lines, string Reason) : Fact(EntryKind.Redirected, Of)
{
    public override string Words(Wording wording) =>
        $"{(Lines is { } some ? $"{Quantities.Many(some, "line")} of {From}" : From)} "
        + $"{(Lines > 1 ? "go" : "goes")} to {Site} as {As}: {Reason}";
}

/// <summary>When somebody is here on a day.</summary>
/// <param name="Hours">Null where they are not here.</param>
public sealed record RosterSet(string Site, string Person, DateOnly Day, RosterHours? Hours) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) =>
        Hours is { } hours
            ? $"{Person} is here on {Day:ddd d MMM} from {hours.From:HH:mm} to {hours.To:HH:mm}."
            : $"{Person} is not here on {Day:ddd d MMM}.";
}

/// <summary>From when to when, by the site's clock.</summary>
public sealed record RosterHours(TimeOnly From, TimeOnly To);

public sealed record RosterWeekCopied(string Site, DateOnly Monday) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) => $"The week from {Monday:yyyy-MM-dd} is as the one before it.";
}

static class RoadWords
{
    public static string List(IEnumerable<PlanRule> rules) => string.Join(", ", rules.Select(r => Apart(r)));

    /// <summary>The name of a choice as words: "door taken".</summary>
    public static string Apart(Enum choice) =>
        string.Concat(choice.ToString().Select((c, i) => i > 0 && char.IsUpper(c) ? " " + c : c.ToString())).ToLowerInvariant();

    /// <summary>The first lines by name, and how many more there are.</summary>
    public static string List(IReadOnlyList<LineNamed> lines, int most) =>
        string.Join(", ", lines.Take(most).Select(l => l.Words)) + (lines.Count > most ? $" and {lines.Count - most} more" : "");
}

public sealed record PlanningChanged(string Site, string Name, int Version, int Advisory, int Holidays) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) =>
        $"How {Name} plans its days was changed, version {Version}: {Advisory} rules only warn, {Holidays} holidays.";
}
