using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>Where counted goods stand first: usable, to inspect and held goods apart.</summary>
public static class ReceivingPlace
{
    /// <summary>The place for a standing at a door: usable goods the first, held goods the last, goods to inspect the last but one.</summary>
    /// <param name="standing">Of the goods.</param>
    /// <param name="staging">Staging places of the door in order of their addresses; at least one.</param>
    public static Bin For(Standing standing, IReadOnlyList<Bin> staging) => standing switch
    {
        Standing.Usable => staging[0],
        Standing.ToInspect => staging[Math.Max(0, staging.Count - 2)],
        _ => staging[^1],
    };

    /// <summary>The places a receiver may choose among: usable goods stand neither where goods to inspect stand nor where held goods do, where the door has places enough.</summary>
    public static IReadOnlyList<Bin> Choices(Standing standing, IReadOnlyList<Bin> staging) =>
        standing == Standing.Usable && staging.Count > 2 ? [.. staging.Take(staging.Count - 2)] : [For(standing, staging)];

    /// <summary>The place by the site's settings.</summary>
    /// <param name="site">With its settings: an undivided store has no receiving places, goods to inspect may go to the bench.</param>
    /// <param name="standing">Of the goods.</param>
    /// <param name="staging">Staging places of the door.</param>
    /// <param name="bins">All bins of the site.</param>
    /// <param name="chosen">The address the receiver chose, or null.</param>
    public static Outcome<Bin> By(WarehouseSite site, Standing standing, IReadOnlyList<Bin> staging, IReadOnlyList<Bin> bins, string? chosen)
    {
        if (!site.HasAddresses && standing == Standing.Usable && bins.FirstOrDefault(b => b is { Function: BinFunction.Floor, Blocked: false }) is { } store) return store;
        if (site.Door.Stops == Stops.ReceivingPlaceAndBench && standing == Standing.ToInspect
            && bins.Where(b => b is { Function: BinFunction.Bench, Blocked: false }).OrderBy(b => b.Address, StringComparer.Ordinal).FirstOrDefault() is { } bench) return bench;
        if (chosen is null || !site.Door.PlaceChosen) return For(standing, staging);
        var choices = Choices(standing, staging);
        return choices.FirstOrDefault(b => b.Address.Equals(chosen, StringComparison.OrdinalIgnoreCase)) is { } place ? place
            : new Refusal("place-wrong", $"Goods that are {Standings.Word(standing)} do not stand in {chosen}.", $"Choose {string.Join(" or ", choices.Select(c => c.Address))}.");
    }
}
