using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>
/// Takes a vendor's despatch advice: it joins the arrival that is planned for its goods, or makes one. What is aboard becomes the manifest,
/// what does not fit is kept for a decision. An advice can be replaced or taken back by the vendor while nothing is counted.
/// </summary>
static class DespatchAdvices
{
    /// <summary>Takes one.</summary>
    /// <param name="chosen">The arrival somebody chose where it could be several, or <see cref="AdviceTarget.New"/>.</param>
    /// <returns>The arrival's number.</returns>
    public static async Task<Outcome<string>> Take(Act act, AdviceMessage advice, string? chosen)
    {
        if (advice.Site is { } site && site.Id != act.Site.Id)
            return new Refusal(HouseRefusals.OtherSite, $"{advice.Number} goes to {site.Name}.", "Import it there.");
        if (advice.Action == AdviceAction.New)
            return await TakeNew(act, advice, chosen);
        var holding = await act
            .Db.DespatchAdvices.Where(d => d.VendorId == advice.Vendor.Id && d.Number == advice.Number && d.EndedAt == null)
            .ToListAsync();
        if (holding.Count > 1)
            return new Refusal(
                RoadRefusals.AdviceParted,
                $"A part of despatch advice {advice.Number} was sent to another site: it speaks for {holding.Count} arrivals.",
                "Change those arrivals by hand."
            );
        var there = holding[0];
        var arrival = await act.Db.Arrivals.Include(a => a.Manifest).ThenInclude(m => m.Part!).FirstAsync(a => a.Id == there.ArrivalId);
        if (arrival.SiteId != act.Site.Id)
            return new Refusal(HouseRefusals.OtherSite, $"{advice.Number} went to another site, as {arrival.Number}.", "Import it there.");
        if (await Begun(act, arrival))
            return new Refusal(
                RoadRefusals.TallyBegun,
                $"{arrival.Number} of despatch advice {advice.Number} is being counted already.",
                "Count what is there."
            );
        var ended = await End(act, there, arrival);
        return advice.Action == AdviceAction.Cancel
            ? await Cancelled(act, there, arrival, ended)
            : await Fill(act, advice, arrival, there.MadeArrival, AdviceWay.Replaced);
    }

    static async Task<Outcome<string>> TakeNew(Act act, AdviceMessage advice, string? chosen)
    {
        var target = await Target(act.Db, act.SetUp, act.Site, advice, chosen);
        if (target.Choices.Count > 0)
            return new Refusal(
                RoadRefusals.WhichArrival,
                $"Despatch advice {advice.Number} could be aboard {string.Join(" or ", target.Choices)}: lines of it are planned on each.",
                "Choose one of them, or an arrival of its own."
            );
        if (target.Joins is { } number)
            return await Fill(
                act,
                advice,
                await act
                    .Db.Arrivals.Include(a => a.Manifest)
                        .ThenInclude(m => m.Part!)
                    .FirstAsync(a => a.SiteId == act.Site.Id && a.Number == number),
                false,
                AdviceWay.Joined
            );
        var container = ContainerOf(advice).Number;
        if (container is not null && await Containers.OpenElsewhere(act, container, null) is { } twice)
            return twice;
        var arrival = new Arrival
        {
            Number = await act.ArrivalNumber(),
            SiteId = act.Site.Id,
            Vehicle = container is null ? "truck" : "container",
            Booked = ArrivesAt(act, advice),
            Planned = ArrivesAt(act, advice),
        };
        act.Db.Arrivals.Add(arrival);
        return await Fill(act, advice, arrival, true, AdviceWay.Made);
    }

    /// <summary>The arrival a new advice belongs to.</summary>
    public static async Task<AdviceTarget> Target(MudRoomDb db, SetUp setUp, WarehouseSite site, AdviceMessage advice, string? chosen)
    {
        var parts = await PartsOf(db, site, advice);
        var (carrying, planned) = await Carrying(db, site, advice, parts);
        // Which parts it speaks of, whatever carries them: that says to which arrivals it may belong.
        var named = AdviceRules
            .Match(advice.Lines, [.. parts.Select(p => Advisable(p, p.Open, planned.Contains(p.Id)))], id => setUp.Catalogue[id].Name)
            .Expected.Keys.ToHashSet();
        return AdviceRules.Target(
            ContainerOf(advice).Number,
            [.. carrying.Where(c => c.Parts.Overlaps(named)).Select(c => c.Arrival)],
            chosen
        );
    }

    /// <summary>Open line parts of the vendor for this site; of the orders the advice names, where it names any.</summary>
    static Task<List<LinePart>> PartsOf(MudRoomDb db, WarehouseSite site, AdviceMessage advice)
    {
        var named = advice.Lines.Select(l => l.Order).Where(o => o is not null).Distinct().ToList();
        return db
            .LineParts.Include(p => p.Line!)
                .ThenInclude(l => l.Order)
            .Where(p =>
                p.SiteId == site.Id
                && p.IsOpen
                && p.VendorId == advice.Vendor.Id
                && (named.Count == 0 || named.Contains(p.Line!.Order!.Number))
            )
            .ToListAsync();
    }

    static AdvisablePart Advisable(LinePart part, decimal open, bool planned) =>
        new(part.Id, part.Line!.Order!.Number, part.Line.Number, part.ItemId, part.Due, open, planned);

    /// <summary>Open arrivals that carry any of the parts, and the parts that no advice of the vendor speaks of yet.</summary>
    static async Task<(List<(CarryingArrival Arrival, HashSet<int> Parts)> Arrivals, HashSet<int> Planned)> Carrying(
        MudRoomDb db,
        WarehouseSite site,
        AdviceMessage advice,
        List<LinePart> parts
    )
    {
        var ids = parts.Select(p => p.Id).ToList();
        var rows = await db
            .ManifestLines.Where(m => ids.Contains(m.PartId))
            .Join(
                db.Arrivals.Open().Where(a => a.SiteId == site.Id),
                m => m.ArrivalId,
                a => a.Id,
                (m, a) =>
                    new
                    {
                        m.PartId,
                        a.Id,
                        a.Number,
                        a.ContainerNumber,
                    }
            )
            .ToListAsync();
        var arrivalIds = rows.Select(r => r.Id).Distinct().ToList();
        var begun = (
            await db
                .TallyEntries.Where(e => arrivalIds.Contains(e.ArrivalId) && e.TakenBackAt == null)
                .Select(e => e.ArrivalId)
                .Distinct()
                .ToListAsync()
        ).ToHashSet();
        var advised = (
            await db
                .DespatchAdvices.Where(d => arrivalIds.Contains(d.ArrivalId) && d.VendorId == advice.Vendor.Id && d.EndedAt == null)
                .Select(d => d.ArrivalId)
                .ToListAsync()
        ).ToHashSet();
        return (
            [
                .. rows.GroupBy(r => r.Id)
                    .Select(g =>
                        (
                            new CarryingArrival(
                                g.First().Number,
                                g.First().ContainerNumber,
                                begun.Contains(g.Key),
                                advised.Contains(g.Key)
                            ),
                            g.Select(r => r.PartId).ToHashSet()
                        )
                    ),
            ],
            [.. rows.Where(r => !advised.Contains(r.Id)).Select(r => r.PartId)]
        );
    }

    static Task<bool> Begun(Act act, Arrival arrival) =>
        arrival.State > ArrivalState.AtDoor
            ? Task.FromResult(true)
            : act.Db.TallyEntries.AnyAsync(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null);

    static (string? Number, bool Iso) ContainerOf(AdviceMessage advice)
    {
        if (advice.Container is not { } reference)
            return (null, true);
        return ContainerNumber.LooksLike(reference) ? (ContainerNumber.Read(reference).Value.ToString(), true) : (reference, false);
    }

    static DateTimeOffset ArrivesAt(Act act, AdviceMessage advice) =>
        advice.Arrives?.At(act.Site) ?? act.Site.Instant(act.Site.LocalTime(act.Now).Date.AddDays(1).AddHours(TradeTime.HourOfDay));

    /// <summary>Puts what the advice says aboard an arrival.</summary>
    /// <param name="way">How it came to the arrival.</param>
    static async Task<Outcome<string>> Fill(Act act, AdviceMessage advice, Arrival arrival, bool made, AdviceWay way)
    {
        if (advice.Arrives is not null && Math.Abs((ArrivesAt(act, advice) - act.Now).TotalDays) > 400)
            return new Refusal(
                HouseRefusals.DateAbsurd,
                $"{advice.Number} is said to arrive {ArrivesAt(act, advice):yyyy-MM-dd}, more than a year away.",
                "Look at its date."
            );
        await act.Db.SaveChangesAsync();
        var parts = await PartsOf(act.Db, act.Site, advice);
        var aboard = await Aboard.Read(act.Db, [.. parts.Select(p => p.Id)], arrival.Id);
        var onIt = arrival.Manifest.Select(m => m.PartId).ToHashSet();
        var match = AdviceRules.Match(advice.Lines, [.. parts.Select(p => Advisable(p, aboard.Free(p), onIt.Contains(p.Id)))], id =>
            act.SetUp.Catalogue[id].Name
        );
        var differences = match.Differences.ToList();
        foreach (var (partId, quantity) in match.Expected)
        {
            if (arrival.Manifest.Find(m => m.PartId == partId) is { } line)
                line.Expected = Math.Max(quantity, line.InTransit);
            else
                arrival.Manifest.Add(
                    new ManifestLine
                    {
                        Part = parts.First(p => p.Id == partId),
                        PartId = partId,
                        Expected = quantity,
                    }
                );
        }

        var unnamed = arrival
            .Manifest.Where(m => m.Part!.VendorId == advice.Vendor.Id && !match.Expected.ContainsKey(m.PartId))
            .Select(m => m.PartId)
            .ToList();
        foreach (
            var part in await act
                .Db.LineParts.Include(p => p.Line!)
                    .ThenInclude(l => l.Order)
                .Where(p => unnamed.Contains(p.Id))
                .OrderBy(p => p.Id)
                .ToListAsync()
        )
        {
            differences.Add(
                $"{act.SetUp.Catalogue[part.ItemId].Name} of {part.Line!.Order!.Number} line {part.Line.Number} is planned on "
                    + $"{arrival.Number} and not in the advice."
            );
        }

        foreach (var part in parts.Where(p => match.Expected.GetValueOrDefault(p.Id) > aboard.Free(p) && aboard.Of(p).Count > 0))
            differences.Add(
                $"{act.SetUp.Catalogue[part.ItemId].Name} of {part.Line!.Order!.Number} line {part.Line.Number} is planned on "
                    + $"{string.Join(", ", aboard.Of(part))} too."
            );
        differences.AddRange(Vehicle(act, advice, arrival, made));
        var taken = new DespatchAdvice
        {
            ArrivalId = arrival.Id,
            VendorId = advice.Vendor.Id,
            Number = advice.Number,
            MadeArrival = made,
            TakenAt = act.Now,
        };
        act.Db.DespatchAdvices.Add(taken);
        await act.Db.SaveChangesAsync();
        AddUnits(act, advice, match, arrival, taken);
        foreach (var sentence in differences)
            act.Db.AdviceDifferences.Add(
                new AdviceDifference
                {
                    ArrivalId = arrival.Id,
                    AdviceId = taken.Id,
                    Sentence = sentence,
                }
            );
        var units = advice.Lines.Where(l => l.Sscc is not null).Select(l => l.ParentSscc ?? l.Sscc).Distinct().Count();
        arrival.Handling = made ? LoadOf.Handling(act.SetUp, arrival.Vehicle, arrival.Manifest.Select(m => m.Part!)) : arrival.Handling;
        if (made || arrival.Manifest.TrueForAll(m => match.Expected.ContainsKey(m.PartId)))
            arrival.UnitsAboard =
                arrival.Handling == Handling.Palletised && units > 0
                    ? units
                    : LoadOf.Units(act.SetUp, arrival.Handling, arrival.Manifest.Select(m => m.Part!));
        act.Write(new AdviceTaken(arrival.Number, advice.Number, way, advice.Vendor.Name, match.Expected.Count, units, differences.Count));
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, [.. arrival.Manifest.Select(m => m.PartId)]);
        act.Touch("arrival:" + arrival.Number, "door");
        return arrival.Number;
    }

    /// <summary>What the advice knows of vehicle and papers: it fills what nobody has said, and differs from the rest.</summary>
    static List<string> Vehicle(Act act, AdviceMessage advice, Arrival arrival, bool made)
    {
        var differences = new List<string>();
        var (container, iso) = ContainerOf(advice);
        arrival.Haulier ??= advice.Haulier;
        if (arrival.Seal is { } seal && advice.Seal is { } other && !string.Equals(seal, other, StringComparison.OrdinalIgnoreCase))
            differences.Add($"The advice names seal {other}; {arrival.Number} is planned with {seal}.");
        arrival.Seal ??= advice.Seal;
        if (container is not null)
        {
            arrival.Vehicle = "container";
            arrival.ContainerNumber ??= container;
            arrival.Papers ??= new ContainerPapers(
                iso,
                advice.SizeType,
                null,
                advice.Vessel,
                advice.Voyage,
                advice.PortFrom,
                advice.PortTo
            );
        }

        if (
            !made
            && advice.Arrives is not null
            && arrival.State == ArrivalState.Expected
            && ArrivesAt(act, advice) is var eta
            && eta != (arrival.Eta ?? arrival.Planned)
        )
            act.Db.EtaChanges.Add(arrival.Expect(eta, "despatch advice " + advice.Number, act.Person.Name, act.Now));
        return differences;
    }

    static void AddUnits(Act act, AdviceMessage advice, AdviceMatch match, Arrival arrival, DespatchAdvice taken)
    {
        foreach (var (line, part) in advice.Lines.Zip(match.PartOf))
        {
            foreach (var (quantity, serial) in line.Pieces())
            {
                act.Db.AdvisedUnits.Add(
                    new AdvisedUnit
                    {
                        ArrivalId = arrival.Id,
                        AdviceId = taken.Id,
                        Sscc = line.Sscc,
                        ParentSscc = line.ParentSscc,
                        PackageType = line.PackageType,
                        ItemId = line.ItemId,
                        PartId = part,
                        Quantity = quantity,
                        SourceBatch = line.SourceBatch,
                        Production = line.Production,
                        BestBefore = line.BestBefore,
                        Expiry = line.Expiry,
                        Serial = serial,
                    }
                );
            }
        }
    }

    /// <summary>Takes away what an advice said: its units, and its differences that nobody has decided.</summary>
    /// <returns>The parts it spoke of.</returns>
    static async Task<HashSet<int>> End(Act act, DespatchAdvice advice, Arrival arrival)
    {
        var units = await act.Db.AdvisedUnits.Where(u => u.AdviceId == advice.Id).ToListAsync();
        act.Db.AdvisedUnits.RemoveRange(units);
        act.Db.AdviceDifferences.RemoveRange(
            await act.Db.AdviceDifferences.Where(d => d.AdviceId == advice.Id && d.DecidedAt == null).ToListAsync()
        );
        advice.End(act.Now);
        var spoken = units.Select(u => u.PartId).OfType<int>().ToHashSet();
        if (advice.MadeArrival)
        {
            var lines = arrival.Manifest.Where(m => spoken.Contains(m.PartId) && m.InTransit == 0).ToList();
            foreach (var line in lines)
                arrival.Manifest.Remove(line);
            act.Db.RemoveRange(lines);
        }
        else
        {
            // What was planned before anybody advised it is planned again, as far as it is open.
            var aboard = await Aboard.Read(act.Db, spoken, arrival.Id);
            foreach (var line in arrival.Manifest.Where(m => spoken.Contains(m.PartId)))
                line.Expected = Math.Max(line.InTransit, aboard.Free(line.Part!));
        }

        await act.Db.SaveChangesAsync();
        return spoken;
    }

    static async Task<Outcome<string>> Cancelled(Act act, DespatchAdvice advice, Arrival arrival, HashSet<int> spoken)
    {
        act.Write(new AdviceCancelled(arrival.Number, advice.Number));
        if (
            advice.MadeArrival
            && arrival.Manifest.Count == 0
            && (await ChangeArrival.Withdraw(act, arrival, $"Despatch advice {advice.Number} was cancelled.")).Refused(out var refusal)
        )
            return refusal;
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, spoken);
        act.Touch("arrival:" + arrival.Number, "door");
        return arrival.Number;
    }
}
