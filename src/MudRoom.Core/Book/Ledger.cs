using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using MudRoom.Core.Site;

namespace MudRoom.Core.Book;

/// <summary>What an entry of the ledger records.</summary>
public enum EntryKind
{
    OrdersImported = 0,
    ArrivalMade = 1,
    AtGate = 2,
    AtDoor = 3,
    Counted = 4,
    TakenBack = 5,
    TallyClosed = 6,
    ReceiptPosted = 7,
    OrderLineClosed = 8,
    SampleDrawn = 9,
    Found = 10,
    VerdictSigned = 11,
    HoldLaid = 12,
    HoldLifted = 13,
    Decided = 14,
    TaskTaken = 15,
    TaskGivenBack = 16,
    PutAway = 17,
    Moved = 18,
    Issued = 19,
    SetUpChanged = 20,
    OpeningStock = 21,
    Planned = 22,
    EtaChanged = 23,
    OrderChanged = 24,
    Promised = 25,
    StepTakenBack = 26,
    Attached = 27,
    Advised = 28,
    TakenOver = 29,
    Redirected = 30,
    ReceiptReversed = 31,
    QuestionAsked = 32,
    QuestionAnswered = 33,
    CodeBound = 34,
    RefusedAtDoor = 35,
    SourceBatchCorrected = 36,
    SecondCountAsked = 37,
    SecondCounted = 38,
    Invoiced = 39,
    ReturnedToVendor = 40,
    OutworkSent = 41,
    OutworkBack = 42,
    NotCounted = 43,
    ArrivalWithdrawn = 44,
    LotSplit = 45,
    LotNamed = 46,
    BinRefused = 47,
    LotJoined = 48,
    Undone = 49,

    /// <summary>Goods of a task were scanned and are on a truck.</summary>
    Loaded = 50,

    /// <summary>A plan of inspection was drafted, signed in force, or its draft dropped.</summary>
    PlanChanged = 51,

    /// <summary>Somebody's word on how sharply a vendor's lots are looked at.</summary>
    SeveritySaid = 52,

    /// <summary>An inspection was asked for, taken in hand or laid down, or a signed one superseded.</summary>
    InspectionAsked = 53,

    /// <summary>The buyer was told what is seen coming at the bench.</summary>
    BuyerTold = 54,

    /// <summary>A rule of holds was signed in force, or ended.</summary>
    HoldRuleChanged = 55,

    /// <summary>A condition of a hold was met, or what met it taken back.</summary>
    ConditionMet = 56,

    /// <summary>A paper or picture was attached to a hold.</summary>
    HoldPaper = 57,

    /// <summary>It was decided what is to become of held goods, or that was taken back.</summary>
    DecisionMade = 58,

    /// <summary>A recall was begun, laid at a site, looked for, told of, or ended.</summary>
    Recalled = 59,

    /// <summary>It was found what goods are that a customer sent back, or that was taken back.</summary>
    ReturnFound = 60,

    /// <summary>Somebody mailed somebody outside.</summary>
    Mailed = 61,

    /// <summary>Goods are not kept any more for who waited for them.</summary>
    KeepingEnded = 62,
}

/// <summary>Who did something, when and on which device.</summary>
/// <param name="At">The instant.</param>
/// <param name="PersonId">The person.</param>
/// <param name="PersonName">Their name as it was then.</param>
/// <param name="Device">The device's own name.</param>
/// <param name="ActId">The id the device gave the act.</param>
public sealed record Doer(DateTimeOffset At, int PersonId, string PersonName, string Device, Guid ActId);

/// <summary>
/// One row of the book: a movement, a decision, or both. Never changed and never erased; undo is a counter-entry.
/// Each row carries the hash of the one before.
/// </summary>
public sealed class LedgerEntry
{
    LedgerEntry() { }

    /// <summary>Writes the next row after <paramref name="previous"/>.</summary>
    public LedgerEntry(ChainHead previous, int siteId, Doer doer, Fact fact, Movement? movement = null, long? undoes = null)
    {
        Seq = previous.Seq + 1;
        PreviousHash = previous.Hash;
        SiteId = siteId;
        Kind = fact.Kind;
        At = doer.At;
        PersonId = doer.PersonId;
        PersonName = doer.PersonName;
        Device = doer.Device;
        ActId = doer.ActId;
        Subject = fact.Subject;
        Undoes = undoes;
        if (movement is not null)
        {
            ItemId = movement.Goods.ItemId;
            BatchId = movement.Goods.BatchId;
            UnitId = movement.Goods.UnitId;
            Serial = movement.Goods.Serial;
            LotId = movement.Goods.LotId;
            ToLotId = movement.Becomes;
            Quantity = movement.Quantity;
            FromAccount = movement.From.Account;
            FromBinId = movement.From.BinId;
            FromStanding = movement.From.Standing;
            ToAccount = movement.To.Account;
            ToBinId = movement.To.BinId;
            ToStanding = movement.To.Standing;
        }

        what = fact;
        Fact = FactText.Write(fact);
        Hash = ComputeHash();
    }

    /// <summary>1, 2, 3 … without a gap.</summary>
    public long Seq { get; private set; }
    public int SiteId { get; private set; }
    public EntryKind Kind { get; private set; }
    public DateTimeOffset At { get; private set; }
    public int PersonId { get; private set; }
    public string PersonName { get; private set; } = "";
    public string Device { get; private set; } = "";
    public Guid ActId { get; private set; }

    /// <summary>What it is about: the number of an arrival, order, receipt, inspection, hold or bin.</summary>
    public string Subject { get; private set; } = "";

    /// <summary>What happened in words, in entries from before there were values; empty since.</summary>
    public string Sentence { get; private set; } = "";

    /// <summary>The entry this one undoes.</summary>
    public long? Undoes { get; private set; }
    public int? ItemId { get; private set; }
    public int? BatchId { get; private set; }
    public int? UnitId { get; private set; }
    public string? Serial { get; private set; }
    public decimal? Quantity { get; private set; }
    public Account? FromAccount { get; private set; }
    public int? FromBinId { get; private set; }
    public Standing? FromStanding { get; private set; }
    public Account? ToAccount { get; private set; }
    public int? ToBinId { get; private set; }
    public Standing? ToStanding { get; private set; }

    /// <summary>The lot of the goods; null in entries from before there were lots, and for goods on the way.</summary>
    public int? LotId { get; private set; }

    /// <summary>The lot they are of afterwards, where that is another.</summary>
    public int? ToLotId { get; private set; }

    /// <summary>What happened as values, and what it names besides the goods, places, person and device above, as canonical JSON
    /// (RFC 8785); see <see cref="FactText"/>. Empty in the oldest entries; without values in those that have a sentence.</summary>
    public string Fact { get; private set; } = "";

    Fact? what;

    /// <summary>What happened, as values; null in entries from before there were any.</summary>
    public Fact? What => what ??= FactText.Read(Fact);

    /// <summary>What it names besides; read from its text where it was stored.</summary>
    public IReadOnlyList<Reference> Named => what?.References() ?? References.Read(Fact);

    /// <summary>What happened, in words.</summary>
    public string Words(Wording wording) =>
        What?.Words(wording) ?? (Sentence.Length > 0 ? Sentence : "Written by a newer Mud Room, which can say what it was.");

    /// <summary>How its hash is made; what a version covers never changes. 1 is without lots, 2 without what it names.</summary>
    public int HashVersion { get; private set; } = CurrentHash;

    /// <summary>How hashes are made of what is written now.</summary>
    public const int CurrentHash = 3;

    /// <summary>How a quantity is written where it is hashed: no zeros at its end.</summary>
    public const string QuantityForm = "0.######";
    public string PreviousHash { get; private set; } = "";
    public string Hash { get; private set; } = "";

    /// <summary>The movement, when the entry has one.</summary>
    public Movement? Movement =>
        ItemId is null
            ? null
            : new Movement(
                new Goods(ItemId.Value, BatchId, UnitId, Serial, LotId),
                Quantity!.Value,
                new Place(FromAccount!.Value, FromBinId, FromStanding),
                new Place(ToAccount!.Value, ToBinId, ToStanding),
                ToLotId
            );

    /// <summary>The chain's head once this entry is written.</summary>
    public ChainHead Head => new(Seq, Hash);

    /// <summary>SHA-256 over the hash before and every field, each with its length, so that no two entries read alike.</summary>
    public string ComputeHash()
    {
        var text = new StringBuilder(512);
        Append(PreviousHash);
        Append(Seq);
        Append(SiteId);
        Append((int)Kind);
        Append(At.UtcTicks);
        Append(PersonId);
        Append(PersonName);
        Append(Device);
        Append(ActId.ToString("N"));
        Append(Subject);
        Append(Sentence);
        Append(Undoes);
        Append(ItemId);
        Append(BatchId);
        Append(UnitId);
        Append(Serial);
        Append(Quantity?.ToString(QuantityForm, CultureInfo.InvariantCulture));
        Append((int?)FromAccount);
        Append(FromBinId);
        Append(FromStanding?.Id);
        Append((int?)ToAccount);
        Append(ToBinId);
        Append(ToStanding?.Id);
        if (HashVersion >= 2)
        {
            Append(HashVersion);
            Append(LotId);
            Append(ToLotId);
        }

        if (HashVersion >= 3)
            Append(Fact);

        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())));

        void Append(object? field)
        {
            var value = field is null ? "" : Convert.ToString(field, CultureInfo.InvariantCulture)!;
            text.Append(field is null ? -1 : value.Length).Append(':').Append(value).Append('\n');
        }
    }
}

/// <summary>The last entry of the chain: its number and hash. Exported daily, it shows a chain that was rewritten whole.</summary>
public sealed record ChainHead(long Seq, string Hash)
{
    /// <summary>Before the first entry.</summary>
    public static ChainHead Start { get; } = new(0, new string('0', 64));
}

/// <summary>Verifies a chain entry by entry.</summary>
public static class Chain
{
    /// <summary>What is wrong between <paramref name="previous"/> and <paramref name="entry"/>, or null.</summary>
    public static string? Fault(ChainHead previous, LedgerEntry entry)
    {
        if (entry.Seq != previous.Seq + 1)
            return $"Entry {previous.Seq + 1} is missing: after {previous.Seq} comes {entry.Seq}.";
        if (entry.PreviousHash != previous.Hash)
            return $"Entry {entry.Seq} does not follow from entry {previous.Seq}: the hash before it differs.";
        if (entry.Hash != entry.ComputeHash())
            return $"Entry {entry.Seq} was changed after it was written: its hash does not fit its content.";
        return null;
    }
}
