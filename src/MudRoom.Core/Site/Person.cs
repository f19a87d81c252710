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

    /// <summary>False for a leaver: the name stays in the book, the door is shut.</summary>
    public bool Active { get; set; } = true;
}
