using System.Globalization;
using System.Text;
using System.Text.Json;

namespace MudRoom.Core.Book;

/// <summary>What an entry of the ledger may be about. Stored.</summary>
public enum ReferenceKind
{
    Order = 1,
    Arrival = 2,
    Receipt = 3,
    Item = 4,
    Batch = 5,
    SourceBatch = 6,
    Lot = 7,
    Unit = 8,
    Serial = 9,
    Bin = 10,
    Hold = 11,
    Inspection = 12,
    Person = 13,
    Device = 14,
    Vendor = 15,

    /// <summary>A return to a vendor.</summary>
    VendorReturn = 16,
    OutworkNote = 17,

    /// <summary>The order of a customer or the job that goods were issued for.</summary>
    Demand = 18,

    /// <summary>A file that was brought in.</summary>
    File = 19,

    /// <summary>A plan of inspection, by its name.</summary>
    Plan = 20,

    /// <summary>A rule of holds, by its name.</summary>
    HoldRule = 21,

    /// <summary>A recall or a drill, by its number.</summary>
    Recall = 22,
}

/// <summary>One thing that an entry is about.</summary>
/// <param name="Kind">What kind of thing.</param>
/// <param name="Id">Papers by their number, a serial and a device by its text, everything else by its id.</param>
public readonly record struct Reference(ReferenceKind Kind, string Id)
{
    /// <summary>By its id.</summary>
    public Reference(ReferenceKind kind, int id)
        : this(kind, id.ToString(CultureInfo.InvariantCulture)) { }

    public static Reference Order(string number) => new(ReferenceKind.Order, number);

    public static Reference Arrival(string number) => new(ReferenceKind.Arrival, number);

    public static Reference Receipt(string number) => new(ReferenceKind.Receipt, number);

    public static Reference Hold(string number) => new(ReferenceKind.Hold, number);

    public static Reference Recall(string number) => new(ReferenceKind.Recall, number);

    public static Reference Inspection(string number) => new(ReferenceKind.Inspection, number);

    public static Reference Item(int id) => new(ReferenceKind.Item, id);

    public static Reference Batch(int id) => new(ReferenceKind.Batch, id);

    public static Reference Bin(int id) => new(ReferenceKind.Bin, id);
}

/// <summary>A reference of an entry as the book keeps it, so that it is found from the thing.</summary>
public sealed class EntryReference
{
    public required ReferenceKind Kind { get; init; }
    public required string Id { get; init; }
    public required long Seq { get; init; }

    /// <summary>True where it was worked out of an entry from before entries named what they are about.</summary>
    public required bool Derived { get; init; }
}

/// <summary>What an entry is about, as one text that is hashed, and read back.</summary>
public static class References
{
    /// <summary>The references as canonical JSON (RFC 8785: keys in order, no spaces): {"about":{"arrival":["A-2617"]}}. What is named twice
    /// stands there once.</summary>
    public static string Write(IReadOnlyList<Reference> about)
    {
        var text = new StringBuilder("{\"about\":", 32 + 24 * about.Count);
        Write(text, about);
        return text.Append('}').ToString();
    }

    internal static void Write(StringBuilder text, IReadOnlyList<Reference> about)
    {
        if (about.Count == 0)
        {
            text.Append("{}");
            return;
        }

        var sorted = about.ToArray();
        Array.Sort(sorted, (a, b) =>
            a.Kind == b.Kind ? string.CompareOrdinal(a.Id, b.Id) : string.CompareOrdinal(keys[(int)a.Kind], keys[(int)b.Kind])
        );
        text.Append('{');
        for (var i = 0; i < sorted.Length; i++)
        {
            if (i > 0 && sorted[i] == sorted[i - 1])
                continue;
            if (i > 0 && sorted[i].Kind == sorted[i - 1].Kind)
            {
                text.Append(',');
            }
            else
            {
                text.Append(i == 0 ? "" : "],");
                CanonicalJson.Quote(text, keys[(int)sorted[i].Kind]);
                text.Append(":[");
            }

            CanonicalJson.Quote(text, sorted[i].Id);
        }

        text.Append("]}");
    }

    /// <summary>What was written.</summary>
    public static IReadOnlyList<Reference> Read(string fact)
    {
        if (fact.Length == 0)
            return [];
        using var read = JsonDocument.Parse(fact);
        return
        [
            .. read
                .RootElement.GetProperty("about")
                .EnumerateObject()
                .SelectMany(kind => kind.Value.EnumerateArray().Select(id => new Reference(kinds[kind.Name], id.GetString()!))),
        ];
    }

    /// <summary>Everything that an entry is about: the goods and places of its movement, who did it on which device, and what it
    /// names.</summary>
    /// <param name="binOf">The bin at an address, for entries from before they named it; null where nothing is there any more.</param>
    public static IReadOnlyList<Reference> Of(LedgerEntry entry, Func<string, int?> binOf)
    {
        var all = new List<Reference>(12) { new(ReferenceKind.Person, entry.PersonId), new(ReferenceKind.Device, entry.Device) };
        void Add(Reference reference)
        {
            if (!all.Contains(reference))
                all.Add(reference);
        }
        void AddId(ReferenceKind kind, int? id)
        {
            if (id is { } there)
                Add(new Reference(kind, there));
        }

        AddId(ReferenceKind.Item, entry.ItemId);
        AddId(ReferenceKind.Batch, entry.BatchId);
        AddId(ReferenceKind.Unit, entry.UnitId);
        AddId(ReferenceKind.Lot, entry.LotId);
        AddId(ReferenceKind.Lot, entry.ToLotId);
        AddId(ReferenceKind.Bin, entry.FromBinId);
        AddId(ReferenceKind.Bin, entry.ToBinId);
        if (entry.Serial is { } serial)
            Add(new Reference(ReferenceKind.Serial, serial));
        if (entry.HashVersion >= 3)
            foreach (var named in entry.Named)
                Add(named);
        else if (OfSubject(entry.Kind, entry.Subject) is { } subject)
            Add(subject);
        else if (entry.Kind is EntryKind.TaskTaken or EntryKind.TaskGivenBack or EntryKind.BinRefused)
            AddId(ReferenceKind.Bin, binOf(entry.Subject));
        return all;
    }

    /// <summary>The thing that the subject of an entry is, by what happened; null where it is none that has a number.</summary>
    public static Reference? OfSubject(EntryKind kind, string subject) =>
        kind switch
        {
            EntryKind.ArrivalMade
            or EntryKind.AtGate
            or EntryKind.AtDoor
            or EntryKind.Counted
            or EntryKind.TakenBack
            or EntryKind.TallyClosed
            or EntryKind.Planned
            or EntryKind.EtaChanged
            or EntryKind.StepTakenBack
            or EntryKind.Attached
            or EntryKind.Advised
            or EntryKind.TakenOver
            or EntryKind.QuestionAsked
            or EntryKind.QuestionAnswered
            or EntryKind.RefusedAtDoor
            or EntryKind.SecondCountAsked
            or EntryKind.SecondCounted
            or EntryKind.ArrivalWithdrawn => Reference.Arrival(subject),
            EntryKind.ReceiptPosted or EntryKind.Invoiced => Reference.Receipt(subject),
            EntryKind.OrderChanged or EntryKind.OrderLineClosed or EntryKind.Promised => Reference.Order(subject),
            EntryKind.SampleDrawn or EntryKind.Found or EntryKind.VerdictSigned or EntryKind.InspectionAsked or EntryKind.BuyerTold =>
                Reference.Inspection(subject),
            EntryKind.HoldRuleChanged => new Reference(ReferenceKind.HoldRule, subject),
            EntryKind.Recalled => Reference.Recall(subject),
            EntryKind.PlanChanged => new Reference(ReferenceKind.Plan, subject),
            EntryKind.HoldLaid
            or EntryKind.HoldLifted
            or EntryKind.Decided
            or EntryKind.ConditionMet
            or EntryKind.HoldPaper
            or EntryKind.ReturnFound
            or EntryKind.DecisionMade => Reference.Hold(subject),
            EntryKind.ReturnedToVendor => new Reference(ReferenceKind.VendorReturn, subject),
            EntryKind.OutworkSent or EntryKind.OutworkBack => new Reference(ReferenceKind.OutworkNote, subject),
            EntryKind.Issued or EntryKind.KeepingEnded => new Reference(ReferenceKind.Demand, subject),
            EntryKind.OrdersImported => new Reference(ReferenceKind.File, subject),
            EntryKind.SourceBatchCorrected when subject.Split(' ') is [.., var id] => new Reference(ReferenceKind.SourceBatch, id),
            // By the letter of their numbers, where several kinds of papers may be the subject.
            EntryKind.LotSplit or EntryKind.LotJoined or EntryKind.ReceiptReversed => ByLetter(subject),
            EntryKind.NotCounted or EntryKind.Redirected or EntryKind.Mailed => ByLetter(subject),
            EntryKind.TaskTaken
            or EntryKind.Loaded
            or EntryKind.TaskGivenBack
            or EntryKind.PutAway
            or EntryKind.Moved
            or EntryKind.SetUpChanged
            or EntryKind.OpeningStock
            or EntryKind.CodeBound
            or EntryKind.LotNamed
            or EntryKind.BinRefused
            or EntryKind.SeveritySaid
            or EntryKind.Undone => null,
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };

    static Reference? ByLetter(string number) =>
        number.Split('-') is not [var letter, var digits] || !digits.All(char.IsAsciiDigit)
            ? null
            : letter switch
            {
                "A" => Reference.Arrival(number),
                "R" => Reference.Receipt(number),
                "H" => Reference.Hold(number),
                "I" => Reference.Inspection(number),
                "V" => new Reference(ReferenceKind.VendorReturn, number),
                "W" => new Reference(ReferenceKind.OutworkNote, number),
                _ => null,
            };

    /// <summary>The key of each kind, by its number.</summary>
    static readonly string[] keys = KeysByNumber();

    static readonly Dictionary<string, ReferenceKind> kinds = Enum.GetValues<ReferenceKind>().ToDictionary(k => keys[(int)k]);

    static string[] KeysByNumber()
    {
        var all = new string[(int)Enum.GetValues<ReferenceKind>().Max() + 1];
        foreach (var kind in Enum.GetValues<ReferenceKind>())
            all[(int)kind] = CanonicalJson.Key(kind.ToString());
        return all;
    }
}
