using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>A line part that could take counted goods.</summary>
/// <param name="PartId">Its id.</param>
/// <param name="OrderNumber">PO-4471.</param>
/// <param name="LineNumber">The line on it.</param>
/// <param name="OrderDate">When it was ordered.</param>
/// <param name="Due">When this part is due.</param>
/// <param name="Ordered">In base units.</param>
/// <param name="Received">All received on it so far, on any arrival.</param>
/// <param name="StillWaited">How much of it somebody still waits for: wanted less received so far, in base units.</param>
/// <param name="MinimumLife">Days of life that goods of its vendor must have left; null where only the item says so.</param>
/// <param name="IsShut">True for a part that is cancelled or closed: nothing more of it is wanted.</param>
/// <param name="VendorId">Whose order it is.</param>
public sealed record PartView(
    int PartId,
    string OrderNumber,
    int LineNumber,
    DateOnly OrderDate,
    DateOnly Due,
    decimal Ordered,
    decimal Received,
    decimal StillWaited,
    int? MinimumLife = null,
    bool IsShut = false,
    int VendorId = 0
)
{
    /// <summary>What it can still take.</summary>
    public decimal Open => IsShut ? 0 : Math.Max(0, Ordered - Received);

    /// <summary>How much of what it can still take somebody waits for.</summary>
    public decimal Waited => Math.Min(Open, StillWaited);
}

/// <summary>How much of a count goes on which part.</summary>
/// <param name="PartId">The part; null when no order of the arrival has the item.</param>
/// <param name="Quantity">In base units.</param>
/// <param name="Over">How much of the quantity is beyond what was ordered on the part.</param>
public sealed record Share(int? PartId, decimal Quantity, decimal Over);

/// <summary>The choice of order lines for one count, with its reason.</summary>
/// <param name="Shares">The parts that take it, in order.</param>
/// <param name="Reason">Why, in one sentence.</param>
/// <param name="EarlyParts">Parts that are due only beyond the horizon.</param>
/// <param name="Over">Sum of what is over, after this count, on the part that takes it.</param>
/// <param name="AllowedOver">How much may be over on that part.</param>
public sealed record Choice(
    IReadOnlyList<Share> Shares,
    string Reason,
    IReadOnlyList<PartView> EarlyParts,
    decimal Over,
    decimal AllowedOver
)
{
    /// <summary>True when more is over than may pass without a supervisor.</summary>
    public bool BeyondTolerance => Over > AllowedOver;
}

/// <summary>
/// Decides which order line counted goods belong to: the part the receiver chose; else what is still waited for, of every part; else
/// earliest due; else oldest order; else number. What a part cannot take flows on to the next; what none can take is over, booked on the
/// last that is due. A part that is cancelled or closed takes nothing while another is open, and all that it takes is over.
/// </summary>
public static class LineChoice
{
    /// <summary>Chooses. At least one part must be given.</summary>
    /// <param name="parts">Open for this site and on this arrival.</param>
    /// <param name="quantity">Counted now, in base units.</param>
    /// <param name="item">For its tolerance.</param>
    /// <param name="chosen">The part the receiver chose, or null.</param>
    /// <param name="today">The date at the site.</param>
    /// <param name="horizonDays">Parts due later than this many days from today are early.</param>
    public static Choice Choose(IReadOnlyList<PartView> parts, decimal quantity, Item item, int? chosen, DateOnly today, int horizonDays)
    {
        var wanted = parts.Any(p => !p.IsShut) ? parts.Where(p => !p.IsShut) : parts;
        var ordered = wanted
            .OrderByDescending(p => p.PartId == chosen)
            .ThenBy(p => p.Due)
            .ThenBy(p => p.OrderDate)
            .ThenBy(p => p.OrderNumber, StringComparer.Ordinal)
            .ThenBy(p => p.LineNumber)
            .ThenBy(p => p.PartId)
            .ToList();
        var takes = new Dictionary<int, decimal>();
        var left = quantity;
        foreach (var part in ordered.Where(p => p.PartId == chosen))
            Take(part, part.Open);
        // First what is waited for, of every part: what comes later then finds the same, however the count is cut.
        foreach (var part in ordered)
            Take(part, part.Waited);
        foreach (var part in ordered)
            Take(part, part.Open);
        var shares = takes.Select(t => new Share(t.Key, t.Value, 0)).ToList();

        void Take(PartView part, decimal upTo)
        {
            var more = Math.Min(left, upTo - takes.GetValueOrDefault(part.PartId));
            if (more <= 0)
                return;
            takes[part.PartId] = takes.GetValueOrDefault(part.PartId) + more;
            left -= more;
        }

        var over = 0m;
        var allowed = 0m;
        if (left > 0)
        {
            // Always the same one, however the goods were scanned: the last that is due within the horizon.
            var last = ordered.FindLast(p => p.Due <= today.AddDays(horizonDays)) ?? ordered[^1];
            var before = shares.Find(s => s.PartId == last.PartId)?.Quantity ?? 0;
            shares.RemoveAll(s => s.PartId == last.PartId);
            shares.Add(new Share(last.PartId, before + left, left));
            over = last.IsShut ? left : last.Received + before + left - last.Ordered;
            allowed = last.IsShut ? 0 : AllowedOver(item, last.Ordered);
        }

        var early = ordered.Where(p => p.Due > today.AddDays(horizonDays) && shares.Any(s => s.PartId == p.PartId)).ToList();
        return new Choice(shares, Reason(ordered, shares, item, chosen), early, over, allowed);
    }

    /// <summary>The choice for goods that are on no order here: all of it on none.</summary>
    public static Choice None(decimal quantity, Item item) =>
        new([new Share(null, quantity, 0)], $"{item.Name} is on no order of this arrival.", [], 0, 0);

    /// <summary>How much may be over on a part: percent of what was ordered, down to a whole step, not more than the cap.</summary>
    public static decimal AllowedOver(Item item, decimal ordered)
    {
        var byPercent = Math.Floor(ordered * item.OverPercent / 100 / item.Step) * item.Step;
        return item.OverCap is { } cap ? Math.Min(byPercent, cap) : byPercent;
    }

    static string Reason(List<PartView> ordered, List<Share> shares, Item item, int? chosen)
    {
        var first = ordered.Find(p => p.PartId == shares[0].PartId)!;
        if (shares[0].PartId == chosen)
            return $"{first.OrderNumber} was chosen by hand.";
        if (first.IsShut)
            return $"{first.OrderNumber} is cancelled or closed, and no other order has {item.Name}.";
        if (ordered.Count == 1)
            return $"{first.OrderNumber} is the only order with {item.Name} aboard.";
        if (first.Waited > 0)
            return $"{item.Name} is on {ordered.Count} order parts. Somebody waits for what is on {first.OrderNumber}.";
        var full = ordered.TakeWhile(p => p.PartId != first.PartId).LastOrDefault();
        if (full is not null)
            return $"{item.Name} is on {ordered.Count} order parts. {full.OrderNumber} is full, so {first.OrderNumber} is next.";
        return $"{item.Name} is on {ordered.Count} order parts. {first.OrderNumber} is due first, {first.Due:yyyy-MM-dd}.";
    }
}
