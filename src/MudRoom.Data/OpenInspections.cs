using MudRoom.Core.Bench;

namespace MudRoom.Data;

/// <summary>Inspections that still ask something of somebody.</summary>
public static class OpenInspections
{
    /// <summary>Those that wait for their sample or have an open sheet.</summary>
    public static IQueryable<Inspection> Open(this IQueryable<Inspection> inspections) =>
        inspections.Where(i => i.State == InspectionState.Waiting || i.State == InspectionState.Drawn);

    /// <summary>Open ones, and those in the place of a signed sheet of which no goods are here: where some come back, they wait for
    /// them.</summary>
    public static IQueryable<Inspection> MaySpeak(this IQueryable<Inspection> inspections) =>
        inspections.Where(i =>
            i.State == InspectionState.Waiting
            || i.State == InspectionState.Drawn
            || i.State == InspectionState.Withdrawn && i.SupersedesId != null
        );
}
