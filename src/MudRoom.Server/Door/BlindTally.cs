using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>
/// What those who count blind are sent: what is aboard by item and what was counted of it, and nothing from which the expected quantity can
/// be told:
/// no orders (how a count is parted between two orders tells when the first is full), no bars, no over or short, no reasons of a choice.
/// </summary>
public static class BlindTally
{
    /// <summary>A card without how much of it is counted.</summary>
    public static ArrivalCard Of(ArrivalCard card) => card with { Share = 0, Settled = 0, Lines = 0, Notches = [], Why = "", Rank = 0 };

    /// <summary>A tally without what is expected; and for who is to count an item a second time, without what the first count came
    /// to.</summary>
    public static TallyAnswer Of(TallyAnswer tally)
    {
        var again = tally
            .SecondCounts.Where(s => s is { State: SecondCountState.Waiting, Mine: false })
            .Select(s => s.ItemName)
            .ToHashSet();
        var blind = Unexpected(tally);
        return blind with
        {
            Manifest = [.. blind.Manifest.Select(m => again.Contains(m.ItemName) ? m with { Counted = 0 } : m)],
            Counts = [.. blind.Counts.Where(c => !again.Contains(c.Item))],
            Discrepancies = [.. blind.Discrepancies.Where(d => !again.Contains(d.Item))],
        };
    }

    static TallyAnswer Unexpected(TallyAnswer tally) =>
        tally with
        {
            Card = Of(tally.Card),
            Manifest =
            [
                .. tally
                    .Manifest.GroupBy(m => m.ItemCode)
                    .OrderBy(g => g.First().ItemName, StringComparer.Ordinal)
                    .Select(
                        (g, i) =>
                            g.First() with
                            {
                                Id = -1 - i,
                                PartId = 0,
                                Order = "",
                                Line = i + 1,
                                Vendor = "",
                                VendorId = 0,
                                Expected = 0,
                                Counted = g.Sum(m => m.Counted),
                                InPacks = "",
                                Due = default,
                                DueState = default,
                                DaysLate = 0,
                                Waiting = 0,
                                WaitingFor = g.Select(m => m.WaitingFor).FirstOrDefault(w => w is not null),
                                OpenOnOrder = 0,
                                InTransit = 0,
                            }
                    ),
            ],
            Counts =
            [
                .. tally
                    .Counts.GroupBy(c => (c.Act, c.Sscc, c.Pack, c.Serial, c.TakenBack))
                    .Select(g => g.First() with { Quantity = g.Sum(c => c.Quantity), InPacks = "", Reason = "" }),
            ],
            CountsInAll = 0,
            Discrepancies =
            [
                .. tally
                    .Discrepancies.Where(d => d.Kind is not (DiscrepancyKind.Over or DiscrepancyKind.Short))
                    .Select(d => d with { Part = null }),
            ],
            Vendors = [.. tally.Vendors.Select(v => v with { Counted = false })],
            LastBy = new Dictionary<string, string>(),
            AdvisedLeft = [],
            Settings = tally.Settings with { RestAsOrdered = false },
        };

    /// <summary>A reading without the order line it would go to.</summary>
    public static Reading Of(Reading reading) =>
        reading.Kind == ReadingKind.AdvisedUnit
            ? reading with
            {
                Kind = ReadingKind.Unit,
                Words = $"Unit {Core.Identification.Sscc.Spaced(reading.Sscc ?? "")} is announced. Here goods are counted blind.",
                Problem = new(HouseRefusals.CountsBlind, "This unit is not taken in unseen here.", "Count what stands on it."),
            }
        : reading.Kind == ReadingKind.Outwork ? reading with { Words = $"Outwork note {reading.Code}." }
        : reading with { Line = null, LineReason = null, Lines = null, Waiting = 0 };
}
