namespace MudRoom.Core.Site;

/// <summary>Somebody who works with Mud Room. How they prove who they are is kept elsewhere.</summary>
public sealed class Person
{
    public int Id { get; init; }

    /// <summary>As it is shown and signed with.</summary>
    public required string Name { get; set; }

    /// <summary>What they type to sign in.</summary>
    public required string SignInName { get; init; }

    public required List<Role> Roles { get; set; }

    /// <summary>Codes of the sites they may work at.</summary>
    public required List<string> Sites { get; set; }

    /// <summary>Tickets they have, each with its last day.</summary>
    public List<Skill> Skills { get; set; } = [];

    /// <summary>False for a leaver: the name stays in the book, the door is shut.</summary>
    public bool Active { get; set; } = true;
}

/// <summary>A ticket a person has, and the last day it is good for.</summary>
public sealed record Skill(string Name, DateOnly Until);

/// <summary>Somebody is here on a day, from when to when.</summary>
public sealed class RosterEntry
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required DateOnly Day { get; init; }
    public required int PersonId { get; init; }
    public required TimeOnly From { get; set; }
    public required TimeOnly To { get; set; }
}
