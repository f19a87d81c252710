using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Out;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>What becomes of a short line.</summary>
public sealed record LineDecision(int ManifestLine, ShortDecision Decision);

/// <summary>The delivery note of one vendor aboard.</summary>
public sealed record NoteOfVendor(int VendorId, string DeliveryNote);

/// <summary>The number of a vendor's delivery note, scanned or typed while the tally goes on.</summary>
public sealed record DeliveryNoteRequest(string Arrival, int VendorId, string? Note);

/// <summary>Closes a tally.</summary>
/// <param name="Partly">True to post what is counted so far and count on.</param>
public sealed record CloseRequest(
    string Arrival,
    IReadOnlyList<LineDecision> Decisions,
    IReadOnlyList<NoteOfVendor> DeliveryNotes,
    bool Partly = false
);

/// <summary>A receipt that was posted.</summary>
public sealed record PostedReceipt(string Number, string Vendor, string DeliveryNote, int Counts);

/// <summary>An order after the closing.</summary>
public sealed record OrderAfter(string Number, OrderState State, IReadOnlyList<string> StillOpen);

/// <summary>What the closing did.</summary>
public sealed record CloseAnswer(IReadOnlyList<PostedReceipt> Receipts, IReadOnlyList<OrderAfter> Orders, string? Warning);

/// <summary>Closes a tally: each line is settled, a receipt is posted per vendor and delivery note, orders move on.</summary>
public static class CloseTally
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<CloseRequest, CloseAnswer>("/door/close", Right.CloseTally, Run);
        routes.Act<DeliveryNoteRequest, DoneAnswer>("/door/delivery-note", Right.Tally, KeepNote, blind: BlindView.Open);
    }

    /// <summary>Keeps a delivery note's number at any time before the receipt is posted; one that was posted before is warned of.</summary>
    public static async Task<Outcome<DoneAnswer>> KeepNote(Act act, DeliveryNoteRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.State == ArrivalState.CountedIn)
            return new Refusal(HouseRefusals.TallyClosed, $"{arrival.Number} is counted in.", "Its receipts are posted.");
        if (act.SetUp.Vendors.GetValueOrDefault(request.VendorId) is not { } vendor)
            return Problems.NotFound("vendor", request.VendorId.ToString());
        if (arrival.NoteDelivery(vendor.Id, request.Note) is { } refusal)
            return refusal;
        act.Touch("arrival:" + arrival.Number);
        if (request.Note.OrNull() is not { } note)
            return new DoneAnswer($"No delivery note of {vendor.Name}.");
        return new DoneAnswer(
            await DuplicateNote(act, arrival, new Dictionary<int, string> { [vendor.Id] = note })
                ?? $"Delivery note {note} of {vendor.Name}."
        );
    }

    public static async Task<Outcome<CloseAnswer>> Run(Act act, CloseRequest request)
    {
        var arrival = await act
            .Db.Arrivals.Include(a => a.Manifest)
                .ThenInclude(m => m.Part!)
                    .ThenInclude(p => p.Line!)
                        .ThenInclude(l => l.Order)
            .Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var entries = await act
            .Db.TallyEntries.Where(e => e.ArrivalId == arrival.Id && e.TakenBackAt == null && e.ReceiptId == null)
            .ToListAsync();
        var decisions = (request.Decisions ?? []).ToLookup(d => d.ManifestLine, d => d.Decision);
        var notes = arrival
            .DeliveryNotes.Select(n => new NoteOfVendor(n.VendorId, n.Number))
            .Concat(request.DeliveryNotes ?? [])
            .Where(n => n.DeliveryNote.OrNull() is not null)
            .GroupBy(n => n.VendorId)
            .ToDictionary(g => g.Key, g => g.Last().DeliveryNote.Trim());
        var lines = arrival
            .Manifest.Select(m => new ClosingLine(
                m.Id,
                m.Expected,
                m.Counted,
                m.Part!.Open,
                decisions.Contains(m.Id) ? decisions[m.Id].Last() : null
            ))
            .ToList();
        var vendors = entries.Select(e => e.VendorId).Distinct().Select(v => (v, act.SetUp.Vendors[v].Name)).ToList();
        if (request.Partly && entries.Count == 0)
            return new Refusal(
                DoorRefusals.NothingCounted,
                "Nothing was counted since the last receipt.",
                "Count first, or close the tally."
            );
        if (ClosingRules.Check(request.Partly ? [] : lines, vendors, notes) is { } refusal)
            return refusal;
        if (!request.Partly && await act.Db.TallyQuestions.CountAsync(q => q.ArrivalId == arrival.Id && q.IsOpen) is > 0 and var open)
            return new Refusal(
                DoorRefusals.QuestionsOpen,
                $"{open} {(open == 1 ? "question waits" : "questions wait")} for a supervisor.",
                "Have them answered first."
            );
        if (!request.Partly && await SecondCounts.Unsettled(act, arrival) is { Count: > 0 } differing)
            return new Refusal(
                DoorRefusals.SecondCountWanted,
                $"{string.Join(", ", differing.Select(i => act.SetUp.Catalogue[i].Name))} "
                    + $"{(differing.Count == 1 ? "differs" : "differ")} from the papers and "
                    + $"{(differing.Count == 1 ? "was" : "were")} not counted a second time.",
                "Ask for second counts; when both agree, or you let the first stand, close again."
            );
        if (act.DoorSettings.Inspection == InspectionTime.BeforeReceipt && await NotInspected(act, entries) is { Count: > 0 } waiting)
            return new Refusal(
                DoorRefusals.NotInspected,
                $"{string.Join(", ", waiting)} {(waiting.Count == 1 ? "waits" : "wait")} for a verdict; here receipts are posted "
                    + $"after the inspection.",
                "Have the verdicts signed in Bench first."
            );
        if (notes.Values.Any(n => n.Length > 40))
            return new Refusal(
                HouseRefusals.DeliveryNoteLong,
                "A delivery note number has more than 40 characters.",
                "Look at the paper again."
            );

        var warning = await DuplicateNote(act, arrival, notes);
        if (!request.Partly)
            SettleLines(act, arrival, lines);
        var receipts = await Post(act, arrival, entries, notes);
        foreach (var (vendor, note) in notes)
            if (arrival.NoteDelivery(vendor, note) is { } unkept)
                return unkept;
        if (!request.Partly)
            arrival.CountIn(act.Now);
        act.Write(
            new TallyClosed(arrival.Number, request.Partly, receipts.Count)
            {
                About = [.. receipts.Select(r => Reference.Receipt(r.Number))],
            }
        );
        var orders = await MoveOrdersOn(act, arrival);
        act.Touch("arrival:" + arrival.Number, "road", "door", "house");
        return new CloseAnswer(receipts, orders, warning);
    }

    /// <summary>Numbers of inspections without a verdict that goods of these counts wait for.</summary>
    static async Task<List<string>> NotInspected(Act act, List<TallyEntry> entries)
    {
        var lots = entries.Select(e => e.LotId).OfType<int>().Distinct().ToList();
        var waiting = act.Db.Statements.Where(s => lots.Contains(s.LotId) && s.InspectionId != null && s.SettledAt == null);
        return await act
            .Db.Inspections.Where(i => waiting.Any(s => s.InspectionId == i.Id) && i.Quantity > 0)
            .Select(i => i.Number)
            .ToListAsync();
    }

    static void SettleLines(Act act, Arrival arrival, List<ClosingLine> lines)
    {
        foreach (var line in lines.Where(l => l.Outcome is LineOutcome.Short or LineOutcome.Untouched))
        {
            var row = arrival.Manifest.First(m => m.Id == line.ManifestLineId);
            var part = row.Part!;
            var item = act.SetUp.Catalogue[part.ItemId];
            var missing = line.Expected - line.Counted;
            if (row.EndTransit() is > 0 and var lost)
                act.Write(
                    new NotAboard(arrival.Number, Amount.Of(lost, item)) { About = [Reference.Order(part.Line!.Order!.Number)] },
                    new Movement(new Goods(item.Id), lost, new Place(Account.Transit), new Place(Account.Vendor))
                );
            act.Db.Discrepancies.Add(
                new Discrepancy
                {
                    ArrivalId = arrival.Id,
                    ItemId = part.ItemId,
                    PartId = part.Id,
                    Kind = DiscrepancyKind.Short,
                    Quantity = missing,
                    At = act.Now,
                    Sentence = $"Short, {(line.Decision == ShortDecision.NeverComing ? "never coming" : "more to come")}.",
                }
            );
            if (line.Decision != ShortDecision.NeverComing)
                continue;
            part.CloseShort();
            act.Write(
                new LineClosedShort(new LineNamed(part.Line!.Order!.Number, part.Line.Number))
                {
                    About = [Reference.Arrival(arrival.Number), Reference.Item(part.ItemId)],
                }
            );
        }
    }

    static async Task<List<PostedReceipt>> Post(Act act, Arrival arrival, List<TallyEntry> entries, Dictionary<int, string> notes)
    {
        var posted = new List<PostedReceipt>();
        var receipts = new List<Receipt>();
        var lots = await act.Db.Lots.Where(l => l.ArrivalId == arrival.Id && l.ReceiptId == null).OrderBy(l => l.Id).ToListAsync();
        foreach (var group in entries.GroupBy(e => e.VendorId).OrderBy(g => act.SetUp.Vendors[g.Key].Name, StringComparer.Ordinal))
        {
            var receipt = new Receipt
            {
                Number = await act.Number("R"),
                SiteId = act.Site.Id,
                ArrivalId = arrival.Id,
                VendorId = group.Key,
                DeliveryNote = notes[group.Key],
                PostedAt = act.Now,
                PostedBy = act.Person.Name,
            };
            act.Db.Receipts.Add(receipt);
            await act.Db.SaveChangesAsync();
            foreach (var entry in group)
                entry.ReceiptId = receipt.Id;
            // What was split off came with the same note; a child is younger than its parent.
            var onNote = group.Select(e => e.LotId).OfType<int>().ToHashSet();
            foreach (var lot in lots.Where(l => onNote.Contains(l.Id) || l.ParentId is { } parent && onNote.Contains(parent)))
            {
                lot.ReceiptId = receipt.Id;
                onNote.Add(lot.Id);
            }

            var vendor = act.SetUp.Vendors[group.Key].Name;
            act.Write(
                new ReceiptPosted(receipt.Number, vendor, receipt.DeliveryNote, group.Count(), arrival.Number)
                {
                    About =
                    [
                        Reference.Arrival(arrival.Number),
                        new Reference(ReferenceKind.Vendor, group.Key),
                        .. lots.Where(l => l.VendorId == group.Key).Select(l => new Reference(ReferenceKind.Lot, l.Id)),
                    ],
                }
            );
            receipts.Add(receipt);
            posted.Add(new PostedReceipt(receipt.Number, vendor, receipt.DeliveryNote, group.Count()));
        }

        await Receipts.Posted(act, receipts);
        return posted;
    }

    /// <summary>The warning of a note that was posted with another arrival; the parts of one arrival may share theirs.</summary>
    static async Task<string?> DuplicateNote(Act act, Arrival arrival, Dictionary<int, string> notes)
    {
        var numbers = notes.Values.ToList();
        var same = await act
            .Db.Receipts.Where(r => r.SiteId == act.Site.Id && r.ArrivalId != arrival.Id && numbers.Contains(r.DeliveryNote))
            .ToListAsync();
        var twice = same.Find(r => notes.GetValueOrDefault(r.VendorId) == r.DeliveryNote);
        return twice is null
            ? null
            : $"Delivery note {twice.DeliveryNote} of {act.SetUp.Vendors[twice.VendorId].Name} was posted before, on receipt "
                + $"{twice.Number}.";
    }

    static async Task<List<OrderAfter>> MoveOrdersOn(Act act, Arrival arrival)
    {
        var ids = arrival.Manifest.Select(m => m.Part!.Line!.OrderId).Distinct().ToList();
        var orders = await act.Db.Orders.Include(o => o.Lines).ThenInclude(l => l.Parts).Where(o => ids.Contains(o.Id)).ToListAsync();
        foreach (var order in orders)
            order.Follow();
        return
        [
            .. orders
                .OrderBy(o => o.Number, StringComparer.Ordinal)
                .Select(o => new OrderAfter(
                    o.Number,
                    o.State,
                    [
                        .. o
                            .Lines.OrderBy(l => l.Number)
                            .SelectMany(l =>
                                l.Parts.Where(p => p.IsOpen)
                                    .Select(p =>
                                    {
                                        var item = act.SetUp.Catalogue[l.ItemId];
                                        return $"line {l.Number}, {Quantities.Show(p.Open)} {item.UnitWord} of {item.Name}, due "
                                            + $"{p.Due:yyyy-MM-dd}";
                                    })
                            ),
                    ]
                )),
        ];
    }
}
