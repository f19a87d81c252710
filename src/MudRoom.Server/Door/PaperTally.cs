using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>A tally sheet that was filled in on paper.</summary>
/// <param name="CountedBy">Sign-in name of who counted; blank for who types it in.</param>
/// <param name="Rows">The lines that have a count, as they stand on the sheet.</param>
public sealed record PaperRequest(string Arrival, string? CountedBy, IReadOnlyList<CountRequest> Rows);

/// <summary>What was taken from the sheet.</summary>
public sealed record PaperAnswer(string Sentence, IReadOnlyList<string> Counts);

/// <summary>Types a paper tally in: all its rows or none, under the name of who counted.</summary>
public static class PaperTally
{
    const int MostRows = 400;

    public static void Map(SiteRoutes routes) =>
        routes.Act<PaperRequest, PaperAnswer>("/door/paper", Right.Tally, Run, blind: BlindView.Open);

    public static async Task<Outcome<PaperAnswer>> Run(Act act, PaperRequest request)
    {
        if (request.Rows is not { Count: > 0 and <= MostRows } rows)
            return new Refusal(
                DoorRefusals.NothingCounted,
                $"A sheet has 1 to {MostRows} rows with a count.",
                "Type in what stands on the paper."
            );
        if (rows.Any(r => r is null))
            return new Refusal(
                DoorRefusals.NothingCounted,
                "A row of the sheet is empty.",
                "Leave it out. Nothing of the sheet was taken yet."
            );
        var by = act.Person;
        if (request.CountedBy.OrNull() is { } name)
        {
            if (
                act.SetUp.People.Values.FirstOrDefault(p =>
                    p.SignInName.Equals(name, StringComparison.OrdinalIgnoreCase) && p.Sites.Contains(act.Site.Code)
                )
                is not { } person
            )
                return Problems.NotFound("person", name);
            if (!Rights.Allow(person.Roles, Right.Tally))
                return new Refusal(HouseRefusals.RightMissing, $"{person.Name} does not count goods.", "Choose who counted.");
            by = person;
        }

        var counts = new List<string>();
        for (var i = 0; i < rows.Count; i++)
        {
            var read = CountText.One(act, rows[i] with { Arrival = request.Arrival, FromPaper = true });
            var counted = read.Refused(out var unreadable) ? unreadable : await CountGoods.Run(act, read.Value, new CountBehind(by));
            if (counted.Refused(out var refusal))
                return refusal with
                {
                    Sentence = $"Row {i + 1}, {rows[i].Item}: {refusal.Sentence}",
                    Next = $"{refusal.Next} Nothing of the sheet was taken yet.",
                };
            counts.Add(counted.Value.Sentence);
            await act.Db.SaveChangesAsync();
        }

        return new PaperAnswer($"{rows.Count} {(rows.Count == 1 ? "row" : "rows")} of the sheet taken, counted by {by.Name}.", counts);
    }
}
