namespace MudRoom.Core.Road;

/// <summary>A logistic unit that a vendor's despatch advice names aboard an arrival, with what it holds; a pallet may hold cartons.</summary>
public sealed class AdvisedUnit
{
    public int Id { get; init; }
    public required int ArrivalId { get; init; }

    /// <summary>18 digits; null for loose goods.</summary>
    public string? Sscc { get; init; }

    /// <summary>The unit this one stands on or in.</summary>
    public string? ParentSscc { get; init; }
    public string? PackageType { get; init; }
    public int? ItemId { get; init; }
    public int? PartId { get; init; }

    /// <summary>In base units.</summary>
    public decimal Quantity { get; init; }
    public string? SourceBatch { get; init; }
    public DateOnly? Production { get; init; }
    public DateOnly? BestBefore { get; init; }
    public DateOnly? Expiry { get; init; }

    /// <summary>Of the one piece this row names; null where the advice names none.</summary>
    public string? Serial { get; init; }
}

/// <summary>Something in a despatch advice that does not fit the order: kept until somebody decides.</summary>
public sealed class AdviceDifference
{
    public int Id { get; init; }
    public required int ArrivalId { get; init; }
    public required string Sentence { get; init; }
    public string? Decision { get; private set; }
    public string? DecidedBy { get; private set; }
    public DateTimeOffset? DecidedAt { get; private set; }

    /// <summary>Decides; once.</summary>
    public Refusal? Decide(string decision, string by, DateTimeOffset at)
    {
        if (DecidedAt is not null) return new Refusal("decided", $"{DecidedBy} has decided already: {Decision}", "Nothing is to be done.");
        if (string.IsNullOrWhiteSpace(decision)) return new Refusal("note-missing", "A decision wants a sentence.", "Say what is to be done with it.");
        Decision = decision.Trim();
        DecidedBy = by;
        DecidedAt = at;
        return null;
    }
}

/// <summary>How the units of a despatch advice stand on one another.</summary>
public static class AdvisedLoad
{
    /// <summary>What a unit holds, with what stands in the units on it, however deep; each row once, even where a file says that two units stand on each other.</summary>
    /// <param name="all">All rows of the arrival.</param>
    /// <param name="sscc">The unit.</param>
    /// <returns>Rows with a quantity, in the order of the file.</returns>
    public static IReadOnlyList<AdvisedUnit> Inside(IReadOnlyCollection<AdvisedUnit> all, string sscc)
    {
        var onto = all.Where(u => u.Sscc is not null).ToLookup(u => u.ParentSscc, u => u.Sscc!);
        var inside = new HashSet<string> { sscc };
        var open = new Queue<string>([sscc]);
        while (open.TryDequeue(out var unit))
            foreach (var next in onto[unit].Where(inside.Add)) open.Enqueue(next);
        return [.. all.Where(u => u is { Quantity: > 0, Sscc: { } own } && inside.Contains(own))];
    }

    /// <summary>The units that stand on no other, in the order of the file: what a receiver scans.</summary>
    public static IReadOnlyList<string> Outermost(IReadOnlyCollection<AdvisedUnit> all) =>
        [.. all.Where(u => u is { ParentSscc: null, Sscc: not null }).Select(u => u.Sscc!).Distinct()];

    /// <summary>What stands on a unit and cannot be taken in unseen: an item nobody knows, or one that no order takes; null where all of it can.</summary>
    public static AdvisedUnit? Odd(IEnumerable<AdvisedUnit> contents) => contents.FirstOrDefault(c => c.ItemId is null || c.PartId is null);
}

/// <summary>A line of a despatch advice as it was read.</summary>
/// <param name="Quantity">In base units; in the unit of the file where that is wrong.</param>
/// <param name="WrongUnit">The unit of the file, when the item is not counted in it.</param>
public sealed record AdvisedLine(string? Sscc, string? ParentSscc, string? PackageType, string? Order, int? OrderLine, int? ItemId, string ItemText, decimal Quantity, string? SourceBatch, DateOnly? Production, DateOnly? BestBefore, DateOnly? Expiry, string? WrongUnit = null)
{
    /// <summary>Serial numbers of its pieces, as far as the vendor names them.</summary>
    public IReadOnlyList<string> Serials { get; init; } = [];

    /// <summary>The line piece by piece where serial numbers are named, and what is left of it without one; the sum is always the line's quantity.</summary>
    public IEnumerable<(decimal Quantity, string? Serial)> Pieces()
    {
        var named = Serials.Distinct(StringComparer.OrdinalIgnoreCase).Take((int)Math.Floor(Quantity)).ToList();
        foreach (var serial in named) yield return (1, serial);
        if (named.Count < Quantity || named.Count == 0) yield return (Quantity - named.Count, null);
    }
}

/// <summary>An open line part that an advised line may belong to.</summary>
public sealed record AdvisablePart(int PartId, string Order, int Line, int ItemId, DateOnly Due, decimal Open);

/// <summary>What matching an advice with its orders comes to.</summary>
/// <param name="PartOf">The part of each line, in the order of the lines; null where none takes it.</param>
/// <param name="Expected">How much of each part is aboard.</param>
/// <param name="Differences">What does not fit, each a sentence.</param>
public sealed record AdviceMatch(IReadOnlyList<int?> PartOf, IReadOnlyDictionary<int, decimal> Expected, IReadOnlyList<string> Differences);

/// <summary>Compares what a vendor says is aboard with what was ordered.</summary>
public static class AdviceRules
{
    /// <summary>Each line goes to the part it names, else to the earliest due part of its item; what no part takes is a difference, never lost.</summary>
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
                if (line.ItemText.Length > 0) differences.Add($"{line.ItemText}: no item of ours has this code. {Quantities(line)}");
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
            var named = parts.Where(p => p.ItemId == itemId && (line.Order is null || p.Order == line.Order) && (line.OrderLine is null || p.Line == line.OrderLine)).ToList();
            var part = named.OrderByDescending(p => p.Open - expected.GetValueOrDefault(p.PartId) > 0).ThenBy(p => p.Due).FirstOrDefault();
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
            differences.Add($"{nameOf(part.ItemId)}: {Site.Quantities.Show(expected[part.PartId])} are aboard, {Site.Quantities.Show(part.Open)} are open on {part.Order} line {part.Line}.");
        return new AdviceMatch(partOf, expected, differences);
    }

    static string Counted(decimal quantity, string word) => $"{Site.Quantities.Show(quantity)} {Site.Quantities.Plural(word, quantity)}";

    static string Quantities(AdvisedLine line) => $"{Site.Quantities.Show(line.Quantity)} {(line.Sscc is null ? "loose" : "on unit " + line.Sscc)}.";
}
