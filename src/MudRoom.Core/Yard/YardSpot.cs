namespace MudRoom.Core.Yard;

/// <summary>A place in the yard where a vehicle can stand.</summary>
public sealed class YardSpot
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required string Number { get; init; }

    /// <summary>Kinds of vehicle that fit: truck, container, van, parcel.</summary>
    public required List<string> Vehicles { get; set; }

    /// <summary>True where a refrigerated vehicle can be plugged in.</summary>
    public bool ColdPlug { get; set; }

    /// <summary>Metres from the west wall, as doors have it.</summary>
    public decimal X { get; set; }
}

/// <summary>The spot proposed for a vehicle, with its reason.</summary>
public sealed record SpotProposal(string? Spot, string Reason);

/// <summary>Chooses a yard spot.</summary>
public static class YardRules
{
    /// <summary>Proposes: the type must fit; cold goods get a plug, others leave plugs free; then the spot nearest to the planned
    /// door.</summary>
    /// <param name="taken">Numbers of spots where something stands.</param>
    /// <param name="doorX">Where the planned door is, or null.</param>
    public static SpotProposal Propose(IEnumerable<YardSpot> spots, IReadOnlySet<string> taken, string vehicle, bool cold, decimal? doorX)
    {
        var all = spots.ToList();
        var fitting = all.Where(s => s.Vehicles.Contains(vehicle)).ToList();
        var free = fitting.Where(s => !taken.Contains(s.Number)).ToList();
        if (free.Count == 0)
            return new SpotProposal(
                null,
                fitting.Count == 0 ? $"No spot of this yard takes a {vehicle}." : $"All {fitting.Count} spots for a {vehicle} are taken."
            );
        var best = free.OrderByDescending(s => cold && s.ColdPlug)
            .ThenBy(s => s.ColdPlug && !cold)
            .ThenBy(s => doorX is { } x ? Math.Abs(s.X - x) : 0)
            .ThenBy(s => s.Number, StringComparer.Ordinal)
            .First();
        var why =
            cold && best.ColdPlug ? "it has a plug for cold goods"
            : cold ? "no spot with a plug is free"
            : doorX is null ? "the first that is free"
            : "the nearest free one to its door";
        return new SpotProposal(best.Number, $"Spot {best.Number}: fits a {vehicle}, {why}.");
    }
}

/// <summary>How a container stands against the free days its shipping line gives.</summary>
/// <param name="DaysUsed">Begun days since gate-in.</param>
/// <param name="DaysLeft">Free days left; below 0 when they are used up.</param>
public sealed record Detention(int DaysUsed, int DaysLeft, string Sentence)
{
    /// <summary>Works it out: the day of gate-in is the first.</summary>
    public static Detention Of(DateOnly gateIn, DateOnly today, int freeDays)
    {
        var used = today.DayNumber - gateIn.DayNumber + 1;
        var left = freeDays - used;
        return new Detention(
            used,
            left,
            left switch
            {
                < 0 => $"{-left} {(left == -1 ? "day" : "days")} beyond the {freeDays} free days: it costs money.",
                0 => $"The last of {freeDays} free days.",
                _ => $"Day {used} of {freeDays} free days.",
            }
        );
    }
}
