using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Exchange;

/// <summary>Turns the codes of a message into what they mean here, and keeps what is wrong with them.</summary>
public sealed class Resolver(Known known)
{
    /// <summary>Most faults that are said at once.</summary>
    public const int MostFaults = 100;
    const int MostSerial = 40;

    readonly Dictionary<string, int> passedOver = [];

    /// <summary>Faults so far.</summary>
    public List<FileFault> Faults { get; } = [];

    /// <summary>True where the message has a comma before decimals.</summary>
    public bool DecimalComma { get; init; }

    public void Fault(int spot, string field, string value, string reason) => Faults.Add(new FileFault(spot, field, value, reason));

    /// <summary>Something that is not needed here, and is not read.</summary>
    public void PassOver(string what) => passedOver[what] = passedOver.GetValueOrDefault(what) + 1;

    /// <summary>The vendor by the first of its identifications that is known: our code of it, or a GLN.</summary>
    public Vendor? Vendor(int spot, string field, params IReadOnlyList<string?> codes) =>
        Party(spot, field, codes, known.Vendors, "vendor");

    /// <summary>The site by the first of its identifications that is known: our code of it, or a GLN.</summary>
    public WarehouseSite? Site(int spot, string field, params IReadOnlyList<string?> codes) =>
        Party(spot, field, codes, known.Sites, "delivery site");

    T? Party<T>(int spot, string field, IReadOnlyList<string?> codes, IReadOnlyDictionary<string, T> parties, string what)
        where T : class
    {
        var given = Given(codes);
        var found = given.Select(parties.GetValueOrDefault).OfType<T>().Distinct().ToList();
        if (found.Count == 1)
            return found[0];
        if (given.Count == 0)
            Fault(spot, field, "", $"no {what} is named");
        else if (found.Count > 1)
            Fault(spot, field, string.Join(", ", given), $"these codes name more than one {what}");
        else
            Fault(spot, field, string.Join(", ", given), $"no {what} here has this code or GLN");
        return null;
    }

    /// <summary>The item by the first of the codes that is known: GTIN, our code, the vendor's. A GTIN must have its check digit.</summary>
    public Found? Item(int spot, string field, params IReadOnlyList<string?> codes)
    {
        var given = Given(codes);
        if (given.Count == 0)
        {
            Fault(spot, field, "", "no item is named");
            return null;
        }

        foreach (var code in given)
        {
            var plain = code.Length is 8 or 12 or 13 && CheckDigit.IsDigits(code) ? code.PadLeft(14, '0') : code;
            var found = known.Catalogue.ByCode(plain);
            if (found.Select(f => f.Item.Id).Distinct().Count() == 1)
                return found[0];
        }

        var gtin = given.Find(c => c.Length is 8 or 12 or 13 or 14 && CheckDigit.IsDigits(c));
        Fault(
            spot,
            field,
            given[0],
            gtin is not null && !CheckDigit.Holds(gtin) ? $"wrong check digit in {gtin}" : "no item of ours has this code"
        );
        return null;
    }

    /// <summary>An item that is not known is not a fault of an advice: it is listed for a decision, under the codes the file
    /// gives.</summary>
    public (Found? Item, string Text) ItemOrText(int spot, string field, params IReadOnlyList<string?> codes)
    {
        var before = Faults.Count;
        var found = Item(spot, field, codes);
        var text = found is null ? string.Join(" ", Given(codes)) : found.Item.Code;
        if (found is null && text.Length > 0)
            Faults.RemoveRange(before, Faults.Count - before);
        return (found, text);
    }

    static List<string> Given(IReadOnlyList<string?> codes) =>
        [.. codes.Where(c => !string.IsNullOrWhiteSpace(c)).Select(c => c!.Trim()).Distinct()];

    /// <summary>A quantity in base units from a number and a unit: see <see cref="TradeUnits"/>.</summary>
    public decimal? Quantity(int spot, string field, string? text, string? unit, Found? item)
    {
        if (Number(spot, field, text) is not { } number || item is null)
            return null;
        if (TradeUnits.PackOf(unit, item.Item, item.Pack) is not { } pack)
        {
            Fault(spot, field, unit ?? "", $"{item.Item.Code} does not come in this unit; it comes in {TradeUnits.In(item.Item)}");
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
    /// A quantity that is said to be aboard: in base units where item and unit are known; else as it stands, since an item or a unit that
    /// does not
    /// fit is no fault of the file but a difference that somebody decides over.
    /// </summary>
    /// <returns>The quantity, and the unit when the item does not come in it.</returns>
    public (decimal? Quantity, string? WrongUnit) Advised(int spot, string field, string? text, string? unit, Found? item) =>
        item is null ? (Number(spot, field, text), null)
        : TradeUnits.PackOf(unit, item.Item, item.Pack) is null ? (Number(spot, field, text), unit!.Trim())
        : (Quantity(spot, field, text, unit, item), null);

    decimal? Number(int spot, string field, string? text)
    {
        var read = Quantities.Read(text ?? "", DecimalComma);
        if (read.Refused(out var why))
            Fault(spot, field, text ?? "", why.Sentence);
        else if (read.Value is <= 0 or > Quantities.Most)
            Fault(spot, field, text ?? "", $"must be above 0 and at most {Quantities.Show(Quantities.Most)}");
        else
            return read.Value;
        return null;
    }

    /// <summary>
    /// The price of one base unit; null where there is none. A price is told for so many (the basis, 1 when blank) of a unit (that of the
    /// quantity when blank); what does not come out even is rounded to the sixth decimal, half to even.
    /// </summary>
    /// <param name="basis">How many units the amount is for.</param>
    /// <param name="unit">The unit of the basis.</param>
    /// <param name="quantityUnit">The unit of the line's quantity.</param>
    public decimal? Price(int spot, string field, string? text, string? basis, string? unit, string? quantityUnit, Found? item)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var read = Quantities.Read(text, DecimalComma);
        if (read.Refused(out var why))
            Fault(spot, field, text, why.Sentence);
        else if (read.Value is < 0 or > Quantities.Most)
            Fault(spot, field, text, $"must be between 0 and {Quantities.Show(Quantities.Most)}");
        else
        {
            var many = string.IsNullOrWhiteSpace(basis) ? 1 : Number(spot, field, basis);
            var own = string.IsNullOrWhiteSpace(unit) ? quantityUnit : unit;
            if (many is null || item is null)
                return null;
            if (TradeUnits.PackOf(own, item.Item, item.Pack) is { } pack)
                return decimal.Round(read.Value / pack.Content(many.Value), 6, MidpointRounding.ToEven);
            // A unit that the quantity has too is a fault there already.
            if (string.IsNullOrWhiteSpace(unit))
                return null;
            Fault(
                spot,
                field,
                own ?? "",
                $"{item.Item.Code} does not come in the unit of this price; it comes in {TradeUnits.In(item.Item)}"
            );
        }

        return null;
    }

    /// <summary>A date of XML Schema, in the years of trade; null and a fault where it is none, null alone where nothing stands
    /// there.</summary>
    public DateOnly? XmlDate(int spot, string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        return OfTrade(spot, field, text, TradeTime.XmlDate(text)?.Date);
    }

    /// <summary>A date of UN/EDIFACT in one of its formats, in the years of trade.</summary>
    public DateOnly? EdifactDate(int spot, string field, string text, string format) =>
        OfTrade(spot, field, text, TradeTime.Edifact(text, format) is { } at ? DateOnly.FromDateTime(at.Clock) : null);

    DateOnly? OfTrade(int spot, string field, string text, DateOnly? date)
    {
        if (date is { } read && TradeDates.IsOfTrade(read.Year))
            return read;
        Fault(spot, field, text, date is null ? "is no date" : $"lies outside the years {TradeDates.FirstYear} to {TradeDates.LastYear}");
        return null;
    }

    /// <summary>An SSCC with its check digit; null and a fault where it is wrong.</summary>
    public string? Sscc(int spot, string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var plain = text.Trim();
        if (plain.Length == 20 && plain.StartsWith("00", StringComparison.Ordinal))
            plain = plain[2..];
        if (plain.Length == 18 && CheckDigit.Holds(plain))
            return plain;
        Fault(
            spot,
            field,
            text,
            plain.Length == 18 && CheckDigit.IsDigits(plain)
                ? $"wrong check digit: should end in {CheckDigit.For(plain.AsSpan(0, 17))}"
                : "an SSCC has 18 digits"
        );
        return null;
    }

    /// <summary>One serial number, or the first and the last of a range; none and a fault where they cannot be read.</summary>
    public IReadOnlyList<string> Serials(int spot, string field, IReadOnlyList<string> range)
    {
        var ends = range.Where(e => e.Trim().Length > 0).ToList();
        if (ends.Count == 0)
            return [];
        var whole = string.Join(" to ", ends);
        if (ends.Find(e => e.Trim().Length > MostSerial) is not null)
            Fault(spot, field, whole, $"a serial number has up to {MostSerial} characters");
        else if (ends.Count > 2)
            Fault(spot, field, whole, "a range has a first and a last");
        else if (ends.Count == 1)
            return [ends[0].Trim()];
        else
        {
            var all = Core.Door.Serials.Range(ends[0].Trim(), ends[1].Trim());
            if (!all.Refused(out var why))
                return all.Value;
            Fault(spot, field, whole, why.Sentence);
        }

        return [];
    }

    /// <summary>A message's own number, 1 to 40 characters.</summary>
    public string NumberOf(int spot, string field, string number, string what)
    {
        if (number.Length is 0 or > 40)
            Fault(spot, field, number, $"{what} has a number of 1 to 40 characters");
        return number;
    }

    /// <summary>A line's number; 0 and a fault where it is none.</summary>
    public int LineNumber(int spot, string field, string text)
    {
        if (
            int.TryParse(text, System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var number)
            && number is >= 1 and <= 99_999
        )
            return number;
        Fault(spot, field, text, "a line has a number from 1 to 99999");
        return 0;
    }

    /// <summary>What was read, or the faults.</summary>
    public TradeFile Finish(string kind, IReadOnlyList<OrderMessage> orders, IReadOnlyList<AdviceMessage> advices)
    {
        foreach (var order in orders)
        foreach (var twice in order.Lines.GroupBy(l => (l.Number, l.Due, l.Site?.Id)).Where(g => g.Count() > 1))
            Fault(twice.Last().Spot, "line", twice.Key.Number.ToString(), $"line {twice.Key.Number} of {order.Number} stands twice");
        return new TradeFile(kind, Faults.Count > 0 ? [] : orders, Faults.Count > 0 ? [] : advices, [.. Faults.Take(MostFaults)])
        {
            Notes =
            [
                .. passedOver
                    .OrderBy(p => p.Key, StringComparer.Ordinal)
                    .Select(p => $"{p.Key} is not needed and was passed over{(p.Value > 1 ? $", {p.Value} times" : "")}."),
            ],
        };
    }
}
