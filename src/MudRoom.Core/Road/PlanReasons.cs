using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>Why a proposed day moves a load, or finds no place for it, in words.</summary>
public static class PlanReasons
{
    /// <summary>Why a load is where the proposal has it.</summary>
    /// <param name="was">Where it stood before; null without a door.</param>
    /// <param name="broken">The rules it broke there.</param>
    public static string Why(LoadToPlan load, Placement? was, Placement now, IReadOnlyList<BrokenRule> broken)
    {
        if (was is null)
            return $"had no door; {now.Start:HH:mm} is the earliest that moves nothing more needed";
        if (broken.Count > 0)
            return broken[0].Sentence;
        if (now.Start < was.Start)
            return load.Weight > 1
                ? "earlier, since somebody waits for it or it is cold"
                : $"{(was.Start - now.Start).TotalMinutes:0} min less waiting";
        if (now.Start > was.Start)
            return "later, to let more needed goods go first";
        return now.Door != was.Door ? "another door, to free this one" : "another crew, to free somebody for other goods";
    }

    /// <summary>The one rule that keeps a load from every place, in words.</summary>
    public static string WhyNot(DayToPlan day, LoadToPlan load, IReadOnlyList<Placement> others) =>
        PlanCheck.StandsInTheWay(day, load, others) switch
        {
            PlanRule.Vehicle => $"No door that is free takes a {load.Vehicle}.",
            PlanRule.GoodsClass => "No door made for its goods is free.",
            PlanRule.Skill => $"Nobody with a {load.Skill} ticket is free.",
            PlanRule.ShiftHours => "It would run past the doors' hours.",
            PlanRule.LongerThanShift => "It takes longer than any door is open.",
            PlanRule.HeadCount or PlanRule.CrewTaken => "Nobody is free to unload it.",
            PlanRule.BeforeGate => "It comes too late at the gate.",
            PlanRule.YardSpot => $"The yard has no free spot for a {load.Vehicle} while it waits.",
            PlanRule.DoorTaken or PlanRule.Spacing => "Every door it may use is taken.",
            _ => "More than one rule stands in its way.",
        };
}
