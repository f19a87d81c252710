namespace MudRoom.Core.Out;

/// <summary>When others are told of a receipt.</summary>
public enum ReceiptOut
{
    /// <summary>Nobody is told.</summary>
    Never = 0,

    /// <summary>When it is posted.</summary>
    WhenPosted = 1,

    /// <summary>When the last of its goods is in its place, with the places really used.</summary>
    WhenSettled = 2,
}

/// <summary>What others are told.</summary>
public sealed record OutSettings
{
    public ReceiptOut Receipts { get; init; }
}
