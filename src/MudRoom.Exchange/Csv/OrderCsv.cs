using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange.Csv;

/// <summary>One line part of an order as a file gives it, with every code resolved.</summary>
public sealed record OrderRow(
    int FileLine,
    string Order,
    OrderKind Kind,
    Vendor Vendor,
    DateOnly OrderDate,
    int Line,
    Item Item,
    decimal Quantity,
    DateOnly Due,
    WarehouseSite Site,
    decimal? Price,
    bool AsksInspection,
    WaitingDemand? Waits,
    ReturnTerms? Return = null
);

/// <summary>What a file of orders comes to: its rows, or its faults (the first hundred). Never both.</summary>
/// <param name="Notes">What was left alone.</param>
public sealed record OrderFile(IReadOnlyList<OrderRow> Rows, IReadOnlyList<FileFault> Faults, IReadOnlyList<string> Notes);

/// <summary>
/// Orders from CSV, a line for each line part. Columns: docs/formats/orders-csv.md.
/// A file with any fault is refused whole.
/// </summary>
public static class OrderCsv
{
    static readonly string[] required = ["order", "vendor", "line", "item", "quantity", "due", "site"];
    static readonly string[] optional =
    [
        "kind",
        "order_date",
        "unit",
        "price",
        "waiting_quantity",
        "waiting_for",
        "waiting_by",
        "inspect",
        "return_reason",
        "promised",
    ];

    /// <summary>Reads and checks the whole text.</summary>
    /// <param name="text">The file.</param>
    /// <param name="known">Items, vendors and sites by code.</param>
    /// <param name="today">For an order date left blank.</param>
    public static OrderFile Read(string text, Known known, DateOnly today)
    {
        var rows = new List<OrderRow>();
        var read = CsvTable.Read(text, required, optional, known.Habits, row =>
        {
            if (Parse(row, known, today) is { } parsed)
                rows.Add(parsed);
        });
        AddFaultsBetweenRows(rows, read.Faults);
        return new OrderFile(read.Faults.Count > 0 ? [] : rows, [.. read.Faults.Take(Resolver.MostFaults)], read.Notes);
    }

    static OrderRow? Parse(CsvRow row, Known known, DateOnly today)
    {
        var before = row.Faults.Count;
        var order = row.Text("order", 40);
        var kind = row.Kind();
        var vendor = row.Find("vendor", known.Vendors, "no vendor has this code");
        var site = row.Find("site", known.Sites, "no site has this code");
        var orderDate = row.Date("order_date", today);
        var line = (int)row.Number("line", 1, 99_999, whole: true);
        var code = row.Text("item", 60);
        var found = known.Catalogue.ByCode(code);
        if (code.Length > 0 && found.Count == 0)
            row.Fault("item", "no item has this code");
        if (found.Select(f => f.Item.Id).Distinct().Count() > 1)
            row.Fault("item", "several items have this code");
        var item = found.Count > 0 ? found[0].Item : null;
        var quantity = row.Number("quantity", Quantities.Finest, Quantities.Most, whole: false);
        var pack = item is null ? null : row.Pack(item);
        var due = row.Date("due", null);
        var price = row.Optional("price") ? row.Number("price", 0, Quantities.Most, whole: false) : (decimal?)null;
        var waits = Waits(row);
        var back = Return(row, kind);
        if (item is not null && pack is not null && row.Faults.Count == before && Quantities.Check(pack.Content(quantity), item) is { } why)
            row.Fault("quantity", why.Sentence);
        if (row.Faults.Count > before)
            return null;
        return new OrderRow(
            row.FileLine,
            order,
            kind,
            vendor!,
            orderDate,
            line,
            item!,
            pack!.Content(quantity),
            due,
            site!,
            price,
            row.Optional("inspect") && row.YesNo("inspect"),
            waits,
            back
        );
    }

    static ReturnTerms? Return(CsvRow row, OrderKind kind)
    {
        var (says, promises) = (row.Optional("return_reason"), row.Optional("promised"));
        if (kind != OrderKind.CustomerReturn)
        {
            if (says)
                row.Fault("return_reason", "stands on an order that is no customer return");
            if (promises)
                row.Fault("promised", "stands on an order that is no customer return");
            return null;
        }

        var reason = says ? row.Text("return_reason", ReturnTerms.LongestReason) : ReturnTerms.NotSaid.Reason;
        return new ReturnTerms(reason, promises ? Promised(row) : ReturnPromise.Nothing);
    }

    static ReturnPromise Promised(CsvRow row)
    {
        var word = row.Text("promised", 20);
        foreach (var promise in Enum.GetValues<ReturnPromise>())
            if (word.Equals(ReturnTerms.Word(promise), StringComparison.OrdinalIgnoreCase))
                return promise;
        row.Fault("promised", "is nothing, credit, replacement or repair");
        return ReturnPromise.Nothing;
    }

    static WaitingDemand? Waits(CsvRow row)
    {
        var quantity = row.Optional("waiting_quantity") ? row.Number("waiting_quantity", 0, Quantities.Most, whole: false) : 0;
        var by = row.Optional("waiting_by") ? row.Instant("waiting_by") : null;
        if (row.Optional("waiting_for"))
            return new WaitingDemand(quantity, row.Text("waiting_for", 120), by);
        if (by is not null)
            row.Fault("waiting_by", "is an hour for which nobody waits: waiting_for is empty");
        return null;
    }

    static void AddFaultsBetweenRows(List<OrderRow> rows, List<FileFault> faults)
    {
        foreach (var order in rows.GroupBy(r => r.Order))
        {
            var first = order.First();
            faults.AddRange(
                order
                    .Where(r => r.Vendor.Id != first.Vendor.Id)
                    .Select(r => new FileFault(
                        r.FileLine,
                        "vendor",
                        r.Vendor.Code,
                        $"{order.Key} has vendor {first.Vendor.Code} in line {first.FileLine}."
                    ))
            );
            foreach (var line in order.GroupBy(r => r.Line))
            {
                faults.AddRange(
                    line.Where(r => r.Item.Id != line.First().Item.Id)
                        .Select(r => new FileFault(
                            r.FileLine,
                            "item",
                            r.Item.Code,
                            $"{order.Key} line {line.Key} has item {line.First().Item.Code} in line {line.First().FileLine}."
                        ))
                );
                faults.AddRange(
                    line.GroupBy(r => (r.Due, r.Site.Id))
                        .Where(g => g.Count() > 1)
                        .SelectMany(g => g.Skip(1))
                        .Select(r => new FileFault(
                            r.FileLine,
                            "line",
                            r.Line.ToString(),
                            $"{order.Key} line {line.Key} due {r.Due:yyyy-MM-dd} stands twice."
                        ))
                );
            }
        }
    }
}
