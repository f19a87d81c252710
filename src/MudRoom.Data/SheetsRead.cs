using MudRoom.Core.Bench;

namespace MudRoom.Data;

/// <summary>
/// The findings of the sheets that were written on last, so that the next finding reads one row and not all before it. Each is known by
/// the act that last changed it, which the sheet's row names too: what a row does not name is never used, whatever became of its act.
/// Only the one writer asks it.
/// </summary>
public sealed class SheetsRead
{
    const int Most = 64;

    readonly Dictionary<int, (Guid By, IReadOnlyList<Finding> Findings)> last = [];

    /// <summary>Copies of the findings of a sheet, or null where they must be read.</summary>
    public IEnumerable<Finding>? Of(Inspection sheet) =>
        sheet.FoundBy is { } by && last.TryGetValue(sheet.Id, out var kept) && kept.By == by ? kept.Findings.Select(f => f.Copy()) : null;

    /// <summary>Keeps them as an act leaves them, saved.</summary>
    public void Keep(Inspection sheet, Guid by)
    {
        if (last.Count >= Most && !last.ContainsKey(sheet.Id))
            last.Clear();
        last[sheet.Id] = (by, [.. sheet.Findings.Select(f => f.Copy())]);
    }
}
