namespace MudRoom.Core.Door;

/// <summary>What a receiver cannot settle and asks while counting on.</summary>
public enum QuestionKind
{
    /// <summary>A barcode that nobody has bound to an item yet.</summary>
    UnknownCode,

    /// <summary>More than was ordered, beyond the tolerance; or of an order that is cancelled or closed.</summary>
    Over,

    /// <summary>Goods that nobody can name.</summary>
    UnknownItem,
}

/// <summary>Something put aside for a supervisor, who answers from another screen; the count then completes itself.</summary>
public sealed class TallyQuestion
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int ArrivalId { get; init; }
    public required QuestionKind Kind { get; init; }

    /// <summary>The code as it was scanned, for an unknown one.</summary>
    public string? Code { get; init; }

    /// <summary>The question in words.</summary>
    public required string Sentence { get; init; }

    /// <summary>The count that waits, as the device sent it; null where the item is not known yet.</summary>
    public string? Count { get; init; }

    /// <summary>How many of what was scanned stand there, as typed.</summary>
    public required string Packs { get; init; }
    public required int PersonId { get; init; }
    public required string AskedBy { get; init; }
    public required DateTimeOffset AskedAt { get; init; }

    /// <summary>The act by which it was asked: pictures and the discrepancy of goods without a name belong to it.</summary>
    public Guid ActId { get; init; }
    public string? Answer { get; private set; }
    public string? AnsweredBy { get; private set; }
    public DateTimeOffset? AnsweredAt { get; private set; }

    /// <summary>Kept with the row so that what waits is found by an index.</summary>
    public bool IsOpen { get; private set; } = true;

    /// <summary>
    /// True when the count of an answered question still wants something that only who stands at the goods can give: what the item asks
    /// for, that early
    /// goods are taken, one serial for each piece. The answer stands, and the count is made at the door.
    /// </summary>
    public static bool LeavesCountToReceiver(Refusal refusal) =>
        new[] { DoorRefusals.Wanted, DoorRefusals.Early, DoorRefusals.Over, DoorRefusals.OrderShut, DoorRefusals.SerialOne }.Contains(
            refusal.Kind
        );

    /// <summary>Answers it; once.</summary>
    public Refusal? Settle(string answer, string by, DateTimeOffset at)
    {
        if (!IsOpen)
            return new Refusal(HouseRefusals.Decided, $"{AnsweredBy} has answered already: {Answer}", "There is nothing to do.");
        (Answer, AnsweredBy, AnsweredAt, IsOpen) = (answer, by, at, false);
        return null;
    }
}
