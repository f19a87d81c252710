using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>Container references of arrivals.</summary>
static class Containers
{
    /// <summary>Reads a reference: by ISO 6346, or any other when it is said to be no ISO 6346 number.</summary>
    public static Outcome<string> Read(string text, bool notIso)
    {
        if (!notIso)
        {
            var read = ContainerNumber.Read(text);
            return read.Refused(out var wrong) ? wrong : read.Value.ToString();
        }

        var plain = text.Trim();
        return plain.Length is 0 or > 30
            ? new Refusal(IdentificationRefusals.ContainerShape, "A reference has 1 to 30 characters.", "Read it from the papers.")
            : plain;
    }

    /// <summary>A container is on one open arrival only, at whatever site.</summary>
    public static async Task<Refusal?> OpenElsewhere(Act act, string container, int? but)
    {
        var there = await act.Db.Arrivals.Open().FirstOrDefaultAsync(a => a.ContainerNumber == container && a.Id != but);
        return there is null
            ? null
            : new Refusal(
                RoadRefusals.ContainerTwice,
                $"{container} is on {there.Number} already.",
                "Look at that arrival, or read the number again."
            );
    }
}
