namespace MudRoom.Tests;

/// <summary>What holds for each of several, of which there must be at least one: a query that finds nothing proves nothing.</summary>
public static class Every
{
    /// <summary>Asserts something of each, and that there is one.</summary>
    public static void One<T>(IEnumerable<T> all, Action<T> holds)
    {
        var them = all.ToList();
        Assert.NotEmpty(them);
        Assert.All(them, holds);
    }
}
