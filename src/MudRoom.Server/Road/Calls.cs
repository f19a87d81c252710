using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A call to make about one order.</summary>
/// <param name="Why">Why it stands where it stands in the queue.</param>
public sealed record CallCard(
    string Order,
    string Vendor,
    string? Contact,
    string? Telephone,
    string? Mail,
    string Why,
    int DaysLate,
    DueState State,
    string? WaitingFor,
    IReadOnlyList<int> Parts,
    IReadOnlyList<string> Items,
    PromiseView? LastPromise
);

/// <summary>Whom to call about what: line parts that are late or will fall late, one card an order.</summary>
public static class Calls
{
    const int Most = 200;

    public static void Map(SiteRoutes routes) => routes.Ask("/road/calls", Right.See, Run);

    static async Task<Ok<List<CallCard>>> Run(Inquiry inquiry)
    {
        var today = inquiry.Today;
        var late = inquiry.Db.LineParts.Where(p =>
            p.SiteId == inquiry.Site.Id
            && p.IsOpen
            && (p.Due < today && (p.Coming == null || p.Coming > today) || p.Due >= today && p.Coming > p.Due)
        );
        var rows = await DueList.Rows(inquiry, late.OrderByDescending(p => p.WaitingQuantity > 0).ThenBy(p => p.Due).Take(Most));
        return TypedResults.Ok(
            rows.GroupBy(r => r.Order)
                .Select(g => Card(g.Key, [.. g], today))
                .Where(c => c is not null)
                .Select(c => c!)
                .OrderBy(c => c.LastPromise is not null)
                .ThenByDescending(c => c.WaitingFor is not null)
                .ThenByDescending(c => c.DaysLate)
                .ToList()
        );
    }

    /// <summary>None where what was promised is still to come.</summary>
    static CallCard? Card(string order, List<DueRow> rows, DateOnly today)
    {
        var promise = rows.Select(r => r.Promise).FirstOrDefault(p => p is not null);
        if (promise?.For >= today && rows.All(r => r.Promise is not null))
            return null;
        var days = rows.Max(r => r.DaysLate);
        var waits = string.Join(", ", rows.Select(r => r.WaitingFor).Where(w => w is not null).Distinct());
        var late =
            rows[0].State == DueState.Late
                ? $"{days} {(days == 1 ? "day" : "days")} late"
                : $"will come {days} {(days == 1 ? "day" : "days")} after its date";
        var called =
            promise is null ? "Nobody has called yet."
            : promise.For is { } f && f < today ? $"Promised for {f:d MMM}, and not here."
            : $"Last call {promise.At:d MMM}.";
        return new CallCard(
            order,
            rows[0].Vendor,
            rows[0].Contact,
            rows[0].Telephone,
            rows[0].Mail,
            $"{char.ToUpperInvariant(late[0])}{late[1..]}. {called}{(waits.Length > 0 ? $" Waiting: {waits}." : "")}",
            days,
            rows[0].State,
            waits.Length > 0 ? waits : null,
            [.. rows.Select(r => r.PartId)],
            [.. rows.Select(r => r.ItemName).Distinct()],
            promise
        );
    }
}
