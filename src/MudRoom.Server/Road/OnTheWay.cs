using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>Lines of an arrival that become ours while they are on the way, or are given back.</summary>
/// <param name="Lines">Ids of manifest lines; none for all.</param>
/// <param name="Document">What says so: a bill of lading, a vendor's message.</param>
public sealed record TakeOverRequest(string Arrival, IReadOnlyList<int>? Lines, string Document);

/// <summary>Lines of an arrival that go to another own site.</summary>
/// <param name="Lines">Ids of manifest lines; none for all, and then the arrival itself goes there.</param>
/// <param name="Site">Code of the other site.</param>
public sealed record RedirectRequest(string Arrival, IReadOnlyList<int>? Lines, string Site, string Reason);

/// <summary>What happens to goods before they are here: taken over on the way, or sent to another own site.</summary>
public static class OnTheWay
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<TakeOverRequest, DoneAnswer>("/road/take-over", Right.PlanArrivals, (act, request) =>
            TakeOver(act, request, back: false)
        );
        routes.Act<TakeOverRequest, DoneAnswer>("/road/take-over/back", Right.PlanArrivals, (act, request) =>
            TakeOver(act, request, back: true)
        );
        routes.Act<RedirectRequest, DoneAnswer>("/road/redirect", Right.PlanArrivals, Redirect);
    }

    public static async Task<Outcome<DoneAnswer>> TakeOver(Act act, TakeOverRequest request, bool back)
    {
        var document = request.Document.OrNull();
        if (document is null or { Length: > 60 })
            return new Refusal(
                RoadRefusals.DocumentMissing,
                "Say in at most 60 characters what paper says so.",
                "Type the number of the bill of lading."
            );
        var chosen = await Chosen(act, request.Arrival, request.Lines);
        if (chosen.Refused(out var refusal))
            return refusal;
        var (arrival, lines) = chosen.Value;
        if (arrival.State is ArrivalState.AtDoor or ArrivalState.CountedIn)
            return new Refusal(
                RoadRefusals.AlreadyAtDoor,
                $"{arrival.Number} is at a door or counted in.",
                "What is counted is ours from then on."
            );
        var moved = 0;
        foreach (var line in lines)
        {
            var quantity = back ? line.EndTransit() : line.TakeOver();
            if (quantity == 0)
                continue;
            moved++;
            var item = act.SetUp.Catalogue[line.Part!.ItemId];
            var (from, to) = back ? (Account.Transit, Account.Vendor) : (Account.Vendor, Account.Transit);
            var order = line.Part.Line!.Order!.Number;
            act.Write(
                new TakenOver(arrival.Number, Amount.Of(quantity, item), new LineNamed(order, line.Part.Line.Number), back, document)
                {
                    About = [Reference.Order(order)],
                },
                new Movement(new Goods(item.Id), quantity, new Place(from), new Place(to))
            );
        }

        if (moved == 0)
            return new Refusal(
                RoadRefusals.NothingToTakeOver,
                back ? $"Nothing of {arrival.Number} is ours on the way." : $"All of {arrival.Number} is ours on the way already.",
                "Look at its lines."
            );
        act.Touch("road", "book", "house", "arrival:" + arrival.Number);
        return new DoneAnswer(
            $"{moved} {(moved == 1 ? "line" : "lines")} of {arrival.Number} "
                + $"{(back ? "given back to the vendor's account" : "on the books as in transit")}."
        );
    }

    public static async Task<Outcome<DoneAnswer>> Redirect(Act act, RedirectRequest request)
    {
        var reason = request.Reason.OrNull();
        if (reason is null or { Length: > 200 })
            return new Refusal(HouseRefusals.NoteMissing, "Say in at most 200 characters why it goes elsewhere.", "Type the reason.");
        if (!act.SetUp.Sites.TryGetValue((request.Site ?? "").Trim(), out var to))
            return Problems.NotFound("site", request.Site ?? "");
        if (to.Id == act.Site.Id)
            return new Refusal(RoadRefusals.SameSite, $"{request.Arrival} comes to {to.Name} already.", "Choose another site.");
        var chosen = await Chosen(act, request.Arrival, request.Lines);
        if (chosen.Refused(out var refusal))
            return refusal;
        var (arrival, lines) = chosen.Value;
        var was = arrival.Number;
        if (arrival.State != ArrivalState.Expected)
            return new Refusal(RoadRefusals.AlreadyOnSite, $"{was} is on site already.", "Count it here, and transfer the goods.");
        var whole = lines.Count == arrival.Manifest.Count;
        var number = await act.ArrivalNumber();
        if (whole && arrival.SendOn(to.Id, number) is { } notNow)
            return notNow;
        if (!whole)
            await PartOff(act, arrival, lines, to, number);
        foreach (var line in lines)
        {
            line.Part!.DeliverTo(to.Id);
            act.Db.OrderChanges.Add(
                new OrderChange
                {
                    OrderId = line.Part.Line!.OrderId,
                    PartId = line.PartId,
                    Sentence = $"Line {line.Part.Line.Number} goes to {to.Name}, not to {act.Site.Name}: {reason}",
                    Source = "by hand",
                    By = act.Person.Name,
                    At = act.Now,
                }
            );
        }

        var redirected = new Redirected(was, was, to.Name, number, whole ? null : lines.Count, reason);
        act.Write(redirected);
        act.Book.Write(to.Id, act.Doer, new Redirected(number, was, to.Name, number, whole ? null : lines.Count, reason));
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, [.. lines.Select(l => l.PartId)]);
        act.Touch("road", "yard", "house", "arrival:" + was);
        return new DoneAnswer(act.Words(redirected).TrimEnd('.') + ".");
    }

    /// <summary>An arrival of its own at the other site for what is sent there; the vehicle comes here first.</summary>
    static async Task PartOff(Act act, Arrival arrival, List<ManifestLine> lines, WarehouseSite to, string number)
    {
        foreach (var line in lines)
            arrival.Manifest.Remove(line);
        var other = new Arrival
        {
            Number = number,
            SiteId = to.Id,
            Vehicle = arrival.Vehicle,
            Plate = arrival.Plate,
            Haulier = arrival.Haulier,
            ContainerNumber = arrival.ContainerNumber,
            Papers = arrival.Papers,
            Seal = arrival.Seal,
            Handling = arrival.Handling,
            UnitsAboard = LoadOf.Units(act.SetUp, arrival.Handling, lines.Select(l => l.Part!)),
            Booked = arrival.Booked,
            Planned = arrival.Planned,
            Manifest = lines,
        };
        arrival.UnitsAboard = Math.Max(1, arrival.UnitsAboard - other.UnitsAboard);
        act.Db.Arrivals.Add(other);
        await act.Db.SaveChangesAsync();
        var partIds = lines.Select(l => (int?)l.PartId).ToList();
        // Its advices speak for both from now on.
        foreach (var advice in await act.Db.DespatchAdvices.Where(d => d.ArrivalId == arrival.Id && d.EndedAt == null).ToListAsync())
        {
            if (!lines.Exists(l => l.Part!.VendorId == advice.VendorId))
                continue;
            var part = new DespatchAdvice
            {
                ArrivalId = other.Id,
                VendorId = advice.VendorId,
                Number = advice.Number,
                TakenAt = advice.TakenAt,
            };
            act.Db.DespatchAdvices.Add(part);
            await act.Db.SaveChangesAsync();
            await act
                .Db.AdvisedUnits.Where(u => u.AdviceId == advice.Id && partIds.Contains(u.PartId))
                .ExecuteUpdateAsync(set => set.SetProperty(u => u.AdviceId, part.Id));
        }

        await act
            .Db.AdvisedUnits.Where(u => u.ArrivalId == arrival.Id && partIds.Contains(u.PartId))
            .ExecuteUpdateAsync(set => set.SetProperty(u => u.ArrivalId, other.Id));
    }

    static async Task<Outcome<(Arrival Arrival, List<ManifestLine> Lines)>> Chosen(Act act, string number, IReadOnlyList<int>? ids)
    {
        var arrival = await act
            .Db.Arrivals.Include(a => a.Manifest)
                .ThenInclude(m => m.Part!)
                    .ThenInclude(p => p.Line!)
                        .ThenInclude(l => l.Order)
            .Numbered(act.Site, number);
        if (arrival is null)
            return Problems.NotFound("arrival", number);
        var lines = ids is { Count: > 0 } ? arrival.Manifest.Where(m => ids.Contains(m.Id)).ToList() : [.. arrival.Manifest];
        if (lines.Count == 0)
            return new Refusal(RoadRefusals.LinesMissing, "No line of this arrival was chosen.", "Choose a line.");
        if (lines.Find(m => m.Counted > 0) is { } counted)
            return new Refusal(
                RoadRefusals.Counted,
                $"{counted.Part!.Line!.Order!.Number} line {counted.Part.Line.Number} is being counted already.",
                "Take back its counts first."
            );
        return (arrival, lines);
    }
}
