using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Exchange;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>Makes an arrival from a vendor's despatch advice: what is aboard becomes its manifest, what does not fit is kept for a decision.</summary>
static class DespatchAdvices
{
    public static async Task<Outcome<string>> Take(Act act, AdviceMessage advice)
    {
        if (advice.Site is { } site && site.Id != act.Site.Id) return new Refusal("other-site", $"{advice.Number} goes to {site.Name}.", "Import it there.");
        var named = advice.Lines.Select(l => l.Order).Where(o => o is not null).Distinct().ToList();
        var parts = await act.Db.LineParts.Include(p => p.Line!).ThenInclude(l => l.Order)
            .Where(p => p.SiteId == act.Site.Id && p.IsOpen && p.VendorId == advice.Vendor.Id && (named.Count == 0 || named.Contains(p.Line!.Order!.Number))).ToListAsync();
        var match = AdviceRules.Match(
            advice.Lines, [.. parts.Select(p => new AdvisablePart(p.Id, p.Line!.Order!.Number, p.Line.Number, p.ItemId, p.Due, p.Open))], id => act.SetUp.Catalogue[id].Name);
        var differences = match.Differences.ToList();
        string? container = null;
        var iso = true;
        if (advice.Container is { } reference)
        {
            iso = ContainerNumber.LooksLike(reference);
            container = iso ? ContainerNumber.Read(reference).Value.ToString() : reference;
            if (await Containers.OpenElsewhere(act, container, null) is { } twice) return twice;
        }

        var partIds = match.Expected.Keys.ToList();
        var elsewhere = await act.Db.ManifestLines.Where(m => partIds.Contains(m.PartId)).Join(act.Db.Arrivals.Where(a => a.State != ArrivalState.CountedIn), m => m.ArrivalId, a => a.Id, (m, a) => new { m.PartId, a.Number }).ToListAsync();
        foreach (var (part, where) in elsewhere.Select(e => (parts.First(p => p.Id == e.PartId), e.Number)))
            differences.Add($"{act.SetUp.Catalogue[part.ItemId].Name} of {part.Line!.Order!.Number} is on {where} already.");
        var aboard = parts.Where(p => match.Expected.ContainsKey(p.Id) && elsewhere.All(e => e.PartId != p.Id)).ToList();
        var arrives = act.Site.Instant(advice.Arrives ?? act.Site.LocalTime(act.Now).Date.AddDays(1).AddHours(9));
        if (Math.Abs((arrives - act.Now).TotalDays) > 400) return new Refusal("date-absurd", $"{advice.Number} is said to arrive {advice.Arrives:yyyy-MM-dd}, more than a year away.", "Look at its date.");
        var vehicle = container is null ? "truck" : "container";
        var handling = LoadOf.Handling(act.SetUp, vehicle, aboard);
        var units = advice.Lines.Where(l => l.Sscc is not null).Select(l => l.ParentSscc ?? l.Sscc).Distinct().Count();
        var arrival = new Arrival
        {
            Number = await act.Number("A"),
            SiteId = act.Site.Id,
            Vehicle = vehicle,
            Haulier = advice.Haulier,
            ContainerNumber = container,
            Papers = container is null ? null : new ContainerPapers(iso, advice.SizeType, null, advice.Vessel, advice.Voyage, advice.PortFrom, advice.PortTo),
            Seal = advice.Seal,
            Booked = arrives,
            Planned = arrives,
            AdviceNumber = advice.Number,
            Handling = handling,
            UnitsAboard = handling == Handling.Palletised && units > 0 ? units : LoadOf.Units(act.SetUp, handling, aboard),
            Manifest = [.. aboard.Select(p => new ManifestLine { Part = p, Expected = match.Expected[p.Id] })],
        };
        act.Db.Arrivals.Add(arrival);
        await act.Db.SaveChangesAsync();
        foreach (var (line, part) in advice.Lines.Zip(match.PartOf))
        {
            foreach (var (quantity, serial) in line.Pieces())
            {
                act.Db.AdvisedUnits.Add(new AdvisedUnit
                {
                    ArrivalId = arrival.Id,
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
                });
            }
        }

        foreach (var sentence in differences) act.Db.AdviceDifferences.Add(new AdviceDifference { ArrivalId = arrival.Id, Sentence = sentence });
        act.Write(EntryKind.Advised, arrival.Number, $"{arrival.Number} made from despatch advice {advice.Number} of {advice.Vendor.Name}: {aboard.Count} lines, {units} units{(differences.Count > 0 ? $", {differences.Count} differences" : "")}.");
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, [.. aboard.Select(p => p.Id)]);
        return arrival.Number;
    }
}
