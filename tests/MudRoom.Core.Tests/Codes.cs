namespace MudRoom.Core.Tests;

static class Codes
{
    /// <summary>The code of a refusal, or null when there is none.</summary>
    public static string? Code(this Refusal? refusal) => refusal?.Code;
}
