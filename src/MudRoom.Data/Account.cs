using Microsoft.AspNetCore.Identity;

namespace MudRoom.Data;

/// <summary>How a person proves who they are; the person themself is <see cref="Core.Site.Person"/> with the same id.</summary>
public sealed class SignInAccount : IdentityUser<int>
{
    /// <summary>What stands on the person's badge; null when they have none. A lost badge is replaced by another number.</summary>
    public string? Badge { get; set; }

    /// <summary>Hash of the PIN that goes with the badge.</summary>
    public string? PinHash { get; set; }

    /// <summary>True while its password is one that an administrator gave for one time.</summary>
    public bool MustChange { get; set; }
}
