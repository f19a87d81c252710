using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>What loads took in the last ninety days: by vendor the factor on the standard and its spread, by haulier how far gate-in lay
/// from what was booked.</summary>
public sealed record PastLoads(
    IReadOnlyDictionary<int, double> Factor,
    IReadOnlyDictionary<int, double> Spread,
    IReadOnlyDictionary<string, double> GateSpread
)
{
    /// <summary>Days that are looked back.</summary>
    public const int Days = 90;

    /// <summary>Minutes of spread at the gate before anything is known of a haulier, weighed as five visits.</summary>
    const double OpeningGateSpread = 15;

    public double FactorOf(int vendorId) => Factor.GetValueOrDefault(vendorId, 1);

    public double SpreadOf(int vendorId) => Spread.GetValueOrDefault(vendorId, 0.25);

    public double GateSpreadOf(string? haulier) => GateSpread.GetValueOrDefault(haulier ?? "", OpeningGateSpread);

    /// <summary>Reads it up to a moment, in two queries.</summary>
    public static async Task<PastLoads> Read(MudRoomDb db, int siteId, DateTimeOffset until, PlanSettings settings)
    {
        var from = until.AddDays(-Days);
        var loads = await db
            .Arrivals.AsNoTracking()
            .Where(a =>
                a.SiteId == siteId
                && a.Planned >= from
                && a.Planned < until
                && a.CountedInAt != null
                && a.CountedInAt < until
                && a.AtDoorAt != null
            )
            .Select(a => new
            {
                a.Id,
                a.Handling,
                a.UnitsAboard,
                a.Crew,
                a.Haulier,
                a.Booked,
                a.GateInAt,
                a.AtDoorAt,
                Done = a.UnloadedAt ?? a.CountedInAt,
                Lines = a.Manifest.Count,
            })
            .ToListAsync();
        var ids = loads.Select(l => l.Id).ToList();
        var vendors = (
            await db
                .ManifestLines.AsNoTracking()
                .Where(m => ids.Contains(m.ArrivalId))
                .Select(m => new { m.ArrivalId, m.Part!.VendorId })
                .Distinct()
                .ToListAsync()
        ).ToLookup(v => v.ArrivalId, v => v.VendorId);
        var ratios = loads
            .SelectMany(l =>
                vendors[l.Id]
                    .Select(vendor =>
                        (
                            Vendor: vendor,
                            Ratio: (l.Done!.Value - l.AtDoorAt!.Value).TotalMinutes
                                / UnloadingTime.Standard(l.Handling, l.UnitsAboard, l.Lines, Math.Max(1, l.Crew.Count), settings)
                        )
                    )
            )
            .ToLookup(r => r.Vendor, r => r.Ratio);
        var gate = loads
            .Where(l => l.GateInAt is not null)
            .GroupBy(l => l.Haulier ?? "")
            .ToDictionary(
                g => g.Key,
                g =>
                    Math.Sqrt(
                        (
                            g.Sum(l => Square((l.GateInAt!.Value - l.Booked).TotalMinutes + settings.GateMinutes))
                            + 5 * Square(OpeningGateSpread)
                        ) / (g.Count() + 5)
                    )
            );
        return new PastLoads(
            ratios.ToDictionary(r => r.Key, r => UnloadingTime.VendorFactor(r)),
            ratios.ToDictionary(r => r.Key, r => UnloadingTime.LogSpread(r)),
            gate
        );
    }

    static double Square(double x) => x * x;
}

/// <summary>Keeps what the past says for the day: loads done today count from tomorrow.</summary>
public sealed class PastLoadStore(IDbContextFactory<MudRoomDb> contexts)
{
    readonly ConcurrentDictionary<(int SiteId, int Settings, DateOnly Day), Task<PastLoads>> known = new();

    /// <summary>What is known at the beginning of a site's day, by the rates that are in force.</summary>
    public Task<PastLoads> Of(WarehouseSite site, InForce<PlanSettings> settings, DateOnly day)
    {
        if (known.Count > 50)
            known.Clear();
        return known.GetOrAdd((site.Id, settings.Version, day), async _ =>
        {
            await using var db = await contexts.CreateDbContextAsync();
            return await PastLoads.Read(db, site.Id, site.Instant(day.ToDateTime(TimeOnly.MinValue)), settings.Value);
        });
    }
}
