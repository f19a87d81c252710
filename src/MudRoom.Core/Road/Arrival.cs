using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>Where an arrival is. Unloaded, counted in and put away are further states, each for itself.</summary>
public enum ArrivalState
{
    Expected,
    InYard,
    AtDoor,
    CountedIn,

    /// <summary>It does not come, or was turned away: nothing of it was counted. Stands last since states lie in the database by their
    /// place.</summary>
    Withdrawn,
}

/// <summary>An advisory rule that somebody overruled, and why.</summary>
public sealed record Overruling(PlanRule Rule, string Reason, string By, DateTimeOffset At);

/// <summary>What the papers of a container say beyond its number.</summary>
/// <param name="Iso6346">True when the number is by ISO 6346; another reference is marked so.</param>
/// <param name="SizeType">ISO 6346 size and type code: 42G1.</param>
public sealed record ContainerPapers(
    bool Iso6346,
    string? SizeType,
    string? ShippingLine,
    string? Vessel,
    string? Voyage,
    string? PortFrom,
    string? PortTo
);

/// <summary>What was planned of a vehicle, before something else was read at the gate.</summary>
public sealed record BeforeGate(string? Container, string? Plate);

/// <summary>The delivery note of one vendor aboard.</summary>
public sealed record VendorNote(int VendorId, string Number);

/// <summary>One visit of a vehicle, container or parcel, with all that it carries for us.</summary>
public sealed class Arrival
{
    string number = "";
    int siteId;

    /// <summary>Every kind of vehicle.</summary>
    public static IReadOnlyList<string> Vehicles { get; } = ["truck", "container", "van", "parcel"];

    public int Id { get; init; }
    public required string Number
    {
        get => number;
        init => number = value;
    }
    public required int SiteId
    {
        get => siteId;
        init => siteId = value;
    }

    /// <summary>"truck", "container", "van", "parcel".</summary>
    public string Vehicle { get; set; } = "truck";
    public string? Plate { get; set; }
    public string? Haulier { get; set; }
    public string? ContainerNumber { get; set; }
    public ContainerPapers? Papers { get; set; }

    /// <summary>The seal the papers name.</summary>
    public string? Seal { get; set; }

    /// <summary>The seal found at the gate, and why it may differ.</summary>
    public string? SealFound { get; private set; }
    public string? SealReason { get; private set; }
    public Handling Handling { get; set; }

    /// <summary>Pallets, cartons or parcels aboard, by the handling; what unloading time is worked out from.</summary>
    public int UnitsAboard { get; set; }

    /// <summary>When it was booked to be at a door.</summary>
    public DateTimeOffset Booked { get; init; }

    /// <summary>When it is to be at a door by the plan.</summary>
    public DateTimeOffset Planned { get; set; }

    /// <summary>When it is thought to be at the gate now.</summary>
    public DateTimeOffset? Eta { get; private set; }
    public int? PlannedDoorId { get; private set; }

    /// <summary>Who is to unload it.</summary>
    public List<int> Crew { get; private set; } = [];

    /// <summary>Delivery notes found aboard, one of each vendor.</summary>
    public List<VendorNote> DeliveryNotes { get; private set; } = [];

    /// <summary>Advisory rules that were overruled for this plan.</summary>
    public List<Overruling> Overrulings { get; private set; } = [];

    /// <summary>Grows with every change of the plan, so that two who plan at once do not overwrite each other.</summary>
    public int PlanVersion { get; private set; }

    /// <summary>Who planned it last, and when.</summary>
    public string? PlannedBy { get; private set; }
    public DateTimeOffset? PlannedAt { get; private set; }

    /// <summary>True for a visit that nobody had planned.</summary>
    public bool Unplanned { get; init; }
    public string? YardSpot { get; private set; }
    public DateTimeOffset? GateInAt { get; private set; }

    /// <summary>What was planned, while something else was read at the gate.</summary>
    public BeforeGate? Before { get; private set; }

    /// <summary>Called from the yard to its door.</summary>
    public DateTimeOffset? CalledAt { get; private set; }
    public DateTimeOffset? AtDoorAt { get; private set; }
    public int? DoorId { get; private set; }
    public DateTimeOffset? UnloadedAt { get; private set; }
    public DateTimeOffset? CountedInAt { get; private set; }

    /// <summary>The vehicle is empty and has left the door.</summary>
    public DateTimeOffset? EmptyAt { get; private set; }
    public DateTimeOffset? GateOutAt { get; private set; }

    /// <summary>Since when it comes no longer, and why.</summary>
    public DateTimeOffset? WithdrawnAt { get; private set; }
    public string? WithdrawnWhy { get; private set; }
    public ArrivalState State { get; private set; } = ArrivalState.Expected;
    public List<ManifestLine> Manifest { get; init; } = [];

    /// <summary>Plans it: door, time and crew. Two who plan the same arrival at once: the second is told who was first.</summary>
    /// <param name="seen">The version the planner looked at.</param>
    public Refusal? Plan(
        DockDoor? door,
        DateTimeOffset start,
        IReadOnlyList<int> crew,
        IReadOnlyList<Overruling> overrulings,
        int seen,
        string by,
        DateTimeOffset at,
        SiteTime local
    )
    {
        if (MayBePlanned(seen, local) is { } not)
            return not;
        if (door is not null && door.SiteId != SiteId)
            return new Refusal(HouseRefusals.OtherSite, $"Door {door.Number} belongs to another site.", "Choose a door of this site.");
        PlannedDoorId = door?.Id;
        Planned = start;
        Crew = [.. crew];
        Overrulings = [.. overrulings];
        PlanVersion++;
        PlannedBy = by;
        PlannedAt = at;
        return null;
    }

    /// <summary>Keeps the number of a vendor's delivery note for the receipts of this arrival; a blank one is forgotten.</summary>
    public Refusal? NoteDelivery(int vendorId, string? note)
    {
        if (note is { Length: > 40 })
            return new Refusal(
                HouseRefusals.DeliveryNoteLong,
                "A delivery note number has more than 40 characters.",
                "Look at the paper again."
            );
        var others = DeliveryNotes.Where(n => n.VendorId != vendorId);
        DeliveryNotes = note.OrNull() is { } number ? [.. others, new VendorNote(vendorId, number)] : [.. others];
        return null;
    }

    /// <summary>Sends it on to another own site, under that site's number; its plan here is void.</summary>
    public Refusal? SendOn(int toSite, string asNumber)
    {
        if (State != ArrivalState.Expected)
            return new Refusal(RoadRefusals.AlreadyOnSite, $"{Number} is on site already.", "Count it here, and transfer the goods.");
        (siteId, number) = (toSite, asNumber);
        PlannedDoorId = null;
        Crew = [];
        Overrulings = [];
        PlanVersion++;
        return null;
    }

    /// <summary>What must hold before it is planned anew.</summary>
    public Refusal? MayBePlanned(int seen, SiteTime local)
    {
        if (State == ArrivalState.Withdrawn)
            return Gone();
        if (State is ArrivalState.AtDoor or ArrivalState.CountedIn)
            return new Refusal(
                RoadRefusals.AlreadyAtDoor,
                $"{Number} has been at a door since {local(AtDoorAt!.Value):HH:mm}. Its plan is no longer moved.",
                "Move one that has not come yet."
            );
        return seen == PlanVersion
            ? null
            : new Refusal(
                RoadRefusals.PlanMoved,
                PlannedAt is { } moved
                    ? $"{PlannedBy} has planned {Number} meanwhile, at {local(moved):HH:mm}."
                    : $"{Number} was sent on meanwhile.",
                "Look at where it stands now, then move it again."
            );
    }

    /// <summary>Sets when it is thought to be at the gate; the change is to be kept with its source.</summary>
    public EtaChange Expect(DateTimeOffset eta, string source, string by, DateTimeOffset at)
    {
        var change = new EtaChange
        {
            ArrivalId = Id,
            From = Eta,
            To = eta,
            Source = source,
            By = by,
            At = at,
        };
        Eta = eta;
        return change;
    }

    /// <summary>Let in at the gate and sent to a spot; what was read there holds from now on.</summary>
    /// <returns>What differs from the plan, for the history; a refusal where nobody has said why.</returns>
    public Outcome<IReadOnlyList<string>> LetIn(DateTimeOffset at, GateFinding found, SiteTime local)
    {
        if (State == ArrivalState.Withdrawn)
            return Gone();
        if (State != ArrivalState.Expected)
            return new Refusal(
                RoadRefusals.AlreadyOnSite,
                $"{Number} has been on site since {local((GateInAt ?? AtDoorAt)!.Value):HH:mm}.",
                "Look for it in Yard or Door."
            );
        var differences = GateRules.Differences(this, found);
        if (differences.Count > 0 && found.Word.OrNull() is null)
            return new Refusal(
                RoadRefusals.GateDiffers,
                string.Join(" ", differences),
                "Look again. If it is so, say why; a seal that differs wants a picture too."
            );
        GateInAt = at;
        YardSpot = found.Spot;
        SealFound = found.Seal.OrNull();
        SealReason = Seal is not null && !GateRules.Same(Seal, found.Seal) ? found.Word.OrNull() : null;
        Before = new BeforeGate(ContainerNumber, Plate);
        ContainerNumber = found.Container.OrNull() ?? ContainerNumber;
        Plate = found.Plate.OrNull() ?? Plate;
        State = ArrivalState.InYard;
        return Outcome<IReadOnlyList<string>>.Of(differences);
    }

    /// <summary>It stands at another spot than thought.</summary>
    public Refusal? StandsAt(string spot)
    {
        if (State != ArrivalState.InYard)
            return new Refusal(RoadRefusals.NotInYard, $"{Number} is not in the yard.", "Look at where it is.");
        YardSpot = spot;
        return null;
    }

    /// <summary>Called from the yard to its door.</summary>
    public Refusal? Call(DateTimeOffset at)
    {
        if (State != ArrivalState.InYard)
            return new Refusal(RoadRefusals.NotInYard, $"{Number} is not in the yard.", "Look at where it is.");
        CalledAt = at;
        return null;
    }

    /// <summary>Brings it to a door, from the road or the yard; from then it can be tallied.</summary>
    /// <param name="door">The door.</param>
    /// <param name="at">When.</param>
    /// <param name="standsThere">The arrival that is at this door now, if any.</param>
    public Refusal? ToDoor(DockDoor door, DateTimeOffset at, Arrival? standsThere)
    {
        if (State == ArrivalState.Withdrawn)
            return Gone();
        if (State == ArrivalState.CountedIn)
            return new Refusal(HouseRefusals.TallyClosed, $"{Number} is counted in already.", "Nothing is left to unload.");
        if (door.SiteId != SiteId)
            return new Refusal(HouseRefusals.OtherSite, $"Door {door.Number} belongs to another site.", "Choose a door of this site.");
        if (standsThere is not null && standsThere.Id != Id)
            return new Refusal(
                HouseRefusals.DoorTaken,
                $"{standsThere.Number} stands at door {door.Number}.",
                "Choose another door, or close that tally first."
            );
        GateInAt ??= at;
        AtDoorAt ??= at;
        DoorId = door.Id;
        State = ArrivalState.AtDoor;
        return null;
    }

    /// <summary>All of it is off the vehicle, whatever is counted.</summary>
    public Refusal? Unload(DateTimeOffset at, SiteTime local)
    {
        if (AtDoorAt is null)
            return new Refusal(RoadRefusals.NotAtDoor, $"{Number} is not at a door yet.", "Bring it to a door first.");
        if (UnloadedAt is not null)
            return Already("unloaded", UnloadedAt.Value, local);
        UnloadedAt = at;
        return null;
    }

    /// <summary>The vehicle is empty and has left the door for the yard.</summary>
    public Refusal? LeaveEmpty(DateTimeOffset at, SiteTime local)
    {
        if (AtDoorAt is null)
            return new Refusal(RoadRefusals.NotAtDoor, $"{Number} was not at a door yet.", "Bring it to a door first.");
        if (EmptyAt is not null)
            return Already("empty", EmptyAt.Value, local);
        UnloadedAt ??= at;
        EmptyAt = at;
        return null;
    }

    /// <summary>A rule of the door was overruled when the vehicle was brought to it.</summary>
    public void Overrule(Overruling overruling) => Overrulings = [.. Overrulings.Where(o => o.Rule != overruling.Rule), overruling];

    /// <summary>Out of the gate. A vehicle that was not at a door leaves full: it is to be withdrawn, with a reason.</summary>
    public Refusal? GateOut(DateTimeOffset at, SiteTime local)
    {
        if (State == ArrivalState.InYard)
            return new Refusal(RoadRefusals.NotUnloaded, $"{Number} was not at a door: it would leave full.", "Say why it is sent away.");
        if (GateInAt is null)
            return new Refusal(RoadRefusals.NotOnSite, $"{Number} was not let in yet.", "Let it in first.");
        if (State == ArrivalState.AtDoor && EmptyAt is null)
            return new Refusal(RoadRefusals.NotEmpty, $"{Number} stands at a door and is not empty.", "Finish unloading, then let it out.");
        if (GateOutAt is not null)
            return Already("out of the gate", GateOutAt.Value, local);
        GateOutAt = at;
        return null;
    }

    /// <summary>It does not come after all, or is sent away again: its lines go back to what is open on their orders.</summary>
    /// <param name="counted">True when something of it is counted.</param>
    public Refusal? Withdraw(string? reason, bool counted, DateTimeOffset at)
    {
        if (State == ArrivalState.Withdrawn)
            return new Refusal(RoadRefusals.Withdrawn, $"{Number} is withdrawn already: {WithdrawnWhy}", "There is nothing to do.");
        if (State == ArrivalState.CountedIn)
            return new Refusal(HouseRefusals.TallyClosed, $"{Number} is counted in.", "Return what should not have come.");
        if (counted)
            return new Refusal(RoadRefusals.Counted, $"Goods of {Number} are counted already.", "Take back its counts first.");
        if (Manifest.Exists(m => m.InTransit > 0))
            return new Refusal(
                RoadRefusals.InTransit,
                $"Goods of {Number} are ours on the way.",
                "Give them back to the vendor's account first, or send them to another site."
            );
        if (reason.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.NoteMissing, $"Say in at most 200 characters why {Number} is withdrawn.", "Type the reason.");
        WithdrawnAt = at;
        WithdrawnWhy = why;
        State = ArrivalState.Withdrawn;
        return null;
    }

    /// <summary>Takes the last step of the vehicle back: withdrawn, gate-out, empty, unloaded, called, at door, let in; counts are taken
    /// back for themselves.</summary>
    /// <param name="counted">True when something of it is counted.</param>
    /// <returns>What was taken back, in a word.</returns>
    public Outcome<string> TakeStepBack(bool counted)
    {
        if (GateOutAt is not null)
            return Clear("gate-out", () => GateOutAt = null);
        if (State == ArrivalState.Withdrawn)
            return Clear("withdrawal", () =>
            {
                WithdrawnAt = null;
                WithdrawnWhy = null;
                State =
                    AtDoorAt is not null ? ArrivalState.AtDoor
                    : GateInAt is not null ? ArrivalState.InYard
                    : ArrivalState.Expected;
            });
        if (EmptyAt is not null)
            return Clear("empty", () => EmptyAt = null);
        if (UnloadedAt is not null)
            return Clear("unloaded", () => UnloadedAt = null);
        if (State == ArrivalState.CountedIn)
            return new Refusal(RoadRefusals.CountedIn, $"{Number} is counted in.", "Open its tally again first.");
        if (State == ArrivalState.AtDoor)
        {
            if (counted)
                return new Refusal(RoadRefusals.Counted, $"Goods of {Number} are counted already.", "Take back its counts first.");
            return Clear("at door", () =>
            {
                AtDoorAt = null;
                DoorId = null;
                State = YardSpot is null ? ArrivalState.Expected : ArrivalState.InYard;
                if (YardSpot is null)
                    GateInAt = null;
            });
        }

        if (CalledAt is not null)
            return Clear("called", () => CalledAt = null);
        if (State == ArrivalState.InYard)
            return Clear("let in", () =>
            {
                GateInAt = null;
                YardSpot = null;
                SealFound = SealReason = null;
                if (Before is { } planned)
                    (ContainerNumber, Plate, Before) = (planned.Container, planned.Plate, null);
                State = ArrivalState.Expected;
            });
        return new Refusal(
            HouseRefusals.NothingToTakeBack,
            $"{Number} has not come yet: there is no step to take back.",
            "Look at its history."
        );

        static Outcome<string> Clear(string word, Action clear)
        {
            clear();
            return word;
        }
    }

    /// <summary>What must hold before anything is counted.</summary>
    public Refusal? MayBeTallied() =>
        State switch
        {
            ArrivalState.AtDoor => null,
            ArrivalState.Withdrawn => Gone(),
            ArrivalState.CountedIn => new Refusal(
                HouseRefusals.TallyClosed,
                $"The tally of {Number} was closed. Nothing more can be counted on it.",
                "Open a new arrival for what is still there."
            ),
            _ => new Refusal(RoadRefusals.NotAtDoor, $"{Number} is not at a door yet.", "Bring it to a door first."),
        };

    /// <summary>Opens a closed tally again: it stands at its door as before.</summary>
    public void OpenAgain()
    {
        CountedInAt = null;
        State = ArrivalState.AtDoor;
    }

    /// <summary>Closes the tally.</summary>
    public void CountIn(DateTimeOffset at)
    {
        UnloadedAt ??= at;
        CountedInAt = at;
        State = ArrivalState.CountedIn;
    }

    Refusal Gone() =>
        new(RoadRefusals.Withdrawn, $"{Number} was withdrawn: {WithdrawnWhy}", "Take the withdrawal back if it comes after all.");

    Refusal Already(string word, DateTimeOffset at, SiteTime local) =>
        new(RoadRefusals.StepDone, $"{Number} has been {word} since {local(at):HH:mm}.", "Take that step back if it is wrong.");
}

/// <summary>A change of when an arrival is thought to come. Never changed itself.</summary>
public sealed class EtaChange
{
    public int Id { get; init; }
    public int ArrivalId { get; init; }
    public DateTimeOffset? From { get; init; }
    public required DateTimeOffset To { get; init; }

    /// <summary>Who said so: haulier, shipping line, vendor, driver.</summary>
    public required string Source { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
}

/// <summary>A paper or picture that belongs to an arrival.</summary>
public sealed class Attachment
{
    public int Id { get; init; }

    /// <summary>The arrival it belongs to; null for a paper of a hold whose goods came with none or with several.</summary>
    public required int? ArrivalId { get; init; }

    /// <summary>The hold it was attached to, or null.</summary>
    public int? HoldId { get; init; }

    /// <summary>What the paper is; null where nobody has said.</summary>
    public PaperKind? Kind { get; private set; }
    public required string Name { get; init; }

    /// <summary>The order part it shows; null when it is of the whole arrival.</summary>
    public int? PartId { get; init; }

    /// <summary>The count or discrepancy it belongs to, by the act that made it.</summary>
    public Guid? ActId { get; set; }

    /// <summary>Found by looking into the file: image/png, image/jpeg, application/pdf.</summary>
    public required string MediaType { get; init; }
    public required byte[] Content { get; init; }

    /// <summary>Somebody says what it is; the first word stands.</summary>
    public Attachment Is(PaperKind? kind)
    {
        Kind ??= kind;
        return this;
    }

    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
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

    /// <summary>How much of it is ours already and still on the way.</summary>
    public decimal InTransit { get; private set; }

    /// <summary>What is still aboard, as far as anybody knows.</summary>
    public decimal StillAboard => Math.Max(0, Expected - Counted);

    /// <summary>Says how much of the part is aboard this vehicle; the rest comes on another, or is still open.</summary>
    /// <param name="quantity">In base units.</param>
    public Refusal? Carry(decimal quantity, Item item)
    {
        if (Quantities.Check(quantity, item) is { } bad)
            return bad;
        if (quantity < Counted + InTransit)
            return new Refusal(
                RoadRefusals.BelowReceived,
                $"{Quantities.Show(Counted + InTransit)} {item.UnitWord} of it are counted or ours on the way; "
                    + $"{Quantities.Show(quantity)} would be fewer.",
                "Say at least what is there."
            );
        Expected = quantity;
        return null;
    }

    public void Count(decimal quantity) => Counted += quantity;

    public void TakeBack(decimal quantity) => Counted -= quantity;

    /// <summary>What is aboard and not yet counted becomes ours while it is on the way.</summary>
    /// <returns>How much; 0 when nothing is left to be taken over.</returns>
    public decimal TakeOver()
    {
        var rest = Math.Max(0, Expected - Counted - InTransit);
        InTransit += rest;
        return rest;
    }

    /// <summary>What was on the way is so no longer: given back, or not aboard after all.</summary>
    /// <returns>How much.</returns>
    public decimal EndTransit()
    {
        var rest = InTransit;
        InTransit = 0;
        return rest;
    }

    /// <summary>Where what is counted comes from: first what was ours on the way, then who sends it. The quantities sum to what is
    /// counted.</summary>
    public IEnumerable<(Account From, decimal Quantity)> Arrive(decimal quantity)
    {
        var ours = Math.Min(quantity, InTransit);
        InTransit -= ours;
        return new[] { (Account.Transit, ours), (Sender, quantity - ours) }.Where(s => s.Item2 > 0);
    }

    /// <summary>The account of who sends it: a customer what they return, else the vendor.</summary>
    Account Sender => Part?.Line?.Order?.Kind == OrderKind.CustomerReturn ? Account.Customer : Account.Vendor;

    /// <summary>A count of what was ours on the way was taken back: it is on the way again.</summary>
    public void BackInTransit(decimal quantity) => InTransit += quantity;
}
