namespace MudRoom.Server.Acts;

/// <summary>A pack level of an item.</summary>
public sealed record PackView(string Name, decimal Content, bool IsUnit, string PackageType);
