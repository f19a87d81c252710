using System.Collections.Concurrent;
using Microsoft.AspNetCore.Http.HttpResults;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>A reading as a scale sends it.</summary>
/// <param name="Kilograms">As the scale shows it.</param>
/// <param name="Steady">False while the load still moves.</param>
public sealed record ScaleReading(string Scale, decimal Kilograms, bool Steady);

/// <summary>The last reading of a scale.</summary>
public sealed record ScaleView(string Scale, decimal Kilograms, bool Steady, DateTime At, bool Old);

/// <summary>The last reading of each scale; kept in memory only, for a reading is no fact of the book until it is counted.</summary>
public sealed class ScaleStore
{
    readonly ConcurrentDictionary<(string Site, string Scale), (ScaleReading Reading, DateTimeOffset At)> last = new();

    /// <summary>Keeps a reading.</summary>
    public void Keep(string site, ScaleReading reading, DateTimeOffset at) => last[(site, reading.Scale)] = (reading, at);

    /// <summary>The readings of a site, newest first.</summary>
    public IReadOnlyList<(ScaleReading Reading, DateTimeOffset At)> Of(string site) =>
        [.. last.Where(l => l.Key.Site == site).Select(l => l.Value).OrderByDescending(l => l.At)];
}

/// <summary>Scales at the door and at the bench: a driver program or the demo's stand-in sends readings, a count or a sheet asks for the
/// last one.</summary>
public static class Scales
{
    const int MostScales = 40;
    const decimal MostKilograms = 100_000;
    static readonly TimeSpan fresh = TimeSpan.FromSeconds(60);

    public static void Map(SiteRoutes routes, ScaleStore store)
    {
        At(routes, "/door/scales", Right.Tally, store);
        At(routes, "/bench/scales", Right.Inspect, store);
    }

    static void At(SiteRoutes routes, string path, Right right, ScaleStore store)
    {
        routes.Ask(
            path,
            right,
            (Inquiry inquiry) =>
                TypedResults.Ok<IReadOnlyList<ScaleView>>([
                    .. store
                        .Of(inquiry.Site.Code)
                        .Select(l => new ScaleView(
                            l.Reading.Scale,
                            l.Reading.Kilograms,
                            l.Reading.Steady,
                            inquiry.Local(l.At),
                            inquiry.Now - l.At > fresh
                        )),
                ]),
            BlindView.Open
        );
        routes.Check<ScaleReading, Results<Ok<ScaleView>, ProblemHttpResult>>(
            path,
            right,
            (inquiry, reading) => Task.FromResult(Keep(inquiry, reading, store)),
            BlindView.Open
        );
    }

    static Results<Ok<ScaleView>, ProblemHttpResult> Keep(Inquiry inquiry, ScaleReading reading, ScaleStore store)
    {
        if (reading.Scale.OrNull() is not { Length: <= 40 } name)
            return Problems.Of(
                new Refusal(DoorRefusals.ScaleName, "A scale has a name of at most 40 characters.", "Say which scale it is.")
            );
        if (Math.Abs(reading.Kilograms) > MostKilograms || decimal.Round(reading.Kilograms, 6) != reading.Kilograms)
            return Problems.Of(
                new Refusal(HouseRefusals.QuantityTooLarge, $"{reading.Kilograms} kg is no reading of a scale.", "Weigh again.")
            );
        if (store.Of(inquiry.Site.Code) is { Count: >= MostScales } all && all.All(l => l.Reading.Scale != name))
            return Problems.Of(
                new Refusal(HouseRefusals.TooMany, $"{MostScales} scales are known already.", "Use the name of one of them.")
            );
        store.Keep(inquiry.Site.Code, reading with { Scale = name }, inquiry.Now);
        return TypedResults.Ok(new ScaleView(name, reading.Kilograms, reading.Steady, inquiry.Local(inquiry.Now), false));
    }
}
