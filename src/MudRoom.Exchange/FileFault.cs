namespace MudRoom.Exchange;

/// <summary>What is wrong in a file, and where.</summary>
/// <param name="Line">Line of the file, from 1; the heading is line 1.</param>
/// <param name="Field">Name of the column, or empty for the line as a whole.</param>
/// <param name="Value">What stands there.</param>
/// <param name="Reason">Why it cannot be taken; without a full stop, since it stands within a sentence.</param>
public sealed record FileFault(int Line, string Field, string Value, string Reason)
{
    /// <inheritdoc cref="FileFault" path="/param[@name='Reason']" />
    public string Reason { get; init; } = Reason.TrimEnd('.');
}
