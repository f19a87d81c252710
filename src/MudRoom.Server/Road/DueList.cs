using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>An open line part.</summary>
public sealed record DueRow(
    int PartId, DueState State, int DaysLate, DateOnly Due, string Order, int Line, string ItemCode, string ItemName, string Unit, decimal Open, decimal Ordered,
    string Vendor, string? Contact, string? Telephone, string? Arrival, DateTime? Expected, decimal Waiting, string? WaitingFor);

/// <summary>A page of what is due, with the totals of all.</summary>
public sealed record DueAnswer(IReadOnlyList<DueRow> Rows, int Total, int Page, int PageSize, int Late, int DueToday, int FallsLate, int OnTime);

/// <summary>All open line parts of the site by date.</summary>
public static class DueList
{
    const int PageSize = 50;

    public static void Map(SiteRoutes routes) => routes.Ask("/road/due", Right.See, Run);

    static async Task<Ok<DueAnswer>> Run(Visit visit, string? text, DueState? state, int page = 1)
    {
        var today = visit.Today;
        var open = visit.Db.LineParts.Where(p => p.SiteId == visit.Site.Id && p.IsOpen && p.Line!.Order!.State == OrderState.Open);
        var words = (text ?? "").Trim();
        if (words.Length > 0)
        {
            var items = visit.SetUp.Catalogue.Items.Where(i => i.Code.Contains(words, StringComparison.OrdinalIgnoreCase) || i.Name.Contains(words, StringComparison.OrdinalIgnoreCase)).Select(i => i.Id).ToList();
            var vendors = visit.SetUp.Vendors.Values.Where(v => v.Name.Contains(words, StringComparison.OrdinalIgnoreCase)).Select(v => v.Id).ToList();
            open = open.Where(p => items.Contains(p.ItemId) || vendors.Contains(p.Line!.Order!.VendorId) || p.Line!.Order!.Number.Contains(words));
        }

        // The arrival that brings a part, where one is planned: its expected day decides whether the part will fall late.
        var rows = open.Select(p => new
        {
            Part = p,
            Coming = visit.Db.ManifestLines.Where(m => m.PartId == p.Id && m.Counted < m.Expected)
                .Join(visit.Db.Arrivals.Where(a => a.State != ArrivalState.CountedIn), m => m.ArrivalId, a => a.Id, (m, a) => a)
                .OrderBy(a => a.Planned).FirstOrDefault(),
        });
        var states = (await rows.Select(r => new { r.Part.Due, When = r.Coming == null ? (DateTimeOffset?)null : r.Coming.Eta ?? r.Coming.Planned }).ToListAsync())
            .CountBy(r => DueRules.State(r.Due, today, r.When is { } w ? visit.Site.DateAt(w) : null)).ToDictionary();
        rows = state switch
        {
            null => rows,
            DueState.Late => rows.Where(r => r.Part.Due < today),
            DueState.DueToday => rows.Where(r => r.Part.Due == today),
            _ => rows.Where(r => r.Part.Due > today),
        };
        var total = await rows.CountAsync();
        var at = Math.Max(1, page);
        var shown = await rows.OrderBy(r => r.Part.Due).ThenBy(r => r.Part.Id).Skip((at - 1) * PageSize).Take(PageSize)
            .Select(r => new { r.Part, Line = r.Part.Line!.Number, Order = r.Part.Line.Order!.Number, r.Part.Line.Order.VendorId, r.Coming }).ToListAsync();
        var list = shown.Select(r =>
        {
            var item = visit.SetUp.Catalogue[r.Part.ItemId];
            var vendor = visit.SetUp.Vendors[r.VendorId];
            var when = r.Coming is null ? (DateTime?)null : visit.Local(r.Coming.Eta ?? r.Coming.Planned);
            DateOnly? day = when is { } w ? DateOnly.FromDateTime(w) : null;
            return new DueRow(
                r.Part.Id, DueRules.State(r.Part.Due, today, day), DueRules.DaysLate(r.Part.Due, today, day), r.Part.Due, r.Order, r.Line, item.Code, item.Name,
                item.UnitWord, r.Part.Open, r.Part.Ordered, vendor.Name, vendor.ContactName, vendor.Telephone, r.Coming?.Number, when, r.Part.WaitingQuantity, r.Part.WaitingFor);
        }).Where(r => state is null || r.State == state).ToList();
        return TypedResults.Ok(new DueAnswer(
            list, total, at, PageSize, states.GetValueOrDefault(DueState.Late), states.GetValueOrDefault(DueState.DueToday),
            states.GetValueOrDefault(DueState.FallsLate), states.GetValueOrDefault(DueState.OnTime)));
    }
}
