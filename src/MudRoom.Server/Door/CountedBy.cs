using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>What one person counted.</summary>
/// <param name="Counts">Counts that stand: a scan or an entry is one, however many packs it took in.</param>
/// <param name="Aside">Of them, those set aside.</param>
/// <param name="TakenBack">Counts that were taken back.</param>
/// <param name="First">When the first of all of them was taken.</param>
/// <param name="Last">When the last was.</param>
public sealed record PersonCounts(string Person, int Counts, int Aside, int TakenBack, DateTime First, DateTime Last);

/// <summary>Who counted how much: at one tally, or in a chosen time; the last seven days unless it is said otherwise.</summary>
public static class CountedBy
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/counted-by", Right.See, async (Inquiry inquiry, string? arrival, DateOnly? from, DateOnly? to) =>
            TypedResults.Ok(await Rows(inquiry, arrival, Time(inquiry, arrival, from, to)))
        );
        routes.Ask("/door/counted-by.csv", Right.See, File);
    }

    static async Task<FileContentHttpResult> File(Inquiry inquiry, string? arrival, DateOnly? from, DateOnly? to)
    {
        var time = Time(inquiry, arrival, from, to);
        var rows = await Rows(inquiry, arrival, time);
        return TypedResults.File(
            CsvOut.Write(
                ["person", "counts", "aside", "taken back", "first", "last"],
                rows.Select(r => new object?[] { r.Person, r.Counts, r.Aside, r.TakenBack, r.First, r.Last })
            ),
            "text/csv; charset=utf-8",
            $"counts-{arrival ?? $"{time!.Value.From:yyyy-MM-dd}-{time.Value.To:yyyy-MM-dd}"}.csv"
        );
    }

    static (DateOnly From, DateOnly To)? Time(Inquiry inquiry, string? arrival, DateOnly? from, DateOnly? to) =>
        arrival is not null ? null : (from ?? inquiry.Today.AddDays(-7), to ?? inquiry.Today);

    static async Task<List<PersonCounts>> Rows(Inquiry inquiry, string? arrival, (DateOnly From, DateOnly To)? time)
    {
        var arrivals = inquiry.Db.Arrivals.Where(a => a.SiteId == inquiry.Site.Id && a.AtDoorAt != null);
        var entries = inquiry.Db.TallyEntries.AsQueryable();
        if (arrival is not null)
            arrivals = arrivals.Where(a => a.Number == arrival);
        if (time is { } days)
        {
            var (begin, end) = inquiry.Site.Days(days.From, days.To);
            // Only tallies that were open then: their counts lie side by side in the index.
            arrivals = arrivals.Where(a => a.AtDoorAt < end && (a.CountedInAt == null || a.CountedInAt >= begin));
            entries = entries.Where(e => e.At >= begin && e.At < end);
        }

        var open = await arrivals.Select(a => a.Id).ToListAsync();
        var rows = await entries
            .Where(e => open.Contains(e.ArrivalId))
            .GroupBy(e => new { e.PersonId, e.PersonName })
            .Select(g => new
            {
                g.Key.PersonName,
                Counts = g.Where(e => e.TakenBackAt == null).Select(e => e.ActId).Distinct().Count(),
                Aside = g.Where(e => e.TakenBackAt == null && e.Aside != null).Select(e => e.ActId).Distinct().Count(),
                TakenBack = g.Where(e => e.TakenBackAt != null).Select(e => e.ActId).Distinct().Count(),
                First = g.Min(e => e.At),
                Last = g.Max(e => e.At),
            })
            .ToListAsync();
        return
        [
            .. rows.OrderByDescending(r => r.Counts)
                .ThenBy(r => r.PersonName, StringComparer.Ordinal)
                .Select(r => new PersonCounts(r.PersonName, r.Counts, r.Aside, r.TakenBack, inquiry.Local(r.First), inquiry.Local(r.Last))),
        ];
    }
}
