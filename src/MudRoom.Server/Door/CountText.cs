using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>A count as a device sends it; numbers and dates as they were typed or scanned.</summary>
/// <param name="Vendor">Code of the vendor, for goods that are on no order.</param>
/// <param name="Serials">Serial numbers of several pieces: a list, or a range as "0101 to 0150".</param>
/// <param name="Attributes">What else is known of the source batch, by the names the item asks.</param>
/// <param name="BlankAllowed">True when what is recommended was asked for once and is left blank.</param>
/// <param name="Reason">Why it is counted aside, by the administrator's list.</param>
/// <param name="Place">The receiving place chosen, where the site lets it be chosen.</param>
/// <param name="Scanned">The barcode that named the item, as the scanner sent it.</param>
/// <param name="Weight">Kilograms, for goods with catch weight.</param>
/// <param name="More">Further pack levels of the same goods in the same entry: loose cases beside full pallets.</param>
/// <param name="Units">SSCCs that the device has given from its block, one for each unit.</param>
/// <param name="Onto">SSCC of a unit of ours that the goods stand on: a mixed pallet.</param>
/// <param name="Pictures">Pictures that belong to it, attached to the arrival before.</param>
/// <param name="Sscc">The vendor's own unit label that the goods stand on, where it was scanned with them.</param>
/// <param name="FromPaper">True when it is typed in from a paper tally.</param>
/// <param name="BatchProposed">True when the batch number is the one that the scan proposed, and nobody typed it.</param>
public sealed record CountRequest(
    string Arrival,
    string Item,
    string Pack,
    string Packs,
    string? Batch,
    string? SourceBatch,
    string? Production,
    string? BestBefore,
    string? Expiry,
    string? Origin,
    string? Serial,
    Aside? Aside,
    string? Note,
    int? Part,
    bool OverAllowed,
    bool EarlyAllowed,
    string? Vendor = null,
    string? Serials = null,
    IReadOnlyDictionary<string, string>? Attributes = null,
    bool BlankAllowed = false,
    string? Reason = null,
    string? Place = null,
    string? Scanned = null,
    string? Weight = null,
    IReadOnlyList<PackCount>? More = null,
    IReadOnlyList<string>? Units = null,
    string? Onto = null,
    IReadOnlyList<int>? Pictures = null,
    bool FromPaper = false,
    string? Sscc = null,
    bool BatchProposed = false
);

/// <summary>So many of one pack level.</summary>
public sealed record PackCount(string Pack, string Packs);

/// <summary>Reads what a device sends of a count, once, at the edge: behind it there are only numbers, dates and things of the
/// house.</summary>
public static class CountText
{
    const int MostLevels = 8;

    /// <summary>The counts of a request, to be taken all or not at all: one for each pack level or serial number.</summary>
    public static Outcome<IReadOnlyList<CountCommand>> All(Act act, CountRequest request) =>
        request.Serials.OrNull() is { } serials ? Pieces(act, request, serials)
        : request.More is { Count: > 0 } more ? Levels(act, request, more)
        : Each([request], one => One(act, one));

    /// <summary>One count of one pack level.</summary>
    public static Outcome<CountCommand> One(Act act, CountRequest request)
    {
        var goods = Goods(act.SetUp.Catalogue, request, act.Site.DecimalComma);
        if (goods.Refused(out var unreadable))
            return unreadable;
        Vendor? vendor = null;
        if (request.Vendor.OrNull() is { } code)
        {
            vendor = act.SetUp.Vendors.Values.FirstOrDefault(v => v.Code.Equals(code, StringComparison.OrdinalIgnoreCase));
            if (vendor is null)
                return Problems.NotFound("vendor", code);
        }

        if (request.Sscc.OrNull() is { } label && Sscc.Read(label).Refused(out var wrong))
            return wrong;
        var scanned = act.Scan(request.Scanned).ItemCode ?? "";
        return new CountCommand(request.Arrival, goods.Value)
        {
            Reason = request.Reason.OrNull(),
            Vendor = vendor?.Id,
            Place = request.Place.OrNull(),
            WasScanned = act.SetUp.Catalogue.ByCode(scanned).Any(f => f.Item.Id == goods.Value.Item.Id && f.IsBarcode),
            Units = request.Units ?? [],
            Onto = request.Onto.OrNull(),
            Sscc = request.Sscc.OrNull(),
            Pictures = request.Pictures is { } pictures ? [.. pictures.Distinct()] : [],
            FromPaper = request.FromPaper,
        };
    }

    /// <summary>Full pallets, loose cases and pieces of the same goods in one entry.</summary>
    static Outcome<IReadOnlyList<CountCommand>> Levels(Act act, CountRequest request, IReadOnlyList<PackCount> more)
    {
        if (more.Count > MostLevels)
            return new Refusal(
                DoorRefusals.TooManyLevels,
                $"An entry has at most {MostLevels} pack levels.",
                "Count the rest in a second entry."
            );
        if (more.Any(l => l is null))
            return new Refusal(DoorRefusals.PackUnknown, "A pack level of the entry is empty.", "Leave it out.");
        if (request.Weight.OrNull() is not null)
            return new Refusal(
                DoorRefusals.WeightLevels,
                "Weighed goods are counted one pack level at a time.",
                "Count each level with its weight."
            );
        PackCount[] levels = [new PackCount(request.Pack, request.Packs), .. more];
        var filled = levels.Where(l => l.Packs.OrNull() is { } text && text != "0").ToList();
        if (filled.Count == 0)
            return new Refusal(HouseRefusals.QuantityNotPositive, "No pack level has a count.", "Type what is there.");
        return filled.Select(l => l.Pack).Distinct().Count() == filled.Count
            ? Each(filled, level => One(act, request with { Pack = level.Pack, Packs = level.Packs }))
            : new Refusal(DoorRefusals.LevelTwice, "A pack level stands there twice.", "Add the two up.");
    }

    /// <summary>Pieces with a serial each.</summary>
    static Outcome<IReadOnlyList<CountCommand>> Pieces(Act act, CountRequest request, string text)
    {
        var read = Serials.Read(text);
        if (read.Refused(out var wrong))
            return wrong;
        return act.SetUp.Catalogue.ByCode(request.Item).Select(f => f.Item).FirstOrDefault() is { NeedsSerial: false } plain
            ? new Refusal(DoorRefusals.SerialsUnasked, $"{plain.Name} is not kept by serial number.", "Count the pieces.")
            : Each(read.Value, serial => One(act, request with { Serial = serial, Packs = "1" }));
    }

    static Outcome<IReadOnlyList<CountCommand>> Each<T>(IReadOnlyList<T> parts, Func<T, Outcome<CountCommand>> read)
    {
        var commands = new List<CountCommand>(parts.Count);
        foreach (var part in parts)
        {
            var command = read(part);
            if (command.Refused(out var refusal))
                return refusal;
            commands.Add(command.Value);
        }

        return commands;
    }

    /// <summary>Turns what was typed into a count, or says what cannot be read.</summary>
    /// <param name="decimalComma">Whether the site types a comma before decimals.</param>
    public static Outcome<Count> Goods(Catalogue catalogue, CountRequest request, bool decimalComma)
    {
        var item = catalogue.ByCode(request.Item).Select(f => f.Item).FirstOrDefault(i => i.Code == request.Item);
        if (item is null)
            return new Refusal(HouseRefusals.ItemUnknown, $"No item has the code {request.Item}.", "Scan its label, or find it in Site.");
        var pack = item.PackOrMeasure(request.Pack ?? "");
        if (pack is null)
            return new Refusal(
                DoorRefusals.PackUnknown,
                $"{item.Name} has no pack called {request.Pack}.",
                $"It has {string.Join(", ", item.PackLevels.Select(p => p.Name))}."
            );
        if (ScannedCode.IsCode(request.Packs ?? ""))
            return new Refusal(
                DoorRefusals.QuantityIsCode,
                $"{request.Packs} is a code, and no quantity.",
                "Type how many there are. Scan the code on its own."
            );
        var packs = Quantities.Read(request.Packs, decimalComma);
        if (packs.Refused(out var badNumber))
            return badNumber;
        if (Math.Abs(packs.Value) > Quantities.Most)
            return new Refusal(HouseRefusals.QuantityTooLarge, $"{request.Packs} cannot be right.", "Look at the number again.");
        var production = GoodsDate.Typed("Production", request.Production);
        if (production.Refused(out var badProduction))
            return badProduction;
        var bestBefore = GoodsDate.Typed("Best before", request.BestBefore);
        if (bestBefore.Refused(out var badBestBefore))
            return badBestBefore;
        var expiry = GoodsDate.Typed("Expiry", request.Expiry);
        if (expiry.Refused(out var badExpiry))
            return badExpiry;
        if ((request.Note ?? "").Length > 500)
            return new Refusal(HouseRefusals.NoteLong, "The note has more than 500 characters.", "Shorten it.");
        if ((request.SourceBatch ?? "").Length > 40 || (request.Serial ?? "").Length > 40)
            return new Refusal(HouseRefusals.CodeLong, "A batch or serial number has more than 40 characters.", "Look at the label again.");
        var weight = request.Weight.OrNull() is { } kilograms ? Quantities.Read(kilograms, decimalComma) : (Outcome<decimal>)0;
        if (weight.Refused(out var badWeight))
            return badWeight;
        if (weight.Value is < 0 or > Quantities.Most)
            return new Refusal(HouseRefusals.QuantityTooLarge, $"{request.Weight} kg cannot be right.", "Weigh again.");
        var attributes = AttributeRules.Read(item.Attributes, request.Attributes);
        if (attributes.Refused(out var badAttribute))
            return badAttribute;
        return new Count(
            item,
            pack,
            packs.Value,
            request.Batch,
            request.SourceBatch.OrNull(),
            production.Value,
            bestBefore.Value?.LastDay,
            expiry.Value?.LastDay,
            request.Origin.OrNull(),
            request.Serial.OrNull(),
            request.Aside,
            request.Note.OrNull(),
            request.Part,
            request.OverAllowed,
            request.EarlyAllowed
        )
        {
            Attributes = attributes.Value,
            BlankAllowed = request.BlankAllowed,
            BatchProposed = request.BatchProposed,
            Weight = request.Weight.OrNull() is null ? null : weight.Value,
        };
    }
}
