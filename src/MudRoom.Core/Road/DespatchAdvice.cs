namespace MudRoom.Core.Road;

/// <summary>A vendor's despatch advice that was taken: it speaks for one arrival until it is replaced or cancelled.</summary>
public sealed class DespatchAdvice
{
    public int Id { get; init; }
    public required int ArrivalId { get; set; }
    public required int VendorId { get; init; }

    /// <summary>The vendor's own number of it.</summary>
    public required string Number { get; init; }

    /// <summary>True when the arrival was made from it, and was not planned before.</summary>
    public bool MadeArrival { get; init; }
    public required DateTimeOffset TakenAt { get; init; }

    /// <summary>Since when it holds no longer: replaced, or cancelled; null while it holds.</summary>
    public DateTimeOffset? EndedAt { get; private set; }

    /// <summary>It is replaced or cancelled.</summary>
    public void End(DateTimeOffset at) => EndedAt ??= at;

    /// <summary>Its arrival, which was withdrawn, comes after all.</summary>
    public void HoldAgain() => EndedAt = null;
}

/// <summary>Something in a despatch advice that does not fit the order: kept until somebody decides.</summary>
public sealed class AdviceDifference
{
    public int Id { get; init; }
    public required int ArrivalId { get; init; }

    /// <summary>The advice it stands in.</summary>
    public required int AdviceId { get; init; }
    public required string Sentence { get; init; }
    public string? Decision { get; private set; }
    public string? DecidedBy { get; private set; }
    public DateTimeOffset? DecidedAt { get; private set; }

    /// <summary>Decides; once.</summary>
    public Refusal? Decide(string decision, string by, DateTimeOffset at)
    {
        if (DecidedAt is not null)
            return new Refusal(HouseRefusals.Decided, $"{DecidedBy} has decided already: {Decision}", "There is nothing to do.");
        if (string.IsNullOrWhiteSpace(decision))
            return new Refusal(HouseRefusals.NoteMissing, "A decision wants a sentence.", "Say what is to be done with it.");
        Decision = decision.Trim();
        DecidedBy = by;
        DecidedAt = at;
        return null;
    }
}
