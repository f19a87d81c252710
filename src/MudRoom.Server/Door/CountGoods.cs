using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Shelf;

namespace MudRoom.Server.Door;

/// <summary>What stands behind a count that did not come straight from a device.</summary>
/// <param name="By">Who counted, where somebody else has settled it.</param>
/// <param name="Unit">The logistic unit the goods stand on already.</param>
public sealed record CountBehind(Person? By = null, LogisticUnit? Unit = null);

/// <summary>What was counted.</summary>
/// <param name="Warning">What should be looked at, though it was taken: a serial that was here before, somebody else who counts the
/// same.</param>
public sealed record CountAnswer(
    string Sentence,
    string ItemName,
    decimal Quantity,
    string Unit,
    string? Batch,
    string Standing,
    string Place,
    string Reason,
    IReadOnlyList<string> Units,
    string? Warning = null
);

/// <summary>Counts goods into the receiving place: one act, stock moves at once.</summary>
public static class CountGoods
{
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

    public static void Map(SiteRoutes routes)
    {
        routes.Act<CountRequest, CountAnswer>("/door/count", Right.Tally, All, blind: BlindView.Open);
        routes.Acts<CountRequest, CountAnswer>("/door/counts", "/door/count", Right.Tally, All, BlindView.Open);
    }

    /// <summary>A count as a device sends it: of one pack level or several, of one serial number or a range; all of it or
    /// nothing.</summary>
    public static async Task<Outcome<CountAnswer>> All(Act act, CountRequest request)
    {
        var read = CountText.All(act, request);
        if (read.Refused(out var unreadable))
            return unreadable;
        var answers = new List<CountAnswer>(read.Value.Count);
        foreach (var command in read.Value)
        {
            // Levels of one entry are one batch: what the first was given is theirs.
            var batch = answers.Count > 0 && command.Count.Serial is null ? answers[0].Batch : command.Count.BatchNumber;
            var counted = await Run(act, command with { Count = command.Count with { BatchNumber = batch } });
            if (counted.Refused(out var refusal))
                return refusal;
            answers.Add(counted.Value);
            await act.Db.SaveChangesAsync();
        }

        return answers.Count == 1 ? answers[0]
            : read.Value[0].Count.Serial is { } first
                ? Together(answers, $"{answers.Count} pieces, {first} to {read.Value[^1].Count.Serial}. Last: {answers[^1].Sentence}")
            : Together(
                answers,
                $"{Quantities.Show(answers.Sum(a => a.Quantity))} {answers[0].Unit} in all. "
                    + $"{string.Join(" ", answers.Select(a => a.Sentence))}"
            );
    }

    static CountAnswer Together(List<CountAnswer> answers, string sentence) =>
        answers[^1] with
        {
            Sentence = sentence,
            Quantity = answers.Sum(a => a.Quantity),
            Batch = answers[0].Batch,
            Units = [.. answers.SelectMany(a => a.Units)],
        };

    /// <summary>One count of one pack level: the facts are looked up, the rules decide, and what they decided is done.</summary>
    public static async Task<Outcome<CountAnswer>> Run(Act act, CountCommand command, CountBehind? behind = null)
    {
        act.InHand.ReadOnlyFromHere();
        var arrival = act.InHand.Get($"arrival {act.Site.Id} {command.Arrival}", () =>
            arrivalByNumber(act.Db, act.Site.Id, command.Arrival)
        );
        if (arrival is null)
            return Problems.NotFound("arrival", command.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var item = command.Count.Item;
        var lines = act.InHand.Get($"lines {arrival.Id} {item.Id}", () => linesOfItem(act.Db, arrival.Id, item.Id).ToList())!;
        var laid = SaidOfCount.ByRule(act, command, arrival, lines);
        if (await PictureMissing(act, arrival, command.Pictures) is { } unseen)
            return unseen;
        var decided = CountRules.Decide(command, Situation(act, arrival, item, lines, laid, behind));
        if (decided.Refused(out var no))
            return no;
        if (decided.Value.Parted.Count > 0)
            return await Parted(act, command, behind, decided.Value);
        if (command.Count.Serial is { } serial && await SerialElsewhere(act.Db, arrival.Id, item, serial) is { } elsewhere)
            return elsewhere;
        return await Take(act, command, behind, arrival, lines, decided.Value, laid);
    }

    static CountSituation Situation(
        Act act,
        Arrival arrival,
        Item item,
        List<ManifestLine> lines,
        HoldConditions laid,
        CountBehind? behind
    ) =>
        new(
            act.Site,
            act.DoorSettings,
            act.Today,
            [.. lines.Select(l => ViewOf(l) with { MinimumLife = act.SetUp.Vendors[l.Part!.VendorId].MinimumRemainingDays })],
            laid.Rules,
            act.May(Right.SettleTally),
            BlindCount.Applies(act.DoorSettings, act.Person.Roles),
            behind is not null,
            act.SetUp.StagingOf(act.SetUp.Doors[arrival.DoorId!.Value]),
            act.SetUp.BinsOfSite[act.Site.Id],
            VendorsAboard(act.Db, arrival.Id),
            act.Standings,
            act.Person.Name,
            (vendor, part, origin) =>
                act.SetUp.PlansFor(new GoodsToInspect(SaidOfCount.Comes(lines, part), item, vendor, origin?.Code)).Count > 0
        );

    /// <summary>Asked for, and the question made, only where somebody looks: few counts do.</summary>
    static IEnumerable<int> VendorsAboard(MudRoomDb db, int arrival)
    {
        foreach (var vendor in db.ManifestLines.Where(m => m.ArrivalId == arrival).Select(m => m.Part!.VendorId).Distinct())
            yield return vendor;
    }

    static async Task<Refusal?> PictureMissing(Act act, Arrival arrival, IReadOnlyList<int> pictures) =>
        pictures.Count == 0
        || await act.Db.Attachments.CountAsync(a => a.ArrivalId == arrival.Id && pictures.Contains(a.Id)) == pictures.Count
            ? null
            : Problems.NotFound("picture", string.Join(", ", pictures));

    /// <summary>A count that reaches over the lines of several vendors: each vendor's part is theirs, with its own batch, lot and receipt;
    /// all of it or nothing.</summary>
    static async Task<Outcome<CountAnswer>> Parted(Act act, CountCommand command, CountBehind? behind, CountOutcome whole)
    {
        var answers = new List<CountAnswer>(whole.Parted.Count);
        foreach (var (vendor, quantity) in whole.Parted)
        {
            var part = command with { Count = CountRules.PartOf(command.Count, quantity), OnlyVendor = vendor };
            var counted = await Run(act, part, behind);
            if (counted.Refused(out var refusal))
                return refusal;
            answers.Add(counted.Value);
            await act.Db.SaveChangesAsync();
        }

        var vendors = string.Join(" and ", whole.Parted.Select(p => act.SetUp.Vendors[p.Vendor].Name));
        return Together(
            answers,
            $"{Quantities.Show(whole.Count.Quantity)} {whole.Count.Item.UnitWord}, parted between {vendors}. "
                + $"{string.Join(" ", answers.Select(a => a.Sentence))}"
        );
    }

    /// <summary>Does what was decided: batch, units, hold and inspection are found or made, the goods come in, and what follows is
    /// told.</summary>
    static async Task<Outcome<CountAnswer>> Take(
        Act act,
        CountCommand command,
        CountBehind? behind,
        Arrival arrival,
        List<ManifestLine> lines,
        CountOutcome decided,
        HoldConditions laid
    )
    {
        var count = decided.Count;
        var item = count.Item;
        var found = await SaidOfCount.Find(act, command, arrival, lines, decided, laid);
        if (found.Refused(out var notSo))
            return notSo;
        var said = found.Value;
        var (decision, place, batch) = (said.Decision, said.Place, said.Batch);
        var under = behind?.Unit is { } given ? given : await CountedUnits.Under(act, command, place, decision.Standing);
        if (under.Refused(out var noUnit))
            return noUnit;
        var made = under.Value is { } one ? (List<LogisticUnit>)[one] : await CountedUnits.New(act, count, command.Units);
        if (made.Refused(out var badUnits))
            return badUnits;
        var units = made.Value;
        if (act.DoorSettings.Stops == Stops.StraightIn && decision.Standing == Standing.Usable && units.Count <= 1 && under.Value is null)
            place = await StraightIn(act, item, batch, units.Count == 1, count, place);
        var waited = lines
            .Where(l => l.Part!.StillWaited > 0)
            .OrderBy(l => l.Part!.Due)
            .Select(l => (l.Part!.WaitingWords ?? "who waits", l.Part.StillWaited))
            .ToList();
        var perUnit = under.Value is null ? count.Pack.Content(1) : count.Quantity;
        var waits = await WaitedGoods.On(act, lines, decision.Choice.Shares, count.Aside is not null);
        var pieces = Pieces.AtWaited(
            Pieces.Cut(decision.Choice.Shares, units.Count, perUnit),
            waits.ToDictionary(w => w.Key, w => w.Value.Waited)
        );
        foreach (var (piece, isWaited) in pieces)
        {
            var reservation = isWaited ? waits[piece.PartId!.Value].Reservation : null;
            var line = piece.PartId is null ? null : lines.First(l => l.PartId == piece.PartId);
            if (line is not null)
            {
                line.Count(piece.Quantity);
                line.Part!.Receive(piece.Quantity);
                act.InHand.Change(line);
                act.InHand.Change(line.Part);
            }

            // A labelled unit may stand on the lines of two vendors: each of them gets a lot and a receipt for its own.
            var vendor = line?.Part!.VendorId ?? decided.Vendor;
            var saying = said.HoldsOn(line?.PartId);
            var lot = await Lots.ForCount(act, arrival.Id, vendor, item, batch?.Id, new SaidAtCount(saying, said.AtBench, reservation?.Id));
            var goods = new Goods(item.Id, batch?.Id, piece.Unit is { } index ? units[index].Id : null, count.Serial, lot);
            var over = piece.Over;
            foreach (var (from, quantity) in (line?.Arrive(piece.Quantity) ?? [(Account.Vendor, piece.Quantity)]).Reverse())
            {
                var movement = new Movement(goods, quantity, new Place(from), Place.In(place.Id, decision.Standing));
                var counted = new GoodsCounted(
                    arrival.Number,
                    Amount.Of(quantity, item),
                    batch?.Number,
                    line is null ? null : new LineNamed(line.Part!.Line!.Order!.Number, line.Part.Line.Number),
                    place.Address,
                    count.Aside is not null
                );
                var entry = act.Write(counted with { About = About(line, saying, reservation) }, movement);
                Append(piece, vendor, goods, quantity, Math.Min(over, quantity), entry);
                over -= Math.Min(over, quantity);
            }
        }

        List<Reference> About(ManifestLine? line, IEnumerable<Hold> saying, Reservation? reservation)
        {
            var about = new List<Reference>(3);
            if (line is not null)
                about.Add(Reference.Order(line.Part!.Line!.Order!.Number));
            about.AddRange(saying.Select(h => Reference.Hold(h.Number)));
            about.AddRange(said.Recalls.Select(r => Reference.Recall(r.Number)));
            about.AddRange(said.AtBench.Select(i => Reference.Inspection(i.Number)));
            if (reservation is not null)
                about.Add(new Reference(ReferenceKind.Demand, reservation.For));
            return about;
        }

        void Append(Piece piece, int vendor, Goods goods, decimal quantity, decimal over, LedgerEntry entry) =>
            act.Append(
                new TallyEntry
                {
                    ArrivalId = arrival.Id,
                    PartId = piece.PartId,
                    ItemId = item.Id,
                    VendorId = vendor,
                    BatchId = batch?.Id,
                    UnitId = goods.UnitId,
                    Serial = count.Serial,
                    LotId = goods.LotId,
                    Quantity = quantity,
                    PackName = count.Pack.Name,
                    Packs = Math.Round(quantity / count.Pack.Content(1), 6),
                    Standing = decision.Standing,
                    BinId = place.Id,
                    Aside = count.Aside,
                    Over = over,
                    AsideReason = count.Reason?.Name,
                    Weight = count.Weight is { } kilograms ? Math.Round(kilograms * quantity / count.Quantity, 3) : null,
                    FromPaper = command.FromPaper,
                    Note = count.Note,
                    Reason = decision.Choice.Reason,
                    PersonId = (behind?.By ?? act.Person).Id,
                    PersonName = (behind?.By ?? act.Person).Name,
                    Device = act.Doer.Device,
                    At = act.Now,
                    ActId = act.Doer.ActId,
                    LedgerSeq = entry.Seq,
                    HoldId = said.Own?.Id,
                }
            );

        var warning =
            said.Recalls.Count > 0
                ? $"Recalled by {string.Join(" and ", said.Recalls.Select(r => r.Number))}: keep them apart, they go to the cage."
                : await Warning(act, arrival, count, batch?.Id, behind);
        if (decided.Difference is { } difference)
            Note(act, arrival, item, difference);
        foreach (var picture in await PicturesOf(act, command))
            picture.ActId = act.Doer.ActId;
        PrintDesk.Queue(
            act,
            act.SetUp.Doors[arrival.DoorId!.Value],
            count,
            decision.Standing,
            batch,
            under.Value is null ? units : [],
            waited
        );
        act.Touch("arrival:" + arrival.Number, "door", "shelf", "house");
        if (said.Held.Count + said.Bound.Count > 0)
            act.Touch("cage");
        if (said.AtBench.Count + said.Bound.Count > 0)
            act.Touch("bench");
        return new CountAnswer(
            $"{Quantities.Counted(count.Packs, count.Pack.Name, count.Quantity, item.UnitWord)} of "
                + $"{item.Name}{(count.Weight is { } weighed ? $", weighed {Quantities.Show(weighed)} kg" : "")}, "
                + $"{act.Standings.Word(decision.Standing)}, in {place.Address}.",
            item.Name,
            count.Quantity,
            item.UnitWord,
            batch?.Number,
            act.Standings.Word(decision.Standing),
            place.Address,
            count.Blind ? "" : decision.Choice.Reason,
            [.. units.Select(u => u.Sscc)],
            warning
        );
    }

    static async Task<IReadOnlyList<Attachment>> PicturesOf(Act act, CountCommand command) =>
        command.Pictures.Count == 0 ? [] : await act.Db.Attachments.Where(a => command.Pictures.Contains(a.Id)).ToListAsync();

    static void Note(Act act, Arrival arrival, Item item, CountDifference difference) =>
        act.Db.Discrepancies.Add(
            new Discrepancy
            {
                ArrivalId = arrival.Id,
                ItemId = item.Id,
                PartId = difference.PartId,
                Kind = difference.Kind,
                Quantity = difference.Quantity,
                Sentence = difference.Sentence,
                At = act.Now,
                ActId = act.Doer.ActId,
            }
        );

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
            VendorId: line.Part.VendorId,
            IsShut: line.Part.ClosedShort || line.Part.Line.Order.State is OrderState.Cancelled or OrderState.ClosedShort
        );

    /// <summary>The refusal of a piece that cannot be here: it is on hand, or a vendor says that it is on its way on another
    /// arrival.</summary>
    public static async Task<Refusal?> SerialElsewhere(MudRoomDb db, int arrivalId, Item item, string serial) =>
        CountRules.SerialElsewhere(
            item,
            serial,
            await db.Balances.AnyAsync(b => b.ItemId == item.Id && b.Serial == serial),
            await AdvisedUnits.OnTheWay(db, item.Id, serial, arrivalId)
        );

    /// <summary>What should be looked at though the count was taken.</summary>
    static async Task<string?> Warning(Act act, Arrival arrival, Count count, int? batchId, CountBehind? behind)
    {
        if (count.Serial is { } serial)
            return
                await act
                    .History.About(new Reference(ReferenceKind.Serial, serial))
                    .Where(e => e.ItemId == count.Item.Id)
                    .OrderByDescending(e => e.Seq)
                    .FirstOrDefaultAsync()
                    is { } before
                ? $"Serial {serial} was here before: {before.Words(act.Site.Wording)} ({act.Site.LocalTime(before.At):yyyy-MM-dd})."
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
        var goods = new GoodsToPlace(
            item,
            batch?.Id,
            act.Standings[Standing.Usable],
            count.Quantity,
            count.Pack.Content(1),
            isUnit,
            place.X,
            place.Y
        );
        var proposal = PutAway.Propose(goods, await Store.For(act));
        return proposal.Shares is [{ } only] ? act.SetUp.Bins[only.BinId] : place;
    }
}
