using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Demo;
using MudRoom.Server.Acts;
using MudRoom.Server.Hosting;
using MudRoom.Server.Road;

namespace MudRoom.Server.Demo;

/// <summary>Somebody of the demo, as a card on its sign-in page.</summary>
/// <param name="Password">As it was printed at the start: the demo opens its own door.</param>
public sealed record DemoCard(string Name, string SignInName, string Password, Role Role, string Does, string Try, string Page);

/// <summary>A code to press in a step.</summary>
public sealed record StepLabel(string Title, string Text);

/// <summary>A step of the ten minutes.</summary>
/// <param name="Who">Sign-in name of who does it.</param>
/// <param name="Page">Where it is done.</param>
/// <param name="Done">True when it has happened, by whichever way.</param>
public sealed record TenMinutesStep(string Title, string Words, string Who, string Page, IReadOnlyList<StepLabel> Labels, bool Done);

/// <summary>The first ten minutes of a newcomer: one arrival from its door through count, inspection and put-away, ticked by what has
/// really happened.</summary>
public static class TenMinutes
{
    /// <summary>The arrival that is walked through: two vendors, one lot to inspect, one to keep cold.</summary>
    public const string Arrival = "A-2621";

    const string Cold = "SD-CARR";
    const string Inspected = "SC-21";
    const string Batch = "HF-C-900";

    public static void Map(WebApplication app, SiteRoutes routes)
    {
        app.MapGet("/api/demo/people", (Mode mode) => People(mode)).AllowAnonymous().WithName("ask demo people");
        routes.Ask("/demo/ten-minutes", Right.See, Steps, BlindView.Open);
    }

    static Results<Ok<IReadOnlyList<DemoCard>>, ProblemHttpResult> People(Mode mode) =>
        mode.IsDemo
            ? TypedResults.Ok<IReadOnlyList<DemoCard>>([.. PeopleList.Make().Select(Card)])
            : Problems.Of(Problems.NotFound("page", "demo"));

    static DemoCard Card(DemoPerson person)
    {
        var guide = RoleGuide.Of(person.Person.Roles[0]);
        return new DemoCard(
            person.Person.Name,
            person.Person.SignInName,
            person.Password,
            person.Person.Roles[0],
            guide.Does,
            guide.Try,
            guide.Page
        );
    }

    static async Task<Results<Ok<IReadOnlyList<TenMinutesStep>>, ProblemHttpResult>> Steps(Inquiry inquiry, Mode mode)
    {
        if (!mode.IsDemo || await inquiry.Db.Arrivals.Numbered(inquiry.Site, Arrival) is not { } arrival)
            return Problems.Of(Problems.NotFound("page", "ten minutes"));
        var counts = await inquiry
            .Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null)
            .Select(e => new
            {
                e.ItemId,
                e.BatchId,
                e.BinId,
            })
            .ToListAsync();
        bool Counted(string item) => counts.Any(c => inquiry.SetUp.Catalogue[c.ItemId].Code == item);
        var inspections = await inquiry.Db.Inspections.Where(i => i.ArrivalId == arrival.Id).Select(i => i.State).ToListAsync();
        var batches = counts.Select(c => c.BatchId).OfType<int>().Distinct().ToList();
        var places = await inquiry
            .Db.Balances.Where(b => b.SiteId == inquiry.Site.Id && b.BatchId != null && batches.Contains(b.BatchId.Value))
            .Select(b => b.BinId)
            .Distinct()
            .ToListAsync();
        var stored = places.Any(p => inquiry.SetUp.Bins[p].Function is not (BinFunction.Staging or BinFunction.Truck));
        var receipts = await inquiry.Db.Receipts.AnyAsync(r => r.ArrivalId == arrival.Id);
        string Gtin(string item, string pack) =>
            inquiry.SetUp.Catalogue.Items.First(i => i.Code == item).PackLevels.First(p => p.Name == pack).Gtin!;
        var made = inquiry.Today.AddDays(-40);
        var carrots = new StepLabel(
            "Carrot seed, box",
            $"]d201{Gtin(Cold, "box")}11{made:yyMMdd}15{made.AddYears(2):yyMMdd}10{Batch}{ElementStringReader.Separator}422208"
        );
        var shears = new StepLabel("Secateurs, box", $"(01){Gtin(Inspected, "box")}(10)KB-2001");
        return TypedResults.Ok<IReadOnlyList<TenMinutesStep>>([
            new(
                "Bring a truck to its door",
                $"{Arrival} is planned for noon and stands at the gate already. Press 1 under “At door”: its seed must be kept "
                    + $"cold, and door 1 is made for that.",
                "wanjiru",
                $"/road/arrivals/{Arrival}",
                [],
                arrival.State is ArrivalState.AtDoor or ArrivalState.CountedIn
            ),
            new(
                "Count the seed",
                "Scan the box: item, batch, dates and origin are in its label. Type 20 boxes, and take it. The line says who waits "
                    + "for some of it.",
                "maren",
                $"/door/{Arrival}",
                [carrots],
                Counted(Cold)
            ),
            new(
                "Count the secateurs",
                "Another vendor's goods, on the same truck. Six boxes: they go to inspection, and the line says so.",
                "maren",
                $"/door/{Arrival}",
                [shears],
                Counted(Inspected)
            ),
            new(
                "Inspect them",
                "Draw the sample, enter the findings by keyboard, and sign the verdict. The plan says how many pieces, and when the "
                    + "lot is lost.",
                "sunita",
                "/bench",
                [],
                inspections.Contains(InspectionState.Signed)
            ),
            new(
                "Put the seed away",
                "Take the task, scan its box, and scan the bin that is proposed. Try a warm bin first: it is refused, with why.",
                "callum",
                "/shelf",
                [carrots, new("A warm bin", "O-05-1")],
                stored
            ),
            new(
                "Close the tally",
                "Line by line, with a delivery note of each vendor. Receipts are posted, and the orders know it.",
                "wanjiru",
                $"/door/{Arrival}",
                [],
                receipts
            ),
            new(
                "Find it again",
                "Scan the batch in the book: where it stands, and everything that has happened to it. From here on, stray.",
                "wanjiru",
                "/book",
                [new("Source batch", Batch)],
                false
            ),
        ]);
    }
}
