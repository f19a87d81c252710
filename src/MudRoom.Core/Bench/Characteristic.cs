using System.Globalization;
using System.Text.Json.Serialization;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>How bad a nonconformity is.</summary>
public enum CharacteristicClass
{
    Critical = 0,
    Major = 1,
    Minor = 2,
}

/// <summary>How a measured value is had.</summary>
public enum HowHad
{
    /// <summary>Typed, or read by whatever gauge is at hand.</summary>
    Typed = 0,

    /// <summary>Read by a gauge; what is typed instead is told in the book.</summary>
    Gauge = 1,

    /// <summary>Read from a scale; what is typed instead is told in the book.</summary>
    Scale = 2,

    /// <summary>Counted: a whole number.</summary>
    Counted = 3,
}

/// <summary>One property that is checked: measured against limits, or looked at.</summary>
public sealed record Characteristic
{
    /// <summary>Within its plan; the same characteristic keeps it from version to version.</summary>
    public int Id { get; init; }
    public required string Name { get; init; }
    public CharacteristicClass Class { get; init; }

    /// <summary>Unit of a measured characteristic; null when it is looked at.</summary>
    public string? Unit { get; init; }
    public decimal? Nominal { get; init; }
    public decimal? Lower { get; init; }
    public decimal? Upper { get; init; }

    /// <summary>How a measured value is had.</summary>
    public HowHad Had { get; init; }

    /// <summary>How a measured value is had, in a word.</summary>
    public static string WordOf(HowHad had) =>
        had switch
        {
            HowHad.Typed => "typed",
            HowHad.Gauge => "read by a gauge",
            HowHad.Scale => "read from a scale",
            HowHad.Counted => "counted",
            _ => throw new ArgumentOutOfRangeException(nameof(had), had, null),
        };

    /// <summary>What it is measured with, as the gauge names itself; null for any.</summary>
    public string? Gauge { get; init; }

    /// <summary>Least that the gauge can read; null where that is not known.</summary>
    public decimal? GaugeLow { get; init; }

    /// <summary>Most that the gauge can read; null where that is not known.</summary>
    public decimal? GaugeHigh { get; init; }

    /// <summary>What a piece that passes is called, when looked at: "holds", "whole".</summary>
    public string PassWord { get; init; } = "good";
    public string FailWord { get; init; } = "bad";
    public string Instruction { get; init; } = "";

    /// <summary>By which it is judged; null for none.</summary>
    public ReferencePicture? Picture { get; init; }

    /// <summary>True where there is nothing of a piece any more once it was looked at for this.</summary>
    public bool UsesUp { get; init; }

    /// <summary>A sample rule of its own; null where it goes with its class.</summary>
    public SampleRule? Rule { get; init; }

    /// <summary>True for measured, false for looked at.</summary>
    [JsonIgnore]
    public bool IsMeasured => Unit is not null;

    /// <summary>True where a scale may tell its value: its unit is one of mass, and nothing else is meant to.</summary>
    [JsonIgnore]
    public bool IsWeighed => Had is HowHad.Typed or HowHad.Scale && IsMass;

    /// <summary>True where its value is to be read, and typing it is told.</summary>
    [JsonIgnore]
    public bool IsRead => IsMeasured && Had is HowHad.Gauge or HowHad.Scale;

    bool IsMass => Unit is not null && Units.Code(Unit) is { } code && Units.Ratio("KGM", code) is not null;

    /// <summary>
    /// Why a value that does not conform is asked about before it counts towards rejection: the gauge cannot read it, or it lies far
    /// outside and would be within with the point elsewhere (9 for 0.09). Null when it is taken as it is.
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

    /// <summary>Whether a value lies within the limits, both inclusive.</summary>
    public bool Conforms(decimal value) => (Lower is not { } low || value >= low) && (Upper is not { } high || value <= high);

    /// <summary>What keeps its plan from being signed, in sentences.</summary>
    public IEnumerable<string> Faults()
    {
        if (string.IsNullOrWhiteSpace(Name))
            yield return "A characteristic has no name.";
        if (Rule?.Fault is { } fault)
            yield return $"{Name}: {fault}";
        if (Picture?.Fault is { } drawn)
            yield return $"{Name}: {drawn}";
        if (Rule is SampleRule.ByVariables && !IsMeasured)
            yield return $"{Name} is looked at; only measured values are judged by their spread.";
        if (Rule is SampleRule.ByVariables && Class == CharacteristicClass.Critical)
            yield return $"{Name} is critical: it is judged piece by piece, and none may fail.";
        if (!IsMeasured)
        {
            if (string.IsNullOrWhiteSpace(PassWord) || string.IsNullOrWhiteSpace(FailWord))
                yield return $"{Name}: good and bad each want a word.";
            else if (PassWord.Trim().Equals(FailWord.Trim(), StringComparison.OrdinalIgnoreCase))
                yield return $"{Name}: good and bad have the same word.";
            yield break;
        }

        if (!Enum.IsDefined(Had))
            yield return $"{Name}: nobody knows how its value is had.";
        if (Had == HowHad.Scale && !IsMass)
            yield return $"{Name} is read from a scale, and {Unit} is no unit of mass.";
        if (Had == HowHad.Counted && new[] { Lower, Upper, Nominal }.OfType<decimal>().Any(v => v != decimal.Truncate(v)))
            yield return $"{Name} is counted: its limits are whole numbers.";
        if (Lower is null && Upper is null)
            yield return $"{Name} is measured and has no limit.";
        if (Lower > Upper)
            yield return $"{Name}: the lower limit {Show(Lower.Value)} lies above the upper {Show(Upper.Value)}.";
        else if (Nominal is { } nominal && !Conforms(nominal))
            yield return $"{Name}: the nominal value {Show(nominal)} lies outside its limits.";
        if (GaugeLow > GaugeHigh)
            yield return $"{Name}: the gauge reads from {Show(GaugeLow.Value)} to {Show(GaugeHigh.Value)}, which is nothing.";
        if (new[] { Lower, Upper }.OfType<decimal>().Any(limit => limit < GaugeLow || limit > GaugeHigh))
            yield return $"{Name}: a limit lies outside what the gauge can read.";
        if (new[] { Lower, Upper, Nominal, GaugeLow, GaugeHigh }.OfType<decimal>().Any(v => decimal.Round(v, 6) != v))
            yield return $"{Name}: at most six decimals are kept.";
    }

    /// <summary>The limits in words: "209 to 215 mm", "at most 9 %", "holds or slips".</summary>
    [JsonIgnore]
    public string LimitWords =>
        (IsMeasured, Lower, Upper) switch
        {
            (false, _, _) => $"{PassWord} or {FailWord}",
            (_, { } low, { } high) => $"{Show(low)} to {Show(high)} {Unit}",
            (_, { } low, null) => $"at least {Show(low)} {Unit}",
            (_, null, { } high) => $"at most {Show(high)} {Unit}",
            _ => $"any {Unit}",
        };

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

    static string Show(decimal value) => value.ToString("0.######", CultureInfo.InvariantCulture);
}
