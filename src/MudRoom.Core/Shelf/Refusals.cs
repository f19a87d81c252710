namespace MudRoom.Core.Shelf;

/// <summary>What Shelf refuses.</summary>
public static class ShelfRefusals
{
    public static readonly RefusalKind BinRefused = new(
        "bin-refused",
        "The goods do not belong there: ….",
        "Take the proposed bin, or another one."
    );

    public static readonly RefusalKind BinUnknown = new("bin-unknown", "… is no bin of this site.", "Scan the bin's label.");

    public static readonly RefusalKind GoodsHeld = new("goods-held", "That is …, in …. It may not go to ….", "Take the usable … from ….");

    public static readonly RefusalKind GoodsNotScanned = new(
        "goods-not-scanned",
        "The goods of this task were not scanned yet.",
        "Scan their label first, then the bin."
    );

    public static readonly RefusalKind TaskDone = new("task-done", "The task was done by … at ….", "Take the next one.");

    public static readonly RefusalKind TaskGivenBack = new("task-given-back", "… gave the task back.", "Take it anew from the queue.");

    public static readonly RefusalKind TaskNotTaken = new("task-not-taken", "Nobody has taken this task.", "Take it first.");

    public static readonly RefusalKind TaskStopped = new(
        "task-stopped",
        "Stop: since … these goods may be used for something else, and the task is over.",
        "Scan the goods: they have another place to go to."
    );

    public static readonly RefusalKind TaskTaken = new("task-taken", "… has taken this task.", "Take another one.", 409);

    public static readonly RefusalKind NoBin = new("no-bin", "No bin takes them: ….", "Free a bin, or ask a supervisor.");

    public static readonly RefusalKind NothingThere = new(
        "nothing-there",
        "Nothing with … stands on this site.",
        "Scan the label of the goods."
    );

    public static readonly RefusalKind OtherTask = new(
        "other-task",
        "… is where your … goes; in hand is ….",
        "Scan the goods you put down once more, then the bin."
    );

    public static readonly RefusalKind PutAwayAlready = new("put-away-already", "It stands in … already.", "There is nothing to do.");

    public static readonly RefusalKind UnitLabel = new(
        "unit-label",
        "This task is for one labelled unit of …: only its own label tells it from the others.",
        "Scan its SSCC, the number of 18 digits."
    );

    public static readonly RefusalKind WrongGoods = new(
        "wrong-goods",
        "That is not what this task is for: … of … from ….",
        "Scan the goods of the task, or give it back."
    );
}
