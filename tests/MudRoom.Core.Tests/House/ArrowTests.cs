using MudRoom.Core.Site;
using NetArchTest.Rules;

namespace MudRoom.Core.Tests.House;

/// <summary>Holds the arrows between the rooms of Core. A room uses the rooms of its row and no other; a new arrow is written down here, or
/// it is a fault.</summary>
public sealed class ArrowTests
{
    /// <summary>Room, and the rooms it may use.</summary>
    static readonly Dictionary<string, string[]> allowed = new()
    {
        ["Identification"] = [],
        ["Site"] = ["Identification"],
        ["Book"] = ["Identification", "Site"],
        ["Yard"] = [],
        // What a day is planned from: the yard's spots.
        ["Road"] = ["Site", "Book", "Yard"],
        ["Door"] = ["Identification", "Site", "Book"],
        ["Bench"] = ["Site"],
        ["Cage"] = ["Site"],
        // What is waited for on the road goes into a bin first.
        ["Shelf"] = ["Site", "Book", "Road"],
    };

    public static TheoryData<string> Rooms() => [.. allowed.Keys];

    static NetArchTest.Rules.TestResult Reaches(string room, IEnumerable<string> others) =>
        Types
            .InAssembly(typeof(Item).Assembly)
            .That()
            .ResideInNamespace($"MudRoom.Core.{room}")
            .Should()
            .NotHaveDependencyOnAny([.. others.Select(o => $"MudRoom.Core.{o}")])
            .GetResult();

    [Fact]
    public void Core_points_at_nothing_but_the_base_library()
    {
        var references = typeof(Item).Assembly.GetReferencedAssemblies().Select(a => a.Name!).ToList();
        Assert.NotEmpty(references);
        Assert.All(references, name => Assert.StartsWith("System.", name));
    }

    [Fact]
    public void Every_room_of_core_has_its_row()
    {
        var rooms = typeof(Item)
            .Assembly.GetTypes()
            .Select(t => t.Namespace?.Split('.'))
            .Where(n => n is ["MudRoom", "Core", _])
            .Select(n => n![2])
            .Distinct()
            .Order();
        Assert.Equal(allowed.Keys.Order(), rooms);
    }

    [Theory]
    [MemberData(nameof(Rooms))]
    public void A_room_uses_only_the_rooms_of_its_row(string room)
    {
        var result = Reaches(room, allowed.Keys.Where(o => o != room && !allowed[room].Contains(o)));
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }

    /// <summary>The check above can fail: what is known to be used is found, and every arrow of the table is.</summary>
    [Theory]
    [MemberData(nameof(Rooms))]
    public void An_arrow_of_the_table_is_used_else_it_goes(string room) =>
        Assert.All(allowed[room], other => Assert.False(Reaches(room, [other]).IsSuccessful, $"{room} does not use {other}."));

    /// <summary>Arrows point one way: no room is used by one that it uses.</summary>
    [Fact]
    public void No_two_rooms_use_each_other() =>
        Assert.Empty(allowed.SelectMany(r => r.Value.Where(o => allowed[o].Contains(r.Key)).Select(o => $"{r.Key} and {o}")));
}
