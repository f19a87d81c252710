using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>Where counted goods stand first: usable, to inspect and held goods apart.</summary>
public static class ReceivingPlace
{
    /// <summary>The place for goods at a door by the kind of their standing: usable goods the first, held goods the last,
    /// goods to inspect the last but one.</summary>
    /// <param name="kind">Of their standing.</param>
    /// <param name="staging">Staging places of the door in order of their addresses; at least one.</param>
    public static Bin For(StandingKind kind, IReadOnlyList<Bin> staging) =>
        kind switch
        {
            StandingKind.Usable => staging[0],
            StandingKind.ToInspect => staging[Math.Max(0, staging.Count - 2)],
            _ => staging[^1],
        };

    /// <summary>The places a receiver may choose among: usable goods stand neither where goods to inspect stand nor where held goods do,
    /// where the door has places enough.</summary>
    public static IReadOnlyList<Bin> Choices(StandingKind kind, IReadOnlyList<Bin> staging) =>
        kind == StandingKind.Usable && staging.Count > 2 ? [.. staging.Take(staging.Count - 2)] : [For(kind, staging)];

    /// <summary>The place by the site's settings.</summary>
    /// <param name="site">An undivided store has no receiving places.</param>
    /// <param name="settings">Of the site: goods to inspect may go to the bench.</param>
    /// <param name="standing">Of the goods.</param>
    /// <param name="staging">Staging places of the door.</param>
    /// <param name="bins">All bins of the site.</param>
    /// <param name="chosen">The address the receiver chose, or null.</param>
    public static Outcome<Bin> By(
        WarehouseSite site,
        DoorSettings settings,
        StandingDefinition standing,
        IReadOnlyList<Bin> staging,
        IReadOnlyList<Bin> bins,
        string? chosen
    )
    {
        var given = Given(site, settings, standing.Kind, bins);
        if (given is null && staging.Count == 0)
            return new Refusal(
                DoorRefusals.PlaceMissing,
                "This door has no receiving place: goods counted here would stand nowhere.",
                "Set one up in Site, Bins, or bring the arrival to another door."
            );
        if (chosen is null)
            return given ?? For(standing.Kind, staging);
        IReadOnlyList<Bin> choices =
            given is not null ? [given]
            : settings.PlaceChosen ? Choices(standing.Kind, staging)
            : [For(standing.Kind, staging)];
        return choices.FirstOrDefault(b => b.Address.Equals(chosen, StringComparison.OrdinalIgnoreCase)) is { } place
            ? place
            : new Refusal(
                DoorRefusals.PlaceWrong,
                $"Goods that are {standing.Word} do not stand in {chosen}.",
                choices is [var only] ? $"They stand in {only.Address}." : $"Choose {string.Join(" or ", choices.Select(c => c.Address))}."
            );
    }

    /// <summary>The place that the site's settings leave no choice about, or null.</summary>
    static Bin? Given(WarehouseSite site, DoorSettings settings, StandingKind kind, IReadOnlyList<Bin> bins) =>
        kind switch
        {
            StandingKind.Usable when !site.HasAddresses => bins.FirstOrDefault(b => b is { Function: BinFunction.Floor, Blocked: false }),
            StandingKind.ToInspect when settings.Stops == Stops.ReceivingPlaceAndBench => bins.Where(b =>
                    b is { Function: BinFunction.Bench, Blocked: false }
                )
                .MinBy(b => b.Address, StringComparer.Ordinal),
            _ => null,
        };
}
