namespace MudRoom.Core.Door;

/// <summary>How a line stands when the tally is about to be closed.</summary>
public enum LineOutcome
{
    Complete,
    Short,
    Over,
    Untouched,
}

/// <summary>What becomes of what did not come.</summary>
public enum ShortDecision
{
    MoreToCome,
    NeverComing,
}

/// <summary>One line of the closing list.</summary>
/// <param name="ManifestLineId">The line.</param>
/// <param name="Expected">What should have been aboard.</param>
/// <param name="Counted">What was counted.</param>
/// <param name="Open">What is still open on the order part after this arrival.</param>
/// <param name="Decision">What was decided, where something is.</param>
public sealed record ClosingLine(int ManifestLineId, decimal Expected, decimal Counted, decimal Open, ShortDecision? Decision)
{
    /// <summary>Complete, short, over or untouched.</summary>
    public LineOutcome Outcome =>
        Counted == 0 && Expected > 0 ? LineOutcome.Untouched
        : Counted < Expected ? LineOutcome.Short
        : Counted > Expected ? LineOutcome.Over
        : LineOutcome.Complete;

    /// <summary>True when somebody has to say what becomes of the rest.</summary>
    public bool WantsDecision => Outcome is LineOutcome.Short or LineOutcome.Untouched && Open > 0;
}

/// <summary>Whether a tally may be closed.</summary>
public static class ClosingRules
{
    /// <summary>Every short or untouched line needs a decision, every vendor aboard a delivery note.</summary>
    /// <param name="lines">All lines of the manifest.</param>
    /// <param name="vendorsCounted">Vendors of whom something was counted.</param>
    /// <param name="deliveryNotes">Delivery note by vendor.</param>
    public static Refusal? Check(
        IReadOnlyList<ClosingLine> lines,
        IReadOnlyList<(int VendorId, string Name)> vendorsCounted,
        IReadOnlyDictionary<int, string> deliveryNotes
    )
    {
        var undecided = lines.Count(l => l.WantsDecision && l.Decision is null);
        if (undecided > 0)
            return new Refusal(
                DoorRefusals.LinesUndecided,
                $"{undecided} {(undecided == 1 ? "line is" : "lines are")} short and nobody has said whether more comes.",
                "Choose more to come or never coming for each."
            );
        foreach (var (id, name) in vendorsCounted)
            if (!deliveryNotes.TryGetValue(id, out var note) || string.IsNullOrWhiteSpace(note))
                return new Refusal(
                    DoorRefusals.DeliveryNoteMissing,
                    $"The delivery note of {name} is missing.",
                    "Scan or type its number."
                );
        return null;
    }
}

/// <summary>What was posted for one vendor and delivery note when a tally was closed.</summary>
public sealed class Receipt
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public required int SiteId { get; init; }
    public required int ArrivalId { get; init; }
    public required int VendorId { get; init; }
    public required string DeliveryNote { get; init; }
    public required DateTimeOffset PostedAt { get; init; }
    public required string PostedBy { get; init; }

    /// <summary>When the vendor's invoice for it came; null while it may still be changed.</summary>
    public DateTimeOffset? InvoicedAt { get; private set; }

    /// <summary>Marks it as invoiced, once.</summary>
    public Refusal? Invoice(DateTimeOffset at)
    {
        if (ReversedAt is not null)
            return new Refusal(DoorRefusals.Reversed, $"{Number} is reversed.", "It cannot be invoiced.");
        if (InvoicedAt is not null)
            return new Refusal(HouseRefusals.Decided, $"{Number} is marked as invoiced already.", "There is nothing to do.");
        InvoicedAt = at;
        return null;
    }

    /// <summary>When the last of its goods was in its place; null before.</summary>
    public DateTimeOffset? SettledAt { get; private set; }

    /// <summary>The last of its goods is in its place.</summary>
    public void Settle(DateTimeOffset at) => SettledAt ??= at;

    /// <summary>When it was reversed, and the tally opened again.</summary>
    public DateTimeOffset? ReversedAt { get; private set; }

    /// <summary>Reverses it: what it posted counts as posted no longer.</summary>
    public void Reverse(DateTimeOffset at) => ReversedAt = at;
}

/// <summary>What kind of difference between paper and goods.</summary>
public enum DiscrepancyKind
{
    Over,
    Short,
    Damaged,
    ShortLife,
    LabelWrong,
    NotOnOrder,
    WrongItem,
    OtherSite,

    /// <summary>Something nobody has a name for yet.</summary>
    UnknownItem,

    /// <summary>Sent back with the vehicle: never taken in.</summary>
    Refused,
}

/// <summary>Words of differences.</summary>
public static class Discrepancies
{
    /// <summary>The kind as screens, papers and files call it.</summary>
    public static string Word(DiscrepancyKind kind) =>
        kind switch
        {
            DiscrepancyKind.Over => "over",
            DiscrepancyKind.Short => "short",
            DiscrepancyKind.Damaged => "damaged",
            DiscrepancyKind.ShortLife => "short life",
            DiscrepancyKind.LabelWrong => "label wrong",
            DiscrepancyKind.NotOnOrder => "on no order",
            DiscrepancyKind.WrongItem => "wrong item",
            DiscrepancyKind.OtherSite => "for another site",
            DiscrepancyKind.UnknownItem => "unknown item",
            DiscrepancyKind.Refused => "refused",
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };
}

/// <summary>Over, short, damaged: a difference found in a tally.</summary>
public sealed class Discrepancy
{
    public int Id { get; init; }
    public required int ArrivalId { get; init; }

    /// <summary>The item; null while nobody knows what it is.</summary>
    public int? ItemId { get; init; }
    public int? PartId { get; init; }
    public required DiscrepancyKind Kind { get; init; }
    public required decimal Quantity { get; init; }
    public required string Sentence { get; init; }
    public required DateTimeOffset At { get; init; }

    /// <summary>The count it came from, if it came from one; taking that back takes this back.</summary>
    public Guid? ActId { get; init; }
    public bool TakenBack { get; set; }
}
