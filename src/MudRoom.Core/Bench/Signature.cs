namespace MudRoom.Core.Bench;

/// <summary>What somebody says with a signature. Stored.</summary>
public enum SignatureMeaning
{
    Checked = 1,
    Approved = 2,
    Witnessed = 3,
}

/// <summary>A signature under a verdict.</summary>
/// <param name="By">Who.</param>
/// <param name="At">When.</param>
/// <param name="Meaning">As what.</param>
/// <param name="Comment">A remark, or null.</param>
public sealed record Signature(string By, DateTimeOffset At, SignatureMeaning Meaning, string? Comment);
