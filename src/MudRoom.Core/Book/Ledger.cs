using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace MudRoom.Core.Book;

/// <summary>What an entry of the ledger records.</summary>
public enum EntryKind
{
    OrdersImported,
    ArrivalMade,
    AtGate,
    AtDoor,
    Counted,
    TakenBack,
    TallyClosed,
    ReceiptPosted,
    OrderLineClosed,
    SampleDrawn,
    Found,
    VerdictSigned,
    HoldLaid,
    HoldLifted,
    Decided,
    JobTaken,
    JobGivenBack,
    PutAway,
    Moved,
    Issued,
    SetUpChanged,
    OpeningStock,
    Planned,
    EtaChanged,
    OrderChanged,
    Promised,
    StepTakenBack,
    Attached,
    Advised,
    TakenOver,
    Redirected,
    ReceiptReversed,
    QuestionAsked,
    QuestionAnswered,
    CodeBound,
    RefusedAtDoor,
    SourceBatchCorrected,
    SecondCountAsked,
    SecondCounted,
    Invoiced,
    ReturnedToVendor,
    OutworkSent,
    OutworkBack,
    NotCounted,
    ArrivalWithdrawn,
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
    public LedgerEntry(
        ChainHead previous,
        int siteId,
        EntryKind kind,
        Doer doer,
        string subject,
        string sentence,
        Movement? movement,
        long? undoes
    )
    {
        Seq = previous.Seq + 1;
        PreviousHash = previous.Hash;
        SiteId = siteId;
        Kind = kind;
        At = doer.At;
        PersonId = doer.PersonId;
        PersonName = doer.PersonName;
        Device = doer.Device;
        ActId = doer.ActId;
        Subject = subject;
        Sentence = sentence;
        Undoes = undoes;
        if (movement is not null)
        {
            ItemId = movement.Goods.ItemId;
            BatchId = movement.Goods.BatchId;
            UnitId = movement.Goods.UnitId;
            Serial = movement.Goods.Serial;
            Quantity = movement.Quantity;
            FromAccount = movement.From.Account;
            FromBinId = movement.From.BinId;
            FromStanding = movement.From.Standing;
            ToAccount = movement.To.Account;
            ToBinId = movement.To.BinId;
            ToStanding = movement.To.Standing;
        }

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

    /// <summary>What happened, in words.</summary>
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
    public string PreviousHash { get; private set; } = "";
    public string Hash { get; private set; } = "";

    /// <summary>The movement, when the entry has one.</summary>
    public Movement? Movement =>
        ItemId is null
            ? null
            : new Movement(
                new Goods(ItemId.Value, BatchId, UnitId, Serial),
                Quantity!.Value,
                new Place(FromAccount!.Value, FromBinId, FromStanding),
                new Place(ToAccount!.Value, ToBinId, ToStanding)
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
        Append(Quantity?.ToString("0.######", CultureInfo.InvariantCulture));
        Append((int?)FromAccount);
        Append(FromBinId);
        Append((int?)FromStanding);
        Append((int?)ToAccount);
        Append(ToBinId);
        Append((int?)ToStanding);
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
