using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A door with what stands there.</summary>
public sealed record DoorView(int Number, string Equipment, string? StandsThere);

/// <summary>The arrivals of the day with the doors.</summary>
public sealed record BoardAnswer(IReadOnlyList<ArrivalCard> Arrivals, IReadOnlyList<DoorView> Doors, DateTime Now);

/// <summary>Today's arrivals, most needed first: what is not counted in yet, and what was counted in today.</summary>
public static class Board
{
    public static void Map(SiteRoutes routes) => routes.Ask("/road/board", Right.See, Run);

    static async Task<Ok<BoardAnswer>> Run(Inquiry inquiry)
    {
        var dayStart = inquiry.Now.AddHours(-16);
        var open = inquiry.Db.Arrivals.Where(a =>
            a.SiteId == inquiry.Site.Id && (a.State <= ArrivalState.AtDoor || a.State == ArrivalState.CountedIn && a.CountedInAt > dayStart)
        );
        var cards = await ArrivalCards.Load(inquiry, open.OrderBy(a => a.Planned).Take(200));
        return TypedResults.Ok(
            new BoardAnswer(
                [.. cards.OrderBy(c => c.State == ArrivalState.CountedIn).ThenBy(c => c.Rank).ThenBy(c => c.Planned)],
                await Doors(inquiry),
                inquiry.Local(inquiry.Now)
            )
        );
    }

    /// <summary>The doors of the site with what stands at each.</summary>
    public static async Task<IReadOnlyList<DoorView>> Doors(Inquiry inquiry)
    {
        var taken = await inquiry
            .Db.Arrivals.Where(a => a.SiteId == inquiry.Site.Id && a.State == ArrivalState.AtDoor)
            .Select(a => new { a.DoorId, a.Number })
            .ToListAsync();
        return
        [
            .. inquiry
                .SetUp.Doors.Values.Where(d => d.SiteId == inquiry.Site.Id)
                .OrderBy(d => d.Number)
                .Select(d => new DoorView(d.Number, d.Equipment, taken.Find(t => t.DoorId == d.Id)?.Number)),
        ];
    }
}
