using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Cage;

/// <summary>Ends the concessions whose time is over.</summary>
public sealed record EndConcessionsRequest;

/// <summary>Concessions with an end: their hold stays on the goods and keeps nothing back until then, so that whatever becomes of them is
/// known, and what is left is held again by nobody's word.</summary>
public static class Concessions
{
    public static void Map(SiteRoutes routes) =>
        routes.Act<EndConcessionsRequest, DoneAnswer>("/cage/concessions/end", Right.LiftHold, (act, _) => EndDue(act));

    /// <summary>Ends all whose time is over at the site.</summary>
    public static async Task<Outcome<DoneAnswer>> EndDue(Act act)
    {
        var over = await act
            .Db.Holds.Where(h => h.SiteId == act.Site.Id && h.IsOpen && h.UsableUntil <= act.Now)
            .OrderBy(h => h.Id)
            .ToListAsync();
        foreach (var hold in over)
            if ((await End(act, hold, null)).Refused(out var refusal))
                return refusal;
        return new DoneAnswer(
            over.Count == 0 ? "No concession is over." : $"Held again by {string.Join(", ", over.Select(h => h.Number))}."
        );
    }

    /// <summary>Ends one: what is left is held again, and the book names what was used.</summary>
    /// <param name="why">Null where its time is over.</param>
    public static async Task<Outcome<DoneAnswer>> End(Act act, Hold hold, string? why)
    {
        var was = hold.Undecide(act.Site.LocalTime);
        if (was.Refused(out var refusal))
            return refusal;
        var (item, lots) = (act.SetUp.Catalogue[hold.ItemId], await LotReads.Under(act.Db, hold));
        var used = await Used(act, hold, item, was.Value.At);
        var fact = new ConcessionEnded(hold.Number, Amount.Of(hold.Quantity, item), used, act.Person.Name, why)
        {
            About = [.. Lots.About(lots)],
        };
        act.Write(fact);
        await Lots.AskOf(act, hold, lots);
        await Lots.Restand(act, lots, fact);
        await Receipts.Moved(act);
        act.Touch("cage", "bench", "shelf", "house");
        return new DoneAnswer(act.Words(fact));
    }

    /// <summary>What left of the goods of a hold since an instant, in words, by what it left for; null where nothing did.</summary>
    static async Task<string?> Used(Act act, Hold hold, Item item, DateTimeOffset since)
    {
        var lots = await act.Db.Statements.Where(s => s.HoldId == hold.Id).Select(s => s.LotId).Distinct().ToListAsync();
        var gone = (await Crossings.OfLots(act.History, lots))
            .Where(e => e.At >= since)
            .GroupBy(e => e.Subject)
            .Select(g => (For: g.Key, Quantity: Crossings.Left(g)))
            .Where(g => g.Quantity > 0)
            .ToList();
        return gone.Count == 0 ? null : string.Join(", ", gone.Select(g => $"{Quantities.Show(g.Quantity)} {item.UnitWord} for {g.For}"));
    }
}

/// <summary>Ends concessions when their time comes, at every site.</summary>
public sealed class ConcessionWatch(
    SetUpStore setUps,
    ActRunner acts,
    WriteDesk desk,
    TimeProvider clock,
    Health health,
    ILogger<ConcessionWatch> logger
) : Watchman(health, logger, "ends of concessions")
{
    /// <summary>A concession that is given meanwhile lasts to the end of a day at least, so nothing is missed for longer.</summary>
    static readonly TimeSpan longest = TimeSpan.FromSeconds(20);

    protected override async Task Work(CancellationToken stopping)
    {
        while (true)
        {
            var next = await Next();
            if (next <= clock.GetUtcNow())
                foreach (var site in (await setUps.Current()).Sites.Values)
                    await acts.Run(
                        new ActFrom(site.Code, ActFrom.ByRule, "server", Guid.NewGuid()),
                        "/cage/concessions/end",
                        new EndConcessionsRequest(),
                        (act, _) => Concessions.EndDue(act)
                    );
            Succeeded();
            var pause = next - clock.GetUtcNow();
            await Task.Delay(pause > TimeSpan.Zero && pause < longest ? pause.Value : longest, stopping);
        }
    }

    Task<DateTimeOffset?> Next() =>
        desk.Do(async scope => (await scope.Db.Holds.Where(h => h.IsOpen && h.UsableUntil != null).MinAsync(h => h.UsableUntil), false));
}
