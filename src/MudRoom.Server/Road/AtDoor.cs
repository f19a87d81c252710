using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>Brings an arrival to a door.</summary>
public sealed record AtDoorRequest(string Arrival, int Door);

/// <summary>Done.</summary>
public sealed record DoneAnswer(string Sentence);

/// <summary>An arrival stands at a door: from now it can be tallied.</summary>
public static class AtDoor
{
    public static void Map(SiteRoutes routes) => routes.Act<AtDoorRequest, DoneAnswer>("/road/at-door", Right.PlanArrivals, Run);

    public static async Task<Outcome<DoneAnswer>> Run(Act act, AtDoorRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null) return Problems.NotFound("arrival", request.Arrival);
        var door = act.SetUp.Doors.Values.FirstOrDefault(d => d.SiteId == act.Site.Id && d.Number == request.Door);
        if (door is null) return Problems.NotFound("door", request.Door.ToString());
        if (await Bring(act, arrival, door) is { } refusal) return refusal;
        return new DoneAnswer($"{arrival.Number} is at door {door.Number}.");
    }

    /// <summary>The move itself, with its entry.</summary>
    public static async Task<Refusal?> Bring(Act act, Arrival arrival, DockDoor door)
    {
        var standsThere = await act.Db.Arrivals.FirstOrDefaultAsync(a => a.DoorId == door.Id && a.State == ArrivalState.AtDoor && a.EmptyAt == null);
        if (arrival.ToDoor(door, act.Now, standsThere) is { } refusal) return refusal;
        act.Write(EntryKind.AtDoor, arrival.Number, $"{arrival.Number} at door {door.Number}.");
        act.Touch("road", "yard", "door", "house", "arrival:" + arrival.Number);
        return null;
    }
}
