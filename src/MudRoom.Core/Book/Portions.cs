namespace MudRoom.Core.Book;

/// <summary>Takes a quantity out of rows in their order: the oldest lots, the lines with most left.</summary>
public static class Portions
{
    /// <summary>So much of each row, all of the first before any of the second, until as much is taken as is wanted. A row of which nothing
    /// is taken is left out.</summary>
    /// <param name="rows">In the order in which they are taken from.</param>
    /// <param name="has">How much a row has, in base units; one that has nothing, or less, gives nothing.</param>
    /// <param name="wanted">In base units.</param>
    /// <returns>Less in all than was wanted where the rows have less.</returns>
    public static IReadOnlyList<(T Row, decimal Takes)> Of<T>(IEnumerable<T> rows, Func<T, decimal> has, decimal wanted)
    {
        var taken = new List<(T, decimal)>();
        var left = wanted;
        foreach (var row in rows)
        {
            if (left <= 0)
                break;
            var takes = Math.Min(left, has(row));
            if (takes <= 0)
                continue;
            taken.Add((row, takes));
            left -= takes;
        }

        return taken;
    }
}
