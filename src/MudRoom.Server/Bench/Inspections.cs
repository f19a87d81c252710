using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>Finds or makes the inspection that goods wait for.</summary>
public static class Inspections
{
    /// <summary>The inspection of one batch of one arrival and vendor whose sample is not drawn yet; a new one where there is
    /// none.</summary>
    public static async Task<Inspection> Waiting(Act act, int arrivalId, Item item, int? batchId, int vendorId)
    {
        var there = await act.Db.Inspections.FirstOrDefaultAsync(i =>
            i.ArrivalId == arrivalId
            && i.ItemId == item.Id
            && i.BatchId == batchId
            && i.VendorId == vendorId
            && i.State == InspectionState.Waiting
        );
        if (there is not null)
            return there;
        var inspection = new Inspection
        {
            Number = await act.Number("I"),
            SiteId = act.Site.Id,
            ArrivalId = arrivalId,
            ItemId = item.Id,
            BatchId = batchId,
            VendorId = vendorId,
            PlanId = item.InspectionPlanId!.Value,
            Since = act.Now,
        };
        act.Db.Inspections.Add(inspection);
        return inspection;
    }
}
