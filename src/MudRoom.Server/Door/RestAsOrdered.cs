using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>Takes all that is still open on an arrival as ordered.</summary>
public sealed record RestRequest(string Arrival);

/// <summary>What was taken, and what still has to be counted by hand.</summary>
public sealed record RestAnswer(string Sentence, IReadOnlyList<string> Taken, IReadOnlyList<string> Left);

/// <summary>One press for what nobody wants to scan: the open rest of each line is counted as ordered, where the item asks for nothing
/// more.</summary>
public static class RestAsOrdered
{
    public static void Map(SiteRoutes routes) => routes.Act<RestRequest, RestAnswer>("/door/rest-as-ordered", Right.CloseTally, Run);

    public static async Task<Outcome<RestAnswer>> Run(Act act, RestRequest request)
    {
        if (!act.DoorSettings.RestAsOrdered)
            return new Refusal(
                DoorRefusals.RestNotAllowed,
                $"{act.Site.Name} does not take the rest as ordered.",
                "Count it. The administrator may allow it in Site."
            );
        var arrival = await act
            .Db.Arrivals.AsNoTracking()
            .Include(a => a.Manifest)
                .ThenInclude(m => m.Part)
            .Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var (taken, left) = (new List<string>(), new List<string>());
        foreach (var line in arrival.Manifest.Where(m => m.Counted < m.Expected).OrderBy(m => m.Id))
        {
            var item = act.SetUp.Catalogue[line.Part!.ItemId];
            var rest = line.Expected - line.Counted;
            var pack = item.LargestPackOf(rest);
            var counted = await CountGoods.Run(
                act,
                new CountCommand(
                    arrival.Number,
                    Count.Of(item, pack, rest / pack.Content(1)) with
                    {
                        Note = "taken as ordered",
                        ChosenPart = line.PartId,
                        EarlyAllowed = true,
                    }
                ),
                new CountBehind()
            );
            if (counted.Refused(out var refusal))
                left.Add(refusal.Sentence);
            else
                taken.Add($"{Quantities.Show(rest)} {item.UnitWord} of {item.Name}");
            await act.Db.SaveChangesAsync();
        }

        return taken.Count > 0
                ? new RestAnswer(
                    $"{taken.Count} {(taken.Count == 1 ? "line" : "lines")} taken as ordered, {left.Count} to be counted.",
                    taken,
                    left
                )
            : left.Count > 0
                ? new Refusal(DoorRefusals.RestWantsMore, $"Nothing could be taken as ordered. {left[0]}", "Count these by hand.")
            : new Refusal(HouseRefusals.NothingOpen, "Nothing is open any more.", "Close the tally.");
    }
}
