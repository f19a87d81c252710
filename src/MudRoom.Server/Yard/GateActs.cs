using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Yard;

/// <summary>Lets an arrival in at the gate.</summary>
/// <param name="Spot">Where it is sent.</param>
/// <param name="Container">The number read at the gate, compared with the plan as plate and seal are.</param>
/// <param name="Seal">The seal found.</param>
/// <param name="Word">Why something differs or could not be read; a seal that differs wants a picture attached before.</param>
public sealed record LetInRequest(
    string Arrival,
    string Spot,
    string? Container = null,
    string? Plate = null,
    string? Seal = null,
    string? Word = null
);

/// <summary>It is sent away: not let in, or out again as full as it came.</summary>
public sealed record TurnAwayRequest(string Arrival, string Reason);

/// <summary>A visit that nobody had planned, taken in as such.</summary>
/// <param name="Spot">Where it is sent; blank for the one the rules propose.</param>
/// <param name="Word">Why its plate is on site already, where it is.</param>
public sealed record UnplannedRequest(
    string Vehicle,
    string? Plate,
    string? Container,
    string? Haulier,
    string? Seal,
    string? Spot,
    IReadOnlyList<string>? Orders,
    string? Word = null
);

/// <summary>A step of a vehicle.</summary>
public sealed record StepRequest(string Arrival, YardStep Step);

/// <summary>Where a vehicle really stands.</summary>
public sealed record SpotRequest(string Arrival, string Spot);

/// <summary>Takes the last step of a vehicle back.</summary>
public sealed record StepBackRequest(string Arrival, string? Reason);

/// <summary>What the gate hand does.</summary>
public static class GateActs
{
    /// <summary>A vehicle that came longer ago has left, whatever the book says.</summary>
    const int DaysOnSite = 30;

    public static void Map(SiteRoutes routes)
    {
        routes.Act<LetInRequest, DoneAnswer>("/yard/let-in", Right.KeepGate, LetIn);
        routes.Act<UnplannedRequest, MakeArrivalAnswer>("/yard/unplanned", Right.KeepGate, Unplanned);
        routes.Act<StepRequest, DoneAnswer>("/yard/step", Right.KeepGate, Step);
        routes.Act<SpotRequest, DoneAnswer>("/yard/stands-at", Right.KeepGate, StandsAt);
        routes.Act<TurnAwayRequest, DoneAnswer>("/yard/turn-away", Right.KeepGate, TurnAway);
        routes.Act<StepBackRequest, DoneAnswer>("/yard/take-back", Right.KeepGate, TakeBack);
    }

    public static async Task<Outcome<DoneAnswer>> LetIn(Act act, LetInRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var spot = await SpotOf(act, request.Spot, arrival);
        if (spot.Refused(out var badSpot))
            return badSpot;
        string? container = null;
        if (request.Container.OrNull() is { } typed)
        {
            var read = Containers.Read(typed, notIso: arrival.Papers?.Iso6346 == false || !ContainerNumber.LooksLike(typed));
            if (read.Refused(out var wrong))
                return wrong;
            container = read.Value;
            if (await Containers.OpenElsewhere(act, container, arrival.Id) is { } twice)
                return twice;
        }

        if (request.Plate.OrNull() is { } plate && request.Word.OrNull() is null && await OnSite(act, plate, arrival.Id) is { } there)
            return new Refusal(
                YardRefusals.PlateOnSite,
                $"Plate {plate} is on site already, with {there.Number}.",
                "Look again. If it is so, say why."
            );
        if (
            arrival.Seal is { } seal
            && request.Seal.OrNull() is { } other
            && !GateRules.Same(seal, other)
            && request.Word.OrNull() is not null
            && !await act.Db.Attachments.AnyAsync(a => a.ArrivalId == arrival.Id && a.MediaType.StartsWith("image/"))
        )
            return new Refusal(HouseRefusals.PictureMissing, "A broken or different seal wants a picture.", "Take one, then let it in.");
        var letIn = arrival.LetIn(
            act.Now,
            new GateFinding(spot.Value, container, request.Plate.OrNull(), request.Seal.OrNull(), request.Word),
            act.Site.LocalTime
        );
        if (letIn.Refused(out var refusal))
            return refusal;
        var why = letIn.Value.Count > 0 ? arrival.SealReason ?? request.Word!.Trim() : null;
        act.Write(new LetIn(arrival.Number, spot.Value, letIn.Value, why, arrival.SealFound));
        Touch(act, arrival);
        return new DoneAnswer($"{arrival.Number} stands at spot {spot.Value}.");
    }

    /// <summary>The arrival that is on site with a plate, other than the one at the gate.</summary>
    static async Task<Arrival?> OnSite(Act act, string plate, int but) =>
        (
            await act
                .Db.Arrivals.Where(a =>
                    a.SiteId == act.Site.Id
                    && a.GateInAt != null
                    && a.GateOutAt == null
                    && a.Plate != null
                    && a.Id != but
                    && a.GateInAt > act.Now.AddDays(-DaysOnSite)
                )
                .ToListAsync()
        ).Find(a => GateRules.Same(a.Plate, plate));

    /// <summary>Sends a vehicle away: its arrival is withdrawn, and it is out of the gate where it was let in.</summary>
    public static async Task<Outcome<DoneAnswer>> TurnAway(Act act, TurnAwayRequest request)
    {
        var arrival = await act.Db.Arrivals.Include(a => a.Manifest).Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var withdrawn = await ChangeArrival.Withdraw(act, arrival, request.Reason);
        if (withdrawn.Refused(out var refusal))
            return refusal;
        if (arrival.GateInAt is not null && arrival.GateOut(act.Now, act.Site.LocalTime) is { } notOut)
            return notOut;
        act.Write(new SentAway(arrival.Number, arrival.WithdrawnWhy!));
        Touch(act, arrival);
        return new DoneAnswer($"{arrival.Number} is sent away. Its lines are open on their orders again.");
    }

    /// <summary>A vehicle nobody planned: an arrival of its own, with the orders its papers name, if any.</summary>
    public static async Task<Outcome<MakeArrivalAnswer>> Unplanned(Act act, UnplannedRequest request)
    {
        var vehicle = (request.Vehicle ?? "").Trim();
        if (!Arrival.Vehicles.Contains(vehicle))
            return new Refusal(HouseRefusals.VehicleUnknown, "Say what stands at the gate.", "Choose truck, container, van or parcel.");
        if (string.IsNullOrWhiteSpace(request.Plate) && string.IsNullOrWhiteSpace(request.Container))
            return new Refusal(
                YardRefusals.PlateMissing,
                "Nothing tells this vehicle from another.",
                "Type its plate or its container number."
            );
        if (request.Plate.OrNull() is { } plate && request.Word.OrNull() is null && await OnSite(act, plate, but: 0) is { } same)
            return new Refusal(
                YardRefusals.PlateOnSite,
                $"Plate {plate} is on site already, with {same.Number}.",
                "Look again. If it is so, say why."
            );
        string number;
        if (request.Orders is { Count: > 0 } orders)
        {
            var made = await MakeArrival.Run(
                act,
                new MakeArrivalRequest(orders, null, vehicle, request.Container, request.Seal, request.Plate, request.Haulier, null, false)
            );
            if (made.Refused(out var refusal))
                return refusal;
            number = made.Value.Number;
        }
        else
        {
            string? container = null;
            if (!string.IsNullOrWhiteSpace(request.Container))
            {
                var read = ContainerNumber.Read(request.Container);
                if (read.Refused(out var bad))
                    return bad;
                container = read.Value.ToString();
                if (await Containers.OpenElsewhere(act, container, null) is { } twice)
                    return twice;
            }

            number = await act.ArrivalNumber();
            act.Db.Arrivals.Add(
                new Arrival
                {
                    Number = number,
                    SiteId = act.Site.Id,
                    Vehicle = vehicle,
                    Plate = request.Plate.OrNull(),
                    ContainerNumber = container,
                    Haulier = request.Haulier.OrNull(),
                    Seal = request.Seal.OrNull(),
                    Booked = act.Now,
                    Planned = act.Now,
                    Unplanned = true,
                    Handling = LoadRules.Handling(vehicle, []),
                    UnitsAboard = 1,
                }
            );
            act.Write(new UnplannedCame(number, vehicle));
            await act.Db.SaveChangesAsync();
        }

        var visitor = await act.Db.Arrivals.Numbered(act.Site, number);
        var letIn = await LetIn(
            act,
            new LetInRequest(
                number,
                request.Spot.OrNull() ?? await ProposedSpot(act, visitor!),
                visitor!.ContainerNumber,
                request.Plate,
                request.Seal,
                request.Word
            )
        );
        if (letIn.Refused(out var no))
            return no;
        return new MakeArrivalAnswer(number);
    }

    public static async Task<Outcome<DoneAnswer>> Step(Act act, StepRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var door = (arrival.DoorId ?? arrival.PlannedDoorId) is { } id ? act.SetUp.Doors[id].Number : (int?)null;
        if (request.Step == YardStep.Call && door is null)
            return new Refusal(HouseRefusals.DoorMissing, $"{arrival.Number} has no door yet.", "Ask the supervisor to plan it.");
        if (request.Step == YardStep.AtDoor)
        {
            if (arrival.CalledAt is null)
                return new Refusal(YardRefusals.NotCalled, $"{arrival.Number} was not called to a door.", "Call it first.");
            if (await AtDoor.Bring(act, arrival, act.SetUp.Doors[arrival.PlannedDoorId!.Value], null) is { } notThere)
                return notThere;
            return new DoneAnswer($"{arrival.Number} is at door {door}.");
        }

        var refusal = request.Step switch
        {
            YardStep.Call => arrival.Call(act.Now),
            YardStep.Unloaded => arrival.Unload(act.Now, act.Site.LocalTime),
            YardStep.Empty => arrival.LeaveEmpty(act.Now, act.Site.LocalTime),
            YardStep.GateOut => arrival.GateOut(act.Now, act.Site.LocalTime),
            _ => throw new ArgumentOutOfRangeException(nameof(request), request.Step, null),
        };
        if (refusal is not null)
            return refusal;
        var done = new StepDone(arrival.Number, request.Step, request.Step == YardStep.Call ? door : null);
        act.Write(done);
        Touch(act, arrival);
        return new DoneAnswer(act.Words(done));
    }

    public static async Task<Outcome<DoneAnswer>> StandsAt(Act act, SpotRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var spot = await SpotOf(act, request.Spot, arrival);
        if (spot.Refused(out var badSpot))
            return badSpot;
        var was = arrival.YardSpot;
        if (arrival.StandsAt(spot.Value) is { } refusal)
            return refusal;
        act.Write(new StoodElsewhere(arrival.Number, spot.Value, was));
        Touch(act, arrival);
        return new DoneAnswer($"{arrival.Number} stands at spot {spot.Value}.");
    }

    public static async Task<Outcome<DoneAnswer>> TakeBack(Act act, StepBackRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var counted = await act.Db.TallyEntries.AnyAsync(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null);
        var withdrawnAt = arrival.WithdrawnAt;
        var taken = arrival.TakeStepBack(counted);
        if (taken.Refused(out var refusal))
            return refusal;
        if (
            withdrawnAt is { } since
            && arrival.WithdrawnAt is null
            && await ChangeArrival.ComesAfterAll(act, arrival, since) is { } meanwhile
        )
            return meanwhile;
        act.Write(new StepTakenBack(arrival.Number, taken.Value, request.Reason.OrNull()));
        act.Touch("door");
        Touch(act, arrival);
        return new DoneAnswer($"{arrival.Number}: {taken.Value} taken back.");
    }

    /// <summary>A spot of this yard that is free and takes the vehicle. Sites that list no spots take any name.</summary>
    static async Task<Outcome<string>> SpotOf(Act act, string? typed, Arrival arrival)
    {
        var name = (typed ?? "").Trim();
        if (name.Length is 0 or > 20)
            return new Refusal(HouseRefusals.SpotMissing, "No yard spot was named.", "Say where the vehicle stands.");
        var spots = await act.Db.YardSpots.Where(s => s.SiteId == act.Site.Id).ToListAsync();
        var spot = spots.Find(s => s.Number.Equals(name, StringComparison.OrdinalIgnoreCase));
        if (spots.Count > 0 && spot is null)
            return new Refusal(
                YardRefusals.SpotUnknown,
                $"This yard has no spot {name}.",
                $"It has {string.Join(", ", spots.Select(s => s.Number))}."
            );
        if (spot is not null && !spot.Vehicles.Contains(arrival.Vehicle))
            return new Refusal(
                YardRefusals.SpotUnfit,
                $"Spot {spot.Number} takes {string.Join(" and ", spot.Vehicles)}; this is a {arrival.Vehicle}.",
                "Choose a spot that fits."
            );
        name = spot?.Number ?? name;
        if (
            await act.Db.Arrivals.FirstOrDefaultAsync(a =>
                a.SiteId == act.Site.Id && a.State == ArrivalState.InYard && a.YardSpot == name && a.Id != arrival.Id
            ) is
            { } there
        )
            return new Refusal(HouseRefusals.SpotTaken, $"{there.Number} stands at spot {name}.", "Choose another spot.");
        return name;
    }

    /// <summary>The spot the rules propose; blank where none is free.</summary>
    static async Task<string> ProposedSpot(Act act, Arrival arrival)
    {
        var spots = await act.Db.YardSpots.Where(s => s.SiteId == act.Site.Id).ToListAsync();
        var taken = (
            await act
                .Db.Arrivals.Where(a => a.SiteId == act.Site.Id && a.State == ArrivalState.InYard && a.YardSpot != null)
                .Select(a => a.YardSpot!)
                .ToListAsync()
        ).ToHashSet();
        return YardRules.Propose(spots, taken, arrival.Vehicle, cold: false, doorX: null).Spot ?? "";
    }

    static void Touch(Act act, Arrival arrival) => act.Touch("road", "yard", "house", "arrival:" + arrival.Number);
}
