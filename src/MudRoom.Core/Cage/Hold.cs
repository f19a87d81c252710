using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>Why goods are held.</summary>
public enum HoldReason
{
    /// <summary>A rule of the site: quarantine.</summary>
    Rule,

    /// <summary>An inspection rejected them.</summary>
    Nonconforming,

    /// <summary>Counted aside in the tally.</summary>
    CountedAside,

    /// <summary>Somebody laid it by hand.</summary>
    ByHand,
}

/// <summary>One condition of a hold, as a link of its chain.</summary>
/// <param name="Word">time, verdict, signature, decision.</param>
/// <param name="Closed">True when it is met.</param>
/// <param name="Sentence">What it is, in words.</param>
public sealed record ChainLink(string Word, bool Closed, string Sentence);

/// <summary>A rule that holds one kind of goods for a time, counted from the tally.</summary>
public sealed class HoldRule
{
    public int Id { get; init; }

    /// <summary>Item category it catches.</summary>
    public required string Category { get; set; }

    /// <summary>Country of origin it catches, or null for all.</summary>
    public string? Origin { get; set; }

    /// <summary>Calendar days.</summary>
    public required int Days { get; set; }
    public required string Name { get; set; }

    /// <summary>True when it catches an item of this origin.</summary>
    public bool Catches(Item item, string? origin) => item.Category == Category && (Origin is null || Origin == origin);

    /// <summary>When its time is over: so many times 24 hours after the start, never short.</summary>
    public DateTimeOffset Until(DateTimeOffset start) => start.AddDays(Days);
}

/// <summary>What becomes of nonconforming goods.</summary>
public enum DecisionKind
{
    ReleaseUnderConcession,
    ReturnToVendor,
    Scrap,
}

/// <summary>A reason why goods may not be used. Lifted when all its conditions are met.</summary>
public sealed class Hold
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public required int SiteId { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }
    public required HoldReason Reason { get; init; }

    /// <summary>What it is about, in words.</summary>
    public required string Sentence { get; init; }
    public required DateTimeOffset Since { get; init; }

    /// <summary>Not before this; null when time is no condition.</summary>
    public DateTimeOffset? Until { get; init; }
    public int? ArrivalId { get; init; }
    public int? InspectionId { get; init; }
    public required string LaidBy { get; init; }

    /// <summary>In base units: what is still held by it.</summary>
    public decimal Quantity { get; private set; }
    public DateTimeOffset? LiftedAt { get; private set; }
    public string? LiftedBy { get; private set; }
    public string? LiftedNote { get; private set; }

    /// <summary>True while it holds anything.</summary>
    public bool IsOpen { get; private set; } = true;

    /// <summary>Adds goods to it.</summary>
    public void Grow(decimal quantity) => Quantity += quantity;

    /// <summary>Takes goods off it: a count was taken back, or a decision was made over them.</summary>
    public Refusal? Shrink(decimal quantity, DateTimeOffset at, string by)
    {
        if (!IsOpen) return Gone();
        if (quantity <= 0 || quantity > Quantity)
            return new Refusal("more-than-held", $"{Number} holds {Quantities.Show(Quantity)}; {Quantities.Show(quantity)} is not part of it.", "Choose a quantity from what is held.");
        Quantity -= quantity;
        if (Quantity == 0) Close(at, by, null);
        return null;
    }

    /// <summary>Lifts it: all that it holds is free of it.</summary>
    /// <returns>How much is free, in base units.</returns>
    public Outcome<decimal> Lift(DateTimeOffset now, string by, string? note)
    {
        if (!IsOpen) return Gone();
        if (Reason == HoldReason.Nonconforming)
            return new Refusal("wants-decision", $"{Number} holds rejected goods. They are not lifted, they are decided over.", "Choose what becomes of them.");
        if (Until is { } until && now < until)
            return new Refusal("time-not-over", $"{Number} lasts until {until:yyyy-MM-dd HH:mm} UTC.", "Come back then.");
        var free = Quantity;
        Quantity = 0;
        Close(now, by, note);
        return free;
    }

    /// <summary>Its conditions at an instant.</summary>
    public IReadOnlyList<ChainLink> Links(DateTimeOffset now)
    {
        var links = new List<ChainLink>();
        if (Until is { } until) links.Add(new ChainLink("time", now >= until, now >= until ? "over" : $"until {until:yyyy-MM-dd}"));
        links.Add(Reason == HoldReason.Nonconforming
            ? new ChainLink("decision", !IsOpen, "of a supervisor")
            : new ChainLink("signature", !IsOpen, "of a supervisor"));
        return links;
    }

    void Close(DateTimeOffset at, string by, string? note)
    {
        IsOpen = false;
        LiftedAt = at;
        LiftedBy = by;
        LiftedNote = note;
    }

    Refusal Gone() => new("hold-lifted", $"{Number} was lifted by {LiftedBy} on {LiftedAt:yyyy-MM-dd}.", "Nothing is to be done.");
}
