using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Shelf;

/// <summary>How far a put-away job is.</summary>
public enum JobState
{
    Taken,
    Done,
    GivenBack,
}

/// <summary>
/// One quantity that a driver has taken to bring to a bin. What nobody has taken is not a job yet: it is stock that stands
/// where it may not stay, and the queue is worked out from that.
/// </summary>
public sealed class PutAwayJob
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int FromBinId { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }
    public int? UnitId { get; init; }
    public string? Serial { get; init; }
    public required Standing Standing { get; init; }

    /// <summary>What is still to be brought, in base units.</summary>
    public decimal Quantity { get; private set; }

    /// <summary>The bin it is promised to.</summary>
    public int? TargetBinId { get; private set; }

    /// <summary>How that bin was chosen.</summary>
    public Proposal? Trail { get; private set; }
    public JobState State { get; private set; } = JobState.Taken;
    public required int PersonId { get; init; }
    public required string PersonName { get; init; }
    public required DateTimeOffset TakenAt { get; init; }
    public DateTimeOffset? DoneAt { get; private set; }

    /// <summary>When the driver scanned the goods and they were the right ones; null before.</summary>
    public DateTimeOffset? GoodsScannedAt { get; private set; }

    /// <summary>The goods it moves.</summary>
    public Goods Goods => new(ItemId, BatchId, UnitId, Serial);

    /// <summary>What an entry over it is about: its goods, where they stand, and a bin that it names.</summary>
    public IReadOnlyList<Reference> About(int? bin)
    {
        var about = new List<Reference> { Reference.Item(ItemId), Reference.Bin(FromBinId) };
        if (BatchId is { } batch)
            about.Add(Reference.Batch(batch));
        if (UnitId is { } unit)
            about.Add(new Reference(ReferenceKind.Unit, unit));
        if (Serial is { } serial)
            about.Add(new Reference(ReferenceKind.Serial, serial));
        if (bin is { } named)
            about.Add(Reference.Bin(named));
        return about;
    }

    /// <summary>Sets how much and where to, with the trail.</summary>
    public void Promise(decimal quantity, Proposal trail)
    {
        Quantity = quantity;
        Trail = trail;
        TargetBinId = trail.Shares.Count > 0 ? trail.Shares[0].BinId : null;
    }

    /// <summary>Only the driver who took it goes on with it.</summary>
    public Refusal? MayBeWorkedBy(int personId, SiteTime local) =>
        State switch
        {
            JobState.Done => new Refusal(
                ShelfRefusals.JobDone,
                $"The job was done by {PersonName} at {local(DoneAt!.Value):HH:mm}.",
                "Take the next one."
            ),
            JobState.GivenBack => new Refusal(
                ShelfRefusals.JobGivenBack,
                $"{PersonName} gave the job back.",
                "Take it anew from the queue."
            ),
            _ when personId != PersonId => new Refusal(ShelfRefusals.JobTaken, $"{PersonName} has taken this job.", "Take another one."),
            _ => null,
        };

    /// <summary>The right goods were scanned.</summary>
    public void ConfirmGoods(DateTimeOffset at) => GoodsScannedAt = at;

    /// <summary>So much of it is in a bin; the job is done when nothing is left.</summary>
    public void PutDown(decimal quantity, DateTimeOffset at)
    {
        Quantity -= quantity;
        if (Quantity > 0)
            return;
        State = JobState.Done;
        DoneAt = at;
    }

    /// <summary>Gives it back to the queue.</summary>
    public void GiveBack() => State = JobState.GivenBack;
}

/// <summary>What drivers have taken is promised, wherever it still stands.</summary>
public static class Promises
{
    /// <summary>What stands there less what drivers have taken of it, never below 0.</summary>
    public static decimal Free(decimal there, IEnumerable<PutAwayJob> taken) => Math.Max(0, there - taken.Sum(j => j.Quantity));
}
