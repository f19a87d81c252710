using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>A standing of a site, as its row is.</summary>
/// <param name="Id">Its number; null for one that is to be added.</param>
/// <param name="Lets">What it lets be done, each by its name.</param>
/// <param name="Says">How many holds and inspections ask for it now; not read back.</param>
public sealed record StandingRow(
    int? Id,
    string Word,
    StandingKind Kind,
    IReadOnlyList<Lets> Lets,
    IReadOnlyList<BinFunction> Places,
    int Rank,
    MarkShape Shape,
    MarkColour Colour,
    bool Available,
    bool Retired,
    bool IsBuiltIn = false,
    int Says = 0
);

/// <summary>The standings of a site, and what there is to choose from.</summary>
public sealed record StandingsAnswer(IReadOnlyList<StandingRow> Rows, IReadOnlyList<Lets> Lets, IReadOnlyList<BinFunction> Places);

/// <summary>Goods that stand where a changed standing does not let them.</summary>
public sealed record StandsWrongly(string Bin, string Function, string Item, decimal Quantity, string Unit);

/// <summary>What a change would do.</summary>
/// <param name="Wrongly">The first of the stock that would stand where it may not.</param>
/// <param name="Lines">How many lines of it there are in all.</param>
public sealed record StandingPreview(IReadOnlyList<StandsWrongly> Wrongly, int Lines, Refusal? Problem);

/// <summary>A standing is kept as it is here.</summary>
/// <param name="Seen">How many lines of stock the preview showed to stand wrongly.</param>
public sealed record KeepStandingRequest(StandingRow Row, int Seen);

/// <summary>The standings of a site, changed by its administrator.</summary>
public static class StandingsPage
{
    const int MostShown = 100;

    static readonly BinFunction[] places =
    [
        .. Enum.GetValues<BinFunction>().Except([BinFunction.Staging, BinFunction.Dispatch, BinFunction.Truck]),
    ];

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/site/standings", Right.See, List);
        routes.Check<StandingRow, Ok<StandingPreview>>("/site/standings/preview", Right.SetUp, Preview);
        routes.Act<KeepStandingRequest, DoneAnswer>("/site/standings", Right.SetUp, Keep);
    }

    static async Task<Ok<StandingsAnswer>> List(Inquiry inquiry)
    {
        var says = await Said.Open(inquiry.Db)
            .Where(s => s.SiteId == inquiry.Site.Id)
            .Select(s => new
            {
                s.Asks,
                s.HoldId,
                s.InspectionId,
            })
            .Distinct()
            .GroupBy(s => s.Asks)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count);
        return TypedResults.Ok(
            new StandingsAnswer(
                [
                    .. inquiry.Standings.All.Select(s => new StandingRow(
                        s.Standing.Id,
                        s.Word,
                        s.Kind,
                        [.. StandingDefinition.Letting.Where(l => s.Lets.HasFlag(l))],
                        s.Places,
                        s.Rank,
                        s.Shape,
                        s.Colour,
                        s.Available,
                        s.Retired,
                        s.IsBuiltIn,
                        says.GetValueOrDefault(s.Standing)
                    )),
                ],
                StandingDefinition.Letting,
                places
            )
        );
    }

    static async Task<Ok<StandingPreview>> Preview(Inquiry inquiry, StandingRow row)
    {
        var read = Read(inquiry.Site, inquiry.Standings, row);
        if (read.Refused(out var fault))
            return TypedResults.Ok(new StandingPreview([], 0, fault));
        var lines = await Wrongly(inquiry.Db, inquiry.SetUp, read.Value);
        return TypedResults.Ok(
            new StandingPreview(
                [
                    .. lines
                        .Take(MostShown)
                        .Select(l =>
                        {
                            var (bin, item) = (inquiry.SetUp.Bins[l.BinId], inquiry.SetUp.Catalogue[l.ItemId]);
                            return new StandsWrongly(
                                bin.Address,
                                bin.Function.ToString().ToLowerInvariant(),
                                item.Name,
                                l.Quantity,
                                item.UnitWord
                            );
                        }),
                ],
                lines.Count,
                null
            )
        );
    }

    static async Task<Outcome<DoneAnswer>> Keep(Act act, KeepStandingRequest request)
    {
        if (request.Row is not { } row)
            return new Refusal(BookRefusals.StandingAbsurd, "No standing was sent.", "Load the page again. Nothing was kept.");
        var read = Read(act.Site, act.Standings, row);
        if (read.Refused(out var fault))
            return fault;
        var to = read.Value;
        var from = row.Id is null ? null : act.Standings[to.Standing];
        if (to.Retired && from is not { Retired: true } && await SaidNow(act, to) is { } inUse)
            return inUse;
        var wrongly = (await Wrongly(act.Db, act.SetUp, to)).Count;
        if (wrongly > request.Seen)
            return new Refusal(
                BookRefusals.StandsWrongly,
                $"{wrongly} lines of stock would stand where they may not; you have seen {request.Seen}.",
                "Look at the preview again, then keep it."
            );
        var there = await act.Db.Standings.AsTracking().FirstOrDefaultAsync(s => s.SiteId == act.Site.Id && s.Standing == to.Standing);
        if (there is null)
            act.Db.Standings.Add(to);
        else
            (there.Word, there.Lets, there.Places, there.Rank, there.Shape, there.Colour, there.Available, there.Retired) = (
                to.Word,
                to.Lets,
                to.Places,
                to.Rank,
                to.Shape,
                to.Colour,
                to.Available,
                to.Retired
            );
        var set = new StandingSet(
            act.Site.Code,
            to.Word,
            from?.Word,
            to.Kind,
            to.Retired && from is { Retired: false },
            to.PlaceWords,
            to.Lets,
            to.Rank
        );
        act.Write(set);
        if (from is not null && from.Rank != to.Rank)
            await ShowAnew(act, to, set);
        act.Changes(SetUpParts.Standings);
        act.Touch("site", "book", "shelf", "cage", "bench", "house");
        return new DoneAnswer($"{set.Done()}.");
    }

    /// <summary>The row as a standing of the site.</summary>
    static Outcome<StandingDefinition> Read(WarehouseSite site, SiteStandings standings, StandingRow row)
    {
        var there = row.Id is { } id ? standings.All.FirstOrDefault(s => s.Standing.Id == id) : null;
        if (row.Id is not null && there is null)
            return Problems.NotFound("standing", row.Id.Value.ToString());
        if (there is null && standings.All.Count >= StandingDefinition.Most)
            return new Refusal(
                BookRefusals.StandingAbsurd,
                $"A site has up to {StandingDefinition.Most} standings.",
                "Use one of those that are there. Nothing was kept."
            );
        var lets = (row.Lets ?? []).Aggregate(Lets.None, (all, one) => all | one);
        var wanted = new StandingDefinition
        {
            SiteId = site.Id,
            Standing = standings.Next,
            Word = (row.Word ?? "").Trim(),
            Kind = row.Kind,
            Lets = lets,
            Places = [.. (row.Places ?? []).Distinct().Order()],
            Rank = row.Rank,
            Shape = row.Shape,
            Colour = row.Colour,
            Available = row.Available,
            Retired = row.Retired,
        };
        var to = there?.ChangedTo(wanted) ?? wanted;
        return to.Fault(standings.All) is { } fault ? fault : to;
    }

    /// <summary>Stock of a standing that stands where it may not, line by line; what only passes through is not counted.</summary>
    static async Task<IReadOnlyList<StockLine>> Wrongly(Data.MudRoomDb db, SetUp setUp, StandingDefinition standing)
    {
        var bins = setUp.BinsOfSite[standing.SiteId].Where(b => !standing.MayStand(b.Function)).Select(b => b.Id).ToList();
        return StockLine.Of(
            await db
                .Balances.AsNoTracking()
                .Where(b => b.SiteId == standing.SiteId && b.Standing == standing.Standing && bins.Contains(b.BinId))
                .OrderBy(b => b.BinId)
                .ToListAsync()
        );
    }

    /// <summary>The holds that ask for a standing that is to be retired.</summary>
    static async Task<Refusal?> SaidNow(Act act, StandingDefinition standing)
    {
        var numbers = await act
            .Db.Statements.Where(s => s.SiteId == act.Site.Id && s.Asks == standing.Standing && s.SettledAt == null)
            .Join(act.Db.Holds, s => s.HoldId, h => h.Id, (s, h) => h.Number)
            .Distinct()
            .OrderBy(n => n)
            .Take(5)
            .ToListAsync();
        return numbers.Count == 0
            ? null
            : new Refusal(
                BookRefusals.StandingInUse,
                $"{string.Join(", ", numbers)} {(numbers.Count == 1 ? "says" : "say")} that goods are {standing.Word}.",
                "Lift it first; then retire the standing."
            );
    }

    /// <summary>Its rank is another: goods of which it is said beside others are shown by the word that is highest now.</summary>
    static async Task ShowAnew(Act act, StandingDefinition standing, Fact since)
    {
        var lots = await act
            .Db.Lots.Where(l =>
                act.Db.Statements.Any(s => s.LotId == l.Id && s.Asks == standing.Standing && s.SettledAt == null)
                && act.Db.Statements.Any(s => s.LotId == l.Id && s.Asks != standing.Standing && s.SettledAt == null)
            )
            .ToListAsync();
        var changed = new SiteStandings(act.Site.Id, act.Standings.All.Where(s => s.Standing != standing.Standing).Append(standing));
        await Lots.Restand(act, lots, since, changed);
    }
}
