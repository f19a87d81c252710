namespace MudRoom.Server;

/// <summary>How the server runs.</summary>
/// <param name="File">The database file.</param>
/// <param name="IsDemo">True for the demo, with its own clock and its sheet of labels.</param>
public sealed record Mode(string File, bool IsDemo);
