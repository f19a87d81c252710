using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>Where an order comes from.</summary>
public enum OrderKind
{
    Purchase,
    Transfer,
    CustomerReturn,
}

/// <summary>Whether an order may be tallied, and how far it has come.</summary>
public enum OrderState
{
    Draft,
    Open,
    Complete,
    ClosedShort,
    Cancelled,

    /// <summary>Open, and some of it has come. Stands last since states lie in the database by their place.</summary>
    PartlyReceived,
}

/// <summary>Somebody approved an order, elsewhere; imported and shown.</summary>
public sealed record Approval(string By, DateOnly On, string? Note);

/// <summary>One line part that a cancellation closed.</summary>
/// <param name="Received">What had come of it then: while it is the same, the cancellation can be taken back.</param>
public sealed record CancelledPart(int PartId, decimal Received);

/// <summary>What has not come of an order was cancelled.</summary>
public sealed record Cancellation(DateTimeOffset At, string By, string Reason, OrderState Before, IReadOnlyList<CancelledPart> Parts);

/// <summary>A purchase order, a transfer from another own site, or a customer return.</summary>
public sealed class Order
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public OrderKind Kind { get; init; }
    public required int VendorId { get; init; }
    public DateOnly OrderDate { get; init; }
    public OrderState State { get; private set; } = OrderState.Open;

    /// <summary>The large import it came with, 0 for none: it is hidden until that is whole.</summary>
    public int ImportId { get; init; }
    public List<Approval> Approvals { get; set; } = [];

    /// <summary>Set while what has not come is cancelled.</summary>
    public Cancellation? Cancellation { get; private set; }
    public List<OrderLine> Lines { get; init; } = [];

    /// <summary>The state as it is shown. While a tally goes on its orders are not touched: that some of it has come shows at once, and
    /// stands in the order when the tally is closed.</summary>
    /// <param name="state">As it is kept.</param>
    /// <param name="begun">True when some of it was counted.</param>
    public static OrderState Shown(OrderState state, bool begun) => state == OrderState.Open && begun ? OrderState.PartlyReceived : state;

    /// <summary>True for orders whose goods may be tallied.</summary>
    public bool IsOpen => State is OrderState.Open or OrderState.PartlyReceived;

    /// <summary>An order the office still works on: it can be seen, not tallied.</summary>
    public void MakeDraft()
    {
        State = OrderState.Draft;
        foreach (var part in Lines.SelectMany(l => l.Parts))
            part.SetDraft(true);
    }

    /// <summary>Opens a draft for receiving.</summary>
    public Refusal? OpenForReceiving()
    {
        if (State != OrderState.Draft)
            return new Refusal(RoadRefusals.NotDraft, $"{Number} is no draft.", "There is nothing to do.");
        State = OrderState.Open;
        foreach (var part in Lines.SelectMany(l => l.Parts))
            part.SetDraft(false);
        Follow();
        return null;
    }

    /// <summary>Cancels what has not come. What was received stays, and the order is then closed short.</summary>
    public Refusal? Cancel(string? reason, string by, DateTimeOffset at)
    {
        if (reason.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.NoteMissing, $"Say in at most 200 characters why {Number} is cancelled.", "Type the reason.");
        if (State is OrderState.Cancelled or OrderState.Complete or OrderState.ClosedShort)
            return new Refusal(RoadRefusals.OrderDone, $"{Number} is {Word(State)} already.", "Nothing is left to cancel.");
        var parts = Lines.SelectMany(l => l.Parts).ToList();
        var open = parts.Where(p => p.IsOpen || p.InDraft).ToList();
        Cancellation = new Cancellation(at, by, why, State, [.. open.Select(p => new CancelledPart(p.Id, p.Received))]);
        foreach (var part in open)
            part.CloseShort();
        State = parts.Any(p => p.Received > 0) ? OrderState.ClosedShort : OrderState.Cancelled;
        return null;
    }

    /// <summary>Takes a cancellation back while nothing else has happened to what it closed.</summary>
    public Refusal? TakeBackCancellation()
    {
        if (Cancellation is not { } cancelled)
            return new Refusal(RoadRefusals.NotCancelled, $"{Number} is not cancelled.", "Nothing is to be taken back.");
        var parts = Lines.SelectMany(l => l.Parts).ToDictionary(p => p.Id);
        if (cancelled.Parts.Any(c => !parts.TryGetValue(c.PartId, out var part) || !part.ClosedShort || part.Received != c.Received))
            return new Refusal(
                RoadRefusals.Meanwhile,
                $"Something of {Number} was received or changed since it was cancelled.",
                "Change its lines one by one."
            );
        foreach (var part in cancelled.Parts)
            parts[part.PartId].OpenAgain();
        State = cancelled.Before;
        Cancellation = null;
        Follow();
        return null;
    }

    /// <summary>Lets the state follow what its line parts say. Drafts and cancelled orders stay what they are.</summary>
    public void Follow()
    {
        if (State is OrderState.Draft or OrderState.Cancelled)
            return;
        var parts = Lines.SelectMany(l => l.Parts).ToList();
        if (parts.Any(p => p.IsOpen))
            State = parts.Any(p => p.Received > 0) ? OrderState.PartlyReceived : OrderState.Open;
        else
            State = parts.Any(p => p.ClosedShort) ? OrderState.ClosedShort : OrderState.Complete;
    }

    /// <summary>The state in words.</summary>
    public static string Word(OrderState state) =>
        state switch
        {
            OrderState.Draft => "a draft",
            OrderState.Open => "open for receiving",
            OrderState.PartlyReceived => "partly received",
            OrderState.Complete => "complete",
            OrderState.ClosedShort => "closed short",
            OrderState.Cancelled => "cancelled",
            _ => throw new ArgumentOutOfRangeException(nameof(state), state, null),
        };
}

/// <summary>A change of an order after it was made, with who and when. Never changed itself.</summary>
public sealed class OrderChange
{
    public int Id { get; init; }
    public required int OrderId { get; init; }
    public int? PartId { get; init; }

    /// <summary>What changed, in words.</summary>
    public required string Sentence { get; init; }

    /// <summary>A file's name, or "by hand".</summary>
    public required string Source { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
}

/// <summary>What a vendor promised about a line part when somebody called.</summary>
public sealed class Promise
{
    public int Id { get; init; }
    public required int PartId { get; init; }

    /// <summary>Who was spoken to.</summary>
    public required string With { get; init; }
    public required string Text { get; init; }

    /// <summary>The day they promised, if any.</summary>
    public DateOnly? For { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
}

/// <summary>One item on an order.</summary>
public sealed class OrderLine
{
    public int Id { get; init; }
    public Order? Order { get; init; }
    public int OrderId { get; init; }
    public required int Number { get; init; }
    public required int ItemId { get; init; }

    /// <summary>Price per base unit; only for those with the right.</summary>
    public decimal? Price { get; set; }
    public List<LinePart> Parts { get; init; } = [];

    /// <summary>What the office wants to be known of it.</summary>
    public string? Note { get; set; }

    /// <summary>Why a customer sends it back, and what they were promised; null for lines of other orders.</summary>
    public ReturnTerms? Return { get; init; }

    /// <summary>True where the order itself asks that what comes on this line is inspected, whatever rules say.</summary>
    public bool AsksInspection { get; set; }

    /// <summary>The delivery that a change is about: that of the date, else the only one; null where it cannot be told.</summary>
    /// <param name="due">As the change names it.</param>
    /// <param name="several">True where the change names several deliveries of the line: then only the date tells.</param>
    public LinePart? PartDue(DateOnly? due, bool several) =>
        Parts.Find(p => p.Due == due) ?? (several || Parts.Count != 1 ? null : Parts[0]);
}

/// <summary>One dated part of a line's delivery schedule; what the tally counts against.</summary>
public sealed class LinePart
{
    decimal ordered;
    int siteId;

    public int Id { get; init; }
    public OrderLine? Line { get; init; }
    public int LineId { get; init; }

    /// <summary>The item of its line, kept here too so that the parts of an item are found by one index.</summary>
    public required int ItemId { get; init; }
    public required int SiteId
    {
        get => siteId;
        init => siteId = value;
    }

    /// <summary>The vendor of its order, kept here too so that what a vendor owes is found by one index.</summary>
    public int VendorId { get; init; }
    public DateOnly Due { get; set; }

    /// <summary>The large import it came with, 0 for none: it is hidden until that is whole.</summary>
    public int ImportId { get; init; }

    /// <summary>The day what carries it is expected; null when nothing is planned. Kept with the row so that lists of what falls late use
    /// an index.</summary>
    public DateOnly? Coming { get; private set; }

    /// <summary>In base units.</summary>
    public decimal Ordered
    {
        get => ordered;
        init => ordered = value;
    }
    public decimal Received { get; private set; }

    /// <summary>True when somebody decided that the rest never comes.</summary>
    public bool ClosedShort { get; private set; }

    /// <summary>How much of it somebody waits for: a job or a customer order.</summary>
    public decimal WaitingQuantity { get; set; }

    /// <summary>How much is still waited for: what came was for who waits first.</summary>
    public decimal StillWaited => Math.Max(0, WaitingQuantity - Received);

    /// <summary>Who waits, in words.</summary>
    public string? WaitingFor { get; set; }

    /// <summary>By when it is waited for, on the site's wall clock; null where nobody said.</summary>
    public DateTime? WaitingBy { get; set; }

    /// <summary>Who waits, and by when; null where nobody does.</summary>
    public string? WaitingWords => WordsOf(WaitingFor, WaitingBy);

    /// <inheritdoc cref="WaitingWords"/>
    public static string? WordsOf(string? who, DateTime? by) => who is null ? null : Reservation.WordsOf(who, by);

    /// <summary>What is still to come; 0 when more came than was ordered.</summary>
    public decimal Open => ClosedShort ? 0 : Math.Max(0, Ordered - Received);

    /// <summary>What may still be put on a vehicle: open, and aboard no other.</summary>
    /// <param name="aboard">What other open arrivals carry of it and nobody has counted.</param>
    public decimal Free(decimal aboard) => Math.Max(0, Open - aboard);

    /// <summary>Kept with the row so that lists of what is open use an index.</summary>
    public bool IsOpen { get; private set; } = true;

    /// <summary>True while its order is a draft: not open for receiving, whatever is still to come.</summary>
    public bool InDraft { get; private set; }

    /// <summary>Its order becomes a draft, or is opened for receiving.</summary>
    public void SetDraft(bool draft)
    {
        InDraft = draft;
        Set(Received, ClosedShort);
    }

    /// <summary>It is to be delivered to another own site.</summary>
    public void DeliverTo(int site) => siteId = site;

    /// <summary>It is expected on a day, or nothing carries it.</summary>
    public void ExpectOn(DateOnly? day) => Coming = day;

    /// <summary>Books what was counted.</summary>
    public void Receive(decimal quantity) => Set(Received + quantity, ClosedShort);

    /// <summary>Takes back what was counted.</summary>
    public void TakeBack(decimal quantity) => Set(Received - quantity, ClosedShort);

    /// <summary>Changes what is ordered, never below what was received. A part that was closed short opens again.</summary>
    public Refusal? Reorder(decimal quantity)
    {
        if (quantity < Received)
            return new Refusal(
                RoadRefusals.BelowReceived,
                $"{Quantities.Show(Received)} were received already; {Quantities.Show(quantity)} would be fewer.",
                "Order at least what has come, or return the rest."
            );
        ordered = quantity;
        Set(Received, false);
        return null;
    }

    /// <summary>Moves when it is due; refused beyond what can be a date of trade.</summary>
    public Refusal? Reschedule(DateOnly due, DateOnly today)
    {
        if (Math.Abs(due.DayNumber - today.DayNumber) > MostDays)
            return new Refusal(HouseRefusals.DateAbsurd, $"{due:yyyy-MM-dd} is more than ten years from today.", "Look at the date.");
        Due = due;
        return null;
    }

    /// <summary>Days from today beyond which a date due is taken for a mistake.</summary>
    public const int MostDays = 3660;

    /// <summary>The rest may come after all.</summary>
    public void OpenAgain() => Set(Received, false);

    /// <summary>The rest never comes.</summary>
    public void CloseShort() => Set(Received, true);

    void Set(decimal received, bool closedShort)
    {
        Received = received;
        ClosedShort = closedShort;
        IsOpen = Open > 0 && !InDraft;
    }
}
