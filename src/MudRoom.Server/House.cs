using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Shelf;

namespace MudRoom.Server;

/// <summary>One room of the house strip.</summary>
/// <param name="Room">road, yard, door …</param>
/// <param name="Count">How much stands there.</param>
/// <param name="Noun">What is counted.</param>
/// <param name="Oldest">For how long the oldest has stood there, or what is late.</param>
public sealed record RoomView(string Room, int? Count, string Noun, string Oldest);

/// <summary>The house strip.</summary>
public sealed record HouseAnswer(DateTime Now, string SiteName, IReadOnlyList<RoomView> Rooms);

/// <summary>What stands in each room now.</summary>
public static class House
{
    public static void Map(SiteRoutes routes) => routes.Ask("/house", Right.See, Run, BlindView.Open);

    static async Task<Ok<HouseAnswer>> Run(Inquiry inquiry)
    {
        var site = inquiry.Site.Id;
        var db = inquiry.Db;
        var coming = await db
            .Arrivals.Where(a => a.SiteId == site && a.State == ArrivalState.Expected)
            .Select(a => a.Planned)
            .ToListAsync();
        var late = coming.Count(p => p < inquiry.Now.AddMinutes(-RoadQueue.GraceMinutes));
        var inYard = await db.Arrivals.Where(a => a.SiteId == site && a.State == ArrivalState.InYard).Select(a => a.GateInAt).ToListAsync();
        var atDoor = await db.Arrivals.Where(a => a.SiteId == site && a.State == ArrivalState.AtDoor).Select(a => a.AtDoorAt).ToListAsync();
        var questions = await db.TallyQuestions.CountAsync(q => q.SiteId == site && q.IsOpen);
        var bench = await db
            .Inspections.Open()
            .Where(i => i.SiteId == site && i.Quantity > 0)
            .Select(i => (DateTimeOffset?)i.Since)
            .ToListAsync();
        var holds = await db.Holds.Where(h => h.SiteId == site && h.IsOpen).Select(h => (DateTimeOffset?)h.Since).ToListAsync();
        var waiting = await OpenTasks.Count(db, site);
        var dayStart = MidnightOf(inquiry);
        var entries = await db.Ledger.CountAsync(e => e.SiteId == site && e.At >= dayStart);
        return TypedResults.Ok(
            new HouseAnswer(
                inquiry.Local(inquiry.Now),
                inquiry.Site.Name,
                [
                    new RoomView("road", coming.Count, "to come", late > 0 ? $"{late} late, {Age(inquiry, coming.Min())}" : "none late"),
                    new RoomView("yard", inYard.Count, "here", Oldest(inquiry, inYard)),
                    new RoomView(
                        "door",
                        atDoor.Count,
                        "tallies",
                        questions > 0 ? $"{questions} {(questions == 1 ? "question" : "questions")} open" : Oldest(inquiry, atDoor)
                    ),
                    new RoomView("bench", bench.Count, "lots", Oldest(inquiry, bench)),
                    new RoomView("cage", holds.Count, "holds", Oldest(inquiry, holds)),
                    new RoomView("shelf", waiting, "tasks", Oldest(inquiry, waiting == 0 ? [] : [await OpenTasks.Oldest(db, site)])),
                    // How many entries a count made tells how it was parted between orders.
                    new RoomView("book", inquiry.IsBlind ? null : entries, inquiry.IsBlind ? "" : "today", ""),
                    new RoomView("site", inquiry.SetUp.Doors.Values.Count(d => d.SiteId == site), "doors", ""),
                ]
            )
        );
    }

    static DateTimeOffset MidnightOf(Inquiry inquiry) => inquiry.Now - inquiry.Local(inquiry.Now).TimeOfDay;

    static string Oldest(Inquiry inquiry, List<DateTimeOffset?> since) =>
        since.Count == 0 ? "empty" : $"oldest {Age(inquiry, since.Min()!.Value)}";

    static string Age(Inquiry inquiry, DateTimeOffset since) => RoadQueue.Span(Math.Max(0, (int)(inquiry.Now - since).TotalMinutes));
}
