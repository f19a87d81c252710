using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange;

/// <summary>What an order message does.</summary>
public enum OrderAction
{
    New,
    Change,
    Cancel,
}

/// <summary>What a line of an order change does.</summary>
public enum LineAction
{
    Add,
    Change,
    Cancel,
}

/// <summary>One line of an order message, resolved.</summary>
/// <param name="Spot">Line or segment of the file.</param>
/// <param name="Quantity">In base units; null where a change leaves it.</param>
public sealed record TradeLine(int Spot, LineAction Action, int Number, Item? Item, decimal? Quantity, DateOnly? Due, WarehouseSite? Site, decimal? Price, string? Note);

/// <summary>An order, an order change or a cancellation.</summary>
public sealed record OrderMessage(int Spot, OrderAction Action, string Number, OrderKind Kind, Vendor? Vendor, DateOnly OrderDate, IReadOnlyList<TradeLine> Lines, IReadOnlyList<Approval> Approvals);

/// <summary>A despatch advice.</summary>
/// <param name="Arrives">When the vendor thinks it arrives, wall clock; null when not said.</param>
public sealed record AdviceMessage(
    int Spot, string Number, Vendor Vendor, WarehouseSite? Site, DateTime? Arrives, string? Container, string? SizeType, string? Seal, string? Haulier, string? Vessel, string? Voyage, string? PortFrom,
    string? PortTo, IReadOnlyList<AdvisedLine> Lines);

/// <summary>What a file holds, or its faults (the first hundred). Never both.</summary>
/// <param name="Kind">CSV orders, UBL Order, EDIFACT ORDERS …</param>
public sealed record TradeFile(string Kind, IReadOnlyList<OrderMessage> Orders, IReadOnlyList<AdviceMessage> Advices, IReadOnlyList<FileFault> Faults);

/// <summary>Turns the codes of a message into what they mean here, and keeps what is wrong with them.</summary>
public sealed class Resolver(Csv.Known known, DateOnly today)
{
    const int MostSerial = 40;

    /// <summary>Faults so far.</summary>
    public List<FileFault> Faults { get; } = [];

    public DateOnly Today { get; } = today;

    public void Fault(int spot, string field, string value, string reason) => Faults.Add(new FileFault(spot, field, value, reason));

    public Vendor? Vendor(int spot, string field, string? code)
    {
        if (string.IsNullOrWhiteSpace(code)) Fault(spot, field, "", "no vendor is named");
        else if (known.Vendors.TryGetValue(code.Trim(), out var vendor)) return vendor;
        else Fault(spot, field, code, "no vendor has this code");
        return null;
    }

    public WarehouseSite? Site(int spot, string field, string? code)
    {
        if (string.IsNullOrWhiteSpace(code)) Fault(spot, field, "", "no delivery site is named");
        else if (known.Sites.TryGetValue(code.Trim(), out var site)) return site;
        else Fault(spot, field, code, "no site of ours has this code");
        return null;
    }

    /// <summary>The item by the first of the codes that is known: GTIN, our code, the vendor's. A GTIN must have its check digit.</summary>
    public Found? Item(int spot, string field, params string?[] codes)
    {
        var given = codes.Where(c => !string.IsNullOrWhiteSpace(c)).Select(c => c!.Trim()).ToList();
        if (given.Count == 0)
        {
            Fault(spot, field, "", "no item is named");
            return null;
        }

        foreach (var code in given)
        {
            var plain = code.Length is 8 or 12 or 13 && code.All(char.IsAsciiDigit) ? code.PadLeft(14, '0') : code;
            var found = known.Catalogue.ByCode(plain);
            if (found.Select(f => f.Item.Id).Distinct().Count() == 1) return found[0];
        }

        var gtin = given.Find(c => c.Length is 8 or 12 or 13 or 14 && c.All(char.IsAsciiDigit));
        Fault(spot, field, given[0], gtin is not null && !CheckDigit.Holds(gtin) ? $"wrong check digit in {gtin}" : "no item of ours has this code");
        return null;
    }

    /// <summary>A quantity in base units from a number and a unit code of UN/ECE Recommendation 20; no unit, or a unit of packs (CT, CS, PK …), counts the pack the GTIN names.</summary>
    public decimal? Quantity(int spot, string field, string? text, string? unit, Found? item)
    {
        if (Number(spot, field, text) is not { } number || item is null) return null;
        if (PackOf(unit, item) is not { } pack)
        {
            Fault(spot, field, unit ?? "", $"{item.Item.Code} is not counted in this unit; it is kept in {item.Item.UnitWord}");
            return null;
        }

        var quantity = pack.Content(number);
        if (Quantities.Check(quantity, item.Item) is { } bad)
        {
            Fault(spot, field, text ?? "", bad.Sentence);
            return null;
        }

        return quantity;
    }

    /// <summary>
    /// A quantity that is said to be aboard: in base units where item and unit are known; else as it stands, since an item or a unit that does not
    /// fit is no fault of the file but a difference that somebody decides over.
    /// </summary>
    /// <returns>The quantity, and the unit when the item is not counted in it.</returns>
    public (decimal? Quantity, string? WrongUnit) Advised(int spot, string field, string? text, string? unit, Found? item) =>
        item is null ? (Number(spot, field, text), null)
        : PackOf(unit, item) is null ? (Number(spot, field, text), unit!.Trim())
        : (Quantity(spot, field, text, unit, item), null);

    decimal? Number(int spot, string field, string? text)
    {
        var read = Quantities.Read(text ?? "");
        if (read.Refused(out var why)) Fault(spot, field, text ?? "", why.Sentence);
        else if (read.Value is <= 0 or > Quantities.Most) Fault(spot, field, text ?? "", $"must be above 0 and at most {Quantities.Show(Quantities.Most)}");
        else return read.Value;
        return null;
    }

    /// <summary>A price; null where there is none. Money and quantities of every format pass the same reading.</summary>
    public decimal? Price(int spot, string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text)) return null;
        var read = Quantities.Read(text);
        if (read.Refused(out var why)) Fault(spot, field, text, why.Sentence);
        else if (read.Value is < 0 or > Quantities.Most) Fault(spot, field, text, $"must be between 0 and {Quantities.Show(Quantities.Most)}");
        else return read.Value;
        return null;
    }

    static PackLevel? PackOf(string? unit, Found item)
    {
        var plain = (unit ?? "").Trim().ToUpperInvariant();
        if (plain.Length == 0) return item.Pack;
        var code = Units.Code(plain) ?? (plain is "EA" or "PCE" or "C62" or "NAR" ? "H87" : null);
        if (code == item.Item.BaseUnit) return item.Item.BasePack;
        return plain is "CT" or "CS" or "PK" or "BX" or "PF" or "PX" or "XCT" or "XCS" or "XPK" or "XBX" or "XPX" ? item.Pack
            : item.Item.PackLevels.Find(p => p.Name.Equals(plain, StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>A date of trade, in the years 2000 to 2100.</summary>
    public DateOnly? Date(int spot, string field, string? text, params string[] formats)
    {
        if (string.IsNullOrWhiteSpace(text)) return null;
        if (DateOnly.TryParseExact(text.Trim(), formats, out var date))
        {
            if (date.Year is >= 2000 and <= 2100) return date;
            Fault(spot, field, text, "lies outside the years 2000 to 2100");
        }
        else
        {
            Fault(spot, field, text, "is no date");
        }

        return null;
    }

    /// <summary>An SSCC with its check digit; null and a fault where it is wrong.</summary>
    public string? Sscc(int spot, string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text)) return null;
        var plain = text.Trim();
        if (plain.Length == 20 && plain.StartsWith("00", StringComparison.Ordinal)) plain = plain[2..];
        if (plain.Length == 18 && plain.All(char.IsAsciiDigit) && CheckDigit.Holds(plain)) return plain;
        Fault(spot, field, text, plain.Length == 18 && plain.All(char.IsAsciiDigit) ? $"wrong check digit: should end in {CheckDigit.For(plain.AsSpan(0, 17).ToString())}" : "an SSCC has 18 digits");
        return null;
    }

    /// <summary>One serial number, or the first and the last of a range; none and a fault where they cannot be read.</summary>
    public IReadOnlyList<string> Serials(int spot, string field, IReadOnlyList<string> range)
    {
        var ends = range.Where(e => e.Trim().Length > 0).ToList();
        if (ends.Count == 0) return [];
        var whole = string.Join(" to ", ends);
        if (ends.Find(e => e.Trim().Length > MostSerial) is not null) Fault(spot, field, whole, $"a serial number has up to {MostSerial} characters");
        else if (ends.Count > 2) Fault(spot, field, whole, "a range has a first and a last");
        else if (ends.Count == 1) return [ends[0].Trim()];
        else
        {
            var all = Core.Door.Serials.Range(ends[0].Trim(), ends[1].Trim());
            if (!all.Refused(out var why)) return all.Value;
            Fault(spot, field, whole, why.Sentence);
        }

        return [];
    }

    /// <summary>What was read, or the faults.</summary>
    public TradeFile Finish(string kind, IReadOnlyList<OrderMessage> orders, IReadOnlyList<AdviceMessage> advices)
    {
        foreach (var order in orders)
            foreach (var twice in order.Lines.GroupBy(l => (l.Number, l.Due, l.Site?.Id)).Where(g => g.Count() > 1))
                Fault(twice.Last().Spot, "line", twice.Key.Number.ToString(), $"line {twice.Key.Number} of {order.Number} stands twice");
        return Faults.Count > 0 ? new TradeFile(kind, [], [], [.. Faults.Take(Csv.CsvTable.MostFaults)]) : new TradeFile(kind, orders, advices, []);
    }
}

/// <summary>Reads any file of trade that Mud Room knows, by what is in it and not by its name.</summary>
public static class TradeReader
{
    /// <summary>Reads and checks the whole text.</summary>
    public static TradeFile Read(string text, Csv.Known known, DateOnly today)
    {
        var begins = text.AsSpan().TrimStart('\ufeff').TrimStart();
        if (begins.StartsWith("UNA") || begins.StartsWith("UNB")) return Edifact.EdifactReader.Read(text, known, today);
        if (begins.StartsWith("<")) return Ubl.UblReader.Read(text, known, today);
        if (begins.StartsWith("%PDF") || begins.StartsWith("PK\u0003") || text.AsSpan(0, Math.Min(text.Length, 4000)).Contains('\0'))
            return new TradeFile("unknown", [], [], [new FileFault(1, "", "", "This is no CSV, UBL or EDIFACT file.")]);
        var file = Csv.OrderCsv.Read(text, known, today);
        if (file.Faults.Count > 0) return new TradeFile("CSV orders", [], [], file.Faults);
        return new TradeFile("CSV orders", [.. file.Rows.GroupBy(r => r.Order).Select(g => new OrderMessage(
            g.First().FileLine, OrderAction.New, g.Key, g.First().Kind, g.First().Vendor, g.First().OrderDate,
            [.. g.Select(r => new TradeLine(r.FileLine, LineAction.Add, r.Line, r.Item, r.Quantity, r.Due, r.Site, r.Price, r.WaitingFor is null ? null : $"{Quantities.Show(r.WaitingQuantity)}\t{r.WaitingFor}"))], []))], [], []);
    }
}
