using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>What became of a part of a sample.</summary>
public enum SampleFate
{
    /// <summary>It is with its lot again.</summary>
    Back = 0,

    /// <summary>There is nothing of it any more: it was cut, burnt, dissolved.</summary>
    UsedUp = 1,

    /// <summary>It is kept, so that it can be looked at again.</summary>
    Retained = 2,
}

/// <summary>A part of a sample that was settled.</summary>
/// <param name="Quantity">In base units.</param>
/// <param name="Where">The place it is in now; empty for what is used up.</param>
/// <param name="Until">Until when it is kept; null for what is not.</param>
public sealed record SampleWent(SampleFate Fate, decimal Quantity, string Where, DateOnly? Until, string By, DateTimeOffset At);

/// <summary>How much of each sample is kept, and how long.</summary>
/// <param name="Units">In sampling units of the plan.</param>
/// <param name="Months">From the day it is kept.</param>
public sealed record RetainedSample(int Units, int Months)
{
    /// <summary>What is wrong with it, in a sentence; null where nothing is.</summary>
    public string? Fault =>
        Units is < 1 or > 1000 || Months is < 1 or > 600 ? "A retained sample has 1 to 1000 units and is kept 1 to 600 months." : null;
}

/// <summary>A name that a piece of a sample bears: a serial, a label.</summary>
/// <param name="Piece">From 1.</param>
public sealed record NamedPiece(int Piece, string Name, string By, DateTimeOffset At)
{
    /// <summary>Most characters of a name.</summary>
    public const int MostText = 40;
}

/// <summary>What is to be done with a sample next.</summary>
/// <param name="Quantity">In base units.</param>
/// <param name="Until">Until when it is kept; null for what is not.</param>
public sealed record SampleProposal(SampleFate Fate, decimal Quantity, DateOnly? Until);

/// <summary>Where the parts of a drawn sample go. Each part once, and never more than was drawn.</summary>
public static class SampleWay
{
    /// <summary>How much of the sample nobody has said anything of, in base units.</summary>
    public static decimal Left(Inspection sheet) => sheet.Sampled - sheet.SampleWent.Sum(w => w.Quantity);

    /// <summary>
    /// What the plan wants to be done with what is left: pieces that were measured by what uses them up are gone, then so much is retained
    /// as it says, and the rest goes back to the lot. Null once all is settled.
    /// </summary>
    /// <param name="today">At the site.</param>
    public static SampleProposal? Next(Inspection sheet, PlanContent plan, Item item, DateOnly today)
    {
        var left = Left(sheet);
        if (left <= 0)
            return null;
        var drawn = sheet.Sample!.Drawn(sheet.Findings);
        var unit = item.PackLevels.FirstOrDefault(p => p.Name == plan.SamplingUnit);
        var usesUp = plan.Characteristics.Where(c => c.UsesUp).Select(c => c.Id).ToHashSet();
        var pieces = sheet.Findings.Where(f => usesUp.Contains(f.CharacteristicId)).Select(f => f.Piece).Distinct().Count();
        if (Short(SampleFate.UsedUp, pieces) is > 0 and var gone)
            return new SampleProposal(SampleFate.UsedUp, gone, null);
        if (plan.Retains is { } retains && Short(SampleFate.Retained, retains.Units) is > 0 and var kept)
            return new SampleProposal(SampleFate.Retained, kept, today.AddMonths(retains.Months));
        return new SampleProposal(SampleFate.Back, left, null);

        decimal Short(SampleFate fate, int units)
        {
            var wanted = unit?.Content(units) ?? Math.Ceiling(sheet.Sampled * units / drawn / item.Step) * item.Step;
            return Math.Min(left, wanted - sheet.SampleWent.Where(w => w.Fate == fate).Sum(w => w.Quantity));
        }
    }
}
