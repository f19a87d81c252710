using System.Collections.Concurrent;
using System.Threading.RateLimiting;
using MudRoom.Core;
using MudRoom.Server.Acts;

namespace MudRoom.Server.SignIn;

/// <summary>
/// Wrong tries. From one address only so many in a while, whatever name they are for. Wrong PINs lock the badge on the device they were
/// typed at, and,
/// after many more, the badge everywhere for a while; never the person's password. Kept in memory: a restart forgets them.
/// </summary>
public sealed class Tries(TimeProvider clock) : IDisposable
{
    /// <summary>Wrong tries from one address within <see cref="Window"/>.</summary>
    public const int MostFromAddress = 40;

    /// <summary>Wrong PINs of a badge at one device.</summary>
    public const int MostAtDevice = 5;

    /// <summary>Wrong PINs of a badge at all devices together.</summary>
    public const int MostOfBadge = 25;

    /// <summary>How long wrong tries are remembered.</summary>
    public static readonly TimeSpan Window = TimeSpan.FromMinutes(5);

    readonly PartitionedRateLimiter<string> addresses = PartitionedRateLimiter.Create<string, string>(address =>
        RateLimitPartition.GetSlidingWindowLimiter(address, _ => new SlidingWindowRateLimiterOptions
        {
            PermitLimit = MostFromAddress,
            Window = Window,
            SegmentsPerWindow = 5,
            QueueLimit = 0,
        })
    );

    readonly ConcurrentDictionary<(int Person, string Device), (int Wrong, DateTimeOffset Last)> pins = new();

    /// <summary>The refusal of an address that has tried too often.</summary>
    public Refusal? FromAddress(HttpContext http)
    {
        // Asking for none tells whether there is any left.
        using var lease = addresses.AttemptAcquire(AddressOf(http), 0);
        return lease.IsAcquired
            ? null
            : new Refusal(
                HouseRefusals.TooManyTries,
                "Too many wrong tries came from this device.",
                $"Wait {Window.TotalMinutes:0} minutes."
            );
    }

    /// <summary>One wrong try more from an address.</summary>
    public void Wrong(HttpContext http) => addresses.AttemptAcquire(AddressOf(http), 1).Dispose();

    /// <summary>The refusal of a badge that is locked, on this device or everywhere.</summary>
    public Refusal? OfBadge(HttpContext http, int personId)
    {
        var now = clock.GetUtcNow();
        var recent = pins.Where(p => p.Key.Person == personId && now - p.Value.Last < Window).ToList();
        if (recent.Sum(p => p.Value.Wrong) >= MostOfBadge)
            return Locked("everywhere");
        return recent.Any(p => p.Key.Device == DeviceOf(http) && p.Value.Wrong >= MostAtDevice) ? Locked("on this device") : null;

        static Refusal Locked(string where) =>
            new(
                HouseRefusals.BadgeLocked,
                $"Too many wrong PINs: this badge is locked {where} for {Window.TotalMinutes:0} minutes.",
                "Sign in with name and password, or wait."
            );
    }

    /// <summary>One wrong PIN more.</summary>
    public void WrongPin(HttpContext http, int personId)
    {
        var now = clock.GetUtcNow();
        if (pins.Count > 10_000)
            pins.Clear();
        pins.AddOrUpdate((personId, DeviceOf(http)), (1, now), (_, before) => (now - before.Last < Window ? before.Wrong + 1 : 1, now));
    }

    /// <summary>The right PIN was typed at this device.</summary>
    public void RightPin(HttpContext http, int personId) => pins.TryRemove((personId, DeviceOf(http)), out _);

    public void Dispose() => addresses.Dispose();

    static string AddressOf(HttpContext http) => http.Connection.RemoteIpAddress?.ToString() ?? "none";

    /// <summary>The device by its own name and the address it calls from: a name alone could be made up anew for each try.</summary>
    static string DeviceOf(HttpContext http) => $"{SiteRoutes.NameOfDevice(http.Request.Headers["Device"])} {AddressOf(http)}";
}
