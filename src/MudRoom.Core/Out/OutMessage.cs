namespace MudRoom.Core.Out;

/// <summary>What a message tells.</summary>
public enum OutKind
{
    /// <summary>A receipt was posted.</summary>
    ReceiptPosted = 0,

    /// <summary>The last of a receipt's goods is in its place.</summary>
    ReceiptSettled = 1,

    /// <summary>A receipt that went out counts no longer.</summary>
    ReceiptReversed = 2,

    /// <summary>The buyer is told what is seen coming at the bench.</summary>
    QualityNotice = 3,

    /// <summary>Lines of a receipt that went out must be accepted before they are paid, or need not any more.</summary>
    ReceiptAcceptance = 4,

    /// <summary>Accounts are told what was found of goods that a customer sent back, or that a finding was taken back.</summary>
    ReturnFinding = 5,

    /// <summary>Accounts are told what was done with nonconforming goods.</summary>
    GoodsDecided = 6,

    /// <summary>A mail that a person wrote; its body is the letter as RFC 5322 has it.</summary>
    Mail = 7,
}

/// <summary>How far a message is.</summary>
public enum OutState
{
    /// <summary>It is tried, again and again.</summary>
    Waiting = 0,

    /// <summary>It was handed over; nobody has said yet that they have it.</summary>
    Sent = 1,

    /// <summary>Who it is for has it.</summary>
    Acknowledged = 2,

    /// <summary>It was tried often enough: a person looks.</summary>
    Failed = 3,
}

/// <summary>
/// Something that others are told, written in the transaction of the act that it tells of. It is delivered at least once and always under
/// the same id, so that who gets it twice counts it once.
/// </summary>
public sealed class OutMessage
{
    /// <summary>Tries before a person looks; the pauses between them come to some hours.</summary>
    public const int MostTries = 12;

    public required Guid Id { get; init; }
    public required int SiteId { get; init; }
    public required OutKind Kind { get; init; }

    /// <summary>The number of what it tells of.</summary>
    public required string Subject { get; init; }

    /// <summary>What is told: a letter, else JSON, as docs/formats/receipt-json.md, quality-notice-json.md, return-finding-json.md and
    /// goods-decided-json.md say.</summary>
    public required string Body { get; init; }
    public required DateTimeOffset At { get; init; }
    public OutState State { get; private set; }
    public int Tries { get; private set; }

    /// <summary>Not tried again before this.</summary>
    public DateTimeOffset NextTry { get; private set; }

    /// <summary>Why the last try failed; empty when none did.</summary>
    public string Said { get; private set; } = "";

    /// <summary>The pause after so many failed tries: five seconds, twice as long each time, at most an hour.</summary>
    public static TimeSpan Pause(int tries) => TimeSpan.FromSeconds(Math.Min(3600, 5 * Math.Pow(2, Math.Clamp(tries, 1, 20) - 1)));

    /// <summary>The name of its file. What it tells of is typed by people and may hold anything: all but letters, digits and dashes become
    /// an underscore, so that no file lies elsewhere than in its folder.</summary>
    public static string FileName(OutKind kind, string subject, Guid id) =>
        string.Concat(subject.Select(c => char.IsAsciiLetterOrDigit(c) || c == '-' ? c : '_'))
        + $"-{id:N}.{(kind == OutKind.Mail ? "eml" : "json")}";

    /// <summary>It was handed over.</summary>
    public void HandOver()
    {
        if (State is OutState.Acknowledged)
            return;
        Tries++;
        (State, Said) = (OutState.Sent, "");
    }

    /// <summary>Who it is for has it.</summary>
    public void Acknowledge() => State = OutState.Acknowledged;

    /// <summary>A try failed: it waits longer each time, and in the end for a person.</summary>
    public void Fail(DateTimeOffset now, string why)
    {
        Tries++;
        Said = why;
        if (Tries >= MostTries)
            State = OutState.Failed;
        else
            NextTry = now + Pause(Tries);
    }

    /// <summary>A person wants it tried from the beginning.</summary>
    public Refusal? TryAgain()
    {
        if (State is OutState.Acknowledged)
            return new Refusal(OutRefusals.MessageArrived, $"The message of {Subject} has arrived.", "There is nothing to do.");
        (State, Tries, NextTry) = (OutState.Waiting, 0, default);
        return null;
    }
}
