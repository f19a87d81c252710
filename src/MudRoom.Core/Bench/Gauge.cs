namespace MudRoom.Core.Bench;

/// <summary>A gauge of a site. One that nobody keeps here may be used as it is; one that is kept reads only while its calibration
/// lasts.</summary>
public sealed class Gauge
{
    public const int MostName = 40;

    public int Id { get; init; }
    public required int SiteId { get; init; }

    /// <summary>As it names itself: "caliper".</summary>
    public required string Name { get; init; }

    /// <summary>The last day of its calibration; null for one that needs none.</summary>
    public DateOnly? CalibratedUntil { get; set; }
    public required string KeptBy { get; set; }
    public required DateTimeOffset KeptAt { get; set; }

    /// <summary>Why it may not be read on a day; null where it may.</summary>
    public Refusal? MayRead(DateOnly today) =>
        CalibratedUntil is { } last && today > last
            ? new Refusal(
                BenchRefusals.GaugeOverdue,
                $"The calibration of the {Name} ended on {last:yyyy-MM-dd}: what it reads does not count.",
                "Take another gauge, or have this one calibrated and its new date kept."
            )
            : null;
}
