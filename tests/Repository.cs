namespace MudRoom.Tests;

/// <summary>Where the project lies.</summary>
static class Repository
{
    /// <summary>The folder of the project, above the tests that run.</summary>
    public static string Root()
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (at is not null && !File.Exists(Path.Combine(at.FullName, "MudRoom.slnx")))
            at = at.Parent;
        return at?.FullName ?? throw new InvalidOperationException("MudRoom.slnx is nowhere above the tests.");
    }
}
