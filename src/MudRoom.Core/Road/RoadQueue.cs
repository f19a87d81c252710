namespace MudRoom.Core.Road;

/// <summary>What the queue of Road knows of an arrival.</summary>
/// <param name="State">Where it is.</param>
/// <param name="Planned">Wall clock.</param>
/// <param name="Expected">When it is thought to come, if that is not as planned.</param>
/// <param name="InYardSince">Wall clock, when it is there.</param>
/// <param name="WaitedFor">Who waits for goods aboard, or null.</param>
/// <param name="PastDue">Line parts aboard that are late already.</param>
public sealed record ArrivalFacts(
    ArrivalState State,
    DateTime Planned,
    DateTime? Expected,
    DateTime? InYardSince,
    string? WaitedFor,
    int PastDue
);

/// <summary>How much an arrival needs somebody, and why, in one sentence.</summary>
/// <param name="Rank">Lower comes first.</param>
/// <param name="Why">The reason for its place in the queue.</param>
/// <param name="MinutesLate">0 when it is not late.</param>
public sealed record QueuePlace(int Rank, string Why, int MinutesLate);

/// <summary>Orders the queue of Road: what is late first, then what stands in the yard, then what somebody waits for.</summary>
public static class RoadQueue
{
    /// <summary>Minutes after the planned time before an arrival counts as late.</summary>
    public const int GraceMinutes = 15;

    /// <summary>The place of one arrival.</summary>
    public static QueuePlace Place(ArrivalFacts facts, DateTime now)
    {
        var waits = facts.WaitedFor is { } who ? $" Waited for: {who}." : "";
        if (facts.State == ArrivalState.InYard)
            return new QueuePlace(1, $"In the yard since {facts.InYardSince:HH:mm}, no door yet.{waits}", 0);
        if (facts.State == ArrivalState.AtDoor)
            return new QueuePlace(5, $"At a door, being counted.{waits}", 0);
        var late = (int)(now - facts.Planned).TotalMinutes;
        if (late > GraceMinutes)
        {
            var soon =
                facts.Expected is { } expected && expected > now
                    ? $" Now thought to come {When(expected, now)}."
                    : " Nobody knows when it comes.";
            return new QueuePlace(0, $"Planned {When(facts.Planned, now)}, {Span(late)} late.{soon}{waits}", late);
        }

        if (facts.Expected is { } eta && eta > facts.Planned.AddMinutes(GraceMinutes))
            return new QueuePlace(
                2,
                $"Planned {When(facts.Planned, now)}, thought to come {When(eta, now)}.{waits}",
                (int)(eta - facts.Planned).TotalMinutes
            );
        if (facts.WaitedFor is not null)
            return new QueuePlace(3, $"Comes {When(facts.Planned, now)}.{waits}", 0);
        if (facts.PastDue > 0)
            return new QueuePlace(3, $"Comes {When(facts.Planned, now)}. {facts.PastDue} of its lines are past their date.", 0);
        return new QueuePlace(4, $"Comes {When(facts.Planned, now)}, as planned.", 0);
    }

    /// <summary>Minutes as people say them: 25 min, 4 h 10.</summary>
    public static string Span(int minutes) =>
        minutes switch
        {
            < 60 => $"{minutes} min",
            < 24 * 60 => $"{minutes / 60} h {minutes % 60:00}",
            _ => $"{minutes / (24 * 60)} d {minutes / 60 % 24} h",
        };

    static string When(DateTime at, DateTime now) => at.Date == now.Date ? $"{at:HH:mm}" : $"{at:ddd d MMM HH:mm}";
}
