namespace MudRoom.Core.Cage;

/// <summary>Orders the queue of Cage: what can be freed now, then what is overdue or wants a decision, then by time.</summary>
public static class CageQueue
{
    /// <summary>The rank of a hold, lower first, and why.</summary>
    /// <param name="accepted">As for <see cref="Hold.Lift"/>.</param>
    public static (int Rank, string Why) Place(Hold hold, DateTimeOffset now, AcceptedBy? accepted = null)
    {
        if (!hold.IsOpen)
            return (9, $"Lifted by {hold.LiftedBy}.");
        if (hold.IsUnderConcession)
            return (6, $"Under concession, {hold.Decision!.Concession!.Words}; what is left is held again at its end.");
        if (hold.Decision is { } decision)
            return (1, $"Decided by {decision.By.Name}: {decision.ToBe}. It has still to happen.");
        if (hold.Overdue(now, accepted) is { } late)
            return (1, $"{Overdue(now - late.Due!.Value)}: {late.Wants.Words}.");
        if (hold.TimeRuns(now))
            return (hold.Until!.Value - now).TotalDays switch
            {
                < 1 => (2, "Its time ends within a day."),
                var days => (4, $"Its time ends in {Math.Ceiling(days)} days."),
            };
        if (hold.IsLifted && !hold.IsReady(now, accepted))
            return (3, $"Waits for {string.Join("; ", hold.StillWants(accepted))}.");
        if (hold.Until is not null && hold.Besides.Count == 0)
            return hold.Reason == HoldReason.Retained
                ? (3, "It was kept long enough.")
                : (0, "Its time is over; only a supervisor's signature is missing.");
        if (hold.Besides.Count > 0 && hold.IsLifted)
            return (0, "All its conditions are met; only a supervisor's signature is missing.");
        return hold.Reason switch
        {
            HoldReason.Nonconforming => (1, "Rejected at the bench; a supervisor decides what becomes of it."),
            HoldReason.CountedAside => (3, "Counted aside; a supervisor decides."),
            HoldReason.ByHand => (3, $"Laid by {hold.LaidBy}; a supervisor lifts it."),
            HoldReason.Recall => (3, "Recalled; a supervisor lifts it or decides."),
            HoldReason.CustomerReturn when hold.Found is { } found => (1, $"{found.Words}; a supervisor decides what becomes of it."),
            HoldReason.CustomerReturn => (3, "Back from a customer; an inspector finds what it is."),
            HoldReason.Retained => (4, "A retained sample."),
            HoldReason.Rule => (3, "Held by rule; a supervisor lifts it."),
            _ => throw new ArgumentOutOfRangeException(nameof(hold), hold.Reason, null),
        };
    }

    /// <summary>What an open hold waits for: what lasts longest first, so that nobody is asked before their word is of use.</summary>
    /// <param name="accepted">As for <see cref="Hold.Lift"/>.</param>
    public static HoldWaits WaitsFor(Hold hold, DateTimeOffset now, AcceptedBy? accepted = null) =>
        hold.IsUnderConcession ? HoldWaits.Concession
        : hold.Decision is not null ? HoldWaits.CarryingOut
        : hold.TimeRuns(now) ? HoldWaits.Time
        : hold.MayBeDecided ? HoldWaits.Decision
        : hold.IsWanting ? HoldWaits.PaperOrSignature
        : hold.IsReady(now, accepted) ? HoldWaits.Lifting
        : HoldWaits.Inspection;

    /// <summary>In whole days that have passed.</summary>
    static string Overdue(TimeSpan late) =>
        late.Days switch
        {
            0 => "Overdue",
            1 => "A day overdue",
            var days => $"{days} days overdue",
        };
}
