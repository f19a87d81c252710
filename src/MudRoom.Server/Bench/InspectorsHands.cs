using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>Takes an inspection in hand.</summary>
/// <param name="Over">True where it is taken over from who has it.</param>
public sealed record TakeInspectionRequest(string Inspection, bool Over = false);

/// <summary>Lays an inspection down.</summary>
public sealed record LayDownRequest(string Inspection);

/// <summary>Who has which inspection in hand: a courtesy between inspectors, not a lock on its sheet.</summary>
public static class InspectorsHands
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<TakeInspectionRequest, DoneAnswer>("/bench/take", Right.Inspect, Take);
        routes.Act<LayDownRequest, DoneAnswer>("/bench/lay-down", Right.Inspect, LayDown);
    }

    public static async Task<Outcome<DoneAnswer>> Take(Act act, TakeInspectionRequest request)
    {
        if (await BenchActs.Load(act, request.Inspection) is not { } inspection)
            return Problems.NotFound("inspection", request.Inspection);
        var before = inspection.TakenBy;
        if (Inspections.Unqualified(act, inspection) is { } unqualified)
            return unqualified;
        if (inspection.TakenById == act.Person.Id)
            return new DoneAnswer($"You have {inspection.Number} in hand.");
        if (inspection.Take(act.Person.Id, act.Person.Name, act.Now, act.Site.LocalTime, request.Over) is { } refusal)
            return refusal;
        return Said(act, inspection, new InspectionTaken(inspection.Number, act.Person.Name, before));
    }

    public static async Task<Outcome<DoneAnswer>> LayDown(Act act, LayDownRequest request)
    {
        if (await BenchActs.Load(act, request.Inspection) is not { } inspection)
            return Problems.NotFound("inspection", request.Inspection);
        if (inspection.LayDown(act.Person.Id, act.Site.LocalTime) is { } refusal)
            return refusal;
        return Said(act, inspection, new InspectionLaidDown(inspection.Number, act.Person.Name));
    }

    static DoneAnswer Said(Act act, Inspection inspection, Core.Book.Fact fact)
    {
        act.Write(fact with { About = BenchActs.About(inspection) });
        act.Touch("bench", "inspection:" + inspection.Number);
        return new DoneAnswer(act.Words(fact));
    }
}
