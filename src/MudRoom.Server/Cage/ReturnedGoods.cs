using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Cage;

/// <summary>The line of a customer's return that goods are bound to.</summary>
/// <param name="Order">Its number.</param>
public sealed record ReturnOf(string Order, int Line, int CustomerId, ReturnTerms Terms)
{
    /// <summary>The order, as what an entry is about.</summary>
    public Reference Reference => Reference.Order(Order);
}

/// <summary>Goods that customers sent back: bound to their return from the count on, until it is said what becomes of them.</summary>
public static class ReturnedGoods
{
    /// <summary>True where some of a count goes on the line of a customer's return.</summary>
    public static bool AreOn(IEnumerable<ManifestLine> lines, IReadOnlyList<Share> shares) =>
        lines.Any(l => l.Part!.Line!.Order!.Kind == OrderKind.CustomerReturn && shares.Any(s => s.PartId == l.PartId));

    /// <summary>Binds what is counted on lines of customers' returns: a hold for each line, which has grown by its share.</summary>
    /// <returns>By line part, its hold; none for parts of other orders.</returns>
    public static async Task<IReadOnlyDictionary<int, Hold>> Bind(
        Act act,
        Arrival arrival,
        Item item,
        Batch? batch,
        IEnumerable<ManifestLine> lines,
        IReadOnlyList<Share> shares
    )
    {
        var returned = lines.Where(l => l.Part!.Line!.Order!.Kind == OrderKind.CustomerReturn).ToDictionary(l => l.PartId);
        var bound = new Dictionary<int, Hold>();
        foreach (var share in shares.Where(s => s.PartId is { } part && returned.ContainsKey(part)))
        {
            var line = returned[share.PartId!.Value].Part!.Line!;
            var hold = bound.Values.FirstOrDefault(h => h.OrderLineId == line.Id)
                ?? await Holds.For(
                    act,
                    arrival,
                    item,
                    batch,
                    HoldReason.CustomerReturn,
                    $"{line.Order!.Number} line {line.Number}, {act.SetUp.Vendors[line.Order.VendorId].Name}: "
                        + $"{line.Return ?? ReturnTerms.NotSaid}",
                    HoldConditions.None,
                    line.Id
                );
            // Open: it was just looked for as such, or made.
            _ = hold.Grow(share.Quantity, act.Site.LocalTime);
            bound[share.PartId.Value] = hold;
        }

        return bound;
    }

    /// <summary>The line that a hold binds its goods to; null for holds of other goods.</summary>
    public static async Task<ReturnOf?> Of(MudRoomDb db, Hold hold) =>
        hold.OrderLineId is not { } id
            ? null
            : await db
                .OrderLines.Where(l => l.Id == id)
                .Select(l => new ReturnOf(l.Order!.Number, l.Number, l.Order.VendorId, l.Return ?? ReturnTerms.NotSaid))
                .SingleAsync();

    /// <summary>By order line, the number of the customer's return that some holds bind their goods to.</summary>
    public static async Task<IReadOnlyDictionary<int, string>> Orders(MudRoomDb db, IEnumerable<Hold> holds)
    {
        var lines = holds.Select(h => h.OrderLineId).OfType<int>().Distinct().ToList();
        return lines.Count == 0
            ? new Dictionary<int, string>()
            : await db
                .OrderLines.Where(l => lines.Contains(l.Id))
                .Select(l => new { l.Id, l.Order!.Number })
                .ToDictionaryAsync(l => l.Id, l => l.Number);
    }

    /// <summary>By hold, the first inspection of its goods that nobody has signed yet.</summary>
    public static async Task<IReadOnlyDictionary<int, string>> WaitFor(MudRoomDb db, IReadOnlyCollection<int> holds)
    {
        var waiting = await Speaking(db, holds)
            .Where(x => x.IsOpen && x.Inspection.State != InspectionState.Skipped)
            .Select(x => new { x.Hold, x.Inspection.Number })
            .ToListAsync();
        return waiting.GroupBy(w => w.Hold).ToDictionary(g => g.Key, g => g.Min(w => w.Number)!);
    }

    /// <summary>The inspection that rejected some goods of a hold, by the last verdict of each plan; null where none did.</summary>
    public static async Task<string?> RejectedBy(MudRoomDb db, Hold hold)
    {
        var signed = await Speaking(db, [hold.Id])
            .Where(x => x.Inspection.Verdict != null)
            .Select(x => new
            {
                x.Lot,
                x.Inspection.PlanId,
                x.Inspection.Id,
                x.Inspection.Number,
                x.Inspection.Verdict,
            })
            .ToListAsync();
        return signed
            .GroupBy(x => (x.Lot, x.PlanId))
            .Select(g => g.MaxBy(x => x.Id)!)
            .Where(x => x.Verdict == Verdict.Rejected)
            .Select(x => x.Number)
            .Min(StringComparer.Ordinal);
    }

    sealed class SpokenOf
    {
        public int Hold { get; init; }
        public int Lot { get; init; }
        public bool IsOpen { get; init; }
        public required Inspection Inspection { get; init; }
    }

    /// <summary>The inspections that speak or have spoken for goods that some holds hold now.</summary>
    static IQueryable<SpokenOf> Speaking(MudRoomDb db, IReadOnlyCollection<int> holds) =>
        db
            .Statements.Where(s => holds.Contains(s.HoldId!.Value) && s.SettledAt == null)
            .Join(db.Statements.Where(s => s.InspectionId != null), h => h.LotId, s => s.LotId, (h, s) => new { h.HoldId, Said = s })
            .Join(
                db.Inspections,
                x => x.Said.InspectionId,
                i => i.Id,
                (x, i) =>
                    new SpokenOf
                    {
                        Hold = x.HoldId!.Value,
                        Lot = x.Said.LotId,
                        IsOpen = x.Said.SettledAt == null,
                        Inspection = i,
                    }
            );
}
