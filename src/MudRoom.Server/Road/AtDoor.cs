using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>Brings an arrival to a door.</summary>
/// <param name="Reason">Why a rule that only warns is overruled.</param>
public sealed record AtDoorRequest(string Arrival, int Door, string? Reason = null);

/// <summary>An arrival stands at a door: from now it can be tallied.</summary>
public static class AtDoor
{
    public static void Map(SiteRoutes routes) => routes.Act<AtDoorRequest, DoneAnswer>("/road/at-door", Right.PlanArrivals, Run);

    public static async Task<Outcome<DoneAnswer>> Run(Act act, AtDoorRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var door = act.SetUp.Doors.Values.FirstOrDefault(d => d.SiteId == act.Site.Id && d.Number == request.Door);
        if (door is null)
            return Problems.NotFound("door", request.Door.ToString());
        if (await Bring(act, arrival, door, request.Reason) is { } refusal)
            return refusal;
        return new DoneAnswer($"{arrival.Number} is at door {door.Number}.");
    }

    /// <summary>The move itself, with its entry.</summary>
    public static async Task<Refusal?> Bring(Act act, Arrival arrival, DockDoor door, string? reason)
    {
        var standsThere = await act.Db.Arrivals.FirstOrDefaultAsync(a =>
            a.DoorId == door.Id && a.State == ArrivalState.AtDoor && a.EmptyAt == null
        );
        if (arrival.ToDoor(door, act.Now, standsThere) is { } refusal)
            return refusal;
        if (await RulesOfDoor(act, arrival, door, reason.OrNull()) is { } broken)
            return broken;
        act.Write(new BroughtToDoor(arrival.Number, door.Number));
        act.Touch("road", "yard", "door", "house", "arrival:" + arrival.Number);
        return null;
    }

    /// <summary>What the plan forbids is forbidden at the door too; what it warns of wants a reason, which stays.</summary>
    static async Task<Refusal?> RulesOfDoor(Act act, Arrival arrival, DockDoor door, string? reason)
    {
        var items = await act.Db.ManifestLines.Where(m => m.ArrivalId == arrival.Id).Select(m => m.Part!.ItemId).Distinct().ToListAsync();
        var classes = items.Select(i => act.SetUp.Catalogue[i].StorageClass).ToList();
        IReadOnlyList<BrokenRule> Broken(DockDoor d) =>
            PlanCheck.OfDoor(new DoorToPlan(d.Number, d.Vehicles, d.Special), arrival.Number, arrival.Vehicle, classes, act.PlanSettings);
        var broken = Broken(door).Where(b => arrival.PlannedDoorId != door.Id || arrival.Overrulings.All(o => o.Rule != b.Rule)).ToList();
        if (broken.Find(b => b.Force == RuleForce.Hard) is { } hard)
        {
            var fit = act
                .SetUp.Doors.Values.Where(d => d.SiteId == act.Site.Id && Broken(d).All(b => b.Force != RuleForce.Hard))
                .Select(d => d.Number)
                .Order()
                .ToList();
            return new Refusal(
                RoadRefusals.PlanBreaksRule,
                hard.Sentence,
                fit.Count > 0 ? $"Bring it to door {string.Join(" or ", fit)}." : "No door of this site is made for it: ask the supervisor."
            );
        }

        if (broken.Count == 0)
            return null;
        if (reason is not { Length: <= 200 })
            return new Refusal(
                RoadRefusals.PlanWarns,
                broken[0].Sentence,
                "Say in at most 200 characters why it goes there all the same, or choose another door."
            );
        foreach (var rule in broken)
            arrival.Overrule(new Overruling(rule.Rule, reason, act.Person.Name, act.Now));
        act.Write(new DoorOverruled(arrival.Number, door.Number, [.. broken.Select(b => b.Rule)], reason));
        return null;
    }
}
