using System.Reflection;
using NetArchTest.Rules;

namespace MudRoom.Tests;

/// <summary>The rooms of an assembly, and a table of what each may use.</summary>
/// <param name="assembly">Where the rooms are.</param>
/// <param name="house">The namespace whose next part is the room's name.</param>
/// <param name="allowed">Room, and the rooms it may use.</param>
public sealed class Arrows(Assembly assembly, string house, IReadOnlyDictionary<string, string[]> allowed)
{
    /// <summary>All rooms there are, with a row or without.</summary>
    public IReadOnlyList<string> Rooms { get; } =
    [
        .. assembly
            .GetTypes()
            .Select(t => t.Namespace ?? "")
            .Where(n => n.StartsWith(house + ".", StringComparison.Ordinal))
            .Select(n => n[(house.Length + 1)..])
            .Where(n => !n.Contains('.'))
            .Distinct()
            .Order(),
    ];

    /// <summary>The types of a room that use a room which is not in its row.</summary>
    public IReadOnlyList<string> Strays(string room) => Uses(room, Rooms.Where(o => o != room && !allowed[room].Contains(o)));

    /// <summary>The arrows of the table that no type needs: a check that finds none of those it should find can find nothing.</summary>
    public IReadOnlyList<string> Unused(string room) => [.. allowed[room].Where(other => Uses(room, [other]).Count == 0)];

    /// <summary>The rooms from which the arrows lead back to themselves, over any number of rooms.</summary>
    /// <param name="but">An arrow that is left out.</param>
    public IReadOnlyList<string> Rings((string From, string To)? but = null)
    {
        var behind = allowed.ToDictionary(r => r.Key, r => r.Value.Where(o => (r.Key, o) != but).ToHashSet());
        foreach (var via in behind.Keys)
        foreach (var room in behind.Keys.Where(r => behind[r].Contains(via)))
            behind[room].UnionWith(behind[via]);
        return [.. behind.Where(r => r.Value.Contains(r.Key)).Select(r => r.Key)];
    }

    List<string> Uses(string room, IEnumerable<string> others) =>
        [
            .. Types
                .InAssembly(assembly)
                .That()
                .ResideInNamespace($"{house}.{room}")
                .Should()
                .NotHaveDependencyOnAny([.. others.Select(o => $"{house}.{o}")])
                .GetResult()
                .FailingTypeNames
                ?? [],
        ];
}
