using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>Asks for second counts of what differs on an arrival.</summary>
public sealed record AskSecondRequest(string Arrival);

/// <summary>A second count: how much of the item stands there.</summary>
/// <param name="Pack">Pack level it was counted in.</param>
public sealed record SecondCountRequest(int Id, string Packs, string Pack);

/// <summary>A supervisor lets the first count stand.</summary>
public sealed record FirstStandsRequest(int Id);

/// <summary>A second count as screens show it.</summary>
/// <param name="First">What was counted first; null for those who count blind.</param>
/// <param name="Mine">True when the person counted first, and somebody else has to count again.</param>
public sealed record SecondCountRow(
    int Id,
    string Item,
    string ItemName,
    string Unit,
    decimal? First,
    decimal? Second,
    string? CountedBy,
    SecondCountState State,
    bool Mine
);

/// <summary>Second counts: where a count differs from the papers, somebody else counts the item again without knowing the first.</summary>
public static class SecondCounts
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<AskSecondRequest, DoneAnswer>("/door/second-count/ask", Right.SettleTally, Ask);
        routes.Act<SecondCountRequest, DoneAnswer>("/door/second-count", Right.Tally, Take, blind: BlindView.Open);
        routes.Act<FirstStandsRequest, DoneAnswer>("/door/second-count/first-stands", Right.SettleTally, Stand);
    }

    /// <summary>The second counts of an arrival; without what was counted first for who may not know it.</summary>
    public static async Task<List<SecondCountRow>> Of(Inquiry inquiry, int arrivalId)
    {
        var rows = await inquiry.Db.SecondCounts.Where(s => s.ArrivalId == arrivalId).OrderBy(s => s.State).ThenBy(s => s.Id).ToListAsync();
        if (rows.Count == 0)
            return [];
        var mine = await inquiry
            .Db.TallyEntries.Where(e => e.ArrivalId == arrivalId && e.TakenBackAt == null && e.PersonId == inquiry.Person.Id)
            .Select(e => e.ItemId)
            .Distinct()
            .ToListAsync();
        var sees = inquiry.May(Right.SettleTally);
        return
        [
            .. rows.Where(r => sees || r.State == SecondCountState.Waiting)
                .Select(r =>
                {
                    var item = inquiry.SetUp.Catalogue[r.ItemId];
                    return new SecondCountRow(
                        r.Id,
                        item.Code,
                        item.Name,
                        item.UnitWord,
                        sees ? r.First : null,
                        sees ? r.Second : null,
                        r.CountedBy,
                        r.State,
                        mine.Contains(r.ItemId)
                    );
                }),
        ];
    }

    /// <summary>Names of items whose count differs and was not settled by a second one; empty where the site does not ask for
    /// any.</summary>
    public static async Task<IReadOnlyList<int>> Unsettled(Act act, Arrival arrival) =>
        act.DoorSettings.SecondCount
            ? BlindCount.Unsettled(
                arrival.Manifest.Select(m => (m.Part!.ItemId, m.Expected, m.Counted)),
                await act.Db.SecondCounts.Where(s => s.ArrivalId == arrival.Id).ToListAsync()
            )
            : [];

    public static async Task<Outcome<DoneAnswer>> Ask(Act act, AskSecondRequest request)
    {
        var arrival = await act.Db.Arrivals.Include(a => a.Manifest).ThenInclude(m => m.Part).Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var asked = await act.Db.SecondCounts.Where(s => s.ArrivalId == arrival.Id).ToListAsync();
        var differing = BlindCount.Unsettled(arrival.Manifest.Select(m => (m.Part!.ItemId, m.Expected, m.Counted)), asked);
        var names = new List<string>();
        foreach (var itemId in differing.Where(i => !asked.Any(s => s.ItemId == i && s.State == SecondCountState.Waiting)))
        {
            act.Db.SecondCounts.Add(
                new SecondCount
                {
                    SiteId = act.Site.Id,
                    ArrivalId = arrival.Id,
                    ItemId = itemId,
                    First = arrival.Manifest.Where(m => m.Part!.ItemId == itemId).Sum(m => m.Counted),
                    AskedBy = act.Person.Name,
                    AskedAt = act.Now,
                }
            );
            names.Add(act.SetUp.Catalogue[itemId].Name);
        }

        if (names.Count == 0)
            return new Refusal(
                DoorRefusals.NothingDiffers,
                "No count differs that is not being counted a second time already.",
                "Wait for the second counts, or close the tally."
            );
        act.Write(new SecondCountAsked(arrival.Number, names));
        act.Touch("arrival:" + arrival.Number, "door");
        return new DoneAnswer($"Asked for a second count of {string.Join(", ", names)}, by somebody who did not count it first.");
    }

    public static async Task<Outcome<DoneAnswer>> Take(Act act, SecondCountRequest request)
    {
        var found = await Find(act, request.Id);
        if (found.Refused(out var refusal))
            return refusal;
        var (second, arrival) = found.Value;
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var item = act.SetUp.Catalogue[second.ItemId];
        var pack = item.PackOrMeasure(request.Pack ?? "");
        if (pack is null)
            return new Refusal(
                DoorRefusals.PackUnknown,
                $"{item.Name} has no pack called {request.Pack}.",
                $"It has {string.Join(", ", item.PackLevels.Select(p => p.Name))}."
            );
        var packs = Quantities.Read(request.Packs, act.Site.DecimalComma);
        if (packs.Refused(out var noNumber))
            return noNumber;
        if (packs.Value > Quantities.Most)
            return new Refusal(HouseRefusals.QuantityTooLarge, $"{request.Packs} cannot be right.", "Look at the number again.");
        var first = await act
            .Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.ItemId == item.Id && e.TakenBackAt == null)
            .Select(e => e.PersonId)
            .Distinct()
            .ToListAsync();
        if (second.Take(pack.Content(packs.Value), act.Person, first, act.Now) is { } no)
            return no;
        act.Write(new CountedAgain(arrival.Number, Amount.Of(second.Second!.Value, item), second.First));
        act.Touch("arrival:" + arrival.Number, "door");
        return new DoneAnswer($"{Quantities.Show(second.Second.Value)} {item.UnitWord} of {item.Name} are noted.");
    }

    public static async Task<Outcome<DoneAnswer>> Stand(Act act, FirstStandsRequest request)
    {
        var found = await Find(act, request.Id);
        if (found.Refused(out var refusal))
            return refusal;
        var (second, arrival) = found.Value;
        if (second.LetFirstStand() is { } no)
            return no;
        var item = act.SetUp.Catalogue[second.ItemId];
        act.Write(new FirstCountStands(arrival.Number, Amount.Of(second.First, item), second.Second!.Value));
        act.Touch("arrival:" + arrival.Number, "door");
        return new DoneAnswer($"The first count of {item.Name} stands: {Quantities.Show(second.First)} {item.UnitWord}.");
    }

    static async Task<Outcome<(SecondCount Second, Arrival Arrival)>> Find(Act act, int id)
    {
        var second = await act.Db.SecondCounts.FirstOrDefaultAsync(s => s.Id == id && s.SiteId == act.Site.Id);
        return second is null
            ? Problems.NotFound("second count", id.ToString())
            : (second, await act.Db.Arrivals.FirstAsync(a => a.Id == second.ArrivalId));
    }
}
