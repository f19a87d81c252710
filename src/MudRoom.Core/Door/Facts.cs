using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>Goods were counted in.</summary>
/// <param name="Line">The order's line they count on; null for none.</param>
/// <param name="Aside">True where they were set aside.</param>
public sealed record GoodsCounted(string Arrival, Amount Goods, string? Batch, LineNamed? Line, string Bin, bool Aside)
    : Fact(EntryKind.Counted, Arrival)
{
    public override string Words(Wording wording) =>
        $"{Quantities.Show(Goods.Quantity)} {Goods.Unit} {Goods.Item}{Behind(", batch ", Batch)} on {Line?.Words ?? "no order"}, "
        + $"{Bin}{(Aside ? ", aside" : "")}";
}

public sealed record CountTakenBack(string Arrival, Amount Goods, string? Reason) : Fact(EntryKind.TakenBack, Arrival)
{
    public override string Words(Wording wording) =>
        $"{Quantities.Show(Goods.Quantity)} {Goods.Unit} {Goods.Item} taken back{Behind(": ", Reason)}";
}

/// <summary>What a device has kept is not counted.</summary>
/// <param name="Of">The arrival; the site's code where it is of none.</param>
/// <param name="Scanned">The scan as it came.</param>
public sealed record LeftUncounted(string Of, string What, string? Scanned, string Reason) : Fact(EntryKind.NotCounted, Of)
{
    // The separator of element strings has a sign of its own where people read it.
    public override string Words(Wording wording) =>
        $"Left uncounted: {What}{Behind(", scanned as ", Scanned?.Replace('\u001d', '␝'))}. {Reason}";
}

public sealed record ToCountAfterAll(string Of, string What) : Fact(EntryKind.NotCounted, Of)
{
    public override string Words(Wording wording) => $"To count after all: {What}.";
}

/// <param name="Partly">True where receipts were posted and the count goes on.</param>
public sealed record TallyClosed(string Arrival, bool Partly, int Receipts) : Fact(EntryKind.TallyClosed, Arrival)
{
    public override string Words(Wording wording) =>
        $"Tally of {Arrival} {(Partly ? "posted in part" : "closed")}, {Quantities.Many(Receipts, "receipt")} posted.";
}

/// <summary>Goods that were ours on the way did not come.</summary>
public sealed record NotAboard(string Arrival, Amount Goods) : Fact(EntryKind.TakenOver, Arrival)
{
    public override string Words(Wording wording) =>
        $"{Goods.Words} were ours on the way and are not aboard: back to the vendor's account.";
}

public sealed record LineClosedShort(LineNamed Line) : Fact(EntryKind.OrderLineClosed, Line.Order)
{
    public override string Words(Wording wording) => $"{Line.Words}: the rest never comes.";
}

public sealed record ReceiptPosted(string Receipt, string Vendor, string DeliveryNote, int Counts, string Arrival)
    : Fact(EntryKind.ReceiptPosted, Receipt)
{
    public override string Words(Wording wording) =>
        $"{Receipt} posted for {Vendor}, delivery note {DeliveryNote}, {Quantities.Many(Counts, "count")} of {Arrival}.";
}

public sealed record ReceiptReversed(string Receipt, string Reason) : Fact(EntryKind.ReceiptReversed, Receipt)
{
    public override string Words(Wording wording) => $"{Receipt} reversed: {Reason}";
}

public sealed record TallyOpenedAgain(string Arrival, string Reason) : Fact(EntryKind.ReceiptReversed, Arrival)
{
    public override string Words(Wording wording) => $"Tally of {Arrival} opened again: {Reason}";
}

public sealed record SecondCountAsked(string Arrival, IReadOnlyList<string> Items) : Fact(EntryKind.SecondCountAsked, Arrival)
{
    public override string Words(Wording wording) => $"A second count is asked for: {string.Join(", ", Items)}.";
}

public sealed record CountedAgain(string Arrival, Amount Second, decimal First) : Fact(EntryKind.SecondCounted, Arrival)
{
    public override string Words(Wording wording) =>
        $"{Second.Item} counted a second time: {Quantities.Show(Second.Quantity)} {Second.Unit}, "
        + $"{(Second.Quantity == First ? "as the first time" : $"the first time {Quantities.Show(First)}")}.";
}

public sealed record FirstCountStands(string Arrival, Amount First, decimal Second) : Fact(EntryKind.SecondCounted, Arrival)
{
    public override string Words(Wording wording) =>
        $"Of {First.Item} the first count stands: {Quantities.Show(First.Quantity)} {First.Unit}, not {Quantities.Show(Second)}.";
}

/// <param name="Question">In words, as the tally shows it.</param>
public sealed record QuestionAsked(string Arrival, string Question) : Fact(EntryKind.QuestionAsked, Arrival)
{
    public override string Words(Wording wording) => Question;
}

/// <param name="Answer">What was done, in words, as the tally shows it.</param>
public sealed record QuestionAnswered(string Arrival, string Question, string Answer) : Fact(EntryKind.QuestionAnswered, Arrival)
{
    public override string Words(Wording wording) => $"{Question} {Answer}";
}

/// <param name="Item">Its name; null where nobody said what it is.</param>
public sealed record RefusedAtDoor(string Arrival, decimal Packs, string? Item, string Reason) : Fact(EntryKind.RefusedAtDoor, Arrival)
{
    public override string Words(Wording wording) => $"{Quantities.Show(Packs)} {Item ?? "of something"} refused at the door: {Reason}";
}

/// <summary>A code means a pack of an item from now on.</summary>
public sealed record CodeBound(string Item, string Name, string Pack, string Code) : Fact(EntryKind.CodeBound, Item)
{
    public override string Words(Wording wording) => $"{Code} means {Name}, {Pack}.";
}

public sealed record Invoiced(string Receipt) : Fact(EntryKind.Invoiced, Receipt)
{
    public override string Words(Wording wording) => $"{Receipt} is invoiced.";
}

public sealed record ReturnedToVendor(string Return, Amount Goods, string Vendor, string Bin, string Receipt, string Reason)
    : Fact(EntryKind.ReturnedToVendor, Return)
{
    public override string Words(Wording wording) => $"{Goods.Words} back to {Vendor} out of {Bin}, from {Receipt}: {Reason}";
}

public sealed record OutworkSent(string Note, Amount Goods, string Bin, string Vendor, string Treatment, string Order)
    : Fact(EntryKind.OutworkSent, Note)
{
    public override string Words(Wording wording) => $"{Note}: {Goods.Words} out of {Bin} to {Vendor}, {Treatment}, order {Order}.";
}

/// <param name="Lost">What never comes back, in base units; 0 for nothing.</param>
public sealed record OutworkBack(string Note, Amount Goods, string Vendor, string Bin, decimal Lost) : Fact(EntryKind.OutworkBack, Note)
{
    public override string Words(Wording wording) =>
        $"{Goods.Words} back from {Vendor} on {Note}, in {Bin}{(Lost > 0 ? $", {Quantities.Show(Lost)} lost" : "")}.";
}

/// <param name="Lost">What never comes back, in base units; 0 for nothing.</param>
public sealed record OutworkEnded(string Note, decimal Lost) : Fact(EntryKind.OutworkBack, Note)
{
    public override string Words(Wording wording) =>
        $"Nothing more comes back on {Note}{(Lost > 0 ? $", {Quantities.Show(Lost)} lost" : "")}.";
}

/// <summary>How a site counts goods in.</summary>
public sealed record CountingChanged(
    string Site,
    string Name,
    int Version,
    QuantityEntry Quantity,
    bool Blind,
    bool SecondCount,
    bool ScanForced,
    int Reasons,
    int Printers,
    int Prints
) : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording)
    {
        string[] words =
        [
            Quantity switch
            {
                QuantityEntry.Proposed => "what is open is proposed",
                QuantityEntry.Typed => "quantities are typed",
                QuantityEntry.Scanned => "one for each scan",
                _ => throw new ArgumentOutOfRangeException(nameof(wording), Quantity, null),
            },
            Blind ? "blind" : "",
            SecondCount ? "counted twice where it differs" : "",
            ScanForced ? "by scan only" : "",
            $"{Reasons} reasons",
            $"{Printers} printers",
            $"{Prints} print rules",
        ];
        return $"How {Name} counts goods in was changed, version {Version}: {string.Join(", ", words.Where(w => w.Length > 0))}.";
    }
}
