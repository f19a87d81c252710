using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>A signed lot of a vendor.</summary>
public sealed record PastLot(
    string Number,
    int ItemId,
    int VendorId,
    int PlanId,
    DateTimeOffset At,
    IReadOnlyList<CharacteristicOutcome> Values
);

/// <summary>What the lots of a site came to, of which charts are drawn.</summary>
public sealed class PastLots(MudRoomDb db, SetUp setUp, WarehouseSite site, DateTimeOffset now)
{
    /// <summary>Most lots of a site that are looked back on.</summary>
    const int MostLots = 2000;

    public static PastLots Of(Inquiry inquiry) => new(inquiry.Db, inquiry.SetUp, inquiry.Site, inquiry.Now);

    public static PastLots Of(Act act) => new(act.Db, act.SetUp, act.Site, act.Now);

    /// <summary>In which unit a characteristic is drawn; null for percents.</summary>
    public static string? UnitOf(Characteristic c) => c == SeenComing.Everything ? "per piece" : c.Unit;

    /// <summary>The limits of a characteristic in words.</summary>
    public static string LimitsOf(Characteristic c) =>
        c == SeenComing.Everything ? "of the characteristics looked at on every piece" : c.LimitWords;

    /// <summary>The characteristics of the plan that the last lot went by, with the limits of today.</summary>
    public List<Characteristic> CharacteristicsOf(PastLot last) =>
        setUp.Plans[last.PlanId].InForce(now)?.Content.Characteristics.Where(c => last.Values.Any(v => v.Id == c.Id)).ToList()
            is { Count: > 0 } of
            ? of.Count > 1
                ? [.. of, SeenComing.Everything]
                : of
            : [];

    /// <summary>A characteristic of some lots, the first first.</summary>
    public List<ChartLot> Chart(IEnumerable<PastLot> lots, Characteristic c) =>
        [
            .. lots.Select(l =>
                    (
                        Lot: l,
                        Is: c == SeenComing.Everything && l.Values.Count > 0
                            ? SeenComing.Together(l.Values)
                            : l.Values.FirstOrDefault(v => v.Id == c.Id)
                    )
                )
                .Where(l => l.Is is not null && (!c.IsMeasured || l.Is.Mean is not null))
                .Select(l => new ChartLot(l.Lot.Number, site.DateAt(l.Lot.At), l.Is!)),
        ];

    /// <summary>How a characteristic of some lots goes on.</summary>
    public Outlook Outlook(IEnumerable<PastLot> lots, Characteristic c) => SeenComing.Of(c, Chart(lots, c));

    /// <summary>The signed lots that count for their vendors, the first first.</summary>
    public Task<List<PastLot>> Lots(int? item, int? vendor, int? plan)
    {
        var signed = Signed();
        if (item is not null && vendor is not null)
            signed = signed.Where(i => i.ItemId == item && i.VendorId == vendor);
        if (plan is not null)
            signed = signed.Where(i => i.PlanId == plan);
        return Read(signed);
    }

    /// <summary>The same of each plan, item and vendor of whom a lot was signed since an instant.</summary>
    public async Task<ILookup<(int ItemId, int VendorId, int PlanId), PastLot>> LotsSignedSince(DateTimeOffset since)
    {
        var lately = await Signed()
            .Where(i => i.SignedAt >= since)
            .Select(i => new
            {
                i.ItemId,
                VendorId = i.VendorId!.Value,
                i.PlanId,
            })
            .Distinct()
            .ToListAsync();
        var items = lately.Select(x => x.ItemId).Distinct().ToList();
        var vendors = lately.Select(x => (int?)x.VendorId).Distinct().ToList();
        var keys = lately.Select(x => (x.ItemId, x.VendorId, x.PlanId)).ToHashSet();
        var lots = keys.Count == 0 ? [] : await Read(Signed().Where(i => items.Contains(i.ItemId) && vendors.Contains(i.VendorId)));
        return lots.Where(l => keys.Contains((l.ItemId, l.VendorId, l.PlanId))).ToLookup(l => (l.ItemId, l.VendorId, l.PlanId));
    }

    IQueryable<Inspection> Signed() =>
        db
            .Inspections.AsNoTracking()
            .Where(i => i.SiteId == site.Id && i.SignedAt != null && i.VendorId != null)
            .Where(i => Severities.Counts.Contains(i.Trigger) && !db.Inspections.Any(n => n.SupersedesId == i.Id));

    static async Task<List<PastLot>> Read(IQueryable<Inspection> signed)
    {
        var rows = await signed
            .OrderByDescending(i => i.SignedAt)
            .ThenByDescending(i => i.Id)
            .Take(MostLots)
            .Select(i => new
            {
                i.Number,
                i.ItemId,
                i.VendorId,
                i.PlanId,
                SignedAt = i.CountsAs ?? i.SignedAt,
                i.Values,
            })
            .ToListAsync();
        return
        [
            .. rows.Where(r => r.Values is not null)
                .Select(r => new PastLot(r.Number, r.ItemId, r.VendorId!.Value, r.PlanId, r.SignedAt!.Value, r.Values!))
                .Reverse()
                .OrderBy(l => l.At),
        ];
    }
}
