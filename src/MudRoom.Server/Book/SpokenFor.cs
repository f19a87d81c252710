using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>The goods a hold or an inspection speaks for: item and batch, and the counts it came from.</summary>
public sealed record SpokenFor(int ItemId, int? BatchId, int? HoldId, int? InspectionId)
{
    /// <summary>A hold laid by an inspection speaks for what the inspection spoke for.</summary>
    public static SpokenFor By(Hold hold) =>
        new(hold.ItemId, hold.BatchId, hold.InspectionId is null ? hold.CountsOf : null, hold.InspectionId);

    public static SpokenFor By(Inspection inspection) => new(inspection.ItemId, inspection.BatchId, null, inspection.Id);

    /// <summary>Chooses from what stands on the site, its own first; see <see cref="OwnFirst"/>.</summary>
    public async Task<IReadOnlyList<Taking>> Choose(Act act, Standing standing, decimal quantity)
    {
        var rows = await act
            .Db.Balances.Where(b => b.SiteId == act.Site.Id && b.ItemId == ItemId && b.BatchId == BatchId && b.Standing == standing)
            .ToListAsync();
        var counts = await act
            .Db.TallyEntries.Where(e =>
                e.ItemId == ItemId && e.BatchId == BatchId && e.TakenBackAt == null && (e.HoldId != null || e.InspectionId != null)
            )
            .Select(e => new
            {
                e.BinId,
                e.UnitId,
                Own = HoldId != null ? e.HoldId == HoldId : e.InspectionId == InspectionId,
            })
            .ToListAsync();
        return OwnFirst.Choose(
            rows,
            [.. counts.Where(c => c.Own).Select(c => (c.BinId, c.UnitId))],
            counts.Where(c => !c.Own && c.UnitId is not null).Select(c => c.UnitId!.Value).ToHashSet(),
            quantity
        );
    }

    /// <summary>Changes the standing of so much of them, wherever they stand on the site; a movement per place.</summary>
    /// <returns>How much was changed.</returns>
    public static async Task<decimal> Restand(
        Act act,
        SpokenFor goods,
        decimal quantity,
        Standing from,
        Standing to,
        EntryKind kind,
        string subject,
        string sentence
    )
    {
        var takings = await goods.Choose(act, from, quantity);
        foreach (var (row, takes) in takings)
            act.Write(
                kind,
                subject,
                $"{sentence}: {Quantities.Show(takes)} in {act.SetUp.Address(row.BinId)} now {Standings.Word(to)}.",
                new Movement(row.Goods, takes, row.Place, Place.In(row.BinId, to))
            );
        return takings.Sum(t => t.Quantity);
    }

    /// <summary>Brings so much of them to an account outside; a movement per place.</summary>
    /// <returns>How much went.</returns>
    public static async Task<decimal> SendOut(
        Act act,
        SpokenFor goods,
        decimal quantity,
        Standing from,
        Account to,
        EntryKind kind,
        string subject,
        string sentence
    )
    {
        var takings = await goods.Choose(act, from, quantity);
        foreach (var (row, takes) in takings)
            act.Write(kind, subject, sentence, new Movement(row.Goods, takes, row.Place, new Place(to)));
        return takings.Sum(t => t.Quantity);
    }
}
