namespace MudRoom.Core.Road;

/// <summary>A line of a despatch advice as it was read.</summary>
/// <param name="Quantity">In base units; in the unit of the file where that is wrong.</param>
/// <param name="WrongUnit">The unit of the file, when the item is not counted in it.</param>
public sealed record AdvisedLine(
    string? Sscc,
    string? ParentSscc,
    string? PackageType,
    string? Order,
    int? OrderLine,
    int? ItemId,
    string ItemText,
    decimal Quantity,
    string? SourceBatch,
    DateOnly? Production,
    DateOnly? BestBefore,
    DateOnly? Expiry,
    string? WrongUnit = null
)
{
    /// <summary>Serial numbers of its pieces, as far as the vendor names them.</summary>
    public IReadOnlyList<string> Serials { get; init; } = [];

    /// <summary>The line piece by piece where serial numbers are named, and what is left of it without one; the sum is always the line's
    /// quantity.</summary>
    public IEnumerable<(decimal Quantity, string? Serial)> Pieces()
    {
        var named = Serials.Distinct(StringComparer.OrdinalIgnoreCase).Take((int)Math.Floor(Quantity)).ToList();
        foreach (var serial in named)
            yield return (1, serial);
        if (named.Count < Quantity || named.Count == 0)
            yield return (Quantity - named.Count, null);
    }
}

/// <summary>An open line part that an advised line may belong to.</summary>
/// <param name="Open">What is open of it and aboard no other arrival.</param>
/// <param name="IsPlanned">True where an arrival carries it that no advice of this vendor speaks of yet.</param>
public sealed record AdvisablePart(int PartId, string Order, int Line, int ItemId, DateOnly Due, decimal Open, bool IsPlanned = false);

/// <summary>An open arrival that carries something an advice names.</summary>
/// <param name="Begun">True once anything of it was counted.</param>
/// <param name="IsAdvised">True when an advice of the same vendor speaks of it already: another one is for another vehicle.</param>
public sealed record CarryingArrival(string Number, string? Container, bool Begun, bool IsAdvised);

/// <summary>Where an advice belongs.</summary>
/// <param name="Joins">The arrival it joins; null for one of its own.</param>
/// <param name="Choices">The arrivals it may belong to, where that cannot be told: somebody must say.</param>
public sealed record AdviceTarget(string? Joins, IReadOnlyList<string> Choices)
{
    /// <summary>What somebody says who wants an arrival of its own.</summary>
    public const string New = "new";
}

/// <summary>What matching an advice with its orders comes to.</summary>
/// <param name="PartOf">The part of each line, in the order of the lines; null where none takes it.</param>
/// <param name="Expected">How much of each part is aboard.</param>
/// <param name="Differences">What does not fit, each a sentence.</param>
public sealed record AdviceMatch(IReadOnlyList<int?> PartOf, IReadOnlyDictionary<int, decimal> Expected, IReadOnlyList<string> Differences);

/// <summary>Compares what a vendor says is aboard with what was ordered.</summary>
public static class AdviceRules
{
    /// <summary>
    /// Which arrival an advice belongs to: the one that is planned for its goods and not counted yet; that with its container before all.
    /// One that carries another container, or is advised by the same vendor already, is another vehicle.
    /// </summary>
    /// <param name="carrying">Open arrivals that carry any part the advice names.</param>
    /// <param name="chosen">What somebody said: an arrival's number, or <see cref="AdviceTarget.New"/>; null where nobody did.</param>
    public static AdviceTarget Target(string? container, IReadOnlyList<CarryingArrival> carrying, string? chosen)
    {
        var possible = carrying
            .Where(c => c is { Begun: false, IsAdvised: false } && (container is null || c.Container is null || c.Container == container))
            .ToList();
        if (chosen == AdviceTarget.New)
            return new AdviceTarget(null, []);
        if (possible.Find(c => c.Number.Equals(chosen, StringComparison.OrdinalIgnoreCase)) is { } named)
            return new AdviceTarget(named.Number, []);
        if (container is not null && possible.Find(c => c.Container == container) is { } same)
            return new AdviceTarget(same.Number, []);
        return possible.Count <= 1
            ? new AdviceTarget(possible.FirstOrDefault()?.Number, [])
            : new AdviceTarget(null, [.. possible.Select(c => c.Number).Order(StringComparer.Ordinal)]);
    }

    /// <summary>Each line goes to the part it names, else to one that is planned, else to the earliest due part of its item; what no part
    /// takes is a difference, never lost.</summary>
    public static AdviceMatch Match(IReadOnlyList<AdvisedLine> lines, IReadOnlyList<AdvisablePart> parts, Func<int, string> nameOf)
    {
        var expected = new Dictionary<int, decimal>();
        var differences = new List<string>();
        var partOf = new List<int?>();
        foreach (var line in lines)
        {
            if (line.ItemId is not { } itemId)
            {
                partOf.Add(null);
                if (line.ItemText.Length > 0)
                    differences.Add($"{line.ItemText}: no item of ours has this code. {Quantities(line)}");
                continue;
            }

            if (line.WrongUnit is { } unit)
            {
                partOf.Add(null);
                differences.Add($"{nameOf(itemId)} is said to come in {unit}, a unit it is not counted in. {Quantities(line)}");
                continue;
            }

            if (line.Serials.Count > 0 && line.Serials.Count != line.Quantity)
                differences.Add($"{nameOf(itemId)}: {Counted(line.Serials.Count, "serial number")} for {Counted(line.Quantity, "piece")}.");
            var named = parts
                .Where(p =>
                    p.ItemId == itemId
                    && (line.Order is null || p.Order == line.Order)
                    && (line.OrderLine is null || p.Line == line.OrderLine)
                )
                .ToList();
            var part = named
                .OrderByDescending(p => p.Open - expected.GetValueOrDefault(p.PartId) > 0)
                .ThenByDescending(p => p.IsPlanned)
                .ThenBy(p => p.Due)
                .FirstOrDefault();
            if (part is null)
            {
                partOf.Add(null);
                differences.Add($"{nameOf(itemId)} is not open on {line.Order ?? "any order of this vendor"}. {Quantities(line)}");
                continue;
            }

            partOf.Add(part.PartId);
            expected[part.PartId] = expected.GetValueOrDefault(part.PartId) + line.Quantity;
        }

        foreach (var part in parts.Where(p => expected.GetValueOrDefault(p.PartId) > p.Open))
            differences.Add(
                $"{nameOf(part.ItemId)}: {Site.Quantities.Show(expected[part.PartId])} are aboard, "
                    + $"{Site.Quantities.Show(part.Open)} are open on {part.Order} line {part.Line}."
            );
        return new AdviceMatch(partOf, expected, differences);
    }

    static string Counted(decimal quantity, string word) => $"{Site.Quantities.Show(quantity)} {Site.Quantities.Plural(word, quantity)}";

    static string Quantities(AdvisedLine line) =>
        $"{Site.Quantities.Show(line.Quantity)} {(line.Sscc is null ? "loose" : "on unit " + line.Sscc)}.";
}
