using MudRoom.Core.Site;
using NetArchTest.Rules;

namespace MudRoom.Core.Tests.House;

/// <summary>Holds the arrows between the rooms of Core: rooms may use Identification, Site and Book, and what the few named ones need.</summary>
public sealed class ArrowTests
{
    [Fact]
    public void Core_points_at_nothing_but_the_base_library()
    {
        var references = typeof(Item).Assembly.GetReferencedAssemblies().Select(a => a.Name!).ToList();
        Assert.All(references, name => Assert.StartsWith("System.", name));
    }

    [Theory]
    [InlineData("Identification", "Site", "Book", "Road", "Door", "Bench", "Cage", "Shelf")]
    [InlineData("Site", "Book", "Road", "Door", "Bench", "Cage", "Shelf")]
    [InlineData("Road", "Door", "Bench", "Cage", "Shelf")]
    [InlineData("Door", "Bench", "Cage", "Shelf")]
    [InlineData("Bench", "Road", "Door", "Cage", "Shelf")]
    [InlineData("Cage", "Road", "Door", "Bench", "Shelf")]
    [InlineData("Shelf", "Door", "Bench", "Cage")]
    public void A_room_does_not_reach_into(string room, params string[] others)
    {
        var result = Types.InAssembly(typeof(Item).Assembly).That().ResideInNamespace($"MudRoom.Core.{room}")
            .Should().NotHaveDependencyOnAny([.. others.Select(o => $"MudRoom.Core.{o}.")]).GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }
}
