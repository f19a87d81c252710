namespace MudRoom.Core.Cage;

/// <summary>Orders the queue of Cage: what can be freed now, then what wants a decision, then by time.</summary>
public static class CageQueue
{
    /// <summary>The rank of a hold, lower first, and why.</summary>
    public static (int Rank, string Why) Place(Hold hold, DateTimeOffset now)
    {
        if (!hold.IsOpen)
            return (9, $"Lifted by {hold.LiftedBy}.");
        if (hold.Until is { } until)
        {
            var days = (until - now).TotalDays;
            return days switch
            {
                <= 0 when hold.Reason == HoldReason.Retained => (3, "It was kept long enough."),
                <= 0 => (0, "Its time is over; only a supervisor's signature is missing."),
                < 1 => (2, "Its time ends within a day."),
                _ => (4, $"Its time ends in {Math.Ceiling(days)} days."),
            };
        }

        return hold.Reason switch
        {
            HoldReason.Nonconforming => (1, "Rejected at the bench; a supervisor decides what becomes of it."),
            HoldReason.CountedAside => (3, "Counted aside; a supervisor decides."),
            HoldReason.ByHand => (3, $"Laid by {hold.LaidBy}; a supervisor lifts it."),
            HoldReason.Retained => (4, "A retained sample."),
            HoldReason.Rule => (3, "Held by rule; a supervisor lifts it."),
            _ => throw new ArgumentOutOfRangeException(nameof(hold), hold.Reason, null),
        };
    }
}
