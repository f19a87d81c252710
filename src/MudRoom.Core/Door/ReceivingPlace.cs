using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>Where counted goods stand at a door: usable, to inspect and held goods apart.</summary>
public static class ReceivingPlace
{
    /// <summary>The place for a standing: usable goods the first, held goods the last, goods to inspect the last but one.</summary>
    /// <param name="staging">Staging places of the door in order of their addresses; at least one.</param>
    public static Bin For(Standing standing, IReadOnlyList<Bin> staging) => standing switch
    {
        Standing.Usable => staging[0],
        Standing.ToInspect => staging[Math.Max(0, staging.Count - 2)],
        _ => staging[^1],
    };
}
