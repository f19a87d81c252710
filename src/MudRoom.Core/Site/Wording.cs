namespace MudRoom.Core.Site;

/// <summary>A language that words are rendered in.</summary>
public enum Language
{
    English = 0,
}

/// <summary>How values become words on the way out: in which language, by whose clock.</summary>
/// <param name="Language">The language of the sentence.</param>
/// <param name="Local">The wall clock of the site.</param>
public sealed record Wording(Language Language, SiteTime Local)
{
    /// <summary>An instant as day and minute: 2026-03-16 09:40.</summary>
    public string Minute(DateTimeOffset at) => $"{Local(at):yyyy-MM-dd HH:mm}";
}
