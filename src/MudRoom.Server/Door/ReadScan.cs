using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>What kind of thing a scan turned out to be.</summary>
public enum ReadingKind
{
    Item,
    Details,
    Unit,
    Bin,
    Order,
    Arrival,
    Container,
    Batch,
    Serial,
    Unknown,
    Wrong,

    /// <summary>A unit that the vendor announced for the arrival in hand.</summary>
    AdvisedUnit,

    /// <summary>A note of goods that are out for a treatment.</summary>
    Outwork,

    /// <summary>A delivery note that was given for the arrival in hand.</summary>
    DeliveryNote,
}

/// <summary>What a label says of the goods beside their item, as a person would type it.</summary>
/// <param name="Origin">ISO 3166 letters.</param>
public sealed record LabelDetails(
    string? SourceBatch,
    string? Production,
    string? BestBefore,
    string? Expiry,
    string? Origin,
    string? Serial
)
{
    /// <summary>Out of an element string; nothing where there is none.</summary>
    public static LabelDetails Of(ElementString? read) =>
        new(
            read?.Batch,
            read?.Production?.ToString(),
            read?.BestBefore?.ToString(),
            read?.Expiry?.ToString(),
            read?.Origin is { } origin ? Countries.ByNumber(origin)?.Code : null,
            read?.Serial
        );
}

/// <summary>An item with what it asks for.</summary>
/// <param name="Measures">Words of other units of measure it may be counted in.</param>
public sealed record ItemView(
    string Code,
    string Name,
    string Unit,
    IReadOnlyList<PackView> Packs,
    bool NeedsBatch,
    IReadOnlyList<string> Asks,
    int? ShelfLifeDays,
    RulingDate RulingDate,
    StorageClass StorageClass,
    bool Inspected,
    IReadOnlyList<AttributeDefinition> Attributes,
    bool CatchWeight,
    decimal Mass,
    decimal WeightTolerance,
    GoodsMarks Marks,
    IReadOnlyList<string> Measures
);

/// <summary>An order line part that could take the goods.</summary>
public sealed record LineOption(int Part, string Order, int Line, DateOnly Due, decimal Open);

/// <summary>An item that a code may stand for.</summary>
/// <param name="Aboard">True when an order of the arrival in hand names it.</param>
public sealed record PossibleItem(string Code, string Name, bool Aboard);

/// <summary>What was understood of a scan, in words and in fields.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Words">What was understood, in words.</param>
/// <param name="Code">The code itself, as read.</param>
/// <param name="History">Where a scanned serial number has been before.</param>
/// <param name="Proposed">True when the packs are what is still open, to be looked at.</param>
/// <param name="Offers">Of a text that is no code: the field of the count in hand it may be meant for. It is filled by one press, not by
/// itself.</param>
/// <param name="Instead">How the label reads if its batch has swallowed what follows it.</param>
/// <param name="Several">When one code is known under several items: which, those aboard first.</param>
public sealed record Reading(
    ReadingKind Kind,
    string Words,
    string Code,
    ItemView? Item = null,
    string? Pack = null,
    decimal? Packs = null,
    string? SourceBatch = null,
    string? Batch = null,
    string? Production = null,
    string? BestBefore = null,
    string? Expiry = null,
    string? Origin = null,
    string? Serial = null,
    string? Sscc = null,
    string? Bin = null,
    string? Order = null,
    string? Arrival = null,
    LineOption? Line = null,
    string? LineReason = null,
    IReadOnlyList<LineOption>? Lines = null,
    string? WaitingFor = null,
    decimal Waiting = 0,
    IReadOnlyList<PossibleItem>? Several = null,
    Refusal? Problem = null,
    IReadOnlyList<string>? History = null,
    bool Proposed = false,
    string? Offers = null,
    Reading? Instead = null
);

/// <summary>The count in hand, as far as a scan is read by it.</summary>
/// <param name="Wanted">Fields it still wants, in order, comma between: a plain text that means nothing else may be for one of
/// them.</param>
/// <param name="Item">Code of its item.</param>
/// <param name="Serial">The serial number that stands there: the next one looks like it.</param>
public sealed record CountInHand(string? Wanted, string? Item, string? Serial);

/// <summary>Understands a scan: what its form says, and what the site knows of it.</summary>
public static class ReadScan
{
    const int MostHistory = 3;

    public static void Map(SiteRoutes routes) =>
        routes.Ask(
            "/scan",
            Right.See,
            async (Inquiry inquiry, string text, string? arrival, string? item, string? wanted, string? of, string? serial) =>
            {
                var reading = await Read(inquiry, text, arrival, item, new CountInHand(wanted, of, serial));
                return TypedResults.Ok(inquiry.IsBlind ? BlindTally.Of(reading) : reading);
            },
            BlindView.Open
        );

    static async Task<Reading> Read(Inquiry inquiry, string text, string? arrival, string? item, CountInHand inHand)
    {
        if (text.Length > 2000)
            return Wrong(
                "…",
                new Refusal(IdentificationRefusals.TooLong, "That is no code: it has more than 2000 characters.", "Scan again.")
            );
        var code = inquiry.Scan(text);
        var plain = code is ScannedCode.TradeItem or ScannedCode.Plain or ScannedCode.Wrong
            ? code.Key
            : inquiry.Site.Scanner.Code(text).Trim();
        // What the site knows by exactly this text wins over what the form suggests: a vendor's code may look like a wrong GTIN.
        var known = await Known(inquiry, plain, arrival, item);
        if (known is not null)
            return known;
        if (code is ScannedCode.Plain && await WantedDetail.Of(inquiry, plain, inHand) is { } detail)
            return detail;
        return code switch
        {
            ScannedCode.Elements elements => Noted(await FromElements(inquiry, elements.Read, arrival, item), elements.Note),
            ScannedCode.Unit unit => await FromUnit(inquiry, unit.Sscc, arrival),
            ScannedCode.Container container => await FromContainer(inquiry, container.Number.ToString()),
            ScannedCode.TradeItem gtin => new Reading(
                ReadingKind.Unknown,
                $"GTIN {gtin.Gtin} belongs to no item.",
                gtin.Gtin,
                Problem: UnknownGtin(gtin.Gtin)
            ),
            ScannedCode.Wrong wrong => Wrong(wrong.Text, wrong.Why),
            _ => new Reading(
                ReadingKind.Unknown,
                $"{plain} is no item, bin, order or unit here.",
                plain,
                Problem: new Refusal(
                    DoorRefusals.CodeUnknown,
                    $"{plain} is no item, bin, order or unit here.",
                    "Scan it again, or look for it in Book."
                )
            ),
        };
    }

    static Reading Noted(Reading reading, string? note) => note is null ? reading : reading with { Words = $"{reading.Words} {note}" };

    static async Task<Reading?> Known(Inquiry inquiry, string code, string? arrival, string? chosenItem)
    {
        var found = inquiry.SetUp.Catalogue.ByCode(code);
        if (found.Count > 1 && chosenItem is not null)
            found = [.. found.Where(f => f.Item.Code == chosenItem)];
        if (found.Count > 1)
            return await WhichOf(inquiry, found, code, code, arrival);
        if (found.Count == 1)
            return await FromItem(inquiry, found[0], code, null, arrival);
        if (inquiry.SetUp.BinsByAddress.TryGetValue((inquiry.Site.Id, code.ToUpperInvariant()), out var bin))
            return new Reading(
                ReadingKind.Bin,
                $"Bin {bin.Address}, {bin.Function.ToString().ToLowerInvariant()}.",
                bin.Address,
                Bin: bin.Address
            );
        if (inquiry.SetUp.HasAddress(code))
            return Wrong(code, new Refusal(HouseRefusals.OtherSite, $"{code} is a place of another site.", "Scan a bin of this site."));
        // Numbers of orders and arrivals are typed in any case.
        string[] cases = [code, code.ToUpperInvariant(), code.ToLowerInvariant()];
        var order = await inquiry.Db.Orders.FirstOrDefaultAsync(o =>
            cases.Contains(o.Number) && o.Lines.Any(l => l.Parts.Any(p => p.SiteId == inquiry.Site.Id))
        );
        if (order is not null)
            return new Reading(
                ReadingKind.Order,
                $"Order {order.Number} of {inquiry.SetUp.Vendors[order.VendorId].Name}.",
                order.Number,
                Order: order.Number,
                Arrival: await ArrivalOf(inquiry, order.Id)
            );
        if (await inquiry.Db.Arrivals.Numbered(inquiry.Site, code.ToUpperInvariant()) is { } row)
            return new Reading(ReadingKind.Arrival, $"Arrival {row.Number}.", row.Number, Arrival: row.Number);
        if (
            arrival is not null
            && await inquiry.Db.Arrivals.Numbered(inquiry.Site, arrival) is { } here
            && here.DeliveryNotes.Find(n => n.Number == code) is { } paper
        )
            return new Reading(
                ReadingKind.DeliveryNote,
                $"Delivery note {code} of {inquiry.SetUp.Vendors[paper.VendorId].Name}: it is noted for {here.Number}.",
                code
            );
        if (
            await inquiry
                .Db.Arrivals.Open()
                .Where(a =>
                    a.SiteId == inquiry.Site.Id
                    && inquiry.Db.DespatchAdvices.Any(d => d.ArrivalId == a.Id && d.Number == code && d.EndedAt == null)
                )
                .OrderBy(a => a.Id)
                .FirstOrDefaultAsync() is
            { } advised
        )
            return new Reading(ReadingKind.Arrival, $"Arrival {advised.Number}, announced by {code}.", code, Arrival: advised.Number);
        if (await inquiry.Db.OutworkNotes.FirstOrDefaultAsync(n => n.SiteId == inquiry.Site.Id && n.Number == code) is { } note)
            return new Reading(
                ReadingKind.Outwork,
                $"Outwork note {note.Number}: {Quantities.Show(note.Out)} {inquiry.SetUp.Catalogue[note.ItemId].UnitWord} of "
                    + $"{inquiry.SetUp.Catalogue[note.ItemId].Name} still at {inquiry.SetUp.Vendors[note.VendorId].Name}.",
                code
            );
        if (await inquiry.Db.Batches.FirstOrDefaultAsync(b => b.Number == code) is { } batch)
            return new Reading(
                ReadingKind.Batch,
                $"Batch {batch.Number} of {inquiry.SetUp.Catalogue[batch.ItemId].Name}.",
                code,
                Batch: batch.Number
            );
        if (await inquiry.Db.Balances.FirstOrDefaultAsync(b => b.SiteId == inquiry.Site.Id && b.Serial == code) is { } piece)
            return new Reading(
                ReadingKind.Serial,
                $"Serial {code} of {inquiry.SetUp.Catalogue[piece.ItemId].Name}, in {inquiry.SetUp.Address(piece.BinId)}.",
                code,
                Serial: code
            );
        return null;
    }

    static async Task<Reading> WhichOf(Inquiry inquiry, IReadOnlyList<Found> found, string code, string text, string? arrival)
    {
        var ids = found.Select(f => f.Item.Id).ToList();
        var aboard = arrival is null
            ? []
            : await inquiry
                .Db.ManifestLines.Where(m =>
                    ids.Contains(m.Part!.ItemId)
                    && inquiry.Db.Arrivals.Any(a => a.Id == m.ArrivalId && a.SiteId == inquiry.Site.Id && a.Number == arrival)
                )
                .Select(m => m.Part!.ItemId)
                .Distinct()
                .ToListAsync();
        return new Reading(
            ReadingKind.Item,
            $"{code} stands for {found.Count} items. Which is it?",
            text,
            Several:
            [
                .. found
                    .Select(f => new PossibleItem(f.Item.Code, f.Item.Name, aboard.Contains(f.Item.Id)))
                    .OrderByDescending(c => c.Aboard)
                    .ThenBy(c => c.Code, StringComparer.Ordinal),
            ]
        );
    }

    static async Task<string?> ArrivalOf(Inquiry inquiry, int orderId) =>
        await inquiry
            .Db.ManifestLines.Where(m => m.Part!.Line!.OrderId == orderId)
            .Join(inquiry.Db.Arrivals.Open().Where(a => a.SiteId == inquiry.Site.Id), m => m.ArrivalId, a => a.Id, (m, a) => a.Number)
            .FirstOrDefaultAsync();

    static async Task<Reading> FromItem(Inquiry inquiry, Found found, string code, ElementString? read, string? arrival)
    {
        var item = found.Item;
        var packs = read is null ? 1 : LabelAmount.Packs(read, item, found.Pack);
        var words =
            $"{item.Name}, {(packs == 1 ? found.Pack.Name : $"{Quantities.Show(packs)} {Quantities.Plural(found.Pack.Name, packs)}")}"
            + (found.Pack.Content(1) == 1 ? "" : $" of {Quantities.Show(found.Pack.Content(1))} {item.UnitWord}")
            + $", by {found.By}";
        var reading = With(
            new Reading(
                ReadingKind.Item,
                words + Details(read) + ".",
                code,
                View(item, inquiry.SetUp),
                found.Pack.Name,
                packs,
                Sscc: read?.Sscc
            ),
            read
        );
        if (read?.Serial is { } serial)
            reading = reading with
            {
                History =
                [
                    .. (
                        await (await inquiry.History())
                            .About(new Reference(ReferenceKind.Serial, serial))
                            .Where(e => e.ItemId == item.Id)
                            .OrderByDescending(e => e.Seq)
                            .Take(MostHistory)
                            .ToListAsync()
                    ).Select(e => $"{inquiry.Local(e.At):yyyy-MM-dd}: {e.Words(inquiry.Site.Wording)}"),
                ],
            };
        return arrival is null ? reading : await WithLine(inquiry, reading, found, packs, read, arrival);
    }

    static async Task<Reading> WithLine(
        Inquiry inquiry,
        Reading reading,
        Found found,
        decimal packs,
        ElementString? read,
        string arrivalNumber
    )
    {
        var item = found.Item;
        var quantity = found.Pack.Content(packs);
        var lines = await inquiry
            .Db.ManifestLines.Where(m =>
                m.Part!.ItemId == item.Id
                && inquiry.Db.Arrivals.Any(a => a.Id == m.ArrivalId && a.SiteId == inquiry.Site.Id && a.Number == arrivalNumber)
            )
            .Include(m => m.Part!)
                .ThenInclude(p => p.Line!)
                    .ThenInclude(l => l.Order)
            .ToListAsync();
        if (lines.Count == 0)
            return reading with
            {
                Problem = new Refusal(
                    DoorRefusals.NotOnArrival,
                    $"{item.Name} is on no order of {arrivalNumber}.",
                    "Look at the label again, or ask a supervisor to add its order."
                ),
            };
        var choice = LineChoice.Choose([.. lines.Select(CountGoods.ViewOf)], quantity, item, null, inquiry.Today, inquiry.Site.HorizonDays);
        var options = lines
            .Select(l => new LineOption(l.PartId, l.Part!.Line!.Order!.Number, l.Part.Line.Number, l.Part.Due, l.Part.Open))
            .ToList();
        var vendor = inquiry.SetUp.Vendors[lines[0].Part!.Line!.Order!.VendorId];
        var waits = lines.Where(l => l.Part!.StillWaited > 0).ToList();
        var entry = QuantityRules.Entry(
            inquiry.DoorSettings.Quantity,
            lines.Sum(l => Math.Max(0, l.Expected - l.Counted)),
            found.Pack,
            packs,
            read?.Count is not null || item.NeedsSerial
        );
        return reading with
        {
            Problem = (read?.Serial is { } piece ? await CountGoods.SerialElsewhere(inquiry.Db, lines[0].ArrivalId, item, piece) : null)
                ?? Batches.Doubt(inquiry.Db, item, vendor.Id, read, inquiry.Today),
            Instead =
                read is not null
                && !Batches.IsKnown(inquiry.Db, item, vendor.Id, read.Batch)
                && SwallowedIdentifiers.Suspect(read, inquiry.Today) is { } suspect
                    ? With(
                        new Reading(
                            ReadingKind.Details,
                            $"Source batch {suspect.Instead.Batch}{Details(suspect.Instead)}.",
                            suspect.Instead.ToString(),
                            Packs: suspect.Instead.Count
                        ),
                        suspect.Instead
                    )
                    : null,
            Packs = entry.Packs,
            Proposed = entry.Proposed,
            Line = options.First(o => o.Part == choice.Shares[0].PartId),
            LineReason = choice.Reason,
            Lines = options,
            Batch = item.NeedsBatch
                ? (reading.SourceBatch is { } source ? Batches.Existing(inquiry.Db, item, vendor, source, inquiry.Today) : null)
                    ?? Batches.Propose(inquiry.Db, item, vendor.Code, inquiry.Today)
                : null,
            WaitingFor =
                waits.Count == 0 ? null : string.Join(", ", waits.Select(l => l.Part!.WaitingWords).Where(w => w is not null).Distinct()),
            Waiting = waits.Sum(l => l.Part!.StillWaited),
        };
    }

    static async Task<Reading> FromElements(Inquiry inquiry, ElementString read, string? arrival, string? chosenItem)
    {
        if (read.Gtin is { } gtin)
        {
            var found = inquiry.SetUp.Catalogue.ByCode(gtin);
            if (found.Count > 1 && chosenItem is not null)
                found = [.. found.Where(f => f.Item.Code == chosenItem)];
            if (found.Count == 1)
                return await FromItem(inquiry, found[0], read.ToString(), read, arrival);
            if (found.Count > 1)
                return await WhichOf(inquiry, found, gtin, read.ToString(), arrival);
            return With(
                new Reading(
                    ReadingKind.Unknown,
                    $"GTIN {gtin} belongs to no item{Details(read)}.",
                    read.ToString(),
                    Problem: UnknownGtin(gtin)
                ),
                read
            );
        }

        if (read.Sscc is { } sscc)
            return await FromUnit(inquiry, sscc, arrival);
        return With(new Reading(ReadingKind.Details, $"No item of its own{Details(read)}.", read.ToString(), Packs: read.Count), read);
    }

    static Reading With(Reading reading, ElementString? read)
    {
        var (sourceBatch, production, bestBefore, expiry, origin, serial) = LabelDetails.Of(read);
        return reading with
        {
            SourceBatch = sourceBatch,
            Production = production,
            BestBefore = bestBefore,
            Expiry = expiry,
            Origin = origin,
            Serial = serial,
        };
    }

    static Refusal UnknownGtin(string gtin) =>
        new(DoorRefusals.GtinUnknown, $"GTIN {gtin} belongs to no item.", "Look at the label, or find the item by its code.");

    static string Details(ElementString? read)
    {
        if (read is null)
            return "";
        var parts = new List<string>();
        if (read.Batch is { } batch)
            parts.Add($"source batch {batch}");
        if (read.Production is { } made)
            parts.Add($"produced {made}");
        if (read.BestBefore is { } best)
            parts.Add($"best before {best}");
        if (read.Expiry is { } expiry)
            parts.Add(read.ExpiresAt is { } minute && read["17"] is null ? $"expiry {minute:yyyy-MM-dd HH:mm}" : $"expiry {expiry}");
        if (read.Serial is { } serial)
            parts.Add($"serial {serial}");
        parts.AddRange(read.Measures.Select(m => $"{m.Word} {Quantities.Show(m.Value)} {Units.Word(m.Unit)}"));
        return parts.Count == 0 ? "" : ", " + string.Join(", ", parts);
    }

    static async Task<Reading> FromUnit(Inquiry inquiry, string sscc, string? arrivalNumber)
    {
        if (
            arrivalNumber is not null
            && await inquiry.Db.Arrivals.Numbered(inquiry.Site, arrivalNumber) is { } arrival
            && await AdvisedUnits.ContentsOf(inquiry.Db, arrival.Id, sscc) is { Count: > 0 } contents
        )
            return new Reading(
                ReadingKind.AdvisedUnit,
                $"Announced unit {Sscc.Spaced(sscc)}: {AdvisedUnits.Words(inquiry.SetUp, contents)}.",
                sscc,
                Sscc: sscc
            );
        var unit = await inquiry.Db.Units.FirstOrDefaultAsync(u => u.SiteId == inquiry.Site.Id && u.Sscc == sscc);
        if (unit is null)
            return Wrong(
                sscc,
                new Refusal(DoorRefusals.UnitUnknown, $"Unit {Sscc.Spaced(sscc)} is not known here.", "Scan what stands on it instead.")
            );
        var on = StockLine.Of(await inquiry.Db.Balances.Where(b => b.UnitId == unit.Id).ToListAsync());
        var words =
            on.Count == 0
                ? "it stands nowhere any more"
                : string.Join(
                    "; ",
                    on.Select(b =>
                        $"{Quantities.Show(b.Quantity)} {inquiry.SetUp.Catalogue[b.ItemId].UnitWord} of "
                        + $"{inquiry.SetUp.Catalogue[b.ItemId].Name}, {inquiry.Standings.Word(b.Standing)}, "
                        + $"in {inquiry.SetUp.Address(b.BinId)}"
                    )
                );
        return new Reading(ReadingKind.Unit, $"Unit {Sscc.Spaced(sscc)}: {words}.", sscc, Sscc: sscc);
    }

    static async Task<Reading> FromContainer(Inquiry inquiry, string number)
    {
        var row = await inquiry
            .Db.Arrivals.Where(a => a.SiteId == inquiry.Site.Id && a.ContainerNumber == number)
            .OrderByDescending(a => a.Id)
            .FirstOrDefaultAsync();
        return row is null
            ? Wrong(
                number,
                new Refusal(
                    DoorRefusals.ContainerUnknown,
                    $"Container {number} is on no arrival of this site.",
                    "Make an arrival for it in Road."
                )
            )
            : new Reading(ReadingKind.Container, $"Container {number} of arrival {row.Number}.", number, Arrival: row.Number);
    }

    /// <summary>An item with what it asks for.</summary>
    public static ItemView View(Item item, SetUp setUp) =>
        new(
            item.Code,
            item.Name,
            item.UnitWord,
            [.. item.PackLevels.OrderBy(p => p.Content(1)).Select(p => new PackView(p.Name, p.Content(1), p.IsUnit, p.PackageType))],
            item.NeedsBatch,
            TallyRules.Asks(item),
            item.ShelfLifeDays,
            item.RulingDate,
            item.StorageClass,
            setUp.MayBeInspected(item),
            item.Attributes,
            item.CatchWeight,
            item.Mass,
            item.WeightTolerance,
            item.Marks,
            [.. Units.Others(item.BaseUnit).Select(u => u.Word)]
        );

    static Reading Wrong(string code, Refusal why) => new(ReadingKind.Wrong, why.Sentence, code, Problem: why);
}
