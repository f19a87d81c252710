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
}

/// <summary>A purchase order, a transfer from another own site, or a customer return.</summary>
public sealed class Order
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public OrderKind Kind { get; init; }
    public required int VendorId { get; init; }
    public DateOnly OrderDate { get; init; }
    public OrderState State { get; private set; } = OrderState.Open;
    public List<OrderLine> Lines { get; init; } = [];

    /// <summary>An order the office still works on: it can be seen, not tallied.</summary>
    public void MakeDraft() => State = OrderState.Draft;

    /// <summary>Lets the state follow what its line parts say. Drafts and cancelled orders stay what they are.</summary>
    public void Follow()
    {
        if (State is OrderState.Draft or OrderState.Cancelled) return;
        var parts = Lines.SelectMany(l => l.Parts).ToList();
        if (parts.Any(p => p.IsOpen)) State = OrderState.Open;
        else State = parts.Any(p => p.ClosedShort) ? OrderState.ClosedShort : OrderState.Complete;
    }
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
    public decimal? Price { get; init; }
    public List<LinePart> Parts { get; init; } = [];
}

/// <summary>One dated part of a line's delivery schedule; what the tally counts against.</summary>
public sealed class LinePart
{
    public int Id { get; init; }
    public OrderLine? Line { get; init; }
    public int LineId { get; init; }

    /// <summary>The item of its line, kept here too so that the parts of an item are found by one index.</summary>
    public required int ItemId { get; init; }
    public required int SiteId { get; init; }
    public DateOnly Due { get; set; }

    /// <summary>In base units.</summary>
    public decimal Ordered { get; init; }
    public decimal Received { get; private set; }

    /// <summary>True when somebody decided that the rest never comes.</summary>
    public bool ClosedShort { get; private set; }

    /// <summary>How much of it somebody waits for: a job or a customer order.</summary>
    public decimal WaitingQuantity { get; set; }

    /// <summary>Who waits, in words.</summary>
    public string? WaitingFor { get; set; }

    /// <summary>What is still to come; 0 when more came than was ordered.</summary>
    public decimal Open => ClosedShort ? 0 : Math.Max(0, Ordered - Received);

    /// <summary>Kept with the row so that lists of what is open use an index.</summary>
    public bool IsOpen { get; private set; } = true;

    /// <summary>Books what was counted.</summary>
    public void Receive(decimal quantity) => Set(Received + quantity, ClosedShort);

    /// <summary>Takes back what was counted.</summary>
    public void TakeBack(decimal quantity) => Set(Received - quantity, ClosedShort);

    /// <summary>The rest never comes.</summary>
    public void CloseShort() => Set(Received, true);

    void Set(decimal received, bool closedShort)
    {
        Received = received;
        ClosedShort = closedShort;
        IsOpen = Open > 0;
    }
}
