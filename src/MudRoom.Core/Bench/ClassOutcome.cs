namespace MudRoom.Core.Bench;

/// <summary>What a lot came to in one class: all that switching and the estimate of a vendor's quality ask.</summary>
/// <param name="Class">The class.</param>
/// <param name="IsAccepted">In this class.</param>
/// <param name="Looked">Pieces that have every finding of the class.</param>
/// <param name="Nonconforming">Nonconforming among them.</param>
/// <param name="Ac">Acceptance number; of both samples together where there are two.</param>
/// <param name="AtTighter">True when it would have been accepted at the next tighter AQL too.</param>
/// <param name="OnFirst">Of a double plan: accepted on the first sample.</param>
/// <param name="Under">The severity that it was judged by.</param>
/// <param name="BySwitching">False where the rule of the class has no severities: such lots do not count for switching.</param>
public sealed record ClassOutcome(
    CharacteristicClass Class,
    bool IsAccepted,
    int Looked,
    int Nonconforming,
    int Ac,
    bool AtTighter,
    bool? OnFirst,
    Severity Under,
    bool BySwitching
)
{
    /// <summary>Of every class that a lot was judged by as a whole; a characteristic judged by itself says nothing of its class.</summary>
    public static IReadOnlyList<ClassOutcome> Of(PlanContent plan, Sample sample, IReadOnlyCollection<Finding> findings) =>
        [.. LotStand.Of(plan, sample, findings).Parts.Where(p => p.Part.Characteristic is null).Select(p => Of(plan, p, findings))];

    static ClassOutcome Of(PlanContent plan, PartStand stand, IReadOnlyCollection<Finding> findings)
    {
        var part = stand.Part;
        var judged = part.Of(plan).Select(c => c.Id).ToHashSet();
        var looked = findings.Where(f => judged.Contains(f.CharacteristicId)).CountBy(f => f.Piece).Count(p => p.Value == judged.Count);
        var isAccepted = !stand.MustReject && stand.Judgement.Verdict == Verdict.Accepted;
        var standard = plan.Rules.GetValueOrDefault(part.Class) as SampleRule.Standard;
        return new ClassOutcome(
            part.Class,
            isAccepted,
            looked,
            stand.Nonconforming,
            part.Asks switch
            {
                SamplePlan.Double d => d.Ac2,
                _ => part.Ac,
            },
            isAccepted
                && standard is not null
                && part.Letter is { } letter
                && stand.Nonconforming <= AcAtTighter(letter, standard.Aql, part),
            part.Asks is SamplePlan.Double ? isAccepted && stand.Judgement.Wanted == part.SampleSize : null,
            part.Severity,
            standard is not null && part.Letter is not null
        );
    }

    /// <summary>The acceptance number at the AQL one step tighter; −1 where there is none, so that nothing would be accepted.</summary>
    static int AcAtTighter(char letter, decimal aql, SamplePart part)
    {
        var at = SamplingTables.Aqls.ToList().IndexOf(aql);
        return at <= 0 ? -1 : SamplingTables.Plan(letter, SamplingTables.Aqls[at - 1], part.Severity).Ac;
    }

    /// <summary>The outcome as an event of switching.</summary>
    public SwitchingEvent.Lot AsLot(string number, DateOnly on) => new(number, on, IsAccepted, Ac, AtTighter, OnFirst);
}

/// <summary>What somebody said of the severity of a vendor's lots. Stored.</summary>
public enum SeveritySaid
{
    ReducedAllowed = 1,
    ReducedEnded = 2,
    Restarted = 3,
}

/// <summary>Somebody's word on the severity of a vendor's lots of an item at a site; all classes.</summary>
public sealed class SeverityRow
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int ItemId { get; init; }
    public required int VendorId { get; init; }
    public required SeveritySaid Said { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
    public required string Reason { get; init; }

    /// <summary>The word as an event of switching.</summary>
    public SwitchingEvent AsEvent() =>
        Said switch
        {
            SeveritySaid.ReducedAllowed => new SwitchingEvent.ReducedAllowed(By),
            SeveritySaid.ReducedEnded => new SwitchingEvent.ReducedEnded(By),
            SeveritySaid.Restarted => new SwitchingEvent.Restarted(By),
            _ => throw new InvalidOperationException($"{Said} is no word on severity."),
        };
}
