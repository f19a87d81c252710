using System.Globalization;
using System.Text.RegularExpressions;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>What a gauge or scale sent, typed like a keyboard.</summary>
/// <param name="Gauge">Its name, where it says it: "caliper 212.4".</param>
/// <param name="Value">The value.</param>
/// <param name="Unit">Its unit, where it says it: "0.09 mm".</param>
public sealed record GaugeReading(string? Gauge, decimal Value, string? Unit);

/// <summary>Reads what gauges send, and finds the characteristic that a value was measured for.</summary>
public static partial class Gauges
{
    /// <summary>The reading in a text, or null when it is none.</summary>
    public static GaugeReading? Read(string text)
    {
        var match = Form().Match(text.Trim());
        if (
            !match.Success
            || !decimal.TryParse(
                match.Groups["value"].Value,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var value
            )
        )
            return null;
        return new GaugeReading(match.Groups["gauge"].Value.OrNull(), value, match.Groups["unit"].Value.OrNull());
    }

    /// <summary>
    /// The characteristic a reading is for: the one in whose field the cursor stands, if the gauge can measure it; else the only open one
    /// of its gauge and
    /// unit. Where several could be meant, none is taken: a value must not land on what it was not measured for.
    /// </summary>
    /// <param name="open">Measured characteristics of the piece in hand that have no value yet, in the order of the sheet.</param>
    /// <param name="inHand">The one the cursor stands in, or null.</param>
    public static Outcome<Characteristic> For(GaugeReading reading, IReadOnlyList<Characteristic> open, Characteristic? inHand)
    {
        if (inHand is not null)
            return Fits(reading, inHand)
                ? inHand
                : new Refusal(
                    BenchRefusals.GaugeOther,
                    $"{Said(reading)} is no value of {inHand.Name}, which is measured in "
                        + $"{inHand.Unit}{(inHand.Gauge is null ? "" : $" with the {inHand.Gauge}")}.",
                    "Put the cursor where the value belongs."
                );
        var fitting = open.Where(c => Fits(reading, c)).ToList();
        return fitting switch
        {
            [var only] => only,
            [] => new Refusal(
                BenchRefusals.GaugeNone,
                $"Nothing on this piece still wants {Said(reading)}.",
                "Choose the piece, or put the cursor into the field."
            ),
            _ => new Refusal(
                BenchRefusals.GaugeWhich,
                $"{Said(reading)} may be {string.Join(" or ", fitting.Select(c => c.Name))}.",
                "Put the cursor into the field of what was measured."
            ),
        };
    }

    /// <summary>What a reading is in the unit of a characteristic: exact, and rounded to six decimals where it has more.</summary>
    public static decimal ValueIn(GaugeReading reading, Characteristic characteristic) =>
        reading.Unit is null || RatioTo(reading.Unit, characteristic) is not { } ratio
            ? reading.Value
            : decimal.Round(reading.Value * ratio.Numerator / ratio.Denominator, 6);

    static (long Numerator, long Denominator)? RatioTo(string unit, Characteristic characteristic) =>
        Units.Code(unit) is { } from && Units.Code(characteristic.Unit ?? "") is { } to ? Units.Ratio(from, to) : null;

    static bool Fits(GaugeReading reading, Characteristic characteristic) =>
        characteristic.IsMeasured
        && (
            reading.Unit is null
            || string.Equals(reading.Unit, characteristic.Unit, StringComparison.OrdinalIgnoreCase)
            || RatioTo(reading.Unit, characteristic) is not null
        )
        && (reading.Gauge is null || string.Equals(reading.Gauge, characteristic.Gauge, StringComparison.OrdinalIgnoreCase));

    static string Said(GaugeReading reading) =>
        reading.Value.ToString("0.######", CultureInfo.InvariantCulture)
        + (reading.Unit is null ? "" : " " + reading.Unit)
        + (reading.Gauge is null ? "" : " of the " + reading.Gauge);

    [GeneratedRegex(@"^(?:(?<gauge>\p{L}[\p{L} ]*?)[ :=]+)?(?<value>-?\d+(?:\.\d+)?)\s*(?<unit>[%\p{L}°µ][\p{L}°µ/%]*)?$")]
    private static partial Regex Form();
}
