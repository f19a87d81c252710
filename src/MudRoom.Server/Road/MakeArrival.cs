using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>An arrival to be made from whole orders.</summary>
/// <param name="Orders">Their numbers; what is open for this site goes aboard.</param>
/// <param name="Planned">Wall clock at the site; null for now.</param>
/// <param name="Vehicle">truck, container, van, parcel.</param>
/// <param name="Container">Its number, checked by ISO 6346.</param>
/// <param name="Door">Planned door.</param>
/// <param name="Number">A number given elsewhere, of a booking; null for the site's next.</param>
/// <param name="DeliveryNote">The paper that came with it, when all orders are of one vendor.</param>
/// <param name="Reason">Why a rule of the door that only warns is overruled.</param>
/// <param name="AtOnce">True to bring it to the door now: an order scanned at a door with no arrival planned.</param>
public sealed record MakeArrivalRequest(
    IReadOnlyList<string> Orders,
    DateTime? Planned,
    string? Vehicle,
    string? Container,
    string? Seal,
    string? Plate,
    string? Haulier,
    int? Door,
    bool AtOnce,
    string? Number = null,
    Handling? Handling = null,
    int? Units = null,
    IReadOnlyList<int>? Crew = null,
    bool NotIso6346 = false,
    ContainerPapers? Papers = null,
    IReadOnlyList<int>? Parts = null,
    bool Unplanned = false,
    string? DeliveryNote = null,
    string? Reason = null
);

/// <summary>The arrival that was made.</summary>
public sealed record MakeArrivalAnswer(string Number);

/// <summary>Makes an arrival from what is open on orders.</summary>
public static class MakeArrival
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<MakeArrivalRequest, MakeArrivalAnswer>("/road/arrivals", Right.PlanArrivals, Run);
        routes.Act<MakeArrivalRequest, MakeArrivalAnswer>("/door/open-on-the-spot", Right.Tally, (act, request) =>
            Run(act, request with { AtOnce = true, Planned = null })
        );
    }

    public static async Task<Outcome<MakeArrivalAnswer>> Run(Act act, MakeArrivalRequest request)
    {
        var numbers = (request.Orders ?? []).Select(o => o.Trim()).Distinct().ToList();
        if (numbers.Count == 0)
            return new Refusal(RoadRefusals.OrdersMissing, "No order was named.", "Choose the orders whose goods are aboard.");
        string? container = null;
        if (!string.IsNullOrWhiteSpace(request.Container))
        {
            var read = Containers.Read(request.Container, request.NotIso6346);
            if (read.Refused(out var badNumber))
                return badNumber;
            container = read.Value;
            if (await Containers.OpenElsewhere(act, container, null) is { } twice)
                return twice;
        }

        // Papers and people write numbers in any case.
        List<string> cases = [.. numbers, .. numbers.Select(n => n.ToUpperInvariant()), .. numbers.Select(n => n.ToLowerInvariant())];
        var orders = await act.Db.Orders.Include(o => o.Lines).ThenInclude(l => l.Parts).Where(o => cases.Contains(o.Number)).ToListAsync();
        foreach (var named in numbers)
        {
            var order = orders.Find(o => o.Number.Equals(named, StringComparison.OrdinalIgnoreCase));
            if (order is null)
                return Problems.NotFound("order", named);
            if (!order.IsOpen)
                return new Refusal(RoadRefusals.OrderNotOpen, $"{named} is not open for receiving.", "Ask the buyer.");
        }

        var open = orders
            .SelectMany(o => o.Lines)
            .SelectMany(l => l.Parts)
            .Where(p => p.SiteId == act.Site.Id && p.IsOpen && (request.Parts is null || request.Parts.Contains(p.Id)))
            .ToList();
        var aboard = await Aboard.Read(act.Db, [.. open.Select(p => p.Id)]);
        var parts = open.Where(p => aboard.Free(p) > 0).ToList();
        if (parts.Count == 0)
            return new Refusal(
                HouseRefusals.NothingOpen,
                $"Nothing of {string.Join(", ", numbers)} is open for this site, or it is aboard another arrival already.",
                "Look at the order's page."
            );
        var planned = request.Planned is { } wall ? act.Site.Instant(wall) : act.Now;
        if (Math.Abs((planned - act.Now).TotalDays) > 400)
            return new Refusal(HouseRefusals.DateAbsurd, "The planned time is more than a year away.", "Look at the date.");
        var door = request.Door is { } wanted
            ? act.SetUp.Doors.Values.FirstOrDefault(d => d.SiteId == act.Site.Id && d.Number == wanted)
            : null;
        if (request.Door is not null && door is null)
            return Problems.NotFound("door", request.Door.ToString()!);
        if (request.AtOnce && door is null)
            return new Refusal(HouseRefusals.DoorMissing, "No door was named.", "Say at which door the goods are.");

        var number = string.IsNullOrWhiteSpace(request.Number) ? await act.ArrivalNumber() : request.Number.Trim();
        if (number.Length > 20 || await act.Db.Arrivals.AnyAsync(a => a.Number == number))
            return new Refusal(
                HouseRefusals.NumberTaken,
                $"There is an arrival {number} already, or the number has more than 20 characters.",
                "Leave it blank to be given the next."
            );
        var arrival = new Arrival
        {
            Number = number,
            SiteId = act.Site.Id,
            Planned = planned,
            Booked = planned,
            Unplanned = request.AtOnce || request.Unplanned,
            Handling = request.Handling ?? LoadOf.Handling(act.SetUp, request.Vehicle, parts),
            UnitsAboard = request.Units
                ?? LoadOf.Units(act.SetUp, request.Handling ?? LoadOf.Handling(act.SetUp, request.Vehicle, parts), parts),
            Vehicle = string.IsNullOrWhiteSpace(request.Vehicle) ? "truck" : request.Vehicle.Trim(),
            ContainerNumber = container,
            Papers = container is null
                ? null
                : (request.Papers ?? new ContainerPapers(true, null, null, null, null, null, null)) with
                {
                    Iso6346 = !request.NotIso6346,
                },
            Seal = request.Seal,
            Plate = request.Plate,
            Haulier = request.Haulier,
            Manifest = [.. parts.Select(p => new ManifestLine { Part = p, Expected = aboard.Free(p) })],
        };
        if (
            request.DeliveryNote.OrNull() is { } note
            && orders.Select(o => o.VendorId).Distinct().ToList() is [var sender]
            && arrival.NoteDelivery(sender, note) is { } badNote
        )
            return badNote;
        if (arrival.Plan(door, planned, request.Crew ?? [], [], 0, act.Person.Name, act.Now, act.Site.LocalTime) is { } notPlanned)
            return notPlanned;
        act.Db.Arrivals.Add(arrival);
        act.Write(new ArrivalMade(arrival.Number, parts.Count, [.. numbers]) { About = [.. numbers.Select(Reference.Order)] });
        if (request.AtOnce)
        {
            await act.Db.SaveChangesAsync();
            if (await AtDoor.Bring(act, arrival, door!, request.Reason) is { } refusal)
                return refusal;
        }

        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, [.. parts.Select(p => p.Id)]);
        act.Touch("road", "house", "door");
        return new MakeArrivalAnswer(arrival.Number);
    }
}
