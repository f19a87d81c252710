using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Cage;

/// <summary>Where the goods of a customer's return are and have been, read together for all its lines.</summary>
/// <param name="Arrivals">By line part, what carries it or has carried it.</param>
/// <param name="Looked">By hold, the inspections of its goods.</param>
/// <param name="WaitFor">By hold, an inspection that nobody has signed.</param>
sealed record ReturnGoods(
    IReadOnlyList<(int Part, ReturnArrival Arrival)> Arrivals,
    IReadOnlyList<(int Hold, ReturnLooked Looked)> Looked,
    IReadOnlyDictionary<int, string> WaitFor,
    IReadOnlyList<Statement> Said,
    IReadOnlyList<Balance> Stock,
    IReadOnlyList<LedgerEntry> Left
)
{
    public static async Task<ReturnGoods> Of(Inquiry inquiry, Order order, IReadOnlyList<Hold> holds)
    {
        var db = inquiry.Db;
        var parts = order.Lines.SelectMany(l => l.Parts).Select(p => p.Id).ToList();
        var arrivals = await db
            .ManifestLines.Where(m => parts.Contains(m.PartId))
            .Join(db.Arrivals, m => m.ArrivalId, a => a.Id, (m, a) => new { m.PartId, Arrival = a })
            .OrderBy(x => x.Arrival.Id)
            .ToListAsync();
        var ids = holds.Select(h => h.Id).ToList();
        var said = await db.Statements.Where(s => ids.Contains(s.HoldId!.Value)).AsNoTracking().ToListAsync();
        var lots = said.Select(s => s.LotId).Distinct().ToList();
        var looked = await db
            .Statements.Where(s => lots.Contains(s.LotId) && s.InspectionId != null)
            .Join(db.Inspections, s => s.InspectionId, i => i.Id, (s, i) => new { s.LotId, Inspection = i })
            .OrderBy(x => x.Inspection.Id)
            .AsNoTracking()
            .ToListAsync();
        return new ReturnGoods(
            [.. arrivals.Where(x => x.Arrival.State != ArrivalState.Withdrawn).Select(x => (x.PartId, ArrivalOf(inquiry, x.Arrival)))],
            [
                .. looked.SelectMany(x =>
                    said.Where(s => s.LotId == x.LotId)
                        .Select(s => (s.HoldId!.Value, new ReturnLooked(x.Inspection.Number, Accepted(x.Inspection.Verdict))))
                ),
            ],
            await ReturnedGoods.WaitFor(db, ids),
            said,
            await LotReads.Balances(db, lots),
            await Crossings.OfLots(await inquiry.History(), lots)
        );
    }

    static bool? Accepted(Verdict? verdict) => verdict is { } said ? said == Verdict.Accepted : null;

    static ReturnArrival ArrivalOf(Inquiry inquiry, Arrival arrival) =>
        new(
            arrival.Number,
            arrival.State >= ArrivalState.AtDoor,
            (arrival.AtDoorAt ?? arrival.Planned) is { } at ? inquiry.Local(at) : null
        );

    /// <summary>Where the goods of a hold stand; with how much, where it is several places.</summary>
    public IReadOnlyList<string> PlacesOf(Inquiry inquiry, int hold)
    {
        var places = Held(hold).GroupBy(b => b.BinId).ToList();
        return
        [
            .. places.Select(g => inquiry.SetUp.Address(g.Key) + (places.Count > 1 ? $" ({Quantities.Show(g.Sum(b => b.Quantity))})" : "")),
        ];
    }

    /// <summary>The serial numbers of its pieces.</summary>
    public IReadOnlyList<string> SerialsOf(int hold) =>
        [.. Held(hold).Select(b => b.Serial).OfType<string>().Order(StringComparer.Ordinal)];

    IEnumerable<Balance> Held(int hold)
    {
        var lots = Said.Where(s => s.HoldId == hold && s.IsOpen).Select(s => s.LotId).ToHashSet();
        return Stock.Where(b => lots.Contains(b.LotId!.Value));
    }

    /// <summary>What of the goods of some holds is bound no more: where it stands and as what, and where it went.</summary>
    public IReadOnlyList<ReturnFreed> Freed(Inquiry inquiry, IReadOnlyCollection<int> holds)
    {
        var own = Said.Where(s => holds.Contains(s.HoldId!.Value)).ToLookup(s => s.LotId);
        var here = Stock
            .Where(b => own.Contains(b.LotId!.Value) && own[b.LotId!.Value].All(s => !s.IsOpen))
            .GroupBy(b => (b.Standing, b.BinId))
            .Select(g => new ReturnFreed(
                g.Sum(b => b.Quantity),
                $"{inquiry.Standings.Word(g.Key.Standing)} in {inquiry.SetUp.Address(g.Key.BinId)}"
            ));
        var gone = Left.Where(e => own.Contains(e.LotId ?? e.ToLotId ?? 0))
            .GroupBy(e => e.Movement!.From.IsInside ? e.Movement.To.Account : e.Movement.From.Account)
            .Select(g => new ReturnFreed(Crossings.Left(g), ReturnWay.GoneWord(g.Key)))
            .Where(g => g.Quantity != 0);
        return [.. here, .. gone];
    }
}
