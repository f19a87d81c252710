using MudRoom.Server.Hosting;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Holds the arrows between the rooms of the server. A room uses the rooms of its row and no other; a new arrow is written down
/// here, or it is a fault.</summary>
public sealed class ServerArrowTests
{
    static readonly Dictionary<string, string[]> allowed = new()
    {
        // How acts are run, and who is signed in: one entrance, so these two know each other.
        ["Acts"] = ["SignIn"],
        ["SignIn"] = ["Acts"],
        ["Labels"] = [],
        // Which batch is meant by a scan, and which hold or inspection speaks for goods.
        ["Book"] = ["Acts"],
        // What others are told, by the lots of a receipt.
        ["Out"] = ["Acts", "Book"],
        ["Shelf"] = ["Acts", "Book", "Out"],
        // What still comes is work for the shelf.
        ["Road"] = ["Acts", "Labels", "Book", "Shelf"],
        ["Yard"] = ["Acts", "Road"],
        ["Bench"] = ["Acts", "SignIn", "Labels", "Book", "Out"],
        ["Cage"] = ["Acts", "Book", "Bench", "Out"],
        ["Door"] = ["Acts", "Labels", "Road", "Shelf", "Bench", "Book", "Cage", "Out"],
        // What the rooms go by is kept in the rooms.
        ["Site"] = ["Acts", "SignIn"],
    };

    /// <summary>They put the house together, and may use all of it.</summary>
    static readonly string[] builders = ["Hosting", "Demo"];

    static readonly Arrows arrows = new(typeof(CommandLine).Assembly, "MudRoom.Server", allowed);

    public static TheoryData<string> Rooms() => [.. allowed.Keys];

    [Fact]
    public void Every_room_of_the_server_has_its_row() => Assert.Equal(allowed.Keys.Concat(builders).Order(), arrows.Rooms);

    [Theory]
    [MemberData(nameof(Rooms))]
    public void A_room_uses_only_the_rooms_of_its_row(string room) => Assert.Empty(arrows.Strays(room));

    [Theory]
    [MemberData(nameof(Rooms))]
    public void An_arrow_of_the_table_is_used_else_it_goes(string room) => Assert.Empty(arrows.Unused(room));

    [Fact]
    public void No_way_along_the_arrows_leads_back() => Assert.Empty(arrows.Rings(but: ("SignIn", "Acts")));

    /// <summary>The references are written behind the entries: who reads them past the history misses the last ones.</summary>
    [Fact]
    public void What_entries_are_about_is_asked_of_the_history_alone() =>
        Assert.DoesNotContain(
            Directory.EnumerateFiles(Path.Combine(Repository.Root(), "src", "MudRoom.Server"), "*.cs", SearchOption.AllDirectories),
            f => File.ReadAllText(f).Contains(".EntryReferences", StringComparison.Ordinal)
        );

    /// <summary>The check of ways can fail: with both arrows of the entrance there is a ring.</summary>
    [Fact]
    public void The_entrance_alone_is_a_ring() => Assert.Equal(["Acts", "SignIn"], arrows.Rings().Order());
}
