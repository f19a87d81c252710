using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Shelf;

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

/// <summary>What stands behind a count that did not come straight from a device.</summary>
/// <param name="By">Who counted, where somebody else has settled it.</param>
/// <param name="Unit">The logistic unit the goods stand on already.</param>
/// <param name="Vendor">The vendor whose lines alone take them: a part of a count that reached over several vendors.</param>
public sealed record CountBehind(Person? By = null, LogisticUnit? Unit = null, int? Vendor = null);

/// <summary>What was counted.</summary>
/// <param name="Warning">What should be looked at, though it was taken: a serial that was here before, somebody else who counts the
/// same.</param>
public sealed record CountAnswer(
    string Sentence,
    string ItemName,
    decimal Quantity,
    string Unit,
    string? Batch,
    Standing Standing,
    string Place,
    string Reason,
    IReadOnlyList<string> Units,
    string? Warning = null
);

/// <summary>Counts goods into the receiving place: one act, stock moves at once.</summary>
public static class CountGoods
{
    const int MostUnits = 200;

    /// <summary>Like units counted by two people within this time may be the same one.</summary>
    static readonly TimeSpan together = TimeSpan.FromMinutes(1);

    static readonly Func<MudRoomDb, int, string, Arrival?> arrivalByNumber = EF.CompileQuery(
        (MudRoomDb db, int site, string number) => db.Arrivals.AsNoTracking().FirstOrDefault(a => a.SiteId == site && a.Number == number)
    );

    static readonly Func<MudRoomDb, int, int, IEnumerable<ManifestLine>> linesOfItem = EF.CompileQuery(
        (MudRoomDb db, int arrival, int item) =>
            db
                .ManifestLines.IgnoreQueryFilters()
                .AsNoTrackingWithIdentityResolution()
                .Where(m => m.ArrivalId == arrival && m.Part!.ItemId == item)
                .Include(m => m.Part!)
                    .ThenInclude(p => p.Line!)
                        .ThenInclude(l => l.Order)
    );

    const int MostLevels = 8;

    public static void Map(SiteRoutes routes)
    {
        routes.Act<CountRequest, CountAnswer>("/door/count", Right.Tally, All, blind: BlindView.Open);
        routes.Acts<CountRequest, CountAnswer>("/door/counts", "/door/count", Right.Tally, All, BlindView.Open);
    }

    /// <summary>A count as a device sends it: of one pack level or several, of one serial number or a range; all of it or
    /// nothing.</summary>
    public static Task<Outcome<CountAnswer>> All(Act act, CountRequest request) =>
        request.Serials.OrNull() is { } serials ? RunSerials(act, request, serials)
        : request.More is { Count: > 0 } more ? RunLevels(act, request, more)
        : Run(act, request);

    /// <summary>Full pallets, loose cases and pieces of the same goods in one entry.</summary>
    static async Task<Outcome<CountAnswer>> RunLevels(Act act, CountRequest request, IReadOnlyList<PackCount> more)
    {
        if (more.Count > MostLevels)
            return new Refusal("too-many-levels", $"An entry has at most {MostLevels} pack levels.", "Count the rest in a second entry.");
        if (more.Any(l => l is null))
            return new Refusal("pack-unknown", "A pack level of the entry is empty.", "Leave it out.");
        if (request.Weight.OrNull() is not null)
            return new Refusal("weight-levels", "Weighed goods are counted one pack level at a time.", "Count each level with its weight.");
        PackCount[] levels = [new PackCount(request.Pack, request.Packs), .. more];
        var filled = levels.Where(l => l.Packs.OrNull() is { } text && text != "0").ToList();
        if (filled.Select(l => l.Pack).Distinct().Count() != filled.Count)
            return new Refusal("level-twice", "A pack level stands there twice.", "Add the two up.");
        var answers = new List<CountAnswer>();
        foreach (var level in filled)
        {
            var counted = await Run(
                act,
                request with
                {
                    Pack = level.Pack,
                    Packs = level.Packs,
                    More = null,
                    Batch = answers.Count > 0 ? answers[0].Batch : request.Batch,
                }
            );
            if (counted.Refused(out var refusal))
                return refusal;
            answers.Add(counted.Value);
            await act.Db.SaveChangesAsync();
        }

        if (answers.Count == 0)
            return new Refusal("quantity-not-positive", "No pack level has a count.", "Type what is there.");
        return answers[0] with
        {
            Sentence =
                $"{Quantities.Show(answers.Sum(a => a.Quantity))} {answers[0].Unit} in all. "
                + $"{string.Join(" ", answers.Select(a => a.Sentence))}",
            Quantity = answers.Sum(a => a.Quantity),
            Units = [.. answers.SelectMany(a => a.Units)],
        };
    }

    /// <summary>Pieces with a serial each, all of them or none.</summary>
    static async Task<Outcome<CountAnswer>> RunSerials(Act act, CountRequest request, string text)
    {
        var read = Core.Door.Serials.Read(text);
        if (read.Refused(out var wrong))
            return wrong;
        if (act.SetUp.Catalogue.ByCode(request.Item).Select(f => f.Item).FirstOrDefault() is { NeedsSerial: false } plain)
            return new Refusal("serials-unasked", $"{plain.Name} is not kept by serial number.", "Count the pieces.");
        CountAnswer? last = null;
        foreach (var serial in read.Value)
        {
            var counted = await Run(act, request with { Serial = serial, Serials = null, Packs = "1" });
            if (counted.Refused(out var refusal))
                return refusal;
            last = counted.Value;
        }

        return last! with
        {
            Sentence = $"{read.Value.Count} pieces, {read.Value[0]} to {read.Value[^1]}. Last: {last.Sentence}",
            Quantity = read.Value.Count,
        };
    }

    /// <summary>One count of one pack level.</summary>
    public static async Task<Outcome<CountAnswer>> Run(Act act, CountRequest request, CountBehind? behind = null)
    {
        var typed = Typed(act.SetUp.Catalogue, request, act.Site.Door.DecimalComma);
        if (typed.Refused(out var badTyping))
            return badTyping;
        var count = typed.Value;
        var item = count.Item;

        act.InHand.ReadOnlyFromHere();
        var arrival = act.InHand.Get($"arrival {act.Site.Id} {request.Arrival}", () =>
            arrivalByNumber(act.Db, act.Site.Id, request.Arrival)
        );
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var lines = act.InHand.Get($"lines {arrival.Id} {item.Id}", () => linesOfItem(act.Db, arrival.Id, item.Id).ToList())!;
        if (behind?.Vendor is { } only)
            lines = [.. lines.Where(l => l.Part!.VendorId == only)];
        var times = HoldRule.ConditionsFor(act.SetUp.HoldRules, item, Countries.Find(count.Origin ?? "")?.Code, act.Now);
        if (MustBeScanned(act, request, behind, item, count.Pack) is { } unscanned)
            return unscanned;
        var isBlind = BlindCount.Applies(act.Site, act.Person.Roles);
        var reasoned = act.Site.Door.ReasonOf(count.Aside, request.Reason);
        if (reasoned.Refused(out var noReason))
            return noReason;
        var pictures = request.Pictures ?? [];
        if (
            pictures.Count > 0
            && await act.Db.Attachments.CountAsync(a => a.ArrivalId == arrival.Id && pictures.Contains(a.Id)) != pictures.Distinct().Count()
        )
            return Problems.NotFound("picture", string.Join(", ", pictures));
        count = count with
        {
            Aside = reasoned.Value?.Kind,
            Reason = reasoned.Value,
            Pictures = pictures.Count,
            Blind = isBlind,
            ChosenPart = isBlind ? null : count.ChosenPart,
        };
        var judged = TallyRules.Judge(
            count,
            [.. lines.Select(l => ViewOf(l) with { MinimumLife = act.SetUp.Vendors[l.Part!.VendorId].MinimumRemainingDays })],
            act.Today,
            act.Site.HorizonDays,
            act.May(Right.SettleTally),
            times.Count > 0
        );
        if (judged.Refused(out var no))
            return no;
        var decision = judged.Value;
        if (behind?.Vendor is null && !count.Pack.IsUnit && PartedByVendor(decision, lines) is { Count: > 1 } parted)
            return await RunVendors(act, request, behind, count, parted);

        var sender = VendorOf(act, arrival, request, lines, decision);
        if (sender.Refused(out var noVendor))
            return noVendor;
        var vendorId = sender.Value;
        if (count.Serial is { } serial && await SerialElsewhere(act.Db, arrival.Id, item, serial) is { } elsewhere)
            return elsewhere;
        if (count.Pack.IsUnit && count.Packs > MostUnits)
            return new Refusal("too-many-units", $"{count.Packs} units at once are too many: {MostUnits} at most.", "Count them in parts.");
        var door = act.SetUp.Doors[arrival.DoorId!.Value];
        var placed = ReceivingPlace.By(
            act.Site,
            decision.Standing,
            act.SetUp.StagingOf(door),
            act.SetUp.BinsOfSite[act.Site.Id],
            request.Place.OrNull()
        );
        if (placed.Refused(out var noPlace))
            return noPlace;
        var place = placed.Value;
        var batch = await Batches.For(act, count, decision, vendorId);
        if (batch.Refused(out var badBatch))
            return badBatch;
        var standsOn = behind?.Unit;
        if (standsOn is null && request.Onto.OrNull() is { } onto)
        {
            var found = await UnitToStandOn(act, onto, place, decision.Standing);
            if (found.Refused(out var noUnit))
                return noUnit;
            standsOn = found.Value;
        }

        if (standsOn is null && request.Sscc.OrNull() is { } label)
        {
            var found = await VendorUnit(act, label, count);
            if (found.Refused(out var noUnit))
                return noUnit;
            standsOn = found.Value;
        }

        var made = standsOn is not null ? (List<LogisticUnit>)[standsOn] : await MakeUnits(act, count, request.Units);
        if (made.Refused(out var badUnits))
            return badUnits;
        var units = made.Value;
        if (act.Site.Door.Stops == Stops.StraightIn && decision.Standing == Standing.Usable && units.Count <= 1 && standsOn is null)
            place = await StraightIn(act, item, batch.Value, units.Count == 1, count, place);
        // Every rule that catches them lays its time, whatever else is said of them.
        var hold =
            count.Aside is not null ? await HoldFor(act, arrival, item, batch.Value, HoldReason.CountedAside, AsideSentence(count), times)
            : times.Count > 0
                ? await HoldFor(act, arrival, item, batch.Value, HoldReason.Rule, string.Join("; ", times.Select(t => t.Rule)), times)
            : null;
        var inspection =
            decision.Standing == Standing.ToInspect ? await Inspections.Waiting(act, arrival.Id, item, batch.Value?.Id, vendorId) : null;
        if (hold?.Grow(count.Quantity, act.Site.LocalTime) is { } lifted)
            return lifted;
        if (inspection?.Grow(count.Quantity) is { } drawn)
            return drawn;
        if (hold is { Id: 0 } || inspection is { Id: 0 })
            await act.Db.SaveChangesAsync();

        var waited = lines
            .Where(l => l.Part!.StillWaited > 0)
            .OrderBy(l => l.Part!.Due)
            .Select(l => (l.Part!.WaitingFor ?? "who waits", l.Part.StillWaited))
            .ToList();
        foreach (var piece in Pieces.Cut(decision.Choice.Shares, units.Count, standsOn is null ? count.Pack.Content(1) : count.Quantity))
        {
            var unit = piece.Unit is { } index ? units[index] : null;
            var line = piece.PartId is null ? null : lines.First(l => l.PartId == piece.PartId);
            if (line is not null)
            {
                line.Count(piece.Quantity);
                line.Part!.Receive(piece.Quantity);
                act.InHand.Change(line);
                act.InHand.Change(line.Part);
            }

            var goods = new Goods(item.Id, batch.Value?.Id, unit?.Id, count.Serial);
            var over = piece.Over;
            foreach (var (from, quantity) in (line?.Arrive(piece.Quantity) ?? [(Account.Vendor, piece.Quantity)]).Reverse())
            {
                var movement = new Movement(goods, quantity, new Place(from), Place.In(place.Id, decision.Standing));
                var entry = act.Write(EntryKind.Counted, arrival.Number, Sentence(count, quantity, batch.Value, line, place), movement);
                Append(piece, goods, quantity, Math.Min(over, quantity), entry);
                over -= Math.Min(over, quantity);
            }
        }

        void Append(Piece piece, Goods goods, decimal quantity, decimal over, LedgerEntry entry) =>
            act.Append(
                new TallyEntry
                {
                    ArrivalId = arrival.Id,
                    PartId = piece.PartId,
                    ItemId = item.Id,
                    // A labelled unit may stand on the lines of two vendors: each of them gets a receipt for its own.
                    VendorId = piece.PartId is { } on ? lines.First(l => l.PartId == on).Part!.VendorId : vendorId,
                    BatchId = batch.Value?.Id,
                    UnitId = goods.UnitId,
                    Serial = count.Serial,
                    Quantity = quantity,
                    PackName = count.Pack.Name,
                    Packs = Math.Round(quantity / count.Pack.Content(1), 6),
                    Standing = decision.Standing,
                    BinId = place.Id,
                    Aside = count.Aside,
                    Over = over,
                    AsideReason = count.Reason?.Name,
                    Weight = count.Weight is { } kilograms ? Math.Round(kilograms * quantity / count.Quantity, 3) : null,
                    FromPaper = request.FromPaper,
                    Note = count.Note,
                    Reason = decision.Choice.Reason,
                    PersonId = (behind?.By ?? act.Person).Id,
                    PersonName = (behind?.By ?? act.Person).Name,
                    Device = act.Doer.Device,
                    At = act.Now,
                    ActId = act.Doer.ActId,
                    LedgerSeq = entry.Seq,
                    HoldId = hold?.Id,
                    InspectionId = inspection?.Id,
                }
            );

        var warning = await Warning(act, arrival, count, batch.Value?.Id, behind);
        Note(act, arrival, count, decision);
        foreach (var picture in pictures.Count == 0 ? [] : await act.Db.Attachments.Where(a => pictures.Contains(a.Id)).ToListAsync())
            picture.ActId = act.Doer.ActId;
        PrintDesk.Queue(act, door, count, decision.Standing, batch.Value, standsOn is null ? units : [], waited);
        act.Touch("arrival:" + arrival.Number, "door", "shelf", "house");
        if (hold is not null)
            act.Touch("cage");
        if (inspection is not null)
            act.Touch("bench");
        return new CountAnswer(
            $"{Quantities.Counted(count.Packs, count.Pack.Name, count.Quantity, item.UnitWord)} of "
                + $"{item.Name}{(count.Weight is { } weighed ? $", weighed {Quantities.Show(weighed)} kg" : "")}, "
                + $"{Standings.Word(decision.Standing)}, in {place.Address}.",
            item.Name,
            count.Quantity,
            item.UnitWord,
            batch.Value?.Number,
            decision.Standing,
            place.Address,
            isBlind ? "" : decision.Choice.Reason,
            [.. units.Select(u => u.Sscc)],
            warning
        );
    }

    /// <summary>How much of a count goes on the lines of each vendor, in the order in which they take it.</summary>
    static List<(int Vendor, decimal Quantity)> PartedByVendor(CountDecision decision, List<ManifestLine> lines) =>
        [
            .. decision
                .Choice.Shares.Where(s => s.PartId is not null)
                .GroupBy(s => lines.First(l => l.PartId == s.PartId).Part!.VendorId)
                .Select(g => (g.Key, g.Sum(s => s.Quantity))),
        ];

    /// <summary>A count that reaches over the lines of several vendors: each vendor's part is theirs, with its own batch, lot and receipt;
    /// all of it or nothing.</summary>
    static async Task<Outcome<CountAnswer>> RunVendors(
        Act act,
        CountRequest request,
        CountBehind? behind,
        Count count,
        List<(int Vendor, decimal Quantity)> parted
    )
    {
        var answers = new List<CountAnswer>();
        foreach (var (vendor, quantity) in parted)
        {
            var weight = count.Weight is { } kilograms ? Plain(Math.Round(kilograms * quantity / count.Quantity, 3)) : null;
            var counted = await Run(
                act,
                request with
                {
                    Pack = count.Item.BasePack.Name,
                    Packs = Plain(quantity),
                    Weight = weight,
                },
                (behind ?? new CountBehind()) with
                {
                    Vendor = vendor,
                }
            );
            if (counted.Refused(out var refusal))
                return refusal;
            answers.Add(counted.Value);
            await act.Db.SaveChangesAsync();
        }

        return answers[0] with
        {
            Sentence =
                $"{Quantities.Show(count.Quantity)} {count.Item.UnitWord}, parted between "
                + $"{string.Join(" and ", parted.Select(p => act.SetUp.Vendors[p.Vendor].Name))}. "
                + $"{string.Join(" ", answers.Select(a => a.Sentence))}",
            Quantity = count.Quantity,
            Units = [.. answers.SelectMany(a => a.Units)],
        };

        static string Plain(decimal number) => number.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture);
    }

    /// <summary>Turns what was typed into a count, or says what cannot be read.</summary>
    /// <param name="decimalComma">Whether the site types a comma before decimals.</param>
    public static Outcome<Count> Typed(Catalogue catalogue, CountRequest request, bool decimalComma)
    {
        var item = catalogue.ByCode(request.Item).Select(f => f.Item).FirstOrDefault(i => i.Code == request.Item);
        if (item is null)
            return new Refusal("item-unknown", $"No item has the code {request.Item}.", "Scan its label, or find it in Site.");
        var pack = item.PackOrMeasure(request.Pack ?? "");
        if (pack is null)
            return new Refusal(
                "pack-unknown",
                $"{item.Name} has no pack called {request.Pack}.",
                $"It has {string.Join(", ", item.PackLevels.Select(p => p.Name))}."
            );
        if (ScannedCode.IsCode(request.Packs ?? ""))
            return new Refusal(
                "quantity-is-code",
                $"{request.Packs} is a code, and no quantity.",
                "Type how many there are. Scan the code on its own."
            );
        var packs = Quantities.Read(request.Packs, decimalComma);
        if (packs.Refused(out var badNumber))
            return badNumber;
        if (Math.Abs(packs.Value) > Quantities.Most)
            return new Refusal("quantity-too-large", $"{request.Packs} cannot be right.", "Look at the number again.");
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
            return new Refusal("note-long", "The note has more than 500 characters.", "Shorten it.");
        if ((request.SourceBatch ?? "").Length > 40 || (request.Serial ?? "").Length > 40)
            return new Refusal("code-long", "A batch or serial number has more than 40 characters.", "Look at the label again.");
        var weight = request.Weight.OrNull() is { } kilograms ? Quantities.Read(kilograms, decimalComma) : (Outcome<decimal>)0;
        if (weight.Refused(out var badWeight))
            return badWeight;
        if (weight.Value is < 0 or > Quantities.Most)
            return new Refusal("quantity-too-large", $"{request.Weight} kg cannot be right.", "Weigh again.");
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

    /// <summary>A manifest line as the choice of lines sees it.</summary>
    public static PartView ViewOf(ManifestLine line) =>
        new(
            line.PartId,
            line.Part!.Line!.Order!.Number,
            line.Part.Line.Number,
            line.Part.Line.Order.OrderDate,
            line.Part.Due,
            line.Part.Ordered,
            line.Part.Received,
            line.Part.StillWaited,
            IsShut: line.Part.ClosedShort || line.Part.Line.Order.State is OrderState.Cancelled or OrderState.ClosedShort
        );

    /// <summary>The refusal of a piece that cannot be here: it is on hand, or a vendor says that it is on its way on another
    /// arrival.</summary>
    public static async Task<Refusal?> SerialElsewhere(MudRoomDb db, int arrivalId, Item item, string serial)
    {
        if (await db.Balances.AnyAsync(b => b.ItemId == item.Id && b.Serial == serial))
            return new Refusal("serial-here", $"Serial {serial} of {item.Name} is on hand already.", "Look at the number again.");
        return await AdvisedUnits.OnTheWay(db, item.Id, serial, arrivalId) is { } other
            ? new Refusal(
                "serial-on-the-way",
                $"Serial {serial} of {item.Name} is announced on {other}, still on its way.",
                "Look at the number again. If it is right, ask a supervisor which of the two papers is wrong."
            )
            : null;
    }

    /// <summary>Where a site counts by scan only, the item must have come from one of its barcodes; who settles tallies may
    /// choose.</summary>
    static Refusal? MustBeScanned(Act act, CountRequest request, CountBehind? behind, Item item, PackLevel pack)
    {
        if (!act.Site.Door.ScanForced || behind is not null || act.May(Right.SettleTally))
            return null;
        var code = act.Scan(request.Scanned).ItemCode ?? "";
        return act.SetUp.Catalogue.ByCode(code).Any(f => f.Item.Id == item.Id && f.IsBarcode)
            ? null
            : new Refusal(
                "scan-forced",
                $"{act.Site.Name} counts by scan: {item.Name}, {pack.Name}, was not scanned.",
                "Scan the barcode on the goods, or ask a supervisor."
            );
    }

    /// <summary>The unit that further goods are put on: one of ours, in the receiving place where they stand, with the same
    /// standing.</summary>
    static async Task<Outcome<LogisticUnit>> UnitToStandOn(Act act, string sscc, Bin place, Standing standing)
    {
        var unit = await act.Db.Units.FirstOrDefaultAsync(u => u.SiteId == act.Site.Id && u.Sscc == sscc);
        if (unit is null)
            return Problems.NotFound("unit", sscc);
        var elsewhere = await act.Db.Balances.FirstOrDefaultAsync(b =>
            b.UnitId == unit.Id && (b.BinId != place.Id || b.Standing != standing)
        );
        return elsewhere is null
            ? unit
            : new Refusal(
                "unit-elsewhere",
                $"Unit {Sscc.Spaced(sscc)} stands in {act.SetUp.Address(elsewhere.BinId)}, {Standings.Word(elsewhere.Standing)}; "
                    + $"these goods are {Standings.Word(standing)}.",
                "Put them on another unit."
            );
    }

    /// <summary>The vendor's own unit that the goods stand on: known from now on by its SSCC; refused when it was counted already, with who
    /// and when.</summary>
    static async Task<Outcome<LogisticUnit>> VendorUnit(Act act, string label, Count count)
    {
        var sscc = Sscc.Read(label);
        if (sscc.Refused(out var wrong))
            return wrong;
        var unit = await act.Db.Units.FirstOrDefaultAsync(u => u.SiteId == act.Site.Id && u.Sscc == label);
        if (unit is not null && await UnitCounted(act, unit.Id, label) is { } counted)
            return counted;
        if (unit is not null)
            return unit;
        unit = new LogisticUnit
        {
            SiteId = act.Site.Id,
            Sscc = label,
            PackName = count.Pack.Name,
            PackageType = count.Pack.PackageType,
            MadeAt = act.Now,
        };
        act.Db.Units.Add(unit);
        await act.Db.SaveChangesAsync();
        return unit;
    }

    /// <summary>The refusal of a unit that was counted already: two people, one pallet.</summary>
    public static async Task<Refusal?> UnitCounted(Act act, int unitId, string sscc) =>
        await act.Db.TallyEntries.Where(e => e.UnitId == unitId && e.TakenBackAt == null).OrderBy(e => e.Id).FirstOrDefaultAsync()
            is { } there
            ? new Refusal(
                "unit-counted",
                $"Unit {Sscc.Spaced(sscc)} is counted already, by {there.PersonName} at {act.Site.LocalTime(there.At):HH:mm}.",
                "Look at the trail. If that was wrong, take it back there first."
            )
            : null;

    /// <summary>What should be looked at though the count was taken.</summary>
    static async Task<string?> Warning(Act act, Arrival arrival, Count count, int? batchId, CountBehind? behind)
    {
        if (count.Serial is { } serial)
            return
                await act
                    .Db.Ledger.Where(e => e.Serial == serial && e.ItemId == count.Item.Id)
                    .OrderByDescending(e => e.Seq)
                    .FirstOrDefaultAsync()
                    is { } before
                ? $"Serial {serial} was here before: {before.Sentence} ({act.Site.LocalTime(before.At):yyyy-MM-dd})."
                : null;
        if (!count.Pack.IsUnit || behind is not null)
            return null;
        var since = act.Now - together;
        var other = await act
            .Db.TallyEntries.Where(e =>
                e.ArrivalId == arrival.Id
                && e.At >= since
                && e.ItemId == count.Item.Id
                && e.BatchId == batchId
                && e.UnitId != null
                && e.PersonId != act.Person.Id
                && e.TakenBackAt == null
            )
            .OrderByDescending(e => e.Id)
            .FirstOrDefaultAsync();
        return other is null
            ? null
            : $"{other.PersonName} counted {Quantities.Show(other.Packs)} {Quantities.Plural(other.PackName, other.Packs)} of the "
                + $"same batch at {act.Site.LocalTime(other.At):HH:mm} too. If it is the same one, take yours back.";
    }

    /// <summary>The one bin that takes all of it, by the rules of put-away; the receiving place where none does.</summary>
    static async Task<Bin> StraightIn(Act act, Item item, Batch? batch, bool isUnit, Count count, Bin place)
    {
        var goods = new GoodsToPlace(item, batch?.Id, Standing.Usable, count.Quantity, count.Pack.Content(1), isUnit, place.X, place.Y);
        var proposal = PutAway.Propose(goods, await Store.Load(act.Db, act.SetUp, act.Site.Id));
        return proposal.Shares is [{ } only] ? act.SetUp.Bins[only.BinId] : place;
    }

    static async Task<Outcome<List<LogisticUnit>>> MakeUnits(Act act, Count count, IReadOnlyList<string>? given)
    {
        if (!count.Pack.IsUnit)
            return given is null or []
                ? new List<LogisticUnit>()
                : new Refusal(
                    "unit-unasked",
                    $"A {count.Pack.Name} of {count.Item.Name} gets no unit number.",
                    "Count it as a unit, or without the number."
                );
        var numbers = await UnitNumbers.For(act, (int)count.Packs, given);
        if (numbers.Refused(out var refusal))
            return refusal;
        var units = numbers
            .Value.Select(sscc => new LogisticUnit
            {
                SiteId = act.Site.Id,
                Sscc = sscc,
                PackName = count.Pack.Name,
                PackageType = count.Pack.PackageType,
                MadeAt = act.Now,
            })
            .ToList();
        act.Db.Units.AddRange(units);
        await act.Db.SaveChangesAsync();
        return units;
    }

    static async Task<Hold> HoldFor(
        Act act,
        Arrival arrival,
        Item item,
        Batch? batch,
        HoldReason reason,
        string sentence,
        IReadOnlyList<TimeCondition> times
    )
    {
        var batchId = batch?.Id;
        var until = Hold.LastOf(times);
        // Goods join a hold only where their times end together: none is free sooner than its own.
        var hold = await act.Db.Holds.FirstOrDefaultAsync(h =>
            h.SiteId == act.Site.Id
            && h.IsOpen
            && h.ItemId == item.Id
            && h.BatchId == batchId
            && h.ArrivalId == arrival.Id
            && h.Reason == reason
            && h.Sentence == sentence
            && h.Until == until
            && h.CameFromId == null
        );
        if (hold is not null)
            return hold;
        hold = new Hold
        {
            Number = await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = item.Id,
            BatchId = batchId,
            Reason = reason,
            Sentence = sentence,
            Since = act.Now,
            Until = until,
            Times = times,
            ArrivalId = arrival.Id,
            LaidBy = reason == HoldReason.Rule ? "rule" : act.Person.Name,
        };
        act.Db.Holds.Add(hold);
        act.Write(EntryKind.HoldLaid, hold.Number, $"{hold.Number} laid on {item.Name} of {arrival.Number}: {sentence}");
        return hold;
    }

    static void Note(Act act, Arrival arrival, Count count, CountDecision decision)
    {
        if (count.Aside is { } aside)
            Add(AsideDifferences.Of(aside), count.Quantity, AsideSentence(count));
        else if (decision.Over > 0)
            Add(
                DiscrepancyKind.Over,
                decision.Over,
                $"Over, taken by {act.Person.Name}.",
                decision.Choice.Shares.First(s => s.Over > 0).PartId
            );

        void Add(DiscrepancyKind kind, decimal quantity, string sentence, int? part = null) =>
            act.Db.Discrepancies.Add(
                new Discrepancy
                {
                    ArrivalId = arrival.Id,
                    ItemId = count.Item.Id,
                    PartId = part ?? decision.Choice.Shares[0].PartId,
                    Kind = kind,
                    Quantity = quantity,
                    Sentence = sentence,
                    At = act.Now,
                    ActId = act.Doer.ActId,
                }
            );
    }

    /// <summary>Whose goods they are; the vendors aboard are asked for only where neither an order nor a person says it.</summary>
    static Outcome<int> VendorOf(Act act, Arrival arrival, CountRequest request, List<ManifestLine> lines, CountDecision decision)
    {
        int? ofOrder = decision.Choice.Shares[0].PartId is { } part ? lines.First(l => l.PartId == part).Part!.Line!.Order!.VendorId : null;
        var code = ofOrder is null ? request.Vendor.OrNull() : null;
        var named = code is null
            ? null
            : act.SetUp.Vendors.Values.FirstOrDefault(v => v.Code.Equals(code, StringComparison.OrdinalIgnoreCase));
        if (code is not null && named is null)
            return Problems.NotFound("vendor", code);
        return Sender.Of(
            ofOrder,
            named?.Id,
            act.Db.ManifestLines.Where(m => m.ArrivalId == arrival.Id).Select(m => m.Part!.VendorId).Distinct()
        );
    }

    static string AsideSentence(Count count) =>
        (count.Reason?.Name ?? Asides.Word(count.Aside!.Value)) + (count.Note is null ? "" : ": " + count.Note);

    static string Sentence(Count count, decimal quantity, Batch? batch, ManifestLine? line, Bin place) =>
        $"{Quantities.Show(quantity)} {count.Item.UnitWord} {count.Item.Name}{(batch is null ? "" : ", batch " + batch.Number)} on "
        + $"{(line is null ? "no order" : $"{line.Part!.Line!.Order!.Number} line {line.Part.Line.Number}")}, "
        + $"{place.Address}{(count.Aside is null ? "" : ", aside")}";
}
