using MudRoom.Core.Identification;

namespace MudRoom.Core.Door;

/// <summary>What a block of numbers is for.</summary>
public enum BlockKind
{
    /// <summary>Serial references of own SSCCs.</summary>
    Unit,

    /// <summary>The day's sequence numbers of own batches.</summary>
    Batch,
}

/// <summary>Numbers reserved for one device, which may give them without a network. What it does not give is never given: a number is lost,
/// not doubled.</summary>
public sealed class NumberBlock
{
    /// <summary>Numbers in a block.</summary>
    public const int Size = 50;

    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required BlockKind Kind { get; init; }
    public required string Device { get; init; }
    public required long From { get; init; }
    public required long To { get; init; }
    public required DateTimeOffset GivenAt { get; init; }

    /// <summary>True when the number lies in the block.</summary>
    public bool Has(long number) => number >= From && number <= To;

    /// <summary>The serial reference of an SSCC of ours, or null when it is none: extension digit and company prefix must be the
    /// site's.</summary>
    public static long? SerialOf(string sscc, int extension, string prefix) =>
        sscc.Length == 18
        && CheckDigit.IsDigits(sscc)
        && CheckDigit.Holds(sscc)
        && sscc.StartsWith($"{extension}{prefix}", StringComparison.Ordinal)
            ? long.Parse(sscc.AsSpan()[(1 + prefix.Length)..17], System.Globalization.CultureInfo.InvariantCulture)
            : null;
}
