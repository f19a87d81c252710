using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>What a load is likely to look like, from what is aboard, when nobody has said it.</summary>
public static class LoadRules
{
    /// <summary>Parcels come as parcels; containers are floor-loaded unless all aboard comes on labelled pallets; all else is
    /// palletised.</summary>
    public static Handling Handling(string vehicle, IEnumerable<Item> items) =>
        vehicle switch
        {
            "parcel" or "van" => Road.Handling.Parcels,
            "container" when items.Any(i => !i.PackLevels.Any(p => p.IsUnit)) => Road.Handling.FloorLoaded,
            _ => Road.Handling.Palletised,
        };

    /// <summary>How much a minute of lateness counts: more where somebody waits for what is not counted yet, or where goods are
    /// cold.</summary>
    public static int Weight(bool isWaitedFor, bool isCold) => 1 + (isWaitedFor ? 3 : 0) + (isCold ? 2 : 0);

    /// <summary>When it is, or is thought to be, at the gate: let in; else its estimate while that lies ahead; else the booked time less
    /// the way from the gate. Who is late and has not said when comes, as far as anybody knows, now.</summary>
    public static DateTimeOffset AtGate(
        DateTimeOffset? letIn,
        DateTimeOffset? estimate,
        DateTimeOffset booked,
        int gateMinutes,
        DateTimeOffset now,
        bool isToday
    )
    {
        if (letIn is { } there)
            return there;
        var thought = estimate is { } eta && eta > now ? eta : booked.AddMinutes(-gateMinutes);
        return isToday && thought < now ? now : thought;
    }

    /// <summary>When it begins at its door: as planned, or, for one that comes later than planned on the same day, as soon as it can be
    /// there, on the next five minutes.</summary>
    public static DateTime Start(DateTime planned, DateTime atGate, int gateMinutes)
    {
        var earliest = atGate.AddMinutes(gateMinutes);
        if (planned >= earliest || atGate <= planned || atGate.Date != planned.Date)
            return planned;
        const long five = TimeSpan.TicksPerMinute * 5;
        return new DateTime((earliest.Ticks + five - 1) / five * five, earliest.Kind);
    }

    /// <summary>How many pallets, cartons or parcels a quantity comes on: the largest pack for pallets, the largest that is no pallet for
    /// the others; at least one.</summary>
    public static int Units(Handling handling, IEnumerable<(Item Item, decimal Quantity)> aboard) =>
        Math.Max(
            1,
            aboard.Sum(a =>
            {
                var packs = handling == Road.Handling.Palletised ? a.Item.PackLevels : [.. a.Item.PackLevels.Where(p => !p.IsUnit)];
                var content = packs.Max(p => p.Content(1));
                // A pallet holds what is not packed on pallets by about a cubic metre.
                if (handling == Road.Handling.Palletised && !a.Item.PackLevels.Any(p => p.IsUnit) && a.Item.Volume > 0)
                    content = Math.Max(content, Math.Floor(1000 / a.Item.Volume));
                return (int)Math.Ceiling(a.Quantity / Math.Max(1, content));
            })
        );
}
