using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A notch on a load bar: over, short or damaged, at a place between 0 and 1.</summary>
public sealed record Notch(string Kind, double At);

/// <summary>An arrival as queues and boards show it.</summary>
/// <param name="Number">A-2617.</param>
/// <param name="Vendors">Names of those whose goods are aboard.</param>
/// <param name="Vehicle">truck, container, van, parcel.</param>
/// <param name="State">Where it is.</param>
/// <param name="Planned">Wall clock.</param>
/// <param name="Expected">Wall clock, when it is thought to come.</param>
/// <param name="Door">Number of the door it is at or planned for.</param>
/// <param name="Spot">Yard spot.</param>
/// <param name="Share">How much of the manifest is counted, 0 to 1, by lines.</param>
/// <param name="Lines">Lines on the manifest.</param>
/// <param name="Settled">Lines that are complete.</param>
/// <param name="Notches">Where over, short and damaged were found.</param>
/// <param name="Why">The reason for its place in the queue.</param>
/// <param name="MinutesLate">0 when on time.</param>
/// <param name="AtDoorSince">Wall clock.</param>
/// <param name="Questions">Questions of receivers that nobody has answered yet.</param>
public sealed record ArrivalCard(
    string Number,
    IReadOnlyList<string> Vendors,
    string Vehicle,
    ArrivalState State,
    DateTime Planned,
    DateTime? Expected,
    int? Door,
    string? Spot,
    double Share,
    int Lines,
    int Settled,
    IReadOnlyList<Notch> Notches,
    string Why,
    int MinutesLate,
    int Rank,
    DateTime? AtDoorSince,
    string? Container,
    int Questions
);

/// <summary>Loads arrivals with all that their cards show, in a fixed number of queries.</summary>
public static class ArrivalCards
{
    /// <summary>Cards for the arrivals of a query, in no particular order.</summary>
    public static async Task<List<ArrivalCard>> Load(Inquiry inquiry, IQueryable<Arrival> arrivals) =>
        await Load(inquiry, await arrivals.ToListAsync());

    /// <summary>Cards for arrivals that are read already.</summary>
    public static async Task<List<ArrivalCard>> Load(Inquiry inquiry, IReadOnlyList<Arrival> rows)
    {
        var ids = rows.Select(a => a.Id).ToList();
        var lines = (
            await inquiry
                .Db.ManifestLines.Where(m => ids.Contains(m.ArrivalId))
                .Select(m => new
                {
                    m.ArrivalId,
                    m.Id,
                    m.Expected,
                    m.Counted,
                    m.Part!.Due,
                    m.Part.ItemId,
                    m.Part.WaitingQuantity,
                    m.Part.Received,
                    m.Part.WaitingFor,
                    m.Part.Line!.Order!.VendorId,
                })
                .ToListAsync()
        ).ToLookup(l => l.ArrivalId);
        var marks = (
            await inquiry
                .Db.Discrepancies.Where(d => ids.Contains(d.ArrivalId) && !d.TakenBack)
                .Select(d => new
                {
                    d.ArrivalId,
                    d.ItemId,
                    d.Kind,
                })
                .ToListAsync()
        ).ToLookup(d => d.ArrivalId);
        var asked = await inquiry
            .Db.TallyQuestions.Where(q => ids.Contains(q.ArrivalId) && q.IsOpen)
            .GroupBy(q => q.ArrivalId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count);
        var now = inquiry.Local(inquiry.Now);
        return
        [
            .. rows.Select(a =>
            {
                var aboard = lines[a.Id].ToList();
                var waits = aboard.FirstOrDefault(l => l.WaitingQuantity > l.Received && l.Counted < l.Expected);
                var place = RoadQueue.Place(
                    new ArrivalFacts(
                        a.State,
                        inquiry.Local(a.Planned),
                        a.Eta is { } eta ? inquiry.Local(eta) : null,
                        a.GateInAt is { } inAt ? inquiry.Local(inAt) : null,
                        waits?.WaitingFor,
                        aboard.Count(l => l.Due < inquiry.Today)
                    ),
                    now
                );
                return new ArrivalCard(
                    a.Number,
                    [.. aboard.Select(l => inquiry.SetUp.Vendors[l.VendorId].Name).Distinct()],
                    a.Vehicle,
                    a.State,
                    inquiry.Local(a.Planned),
                    a.Eta is { } e ? inquiry.Local(e) : null,
                    (a.DoorId ?? a.PlannedDoorId) is { } door ? inquiry.SetUp.Doors[door].Number : null,
                    a.YardSpot,
                    aboard.Count == 0 ? 0 : aboard.Average(l => l.Expected == 0 ? 1 : (double)Math.Min(1, l.Counted / l.Expected)),
                    aboard.Count,
                    aboard.Count(l => l.Counted >= l.Expected),
                    [.. marks[a.Id].Select(d => new Notch(Shape(d.Kind), At(aboard.FindIndex(l => l.ItemId == d.ItemId), aboard.Count)))],
                    place.Why,
                    place.MinutesLate,
                    place.Rank,
                    a.AtDoorAt is { } at ? inquiry.Local(at) : null,
                    a.ContainerNumber,
                    asked.GetValueOrDefault(a.Id)
                );
            }),
        ];
    }

    static double At(int index, int count) => (index + 0.5) / Math.Max(1, count);

    static string Shape(DiscrepancyKind kind) =>
        kind switch
        {
            DiscrepancyKind.Over => "over",
            DiscrepancyKind.Short => "short",
            _ => "damaged",
        };
}
