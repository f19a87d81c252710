namespace MudRoom.Core.Road;

/// <summary>Where an arrival is. Unloaded, counted in and put away are further states, each for itself.</summary>
public enum ArrivalState
{
    Expected,
    InYard,
    AtDoor,
    CountedIn,
}

/// <summary>One visit of a vehicle, container or parcel, with all that it carries for us.</summary>
public sealed class Arrival
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public required int SiteId { get; init; }

    /// <summary>"truck", "container", "van", "parcel".</summary>
    public string Vehicle { get; set; } = "truck";
    public string? Plate { get; set; }
    public string? Haulier { get; set; }
    public string? ContainerNumber { get; set; }
    public string? Seal { get; set; }

    /// <summary>When it is to be at a door.</summary>
    public DateTimeOffset Planned { get; set; }

    /// <summary>When it is thought to be at the gate now.</summary>
    public DateTimeOffset? Eta { get; set; }
    public int? PlannedDoorId { get; set; }
    public string? YardSpot { get; private set; }
    public DateTimeOffset? GateInAt { get; private set; }
    public DateTimeOffset? AtDoorAt { get; private set; }
    public int? DoorId { get; private set; }
    public DateTimeOffset? CountedInAt { get; private set; }
    public ArrivalState State { get; private set; } = ArrivalState.Expected;
    public List<ManifestLine> Manifest { get; init; } = [];

    /// <summary>Let in at the gate and sent to a spot.</summary>
    public Refusal? LetIn(DateTimeOffset at, string spot)
    {
        if (State != ArrivalState.Expected)
            return new Refusal("already-on-site", $"{Number} has been on site since {AtDoorAt ?? GateInAt:HH:mm}.", "Look for it in Yard or Door.");
        GateInAt = at;
        YardSpot = spot;
        State = ArrivalState.InYard;
        return null;
    }

    /// <summary>Brings it to a door, from the road or the yard; from then it can be tallied.</summary>
    /// <param name="door">The door.</param>
    /// <param name="at">When.</param>
    /// <param name="standsThere">The arrival that is at this door now, if any.</param>
    public Refusal? ToDoor(Site.DockDoor door, DateTimeOffset at, Arrival? standsThere)
    {
        if (State == ArrivalState.CountedIn)
            return new Refusal("tally-closed", $"{Number} is counted in already.", "Nothing is left to unload.");
        if (door.SiteId != SiteId)
            return new Refusal("other-site", $"Door {door.Number} belongs to another site.", "Choose a door of this site.");
        if (standsThere is not null && standsThere.Id != Id)
            return new Refusal("door-taken", $"{standsThere.Number} stands at door {door.Number}.", "Choose another door, or close that tally first.");
        GateInAt ??= at;
        AtDoorAt ??= at;
        DoorId = door.Id;
        YardSpot = null;
        State = ArrivalState.AtDoor;
        return null;
    }

    /// <summary>What must hold before anything is counted.</summary>
    public Refusal? MayBeTallied() => State switch
    {
        ArrivalState.AtDoor => null,
        ArrivalState.CountedIn => new Refusal("tally-closed", $"The tally of {Number} was closed. Nothing more can be counted on it.", "Open a new arrival for what is still there."),
        _ => new Refusal("not-at-door", $"{Number} is not at a door yet.", "Bring it to a door first."),
    };

    /// <summary>Closes the tally.</summary>
    public void CountIn(DateTimeOffset at)
    {
        CountedInAt = at;
        State = ArrivalState.CountedIn;
    }
}

/// <summary>One line part expected aboard an arrival.</summary>
public sealed class ManifestLine
{
    public int Id { get; init; }
    public int ArrivalId { get; init; }
    public LinePart? Part { get; init; }
    public int PartId { get; init; }

    /// <summary>How much of the part should be aboard, in base units.</summary>
    public decimal Expected { get; set; }

    /// <summary>How much of it was counted on this arrival.</summary>
    public decimal Counted { get; private set; }

    public void Count(decimal quantity) => Counted += quantity;

    public void TakeBack(decimal quantity) => Counted -= quantity;
}
