namespace MudRoom.Core.Site;

/// <summary>The wall clock of a site at an instant: every instant in a sentence is said by it.</summary>
/// <param name="instant">The instant.</param>
public delegate DateTime SiteTime(DateTimeOffset instant);
