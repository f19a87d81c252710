using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>How bad a nonconformity is.</summary>
public enum CharacteristicClass
{
    Critical,
    Major,
    Minor,
}

/// <summary>One property that is checked: measured against limits, or looked at.</summary>
public sealed class Characteristic
{
    public int Id { get; init; }
    public required string Name { get; set; }
    public CharacteristicClass Class { get; set; }

    /// <summary>Unit of a measured characteristic; null when it is looked at.</summary>
    public string? Unit { get; set; }
    public decimal? Nominal { get; set; }
    public decimal? Lower { get; set; }
    public decimal? Upper { get; set; }

    /// <summary>What it is measured with, as the gauge names itself; null for any.</summary>
    public string? Gauge { get; set; }

    /// <summary>Least that the gauge can read; null where that is not known.</summary>
    public decimal? GaugeLow { get; set; }

    /// <summary>Most that the gauge can read; null where that is not known.</summary>
    public decimal? GaugeHigh { get; set; }

    /// <summary>What a piece that passes is called, when looked at: "holds", "whole".</summary>
    public string PassWord { get; set; } = "good";
    public string FailWord { get; set; } = "bad";
    public string Instruction { get; set; } = "";

    /// <summary>True for measured, false for looked at.</summary>
    public bool IsMeasured => Unit is not null;

    /// <summary>
    /// Why a value that does not conform is asked about before it counts towards rejection: the gauge cannot read it, or it lies far
    /// outside and would be
    /// within with the point elsewhere (9 for 0.09). Null when it is taken as it is.
    /// </summary>
    /// <param name="value">In the characteristic's unit.</param>
    public string? Doubt(decimal value)
    {
        if (!IsMeasured || Conforms(value))
            return null;
        if (value < GaugeLow || value > GaugeHigh)
            return $"{Show(value)} {Unit} lies outside what the {Gauge ?? "gauge"} can read, {Show(GaugeLow ?? 0)} to "
                + $"{(GaugeHigh is { } most ? Show(most) : "…")}.";
        if (!IsFarOutside(value))
            return null;
        foreach (var slip in new[] { 10m, 0.1m, 100m, 0.01m, 1000m, 0.001m })
            if (value * slip != value && Conforms(value * slip))
                return $"{Show(value)} {Unit} lies far outside; {Show(value * slip)} would be within. Is the point in its place?";
        return null;
    }

    /// <summary>Further beyond a limit than the limits lie apart, or than twice a single limit.</summary>
    bool IsFarOutside(decimal value)
    {
        var width = (Lower, Upper) switch
        {
            ({ } low, { } high) => high - low,
            ({ } low, null) => Math.Abs(low) / 2,
            (null, { } high) => Math.Abs(high),
            _ => 0m,
        };
        return value > Upper + width || value < Lower - width;
    }

    static string Show(decimal value) => value.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>Whether a value lies within the limits, both inclusive.</summary>
    public bool Conforms(decimal value) => (Lower is not { } low || value >= low) && (Upper is not { } high || value <= high);
}

/// <summary>What is checked of an item, on how many pieces.</summary>
public sealed class InspectionPlan
{
    public int Id { get; init; }
    public required string Name { get; set; }
    public InspectionLevel Level { get; set; } = InspectionLevel.II;
    public decimal AqlMajor { get; set; } = 2.5m;
    public decimal AqlMinor { get; set; } = 4.0m;

    /// <summary>Pack level in which lots are counted: "each", "sack".</summary>
    public required string SamplingUnit { get; set; }
    public List<Characteristic> Characteristics { get; init; } = [];
}

/// <summary>How one class of characteristics is judged in a lot.</summary>
/// <param name="Class">The class.</param>
/// <param name="SampleSize">Pieces looked at for it.</param>
/// <param name="Ac">Accept at most this many nonconforming pieces.</param>
/// <param name="Re">Reject from this many.</param>
public sealed record ClassPlan(CharacteristicClass Class, int SampleSize, int Ac, int Re);

/// <summary>The sample for a lot.</summary>
/// <param name="Letter">Code letter of table 1; null when the lot is one and is looked at whole.</param>
/// <param name="Classes">By class.</param>
public sealed record Sample(char? Letter, IReadOnlyList<ClassPlan> Classes)
{
    /// <summary>Pieces in all: the largest of the classes.</summary>
    public int Size => Classes.Max(c => c.SampleSize);

    /// <summary>
    /// Works out the sample. A sample as large as the lot means the whole lot; a lot of 1 is inspected whole (table 1 begins at 2);
    /// critical nonconformities are never accepted, and are looked for on every piece of the sample.
    /// </summary>
    /// <param name="plan">Level, AQLs, classes in use.</param>
    /// <param name="lotSize">In sampling units, at least 1.</param>
    /// <param name="severity">Normal, tightened or reduced.</param>
    public static Sample For(InspectionPlan plan, long lotSize, Severity severity)
    {
        var classes = plan.Characteristics.Select(c => c.Class).Distinct().Order().ToList();
        if (lotSize == 1)
            return new Sample(null, [.. classes.Select(c => new ClassPlan(c, 1, 0, 1))]);
        var letter = SamplingTables.Letter(lotSize, plan.Level);
        var major = Single(plan.AqlMajor);
        var minor = Single(plan.AqlMinor);
        var largest = Math.Max(classes.Contains(CharacteristicClass.Minor) ? minor.SampleSize : 0, major.SampleSize);
        return new Sample(
            letter,
            [
                .. classes.Select(c =>
                    c switch
                    {
                        CharacteristicClass.Critical => Whole(c, largest, 0),
                        CharacteristicClass.Major => Whole(c, major.SampleSize, major.Ac),
                        _ => Whole(c, minor.SampleSize, minor.Ac),
                    }
                ),
            ]
        );

        SinglePlan Single(decimal aql) => SamplingTables.Plan(letter, aql, severity);
        ClassPlan Whole(CharacteristicClass c, int size, int ac) => new(c, (int)Math.Min(size, lotSize), ac, ac + 1);
    }
}
