using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Yard;

/// <summary>A vehicle at the gate, in the yard or at a door.</summary>
/// <param name="Waits">Minutes since gate-in without a door.</param>
/// <param name="Detention">For containers on site: how they stand against the free days.</param>
/// <param name="Next">The next step that can be done: LetIn, Call, AtDoor, Unloaded, Empty, GateOut, or null.</param>
/// <param name="CanTakeBack">True when a step can be taken back.</param>
public sealed record YardCard(
    ArrivalCard Card,
    string? Plate,
    string? Haulier,
    string? Seal,
    string? SealFound,
    string? SealReason,
    bool Unplanned,
    SpotProposal? Proposal,
    int? Waits,
    Detention? Detention,
    DateTime? GateIn,
    DateTime? Called,
    DateTime? AtDoor,
    DateTime? Unloaded,
    DateTime? CountedIn,
    DateTime? Empty,
    DateTime? GateOut,
    string? Next,
    bool CanTakeBack
);

/// <summary>A spot of the yard with what stands there.</summary>
public sealed record SpotView(
    string Number,
    IReadOnlyList<string> Vehicles,
    bool ColdPlug,
    decimal X,
    string? StandsThere,
    string? Vehicle
);

/// <summary>The yard.</summary>
public sealed record YardAnswer(
    IReadOnlyList<YardCard> Vehicles,
    IReadOnlyList<SpotView> Spots,
    IReadOnlyList<DoorView> Doors,
    DateTime Now
);

/// <summary>What the gate hand sees.</summary>
public static class YardPage
{
    const int Most = 300;

    public static void Map(SiteRoutes routes) => routes.Ask("/yard", Right.See, Run);

    static async Task<Ok<YardAnswer>> Run(Inquiry inquiry)
    {
        var soon = inquiry.Now.AddHours(30);
        var arrivals = await inquiry
            .Db.Arrivals.Where(a =>
                a.SiteId == inquiry.Site.Id
                && (
                    a.State == ArrivalState.InYard
                    || a.State == ArrivalState.AtDoor
                    || a.State == ArrivalState.Expected && a.Planned < soon
                    || a.State == ArrivalState.CountedIn
                        && a.GateInAt != null
                        && a.GateOutAt == null
                        && a.CountedInAt > inquiry.Now.AddDays(-10)
                    || a.State == ArrivalState.Withdrawn && a.GateInAt != null && a.GateOutAt == null
                )
            )
            .OrderBy(a => a.Planned)
            .Take(Most)
            .ToListAsync();
        var cards = (await ArrivalCards.Load(inquiry, arrivals)).ToDictionary(c => c.Number);
        var spots = await inquiry.Db.YardSpots.Where(s => s.SiteId == inquiry.Site.Id).ToListAsync();
        var taken = arrivals.Where(a => a.State == ArrivalState.InYard && a.YardSpot is not null).ToDictionary(a => a.YardSpot!, a => a);
        var ids = arrivals.Select(a => a.Id).ToList();
        var items = (
            await inquiry
                .Db.ManifestLines.Where(m => ids.Contains(m.ArrivalId))
                .Select(m => new { m.ArrivalId, m.Part!.ItemId })
                .ToListAsync()
        ).ToLookup(l => l.ArrivalId, l => l.ItemId);
        return TypedResults.Ok(
            new YardAnswer(
                [
                    .. arrivals
                        .Select(a =>
                            Card(
                                inquiry,
                                a,
                                cards[a.Number],
                                spots,
                                taken.Keys.ToHashSet(),
                                items[a.Id].Any(i => inquiry.SetUp.Catalogue[i].StorageClass == StorageClass.Cold)
                            )
                        )
                        .OrderBy(v => Order(v))
                        .ThenBy(v => v.Card.Rank)
                        .ThenBy(v => v.Card.Planned),
                ],
                [
                    .. spots
                        .OrderBy(s => s.X)
                        .ThenBy(s => s.Number, StringComparer.Ordinal)
                        .Select(s => new SpotView(
                            s.Number,
                            s.Vehicles,
                            s.ColdPlug,
                            s.X,
                            taken.GetValueOrDefault(s.Number)?.Number,
                            taken.GetValueOrDefault(s.Number)?.Vehicle
                        )),
                ],
                await Board.Doors(inquiry),
                inquiry.Local(inquiry.Now)
            )
        );
    }

    static YardCard Card(Inquiry inquiry, Arrival a, ArrivalCard card, List<YardSpot> spots, HashSet<string> taken, bool cold)
    {
        DateTime? Wall(DateTimeOffset? at) => at is { } there ? inquiry.Local(there) : null;
        var door = (a.DoorId ?? a.PlannedDoorId) is { } id ? inquiry.SetUp.Doors[id] : null;
        var next = a.State switch
        {
            ArrivalState.Expected => "LetIn",
            ArrivalState.InYard when a.CalledAt is null && door is not null => "Call",
            ArrivalState.InYard => door is null ? null : "AtDoor",
            ArrivalState.Withdrawn => a.GateOutAt is null ? "GateOut" : null,
            _ when a.UnloadedAt is null => "Unloaded",
            _ when a.EmptyAt is null => "Empty",
            _ when a.GateOutAt is null => "GateOut",
            _ => null,
        };
        return new YardCard(
            card,
            a.Plate,
            a.Haulier,
            a.Seal,
            a.SealFound,
            a.SealReason,
            a.Unplanned,
            a.State == ArrivalState.Expected ? YardRules.Propose(spots, taken, a.Vehicle, cold, door?.X) : null,
            a.State == ArrivalState.InYard && a.GateInAt is { } since ? (int)(inquiry.Now - since).TotalMinutes : null,
            a.ContainerNumber is not null && a.GateInAt is { } gate && a.GateOutAt is null
                ? Detention.Of(inquiry.Site.DateAt(gate), inquiry.Today, inquiry.PlanSettings.DaysFree(a.Papers?.ShippingLine))
                : null,
            Wall(a.GateInAt),
            Wall(a.CalledAt),
            Wall(a.AtDoorAt),
            Wall(a.UnloadedAt),
            Wall(a.CountedInAt),
            Wall(a.EmptyAt),
            Wall(a.GateOutAt),
            next,
            a.GateInAt is not null
        );
    }

    /// <summary>In the yard first, then at doors and done but still here, then what comes.</summary>
    static int Order(YardCard v) =>
        v.Card.State switch
        {
            ArrivalState.InYard => 0,
            ArrivalState.Expected => 1,
            ArrivalState.AtDoor => 2,
            _ => 3,
        };
}
