using System.Globalization;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>Rules of own batch numbers and of what one source batch may be.</summary>
public static class BatchRules
{
    /// <summary>Most characters of a batch number: what AI (10) of a label carries (GS1 General Specifications, section 3).</summary>
    public const int MostCharacters = 20;

    /// <summary>The pattern of items that have none of their own.</summary>
    public const string UsualPattern = "{prefix}-{MM}{dd}-{n}";

    static readonly string[] fields = ["{prefix}", "{yyyy}", "{yy}", "{MM}", "{dd}", "{ww}", "{vendor}", "{n}"];

    /// <summary>
    /// What the own batch numbers of an item, day and vendor look like: the pattern with all its fields filled but {n}, the sequence
    /// number.
    /// Fields: {prefix}, {yyyy}, {yy}, {MM}, {dd}, {ww} (week by ISO 8601), {vendor} (its code).
    /// </summary>
    /// <param name="item">With its pattern and prefix.</param>
    /// <param name="today">The date at the site.</param>
    /// <param name="vendor">Code of the vendor.</param>
    public static (string Start, string End) Around(Item item, DateOnly today, string vendor)
    {
        var filled = (item.BatchPattern.Length > 0 ? item.BatchPattern : UsualPattern)
            .Replace("{prefix}", item.BatchPrefix.Length > 0 ? item.BatchPrefix : item.Code, StringComparison.Ordinal)
            .Replace("{yyyy}", Text(today.Year, 4), StringComparison.Ordinal)
            .Replace("{yy}", Text(today.Year % 100, 2), StringComparison.Ordinal)
            .Replace("{MM}", Text(today.Month, 2), StringComparison.Ordinal)
            .Replace("{dd}", Text(today.Day, 2), StringComparison.Ordinal)
            .Replace("{ww}", Text(ISOWeek.GetWeekOfYear(today), 2), StringComparison.Ordinal)
            .Replace("{vendor}", vendor, StringComparison.Ordinal);
        var at = filled.IndexOf("{n}", StringComparison.Ordinal);
        return at < 0 ? (filled, "") : (filled[..at], filled[(at + 3)..]);
    }

    /// <summary>The first number of the sequence that is not taken.</summary>
    /// <param name="around">What stands around the sequence number.</param>
    /// <param name="taken">How many of the sequence are taken, to begin behind them.</param>
    /// <param name="isTaken">True for a number in use.</param>
    public static string Next((string Start, string End) around, int taken, Func<string, bool> isTaken)
    {
        var next = taken + 1;
        while (isTaken($"{around.Start}{next}{around.End}"))
            next++;
        return $"{around.Start}{next}{around.End}";
    }

    /// <summary>True when goods may join an own batch: it holds the source batch they are of, of the same vendor, or none as they are of
    /// none.</summary>
    /// <param name="batch">With its source batch.</param>
    /// <param name="vendorId">Of the goods.</param>
    /// <param name="sourceNumber">The vendor's number, or null.</param>
    public static bool MayJoin(Batch batch, int vendorId, string? sourceNumber) =>
        batch.SourceBatch is { } source ? source.Number == sourceNumber && source.VendorId == vendorId : sourceNumber is null;

    /// <summary>What is wrong with a pattern, if anything: unknown fields, no sequence number, or numbers that would be too long.</summary>
    public static Refusal? Fault(Item item)
    {
        if (item.BatchPattern.Length == 0)
            return null;
        var left = fields.Aggregate(item.BatchPattern, (text, field) => text.Replace(field, "", StringComparison.Ordinal));
        if (left.Contains('{', StringComparison.Ordinal) || left.Contains('}', StringComparison.Ordinal))
            return new Refusal(
                DoorRefusals.BatchPattern,
                $"{item.BatchPattern} has a field that is none of {string.Join(", ", fields)}.",
                "Write the fields as they stand there."
            );
        if (item.BatchPattern.Split("{n}").Length != 2)
            return new Refusal(
                DoorRefusals.BatchPattern,
                $"{item.BatchPattern} needs the sequence number {{n}} once.",
                "Put {n} where the number counts up."
            );
        var (start, end) = Around(item, new DateOnly(2026, 12, 31), "VENDOR");
        return start.Length + end.Length + 3 <= MostCharacters
            ? null
            : new Refusal(
                DoorRefusals.BatchPattern,
                $"Numbers by {item.BatchPattern} would have more than {MostCharacters} characters.",
                "Leave a field out."
            );
    }

    /// <summary>True when a batch number is of the sequence that stands around it.</summary>
    public static bool IsOf(string batchNumber, (string Start, string End) around) =>
        batchNumber.Length > around.Start.Length + around.End.Length
        && batchNumber.StartsWith(around.Start, StringComparison.Ordinal)
        && batchNumber.EndsWith(around.End, StringComparison.Ordinal)
        && batchNumber.AsSpan()[around.Start.Length..^around.End.Length].IndexOfAnyExceptInRange('0', '9') < 0;

    static string Text(int number, int digits) => number.ToString(CultureInfo.InvariantCulture).PadLeft(digits, '0');

    /// <summary>
    /// The same source batch cannot have two dates, two origins or two values of an attribute. Ends of life that were worked out contradict
    /// nothing; a production
    /// date is never worked out, and one that is known to the month only agrees with each day of that month.
    /// </summary>
    public static Refusal? Contradiction(
        SourceBatch source,
        DatesOfGoods dates,
        Country? origin,
        IReadOnlyDictionary<string, string> attributes
    )
    {
        if (source.ProductionAsKnown is { } made && dates.Production is { } said && !made.Agrees(said))
            return Differs("production", made.ToString(), said.ToString());
        foreach (
            var (word, known, now) in new[]
            {
                ("best before", source.BestBefore, dates.BestBefore),
                ("expiry", source.Expiry, dates.Expiry),
            }
        )
            if (known is { } a && now is { } b && a != b && !dates.WorkedOut && !source.DateWorkedOut)
                return Differs(word, $"{a:yyyy-MM-dd}", $"{b:yyyy-MM-dd}");
        foreach (var (name, now) in attributes)
            if (source.Attributes.TryGetValue(name, out var known) && known != now)
                return new Refusal(
                    DoorRefusals.BatchAttributeDiffers,
                    $"Source batch {source.Number} came with {name} {known} before; now it is {now}.",
                    "Look at the paper again: batch or attribute was read wrongly."
                );
        if (source.Origin is { } before && origin is { } country && country.Code != before)
            return new Refusal(
                DoorRefusals.BatchOriginDiffers,
                $"Source batch {source.Number} came from {Countries.ByCode(before)?.Name} before; now it is {country.Name}.",
                "Look at the label again."
            );
        return null;

        Refusal Differs(string word, string known, string now) =>
            new(
                DoorRefusals.BatchDatesDiffer,
                $"Source batch {source.Number} came with {word} {known} before; now it is {now}.",
                "Look at the label again: batch or date was read wrongly."
            );
    }
}
