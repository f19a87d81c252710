using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>An open line part.</summary>
public sealed record DueRow(
    int PartId,
    DueState State,
    int DaysLate,
    DateOnly Due,
    string Order,
    int Line,
    OrderKind Kind,
    string ItemCode,
    string ItemName,
    string Unit,
    decimal Open,
    decimal Ordered,
    string Vendor,
    string? Contact,
    string? Telephone,
    string? Mail,
    string? Arrival,
    DateTime? Expected,
    decimal Waiting,
    string? WaitingFor,
    PromiseView? Promise
);

/// <summary>What was promised about a line part when somebody called.</summary>
public sealed record PromiseView(string With, string Text, DateOnly? For, string By, DateTime At);

/// <summary>A page of what is due, with the totals of all.</summary>
public sealed record DueAnswer(
    IReadOnlyList<DueRow> Rows,
    int Total,
    int Page,
    int PageSize,
    int Late,
    int DueToday,
    int FallsLate,
    int OnTime
);

/// <summary>What is asked of the list of due line parts; all may be left out.</summary>
/// <param name="Text">Order number from its beginning, or a part of an item's or vendor's name or code.</param>
/// <param name="Planned">True for parts on an arrival, false for those on none.</param>
public sealed record DueQuestion(
    string? Text,
    DueState? State,
    string? Vendor,
    string? Item,
    DateOnly? From,
    DateOnly? To,
    bool? Planned,
    OrderKind? Kind
)
{
    /// <summary>The line parts it asks for, with all but the state applied.</summary>
    public IQueryable<LinePart> Parts(Inquiry inquiry)
    {
        var open = inquiry.Db.LineParts.Where(p => p.SiteId == inquiry.Site.Id && p.IsOpen);
        if (Vendor is { Length: > 0 } code)
        {
            var vendor = inquiry.SetUp.Vendors.Values.FirstOrDefault(v => v.Code.Equals(code, StringComparison.OrdinalIgnoreCase))?.Id
                ?? -1;
            open = open.Where(p => p.VendorId == vendor);
        }

        if (Item is { Length: > 0 } itemCode)
        {
            var item = inquiry.SetUp.Catalogue.Items.FirstOrDefault(i => i.Code.Equals(itemCode, StringComparison.OrdinalIgnoreCase))?.Id
                ?? -1;
            open = open.Where(p => p.ItemId == item);
        }

        if (From is { } from)
            open = open.Where(p => p.Due >= from);
        if (To is { } to)
            open = open.Where(p => p.Due <= to);
        if (Planned == true)
            open = open.Where(p => p.Coming != null);
        if (Planned == false)
            open = open.Where(p => p.Coming == null);
        if (Kind is { } kind)
            open = open.Where(p => p.Line!.Order!.Kind == kind);
        var words = (Text ?? "").Trim();
        if (words.Length == 0)
            return open;
        var items = inquiry
            .SetUp.Catalogue.Items.Where(i =>
                i.Code.Contains(words, StringComparison.OrdinalIgnoreCase) || i.Name.Contains(words, StringComparison.OrdinalIgnoreCase)
            )
            .Select(i => i.Id)
            .ToList();
        var vendors = inquiry
            .SetUp.Vendors.Values.Where(v => v.Name.Contains(words, StringComparison.OrdinalIgnoreCase))
            .Select(v => v.Id)
            .ToList();
        // By the beginning of an order number, so that the index of numbers serves. What finds nothing stays out of the question: a part of
        // it alone uses its own index.
        var until = words + "\uffff";
        var lines = inquiry
            .Db.Orders.Where(o => string.Compare(o.Number, words) >= 0 && string.Compare(o.Number, until) < 0)
            .SelectMany(o => o.Lines)
            .Select(l => l.Id);
        return (items.Count + vendors.Count, lines.Any()) switch
        {
            (0, _) => open.Where(p => lines.Contains(p.LineId)),
            (_, false) when vendors.Count == 0 => open.Where(p => items.Contains(p.ItemId)),
            (_, false) when items.Count == 0 => open.Where(p => vendors.Contains(p.VendorId)),
            (_, false) => open.Where(p => items.Contains(p.ItemId) || vendors.Contains(p.VendorId)),
            _ => open.Where(p => items.Contains(p.ItemId) || vendors.Contains(p.VendorId) || lines.Contains(p.LineId)),
        };
    }

    /// <summary>The parts of one state, as SQL sees it; the same as <see cref="DueRules.State"/>.</summary>
    public static IQueryable<LinePart> In(IQueryable<LinePart> parts, DueState? state, DateOnly today) =>
        state switch
        {
            null => parts,
            DueState.Late => parts.Where(p => p.Due < today),
            DueState.FallsLate => parts.Where(p => p.Due >= today && p.Coming > p.Due),
            DueState.DueToday => parts.Where(p => p.Due == today && (p.Coming == null || p.Coming <= p.Due)),
            DueState.OnTime => parts.Where(p => p.Due > today && (p.Coming == null || p.Coming <= p.Due)),
            _ => throw new ArgumentOutOfRangeException(nameof(state), state, null),
        };
}

/// <summary>All open line parts of the site by date.</summary>
public static class DueList
{
    const int PageSize = 50;
    const int MostInFile = 250_000;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/road/due", Right.See, Run);
        routes.Ask("/road/due.csv", Right.See, File);
    }

    static async Task<Ok<DueAnswer>> Run(Inquiry inquiry, [AsParameters] DueQuestion question, int page = 1)
    {
        var today = inquiry.Today;
        var parts = question.Parts(inquiry);
        var counts = await parts
            .GroupBy(p => 1)
            .Select(g => new
            {
                Late = g.Count(p => p.Due < today),
                FallsLate = g.Count(p => p.Due >= today && p.Coming > p.Due),
                Today = g.Count(p => p.Due == today && (p.Coming == null || p.Coming <= p.Due)),
                All = g.Count(),
            })
            .FirstOrDefaultAsync();
        var (late, falls, dueToday, all) = (counts?.Late ?? 0, counts?.FallsLate ?? 0, counts?.Today ?? 0, counts?.All ?? 0);
        var onTime = all - late - falls - dueToday;
        var total = question.State switch
        {
            null => all,
            DueState.Late => late,
            DueState.FallsLate => falls,
            DueState.DueToday => dueToday,
            _ => onTime,
        };
        var at = Math.Clamp(page, 1, Math.Max(1, (total + PageSize - 1) / PageSize));
        var shown = DueQuestion
            .In(parts, question.State, today)
            .OrderBy(p => p.Due)
            .ThenBy(p => p.Id)
            .Skip((at - 1) * PageSize)
            .Take(PageSize);
        return TypedResults.Ok(new DueAnswer(await Rows(inquiry, shown), total, at, PageSize, late, dueToday, falls, onTime));
    }

    /// <summary>Rows of some parts, with what brings them and what was promised, in a fixed number of queries.</summary>
    public static async Task<List<DueRow>> Rows(Inquiry inquiry, IQueryable<LinePart> parts)
    {
        var shown = await parts
            .Select(p => new
            {
                Part = p,
                Line = p.Line!.Number,
                Order = p.Line.Order!.Number,
                p.Line.Order.Kind,
            })
            .ToListAsync();
        var ids = shown.Select(s => s.Part.Id).ToList();
        var bringing = (
            await inquiry
                .Db.ManifestLines.Where(m => ids.Contains(m.PartId) && m.Counted < m.Expected)
                .Join(
                    inquiry.Db.Arrivals.Open(),
                    m => m.ArrivalId,
                    a => a.Id,
                    (m, a) =>
                        new
                        {
                            m.PartId,
                            a.Number,
                            At = a.Eta > a.Planned ? a.Eta.Value : a.Planned,
                        }
                )
                .ToListAsync()
        ).GroupBy(b => b.PartId).ToDictionary(g => g.Key, g => g.MinBy(b => b.At)!);
        var promises = (await inquiry.Db.Promises.Where(p => ids.Contains(p.PartId)).ToListAsync())
            .GroupBy(p => p.PartId)
            .ToDictionary(g => g.Key, g => g.MaxBy(p => p.Id)!);
        return
        [
            .. shown.Select(r =>
            {
                var item = inquiry.SetUp.Catalogue[r.Part.ItemId];
                var vendor = inquiry.SetUp.Vendors[r.Part.VendorId];
                var coming = bringing.GetValueOrDefault(r.Part.Id);
                return new DueRow(
                    r.Part.Id,
                    DueRules.State(r.Part.Due, inquiry.Today, r.Part.Coming),
                    DueRules.DaysLate(r.Part.Due, inquiry.Today, r.Part.Coming),
                    r.Part.Due,
                    r.Order,
                    r.Line,
                    r.Kind,
                    item.Code,
                    item.Name,
                    item.UnitWord,
                    r.Part.Open,
                    r.Part.Ordered,
                    vendor.Name,
                    vendor.ContactName,
                    vendor.Telephone,
                    vendor.Mail,
                    coming?.Number,
                    coming is null ? null : inquiry.Local(coming.At),
                    r.Part.WaitingQuantity,
                    r.Part.WaitingWords,
                    View(inquiry, promises.GetValueOrDefault(r.Part.Id))
                );
            }),
        ];
    }

    /// <summary>A promise for showing.</summary>
    public static PromiseView? View(Inquiry inquiry, Promise? p) =>
        p is null ? null : new PromiseView(p.With, p.Text, p.For, p.By, inquiry.Local(p.At));

    static async Task<FileContentHttpResult> File(Inquiry inquiry, [AsParameters] DueQuestion question)
    {
        var parts = DueQuestion
            .In(question.Parts(inquiry), question.State, inquiry.Today)
            .OrderBy(p => p.Due)
            .ThenBy(p => p.Id)
            .Take(MostInFile);
        var rows = await parts
            .Select(p => new
            {
                p.Due,
                p.Coming,
                Order = p.Line!.Order!.Number,
                Line = p.Line.Number,
                p.Ordered,
                p.Received,
                p.ItemId,
                p.VendorId,
                p.WaitingQuantity,
                p.WaitingFor,
                p.WaitingBy,
            })
            .ToListAsync();
        var csv = CsvOut.Write(
            [
                "state",
                "due",
                "expected",
                "order",
                "line",
                "vendor",
                "item",
                "item name",
                "open",
                "ordered",
                "unit",
                "waiting",
                "waiting for",
                "waiting by",
            ],
            rows.Select(r =>
            {
                var item = inquiry.SetUp.Catalogue[r.ItemId];
                return new object?[]
                {
                    DueRules.Word(DueRules.State(r.Due, inquiry.Today, r.Coming)),
                    r.Due,
                    r.Coming,
                    r.Order,
                    r.Line,
                    inquiry.SetUp.Vendors[r.VendorId].Name,
                    item.Code,
                    item.Name,
                    Math.Max(0, r.Ordered - r.Received),
                    r.Ordered,
                    item.UnitWord,
                    r.WaitingQuantity,
                    r.WaitingFor,
                    r.WaitingBy,
                };
            })
        );
        return TypedResults.File(csv, "text/csv; charset=utf-8", $"due-{inquiry.Today:yyyy-MM-dd}.csv");
    }
}
