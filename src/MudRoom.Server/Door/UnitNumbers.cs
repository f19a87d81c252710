using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>Asks for numbers for this device to give without a network.</summary>
/// <param name="Kind">Of units, or of own batches.</param>
public sealed record BlockRequest(BlockKind Kind);

/// <summary>A block of numbers.</summary>
/// <param name="Start">What every SSCC of the site begins with: extension digit and company prefix; empty for batches.</param>
/// <param name="From">First number.</param>
/// <param name="To">Last number.</param>
public sealed record BlockAnswer(BlockKind Kind, string Start, long From, long To);

/// <summary>Numbers of units: the site's next, or those a device has given from its block.</summary>
public static class UnitNumbers
{
    /// <summary>Batch numbers of blocks begin here, beyond what a day's own sequence reaches.</summary>
    const long FirstBlockBatch = 1001;

    public static void Map(SiteRoutes routes) =>
        routes.Act<BlockRequest, BlockAnswer>("/door/numbers", Right.Tally, Reserve, blind: BlindView.Open);

    /// <summary>Reserves a block for the device of the act.</summary>
    public static async Task<Outcome<BlockAnswer>> Reserve(Act act, BlockRequest request)
    {
        if (!Enum.IsDefined(request.Kind))
            return new Refusal(DoorRefusals.BlockKind, "Numbers are of units or of batches.", "Load the page again.");
        var site = await act.SiteRow();
        if (request.Kind == BlockKind.Unit && site.MayNumber() is { } not)
            return not;
        var (from, to) =
            request.Kind == BlockKind.Unit
                ? site.ReserveSsccs(NumberBlock.Size)
                : NextBatches(
                    await act.Db.NumberBlocks.Where(b => b.SiteId == site.Id && b.Kind == BlockKind.Batch).MaxAsync(b => (long?)b.To)
                );
        act.Db.NumberBlocks.Add(
            new NumberBlock
            {
                SiteId = site.Id,
                Kind = request.Kind,
                Device = act.Doer.Device,
                From = from,
                To = to,
                GivenAt = act.Now,
            }
        );
        return new BlockAnswer(request.Kind, request.Kind == BlockKind.Unit ? $"{site.SsccExtension}{site.NumberPrefix}" : "", from, to);
    }

    /// <summary>The numbers of new units: those the device gave, when they are of its block and not used; else the site's next.</summary>
    public static async Task<Outcome<List<string>>> For(Act act, int howMany, IReadOnlyList<string>? given)
    {
        var site = await act.SiteRow();
        if (site.MayNumber() is { } not)
            return not;
        if (given is not { Count: > 0 })
            return Enumerable.Range(0, howMany).Select(_ => site.TakeSscc()).ToList();
        if (given.Count != howMany)
            return new Refusal(DoorRefusals.UnitNumbers, $"{given.Count} unit numbers came for {howMany} units.", "Scan each label once.");
        if (given.Distinct().Count() != given.Count)
            return new Refusal(DoorRefusals.UnitNumbers, "A unit number came twice.", "Scan each label once.");
        var blocks = await act
            .Db.NumberBlocks.Where(b => b.SiteId == site.Id && b.Kind == BlockKind.Unit && b.Device == act.Doer.Device)
            .ToListAsync();
        foreach (var sscc in given)
            if (NumberBlock.SerialOf(sscc, site.SsccExtension, site.NumberPrefix!) is not { } serial || !blocks.Any(b => b.Has(serial)))
                return new Refusal(
                    DoorRefusals.UnitNotReserved,
                    $"Unit number {Sscc.Spaced(sscc)} is not reserved for this device.",
                    "Print a new label."
                );
        if (await act.Db.Units.FirstOrDefaultAsync(u => given.Contains(u.Sscc)) is { } used)
            return new Refusal(DoorRefusals.UnitUsed, $"Unit number {Sscc.Spaced(used.Sscc)} is used already.", "Print a new label.");
        return given.ToList();
    }

    static (long From, long To) NextBatches(long? last) =>
        ((last ?? FirstBlockBatch - 1) + 1, (last ?? FirstBlockBatch - 1) + NumberBlock.Size);
}
