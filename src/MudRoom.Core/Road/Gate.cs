namespace MudRoom.Core.Road;

/// <summary>What is read at the gate of a vehicle that is let in.</summary>
/// <param name="Spot">Where it is sent.</param>
/// <param name="Container">The number on the container.</param>
/// <param name="Plate">The plate.</param>
/// <param name="Seal">The seal found.</param>
/// <param name="Word">Why it is not as planned, or why something could not be read.</param>
public sealed record GateFinding(string Spot, string? Container = null, string? Plate = null, string? Seal = null, string? Word = null);

/// <summary>Compares what stands at the gate with what is planned.</summary>
public static class GateRules
{
    /// <summary>What differs, each a sentence; a blank where something is planned differs too.</summary>
    public static IReadOnlyList<string> Differences(Arrival planned, GateFinding found) =>
        [
            .. new[]
            {
                Compare("container", planned.ContainerNumber, found.Container),
                Compare("plate", planned.Plate, found.Plate),
                Compare("seal", planned.Seal, found.Seal),
            }.OfType<string>(),
        ];

    /// <summary>True for the same number, plate or seal, however it is spaced.</summary>
    public static bool Same(string? a, string? b) => Plain(a) == Plain(b);

    static string? Compare(string what, string? planned, string? found)
    {
        if (planned is null || Same(planned, found))
            return null;
        return found.OrNull() is { } other
            ? $"Planned is {what} {planned}, found is {other}."
            : $"Planned is {what} {planned}, and none was read.";
    }

    static string Plain(string? text) => new string([.. (text ?? "").Where(char.IsLetterOrDigit)]).ToUpperInvariant();
}
