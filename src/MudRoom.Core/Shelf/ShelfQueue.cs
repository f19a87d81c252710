using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Shelf;

/// <summary>Orders the queue of Shelf: what somebody waits for or a recall wants, then what is held and must leave the good goods, then
/// age.</summary>
public static class ShelfQueue
{
    /// <summary>
    /// True where goods may not stay: always in a staging place and on a truck; at the bench where their standing has no place
    /// there; in the cage where it has none and they are usable or fetched; anywhere else where goods of their standing are fetched.
    /// </summary>
    public static bool OnlyPassesThrough(BinFunction function, StandingDefinition standing) =>
        function switch
        {
            BinFunction.Staging or BinFunction.Truck => true,
            BinFunction.Bench => !standing.MayStand(BinFunction.Bench),
            BinFunction.Cage => (standing.Kind == StandingKind.Usable || standing.IsFetched) && !standing.MayStand(BinFunction.Cage),
            _ => standing.IsFetched && !standing.MayStand(function),
        };

    /// <summary>The places that goods may only pass through, by their standing.</summary>
    public static IReadOnlyList<BinFunction> Passing { get; } =
    [BinFunction.Staging, BinFunction.Bench, BinFunction.Cage, BinFunction.Truck];

    /// <summary>True for a place that goods of a standing may only pass through, as far as both alone can tell.</summary>
    public static bool MayPass(BinFunction function, StandingDefinition standing) => Passing.Contains(function) || standing.IsFetched;

    /// <summary>What must be let be done with goods that are to leave a place: out of a receiving place they are put away, out of others
    /// moved. On a truck they do not stay whatever is said of them.</summary>
    public static Lets ToLeave(BinFunction function) =>
        function switch
        {
            BinFunction.Staging => Lets.PutAway,
            BinFunction.Truck => Lets.None,
            _ => Lets.Move,
        };

    /// <summary>True where goods may not stay, and may be brought to their place.</summary>
    public static bool Waits(BinFunction function, StandingDefinition standing) =>
        OnlyPassesThrough(function, standing) && standing.Lets.HasFlag(ToLeave(function));

    /// <summary>True for goods that are in their place: they wait neither to be put away nor to be inspected.</summary>
    public static bool IsSettled(BinFunction function, StandingDefinition standing) =>
        !OnlyPassesThrough(function, standing) && standing.Kind != StandingKind.ToInspect;

    /// <summary>The task that a label means which several fit, or null where none does: one that waits before one that somebody has taken;
    /// usable goods before others, loose ones before units that only their own label tells apart, the oldest first.</summary>
    public static StoreTask? Meant(IEnumerable<StoreTask> tasks, SiteStandings standings) =>
        tasks
            .OrderByDescending(t => t.State == TaskState.Waiting)
            .ThenBy(t => standings.Order(t.Standing))
            .ThenByDescending(t => t.UnitId is null)
            .ThenBy(t => t.Since)
            .ThenBy(t => t.Id)
            .FirstOrDefault();

    /// <summary>The rank of a task that a driver has taken, lower first: one's own before all, those of others behind all.</summary>
    public static (int Rank, string Why) Taken(StoreTask task, int personId, DateTime at) =>
        task.PersonId == personId ? (0, "You have taken it.") : (8, $"{task.PersonName} has taken it, {at:HH:mm}.");

    /// <summary>The rank of goods that wait on one's own truck: they are in the hands already.</summary>
    public static (int Rank, string Why) OnOwnTruck => (0, "On your truck, and for another place: scan it.");

    /// <summary>The rank of waiting goods, lower first, and why.</summary>
    public static (int Rank, string Why) Place(StandingDefinition standing, string? waitedFor, DateTime since, DateTime now)
    {
        var age = $"Stands here for {RoadQueue.Span(Math.Max(0, (int)(now - since).TotalMinutes))}.";
        var goes = $"{char.ToUpperInvariant(standing.Word[0])}{standing.Word[1..]}: it goes to the {standing.PlaceWords}. {age}";
        return standing.Kind switch
        {
            StandingKind.Usable when waitedFor is not null => (1, $"Waited for: {waitedFor}. {(standing.IsBuiltIn ? age : goes)}"),
            _ when standing.Standing == Standing.Recalled => (1, goes),
            StandingKind.Held or StandingKind.Rejected => (2, goes),
            StandingKind.ToInspect => (3, goes),
            _ => (4, standing.IsBuiltIn ? age : goes),
        };
    }
}
