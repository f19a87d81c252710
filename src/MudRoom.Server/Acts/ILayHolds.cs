using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Server.Acts;

/// <summary>Lays holds for who brings goods that stand held already and knows nothing else of holds.</summary>
public interface ILayHolds
{
    /// <summary>Lays one on a lot, which somebody lifts.</summary>
    /// <param name="quantity">In base units.</param>
    /// <param name="why">In a sentence.</param>
    /// <param name="chosen">The standing it asks for.</param>
    Task Lay(Act act, Item item, Lot lot, decimal quantity, string why, StandingDefinition chosen);
}
