using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Shelf;

/// <summary>Orders the queue of Shelf: what somebody waits for, then what is held and must leave the good goods, then age.</summary>
public static class ShelfQueue
{
    /// <summary>
    /// True where goods may not stay: always in a staging place; at the bench once they are no longer to inspect; in the cage once they are
    /// usable.
    /// </summary>
    public static bool OnlyPassesThrough(BinFunction function, Standing standing) =>
        function switch
        {
            BinFunction.Staging => true,
            BinFunction.Bench => standing != Standing.ToInspect,
            BinFunction.Cage => standing == Standing.Usable,
            _ => false,
        };

    /// <summary>True for goods that are in their place: they wait neither to be put away nor to be inspected.</summary>
    public static bool IsSettled(BinFunction function, Standing standing) =>
        !OnlyPassesThrough(function, standing) && standing != Standing.ToInspect;

    /// <summary>The rank of waiting goods, lower first, and why.</summary>
    public static (int Rank, string Why) Place(Standing standing, string? waitedFor, DateTime since, DateTime now)
    {
        var age = $"Stands here for {RoadQueue.Span(Math.Max(0, (int)(now - since).TotalMinutes))}.";
        return standing switch
        {
            Standing.Usable when waitedFor is not null => (1, $"Waited for: {waitedFor}. {age}"),
            Standing.Held or Standing.Rejected => (2, $"{Capital(standing)}: it goes to the cage. {age}"),
            Standing.ToInspect => (3, $"To inspect: it goes to the bench. {age}"),
            _ => (4, age),
        };
    }

    static string Capital(Standing standing) => standing == Standing.Held ? "Held" : "Rejected";
}
