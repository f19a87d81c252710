using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>Adds whole orders or single line parts to an arrival.</summary>
public sealed record AddToArrivalRequest(string Arrival, IReadOnlyList<string>? Orders, IReadOnlyList<int>? Parts);

/// <summary>Takes lines off an arrival: they stay open on their orders.</summary>
public sealed record TakeOffRequest(string Arrival, IReadOnlyList<int> Lines);

/// <summary>How much of a line part is aboard: the rest comes on another vehicle.</summary>
/// <param name="Quantity">In base units.</param>
public sealed record CarryRequest(string Arrival, int Line, string Quantity);

/// <summary>It does not come after all.</summary>
public sealed record WithdrawRequest(string Arrival, string Reason);

/// <summary>What is known of the vehicle and its papers.</summary>
public sealed record ArrivalDetailsRequest(
    string Arrival,
    string Vehicle,
    string? Plate,
    string? Haulier,
    string? Container,
    bool NotIso6346,
    string? SizeType,
    string? ShippingLine,
    string? Vessel,
    string? Voyage,
    string? PortFrom,
    string? PortTo,
    string? Seal,
    Handling Handling,
    int Units
);

/// <summary>A decision over something in a despatch advice that does not fit.</summary>
public sealed record DecideDifferenceRequest(string Arrival, int Difference, string Decision);

/// <summary>Changes an arrival before it is tallied.</summary>
public static class ChangeArrival
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<AddToArrivalRequest, DoneAnswer>("/road/arrivals/add", Right.PlanArrivals, Add);
        routes.Act<TakeOffRequest, DoneAnswer>("/road/arrivals/take-off", Right.PlanArrivals, TakeOff);
        routes.Act<CarryRequest, DoneAnswer>("/road/arrivals/carry", Right.PlanArrivals, Carry);
        routes.Act<WithdrawRequest, DoneAnswer>("/road/arrivals/withdraw", Right.PlanArrivals, Withdraw);
        routes.Act<ArrivalDetailsRequest, DoneAnswer>("/road/arrivals/details", Right.PlanArrivals, Details);
        routes.Act<DecideDifferenceRequest, DoneAnswer>("/road/arrivals/decide-difference", Right.PlanArrivals, DecideDifference);
    }

    public static async Task<Outcome<DoneAnswer>> Add(Act act, AddToArrivalRequest request)
    {
        var arrival = await act.Db.Arrivals.Include(a => a.Manifest).Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (await Begun(act, arrival) is { } begun)
            return begun;
        var orders = (request.Orders ?? []).Select(o => o.Trim()).ToList();
        var ids = (request.Parts ?? []).ToList();
        if (orders.Count + ids.Count == 0)
            return new Refusal(RoadRefusals.OrdersMissing, "Nothing was chosen.", "Choose an order or a line.");
        foreach (var number in orders)
            if (!await act.Db.Orders.AnyAsync(o => o.Number == number))
                return Problems.NotFound("order", number);
        var parts = await act
            .Db.LineParts.Include(p => p.Line!)
                .ThenInclude(l => l.Order)
            .Where(p => ids.Contains(p.Id) || orders.Contains(p.Line!.Order!.Number))
            .ToListAsync();
        if (parts.Find(p => ids.Contains(p.Id) && p.SiteId != act.Site.Id) is { } foreign)
            return new Refusal(
                HouseRefusals.OtherSite,
                $"{foreign.Line!.Order!.Number} line {foreign.Line.Number} is for another site.",
                "It is counted there, or taken as such when it is found aboard."
            );
        if (parts.Find(p => ids.Contains(p.Id) && !p.IsOpen) is { } shut)
            return new Refusal(
                RoadRefusals.OrderNotOpen,
                $"{shut.Line!.Order!.Number} line {shut.Line.Number} is not open for receiving.",
                "Ask the buyer."
            );
        var partIds = parts.Select(p => p.Id).ToList();
        var aboard = await Aboard.Read(act.Db, partIds);
        var added = parts.Where(p => p.SiteId == act.Site.Id && p.IsOpen && aboard.Free(p) > 0).ToList();
        if (added.Count == 0)
            return new Refusal(
                HouseRefusals.NothingOpen,
                aboard.Arrivals.Count > 0
                    ? $"All of it is aboard {string.Join(", ", aboard.Arrivals)} already."
                    : "Nothing of it is open for this site.",
                "Choose other lines."
            );
        foreach (var part in added)
        {
            // The rest of a line that is aboard already is aboard too.
            if (arrival.Manifest.Find(m => m.PartId == part.Id) is { } there)
                there.Expected += aboard.Free(part);
            else
                arrival.Manifest.Add(new ManifestLine { Part = part, Expected = aboard.Free(part) });
        }

        arrival.UnitsAboard += LoadOf.Units(act.SetUp, arrival.Handling, added);
        act.Write(new LinesAdded(arrival.Number, [.. added.Select(p => new LineNamed(p.Line!.Order!.Number, p.Line.Number))]));
        return await Done(act, arrival, partIds, $"{Quantities.Many(added.Count, "line")} added to {arrival.Number}.");
    }

    public static async Task<Outcome<DoneAnswer>> TakeOff(Act act, TakeOffRequest request)
    {
        var arrival = await act
            .Db.Arrivals.Include(a => a.Manifest)
                .ThenInclude(m => m.Part!)
                    .ThenInclude(p => p.Line!)
                        .ThenInclude(l => l.Order)
            .Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.State > ArrivalState.AtDoor)
            return new Refusal(HouseRefusals.TallyClosed, $"{arrival.Number} is counted in or withdrawn.", "Its lines stay as they are.");
        var lines = arrival.Manifest.Where(m => (request.Lines ?? []).Contains(m.Id)).ToList();
        if (lines.Count == 0)
            return new Refusal(RoadRefusals.LinesMissing, "No line of this arrival was chosen.", "Choose a line.");
        if (lines.Find(m => m.Counted > 0) is { } counted)
            return new Refusal(
                RoadRefusals.Counted,
                $"{counted.Part!.Line!.Order!.Number} line {counted.Part.Line.Number} is being counted already.",
                "Take back its counts first."
            );
        if (lines.Find(m => m.InTransit > 0) is { } ours)
            return new Refusal(
                RoadRefusals.InTransit,
                $"{ours.Part!.Line!.Order!.Number} line {ours.Part.Line.Number} is ours on the way.",
                "Give it back to the vendor's account first, or send it to another site."
            );
        foreach (var line in lines)
            arrival.Manifest.Remove(line);
        act.Db.RemoveRange(lines);
        act.Write(
            new LinesTakenOff(arrival.Number, [.. lines.Select(m => new LineNamed(m.Part!.Line!.Order!.Number, m.Part.Line.Number))])
        );
        return await Done(
            act,
            arrival,
            [.. lines.Select(l => l.PartId)],
            $"{lines.Count} {(lines.Count == 1 ? "line is" : "lines are")} off {arrival.Number} and stay open on their orders."
        );
    }

    public static async Task<Outcome<DoneAnswer>> Carry(Act act, CarryRequest request)
    {
        var arrival = await act
            .Db.Arrivals.Include(a => a.Manifest)
                .ThenInclude(m => m.Part!)
                    .ThenInclude(p => p.Line!)
                        .ThenInclude(l => l.Order)
            .Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.State > ArrivalState.AtDoor)
            return new Refusal(HouseRefusals.TallyClosed, $"{arrival.Number} is counted in or withdrawn.", "Its lines stay as they are.");
        if (arrival.Manifest.Find(m => m.Id == request.Line) is not { } line)
            return new Refusal(RoadRefusals.LinesMissing, "No line of this arrival was chosen.", "Choose a line.");
        var read = Quantities.Read(request.Quantity, act.Site.DecimalComma);
        if (read.Refused(out var unread))
            return unread;
        var item = act.SetUp.Catalogue[line.Part!.ItemId];
        var was = line.Expected;
        if (line.Carry(read.Value, item) is { } refusal)
            return refusal;
        var carried = new LineCarried(
            arrival.Number,
            new LineNamed(line.Part.Line!.Order!.Number, line.Part.Line.Number),
            Amount.Of(line.Expected, item),
            was
        );
        act.Write(carried);
        return await Done(act, arrival, [line.PartId], act.Words(carried));
    }

    public static async Task<Outcome<DoneAnswer>> Withdraw(Act act, WithdrawRequest request)
    {
        var arrival = await act.Db.Arrivals.Include(a => a.Manifest).Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        return await Withdraw(act, arrival, request.Reason);
    }

    /// <summary>The withdrawal itself, with its entry; the arrival is here with its manifest.</summary>
    public static async Task<Outcome<DoneAnswer>> Withdraw(Act act, Arrival arrival, string? reason)
    {
        var counted = await act.Db.TallyEntries.AnyAsync(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null);
        if (arrival.Withdraw(reason, counted, act.Now) is { } refusal)
            return refusal;
        foreach (var advice in await act.Db.DespatchAdvices.Where(d => d.ArrivalId == arrival.Id).ToListAsync())
            advice.End(act.Now);
        act.Write(new ArrivalWithdrawn(arrival.Number, arrival.WithdrawnWhy!));
        act.Touch("door");
        var onSite =
            arrival.GateInAt is not null && arrival.GateOutAt is null ? " Its vehicle is still on site: let it out at the gate." : "";
        return await Done(
            act,
            arrival,
            [.. arrival.Manifest.Select(m => m.PartId)],
            $"{arrival.Number} is withdrawn. Its lines are open on their orders again.{onSite}"
        );
    }

    /// <summary>A withdrawal is taken back: its advices speak for it again, and its lines come on it. Refused where they are aboard another
    /// arrival meanwhile.</summary>
    /// <param name="since">When it was withdrawn.</param>
    public static async Task<Refusal?> ComesAfterAll(Act act, Arrival arrival, DateTimeOffset since)
    {
        var lines = await act.Db.ManifestLines.Include(m => m.Part!).Where(m => m.ArrivalId == arrival.Id).ToListAsync();
        var aboard = await Aboard.Read(act.Db, [.. lines.Select(l => l.PartId)], arrival.Id);
        if (lines.Find(l => aboard.Free(l.Part!) < l.StillAboard) is { } gone)
            return new Refusal(
                RoadRefusals.Meanwhile,
                aboard.Of(gone.Part!) is [var other, ..]
                    ? $"Lines of {arrival.Number} are aboard {other} meanwhile."
                    : $"Lines of {arrival.Number} are open no longer.",
                "Take them off there first, or make a new arrival of what is open."
            );
        foreach (var advice in await act.Db.DespatchAdvices.Where(d => d.ArrivalId == arrival.Id && d.EndedAt == since).ToListAsync())
            advice.HoldAgain();
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, [.. lines.Select(l => l.PartId)]);
        return null;
    }

    public static async Task<Outcome<DoneAnswer>> Details(Act act, ArrivalDetailsRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.State > ArrivalState.AtDoor)
            return new Refusal(HouseRefusals.TallyClosed, $"{arrival.Number} is counted in or withdrawn.", "Its papers stay as they are.");
        var vehicle = (request.Vehicle ?? "").Trim();
        if (!Arrival.Vehicles.Contains(vehicle))
            return new Refusal(
                HouseRefusals.VehicleUnknown,
                $"{vehicle} is no kind of vehicle.",
                "Choose truck, container, van or parcel."
            );
        if (request.Units is < 1 or > 100_000)
            return new Refusal(
                RoadRefusals.UnitsAbsurd,
                $"{request.Units} units cannot be right.",
                "Say how many pallets, cartons or parcels are aboard."
            );
        string? container = null;
        if (!string.IsNullOrWhiteSpace(request.Container))
        {
            var read = Containers.Read(request.Container, request.NotIso6346);
            if (read.Refused(out var wrong))
                return wrong;
            container = read.Value;
            if (await Containers.OpenElsewhere(act, container, arrival.Id) is { } twice)
                return twice;
            if (!string.IsNullOrWhiteSpace(request.SizeType) && SizeType.Read(request.SizeType) is null)
                return new Refusal(
                    RoadRefusals.SizeTypeUnknown,
                    $"{request.SizeType} is no size and type code of ISO 6346.",
                    "It has four characters, as 42G1."
                );
        }

        foreach (
            var text in new[]
            {
                request.Plate,
                request.Haulier,
                request.ShippingLine,
                request.Vessel,
                request.Voyage,
                request.PortFrom,
                request.PortTo,
                request.Seal,
            }
        )
            if ((text ?? "").Length > 60)
                return new Refusal(HouseRefusals.NoteLong, "A field has more than 60 characters.", "Shorten it.");
        arrival.Vehicle = vehicle;
        arrival.Plate = request.Plate.OrNull();
        arrival.Haulier = request.Haulier.OrNull();
        arrival.Seal = request.Seal.OrNull();
        arrival.ContainerNumber = container;
        arrival.Papers = container is null
            ? null
            : new ContainerPapers(
                !request.NotIso6346,
                request.SizeType.OrNull()?.ToUpperInvariant(),
                request.ShippingLine.OrNull(),
                request.Vessel.OrNull(),
                request.Voyage.OrNull(),
                request.PortFrom.OrNull(),
                request.PortTo.OrNull()
            );
        arrival.Handling = request.Handling;
        arrival.UnitsAboard = request.Units;
        act.Write(new ArrivalDescribed(arrival.Number, vehicle, container, request.Units, request.Handling));
        return await Done(act, arrival, [], $"{arrival.Number} is changed.");
    }

    public static async Task<Outcome<DoneAnswer>> DecideDifference(Act act, DecideDifferenceRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var difference = await act.Db.AdviceDifferences.FirstOrDefaultAsync(d => d.ArrivalId == arrival.Id && d.Id == request.Difference);
        if (difference is null)
            return Problems.NotFound("difference", request.Difference.ToString());
        if (difference.Decide(request.Decision ?? "", act.Person.Name, act.Now) is { } refusal)
            return refusal;
        act.Write(new DifferenceDecided(arrival.Number, difference.Sentence, difference.Decision!));
        return await Done(act, arrival, [], "Decided.");
    }

    static async Task<Refusal?> Begun(Act act, Arrival arrival) =>
        arrival.State > ArrivalState.AtDoor || await act.Db.TallyEntries.AnyAsync(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null)
            ? new Refusal(
                RoadRefusals.TallyBegun,
                $"{arrival.Number} is being counted already.",
                "Count what else is aboard by its order, or make a new arrival."
            )
            : null;

    static async Task<DoneAnswer> Done(Act act, Arrival arrival, List<int> partIds, string sentence)
    {
        await act.Db.SaveChangesAsync();
        if (partIds.Count > 0)
            await Coming.Renew(act, partIds);
        act.Touch("road", "yard", "house", "arrival:" + arrival.Number);
        return new DoneAnswer(sentence);
    }
}
