using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Yard;

/// <summary>Lets an arrival in at the gate.</summary>
/// <param name="Spot">Where it is sent.</param>
/// <param name="Container">The number read at the gate, compared with the plan.</param>
/// <param name="Seal">The seal found.</param>
/// <param name="SealReason">Forced when the seal differs or is broken; with a picture attached before.</param>
public sealed record LetInRequest(string Arrival, string Spot, string? Container = null, string? Plate = null, string? Seal = null, string? SealReason = null);

/// <summary>A visit that nobody had planned, taken in as such.</summary>
public sealed record UnplannedRequest(string Vehicle, string? Plate, string? Container, string? Haulier, string? Seal, string Spot, IReadOnlyList<string>? Orders);

/// <summary>A step of a vehicle.</summary>
public sealed record StepRequest(string Arrival, YardStep Step);

/// <summary>Where a vehicle really stands.</summary>
public sealed record SpotRequest(string Arrival, string Spot);

/// <summary>Takes the last step of a vehicle back.</summary>
public sealed record StepBackRequest(string Arrival, string? Reason);

/// <summary>Steps after the gate. Unloaded and counted in are states of their own.</summary>
public enum YardStep
{
    Call,
    Unloaded,
    Empty,
    GateOut,
}

/// <summary>What the gate hand does.</summary>
public static class GateActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<LetInRequest, DoneAnswer>("/yard/let-in", Right.KeepGate, LetIn);
        routes.Act<UnplannedRequest, MakeArrivalAnswer>("/yard/unplanned", Right.KeepGate, Unplanned);
        routes.Act<StepRequest, DoneAnswer>("/yard/step", Right.KeepGate, Step);
        routes.Act<SpotRequest, DoneAnswer>("/yard/stands-at", Right.KeepGate, StandsAt);
        routes.Act<StepBackRequest, DoneAnswer>("/yard/take-back", Right.KeepGate, TakeBack);
    }

    public static async Task<Outcome<DoneAnswer>> LetIn(Act act, LetInRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null) return Problems.NotFound("arrival", request.Arrival);
        var spot = await SpotOf(act, request.Spot, arrival);
        if (spot.Refused(out var badSpot)) return badSpot;
        if (!string.IsNullOrWhiteSpace(request.Container) && arrival.ContainerNumber is { } planned)
        {
            var read = ContainerNumber.Read(request.Container);
            if (arrival.Papers?.Iso6346 != false && read.Refused(out var wrong)) return wrong;
            if (!ContainerNumber.Same(planned, request.Container))
                return new Refusal("container-differs", $"{arrival.Number} is to bring {planned}; at the gate stands {request.Container.Trim()}.", "Find the arrival of this container, or take it in as unplanned.");
        }

        if (!string.IsNullOrWhiteSpace(request.SealReason) && !await act.Db.Attachments.AnyAsync(a => a.ArrivalId == arrival.Id && a.MediaType.StartsWith("image/")))
            return new Refusal("picture-missing", "A broken or different seal wants a picture.", "Take one, then let it in.");
        if (arrival.LetIn(act.Now, spot.Value, act.Site.LocalTime, request.Seal, request.SealReason) is { } refusal) return refusal;
        if (!string.IsNullOrWhiteSpace(request.Plate)) arrival.Plate = request.Plate.Trim();
        var seal = arrival.SealReason is { } reason ? $" Seal {arrival.SealFound}: {reason}." : arrival.SealFound is { } found ? $" Seal {found}." : "";
        act.Write(EntryKind.AtGate, arrival.Number, $"{arrival.Number} let in, spot {spot.Value}.{seal}");
        Touch(act, arrival);
        return new DoneAnswer($"{arrival.Number} stands at spot {spot.Value}.");
    }

    /// <summary>A vehicle nobody planned: an arrival of its own, with the orders its papers name, if any.</summary>
    public static async Task<Outcome<MakeArrivalAnswer>> Unplanned(Act act, UnplannedRequest request)
    {
        var vehicle = (request.Vehicle ?? "").Trim();
        if (vehicle is not ("truck" or "container" or "van" or "parcel")) return new Refusal("vehicle-unknown", "Say what stands at the gate.", "Choose truck, container, van or parcel.");
        if (string.IsNullOrWhiteSpace(request.Plate) && string.IsNullOrWhiteSpace(request.Container)) return new Refusal("plate-missing", "Nothing tells this vehicle from another.", "Type its plate or its container number.");
        string number;
        if (request.Orders is { Count: > 0 } orders)
        {
            var made = await MakeArrival.Run(act, new MakeArrivalRequest(orders, null, vehicle, request.Container, request.Seal, request.Plate, request.Haulier, null, false));
            if (made.Refused(out var refusal)) return refusal;
            number = made.Value.Number;
        }
        else
        {
            string? container = null;
            if (!string.IsNullOrWhiteSpace(request.Container))
            {
                var read = ContainerNumber.Read(request.Container);
                if (read.Refused(out var bad)) return bad;
                container = read.Value.ToString();
                if (await Containers.OpenElsewhere(act, container, null) is { } twice) return twice;
            }

            number = await act.ArrivalNumber();
            act.Db.Arrivals.Add(new Arrival
            {
                Number = number,
                SiteId = act.Site.Id,
                Vehicle = vehicle,
                Plate = request.Plate.OrNull(),
                ContainerNumber = container,
                Haulier = request.Haulier.OrNull(),
                Seal = null,
                Booked = act.Now,
                Planned = act.Now,
                Unplanned = true,
                Handling = LoadRules.Handling(vehicle, []),
                UnitsAboard = 1,
            });
            act.Write(EntryKind.ArrivalMade, number, $"{number}: a {vehicle} that nobody had planned. Its orders are to be named.");
            await act.Db.SaveChangesAsync();
        }

        var letIn = await LetIn(act, new LetInRequest(number, request.Spot, null, null, request.Seal));
        if (letIn.Refused(out var no)) return no;
        return new MakeArrivalAnswer(number);
    }

    public static async Task<Outcome<DoneAnswer>> Step(Act act, StepRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null) return Problems.NotFound("arrival", request.Arrival);
        var door = (arrival.DoorId ?? arrival.PlannedDoorId) is { } id ? act.SetUp.Doors[id].Number : (int?)null;
        if (request.Step == YardStep.Call && door is null) return new Refusal("door-missing", $"{arrival.Number} has no door yet.", "Ask the supervisor to plan it.");
        var (refusal, sentence) = request.Step switch
        {
            YardStep.Call => (arrival.Call(act.Now), $"{arrival.Number} called to door {door}."),
            YardStep.Unloaded => (arrival.Unload(act.Now, act.Site.LocalTime), $"{arrival.Number} is unloaded."),
            YardStep.Empty => (arrival.LeaveEmpty(act.Now, act.Site.LocalTime), $"{arrival.Number} is empty and has left the door."),
            YardStep.GateOut => (arrival.GateOut(act.Now, act.Site.LocalTime), $"{arrival.Number} is out of the gate."),
            _ => throw new ArgumentOutOfRangeException(nameof(request), request.Step, null),
        };
        if (refusal is not null) return refusal;
        act.Write(EntryKind.AtGate, arrival.Number, sentence);
        Touch(act, arrival);
        return new DoneAnswer(sentence);
    }

    public static async Task<Outcome<DoneAnswer>> StandsAt(Act act, SpotRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null) return Problems.NotFound("arrival", request.Arrival);
        var spot = await SpotOf(act, request.Spot, arrival);
        if (spot.Refused(out var badSpot)) return badSpot;
        var was = arrival.YardSpot;
        if (arrival.StandsAt(spot.Value) is { } refusal) return refusal;
        act.Write(EntryKind.AtGate, arrival.Number, $"{arrival.Number} stands at spot {spot.Value}, not at {was}.");
        Touch(act, arrival);
        return new DoneAnswer($"{arrival.Number} stands at spot {spot.Value}.");
    }

    public static async Task<Outcome<DoneAnswer>> TakeBack(Act act, StepBackRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null) return Problems.NotFound("arrival", request.Arrival);
        var counted = await act.Db.TallyEntries.AnyAsync(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null);
        var taken = arrival.TakeStepBack(counted);
        if (taken.Refused(out var refusal)) return refusal;
        var why = string.IsNullOrWhiteSpace(request.Reason) ? "" : $": {request.Reason.Trim()}";
        act.Write(EntryKind.StepTakenBack, arrival.Number, $"{arrival.Number}: {taken.Value} taken back{why}.");
        act.Touch("door");
        Touch(act, arrival);
        return new DoneAnswer($"{arrival.Number}: {taken.Value} taken back.");
    }

    /// <summary>A spot of this yard that is free and takes the vehicle. Sites that list no spots take any name.</summary>
    static async Task<Outcome<string>> SpotOf(Act act, string? typed, Arrival arrival)
    {
        var name = (typed ?? "").Trim();
        if (name.Length is 0 or > 20) return new Refusal("spot-missing", "No yard spot was named.", "Say where the vehicle stands.");
        var spots = await act.Db.YardSpots.Where(s => s.SiteId == act.Site.Id).ToListAsync();
        var spot = spots.Find(s => s.Number.Equals(name, StringComparison.OrdinalIgnoreCase));
        if (spots.Count > 0 && spot is null) return new Refusal("spot-unknown", $"This yard has no spot {name}.", $"It has {string.Join(", ", spots.Select(s => s.Number))}.");
        if (spot is not null && !spot.Vehicles.Contains(arrival.Vehicle)) return new Refusal("spot-unfit", $"Spot {spot.Number} takes {string.Join(" and ", spot.Vehicles)}; this is a {arrival.Vehicle}.", "Choose a spot that fits.");
        name = spot?.Number ?? name;
        if (await act.Db.Arrivals.FirstOrDefaultAsync(a => a.SiteId == act.Site.Id && a.State == ArrivalState.InYard && a.YardSpot == name && a.Id != arrival.Id) is { } there)
            return new Refusal("spot-taken", $"{there.Number} stands at spot {name}.", "Choose another spot.");
        return name;
    }

    static void Touch(Act act, Arrival arrival) => act.Touch("road", "yard", "house", "arrival:" + arrival.Number);
}
