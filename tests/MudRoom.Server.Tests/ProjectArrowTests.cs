using System.Reflection;

namespace MudRoom.Server.Tests;

/// <summary>Holds the arrows between the projects: rules know nothing of the database, of files or of the web; planning and files know the
/// rules alone.</summary>
public sealed class ProjectArrowTests
{
    static readonly Dictionary<string, string[]> allowed = new()
    {
        ["MudRoom.Core"] = [],
        ["MudRoom.Planning"] = ["MudRoom.Core"],
        ["MudRoom.Exchange"] = ["MudRoom.Core"],
        ["MudRoom.Demo"] = ["MudRoom.Core"],
        ["MudRoom.Data"] = ["MudRoom.Core"],
        ["MudRoom.Server"] = ["MudRoom.Core", "MudRoom.Data", "MudRoom.Demo", "MudRoom.Exchange", "MudRoom.Planning"],
    };

    /// <summary>Packages for the database or the web, which only these two may use.</summary>
    static readonly string[] outer = ["MudRoom.Data", "MudRoom.Server"];

    public static TheoryData<string> Projects() => [.. allowed.Keys];

    [Theory]
    [MemberData(nameof(Projects))]
    public void A_project_uses_only_those_of_its_row(string project)
    {
        var used = Assembly.Load(project).GetReferencedAssemblies().Select(a => a.Name!).ToList();
        Assert.Equal(allowed[project].Order(), used.Where(n => n.StartsWith("MudRoom.", StringComparison.Ordinal)).Order());
        if (!outer.Contains(project))
            Assert.DoesNotContain(used, n =>
                n.StartsWith("Microsoft.EntityFrameworkCore", StringComparison.Ordinal)
                || n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal)
                || n.StartsWith("Microsoft.Data", StringComparison.Ordinal)
            );
    }
}
