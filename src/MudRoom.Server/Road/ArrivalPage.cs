using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>One line of a manifest.</summary>
public sealed record ManifestRow(
    int Id, int PartId, string Order, int Line, string Vendor, int VendorId, string ItemCode, string ItemName, string Unit, decimal Expected, decimal Counted,
    string InPacks, DateOnly Due, DueState DueState, int DaysLate, decimal Waiting, string? WaitingFor, decimal OpenOnOrder);

/// <summary>An arrival with its manifest.</summary>
public sealed record ArrivalAnswer(ArrivalCard Card, string? Plate, string? Haulier, string? Seal, IReadOnlyList<ManifestRow> Manifest, IReadOnlyList<DoorView> Doors);

/// <summary>One arrival.</summary>
public static class ArrivalPage
{
    public static void Map(SiteRoutes routes) => routes.Ask("/road/arrivals/{number}", Right.See, Run);

    static async Task<Results<Ok<ArrivalAnswer>, ProblemHttpResult>> Run(Visit visit, string number)
    {
        var arrival = await visit.Db.Arrivals.FirstOrDefaultAsync(a => a.SiteId == visit.Site.Id && a.Number == number);
        if (arrival is null) return Problems.Of(Problems.NotFound("arrival", number));
        var cards = await ArrivalCards.Load(visit, visit.Db.Arrivals.Where(a => a.Id == arrival.Id));
        return TypedResults.Ok(new ArrivalAnswer(
            cards[0], arrival.Plate, arrival.Haulier, arrival.Seal, await Manifest(visit, arrival.Id), await Board.Doors(visit)));
    }

    /// <summary>The manifest in the order of orders and lines.</summary>
    public static async Task<List<ManifestRow>> Manifest(Visit visit, int arrivalId)
    {
        var rows = await visit.Db.ManifestLines.Where(m => m.ArrivalId == arrivalId)
            .Select(m => new { m.Id, m.PartId, Part = m.Part!, Line = m.Part!.Line!.Number, Order = m.Part.Line.Order!.Number, m.Part.Line.Order.VendorId, m.Expected, m.Counted })
            .ToListAsync();
        return [.. rows.OrderBy(r => r.Part.Due).ThenBy(r => r.Order, StringComparer.Ordinal).ThenBy(r => r.Line).Select(r =>
        {
            var item = visit.SetUp.Catalogue[r.Part.ItemId];
            return new ManifestRow(
                r.Id, r.PartId, r.Order, r.Line, visit.SetUp.Vendors[r.VendorId].Name, r.VendorId, item.Code, item.Name, item.UnitWord, r.Expected, r.Counted,
                Quantities.InPacks(r.Expected, item), r.Part.Due, DueRules.State(r.Part.Due, visit.Today, null), DueRules.DaysLate(r.Part.Due, visit.Today, null),
                r.Part.WaitingQuantity, r.Part.WaitingFor, r.Part.Open);
        })];
    }
}
