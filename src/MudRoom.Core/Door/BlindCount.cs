using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>Counting without knowing what is expected: whom it concerns, and what becomes of a count that differs.</summary>
public static class BlindCount
{
    /// <summary>True for a person who counts at a site that counts blind: nothing sent to them may carry or imply what is expected. Who
    /// settles tallies sees all.</summary>
    public static bool Applies(DoorSettings settings, IReadOnlyCollection<Role> roles) =>
        settings.Blind && Rights.Allow(roles, Right.Tally) && !Rights.Allow(roles, Right.SettleTally);

    /// <summary>Items whose count differs from the papers and that no second count has settled at the quantity counted now.</summary>
    /// <param name="lines">Expected and counted by item, in base units.</param>
    /// <param name="seconds">All second counts of the arrival.</param>
    public static IReadOnlyList<int> Unsettled(
        IEnumerable<(int ItemId, decimal Expected, decimal Counted)> lines,
        IReadOnlyCollection<SecondCount> seconds
    ) =>
        [
            .. lines
                .GroupBy(l => l.ItemId)
                .Where(g => g.Sum(l => l.Expected) != g.Sum(l => l.Counted))
                .Where(g => !seconds.Any(s => s.ItemId == g.Key && s.IsSettledAt(g.Sum(l => l.Counted))))
                .Select(g => g.Key),
        ];
}

/// <summary>How a second count stands.</summary>
public enum SecondCountState
{
    /// <summary>Asked for; nobody has counted yet.</summary>
    Waiting,

    /// <summary>Both counted the same.</summary>
    Agrees,

    /// <summary>The two differ; a supervisor says which stands.</summary>
    Differs,

    /// <summary>A supervisor has said that the first count stands.</summary>
    FirstStands,
}

/// <summary>A count of one item of an arrival by a second person, who does not know the first.</summary>
public sealed class SecondCount
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int ArrivalId { get; init; }
    public required int ItemId { get; init; }

    /// <summary>What was counted first, in base units, when the second count was asked for.</summary>
    public required decimal First { get; init; }
    public required string AskedBy { get; init; }
    public required DateTimeOffset AskedAt { get; init; }
    public decimal? Second { get; private set; }
    public string? CountedBy { get; private set; }
    public DateTimeOffset? CountedAt { get; private set; }
    public SecondCountState State { get; private set; }

    /// <summary>True when the quantity was counted twice, when a supervisor let the first count stand, or when the first was corrected to
    /// the second.</summary>
    public bool IsSettledAt(decimal counted) =>
        First == counted && State is (SecondCountState.Agrees or SecondCountState.FirstStands) || Second == counted;

    /// <summary>Takes the second count; refused for those who counted first.</summary>
    /// <param name="quantity">In base units; 0 when nothing stands there.</param>
    /// <param name="person">Who counts now.</param>
    /// <param name="firstCounters">Ids of those who counted first.</param>
    /// <param name="at">When.</param>
    public Refusal? Take(decimal quantity, Person person, IReadOnlyCollection<int> firstCounters, DateTimeOffset at)
    {
        if (State != SecondCountState.Waiting)
            return new Refusal(HouseRefusals.Decided, $"{CountedBy} has counted it already.", "There is nothing to do.");
        if (firstCounters.Contains(person.Id))
            return new Refusal(
                DoorRefusals.SamePerson,
                "You have counted these goods yourself.",
                "Somebody else counts them a second time."
            );
        if (quantity < 0)
            return new Refusal(HouseRefusals.QuantityNotPositive, "A count is 0 or more.", "Type what stands there.");
        (Second, CountedBy, CountedAt) = (quantity, person.Name, at);
        State = quantity == First ? SecondCountState.Agrees : SecondCountState.Differs;
        return null;
    }

    /// <summary>A supervisor lets the first count stand.</summary>
    public Refusal? LetFirstStand()
    {
        if (State != SecondCountState.Differs)
            return new Refusal(HouseRefusals.Decided, "Only counts that differ want a decision.", "Load the page again.");
        State = SecondCountState.FirstStands;
        return null;
    }
}
