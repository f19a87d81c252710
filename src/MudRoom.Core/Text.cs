namespace MudRoom.Core;

/// <summary>Small things about text that people typed.</summary>
public static class Text
{
    /// <summary>The text without blanks around it, or null when nothing is left.</summary>
    public static string? OrNull(this string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
