namespace MudRoom.Core.Out;

/// <summary>Why a message is not sent as somebody wants it.</summary>
public static class OutRefusals
{
    public static readonly RefusalKind MessageArrived = new(
        "message-arrived",
        "The message of … has arrived.",
        "There is nothing to do.",
        409
    );
}
