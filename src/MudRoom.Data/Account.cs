using Microsoft.AspNetCore.Identity;

namespace MudRoom.Data;

/// <summary>How a person proves who they are; the person themself is <see cref="Core.Site.Person"/> with the same id.</summary>
public sealed class SignInAccount : IdentityUser<int>;
