using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>A unit of the despatch advice that is taken in whole.</summary>
/// <param name="Origin">Country of origin, where an item on it asks for it and the advice does not say.</param>
public sealed record CountUnitRequest(string Arrival, string Sscc, string? Origin, bool EarlyAllowed);

/// <summary>Units that a vendor announced: one scan of the SSCC takes in all that stands on it, nested cartons too.</summary>
public static class AdvisedUnits
{
    const int MostLeft = 200;

    public static void Map(SiteRoutes routes) => routes.Act<CountUnitRequest, DoneAnswer>("/door/count-unit", Right.Tally, Run);

    public static async Task<Outcome<DoneAnswer>> Run(Act act, CountUnitRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        if (request.Sscc.OrNull() is null)
            return new Refusal(DoorRefusals.UnitUnknown, "No unit was scanned.", "Scan its label.");
        var contents = await ContentsOf(act.Db, arrival.Id, request.Sscc);
        if (contents.Count == 0)
            return new Refusal(
                DoorRefusals.UnitUnknown,
                $"Unit {Sscc.Spaced(request.Sscc)} is not announced for {arrival.Number}.",
                "Scan what stands on it instead."
            );
        if (AdvisedLoad.Odd(contents) is { } odd)
            return new Refusal(
                DoorRefusals.UnitDiffers,
                $"Unit {Sscc.Spaced(request.Sscc)} holds something that does not fit its order.",
                odd.ItemId is { } i
                    ? $"Count its {act.SetUp.Catalogue[i].Name} by hand, and what else stands on it."
                    : "Count what stands on it by hand."
            );
        var unit = await act.Db.Units.FirstOrDefaultAsync(u => u.SiteId == act.Site.Id && u.Sscc == request.Sscc);
        if (unit is not null && await CountedUnits.Counted(act, unit.Id, unit.Sscc) is { } counted)
            return counted;
        if (unit is null)
        {
            unit = new Core.Book.LogisticUnit
            {
                SiteId = act.Site.Id,
                Sscc = request.Sscc,
                PackName = "pallet",
                PackageType = contents[0].PackageType ?? "",
                MadeAt = act.Now,
            };
            act.Db.Units.Add(unit);
            await act.Db.SaveChangesAsync();
        }

        foreach (var content in contents)
        {
            var item = act.SetUp.Catalogue[content.ItemId!.Value];
            var taken = await CountGoods.Run(
                act,
                new CountCommand(
                    arrival.Number,
                    Count.Of(item, item.BasePack, content.Quantity) with
                    {
                        SourceBatchNumber = content.SourceBatch,
                        Production = content.Production is { } day ? new GoodsDate(day) : null,
                        BestBefore = content.BestBefore,
                        Expiry = content.Expiry,
                        Origin = item.NeedsOrigin ? request.Origin.OrNull() : null,
                        Serial = item.NeedsSerial ? content.Serial : null,
                        ChosenPart = content.PartId,
                        EarlyAllowed = request.EarlyAllowed,
                    }
                ),
                new CountBehind(Unit: unit)
            );
            if (taken.Refused(out var refusal))
                return refusal with { Sentence = $"On unit {Sscc.Spaced(request.Sscc)}: {refusal.Sentence}" };
            await act.Db.SaveChangesAsync();
        }

        return new DoneAnswer($"Unit {Sscc.Spaced(request.Sscc)} taken in: {Words(act.SetUp, contents)}.");
    }

    /// <summary>What a unit holds, with what stands in the units on it.</summary>
    public static async Task<IReadOnlyList<AdvisedUnit>> ContentsOf(MudRoomDb db, int arrivalId, string sscc) =>
        AdvisedLoad.Inside(await db.AdvisedUnits.Where(u => u.ArrivalId == arrivalId).OrderBy(u => u.Id).ToListAsync(), sscc);

    /// <summary>The words of a unit's contents.</summary>
    public static string Words(SetUp setUp, IEnumerable<AdvisedUnit> contents) =>
        string.Join(
            "; ",
            contents
                .GroupBy(c => (c.ItemId, c.SourceBatch))
                .Select(g =>
                    $"{Quantities.Show(g.Sum(c => c.Quantity))} "
                    + (g.Key.ItemId is { } id ? $"{setUp.Catalogue[id].UnitWord} of {setUp.Catalogue[id].Name}" : "of an item nobody knows")
                    + (g.Key.SourceBatch is { } batch ? ", batch " + batch : "")
                )
        );

    /// <summary>Announced units of the outermost kind that nobody has taken in.</summary>
    public static async Task<IReadOnlyList<AdvisedLeft>> Left(Inquiry inquiry, int arrivalId)
    {
        var all = await inquiry.Db.AdvisedUnits.Where(u => u.ArrivalId == arrivalId && u.Sscc != null).OrderBy(u => u.Id).ToListAsync();
        if (all.Count == 0)
            return [];
        var numbers = all.Select(u => u.Sscc).ToList();
        var taken = (
            await inquiry
                .Db.Units.Where(u =>
                    u.SiteId == inquiry.Site.Id
                    && numbers.Contains(u.Sscc)
                    && inquiry.Db.TallyEntries.Any(e => e.UnitId == u.Id && e.TakenBackAt == null)
                )
                .Select(u => u.Sscc)
                .ToListAsync()
        ).ToHashSet();
        return
        [
            .. AdvisedLoad
                .Outermost(all)
                .Where(s => !taken.Contains(s))
                .Take(MostLeft)
                .Select(s => new AdvisedLeft(s, Words(inquiry.SetUp, AdvisedLoad.Inside(all, s)))),
        ];
    }

    /// <summary>The arrival on which a piece is still on its way by a vendor's advice, other than the one that is counted.</summary>
    public static Task<string?> OnTheWay(MudRoomDb db, int itemId, string serial, int arrivalId) =>
        db
            .AdvisedUnits.Where(u => u.ItemId == itemId && u.Serial == serial && u.ArrivalId != arrivalId)
            .Join(db.Arrivals.Open(), u => u.ArrivalId, a => a.Id, (u, a) => a.Number)
            .OrderBy(n => n)
            .FirstOrDefaultAsync();
}
