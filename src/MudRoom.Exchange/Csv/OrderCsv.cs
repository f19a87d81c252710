using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange.Csv;

/// <summary>One line part of an order as a file gives it, with every code resolved.</summary>
public sealed record OrderRow(
    int FileLine, string Order, OrderKind Kind, Vendor Vendor, DateOnly OrderDate, int Line, Item Item, decimal Quantity, DateOnly Due,
    WarehouseSite Site, decimal? Price, decimal WaitingQuantity, string? WaitingFor);

/// <summary>What a file of orders comes to: its rows, or its faults (the first hundred). Never both.</summary>
public sealed record OrderFile(IReadOnlyList<OrderRow> Rows, IReadOnlyList<FileFault> Faults);

/// <summary>What a file may refer to.</summary>
public sealed record Known(Catalogue Catalogue, IReadOnlyDictionary<string, Vendor> Vendors, IReadOnlyDictionary<string, WarehouseSite> Sites);

/// <summary>
/// Orders from CSV: UTF-8 with or without byte order mark, comma or semicolon, a heading line. Columns: docs/formats/orders-csv.md.
/// A file with any fault is refused whole.
/// </summary>
public static class OrderCsv
{
    /// <summary>Most faults that are said at once.</summary>
    public const int MostFaults = 100;

    static readonly string[] required = ["order", "vendor", "line", "item", "quantity", "due", "site"];
    static readonly string[] optional = ["kind", "order_date", "unit", "price", "waiting_quantity", "waiting_for"];

    /// <summary>Reads and checks the whole text.</summary>
    /// <param name="text">The file.</param>
    /// <param name="known">Items, vendors and sites by code.</param>
    /// <param name="today">For an order date left blank.</param>
    public static OrderFile Read(string text, Known known, DateOnly today)
    {
        var faults = new List<FileFault>();
        var rows = new List<OrderRow>();
        text = text.TrimStart('\ufeff');
        if (string.IsNullOrWhiteSpace(text)) return Refused(1, "", "", "The file is empty.");
        var heading = text.Split('\n', 2)[0];
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            Delimiter = heading.Contains(';') ? ";" : ",",
            TrimOptions = TrimOptions.Trim,
            BadDataFound = bad => faults.Add(new FileFault(bad.Context.Parser?.RawRow ?? 0, "", "", "A quotation mark is not closed.")),
            MissingFieldFound = null,
        };
        using var csv = new CsvReader(new StringReader(text), configuration);
        csv.Read();
        csv.ReadHeader();
        var columns = (csv.HeaderRecord ?? []).Select(c => c.ToLowerInvariant()).ToList();
        faults.AddRange(required.Where(r => !columns.Contains(r)).Select(r => new FileFault(1, r, "", "This column is missing.")));
        faults.AddRange(columns.Where(c => !required.Contains(c) && !optional.Contains(c)).Select(c => new FileFault(1, c, "", "No such column is known.")));
        faults.AddRange(columns.GroupBy(c => c).Where(g => g.Count() > 1).Select(g => new FileFault(1, g.Key, "", "This column stands twice.")));
        if (faults.Count > 0) return new OrderFile([], faults);

        while (faults.Count < MostFaults && csv.Read())
        {
            var row = new Row(csv, columns, faults);
            if (Parse(row, known, today) is { } parsed) rows.Add(parsed);
        }

        if (faults.Count == 0 && rows.Count == 0) return Refused(2, "", "", "There is a heading but no line.");
        AddFaultsBetweenRows(rows, faults);
        return faults.Count > 0 ? new OrderFile([], [.. faults.Take(MostFaults)]) : new OrderFile(rows, []);
    }

    static OrderFile Refused(int line, string field, string value, string reason) => new([], [new FileFault(line, field, value, reason)]);

    static OrderRow? Parse(Row row, Known known, DateOnly today)
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
        if (code.Length > 0 && found.Count == 0) row.Fault("item", "no item has this code");
        if (found.Select(f => f.Item.Id).Distinct().Count() > 1) row.Fault("item", "several items have this code");
        var item = found.Count > 0 ? found[0].Item : null;
        var quantity = row.Number("quantity", Quantities.Finest, Quantities.Most, whole: false);
        var pack = item is null ? null : row.Pack(item);
        var due = row.Date("due", null);
        var price = row.Optional("price") ? row.Number("price", 0, Quantities.Most, whole: false) : (decimal?)null;
        var waiting = row.Optional("waiting_quantity") ? row.Number("waiting_quantity", 0, Quantities.Most, whole: false) : 0;
        if (item is not null && pack is not null && row.Faults.Count == before && Quantities.Check(pack.Content(quantity), item) is { } why)
            row.Fault("quantity", why.Sentence);
        if (row.Faults.Count > before) return null;
        return new OrderRow(
            row.FileLine, order, kind, vendor!, orderDate, line, item!, pack!.Content(quantity), due, site!, price, waiting,
            row.Optional("waiting_for") ? row.Text("waiting_for", 120) : null);
    }

    static void AddFaultsBetweenRows(List<OrderRow> rows, List<FileFault> faults)
    {
        foreach (var order in rows.GroupBy(r => r.Order))
        {
            var first = order.First();
            faults.AddRange(order.Where(r => r.Vendor.Id != first.Vendor.Id)
                .Select(r => new FileFault(r.FileLine, "vendor", r.Vendor.Code, $"{order.Key} has vendor {first.Vendor.Code} in line {first.FileLine}.")));
            foreach (var line in order.GroupBy(r => r.Line))
            {
                faults.AddRange(line.Where(r => r.Item.Id != line.First().Item.Id)
                    .Select(r => new FileFault(r.FileLine, "item", r.Item.Code, $"{order.Key} line {line.Key} has item {line.First().Item.Code} in line {line.First().FileLine}.")));
                faults.AddRange(line.GroupBy(r => (r.Due, r.Site.Id)).Where(g => g.Count() > 1).SelectMany(g => g.Skip(1))
                    .Select(r => new FileFault(r.FileLine, "line", r.Line.ToString(), $"{order.Key} line {line.Key} due {r.Due:yyyy-MM-dd} stands twice.")));
            }
        }
    }

    /// <summary>One line of the file with its faults.</summary>
    sealed class Row(CsvReader csv, List<string> columns, List<FileFault> faults)
    {
        public List<FileFault> Faults { get; } = faults;
        public int FileLine { get; } = csv.Parser.RawRow;

        public void Fault(string field, string reason) => Faults.Add(new FileFault(FileLine, field, Raw(field), reason));

        public bool Optional(string field) => Raw(field).Length > 0;

        public string Text(string field, int most)
        {
            var text = Raw(field);
            if (text.Length == 0) Fault(field, "is empty");
            if (text.Length > most) Fault(field, $"has more than {most} characters");
            return text;
        }

        public decimal Number(string field, decimal least, decimal most, bool whole)
        {
            var text = Text(field, 40);
            if (text.Length == 0) return 0;
            var number = Quantities.Read(text);
            if (number.Refused(out var why)) Fault(field, why.Sentence);
            else if (number.Value < least || number.Value > most) Fault(field, $"must be between {Quantities.Show(least)} and {Quantities.Show(most)}");
            else if (whole && decimal.Truncate(number.Value) != number.Value) Fault(field, "must be a whole number");
            else return number.Value;
            return 0;
        }

        public DateOnly Date(string field, DateOnly? blank)
        {
            if (blank is { } date && !Optional(field)) return date;
            var text = Text(field, 20);
            if (DateOnly.TryParseExact(text, "yyyy-MM-dd", out var read))
            {
                if (read.Year is >= 2000 and <= 2100) return read;
                Fault(field, "lies outside the years 2000 to 2100");
            }
            else if (text.Length > 0)
            {
                Fault(field, "is no date; write it as 2026-03-10");
            }

            return default;
        }

        public OrderKind Kind()
        {
            switch (Raw("kind").ToLowerInvariant())
            {
                case "" or "purchase": return OrderKind.Purchase;
                case "transfer": return OrderKind.Transfer;
                case "return" or "customer return": return OrderKind.CustomerReturn;
                default:
                    Fault("kind", "is none of purchase, transfer, return");
                    return OrderKind.Purchase;
            }
        }

        public T? Find<T>(string field, IReadOnlyDictionary<string, T> known, string reason) where T : class
        {
            var code = Text(field, 40);
            if (code.Length == 0) return null;
            if (known.TryGetValue(code, out var found)) return found;
            Fault(field, reason);
            return null;
        }

        public PackLevel? Pack(Item item)
        {
            if (!Optional("unit")) return item.BasePack;
            var word = Raw("unit");
            if (item.PackLevels.Find(p => p.Name.Equals(word, StringComparison.OrdinalIgnoreCase)) is { } pack) return pack;
            if (Units.Code(word) == item.BaseUnit) return item.BasePack;
            Fault("unit", $"{item.Code} has no such unit; it has {string.Join(", ", item.PackLevels.Select(p => p.Name))}");
            return null;
        }

        string Raw(string field)
        {
            var at = columns.IndexOf(field);
            return at < 0 ? "" : csv.GetField(at) ?? "";
        }
    }
}
