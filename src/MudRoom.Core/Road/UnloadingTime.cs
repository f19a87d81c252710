using MudRoom.Core.Site;

namespace MudRoom.Core.Road;

/// <summary>How a load is packed, which decides how fast it is unloaded.</summary>
public enum Handling
{
    Palletised = 0,
    FloorLoaded = 1,
    Parcels = 2,
}

/// <summary>How long a load takes at a door, by standard rates and by what its vendor's loads took in the past.</summary>
public static class UnloadingTime
{
    /// <summary>How many past loads the standard weighs as much as: a vendor's factor is drawn towards 1 by this weight.</summary>
    public const int PriorLoads = 5;

    /// <summary>What a crew does compared with one person: 1, 1.9, 2.7, then 0.7 for each more (common practice, no source).</summary>
    public static double CrewEffect(int people) =>
        people switch
        {
            <= 0 => throw new ArgumentOutOfRangeException(nameof(people), people, "A crew has at least one person."),
            1 => 1,
            2 => 1.9,
            _ => 2.7 + (people - 3) * 0.7,
        };

    /// <summary>Minutes by the site's standard, before the vendor's factor.</summary>
    /// <param name="handling">How it is packed.</param>
    /// <param name="packs">Pallets, cartons or parcels, by the handling.</param>
    /// <param name="lines">Lines on the manifest.</param>
    /// <param name="people">Size of the crew, at least 1.</param>
    public static double Standard(Handling handling, int packs, int lines, int people, PlanSettings settings)
    {
        var rate = handling switch
        {
            Handling.Palletised => settings.PalletsPerHour,
            Handling.FloorLoaded => settings.CartonsPerHour,
            _ => settings.ParcelsPerHour,
        };
        return settings.SetUpMinutes + settings.MinutesPerLine * Math.Max(0, lines - 1) + packs * 60 / (rate * CrewEffect(people));
    }

    /// <summary>A vendor's factor: exp of the mean log ratio of real to standard minutes, with five loads of ratio 1 added.</summary>
    public static double VendorFactor(IEnumerable<double> ratios)
    {
        var logs = ratios.Where(r => r > 0).Select(r => Math.Log(r)).ToList();
        return Math.Exp(logs.Sum() / (logs.Count + PriorLoads));
    }

    /// <summary>Spread of the log ratio about its mean; 0.25 to start with, weighed as five loads.</summary>
    public static double LogSpread(IEnumerable<double> ratios)
    {
        var logs = ratios.Where(r => r > 0).Select(r => Math.Log(r)).ToList();
        var mean = logs.Count == 0 ? 0 : logs.Average();
        return Math.Sqrt((logs.Sum(l => (l - mean) * (l - mean)) + PriorLoads * 0.25 * 0.25) / (Math.Max(0, logs.Count - 1) + PriorLoads));
    }
}
