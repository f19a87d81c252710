using MudRoom.Core;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Server.Acts;

/// <summary>Which version of a room's settings is in force.</summary>
/// <param name="Version">0 where nobody has set anything yet.</param>
public sealed record SettingsInForce(int Version, DateTime? Since, string By)
{
    public static SettingsInForce Of<T>(InForce<T> there, WarehouseSite site) =>
        new(there.Version, there.Since is { } since ? site.LocalTime(since) : null, there.By);

    /// <summary>Refused where somebody has set something else since it was looked at.</summary>
    public static Refusal? Moved<T>(InForce<T> there, int? seen, WarehouseSite site) =>
        seen is null || seen == there.Version
            ? null
            : new Refusal(
                HouseRefusals.SettingsMoved,
                there.Since is { } since
                    ? $"{there.By} changed these settings at {site.Wording.Minute(since)}, after you had looked at them."
                    : $"Nobody has changed these settings yet: version {seen} is none of theirs.",
                "Load the page again and look at them. Nothing was kept."
            );
}
