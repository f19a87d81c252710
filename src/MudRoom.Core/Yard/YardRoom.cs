namespace MudRoom.Core.Yard;

/// <summary>A vehicle that stands in the yard, from the gate until it is at its door.</summary>
/// <param name="Vehicle">truck, container, van, parcel.</param>
/// <param name="To">The first moment at which the spot is free again.</param>
public sealed record YardStay(string Vehicle, DateTime From, DateTime To)
{
    /// <summary>True when it stands there at that moment.</summary>
    public bool StandsAt(DateTime at) => From <= at && at < To;
}

/// <summary>Whether a yard has room, by kind of vehicle.</summary>
public static class YardRoom
{
    /// <summary>
    /// Sets of kinds that fight for the same spots, each with the number of spots that take any of them. Every vehicle finds a spot just
    /// when, at each
    /// moment, no set has more vehicles than spots (Hall 1935, On representatives of subsets).
    /// </summary>
    /// <param name="spots">Of each spot, the kinds it takes.</param>
    /// <param name="kinds">The kinds that may come.</param>
    public static IReadOnlyList<(IReadOnlySet<string> Kinds, int Spots)> Limits(
        IReadOnlyList<IReadOnlyList<string>> spots,
        IEnumerable<string> kinds
    )
    {
        var all = kinds.Distinct().ToList();
        return
        [
            .. Enumerable
                .Range(1, (1 << all.Count) - 1)
                .Select(chosen =>
                {
                    IReadOnlySet<string> set = all.Where((_, i) => (chosen >> i & 1) == 1).ToHashSet();
                    return (set, spots.Count(s => s.Any(set.Contains)));
                }),
        ];
    }

    /// <summary>Why there is no room for a vehicle while it waits, or null. A yard that lists no spots has room for all.</summary>
    public static string? Lacks(IReadOnlyList<IReadOnlyList<string>> spots, YardStay stay, IEnumerable<YardStay> others)
    {
        if (spots.Count == 0 || stay.To <= stay.From)
            return null;
        var fitting = spots.Count(s => s.Contains(stay.Vehicle));
        if (fitting == 0)
            return $"No spot of this yard takes a {stay.Vehicle}.";
        var there = others.Where(o => o.From < stay.To && stay.From < o.To && spots.Any(s => s.Contains(o.Vehicle))).ToList();
        if (there.Count < fitting)
            return null;
        var limits = Limits(spots, there.Select(o => o.Vehicle).Append(stay.Vehicle)).Where(l => l.Kinds.Contains(stay.Vehicle)).ToList();
        foreach (var at in there.Select(o => o.From).Where(f => f > stay.From).Append(stay.From).Order())
            if (limits.Any(l => there.Count(o => o.StandsAt(at) && l.Kinds.Contains(o.Vehicle)) + 1 > l.Spots))
                return $"All {fitting} {(fitting == 1 ? "spot" : "spots")} for a {stay.Vehicle} are taken at {at:HH:mm}.";
        return null;
    }
}
