using MudRoom.Core.Site;
using MudRoom.Tests;

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
        ["Yard"] = ["Site", "Book"],
        // What a day is planned from: the yard's spots.
        ["Road"] = ["Site", "Book", "Yard"],
        ["Door"] = ["Identification", "Site", "Book"],
        ["Bench"] = ["Site", "Book"],
        ["Cage"] = ["Book", "Site"],
        ["Out"] = [],
        // What is waited for on the road goes into a bin first.
        ["Shelf"] = ["Site", "Book", "Road"],
    };

    static readonly Arrows arrows = new(typeof(Item).Assembly, "MudRoom.Core", allowed);

    public static TheoryData<string> Rooms() => [.. allowed.Keys];

    [Fact]
    public void Core_points_at_nothing_but_the_base_library_and_a_library_of_numbers()
    {
        var references = typeof(Item).Assembly.GetReferencedAssemblies().Select(a => a.Name!).ToList();
        Assert.NotEmpty(references);
        Assert.All(references.Except(["MathNet.Numerics"]), name => Assert.StartsWith("System.", name));
    }

    [Fact]
    public void Every_room_of_core_has_its_row() => Assert.Equal(allowed.Keys.Order(), arrows.Rooms);

    [Theory]
    [MemberData(nameof(Rooms))]
    public void A_room_uses_only_the_rooms_of_its_row(string room) => Assert.Empty(arrows.Strays(room));

    /// <summary>The check above can fail: what is known to be used is found, and every arrow of the table is.</summary>
    [Theory]
    [MemberData(nameof(Rooms))]
    public void An_arrow_of_the_table_is_used_else_it_goes(string room) => Assert.Empty(arrows.Unused(room));

    [Fact]
    public void No_way_along_the_arrows_leads_back() => Assert.Empty(arrows.Rings());
}
