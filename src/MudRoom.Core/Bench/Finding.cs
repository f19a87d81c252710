namespace MudRoom.Core.Bench;

/// <summary>What stood in a finding before it was changed; it stays on the sheet.</summary>
/// <param name="Was">Value or look, in words.</param>
/// <param name="Conformed">Whether it conformed.</param>
/// <param name="By">Who had found it.</param>
/// <param name="At">When.</param>
/// <param name="Reason">Why it was changed; null where no reason was wanted.</param>
public sealed record FindingBefore(string Was, bool Conformed, string By, DateTimeOffset At, string? Reason);

/// <summary>A value or look as it is to be recorded.</summary>
/// <param name="Piece">From 1.</param>
/// <param name="CharacteristicId">Of the plan.</param>
/// <param name="Value">Measured, in the characteristic's unit.</param>
/// <param name="Pass">Looked at.</param>
/// <param name="Reason">Why a finding is changed.</param>
/// <param name="IsSure">True when a doubtful value was looked at again.</param>
public sealed record Observation(int Piece, int CharacteristicId, decimal? Value, bool? Pass, string? Reason = null, bool IsSure = false);

/// <summary>One value or look on one piece.</summary>
public sealed class Finding
{
    public int Id { get; init; }
    public int InspectionId { get; init; }

    /// <summary>From 1.</summary>
    public required int Piece { get; init; }
    public required int CharacteristicId { get; init; }

    /// <summary>The measured value, or null when looked at.</summary>
    public decimal? Value { get; set; }

    /// <summary>Whether it conforms, worked out for measured values.</summary>
    public bool Conforms { get; set; }
    public required string By { get; set; }
    public required DateTimeOffset At { get; set; }

    /// <summary>What stood here before, first first.</summary>
    public IReadOnlyList<FindingBefore> Before { get; set; } = [];

    /// <summary>One that may be changed without this one.</summary>
    public Finding Copy() => (Finding)MemberwiseClone();
}
