using System.Globalization;

namespace MudRoom.Core.Site;

/// <summary>Sums of packs and pieces in base units, exact.</summary>
public static class Quantities
{
    /// <summary>Most that one count may hold, in base units.</summary>
    public const decimal Most = 1_000_000_000m;

    /// <summary>Fewest parts of a base unit that can be kept: a millionth.</summary>
    public const decimal Finest = 0.000001m;

    /// <summary>Reads a number as people type it: digits, at most one point, at most six decimals; spaces between thousands are let
    /// pass.</summary>
    /// <param name="text">As it was typed.</param>
    /// <param name="decimalComma">True where a comma stands before the decimals; a point does so everywhere.</param>
    public static Outcome<decimal> Read(string? text, bool decimalComma = false)
    {
        var plain = (text ?? "").Trim().Replace(" ", "").Replace("\u202f", "").Replace("\u00a0", "");
        if (decimalComma && plain.Count(c => c == ',') == 1 && !plain.Contains('.', StringComparison.Ordinal))
            plain = plain.Replace(',', '.');
        if (plain.Length == 0)
            return new Refusal(SiteRefusals.NumberMissing, "There is no number.", "Type how many there are.");
        if (
            plain.Length > 30
            || !decimal.TryParse(
                plain,
                NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
            return new Refusal(HouseRefusals.NotANumber, $"{Shortened(plain)} is no number.", "Type digits, with a point before decimals.");
        if (decimal.Round(number, 6) != number)
            return new Refusal(SiteRefusals.TooFine, $"{plain} has more than six decimals.", "Round it to what was measured.");
        return number;
    }

    static string Shortened(string text) => text.Length <= 24 ? text : text[..24] + "…";

    /// <summary>Checks a quantity that somebody counted: above 0, not absurd, a whole number of steps.</summary>
    /// <param name="quantity">In base units.</param>
    /// <param name="item">The item counted.</param>
    public static Refusal? Check(decimal quantity, Item item)
    {
        if (quantity <= 0)
            return new Refusal(
                HouseRefusals.QuantityNotPositive,
                $"{Show(quantity)} {item.UnitWord} is no count: it must be more than 0.",
                "Type what is there. To take a count back, use Take back in the trail."
            );
        if (quantity > Most)
            return new Refusal(
                HouseRefusals.QuantityTooLarge,
                $"{Show(quantity)} {item.UnitWord} cannot be right: the most for one count is {Show(Most)}.",
                "Look at the number again."
            );
        var steps = quantity / item.Step;
        if (steps == Math.Floor(steps))
            return null;
        var below = Math.Floor(steps) * item.Step;
        return new Refusal(
            SiteRefusals.QuantityNotWhole,
            $"{Show(quantity)} {item.UnitWord} of {item.Name} is no whole number of {Show(item.Step)}. The nearest are "
                + $"{Show(below)} and {Show(below + item.Step)}.",
            "Type one of the two."
        );
    }

    /// <summary>A quantity in words of packs: the largest packs first, the rest in base units.</summary>
    public static string InPacks(decimal quantity, Item item)
    {
        var pack = item
            .PackLevels.Where(p => p is { IsUnit: false, Denominator: 1, Numerator: > 1 } && quantity % p.Numerator == 0)
            .OrderByDescending(p => p.Numerator)
            .FirstOrDefault();
        return pack is null
            ? $"{Show(quantity)} {item.UnitWord}"
            : $"{Show(quantity / pack.Numerator)} {Plural(pack.Name, quantity / pack.Numerator)} of {pack.Numerator}";
    }

    /// <summary>A count in packs and in base units, "2 boxes, 12 each"; once where both are the same.</summary>
    public static string Counted(decimal packs, string pack, decimal quantity, string unitWord) =>
        pack == unitWord ? $"{Show(quantity)} {unitWord}" : $"{Show(packs)} {Plural(pack, packs)}, {Show(quantity)} {unitWord}";

    /// <summary>"box" and 3 give "boxes"; units of measure stay as they are.</summary>
    public static string Plural(string word, decimal count)
    {
        if (count == 1 || Units.All.Any(u => u.Word == word))
            return word;
        if (word.EndsWith('x') || word.EndsWith("ch"))
            return word + "es";
        return word + "s";
    }

    /// <summary>"1 line" and "3 lines".</summary>
    public static string Many(int count, string word) => $"{count} {Plural(word, count)}";

    /// <summary>A number without needless zeros, thousands apart by a narrow space.</summary>
    public static string Show(decimal number) => number.ToString("#,0.######", groups);

    static readonly NumberFormatInfo groups = new() { NumberGroupSeparator = "\u202f" };
}
