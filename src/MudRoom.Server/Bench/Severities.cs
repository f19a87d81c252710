using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Server.Bench;

/// <summary>How sharply the lots of one vendor and item are looked at, by class, and the lots it follows from.</summary>
/// <param name="Stands">Of every class that lots were judged by.</param>
/// <param name="Outcomes">What the signed lots came to, the first first.</param>
public sealed record Severities(
    IReadOnlyDictionary<CharacteristicClass, SeverityStand> Stands,
    IReadOnlyList<(string Number, DateTimeOffset At, IReadOnlyList<ClassOutcome> Classes)> Outcomes
)
{
    /// <summary>Most lots that are looked back on.</summary>
    public const int MostLots = 400;

    /// <summary>The severity of the next lot in a class.</summary>
    public Severity For(CharacteristicClass c) => Stands.TryGetValue(c, out var stand) ? stand.Severity : Severity.Normal;

    /// <summary>Why nothing can be drawn; null where it can.</summary>
    public string? IsStopped => Stands.Values.FirstOrDefault(s => s.IsStopped)?.Why;

    /// <summary>The quality of the vendor's lots in a class.</summary>
    public VendorQuality Quality(CharacteristicClass c)
    {
        var of = Outcomes.SelectMany(o => o.Classes).Where(o => o.Class == c).ToList();
        return new VendorQuality(of.Sum(o => o.Nonconforming), of.Sum(o => o.Looked), of.Count);
    }

    /// <summary>Where the lots of a sheet's vendor, item and plan stand at its site.</summary>
    public static Task<Severities> Of(MudRoomDb db, Inspection sheet, SiteTime local) =>
        sheet.VendorId is { } vendor && Counts.Contains(sheet.Trigger)
            ? Of(db, sheet.SiteId, sheet.ItemId, vendor, sheet.PlanId, local)
            : Task.FromResult(new Severities(new Dictionary<CharacteristicClass, SeverityStand>(), []));

    /// <summary>How lots come that are of a vendor's series; what is asked for by hand, or is long in store, was
    /// inspected before.</summary>
    internal static readonly InspectionTrigger[] Counts =
    [
        InspectionTrigger.Receipt,
        InspectionTrigger.OrderLine,
        InspectionTrigger.Outwork,
    ];

    /// <summary>Where the lots of an item, vendor and plan stand at a site. A superseded sheet does not count; the one in its place counts
    /// when it did.</summary>
    public static async Task<Severities> Of(MudRoomDb db, int siteId, int itemId, int vendorId, int planId, SiteTime local)
    {
        var rows = await db
            .Inspections.AsNoTracking()
            .Where(i => i.SiteId == siteId && i.ItemId == itemId && i.VendorId == vendorId && i.SignedAt != null)
            .Where(i => i.PlanId == planId && Counts.Contains(i.Trigger))
            .Where(i => !db.Inspections.Any(n => n.SupersedesId == i.Id))
            .OrderByDescending(i => i.SignedAt)
            .ThenByDescending(i => i.Id)
            .Take(MostLots)
            .Select(i => new
            {
                i.Number,
                At = i.CountsAs ?? i.SignedAt,
                i.Outcomes,
            })
            .ToListAsync();
        var lots = rows.Where(i => i.Outcomes is not null)
            .Reverse()
            .OrderBy(i => i.At)
            .Select(i => (i.Number, At: i.At!.Value, Classes: i.Outcomes!))
            .ToList();
        var words = await db
            .SeverityWords.AsNoTracking()
            .Where(w => w.SiteId == siteId && w.ItemId == itemId && w.VendorId == vendorId)
            .OrderBy(w => w.Id)
            .ToListAsync();
        return Of(lots, words, local);
    }

    /// <summary>With one more lot, as it would be once it is signed.</summary>
    public static Severities Of(
        IReadOnlyList<(string Number, DateTimeOffset At, IReadOnlyList<ClassOutcome> Classes)> lots,
        IReadOnlyList<SeverityRow> words,
        SiteTime local
    )
    {
        var stands = lots.SelectMany(l => l.Classes)
            .Where(o => o.BySwitching)
            .Select(o => o.Class)
            .Distinct()
            .ToDictionary(c => c, c => Switching.After(Events(lots, words, local, c)));
        return new Severities(stands, lots) { Words = words };
    }

    /// <summary>What was said of their severity.</summary>
    public IReadOnlyList<SeverityRow> Words { get; init; } = [];

    static IEnumerable<SwitchingEvent> Events(
        IEnumerable<(string Number, DateTimeOffset At, IReadOnlyList<ClassOutcome> Classes)> lots,
        IEnumerable<SeverityRow> words,
        SiteTime local,
        CharacteristicClass of
    ) =>
        lots.SelectMany(l =>
                l.Classes.Where(o => o.Class == of && o.BySwitching)
                    .Select(o => (l.At, Event: (SwitchingEvent)o.AsLot(l.Number, DateOnly.FromDateTime(local(l.At)))))
            )
            .Concat(words.Select(w => (w.At, Event: w.AsEvent())))
            .OrderBy(e => e.At)
            .Select(e => e.Event);
}
