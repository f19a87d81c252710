using MathNet.Numerics.Statistics;

namespace MudRoom.Core.Bench;

/// <summary>What a characteristic came to in a lot: all that charts over lots ask.</summary>
/// <param name="Id">The characteristic, within its plan.</param>
/// <param name="Looked">Pieces.</param>
/// <param name="Nonconforming">Nonconforming among them.</param>
/// <param name="Mean">Of what was measured; null where it was looked at.</param>
/// <param name="Spread">Standard deviation of what was measured; null for fewer than two values.</param>
/// <param name="Range">The largest less the smallest; null for fewer than two values, and on sheets of before.</param>
public sealed record CharacteristicOutcome(int Id, int Looked, int Nonconforming, double? Mean, double? Spread, double? Range = null)
{
    /// <summary>Of every characteristic that has a finding.</summary>
    public static IReadOnlyList<CharacteristicOutcome> Of(PlanContent plan, IReadOnlyCollection<Finding> findings)
    {
        var of = findings.ToLookup(f => f.CharacteristicId);
        return
        [
            .. plan
                .Characteristics.Where(c => of.Contains(c.Id))
                .Select(c =>
                {
                    var values = of[c.Id].Select(f => f.Value).OfType<decimal>().Select(v => (double)v).ToList();
                    return new CharacteristicOutcome(
                        c.Id,
                        of[c.Id].Count(),
                        of[c.Id].Count(f => !f.Conforms),
                        c.IsMeasured && values.Count > 0 ? values.Mean() : null,
                        c.IsMeasured && values.Count > 1 ? values.StandardDeviation() : null,
                        c.IsMeasured && values.Count > 1 ? values.Max() - values.Min() : null
                    );
                }),
        ];
    }
}
