using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;

namespace MudRoom.Server.Door;

/// <summary>A count as a device sends it; numbers and dates as they were typed or scanned.</summary>
/// <param name="Vendor">Code of the vendor, for goods that are on no order.</param>
/// <param name="Serials">Serial numbers of several pieces: a list, or a range as "0101 to 0150".</param>
/// <param name="Attributes">What else is known of the source batch, by the names the item asks.</param>
/// <param name="BlankAllowed">True when what is recommended was asked for once and is left blank.</param>
public sealed record CountRequest(
    string Arrival, string Item, string Pack, string Packs, string? Batch, string? SourceBatch, string? Production, string? BestBefore, string? Expiry,
    string? Origin, string? Serial, Aside? Aside, string? Note, int? Part, bool OverAllowed, bool EarlyAllowed, string? Vendor = null, string? Serials = null, IReadOnlyDictionary<string, string>? Attributes = null, bool BlankAllowed = false);

/// <summary>What stands behind a count that did not come straight from a device.</summary>
/// <param name="By">Who counted, where somebody else has settled it.</param>
/// <param name="Unit">The logistic unit the goods stand on already.</param>
public sealed record CountBehind(Person? By = null, LogisticUnit? Unit = null);

/// <summary>What was counted.</summary>
public sealed record CountAnswer(string Sentence, string ItemName, decimal Quantity, string Unit, string? Batch, Standing Standing, string Place, string Reason, IReadOnlyList<string> Units);

/// <summary>Counts goods into the receiving place: one act, stock moves at once.</summary>
public static class CountGoods
{
    const int MostUnits = 200;

    static readonly Func<MudRoomDb, int, string, Arrival?> arrivalByNumber =
        EF.CompileQuery((MudRoomDb db, int site, string number) => db.Arrivals.AsNoTracking().FirstOrDefault(a => a.SiteId == site && a.Number == number));

    static readonly Func<MudRoomDb, int, int, IEnumerable<ManifestLine>> linesOfItem = EF.CompileQuery((MudRoomDb db, int arrival, int item) =>
        db.ManifestLines.AsNoTrackingWithIdentityResolution().Where(m => m.ArrivalId == arrival && m.Part!.ItemId == item).Include(m => m.Part!).ThenInclude(p => p.Line!).ThenInclude(l => l.Order));

    public static void Map(SiteRoutes routes) => routes.Act<CountRequest, CountAnswer>("/door/count", Right.Tally, (act, request) => request.Serials.OrNull() is { } serials ? RunSerials(act, request, serials) : Run(act, request));

    /// <summary>Pieces with a serial each, all of them or none.</summary>
    static async Task<Outcome<CountAnswer>> RunSerials(Act act, CountRequest request, string text)
    {
        var read = Core.Door.Serials.Read(text);
        if (read.Refused(out var wrong)) return wrong;
        if (act.SetUp.Catalogue.ByCode(request.Item).Select(f => f.Item).FirstOrDefault() is { NeedsSerial: false } plain)
            return new Refusal("serials-unasked", $"{plain.Name} is not kept by serial number.", "Count the pieces.");
        CountAnswer? last = null;
        foreach (var serial in read.Value)
        {
            var counted = await Run(act, request with { Serial = serial, Serials = null, Packs = "1" });
            if (counted.Refused(out var refusal)) return refusal;
            last = counted.Value;
        }

        return last! with { Sentence = $"{read.Value.Count} pieces, {read.Value[0]} to {read.Value[^1]}. Last: {last.Sentence}", Quantity = read.Value.Count };
    }


    public static async Task<Outcome<CountAnswer>> Run(Act act, CountRequest request, CountBehind? behind = null)
    {
        var typed = Typed(act.SetUp.Catalogue, request);
        if (typed.Refused(out var badTyping)) return badTyping;
        var count = typed.Value;
        var item = count.Item;

        act.InHand.KeepTo();
        var arrival = act.InHand.Get($"arrival {act.Site.Id} {request.Arrival}", () => arrivalByNumber(act.Db, act.Site.Id, request.Arrival));
        if (arrival is null) return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow) return notNow;
        var lines = act.InHand.Get($"lines {arrival.Id} {item.Id}", () => linesOfItem(act.Db, arrival.Id, item.Id).ToList())!;
        var rule = act.SetUp.HoldRules.FirstOrDefault(r => r.Catches(item, Countries.Find(count.Origin ?? "")?.Code));
        var judged = TallyRules.Judge(count, [.. lines.Select(ViewOf)], act.Today, act.Site.HorizonDays, act.May(Right.SettleTally), rule is not null);
        if (judged.Refused(out var no)) return no;
        var decision = judged.Value;

        var sender = VendorOf(act, arrival, request, lines, decision);
        if (sender.Refused(out var noVendor)) return noVendor;
        var vendorId = sender.Value;
        if (count.Serial is { } serial && await SerialIsHere(act, item, serial)) return new Refusal("serial-here", $"Serial {serial} of {item.Name} is on hand already.", "Look at the number again.");
        var batch = await Batches.For(act, count, decision, vendorId);
        if (batch.Refused(out var badBatch)) return badBatch;
        if (count.Pack.IsUnit && count.Packs > MostUnits)
            return new Refusal("too-many-units", $"{count.Packs} units at once are too many: {MostUnits} at most.", "Count them in parts.");
        List<LogisticUnit> units = behind?.Unit is { } stands ? [stands] : await MakeUnits(act, count);

        var place = ReceivingPlace.For(decision.Standing, act.SetUp.StagingOf(act.SetUp.Doors[arrival.DoorId!.Value]));
        var hold = count.Aside is not null ? await HoldFor(act, arrival, item, batch.Value, HoldReason.CountedAside, AsideSentence(count), null)
            : rule is not null ? await HoldFor(act, arrival, item, batch.Value, HoldReason.Rule, rule.Name, rule.Until(act.Now))
            : null;
        var inspection = decision.Standing == Standing.ToInspect ? await Inspections.Waiting(act, arrival.Id, item, batch.Value?.Id, vendorId) : null;
        hold?.Grow(count.Quantity);
        inspection?.Grow(count.Quantity);
        if (hold is { Id: 0 } || inspection is { Id: 0 }) await act.Db.SaveChangesAsync();

        foreach (var piece in Pieces.Cut(decision.Choice.Shares, units.Count, behind?.Unit is null ? count.Pack.Content(1) : count.Quantity))
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

        void Append(Piece piece, Goods goods, decimal quantity, decimal over, LedgerEntry entry) => act.Append(new TallyEntry
        {
            ArrivalId = arrival.Id,
            PartId = piece.PartId,
            ItemId = item.Id,
            VendorId = vendorId,
            BatchId = batch.Value?.Id,
            UnitId = goods.UnitId,
            Serial = count.Serial,
            Quantity = quantity,
            PackName = count.Pack.Name,
            Packs = quantity / count.Pack.Content(1),
            Standing = decision.Standing,
            BinId = place.Id,
            Aside = count.Aside,
            Over = over,
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
        });

        Note(act, arrival, count, decision);
        act.Touch("arrival:" + arrival.Number, "door", "shelf", "house");
        if (hold is not null) act.Touch("cage");
        if (inspection is not null) act.Touch("bench");
        return new CountAnswer(
            $"{Quantities.Show(count.Packs)} {Quantities.Plural(count.Pack.Name, count.Packs)}, {Quantities.Show(count.Quantity)} {item.UnitWord} of {item.Name}, {Standings.Word(decision.Standing)}, in {place.Address}.",
            item.Name, count.Quantity, item.UnitWord, batch.Value?.Number, decision.Standing, place.Address, decision.Choice.Reason, [.. units.Select(u => u.Sscc)]);
    }

    /// <summary>Turns what was typed into a count, or says what cannot be read.</summary>
    public static Outcome<Count> Typed(Catalogue catalogue, CountRequest request)
    {
        var item = catalogue.ByCode(request.Item).Select(f => f.Item).FirstOrDefault(i => i.Code == request.Item);
        if (item is null) return new Refusal("item-unknown", $"No item has the code {request.Item}.", "Scan its label, or find it in Site.");
        var pack = item.PackLevels.Find(p => p.Name == request.Pack);
        if (pack is null) return new Refusal("pack-unknown", $"{item.Name} has no pack called {request.Pack}.", $"It has {string.Join(", ", item.PackLevels.Select(p => p.Name))}.");
        var packs = Quantities.Read(request.Packs);
        if (packs.Refused(out var badNumber)) return badNumber;
        if (Math.Abs(packs.Value) > Quantities.Most) return new Refusal("quantity-too-large", $"{request.Packs} cannot be right.", "Look at the number again.");
        var production = GoodsDate.Typed("Production", request.Production);
        if (production.Refused(out var badProduction)) return badProduction;
        var bestBefore = GoodsDate.Typed("Best before", request.BestBefore);
        if (bestBefore.Refused(out var badBestBefore)) return badBestBefore;
        var expiry = GoodsDate.Typed("Expiry", request.Expiry);
        if (expiry.Refused(out var badExpiry)) return badExpiry;
        if ((request.Note ?? "").Length > 500) return new Refusal("note-long", "The note has more than 500 characters.", "Shorten it.");
        if ((request.SourceBatch ?? "").Length > 40 || (request.Serial ?? "").Length > 40)
            return new Refusal("code-long", "A batch or serial number has more than 40 characters.", "Look at the label again.");
        var attributes = AttributeRules.Read(item.Attributes, request.Attributes);
        if (attributes.Refused(out var badAttribute)) return badAttribute;
        return new Count(
            item, pack, packs.Value, request.Batch, request.SourceBatch.OrNull(), production.Value, bestBefore.Value?.LastDay, expiry.Value?.LastDay,
            request.Origin.OrNull(), request.Serial.OrNull(), request.Aside, request.Note.OrNull(), request.Part, request.OverAllowed, request.EarlyAllowed)
        { Attributes = attributes.Value, BlankAllowed = request.BlankAllowed };
    }

    /// <summary>A manifest line as the choice of lines sees it.</summary>
    public static PartView ViewOf(ManifestLine line) => new(
        line.PartId, line.Part!.Line!.Order!.Number, line.Part.Line.Number, line.Part.Line.Order.OrderDate, line.Part.Due, line.Part.Ordered, line.Part.Received,
        line.Part.WaitingQuantity > line.Part.Received);

    static async Task<bool> SerialIsHere(Act act, Item item, string serial) =>
        await act.Db.Balances.AnyAsync(b => b.ItemId == item.Id && b.Serial == serial);

    static async Task<List<LogisticUnit>> MakeUnits(Act act, Count count)
    {
        if (!count.Pack.IsUnit) return [];
        var site = await act.SiteRow();
        var units = Enumerable.Range(0, (int)count.Packs)
            .Select(_ => new LogisticUnit { SiteId = site.Id, Sscc = site.TakeSscc(), PackName = count.Pack.Name, MadeAt = act.Now }).ToList();
        act.Db.Units.AddRange(units);
        await act.Db.SaveChangesAsync();
        return units;
    }

    static async Task<Hold> HoldFor(Act act, Arrival arrival, Item item, Batch? batch, HoldReason reason, string sentence, DateTimeOffset? until)
    {
        var batchId = batch?.Id;
        var hold = await act.Db.Holds.FirstOrDefaultAsync(h =>
            h.SiteId == act.Site.Id && h.IsOpen && h.ItemId == item.Id && h.BatchId == batchId && h.ArrivalId == arrival.Id && h.Reason == reason && h.Sentence == sentence);
        if (hold is not null) return hold;
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
            Add(Asides.Kind(aside), count.Quantity, AsideSentence(count));
        else if (decision.Over > 0)
            Add(DiscrepancyKind.Over, decision.Over, $"{Quantities.Show(decision.Over)} {count.Item.UnitWord} over, taken by {act.Person.Name}.");

        void Add(DiscrepancyKind kind, decimal quantity, string sentence) => act.Db.Discrepancies.Add(new Discrepancy
        {
            ArrivalId = arrival.Id,
            ItemId = count.Item.Id,
            PartId = decision.Choice.Shares[0].PartId,
            Kind = kind,
            Quantity = quantity,
            Sentence = sentence,
            At = act.Now,
            ActId = act.Doer.ActId,
        });
    }

    /// <summary>Whose goods they are: by the order that takes them; for goods on no order the one named, or the only vendor aboard.</summary>
    static Outcome<int> VendorOf(Act act, Arrival arrival, CountRequest request, List<ManifestLine> lines, CountDecision decision)
    {
        if (decision.Choice.Shares[0].PartId is { } part) return lines.First(l => l.PartId == part).Part!.Line!.Order!.VendorId;
        if (request.Vendor.OrNull() is { } code)
            return act.SetUp.Vendors.Values.FirstOrDefault(v => v.Code.Equals(code, StringComparison.OrdinalIgnoreCase)) is { } vendor ? vendor.Id : Problems.NotFound("vendor", code);
        var aboard = act.Db.ManifestLines.Where(m => m.ArrivalId == arrival.Id).Select(m => m.Part!.VendorId).Distinct().Take(2).ToList();
        return aboard is [var only] ? only : new Refusal("vendor-missing", "Nobody has said whose goods these are.", "Choose the vendor they came from.");
    }

    static string AsideSentence(Count count) => Asides.Word(count.Aside!.Value) + (count.Note is null ? "" : ": " + count.Note);

    static string Sentence(Count count, decimal quantity, Batch? batch, ManifestLine? line, Bin place) =>
        $"{Quantities.Show(quantity)} {count.Item.UnitWord} {count.Item.Name}{(batch is null ? "" : ", batch " + batch.Number)} on {(line is null ? "no order" : $"{line.Part!.Line!.Order!.Number} line {line.Part.Line.Number}")}, {place.Address}{(count.Aside is null ? "" : ", aside")}";
}
