using MudRoom.Server.Hosting;
using MudRoom.Tests;
using NetArchTest.Rules;

namespace MudRoom.Server.Tests;

/// <summary>Holds the arrows between the rooms of the server. A room uses the rooms of its row and no other; a new arrow is written down
/// here, or it is a fault.</summary>
public sealed class ServerArrowTests
{
    /// <summary>Room, and the rooms it may use.</summary>
    static readonly Dictionary<string, string[]> allowed = new()
    {
        // How acts are run, and who is signed in: one entrance, so these two know each other.
        ["Acts"] = ["SignIn"],
        ["SignIn"] = ["Acts"],
        ["Labels"] = [],
        // What is on the road is counted on by all rooms behind it.
        ["Road"] = ["Acts", "Labels", "Book", "Shelf"],
        ["Yard"] = ["Acts", "Road"],
        // Which batch is meant by a scan, and which hold or inspection speaks for goods.
        ["Book"] = ["Acts"],
        ["Shelf"] = ["Acts", "Book"],
        ["Bench"] = ["Acts", "SignIn", "Book"],
        ["Cage"] = ["Acts", "Book", "Bench"],
        ["Door"] = ["Acts", "Labels", "Road", "Shelf", "Bench", "Cage"],
        ["Site"] = ["Acts", "SignIn", "Road", "Door", "Cage"],
    };

    /// <summary>They put the house together, and may use all of it.</summary>
    static readonly string[] builders = ["Hosting", "Demo"];

    public static TheoryData<string> Rooms() => [.. allowed.Keys];

    static IEnumerable<string> All =>
        typeof(CommandLine)
            .Assembly.GetTypes()
            .Select(t => t.Namespace?.Split('.'))
            .Where(n => n is ["MudRoom", "Server", _])
            .Select(n => n![2])
            .Distinct();

    static NetArchTest.Rules.TestResult Reaches(string room, IEnumerable<string> others) =>
        Types
            .InAssembly(typeof(CommandLine).Assembly)
            .That()
            .ResideInNamespace($"MudRoom.Server.{room}")
            .Should()
            .NotHaveDependencyOnAny([.. others.Select(o => $"MudRoom.Server.{o}")])
            .GetResult();

    [Fact]
    public void Every_room_of_the_server_has_its_row() => Assert.Equal(All.Except(builders).Order(), allowed.Keys.Order());

    [Theory]
    [MemberData(nameof(Rooms))]
    public void A_room_uses_only_the_rooms_of_its_row(string room)
    {
        var result = Reaches(room, All.Where(o => o != room && !allowed[room].Contains(o)));
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }

    /// <summary>The check above can fail: what is known to be used is found, and every arrow of the table is.</summary>
    [Theory]
    [MemberData(nameof(Rooms))]
    public void An_arrow_of_the_table_is_used_else_it_goes(string room) =>
        Assert.All(allowed[room], other => Assert.False(Reaches(room, [other]).IsSuccessful, $"{room} does not use {other}."));

    /// <summary>Arrows go one way, over any number of rooms; the entrance is one room in two parts.</summary>
    [Fact]
    public void No_way_along_the_arrows_leads_back()
    {
        var behind = allowed.ToDictionary(r => r.Key, r => r.Value.Where(o => (r.Key, o) != ("SignIn", "Acts")).ToHashSet());
        foreach (var via in behind.Keys)
        foreach (var room in behind.Keys.Where(r => behind[r].Contains(via)))
            behind[room].UnionWith(behind[via]);
        Every.One(behind, r => Assert.DoesNotContain(r.Key, r.Value));
    }
}
