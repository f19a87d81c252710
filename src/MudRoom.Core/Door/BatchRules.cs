using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>Rules of own batch numbers and of what one source batch may be.</summary>
public static class BatchRules
{
    /// <summary>Most characters of a batch number: what AI (10) of a label carries (GS1 General Specifications, section 3).</summary>
    public const int MostCharacters = 20;

    /// <summary>What every own batch number of an item and day begins with: prefix, month and day.</summary>
    public static string Start(Item item, DateOnly today) => $"{(item.BatchPrefix.Length > 0 ? item.BatchPrefix : item.Code)}-{today:MMdd}-";

    /// <summary>The first number of the day's sequence that is not taken.</summary>
    public static string Next(Item item, DateOnly today, int takenToday, Func<string, bool> isTaken)
    {
        var start = Start(item, today);
        var next = takenToday + 1;
        while (isTaken($"{start}{next}")) next++;
        return $"{start}{next}";
    }

    /// <summary>True when an own batch was opened on that day, so that the day's further goods of its source batch go into it.</summary>
    public static bool IsOfDay(string batchNumber, DateOnly day) => batchNumber.Contains($"-{day:MMdd}-", StringComparison.Ordinal);

    /// <summary>The same source batch cannot have two dates, two origins or two values of an attribute; dates that were worked out contradict nothing.</summary>
    public static Refusal? Contradiction(SourceBatch source, DatesOfGoods dates, Country? origin, IReadOnlyDictionary<string, string> attributes)
    {
        foreach (var (word, known, now) in new[]
                 {
                     ("best before", source.BestBefore, dates.BestBefore), ("expiry", source.Expiry, dates.Expiry), ("production", source.Production, dates.Production?.Date),
                 })
            if (known is { } a && now is { } b && a != b && !dates.WorkedOut && !source.DateWorkedOut)
                return new Refusal("batch-dates-differ", $"Source batch {source.Number} came with {word} {a:yyyy-MM-dd} before; now it is {b:yyyy-MM-dd}.", "Look at the label again: batch or date was read wrongly.");
        foreach (var (name, now) in attributes)
            if (source.Attributes.TryGetValue(name, out var known) && known != now)
                return new Refusal("batch-attribute-differs", $"Source batch {source.Number} came with {name} {known} before; now it is {now}.", "Look at the paper again: batch or attribute was read wrongly.");
        if (source.Origin is { } before && origin is { } country && country.Code != before)
            return new Refusal("batch-origin-differs", $"Source batch {source.Number} came from {Countries.ByCode(before)?.Name} before; now it is {country.Name}.", "Look at the label again.");
        return null;
    }
}
